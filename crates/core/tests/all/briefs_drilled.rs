//! Drilled holes of a drawing, checked off against the model.

use crate::common::brief::*;
use crate::common::*;
use steelk_core::brief::Verdict;
use steelk_core::evaluate::{coverage, evaluate};
use steelk_core::job::*;
use steelk_core::quantity::{Display, LengthUnit};

fn gear_plate(change: &dyn Fn(&str) -> String) -> Piece {
    let lines = [
        "plate 240 x 160",
        "hole for M12, 20 from west, 20 from south",
        "mirror drill-1, east",
        "tapped hole M8, 14 deep, 65 from west, 45 from south",
        "mirror drill-2, east",
        "mirror drill-2 and mirror-2, north",
        "countersunk hole for M8, 40 from west",
        "counterbored hole for M10, from the back, 50 from south",
        "blind hole ⌀8, 10 deep, flat bottom, from the back, 90 from west",
        "tapped hole M6, 200 from west",
    ]
    .map(change);
    piece("20", "20", &lines.each_ref().map(String::as_str))
}

/// Drilled holes as a drawing writes them: each is tied to the one line that makes it, and a change of its
/// kind, depth, thread, head or side is told by how much.
#[test]
fn drilled_holes_are_checked_off_as_a_drawing_writes_them() {
    let lines = [
        "4 × M8 × 14",
        "⌀9 csk ⌀17.92 × 90°",
        "⌀11 cbore ⌀18 × 10.6, back",
        "blind hole E ⌀8, 10 deep, from the back",
        "tapped hole M6",
        "E from left 90",
    ];
    let plain = |t: &str| t.to_string();
    let job = tied(&with(gear_plate(&plain), brief("P-1", &lines)));
    let all = checks(&job);
    assert!(all.iter().all(|c| c.verdict == Verdict::Met), "{:#?}", said(&all));
    assert_eq!(all.len(), 4 + 4 + 4 + 3 + 4 + 1);
    let off = |from: &str, to: &str| -> Vec<String> {
        let changed = gear_plate(&|t| t.replace(from, to));
        let job = Job { pieces: vec![changed], ..job.clone() };
        checks(&job)
            .iter()
            .filter(|c| c.verdict != Verdict::Met)
            .map(|c| format!("{} {}", c.what, c.said))
            .collect()
    };
    let one = |from: &str, to: &str, words: &[&str]| {
        let told = off(from, to);
        assert_eq!(told.len(), words.len(), "{from} → {to}: {told:?}");
        for (t, w) in told.iter().zip(words) {
            assert!(t.contains(w), "{from} → {to}: {told:?}");
        }
    };
    one("M8, 14 deep", "M8, 15 deep", &["depth 1 mm too deep"]);
    one("M8, 14 deep", "M8x1, 14 deep", &["pitch 0.25 mm too small"]);
    one("M8, 14 deep", "M8, 14 deep, from the back", &[]);
    one("hole for M8", "hole for M8, close fit", &["diameter 0.6 mm too small"]);
    one("M10, from the back", "M10", &["count from the back 1 too few"]);
    one("M10, from the back", "M10, sunk 0.9, from the back", &["depth 0.3 mm too deep"]);
    one("tapped hole M6", "tapped hole M6, 9 deep", &["through 1 too few"]);
    one("blind hole ⌀8, 10 deep, flat bottom", "hole for M6", &["is not blind"; 3]);
    // A hole that is made another way is no longer what the drawing has, and says so.
    let lost = off("countersunk hole for M8", "hole for M8");
    assert!(lost.iter().all(|l| l.contains("is not countersunk")) && lost.len() == 4, "{lost:?}");
}

/// A screw's size is a value as others are: figures that follow it follow the model, and one that no figure
/// follows is told.
#[test]
fn sizes_of_screws_are_looked_through_as_values_are() {
    let job = tied(&with(gear_plate(&|t| t.into()), brief("P-1", &["4 × M8 × 14", "⌀9 csk ⌀17.92 × 90°"])));
    let found = coverage(&job, &evaluate(&job), "brief-1").unwrap();
    assert!(found.unmoved.is_empty(), "{:?}", found.unmoved);
    let untold: Vec<&str> = found.unchecked.iter().map(|u| u.value.as_str()).collect();
    assert!(untold.contains(&"M12") && untold.contains(&"M10") && untold.contains(&"M6"), "{untold:?}");
    assert!(!untold.contains(&"M8"), "{untold:?}");
}

/// The drawing of a plate in inches: `4 × #8-32 depth .2875` from the other side.
#[test]
fn tapped_holes_of_an_inch_drawing_are_checked_off() {
    let plate = piece(
        "1/2in",
        "",
        &[
            "plate 5in x 3in",
            "tapped hole #8-32, 0.2875in deep, from the back, 0.5in from west, 0.5in from south",
            "mirror drill-1, east",
            "mirror drill-1 and mirror-1, north",
        ],
    );
    let mut job = with(plate, brief("P-1", &["4 × #8-32 depth .2875, back", "hole A from left 0.5"]));
    job.display = Display { length: LengthUnit::In, ..job.display };
    let all = checks(&tied(&job));
    let met: Vec<&str> = all.iter().filter(|c| c.verdict == Verdict::Met).map(|c| c.what.as_str()).collect();
    assert_eq!(met, ["thread", "pitch", "depth", "count from the back"], "{:?}", said(&all));
}
