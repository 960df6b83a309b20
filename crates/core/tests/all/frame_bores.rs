//! Drilled holes in members: metal by closed forms, bodies that have them, what lists and findings say.

use std::f64::consts::PI;

use approx::assert_relative_eq;
use rstest::rstest;
use steelk_core::evaluate::{cut_list, evaluate};
use steelk_core::frame::*;
use steelk_core::job::*;
use steelk_core::result::Severity;

use crate::common::frame::*;

fn bar(section: &str, lines: &[&str]) -> FrameResult {
    let start = ["node A 0 0 0", "node B 500 0 0", "rail A B"];
    frame(section, JointHow::Butt, &[&start[..], lines].concat())
}

fn cylinder(d: f64, h: f64) -> f64 {
    PI * d * d / 4.0 * h
}

fn frustum(d: f64, e: f64, h: f64) -> f64 {
    PI * h / 12.0 * (d * d + d * e + e * e)
}

/// Flat bars, solid, and one wall of a tube: cylinders, cones and the point of the drill. The list weighs by
/// the closed form, the body by its triangles.
#[rstest]
#[case("FLAT 60x20", "countersunk hole for M8 on rail-1, 100 from its start, left",
    frustum(17.92, 9.0, 4.46) + cylinder(9.0, 15.54))]
#[case("FLAT 60x20", "counterbored hole for M8 on rail-1, 100 from its start, left, 3 x 50",
    3.0 * (cylinder(15.0, 8.6) + cylinder(9.0, 11.4)))]
#[case(
    "FLAT 60x20",
    "blind hole ⌀8, 10 deep, flat bottom on rail-1, 100 from its start, right",
    cylinder(8.0, 10.0)
)]
#[case("FLAT 60x20", "tapped hole M8, 9 deep on rail-1, 100 from its start, left, 5 off the middle",
    cylinder(6.8, 12.75) + frustum(6.8, 0.0, 3.4 / 59f64.to_radians().tan()))]
#[case("60x60x3", "tapped hole M6 on rail-1, 100 from its start, top, both walls", 2.0 * cylinder(5.0, 3.0))]
#[case("60x60x3", "hole for M10 on rail-1, 100 from its start, left", cylinder(11.0, 3.0))]
#[case("60x60x3", "slot for M10, 30 long on rail-1, 100 from its start, left",
    (cylinder(11.0, 1.0) + 19.0 * 11.0) * 3.0)]
fn what_is_drilled_is_weighed(#[case] section: &str, #[case] line: &str, #[case] by_hand: f64) {
    let (with, without) = (bar(section, &[line]), bar(section, &[]));
    assert!(with.faults.is_empty(), "{:?}", with.faults);
    assert_relative_eq!(without.facts[0].volume - with.facts[0].volume, by_hand, max_relative = 2e-3);
    let body = |r: &FrameResult| standing(r, true)[0].body.clone();
    // The point of a drill is not drawn; facets are chords of their circles.
    let drawn = body(&without).volume() - body(&with).volume();
    assert_relative_eq!(drawn, by_hand, max_relative = 0.06);
    assert!(body(&with).edges.len() > body(&without).edges.len());
}

/// Each is told: a cone in a thin wall, a drill that comes out, a thread in a thin wall; what fits is not.
#[rstest]
#[case("60x60x3", "countersunk hole for M8 on rail-1, 100 from its start", &[("mouth_deep", Severity::Stop)])]
#[case("60x60x5", "countersunk hole for M8 on rail-1, 100 from its start", &[])]
#[case("60x60x5", "tapped hole M6 on rail-1, 100 from its start", &[("thread_short", Severity::Warn)])]
#[case("60x60x6.3", "tapped hole M6 on rail-1, 100 from its start", &[])]
#[case("FLAT 60x20", "blind hole ⌀10, 17 deep on rail-1, 100 from its start, left",
    &[("drill_point", Severity::Warn)])]
#[case("FLAT 60x20", "blind hole ⌀10, 20 deep on rail-1, 100 from its start, left",
    &[("drill_through", Severity::Stop)])]
#[case("FLAT 60x20", "tapped hole M4, 8 deep, drilled 10 on rail-1, 100 from its start, left",
    &[("tap_run_out", Severity::Warn)])]
#[case("FLAT 60x20", "blind hole ⌀10, 16 deep on rail-1, 100 from its start, left", &[])]
fn what_a_wall_cannot_take_is_told(
    #[case] section: &str,
    #[case] line: &str,
    #[case] told: &[(&str, Severity)],
) {
    let r = bar(section, &[line]);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let checks = ["mouth_deep", "drill_through", "drill_point", "thread_short", "tap_run_out"];
    let found: Vec<(&str, Severity)> =
        r.findings.iter().filter(|f| checks.contains(&f.check)).map(|f| (f.check, f.severity)).collect();
    assert_eq!(found, told, "{:?}", r.findings);
}

/// A tapped bar is another bar than one with plain holes of its tap drill, and the list says which is which.
#[test]
fn bars_are_told_apart_by_what_is_drilled() {
    let lines = [
        "node A 0 0 0",
        "node B 500 0 0",
        "node C 0 300 0",
        "node D 500 300 0",
        "node E 0 600 0",
        "node F 500 600 0",
        "rail A B",
        "rail C D",
        "rail E F",
        "tapped hole M8 on rail-1 and rail-2, 100 from its start, top, 2 x 300",
        "hole ⌀6.8 on rail-3, 100 from its start, top, 2 x 300",
    ];
    let (job, frame) = told("60x60x8", JointHow::Butt, &lines);
    let job = Job { frames: vec![frame], ..job };
    let list = cut_list(&job, &evaluate(&job));
    let bars = &list.frames[0].bars;
    let said: Vec<(usize, &str)> = bars.iter().map(|b| (b.quantity, b.drilled[0].as_str())).collect();
    assert_eq!(said, [(2, "top: 2 × M8 at 100.0 · 400.0"), (1, "top: 2 × Ø6.8 at 100.0 · 400.0")]);
}

/// What cannot be drilled is refused at its field, and the frame goes on.
#[test]
fn what_no_table_has_is_refused() {
    let r = bar(
        "60x60x3",
        &["tapped hole M7 on rail-1, 100 from its start", "hole for M8 on rail-1, 2 from its start"],
    );
    let paths: Vec<&str> = r.faults.iter().map(|f| f.path.as_str()).collect();
    assert_eq!(paths, ["/say/hole/thread", "/say/at"], "{:?}", r.faults);
    assert!(r.faults[0].fault.mend.contains("M8"));
}
