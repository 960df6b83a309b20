//! Ready outlines: areas and edges by closed forms, and for the bolted flange by its support function, which
//! shares nothing with how it is drawn.

use std::f64::consts::PI;

use approx::{assert_abs_diff_eq, assert_relative_eq};
use rstest::rstest;
use steelk_core::evaluate::evaluate_piece;

use crate::common::*;

fn circle(d: f64) -> f64 {
    PI * d * d / 4.0
}

/// Area between two radii over an angle in degrees.
fn sector(outer: f64, inner: f64, degrees: f64) -> f64 {
    degrees.to_radians() / 2.0 * (outer * outer - inner * inner)
}

/// Of a circle what a chord at this distance from the middle leaves on the far side.
fn beyond(r: f64, away: f64) -> f64 {
    r * r * (away / r).acos() - away * (r * r - away * away).sqrt()
}

#[rstest]
#[case("disc ⌀160", circle(160.0), PI * 160.0)]
#[case("ring ⌀200, hole ⌀120", circle(200.0) - circle(120.0), PI * 200.0)]
#[case("sector R150 to R90, 120°", sector(150.0, 90.0, 120.0), (150.0 + 90.0) * PI * 2.0 / 3.0 + 120.0)]
#[case("sector R150 to R90, 270°", sector(150.0, 90.0, 270.0), (150.0 + 90.0) * PI * 1.5 + 120.0)]
#[case("sector R100, 90°", sector(100.0, 0.0, 90.0), 100.0 * PI / 2.0 + 200.0)]
#[case("L-shape 120 x 80, legs 30 and 20 wide", 120.0 * 30.0 + 50.0 * 20.0, 400.0)]
#[case("T-shape 140 x 100, flange 20, web 15", 140.0 * 20.0 + 80.0 * 15.0, 480.0)]
#[case("gusset 120 x 100", 6000.0, 220.0 + 24400f64.sqrt())]
#[case("gusset 120 x 100, snipped 15, tips 10",
    // The trapezoid over its tips, less the snip.
    10.0 * 100.0 + 110.0 * (100.0 + 10.0) / 2.0 - 112.5,
    105.0 + 85.0 + 20.0 + 15.0 * 2f64.sqrt() + (110f64 * 110.0 + 90.0 * 90.0).sqrt())]
#[case("D-plate ⌀100, 80 across", circle(100.0) - beyond(50.0, 30.0),
    50.0 * (2.0 * PI - 2.0 * 0.6f64.acos()) + 80.0)]
#[case("rounded bar 180 x 40", 140.0 * 40.0 + circle(40.0), 280.0 + 40.0 * PI)]
#[case("four-bolt flange 140, corners R20, bolts ⌀14 at 100, bore ⌀60",
    140.0 * 140.0 - (4.0 - PI) * 400.0 - 4.0 * circle(14.0) - circle(60.0), 4.0 * 100.0 + 40.0 * PI)]
#[case("keyhole plate 160 x 60, corners R6, keyholes ⌀14, slot 7, 16 long, at 100",
    160.0 * 60.0 - (4.0 - PI) * 36.0 - 2.0 * keyhole(7.0, 3.5, 16.0), 440.0 - 48.0 + 12.0 * PI)]
#[case("keyhole plate 40 x 60, keyholes ⌀12, slot 6, 20 long", 2400.0 - keyhole(6.0, 3.0, 20.0), 200.0)]
fn areas_and_edges_are_those_of_their_closed_forms(
    #[case] line: &str,
    #[case] area: f64,
    #[case] round: f64,
) {
    let p = din("6", "6", &[line]);
    assert_relative_eq!(p.value("area"), area, max_relative = 1e-12);
    assert_relative_eq!(p.flat.outer.perimeter(), round, max_relative = 1e-12);
}

/// A circle, and a slot from it: what of the slot lies beyond the circle's chord, less the segment that the
/// chord cuts off.
fn keyhole(entry: f64, slot: f64, length: f64) -> f64 {
    let chord = (entry * entry - slot * slot).sqrt();
    let half = (slot / entry).asin();
    let cap = entry * entry * (half - half.sin() * half.cos());
    PI * entry * entry - cap + 2.0 * slot * (length - slot - chord) + PI * slot * slot / 2.0
}

/// A keyhole plate that leaves nothing beside its keyholes is refused at the field.
#[rstest]
#[case("keyhole plate 160 x 20, keyholes ⌀14, slot 7, 16 long", "/say/shape/length")]
#[case("keyhole plate 160 x 60, keyholes ⌀14, slot 7, 16 long, at 150", "/say/shape/centres")]
#[case("keyhole plate 160 x 60, keyholes ⌀7, slot 14, 16 long", "/say/shape/slot")]
fn a_keyhole_plate_needs_room(#[case] line: &str, #[case] path: &str) {
    let out = evaluate_piece(&job(Default::default()), &piece("6", "6", &[line]));
    let paths: Vec<&str> = out.faults.iter().map(|f| f.path.as_str()).collect();
    assert_eq!(paths, [path], "{:?}", out.faults);
}

/// Area and edge of a convex shape by its support function h: ∮ h dθ, and ½ ∮ (h² − h'²) dθ.
#[rstest]
#[case(80.0, 18.0, 110.0)]
#[case(60.0, 20.0, 140.0)]
#[case(40.0, 20.0, 90.0)]
fn a_two_bolt_flange_is_the_hull_of_three_circles(#[case] d: f64, #[case] end: f64, #[case] centres: f64) {
    let line = format!("two-bolt flange ⌀{d}, ends R{end}, bolts ⌀11 at {centres}, bore ⌀20");
    let p = din("6", "6", &[&line]);
    let (n, half) = (400_000, centres / 2.0);
    let step = 2.0 * PI / n as f64;
    let (mut area, mut round) = (0.0, 0.0);
    for k in 0..n {
        let a = step * (k as f64 + 0.5);
        let reach = half * a.cos().abs() + end;
        let (h, slope) = if reach > d / 2.0 { (reach, half * a.sin()) } else { (d / 2.0, 0.0) };
        round += h * step;
        area += (h * h - slope * slope) / 2.0 * step;
    }
    // The sum is as exact as its steps where the touching circle changes.
    assert_relative_eq!(p.flat.outer.area(), area, max_relative = 1e-5);
    assert_relative_eq!(p.flat.outer.perimeter(), round, max_relative = 1e-6);
    assert_relative_eq!(p.value("area"), area - 2.0 * circle(11.0) - circle(20.0), max_relative = 1e-5);
    let size = p.flat.outer.bounds().size();
    assert_abs_diff_eq!(size.x, centres + 2.0 * end, epsilon = 1e-9);
    assert_abs_diff_eq!(size.y, d.max(2.0 * end), epsilon = 1e-9);
    // Its bends in the outline are tangent: no corner is left to be rounded but none.
    assert!(p.findings.iter().all(|f| f.check != "sharp_corners"), "{:?}", p.findings);
}

/// Holes of an outline have names of their own, which lines below can speak of.
#[test]
fn holes_of_an_outline_can_be_spoken_of() {
    let p = din(
        "6",
        "6",
        &[
            "four-bolt flange 140, corners R20, bolts ⌀14 at 100, bore ⌀60",
            "hole ⌀6, 10 clear east of start-1.bolt-1",
        ],
    );
    let names: Vec<&str> = p.flat.holes.iter().map(|h| p.hole_name(h)).collect();
    for name in ["start-1.bore", "start-1.bolt-1", "start-1.bolt-4", "punch-1"] {
        assert!(names.contains(&name), "{names:?}");
    }
    let own = p.flat.holes.iter().find(|h| p.hole_name(h) == "punch-1").unwrap().contour.bounds().centre();
    assert_abs_diff_eq!(own.x, -50.0 + 7.0 + 10.0 + 3.0, epsilon = 1e-9);
    assert_abs_diff_eq!(own.y, -50.0, epsilon = 1e-9);
}

/// What leaves nothing, or is no such shape, is refused at its field.
#[rstest]
#[case("ring ⌀100, hole ⌀100", "hole")]
#[case("sector R100 to R120, 90°", "inner")]
#[case("sector R100, 360°", "angle")]
#[case("L-shape 120 x 80, legs 80 and 20 wide", "lower")]
#[case("T-shape 140 x 100, flange 20, web 140", "web")]
#[case("D-plate ⌀100, 50 across", "across")]
#[case("rounded bar 40 x 40", "width")]
#[case("two-bolt flange ⌀80, ends R18, bolts ⌀11 at 40", "end")]
#[case("two-bolt flange ⌀80, ends R18, bolts ⌀36 at 110", "bolt")]
#[case("four-bolt flange 140, bolts ⌀14 at 130", "centres")]
fn what_is_no_such_shape_is_refused(#[case] line: &str, #[case] field: &str) {
    let out = evaluate_piece(&job(Default::default()), &piece("6", "6", &[line]));
    let paths: Vec<&str> = out.faults.iter().map(|f| f.path.as_str()).collect();
    assert_eq!(paths, [format!("/say/shape/{field}")], "{:?}", out.faults);
}
