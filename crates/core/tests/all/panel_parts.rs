//! Flanges, stiffeners and lugs on plates between openings of any straight-sided shape: by hand, over random
//! ones, and refused where a plate comes to an opening with its tip.

use std::f64::consts::PI;

use approx::assert_relative_eq;
use glam::DVec3;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::frame::*;
use steelk_core::geom::convex::Prism;

use crate::common::frame::*;
use crate::hoppers::hopper;
use crate::mitred_hoppers::solids;
use crate::panels::hexagon;
use crate::rims::{at as stands, developed, flanged, rim_line};

/// The plates of a line in turn against the clock, by where they look; what they enclose lies round a place.
fn in_turn(r: &FrameResult, middle: DVec3) -> Vec<String> {
    let places = r.plates.iter().filter(|p| !p.name.contains("counter")).flat_map(|p| &p.places);
    let mut found: Vec<(f64, String)> = places
        .map(|place| {
            let out = if place.z.dot(place.o - middle) > 0.0 { place.z } else { -place.z };
            (out.y.atan2(out.x), place.name.clone())
        })
        .collect();
    found.sort_by(|a, b| a.0.total_cmp(&b.0));
    found.into_iter().map(|f| f.1).collect()
}

/// An upright duct of six: flats are their walls and flanges with the bend between, by DIN 6935; the ring
/// fills what lies between two hexagons.
#[test]
fn flanges_of_a_duct_of_six_by_hand() {
    let duct =
        "transition polygon 6 sides, 400 across to polygon 6 sides, 400 across, 300 high, 3 thick, inside";
    let r = hopper(&[duct, "rim transition-1 top, 40 wide, R4, holes 9, 3 a side, counter-flange 5"]);
    clean(&r);
    let (row, _) = stands(&r, "transition-1.face-1").unwrap();
    assert_eq!(row.places.len(), 6, "equal sides are one row");
    let high = (40.0 - 7.0) + developed(4.0, 3.0) + (300.0 - 7.0);
    let size = row.piece.flat.outer.bounds().size();
    assert_relative_eq!(size.x * size.y, high * 400.0 / 3f64.sqrt(), max_relative = 1e-9);
    let (ring, place) = stands(&r, "transition-1.upper-counter").unwrap();
    let area = hexagon(480.0) - hexagon(400.0) - 18.0 * PI * 4.5f64.powi(2);
    assert_relative_eq!(ring.piece.value("area"), area, epsilon = 1e-6);
    assert_relative_eq!(place.o.z.min(place.o.z + place.z.z * 5.0), 300.0, epsilon = 1e-9);
    let welded = |r: &FrameResult| r.welds.iter().map(|w| w.length * w.count as f64).sum::<f64>();
    assert_relative_eq!(welded(&r), 6.0 * 300.0, epsilon = 1e-6);
    // A mitre halves an angle of 120°: 40 wide it is 40 / sin 60° long.
    let mitred = hopper(&[duct, "rim transition-1 bottom, 40 wide, mitred 2"]);
    clean(&mitred);
    assert_relative_eq!(welded(&mitred) - welded(&r), 6.0 * 80.0 / 3f64.sqrt(), epsilon = 1e-6);
}

/// Round the same duct, 3 thick: bars 30 wide fill what lies between two hexagons. Angles have their toes on
/// the walls.
#[test]
fn stiffeners_of_a_duct_of_six_by_hand() {
    let duct =
        "transition polygon 6 sides, 400 across to polygon 6 sides, 400 across, 300 high, 3 thick, inside";
    let r = hopper(&[duct, "stiffen transition-1 at 120, 30 wide, 5 thick"]);
    clean(&r);
    let bars: Vec<_> = r.plates.iter().filter(|p| p.name.starts_with("stiffen-1")).collect();
    assert_eq!(bars.iter().map(|p| p.places.len()).collect::<Vec<_>>(), [6]);
    assert_relative_eq!(6.0 * bars[0].piece.value("area"), hexagon(466.0) - hexagon(406.0), epsilon = 1e-6);
    let r = hopper(&[duct, "stiffen transition-1 at 120, of L 30x30x3"]);
    clean(&r);
    assert_eq!(r.groups.iter().map(|g| g.fits.len()).collect::<Vec<_>>(), [6]);
    let (_, angle) = of(&r, "stiffen-1.face-1");
    assert_relative_eq!(angle.lengths.overall, 466.0 / 3f64.sqrt(), epsilon = 1e-9);
}

/// On a square turned over another there are triangles on their tips: bars lie on the steepest way of each,
/// and a lug stands on one.
#[test]
fn a_lug_and_stiffeners_on_triangles() {
    let bin =
        "transition rectangle 400 x 400 to rectangle 300 x 300, 400 high, 4 thick, inside, turned 45°, on A";
    let r = hopper(&[
        "node A 70 -40 900",
        bin,
        "stiffen transition-1 at 90, 30 wide, 5 thick, 2 every 150",
        "lug on transition-1.east, 200 from its start, 60 up its side, 10 thick, R28, eye ⌀22 at 40",
        "lug on transition-1.face-1, 0 from its start, 300 up its side, 10 thick, R28, eye ⌀22 at 40",
    ]);
    clean(&r);
    assert_eq!(
        r.plates.iter().filter(|p| p.name.starts_with("stiffen-1")).count(),
        4,
        "two of either height"
    );
    let made = solids(&r);
    let middle = DVec3::new(70.0, -40.0, 1100.0);
    let solid = |name: &str| &made.iter().find(|s| s.0 == name).unwrap().1;
    let face = |name: &str| {
        let (_, place) = stands(&r, name).unwrap();
        let out = if place.z.dot(place.o - middle) > 0.0 { place.z } else { -place.z };
        (out, solid(name).iter().map(|p| p.dot(out)).fold(f64::NEG_INFINITY, f64::max))
    };
    for k in ["east", "face-1", "north", "face-2", "west", "face-3", "south", "face-4"] {
        let (out, outer) = face(&format!("transition-1.{k}"));
        for level in 1..3 {
            let bar = solid(&format!("stiffen-1.{level}-{k}"));
            let off = bar.iter().map(|p| p.dot(out) - outer).fold(f64::INFINITY, f64::min);
            assert!(off.abs() < 1e-6, "{k} {off}");
        }
    }
    for (lug, k, up) in [("lug-1", "east", 60.0), ("lug-2", "face-1", 300.0)] {
        let ((out, outer), points) = (face(&format!("transition-1.{k}")), solid(&format!("{lug}.upright")));
        let foot: Vec<DVec3> = points.iter().filter(|p| (p.dot(out) - outer).abs() < 1e-6).copied().collect();
        assert!(!foot.is_empty() && points.iter().all(|p| p.dot(out) > outer - 1e-6), "{k}");
        let slope = (DVec3::Z - out * out.z).normalize();
        let low =
            solid(&format!("transition-1.{k}")).iter().map(|p| p.dot(slope)).fold(f64::INFINITY, f64::min);
        let at = foot.iter().sum::<DVec3>() / foot.len() as f64;
        assert!((at.dot(slope) - low - up).abs() < 1e-6, "{k}: {}", at.dot(slope) - low);
    }
}

/// The same duct with a flat ring welded onto its end, and its counterpart: both fill what lies between two
/// hexagons, one on the other.
#[test]
fn a_ring_welded_on_by_hand() {
    let duct =
        "transition polygon 6 sides, 400 across to polygon 6 sides, 400 across, 300 high, 3 thick, inside";
    let r =
        hopper(&[duct, "rim transition-1 top, 40 wide, welded on 6, holes 9, 3 a side, counter-flange 5"]);
    clean(&r);
    let area = hexagon(480.0) - hexagon(400.0) - 18.0 * PI * 4.5f64.powi(2);
    for (name, lies) in [("flange", [300.0, 306.0]), ("counter", [306.0, 311.0])] {
        let (ring, place) = stands(&r, &format!("transition-1.upper-{name}")).unwrap();
        assert_relative_eq!(ring.piece.value("area"), area, epsilon = 1e-6);
        let z = [place.o.z, place.o.z + place.z.z * ring.piece.thickness];
        assert_relative_eq!(z[0].min(z[1]), lies[0], epsilon = 1e-9);
        assert_relative_eq!(z[0].max(z[1]), lies[1], epsilon = 1e-9);
    }
    let welded = |r: &FrameResult| r.welds.iter().map(|w| w.length * w.count as f64).sum::<f64>();
    assert_relative_eq!(welded(&r), 6.0 * 300.0 + 6.0 * 400.0 / 3f64.sqrt(), epsilon = 1e-6);
    // In strips with a gap of 2, on a square that is turned over another: a mitre is 50·√2 long.
    let bin = "transition rectangle 400 x 400 to rectangle 300 x 300, 400 high, 4 thick, inside, turned 45°";
    let r = hopper(&[bin, "rim transition-1 top, 50 wide, welded on 6, mitred 2, as strips"]);
    clean(&r);
    let strips = r.plates.iter().find(|p| p.name.contains("upper-flange")).unwrap();
    assert_eq!(strips.places.len(), 4, "equal strips are one row");
    let lost = 2.0 * 2f64.sqrt() * 50.0;
    assert_relative_eq!(
        strips.piece.value("area"),
        (400.0f64.powi(2) - 300.0f64.powi(2)) / 4.0 - lost,
        epsilon = 1e-6
    );
    let seams = 4.0 * (300.0 - 2.0 * 2f64.sqrt() + 50.0 * 2f64.sqrt());
    let of_strips = r.welds.iter().filter(|w| w.at.contains("upper-flange"));
    assert_relative_eq!(of_strips.map(|w| w.length * w.count as f64).sum::<f64>(), seams, epsilon = 1e-6);
    // One side alone: square ends, and no mitre.
    let r = hopper(&[
        "hopper 300 x 200 to 300 x 200, 250 high, 3 thick",
        "rim hopper-1 bottom on east, 30 wide, welded on 5, holes 9, 2 a side, as strips",
    ]);
    clean(&r);
    let (strip, _) = stands(&r, "hopper-1.lower-flange-east").unwrap();
    assert_relative_eq!(strip.piece.value("area"), 30.0 * 200.0 - 2.0 * PI * 4.5f64.powi(2), epsilon = 1e-6);
}

/// Sides are named one by one: these two have their flange, the other four end square.
#[test]
fn flanges_of_named_sides() {
    let duct =
        "transition polygon 6 sides, 400 across to polygon 6 sides, 400 across, 300 high, 3 thick, inside";
    let r = hopper(&[duct, "rim transition-1 top on face-2 and south, 40 wide, R4"]);
    clean(&r);
    let high = |name: &str| {
        let size = stands(&r, &format!("transition-1.{name}")).unwrap().0.piece.flat.outer.bounds().size();
        size.x * size.y * 3f64.sqrt() / 400.0
    };
    let bent = (40.0 - 7.0) + developed(4.0, 3.0) + (300.0 - 7.0);
    for (name, want) in [("south", bent), ("face-1", 300.0), ("face-2", bent), ("face-3", 300.0)] {
        assert_relative_eq!(high(name), want, max_relative = 1e-9);
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    /// Flats lie on the tilted opening and on one another, their roots on its corners, holes over holes;
    /// strips are as far apart as told, and no plate stands in them.
    #[test]
    fn flats_lie_on_their_opening_and_no_plate_stands_in_them(
        sides in (3usize..9, 3usize..9), across in (300.0..700.0f64, 300.0..700.0f64),
        high in 200.0..600.0f64, by in (-80.0..80.0f64, -80.0..80.0f64), turned in 0.0..90.0f64,
        tilt in prop_oneof![Just(0.0), -12.0..12.0f64], t in 1.0..8.0f64, upper: bool, width in 20.0..50.0f64,
        inward: bool, gap in prop::option::of(0.5..4.0f64), count in 1usize..4, mitred: bool,
    ) {
        let line = format!(
            "transition polygon {} sides, {} across to polygon {} sides, {} across, {high} high, {t} thick, \
             {} east, {} north, turned {turned}°, tilted {tilt}° east, inside{}",
            sides.0, across.0, sides.1, across.1, by.0, by.1, if mitred { ", mitred" } else { "" },
        );
        let rim = rim_line("transition-1", upper, width, inward, gap, count);
        let rim = format!("{rim}, welded on 6{}", if gap.is_some() { ", as strips" } else { "" });
        let r = hopper(&[&line, &rim]);
        if let Some(f) = r.faults.first() {
            prop_assert!(f.fault.message.contains("runs into the plane"), "{f:?}: {line} / {rim}");
            return Ok(());
        }
        let (middle, out) = match upper {
            false => (DVec3::ZERO, DVec3::NEG_Z),
            true => {
                let out = DVec3::new(-tilt.to_radians().sin(), 0.0, tilt.to_radians().cos());
                (DVec3::new(by.0, by.1, high), out)
            }
        };
        let (n, across) = if upper { (sides.1, across.1) } else { (sides.0, across.0) };
        let made = solids(&r);
        let lies = |part: &str| -> Vec<&(String, Vec<DVec3>, f64)> {
            made.iter().filter(|s| s.0.contains(part)).collect()
        };
        let (flanges, counters) = (lies("-flange"), lies("-counter"));
        prop_assert_eq!(flanges.len(), if gap.is_some() { n } else { 1 });
        prop_assert_eq!(counters.len(), flanges.len());
        for (flats, [low, top]) in [(&flanges, [0.0, 6.0]), (&counters, [6.0, 11.0])] {
            for p in flats.iter().flat_map(|f| &f.1) {
                let z = (*p - middle).dot(out);
                prop_assert!((z - low).abs().min((z - top).abs()) < 1e-6, "{z} over it: {line} / {rim}");
            }
        }
        let holes = |part: &str| -> Vec<DVec3> {
            let of = r.plates.iter().filter(|p| p.name.contains(part));
            of.flat_map(|p| p.places.iter().flat_map(move |q| {
                let round = p.piece.flat.holes.iter().filter_map(|h| h.contour.as_circle());
                round.map(move |(c, _)| q.o + q.x * c.x + q.y * c.y - middle)
            })).map(|p| p - out * p.dot(out)).collect()
        };
        let (ours, theirs) = (holes("-flange"), holes("-counter"));
        prop_assert_eq!((ours.len(), theirs.len()), (n * count, n * count));
        // Plates that differ by less than 0.005 mm are one row, drawn as one of them.
        let near = if flanges.len() > 1 { 0.02 } else { 1e-6 };
        for p in &ours {
            let off = theirs.iter().map(|q| q.distance(*p)).fold(f64::INFINITY, f64::min);
            prop_assert!(off < near, "a hole {off} off: {line} / {rim}");
        }
        match gap {
            // The root of an outward ring lies on the corners of the opening.
            None => {
                let want = [across / 2.0, across / 2.0 + width].map(|r| r / (PI / n as f64).cos());
                for p in flanges.iter().filter(|_| !inward).flat_map(|f| &f.1) {
                    let from = *p - middle;
                    let r = (from - out * from.dot(out)).length();
                    let at = from - out * from.dot(out);
                    let hole = ours.iter().any(|h| (at.distance(*h) - 4.0).abs() < 1e-3);
                    let off = want.iter().map(|w| (w - r).abs()).fold(f64::INFINITY, f64::min);
                    prop_assert!(hole || off < 1e-6, "{off} off its corner: {line} / {rim}");
                }
            }
            Some(gap) => {
                for (a, points, _) in &flanges {
                    let apart = |o: &&&(String, Vec<DVec3>, f64)| {
                        Prism { corners: points.clone() }.apart(&Prism { corners: o.1.clone() })
                    };
                    let others = flanges.iter().filter(|o| o.0 != *a);
                    let near = others.map(|o| apart(&o)).fold(f64::INFINITY, f64::min);
                    prop_assert!((near - gap).abs() < 0.02, "{near} between strips: {line} / {rim}");
                }
            }
        }
        let sides = made.iter().filter(|s| !s.0.contains("-flange") && !s.0.contains("-counter"));
        for (name, points, _) in sides {
            let most = points.iter().map(|p| (*p - middle).dot(out)).fold(f64::NEG_INFINITY, f64::max);
            prop_assert!(most < near, "{name} stands {most} in the flats: {line} / {rim}");
        }
    }

    #[test]
    fn flanges_of_polygons_lie_in_their_opening_meet_their_ring_and_keep_clear(
        n in 3usize..9, kind in 0usize..4, across in (420.0..900.0f64, 420.0..900.0f64),
        high in 200.0..800.0f64, by in (-150.0..150.0f64, -150.0..150.0f64), t in 0.8..5.0f64,
        measure in 0usize..3, upper: bool, width in 32.0..40.0f64, inward: bool, mirrored: bool,
        gap in prop::option::of(1.0..6.0f64), count in 1usize..5, met in 0usize..3,
    ) {
        // Plates that differ by less than 0.005 mm are one row, drawn as one of them.
        let whole = |v: f64| if v.abs() < 0.5 { 0.0 } else { v };
        let by = (whole(by.0), whole(by.1));
        let told = |k: usize| format!("polygon {n} sides, {} across", [across.0, across.1][k]);
        // The openings, and which of them has flanges all round.
        let (openings, upper) = match kind {
            0 => (format!("{} to point", told(0)), false),
            1 => (format!("point to {}", told(1)), true),
            2 => (format!("polygon 8 sides, {} across to rectangle 300 x 200", across.0), false),
            _ => (format!("{} to {}", told(0), told(1)), upper),
        };
        let line = format!(
            "transition {openings}, {high} high, {t} thick, {}, {} east, {} north{}",
            ["inside", "middle", "outside"][measure], by.0, by.1, ["", ", mitred", ", mitred, gap 2"][met],
        );
        let rim = rim_line("transition-1", upper, width, inward, gap, count);
        let mut lines = vec![&*line, &*rim];
        if mirrored {
            lines.push("mirror transition-1 east 3000");
        }
        let r = hopper(&lines);
        if let Some(fault) = r.faults.first() {
            let of = |words: &str| fault.fault.message.contains(words);
            let fits = of("cross at the") && inward && gap.is_none() || of("too short for its bend")
                || of("reach into the bend");
            prop_assert!(fits, "{:?}: {line} / {rim}", r.faults);
            return Ok(());
        }
        for (copy, x) in if mirrored { vec![("", 0.0), ("#2", 6000.0)] } else { vec![("", 0.0)] } {
            let middle = DVec3::new(by.0 / 2.0, by.1 / 2.0, high / 2.0);
            let middle = if x > 0.0 { DVec3::new(x - middle.x, middle.y, middle.z) } else { middle };
            let names: Vec<String> = in_turn(&r, middle)
                .into_iter()
                .filter(|n| n.ends_with("#2") != copy.is_empty())
                .collect();
            prop_assert_eq!(names.len(), if kind == 2 { 8 } else { n });
            let ring = format!("transition-1.{}-counter{copy}", if upper { "upper" } else { "lower" });
            flanged(&r, &names, &ring, count, gap, &format!("{line} / {rim}"))?;
        }
    }

    /// Bars touch their side and are clear of every other; neighbours share the ends of their mitre.
    #[test]
    fn bars_lie_on_every_side(
        sides in (3usize..9, 3usize..9), across in (250.0..600.0f64, 150.0..500.0f64),
        high in 200.0..600.0f64, by in (-80.0..80.0f64, -80.0..80.0f64), turned in 0.0..90.0f64,
        tilt in prop_oneof![Just(0.0), -8.0..8.0f64], t in 1.0..6.0f64, share in 0.05..0.7f64,
        thick in 2.0..8.0f64,
    ) {
        let line = format!(
            "transition polygon {} sides, {} across to polygon {} sides, {} across, {high} high, {t} thick, \
             {} east, {} north, turned {turned}°, tilted {tilt}° east, inside",
            sides.0, across.0, sides.1, across.1, by.0, by.1,
        );
        let at = high * share;
        let stiffen = format!("stiffen transition-1 at {at}, 25 wide, {thick} thick");
        let r = hopper(&[&line, &stiffen]);
        if let Some(f) = r.faults.first() {
            let words = &f.fault.message;
            let fits = words.contains("over the upper opening") || words.contains("no width")
                || words.contains("runs into the plane") || words.contains("cannot be made");
            prop_assert!(fits, "{f:?}: {line}");
            return Ok(());
        }
        let made = solids(&r);
        // Plates that differ by less than 0.005 mm are one row, drawn as one of them.
        let near = if r.plates.iter().any(|p| p.places.len() > 1) { 0.02 } else { 1e-6 };
        let middle = DVec3::new(by.0 / 2.0, by.1 / 2.0, high / 2.0);
        let walls = made.iter().filter(|s| s.0.starts_with("transition-1."));
        let walls: Vec<(&str, DVec3, f64)> = walls.map(|(name, points, _)| {
            let (_, place) = stands(&r, name).unwrap();
            let out = if place.z.dot(place.o - middle) > 0.0 { place.z } else { -place.z };
            let outer = points.iter().map(|p| p.dot(out)).fold(f64::NEG_INFINITY, f64::max);
            (name.rsplit('.').next().unwrap(), out, outer)
        }).collect();
        let bars: Vec<_> = made.iter().filter(|s| s.0.starts_with("stiffen-1.")).collect();
        prop_assert_eq!(bars.len(), walls.len());
        for (name, out, outer) in &walls {
            let bar = bars.iter().find(|b| b.0.ends_with(&format!(".{name}"))).unwrap();
            let off = bar.1.iter().map(|p| p.dot(*out) - outer).fold(f64::INFINITY, f64::min);
            prop_assert!(off.abs() < near, "{name} lies {off} off: {line} / {stiffen}");
        }
        for (k, (_, points, _)) in bars.iter().enumerate() {
            let shared = |other: &Vec<DVec3>| {
                points.iter().filter(|p| other.iter().any(|q| q.distance(**p) < near)).count()
            };
            let met = bars.iter().enumerate().filter(|(l, b)| *l != k && shared(&b.1) >= 4).count();
            prop_assert_eq!(met, 2, "{}: {} / {}", bars[k].0, line, stiffen);
            for (_, other, _) in bars.iter().skip(k + 1) {
                let apart = Prism { corners: points.clone() }.apart(&Prism { corners: other.clone() });
                prop_assert!(apart > -near, "bars {apart} in one another: {line} / {stiffen}");
            }
        }
    }
}

#[rstest]
#[case("rim transition-1 top, 40 wide", "/say/sides", "beside the edge of face-")]
#[case("rim transition-1 bottom on south, 40 wide", "/say/sides", "beside the edge of south")]
#[case("rim transition-2 top, 40 wide", "/say/opening", "this opening is a point")]
#[case("rim transition-2 bottom on south and west, 40 wide", "/say/sides/1", "there is no side west")]
#[case("rim transition-2 bottom, 40 wide, inward", "/say/ends", "cross at the")]
#[case("rim transition-2 bottom on south, 40 wide, counter-flange 5", "/say/counter", "all sides")]
#[case("rim transition-3 bottom, 40 wide", "/say/of", "makes no plates")]
#[case("rim transition-1 top, 40 wide, welded on 5, at 100°", "/say/angle", "level with their opening")]
#[case("rim transition-1 top, 40 wide, welded on 5, R4", "/say/radius", "no bend")]
#[case("rim transition-1 top, 40 wide, welded on 5, set back 4", "/say/ends", "end in mitres")]
#[case("rim transition-1 top, 40 wide, welded on 5, mitred 4", "/say/ends", "no mitres")]
#[case("rim transition-2 bottom, 40 wide, as strips", "/say/flats", "nothing is cut flat")]
#[case("rim transition-2 bottom on south, 40 wide, welded on 5", "/say/flats", "all sides")]
#[case("rim transition-1 top, 151 wide, inward, welded on 5", "/say/width", "nothing of the opening")]
#[case(
    "rim transition-1 top, 151 wide, inward, welded on 5, as strips",
    "/say/width",
    "ends before it begins"
)]
#[case(
    "rim transition-1 top, 40 wide, welded on 5, holes 9, 4 a side, 200 from ends",
    "/say/from_ends",
    "pass one another"
)]
#[case("stiffen transition-2 at 290, 40 wide, 12 thick", "/say/height", "over the upper opening")]
#[case(
    "lug on transition-2.west, 9 from its start, 9 up its side, 9 thick, R28, eye ⌀22 at 40",
    "/say/member",
    "no side of it"
)]
#[case(
    "lug on transition-2.north, 9 from its start, 9 up its side, 9 thick, R28, eye ⌀22 at 40",
    "/say/at",
    "runs over the edge"
)]
fn what_cannot_be_is_refused(#[case] line: &str, #[case] path: &str, #[case] words: &str) {
    let r = hopper(&[
        "transition rectangle 400 x 400 to rectangle 300 x 300, 400 high, 4 thick, turned 45°",
        "transition polygon 6 sides, 300 across to point, 300 high, 3 thick, 900 east",
        line,
    ]);
    assert!(!r.faults.is_empty(), "{line} was taken");
    assert!(r.faults.len() == 1 || words.contains("cross"), "told once: {:?}", r.faults);
    for f in &r.faults {
        let told = f.path == path && f.fault.message.contains(words);
        assert!(told && !f.fault.mend.is_empty(), "{f:?}");
    }
    assert_eq!(r.plates.iter().map(|p| p.places.len()).sum::<usize>(), 14, "the plates stand without it");
}
