//! Rails half-lapped into rows of ribs: areas by hand, no point in two pieces, and what is refused.

use std::f64::consts::PI;

use approx::assert_relative_eq;
use glam::{DVec2, DVec3};
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::frame::*;

use crate::common::frame::*;
use crate::ribs::{plates, row_of, spread};

const BOARD: &str = "piece P-30 \"rib\", 0 off, 18 thick plywood\n  plate 480 x 420\n";
const ARCHED: &str = "piece P-31 \"rib\", 0 off, 18 thick plywood\n  plate 480 x 420\n  \
     round 110 at north-west and north-east\n";
const HOLED: &str = "piece P-32 \"rib\", 0 off, 18 thick plywood\n  plate 480 x 420\n  hole ⌀60\n";
const DISC: &str = "piece P-33 \"rib\", 0 off, 18 thick plywood\n  disc ⌀400\n";
const LOW: &str = "piece P-34 \"rib\", 0 off, 18 thick plywood\n  plate 480 x 380\n";

fn area(p: &(&Plate, &PlatePlace)) -> f64 {
    p.0.piece.value("area")
}

/// Whether a point of space lies in a plate.
fn is_in((p, q): &(&Plate, &PlatePlace), at: DVec3) -> bool {
    let v = at - q.o;
    let h = v.dot(q.x.cross(q.y));
    let flat = DVec2::new(v.dot(q.x), v.dot(q.y));
    let (h, t) = (if q.z.dot(q.x.cross(q.y)) < 0.0 { -h } else { h }, p.piece.thickness);
    h > 0.0
        && h < t
        && p.piece.flat.outer.contains(flat)
        && p.piece.flat.holes.iter().all(|o| !o.contour.contains(flat))
}

/// Six ribs over 500, a flush rail of 60 × 18 in their middle: half of the rail in each.
#[test]
fn a_flush_rail_by_hand() {
    let (_, r) =
        row_of(&[BOARD], &["ribs P-30, 6 off, over 500", "lap ribs-1: rail 60 x 18 into north, fit 0.4"]);
    clean(&r);
    let ribs = plates(&r, "ribs-1");
    assert_eq!((ribs.len(), r.plates.len()), (6, 2));
    for rib in &ribs {
        assert_relative_eq!(area(rib), 480.0 * 420.0 - 18.4 * 30.0, epsilon = 1e-6);
    }
    let rail = plates(&r, "lap-1")[0];
    // The first and the last slot are open at the ends.
    assert_relative_eq!(area(&rail), 500.0 * 60.0 - 2.0 * 18.2 * 30.0 - 4.0 * 18.4 * 30.0, epsilon = 1e-6);
    for (d, told) in [(DVec3::X, [231.0, 249.0]), (DVec3::Y, [0.0, 500.0]), (DVec3::Z, [360.0, 420.0])] {
        let got = spread(&rail, d);
        assert_relative_eq!(got[0], told[0], epsilon = 1e-9);
        assert_relative_eq!(got[1], told[1], epsilon = 1e-9);
    }
    let note = r.findings.iter().find(|f| f.check == "ribs").unwrap();
    assert!(
        note.message.contains("lap-1: 60.0 × 18, 500.0 mm long, half-lapped into each"),
        "{}",
        note.message
    );
    assert!(note.message.ends_with("stand the ribs at their pitch, then press the rails into their slots"));
}

/// Whole, of steel, in ribs that take all of it; or slotted by two thirds itself.
#[rstest]
#[case("slotted 0, material s235", 60.0, 0.0, "whole, each slotted for all of it")]
#[case("slotted 40", 20.0, 40.0, "let into each, slotted by 40.0 mm itself")]
fn rails_slotted_as_told(#[case] how: &str, #[case] ribs: f64, #[case] rail: f64, #[case] words: &str) {
    let lap = format!("lap ribs-1: rail 60 x 5 into north, fit 0.4, overhang 30, {how}");
    let (_, r) = row_of(&[BOARD], &["ribs P-30, 6 off, over 500", &lap]);
    clean(&r);
    assert!(plates(&r, "ribs-1").iter().all(|p| (area(p) - 480.0 * 420.0 + 5.4 * ribs).abs() < 1e-6));
    let made = plates(&r, "lap-1")[0];
    assert_relative_eq!(area(&made), 560.0 * 60.0 - 6.0 * 18.4 * rail, epsilon = 1e-6);
    if rail == 0.0 {
        assert_relative_eq!(made.0.piece.value("mass"), 0.56 * 0.06 * 0.005 * 7850.0, max_relative = 1e-9);
        assert_eq!(made.0.piece.flat.outer.vertices.len(), 4);
    }
    let note = r.findings.iter().find(|f| f.check == "ribs").unwrap();
    assert!(note.message.contains(words), "{}", note.message);
}

/// On an arc the outline over the middle of the rail counts: R200 about the middle, 50 beside it.
#[test]
fn a_rail_in_an_arc_lies_by_the_arc() {
    let (_, r) = row_of(
        &[DISC],
        &["ribs P-33, 4 off, every 100", "lap ribs-1: rail 80 x 12 into south, 150 from west, proud 6"],
    );
    clean(&r);
    let low = 200.0 - 200.0f64.mul_add(200.0, -2500.0).sqrt() - 6.0;
    let got = spread(&plates(&r, "lap-1")[0], DVec3::Z);
    assert_relative_eq!(got[0], low, epsilon = 1e-9);
    assert_relative_eq!(got[1], low + 80.0, epsilon = 1e-9);
    // The slot up to where they meet, 37 mm over the arc at the middle: area between the arc and that.
    let (meet, half) = (low + 6.0 + 37.0, [-56.0, -44.0]);
    let under = |x: f64| (x * (40000.0 - x * x).sqrt() + 40000.0 * (x / 200.0).asin()) / 2.0;
    let slot = 12.0 * (meet - 200.0) + under(half[1]) - under(half[0]);
    assert_relative_eq!(area(&plates(&r, "ribs-1")[0]), 40000.0 * PI - slot, epsilon = 1e-6);
}

/// Ribs that grow: the rail lies by the first, the slots of the others are as much deeper.
#[test]
fn a_rail_lies_by_the_first_rib() {
    let (_, r) =
        row_of(&[BOARD, LOW], &["ribs P-34 to P-30, 5 off, every 90", "lap ribs-1: rail 60 x 18 into north"]);
    clean(&r);
    for (k, rib) in plates(&r, "ribs-1").iter().enumerate() {
        let tall = 380.0 + 10.0 * k as f64;
        assert_relative_eq!(area(rib), 480.0 * tall - 18.0 * (tall - 350.0), epsilon = 1e-6);
    }
    assert_eq!(spread(&plates(&r, "lap-1")[0], DVec3::Z).map(f64::round), [320.0, 380.0]);
}

#[rstest]
#[case(&["lap ribs-2: rail 60 x 18 into north"], "/of")]
#[case(&["lap ribs-1: rail 60 x 18 into north 500 from west"], "/side/x")]
#[case(&["lap ribs-1: rail 60 x 18 into north, proud 60"], "/proud")]
#[case(&["lap ribs-1: rail 60 x 18 into north, fit 90"], "/play")]
#[case(&["lap ribs-1: rail 60 x 18 into north, slotted 60"], "/slot")]
#[case(&["lap ribs-1: rail 60 x 18 into north, proud 20, slotted 41"], "/slot")]
#[case(&["lap ribs-1: rail 60 x 18 into north, material s999"], "/material")]
#[case(&["lap ribs-1: rail 0 x 18 into north"], "/depth")]
#[case(&["lap ribs-1: rail 60 x 0 into north"], "/thickness")]
#[case(&["lap ribs-1: rail 840 x 18 into north 100 from west"], "/depth")]
#[case(&["lap ribs-1: rail 300 x 18 into north"], "/side/x")]
#[case(&["lap ribs-1: rail 60 x 18 into east 100 from south",
    "lap ribs-1: rail 60 x 18 into east 110 from south"], "/side/y")]
#[case(&["lap ribs-1: rail 60 x 18 into north 100 from west",
    "through ribs-1: CHS 26.9x2.3, 100 from west, 30 from north"], "/x")]
#[case(&["lap ribs-1: rail 100 x 18 into north 100 from west",
    "through ribs-1: CHS 26.9x2.3, 110 from west, 70 from north"], "/x")]
#[case(&["through ribs-1: CHS 26.9x2.3, 100 from west, 40 from north",
    "lap ribs-1: rail 60 x 18 into north 100 from west"], "/side/x")]
fn what_cannot_be_lapped_is_refused_with_its_field(#[case] lines: &[&str], #[case] field: &str) {
    let all: Vec<&str> = ["ribs P-32, 4 off, over 300"].iter().chain(lines).copied().collect();
    let (_, r) = row_of(&[HOLED], &all);
    let faults: Vec<_> = r.faults.iter().filter(|f| f.path.ends_with(field)).collect();
    assert_eq!((faults.len(), r.faults.len()), (1, 1), "{:?}", r.faults);
    assert!(!faults[0].fault.mend.is_empty());
    assert_eq!(plates(&r, "ribs-1").len(), 4, "the ribs stand");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// Where a rib and a rail cross, every point lies in one of the two and none in both.
    #[test]
    fn rails_and_ribs_share_nothing(
        way in prop::sample::select(vec!["to the north", "to the east", "one above the other"]),
        side in prop::sample::select(vec!["north", "south", "east", "west"]),
        count in 1usize..6, gap in 20.0..80.0f64, depth in 20.0..120.0f64, thick in 6.0..30.0f64,
        proud in -90.0..15.0f64, fit in 0.0..2.0f64, overhang in prop::sample::select(vec![0.0, 40.0]),
        place in 140.0..280.0f64, mirrored in any::<bool>(), share in prop::option::of(0.0..0.95f64),
    ) {
        let from = if side == "north" || side == "south" { "west" } else { "south" };
        let mut lines = vec![
            format!("ribs P-31, {count} off, gap {gap}, {way}"),
            format!("lap ribs-1: rail {depth} x {thick} into {side} {place} from {from}, proud {proud}, \
                fit {fit}, overhang {overhang}"),
        ];
        if let Some(share) = share {
            let deep = depth - f64::max(proud, 0.0);
            lines[1] += &format!(", slotted {}", deep * if share < 0.1 { 0.0 } else { share });
        }
        if mirrored {
            lines.push("mirror ribs-1 and lap-1 east 4000".into());
        }
        let lines: Vec<&str> = lines.iter().map(String::as_str).collect();
        let (_, r) = row_of(&[ARCHED], &lines);
        prop_assert!(r.faults.is_empty(), "{:?}", r.faults);
        let which = usize::from(mirrored);
        let ribs = plates(&r, "ribs-1");
        let rail = *plates(&r, "lap-1").last().unwrap();
        prop_assert_eq!(ribs.len(), count * (which + 1));
        let axes = [DVec3::X, DVec3::Y, DVec3::Z];
        for rib in &ribs[count * which..] {
            let b = axes.map(|d| spread(&rail, d));
            let o = axes.map(|d| spread(rib, d));
            let both = [0, 1, 2].map(|k| [b[k][0].max(o[k][0]), b[k][1].min(o[k][1])]);
            for i in 0..8 * 8 * 8 {
                let at = [i % 8, i / 8 % 8, i / 64].map(|k| (k as f64 + 0.5) / 8.0);
                let p = DVec3::from([0, 1, 2].map(|k| both[k][0] + (both[k][1] - both[k][0]) * at[k]));
                let of = [is_in(rib, p), is_in(&rail, p)];
                prop_assert!(of[0] != of[1], "{p} is in {of:?}");
            }
        }
    }
}
