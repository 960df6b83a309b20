//! Holes and notches in members: their metal by closed forms and by quadrature, bodies that stay watertight,
//! skins that a tube laser can cut.

use std::f64::consts::PI;

use approx::assert_relative_eq;
use glam::DVec2;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::evaluate::evaluate_frame;
use steelk_core::frame::*;
use steelk_core::job::*;
use steelk_core::shop::Shop;

use crate::common::frame::*;

/// One bar of 500 with holes told by lines.
fn bar(section: &str, lines: &[&str]) -> FrameResult {
    let start = ["node A 0 0 0", "node B 500 0 0", "rail A B"];
    frame(section, JointHow::Butt, &[&start[..], lines].concat())
}

/// Metal that the lines take out of the bar.
fn taken(section: &str, lines: &[&str]) -> f64 {
    let r = bar(section, lines);
    clean(&r);
    bar(section, &[]).facts[0].volume - r.facts[0].volume
}

/// Simpson's rule.
fn integral(from: f64, to: f64, f: impl Fn(f64) -> f64) -> f64 {
    const N: usize = 20_000;
    let h = (to - from) / N as f64;
    let inner: f64 = (1..N).map(|k| f(from + h * k as f64) * if k % 2 == 1 { 4.0 } else { 2.0 }).sum();
    (f(from) + f(to) + inner) * h / 3.0
}

fn chord(r: f64, t: f64) -> f64 {
    2.0 * (r * r - t * t).max(0.0).sqrt()
}

/// Flat walls: area × walls.
#[rstest]
#[case("60x60x3", "holes 11 on rail-1, 100 from its start, top", 5.5 * 5.5 * PI * 3.0)]
#[case("60x60x3", "holes 11 on rail-1, 100 from its start, left, through, 3 x 60",
    3.0 * 5.5 * 5.5 * PI * 6.0)]
#[case("60x60x3", "holes 11 on rail-1, 100 from its start, bottom, slot 31",
    (5.5 * 5.5 * PI + 20.0 * 11.0) * 3.0)]
#[case("FLAT 50x8", "holes 9 on rail-1, 40 from its start, left", 4.5 * 4.5 * PI * 8.0)]
#[case("FLAT 50x8", "holes 4 on rail-1, 40 from its start, top", 2.0 * 2.0 * PI * 50.0)]
// Through the web from outside the flanges: 4.1 thick; through one flange beside the web: 5.7; through both.
#[case("IPE 100", "holes 20 on rail-1, 250 from its start, left", 100.0 * PI * 4.1)]
#[case("IPE 100", "holes 20 on rail-1, 250 from its start, left, through", 100.0 * PI * 4.1)]
#[case("IPE 100", "holes 6 on rail-1, 250 from its start, top, 18 off the middle", 9.0 * PI * 5.7)]
#[case("IPE 100", "holes 6 on rail-1, 250 from its start, top, -18 off the middle, through", 9.0 * PI * 11.4)]
// The web of a channel from its back and from its open side: 4.5; legs of an angle.
#[case("UPE 100", "holes 20 on rail-1, 250 from its start, right", 100.0 * PI * 4.5)]
#[case("UPE 100", "holes 20 on rail-1, 250 from its start, left", 100.0 * PI * 4.5)]
#[case("L 60x40x5", "holes 9 on rail-1, 250 from its start, right, 5 off the middle", 4.5 * 4.5 * PI * 5.0)]
fn metal_of_flat_walls(#[case] section: &str, #[case] line: &str, #[case] by_hand: f64) {
    assert_relative_eq!(taken(section, &[line]), by_hand, max_relative = 2e-3);
}

/// Round walls by quadrature: the drill meets more wall beside the middle.
#[test]
fn metal_of_round_walls() {
    let (big, small): (f64, f64) = (48.3 / 2.0, 48.3 / 2.0 - 3.0);
    let wall = |t: f64| (big * big - t * t).sqrt() - (small * small - t * t).max(0.0).sqrt();
    for (r, text) in [(5.0, "10"), (12.0, "24"), (20.0, "40")] {
        let one = integral(-r, r, |t| chord(r, t) * wall(t));
        assert_relative_eq!(
            taken("48.3x3", &[&format!("holes {text} on rail-1, 250 from its start, top")]),
            one,
            max_relative = 2e-3
        );
        assert_relative_eq!(
            taken("48.3x3", &[&format!("holes {text} on rail-1, 250 from its start, left, through")]),
            2.0 * one,
            max_relative = 2e-3
        );
    }
    // A cross drilled solid bar: the two cylinders' common body.
    let common = integral(-6.0, 6.0, |t| chord(6.0, t) * chord(15.0, t));
    assert_relative_eq!(
        taken("ROUND 30", &["holes 12 on rail-1, 100 from its start, top"]),
        common,
        max_relative = 2e-3
    );
}

/// One hole on top draws the centre of gravity down: by hand from the two bodies.
#[test]
fn the_centre_moves_away_from_a_hole() {
    let (with, without) =
        (bar("60x60x3", &["holes 20 on rail-1, 100 from its start, top"]), bar("60x60x3", &[]));
    let (v, hole) = (without.facts[0].volume, 100.0 * PI * 3.0);
    let (a, b) = (without.facts[0].centre, with.facts[0].centre);
    assert_relative_eq!(b.z, (v * a.z - hole * 28.5) / (v - hole), epsilon = 1e-3);
    assert_relative_eq!(b.x, (v * 250.0 - hole * 100.0) / (v - hole), epsilon = 1e-3);
}

fn watertight(b: &Body) -> bool {
    let mut sides = std::collections::HashMap::new();
    for t in &b.triangles {
        for k in 0..3 {
            *sides.entry((t[k], t[(k + 1) % 3])).or_insert(0i32) += 1;
        }
    }
    sides.iter().all(|(&(a, b), &n)| sides.get(&(b, a)) == Some(&n))
}

/// The body on the screen and in the files has the holes: watertight, and as heavy as the list says.
#[rstest]
#[case("60x60x3", &["holes 11 on rail-1, 100 from its start, left, through, 5 x 60", "holes 20 on rail-1, \
    250 from its start, top"])]
#[case("60x60x3", &["holes 11 on rail-1, 100 from its start, left, slot 40", "notch rail-1 end 8 x 60 top \
    through"])]
#[case("RHS 100x50x4", &["holes 30 on rail-1, 100 from its start, left", "holes 9 on rail-1, 132 from its \
    start, left, through"])]
#[case("48.3x3", &["holes 24 on rail-1, 100 from its start, top, through", "holes 10 on rail-1, 300 from its \
    start, left, 3 x 30"])]
#[case("48.3x3", &["notch rail-1 start 10 x 50 top through"])]
#[case("IPE 100", &["holes 20 on rail-1, 250 from its start, left", "holes 6 on rail-1, 250 from its start, \
    top, 18 off the middle, through", "notch rail-1 end 30 x 40 left"])]
#[case("UPE 100", &["holes 20 on rail-1, 250 from its start, right", "holes 9 on rail-1, 100 from its start, \
    top, 6 off the middle, 3 x 50"])]
#[case("L 60x40x5", &["holes 9 on rail-1, 250 from its start, right, 5 off the middle, 3 x 40"])]
#[case("FLAT 50x8", &["holes 9 on rail-1, 40 from its start, left, 10 x 40"])]
#[case("ROUND 30", &["holes 12 on rail-1, 100 from its start, top", "notch rail-1 end 8 x 40 top"])]
fn bodies_are_drilled(#[case] section: &str, #[case] lines: &[&str]) {
    let r = bar(section, lines);
    clean(&r);
    let bodies = standing(&r, true);
    let b = &bodies[0].body;
    assert!(watertight(b));
    let plain = standing(&bar(section, &[]), true)[0].body.volume();
    let list = bar(section, &[]).facts[0].volume - r.facts[0].volume;
    // Facets of a round hole are chords of it.
    assert_relative_eq!(plain - b.volume(), list, max_relative = 0.03);
    // Every hole shows its rim.
    assert!(b.edges.iter().flatten().all(|&i| (i as usize) < b.points.len()));
    assert!(b.edges.len() > standing(&bar(section, &[]), true)[0].body.edges.len());
}

/// A bent bar is drilled where it is straight, and refused in its bend.
#[test]
fn bent_bars_are_drilled_on_their_straights() {
    let start = ["node A 0 0 0", "node B 500 0 0", "node C 500 500 0", "pipe A B C bent 150"];
    let r = frame(
        "48.3x3",
        JointHow::Butt,
        &[&start[..], &["holes 10 on pipe-1, 100 from its start, top, through"]].concat(),
    );
    clean(&r);
    let plain = frame("48.3x3", JointHow::Butt, &start);
    let wall = 2.0
        * integral(-5.0, 5.0, |t| {
            chord(5.0, t) * ((24.15f64.powi(2) - t * t).sqrt() - (21.15f64.powi(2) - t * t).sqrt())
        });
    assert_relative_eq!(plain.facts[0].volume - r.facts[0].volume, wall, max_relative = 2e-3);
    let (a, b) = (standing(&r, true), standing(&plain, true));
    assert!(watertight(&a[0].body));
    assert_relative_eq!(b[0].body.volume() - a[0].body.volume(), wall, max_relative = 0.03);
    // From 350 to 350 + 150·π/2 it bends.
    let refused = frame(
        "48.3x3",
        JointHow::Butt,
        &[&start[..], &["holes 10 on pipe-1, 400 from its start, top"]].concat(),
    );
    assert_eq!(refused.faults.len(), 1);
    assert!(refused.faults[0].fault.message.contains("bend"), "{}", refused.faults[0].fault.message);
    let after = frame(
        "48.3x3",
        JointHow::Butt,
        &[&start[..], &["holes 10 on pipe-1, 700 from its start, top"]].concat(),
    );
    clean(&after);
    assert!(after.facts[0].volume < plain.facts[0].volume - 100.0);
}

/// The unrolled skin carries the holes: true circles on flat sides, stretched round a tube, in their places.
#[test]
fn skins_carry_the_holes() {
    let r = bar(
        "60x60x3",
        &["holes 11 on rail-1, 100 from its start, left", "holes 9 on rail-1, 300 from its start, right"],
    );
    let (m, p) = (&r.members[0], &r.profiles[r.members[0].profile]);
    let holes = skin_holes(m, p);
    assert_eq!(holes.len(), 2);
    let quarter = p.properties.perimeter / 4.0;
    for (hole, (x, d)) in holes.iter().zip([(100.0, 11.0f64), (300.0, 9.0)]) {
        let c = hole.bounds().centre();
        assert_relative_eq!(hole.area(), d * d / 4.0 * PI, max_relative = 1e-9);
        assert!(hole.as_circle().is_some());
        assert_relative_eq!(c.x, x, epsilon = 1e-6);
        // A quarter round from the top, one way or the other.
        assert!((c.y - quarter).abs() < 0.02 || (c.y - 3.0 * quarter).abs() < 0.02, "{c}");
    }
    assert!((holes[0].bounds().centre().y - holes[1].bounds().centre().y).abs() > quarter);

    let r = bar("48.3x3", &["holes 24 on rail-1, 100 from its start, left, through"]);
    let holes = skin_holes(&r.members[0], &r.profiles[r.members[0].profile]);
    assert_eq!(holes.len(), 2);
    let big = 24.15f64;
    let stretched = integral(-12.0, 12.0, |t| chord(12.0, t) * big / (big * big - t * t).sqrt());
    for h in &holes {
        assert_relative_eq!(h.area(), stretched, max_relative = 5e-4);
        assert_relative_eq!(h.bounds().size().y, 2.0 * big * (12.0 / big).asin(), max_relative = 2e-3);
    }
}

/// A hole on the seam stands half at either edge of the skin; a notch opens its end.
#[test]
fn skins_are_cut_at_the_seam_and_at_their_ends() {
    let (job, mut f) = told(
        "60x60x3",
        JointHow::Butt,
        &[
            "node A 0 0 0",
            "node B 500 0 0",
            "rail A B",
            "holes 20 on rail-1, 250 from its start, top, through",
        ],
    );
    let r = evaluate_frame(&job, &f);
    let skin = unrolled(Shop::of(&job.settings()).sheet(), &r, "rail-1", "R-1", 3).unwrap();
    let (plain, bare) = told("60x60x3", JointHow::Butt, &["node A 0 0 0", "node B 500 0 0", "rail A B"]);
    let whole =
        unrolled(Shop::of(&plain.settings()).sheet(), &evaluate_frame(&plain, &bare), "rail-1", "R-1", 1)
            .unwrap()
            .flat
            .outer
            .area();
    let cut = |s: &steelk_core::result::PieceResult| {
        whole - s.flat.outer.area() + s.flat.holes.iter().map(|h| h.contour.area()).sum::<f64>()
    };
    assert!(skin.faults.is_empty());
    // Two holes: one in the middle, one in two halves.
    assert_eq!(skin.flat.holes.len(), 1);
    assert_relative_eq!(cut(&skin), 2.0 * 100.0 * PI, max_relative = 1e-6);
    // Straight edges are straight: the four corners, and what the half holes take out.
    assert!(skin.flat.outer.vertices.len() <= 12, "{}", skin.flat.outer.vertices.len());
    assert_eq!((skin.mark.as_str(), skin.quantity), ("R-1", 3));
    f.lines.pop();
    let notch = NotchEnd {
        members: vec!["rail-1".into()],
        width: "10".into(),
        length: "60".into(),
        face: Face::Left,
        tip: Tip::End,
        ..NotchEnd::default()
    };
    f.lines.push(FrameLine::new("notch", FrameOperation::NotchEnd(notch)));
    let r = evaluate_frame(&job, &f);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let skin = unrolled(Shop::of(&job.settings()).sheet(), &r, "rail-1", "R-1", 3).unwrap();
    assert!(skin.flat.holes.is_empty());
    assert_relative_eq!(cut(&skin), 600.0, max_relative = 1e-3);
    // Edges of the tube, its sides and its ends are marked: top at the seam, the others in the order that the
    // tube is turned.
    let of = |text: &str| {
        skin.flat
            .guides
            .iter()
            .filter(|g| g.text == text)
            .map(|g| DVec2::from(g.from) - skin.flat.outer.bounds().min)
            .collect::<Vec<_>>()
    };
    let quarter = r.profiles[0].properties.perimeter / 4.0;
    let near = |at: DVec2, x: f64, y: f64| at.distance(DVec2::new(x, y)) < 1.0;
    assert!(
        near(of("START")[0], 10.0, 2.0 * quarter) && near(of("END")[0], 470.0, 2.0 * quarter),
        "{:?}",
        skin.flat.guides
    );
    assert!(
        near(of("LEFT")[0], 250.0, quarter) || near(of("LEFT")[0], 250.0, 3.0 * quarter),
        "{:?}",
        of("LEFT")
    );
    assert!(near(of("BOTTOM")[0], 250.0, 2.0 * quarter));
    let lines: Vec<f64> = of("").iter().map(|p| p.y / quarter).collect();
    assert!(
        lines.len() == 4 && lines.iter().zip([0.5, 1.5, 2.5, 3.5]).all(|(a, b)| (a - b).abs() < 0.02),
        "{lines:?}"
    );
}

/// Only a straight tube has a wall to lay flat; the refusal names what it is.
#[test]
fn what_has_no_wall_has_no_skin() {
    for (section, said) in [("IPE 100", "has no wall to lay flat"), ("60x60x3", "no piece of the frame")] {
        let (job, f) = told(section, JointHow::Butt, &["node A 0 0 0", "node B 500 0 0", "rail A B"]);
        let r = evaluate_frame(&job, &f);
        let which = if section == "60x60x3" { "rail-9" } else { "rail-1" };
        let refused =
            unrolled(Shop::of(&job.settings()).sheet(), &r, which, "F/1", 1).unwrap_err().to_string();
        assert!(refused.contains(said), "{refused}");
    }
}

/// Holes that meet, and holes that the end cut opens, are told once, whatever copies there are.
#[test]
fn holes_that_meet_or_fall_off() {
    let checks = |lines: &[&str]| -> Vec<&'static str> {
        let r = bar("60x60x3", lines);
        assert!(r.faults.is_empty());
        r.findings.iter().map(|f| f.check).filter(|c| c.contains("hole")).collect()
    };
    assert_eq!(
        checks(&[
            "holes 11 on rail-1, 100 from its start, top",
            "holes 9 on rail-1, 110.1 from its start, top"
        ]),
        Vec::<&str>::new()
    );
    assert_eq!(
        checks(&[
            "holes 11 on rail-1, 100 from its start, top",
            "holes 9 on rail-1, 109.9 from its start, top"
        ]),
        ["holes_meet"]
    );
    assert_eq!(
        checks(&[
            "holes 11 on rail-1, 100 from its start, top",
            "holes 9 on rail-1, 100 from its start, bottom"
        ]),
        Vec::<&str>::new()
    );
    assert_eq!(
        checks(&[
            "holes 11 on rail-1, 100 from its start, top, through",
            "holes 9 on rail-1, 100 from its start, bottom"
        ]),
        ["holes_meet"]
    );
    assert_eq!(
        checks(&[
            "holes 11 on rail-1, 100 from its start, top, slot 61",
            "holes 9 on rail-1, 134 from its start, top"
        ]),
        ["holes_meet"]
    );
    assert_eq!(
        checks(&[
            "holes 11 on rail-1, 100 from its start, top, slot 61",
            "holes 9 on rail-1, 136 from its start, top"
        ]),
        Vec::<&str>::new()
    );
    // The post of 100 takes 50 off the rail's end; its copy is not told again.
    let post = ["node C 500 0 -500", "node D 500 0 500", "post C D 100x100x4", "mirror north 400"];
    assert_eq!(
        checks(&[&post[..3], &["holes 11 on rail-1, 444 from its start, left", "mirror north 400"]].concat()),
        Vec::<&str>::new()
    );
    assert_eq!(
        checks(&[&post[..3], &["holes 11 on rail-1, 445 from its start, left", "mirror north 400"]].concat()),
        ["hole_off_end"]
    );
}

/// No metal where the hole was told: said at its field.
#[test]
fn holes_in_the_air_are_refused() {
    // Above the leg of the angle there is nothing to drill from the top.
    for (section, line, field) in [
        ("60x60x3", "holes 11 on rail-1, 100 from its start, top, 40 off the middle", "/off"),
        ("60x60x3", "holes 70 on rail-1, 100 from its start, top", "/off"),
        ("60x60x3", "holes 11 on rail-1, 3 from its start, top", "/at"),
        ("60x60x3", "holes 11 on rail-1, 100 from its start, top, slot 5", "/slot"),
        ("60x60x3", "holes 11 on rail-1, 100 from its start, top, 20 x 60", "/at"),
        ("60x60x3", "notch rail-1 end 70 x 20 top", "/width"),
    ] {
        let r = bar(section, &[line]);
        assert_eq!(r.faults.len(), 1, "{line}: {:?}", r.faults);
        assert!(r.faults[0].path.ends_with(field), "{line}: {:?}", r.faults[0]);
        assert!(!r.faults[0].fault.mend.is_empty());
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]

    /// Any holes in any section: bodies watertight, lighter by what the list says, no panic.
    #[test]
    fn random_holes_hold_together(
        section in prop::sample::select(vec!["60x60x3", "RHS 100x50x4", "48.3x3", "IPE 100", "UPE 100",
            "L 60x40x5", "FLAT 50x8", "ROUND 30"]),
        holes in prop::collection::vec((40i32..460, 2i32..30, 0usize..4, -12i32..13, any::<bool>(),
            0i32..30), 1..6),
        mitred in any::<bool>(),
    ) {
        let faces = [Face::Top, Face::Bottom, Face::Left, Face::Right];
        let mut start = vec!["node A 0 0 0", "node B 500 0 0", "rail A B"];
        if mitred {
            start.extend(["node C 500 400 200", "rail B C", "mitre B"]);
        }
        let (job, mut f) = told(section, JointHow::Butt, &start);
        let plain = evaluate_frame(&job, &f);
        for (i, h) in holes.iter().enumerate() {
            let slot = if h.5 > h.1 { h.5.to_string() } else { String::new() };
            let hole = HoleSaid { members: vec!["rail-1".into()], face: faces[h.2],
                diameter: h.1.to_string(), slot, at: h.0.to_string(), off: h.3.to_string(), through: h.4,
                    ..HoleSaid::default() };
            f.lines.push(FrameLine::new(format!("h-{i}"), FrameOperation::Hole(hole)));
        }
        let r = evaluate_frame(&job, &f);
        for fault in &r.faults {
            prop_assert!(!fault.fault.mend.is_empty());
        }
        let i = r.members.iter().position(|m| m.name.starts_with("rail-1")).unwrap();
        prop_assert!(r.facts[i].volume.is_finite() && r.facts[i].volume <= plain.facts[i].volume + 1e-6);
        for s in standing(&r, true) {
            prop_assert!(watertight(&s.body));
            prop_assert!(s.body.points.iter().all(|p| p.is_finite()));
        }
        for m in r.members.iter().filter(|m| !m.holes.is_empty()) {
            for c in skin_holes(m, &r.profiles[m.profile]) {
                prop_assert!(c.vertices.iter().all(|v| v.p.is_finite()));
            }
            prop_assert_eq!(unrolled(Shop::of(&job.settings()).sheet(), &r, &m.name, "F/1", 1).is_ok(),
                section.contains("x3") || section.starts_with("RHS"));
        }
    }

    /// A notch is told from the middle of the section: what a mitre of any angle leaves of each wall beyond
    /// its floor is gone, and nothing where the mitre has taken it. With the body's own metal beyond it gone
    /// too.
    #[test]
    fn notches_in_mitred_ends(
        turn in -150.0..150.0f64, long in 5.0..200.0f64, wide in 4.0..40.0f64, second: bool,
    ) {
        let (sin, cos) = turn.to_radians().sin_cos();
        prop_assume!(turn.abs() > 20.0);
        let other = format!("node C {} 0 {}", 500.0 + 600.0 * cos, 600.0 * sin);
        let start = ["node A 0 0 0", "node B 500 0 0", "rail A B", &other, "rail B C", "mitre B"];
        let notch = format!("notch rail-1 end {wide} x {long} top");
        let shallow = format!("notch rail-1 end {} x {} top", wide + 6.0, long / 2.0);
        let lines = if second { vec![&*notch, &*shallow] } else { vec![&*notch] };
        let whole = frame("60x60x3", JointHow::Butt, &start);
        let r = frame("60x60x3", JointHow::Butt, &[&start[..], &lines].concat());
        prop_assert!(r.faults.is_empty(), "{:?}", r.faults);
        // The plane holds the bisector: further along by this much a millimetre up.
        let k = sin / (-1.0 - cos);
        let wall = |w: f64, l: f64| w * integral(27.0, 30.0, |z| (l + k * z).max(0.0));
        let told = wall(wide, long) + if second { wall(6.0, long / 2.0) } else { 0.0 };
        let found = whole.facts[0].volume - r.facts[0].volume;
        prop_assert!((found - told).abs() < 1e-3 + told * 1e-6, "{found} for {told}, {k}");
        let rail = |r: &FrameResult| standing(r, true).into_iter().find(|b| !b.is_plate).unwrap();
        let (before, after) = (rail(&whole).body.volume(), rail(&r).body.volume());
        prop_assert!((before - after - told).abs() < 0.1 + told * 0.02, "{} for {told}", before - after);
    }
}
