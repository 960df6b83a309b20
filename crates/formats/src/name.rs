//! File names that say what they are: mark, material, thickness, quantity.

use steelk_core::result::PieceResult;

/// `P-101_S235-steel_3mm_x2`
pub fn file_stem(piece: &PieceResult) -> String {
    let unit = piece.display.length.sign();
    let parts = [
        piece.mark.clone(),
        piece.material.clone(),
        format!("{}{unit}", piece.display.fine(piece.thickness)),
        format!("x{}", piece.quantity),
    ];
    parts.map(|p| safe(&p)).join("_")
}

/// Of one part of a name: file systems and headers take no more than a few of these.
const LONGEST: usize = 60;

/// Only letters, digits, dots and dashes, and no more than can be read.
pub fn safe(text: &str) -> String {
    let mut out: String =
        text.chars().map(|c| if c.is_ascii_alphanumeric() || c == '.' { c } else { '-' }).collect();
    while out.contains("--") {
        out = out.replace("--", "-");
    }
    let mut out = out.trim_matches('-').to_string();
    out.truncate(LONGEST);
    if out.is_empty() { "piece".into() } else { out }
}

/// The day of a time, seconds since 1970, as lists and papers tell it: `2026-11-25`.
pub fn day(saved_at: i64) -> String {
    chrono::DateTime::from_timestamp(saved_at, 0).map_or(String::new(), |t| t.date_naive().to_string())
}
