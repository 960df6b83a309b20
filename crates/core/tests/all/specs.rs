//! What lines come to when they are read: the field of a fault, the role of a bend, the mend that fits the
//! line. Each case was once otherwise.

use crate::common::*;
use serde_json::json;
use steelk_core::evaluate::evaluate_piece;
use steelk_core::job::*;
use steelk_core::quantity::Figure;
use steelk_core::result::PieceResult;
use steelk_core::shop::BendMethod;

fn of(rule: steelk_core::shop::BendRule, piece: &Piece) -> PieceResult {
    evaluate_piece(&job(rule), piece)
}

fn checks<'a>(r: &'a PieceResult, check: &str) -> Vec<&'a steelk_core::result::Finding> {
    r.findings.iter().filter(|f| f.check == check).collect()
}

/// A tab has one edge, and its fault stands there.
#[test]
fn a_tab_on_no_edge_is_refused_at_its_edge() {
    let tab = json!({ "verb": "tab", "edge": "start-1.nowhere", "width": "20", "length": "10" });
    let plate = json!({ "verb": "start_plate", "width": "100", "height": "80" });
    let r = of(school(BendMethod::Din6935), &told("2", "2", &[plate, tab]));
    let at: Vec<(&str, &str, usize, usize)> =
        r.faults.iter().map(|f| (f.line.as_str(), f.path.as_str(), f.fault.start, f.fault.end)).collect();
    assert_eq!(at, [("tab-1", "/say/edge", 0, "start-1.nowhere".len())]);
}

/// The sides of a tray and of a channel have no radius of their own: the mend is the piece's.
#[test]
fn the_mend_of_a_small_radius_can_be_carried_out() {
    let says = [
        json!({ "verb": "start_tray", "width": "200", "depth": "120", "height": "40", "lip": "15" }),
        json!({ "verb": "start_channel", "length": "200", "web": "80", "side": "40", "lip": "15" }),
        json!({ "verb": "start_strip", "width": "50", "profile": [
            { "kind": "leg", "id": "a", "length": "40" }, { "kind": "bend", "id": "1", "angle": "90" },
            { "kind": "leg", "id": "b", "length": "60" }] }),
    ];
    for say in says {
        let mut p = told("4", "0.5", std::slice::from_ref(&say));
        let first = of(school(BendMethod::Din6935), &p);
        assert!(first.faults.is_empty() && !checks(&first, "radius_small").is_empty(), "{say}");
        for _ in 0..10 {
            let r = of(school(BendMethod::Din6935), &p);
            let Some(f) = checks(&r, "radius_small").first().copied() else { break };
            p = mended(&p, f);
        }
        let r = of(school(BendMethod::Din6935), &p);
        assert!(r.faults.is_empty() && checks(&r, "radius_small").is_empty(), "{say}");
    }
}

/// The K of the rule as a figure of the job: all that is said of a bend goes by it.
#[test]
fn a_k_told_as_a_figure_is_the_k_of_every_row() {
    let strip = ["strip 30 wide: 40, up 90, 60"];
    let rows = |k: &str, figures: Vec<Figure>| {
        let job = Job { figures, ..job(k_factor(k)) };
        let r = evaluate_piece(&job, &piece("2", "2", &strip));
        assert!(r.faults.is_empty(), "{:?}", r.faults);
        r.bend_rows[0].schools.clone()
    };
    let told = Figure::new("ours", "0.41");
    assert_eq!(rows("ours", vec![told]), rows("0.41", Vec::new()));
    assert_ne!(rows("0.41", Vec::new()), rows("0.44", Vec::new()));
}

/// Half a turn in a strip is a fold between two legs that were told; a hem says that it is one, however far
/// it is turned.
#[test]
fn a_hem_is_what_was_told_as_one() {
    let strip = told(
        "2",
        "2",
        &[json!({ "verb": "start_strip", "width": "50", "profile": [
            { "kind": "leg", "id": "a", "length": "60" }, { "kind": "bend", "id": "1", "angle": "180" },
            { "kind": "leg", "id": "b", "length": "9" }] })],
    );
    let r = of(school(BendMethod::Din6935), &strip);
    assert!(r.made && checks(&r, "hem_short").is_empty(), "{:?}", r.findings);
    let plate = json!({ "verb": "start_plate", "width": "100", "height": "80" });
    let hem = |kind: serde_json::Value| json!({ "verb": "hem", "edges": ["start-1.north"], "hem": kind });
    let closed = hem(json!({ "kind": "closed", "length": "5" }));
    let r = of(school(BendMethod::Din6935), &told("2", "2", &[plate.clone(), closed]));
    assert_eq!(checks(&r, "hem_short").len(), 1, "{:?}", r.findings);
    // A curl of a quarter turn is no flange: nothing is too short for the die, and its radius is looked at.
    let curl = hem(json!({ "kind": "rolled", "radius": "0.4", "angle": "90" }));
    let r = of(school(BendMethod::Din6935), &told("2", "2", &[plate, curl]));
    assert!(checks(&r, "flange_short").is_empty());
    assert_eq!(checks(&r, "radius_small").len(), 1, "{:?}", r.findings);
}

/// What cannot be read is told of every line, in the order of the lines, even where the start fails.
#[test]
fn every_line_is_read() {
    let says = [
        json!({ "verb": "start_plate", "width": "1 +", "height": "80" }),
        json!({ "verb": "notch", "edge": "start-1.north", "shape": { "kind": "vee", "width": "?",
            "depth": "9" } }),
        json!({ "verb": "fold", "edges": ["start-1.north"], "angle": "x", "reach": { "to": "length",
            "length": "y" } }),
    ];
    let r = of(school(BendMethod::Din6935), &told("2", "2", &says));
    let at: Vec<(&str, &str)> = r.faults.iter().map(|f| (f.line.as_str(), f.path.as_str())).collect();
    assert_eq!(
        at,
        [
            ("start-1", "/say/width"),
            ("notch-1", "/say/shape/width"),
            ("fold-1", "/say/angle"),
            ("fold-1", "/say/reach/length"),
        ]
    );
    assert!(!r.made);
}

/// A plate of a frame is cut as it was worked out, not as it would be written down: a third of an inch stays
/// one to the last bit, and so do the sides of the plate.
#[test]
fn plates_are_exact() {
    let (mut job, mut f) = crate::common::frame::told(
        "60x60x3",
        JointHow::Butt,
        &["node A 0 0 0", "node B 0 0 1000", "post A B", "foot at A, 140/3 x 170/7, 1/3 thick"],
    );
    let inches =
        steelk_core::quantity::Display { length: steelk_core::quantity::LengthUnit::In, ..job.display };
    job.display = inches;
    f.display = Some(inches);
    let r = steelk_core::evaluate::evaluate_frame(&job, &f);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let plate = &r.plates[0].piece;
    assert_eq!(plate.thickness, 1.0 / 3.0 * 25.4);
    let size = plate.flat.outer.bounds().size();
    let (a, b) = (140.0 / 3.0 * 25.4, 170.0 / 7.0 * 25.4);
    let (long, short) = (size.max_element(), size.min_element());
    assert!((long - a).abs() < 1e-12 * a && (short - b).abs() < 1e-12 * b, "{size}");
}
