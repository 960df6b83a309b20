//! A closed contour of lines and arcs. Each vertex carries the bulge and the tag of the segment that leaves
//! it; tags let an edge keep its name through cuts and fillets.

use crate::geom::{COINCIDENT, ROUNDING};
use cavalier_contours::polyline::{PlineCreation, PlineSource, PlineSourceMut, Polyline};
use glam::DVec2;

use super::{Bounds, Segment, segment::arc_steps};

#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Vertex {
    pub p: DVec2,
    pub bulge: f64,
    pub tag: u32,
}

#[derive(Clone, Debug, Default, PartialEq)]
pub struct Contour {
    pub vertices: Vec<Vertex>,
}

impl Contour {
    /// Straight-sided, one tag for all sides.
    pub fn polygon(points: impl IntoIterator<Item = DVec2>, tag: u32) -> Self {
        Contour { vertices: points.into_iter().map(|p| Vertex { p, bulge: 0.0, tag }).collect() }
    }

    /// Counter-clockwise from the lower left; sides tagged south, east, north, west as `tag`, `tag+1`, …
    pub fn rectangle(min: DVec2, max: DVec2, tag: u32) -> Self {
        let corners = [min, DVec2::new(max.x, min.y), max, DVec2::new(min.x, max.y)];
        Contour {
            vertices: corners.iter().zip(tag..).map(|(&p, tag)| Vertex { p, bulge: 0.0, tag }).collect(),
        }
    }

    pub fn circle(centre: DVec2, radius: f64, tag: u32) -> Self {
        let side = DVec2::new(radius, 0.0);
        Contour { vertices: [centre + side, centre - side].map(|p| Vertex { p, bulge: 1.0, tag }).to_vec() }
    }

    /// Overall length × width, round ends, lying along x.
    pub fn slot(centre: DVec2, length: f64, width: f64, tag: u32) -> Self {
        let (h, r) = ((length - width) / 2.0, width / 2.0);
        let v = |x: f64, y: f64, bulge: f64| Vertex { p: centre + DVec2::new(x, y), bulge, tag };
        Contour { vertices: vec![v(-h, -r, 0.0), v(h, -r, 1.0), v(h, r, 0.0), v(-h, r, 1.0)] }
    }

    pub fn segment(&self, i: usize) -> Segment {
        let (v, w) = (&self.vertices[i], &self.vertices[(i + 1) % self.vertices.len()]);
        Segment { a: v.p, b: w.p, bulge: v.bulge }
    }

    pub fn segments(&self) -> impl ExactSizeIterator<Item = Segment> + '_ {
        (0..self.vertices.len()).map(|i| self.segment(i))
    }

    /// Positive when counter-clockwise.
    pub fn signed_area(&self) -> f64 {
        self.segments().map(|s| s.area2()).sum::<f64>() / 2.0
    }

    pub fn area(&self) -> f64 {
        self.signed_area().abs()
    }

    pub fn perimeter(&self) -> f64 {
        self.segments().map(|s| s.length()).sum()
    }

    pub fn centroid(&self) -> DVec2 {
        let area = self.signed_area();
        if area.abs() < 1e-12 {
            return self.bounds().centre();
        }
        // Moments about a near point keep full precision far from the origin.
        let near = self.vertices[0].p;
        let moment: DVec2 =
            self.segments().map(|s| Segment { a: s.a - near, b: s.b - near, bulge: s.bulge }.moment()).sum();
        near + moment / area
    }

    pub fn bounds(&self) -> Bounds {
        self.segments().fold(Bounds::EMPTY, |b, s| b.join(&s.bounds()))
    }

    /// Points of the outline with no chord further than `chord` from its arc.
    pub fn flatten(&self, chord: f64) -> Vec<DVec2> {
        let mut out = Vec::with_capacity(self.vertices.len() * 4);
        for s in self.segments() {
            s.flatten(chord, &mut out);
        }
        out
    }

    /// Flattened points, each with the tag of the segment that leaves it.
    pub fn flatten_tagged(&self, chord: f64) -> Vec<(DVec2, u32)> {
        let mut out = Vec::with_capacity(self.vertices.len() * 4);
        let mut points = Vec::new();
        for (v, s) in self.vertices.iter().zip(self.segments()) {
            points.clear();
            s.flatten(chord, &mut points);
            out.push((v.p, v.tag));
            out.extend(points[..points.len() - 1].iter().map(|&p| (p, v.tag)));
        }
        out
    }

    /// Flattened so that the area enclosed stays what it is: points inside an arc lie beyond it by less than
    /// its chords lie within.
    pub fn flatten_true(&self, chord: f64) -> Vec<(DVec2, u32)> {
        let mut out = Vec::with_capacity(self.vertices.len() * 4);
        for (v, s) in self.vertices.iter().zip(self.segments()) {
            out.push((v.p, v.tag));
            let Some(arc) = s.arc() else { continue };
            // Two chords at least: one has no point to move.
            let n = arc_steps(arc.radius, arc.sweep, chord).max(2);
            let (step, inner) = (arc.sweep.abs() / n as f64, n as f64 - 2.0);
            // Triangles about the centre: two from the ends at the arc's own radius, the others at radius q.
            // (n−2) q² + 2 r q = r² n α / sin α.
            let whole = n as f64 * step / step.sin();
            let q = if inner < 0.5 { whole / 2.0 } else { ((1.0 + inner * whole).sqrt() - 1.0) / inner }
                * arc.radius;
            out.extend((1..n).map(|k| {
                (arc.centre + (arc.at(k as f64 / n as f64) - arc.centre) * (q / arc.radius), v.tag)
            }));
        }
        out
    }

    pub fn contains(&self, p: DVec2) -> bool {
        if self.vertices.iter().all(|v| v.bulge == 0.0) {
            return self.polygon_contains(p);
        }
        self.to_polyline().winding_number(cavalier_contours::core::math::Vector2::new(p.x, p.y)) != 0
    }

    /// Turned about the origin, then moved.
    pub fn moved(&self, turn: f64, by: DVec2) -> Contour {
        let rotation = DVec2::from_angle(turn);
        let vertices = self.vertices.iter().map(|v| Vertex { p: rotation.rotate(v.p) + by, ..*v }).collect();
        Contour { vertices }
    }

    /// Mirrored by `flip` (which must reverse handedness), kept in the same sense of travel.
    pub fn mirrored(&self, flip: impl Fn(DVec2) -> DVec2) -> Contour {
        let n = self.vertices.len();
        let vertices = (0..n)
            .rev()
            .map(|i| {
                let from = &self.vertices[i];
                let to = &self.vertices[(i + 1) % n];
                Vertex { p: flip(to.p), bulge: from.bulge, tag: from.tag }
            })
            .collect();
        Contour { vertices }
    }

    pub fn reversed(&self) -> Contour {
        let mut out = self.mirrored(|p| p);
        out.vertices.iter_mut().for_each(|v| v.bulge = -v.bulge);
        out
    }

    /// Counter-clockwise.
    pub fn outward(self) -> Contour {
        if self.signed_area() < 0.0 { self.reversed() } else { self }
    }

    pub fn retagged(&self, tag: u32) -> Contour {
        Contour { vertices: self.vertices.iter().map(|v| Vertex { tag, ..*v }).collect() }
    }

    /// A full circle: centre and radius, when the contour is one.
    pub fn as_circle(&self) -> Option<(DVec2, f64)> {
        let first = self.vertices.first().filter(|v| v.bulge.abs() > ROUNDING)?;
        let arc = self.segment(0).arc()?;
        let mut sweep = 0.0;
        for (v, s) in self.vertices.iter().zip(self.segments()) {
            let a = s.arc()?;
            if v.bulge.signum() != first.bulge.signum()
                || a.centre.distance(arc.centre) > 1e-5
                || (a.radius - arc.radius).abs() > 1e-5
            {
                return None;
            }
            sweep += a.sweep.abs();
        }
        ((sweep - std::f64::consts::TAU).abs() < COINCIDENT).then_some((arc.centre, arc.radius))
    }

    /// The same drawn in by so much, or out where it is below zero; none where that leaves nothing.
    /// Counter-clockwise.
    pub fn inset(&self, by: f64) -> Option<Contour> {
        let left = self.clone().outward().to_polyline().parallel_offset(by);
        left.iter().map(Contour::from_polyline).max_by(|a, b| a.area().total_cmp(&b.area()))
    }

    pub fn is_finite(&self) -> bool {
        self.vertices.iter().all(|v| v.p.is_finite() && v.bulge.is_finite())
    }

    /// By winding number, where all sides are straight.
    fn polygon_contains(&self, p: DVec2) -> bool {
        let n = self.vertices.len();
        let turn = |i: usize| {
            let (a, b) = (self.vertices[i].p, self.vertices[(i + 1) % n].p);
            let is_left = || (b - a).perp_dot(p - a) > 0.0;
            if a.y <= p.y { i32::from(b.y > p.y && is_left()) } else { -i32::from(b.y <= p.y && !is_left()) }
        };
        (0..n).map(turn).sum::<i32>() != 0
    }

    pub(super) fn to_polyline(&self) -> Polyline<f64> {
        let mut out = Polyline::with_capacity(self.vertices.len(), true);
        for v in &self.vertices {
            out.add(v.p.x, v.p.y, v.bulge);
        }
        out
    }

    pub(super) fn from_polyline(p: &Polyline<f64>) -> Self {
        Contour {
            vertices: p
                .iter_vertexes()
                .map(|v| Vertex { p: DVec2::new(v.x, v.y), bulge: v.bulge, tag: 0 })
                .collect(),
        }
    }
}
