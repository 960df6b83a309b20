//! Each finding of a frame on both sides of its limit.

use approx::assert_relative_eq;
use rstest::rstest;
use steelk_core::evaluate::evaluate_frame;
use steelk_core::frame::*;
use steelk_core::job::*;
use steelk_core::result::{Finding, Severity};

use crate::common::frame::*;

fn found<'a>(r: &'a FrameResult, check: &str) -> Vec<&'a Finding> {
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    r.findings.iter().filter(|f| f.check == check).collect()
}

/// The frame of these lines has the finding when it should, once, with how far it is over and where; and has
/// it not when it should not.
fn both_sides(check: &str, section: &str, over: &[&str], within: &[&str], amount: &str, severity: Severity) {
    let r = frame(section, JointHow::Butt, over);
    let f = found(&r, check);
    assert_eq!(
        f.len(),
        1,
        "{check}: {:?}",
        r.findings.iter().map(|f| (f.check, &f.message)).collect::<Vec<_>>()
    );
    assert_eq!((f[0].amount.as_str(), f[0].severity), (amount, severity), "{}", f[0].message);
    assert!(!f[0].rule.is_empty() && !f[0].source.is_empty());
    assert!(
        f[0].names
            .iter()
            .all(|n| r.members.iter().any(|m| m.name == *n) || r.plates.iter().any(|p| p.name == *n)),
        "{:?}",
        f[0].names
    );
    assert_eq!(found(&frame(section, JointHow::Butt, within), check).len(), 0, "{check} within its limit");
}

const RAIL: [&str; 3] = ["node A 0 0 0", "node B 500 0 0", "rail A B"];

fn with<'a>(more: &[&'a str]) -> Vec<&'a str> {
    RAIL.iter().copied().chain(more.iter().copied()).collect()
}

/// Cuts from both ends: 300 and 200 of 500 leave nothing.
#[test]
fn ends_that_cross() {
    let (over, within) = (
        with(&["trim rail-1 start east 310", "trim rail-1 end east 290"]),
        with(&["trim rail-1 start east 290", "trim rail-1 end east 310"]),
    );
    both_sides("ends_cross", "60x60x3", &over, &within, "-20.0 mm", Severity::Stop);
    // Nothing is cut below nothing: the list still adds up.
    let r = frame("60x60x3", JointHow::Butt, &over);
    assert!(r.mass() >= 0.0 && r.mass().is_finite());
}

/// Twice the depth of a 48.3 tube is 96.6.
#[test]
fn tight_bends() {
    let bent = |radius: &'static str| ["node A 0 0 0", "node B 500 0 0", "node C 500 400 0", radius];
    both_sides(
        "tight_bend",
        "48.3x3",
        &bent("pipe A B C bent 90"),
        &bent("pipe A B C bent 96.7"),
        "6.6 mm",
        Severity::Warn,
    );
}

/// An end beside another's line, within half its depth, was meant to meet it; on the line it does, further
/// off it was not.
#[test]
fn ends_left_beside_a_line() {
    let post = |node: &'static str| with(&[node, "node N 250 0 400", "post M N"]);
    let loose = ["node M 250 12 0", "node N 250 12 400", "post M N"];
    both_sides("loose_end", "60x60x3", &with(&loose), &post("node M 250 0 0"), "12.0 mm", Severity::Warn);
    let aside = with(&["node M 250 40 0", "node N 250 40 400", "post M N"]);
    assert_eq!(found(&frame("60x60x3", JointHow::Butt, &aside), "loose_end").len(), 0);
}

/// A fillet below the smallest leg that the thicker part asks for: 3 mm up to 6 mm thick.
#[test]
fn welds_too_small() {
    let tee = |weld: &'static str| {
        with(&["node M between A and B, 1/2 of the way", "node N 250 0 400", "post M N", weld])
    };
    both_sides(
        "weld_small",
        "60x60x3",
        &tee("weld fillet 2.5"),
        &tee("weld fillet 3"),
        "0.5 mm",
        Severity::Warn,
    );
    both_sides(
        "weld_small",
        "IPE 200",
        &tee("weld fillet 4"),
        &tee("weld fillet 5"),
        "1.0 mm",
        Severity::Warn,
    );
}

/// Half the foot squared over twice the radius: 30²/2R is 0.3 at R = 1500.
#[test]
fn feet_on_a_bend() {
    let arch = |rise: f64, chord: f64| {
        let (x, m) = (chord / 2.0, format!("node M 0 0 {rise}"));
        [
            format!("node A {} 0 0", -x),
            m,
            format!("node B {x} 0 0"),
            format!("node N 0 0 {}", rise - 700.0),
            "rail A M B arc".into(),
            "post M N".into(),
        ]
    };
    let lines =
        |v: &[String; 6]| frame("60x60x3", JointHow::Butt, &v.iter().map(String::as_str).collect::<Vec<_>>());
    // R = c²/8s + s/2.
    let (tight, wide) = (lines(&arch(500.0, 2000.0)), lines(&arch(500.0, 2600.0)));
    let f = found(&tight, "curved_wall");
    assert_eq!((f.len(), f[0].amount.as_str()), (1, "0.36 mm"), "30²/2·1250 = 0.36");
    assert_eq!(found(&wide, "curved_wall").len(), 0, "30²/2·1940 = 0.23");
}

/// Two that pass one place: through one another they cannot, one on top of the other they can.
#[test]
fn members_that_pass_one_place() {
    let cross = |a: &'static str, b: &'static str| {
        ["node A -500 0 0", "node B 500 0 0", "node C 0 -500 0", "node D 0 500 0", "node M 0 0 0", a, b]
    };
    both_sides(
        "run_through",
        "60x60x3",
        &cross("rail A B", "rail C D"),
        &cross("rail A B top", "rail C D bottom"),
        "60.0 mm",
        Severity::Stop,
    );
    both_sides(
        "run_through",
        "60x60x3",
        &cross("rail A B top", "rail C D"),
        &cross("rail A B bottom", "rail C D top"),
        "30.0 mm",
        Severity::Stop,
    );
}

/// Two bars in one place along one line would be counted twice: told twice, one inside the other, one over
/// the end of the other. End to end, and side by side, they are two.
#[rstest]
#[case(&["rail B A"], true)]
#[case(&["node M 200 0 0", "rail A M"], true)]
#[case(&["node M 200 0 0", "node N 300 0 0", "rail M N"], true)]
#[case(&["node M 200 0 0", "node N 900 0 0", "rail M N"], true)]
#[case(&["node M 200 0 0", "rail A M RHS 80x40x3"], true)]
#[case(&["node C 900 0 0", "rail B C"], false)]
#[case(&["node M 700 0 0", "node N 900 0 0", "rail M N"], false)]
#[case(&["node P 0 60 0", "node Q 500 60 0", "rail P Q"], false)]
#[case(&["node M 200 0 0", "node N 200 0 300", "post M N"], false)]
fn bars_in_one_place(#[case] more: &[&str], #[case] double: bool) {
    let r = frame("60x60x3", JointHow::Butt, &with(more));
    let f = found(&r, "double");
    assert_eq!(f.len(), usize::from(double), "{:?}", f.iter().map(|f| &f.message).collect::<Vec<_>>());
    assert!(f.iter().all(|f| f.severity == Severity::Stop
        && f.names.len() == 2
        && f.names.contains(&"rail-1".to_string())));
}

/// On one line but set apart by their seats: a bar that lies on another is no double, one that only stands a
/// little off is.
#[test]
fn bars_on_one_line() {
    let two = |a: &'static str, b: &'static str| ["node A 0 0 0", "node B 500 0 0", "node M 200 0 0", a, b];
    let r = frame("60x60x3", JointHow::Butt, &two("rail A B top", "rail A M bottom"));
    assert_eq!(found(&r, "double").len(), 0);
    let r = frame("60x60x3", JointHow::Butt, &two("rail A B top", "rail A M"));
    assert_eq!(found(&r, "double").len(), 1);
    let r = frame("60x60x3", JointHow::Butt, &two("rail A B", "rail A M 50x50x3"));
    assert_eq!(found(&r, "double").len(), 0, "a tube that slides in a tube");
}

/// Above 25 kg the frame needs gear or hands, and where it balances is told.
#[test]
fn heavy_frames() {
    let bar = |length: f64| {
        frame("60x60x3", JointHow::Butt, &["node A 0 0 100", &format!("node B {length} 0 100"), "rail A B"])
    };
    let metre = bar(1000.0).mass();
    let over = bar(25.05 / metre * 1000.0);
    let f = found(&over, "heavy");
    assert_relative_eq!(over.mass(), 25.05, max_relative = 1e-9);
    assert!(f.len() == 1 && f[0].message.contains("100.0 mm above"), "{:?}", f);
    assert_eq!(found(&bar(24.95 / metre * 1000.0), "heavy").len(), 0);
}

/// Cautions that go with what is built: strength of members, fume of zinc, points that lift.
#[test]
fn cautions_stand_where_they_must() {
    assert_eq!(found(&frame("60x60x3", JointHow::Butt, &RAIL), "structure").len(), 1);
    let blocks = frame("60x60x3", JointHow::Butt, &["node A 0 0 0", "stack A 100x80x20"]);
    assert_eq!(found(&blocks, "structure").len(), 0);
    let lug =
        frame("60x60x3", JointHow::Butt, &with(&["lug rail-1 at 250 thick 12 radius 30 eye 26 height 60"]));
    assert!(
        found(&lug, "lifting")
            .iter()
            .all(|f| f.message.contains("qualified person") && f.rule.contains("never a load rating"))
    );
    assert!(!found(&lug, "lifting").is_empty());
    let (job, mut f) = told("60x60x3", JointHow::Butt, &RAIL);
    for (material, fumes) in [("s235", 0), ("dx51", 1)] {
        f.material = material.into();
        assert_eq!(found(&evaluate_frame(&job, &f), "fume").len(), fumes, "{material}");
    }
}

/// What a plate's own checks find is told in the frame, with the plate's name: corner holes that leave too
/// little edge.
#[test]
fn plates_bring_their_findings() {
    let foot = |edge: &'static str| with(&["node C 0 0 -400", "post A C", edge]);
    let near = frame("60x60x3", JointHow::Butt, &foot("foot C 120 x 120 thick 8 hole 20 edge 12"));
    let f: Vec<&Finding> =
        near.findings.iter().filter(|f| f.names.iter().any(|n| n.starts_with("foot-1"))).collect();
    assert!(
        !f.is_empty()
            && f.iter().all(|f| f.message.starts_with("foot-1")
                && f.message.contains("a hole")
                && !f.message.contains("punch")),
        "{:?}",
        near.findings
    );
    let far = frame("60x60x3", JointHow::Butt, &foot("foot C 120 x 120 thick 8 hole 11 edge 20"));
    assert!(
        far.findings.iter().all(|f| f.names.iter().all(|n| !n.starts_with("foot-1"))),
        "{:?}",
        far.findings
    );
}

/// Stops come first, then warnings, then notes; copies are told once.
#[test]
fn findings_are_in_order_and_told_once() {
    let r = frame(
        "60x60x3",
        JointHow::Butt,
        &with(&[
            "rail B A",
            "trim rail-1 start east -100",
            "trim rail-1 end east 492",
            "holes 9 on rail-1, 490 from its start, top",
            "repeat 5 north 700",
        ]),
    );
    let order: Vec<Severity> = r.findings.iter().map(|f| f.severity).collect();
    assert!(order.windows(2).all(|w| w[0] <= w[1]), "{order:?}");
    for check in ["trim_would_lengthen", "hole_off_end", "double"] {
        assert_eq!(found(&r, check).len(), 1, "{check}");
    }
    // Copies that end otherwise are told of their own.
    let bays = |cut: &str| {
        frame(
            "60x60x3",
            JointHow::Butt,
            &[
                "node A 0 0 0",
                "node B 500 0 0",
                "rail A B",
                cut,
                "weld fillet 2",
                "node M between A and B, 1/2 of the way",
                "node N 250 0 400",
                "post M N",
                "repeat 4 north 700",
            ],
        )
    };
    assert_eq!(found(&bays("weld fillet 2"), "weld_small").len(), 1);
    let low = bays("trim rail-1 start east 501");
    assert_eq!(found(&low, "ends_cross").len(), 1);
}
