//! Bars told leg by leg and by points: by hand, rebuilt from what the bender is told by an own walk, against
//! the involute, with a test bend, on either side of the drawn line, mirrored, and refused.

use std::f64::consts::{FRAC_PI_2, PI, TAU};

use approx::{assert_abs_diff_eq, assert_relative_eq};
use glam::{DMat3, DVec3};
use proptest::prelude::*;
use rstest::rstest;
use serde_json::json;
use steelk_core::evaluate::{cut_list, evaluate, evaluate_frame};
use steelk_core::frame::*;
use steelk_core::job::*;
use steelk_core::quantity::{Display, LengthUnit};

use crate::common::frame::*;

fn bar(section: &str, line: &str) -> FrameResult {
    frame(section, JointHow::Butt, &[line])
}

fn table(r: &FrameResult) -> Bender {
    let m = &r.members[0];
    bender(m, &r.profiles[m.profile]).unwrap()
}

/// Where it ends, and which way it looks there.
fn end(r: &FrameResult) -> (DVec3, DVec3) {
    let bar = r.members[0].end(1);
    (bar.o, -bar.d)
}

fn near(a: DVec3, b: DVec3, within: f64) {
    assert!(a.distance(b) < within, "{a} is not {b}");
}

/// 200 east, up round 40, 60, then turned clockwise by a quarter: seen along a bar that runs up, what was
/// bent from the west goes to the south.
#[test]
fn a_bar_in_space_by_hand() {
    let r = bar("ROUND 16", "bent bar: 200, bend 90° R40, 60, bend 90° R40 turned 90°, 200");
    clean(&r);
    let (m, f) = of(&r, "bent-1");
    let length = 460.0 + 2.0 * 40.0 * FRAC_PI_2;
    assert_relative_eq!(f.lengths.overall, length, max_relative = 1e-12);
    // Pappus: a round bar has its length times its area.
    assert_relative_eq!(f.volume, PI * 64.0 * length, max_relative = 1e-9);
    near(end(&r).0, DVec3::new(240.0, -240.0, 140.0), 1e-9);
    near(end(&r).1, -DVec3::Y, 1e-12);
    assert_eq!([m.from, m.to].map(|i| r.nodes[i].name.as_str()), ["bent-1.start", "bent-1.end"]);
    let t = table(&r);
    let told: Vec<_> = t.steps.iter().map(|s| [s.mark, s.straight, s.turn, s.angle, s.radii[0]]).collect();
    let arc = 40.0 * FRAC_PI_2;
    for (got, want) in told.iter().flatten().zip(
        [[200.0, 200.0, 0.0, FRAC_PI_2, 40.0], [260.0 + arc, 60.0, FRAC_PI_2, FRAC_PI_2, 40.0]]
            .iter()
            .flatten(),
    ) {
        assert_abs_diff_eq!(got, want, epsilon = 1e-9);
    }
    // x along its start, y up where the first bend goes, z from x to y by the right hand: south.
    let corners = [[0.0, 0.0, 0.0], [240.0, 0.0, 0.0], [240.0, 140.0, 0.0], [240.0, 140.0, 240.0]];
    for (c, at) in t.corners.iter().zip(corners) {
        near(c.at, DVec3::from(at), 1e-9);
    }
    assert_eq!((t.corners.len(), t.corners[2].radius), (4, Some(40.0)));
}

/// The same bar by legs to tangents, by legs to corners, by points, in inches, and along nodes.
#[test]
fn a_bar_told_in_five_ways_is_one_bar() {
    let ways = [
        "bent bar, ROUND 12: 75, bend 90° R25 north, 50, bend 60° R30 up, 100",
        "bent bar, ROUND 12, to corners: 100, bend 90° R25 north, 75 + 30*tan(30), bend 60° R30 up, \
         100 + 30*tan(30)",
        "bent bar, ROUND 12: point (100, 0, 0) R25, point (100, 75 + 30*tan(30), 0) R30, \
         point (100, 75 + 30*tan(30) + (100 + 30*tan(30)) * cos(60), (100 + 30*tan(30)) * sin(60))",
        "bent bar, ROUND 12: 2.95275590551in, bend 90° R0.98425196850in north, 1.96850393701in, \
         bend 60° R1.18110236220in up, 3.93700787402in",
    ];
    let made = ways.map(|w| bar("ROUND 12", w));
    for r in &made {
        clean(r);
        assert_relative_eq!(r.facts[0].lengths.overall, made[0].facts[0].lengths.overall, epsilon = 1e-6);
        near(end(r).0, end(&made[0]).0, 1e-6);
        near(r.facts[0].centre, made[0].facts[0].centre, 1e-6);
    }
    // Bends of one radius along nodes are the older way.
    let nodes = ["node A 0 0 0", "node B 100 0 0", "node C 100 90 0", "node D 100 130 80"];
    let lines = [&nodes[..], &["bar A B C D, ROUND 12, bent 20"]].concat();
    let old = frame("ROUND 12", JointHow::Butt, &lines);
    let new =
        bar("ROUND 12", "bent bar: point (100, 0, 0) R20, point (100, 90, 0) R20, point (100, 130, 80)");
    assert_relative_eq!(new.facts[0].lengths.overall, old.facts[0].lengths.overall, epsilon = 1e-9);
    near(new.facts[0].centre, old.facts[0].centre, 1e-9);
}

/// A walk of the test's own: a matrix whose columns are the way on, the side that bends go to, and the third.
fn bent_by_hand(t: &Bender, start: DMat3) -> (DVec3, DMat3, f64) {
    let (mut at, mut hand, mut length) = (DVec3::ZERO, start, 0.0);
    for s in &t.steps {
        at += hand.x_axis * s.straight;
        hand *= DMat3::from_rotation_x(s.turn);
        at += hand * DVec3::new(s.radii[0] * s.angle.sin(), s.radii[0] * (1.0 - s.angle.cos()), 0.0);
        hand *= DMat3::from_rotation_z(s.angle);
        length += s.straight + s.radii[0] * s.angle;
    }
    (at + hand.x_axis * t.tail, hand, length + t.tail)
}

/// The length by corners alone: what each corner saves is 2R·tan(α/2) − R·α.
fn length_by_corners(t: &Bender) -> f64 {
    let way: f64 = t.corners.windows(2).map(|w| w[0].at.distance(w[1].at)).sum();
    let saved = t.corners.windows(3).map(|w| {
        let angle = (w[1].at - w[0].at).angle_between(w[2].at - w[1].at);
        w[1].radius.unwrap() * (2.0 * (angle / 2.0).tan() - angle)
    });
    way - saved.sum::<f64>()
}

const WAYS: [&str; 8] = ["", " north", " east", " west", " south", " up", " down", " turned 75°"];

proptest! {
    #![proptest_config(ProptestConfig { cases: 300, ..ProptestConfig::default() })]

    /// What the bender is told makes the bar again, and so do its corners; refusals are told with a mend.
    #[test]
    fn what_the_bender_is_told_makes_the_bar(
        legs in prop::collection::vec((5.0..300.0f64, 3.0..200.0f64, 12.0..90.0f64, 0..8usize), 1..7),
        heading in 0..6usize,
        turn in 0.0..360.0f64,
        tail in 5.0..200.0f64,
    ) {
        let told = legs.iter().map(|(straight, angle, radius, way)| {
            format!("{straight}, bend {angle}° R{radius}{}", WAYS[*way])
        });
        let told: Vec<String> = told.collect();
        let heading = ["", ", north", ", west", ", south", ", up", ", down"][heading];
        let line = format!("bent bar{heading}, FLAT 20x10, turned {turn}°: {}, {tail}", told.join(", "));
        let r = bar("FLAT 20x10", &line);
        if r.members.is_empty() {
            prop_assert!(r.faults.iter().any(|f| f.line == "bent-1" && !f.fault.mend.is_empty()));
            return Ok(());
        }
        let t = table(&r);
        prop_assert_eq!(t.steps.len(), legs.len());
        let start = r.members[0].end(0);
        let CentrelineSegment::Bend { bar: first, centre, .. } = r.members[0].way[1] else {
            panic!("{line}")
        };
        let side = (centre - first.o).normalize();
        let (at, hand, length) = bent_by_hand(&t, DMat3::from_cols(start.d, side, start.d.cross(side)));
        prop_assert!(at.distance(end(&r).0 - start.o) < 1e-6, "{line}: {at} {}", end(&r).0);
        prop_assert!(hand.x_axis.distance(end(&r).1) < 1e-9);
        prop_assert!((length - r.facts[0].lengths.overall).abs() < 1e-6);
        prop_assert!((t.length - length).abs() < 1e-6);
        prop_assert!((length_by_corners(&t) - length).abs() < 1e-5, "{line}");
        // The corners lie in the frame of the start: its end is theirs.
        let last = t.corners.last().unwrap().at;
        let placed = start.d * last.x + side * last.y + start.d.cross(side) * last.z;
        prop_assert!(placed.distance(end(&r).0 - start.o) < 1e-6);
        // Pappus, for a section that is its own image about its middle.
        prop_assert!((r.facts[0].volume / (200.0 * length) - 1.0).abs() < 1e-9);
    }
}

/// A spiral whose radius grows evenly is an involute: its length is the mean radius by its angle, its points
/// the integral of ρ(φ)·(cos φ, sin φ).
#[rstest]
#[case(540.0, 12.0, 80.0)]
#[case(200.0, 60.0, 20.0)]
fn a_spiral_is_an_involute(#[case] turned: f64, #[case] from: f64, #[case] to: f64) {
    let line = format!("bent bar, turned 90°: 30, spiral {turned}° R{from} to R{to}, 20");
    let r = bar("FLAT 20x6", &line);
    let angle = turned.to_radians();
    assert_relative_eq!(r.facts[0].lengths.overall, 50.0 + (from + to) / 2.0 * angle, max_relative = 1e-9);
    let growth = (to - from) / angle;
    let (s, c) = angle.sin_cos();
    // ∫(a + bφ)·cos φ and ∫(a + bφ)·sin φ from 0 to the angle.
    let x = from * s + growth * (c + angle * s - 1.0);
    let z = from * (1.0 - c) + growth * (s - angle * c);
    let want = DVec3::new(30.0 + x + 20.0 * c, 0.0, z + 20.0 * s);
    near(end(&r).0, want, 0.05);
    let t = table(&r);
    assert_eq!((t.steps.len(), t.steps[0].radii.map(|r| r.round())), (1, [from, to]));
    assert_relative_eq!(t.steps[0].angle, angle, max_relative = 1e-9);
    let notes: Vec<&str> = t.corners.iter().map(|c| c.note).collect();
    assert_eq!(notes, ["start", "spiral begins", "spiral ends", "end"]);
}

/// The bender's own gain: K 0.45 of a tube 33.7 deep leaves 0.05 · 33.7 · α at each bend.
#[test]
fn a_bar_gains_in_its_bends() {
    let legs = "300, bend 45° R100 north, 200, bend 90° R120 south, 50";
    let plain = bar("CHS 33.7x2.6", &format!("bent bar: {legs}"));
    let r = bar("CHS 33.7x2.6", &format!("bent bar, by K 0.45: {legs}"));
    let gain = 0.05 * 33.7 * (PI / 4.0 + PI / 2.0);
    assert_relative_eq!(r.facts[0].lengths.overall, plain.facts[0].lengths.overall - gain, epsilon = 1e-9);
    assert_relative_eq!(r.facts[0].volume, plain.facts[0].volume, max_relative = 1e-12);
    // The second mark comes nearer by what the first bend gains.
    let marks = [&r, &plain].map(|r| table(r).steps[1].mark);
    assert_relative_eq!(marks[1] - marks[0], 0.05 * 33.7 * PI / 4.0, epsilon = 1e-9);
    assert_relative_eq!(table(&r).length, r.facts[0].lengths.overall, epsilon = 1e-9);
}

/// Round bar of 12, 200 long, bent by 90° about R30 inside, legs 112 and 116.4 outside: BD = 28.4,
/// OSSB = 42, BA = 84 − 28.4 = 55.6, K = (55.6 / (π/2) − 30) / 12.
#[test]
fn a_logged_test_bend_tells_what_a_bar_gains() {
    let (job, f) = told(
        "ROUND 12",
        JointHow::Butt,
        &[
            "bent bar, by test bend hook-12: 100, bend 90° R36, 60, bend 45° R36 turned 180°, 60",
            "bent bar, by test bend nobody: 100, bend 90° R36, 60",
            "bent bar, ROUND 16, by test bend hook-12: 100, bend 90° R60, 60",
        ],
    );
    let tests = json!([{ "id": "hook-12", "material": "s235", "thickness": "12", "radius": "30",
        "angle": "90", "strips": [{ "length": "200", "a": "112", "b": "116.4" }] }]);
    let mut doc = serde_json::to_value(&job).unwrap();
    doc["test_bends"] = tests;
    let mut job: Job = serde_json::from_value(doc).unwrap();
    let r = evaluate_frame(&job, &f);
    let k = (55.6 / FRAC_PI_2 - 30.0) / 12.0;
    let inside = 30.0 + k * 12.0;
    let length = 220.0 + inside * (PI / 2.0 + PI / 4.0);
    assert_relative_eq!(of(&r, "bent-1").1.lengths.overall, length, epsilon = 1e-9);
    let fault = r.faults.iter().find(|f| f.line == "bent-2").unwrap();
    assert!(fault.path == "/say/neutral/name" && fault.fault.mend.contains("hook-12"), "{fault:?}");
    let other: Vec<&str> =
        r.findings.iter().filter(|f| f.check == "test_bend_other").map(|f| &*f.names[0]).collect();
    assert_eq!(other, ["bent-3"], "16 is not as deep as what was tested");
    job.frames.push(f);
    let evaluated = evaluate(&job);
    let list = cut_list(&job, &evaluated);
    let told = &list.frames[0].bars[0].bender.as_ref().unwrap().notes[0];
    assert!(told.contains("test bend hook-12") && told.contains("shorter"), "{told}");
}

/// The thickness of a flat on either side of the drawn line: the middle runs 6 further out or in. Turned by
/// 90° it lies, its left face up, where the bend goes.
#[rstest]
#[case("", 0.0)]
#[case(", on its left face", 6.0)]
#[case(", on its right face", -6.0)]
fn thickness_lies_on_the_told_side(#[case] sits: &str, #[case] by: f64) {
    let r = bar("FLAT 60x12", &format!("bent bar{sits}, turned 90°: 100, bend 80° R90, 150"));
    clean(&r);
    let length = 250.0 + (90.0 + by) * 80f64.to_radians();
    assert_relative_eq!(r.facts[0].lengths.overall, length, epsilon = 1e-9);
    // The drawn line ends where it is told to, whatever side the bar lies on.
    let (s, c) = 80f64.to_radians().sin_cos();
    let drawn = DVec3::new(100.0 + 90.0 * s + 150.0 * c, 0.0, 90.0 * (1.0 - c) + 150.0 * s);
    near(r.nodes[r.members[0].to].at, drawn, 1e-9);
}

/// A flat that is bent over its thin side is not tight, over its wide one it is; and it was refused where its
/// radius was under half of its width.
#[test]
fn depth_is_looked_at_in_the_plane_of_the_bend() {
    let flat = |turn: &str| bar("FLAT 60x8", &format!("bent bar{turn}: 100, bend 90° R20, 100"));
    let tight = |r: &FrameResult| r.findings.iter().any(|f| f.check == "tight_bend");
    let (lying, standing) = (flat(", turned 90°"), flat(""));
    assert!(lying.members.len() == 1 && !tight(&lying), "{:?}", lying.faults);
    assert!(standing.members.is_empty() && standing.faults[0].fault.message.contains("tighter"));
    let wide = bar("FLAT 60x8", "bent bar: 100, bend 90° R100, 100");
    assert!(wide.members.len() == 1 && tight(&wide));
}

#[test]
fn straights_that_the_bender_cannot_hold_are_named() {
    let r = bar("ROUND 10", "bent bar, clamp 40: 30, bend 90° R30, 40, bend 45° R30, 39, bend 20° R30, 35");
    let f = r.findings.iter().find(|f| f.check == "bend_clamp").unwrap();
    for part in ["before bend 1 (30.0)", "between bends 2 and 3 (39.0)", "behind bend 3 (35.0)"] {
        assert!(f.message.contains(part), "{}", f.message);
    }
    assert!(!f.message.contains("bends 1 and 2"));
}

/// A mirrored copy of a bar in space is another hand, one that lies in a plane is the same.
#[rstest]
#[case("120, bend 90° R30, 60, bend 90° R30 turned 90°, 80", 2)]
#[case("120, bend 90° R30, 60, bend 30° R30, 80", 1)]
fn copies_are_told_apart_by_hand(#[case] legs: &str, #[case] rows: usize) {
    let line = format!("bent bar from A: {legs}");
    let (mut job, f) =
        told("ROUND 12", JointHow::Butt, &["node A 50 500 0", &line, "mirror bent-1 across north at 0"]);
    let r = evaluate_frame(&job, &f);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    assert_eq!(r.members.len(), 2);
    job.frames.push(f);
    let list = cut_list(&job, &evaluate(&job));
    let bars = &list.frames[0].bars;
    assert_eq!(bars.len(), rows);
    assert_eq!(bars.iter().map(|b| b.quantity).sum::<usize>(), 2);
    if rows == 2 {
        let turns = |k: usize| bars[k].bender.as_ref().unwrap().steps[1].turn.clone();
        assert!(bars[1].opposite && [turns(0), turns(1)] == ["90°", "270°"], "{} {}", turns(0), turns(1));
    }
}

#[test]
fn a_bender_is_told_in_the_units_of_the_job() {
    let (mut job, f) = told("ROUND 12", JointHow::Butt, &["bent bar: 4, bend 90° R1 1/2, 2"]);
    job.display = Display { length: LengthUnit::In, ..job.display };
    job.frames.push(f);
    let list = cut_list(&job, &evaluate(&job));
    let t = list.frames[0].bars[0].bender.as_ref().unwrap();
    assert_eq!(
        [&t.steps[0].straight, &t.steps[0].radius, &t.tail].map(String::as_str),
        ["4.000", "1.500", "2.000"]
    );
    assert_eq!((t.corners[1].x.as_str(), t.corners[1].what.as_str()), ("5.500", "R1.500"));
}

#[rstest]
#[case("bent bar: 100, bend 90° R40 east, 50", "/say/legs/1/towards", "runs that way already")]
#[case("bent bar, to corners: 30, bend 90° R40, 100", "/say/legs/0", "take 40.0 mm of it")]
#[case("bent bar, to corners: 100, bend 180° R40, 100", "/say/legs/1/angle", "do not meet")]
#[case("bent bar: 100, point (1, 2, 3)", "/say/legs/1/kind", "mixed")]
#[case("bent bar: point (0, 0, 0)", "/say/legs/0/x", "where the one before it does")]
#[case("bent bar: point (9, 0, 0), point (9, 9, 0)", "/say/legs/0/radius", "no radius")]
#[case("bent bar: point (90, 0, 0) R20", "/say/legs/0/radius", "ends here")]
#[case("bent bar: point (90, 0, 0) R20, point (190, 0, 0)", "/say/legs/0/radius", "straight on")]
#[case("bent bar: point (90, 0, 0) R20, point (10, 0, 0)", "/say/legs/1/x", "turns back")]
#[case("bent bar: point (20, 0, 0) R40, point (20, 90, 0)", "/say/legs/0", "take 40.0 mm")]
#[case("bent bar: 10, bend 90° R4, 10", "/say/legs", "tighter")]
#[case("bent bar: 10, bend 0° R40, 10", "/say/legs/1/angle", "not an angle")]
#[case("bent bar: 10, spiral 30° R20 to R40", "/say/legs/1/angle", "not an angle")]
#[case("bent bar: 10, spiral 90° R20 to R20", "/say/legs/1/until", "is a bend")]
#[case("bent bar: 10, spiral 1080° R20 to R30", "/say/legs/1/until", "run into one another")]
#[case(
    "bent bar: spiral 7200° R20 to R600, spiral 7200° R600 to R20, spiral 7200° R20 to R600",
    "/say/legs",
    "more than"
)]
#[case("bent bar, by K 1.2: 10, bend 90° R40, 10", "/say/neutral/k", "between 0")]
#[case("bent bar from Q: 10", "/say/from", "no node")]
fn what_cannot_be_bent_says_where_and_how_to_mend_it(
    #[case] line: &str,
    #[case] path: &str,
    #[case] words: &str,
) {
    let r = bar("ROUND 10", line);
    assert!(r.members.is_empty(), "{line} was made");
    let fault = r.faults.first().unwrap();
    assert_eq!(fault.path, path, "{}", fault.fault.message);
    assert!(fault.fault.message.contains(words) && !fault.fault.mend.is_empty(), "{:?}", fault.fault);
}

/// A hook that turns by more than 150° has no corner near: it is told by two. A ring closes.
#[test]
fn wide_bends_are_told_by_more_corners() {
    let r = bar("ROUND 12", "bent bar, up: 150, bend 180° R30 east, 40");
    let t = table(&r);
    let at: Vec<DVec3> = t.corners.iter().map(|c| c.at).collect();
    let corners = [[0.0, 0.0], [180.0, 0.0], [180.0, 60.0], [110.0, 60.0]];
    for (got, want) in at.iter().zip(corners) {
        near(*got, DVec3::new(want[0], want[1], 0.0), 1e-9);
    }
    assert_eq!(at.len(), 4);
    near(end(&r).0, DVec3::new(60.0, 0.0, 110.0), 1e-9);
    let ring = bar("ROUND 12", "bent bar: bend 360° R100");
    near(end(&ring).0, DVec3::ZERO, 1e-9);
    assert_relative_eq!(ring.facts[0].lengths.overall, 100.0 * TAU, max_relative = 1e-12);
}

/// A bar that crosses itself, one whose legs lie 9 apart, and those that keep clear: a hook, a ring, a spiral
/// whose coils stand apart, and a loop that passes itself at the side.
#[rstest]
#[case("bent bar: 100, bend 90° R20, 60, bend 90° R20, 40, bend 90° R20, 100", true)]
#[case("bent bar: 100, bend 180° R10.5, 60, bend 179° R8 turned 180°, 30", false)]
#[case("bent bar: 100, bend 180° R5.4, 100", false)]
#[case("bent bar: 60, bend 200° R8, 60", true)]
#[case("bent bar: bend 360° R40", false)]
#[case("bent bar: spiral 900° R20 to R60", false)]
#[case("bent bar: 100, bend 180° R20, 40, bend 180° R20 turned 20°, 100", false)]
#[case("bent bar: 100, bend 350° R30, 100", true)]
fn a_bar_that_runs_into_itself_is_stopped(#[case] line: &str, #[case] meets: bool) {
    let r = bar("ROUND 10", line);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    assert_eq!(r.findings.iter().any(|f| f.check == "meets_itself"), meets, "{line}");
}

/// An end that a trim takes out of a bend: the table and the list tell one cut length, gain and all.
#[test]
fn a_bend_that_is_cut_gains_what_is_left_of_it() {
    let lines = ["bent bar, by K 0.4: 100, bend 90° R80", "trim bent-1 end at up 40"];
    let r = frame("ROUND 12", JointHow::Butt, &lines);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    // 80 · (1 − cos α) = 40: a third of the half circle is left.
    let angle = PI / 3.0;
    let length = 100.0 + 80.0 * angle - angle * 12.0 * 0.1;
    assert_relative_eq!(table(&r).length, length, epsilon = 1e-6);
    assert_relative_eq!(r.facts[0].lengths.centre, length, epsilon = 1e-6);
}
