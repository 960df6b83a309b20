//! Where a straight line runs in the material: its parts between the outline and the holes.

use crate::geom::ROUNDING;
use glam::DVec2;

use super::{Contour, Segment};

/// Parts shorter than this are a touch.
const TOUCH: f64 = 1e-6;

/// The parts of the line from `a` to `b` that lie inside `outer` and outside all `holes`, in its direction.
pub fn in_material<'a>(
    a: DVec2,
    b: DVec2,
    outer: &Contour,
    holes: impl Iterator<Item = &'a Contour>,
) -> Vec<[DVec2; 2]> {
    let length = a.distance(b);
    if length < TOUCH {
        return Vec::new();
    }
    let along = (b - a) / length;
    let line = Line { a, along, length };
    let mut stops = vec![0.0, length];
    line.cross(outer, &mut stops);
    let met: Vec<&Contour> = holes
        .filter(|h| {
            let bounds = h.bounds();
            let (mid, half) = (bounds.centre() - a, bounds.size() / 2.0);
            let (u, v) = (mid.dot(along), mid.dot(along.perp()));
            let reach = half.dot(along.perp().abs());
            let ahead = half.dot(along.abs());
            v.abs() <= reach && u + ahead >= 0.0 && u - ahead <= length
        })
        .collect();
    met.iter().for_each(|h| line.cross(h, &mut stops));
    stops.sort_by(f64::total_cmp);
    let mut out: Vec<[DVec2; 2]> = Vec::new();
    for w in stops.windows(2).filter(|w| w[1] - w[0] > TOUCH) {
        let middle = a + along * ((w[0] + w[1]) / 2.0);
        if !outer.contains(middle) || met.iter().any(|h| h.contains(middle)) {
            continue;
        }
        let [from, to] = [a + along * w[0], a + along * w[1]];
        match out.last_mut() {
            Some(last) if last[1].distance(from) < TOUCH => last[1] = to,
            _ => out.push([from, to]),
        }
    }
    out
}

/// The area of a polygon inside a convex one, whichever way either runs (after Sutherland and Hodgman 1974).
/// Where the first is not convex, borders that double back enclose nothing.
pub fn area_within(polygon: &[DVec2], convex: &[DVec2]) -> f64 {
    let turn = |p: &[DVec2]| (0..p.len()).map(|i| p[i].perp_dot(p[(i + 1) % p.len()])).sum::<f64>() / 2.0;
    let left = turn(convex).signum();
    let mut rest = polygon.to_vec();
    for (i, &a) in convex.iter().enumerate() {
        let side = (convex[(i + 1) % convex.len()] - a) * left;
        let inside = |p: DVec2| side.perp_dot(p - a);
        let mut kept = Vec::with_capacity(rest.len() + 4);
        for (k, &p) in rest.iter().enumerate() {
            let q = rest[(k + 1) % rest.len()];
            let (u, v) = (inside(p), inside(q));
            if u >= 0.0 {
                kept.push(p);
            }
            if (u > 0.0 && v < 0.0) || (u < 0.0 && v > 0.0) {
                kept.push(p + (q - p) * (u / (u - v)));
            }
        }
        rest = kept;
    }
    if rest.len() < 3 { 0.0 } else { turn(&rest).abs() }
}

struct Line {
    a: DVec2,
    along: DVec2,
    length: f64,
}

impl Line {
    /// Adds how far along the line a contour crosses or touches it.
    fn cross(&self, c: &Contour, stops: &mut Vec<f64>) {
        let from = stops.len();
        c.segments().for_each(|s| self.cross_segment(&s, stops));
        let mut k = from;
        while k < stops.len() {
            if stops[k] > 0.0 && stops[k] < self.length {
                k += 1;
            } else {
                stops.swap_remove(k);
            }
        }
    }

    fn cross_segment(&self, s: &Segment, stops: &mut Vec<f64>) {
        let local = |p: DVec2| ((p - self.a).dot(self.along), (p - self.a).dot(self.along.perp()));
        let ((ua, va), (ub, vb)) = (local(s.a), local(s.b));
        if let Some(arc) = s.arc() {
            let (u, v) = local(arc.centre);
            let half = (arc.radius * arc.radius - v * v).max(0.0).sqrt();
            // Ends that lie on the line are found as ends, whichever way rounding has them.
            stops.extend([(ua, va), (ub, vb)].iter().filter(|p| p.1.abs() < ROUNDING).map(|p| p.0));
            if v.abs() <= arc.radius {
                let on = |u: &f64| arc.has_angle((self.a + self.along * *u - arc.centre).to_angle());
                stops.extend([u - half, u + half].iter().filter(|u| on(u)));
            }
        } else if va.abs() < 1e-12 && vb.abs() < 1e-12 {
            stops.extend([ua, ub]);
        } else if va * vb <= 0.0 && va != vb {
            stops.push(ua + (ub - ua) * va / (va - vb));
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn a_plate_with_a_hole_and_a_slot_on_the_line() {
        let plate = Contour::rectangle(DVec2::new(0.0, 0.0), DVec2::new(100.0, 50.0), 0);
        let holes = [
            Contour::circle(DVec2::new(30.0, 22.0), 5.0, 0),
            Contour::rectangle(DVec2::new(60.0, 25.0), DVec2::new(70.0, 40.0), 0),
        ];
        let parts = in_material(DVec2::new(-10.0, 26.0), DVec2::new(110.0, 26.0), &plate, holes.iter());
        let flat: Vec<f64> = parts.iter().flatten().map(|p| p.x).collect();
        // The hole's half chord 4 above its centre is 3.
        let want = [0.0, 27.0, 33.0, 60.0, 70.0, 100.0];
        assert!(
            flat.len() == want.len() && flat.iter().zip(want).all(|(a, b)| (a - b).abs() < 1e-9),
            "{flat:?}"
        );
    }

    #[test]
    fn areas_in_a_convex_part() {
        let p = |v: &[(f64, f64)]| v.iter().map(|v| DVec2::new(v.0, v.1)).collect::<Vec<_>>();
        // A U whose mouth is cut by the strip: two posts of 10 × 20 each in it, and nothing between them;
        // either way round.
        let u = p(&[
            (0.0, 0.0),
            (50.0, 0.0),
            (50.0, 40.0),
            (40.0, 40.0),
            (40.0, 10.0),
            (10.0, 10.0),
            (10.0, 40.0),
            (0.0, 40.0),
        ]);
        let strip = p(&[(-5.0, 15.0), (60.0, 15.0), (60.0, 35.0), (-5.0, 35.0)]);
        let back: Vec<DVec2> = strip.iter().rev().copied().collect();
        for s in [&strip, &back] {
            assert!((area_within(&u, s) - 400.0).abs() < 1e-9);
            assert!((area_within(&u.iter().rev().copied().collect::<Vec<_>>(), s) - 400.0).abs() < 1e-9);
        }
        assert_eq!(area_within(&u, &p(&[(60.0, 0.0), (70.0, 0.0), (70.0, 10.0)])), 0.0);
    }

    proptest! {
        /// Against points along the line, each asked by itself.
        #[test]
        fn every_point_of_a_part_is_in_the_material_and_no_other(
            corners in prop::collection::vec((0.2f64..1.0, -0.6f64..0.6), 5..12),
            holes in prop::collection::vec((-40.0f64..40.0, -40.0f64..40.0, 1.0f64..12.0), 0..6),
            ends in (-100.0f64..100.0, -100.0f64..100.0, -100.0f64..100.0, -100.0f64..100.0),
        ) {
            use crate::geom::Vertex;
            let n = corners.len() as f64;
            let at = |(i, c): (usize, &(f64,
                f64))| Vertex { p: DVec2::from_angle(i as f64 / n * std::f64::consts::TAU) * c.0 * 80.0,
                    bulge: c.1 * 0.3, tag: 0 };
            let outer = Contour { vertices: corners.iter().enumerate().map(at).collect() };
            let holes: Vec<Contour> = holes.iter().map(|h| Contour::circle(DVec2::new(h.0, h.1), h.2,
                0)).collect();
            let (a, b) = (DVec2::new(ends.0, ends.1), DVec2::new(ends.2, ends.3));
            prop_assume!(a.distance(b) > 1.0);
            let parts = in_material(a, b, &outer, holes.iter());
            let length = a.distance(b);
            let spans: Vec<(f64, f64)> = parts.iter().map(|p| (p[0].distance(a), p[1].distance(a))).collect();
            for k in 0..400 {
                let s = (k as f64 + 0.37) / 400.0 * length;
                // Beside a crossing either answer is right.
                if spans.iter().any(|p| (p.0 - s).abs() < 1e-3 || (p.1 - s).abs() < 1e-3) {
                    continue;
                }
                let p = a + (b - a) * (s / length);
                let mut edges = outer.segments().chain(holes.iter().flat_map(|h| h.segments()));
                if edges.any(|edge| edge.nearest(p).distance(p) < 1e-3) {
                    continue;
                }
                let inside = outer.contains(p) && holes.iter().all(|h| !h.contains(p));
                prop_assert_eq!(spans.iter().any(|q| s > q.0 && s < q.1), inside, "at {} of {}", s, length);
            }
        }
    }
}
