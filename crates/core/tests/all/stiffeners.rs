//! Stiffeners round hoppers, flat bars and angles: by hand round a duct, touching their sides and meeting in
//! the corners over random ones, and refused.

use approx::{assert_abs_diff_eq, assert_relative_eq};
use glam::DVec3;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::frame::*;

use crate::common::frame::*;
use crate::hoppers::{hopper, plate};

/// Round a duct of 300 × 200 inside, 5 thick: bars 40 wide are 310 to 390 and 210 to 290 long.
#[test]
fn stiffeners_of_a_duct_by_hand() {
    let r = hopper(&[
        "hopper 300 x 200 to 300 x 200, 400 high, 5 thick",
        "stiffen hopper-1 at 100, 40 wide, 6 thick, 2 every 150",
    ]);
    clean(&r);
    let bars: Vec<_> = r.plates.iter().filter(|p| p.places[0].name.starts_with("stiffen-1")).collect();
    let area = |long: f64| (long + long + 80.0) / 2.0 * 40.0;
    assert_eq!(bars.len(), 2, "equal ones are one row");
    for (p, long) in bars.iter().zip([310.0, 210.0]) {
        assert_eq!(p.places.len(), 4);
        assert_relative_eq!(p.piece.value("area"), area(long), epsilon = 1e-6);
        // A bar is told as long as it is, not by the box of a corner.
        let size = p.piece.flat.outer.bounds().size();
        assert_relative_eq!(size.x, long + 80.0, epsilon = 1e-6);
        assert_relative_eq!(size.y, 40.0, epsilon = 1e-6);
    }
    let (_, low, high, _) = plate(&r, "stiffen-1.2-north");
    let heights: Vec<f64> = [low, high].iter().map(|face| face[0].z).collect();
    assert!(heights.contains(&250.0) && heights.contains(&256.0), "{heights:?}");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// Bars lie on the slope of their sides: clear of the outer face, and touching it; in the corners they
    /// meet along the line that halves the corner.
    #[test]
    fn stiffeners_touch_their_sides_and_meet_in_the_corners(
        bottom in (150.0..600.0f64, 150.0..600.0f64), top in (150.0..600.0f64, 150.0..600.0f64),
        high in 150.0..700.0f64, by in (-120.0..120.0f64, -120.0..120.0f64), t in 1.0..10.0f64,
        rise in 0.0..100.0f64, share in 0.05..0.85f64, thick in 2.0..12.0f64, open in 0usize..5,
    ) {
        let names = ["south", "east", "north", "west"];
        let left = ["", ", open south", ", open east", ", open north", ", open west"][open];
        let line = format!(
            "hopper {} x {} to {} x {}, {high} high, {t} thick, rising to {} north, {} east, {} north{left}",
            bottom.0, bottom.1, top.0, top.1, high + rise, by.0, by.1
        );
        let at = high * share;
        let stiffen = format!("stiffen hopper-1 at {at}, 45 wide, {thick} thick");
        let r = hopper(&[&line, &stiffen]);
        if let Some(f) = r.faults.first() {
            let near_top = f.line == "stiffen-1" && f.fault.message.contains("over the upper opening");
            let tilted = f.line == "hopper-1" || f.fault.message.contains("cannot be made");
            prop_assert!(near_top && at + thick > high - 2.0 * rise - 60.0 || tilted, "{f:?}: {line}");
            return Ok(());
        }
        let bar = |k: usize| plate(&r, &format!("stiffen-1.{}", names[k]));
        for k in (0..4).filter(|k| open != k + 1) {
            let (_, low, high, z) = plate(&r, &format!("hopper-1.{}", names[k]));
            let out = [DVec3::NEG_Y, DVec3::X, DVec3::Y, DVec3::NEG_X][k];
            let n = if z.dot(out) > 0.0 { z } else { -z };
            let outer = low.iter().chain(&high).map(|p| p.dot(n)).fold(f64::NEG_INFINITY, f64::max);
            let (_, low, high, _) = bar(k);
            let points = [&low[..], &high[..]].concat();
            let nearest = points.iter().map(|p| p.dot(n)).fold(f64::INFINITY, f64::min) - outer;
            prop_assert!(nearest.abs() < 1e-6, "{} lies {nearest} off: {line} / {stiffen}", names[k]);
            let l = (k + 1) % 4;
            if open != l + 1 {
                let (_, low, high, _) = bar(l);
                let others = [&low[..], &high[..]].concat();
                let shared = points.iter().filter(|p| others.iter().any(|q| q.distance(**p) < 1e-6)).count();
                prop_assert_eq!(shared, 4, "{} and {}: {}", names[k], names[l], line);
            }
        }
    }
}

#[rstest]
#[case("stiffen hopper-2 at 100, 40 wide, 5 thick", "/say/of", "no plates")]
#[case("stiffen hopper-1 at 398, 40 wide, 5 thick", "/say/height", "over the upper opening")]
#[case("stiffen hopper-1 at 100, 40 wide, 5 thick, 3 every 4", "/say/pitch", "in one another")]
#[case("stiffen hopper-1 at 100, 40 wide, 5 thick, 9 every 50", "/say/height", "over the upper opening")]
fn stiffeners_that_cannot_be_are_refused(#[case] line: &str, #[case] path: &str, #[case] words: &str) {
    let r = hopper(&["hopper 300 x 200 to 400 x 300, 400 high, 5 thick", line]);
    let f = r.faults.first().unwrap();
    assert!(f.path == path && f.fault.message.contains(words) && !f.fault.mend.is_empty(), "{f:?}");
    assert!(r.plates.iter().all(|p| p.places[0].name.starts_with("hopper-1")), "the hopper stays alone");
}

/// Round the same duct angles of 40 are 310 and 210 long at their toes, 390 and 290 over all, cut at 45°;
/// whichever way their other leg goes.
#[rstest]
#[case("", [100.0, 140.0])]
#[case(", leg down", [64.0, 104.0])]
fn angles_round_a_duct_by_hand(#[case] leg: &str, #[case] stands: [f64; 2]) {
    let stiffen = format!("stiffen hopper-1 at 100, of L 40x40x4{leg}");
    let r = hopper(&["hopper 300 x 200 to 300 x 200, 400 high, 5 thick", &stiffen]);
    clean(&r);
    assert_eq!(r.groups.iter().map(|g| g.fits.len()).collect::<Vec<_>>(), [2, 2]);
    for (name, toe) in [("south", 310.0), ("east", 210.0), ("north", 310.0), ("west", 210.0)] {
        let (m, f) = of(&r, &format!("stiffen-1.{name}"));
        assert_abs_diff_eq!(f.lengths.overall, toe + 80.0, epsilon = 1e-9);
        assert!(f.cuts.iter().all(|c| (plane(c).angle.to_degrees() - 45.0).abs() < 1e-9));
        let points = body(m, &r.profiles[m.profile], true).points;
        for (end, want) in [f64::min, f64::max].into_iter().zip(stands) {
            let z = points.iter().map(|p| p.z).reduce(end).unwrap();
            assert_abs_diff_eq!(z, want, epsilon = 1e-9);
        }
        // EN 10056-1: 308 mm², its middle 11.2 from its heel, 44,700 mm⁴ about it; further out it is longer.
        let drawn_out = 2.0 * 44_700.0 / (308.0 * (toe + 2.0 * (40.0 - 11.2)));
        let out = [f.centre.x.abs() - 155.0, f.centre.y.abs() - 105.0].into_iter().fold(0.0, f64::max);
        assert_abs_diff_eq!(out, 40.0 - 11.2 + drawn_out, epsilon = 0.1);
    }
    let toes: Vec<f64> = r.welds.iter().filter(|w| w.between[1].is_empty()).map(|w| w.length).collect();
    assert!(toes.iter().filter(|l| (**l - 310.0).abs() < 1e-6).count() == 2, "{toes:?}");
    let corners = r.joints.iter().flat_map(|j| &j.members_at_node).filter(|m| m.1 == Role::Mitred).count();
    assert_eq!(corners, 8);
    // What a copy has of the toes' welds is counted with them.
    let copied = hopper(&[
        "hopper 300 x 200 to 300 x 200, 400 high, 5 thick",
        &stiffen,
        "mirror hopper-1 and stiffen-1 across east at 1000",
    ]);
    clean(&copied);
    assert_relative_eq!(copied.weld_mass(), 2.0 * r.weld_mass(), max_relative = 1e-9);
    assert_eq!(copied.groups.len(), 2);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// Angles touch their side with their toe and stand clear of it elsewhere; both of a corner are cut on
    /// the plane that halves it.
    #[test]
    fn angles_touch_their_sides_with_their_toes(
        bottom in (150.0..600.0f64, 150.0..600.0f64), top in (150.0..600.0f64, 150.0..600.0f64),
        high in 150.0..700.0f64, by in (-120.0..120.0f64, -120.0..120.0f64), t in 1.0..10.0f64,
        share in 0.1..0.7f64, down in any::<bool>(), open in 0usize..5,
        section in prop::sample::select(vec![("L 40x40x4", 4.0), ("L 60x40x5", 5.0), ("L 25x25x3", 3.0)]),
    ) {
        let names = ["south", "east", "north", "west"];
        let left = ["", ", open south", ", open east", ", open north", ", open west"][open];
        let line = format!(
            "hopper {} x {} to {} x {}, {high} high, {t} thick, {} east, {} north{left}",
            bottom.0, bottom.1, top.0, top.1, by.0, by.1
        );
        let at = high * share;
        let leg = if down { ", leg down" } else { "" };
        let stiffen = format!("stiffen hopper-1 at {at}, of {}{leg}", section.0);
        let r = hopper(&[&line, &stiffen]);
        let outwards = |k: usize| [DVec3::NEG_Y, DVec3::X, DVec3::Y, DVec3::NEG_X][k];
        if let Some(f) = r.faults.first() {
            // Only where a side leans towards the leg.
            prop_assert!(f.path == "/say/leg" && !f.fault.mend.is_empty(), "{f:?}: {line} {stiffen}");
            return Ok(());
        }
        for k in (0..4).filter(|k| open != k + 1) {
            let (_, low, top, z) = plate(&r, &format!("hopper-1.{}", names[k]));
            let n = if z.dot(outwards(k)) > 0.0 { z } else { -z };
            let outer = low.iter().chain(&top).map(|p| p.dot(n)).fold(f64::NEG_INFINITY, f64::max);
            let points = |k: usize| {
                let (m, _) = of(&r, &format!("stiffen-1.{}", names[k]));
                body(m, &r.profiles[m.profile], true).points
            };
            let own = points(k);
            let off = |p: &DVec3| p.dot(n) - outer;
            let nearest = own.iter().map(off).fold(f64::INFINITY, f64::min);
            // The toe is rounded on its upper face: where that is the one that touches, it stands back.
            let toe = section.1 / 2.0;
            prop_assert!(nearest > -1e-6 && nearest < toe, "{nearest}: {line} {stiffen}");
            let levels = own.iter().map(|p| p.z);
            let (least, most) = (levels.clone().fold(f64::INFINITY, f64::min), levels.fold(0.0, f64::max));
            let level = if down { most - section.1 } else { least };
            prop_assert!((level - at).abs() < 1e-6, "{level} for {at}");
            let l = (k + 1) % 4;
            if open != l + 1 {
                let between = outwards(k) - outwards(l);
                let most = |points: &[DVec3], way: DVec3| {
                    points.iter().map(|p| p.dot(way)).fold(f64::NEG_INFINITY, f64::max)
                };
                let (a, b) = (most(&own, -between), most(&points(l), between));
                prop_assert!((a + b).abs() < 1e-6, "{} {a} {b}", names[k]);
            }
        }
    }
}

#[rstest]
#[case("stiffen hopper-1 at 100, of SHS 40x40x3", "/say/section", "no angle")]
#[case("stiffen hopper-1 at 100, 40 wide, of L 40x40x4", "/say/section", "at once")]
#[case("stiffen hopper-1 at 100, 40 wide", "/say/thickness", "")]
#[case("stiffen hopper-1 at 100, of L 40x40x4, 3 every 30", "/say/pitch", "in one another")]
#[case("stiffen hopper-1 at 398, of L 40x40x4", "/say/height", "over the upper opening")]
#[case("stiffen hopper-1 at 60, of L 90x60x6", "/say/leg", "runs into the south side")]
fn angles_that_cannot_be_are_refused(#[case] line: &str, #[case] path: &str, #[case] words: &str) {
    let r = hopper(&["hopper 300 x 200 to 900 x 800, 400 high, 5 thick", line]);
    let f = r.faults.first().unwrap();
    assert!(f.path == path && f.fault.message.contains(words) && !f.fault.mend.is_empty(), "{f:?}");
    assert!(r.members.is_empty(), "the hopper stays alone");
}
