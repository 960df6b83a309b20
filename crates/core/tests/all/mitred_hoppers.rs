//! Hoppers whose corners are mitred through the thickness: by hand, in their meshes over random ones,
//! mirrored, and refused.

use approx::{assert_abs_diff_eq, assert_relative_eq};
use glam::{DVec2, DVec3};
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::frame::*;
use steelk_core::geom::Contour;
use steelk_core::job::*;
use steelk_core::quantity::Display;
use steelk_core::sheet::{BevelMark, CutBack};

use crate::common::frame::*;
use crate::hoppers::hopper;

/// The corners of every plate where it stands, of both faces, by name; and the volume of its mesh.
pub fn solids(r: &FrameResult) -> Vec<(String, Vec<DVec3>, f64)> {
    let plates = standing(r, true).into_iter().filter(|s| s.is_plate);
    let each = plates.flat_map(|s| {
        let volume = s.body.volume();
        s.places
            .iter()
            .map(|p| {
                let points = s.body.points.iter().map(|q| p.at.transform_point3(*q)).collect();
                (p.name.clone(), points, volume)
            })
            .collect::<Vec<_>>()
    });
    each.collect()
}

/// A duct of 300 × 200 inside fills what lies between its inner and its outer box; edges are cut at 45°, and
/// blanks are as wide as the duct is outside.
#[rstest]
#[case("")]
#[case(", gap 0")]
#[case(
    ", edge to edge, but south-east mitred, but north-east mitred, but north-west mitred, \
     but south-west mitred"
)]
fn a_mitred_duct_by_hand(#[case] more: &str) {
    let how = if more.contains("but") { "" } else { ", mitred" };
    let r = hopper(&[&format!("hopper 300 x 200 to 300 x 200, 400 high, 12 thick{how}{more}")]);
    clean(&r);
    let volume = (324.0 * 224.0 - 300.0 * 200.0) * 400.0;
    assert_relative_eq!(r.mass(), volume * 7850e-9, max_relative = 1e-9);
    assert_eq!(r.plates.iter().map(|p| p.places.len()).collect::<Vec<_>>(), [2, 2]);
    for (p, wide) in r.plates.iter().zip([324.0, 224.0]) {
        let flat = &p.piece.flat;
        let size = flat.outer.bounds().size();
        assert_relative_eq!(size.x * size.y, wide * 400.0, epsilon = 1e-6);
        assert_eq!(flat.bevels.len(), 2);
        for b in &flat.bevels {
            assert_abs_diff_eq!(b.angle.to_degrees(), 45.0, epsilon = 1e-9);
            assert_abs_diff_eq!(b.back, 12.0, epsilon = 1e-9);
        }
        assert!(flat.guides.iter().all(|g| g.text == "bevel 45°"), "{:?}", flat.guides);
    }
    let note = r.findings.iter().find(|f| f.check == "corners").unwrap();
    assert!(
        note.message.contains("in every corner 90° inside, each edge bevelled 45° off square"),
        "{note:?}"
    );
    // A mitre is closed by butt welds, as long as the corners are.
    assert_eq!(r.welds.len(), 4);
    for w in &r.welds {
        assert_eq!((w.kind, w.size, w.count), (WeldKind::Butt, 12.0, 1));
        assert_abs_diff_eq!(w.length, 400.0, epsilon = 1e-9);
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    /// Where two sides meet, both end in a plane that halves the corner, with all four corners of their
    /// edges, as far apart as told; each mesh is as heavy as its plate; inner faces are those of square
    /// edges.
    #[test]
    fn mitred_sides_meet_over_their_thickness(
        bottom in (150.0..600.0f64, 150.0..600.0f64), top in (150.0..600.0f64, 150.0..600.0f64),
        high in 150.0..700.0f64, by in (-120.0..120.0f64, -120.0..120.0f64), t in 1.0..15.0f64,
        gap in prop_oneof![Just(0.0), 0.5..5.0f64], rise in 0.0..60.0f64, open in 0usize..5,
        inches in any::<bool>(),
    ) {
        let names = ["south", "east", "north", "west"];
        let left = ["", ", open south", ", open east", ", open north", ", open west"][open];
        let unit = |v: f64| if inches { format!("{}in", v / 25.4) } else { v.to_string() };
        let line = format!(
            "hopper {} x {} to {} x {}, {} high, {} thick, rising to {} north, {} east, {} north{left}, \
             mitred, gap {}",
            unit(bottom.0), unit(bottom.1), unit(top.0), unit(top.1), unit(high), unit(t), unit(high + rise),
            unit(by.0), unit(by.1), unit(gap)
        );
        let r = hopper(&[&line]);
        prop_assume!(!r.faults.iter().any(|f| f.fault.message.contains("tilted")));
        prop_assert!(r.faults.is_empty(), "{:?} in {line}", r.faults);
        let made = solids(&r);
        let square = hopper(&[&line.replace(", mitred", "")]);
        let mut whole = 0.0;
        for p in &r.plates {
            let n = p.places.len() as f64;
            let mesh = made.iter().find(|s| s.0 == p.places[0].name).unwrap().2;
            prop_assert!((mesh * 7850e-9 / p.piece.value("mass") - 1.0).abs() < 1e-9, "{mesh}: {line}");
            whole += n * p.piece.value("mass");
        }
        prop_assert!((whole - r.mass()).abs() < 1e-9 && r.mass() > square.mass());
        let of = |made: &[(String, Vec<DVec3>, f64)], k: usize| {
            made.iter().find(|s| s.0 == format!("hopper-1.{}", names[k])).unwrap().1.clone()
        };
        // The way out of a side, by its told corners.
        let normal = |k: usize| {
            let (_, inner, outer, z) = crate::hoppers::plate(&square, &format!("hopper-1.{}", names[k]));
            let out = [DVec3::NEG_Y, DVec3::X, DVec3::Y, DVec3::NEG_X][k];
            let n = if z.dot(out) > 0.0 { z } else { -z };
            let low = inner.iter().chain(&outer).map(|p| p.dot(n)).fold(f64::INFINITY, f64::min);
            (n, low)
        };
        let stands = |k: usize| open != k % 4 + 1;
        for (k, l) in (0..4).map(|k| (k, (k + 1) % 4)).filter(|(k, l)| stands(*k) && stands(*l)) {
            let ((n, low), (m, _)) = (normal(k), normal(l));
            let (a, b) = (of(&made, k), of(&made, l));
            let between = (n - m).normalize();
            let far = |points: &[DVec3], way: DVec3| {
                let most = points.iter().map(|p| p.dot(way)).fold(f64::NEG_INFINITY, f64::max);
                (most, points.iter().filter(|p| p.dot(way) > most - 1e-6).count())
            };
            let ((p, on_a), (q, on_b)) = (far(&a, -between), far(&b, between));
            prop_assert!((-p - q - gap).abs() < 1e-6, "{} for {gap}: {line}", -p - q);
            prop_assert!(on_a == 4 && on_b == 4, "{on_a} {on_b}: {line}");
            // Both faces lie in the planes of the side: t apart.
            let levels = a.iter().map(|p| p.dot(n) - low);
            prop_assert!(levels.clone().all(|v| v.abs() < 1e-6 || (v - t).abs() < 1e-6), "{line}");
        }
    }
}

/// A mirrored copy of a hopper that leans has other hands of all its sides; one that is its own image has
/// not.
#[rstest]
#[case(", 60 east", 8)]
#[case("", 4)]
fn hands_of_bevelled_sides(#[case] leans: &str, #[case] rows: usize) {
    let line =
        format!("hopper 250 x 250 to 600 x 500, 400 high, 8 thick, rising to 470 north{leans}, mitred");
    let r = hopper(&[&line, "mirror hopper-1 across north at 1000"]);
    clean(&r);
    assert_eq!(r.plates.len(), rows, "{:?}", r.plates.iter().map(|p| &p.name).collect::<Vec<_>>());
    assert_eq!(r.plates.iter().map(|p| p.places.len()).sum::<usize>(), 8);
    let images = solids(&r);
    for (name, points, _) in images.iter().filter(|s| !s.0.contains('#')) {
        let image = &images.iter().find(|s| s.0 == format!("{name}#2")).unwrap().1;
        for p in points {
            let over = DVec3::new(p.x, 2000.0 - p.y, p.z);
            assert!(image.iter().any(|q| q.distance(over) < 1e-6), "{name} {p}");
        }
    }
}

/// The frustum between both faces of a triangle cut back on two sides: by the areas of its two faces and of
/// the one in the middle.
#[test]
fn metal_ground_off_a_triangle() {
    let corners = [DVec2::new(0.0, 0.0), DVec2::new(40.0, 0.0), DVec2::new(0.0, 30.0)];
    let outer = Contour::polygon(corners, 0).outward();
    let mark = |a, b| BevelMark { edge: [a, b], beside: [DVec2::X; 2], angle: 0.5, back: 3.0 };
    // The long side and the one along y: it stays a triangle like it, smaller by what 3 takes.
    let marks = [mark(corners[1], corners[2]), mark(corners[2], corners[0])];
    let cut = CutBack::new(&outer, &marks).unwrap();
    // Along x it loses 3 on the left and 3·5/3 on the right.
    let share = 1.0 - (3.0 + 5.0) / 40.0;
    let area = |s: f64| 600.0 * (1.0 - (1.0 - share) * s).powi(2);
    let want = 6.0 * (600.0 - (area(0.0) + 4.0 * area(0.5) + area(1.0)) / 6.0);
    assert_relative_eq!(cut.taken(6.0), want, max_relative = 1e-12);
    assert!(!cut.takes_all());
    let deep = [mark(corners[1], corners[2]), mark(corners[2], corners[0]), mark(corners[0], corners[1])];
    let deep = deep.map(|m| BevelMark { back: 11.0, ..m });
    assert!(CutBack::new(&outer, &deep).unwrap().takes_all(), "its inner circle has a radius of 10");
}

#[rstest]
#[case(
    "hopper 200 x 200 to 400 x 300, 300 high, 5 thick, mitred",
    "rim hopper-1 top, 50 wide, set back 3",
    "/say/ends/by",
    "runs into the bevelled edge"
)]
#[case("hopper 200 x 200 to 8 x 8 outside, 120 high, 6 thick, mitred", "", "/say/top_x", "leave nothing")]
fn mitred_corners_that_cannot_be_are_refused(
    #[case] line: &str,
    #[case] more: &str,
    #[case] path: &str,
    #[case] words: &str,
) {
    let lines: Vec<&str> = [line, more].into_iter().filter(|l| !l.is_empty()).collect();
    let r = hopper(&lines);
    let f = r.faults.first().unwrap();
    assert!(f.path.starts_with(path) && f.fault.message.contains(words) && !f.fault.mend.is_empty(), "{f:?}");
}

/// A pyramid told inside runs out in its point: inner faces are triangles, blanks a little wider.
#[test]
fn a_mitred_pyramid() {
    let r = hopper(&["hopper 300 x 300 to 0 x 0, 200 high, 3 thick, mitred"]);
    clean(&r);
    let [p] = r.plates.as_slice() else { panic!("{} rows", r.plates.len()) };
    assert_eq!(p.places.len(), 4);
    let (_, points, volume) = solids(&r).swap_remove(0);
    let apex = DVec3::new(0.0, 0.0, 200.0);
    assert!(points.iter().any(|q| q.distance(apex) < 1e-6));
    assert_relative_eq!(volume * 7850e-9, p.piece.value("mass"), max_relative = 1e-9);
    let d = Display::default();
    let list = frame_list(&Default::default(), &r, &d, &SawFacts::usual(&d));
    assert_eq!(list.plates.len(), 1);
}

/// A hole that the bevel runs into is a stop of its frame; one that stands clear is none.
#[rstest]
#[case("14", true)]
#[case("40", false)]
fn a_hole_beside_a_bevel(#[case] in_from_the_edge: &str, #[case] stops: bool) {
    let cut =
        format!("cut hopper-1.south: hole ⌀10, {in_from_the_edge} from west, {in_from_the_edge} from south");
    let r = hopper(&["hopper 300 x 200 to 300 x 200, 400 high, 12 thick, mitred", &cut]);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let found = r.findings.iter().find(|f| f.check == "bevel_hole");
    assert_eq!(found.is_some(), stops, "{:?}", r.findings);
}
