//! Edges of a plate that are ground slanting over its whole thickness: the outline is that of the wider face,
//! and the face that the flat shows is cut back.

use glam::DVec2;
use ground::geom::{COINCIDENT, Contour, Vertex};

/// A straight edge, in the flat, with its angle off square, rad.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct EdgeBevel {
    /// The way the outline runs.
    pub edge: [DVec2; 2],
    /// The way of the edge beside it at either end, which its end keeps to as it is cut back.
    pub beside: [DVec2; 2],
    pub angle: f64,
    /// The face that the flat shows is the one that is cut back.
    pub up: bool,
}

impl EdgeBevel {
    /// How far the face is cut back in a plate so thick.
    pub fn back(&self, t: f64) -> f64 {
        t * self.angle.tan()
    }

    /// How it is on a plate so thick: what its flanges leave of it on the outline, if anything.
    pub fn mark(&self, outer: &Contour, t: f64) -> Option<BevelMark> {
        let [a, b] = self.edge;
        let (length, way) = (a.distance(b), (b - a).normalize_or_zero());
        let on = |p: DVec2| {
            let (along, off) = ((p - a).dot(way), way.perp_dot(p - a));
            off.abs() < COINCIDENT * 10.0 && (-COINCIDENT..length + COINCIDENT).contains(&along)
        };
        let left = outer.segments().filter(|s| s.bulge == 0.0 && on(s.a) && on(s.b));
        let left = left.max_by(|s, o| s.a.distance(s.b).total_cmp(&o.a.distance(o.b)))?;
        let mut beside = self.beside;
        if (left.b - left.a).dot(way) < 0.0 {
            beside.reverse();
        }
        Some(BevelMark { edge: [left.a, left.b], beside, angle: self.angle, back: self.back(t) })
    }

    /// The same on a plate that is laid elsewhere; `over` when it is turned over to lie there.
    pub fn laid(&self, to: impl Fn(DVec2) -> DVec2, over: bool) -> EdgeBevel {
        let turned = |v: DVec2| to(v) - to(DVec2::ZERO);
        let mut out = EdgeBevel { edge: self.edge.map(&to), beside: self.beside.map(turned), ..*self };
        if over {
            out.edge.reverse();
            out.beside.reverse();
            out.up = !out.up;
        }
        out
    }

    /// The same from the other face.
    pub fn turned_over(&self) -> EdgeBevel {
        EdgeBevel { up: !self.up, ..*self }
    }

    /// Bevels with the same key are the same, to a hundredth.
    pub fn key(&self) -> String {
        let r = |v: f64| (v * 100.0).round() as i64;
        let [a, b] = self.edge.map(|p| format!("{},{}", r(p.x), r(p.y)));
        format!("{a} {b} {} {}", r(self.angle.to_degrees() * 10.0), self.up)
    }
}

/// A bevelled edge of a flat, the way its outline runs; lengths in mm, its angle off square in rad.
#[derive(Clone, Debug, PartialEq)]
pub struct BevelMark {
    pub edge: [DVec2; 2],
    pub beside: [DVec2; 2],
    pub angle: f64,
    /// How far the face that the flat shows is cut back.
    pub back: f64,
}

/// Where a place on the outline of a flat lies on the face that is cut back.
pub struct CutBack<'a> {
    outer: &'a Contour,
    /// The bevel of each side of the outline.
    sides: Vec<Option<&'a BevelMark>>,
    /// How far each corner moves.
    moved: Vec<DVec2>,
}

impl<'a> CutBack<'a> {
    /// None where no edge is bevelled.
    pub fn new(outer: &'a Contour, bevels: &'a [BevelMark]) -> Option<CutBack<'a>> {
        let near = |p: DVec2, q: DVec2| p.distance(q) < COINCIDENT * 10.0;
        let of = |a: DVec2, b: DVec2| bevels.iter().find(|m| near(a, m.edge[0]) && near(b, m.edge[1]));
        let sides = outer.segments().map(|s| of(s.a, s.b)).collect();
        if bevels.is_empty() {
            return None;
        }
        let mut out = CutBack { outer, sides, moved: Vec::new() };
        out.moved = out.steps();
        Some(out)
    }

    fn steps(&self) -> Vec<DVec2> {
        let n = self.sides.len();
        let way = |k: usize| {
            let s = self.outer.segment(k % n);
            (s.b - s.a).normalize_or_zero()
        };
        let turn = if self.outer.signed_area() < 0.0 { -1.0 } else { 1.0 };
        (0..n)
            .map(|k| {
                let before = (k + n - 1) % n;
                // Each side moves to its left, where the metal is; the corner goes to where both meet. One
                // that is not cut back stands for the edge that was there before a flange took it.
                let (u, v) = match (self.sides[before], self.sides[k]) {
                    (None, None) => return DVec2::ZERO,
                    (Some(m), None) => (way(before), m.beside[1]),
                    (None, Some(m)) => (m.beside[0], way(k)),
                    _ => (way(before), way(k)),
                };
                let [a, b] = [before, k].map(|k| self.sides[k].map_or(0.0, |m| m.back));
                let across = u.perp_dot(v);
                if across.abs() < COINCIDENT {
                    v.perp() * turn * a.max(b)
                } else {
                    (v * a - u * b) * (turn / across)
                }
            })
            .collect()
    }

    /// The outline where the plate is cut back by this share.
    fn outline(&self, share: f64) -> Contour {
        let corners = self.outer.vertices.iter().zip(&self.moved);
        Contour { vertices: corners.map(|(v, step)| Vertex { p: v.p + *step * share, ..*v }).collect() }
    }

    /// Whether a side of the outline that is cut back would run the other way.
    pub fn takes_all(&self) -> bool {
        let back = self.outline(1.0);
        self.outer.segments().zip(back.segments()).any(|(was, is)| {
            let way = (was.b - was.a).normalize_or_zero();
            (is.b - is.a).dot(way) < -COINCIDENT * 10.0
        })
    }

    /// What is ground off a plate so thick, mm³: between both faces the area changes with the square of the
    /// height, so that Simpson's rule is exact.
    pub fn taken(&self, t: f64) -> f64 {
        let area = |share: f64| self.outline(share).area();
        t * (area(0.0) - (area(0.0) + 4.0 * area(0.5) + area(1.0)) / 6.0)
    }

    /// How far a point of the outline moves on the face that is cut back.
    pub fn step(&self, p: DVec2) -> DVec2 {
        let steps = &self.moved;
        if let Some(k) = self.outer.vertices.iter().position(|v| v.p.distance(p) < COINCIDENT) {
            return steps[k];
        }
        let n = steps.len();
        let moves = |k: &usize| [*k, (k + 1) % n].iter().any(|c| steps[*c] != DVec2::ZERO);
        let on = (0..n).filter(moves).find(|k| {
            let s = self.outer.segment(*k);
            s.nearest(p).distance(p) < COINCIDENT
        });
        // Straight sides move as their ends do.
        on.map_or(DVec2::ZERO, |k| {
            let s = self.outer.segment(k);
            steps[k].lerp(steps[(k + 1) % n], s.a.distance(p) / s.a.distance(s.b))
        })
    }

    /// The line on the cut face along each bevelled side, and the angle of its bevel.
    pub fn lines(&self) -> Vec<([DVec2; 2], f64)> {
        let back = self.outline(1.0);
        let all = back.segments().zip(&self.sides);
        all.filter_map(|(s, m)| Some(([s.a, s.b], (*m)?.angle))).collect()
    }
}
