//! Arcs, bent bars and rings: lengths, cuts and volumes by closed forms and quadrature, congruence, and
//! growth through a mirror.

use std::f64::consts::{FRAC_PI_2, PI, TAU};

use approx::assert_relative_eq;
use glam::{DVec2, DVec3};
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::evaluate::evaluate_frame;
use steelk_core::frame::*;
use steelk_core::job::*;

use crate::common::frame::*;

fn watertight(b: &Body) -> bool {
    let mut sides = std::collections::HashMap::new();
    for t in &b.triangles {
        for k in 0..3 {
            *sides.entry((t[k], t[(k + 1) % 3])).or_insert(0i32) += 1;
        }
    }
    sides.iter().all(|(&(a, b), &n)| n == 1 && sides.get(&(b, a)) == Some(&1))
}

/// The circle through A, M, B with chord c and rise s: R = c²/8s + s/2, developed length 2R·asin(c/2R).
#[rstest]
#[case(1000.0, 100.0)]
#[case(1000.0, 400.0)]
#[case(600.0, 300.0)]
fn an_arc_by_chord_and_rise(#[case] chord: f64, #[case] rise: f64) {
    let half = chord / 2.0;
    let r = frame(
        "48.3x3",
        JointHow::Mitre,
        &[
            &format!("node A {} 0 0", -half),
            &format!("node B {half} 0 0"),
            &format!("node M 0 0 {rise}"),
            "rail A M B arc",
        ],
    );
    clean(&r);
    let (m, f) = of(&r, "rail-1");
    let radius = chord * chord / (8.0 * rise) + rise / 2.0;
    let length = 2.0 * radius * (half / radius).asin();
    assert_relative_eq!(f.lengths.long, length, max_relative = 1e-12);
    // Pappus: the centroid runs on the line.
    let area = r.profiles[0].properties.area;
    assert_relative_eq!(f.volume, area * length, max_relative = 1e-12);
    // Centroid of an arc: R·sin(half)/half from the centre; a thick one a little further out by I/(A·R²).
    let turned = (half / radius).asin();
    let out =
        radius * turned.sin() / turned * (1.0 + r.profiles[0].properties.i_y / (area * radius * radius));
    assert_relative_eq!(f.centre.z, out - (radius - rise), epsilon = 1e-6);
    assert!(f.centre.x.abs() < 1e-9);
    let b = body(m, &r.profiles[0], true);
    assert!(watertight(&b));
    assert_relative_eq!(b.volume(), f.volume, max_relative = 0.01);
    assert!(
        b.points.iter().all(|p| ((p.x * p.x + (p.z + radius - rise).powi(2)).sqrt() - radius).abs() < 24.2)
    );
}

/// An arc of a bar whose centroid lies beside its line is as heavy as the centroid's way is long (Pappus),
/// whichever side of the bar is told to lie on the nodes.
#[test]
fn pappus_for_sections_set_off_the_line() {
    for (sits, shift) in [("", 0.0), ("top", -25.0), ("bottom", 25.0)] {
        let r = frame(
            "RHS 50x30x3",
            JointHow::Mitre,
            &["node A -500 0 0", "node B 500 0 0", "node M 0 0 500", &format!("rail A M B arc {sits}")],
        );
        clean(&r);
        // The half circle starts upright, where up is north: turned so that its depth lies in its plane.
        let turned = frame(
            "RHS 50x30x3",
            JointHow::Mitre,
            &[
                "node A -500 0 0",
                "node B 500 0 0",
                "node M 0 0 500",
                &format!("rail A M B arc {sits} turn 90"),
            ],
        );
        let area = r.profiles[0].properties.area;
        assert_relative_eq!(of(&r, "rail-1").1.volume, area * PI * 500.0, max_relative = 1e-9);
        let v = of(&turned, "rail-1").1.volume;
        assert!(
            [500.0 + shift, 500.0 - shift].iter().any(|radius| (v - area * PI * radius).abs() < 1e-6 * v),
            "{sits} {v}"
        );
    }
    // An angle: its centroid runs on another radius than the middle of its box.
    let r = frame(
        "L 60x40x5",
        JointHow::Mitre,
        &["node A -500 0 0", "node B 500 0 0", "node M 0 500 0", "rail A M B arc"],
    );
    let p = &r.profiles[0];
    let (m, f) = of(&r, "rail-1");
    let start = m.end(0).point(p.properties.centroid, 0.0);
    assert_relative_eq!(f.volume, p.properties.area * PI * start.with_z(0.0).length(), max_relative = 1e-9);
    assert!((start.length() - 500.0).abs() > 5.0);
    assert_relative_eq!(body(m, p, true).volume(), f.volume, max_relative = 0.006);
}

/// An arch cut off by a level plane: each line of the section leaves its circle where cos φ = z/r, the saw is
/// set off square by the tangent there.
#[rstest]
#[case(100.0)]
#[case(250.0)]
fn an_arch_cut_off_level(#[case] z: f64) {
    let lines = [
        "node A -500 0 0",
        "node B 500 0 0",
        "node M 0 0 500",
        "rail A M B arc",
        &format!("trim rail-1 start up {z}"),
        &format!("trim rail-1 end up {z}"),
    ];
    let r = frame("48.3x3", JointHow::Mitre, &lines);
    clean(&r);
    let (m, f) = of(&r, "rail-1");
    let low = (z / 500.0).asin();
    assert_relative_eq!(f.lengths.centre, 500.0 * (PI - 2.0 * low), epsilon = 1e-9);
    for end in [0, 1] {
        for q in [DVec2::ZERO, DVec2::new(24.15, 0.0), DVec2::new(0.0, 24.15), DVec2::new(-17.0, 17.0)] {
            let tip = m.tip(end, q);
            assert_relative_eq!(tip.z, z, epsilon = 1e-9);
            let circle = m.end(end).point(q, 0.0).with_y(0.0).length();
            assert_relative_eq!(tip.with_y(0.0).length(), circle, epsilon = 1e-9);
            assert_relative_eq!(m.station(end, q), 500.0 * (z / circle).asin(), epsilon = 1e-9);
        }
        assert_relative_eq!(plane(&f.cuts[end]).angle, low, epsilon = 1e-9);
    }
    // Both halves of the ring between the planes, by quadrature over the section: ∫ r·(π − 2·asin(z/r)) dA.
    let wall = |outer: f64| -> f64 {
        const N: usize = 2000;
        (0..N)
            .map(|i| {
                let u = outer * (2.0 * (i as f64 + 0.5) / N as f64 - 1.0);
                let chord = 2.0 * (outer * outer - u * u).sqrt();
                let radius = 500.0 + u;
                chord * (2.0 * outer / N as f64) * radius * (PI - 2.0 * (z / radius).asin())
            })
            .sum()
    };
    assert_relative_eq!(f.volume, wall(24.15) - wall(21.15), max_relative = 2e-4);
    let b = body(m, &r.profiles[0], true);
    assert!(watertight(&b));
    assert!(b.points.iter().all(|p| p.z > z - 1e-6));
    assert_relative_eq!(b.volume(), f.volume, max_relative = 0.01);
}

/// A half arch that ends square at the mirror goes on as one with its image, as a bent rail and a straight
/// one do; its notch and its told trims come with it.
#[test]
fn what_ends_square_at_a_mirror_grows() {
    let root = 500.0 / 2f64.sqrt();
    let half = [
        &format!("node A {} 0 0", -500.0),
        "node M 0 0 500",
        &format!("node Q {} 0 {root}", -root),
        "rail A Q M arc",
        "trim rail-1 start up 100",
    ];
    let r = frame("48.3x3", JointHow::Mitre, &[&half[..], &["mirror east 0"]].concat());
    clean(&r);
    assert_eq!(r.members.len(), 1);
    let f = &r.facts[0];
    assert_relative_eq!(f.lengths.centre, 500.0 * (PI - 2.0 * (0.2f64).asin()), epsilon = 1e-6);
    assert_relative_eq!(plane(&f.cuts[0]).angle, plane(&f.cuts[1]).angle, epsilon = 1e-9);
    assert!(f.centre.x.abs() < 1e-6);

    let bent = [
        "node A -600 0 0",
        "node C -600 0 400",
        "node M 0 0 400",
        "pipe A C M bent 150",
        "holes 10 on pipe-1, 100 from its start, top, through",
    ];
    let r = frame("48.3x3", JointHow::Mitre, &[&bent[..], &["mirror east 0"]].concat());
    clean(&r);
    assert_eq!((r.members.len(), r.members[0].way.len(), r.members[0].holes.len()), (1, 5, 2));
    assert_relative_eq!(
        r.facts[0].lengths.long,
        2.0 * (400.0 + 600.0 - 300.0 + 150.0 * FRAC_PI_2),
        epsilon = 1e-9
    );
    let along: Vec<f64> = r.members[0].holes.iter().map(|h| h.along).collect();
    assert_relative_eq!(along[0] + along[1], r.members[0].length, epsilon = 1e-9);

    // A straight half with a notch at its far end: one at either end of the whole. A trim told for the seam
    // has nothing to cut.
    for (from, to) in [("A", "M"), ("M", "A")] {
        let (tip, seam) = if from == "A" { ("start", "end") } else { ("end", "start") };
        let lines = [
            "node A -600 0 0",
            "node M 0 0 0",
            &format!("rail {from} {to}"),
            &format!("notch rail-1 {tip} 6 x 80 top through"),
            &format!("trim rail-1 {seam} east 0"),
            "mirror east 0",
        ];
        let r = frame("60x60x3", JointHow::Mitre, &lines);
        clean(&r);
        let m = &r.members[0];
        let mut at: Vec<(Option<usize>, i64)> =
            m.holes.iter().map(|h| (h.notch, h.along.round() as i64)).collect();
        at.sort();
        assert_eq!((r.members.len(), at), (1, vec![(Some(0), 40), (Some(1), 1160)]));
        assert_relative_eq!(r.facts[0].lengths.long, 1200.0, epsilon = 1e-9);
    }
}

/// A post that ends at a node on an arch passes it by: it is cut to the arch, and the arch stays whole.
#[test]
fn a_post_under_an_arch() {
    let r = frame(
        "48.3x3",
        JointHow::Butt,
        &[
            "node A -1000 0 0",
            "node B 1000 0 0",
            "node M 0 0 400",
            "node D 0 0 -300",
            "rail A M B arc",
            "post D M 33.7x3",
        ],
    );
    clean(&r);
    assert_relative_eq!(of(&r, "post-1").1.lengths.short, 700.0 - 24.15, epsilon = 1e-6);
    assert_eq!(of(&r, "post-1").1.cuts[1], Cut::Cope);
    assert!(r.welds.iter().any(|w| w.between == ["post-1", "rail-1"]));
    assert!(r.findings.iter().all(|f| f.check != "curved_wall"));
    // A tight arch leaves the tangent by (foot/2)² / 2R, and that is told.
    let tight = frame(
        "48.3x3",
        JointHow::Butt,
        &[
            "node A -250 0 0",
            "node B 250 0 0",
            "node M 0 0 250",
            "node D 0 0 -300",
            "rail A M B arc",
            "post D M 40x40x3",
        ],
    );
    let told = tight.findings.iter().find(|f| f.check == "curved_wall").unwrap();
    assert_eq!((told.amount.as_str(), told.line.as_deref()), ("0.8 mm", Some("post-1")));
}

/// Rings through three nodes, and closed bent bars: one developed length, bodies without a seam.
#[test]
fn rings_close() {
    let r = frame(
        "33.7x3",
        JointHow::Mitre,
        &["node A 300 0 0", "node B 0 300 0", "node C -300 0 0", "hoop A B C closed, arc"],
    );
    clean(&r);
    let (m, f) = of(&r, "hoop-1");
    assert!(m.closed && f.cuts == [Cut::None, Cut::None]);
    assert_relative_eq!(f.lengths.long, TAU * 300.0, epsilon = 1e-9);
    assert!(f.centre.length() < 1e-6, "{}", f.centre);
    let b = body(m, &r.profiles[0], true);
    assert!(watertight(&b));
    assert_relative_eq!(b.volume(), f.volume, max_relative = 0.012);
    let bent = frame(
        "33.7x3",
        JointHow::Mitre,
        &[
            "node A 0 0 0",
            "node B 600 0 0",
            "node C 600 500 0",
            "node D 0 500 0",
            "hoop A B C D closed bent 100",
        ],
    );
    assert!(watertight(&body(&bent.members[0], &bent.profiles[0], true)));
}

/// Bent bars are equal by their shape, whoever told them: the same elbow elsewhere and the other way round is
/// one piece; a mirrored double bend out of its plane is a hand, a flat one is not.
#[test]
fn bent_bars_are_told_apart_by_shape() {
    let groups = |lines: &[&str], section: &str| -> Vec<(usize, usize)> {
        let r = frame(section, JointHow::Mitre, lines);
        clean(&r);
        r.groups.iter().map(|g| (g.fits.len(), g.fits.iter().filter(|f| f.mirrored).count())).collect()
    };
    let elbow = ["node A 0 0 0", "node B 600 0 0", "node C 600 400 0", "pipe A B C bent 150"];
    // Walked from its other end, standing up, elsewhere.
    let other = ["node D 2000 0 400", "node E 2000 0 0", "node F 2600 0 0", "pipe D E F bent 150"];
    assert_eq!(groups(&[&elbow[..], &other[..]].concat(), "48.3x3"), [(2, 0)]);
    let longer = ["node D 2000 0 410", "node E 2000 0 0", "node F 2600 0 0", "pipe D E F bent 150"];
    assert_eq!(groups(&[&elbow[..], &longer[..]].concat(), "48.3x3"), [(1, 0), (1, 0)]);
    let tighter = ["node D 2000 0 400", "node E 2000 0 0", "node F 2600 0 0", "pipe D E F bent 140"];
    assert_eq!(groups(&[&elbow[..], &tighter[..]].concat(), "48.3x3"), [(1, 0), (1, 0)]);
    let flat = [
        "node A 100 0 0",
        "node B 600 0 0",
        "node C 600 400 0",
        "node D 900 400 0",
        "pipe A B C D bent 100",
        "mirror east 0",
    ];
    assert_eq!(groups(&flat, "48.3x3"), [(2, 0)]);
    let twisted = [
        "node A 100 0 0",
        "node B 600 0 0",
        "node C 600 400 0",
        "node D 600 400 350",
        "pipe A B C D bent 100",
        "mirror east 0",
    ];
    assert_eq!(groups(&twisted, "48.3x3"), [(2, 1)]);
    assert_eq!(groups(&twisted, "50x50x3"), [(2, 1)]);
    // The same bend with one end cut aslant is another piece.
    let cut = [&elbow[..], &other[..], &["trim pipe-2 start up 350"]].concat();
    assert_eq!(groups(&cut, "48.3x3"), [(1, 0), (1, 0)]);
}

/// What the bender is told: straights and bends in turn, what the joints cut off left out; rings and arcs by
/// radius and angle.
#[rstest]
#[case(&["node A 0 0 0", "node B 600 0 0", "node C 600 500 0", "pipe A B C bent 150"], "450.0 · R150.0 90° · \
    350.0")]
#[case(&["node A 0 0 0", "node B 600 0 0", "node C 600 500 0", "pipe A B C bent 150", "trim pipe-1 start \
    east 50"], "400.0 · R150.0 90° · 350.0")]
#[case(&["node A -500 0 0", "node B 500 0 0", "node M 0 0 500", "rail A M B arc"], "R500.0 180°")]
#[case(&["node A -500 0 0", "node B 500 0 0", "node M 0 0 500", "rail A M B arc",
    "trim rail-1 start up 250"], "R500.0 150°")]
#[case(&["node A 300 0 0", "node B 0 300 0", "node C -300 0 0", "hoop A B C closed, arc"], "R300.0 360°")]
#[case(&["node A 300 0 0", "node B 0 300 0", "rail A B"], "")]
fn what_the_bender_is_told(#[case] lines: &[&str], #[case] wanted: &str) {
    let (job, f) = told("33.7x3", JointHow::Mitre, lines);
    let r = evaluate_frame(&job, &f);
    clean(&r);
    let list = frame_list(&f, &r, &job.display, &SawFacts::usual(&job.display));
    assert_eq!(list.bars[0].bends, wanted);
}

/// Nodes at parts of an arch stand on its circle, at that part of its angle, whatever side of the bar the
/// line is; a post to one is cut to the arch there, and a mirrored frame has them mirrored.
#[rstest]
fn nodes_on_an_arch(#[values("1/4", "2/5", "5/6")] part: &str, #[values("", " bottom")] sits: &str) {
    let share: f64 =
        part.split_once('/').map(|(a, b)| a.parse::<f64>().unwrap() / b.parse::<f64>().unwrap()).unwrap();
    let rail = format!("rail A M B 40x40x3 arc{sits}");
    let on = format!("node P on rail-1, {part} of the way");
    let lines = [
        "node A -600 0 1000",
        "node M 0 0 1300",
        "node B 600 0 1000",
        &rail,
        &on,
        "node Q from P down 700",
        "post Q P 30x30x3",
        "mirror north 500",
    ];
    let r = frame("60x60x3", JointHow::Butt, &lines);
    clean(&r);
    let (c, s): (f64, f64) = (1200.0, 300.0);
    let radius = c * c / (8.0 * s) + s / 2.0;
    let half = (c / 2.0 / radius).asin();
    let angle = half * (2.0 * share - 1.0);
    let wanted = DVec3::new(radius * angle.sin(), 0.0, 1300.0 - radius + radius * angle.cos());
    let node = |name: &str| r.nodes.iter().find(|n| n.name == name).unwrap().at;
    assert!(node("P").distance(wanted) < 1e-6, "{} {wanted}", node("P"));
    assert!(node("mirror-1.P").distance(wanted + DVec3::Y * 1000.0) < 1e-6);
    // The post ends at the arch and the arch passes on, whole.
    let j = r.joints.iter().find(|j| r.nodes[j.node].name == "P").unwrap();
    let role = |name: &str| j.members_at_node.iter().find(|a| r.members[a.0.member].name == name).unwrap().1;
    assert_eq!((role("rail-1"), role("post-1")), (Role::Passes, Role::Against));
    // Its underside lies half the depth off the line, square to the tangent; or on the line.
    let off = if sits.is_empty() { 20.0 / angle.cos() } else { 0.0 };
    assert_relative_eq!(of(&r, "post-1").1.lengths.centre, 700.0 - off, epsilon = 1e-6);
}

/// Along straights and bends of a pipe a length is told from its start: legs of 900 and 700 with R 150
/// between, by hand.
#[test]
fn nodes_along_a_bent_pipe() {
    let pipe = ["node A 0 0 0", "node B 900 0 0", "node C 900 700 0", "pipe A B C 48.3x3 bent 150"];
    let quarter = 150.0 * std::f64::consts::FRAC_PI_2;
    let places = [
        ("0", DVec3::ZERO),
        ("500", DVec3::new(500.0, 0.0, 0.0)),
        ("750 + 150*pi/4", DVec3::new(750.0 + 150.0 * 0.5f64.sqrt(), 150.0 - 150.0 * 0.5f64.sqrt(), 0.0)),
        ("750 + 150*pi/2 + 100", DVec3::new(900.0, 250.0, 0.0)),
    ];
    for (at, wanted) in places {
        let (job, mut f) = told("60x60x3", JointHow::Butt, &pipe);
        let say = |at: &str| {
            FrameOperation::On(On {
                name: "P".into(),
                member: "pipe-1".into(),
                by: AlongBy::Length,
                at: at.into(),
            })
        };
        let at = at.replace("pi", &std::f64::consts::PI.to_string());
        f.lines.push(FrameLine::new("on", say(&at)));
        let r = evaluate_frame(&job, &f);
        assert!(r.faults.is_empty(), "{at}: {:?}", r.faults);
        let here = r.nodes.iter().find(|n| n.line == "on").map_or(r.nodes[0].at, |n| n.at);
        assert!(here.distance(wanted) < 1e-6, "{at}: {here} {wanted}");
        // Beyond it there is nothing to stand on.
        for bad in [format!("{}", 750.0 + quarter + 551.0), "-1".into()] {
            f.lines.last_mut().unwrap().say = say(&bad);
            let r = evaluate_frame(&job, &f);
            assert_eq!((r.faults.len(), r.faults[0].path.as_str()), (1, "/say/at"), "{bad}");
            assert!(r.faults[0].fault.message.contains("1535.6 mm long"), "{}", r.faults[0].fault.message);
        }
    }
}

/// What is no arc is refused at its field.
#[rstest]
#[case(&["node A 0 0 0", "node B 500 0 0", "node C 1000 0 0", "rail A B C arc"], "/say/path", "in line")]
#[case(&["node A 0 0 0", "node B 500 0 0", "rail A B arc"], "/say/path", "three nodes")]
#[case(&["node A 0 0 0", "node B 500 0 0", "node C 500 500 0", "node D 0 500 0", "rail A B C D arc"],
    "/say/path", "three nodes")]
#[case(&["node A 0 0 0", "node B 20 20 0", "node C 40 0 0", "rail A B C arc"], "/say/path", "tighter")]
#[case(&["node A 0 0 0", "node B 500 0 0", "node C 500 500 0", "pipe A B C bent 20"], "/say/radius",
    "tighter")]
#[case(&["node A -500 0 0", "node B 500 0 0", "node M 0 0 500", "rail A M B arc",
    "trim rail-1 start up 600"], "/say/by", "does not come")]
fn no_arc(#[case] lines: &[&str], #[case] path: &str, #[case] says: &str) {
    let r = frame("48.3x3", JointHow::Mitre, lines);
    assert_eq!(r.faults.len(), 1, "{:?}", r.faults);
    assert!(r.faults[0].path == path && r.faults[0].fault.message.contains(says), "{:?}", r.faults[0]);
    assert!(!r.faults[0].fault.mend.is_empty());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(80))]

    /// Arcs anywhere, of any section, cut by a plane: what the list says is what the body holds; a turned
    /// copy is the same piece.
    #[test]
    fn arcs_hold_together(
        a in (-900i32..900, -900i32..900, -900i32..900),
        b in (-900i32..900, -900i32..900, -900i32..900),
        c in (-900i32..900, -900i32..900, -900i32..900),
        section in prop::sample::select(vec!["48.3x3", "60x60x3", "RHS 60x40x3", "L 60x40x5", "UPE 80",
            "FLAT 40x8"]),
        turn in 0i32..8,
    ) {
        let node = |n: &str, p: (i32, i32, i32)| format!("node {n} {} {} {}", p.0, p.1, p.2);
        let lines = [node("A", a), node("B", b), node("C", c), format!("rail A B C arc turn {}", turn * 15),
            "repeat 2 north 3000".to_string()];
        let r = frame(section, JointHow::Mitre, &lines.iter().map(String::as_str).collect::<Vec<_>>());
        prop_assume!(r.faults.is_empty());
        prop_assert_eq!(r.groups.len(), 1);
        prop_assert!(r.groups[0].fits.iter().all(|f| !f.mirrored));
        let (m, p) = (&r.members[0], &r.profiles[0]);
        let at = |p: (i32, i32, i32)| DVec3::new(p.0.into(), p.1.into(), p.2.into());
        // All three nodes lie on it.
        let CentrelineSegment::Bend { centre, radius,
            .. } = m.way[0] else { return Err(TestCaseError::fail("no arc")) };
        for q in [a, b, c] {
            prop_assert!((at(q).distance(centre) - radius).abs() < 1e-6 * radius.max(1.0));
        }
        prop_assert!(m.way[0].at(1.0).o.distance(at(c)) < 1e-6 * radius.max(1.0));
        let solid = body(m, p, true);
        prop_assert!(watertight(&solid));
        let (v, f) = (solid.volume(), &r.facts[0]);
        prop_assert!((v / f.volume - 1.0).abs() < 0.02, "{} {}", v, f.volume);
    }
}
