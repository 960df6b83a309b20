//! Frames from typed lines: lengths, angles and groups against closed forms and hand sums.

use approx::assert_relative_eq;
use rstest::rstest;
use steelk_core::frame::*;
use steelk_core::job::*;

use crate::common::frame::*;

/// Two legs of a at an included angle: each cut 90° − θ/2 off square; long point = a + (w/2)·cot(θ/2), short
/// = a − (w/2)·cot(θ/2).
#[rstest]
fn mitre_in_closed_form(
    #[values(20.0, 45.0, 60.0, 90.0, 120.0, 135.0, 172.0)] theta: f64,
    #[values("60x60x3", "RHS 100x50x4", "48.3x3")] section: &str,
) {
    let t = theta.to_radians();
    let r = frame(
        section,
        JointHow::Mitre,
        &[
            "node A 500 0 0",
            "node B 0 0 0",
            &format!("node C 500*cos({theta}) 500*sin({theta}) 0"),
            "rail A B",
            "rail B C",
        ],
    );
    assert!(r.faults.is_empty());
    // Lying rails: the width lies in the plane of the joint.
    let w = r.profiles[0].section.shape.size().x;
    let (_, f) = of(&r, "rail-1");
    let more = w / 2.0 / (t / 2.0).tan();
    assert_relative_eq!(f.lengths.long, 500.0 + more, epsilon = 1e-6);
    assert_relative_eq!(f.lengths.short, 500.0 - more, epsilon = 1e-6);
    assert_relative_eq!(f.lengths.centre, 500.0, epsilon = 1e-6);
    assert_eq!(f.cuts[0], Cut::Square);
    assert_relative_eq!(plane(&f.cuts[1]).angle, std::f64::consts::FRAC_PI_2 - t / 2.0, epsilon = 1e-9);
    // A slanted end takes off on one side what it adds on the other.
    assert_relative_eq!(f.volume, r.profiles[0].properties.area * 500.0, max_relative = 1e-9);
    assert_eq!(r.groups.len(), 1);
}

/// Unequal sections: the cut runs from the outer to the inner corner, tan of each angle by the widths.
#[test]
fn mitre_of_unequal_sections() {
    let r = frame(
        "60x60x3",
        JointHow::Mitre,
        &["node A 500 0 0", "node B 0 0 0", "node C 0 500 0", "rail A B", "rail B C 40x40x3"],
    );
    clean(&r);
    let (a, b) = (of(&r, "rail-1").1, of(&r, "rail-2").1);
    assert_relative_eq!(plane(&a.cuts[1]).angle.tan(), 40.0 / 60.0, epsilon = 1e-9);
    assert_relative_eq!(plane(&b.cuts[0]).angle.tan(), 60.0 / 40.0, epsilon = 1e-9);
    assert_relative_eq!(a.lengths.long, 520.0, epsilon = 1e-9);
    assert_relative_eq!(b.lengths.long, 530.0, epsilon = 1e-9);
}

/// Unequal sections at a shallow corner: no plane from corner to corner lies between the two, so each is cut
/// at half the angle and the larger stands over the smaller.
#[rstest]
fn shallow_mitre_of_unequal_sections(#[values(2.0, 10.0, 16.0, 30.0)] bend: f64) {
    let r = frame(
        "60x60x3",
        JointHow::Mitre,
        &[
            "node A -500 0 0",
            "node B 0 0 0",
            &format!("node C 500*cos({bend}) 500*sin({bend}) 0"),
            "rail A B",
            "rail B C 48.3x3",
        ],
    );
    assert!(r.faults.is_empty());
    for (name, end, width) in [("rail-1", 1, 60.0), ("rail-2", 0, 48.3)] {
        let f = of(&r, name).1;
        let half = f64::to_radians(bend / 2.0);
        assert_relative_eq!(plane(&f.cuts[end]).angle, half, epsilon = 1e-9);
        assert_relative_eq!(f.lengths.centre, 500.0, epsilon = 1e-9);
        assert_relative_eq!(f.lengths.long, 500.0 + width / 2.0 * half.tan(), epsilon = 1e-9);
    }
}

/// A right-angled butt: one runs to the far face, the other ends at the near one; the gap opens on the one
/// that ends.
#[test]
fn butt_either_way() {
    let lines = ["node A 500 0 0", "node B 0 0 0", "node C 0 400 0", "rail A B", "rail B C 40x40x3"];
    let r = frame("60x60x3", JointHow::Butt, &lines);
    clean(&r);
    assert_relative_eq!(of(&r, "rail-1").1.lengths.long, 500.0 + 20.0, epsilon = 1e-9);
    assert_relative_eq!(of(&r, "rail-2").1.lengths.long, 400.0 - 30.0, epsilon = 1e-9);
    let mut other = lines.to_vec();
    other.push("butt B first rail-2 gap 2");
    let r = frame("60x60x3", JointHow::Butt, &other);
    clean(&r);
    assert_relative_eq!(of(&r, "rail-1").1.lengths.long, 500.0 - 20.0 - 2.0, epsilon = 1e-9);
    assert_relative_eq!(of(&r, "rail-2").1.lengths.long, 400.0 + 30.0, epsilon = 1e-9);
}

/// A brace of width b at angle θ onto a chord of height h: cut 90° − θ off square, centre short by h/2 / sin
/// θ.
#[rstest]
fn brace_on_a_face(#[values(30.0, 45.0, 60.0, 90.0)] theta: f64) {
    let t = f64::to_radians(theta);
    let r = frame(
        "80x80x4",
        JointHow::Butt,
        &[
            "node A -600 0 0",
            "node B 600 0 0",
            "node M between A and B, 1/2 of the way",
            &format!("node D from M east 500*cos({theta}) up 500*sin({theta})"),
            "chord A B",
            "brace M D 40x40x3",
        ],
    );
    clean(&r);
    let (_, f) = of(&r, "brace-1");
    assert_relative_eq!(f.lengths.centre, 500.0 - 40.0 / t.sin(), epsilon = 1e-9);
    assert_relative_eq!(f.lengths.long - f.lengths.short, 40.0 / t.tan(), epsilon = 1e-9);
    if theta < 90.0 {
        assert_relative_eq!(plane(&f.cuts[0]).angle, std::f64::consts::FRAC_PI_2 - t, epsilon = 1e-9);
    } else {
        assert_eq!(f.cuts[0], Cut::Square);
    }
    assert_relative_eq!(of(&r, "chord-1").1.lengths.long, 1200.0, epsilon = 1e-9);
}

/// Four legs, four rails of equal length butted between them: two rows in the list, each of four.
#[test]
fn a_table() {
    let r = frame(
        "40x40x3",
        JointHow::Butt,
        &[
            "node A 0 0 0",
            "node B 1000 0 0",
            "node C 1000 1000 0",
            "node D 0 1000 0",
            "node a from A down 700",
            "node b from B down 700",
            "node c from C down 700",
            "node d from D down 700",
            "leg A a 50x50x4",
            "leg B b 50x50x4",
            "leg C c 50x50x4",
            "leg D d 50x50x4",
            "rail A B C D closed",
        ],
    );
    clean(&r);
    assert_eq!(r.groups.iter().map(|g| g.fits.len()).collect::<Vec<_>>(), [4, 4]);
    assert_relative_eq!(of(&r, "rail-1.1").1.lengths.long, 1000.0 - 50.0, epsilon = 1e-9);
    // The legs carry the whole foot of the rails.
    assert_relative_eq!(of(&r, "leg-1").1.lengths.long, 700.0 + 20.0, epsilon = 1e-9);
    let list = frame_list(
        &Frame { mark: "F".into(), ..Frame::default() },
        &r,
        &Default::default(),
        &SawFacts::usual(&Default::default()),
    );
    assert_eq!(
        list.bars.iter().map(|b| (b.quantity, b.length.as_str())).collect::<Vec<_>>(),
        [(4, "720.0"), (4, "950.0")]
    );
}

/// Half a frame and its image are the whole: masses, and members across the middle stay one.
#[test]
fn mirrored_halves_are_the_whole() {
    let half = frame(
        "60x60x3",
        JointHow::Mitre,
        &[
            "node A 500 0 0",
            "node B 500 0 800",
            "node T 0 0 800",
            "node M 0 0 0",
            "post A B",
            "rail B T",
            "sill A M",
            "brace M B 30x30x3",
            "mirror east 0",
        ],
    );
    let whole = frame(
        "60x60x3",
        JointHow::Mitre,
        &[
            "node A 500 0 0",
            "node B 500 0 800",
            "node C -500 0 800",
            "node D -500 0 0",
            "node M between A and D, 1/2 of the way",
            "post A B C D closed",
            "brace M B 30x30x3",
            "brace M C 30x30x3",
        ],
    );
    clean(&half);
    clean(&whole);
    assert_eq!(half.members.len(), whole.members.len());
    assert_relative_eq!(half.mass(), whole.mass(), max_relative = 1e-12);
    assert_relative_eq!(of(&half, "rail-1").1.lengths.long, 1060.0, epsilon = 1e-9);
    assert!(half.groups.iter().all(|g| g.fits.iter().all(|f| !f.mirrored)));
    assert!(half.centre().x.abs() < 1e-9);
    assert_eq!(half.groups.len(), whole.groups.len());
}

/// An unequal angle cut at one end is a hand; a tube cut the same way is not.
#[rstest]
#[case("L 60x40x5", true)]
#[case("60x60x3", false)]
fn hands_only_where_they_differ(#[case] section: &str, #[case] differ: bool) {
    let r = frame(
        section,
        JointHow::Mitre,
        &[
            "node A 500 0 0",
            "node B 100 0 0",
            "node C 500 300 0",
            "rail A B",
            "rail A C 20x20x2",
            "mirror east 0",
        ],
    );
    let g = r
        .groups
        .iter()
        .find(|g| {
            r.members[g.fits[0].member].call == "rail"
                && r.profiles[r.members[g.fits[0].member].profile].section.designation
                    == section.replace("60x60", "SHS 60x60")
        })
        .unwrap();
    assert_eq!(g.fits.len(), 2);
    assert_eq!(g.fits[1].mirrored, differ);
}

/// Saddle of a tube of radius r on one of radius R at right angles: the end stands R − √(R² − y²) further in
/// at the sides.
#[test]
fn saddle_against_the_analytic_curve() {
    let r = frame(
        "88.9x4",
        JointHow::Butt,
        &[
            "node A -500 0 0",
            "node B 500 0 0",
            "node M 0 0 0",
            "node D 0 0 400",
            "pipe A B",
            "pipe M D 60.3x4",
        ],
    );
    clean(&r);
    let (m, f) = of(&r, "pipe-2");
    assert_eq!(f.cuts[0], Cut::Cope);
    let big = 88.9 / 2.0;
    for i in 0..64 {
        let p = glam::DVec2::from_angle(i as f64 * 0.1) * 60.3 / 2.0;
        // The way into the brace is up; its section's y and z lie east and north in some turn: distance off
        // the pipe's axis is along north.
        let off = m.end(0).point(p, 0.0).y;
        assert_relative_eq!(m.station(0, p), (big * big - off * off).sqrt(), epsilon = 1e-9);
    }
}

/// A square bar on a round tube: shortest along the middle of the faces that meet it squarely, longest along
/// its corners.
#[test]
fn a_flat_side_on_a_round_is_shortest_in_its_middle() {
    let r = frame(
        "88.9x4",
        JointHow::Butt,
        &[
            "node A -500 0 0",
            "node B 500 0 0",
            "node M 0 0 0",
            "node D 0 0 400",
            "pipe A B",
            "post M D SQUARE 40",
        ],
    );
    clean(&r);
    let f = of(&r, "post-1").1;
    let big: f64 = 88.9 / 2.0;
    assert_relative_eq!(f.lengths.short, 400.0 - big, epsilon = 1e-9);
    assert_relative_eq!(f.lengths.long, 400.0 - (big * big - 400.0f64).sqrt(), epsilon = 1e-9);
    // Round the foot: two straight sides and two arcs of the tube.
    let weld = r.welds.iter().find(|w| w.between[0] == "post-1").unwrap();
    assert_relative_eq!(weld.length, 80.0 + 4.0 * big * (20.0 / big).asin(), max_relative = 2e-3);
}

/// Mesh volume against the volume from the end cuts; watertight.
#[rstest]
#[case("SQUARE 40", 0.003)]
#[case("60x60x3", 0.01)]
#[case("48.3x3", 0.01)]
#[case("IPE 100", 0.005)]
#[case("UPE 100", 0.005)]
#[case("L 60x40x5", 0.005)]
fn volume_by_the_mesh(#[case] section: &str, #[case] within: f64) {
    let r = frame(
        section,
        JointHow::Mitre,
        &[
            "node A 0 0 0",
            "node B 700 0 0",
            "node C 900 500 300",
            "node D 900 500 -400",
            "rail A B C D",
            "pipe A D 88.9x4",
            "brace B D 30x30x2",
        ],
    );
    for (m, f) in r.members.iter().zip(&r.facts) {
        let b = body(m, &r.profiles[m.profile], true);
        let tolerance = if m.profile == 0 { within } else { 0.01 };
        assert_relative_eq!(b.volume(), f.volume, max_relative = tolerance);
        let mut sides = std::collections::HashMap::new();
        for t in &b.triangles {
            for k in 0..3 {
                *sides.entry((t[k], t[(k + 1) % 3])).or_insert(0) += 1;
            }
        }
        assert!(sides.iter().all(|(&(a, b), &n)| n == 1 && sides.get(&(b, a)) == Some(&1)), "{}", m.name);
    }
}
