//! Findings of folded and pressed pieces: each rule at both sides of its limit, and its mend.

use crate::common::*;
use rstest::rstest;
use steelk_core::evaluate::evaluate_piece;
use steelk_core::result::{Finding, PieceResult, Severity};
use steelk_core::shop::{BendMethod, BendRule};

fn din_rule() -> BendRule {
    school(BendMethod::Din6935)
}

fn found<'a>(p: &'a PieceResult, check: &str) -> Option<&'a Finding> {
    p.findings.iter().find(|f| f.check == check)
}

const PLATE: &str = "plate 240 x 160";
const WALL: &str = "fold north up 90 60";

/// t 2, r 3 throughout: smallest flange 0.7·12 = 8.4; hole to tangent line 4; pressed shapes 6 clear; hem
/// return 8; bead a third of its width.
#[rstest]
#[case("flange_short", &[PLATE, "fold north up 90 8.3"], &[PLATE, "fold north up 90 8.5"])]
#[case("hem_short", &[PLATE, "hem north closed 7.9"], &[PLATE, "hem north closed 8.1"])]
#[case("joggle_low", &[PLATE, "joggle north up 3.9 over 16 then 25"], &[PLATE, "joggle north up 4.1 over 16 \
    then 25"])]
#[case("radius_small", &[PLATE, "fold north up 90 40 r1"], &[PLATE, "fold north up 90 40 r3"])]
#[case("corner_bare", &[PLATE, "fold north east up 90 40"], &[PLATE, "fold north east up 90 40",
    "corners edge relief round"])]
#[case("corner_bare", &[PLATE, "fold north east up 90 40"], &[PLATE, "fold north west up 90 40",
    "corners edge relief slot 4"])]
// Folded, the panel ends at the tangent line.
#[case("hole_near_bend", &[PLATE, WALL, "hole 10 at 8.9 from north on start-1.panel"], &[PLATE, WALL,
    "hole 10 at 9.1 from north on start-1.panel"])]
#[case("hole_near_bend", &[PLATE, WALL, "hole 10 at 8.9 from fold on fold-1.north"], &[PLATE, WALL,
    "hole 10 at 9.1 from fold on fold-1.north"])]
#[case("cut_across_bend", &[PLATE, WALL, "hole 10 at 0 from fold on fold-1.north"], &[PLATE, WALL,
    "hole 10 at 20 from fold on fold-1.north"])]
#[case("pressed_near", &[PLATE, WALL, "dimple 20 deep 3 at 15.9 from fold on fold-1.north"], &[PLATE, WALL,
    "dimple 20 deep 3 at 16.1 from fold on fold-1.north"])]
#[case("pressed_near", &[PLATE, "dimple 20 deep 3 at 15.9 from west"], &[PLATE, "dimple 20 deep 3 at 16.1 \
    from west"])]
#[case("pressed_near", &[PLATE, "dimple 20 deep 3", "repeat press-1 2 at 25.9"], &[PLATE, "dimple 20 deep 3",
    "repeat press-1 2 at 26.1"])]
#[case("pressed_near", &[PLATE, "dimple 20 deep 3", "hole 10 at 99.1 from west"], &[PLATE,
    "dimple 20 deep 3", "hole 10 at 98.9 from west"])]
#[case("pressed_deep", &[PLATE, "dimple 20 deep 6.1"], &[PLATE, "dimple 20 deep 5.9"])]
#[case("pressed_deep", &[PLATE, "louvre 60 x 30 high 12.1"], &[PLATE, "louvre 60 x 30 high 11.9"])]
#[case("pressed_deep", &[PLATE, "rib start-1.panel deep 7 wide 20 at 80 long 100"], &[PLATE,
    "rib start-1.panel deep 6 wide 20 at 80 long 100"])]
// Wings on two neighbouring walls share the ground of their corner.
#[case("flat_overlaps", &[PLATE, "fold north up 20 90", "fold east up 20 90", "corners open",
    "fold fold-1.north.right up 20 80", "fold fold-2.east.left up 20 80"], &[PLATE, "fold north up 20 90",
        "fold fold-1.north.right up 20 80"])]
#[case("formed_through_itself", &["plate 120 x 80", "fold east west up 130 120"], &["plate 120 x 80",
    "fold east west up 130 50"])]
fn each_rule_at_both_sides(#[case] check: &str, #[case] bad: &[&str], #[case] good: &[&str]) {
    let make = |texts: &[&str]| made(din_rule(), &piece("2", "3", texts));
    let (worse, better) = (make(bad), make(good));
    let f = found(&worse, check).unwrap_or_else(|| {
        panic!("{check} not among {:?}", worse.findings.iter().map(|f| f.check).collect::<Vec<_>>())
    });
    assert!(!f.message.is_empty() && !f.rule.is_empty() && !f.source.is_empty());
    assert!(found(&better, check).is_none(), "{:?}", found(&better, check));
}

/// The mend of a finding on a folded piece makes it go, and makes nothing that cannot be carried out.
#[rstest]
#[case("radius_small", &[PLATE, "fold north up 90 40 r1"])]
#[case("corner_bare", &[PLATE, "fold north east up 90 40"])]
#[case("corner_bare", &["tray 200 120 40"])]
#[case("corner_bare", &[PLATE, "fold north east up 90 40", "corners open"])]
#[case("sharp_corners", &["tray 200 120 40"])]
fn mends_mend(#[case] check: &str, #[case] texts: &[&str]) {
    let p = piece("2", "3", texts);
    let out = made(din_rule(), &p);
    let f = found(&out, check).unwrap_or_else(|| panic!("{check} not among {:?}", out.findings));
    let after = made(din_rule(), &mended(&p, f));
    assert!(found(&after, check).is_none(), "{:?}", found(&after, check));
}

/// A plate may be folded though it is heavy: cautions are notes, never stops.
#[test]
fn cautions_stay_notes() {
    let mut p = piece("4", "5", &["plate 2400 x 1200", "fold north south up 90 60"]);
    p.quantity = "2".into();
    let out = made(din_rule(), &p);
    let heavy = found(&out, "heavy").expect("a heavy piece is told");
    assert_eq!(heavy.severity, Severity::Note);
    assert!(heavy.message.contains("lifting gear") && heavy.message.contains("Local rules"));
    assert!(out.findings.iter().all(|f| f.severity != Severity::Stop), "{:?}", out.findings);
}

/// A line that cannot be carried out names its field, and the rest of the piece stands.
#[rstest]
#[case(&[PLATE, "fold start-1.up up 90 40"], "/say/edges/0", "no edge is called")]
#[case(&[PLATE, "fold north north up 90 40"], "/say/edges/1", "named twice")]
#[case(&[PLATE, "fold north up 90 4"], "/say/reach/length", "too short for its bend")]
#[case(&[PLATE, "fold north up 0 40"], "/say/angle", "not an angle that can be bent")]
#[case(&[PLATE, WALL, "corners edge", "hem fold-1.north.tip open 3 gap 4"], "/say/hem/length",
    "too short for its own bend")]
#[case(&[PLATE, "joggle north up 20 over 2 then 20"], "/say/run", "do not fit")]
#[case(&[PLATE, "tab north 300 x 10"], "/say/width", "past the end")]
#[case(&[PLATE, WALL, "tab north 30 x 10"], "/say/edge", "folded already")]
#[case(&[PLATE, "bend 300 from west up 90"], "/say/distance", "does not lie on a panel")]
#[case(&[PLATE, WALL, "bend 60 from west up 90"], "/say/distance", "runs into")]
#[case(&[PLATE, "notch north round 20 x 5"], "/say/shape/depth", "half as deep")]
#[case(&[PLATE, "keyhole 8 9 20"], "/say/shape/slot", "no narrower")]
#[case(&[PLATE, "dhole 20 9"], "/say/shape/across", "less than half")]
#[case(&[PLATE, "rib north.bend deep 9 wide 6 at 20"], "/say/on", "no bend or panel")]
#[case(&[PLATE, WALL, "rib fold-1.north.bend deep 2 wide 6 at 20"], "/say/depth", "past the bend's own \
    radius")]
#[case(&[PLATE, "collar 20 high 30"], "/say/shape/height", "no collar of this height")]
#[case(&[PLATE, "louvre 60 x 12 high 13"], "/say/shape/height", "less than it is wide")]
#[case(&[PLATE, "hole 5 at 10 from left"], "/say/place/x/from", "only a folded panel")]
#[case(&["cone 100 to 120 high 50"], "/say/narrow", "not narrower")]
#[case(&["shell 100 radius 50 diameter 100 angle 90"], "/say/diameter", "both told")]
#[case(&["strip 60 up 90 60 wide 40", "fold north up 90 30"], "/say/edges/0", "runs over bends")]
fn lines_that_fail_say_why(#[case] texts: &[&str], #[case] path: &str, #[case] message: &str) {
    let out = evaluate_piece(&job(din_rule()), &piece("2", "3", texts));
    let fault = out
        .faults
        .iter()
        .find(|f| f.path == path)
        .unwrap_or_else(|| panic!("{path} not among {:?}", out.faults));
    assert!(fault.fault.message.contains(message), "{}", fault.fault.message);
    assert!(!fault.fault.mend.is_empty());
    assert_eq!(out.made, texts.len() > 1, "the rest stands");
}
