//! Figures and marks that were once wrong without a word: each by hand, in the case that hid it.

use crate::common::*;
use approx::assert_abs_diff_eq;
use rstest::rstest;
use serde_json::{Value, json};
use steelk_core::quantity::{Display, InchStyle, LengthUnit, counted, fixed};
use steelk_core::result::{PieceResult, Severity};
use steelk_core::sheet::evaluate_piece;
use steelk_core::shopbook::School;

fn outline(points: &[(f64, f64)]) -> Value {
    let points: Vec<Value> = points.iter().map(|p| json!({ "x": format!("{}", p.0), "y": format!("{}", p.1) })).collect();
    json!({ "verb": "start_outline", "points": points })
}

fn bend_line(edge: &str, distance: &str, stays: &str) -> Value {
    json!({ "verb": "bend_line", "edge": edge, "distance": distance, "angle": "90", "stays": stays })
}

fn din_told(says: &[Value]) -> PieceResult {
    made(school(School::Din6935), &told("2", "2", says))
}

/// On a sheet that narrows, a bend line ends at the sheet, not at the width of the blank; length and force are of the metal.
#[test]
fn a_bend_line_ends_where_the_metal_does() {
    let p = din_told(&[outline(&[(-100.0, -40.0), (100.0, -20.0), (100.0, 20.0), (-100.0, 40.0)]), bend_line("start-1.side-4", "60", "far")]);
    let b = &p.flat.bends[0];
    let half = 30.0 - 0.1 * b.from[0];
    assert!(half < 36.0, "{b:?}");
    assert_abs_diff_eq!(b.from[0], b.to[0], epsilon = 1e-9);
    assert_abs_diff_eq!(b.from[1].abs(), half, epsilon = 1e-9);
    assert_abs_diff_eq!(b.to[1].abs(), half, epsilon = 1e-9);
    assert_abs_diff_eq!(b.length, 2.0 * half, epsilon = 1e-9);
    assert_eq!(p.bend_rows[0].length, p.display.length(2.0 * half));
}

/// A cut across a bend leaves two parts, and the brake bends those.
#[test]
fn a_cut_across_a_bend_leaves_its_parts() {
    let whole = din("3", "3", &["strip 60 up 90 60 wide 40"]);
    let cut = din("3", "3", &["strip 60 up 90 60 wide 40", "slot 40 x 10"]);
    let (w, c) = (&whole.flat.bends[0], &cut.flat.bends[0]);
    assert_eq!((w.parts.len(), c.parts.len()), (1, 2));
    assert_abs_diff_eq!(w.length, 40.0, epsilon = 1e-9);
    assert_abs_diff_eq!(c.length, 30.0, epsilon = 1e-9);
    for (part, y) in c.parts.iter().zip([[-20.0, -5.0], [5.0, 20.0]]) {
        assert_abs_diff_eq!(part[0][1], y[0], epsilon = 1e-9);
        assert_abs_diff_eq!(part[1][1], y[1], epsilon = 1e-9);
    }
    let kn = |p: &PieceResult| p.bend_rows[0].force_per_metre.clone();
    assert_eq!(kn(&whole), kn(&cut), "the force of a metre is the same");
    let total = |p: &PieceResult| p.bend_rows[0].force.trim_end_matches(" kN").parse::<f64>().unwrap();
    assert!((total(&cut) / total(&whole) - 0.75).abs() < 0.03, "{} {}", total(&cut), total(&whole));
}

/// A rolled shell is told by where it begins and ends.
#[test]
fn a_roll_has_two_tangents() {
    let p = din_told(&[json!({ "verb": "start_rolled", "length": "300", "diameter": "200", "angle": "180" })]);
    let b = &p.flat.bends[0];
    assert!(b.rolled && b.tangents.len() == 2);
    let x: Vec<f64> = b.tangents.iter().map(|t| t[0][0]).collect();
    assert_abs_diff_eq!((x[1] - x[0]).abs(), 99.0 * std::f64::consts::PI, epsilon = 1e-6);
}

/// What is pressed off the sheet, or over its edge, is left out and stops the piece, however it came there; a touch of the edge does not.
#[rstest]
#[case(&["plate 200 x 100", "louvre 60 x 12 high 5 at -40 from west"], 0)]
#[case(&["plate 200 x 100", "louvre 60 x 12 high 5 at 20 from west"], 0)]
#[case(&["plate 200 x 100", "louvre 60 x 12 high 5 at 30 from west"], 1)]
#[case(&["plate 200 x 100", "louvre 60 x 12 high 5 at 50 from west", "repeat press-1 3 at 80"], 2)]
#[case(&["plate 200 x 100", "dimple 12 deep 2 at 50 from west", "rectangle 30 x 100 at 15 from west"], 1)]
#[case(&["strip 60 up 90 60 wide 40", "rib start-1.1 depth 15 wide 8 at 2"], 0)]
#[case(&["strip 60 up 90 60 wide 40", "rib start-1.1 depth 15 wide 8 at 10"], 1)]
fn pressed_shapes_need_sheet_under_them(#[case] lines: &[&str], #[case] marked: usize) {
    let p = din("2", "2", lines);
    assert_eq!(p.flat.pressed.len(), marked);
    let asked = p.features.iter().filter(|f| !f.name.starts_with("punch")).count();
    let told = p.findings.iter().filter(|f| f.check == "cut_misses").collect::<Vec<_>>();
    assert_eq!(told.len(), asked - marked);
    assert!(told.iter().all(|f| f.severity == Severity::Stop && f.message.contains("left out")), "{told:?}");
}

/// A rib told by the compass stays where it is whichever side of its bend lies still; told across the bend's way it is asked about.
#[test]
fn a_rib_is_told_from_the_end_that_is_named() {
    let rib = |from: &str| json!({ "verb": "rib", "on": "bend_line-1.bend", "depth": "15", "width": "8", "offset": "20", "from": from });
    let at = |stays: &str, from: &str| {
        let p = evaluate_piece(
            &job(school(School::Din6935)),
            &told("2", "2", &[json!({ "verb": "start_plate", "width": "200", "height": "100" }), bend_line("start-1.west", "60", stays), rib(from)]),
        );
        assert!(p.faults.is_empty(), "{:?}", p.faults);
        p.flat.pressed[0].at[1]
    };
    for stays in ["far", "near"] {
        assert_abs_diff_eq!(at(stays, "south"), -30.0, epsilon = 1e-9);
        assert_abs_diff_eq!(at(stays, "north"), 30.0, epsilon = 1e-9);
    }
    // Left and right turn with the bend.
    assert_abs_diff_eq!(at("far", "left"), -at("near", "left"), epsilon = 1e-9);
    assert_abs_diff_eq!(at("far", "right"), -at("far", "left"), epsilon = 1e-9);
    let p = evaluate_piece(
        &job(school(School::Din6935)),
        &told("2", "2", &[json!({ "verb": "start_plate", "width": "200", "height": "100" }), bend_line("start-1.west", "60", "far"), rib("west")]),
    );
    assert!(p.faults[0].path == "/say/from" && p.faults[0].fault.mend.contains("south or north"), "{:?}", p.faults);
}

/// Halves go away from zero, small figures keep three figures, and nothing is minus zero.
#[test]
fn printed_figures() {
    let inch = |inches| Display { length: LengthUnit::In, inches };
    let (mm, decimal) = (Display::default(), inch(InchStyle::Decimal));
    assert_eq!(decimal.length(0.5625 * 25.4), "0.563");
    assert_eq!((fixed(2.5, 0).as_str(), fixed(-2.5, 0).as_str(), fixed(1.005, 2).as_str(), fixed(-0.004, 2).as_str()), ("3", "-3", "1.01", "0.00"));
    for (v, text) in [(0.05, "0.05"), (0.0254, "0.0254"), (5.0, "5.0"), (9.525, "9.53"), (96.163, "96.2"), (1312.78, "1312.8"), (0.0, "0.0"), (-1e-9, "0.0")] {
        assert_eq!(mm.length(v), text, "{v}");
    }
    for (kg, text) in [(0.000028, "0.000028 kg"), (0.02834, "0.0283 kg"), (0.5, "0.500 kg"), (6.4664, "6.466 kg"), (189.994, "189.99 kg"), (-0.0, "0.000 kg")] {
        assert_eq!(mm.mass(kg), text);
    }
    assert_eq!(decimal.thickness(1.4), "0.05512");
    assert_eq!((inch(InchStyle::Sixteenths).thickness(25.4 / 16.0), inch(InchStyle::Sixteenths).thickness(25.4 * 5.0 / 64.0)), ("1/16".into(), "5/64".into()));
    assert_eq!(inch(InchStyle::Sixteenths).thickness(0.0598 * 25.4), "0.0598");
    assert_eq!((counted(1, "piece"), counted(0, "piece")), ("1 piece".into(), "0 pieces".into()));
}

/// A gauge prints as a gauge with its decimal, never as the fraction that happens to be near.
#[test]
fn a_gauge_is_printed_as_it_was_told() {
    let mut p = told("16 ga", "2", &[json!({ "verb": "start_plate", "width": "8in", "height": "4in" })]);
    p.display = Some(Display { length: LengthUnit::In, inches: InchStyle::Sixteenths });
    let out = made(school(School::Din6935), &p);
    assert!(out.thickness_text.starts_with("16 ga (0.05") && !out.thickness_said().contains('/'), "{} {}", out.thickness_text, out.thickness_said());
}
