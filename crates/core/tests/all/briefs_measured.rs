//! What was measured on pieces that were made: deviations by hand, in and out of what the drawing allows, on
//! lines whose tolerance comes from a class, from themselves and from limits, in mm and in inches.

use crate::common::brief::*;
use crate::common::*;
use steelk_core::brief::{Measured, Specimen};
use steelk_core::evaluate::evaluate;
use steelk_core::job::text::{print_job, read_job};
use steelk_core::job::*;
use steelk_core::quantity::{Display, InchStyle, LengthUnit};

fn measured(line: &str, what: &str, piece: Specimen, value: &str) -> Measured {
    Measured {
        line: line.into(),
        what: what.into(),
        piece,
        value: value.into(),
        who: "A hand".into(),
        on: "2026-11-26".into(),
    }
}

fn plate() -> Piece {
    piece("10", "", &["plate 260 x 140", "hole ⌀40, 130 from west, 70 from south"])
}

const FIGURES: [&str; 5] = [
    "overall length 260",
    "overall width 140 ±0.2",
    "hole B ⌀40 within 39.9 to 40.3",
    "mass 2.76 kg",
    "thickness 10",
];

fn taken(job: &Job, line: &str) -> Vec<(String, String, bool)> {
    let all = checks(job);
    let of = all.iter().filter(|c| c.line == line).flat_map(|c| &c.taken);
    of.map(|t| (t.value.clone(), t.off.clone(), t.within)).collect()
}

#[test]
fn what_was_measured_is_held_to_what_is_allowed() {
    let mut job = tied(&with(plate(), brief("P-1", &FIGURES)));
    job.briefs[0].measured = vec![
        // ISO 2768-1 m over 120 up to 400: ±0.5.
        measured("f-1", "", Specimen::First, "260.5"),
        measured("f-1", "", Specimen::Last, "259.4"),
        measured("f-2", "", Specimen::First, "139 + 1"),
        measured("f-3", "diameter", Specimen::First, "40.31"),
        measured("f-4", "", Specimen::First, "2.79"),
    ];
    let one = |value: &str, off: &str, within| (value.to_string(), off.to_string(), within);
    assert_eq!(taken(&job, "f-1"), [one("260.5 mm", "+0.5 mm", true), one("259.4 mm", "−0.6 mm", false)]);
    assert_eq!(taken(&job, "f-2"), [one("140 mm", "±0", true)]);
    assert_eq!(taken(&job, "f-3"), [one("40.31 mm", "+0.31 mm", false)]);
    assert_eq!(taken(&job, "f-4"), [one("2.790 kg", "+0.030 kg", false)]);
    let tally = evaluate(&job).briefs[0].tally;
    assert_eq!((tally.taken, tally.out), (4, 3));
    // Nothing of it moves what the model has.
    assert_eq!(tally.met, tally.all);

    // The text form keeps all of it, and a line that is switched off keeps what was measured.
    job.briefs[0].lines[1].off = true;
    assert!(evaluate(&job).briefs[0].faults.is_empty());
    let (again, faults) = read_job(&print_job(&job));
    assert!(faults.is_empty(), "{faults:?}");
    assert_eq!(again.briefs[0].measured, job.briefs[0].measured);
}

#[test]
fn inches_are_measured_in_inches() {
    let mut p = piece("1/4in", "", &["plate 10in x 5in"]);
    p.display = Some(Display { length: LengthUnit::In, inches: InchStyle::SixtyFourths });
    let mut b = brief("P-1", &["overall length 10 ±1/32"]);
    b.display = p.display;
    let mut job = tied(&with(p, b));
    job.briefs[0].measured =
        vec![measured("f-1", "", Specimen::First, "9 31/32"), measured("f-1", "", Specimen::Last, "10.04")];
    let all = taken(&job, "f-1");
    assert_eq!((all[0].1.as_str(), all[0].2), ("−1/32\"", true), "{all:?}");
    assert!(all[1].1.contains("0.04") && !all[1].2, "{all:?}");
}

#[test]
fn what_cannot_be_read_or_is_of_nothing_is_told() {
    let mut job = tied(&with(plate(), brief("P-1", &FIGURES)));
    job.briefs[0].measured = vec![
        measured("f-1", "", Specimen::First, "twelve"),
        measured("gone", "", Specimen::First, "12"),
        measured("f-1", "", Specimen::Last, "260"),
    ];
    let r = evaluate(&job);
    let paths: Vec<&str> = r.briefs[0].faults.iter().map(|f| f.path.as_str()).collect();
    assert_eq!(paths, ["/measured/0/value", "/measured/1/line"]);
    assert_eq!(r.briefs[0].tally.taken, 1);
}
