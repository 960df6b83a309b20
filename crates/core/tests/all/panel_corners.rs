//! How plates between openings meet where each corner is told by itself, and sides that are left out: by
//! hand, over random ones, in which no plate stands in another, and refused.

use approx::assert_relative_eq;
use glam::DVec3;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::frame::*;
use steelk_core::geom::convex::Prism;
use steelk_core::job::*;

use crate::common::frame::*;
use crate::hoppers::hopper;
use crate::mitred_hoppers::solids;
use crate::rims::at as stands;

/// Each plate as long as the sharp corners are apart, and 10 more where it runs over the next; of six it is
/// as much shorter where the one before runs over it.
#[test]
fn each_over_the_next_by_hand() {
    let r = hopper(&["transition rectangle 300 x 200 to rectangle 300 x 200, 400 high, 10 thick, inside, \
        each over the next"]);
    clean(&r);
    for (name, long) in [("south", 310.0), ("east", 210.0), ("north", 310.0), ("west", 210.0)] {
        let (row, _) = stands(&r, &format!("transition-1.{name}")).unwrap();
        assert_relative_eq!(row.piece.value("area"), long * 400.0, epsilon = 1e-6);
    }
    let note = r.findings.iter().find(|f| f.check == "corners").unwrap();
    assert!(note.message.contains("run over one another's edges"), "{}", note.message);
    let six =
        "transition polygon 6 sides, 400 across to polygon 6 sides, 400 across, 300 high, 9 thick, inside";
    let r = hopper(&[&format!("{six}, each over the next, gap 1")]);
    clean(&r);
    let [row] = r.plates.as_slice() else { panic!("{} rows", r.plates.len()) };
    assert_eq!(row.places.len(), 6, "all are the same plate");
    // A gap of 1 square to the face that runs over is 1 / sin 60° along the plate.
    let long = (400.0 - 2.0) / 3f64.sqrt();
    assert_relative_eq!(row.piece.value("area"), long * 300.0, epsilon = 1e-6);
    // One corner of six by itself: south runs over as far as face-4 is cut back, by 9·cos 60°.
    let r = hopper(&[&format!("{six}, but south over face-4")]);
    clean(&r);
    let side = 400.0 / 3f64.sqrt();
    for (name, more) in [("south", 9.0), ("face-4", -9.0), ("face-1", 0.0), ("north", 0.0)] {
        let (row, _) = stands(&r, &format!("transition-1.{name}")).unwrap();
        let long = side + more / 3f64.sqrt();
        assert_relative_eq!(row.piece.value("area"), long * 300.0, epsilon = 1e-6);
    }
}

/// Two sides of six left out: four plates, in two halves that do not meet.
#[test]
fn sides_left_out() {
    let six =
        "transition polygon 6 sides, 400 across to polygon 6 sides, 250 across, 300 high, 5 thick, inside";
    let whole = hopper(&[six]);
    let r = hopper(&[&format!("{six}, open to south and north")]);
    clean(&r);
    assert_eq!(r.plates.iter().map(|p| p.places.len()).sum::<usize>(), 4);
    assert_relative_eq!(r.mass(), whole.mass() * 4.0 / 6.0, max_relative = 1e-9);
    let seams = |r: &FrameResult| r.welds.iter().map(|w| w.count).sum::<usize>();
    assert_eq!((seams(&whole), seams(&r)), (6, 2));
}

/// A job of before told one or two sides by one word.
#[test]
fn sides_of_older_jobs() {
    let rim = |sides: &str| -> FrameOperation {
        let said = format!(r#"{{"verb": "rim", "of": "hopper-1", "width": "40", "sides": {sides}}}"#);
        serde_json::from_str(&said).unwrap()
    };
    let names = |sides: &str| match rim(sides) {
        FrameOperation::Rim(said) => said.sides,
        other => panic!("{other:?}"),
    };
    assert_eq!(names(r#""south_north""#), ["south", "north"]);
    assert_eq!(names(r#""all""#), Vec::<String>::new());
    assert_eq!(names(r#"["face-2"]"#), ["face-2"]);
    let wrong = serde_json::from_str::<FrameOperation>(r#"{"verb": "rim", "sides": 3}"#).unwrap_err();
    assert!(wrong.to_string().contains("names of sides"), "{wrong}");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// Whatever meets how, and whichever sides are there: no plate stands in another, and neighbours come no
    /// nearer than told; where two faces share a whole edge, just so near.
    #[test]
    fn no_plate_stands_in_another(
        sides in (3usize..9, 3usize..9), alike: bool, across in (200.0..600.0f64, 150.0..500.0f64),
        high in 200.0..600.0f64, by in (-100.0..100.0f64, -100.0..100.0f64), turned in 0.0..90.0f64,
        t in 1.0..12.0f64, usual in 0usize..3, gap in prop_oneof![Just(0.0), 0.5..3.0f64],
        told in prop::collection::vec((0usize..5, prop_oneof![Just(0.0), 0.5..3.0f64]), 16),
        left in prop::collection::vec(0usize..6, 16),
    ) {
        let (upper, turned) = if alike { (sides.0, 0.0) } else { (sides.1, turned) };
        let line = format!(
            "transition polygon {} sides, {} across to polygon {upper} sides, {} across, {high} high, \
             {t} thick, inside, {} east, {} north, turned {turned}°",
            sides.0, across.0, across.1, by.0, by.1,
        );
        let plain = hopper(&[&line]);
        prop_assume!(plain.faults.is_empty());
        // In turn against the clock, as each names the next.
        let mut turn = vec!["south".to_string()];
        let next = |name: &str| {
            let corner = stands(&plain, &format!("transition-1.{name}")).and_then(|(_, p)| p.corner.clone());
            corner.map(|c| c.next)
        };
        let first = next("south").or_else(|| next("face-1"));
        prop_assume!(first.is_some() && next("south").is_some());
        while let Some(name) = next(turn.last().unwrap()).filter(|n| *n != turn[0]) {
            turn.push(name);
        }
        let n = turn.len();
        let is_left = |k: usize| k < n - 1 && left[k] == 0;
        let gone: Vec<&str> = (0..n).filter(|k| is_left(*k)).map(|k| &*turn[k]).collect();
        let mut gaps = Vec::new();
        let mut each = Vec::new();
        for k in 0..n {
            let (a, b) = (&turn[k], &turn[(k + 1) % n]);
            if is_left(k) || is_left((k + 1) % n) {
                continue;
            }
            let (how, own) = told[k];
            let words = match how {
                0 => { gaps.push((k, [1, 2, 4][usual], gap)); continue }
                1 => format!("{a} edge to edge with {b}"),
                2 => format!("{a} over {b}"),
                3 => format!("{b} over {a}"),
                _ => format!("{b} mitred with {a}"),
            };
            each.push(format!("{words} gap {own}"));
            gaps.push((k, how, own));
        }
        let list = |lead: &str, of: &[String], by: &str| match of {
            [] => String::new(),
            some => format!(", {lead} {}", some.join(by)),
        };
        let open: Vec<String> = gone.iter().map(|g| g.to_string()).collect();
        let line = format!(
            "{line}{}{}, gap {gap}{}", list("open", &open, " and "),
            ["", ", each over the next", ", mitred"][usual],
            list("but", &each, ", but "),
        );
        let r = hopper(&[&line]);
        if let Some(f) = r.faults.first() {
            let of = |words: &str| f.fault.message.contains(words);
            let gaps = gap > 0.0 || gaps.iter().any(|g| g.2 > 0.0);
            let short = line.contains("mitred") && of("so short a seam");
            let lapped = line.contains("over") && of("nothing is left of");
            prop_assert!(short || lapped || gaps && of("leaves nothing"), "{f:?}: {line}");
            return Ok(());
        }
        let made = solids(&r);
        prop_assert_eq!(made.len(), n - gone.len());
        // Plates that differ by less than 0.005 mm are one row, drawn as one of them. Where openings are
        // turned to nearly the same, slivers are as wide as a few µm.
        let near: f64 = if r.plates.iter().any(|p| p.places.len() > 1) { 0.02 } else { 5e-3 };
        // The way out of a plate, how far out its inner face lies, and its corners.
        let inner = DVec3::new(by.0 / 2.0, by.1 / 2.0, high / 2.0);
        let solid = |name: &str| {
            let part = format!("transition-1.{name}");
            let points = &made.iter().find(|s| s.0 == part).unwrap().1;
            let place = stands(&r, &part).unwrap().1;
            let out = if place.z.dot(place.o - inner) > 0.0 { place.z } else { -place.z };
            let low = points.iter().map(|p| p.dot(out)).fold(f64::INFINITY, f64::min);
            (out, low, points)
        };
        for (k, a) in made.iter().enumerate() {
            for b in &made[k + 1..] {
                let apart = Prism { corners: a.1.clone() }.apart(&Prism { corners: b.1.clone() });
                prop_assert!(apart > -near, "{} and {} {apart}: {line}", a.0, b.0);
            }
        }
        for (k, how, own) in gaps {
            let ((n, low, a), (m, off, b)) = (solid(&turn[k]), solid(&turn[(k + 1) % turn.len()]));
            let furthest = |points: &[DVec3], f: &dyn Fn(&DVec3) -> f64| {
                points.iter().map(f).fold(f64::NEG_INFINITY, f64::max)
            };
            let apart = match how {
                // Below the inner face of the one that runs over.
                2 => low - furthest(b, &|p| p.dot(n)),
                3 => off - furthest(a, &|p| p.dot(m)),
                // On either side of the plane that halves the corner.
                _ => {
                    let over = |p: &DVec3| p.dot(m) - off - p.dot(n) + low;
                    let back = |p: &DVec3| -over(p);
                    -(furthest(a, &over) + furthest(b, &back)) / (n - m).length()
                }
            };
            prop_assert!(apart > own - near, "{apart}, not {own}, at {}: {line}", turn[k]);
            prop_assert!(!alike || apart < own + near, "{apart}, not {own}, at {}: {line}", turn[k]);
        }
    }
}

#[rstest]
#[case("open west", "/say/open/0", "there is no side west")]
#[case("open south and face-9", "/say/open/1", "there is no side face-9")]
#[case("open south, face-1, face-2, face-3, face-4 and north", "/say/open", "no side is left")]
#[case("but south over north", "/say/but/0/other", "not beside one another")]
#[case("but south over south", "/say/but/0/other", "not beside one another")]
#[case("but south over west", "/say/but/0/other", "no side west stands")]
#[case("open south, but south over face-4", "/say/but/0/one", "no side south stands")]
#[case("but south over face-4, but face-4 mitred with south", "/say/but/1/one", "told twice")]
#[case("but south over face-4 gap 900", "/say/gap", "leaves nothing")]
fn what_cannot_be_is_refused(#[case] told: &str, #[case] path: &str, #[case] words: &str) {
    let r = hopper(&[&format!(
        "transition polygon 6 sides, 300 across to polygon 6 sides, 300 across, 200 high, 3 thick, {told}"
    )]);
    let [f] = r.faults.as_slice() else { panic!("{told}: {:?}", r.faults) };
    assert!(f.path == path && f.fault.message.contains(words) && !f.fault.mend.is_empty(), "{f:?}");
    assert!(r.plates.is_empty());
}

/// Beside a side that is left out a bar may end before it begins, on its outer edge only.
#[test]
fn a_bar_without_an_outer_edge_is_refused() {
    let r = hopper(&[
        "transition polygon 6 sides, 300 across to rectangle 200 x 150, 250 high, 3 thick, turned 20°, \
        tilted 5° north, open face-1",
        "stiffen transition-1 at 60, 30 wide, 4 thick",
    ]);
    let [f] = r.faults.as_slice() else { panic!("{:?}", r.faults) };
    assert!(f.path == "/say/height" && f.fault.message.contains("face-2 side has no width"), "{f:?}");
}
