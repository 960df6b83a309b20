//! Sides that were laid roughly, joined: outlines whose area and length are known by closed forms.

use std::f64::consts::{FRAC_PI_2, PI, TAU};

use glam::DVec2;
use proptest::prelude::*;
use trace::{Carrier, Plane, Shape, chain, circle_through, fit_circle, fit_line, follow, mirrored};

fn line(a: DVec2, b: DVec2) -> Carrier {
    Carrier::through(Shape::Line, &[a, b]).unwrap()
}

/// Part of a circle, told by three places of it.
fn arc(m: DVec2, r: f64, from: f64, to: f64) -> Carrier {
    let at = |t: f64| m + DVec2::from_angle(t) * r;
    Carrier::through(Shape::Arc, &[at(from), at((from + to) / 2.0), at(to)]).unwrap()
}

/// Only a share of a side was laid: its middle.
fn short(a: DVec2, b: DVec2, share: f64) -> Carrier {
    let cut = (1.0 - share) / 2.0;
    line(a.lerp(b, cut), a.lerp(b, 1.0 - cut))
}

/// A D: half a circle and its chord meet in corners, wherever on them they were laid.
#[test]
fn a_line_and_an_arc_meet_in_corners() {
    let outline = chain(
        vec![arc(DVec2::ZERO, 25.0, -1.2, 1.3), short(DVec2::new(0.0, 25.0), DVec2::new(0.0, -25.0), 0.5)],
        0.1,
    );
    assert!(outline.apart.is_empty() && outline.tangent.iter().all(|t| !t), "{outline:?}");
    let c = outline.contour();
    assert!((c.signed_area() - PI * 625.0 / 2.0).abs() < 1e-9, "{}", c.signed_area());
    assert!((c.perimeter() - (PI * 25.0 + 50.0)).abs() < 1e-9);
}

/// Two circles one in the other, and two beside one another: both run on where they touch.
#[test]
fn arcs_run_on_where_they_touch() {
    // An egg: R40 below, R20 above, two flanks of R80 that touch both from outside.
    let (low, high, flank) = (40.0, 20.0, 80.0);
    // Flank centres on the other side: distances flank − low and flank − high from the two middles.
    let top = DVec2::new(0.0, 50.0);
    let (a, b, d) = (flank - low, flank - high, top.y);
    let y = (a * a - b * b + d * d) / (2.0 * d);
    let x = (a * a - y * y).sqrt();
    let (left, right) = (DVec2::new(-x, y), DVec2::new(x, y));
    let lower = (DVec2::ZERO - left).to_angle();
    let upper = (top - left).to_angle();
    let sides = vec![
        arc(left, flank, lower + 0.1, upper - 0.1),
        arc(top, high, upper + 0.1, PI - upper - 0.1),
        arc(right, flank, PI - upper + 0.1, PI - lower - 0.1),
        arc(DVec2::ZERO, low, PI - lower + 0.1, TAU + lower - 0.1),
    ];
    let outline = chain(sides, 0.1);
    assert!(outline.apart.is_empty() && outline.tangent.iter().all(|t| *t), "{outline:?}");
    // Sectors of all four, less the kite that both flanks' sectors count twice.
    let swing = upper - lower;
    let sectors =
        flank * flank * swing + high * high * (PI - 2.0 * upper) / 2.0 + low * low * (PI + 2.0 * lower) / 2.0;
    let kite = x * d;
    assert!(
        (outline.contour().signed_area() - (sectors - kite)).abs() < 1e-6,
        "{}",
        outline.contour().signed_area()
    );
    let round = flank * swing * 2.0 + high * (PI - 2.0 * upper) + low * (PI + 2.0 * lower);
    assert!((outline.contour().perimeter() - round).abs() < 1e-6);
}

/// What does not meet is told: parallel lines, a line that misses a circle.
#[test]
fn sides_that_do_not_meet_are_told() {
    let (a, b) = (DVec2::ZERO, DVec2::new(50.0, 0.0));
    let up = DVec2::new(0.0, 20.0);
    assert_eq!(chain(vec![line(a, b), line(b + up, a + up)], 0.1).apart.len(), 2);
    let far = arc(DVec2::new(25.0, 40.0), 10.0, 0.0, 2.0);
    assert_eq!(chain(vec![line(a, b), far], 0.1).apart.len(), 2);
}

/// Without a picture, elements lie as they were told; with too few places there are none.
#[test]
fn by_hand_an_element_lies_as_told() {
    let plane = Plane::scaled(DVec2::splat(0.5));
    let told = [[10.0, 10.0], [110.0, 10.0]].map(DVec2::from);
    let got = follow(None, &plane, Shape::Line, &told, 8.0).unwrap();
    assert!((got.carrier.length() - 50.0).abs() < 1e-12 && got.rms < 1e-12 && got.seen == 1.0);
    assert!(follow(None, &plane, Shape::Line, &told[..1], 8.0).is_none());
    let row = [[0.0, 0.0], [5.0, 0.0], [9.0, 0.0]].map(DVec2::from);
    assert!(follow(None, &plane, Shape::Circle, &row, 8.0).is_none(), "three places in a line");
    assert!(circle_through(row[0], row[1], row[2]).is_none() && fit_circle(&row).is_none());
    assert!(fit_line(&[row[0], row[0]]).is_none());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// A polygon of any form, of each side only a part laid, in either sense: its corners come back.
    #[test]
    fn corners_of_a_polygon_come_back(radii in prop::collection::vec(20.0..60.0f64, 3..9), turn in 0.0..TAU,
        share in 0.1..0.9f64, back in any::<bool>()) {
        let n = radii.len();
        let mut corners: Vec<DVec2> =
            (0..n).map(|k| DVec2::from_angle(turn + TAU * k as f64 / n as f64) * radii[k]).collect();
        // A corner that is hardly one cannot be found by crossing its sides.
        let flat = (0..n).any(|k| {
            let (a, b, c) = (corners[k], corners[(k + 1) % n], corners[(k + 2) % n]);
            (b - a).normalize().perp_dot((c - b).normalize()).abs() < 0.05
        });
        prop_assume!(!flat);
        if back {
            corners.reverse();
        }
        let sides: Vec<Carrier> = (0..n).map(|k| short(corners[k], corners[(k + 1) % n], share)).collect();
        let outline = chain(sides, 0.05);
        prop_assert!(outline.apart.is_empty());
        for (joint, corner) in outline.joints.iter().zip(&corners) {
            prop_assert!(joint.distance(*corner) < 1e-6, "{joint} {corner}");
        }
        let shoelace = (0..n).map(|k| corners[k].perp_dot(corners[(k + 1) % n])).sum::<f64>() / 2.0;
        prop_assert!((outline.contour().signed_area() - shoelace).abs() < 1e-6 * shoelace.abs());
        prop_assert!((outline.reversed().contour().signed_area() + shoelace).abs() < 1e-6 * shoelace.abs());
    }

    /// A rectangle with round corners, all of it told: every arc runs on, area and length by closed
    /// form; of its
    /// right half, mirrored, the same comes.
    #[test]
    fn round_corners_run_on_whole_and_by_half(w in 60.0..200.0f64, h in 40.0..120.0f64, r in 3.0..18.0f64) {
        let (x, y) = (w / 2.0, h / 2.0);
        let inner = |sx: f64, sy: f64| DVec2::new(sx * (x - r), sy * (y - r));
        let side = |a: [f64; 2], b: [f64; 2]| short(DVec2::from(a), DVec2::from(b), 0.6);
        let bottom = side([-(x - r), -y], [x - r, -y]);
        let right = side([x, -(y - r)], [x, y - r]);
        let top = side([x - r, y], [-(x - r), y]);
        let left = side([-x, y - r], [-x, -(y - r)]);
        let corner = |sx: f64, sy: f64, from: f64| arc(inner(sx, sy), r, from + 0.2, from + FRAC_PI_2 - 0.2);
        let (se, ne) = (corner(1.0, -1.0, -FRAC_PI_2), corner(1.0, 1.0, 0.0));
        let (nw, sw) = (corner(-1.0, 1.0, FRAC_PI_2), corner(-1.0, -1.0, PI));
        let whole = chain(vec![bottom, se, right, ne, top, nw, left, sw], 0.05);
        let axis = fit_line(&[DVec2::new(0.0, -1.0), DVec2::new(0.0, 1.0)]).unwrap();
        let half = chain(mirrored(&[bottom, se, right, ne, top], &axis, 0.05), 0.05);
        for outline in [whole, half] {
            prop_assert_eq!(outline.sides.len(), 8);
            prop_assert!(outline.apart.is_empty() && outline.tangent.iter().all(|t| *t), "{:?}", outline);
            let c = outline.contour();
            let area = w * h - (4.0 - PI) * r * r;
            prop_assert!((c.signed_area() - area).abs() < 1e-6, "{} {area}", c.signed_area());
            prop_assert!((c.perimeter() - (2.0 * (w + h) - (8.0 - TAU) * r)).abs() < 1e-6);
        }
    }
}
