//! Mirrors and bays: whatever is told of the originals holds for their copies; a copied frame is that many
//! frames.

use approx::assert_relative_eq;
use glam::DVec3;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::evaluate::evaluate_frame;
use steelk_core::frame::*;
use steelk_core::job::*;

use crate::common::frame::*;

const PORTAL: [&str; 8] = [
    "node A 200 0 0",
    "node B 200 0 800",
    "node C 1000 0 800",
    "node D 1000 0 0",
    "post A B",
    "rail B C",
    "post D C",
    "brace A C 40x40x3",
];

fn lines<'a>(more: &[&'a str]) -> Vec<&'a str> {
    PORTAL.iter().copied().chain(more.iter().copied()).collect()
}

/// Joints, trims, holes, plates and welds told before a copy come with it: n copies weigh n times, and every
/// row of the list counts n times.
#[rstest]
#[case(&["mirror east 0"], 2)]
#[case(&["repeat 4 north 500"], 4)]
#[case(&["mirror east 0", "repeat 3 north 700"], 6)]
#[case(&["repeat 3 north 700", "mirror east 0"], 6)]
#[case(&["mirror east 0", "mirror north 300"], 4)]
fn all_that_is_told_comes_along(#[case] copies: &[&str], #[case] n: usize) {
    let told = [
        "butt B first post-1 gap 2",
        "trim brace-1 end east 900",
        "holes 11 on post-1, 100 from its start, left, through, 3 x 60",
        "notch rail-1 end 6 x 40 top",
        "gusset A B C leg 90 thick 6 nose 10",
        "foot A D 120 x 120 thick 8 hole 11",
        "weld fillet 4",
    ];
    let one = frame("60x60x3", JointHow::Mitre, &lines(&told));
    let all = frame("60x60x3", JointHow::Mitre, &lines(&[&told[..], copies].concat()));
    assert!(one.faults.is_empty() && all.faults.is_empty(), "{:?} {:?}", one.faults, all.faults);
    assert_eq!(all.members.len(), n * one.members.len());
    assert_relative_eq!(all.mass(), n as f64 * one.mass(), max_relative = 1e-9);
    assert_relative_eq!(all.weld_mass(), n as f64 * one.weld_mass(), max_relative = 1e-9);
    let list = |r: &FrameResult| {
        frame_list(
            &Frame { mark: "F".into(), ..Frame::default() },
            r,
            &Default::default(),
            &SawFacts::usual(&Default::default()),
        )
    };
    let (single, whole) = (list(&one), list(&all));
    // Holes in one face make hands of bars that a mirror turns over; counted together they are n times the
    // one.
    let count = |l: &FrameList, section: &str| {
        l.bars.iter().filter(|b| b.section == section).map(|b| b.quantity).sum::<usize>()
    };
    for section in ["SHS 60x60x3", "SHS 40x40x3"] {
        assert_eq!(count(&whole, section), n * count(&single, section), "{section}");
    }
    assert_eq!(
        whole.plates.iter().map(|p| p.quantity).sum::<usize>(),
        n * single.plates.iter().map(|p| p.quantity).sum::<usize>()
    );
    let drilled = |r: &FrameResult| r.members.iter().map(|m| m.holes.len()).sum::<usize>();
    assert_eq!(drilled(&all), n * drilled(&one));
    for (row, other) in single.welds.iter().zip(&whole.welds) {
        assert_eq!((other.count, &other.size), (n * row.count, &row.size));
    }
}

/// A joint told at a node holds at its copies, and one told at a copy holds there alone.
#[test]
fn joints_of_copies() {
    let role = |r: &FrameResult, node: &str, member: &str| {
        let j = r.joints.iter().find(|j| r.nodes[j.node].name == node).unwrap();
        j.members_at_node.iter().find(|a| r.members[a.0.member].name == member).unwrap().1
    };
    let r = frame("60x60x3", JointHow::Mitre, &lines(&["mirror east 0", "butt B first rail-1"]));
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    assert_eq!(
        (role(&r, "B", "rail-1"), role(&r, "mirror-1.B", "mirror-1.rail-1")),
        (Role::Through, Role::Through)
    );
    let (job, mut f) = told("60x60x3", JointHow::Mitre, &lines(&["mirror east 0"]));
    let joint = JointSaid {
        at: vec!["mirror-1.B".into()],
        how: JointHow::Butt,
        first: vec!["mirror-1.post-1".into()],
        ..JointSaid::default()
    };
    f.lines.push(FrameLine::new("j", FrameOperation::Joint(joint)));
    let r = evaluate_frame(&job, &f);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    assert_eq!(
        (role(&r, "B", "post-1"), role(&r, "mirror-1.B", "mirror-1.post-1")),
        (Role::Mitred, Role::Through)
    );
}

/// Only the lines named are copied; naming one that comes later, or none that there is, is refused.
#[test]
fn some_lines_only() {
    let copy = |of: &[&str]| {
        let (job, mut f) = told("60x60x3", JointHow::Mitre, &PORTAL);
        let of = of.iter().map(|s| s.to_string()).collect();
        let repeat = RepeatFrame { of, count: "2".into(), x: "".into(), y: "400".into(), z: "".into() };
        f.lines.push(FrameLine::new("m", FrameOperation::RepeatFrame(repeat)));
        evaluate_frame(&job, &f)
    };
    let r = copy(&["post-1", "rail-1"]);
    assert!(r.faults.is_empty());
    assert_eq!(
        r.members.iter().filter(|m| m.name.starts_with("m.")).map(|m| m.name.as_str()).collect::<Vec<_>>(),
        ["m.post-1#2", "m.rail-1#2"]
    );
    // Their nodes come with them, those of the others do not.
    assert_eq!(r.nodes.len(), 4 + 3);
    for bad in [&["post-9"][..], &["m"]] {
        let r = copy(bad);
        assert_eq!((r.faults.len(), r.faults[0].path.as_str()), (1, "/say/of/0"));
    }
}

/// Where the copy lands on the original nothing is doubled; a step that leads nowhere is refused.
#[test]
fn landing_on_itself() {
    let r = frame("60x60x3", JointHow::Mitre, &lines(&["mirror east 600"]));
    // The portal is its own image but for the brace.
    assert_eq!(r.members.len(), 5);
    assert!(r.findings.iter().all(|f| f.check != "double"));
    let r = frame("60x60x3", JointHow::Mitre, &lines(&["repeat 3 up 0"]));
    assert!(r.faults[0].fault.message.contains("nowhere"));
    let bays = frame(
        "60x60x3",
        JointHow::Mitre,
        &["node A 0 0 0", "node B 500 0 0", "node C 0 0 400", "rail A B", "post A C", "repeat 5 east 500"],
    );
    // Rails in a row are spliced, each its own; posts stand at every place but the last.
    assert_eq!((bays.members.len(), bays.nodes.len()), (10, 6 + 5));
    assert!(bays.findings.iter().all(|f| f.severity == steelk_core::result::Severity::Note));
}

/// A rack of bays and decks, mirrored: uprights between bays and decks stand once, and every bay's beam and
/// diagonals are counted. By hand n bays and m decks have 2·(n + 1)·m uprights and 2·n·m of each other bar.
#[rstest]
fn a_rack_by_count(#[values(1, 3, 7)] n: usize, #[values(1, 2, 5)] m: usize) {
    let (bays, decks) = (format!("repeat {n} north 800"), format!("repeat {m} up 600"));
    let lines = [
        "node A 400 0 0",
        "node B 400 800 0",
        "node C 400 0 600",
        "node D 400 800 600",
        "post A C 60x60x3",
        "post B D 60x60x3",
        "rail C D 50x30x3",
        "brace A D 30x30x3",
        "brace B C 33.7x2.6",
        &bays,
        &decks,
        "mirror east 0",
    ];
    let r = frame("60x60x3", JointHow::Mitre, &lines);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let of = |section: &str| {
        r.members.iter().filter(|m| r.profiles[m.profile].section.designation == section).count()
    };
    assert_eq!(of("SHS 60x60x3"), 2 * (n + 1) * m);
    for section in ["RHS 50x30x3", "SHS 30x30x3", "CHS 33.7x2.6"] {
        assert_eq!(of(section), 2 * n * m, "{section}");
    }
    assert_eq!(r.nodes.len(), 2 * (n + 1) * (m + 1));
    assert!(r.findings.iter().all(|f| f.check != "double"));
    // Beams of all bays are one piece: between the faces of two uprights.
    let list = frame_list(
        &Frame { mark: "F".into(), ..Frame::default() },
        &r,
        &Default::default(),
        &SawFacts::usual(&Default::default()),
    );
    let beams: Vec<_> = list.bars.iter().filter(|b| b.section == "RHS 50x30x3").collect();
    assert_eq!(beams.iter().map(|b| b.quantity).sum::<usize>(), 2 * n * m);
    assert!(
        beams.iter().all(|b| b.length == "740.0" && b.cuts.iter().all(|c| c.text == "square")),
        "{:?}",
        beams.iter().map(|b| &b.length).collect::<Vec<_>>()
    );
    assert_eq!(
        list.welds.iter().map(|w| w.count).sum::<usize>(),
        r.welds.iter().map(|w| w.count).sum::<usize>()
    );
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]

    /// A frame turned about the vertical by quarter turns, or shifted, is the same frame: same rows, same
    /// mass, its centre turned with it.
    #[test]
    fn a_frame_is_where_it_is_told(
        nodes in prop::collection::vec((0i32..4, 0i32..4, 0i32..4), 3..7),
        bars in prop::collection::vec((0usize..7, 0usize..7, 0usize..4), 2..8),
        quarter in 1usize..4,
        shift in (-3000i32..3000, -3000i32..3000, -3000i32..3000),
        mitre in any::<bool>(),
    ) {
        let sections = ["60x60x3", "48.3x3", "40x40x3", "ROUND 20"];
        let place = |n: &(i32, i32, i32), turned: bool| {
            let p = DVec3::new(f64::from(n.0) * 410.0, f64::from(n.1) * 370.0, f64::from(n.2) * 530.0);
            let q = (0..if turned { quarter } else { 0 }).fold(p, |p, _| DVec3::new(-p.y, p.x, p.z));
            if turned { q + DVec3::new(shift.0.into(), shift.1.into(), shift.2.into()) } else { q }
        };
        let told = |turned: bool| {
            let mut out: Vec<String> = nodes.iter().enumerate().map(|(i, n)| { let p = place(n,
                turned); format!("node N{i} {} {} {}", p.x, p.y, p.z) }).collect();
            out.extend(bars.iter().map(|b| format!("rail N{} N{} {}", b.0 % nodes.len(), b.1 % nodes.len(),
                sections[b.2])));
            frame("60x60x3", if mitre { JointHow::Mitre } else { JointHow::Butt },
                &out.iter().map(String::as_str).collect::<Vec<_>>())
        };
        let (here, there) = (told(false), told(true));
        prop_assert_eq!(here.members.len(), there.members.len());
        // Copes are integrated in slices: the last digits turn with the section.
        prop_assert!((here.mass() - there.mass()).abs() < 2e-4 * here.mass().max(1.0), "{} {}", here.mass(),
            there.mass());
        for (a, b) in here.facts.iter().zip(&there.facts) {
            let (l, m) = (&a.lengths, &b.lengths);
            let same = |a: f64, b: f64| (a - b).abs() < 1e-4;
            prop_assert!(same(l.long, m.long) && same(l.short, m.short), "{l:?} {m:?}");
        }
        let rows = |r: &FrameResult| r.groups.iter().map(|g| g.fits.len()).collect::<Vec<_>>();
        prop_assert_eq!(rows(&here), rows(&there));
    }
}
