//! End cuts: where a line of a bar ends at a plane, at a round, at an outline; asked point by point or made
//! ready for many, the answer is one.

use std::sync::Arc;

use approx::assert_relative_eq;
use geo::{Coord, line_intersection::LineIntersection, line_intersection::line_intersection};
use glam::{DMat3, DQuat, DVec2, DVec3};
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::frame::*;
use steelk_core::job::*;

use crate::common::frame::*;

/// A bar along +x from the origin, its section upright.
fn along_x() -> Bar {
    Bar { o: DVec3::ZERO, d: DVec3::X, y: DVec3::Y, z: DVec3::Z }
}

/// A star-shaped outline, counter-clockwise.
fn star(radii: &[f64]) -> Vec<DVec2> {
    radii
        .iter()
        .enumerate()
        .map(|(i, r)| DVec2::from_angle(i as f64 / radii.len() as f64 * std::f64::consts::TAU) * *r)
        .collect()
}

/// Furthest place where the line `p + t·v` crosses the outline, by `geo`; a long piece of it is cut with
/// every side.
fn furthest(outline: &[DVec2], p: DVec2, v: DVec2) -> Option<f64> {
    let c = |q: DVec2| Coord { x: q.x, y: q.y };
    let far = 1e4 / v.length();
    let line = geo::Line::new(c(p - v * far), c(p + v * far));
    let sides =
        (0..outline.len()).map(|i| geo::Line::new(c(outline[i]), c(outline[(i + 1) % outline.len()])));
    let at = |q: Coord| (DVec2::new(q.x, q.y) - p).dot(v) / v.length_squared();
    sides
        .filter_map(|s| line_intersection(line, s))
        .map(|x| match x {
            LineIntersection::SinglePoint { intersection, .. } => at(intersection),
            LineIntersection::Collinear { intersection } => at(intersection.start).max(at(intersection.end)),
        })
        .reduce(f64::max)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// A line cut by the outside of another bar ends where `geo` finds its furthest crossing, a gap before
    /// it; a line that passes by ends somewhere between the first and the last corner.
    #[test]
    fn an_outline_cuts_where_geo_says(
        radii in prop::collection::vec(5.0f64..60.0, 3..12),
        turn in 0.0f64..6.2,
        lean in -0.9f64..0.9,
        aside in -80.0f64..80.0,
        back in -300.0f64..300.0,
        gap in 0.0f64..4.0,
    ) {
        let outline = star(&radii);
        // The wall runs along z; the line comes at a slope to it.
        let wall = Bar { o: DVec3::ZERO, d: DVec3::Z, y: DVec3::X, z: DVec3::Y };
        let flat = DVec2::from_angle(turn);
        let d = DVec3::new(flat.x * lean.cos(), flat.y * lean.cos(), lean.sin());
        let start = flat.perp() * aside + flat * back;
        let surface = Surface::Outline { bar: wall, outline: Arc::new(outline.clone()), gap };
        let station = surface.station(start.extend(35.0), d);
        match furthest(&outline, start, flat) {
            // Along the line a gap across it is as much longer as it leans.
            Some(t) => prop_assert!((station - (t + gap) / lean.cos()).abs() < 1e-6, "{station} {t}"),
            None => {
                let on = outline.iter().map(|q| (*q - start).dot(flat));
                let (low, high) = (on.clone().fold(f64::INFINITY, f64::min), on.fold(f64::NEG_INFINITY,
                    f64::max));
                let t = station * lean.cos() - gap;
                prop_assert!(t > low - 1e-6 && t < high + 1e-6, "{t} {low} {high}");
            }
        }
    }

    /// A round: each end point lies on it, on the side that the bar comes from; beside it, where the axis is
    /// nearest.
    #[test]
    fn a_round_cuts_on_its_skin(radius in 5.0f64..100.0, lean in -1.2f64..1.2, y in -120.0f64..120.0,
        z in -50.0f64..50.0) {
        let axis = DVec3::new(lean.sin(), 0.0, lean.cos());
        let surface = Surface::Round { at: DVec3::new(-400.0, 0.0, 0.0), axis, radius };
        let o = DVec3::new(0.0, y, z);
        let end = o + DVec3::X * surface.station(o, DVec3::X);
        let from_axis = |p: DVec3| (p - DVec3::new(-400.0, 0.0, 0.0)).cross(axis).length();
        if y.abs() < radius {
            prop_assert!((from_axis(end) - radius).abs() < 1e-8);
            prop_assert!(from_axis(end + DVec3::X) > radius, "material is kept on the far side");
        } else {
            prop_assert!((from_axis(end) - y.abs()).abs() < 1e-6, "nearest beside it");
        }
    }

    /// Random stars of bars of every kind of section, straight and bent: the ready cuts of each end answer as
    /// the plain ones, the furthest of them counts, and each cut that is kept makes some part of the end.
    #[test]
    fn ready_cuts_answer_as_plain_ones(
        arms in prop::collection::vec((-4i32..5, -4i32..5, -4i32..5, 0usize..7), 2..6),
        arc in any::<bool>(),
        mitre in any::<bool>(),
    ) {
        let sections = ["60x60x3", "RHS 80x40x3", "48.3x3", "L 60x40x5", "IPE 100", "ROUND 20", "FLAT 60x8"];
        let mut lines = vec!["node O 0 0 0".to_string()];
        for (i, a) in arms.iter().enumerate() {
            let v = DVec3::new(a.0.into(), a.1.into(), a.2.into());
            prop_assume!(v.length() > 0.5);
            let p = v.normalize() * 700.0;
            lines.push(format!("node N{i} {:.3} {:.3} {:.3}", p.x, p.y, p.z));
            lines.push(format!("rail O N{i} {}", sections[a.3]));
        }
        if arc {
            lines.extend(["node R 500 500 90".into(), "node S 1200 300 150".into(),
                "rail O R S 48.3x3 arc".into()]);
        }
        let r = frame("60x60x3", if mitre { JointHow::Mitre } else { JointHow::Butt },
            &lines.iter().map(String::as_str).collect::<Vec<_>>());
        for m in &r.members {
            let p = &r.profiles[m.profile];
            for end in 0..2 {
                let cuts = m.cuts(end);
                prop_assert_eq!(cuts.trims().len(), m.trims[end].len());
                let mut made = vec![false; m.trims[end].len()];
                for &q in &p.rim {
                    // Of a plane that runs nearly along the bar the last digits are lost either way.
                    let plain = m.station(end, q);
                    prop_assert!((cuts.station(q) - plain).abs() < 1e-5 * plain.abs().max(1.0),
                        "{} {end}: {} {plain}", m.name, cuts.station(q));
                    prop_assert!(cuts.tip(q).distance(m.tip(end, q)) < 1e-5 * plain.abs().max(1.0));
                    let each: Vec<f64> = cuts.each(q).collect();
                    prop_assert!(each.iter().zip(&m.trims[end]).all(|(c, t)| (c - m.station_of(end,
                        &t.surface, q)).abs() < 1e-5 * c.abs().max(1.0)));
                    match cuts.first(q) {
                        Some(k) => {
                            made[k] = true;
                            prop_assert!(each.iter().all(|c| each[k] > c - 1e-6));
                            prop_assert!(each[..k].iter().all(|c| *c < each[k]));
                        }
                        None => prop_assert!(each.is_empty()),
                    }
                }
                prop_assert!(made.len() < 2 || made.iter().all(|m| *m),
                    "{}: a cut that cuts nothing is kept", m.name);
            }
        }
    }

    /// A surface moved with the line cuts it at the same place: turned, shifted, mirrored.
    #[test]
    fn surfaces_move_with_what_they_cut(
        axis in prop::array::uniform3(-1.0f64..1.0),
        angle in 0.0f64..6.2,
        by in prop::array::uniform3(-500.0f64..500.0),
        mirror in any::<bool>(),
        q in prop::array::uniform2(-30.0f64..30.0),
    ) {
        let axis = DVec3::from(axis);
        prop_assume!(axis.length() > 0.1);
        let turn = DMat3::from_quat(DQuat::from_axis_angle(axis.normalize(), angle));
        let m = if mirror { turn * DMat3::from_diagonal(DVec3::new(1.0, 1.0, -1.0)) } else { turn };
        let motion = Motion { m, by: DVec3::from(by) };
        let wall = Bar { o: DVec3::new(-90.0, 5.0, 0.0), d: DVec3::Z, y: DVec3::X, z: DVec3::Y };
        let surfaces = [
            Surface::Plane { at: DVec3::new(20.0, 0.0, 0.0), normal: DVec3::new(1.0, 0.3, -0.2).normalize() },
            Surface::Round { at: DVec3::new(-90.0, 0.0, 0.0), axis: DVec3::new(0.2, 0.1, 1.0).normalize(),
                radius: 60.0 },
            Surface::Outline { bar: wall, outline: Arc::new(star(&[50.0, 40.0, 60.0, 45.0, 55.0])),
                gap: 1.5 },
        ];
        let bar = along_x();
        let o = bar.point(DVec2::from(q), 0.0);
        for s in surfaces {
            let (here, there) = (s.station(o, bar.d), s.moved(&motion).station(motion.point(o),
                motion.turn(bar.d)));
            prop_assert!((here - there).abs() < 1e-6, "{s:?}: {here} {there}");
        }
        prop_assert_eq!(motion.mirrors(), mirror);
        let twice = motion.then(&motion).point(o);
        prop_assert!(twice.distance(motion.point(motion.point(o))) < 1e-9);
    }
}

/// A plane at a slope cuts every line of the section where it lies: station = a + tan α · y.
#[rstest]
fn a_plane_slopes_evenly(#[values(-60.0, -20.0, 0.0, 33.0, 70.0)] slope: f64) {
    let tan = f64::to_radians(slope).tan();
    let surface =
        Surface::Plane { at: DVec3::new(12.0, 0.0, 0.0), normal: DVec3::new(1.0, -tan, 0.0).normalize() };
    for y in [-40.0, 0.0, 25.0] {
        assert_relative_eq!(
            surface.station(along_x().point(DVec2::new(y, 7.0), 0.0), DVec3::X),
            12.0 + tan * y,
            epsilon = 1e-9
        );
    }
}

/// Lines that only graze a corner, run along a side, or stand still are answered too.
#[test]
fn lines_that_graze() {
    let square = Arc::new(vec![
        DVec2::new(-10.0, -10.0),
        DVec2::new(10.0, -10.0),
        DVec2::new(10.0, 10.0),
        DVec2::new(-10.0, 10.0),
    ]);
    let wall = Bar { o: DVec3::ZERO, d: DVec3::Z, y: DVec3::X, z: DVec3::Y };
    let cut = Surface::Outline { bar: wall, outline: square, gap: 0.0 };
    for (y, wanted) in [(0.0, 10.0), (10.0, 10.0), (-10.0, 10.0), (10.0 + 1e-12, 10.0), (10.0 - 1e-12, 10.0)]
    {
        assert_relative_eq!(
            cut.station(DVec3::new(-100.0, y, 0.0), DVec3::X),
            100.0 + wanted,
            epsilon = 1e-6
        );
    }
    // Through a corner at 45°, along the wall, and far beside it.
    let slope = DVec3::new(1.0, 1.0, 0.0).normalize();
    assert_relative_eq!(cut.station(DVec3::new(0.0, -20.0, 0.0), slope), 10.0 * 2f64.sqrt(), epsilon = 1e-6);
    assert_eq!(cut.station(DVec3::new(3.0, 4.0, 5.0), DVec3::Z), 0.0);
    assert!(cut.station(DVec3::new(-100.0, 500.0, 0.0), DVec3::X).is_finite());
    assert_eq!(Surface::Plane { at: DVec3::ONE, normal: DVec3::Z }.station(DVec3::ZERO, DVec3::X), 0.0);
    assert_eq!(
        Surface::Round { at: DVec3::ONE, axis: DVec3::X, radius: 5.0 }.station(DVec3::ZERO, DVec3::X),
        0.0
    );
}
