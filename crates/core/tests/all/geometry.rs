//! Contours with arcs against an independent geometry library (`geo`, on finely flattened outlines) and
//! closed forms.

use approx::assert_abs_diff_eq;
use geo::{Area, BooleanOps, Centroid, Contains, Euclidean, Length};
use glam::DVec2;
use proptest::prelude::*;
use steelk_core::geom::*;

const FINE: f64 = 1e-4;

fn polygon(c: &Contour) -> geo::Polygon<f64> {
    let points: Vec<(f64, f64)> = c.flatten(FINE).iter().map(|p| (p.x, p.y)).collect();
    geo::Polygon::new(geo::LineString::from(points), vec![])
}

fn outcome_polygon(o: &CutOutcome) -> geo::Polygon<f64> {
    let holes = o.holes.iter().map(|h| polygon(&h.contour).exterior().clone()).collect();
    geo::Polygon::new(polygon(&o.outer).exterior().clone(), holes)
}

proptest! {
    /// The roomiest place of an angle with a hole lies in it, and nowhere of a fine grid is there much more.
    #[test]
    fn a_word_stands_where_there_is_room(
        w in 40.0..300.0f64, h in 40.0..300.0f64, a in 0.1..0.9f64, b in 0.1..0.9f64, hole in 1.0..8.0f64,
    ) {
        let corners = [(0.0, 0.0), (w, 0.0), (w, h * b), (w * a, h * b), (w * a, h), (0.0, h)];
        let face = Contour::polygon(corners.map(|(x, y)| DVec2::new(x, y)), 0);
        let d = hole.min(w * a / 3.0).min(h * b / 3.0);
        let hole = Contour::circle(DVec2::new(w * a, h * b) / 2.0, d / 2.0, 0);
        let holes = polygon(&hole);
        let whole = geo::Polygon::new(polygon(&face).exterior().clone(), vec![holes.exterior().clone()]);
        // By the other library: its distances are from points to lines.
        let room = |p: DVec2| {
            let p = geo::Point::new(p.x, p.y);
            if !whole.contains(&p) {
                return -1.0;
            }
            let rings = [whole.exterior(), &whole.interiors()[0]];
            rings
                .map(|r| geo::Distance::distance(&Euclidean, &p, r))
                .into_iter()
                .fold(f64::INFINITY, f64::min)
        };
        let found = room(roomiest(&face, &[&hole]).unwrap());
        let at = |k: i32| DVec2::new(f64::from(k % 40) + 0.5, f64::from(k / 40) + 0.5) / 40.0;
        let grid = (0..1600).map(|k| at(k) * DVec2::new(w, h));
        let best = grid.map(room).fold(0.0, f64::max);
        prop_assert!(found > 0.95 * best, "{found} of {best}");
    }
}

#[test]
fn closed_forms() {
    use std::f64::consts::PI;
    let circle = Contour::circle(DVec2::new(30.0, -7.0), 12.5, 0);
    assert_abs_diff_eq!(circle.area(), PI * 12.5 * 12.5, epsilon = 1e-9);
    assert_abs_diff_eq!(circle.perimeter(), 25.0 * PI, epsilon = 1e-9);
    assert_abs_diff_eq!(circle.centroid().distance(DVec2::new(30.0, -7.0)), 0.0, epsilon = 1e-9);
    assert!(circle.as_circle().is_some_and(|(_, r)| (r - 12.5).abs() < 1e-9));
    let slot = Contour::slot(DVec2::ZERO, 30.0, 9.0, 0);
    assert_abs_diff_eq!(slot.area(), 21.0 * 9.0 + PI * 4.5 * 4.5, epsilon = 1e-9);
    assert_abs_diff_eq!(slot.perimeter(), 42.0 + 9.0 * PI, epsilon = 1e-9);
    assert_abs_diff_eq!(slot.bounds().size().x, 30.0, epsilon = 1e-12);
    assert!(slot.as_circle().is_none());
    // Half disc: centroid at 4r/3π (any table of centroids).
    let v = |x: f64, y: f64, bulge: f64| Vertex { p: DVec2::new(x, y), bulge, tag: 0 };
    let half = Contour { vertices: vec![v(10.0, 0.0, 1.0), v(-10.0, 0.0, 0.0)] };
    assert_abs_diff_eq!(half.centroid().y, 40.0 / (3.0 * PI), epsilon = 1e-9);
    // A rounded rectangle loses (4 − π) r².
    let r = fillet(
        &Contour::rectangle(DVec2::ZERO, DVec2::new(260.0, 140.0), 0),
        &[(0, 12.0), (1, 12.0), (2, 12.0), (3, 12.0)],
    );
    assert_abs_diff_eq!(r.area(), 260.0 * 140.0 - (4.0 - PI) * 144.0, epsilon = 1e-9);
    assert_eq!(r.vertices.len(), 8);
    let c = chamfer(&Contour::rectangle(DVec2::ZERO, DVec2::new(50.0, 50.0), 0), &[(2, 10.0)]);
    assert_abs_diff_eq!(c.area(), 2500.0 - 50.0, epsilon = 1e-9);
}

fn any_contour() -> impl Strategy<Value = Contour> {
    let at = || (-60.0..60.0f64, -60.0..60.0f64).prop_map(|(x, y)| DVec2::new(x, y));
    prop_oneof![
        (at(), 1.0..40.0f64).prop_map(|(c, r)| Contour::circle(c, r, 0)),
        (at(), 1.0..60.0f64, 1.0..60.0f64, 0.0..6.3f64).prop_map(|(c, w, h, turn)| {
            let half = DVec2::new(w, h) / 2.0;
            Contour::rectangle(-half, half, 0).moved(turn, c)
        }),
        (at(), 1.0..30.0f64, 0.5..60.0f64, 0.0..6.3f64).prop_map(|(c, w, more, turn)| Contour::slot(
            DVec2::ZERO,
            w + more,
            w,
            0
        )
        .moved(turn, c)),
    ]
}

proptest! {
    #[test]
    fn area_centroid_and_length_agree_with_geo(c in any_contour()) {
        let p = polygon(&c);
        prop_assert!((c.area() - p.unsigned_area()).abs() < c.perimeter() * FINE * 2.0);
        let g = p.centroid().unwrap();
        prop_assert!(c.centroid().distance(DVec2::new(g.x(), g.y())) < 1e-3);
        prop_assert!((c.perimeter() - Euclidean.length(p.exterior())).abs() < c.perimeter() * 1e-4);
        let moved = c.moved(1.1, DVec2::new(5.0, 9.0));
        prop_assert!((moved.area() - c.area()).abs() < 1e-8);
        let flipped = c.mirrored(|p| DVec2::new(-p.x, p.y));
        prop_assert!((flipped.signed_area() - c.signed_area()).abs() < 1e-8, "mirrored contours keep their \
            sense");
        prop_assert!((c.reversed().signed_area() + c.signed_area()).abs() < 1e-8);
        prop_assert!(first_crossing(&c).is_none());
    }

    #[test]
    fn bounds_and_smallest_rectangle(c in any_contour(), turn in 0.0..3.0f64) {
        let flat = Bounds::of(c.flatten(1e-5));
        let b = c.bounds();
        prop_assert!((flat.min - b.min).length() < 1e-3 && (flat.max - b.max).length() < 1e-3);
        let (r, turned) = (smallest_rectangle(&c).size, smallest_rectangle(&c.moved(turn, DVec2::ZERO)).size);
        prop_assert!(r.x * r.y <= b.size().x * b.size().y + 1e-6);
        prop_assert!((r.x * r.y - turned.x * turned.y).abs() < 0.02 * r.x * r.y, "{r} {turned}");
    }

    #[test]
    fn inside_agrees_with_geo(c in any_contour(), x in -80.0..80.0f64, y in -80.0..80.0f64) {
        let p = DVec2::new(x, y);
        let near = c.segments().map(|s| s.nearest(p).distance(p)).fold(f64::INFINITY, f64::min);
        prop_assume!(near > 1e-2);
        prop_assert_eq!(c.contains(p), polygon(&c).contains(&geo::Point::new(x, y)));
    }

    /// The closest gap against sampled points of both.
    #[test]
    fn closest_is_no_longer_than_any_sample(a in any_contour(), b in any_contour()) {
        let (s, t) = (a.segment(0), b.segment(b.vertices.len() - 1));
        let c = closest(&s, &t);
        prop_assert!((c.on_a.distance(c.on_b) - c.gap).abs() < 1e-7);
        let mut sampled = f64::INFINITY;
        for i in 0..=200 {
            let p = s.at(f64::from(i) / 200.0);
            sampled = sampled.min(t.nearest(p).distance(p));
        }
        prop_assert!(c.gap <= sampled + 1e-6);
        prop_assert!(sampled <= c.gap + s.length() / 200.0 + 1e-6);
    }

    /// Cutting any shapes out of a plate leaves what geo's boolean leaves.
    #[test]
    fn cuts_agree_with_geo(shapes in prop::collection::vec(any_contour(), 1..6)) {
        let plate = Contour::rectangle(DVec2::new(-50.0, -40.0), DVec2::new(50.0, 40.0), 0);
        let cuts: Vec<Cut> = shapes.iter().zip(0..).map(|(c, source)| Cut { contour: c.clone(),
            source }).collect();
        let mine = cut_out(plate.clone(), &cuts);
        let mut theirs = geo::MultiPolygon::new(vec![polygon(&plate)]);
        for s in &shapes {
            theirs = theirs.difference(&polygon(s));
        }
        let islands: f64 = mine.dropped.iter().map(Contour::area).sum();
        let kept = if mine.nothing_left { 0.0 } else { outcome_polygon(&mine).unsigned_area() };
        let whole = theirs.unsigned_area();
        // geo keeps the parts that fall out; holes inside those parts are not ours to count.
        prop_assert!(kept <= whole + 0.05, "{kept} {whole}");
        prop_assert!(kept + islands >= whole - 0.05, "{kept} + {islands} {whole}");
        if !mine.nothing_left {
            prop_assert!(first_crossing(&mine.outer).is_none());
            let solid = mine.outer.area() - mine.holes.iter().map(|h| h.contour.area()).sum::<f64>();
            prop_assert!((solid - kept).abs() < 0.05, "exact arcs {solid}, flattened {kept}");
        }
    }
}

#[test]
fn a_ring_of_slots_frees_its_island() {
    let plate = Contour::rectangle(DVec2::new(-50.0, -50.0), DVec2::new(50.0, 50.0), 0);
    let slot = Contour::slot(DVec2::ZERO, 60.0, 6.0, 0);
    let cuts: Vec<Cut> = (0..4)
        .map(|k| {
            let turn = f64::from(k) * std::f64::consts::FRAC_PI_2;
            Cut {
                contour: slot.moved(turn, DVec2::from_angle(turn + std::f64::consts::FRAC_PI_2) * 27.0),
                source: k as u32,
            }
        })
        .collect();
    let out = cut_out(plate, &cuts);
    assert_eq!((out.holes.len(), out.dropped.len()), (1, 1));
    assert_abs_diff_eq!(out.dropped[0].area(), 48.0 * 48.0, epsilon = 1e-6);
}

#[test]
fn a_cut_through_keeps_the_larger_part_and_its_holes() {
    let plate = Contour::rectangle(DVec2::ZERO, DVec2::new(100.0, 40.0), 0);
    let cut = |c: Contour, source| Cut { contour: c, source };
    let cuts = [
        cut(Contour::circle(DVec2::new(10.0, 20.0), 3.0, 0), 0),
        cut(Contour::circle(DVec2::new(80.0, 20.0), 3.0, 0), 1),
        cut(Contour::rectangle(DVec2::new(30.0, -5.0), DVec2::new(32.0, 45.0), 0), 2),
        cut(Contour::circle(DVec2::new(300.0, 20.0), 3.0, 0), 3),
    ];
    let out = cut_out(plate, &cuts);
    assert_eq!(out.holes.len(), 1);
    assert_eq!(
        (out.holes[0].sources.as_slice(), out.missed.as_slice(), out.dropped.len()),
        (&[1][..], &[3][..], 1)
    );
    assert_abs_diff_eq!(out.outer.area(), 68.0 * 40.0, epsilon = 1e-6);
}

#[test]
fn faulty_contours_are_found() {
    let at = |points: &[(f64, f64)]| Contour::polygon(points.iter().map(|&(x, y)| DVec2::new(x, y)), 0);
    let bow = first_crossing(&at(&[(0.0, 0.0), (10.0, 10.0), (10.0, 0.0), (0.0, 10.0)]))
        .expect("a bow tie crosses");
    assert_abs_diff_eq!(bow.at.distance(DVec2::new(5.0, 5.0)), 0.0, epsilon = 1e-9);
    assert!(
        first_crossing(&at(&[(0.0, 0.0), (10.0, 0.0), (5.0, 0.0), (5.0, 8.0)])).is_some(),
        "doubled back"
    );
    assert!(
        first_crossing(&at(&[(0.0, 0.0), (10.0, 0.0), (10.0, 10.0), (5.0, 0.0), (0.0, 10.0)])).is_some(),
        "touches its own side"
    );
    assert!(
        first_crossing(&at(&[(0.0, 0.0), (10.0, 0.0), (10.0, 0.0), (5.0, 8.0)])).is_some(),
        "a side of no length"
    );
}

/// What sums leave of nought is nought: a corner 1e-45 off a line is no reason to draw nothing.
#[test]
fn corners_next_to_nothing_are_triangulated() {
    for off in [5.6e-45, -5.6e-45, 1e-320, 1e-20] {
        let corners = [(195.9, off), (56.7, 444.8), (0.0, 0.0)];
        let ring: triangulate::TaggedLoop = corners.iter().map(|c| (DVec2::new(c.0, c.1), 0)).collect();
        assert_eq!(triangulate::triangulate(&[ring], &[]).triangles.len(), 1, "{off}");
    }
}

#[test]
fn triangles_fill_the_region() {
    let outer = Contour::rectangle(DVec2::ZERO, DVec2::new(100.0, 60.0), 0);
    let hole = Contour::circle(DVec2::new(50.0, 30.0), 20.0, 1);
    let mut round = hole.flatten_tagged(0.01);
    round.reverse();
    let loops = vec![outer.flatten_tagged(0.01), round.clone()];
    use triangulate::{Crease, Creases, Family};
    let lines = [25.0, 50.0, 75.0].map(|at| Crease { at, low: 0.0, high: 60.0 }).to_vec();
    // A second family at a slant, short of the hole.
    let slant = Creases {
        family: Family::Parallel(DVec2::from_angle(-0.3)),
        lines: vec![Crease { at: 5.0, low: -100.0, high: 8.0 }],
    };
    let t = triangulate::triangulate(&loops, &[Creases { family: Family::Parallel(DVec2::X), lines }, slant]);
    let p = |i: u32| t.points[i as usize];
    let area: f64 = t.triangles.iter().map(|k| (p(k[1]) - p(k[0])).perp_dot(p(k[2]) - p(k[0])) / 2.0).sum();
    let ring: Vec<DVec2> = round.iter().map(|v| v.0).collect();
    assert_abs_diff_eq!(area, 6000.0 - Contour::polygon(ring, 0).area(), epsilon = 1e-6);
    assert!(
        t.triangles.iter().all(|k| (p(k[1]) - p(k[0])).perp_dot(p(k[2]) - p(k[0])) > 0.0),
        "all counter-clockwise"
    );
    for x in [25.0, 50.0, 75.0] {
        assert!(t.triangles.iter().all(|k| {
            let xs = k.map(|i| p(i).x);
            xs.iter().all(|v| *v <= x + 1e-9) || xs.iter().all(|v| *v >= x - 1e-9)
        }));
    }
}
