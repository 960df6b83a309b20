//! Two bars cannot be in one place: after the joints no metal of one lies inside another, whatever meets at a
//! node.

use geo::{Contains, Coord, Distance, Euclidean, Point, Polygon};
use glam::DVec2;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::frame::*;
use steelk_core::job::*;

use crate::common::frame::*;

/// An outline as `geo` holds it.
fn polygon(outline: &[DVec2]) -> Polygon {
    Polygon::new(outline.iter().map(|q| Coord { x: q.x, y: q.y }).collect(), Vec::new())
}

/// How far inside it a point lies; zero outside.
fn within(outline: &Polygon, p: DVec2) -> f64 {
    let p = Point::new(p.x, p.y);
    if outline.contains(&p) { Euclidean.distance(&p, outline.exterior()) } else { 0.0 }
}

/// How deep metal of `a` lies inside the outline of `b` between its cuts, mm, sampled over the section and
/// along the bar; where.
fn overlap(r: &FrameResult, a: usize, b: usize) -> f64 {
    let (ma, mb) = (&r.members[a], &r.members[b]);
    let (pa, pb) = (&r.profiles[ma.profile], &r.profiles[mb.profile]);
    if !ma.is_straight() || !mb.is_straight() {
        return 0.0;
    }
    let (bar, other) = (ma.end(0), mb.end(0));
    let mut worst: f64 = 0.0;
    let (own, theirs) = (polygon(&pa.fine), polygon(&pb.fine));
    let rim: Vec<DVec2> = pa
        .fine
        .iter()
        .step_by((pa.fine.len() / 24).max(1))
        .map(|q| *q * 0.995)
        .filter(|q| within(&own, *q) > 0.0)
        .collect();
    for q in rim {
        let (from, to) = (ma.station(0, q), ma.length - ma.station(1, q));
        if to <= from {
            continue;
        }
        for k in 0..=200 {
            let point = bar.point(q, from + (to - from) * f64::from(k) / 200.0);
            let (at, along) = other.local(point);
            let wall = within(&theirs, at);
            if wall > worst {
                let ends = (along - mb.station(0, at)).min(mb.length - mb.station(1, at) - along);
                worst = worst.max(ends.min(wall));
            }
        }
    }
    worst
}

/// The deepest overlap of any two members of a frame that meet at a node, and their names.
fn deepest(r: &FrameResult) -> (f64, String) {
    let mut out = (0.0, String::new());
    for j in &r.joints {
        for (i, (x, _)) in j.members_at_node.iter().enumerate() {
            for (y, _) in &j.members_at_node[i + 1..] {
                for (a, b) in [(x.member, y.member), (y.member, x.member)] {
                    let deep = overlap(r, a, b);
                    if deep > out.0 {
                        out = (
                            deep,
                            format!(
                                "{} in {} at {}",
                                r.members[a].name, r.members[b].name, r.nodes[j.node].name
                            ),
                        );
                    }
                }
            }
        }
    }
    out
}

/// Corners as they are built: three ways of a cube, a brace into a corner, a ridge, unlike sections, set off
/// their lines.
#[rstest]
#[case("60x60x3", &["node A 0 0 0", "node B 500 0 0", "node C 0 400 0", "node D 0 0 600", "rail A B",
    "rail A C", "post A D"])]
#[case("60x60x3", &["node A 0 0 0", "node B 500 0 0", "node C 0 400 0", "node D 0 0 600", "rail A B 40x40x3",
    "rail A C", "post A D 80x80x4"])]
#[case("60x60x3", &["node A 0 0 0", "node B 500 0 0", "node D 0 0 600", "node E 500 0 500", "rail A B",
    "post A D", "brace A E 40x40x3"])]
#[case("60x60x3", &["node A 0 0 0", "node B 500 0 0", "node D 0 0 600", "node E 500 0 500", "node F 400 400 \
    400", "rail A B", "post A D", "brace A E 40x40x3", "brace A F 48.3x3"])]
#[case("60x60x3", &["node A -500 0 0", "node B 0 0 200", "node C 500 0 0", "node D 0 0 -400", "rail A B",
    "rail B C", "post B D 50x50x3"])]
#[case("60x60x3", &["node A -500 0 0", "node B 500 0 0", "node M between A and B, 1/2 of the way",
    "node D 300 0 400", "node E -300 0 400", "chord A B", "brace M D 40x40x3", "brace M E 40x40x3"])]
#[case("88.9x4", &["node A -500 0 0", "node B 500 0 0", "node M between A and B, 1/2 of the way",
    "node D 300 0 400", "node E -300 0 400", "node F 0 400 0", "chord A B", "brace M D 48.3x3",
        "brace M E 48.3x3", "brace M F 60.3x4"])]
#[case("RHS 80x40x4", &["node A 0 0 0", "node B 500 0 0", "node C 500 400 0", "rail A B top",
    "rail B C top"])]
#[case("IPE 100", &["node A -500 0 0", "node B 500 0 0", "node M between A and B, 1/2 of the way",
    "node D 0 400 0", "beam A B", "beam M D"])]
#[case("IPE 100", &["node A -500 0 0", "node B 500 0 0", "node M between A and B, 1/2 of the way",
    "node D 0 0 400", "beam A B", "post M D 60x60x3"])]
#[case("L 60x40x5", &["node A 0 0 0", "node B 500 0 0", "node C 500 400 0", "rail A B", "rail B C"])]
#[case("FLAT 60x8", &["node A 0 0 0", "node B 500 0 0", "node C 500 400 0", "node D 500 0 300", "rail A B",
    "rail B C", "post B D"])]
// The tip of a mitred bar stands between the corners of the one that ends at it.
#[case("60x60x3", &["node O 0 0 0", "node A -800 0 0", "node B 326.599 -326.599 653.197", "node C 0 -565.685 \
    -565.685", "rail O A", "rail O B RHS 80x40x3", "rail O C"])]
fn corners_have_room(
    #[case] section: &str,
    #[case] lines: &[&str],
    #[values(JointHow::Mitre, JointHow::Butt)] joint: JointHow,
) {
    let r = frame(section, joint, lines);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let (deep, what) = deepest(&r);
    assert!(deep < 0.6, "{deep:.2} mm: {what}");
}

/// Whichever runs through, at a node of four.
#[rstest]
fn any_may_run_through(
    #[values("post-1", "rail-1", "rail-2", "brace-1")] first: &str,
    #[values("post-1", "rail-1", "rail-2", "brace-1")] second: &str,
) {
    if first == second {
        return;
    }
    let lines = [
        "node A 0 0 0",
        "node B 500 0 0",
        "node C 0 400 0",
        "node D 0 0 600",
        "node E 400 400 400",
        "rail A B",
        "rail A C",
        "post A D",
        "brace A E 40x40x3",
    ];
    for how in ["butt", "mitre"] {
        let told = format!("{how} A first {first} {second}");
        let r = frame("60x60x3", JointHow::Butt, &[&lines[..], &[&told]].concat());
        assert!(r.faults.is_empty());
        let (deep, what) = deepest(&r);
        assert!(deep < 0.6, "{told}: {deep:.2} mm: {what}");
        let role = |name: &str| {
            r.joints[0].members_at_node.iter().find(|a| r.members[a.0.member].name == name).unwrap().1
        };
        assert_eq!(role(first), if how == "butt" { Role::Through } else { Role::Mitred }, "{told}");
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(150))]

    /// Random stars of bars from one node, no two nearly in one direction: every pair has room, or the frame
    /// says that it has not.
    #[test]
    fn stars_have_room(
        arms in prop::collection::vec((-4i32..5, -4i32..5, -4i32..5, 0usize..5), 2..6),
        mitre in any::<bool>(),
    ) {
        let sections = ["60x60x3", "RHS 80x40x3", "48.3x3", "40x40x3", "88.9x4"];
        let dirs: Vec<glam::DVec3> = arms.iter().map(|a| glam::DVec3::new(a.0.into(), a.1.into(),
            a.2.into())).collect();
        prop_assume!(dirs.iter().all(|d| d.length() > 0.5));
        // Arms closer than 35° share their first stretch whatever is done.
        prop_assume!((0..dirs.len()).all(|i| (0..i).all(|j| dirs[i].angle_between(dirs[j]) > 0.61)));
        let mut lines = vec!["node O 0 0 0".to_string()];
        for (i, (d, a)) in dirs.iter().zip(&arms).enumerate() {
            let p = d.normalize() * 800.0;
            lines.push(format!("node N{i} {:.3} {:.3} {:.3}", p.x, p.y, p.z));
            lines.push(format!("rail O N{i} {}", sections[a.3]));
        }
        let r = frame("60x60x3", if mitre { JointHow::Mitre } else { JointHow::Butt },
            &lines.iter().map(String::as_str).collect::<Vec<_>>());
        prop_assert!(r.faults.is_empty());
        let (deep, what) = deepest(&r);
        let told = r.findings.iter().any(|f| f.check == "shared_place");
        // Where the joint cannot close it (arms that go on nearly in line, in twos and threes), it is told; a
        // sliver may slip through the sampling.
        prop_assert!(deep < 4.0 || told, "{:.2} mm: {}", deep, what);
        let apart = |i: usize, j: usize| dirs[i].normalize().dot(dirs[j].normalize()).abs() < 0.5;
        let square = (0..dirs.len()).all(|i| (0..i).all(|j| apart(i, j)));
        // Nor where arms stand off one another: rounds that only graze may be told too.
        prop_assert!(!square || deep < 1.0 || (told && deep < 3.0), "{:.2} mm: {}", deep, what);
    }
}
