//! Hoppers: true lengths, areas and corner angles by hand; plates as placed meet at their seams and do not
//! cross, over random ones.

use approx::assert_relative_eq;
use glam::{DVec2, DVec3};
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::frame::*;
use steelk_core::job::*;

use crate::common::frame::*;

pub fn hopper(lines: &[&str]) -> FrameResult {
    frame("60x60x3", JointHow::Butt, lines)
}

/// The plate of a side: its thickness, and its outline where it stands, on the face at its place and on the
/// other.
pub fn plate(r: &FrameResult, name: &str) -> (f64, Vec<DVec3>, Vec<DVec3>, DVec3) {
    let found = r.plates.iter().find_map(|p| Some((p, p.places.iter().find(|q| q.name == name)?)));
    let (p, at) = found.unwrap_or_else(|| panic!("no plate {name}"));
    let t = p.piece.thickness;
    let on = |h: f64| {
        let corner = |q: DVec2| at.o + at.x * q.x + at.y * q.y + at.z * h;
        p.piece.flat.outer.vertices.iter().map(|v| corner(v.p)).collect::<Vec<_>>()
    };
    (t, on(0.0), on(t), at.z)
}

/// A frustum: true heights of its sides by Pythagoras, its corners by the angle of two normals.
#[test]
fn a_frustum_by_hand() {
    let r = hopper(&["hopper 200 x 200 to 800 x 600, 500 high, 4 thick"]);
    clean(&r);
    let (south, east) = (500f64.hypot(200.0), 500f64.hypot(300.0));
    let areas = [(200.0 + 800.0) / 2.0 * south, (200.0 + 600.0) / 2.0 * east];
    assert_eq!(r.plates.len(), 2, "two of each");
    for (p, area) in r.plates.iter().zip(areas) {
        assert_eq!(p.places.len(), 2);
        assert_relative_eq!(p.piece.value("area"), area, epsilon = 1e-6);
    }
    assert_relative_eq!(r.mass(), 2.0 * (areas[0] + areas[1]) * 4.0 * 7850e-9, max_relative = 1e-9);
    let cos = 200.0 * 300.0 / (south * east);
    let angle = (-cos).acos().to_degrees();
    let note = r.findings.iter().find(|f| f.check == "corners").unwrap();
    let told = format!("{angle:.0}° inside, a groove of {:.0}° outside", 180.0 - angle);
    assert!(note.message.contains(&told), "{} for {told}", note.message);
    // Four seams, each as long as its edge in space.
    let seam = (300f64.powi(2) + 200f64.powi(2) + 500f64.powi(2)).sqrt();
    let welded: f64 = r.welds.iter().map(|w| w.length * w.count as f64).sum();
    assert_relative_eq!(welded, 4.0 * seam, epsilon = 1e-6);
}

/// A pyramid whose point stands beside its middle: four triangles by their corners, one left out.
#[test]
fn an_oblique_pyramid_by_hand() {
    let r = hopper(&[
        "node A 100 200 300",
        "hopper 200 x 150 to 0 x 0, 250 high, 1 thick, 40 east, open south, on A",
    ]);
    clean(&r);
    let tip = DVec3::new(40.0, 0.0, 250.0);
    let base = [(100.0, -75.0), (100.0, 75.0), (-100.0, 75.0), (-100.0, -75.0)];
    let area = |k: usize| {
        let [a, b] = [base[k], base[(k + 1) % 4]].map(|(x, y)| DVec3::new(x, y, 0.0));
        (b - a).cross(tip - a).length() / 2.0
    };
    for (k, name) in ["hopper-1.east", "hopper-1.north", "hopper-1.west"].into_iter().enumerate() {
        let (_, low, high, _) = plate(&r, name);
        let p = r.plates.iter().find(|p| p.places.iter().any(|q| q.name == name)).unwrap();
        assert_relative_eq!(p.piece.value("area"), area(k), epsilon = 1e-6);
        let point = tip + DVec3::new(100.0, 200.0, 300.0);
        assert!(low.iter().chain(&high).any(|q| q.distance(point) < 1e-6), "{name} ends in the point");
    }
    assert_eq!(r.plates.iter().map(|p| p.places.len()).sum::<usize>(), 3);
    assert_eq!(r.welds.len(), 2, "an open side has no seam");
}

/// A back taller than the front: the edges that are told stand as told, and every side is plane.
#[test]
fn a_chute_with_a_taller_back() {
    let r = hopper(&[
        "hopper 300 x 250 to 500 x 400, 400 high, 6 thick, rising to 620 north, flush north, 30 east",
    ]);
    clean(&r);
    let has = |name: &str, p: DVec3| {
        let (_, low, high, _) = plate(&r, name);
        assert!(
            low.iter().chain(&high).any(|q| q.distance(p) < 1e-6),
            "{name} has no corner at {p}: {low:?}"
        );
    };
    // In the middle of the slope the rim is 500 wide: by then the east side leans 130 in 510.
    let east = |z: f64| 150.0 + 130.0 / 510.0 * z;
    has("hopper-1.north", DVec3::new(east(620.0), 125.0, 620.0));
    has("hopper-1.east", DVec3::new(east(620.0), 125.0, 620.0));
    has("hopper-1.south", DVec3::new(east(400.0), -275.0, 400.0));
    has("hopper-1.south", DVec3::new(150.0, -125.0, 0.0));
    has("hopper-1.north", DVec3::new(-150.0, 125.0, 0.0));
}

#[rstest]
#[case("hopper 0 x 0 to 0 x 0, 100 high, 2 thick", "/top_x")]
#[case("hopper 50 x 0 to 100 x 100, 100 high, 2 thick", "/bottom_y")]
#[case("hopper 50 x 50 to 100 x 100, 0 high, 2 thick", "/height")]
#[case("hopper 50 x 50 to 8 x 100 outside, 100 high, 4 thick", "/top_x")]
#[case("hopper 50 x 8 to 100 x 100 outside, 100 high, 5 thick", "/bottom_x")]
#[case("hopper 50 x 50 to 0 x 0, 100 high, 2 thick, rising to 120 west", "/tall")]
#[case("hopper 50 x 50 to 80 x 80, 100 high, 2 thick, on Q", "/at")]
#[case("hopper 50 x 600 to 50 x 120, 280 high, 2 thick, rising to 400 north, 150 north", "/tall")]
fn what_is_no_hopper_is_refused_with_its_field(#[case] line: &str, #[case] field: &str) {
    let r = hopper(&["node A 0 0 0", line, "stack on A: 10 x 10 x 10"]);
    let fault = r.faults.first().unwrap_or_else(|| panic!("{line} was taken"));
    assert!(fault.path.ends_with(field), "{} for {line}", fault.path);
    assert!(!fault.fault.mend.is_empty());
    assert_eq!(r.plates.len(), 1, "the rest stands");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(1000))]

    /// Neighbours share both ends of their seam, lie on either side of the plane through it, and the
    /// faces that
    /// are told hold the told edges.
    #[test]
    fn plates_meet_at_their_seams_and_do_not_cross(
        bottom in (40.0..900.0f64, 40.0..900.0f64), top in (40.0..900.0f64, 40.0..900.0f64),
        high in 60.0..900.0f64, by in (-200.0..200.0f64, -200.0..200.0f64),
        t in 0.5..10.0f64, over in 0usize..3,
        rise in prop::option::of((0.0..120.0f64, 0usize..4)), mirrored: bool,
    ) {
        let measure = ["inside", "mid-thickness", "outside"][over];
        let names = ["south", "east", "north", "west"];
        let mut line = format!(
            "hopper {} x {} to {} x {} {measure}, {high} high, {t} thick", bottom.0, bottom.1, top.0, top.1
        );
        if let Some((by, side)) = rise {
            line += &format!(", rising to {} {}", high + by, names[side]);
        }
        line += &format!(", {} east, {} north", by.0, by.1);
        let mut lines = vec![&*line];
        if mirrored {
            lines.push("mirror hopper-1 east 2000");
        }
        let r = hopper(&lines);
        // How far in the inner faces stand from the told edges, seen from above, on the two sides of a width;
        // what is left between them below, above, and where one side rises.
        let lean = |a: f64, b: f64, by: f64| {
            let middle = high + rise.map_or(0.0, |r| r.0 / 2.0);
            let out = [(b - a) / 2.0 + by, (b - a) / 2.0 - by];
            let inwards = [0.0, t / 2.0, t][over];
            let leaning = |o: &f64| inwards * (1.0 + (o / middle.min(high)).powi(2)).sqrt();
            let taken: f64 = out.iter().map(leaning).sum();
            let further = (b - a) * (rise.map_or(0.0, |r| r.0) / 2.0 / middle).max(0.0);
            a.min(b).min(b + further) - taken * 1.2
        };
        let left = lean(bottom.0, top.0, by.0).min(lean(bottom.1, top.1, by.1));
        // How high the rim's plane stands over the edge of the lower opening on its low side.
        let over_low = rise.map_or(high, |(rise, side)| {
            let (a, b, by) = if side % 2 == 0 { (bottom.1, top.1, by.1) } else { (bottom.0, top.0, by.0) };
            let by = if side == 0 || side == 3 { by } else { -by };
            high - rise / b * ((a - b) / 2.0 - by)
        });
        if r.faults.iter().any(|f| f.path.ends_with("/tall")) {
            prop_assert!(over_low < 1e-6, "the rim stands {over_low} over the lower edge: {line}");
            return Ok(());
        }
        if !r.faults.is_empty() {
            // In a tilted rim the walls lie further in than level ones.
            let near = if rise.is_some() { 40.0 } else { 5.0 };
            prop_assert!(left < near, "{:?} with {left} left in {line}", r.faults);
            return Ok(());
        }
        let copies = if mirrored { vec!["", "#2"] } else { vec![""] };
        for copy in copies {
            let sides: Vec<_> = names.iter().map(|n| plate(&r, &format!("hopper-1.{n}{copy}"))).collect();
            for k in 0..4 {
                let (a, b) = (&sides[k], &sides[(k + 1) % 4]);
                let all = |s: &(f64, Vec<DVec3>, Vec<DVec3>, DVec3)| [&s.1[..], &s.2[..]].concat();
                let shared: Vec<DVec3> =
                    all(a).into_iter().filter(|p| all(b).iter().any(|q| q.distance(*p) < 1e-5)).collect();
                prop_assert_eq!(shared.len(), 2, "{} of {}: {:?}", names[k], line, shared);
                // Out of the metal's inside: from the face that holds the seam to the other.
                let out = |s: &(f64, Vec<DVec3>, Vec<DVec3>, DVec3)| {
                    if (shared[0] - s.1[0]).dot(s.3).abs() < s.0 / 2.0 { s.3 } else { -s.3 }
                };
                let between = out(a) - out(b);
                let side = |p: &DVec3| between.dot(*p - shared[0]);
                prop_assert!(all(a).iter().all(|p| side(p) > -1e-5), "{} in {}", names[k], line);
                prop_assert!(all(b).iter().all(|p| side(p) < 1e-5), "{} in {}", names[k], line);
            }
        }
        // The told edges of the lower opening lie on the told face: that many thicknesses in from outside.
        for (k, (_, low, high, up)) in sides_of(&r, &names).into_iter().enumerate() {
            let out = [DVec3::NEG_Y, DVec3::X, DVec3::Y, DVec3::NEG_X][k];
            let half = if k % 2 == 0 { bottom.1 } else { bottom.0 } / 2.0;
            let up = if up.dot(out) > 0.0 { up } else { -up };
            let outermost = low.iter().chain(&high).map(|p| p.dot(up)).fold(f64::NEG_INFINITY, f64::max);
            let depth = outermost - (out * half).dot(up);
            let told = [t, t / 2.0, 0.0][over];
            prop_assert!((depth - told).abs() < 1e-6, "{} stands {depth} in of {told}: {line}", names[k]);
        }
    }
}

fn sides_of(r: &FrameResult, names: &[&str]) -> Vec<(f64, Vec<DVec3>, Vec<DVec3>, DVec3)> {
    names.iter().map(|n| plate(r, &format!("hopper-1.{n}"))).collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(500))]

    /// In their corners plates keep the told gap, and where two run over the others: the edge stands off the
    /// face by the gap at its nearest, and the plate that runs over ends with the other's outer face.
    #[test]
    fn corners_are_as_told(
        bottom in (150.0..600.0f64, 150.0..600.0f64), top in (150.0..600.0f64, 150.0..600.0f64),
        high in 150.0..700.0f64, by in (-120.0..120.0f64, -120.0..120.0f64), t in 1.0..10.0f64,
        gap in prop_oneof![Just(0.0), 0.5..5.0f64], how in 0usize..3, open in 0usize..5,
        alone in prop::option::of((0usize..4, 0usize..3, 0.0..4.0f64)),
    ) {
        let names = ["south", "east", "north", "west"];
        let but = alone.map_or(String::new(), |(k, how, gap)| {
            let corner = ["south-east", "north-east", "north-west", "south-west"][k];
            let how = ["edge to edge", "north or south over", "east or west over"][how];
            format!(", but {corner} {how} gap {gap}")
        });
        let corners = ["", ", north and south over", ", east and west over"][how];
        let left = ["", ", open south", ", open east", ", open north", ", open west"][open];
        let line = format!(
            "hopper {} x {} to {} x {}, {high} high, {t} thick, {} east, {} north{left}{corners}, \
             gap {gap}{but}",
            bottom.0, bottom.1, top.0, top.1, by.0, by.1
        );
        let r = hopper(&[&line]);
        prop_assert!(r.faults.is_empty(), "{:?} in {line}", r.faults);
        let stands = |k: usize| open != k % 4 + 1;
        for (k, l) in (0..4).map(|k| (k, (k + 1) % 4)).filter(|(k, l)| stands(*k) && stands(*l)) {
            let sides = [k, l].map(|k| {
                let (_, low, high, z) = plate(&r, &format!("hopper-1.{}", names[k]));
                let out = [DVec3::NEG_Y, DVec3::X, DVec3::Y, DVec3::NEG_X][k];
                // Inner and outer corners, the way out, and where the inner face lies along it.
                let (inner, outer, out) = if z.dot(out) > 0.0 { (low, high, z) } else { (high, low, -z) };
                let off = inner[0].dot(out);
                (inner, outer, out, off)
            });
            let [a, b] = &sides;
            let most = |points: &[DVec3], n: DVec3| {
                points.iter().map(|p| p.dot(n)).fold(f64::NEG_INFINITY, f64::max)
            };
            let all = |s: &(Vec<DVec3>, Vec<DVec3>, DVec3, f64)| [&s.0[..], &s.1[..]].concat();
            let (how, gap) = alone.filter(|a| a.0 == k).map_or((how, gap), |a| (a.1, a.2));
            if how == 0 {
                // Along the bisecting plane: nothing of one comes to the other's side, and inner edges lie
                // as far apart as told.
                let between = a.2 - b.2;
                let seam = |s: &(Vec<DVec3>, Vec<DVec3>, DVec3, f64), n: DVec3| {
                    let far = most(&s.0, n);
                    s.0.iter().copied().filter(|p| p.dot(n) > far - 1e-6).collect::<Vec<_>>()
                };
                let (p, q) = (seam(a, b.2), seam(b, a.2));
                prop_assert!(p.len() == 2 && q.len() == 2, "{line}");
                let way = (q[1] - q[0]).normalize();
                let apart = (p[0] - q[0]).reject_from(way).length();
                prop_assert!((apart - gap).abs() < 1e-6, "{apart} for {gap}: {line}");
                let middle = (p[0].dot(between) + q[0].dot(between)) / 2.0;
                prop_assert!(all(a).iter().all(|p| p.dot(between) > middle - 1e-6), "{line}");
                prop_assert!(all(b).iter().all(|p| p.dot(between) < middle + 1e-6), "{line}");
            } else {
                let over = if (how == 1) == (k % 2 == 0) { a } else { b };
                let under = if std::ptr::eq(over, a) { b } else { a };
                let nearest = over.3 - most(&all(under), over.2);
                prop_assert!((nearest - gap).abs() < 1e-6, "{nearest} for {gap}: {line}");
                let reach = most(&all(over), under.2) - under.3;
                prop_assert!((reach - t).abs() < 1e-6, "{reach} over {t}: {line}");
            }
        }
    }
}

/// Square corners by hand: a box of 300 × 200 inside, 100 high. Two plates are as long as it is outside;
/// their corners are fillets. Edge to edge the groove is a quarter of t², half of t by t.
#[test]
fn corners_of_a_box_by_hand() {
    let over = hopper(&["hopper 300 x 200 to 300 x 200, 100 high, 5 thick, north and south over, gap 2"]);
    clean(&over);
    let area = |r: &FrameResult, name: &str| {
        let p = r.plates.iter().find(|p| p.places.iter().any(|q| q.name == name)).unwrap();
        p.piece.value("area")
    };
    assert_relative_eq!(area(&over, "hopper-1.south"), 310.0 * 100.0, epsilon = 1e-6);
    assert_relative_eq!(area(&over, "hopper-1.east"), 196.0 * 100.0, epsilon = 1e-6);
    assert!(over.welds.iter().all(|w| w.kind == WeldKind::Fillet), "{:?}", over.welds);
    let note = &over.findings.iter().find(|f| f.check == "corners").unwrap().message;
    assert!(note.contains("run over") && note.contains("90° inside, open by 2.0 mm at most"), "{note}");
    let edge = hopper(&["hopper 300 x 200 to 300 x 200, 100 high, 5 thick"]);
    assert_relative_eq!(area(&edge, "hopper-1.south"), 300.0 * 100.0, epsilon = 1e-6);
    let metal: f64 = edge.welds.iter().map(|w| w.metal * w.count as f64).sum();
    assert!(edge.welds.iter().all(|w| w.kind == WeldKind::Groove && w.size == 5.0));
    assert_relative_eq!(metal, 4.0 * 100.0 * 12.5 * 1.1, epsilon = 1e-6);
    // Filled to half of the thickness a quarter.
    let half = hopper(&["hopper 300 x 200 to 300 x 200, 100 high, 5 thick", "weld groove 2.5"]);
    let metal: f64 = half.welds.iter().map(|w| w.metal * w.count as f64).sum();
    assert_relative_eq!(metal, 100.0 * 12.5 * 1.1, epsilon = 1e-6);
    // Told as fillets they are.
    let told = hopper(&["hopper 300 x 200 to 300 x 200, 100 high, 5 thick", "weld fillet 3"]);
    assert!(told.welds.iter().all(|w| w.kind == WeldKind::Fillet && w.size == 3.0));
    // 2 between the inner edges of a square corner is √2 off each.
    let gap = hopper(&["hopper 300 x 200 to 300 x 200, 100 high, 5 thick, gap 2"]);
    let each = 2f64.sqrt();
    assert_relative_eq!(area(&gap, "hopper-1.south"), (300.0 - 2.0 * each) * 100.0, epsilon = 1e-6);
}

/// A box of 300 × 200 inside, 5 thick, edge to edge but in one corner, where the south runs over the east:
/// that one reaches 5 further, the other stops 2 short; three grooves and a fillet.
#[test]
fn a_corner_told_by_itself() {
    let line = "hopper 300 x 200 to 300 x 200, 100 high, 5 thick";
    let r = hopper(&[&format!("{line}, but south-east north or south over gap 2")]);
    clean(&r);
    let area = |name: &str| {
        let p = r.plates.iter().find(|p| p.places.iter().any(|q| q.name == name)).unwrap();
        p.piece.value("area")
    };
    assert_relative_eq!(area("hopper-1.south"), 305.0 * 100.0, epsilon = 1e-6);
    assert_relative_eq!(area("hopper-1.east"), 198.0 * 100.0, epsilon = 1e-6);
    assert_relative_eq!(area("hopper-1.north"), 300.0 * 100.0, epsilon = 1e-6);
    let kinds = |kind: WeldKind| r.welds.iter().filter(|w| w.kind == kind).map(|w| w.count).sum::<usize>();
    assert_eq!((kinds(WeldKind::Groove), kinds(WeldKind::Fillet)), (3, 1));
    let note = &r.findings.iter().find(|f| f.check == "corners").unwrap().message;
    assert!(note.contains("south–east 90° inside, open by 2.0 mm at most"), "{note}");
    assert!(note.contains("west–south 90° inside, a groove of 90° outside"), "{note}");
    let twice = hopper(&[&format!("{line}, but north-east edge to edge, but north-east east or west over")]);
    assert!(twice.faults[0].path.ends_with("/but/1/corner"), "{:?}", twice.faults);
}

/// A lug on an upright side: its base lies on the outer face, its upright stands up and down, the eye as far
/// out as told.
#[test]
fn a_lug_on_a_side_by_hand() {
    let r = hopper(&[
        "hopper 300 x 200 to 300 x 200, 400 high, 5 thick",
        "lug on hopper-1.south, 100 from its start, 200 up its side, base 80 x 60 x 8, 10 thick, R28, \
         eye ⌀22 at 40",
    ]);
    clean(&r);
    let (_, low, high, _) = plate(&r, "lug-1.base");
    let all = [low, high].concat();
    let (least, most) = (all.iter().copied().reduce(DVec3::min), all.iter().copied().reduce(DVec3::max));
    // 60 across and 80 up about 100 from the west corner, from the outer face at -105 outwards.
    assert!(least.unwrap().distance(DVec3::new(-80.0, -113.0, 160.0)) < 1e-9, "{least:?}");
    assert!(most.unwrap().distance(DVec3::new(-20.0, -105.0, 240.0)) < 1e-9, "{most:?}");
    let lug = r.plates.iter().find(|p| p.name == "lug-1.upright").unwrap();
    let at = &lug.places[0];
    let eye = lug.piece.flat.holes[0].contour.bounds().centre();
    let eye = at.o + at.x * eye.x + at.y * eye.y + at.z * (lug.piece.thickness / 2.0);
    assert!(eye.distance(DVec3::new(-50.0, -153.0, 200.0)) < 1e-9, "{eye}");
    assert!(
        r.findings.iter().any(|f| f.check == "lifting" || f.message.contains("lift")),
        "{:?}",
        r.findings
    );
}

/// On sides that lean, of a hopper on a node: the foot lies on the outer face, so far up the slope.
#[test]
fn lugs_on_leaning_sides() {
    for side in ["south", "east", "north", "west"] {
        let lug = format!(
            "lug on hopper-1.{side}, 90 from its start, 150 up its side, 10 thick, R28, eye ⌀22 at 40"
        );
        let line = "hopper 200 x 180 to 500 x 460, 400 high, 6 thick, rising to 450 north, 30 east, on A";
        let r = hopper(&["node A 70 -40 900", line, &lug]);
        assert!(r.faults.is_empty(), "{:?}", r.faults);
        let (_, inner, outer, z) = plate(&r, &format!("hopper-1.{side}"));
        let (_, low, high, _) = plate(&r, "lug-1.upright");
        let points = [&low[..], &high[..]].concat();
        let middle = inner.iter().chain(&outer).copied().sum::<DVec3>() / (2 * inner.len()) as f64;
        let n = if (points[0] - middle).dot(z) > 0.0 { z } else { -z };
        let face = inner.iter().chain(&outer).map(|p| p.dot(n)).fold(f64::NEG_INFINITY, f64::max);
        let nearest = points.iter().map(|p| p.dot(n) - face).fold(f64::INFINITY, f64::min);
        assert!(nearest.abs() < 1e-9, "{side} {nearest}");
        // Up the slope is the steepest way in the side.
        let up = (DVec3::Z - n * n.z).normalize();
        let lowest = inner.iter().map(|p| p.dot(up)).fold(f64::INFINITY, f64::min);
        let foot: Vec<f64> = points.iter().filter(|p| p.dot(n) - face < 1e-6).map(|p| p.dot(up)).collect();
        let middle = foot.iter().sum::<f64>() / foot.len() as f64;
        assert!((middle - lowest - 150.0).abs() < 1e-6, "{side} {middle} {lowest}");
    }
}

#[rstest]
#[case("lug on hopper-1.south, 3 from its start, 200 up its side, 10 thick, R28, eye ⌀22 at 40", "/say/at")]
#[case("lug on hopper-1.south, 100 from its start, 380 up its side, 10 thick, R28, eye ⌀22 at 40", "/say/at")]
#[case("lug on hopper-1.south, 100 from its start, 10 thick, R28, eye ⌀22 at 40", "/say/up")]
#[case(
    "lug on hopper-1.east, 100 from its start, 90 up its side, 10 thick, R28, eye ⌀22 at 40",
    "/say/member"
)]
#[case("lug on post-1, 100 from its start, 90 up its side, 10 thick, R28, eye ⌀22 at 40", "/say/member")]
fn lugs_that_cannot_be_are_refused(#[case] line: &str, #[case] path: &str) {
    let r = hopper(&["hopper 300 x 200 to 300 x 200, 400 high, 5 thick, open east", line]);
    let f = r.faults.first().unwrap();
    assert!(f.path == path && !f.fault.mend.is_empty(), "{f:?}");
}
