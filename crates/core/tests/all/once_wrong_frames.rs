//! Figures and lists of frames that were once wrong without a word: each by hand, in the case that hid it.

use approx::assert_abs_diff_eq;
use glam::DVec2;
use rstest::rstest;
use steelk_core::evaluate::evaluate_frame;
use steelk_core::frame::*;
use steelk_core::grammar::Context;
use steelk_core::job::*;
use steelk_core::quantity::Display;
use steelk_core::result::Severity;

use crate::common::frame::*;

fn clashing(lines: &[&str]) -> Vec<String> {
    let r = frame("60x60x3", JointHow::Butt, lines);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    r.findings
        .iter()
        .filter(|f| f.check == "clash")
        .inspect(|f| assert_eq!(f.severity, Severity::Stop))
        .map(|f| f.message.clone())
        .collect()
}

/// Members that share no node: a bar through another, one ten millimetres into its neighbour, two side by
/// side in one another, one inside the wall of a solid one. What only touches, or passes in the bore or a
/// hole of the other, is none.
#[rstest]
#[case("straight through", &["node A -500 0 0", "node B 500 0 0", "node C 20 -500 0", "node D 20 500 0",
    "rail A B", "rail C D"], 1)]
#[case("ten millimetres in", &["node A -500 0 0", "node B 500 0 0", "node C 20 20 0", "node D 20 500 0",
    "rail A B", "rail C D"], 1)]
#[case("end on the face", &["node A -500 0 0", "node B 500 0 0", "node C 20 30 0", "node D 20 500 0",
    "rail A B", "rail C D"], 0)]
#[case("side by side, in one another", &["node A -500 0 0", "node B 500 0 0", "node C -300 50 0",
    "node D 300 50 0", "rail A B", "rail C D"], 1)]
#[case("side by side, touching", &["node A -500 0 0", "node B 500 0 0", "node C -300 60 0",
    "node D 300 60 0", "rail A B", "rail C D"], 0)]
#[case("end to end, touching", &["node A -500 0 0", "node B 0 0 0", "node C 0 0.001 0", "node D 500 0.001 0",
    "rail A B", "rail C D"], 0)]
#[case("end to end, in one another", &["node A -500 0 0", "node B 0 0 0", "node C -5 0.5 0", "node D 500 0.5 \
    0", "rail A B", "rail C D"], 1)]
#[case("in the bore", &["node A -500 0 0", "node B 500 0 0", "node C -300 0.2 0", "node D 300 0.2 0",
    "rail A B", "rail C D 40x40x3"], 0)]
#[case("in the bore, against its wall", &["node A -500 0 0", "node B 500 0 0", "node C -300 8 0",
    "node D 300 8 0", "rail A B", "rail C D 40x40x3"], 1)]
#[case("beside the end", &["node A -500 0 0", "node B 0 0 0", "node C 31 -500 0", "node D 31 500 0",
    "rail A B", "rail C D"], 0)]
#[case("askew and clear", &["node A -500 0 0", "node B 500 0 0", "node C -300 -300 100", "node D 300 300 90",
    "rail A B", "rail C D"], 0)]
#[case("a bent tube through a straight one", &["node A -500 0 0", "node B 500 0 0", "node C -200 -300 0",
    "node D -200 300 0", "node E 400 300 0", "rail A B", "pipe C D E 42.4x3 bent 130"], 1)]
fn members_clash_wherever_they_meet(#[case] what: &str, #[case] lines: &[&str], #[case] wanted: usize) {
    let told = clashing(lines);
    assert_eq!(told.len(), wanted, "{what}: {told:?}");
    // The same, seen from another corner of the room: nothing depends on the axes.
    let turned: Vec<String> = lines
        .iter()
        .map(|l| {
            let w: Vec<&str> = l.split(' ').collect();
            if w[0] == "node" {
                format!("node {} {} {} {}", w[1], w[3], w[4], w[2])
            } else {
                (*l).to_string()
            }
        })
        .collect();
    let turned: Vec<&str> = turned.iter().map(String::as_str).collect();
    assert_eq!(clashing(&turned).len(), wanted, "{what}, turned");
}

/// A rod through a hole that is drilled for it does not clash with the wall.
#[test]
fn a_rod_in_its_hole() {
    let lines = [
        "node A -500 0 0",
        "node B 500 0 0",
        "node C 20 0 -300",
        "node D 20 0 300",
        "rail A B",
        "pipe C D 16x2",
    ];
    let (job, mut f) = told("60x60x3", JointHow::Butt, &lines);
    let clashes = |f: &Frame| evaluate_frame(&job, f).findings.iter().filter(|f| f.check == "clash").count();
    assert_eq!(clashes(&f), 1);
    let hole = |d: &str| {
        read_frame_line(
            &format!("holes {d} on rail-1, 520 from its start, top, through"),
            &Context::default(),
        )
        .unwrap_or_else(|e| panic!("{} {}", e.message, e.mend))
    };
    f.lines.push(FrameLine::new("hole-1", hole("18")));
    assert_eq!(clashes(&f), 0);
    f.lines.last_mut().unwrap().say = hole("14");
    assert_eq!(clashes(&f), 1);
}

/// Two thousand members, each beside many others: those that come near one another are found among them, and
/// equal pairs are told once.
#[test]
fn clashes_among_two_thousand_members() {
    let posts = [
        "node A 0 0 0",
        "node B 0 0 600",
        "post A B",
        "repeat 20 east 100",
        "repeat 10 north 100",
        "repeat 10 up 700",
    ];
    let rail = ["node X -50 45 300", "node Y 1950 45 300", "rail X Y 20x20x2"];
    let told = |through: bool| {
        let r = frame(
            "60x60x3",
            JointHow::Butt,
            &posts.iter().chain(rail.iter().filter(|_| through)).copied().collect::<Vec<_>>(),
        );
        assert!(r.faults.is_empty(), "{:?}", r.faults);
        assert_eq!(r.members.len(), 2000 + usize::from(through));
        r.findings.iter().filter(|f| f.check == "clash").count()
    };
    assert_eq!((told(false), told(true)), (0, 0));
    let into = ["node X -50 25 300", "node Y 1950 25 300", "rail X Y 20x20x2"];
    let r = frame("60x60x3", JointHow::Butt, &posts.iter().chain(&into).copied().collect::<Vec<_>>());
    assert_eq!(r.findings.iter().filter(|f| f.check == "clash").count(), 1);
}

/// Left is left: the side that a member sits on, and the face that is drilled.
#[test]
fn left_means_one_side() {
    let r = frame(
        "80x40x3",
        JointHow::Butt,
        &["node A 0 0 0", "node B 1000 0 0", "rail A B left", "holes 9 on rail-1, 500 from its start, left"],
    );
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let m = &r.members[0];
    let bar = m.end(0);
    let hole = &m.holes[0];
    // The drilled face lies on the line between the nodes.
    let face = bar.point(hole.at, 0.0);
    assert_abs_diff_eq!(face.y, 0.0, epsilon = 1e-9);
    let out = bar.y * hole.out.x + bar.z * hole.out.y;
    // Looking along +x with up up, left is north.
    assert_abs_diff_eq!(out.y, 1.0, epsilon = 1e-9);
    assert!(bar.o.y < 0.0);
}

/// A joint that nobody told is decided once: the mirrored corner is closed as its original, though a beam
/// that grew over the plane comes before the copies.
#[test]
fn a_mirrored_corner_closes_as_its_original() {
    let lines = [
        "node A 0 0 0",
        "node T 0 0 800",
        "node S 0 600 0",
        "node M 500 0 0",
        "post A T",
        "sill A S",
        "beam A M",
        "mirror east 500",
    ];
    let r = frame("60x60x3", JointHow::Mitre, &lines);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let how = |name: &str, end: usize| {
        r.facts[r.members.iter().position(|m| m.name == name).unwrap()].cuts[end].clone()
    };
    let image = |name: &str| {
        r.members
            .iter()
            .position(|m| m.name.starts_with("mirror") && m.call == name)
            .map(|i| r.members[i].name.clone())
            .unwrap()
    };
    for part in ["post", "sill"] {
        let own =
            r.members.iter().find(|m| m.call == part && !m.name.starts_with("mirror")).unwrap().name.clone();
        let copy = image(part);
        // Start and end change places in a mirror.
        for end in [0, 1] {
            let (a, b) = (how(&own, end), how(&copy, end ^ 1));
            let told = |c: &Cut| match c {
                Cut::Plane(p) => format!("{:.6} {:.6}", p.angle, p.bevel),
                other => format!("{other:?}"),
            };
            assert_eq!(told(&a), told(&b), "{part} {end}");
        }
    }
    let beam = r.members.iter().position(|m| m.call == "beam").unwrap();
    assert_eq!(r.facts[beam].cuts[0], r.facts[beam].cuts[1]);
}

/// A saddle of equal tubes: its long points lie where the branch is widest, at the axis of the run, whichever
/// way it is turned.
#[rstest]
#[case("0")]
#[case("3.7")]
#[case("11")]
#[case("22.5")]
#[case("45")]
fn the_long_point_of_a_saddle_does_not_turn_with_it(#[case] turn: &str) {
    let post = format!("pipe M N turned {turn}");
    let r = frame(
        "60.3x3",
        JointHow::Butt,
        &["node A -500 0 0", "node B 500 0 0", "node M 0 0 0", "node N 0 0 500", "pipe A B", &post],
    );
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let f = &r.facts[1];
    assert_abs_diff_eq!(f.lengths.long, 500.0, epsilon = 1e-6);
    assert_abs_diff_eq!(f.lengths.short, 500.0 - 30.15, epsilon = 1e-6);
    assert_abs_diff_eq!(f.lengths.overall, 500.0, epsilon = 1e-6);
}

/// Bent to one side twice and bent to and fro are told apart; a section that is not round says which way it
/// goes first.
#[test]
fn a_c_and_an_s_are_told_apart() {
    let bends = |lines: &[&str]| {
        let (job, f) = told("42.4x3", JointHow::Butt, lines);
        frame_list(&f, &evaluate_frame(&job, &f), &Display::default(), &SawFacts::usual(&Display::default()))
            .bars[0]
            .bends
            .clone()
    };
    let c = bends(&[
        "node A 0 0 0",
        "node B 500 0 0",
        "node C 500 0 500",
        "node D 0 0 500",
        "pipe A B C D bent 120",
    ]);
    let s = bends(&[
        "node A 0 0 0",
        "node B 500 0 0",
        "node C 500 0 500",
        "node D 1000 0 500",
        "pipe A B C D bent 120",
    ]);
    assert_eq!(c, "380.0 · R120.0 90° · 260.0 · R120.0 90° · 380.0");
    assert_eq!(s, "380.0 · R120.0 90° · 260.0 · turned 180° · R120.0 90° · 380.0");
    // Out of the plane: from up to left, seen along the bar, is a quarter against the clock.
    let out = bends(&[
        "node A 0 0 0",
        "node B 500 0 0",
        "node C 500 0 500",
        "node D 500 500 500",
        "pipe A B C D bent 120",
    ]);
    assert!(out.contains("turned 90°") || out.contains("turned 270°"), "{out}");
    let square =
        bends(&["node A 0 0 0", "node B 500 0 0", "node C 500 0 500", "rail A B C 40x40x3 bent 200"]);
    assert_eq!(square, "300.0 · R200.0 90° up · 300.0");
    let aside = bends(&["node A 0 0 0", "node B 500 0 0", "node C 500 500 0", "rail A B C 40x40x3 bent 200"]);
    assert_eq!(aside, "300.0 · R200.0 90° left · 300.0");
}

/// The saw's step is none unless it is told; told, the shorter lengths are told in it too, and the list says
/// it.
#[test]
fn no_step_unless_it_is_told() {
    let lines = ["node A 0 0 0", "node B 503.62 0 0", "rail A B"];
    let list = |step: &str| {
        let (mut job, f) = told("60x60x3", JointHow::Butt, &lines);
        job.saw = Some(Saw { length_step: step.into(), ..Saw::default() });
        let saw = steelk_core::shop::Shop::of(&job.settings()).frame.saw;
        frame_list(&f, &evaluate_frame(&job, &f), &job.display, &saw)
    };
    let (plain, stepped) = (list(""), list("0.5"));
    assert_eq!((plain.bars[0].length.as_str(), plain.steps.as_str()), ("503.6", ""));
    assert_eq!(
        (stepped.bars[0].length.as_str(), stepped.bars[0].short.as_str(), stepped.steps.as_str()),
        ("503.5", "503.5", "lengths to the next 0.5 mm")
    );
}

/// Ears as wide as they are told, the bolt where it is told; too near an edge it is refused.
#[test]
fn clamp_ears_are_told() {
    let clamp = |more: RingSaid| {
        let (job, mut f) = told("48.3x3", JointHow::Butt, &["node A 0 0 0", "node B 0 0 1000", "post A B"]);
        let s = |t: &str| t.to_string();
        let say = RingSaid {
            member: s("post-1"),
            at: s("300"),
            outside: s("63.5"),
            width: s("60"),
            clearance: s("0.2"),
            split: s("5"),
            ear: s("30"),
            thickness: s("8"),
            bolt: s("9"),
            ..more
        };
        f.lines.push(FrameLine::new("clamp-1", FrameOperation::RingClamp(say)));
        evaluate_frame(&job, &f)
    };
    let r = clamp(RingSaid { ear_width: "25".into(), bolt_at: "18".into(), ..RingSaid::default() });
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let ear = &r.plates.iter().find(|p| p.call == "clamp ear").unwrap().piece;
    let b = ear.flat.outer.bounds();
    assert_abs_diff_eq!(b.size().min_element(), 25.0, epsilon = 1e-9);
    assert_abs_diff_eq!(b.size().max_element(), 30.0, epsilon = 1e-9);
    let (at, radius) = ear.flat.holes[0].contour.as_circle().unwrap();
    // 18 from the ring is 12 from the tip, whichever way the plate is drawn.
    let k = usize::from(b.size().y > b.size().x);
    let mut ends = [at[k] - b.min[k], b.max[k] - at[k]];
    ends.sort_by(f64::total_cmp);
    assert_abs_diff_eq!(ends[0], 12.0, epsilon = 1e-9);
    assert_abs_diff_eq!(ends[1], 18.0, epsilon = 1e-9);
    assert_abs_diff_eq!(radius, 4.5, epsilon = 1e-9);
    let r = clamp(RingSaid { bolt_at: "28".into(), ..RingSaid::default() });
    assert_eq!(r.faults[0].path, "/say/bolt_at");
}

/// A trim that takes only a corner off is carried out, beside the cut of the joint, and lengthens nothing.
#[test]
fn a_trim_adds_to_the_cut_of_the_joint() {
    let plain = frame(
        "60x60x3",
        JointHow::Mitre,
        &["node A 0 0 0", "node B 500 0 0", "node C 500 0 500", "rail A B", "post B C"],
    );
    let trimmed = frame(
        "60x60x3",
        JointHow::Mitre,
        &[
            "node A 0 0 0",
            "node B 500 0 0",
            "node C 500 0 500",
            "rail A B",
            "post B C",
            "trim rail-1 end east 515",
        ],
    );
    assert!(trimmed.faults.is_empty(), "{:?}", trimmed.faults);
    assert!(trimmed.findings.iter().all(|f| f.check != "trim_would_lengthen"), "{:?}", trimmed.findings);
    let of = |r: &FrameResult| (r.facts[0].lengths.overall, r.facts[0].volume);
    let ((long, whole), (short, less)) = (of(&plain), of(&trimmed));
    assert_abs_diff_eq!(long, 530.0, epsilon = 1e-6);
    assert_abs_diff_eq!(short, 515.0, epsilon = 1e-6);
    assert!(less < whole && less > whole * 0.95);
    // Two cuts at one end: from tip to tip it is what a blank must have, against a thousand points a side;
    // bars are planned by it.
    let (m, p) = (&trimmed.members[0], &trimmed.profiles[0]);
    assert_eq!(m.trims[1].len(), 2);
    let cuts = m.cuts(1);
    let sides = 0..p.outer.vertices.len();
    let tip = sides
        .flat_map(|i| (0..1000).map(move |k| (i, f64::from(k) / 1000.0)))
        .map(|(i, t)| m.length - cuts.station(p.outer.segment(i).at(t)))
        .fold(0.0, f64::max);
    assert!(short >= tip - 1e-9 && short < tip + 1e-3, "{short} {tip}");
    let list = frame_list(
        &Frame { id: "f".into(), ..Frame::default() },
        &trimmed,
        &Display::default(),
        &SawFacts::usual(&Display::default()),
    );
    assert_abs_diff_eq!(list.bars[0].part.length, short, epsilon = 1e-9);
    assert_eq!(list.bars[0].length, "515.0");
}

/// A lug is welded on the sides that the drawing says; a leg larger than its wall, and an upright that
/// overhangs its base, are found.
#[test]
fn welds_of_lugs_are_told_and_looked_at() {
    let lug = |more: &str, weld: &str| {
        let line = format!("lug rail-1 top at 250 thick 10 radius 25 eye 20 height 40 {more}");
        let lines = ["node A 0 0 0", "node B 500 0 0", "rail A B", line.trim(), weld];
        let (job, f) =
            told("60x60x3", JointHow::Butt, if weld.is_empty() { &lines[..4] } else { &lines[..] });
        let r = evaluate_frame(&job, &f);
        assert!(r.faults.is_empty(), "{:?}", r.faults);
        r
    };
    // Its foot is 50 × 10.
    for (more, length) in [("", 120.0), ("weld sides", 100.0), ("weld ends", 20.0)] {
        let r = lug(more, "");
        assert_abs_diff_eq!(
            r.welds.iter().find(|w| w.at.starts_with("lug")).unwrap().length,
            length,
            epsilon = 1e-9
        );
        assert!(
            r.findings.iter().all(|f| f.check != "weld_large" && f.check != "upright_overhangs"),
            "{:?}",
            r.findings
        );
    }
    let found = |r: &FrameResult, check: &str| {
        r.findings.iter().filter(|f| f.check == check).map(|f| f.message.clone()).collect::<Vec<_>>()
    };
    // A leg of 5 on a wall of 3.
    let large = found(&lug("", "weld fillet 5"), "weld_large");
    assert!(large.len() == 1 && large[0].contains("a leg of 5 on a part 3"), "{large:?}");
    assert!(found(&lug("", "weld fillet 3"), "weld_large").is_empty());
    // The usual base is 120 × 80: an upright of R25 stands on it, one of R70 does not.
    assert!(found(&lug("base 120 x 80 x 12", ""), "upright_overhangs").is_empty());
    let (job, f) = told(
        "60x60x3",
        JointHow::Butt,
        &[
            "node A 0 0 0",
            "node B 900 0 0",
            "rail A B",
            "lug rail-1 top at 450 thick 10 radius 70 eye 20 height 90 base 120 x 80 x 12",
        ],
    );
    let over = found(&evaluate_frame(&job, &f), "upright_overhangs");
    assert!(
        over.len() == 1 && over[0].contains("is 140 long and 10 thick; its base is 120 × 80"),
        "{over:?}"
    );
}

/// A gusset stands on the straight leg of a bent tube, and is refused where its leg would run into the bend.
#[test]
fn gussets_stand_on_straight_legs_of_bent_tubes() {
    let frame = |leg: &str| {
        let gusset = format!("gusset A pipe-1 D leg {leg} thick 6");
        let (job, f) = told(
            "60x60x3",
            JointHow::Butt,
            &[
                "node A 0 0 0",
                "node B 0 0 900",
                "node C 700 0 900",
                "node D 600 0 0",
                "pipe A B C 60x60x3 bent 150",
                "rail A D",
                &gusset,
            ],
        );
        evaluate_frame(&job, &f)
    };
    let bent = frame("100");
    assert!(bent.faults.is_empty() && bent.plates.len() == 1, "{:?}", bent.faults);
    // The same as between two straight ones.
    let (job, f) = told(
        "60x60x3",
        JointHow::Butt,
        &[
            "node A 0 0 0",
            "node B 0 0 900",
            "node D 600 0 0",
            "post A B",
            "rail A D",
            "gusset A B D leg 100 thick 6",
        ],
    );
    let straight = evaluate_frame(&job, &f);
    assert!(straight.faults.is_empty(), "{:?}", straight.faults);
    let (p, q) = (&bent.plates[0].places[0], &straight.plates[0].places[0]);
    assert!(p.o.distance(q.o) < 1e-6 && p.x.distance(q.x) < 1e-6, "{p:?} {q:?}");
    // 900 less the tangent length of R150 at a right angle: 750 are straight.
    let refused = frame("760");
    assert!(
        refused.faults.len() == 1 && refused.faults[0].fault.message.contains("750.0 mm are straight there"),
        "{:?}",
        refused.faults
    );
}

/// A beam that comes along the axis of a bend meets the flat side of a box tube: nothing to dress. One that
/// comes in the plane of the bend leaves some.
#[test]
fn only_curved_sides_are_dressed() {
    let frame = |to: &str| {
        let (job, f) = told(
            "60x60x3",
            JointHow::Butt,
            &[
                "node A -500 0 0",
                "node M 0 0 220",
                "node B 500 0 0",
                &format!("node N {to}"),
                "rail A M B 60x60x3 arc",
                "beam M N",
            ],
        );
        let r = evaluate_frame(&job, &f);
        assert!(r.faults.is_empty(), "{:?}", r.faults);
        r.findings.iter().filter(|f| f.check == "curved_wall").count()
    };
    assert_eq!((frame("0 500 220"), frame("0 0 800")), (0, 1));
}

/// A bent bar is drawn as it is bent: a C comes back, an S goes on, one that leaves its plane says so.
#[test]
fn bent_bars_are_drawn_as_they_are_bent() {
    let way = |d: &str| {
        let (job, f) = told(
            "48.3x3",
            JointHow::Butt,
            &[
                "node A 0 0 0",
                "node B 600 0 0",
                "node C 600 400 0",
                &format!("node D {d}"),
                "pipe A B C D 48.3x3 bent 100",
            ],
        );
        let r = evaluate_frame(&job, &f);
        assert!(r.faults.is_empty(), "{:?}", r.faults);
        frame_list(&f, &r, &job.display, &SawFacts::usual(&job.display)).bars[0].way.clone()
    };
    let end = |w: &(Vec<DVec2>, bool)| *w.0.last().unwrap();
    let (c, s, out) = (way("0 400 0"), way("1200 400 0"), way("600 400 500"));
    assert!(end(&c).distance(DVec2::new(0.0, 400.0)) < 1e-6 && !c.1, "{:?}", end(&c));
    assert!(end(&s).distance(DVec2::new(1200.0, 400.0)) < 1e-6 && !s.1, "{:?}", end(&s));
    assert!(out.1);
    // As long as it is developed: 600 + 400 + 600, less what two corners of R100 save.
    let long: f64 = c.0.windows(2).map(|w| w[0].distance(w[1])).sum();
    assert_abs_diff_eq!(long, 1600.0 - 2.0 * (200.0 - 100.0 * std::f64::consts::FRAC_PI_2), epsilon = 0.2);
}

/// An end with two cuts is drawn with both: a brace at 45° in a corner runs to a tip in its middle and stands
/// back by half its depth at its edges.
#[test]
fn an_end_with_two_cuts_is_drawn_with_both() {
    let lines = [
        "node A 0 0 0",
        "node B 0 0 900",
        "node C 900 0 0",
        "node D 500 0 500",
        "post A B",
        "rail A C",
        "brace A D 40x40x3",
    ];
    let (job, f) = told("60x60x3", JointHow::Butt, &lines);
    let r = evaluate_frame(&job, &f);
    let list = frame_list(&f, &r, &job.display, &SawFacts::usual(&job.display));
    let brace = list.bars.iter().find(|b| b.name == "brace").unwrap();
    let [start, end] = brace.ends_seen.clone().unwrap_or_else(|| panic!("{:?}", brace.cuts));
    let back = |ends: &[DVec2], share: f64| {
        let k = ends.iter().position(|q| q.x >= share - 1e-9).unwrap().max(1);
        let (a, b) = (ends[k - 1], ends[k]);
        a.y + (b.y - a.y) * (share - a.x) / (b.x - a.x)
    };
    for (share, want) in [(0.0, 20.0), (0.25, 10.0), (0.5, 0.0), (1.0, 20.0)] {
        assert_abs_diff_eq!(back(&start, share), want, epsilon = 0.2);
    }
    assert!(end.iter().all(|q| q.y.abs() < 1e-9), "its other end is square");
    // Bars with plain ends keep their plain picture.
    assert!(list.bars.iter().filter(|b| b.name != "brace").all(|b| b.ends_seen.is_none()));
}

/// The welds of an empty frame were -0.00 m.
#[test]
fn nothing_welded_has_no_sign() {
    let r = frame("60x60x3", JointHow::Butt, &[]);
    let welds = r.figures.iter().find(|f| f.key == "weld").unwrap();
    assert_eq!(welds.text, "0.00 m, 0.000 kg");
}
