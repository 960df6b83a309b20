//! Bars told by their side view and cut from plate: those that are a band are offered as bent strips, which
//! are the same bodies.

use crate::common::*;
use approx::assert_abs_diff_eq;
use glam::DVec2;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::job::*;
use steelk_core::result::PieceResult;

/// A part of the drawn line: straight ahead, or round to the left by a radius of the line itself.
#[derive(Clone, Copy, Debug)]
enum Way {
    On(f64),
    Round(f64, f64),
}

/// The band of so much on both sides of a line, as a told outline: out along the right, back along the left.
fn outline(ways: &[Way], wide: f64, turned: f64) -> String {
    let (mut at, mut along) = (DVec2::ZERO, turned.to_radians());
    let (mut right, mut left) = (Vec::new(), Vec::new());
    let side = |at: DVec2, along: f64, by: f64| at + DVec2::from_angle(along).perp() * by;
    for way in ways {
        let bulge = match way {
            Way::On(_) => 0.0,
            Way::Round(_, deg) => (deg.to_radians() / 4.0).tan(),
        };
        right.push((side(at, along, -wide / 2.0), bulge));
        match *way {
            Way::On(length) => at += DVec2::from_angle(along) * length,
            Way::Round(radius, deg) => {
                let to = DVec2::from_angle(along).perp() * radius * deg.signum();
                at = at + to + DVec2::from_angle(deg.to_radians()).rotate(-to);
                along += deg.to_radians();
            }
        }
        left.push((side(at, along, wide / 2.0), -bulge));
    }
    let last = side(at, along, -wide / 2.0);
    let first = side(DVec2::ZERO, turned.to_radians(), wide / 2.0);
    let mut all = right;
    all.push((last, 0.0));
    all.extend(left.into_iter().rev());
    all.push((first, 0.0));
    // The outline's own corners: each said with the bulge of the side that leaves it.
    let said = |(p, bulge): &(DVec2, f64)| {
        let curved = if *bulge == 0.0 { String::new() } else { format!(" curved {bulge:.12}") };
        format!("({:.9}, {:.9}){curved}", p.x, p.y)
    };
    format!("outline {}", all.iter().map(said).collect::<Vec<_>>().join(" "))
}

fn offered(p: &PieceResult) -> Option<&steelk_core::result::Finding> {
    p.findings.iter().find(|f| f.check == "bent_bar")
}

/// The plate, and the strip that it is offered as. With the neutral line in the middle both weigh the same.
fn both(text: &str, thick: &str) -> (PieceResult, Piece, PieceResult) {
    let cut = piece(thick, "", &[text]);
    let plate = made(k_factor("0.5"), &cut);
    let found = offered(&plate).unwrap_or_else(|| panic!("not offered: {text}"));
    let bent = mended(&cut, found);
    let strip = made(k_factor("0.5"), &bent);
    (plate, bent, strip)
}

/// A hook: straight, two arcs one after the other with different radii, straight.
#[test]
fn a_hook_of_two_arcs_becomes_a_strip_of_two_arcs() {
    let ways = [Way::On(120.0), Way::Round(60.0, 90.0), Way::Round(35.0, 70.0), Way::On(40.0)];
    let (plate, bent, strip) = both(&outline(&ways, 10.0, 17.0), "40");
    assert_eq!(
        offered(&plate).unwrap().message.split(':').next().unwrap(),
        "Seen from the side this is a bar 10.0 × 40.0 mm, bent 2 times"
    );
    assert_eq!(bent.thickness, "10");
    let said = serde_json::to_value(&bent.lines[0].say).unwrap();
    assert_eq!(said["width"], "40");
    let kinds: Vec<String> = said["profile"]
        .as_array()
        .unwrap()
        .iter()
        .map(|e| {
            let text = |f: &str| e[f].as_str().unwrap_or_default().to_string();
            [text("kind"), text("length"), text("angle"), text("radius")].join(" ").trim().to_string()
        })
        .collect();
    // Radii of the outer face: half of 10 more than those of the line in the middle.
    assert_eq!(kinds, ["leg 120", "arc  90 65", "arc  70 40", "leg 40"]);
    assert_abs_diff_eq!(strip.value("mass"), plate.value("mass"), epsilon = 1e-6);
}

/// A sharp bend: the leg is told to its virtual sharp, by hand: 50 + tan 45° × (5 + 10).
#[test]
fn a_bend_is_told_to_its_sharp_and_its_formed_sizes_are_the_outlines() {
    let ways = [Way::On(50.0), Way::Round(10.0, -90.0), Way::On(80.0)];
    let (plate, bent, strip) = both(&outline(&ways, 10.0, 0.0), "3 mm + 1in");
    let said = serde_json::to_value(&bent.lines[0].say).unwrap();
    assert_eq!(
        (said["profile"][0]["length"].as_str(), said["profile"][1]["radius"].as_str()),
        (Some("65"), Some("5"))
    );
    assert_eq!(said["profile"][1]["direction"], "down");
    let size = plate.flat.outer.bounds().size();
    assert_abs_diff_eq!(strip.value("formed_x"), size.x, epsilon = 2e-3);
    assert_abs_diff_eq!(strip.value("formed_z"), size.y, epsilon = 2e-3);
    assert_abs_diff_eq!(strip.value("formed_y"), 28.4, epsilon = 1e-6);
}

#[rstest]
#[case::straight("outline (0, 0) (100, 0) (100, 10) (0, 10)")]
#[case::tapered(
    "outline (0, 0) (100, 0) curved 0.41421356 (115, 15) (115, 80) (105, 82) (105, 15) curved -0.41421356 \
    (100, 10) (0, 10)"
)]
#[case::slanted_end(
    "outline (0, 0) (100, 0) curved 0.41421356 (115, 15) (115, 80) (105, 90) (105, 15) curved -0.41421356 \
    (100, 10) (0, 10)"
)]
#[case::mitred("outline (0, 0) (100, 0) (100, 100) (90, 100) (90, 10) (0, 10)")]
#[case::a_plate("outline (0, 0) (100, 0) (100, 60) curved 0.4142 (0, 60)")]
fn what_is_no_band_is_not_offered(#[case] text: &str) {
    assert!(offered(&made(k_factor("0.5"), &piece("20", "", &[text]))).is_none());
}

/// With a hole in it, as another kind of start, or of what does not bend, it stays a plate.
#[test]
fn it_is_offered_only_where_nothing_would_be_lost() {
    let text = outline(&[Way::On(120.0), Way::Round(60.0, 90.0), Way::On(90.0)], 10.0, 0.0);
    assert!(offered(&made(k_factor("0.5"), &piece("40", "", &[&text, "hole ⌀5"]))).is_none());
    let oak = Piece { material: "oak".into(), ..piece("40", "", &[&text]) };
    assert!(offered(&made(k_factor("0.5"), &oak)).is_none());
    // A line that is switched off loses nothing.
    let mut off = piece("40", "", &[&text, "hole ⌀5"]);
    off.lines[1].off = true;
    assert!(offered(&made(k_factor("0.5"), &off)).is_some());
}

fn way() -> impl Strategy<Value = Way> {
    let round = (12.0..150.0f64, 15.0..120.0f64, any::<bool>());
    prop_oneof![
        (20.0..150.0f64).prop_map(Way::On),
        round.prop_map(|(r, deg, left)| Way::Round(r.round(), if left { deg } else { -deg }.round())),
    ]
}

proptest! {
    /// Any bar of legs and arcs that does not cross itself is offered, and the strip weighs what the plate
    /// does.
    #[test]
    fn bands_at_random_are_the_strips_that_they_are_offered_as(
        ways in prop::collection::vec(way(), 1..6), wide in 3.0..20.0f64, turned in 0.0..360.0f64,
    ) {
        let wide = wide.round();
        let mut all = vec![Way::On(60.0)];
        for w in ways {
            // Two straight parts in a row are one side.
            if !matches!((all.last(), w), (Some(Way::On(_)), Way::On(_))) {
                all.push(w);
            }
        }
        prop_assume!(all.iter().any(|w| matches!(w, Way::Round(..))));
        let cut = piece("30", "", &[&outline(&all, wide, turned)]);
        let plate = steelk_core::evaluate::evaluate_piece(&job(k_factor("0.5")), &cut);
        prop_assume!(plate.made && plate.faults.is_empty());
        let Some(found) = offered(&plate) else { return Err(TestCaseError::fail(format!("{all:?}"))) };
        let strip = steelk_core::evaluate::evaluate_piece(&job(k_factor("0.5")), &mended(&cut, found));
        prop_assert!(strip.faults.is_empty(), "{:?}", strip.faults);
        let turns = all.iter().filter(|w| matches!(w, Way::Round(..))).count();
        prop_assert_eq!(strip.flat.bends.len(), turns);
        let (a, b) = (strip.value("mass"), plate.value("mass"));
        prop_assert!((a - b).abs() < 1e-4 * b, "{a} {b}");
    }
}
