//! The small parts of the geometry, each against a closed form or a slower way of saying the same.

use std::f64::consts::{FRAC_PI_2, PI};

use approx::assert_abs_diff_eq;
use glam::DVec2;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::geom::*;

fn arc(centre: DVec2, radius: f64, start: f64, sweep: f64) -> Segment {
    let at = |a: f64| centre + DVec2::from_angle(a) * radius;
    Segment { a: at(start), b: at(start + sweep), bulge: (sweep / 4.0).tan() }
}

#[rstest]
#[case(FRAC_PI_2)]
#[case(PI)]
#[case(-FRAC_PI_2)]
#[case(-1.0)]
#[case(0.01)]
fn an_arc_knows_its_circle(#[case] sweep: f64) {
    let s = arc(DVec2::new(3.0, -4.0), 7.0, 0.4, sweep);
    let a = s.arc().unwrap();
    assert_abs_diff_eq!(a.radius, 7.0, epsilon = 1e-9);
    assert_abs_diff_eq!(a.sweep, sweep, epsilon = 1e-9);
    assert_abs_diff_eq!(a.centre.distance(DVec2::new(3.0, -4.0)), 0.0, epsilon = 1e-9);
    assert_abs_diff_eq!(s.length(), 7.0 * sweep.abs(), epsilon = 1e-9);
    assert_abs_diff_eq!(s.tangent(false).dot(s.a - a.centre), 0.0, epsilon = 1e-9);
    assert_abs_diff_eq!(s.at(0.5).distance(a.centre), 7.0, epsilon = 1e-9);
}

/// Gaps whose values follow from a sketch.
#[rstest]
#[case(
    Segment::line(DVec2::new(0.0, 0.0), DVec2::new(10.0, 0.0)),
    Segment::line(DVec2::new(0.0, 3.0), DVec2::new(10.0, 3.0)),
    3.0
)]
#[case(
    Segment::line(DVec2::new(0.0, 0.0), DVec2::new(10.0, 0.0)),
    Segment::line(DVec2::new(13.0, 4.0), DVec2::new(20.0, 4.0)),
    5.0
)]
#[case(Segment::line(DVec2::new(0.0, 0.0), DVec2::new(10.0, 0.0)), Segment::line(DVec2::new(5.0, -1.0),
    DVec2::new(5.0, 1.0)), 0.0)]
#[case(Segment::line(DVec2::new(-10.0, 8.0), DVec2::new(10.0, 8.0)), arc(DVec2::ZERO, 5.0, 0.0, PI), 3.0)]
#[case(Segment::line(DVec2::new(-10.0, -8.0), DVec2::new(10.0, -8.0)), arc(DVec2::ZERO, 5.0, 0.0, PI), 8.0)]
#[case(Segment::line(DVec2::new(-10.0, 4.0), DVec2::new(10.0, 4.0)), arc(DVec2::ZERO, 5.0, 0.0, PI), 0.0)]
#[case(arc(DVec2::ZERO, 5.0, -FRAC_PI_2, PI), arc(DVec2::new(20.0, 0.0), 6.0, FRAC_PI_2, PI), 9.0)]
#[case(arc(DVec2::ZERO, 5.0, 0.0, PI), arc(DVec2::ZERO, 8.0, 0.0, PI), 3.0)]
#[case(arc(DVec2::ZERO, 10.0, 0.0, PI), arc(DVec2::new(0.0, 2.0), 3.0, 0.0, PI), 5.0)]
#[case(arc(DVec2::ZERO, 5.0, 0.0, PI), arc(DVec2::new(6.0, 0.0), 5.0, 0.0, PI), 0.0)]
fn gaps(#[case] a: Segment, #[case] b: Segment, #[case] gap: f64) {
    for (s, t) in [(a, b), (b, a)] {
        let c = closest(&s, &t);
        assert_abs_diff_eq!(c.gap, gap, epsilon = 1e-9);
        assert_abs_diff_eq!(s.nearest(c.on_a).distance(c.on_a), 0.0, epsilon = 1e-7);
        assert_abs_diff_eq!(t.nearest(c.on_b).distance(c.on_b), 0.0, epsilon = 1e-7);
    }
}

proptest! {
    /// The grid finds every pair that looking at all pairs finds.
    #[test]
    fn the_grid_misses_no_neighbour(spots in prop::collection::vec((-500.0..500.0f64, -500.0..500.0f64,
        0.1..60.0f64), 2..60), gap in 0.0..20.0f64, wide in any::<bool>()) {
        let mut boxes: Vec<Bounds> = spots.iter().map(|&(x, y, s)| Bounds::of([DVec2::new(x, y),
            DVec2::new(x + s, y + s / 2.0)])).collect();
        if wide {
            boxes.push(Bounds::of([DVec2::splat(-1e6), DVec2::splat(1e6)]));
        }
        let grid = Grid::new(&boxes, gap);
        for (i, b) in boxes.iter().enumerate() {
            let near = grid.near(b);
            for (j, other) in boxes.iter().enumerate() {
                prop_assert!(!b.near(other, gap) || near.contains(&(j as u32)), "{i} misses {j}");
            }
        }
    }

    /// Rounding a corner of any angle takes r²·(tan(θ/2) − θ/2) off it, a chamfer s²·sin(θ)/2.
    #[test]
    fn corners_lose_what_they_should(turn in 0.2..2.8f64, size in 1.0..8.0f64) {
        let far = DVec2::new(-200.0, 0.0);
        let away = DVec2::from_angle(turn) * 200.0;
        let contour = Contour::polygon([far, DVec2::ZERO, away], 0);
        prop_assume!(first_crossing(&contour).is_none());
        let back = size * (turn / 2.0).tan();
        prop_assume!(back < 150.0);
        let corner = contour.corner(1).unwrap();
        prop_assert!((corner.turn - turn).abs() < 1e-9);
        let lost = contour.area() - fillet(&contour, &[(1, size)]).area();
        prop_assert!((lost - size * size * ((turn / 2.0).tan() - turn / 2.0)).abs() < 1e-6);
        let lost = contour.area() - chamfer(&contour, &[(1, size)]).area();
        prop_assert!((lost - size * size * turn.sin() / 2.0).abs() < 1e-6);
    }

    /// The area does not know where the origin is.
    #[test]
    fn measures_do_not_move(x in -1e5..1e5f64, y in -1e5..1e5f64, turn in 0.0..6.3f64) {
        let slot = Contour::slot(DVec2::ZERO, 30.0, 9.0, 0);
        let there = slot.moved(turn, DVec2::new(x, y));
        prop_assert!((there.area() - slot.area()).abs() < 1e-4);
        prop_assert!((there.perimeter() - slot.perimeter()).abs() < 1e-6);
        prop_assert!(there.centroid().distance(DVec2::new(x, y)) < 1e-4);
        prop_assert!(there.contains(DVec2::new(x, y)));
    }

    /// Flattening keeps every chord within its tolerance of the arc.
    #[test]
    fn chords_stay_near(radius in 0.5..500.0f64, sweep in 0.1..3.1f64, chord in 0.001..0.5f64) {
        let s = arc(DVec2::ZERO, radius, 0.3, sweep);
        let mut points = vec![s.a];
        s.flatten(chord, &mut points);
        for w in points.windows(2) {
            let sagitta = radius - ((w[0] + w[1]) / 2.0).length();
            prop_assert!(sagitta <= chord.max(radius * 0.035) + 1e-9, "{sagitta}");
            prop_assert!(sagitta <= chord + 1e-9 || chord > radius / 2.0, "{sagitta}");
        }
        prop_assert!(points.last().unwrap().distance(s.b) < 1e-9);
    }
}

/// Cutting the same shape twice, or one inside another, takes it out once.
#[test]
fn doubled_and_nested_cuts_are_one_opening() {
    let plate = Contour::rectangle(DVec2::splat(-50.0), DVec2::splat(50.0), 0);
    let circle = |r: f64| Contour::circle(DVec2::new(3.0, 2.0), r, 0);
    for (shapes, area) in [
        (vec![circle(10.0), circle(10.0)], PI * 100.0),
        (vec![circle(4.0), circle(10.0), circle(7.0)], PI * 100.0),
    ] {
        let cuts: Vec<Cut> =
            shapes.into_iter().zip(0..).map(|(contour, source)| Cut { contour, source }).collect();
        let out = cut_out(plate.clone(), &cuts);
        assert_eq!(out.holes.len(), 1);
        assert_abs_diff_eq!(out.holes[0].contour.area(), area, epsilon = 1e-6);
        assert_eq!(out.holes[0].sources.len(), cuts.len());
    }
}

/// Sides keep their names through a cut: the notch brings its own, the rest keep theirs.
#[test]
fn sides_keep_their_tags() {
    let plate = Contour::rectangle(DVec2::ZERO, DVec2::new(100.0, 60.0), 0);
    let notch = Cut {
        contour: Contour::rectangle(DVec2::new(90.0, 50.0), DVec2::new(110.0, 70.0), 0).retagged(9),
        source: 0,
    };
    let out = cut_out(plate, &[notch]).outer;
    let mut lengths = std::collections::BTreeMap::new();
    for (v, s) in out.vertices.iter().zip(out.segments()) {
        *lengths.entry(v.tag).or_insert(0.0) += s.length();
    }
    let expected = [(0, 100.0), (1, 50.0), (2, 90.0), (3, 60.0), (9, 20.0)];
    for (tag, length) in expected {
        assert_abs_diff_eq!(lengths[&tag], length, epsilon = 1e-6);
    }
}

#[test]
fn tangled_cuts_are_refused() {
    let plate = Contour::rectangle(DVec2::ZERO, DVec2::new(1000.0, 60.0), 0);
    let row = |n: u32, pitch: f64| -> Vec<Cut> {
        (0..n)
            .map(|source| Cut {
                contour: Contour::circle(DVec2::new(20.0 + f64::from(source) * pitch, 30.0), 3.0, 0),
                source,
            })
            .collect()
    };
    let one = cut_out(plate.clone(), &row(500, 1.0));
    assert!(!one.tangled && one.holes.len() == 1);
    let out = one.holes[0].contour.bounds().size();
    assert_abs_diff_eq!(out.x, 499.0 + 6.0, epsilon = 1e-6);
    assert!(cut_out(plate.clone(), &row(MOST_JOINED as u32 + 1, 0.1)).tangled);
    assert!(cut_out(plate, &row(100_000, 1e-5)).tangled);
}

proptest! {
    /// Bounds and nearest points, which are found without an angle, against many points of the segment;
    /// nearly straight ones too.
    #[test]
    fn bounds_and_nearest_points_of_any_bulge(
        ends in (-50.0f64..50.0, -50.0f64..50.0, -50.0f64..50.0, -50.0f64..50.0), tenth in -9.0f64..0.0,
            over in any::<bool>(), left in any::<bool>(), p in (-80.0f64..80.0, -80.0f64..80.0),
    ) {
        let size = if over { 1.0 + 10f64.powf(tenth) } else { 10f64.powf(tenth) };
        let s = Segment { a: DVec2::new(ends.0, ends.1), b: DVec2::new(ends.2, ends.3),
            bulge: if left { size } else { -size } };
        prop_assume!(s.a.distance(s.b) > 0.1);
        let points: Vec<DVec2> = (0..=4000).map(|k| s.at(f64::from(k) / 4000.0)).collect();
        let b = s.bounds();
        let (low, high) = points.iter().fold((DVec2::INFINITY, DVec2::NEG_INFINITY), |(l, h), q| (l.min(*q),
            h.max(*q)));
        let step = s.length() / 4000.0;
        prop_assert!((b.min - low).abs().max_element() < step && (b.max - high).abs().max_element() < step,
            "{b:?} {low} {high}");
        let p = DVec2::new(p.0, p.1);
        let least = points.iter().map(|q| q.distance(p)).fold(f64::INFINITY, f64::min);
        prop_assert!((s.nearest(p).distance(p) - least).abs() < step, "{} {least}", s.nearest(p).distance(p));
    }
}
