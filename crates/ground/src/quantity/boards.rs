//! Boards are called by what they were before they were planed: what is left of them.

/// Softwood, dry, thickness and width alike.
const BOARD_SOURCE: &str =
    "American Softwood Lumber Standard (PS 20), minimum dressed sizes, dry (from memory)";
/// Hardwood by the quarter inch, planed on both faces.
const QUARTERS_SOURCE: &str = "NHLA rules, standard thickness surfaced two sides (from memory)";

/// Nominal and dressed, inches, below 2; from 2 to 7 a half inch goes, from 8 on three quarters.
const THIN: [(f64, f64); 3] = [(1.0, 0.75), (1.25, 1.0), (1.5, 1.25)];
/// Quarters, and sixteenths of an inch that are left.
const HARD: [(f64, f64); 13] = [
    (1.5, 3.0),
    (2.0, 5.0),
    (2.5, 7.0),
    (3.0, 9.0),
    (4.0, 13.0),
    (5.0, 17.0),
    (6.0, 21.0),
    (7.0, 24.0),
    (8.0, 28.0),
    (10.0, 36.0),
    (12.0, 44.0),
    (14.0, 52.0),
    (16.0, 60.0),
];

/// Dressed size in mm of softwood that is called `n` inches; none where it is not sold so.
pub fn board(n: f64) -> Option<f64> {
    let is = |k: f64| (n - k).abs() < 1e-9;
    let inches = match THIN.iter().find(|t| is(t.0)) {
        Some(t) => t.1,
        None if is(2.5) || is(3.5) => n - 0.5,
        None if n.fract() != 0.0 || !(2.0..=16.0).contains(&n) => return None,
        None if n < 8.0 => n - 0.5,
        None => n - 0.75,
    };
    Some(inches * 25.4)
}

/// Thickness in mm of hardwood of `n` quarters, planed on both faces.
pub fn quarters(n: f64) -> Option<f64> {
    HARD.iter().find(|h| (n - h.0).abs() < 1e-9).map(|h| h.1 / 16.0 * 25.4)
}

/// What a value that is told as a board rests on.
pub fn source(text: &str) -> Option<&'static str> {
    let text: String = text.to_lowercase().split_whitespace().collect();
    if text.contains("board(") {
        Some(BOARD_SOURCE)
    } else if text.contains("quarters(") {
        Some(QUARTERS_SOURCE)
    } else {
        None
    }
}
