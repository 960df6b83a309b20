//! Ends rounded off and pressed flat, and bars twisted: by hand, against sums and meshes of the test's own,
//! mirrored, and refused.

use std::f64::consts::PI;

use approx::{assert_abs_diff_eq, assert_relative_eq};
use glam::{DVec2, DVec3};
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::frame::*;
use steelk_core::job::*;
use steelk_core::quantity::Display;

use crate::common::frame::*;

const ALONG: [&str; 3] = ["node A 0 0 0", "node B 100 0 0", "rail A B"];

fn with(section: &str, more: &[&str]) -> FrameResult {
    frame(section, JointHow::Butt, &[&ALONG[..], more].concat())
}

/// Volume of the mesh, and whether each of its edges has a triangle on either side.
fn meshed(r: &FrameResult, name: &str) -> f64 {
    let (m, _) = of(r, name);
    let b = body(m, &r.profiles[m.profile], true);
    let mut edges = std::collections::HashMap::new();
    for t in &b.triangles {
        for k in 0..3 {
            *edges.entry((t[k], t[(k + 1) % 3])).or_insert(0) += 1;
        }
    }
    assert!(edges.iter().all(|(&(a, b), n)| *n == 1 && edges.get(&(b, a)) == Some(&1)), "{name} is open");
    b.volume()
}

/// A flat with both ends full round: a rectangle and a circle; its edges are 60 long.
#[rstest]
#[case("FLAT 40x8", "round off rail-1 at both ends")]
#[case("FLAT 40x8", "round off rail-1 at both ends, R20")]
#[case("FLAT 40x8", "round off rail-1 at both ends, R0.787401574803in")]
#[case("SQUARE 40", "round off rail-1 at both ends")]
fn a_flat_rounded_full_by_hand(#[case] section: &str, #[case] line: &str) {
    let r = with(section, &[line]);
    clean(&r);
    let (m, f) = of(&r, "rail-1");
    let thick = r.profiles[m.profile].properties.area / 40.0;
    assert_relative_eq!(f.volume, (60.0 * 40.0 + PI * 400.0) * thick, max_relative = 1e-6);
    let l = f.lengths;
    assert_abs_diff_eq!(l.overall, 100.0, epsilon = 1e-9);
    assert_abs_diff_eq!(l.short, 60.0, epsilon = 1e-6);
    assert_abs_diff_eq!(l.long, 100.0, epsilon = 1e-9);
    assert_abs_diff_eq!(f.centre.x, 50.0, epsilon = 1e-9);
    assert_eq!(cut_cells(&r), ["full round R20.0", "full round R20.0"]);
    assert_relative_eq!(meshed(&r, "rail-1"), f.volume, max_relative = 3e-3);
}

/// What the list says of the ends of the first bar.
fn cut_cells(r: &FrameResult) -> [String; 2] {
    let d = Display::default();
    let list = frame_list(&Frame::default(), r, &d, &SawFacts::usual(&d));
    list.bars[0].cuts.each_ref().map(|c| c.text.to_string())
}

/// One end alone: the half disc has its middle 4r/3π before its chord. A rail stands on its edge of 40.
#[test]
fn the_middle_of_a_bar_with_one_round_end() {
    let r = with("FLAT 40x8", &["round off rail-1 at the end"]);
    clean(&r);
    let f = of(&r, "rail-1").1;
    let (bar, disc) = (80.0 * 40.0, PI * 200.0);
    let want = (bar * 40.0 + disc * (80.0 + 80.0 / (3.0 * PI))) / (bar + disc);
    assert_abs_diff_eq!(f.centre.x, want, epsilon = 1e-5);
    // Over its thickness: four quarters of R4 are taken off 8.
    let r = with("FLAT 40x8", &["round off rail-1 at both ends, over the thickness"]);
    assert_relative_eq!(of(&r, "rail-1").1.volume, 40.0 * (92.0 * 8.0 + PI * 16.0), max_relative = 1e-6);
    let r = with("FLAT 40x8", &["round off rail-1 at both ends, R10"]);
    let gone = 400.0 - PI * 100.0;
    assert_relative_eq!(of(&r, "rail-1").1.volume, 8.0 * (4000.0 - gone), max_relative = 1e-6);
}

/// Sections with walls: what is left is summed over a grid of the test's own.
#[rstest]
#[case("60x40x3", "")]
#[case("CHS 48.3x3.2", "")]
#[case("L 60x60x6", ", R22")]
#[case("L 60x40x5", ", R9, over the thickness")]
fn rounded_ends_of_sections_with_walls(#[case] section: &str, #[case] how: &str) {
    let r = with(section, &[&format!("round off rail-1 at the end{how}")]);
    clean(&r);
    let (m, f) = of(&r, "rail-1");
    let p = &r.profiles[m.profile];
    let size = p.section.shape.size();
    let wide = size.x >= size.y - 1e-9;
    let over_x = wide != how.contains("thickness");
    let half = if over_x { size.x } else { size.y } / 2.0;
    let radius = how.split('R').nth(1).map_or(half, |t| t.split(',').next().unwrap().parse().unwrap());
    let (n, mut left, mut area) = (600, 0.0, 0.0);
    for i in 0..n {
        for k in 0..n {
            let share = DVec2::new(f64::from(i) + 0.5, f64::from(k) + 0.5) / f64::from(n);
            let q = (share - 0.5) * size;
            if p.outer.contains(q) && !p.holes.iter().any(|h| h.contains(q)) {
                let out = (if over_x { q.x } else { q.y }).abs() - (half - radius);
                let back =
                    if out > 0.0 { radius - (radius * radius - out * out).max(0.0).sqrt() } else { 0.0 };
                left += 100.0 - back;
                area += 1.0;
            }
        }
    }
    assert_relative_eq!(f.volume / p.properties.area, left / area, max_relative = 1e-3);
    assert_relative_eq!(meshed(&r, "rail-1"), f.volume, max_relative = 6e-3);
}

#[rstest]
#[case(&["round off rail-1 at both ends, R21"], "/say/radius", "write 20.0 mm or less")]
#[case(&["node C 0 100 0", "rail A C", "mitre A", "round off rail-1 at the start"],
    "/say/ends", "trim it square")]
#[case(&["node D 120 0 0", "rail B D", "round off rail-2 at both ends"],
    "/say/radius", "write a smaller radius")]
#[case(&["node C 100 100 0", "node D 0 100 0", "rail A C D, closed, bent 20",
    "round off rail-2 at both ends"],
    "/say/members", "that has ends")]
#[case(&["bent bar: bend 90° R60, 100", "round off bent-1 at the start"], "/say/ends", "a straight leg")]
#[case(&["flatten rail-1 at both ends, 50 flat, over 40"], "/say/members", "name a round tube")]
#[case(&["pipe B A, CHS 33.7x2.6", "flatten pipe-1 at both ends, 30 flat, over 25"],
    "/say/length", "shorter lengths")]
#[case(&["pipe A B, CHS 33.7x2.6", "flatten pipe-1 at the end, 20 flat, over 25",
    "round off pipe-1 at both ends"],
    "/say/members", "round off another end")]
#[case(&["bent bar: 80, twist 90° over 60"], "/say/legs/1/kind", "before and behind")]
#[case(&["bent bar: 80, twist 0.5° over 60, 40"], "/say/legs/1/angle", "write 1° to 7200°")]
#[case(&["bent bar, on its top face: 80, twist 90° over 60, 40"], "/say/sits", "sit on its middle")]
fn what_cannot_be_is_said(#[case] lines: &[&str], #[case] field: &str, #[case] mend: &str) {
    let r = with("FLAT 40x8", lines);
    let told = r.faults.iter().find(|f| f.path.ends_with(field) && f.fault.mend.contains(mend));
    assert!(told.is_some(), "{:?}", r.faults);
    assert!(!r.members.is_empty() && r.facts.iter().all(|f| f.volume > 0.0));
}

/// Pressed flat the middle of the wall keeps its length: 2·(w - 2t) + π·t = π·(d - t).
#[rstest]
#[case("CHS 33.7x2.6", 33.7, 2.6, "")]
#[case("CHS 60.3x4", 60.3, 4.0, ", upright")]
fn a_tube_pressed_flat_by_hand(#[case] section: &str, #[case] d: f64, #[case] t: f64, #[case] lies: &str) {
    let lines = ["node A 0 0 0", "node B 600 0 0", "brace A B"];
    let plain = frame(section, JointHow::Butt, &lines);
    let more = format!("flatten brace-1 at the start, 60 flat, over 50{lies}");
    let r = frame(section, JointHow::Butt, &[&lines[..], &[more.as_str()]].concat());
    clean(&r);
    let wide = (PI * (d - t) - PI * t) / 2.0 + 2.0 * t;
    let (m, f) = of(&r, "brace-1");
    assert_relative_eq!(f.volume, of(&plain, "brace-1").1.volume, max_relative = 1e-12);
    assert_relative_eq!(f.lengths.overall, 600.0);
    let b = body(m, &r.profiles[m.profile], true);
    let across = |v: &DVec3| if lies.is_empty() { DVec2::new(v.y, v.z) } else { DVec2::new(v.z, v.y) };
    let flat: Vec<DVec2> = b.points.iter().filter(|v| v.x < 60.1).map(across).collect();
    let most = flat.iter().fold(DVec2::ZERO, |a, q| a.max(q.abs()));
    assert_abs_diff_eq!(most.x, wide / 2.0, epsilon = 0.02);
    assert_abs_diff_eq!(most.y, t, epsilon = 0.02);
    assert!(b.points.iter().filter(|v| v.x > 110.1).all(|v| across(v).length() < d / 2.0 + 1e-9));
    // Square to the bar there is as much metal all along it.
    assert_relative_eq!(meshed(&r, "brace-1"), meshed(&plain, "brace-1"), max_relative = 6e-3);
    let note = r.findings.iter().find(|f| f.check == "pressed_flat").unwrap();
    assert!(
        note.message.contains(&format!("{wide:.1} mm wide and {:.1} mm thick", 2.0 * t)),
        "{}",
        note.message
    );
}

/// A quarter of a twist lays what stood on its edge flat, and a hole behind it looks another way.
#[test]
fn a_twisted_strap_by_hand() {
    let r = frame(
        "FLAT 40x8",
        JointHow::Butt,
        &[
            "bent bar: 100, twist 90° over 120, 100",
            "hole ⌀9 on bent-1, 50 from its start, left face, both walls",
            "hole ⌀9 on bent-1, 270 from its start, left face, both walls",
        ],
    );
    clean(&r);
    let (m, f) = of(&r, "bent-1");
    // Metal square to the bar is the same everywhere: less two holes of 8 deep.
    assert_relative_eq!(f.volume, 320.0 * 320.0 - 2.0 * PI * 20.25 * 8.0, max_relative = 1e-9);
    assert_relative_eq!(f.lengths.overall, 320.0);
    let out = |along: f64| {
        let bar = m.straight_at(along).unwrap();
        (bar.y * m.holes[0].out.x + bar.z * m.holes[0].out.y).round()
    };
    // Left is north; clockwise seen along the bar, to the east, that goes up.
    assert_eq!([out(50.0), out(270.0)], [DVec3::Y, DVec3::Z]);
    let (low, high) = extent(&r).unwrap();
    // On its way its corners come by everywhere.
    let corner = 416f64.sqrt();
    assert!((high - DVec3::new(320.0, corner, corner)).length() < 1e-9 && (low.z + corner).abs() < 1e-9);
    assert_relative_eq!(meshed(&r, "bent-1"), 320.0 * 320.0, max_relative = 5e-3);
    let refused = frame(
        "FLAT 40x8",
        JointHow::Butt,
        &["bent bar: 100, twist 90° over 120, 100", "hole ⌀9 on bent-1, 160 from its start, left face"],
    );
    assert!(refused.faults[0].path.ends_with("/say/at"));
}

/// The image of a twist has the other hand: two rows, and one where both are told the same.
#[rstest]
#[case("twist 90° over 80", "twist -90° over 80", 1, 1)]
#[case("twist 90° over 80", "twist 90° over 80", 1, 0)]
#[case("twist 180° over 80", "twist 90° over 80", 2, 0)]
fn twists_have_a_hand(#[case] a: &str, #[case] b: &str, #[case] groups: usize, #[case] mirrored: usize) {
    let lines =
        [&format!("bent bar: 60, {a}, 60"), "node N 0 300 0", &format!("bent bar from N: 60, {b}, 60")];
    let r = frame("FLAT 30x6", JointHow::Butt, &lines.map(|l| l));
    clean(&r);
    assert_eq!(r.groups.len(), groups);
    assert_eq!(r.groups.iter().flat_map(|g| &g.fits).filter(|f| f.mirrored).count(), mirrored);
    let copy = frame("FLAT 30x6", JointHow::Butt, &[lines[0], "mirror bent-1 across north at 100"]);
    clean(&copy);
    assert_eq!(copy.groups[0].fits.iter().filter(|f| f.mirrored).count(), 1, "{:?}", copy.groups);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// Twisted angles: the middle of mass is that of thin slices, each turned by its share; how far the bar
    /// reaches is never less than any corner of them, and comes near the furthest.
    #[test]
    fn twisted_bars_are_their_slices(
        first in 10.0f64..200.0, over in 20.0f64..300.0, last in 10.0f64..200.0, turns in -500.0f64..500.0,
        heading in prop::sample::select(vec!["east", "north", "up", "west"]),
        section in prop::sample::select(vec!["L 60x40x5", "FLAT 40x8", "UNP 80"]), turned in 0.0f64..180.0,
    ) {
        prop_assume!(turns.abs() > 2.0);
        let twist = format!("twist {turns:.4}° over {over:.3}");
        let line = format!("bent bar, {heading}, turned {turned:.3}°: {first:.3}, {twist}, {last:.3}");
        let r = frame(section, JointHow::Butt, &[&line]);
        prop_assume!(r.profiles.len() == 1);
        clean(&r);
        let (m, f) = of(&r, "bent-1");
        let p = &r.profiles[m.profile];
        let start = m.end(0);
        let (n, mut sum) = (4000, DVec3::ZERO);
        let (mut low, mut high) = (DVec3::INFINITY, DVec3::NEG_INFINITY);
        let whole: f64 = m.way.iter().map(CentrelineSegment::length).sum();
        for k in 0..n {
            let s = (f64::from(k) + 0.5) / f64::from(n) * whole;
            let share = ((s - first) / over).clamp(0.0, 1.0);
            let (sin, cos) = (share * turns.to_radians()).sin_cos();
            // Right-handed about the way on.
            let turn = |v: DVec3| v * cos + start.d.cross(v) * sin;
            let at = |q: DVec2| start.o + start.d * s + turn(start.y * q.x + start.z * q.y);
            sum += at(p.properties.centroid);
            for q in &p.fine {
                (low, high) = (low.min(at(*q)), high.max(at(*q)));
            }
        }
        let middle = sum / f64::from(n);
        prop_assert!(f.centre.distance(middle) < 0.05, "{} {middle}", f.centre);
        prop_assert!((f.volume / (p.properties.area * whole) - 1.0).abs() < 1e-9);
        let (from, to) = extent(&r).unwrap();
        let inside = (low - from).min_element() > -1e-4 && (to - high).min_element() > -1e-4;
        prop_assert!(inside, "{} {}", low - from, to - high);
        let near = (low - from).max_element() < 0.1 && (to - high).max_element() < 0.1;
        prop_assert!(near, "{from} {to} {low} {high}");
    }

    /// However a pressed tube lies, it reaches as far as its mesh does: wider than the tube at its flats, and
    /// on slanting ones anywhere on the way between.
    #[test]
    fn pressed_tubes_reach_as_far_as_their_meshes(
        to in (-500.0f64..500.0, -500.0..500.0f64, -500.0..500.0f64), flat in 10.0f64..80.0,
        over in 10.0f64..80.0, upright in any::<bool>(),
        end in prop::sample::select(vec!["the start", "both ends"]),
    ) {
        let whole = DVec3::new(to.0, to.1, to.2).length();
        prop_assume!(whole > 400.0);
        let lies = if upright { ", upright" } else { "" };
        let r = frame("CHS 48.3x3.2", JointHow::Butt, &[
            "node A 0 0 0",
            &format!("node B {:.4} {:.4} {:.4}", to.0, to.1, to.2),
            "brace A B",
            &format!("flatten brace-1 at {end}, {flat} flat, over {over}{lies}"),
        ]);
        clean(&r);
        let (m, _) = of(&r, "brace-1");
        let points = body(m, &r.profiles[m.profile], true).points;
        let low = points.iter().copied().reduce(DVec3::min).unwrap();
        let high = points.iter().copied().reduce(DVec3::max).unwrap();
        let (from, to) = extent(&r).unwrap();
        let inside = (low - from).min_element() > -0.02 && (to - high).min_element() > -0.02;
        prop_assert!(inside, "{from} {to} {low} {high}");
        // Slice by slice: flats as long as the wall gives, and rounds at both of their ends.
        let (bar, wall, radius) = (m.end(0), 3.2, 22.55);
        let slice = |d: DVec3, along: f64, share: f64| {
            let rho = 1.6 + (radius - 1.6) * (3.0 * share.powi(2) - 2.0 * share.powi(3));
            let across = d.dot(if upright { bar.z } else { bar.y }).abs();
            let (flat, round) = (PI * (radius - rho) / 2.0, (d - bar.d * d.dot(bar.d)).length());
            bar.o.dot(d) + along * bar.d.dot(d) + flat * across + (rho + wall / 2.0) * round
        };
        let takes = [flat + over, if end == "both ends" { flat + over } else { 0.0 }];
        for (d, got) in [DVec3::X, DVec3::Y, DVec3::Z].iter().enumerate()
            .flat_map(|(k, d)| [(*d, to[k]), (-*d, -from[k])])
        {
            let mut most = slice(d, takes[0], 1.0).max(slice(d, m.length - takes[1], 1.0));
            for (k, take) in takes.iter().enumerate().filter(|t| *t.1 > 0.0) {
                for i in 0..=4000 {
                    let s = take * f64::from(i) / 4000.0;
                    let along = if k == 0 { s } else { m.length - s };
                    most = most.max(slice(d, along, ((s - flat) / over).clamp(0.0, 1.0)));
                }
            }
            prop_assert!((got - most).abs() < 2e-3 && got > most - 1e-4, "{got} {most}");
        }
    }

    /// Rounded flats and their mirrored and turned copies are one row, and each is a closed body of its
    /// volume.
    #[test]
    fn rounded_bars_are_closed_and_alike(
        wide in 12.0f64..80.0, thick in 3.0f64..10.0, share in 0.05f64..1.0, long in 200.0f64..400.0,
        bent in any::<bool>(), end in prop::sample::select(vec!["the start", "the end", "both ends"]),
    ) {
        let radius = wide / 2.0 * share;
        let leg = if bent { format!("{long:.3}, bend 60° R150 north, 120") } else { format!("{long:.3}") };
        let r = frame(&format!("FLAT {wide:.2}x{thick:.2}"), JointHow::Butt, &[
            &format!("bent bar: {leg}"),
            &format!("round off bent-1 at {end}, R{radius:.4}"),
            "mirror bent-1 across north at -300",
        ]);
        prop_assert!(r.faults.is_empty(), "{:?}", r.faults);
        prop_assert_eq!((r.members.len(), r.groups.len()), (2, 1));
        let names: Vec<&str> = r.members.iter().map(|m| m.name.as_str()).collect();
        for name in names {
            let volume = of(&r, name).1.volume;
            prop_assert!((meshed(&r, name) / volume - 1.0).abs() < 1e-2);
        }
        prop_assert!((r.facts[0].volume - r.facts[1].volume).abs() < 1e-6 * r.facts[0].volume);
    }
}

/// A copy has what is done to the ends of a bar, as it has its holes; mirrored, at its other end. A bar that
/// its own mirror makes longer has it at both.
#[test]
fn copies_keep_their_ends() {
    let lines =
        ["node A 0 0 0", "node B 200 0 0", "tube A B", "flatten tube-1 at the start, 40 flat, over 30"];
    for (section, more) in [("FLAT 40x8", "round off tube-1 at the end"), ("CHS 33.7x2.6", "node C 0 900 0")]
    {
        let lines = [&lines[..3 + usize::from(section.starts_with("CHS"))], &[more]].concat();
        let ends = |m: &Member| [0, 1].map(|k| m.rounds[k].is_some() || m.pressed[k].is_some());
        for (copied, want) in
            [("mirror tube-1 across east at 300", true), ("repeat tube-1 2 times, 300 north", false)]
        {
            let r = frame(section, JointHow::Butt, &[&lines[..], &[copied]].concat());
            clean(&r);
            let own = ends(of(&r, "tube-1").0);
            let copy = ends(r.members.iter().find(|m| m.name != "tube-1").unwrap());
            assert_eq!(copy, if want { [own[1], own[0]] } else { own }, "{copied}");
            assert_eq!((own[0] != own[1], r.groups.len()), (true, 1), "{section} {copied} {:?}", r.groups);
        }
    }
    let grown = frame(
        "FLAT 40x8",
        JointHow::Butt,
        &[
            "node A 0 0 0",
            "node B 200 0 0",
            "rail A B",
            "round off rail-1 at the end",
            "mirror across east at 0",
        ],
    );
    clean(&grown);
    let (m, f) = of(&grown, "rail-1");
    assert!(grown.members.len() == 1 && m.rounds.iter().all(Option::is_some));
    assert_relative_eq!(f.volume, (360.0 * 40.0 + PI * 400.0) * 8.0, max_relative = 1e-6);
}
