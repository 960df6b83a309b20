//! Gussets under the flanges round an opening: by hand, over random ones with their faces measured in space,
//! and refused.

use std::collections::HashSet;

use approx::assert_relative_eq;
use glam::DVec3;
use proptest::prelude::*;
use rstest::rstest;

use crate::common::frame::*;
use crate::hoppers::hopper;
use crate::mitred_hoppers::solids;
use crate::rims::at as stands;

/// Four holes a side leave three places between them. The bend of R4 takes 4 off the root, and both noses are
/// 8 wide; the corner lies 3 below the opening and 3 out of the inner face.
#[test]
fn between_the_holes_of_a_duct_by_hand() {
    let r = hopper(&[
        "hopper 300 x 200 to 300 x 200, 250 high, 3 thick",
        "rim hopper-1 top, 50 wide, R4, holes 14, 4 a side, 30 from root",
        "gussets under rim-1, 30 x 60, 5 thick, nose 8",
    ]);
    clean(&r);
    let row = r.plates.iter().find(|p| p.name.starts_with("gussets-1")).unwrap();
    assert_eq!(row.places.len(), 12, "all are one plate");
    assert_relative_eq!(
        row.piece.value("area"),
        30.0 * 60.0 - 22.0 * 52.0 / 2.0 - 4.0 * 4.0 / 2.0,
        epsilon = 1e-6
    );
    let made = solids(&r);
    let east = &made.iter().find(|s| s.0 == "gussets-1.east-2").unwrap().1;
    let bounds = |f: &dyn Fn(&DVec3) -> f64| {
        east.iter().map(f).fold((f64::INFINITY, f64::NEG_INFINITY), |b, v| (b.0.min(v), b.1.max(v)))
    };
    // The middle one stands in the middle of its side of 200.
    for (got, want) in [
        (bounds(&|p| p.x), (153.0, 183.0)),
        (bounds(&|p| p.y), (-2.5, 2.5)),
        (bounds(&|p| p.z), (187.0, 247.0)),
    ] {
        assert_relative_eq!(got.0, want.0, epsilon = 1e-6);
        assert_relative_eq!(got.1, want.1, epsilon = 1e-6);
    }
    let welded: f64 =
        r.welds.iter().filter(|w| w.at.contains("gussets-1")).map(|w| w.length * w.count as f64).sum();
    assert_relative_eq!(welded, 12.0 * 2.0 * (30.0 + 60.0 - 8.0), epsilon = 1e-6);
}

/// In inches, under flats on a hopper that leans, two a side on two sides: the corner is where the outer face
/// comes to the opening, and there is no bend to clear.
#[test]
fn under_flats_in_inches() {
    let r = hopper(&[
        "hopper 8in x 8in to 20in x 16in, 12in high, 3/16in thick",
        "rim hopper-1 top on south and north, 2in wide, welded on 1/4in, as strips",
        "gussets under rim-1, 1in x 3in, 3/16in thick, 2 a side",
    ]);
    clean(&r);
    let row = r.plates.iter().find(|p| p.name.starts_with("gussets-1")).unwrap();
    assert_eq!(row.places.len(), 4);
    // The side runs out by 4 over 12; between it and the flat there are 90° and that lean.
    let lean = (4f64 / 12.0).atan();
    let area = 25.4f64.powi(2) * 3.0 / 2.0 * lean.cos();
    assert_relative_eq!(row.piece.value("area"), area, max_relative = 1e-9);
    let made = solids(&r);
    let top = made.iter().filter(|s| s.0.starts_with("gussets")).flat_map(|s| s.1.clone()).map(|p| p.z);
    assert_relative_eq!(top.fold(f64::NEG_INFINITY, f64::max), 304.8, epsilon = 1e-9);
}

/// A strip that is mitred at one end only: the gusset that stands over its gap is the one at that end, where
/// the next strip is.
#[test]
fn the_mitred_end_is_the_one_beside_the_next_strip() {
    let told = |gap: f64| {
        hopper(&[
            "hopper 300 x 200 to 300 x 200, 250 high, 3 thick",
            &format!("rim hopper-1 top on south and east, 50 wide, welded on 6, mitred {gap}, as strips"),
            "gussets under rim-1, 30 x 60, 5 thick, 6 a side",
        ])
    };
    let r = told(0.0);
    clean(&r);
    let made = solids(&r);
    let east = |k: usize| made.iter().find(|s| s.0 == format!("gussets-1.south-{k}")).unwrap().1[0].x > 120.0;
    let at_the_mitre = (1..=6).find(|k| east(*k)).unwrap();
    let r = told(40.0);
    let [f] = r.faults.as_slice() else { panic!("{:?}", r.faults) };
    let want = format!("flange gusset {at_the_mitre} of south stands over the end of its flange");
    assert_eq!((f.path.as_str(), f.fault.message.as_str()), ("/say/count", want.as_str()));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// Every one touches the outer face of its side and the lower face of its flange and stands in neither;
    /// between holes there is one less than holes; each clears the holes by half its thickness.
    #[test]
    fn they_touch_side_and_flange(
        n in 3usize..9, across in (420.0..900.0f64, 420.0..900.0f64), high in 250.0..800.0f64,
        by in (-150.0..150.0f64, -150.0..150.0f64), t in 1.0..5.0f64, upper: bool, width in 45.0..60.0f64,
        welded: bool, mitred: bool, gap in prop::option::of(1.0..6.0f64), holes in 2usize..5,
        count in prop::option::of(1usize..6), legs in (10.0..60.0f64, 20.0..80.0f64), thick in 3.0..8.0f64,
        nose in prop_oneof![Just(0.0), 2.0..9.0f64],
    ) {
        let line = format!(
            "transition polygon {n} sides, {} across to polygon {n} sides, {} across, {high} high, \
             {t} thick, inside, {} east, {} north{}",
            across.0, across.1, by.0, by.1, if mitred { ", mitred" } else { "" },
        );
        let ends = gap.map_or(String::new(), |g| format!(", mitred {g}"));
        let flats = match (welded, gap) {
            (false, _) => "",
            (true, None) => ", welded on 6",
            (true, Some(_)) => ", welded on 6, as strips",
        };
        let rim = format!(
            "rim transition-1 {}, {width} wide{ends}, holes 9, {holes} a side{flats}",
            if upper { "top" } else { "bottom" },
        );
        let told = count.map_or(String::new(), |c| format!(", {c} a side"));
        let (along, down) = legs;
        let gussets = format!("gussets under rim-1, {along} x {down}, {thick} thick, nose {nose}{told}");
        let plain = hopper(&[&line]);
        let flanged = hopper(&[&line, &rim]);
        prop_assume!(plain.faults.is_empty() && flanged.faults.is_empty());
        let r = hopper(&[&line, &rim, &gussets]);
        if let Some(f) = r.faults.first() {
            let fits = ["beyond the corner", "leave nothing", "one another", "at a hole", "over the e"];
            let fits = fits.iter().any(|w| f.fault.message.contains(w));
            prop_assert!(fits, "{f:?}: {line} / {rim} / {gussets}");
            prop_assert!(f.line == "gussets-1" && r.faults.len() == 1, "{f:?}");
            return Ok(());
        }
        let walls = solids(&plain);
        let made: Vec<_> = solids(&r).into_iter().filter(|s| s.0.starts_with("gussets-1")).collect();
        prop_assert_eq!(made.len(), n * count.unwrap_or(holes - 1));
        let near = if r.plates.iter().any(|p| p.places.len() > 1) { 0.02 } else { 1e-6 };
        let (opening, out) = if upper { (high, DVec3::Z) } else { (0.0, DVec3::NEG_Z) };
        let under = opening * out.z - if welded { 0.0 } else { t };
        let middle = DVec3::new(by.0 / 2.0, by.1 / 2.0, high / 2.0);
        let drilled: Vec<DVec3> = flanged.plates.iter().flat_map(|p| p.places.iter().flat_map(move |q| {
            let round = p.piece.flat.holes.iter().filter_map(|h| h.contour.as_circle());
            round.map(move |(c, _)| q.o + q.x * c.x + q.y * c.y)
        })).collect();
        let mut sides = HashSet::new();
        for (name, points, _) in &made {
            let side = name.trim_start_matches("gussets-1.").rsplit_once('-').unwrap().0;
            sides.insert(side.to_string());
            let wall = format!("transition-1.{side}");
            let (_, place) = stands(&plain, &wall).unwrap();
            let z = if place.z.dot(place.o - middle) > 0.0 { place.z } else { -place.z };
            let outer = walls.iter().find(|s| s.0 == wall).unwrap().1.iter().map(|p| p.dot(z))
                .fold(f64::NEG_INFINITY, f64::max);
            let off = points.iter().map(|p| p.dot(z) - outer).fold(f64::INFINITY, f64::min);
            prop_assert!(off.abs() < near, "{name} is {off} off its side: {line} / {rim} / {gussets}");
            let off = points.iter().map(|p| p.dot(out) - under).fold(f64::NEG_INFINITY, f64::max);
            prop_assert!(off.abs() < near, "{name} is {off} off its flange: {line} / {rim} / {gussets}");
            // Holes of flats stand in space as they are drilled; those of bent plates are in their flat.
            if welded {
                let along = z.cross(out).normalize();
                let low = points.iter().map(|p| p.dot(along)).fold(f64::INFINITY, f64::min);
                let own = |h: &&DVec3| (h.dot(z) - outer) > 0.0 && h.dot(z) - outer < width;
                for h in drilled.iter().filter(own) {
                    let clear = (h.dot(along) - low - thick / 2.0).abs() - thick / 2.0;
                    let beside = points.iter().any(|p| p.distance(*h) < legs.0);
                    let fits = !beside || count.is_some() || clear > 4.5 - near;
                    prop_assert!(fits, "{name} {clear} from a hole");
                }
            }
        }
        prop_assert_eq!(sides.len(), n);
    }
}

#[rstest]
#[case("gussets under rim-9, 30 x 60, 5 thick", "/say/under", "no flanges")]
#[case("gussets under hopper-1, 30 x 60, 5 thick", "/say/under", "no flanges")]
#[case("gussets under rim-2, 30 x 60, 5 thick, 1 a side", "/say/under", "turn inward")]
#[case("gussets under rim-3, 30 x 60, 5 thick", "/say/count", "no holes to stand between")]
#[case("gussets under rim-4, 30 x 60, 5 thick", "/say/count", "no flange has two holes")]
#[case("gussets under rim-1, 48 x 60, 5 thick", "/say/leg", "47.0 mm wide beyond")]
#[case("gussets under rim-1, 30 x 60, 5 thick, snipe 3.9", "/say/snipe", "reaches 4.0 mm")]
#[case("gussets under rim-1, 30 x 60, 5 thick, nose 26", "/say/nose", "nothing of the leg")]
#[case("gussets under rim-1, 30 x 60, 5 thick, 4 a side", "/say/count", "1 of south stands at a hole")]
#[case("gussets under rim-1, 30 x 260, 5 thick", "/say/leg_2", "over the edge")]
#[case("gussets under rim-3, 30 x 60, 5 thick, 40 a side", "/say/count", "over the end")]
#[case("gussets under rim-4, 15 x 60, 0.01 thick, 260 a side", "/say/count", "more than")]
fn what_cannot_stand_is_refused(#[case] line: &str, #[case] path: &str, #[case] words: &str) {
    let r = hopper(&[
        "hopper 300 x 200 to 300 x 200, 250 high, 3 thick",
        "rim hopper-1 top, 50 wide, R4, holes 14, 4 a side, 30 from root",
        "rim hopper-1 bottom, 50 wide, R4, inward, mitred 2",
        "hopper 300 x 200 to 300 x 200, 250 high, 3 thick",
        "rim hopper-2 top, 50 wide, R4, set back 6",
        "rim hopper-2 bottom, 50 wide, R4, holes 14, 1 a side, 30 from root",
        line,
    ]);
    let [f] = r.faults.as_slice() else { panic!("{line}: {:?}", r.faults) };
    assert!(f.path == path && f.fault.message.contains(words) && !f.fault.mend.is_empty(), "{f:?}");
    assert!(r.plates.iter().all(|p| !p.name.starts_with("gussets")));
    assert_eq!(r.plates.iter().map(|p| p.places.len()).sum::<usize>(), 8, "the hoppers stand without them");
}
