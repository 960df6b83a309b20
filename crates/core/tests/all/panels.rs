//! Plates between openings of any straight-sided shape: by hand, against the hopper of four, and over random
//! ones, where no plate comes over the plane that halves what is between it and any other.

use approx::{assert_abs_diff_eq, assert_relative_eq};
use glam::DVec3;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::frame::*;
use steelk_core::job::*;

use crate::common::frame::*;
use crate::hoppers::hopper;
use crate::mitred_hoppers::solids;

/// Area of a regular hexagon by its width across the flats.
pub fn hexagon(across: f64) -> f64 {
    across * across * 3f64.sqrt() / 2.0
}

/// A mitred duct fills what lies between its inner and its outer hexagon; edges are cut at 30°.
#[test]
fn a_duct_of_six_by_hand() {
    let r = hopper(&[
        "transition polygon 6 sides, 400 across to polygon 6 sides, 400 across, 500 high, 10 thick, \
        inside, mitred",
    ]);
    clean(&r);
    let volume = (hexagon(420.0) - hexagon(400.0)) * 500.0;
    assert_relative_eq!(r.mass(), volume * 7850e-9, max_relative = 1e-9);
    let [row] = r.plates.as_slice() else { panic!("{} rows", r.plates.len()) };
    assert_eq!(row.places.len(), 6);
    assert!(row.piece.flat.bevels.iter().all(|b| (b.angle.to_degrees() - 30.0).abs() < 1e-9));
    let size = row.piece.flat.outer.bounds().size();
    assert_relative_eq!(size.x * size.y, 500.0 * 420.0 / 3f64.sqrt(), max_relative = 1e-9);
    assert_eq!(r.welds.iter().map(|w| w.count).sum::<usize>(), 6);
    assert!(r.welds.iter().all(|w| w.kind == WeldKind::Butt && (w.length - 500.0).abs() < 1e-9));
}

/// A frustum of six told inside, in inches: trapezia by their slant height, and seams by the way between the
/// corners.
#[test]
fn a_frustum_of_six_by_hand() {
    let r = hopper(&["transition polygon 6 sides, 30in across to polygon 6 sides, 12in across, 20in high, \
        1/4in thick, inside"]);
    clean(&r);
    let (low, high, tall, t) = (762.0, 304.8, 508.0, 6.35);
    let slant = f64::hypot(tall, (low - high) / 2.0);
    let area = 6.0 * (low + high) / 2.0 / 3f64.sqrt() * slant;
    assert_relative_eq!(r.mass(), area * t * 7850e-9, max_relative = 1e-9);
    let seam = f64::hypot(tall, (low - high) / 3f64.sqrt());
    assert!(r.welds.iter().all(|w| (w.length - seam).abs() < 1e-6));
    // Between neighbours: the way out of each leans by the slant, 60° apart in plan.
    let level = tall / slant;
    let cos = level * level * 0.5 + (1.0 - level * level);
    let corner = r.plates[0].places[0].corner.as_ref().unwrap();
    assert_abs_diff_eq!(corner.angle, std::f64::consts::PI - cos.acos(), epsilon = 1e-9);
}

/// A square turned by 45° over a larger one: four triangles on each, and the seams of an antiprism.
#[test]
fn a_turned_square_by_hand() {
    let r = hopper(&[
        "transition rectangle 400 x 400 to rectangle 200 x 200, 300 high, 1 thick, inside, turned 45°",
    ]);
    clean(&r);
    assert_eq!(r.plates.iter().map(|p| p.places.len()).collect::<Vec<_>>(), [4, 4]);
    // A corner of the upper one stands 100·√2 out, over the middle of a side of the lower one.
    let out = 100.0 * 2f64.sqrt();
    let on_low = 400.0 * f64::hypot(300.0, 200.0 - out) / 2.0;
    // From the middle of an upper side to the lower corner before it.
    let on_high = 200.0 * f64::hypot(300.0, 200.0 * 2f64.sqrt() - 100.0) / 2.0;
    assert_relative_eq!(r.mass(), 4.0 * (on_low + on_high) * 7850e-9, max_relative = 1e-9);
    let seam = DVec3::new(200.0, 200.0 - out, 300.0).length();
    assert!(r.welds.iter().all(|w| (w.length - seam).abs() < 1e-6), "{:?}", r.welds);
    assert_eq!(r.welds.iter().map(|w| w.count).sum::<usize>(), 8);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// Between two rectangles it is the hopper of four plates, which finds its sides in another way.
    #[test]
    fn between_rectangles_it_is_a_hopper(
        bottom in (150.0..600.0f64, 150.0..600.0f64), top in (150.0..600.0f64, 150.0..600.0f64),
        high in 150.0..700.0f64, by in (-120.0..120.0f64, -120.0..120.0f64), t in 1.0..10.0f64,
        gap in prop_oneof![Just(0.0), 0.5..5.0f64], met in 0usize..4, open in 0usize..7,
        measure in prop::sample::select(vec![
            ("inside", "inside"), ("middle", "mid-thickness"), ("outside", "outside"),
        ]),
    ) {
        let left = ["", "south", "east", "north", "west", "south and north", "east and west"][open];
        let left = if open > 0 { format!(", open {left}") } else { String::new() };
        // Corners against the clock, from the south-east.
        let told = |four: [&str; 4], is_there: [[&str; 2]; 4]| -> String {
            let there = |k: usize| !is_there[k].iter().any(|s| left.contains(s));
            let each = (0..4).filter(|k| there(*k)).map(|k| format!("{} gap {gap}", four[k]));
            match each.collect::<Vec<_>>() {
                none if none.is_empty() => String::new(),
                some => format!(", but {}", some.join(", but ")),
            }
        };
        let beside = [["south", "east"], ["east", "north"], ["north", "west"], ["west", "south"]];
        let in_turn = told([
            "south-east north or south over", "north-east east or west over",
            "north-west north or south over", "south-west east or west over",
        ], beside);
        let over = ["south over east", "north over east", "north over west", "south over west"];
        let two_over = told(over, beside);
        let (for_four, for_any) = [
            ("", String::new()), (", mitred", ", mitred".into()), (&*in_turn, ", each over the next".into()),
            (", north and south over", two_over),
        ][met].clone();
        let rest = |how: &str| {
            // What is told of all stands before what is told of one.
            let (all, one) = match how.find(", but") {
                Some(at) => how.split_at(at),
                None => (how, ""),
            };
            format!("{} east, {} north{left}{all}, gap {gap}{one}", by.0, by.1)
        };
        let (a, b) = (bottom, top);
        let four = hopper(&[&format!(
            "hopper {} x {} to {} x {} {}, {high} high, {t} thick, {}", a.0, a.1, b.0, b.1, measure.1,
            rest(for_four))]);
        let any = hopper(&[&format!(
            "transition rectangle {} x {} to rectangle {} x {}, {high} high, {t} thick, {}, {}",
            a.0, a.1, b.0, b.1, measure.0, rest(&for_any))]);
        clean(&four);
        clean(&any);
        // Plates that differ by less than 0.005 mm are one row, weighed as one of them.
        let near = if four.plates.iter().any(|p| p.places.len() > 1) { 1e-4 } else { 1e-9 };
        prop_assert!((any.mass() / four.mass() - 1.0).abs() < near, "{} {}", any.mass(), four.mass());
        let welded = |r: &FrameResult| r.welds.iter().map(|w| w.length * w.count as f64).sum::<f64>();
        let off = (welded(&any) - welded(&four)).abs();
        prop_assert!(off < near * 1e3, "{} {}", welded(&any), welded(&four));
        let off = (extent(&any).unwrap().0 - extent(&four).unwrap().0).length();
        prop_assert!(off < if near > 1e-6 { 0.01 } else { 1e-6 }, "{off}");
    }

    /// Any plate stays on its side of the plane that halves the corner with any other, which neighbours come
    /// as near as told; each mesh is as heavy as its plate; all of both openings is closed.
    #[test]
    fn plates_keep_to_their_side(
        sides in (3usize..9, 3usize..9), across in (200.0..600.0f64, 120.0..500.0f64),
        high in 200.0..600.0f64, by in (-100.0..100.0f64, -100.0..100.0f64), turned in 0.0..90.0f64,
        tilt in prop_oneof![Just(0.0), -20.0..20.0f64], t in 1.0..12.0f64, mitred: bool,
        gap in prop_oneof![Just(0.0), 0.5..3.0f64], inside: bool,
    ) {
        let line = format!(
            "transition polygon {} sides, {} across to polygon {} sides, {} across, {high} high, {t} \
            thick{}, \
             {} east, {} north, turned {turned}°, tilted {tilt}° east{}, gap {gap}",
            sides.0, across.0, sides.1, across.1, if inside { ", inside" } else { "" }, by.0, by.1,
            if mitred { ", mitred" } else { "" },
        );
        let r = hopper(&[&line]);
        if let Some(f) = r.faults.first() {
            let of = |words: &str| f.fault.message.contains(words);
            // A gap that is not there is not what leaves nothing.
            let fits = of("runs into the plane") || of("too thick") || (gap > 0.0 && of("leaves nothing"));
            prop_assert!(fits, "{f:?}: {line}");
            return Ok(());
        }
        let made = solids(&r);
        prop_assert_eq!(made.len(), r.plates.iter().map(|p| p.places.len()).sum::<usize>());
        for p in &r.plates {
            let mesh = made.iter().find(|s| s.0 == p.places[0].name).unwrap().2;
            let off = mesh * 7850e-9 / p.piece.value("mass") - 1.0;
            prop_assert!(off.abs() < 1e-9, "{off} of {mesh}: {line}");
        }
        let inner = DVec3::new(by.0 / 2.0, by.1 / 2.0, high / 2.0);
        let stood: Vec<(&PlatePlace, &Vec<DVec3>, DVec3, f64)> = r.plates.iter().flat_map(|p| &p.places)
            .map(|place| {
                let points = &made.iter().find(|s| s.0 == place.name).unwrap().1;
                let out = if place.z.dot(place.o - inner) > 0.0 { place.z } else { -place.z };
                let low = points.iter().map(|p| p.dot(out)).fold(f64::INFINITY, f64::min);
                (place, points, out, low)
            })
            .collect();
        for (place, a, n, low) in &stood {
            for (other, b, m, off) in stood.iter().filter(|o| o.0.name != place.name) {
                // How much further out of its own inner plane than of the other's.
                let over = |p: &DVec3| p.dot(*n) - low - p.dot(*m) + off;
                let least = a.iter().map(over).fold(f64::INFINITY, f64::min);
                let most = b.iter().map(over).fold(f64::NEG_INFINITY, f64::max);
                let both = (&place.name, &other.name);
                prop_assert!(least > -1e-6 && most < 1e-6, "{least} {most} of {both:?}: {line}");
                let met = place.corner.as_ref().map(|c| format!(".{}", c.next));
                let next = met.is_some_and(|part| other.name.ends_with(&part));
                if next {
                    let off = least - most - gap * (*n - *m).length();
                    prop_assert!(off.abs() < 1e-6, "{off} off the gap of {both:?}: {line}");
                }
            }
        }
    }
}

#[rstest]
#[case("polygon 6 sides, 300 across to round 100, 200 high, 3 thick", "/say/top", "no plane sides")]
#[case("rectangle 300 x 200 corners R20 to point, 200 high, 3 thick", "/say/bottom", "no plane sides")]
#[case("point to point, 200 high, 3 thick", "/say/top", "both openings are points")]
#[case(
    "polygon 6 sides, 300 across to polygon 6 sides, 20 across, 60 high, 15 thick",
    "/say/measure",
    "too thick"
)]
#[case(
    "polygon 6 sides, 300 across to polygon 6 sides, 200 across, 20 high, 2 thick, tilted 30° east",
    "/say/height",
    "runs into"
)]
#[case(
    "polygon 6 sides, 300 across to polygon 6 sides, 200 across, 90 high, 2 thick, open west",
    "/say/open",
    "there is no side west"
)]
#[case("rectangle 100 x 100 to rectangle 80 x 80, 90 high, 2 thick, gap 150", "/say/gap", "leaves nothing")]
fn what_has_no_plates_is_refused(#[case] told: &str, #[case] path: &str, #[case] words: &str) {
    let r = hopper(&[&format!("transition {told}")]);
    let f = r.faults.first().unwrap_or_else(|| panic!("{told} was taken"));
    assert!(f.path.starts_with(path) && f.fault.message.contains(words) && !f.fault.mend.is_empty(), "{f:?}");
    assert!(r.plates.is_empty());
}

/// Images stand where a mirror puts them; of a bin that is its own image the plates stay one row.
#[test]
fn mirrored_plates() {
    let line =
        "transition polygon 6 sides, 400 across to polygon 6 sides, 200 across, 300 high, 5 thick, mitred";
    let one = hopper(&[line]);
    let two = hopper(&[line, "mirror transition-1 east 2000"]);
    clean(&two);
    assert_eq!([one.plates.len(), two.plates.len()], [1, 1]);
    assert_relative_eq!(two.mass(), 2.0 * one.mass(), max_relative = 1e-12);
}

/// Where two plates lie nearly in one plane it is said that a bend is better than a weld; else not.
#[test]
fn plates_that_are_nearly_one() {
    let six =
        hopper(&["transition polygon 6 sides, 400 across to polygon 6 sides, 200 across, 300 high, 5 thick"]);
    assert!(six.findings.iter().all(|f| !f.message.contains("needs no weld")));
    let flat = hopper(&[
        "transition polygon 8 sides, 600 across to polygon 8 sides, 200 across, 350 high, 2 thick, \
        tilted 10° north",
    ]);
    let note = flat.findings.iter().find(|f| f.check == "corners").unwrap();
    assert!(
        note.message.contains("below 10° one plate, bent along that line, needs no weld"),
        "{}",
        note.message
    );
}
