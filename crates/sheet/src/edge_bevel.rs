//! Edges of a plate that are ground slanting over its whole thickness: the outline is that of the wider face,
//! and the face that the flat shows is cut back.

use glam::DVec2;
use ground::geom::{COINCIDENT, Contour, Vertex};

/// A straight edge, in the flat, with its angle off square, rad.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct EdgeBevel {
    /// The way the outline runs.
    pub edge: [DVec2; 2],
    pub angle: f64,
    /// The face that the flat shows is the one that is cut back.
    pub up: bool,
}

impl EdgeBevel {
    /// How far the face is cut back in a plate so thick.
    pub fn back(&self, t: f64) -> f64 {
        t * self.angle.tan()
    }

    /// The same on a plate that is laid elsewhere; `over` when it is turned over to lie there.
    pub fn laid(&self, to: impl Fn(DVec2) -> DVec2, over: bool) -> EdgeBevel {
        let mut out = EdgeBevel { edge: self.edge.map(to), ..*self };
        if over {
            out.edge.reverse();
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

/// A bevelled edge of a flat; lengths in mm, its angle off square in rad.
#[derive(Clone, Debug, PartialEq)]
pub struct BevelMark {
    pub edge: [[f64; 2]; 2],
    pub angle: f64,
    /// How far the face that the flat shows is cut back.
    pub back: f64,
}

/// Where a place on the outline of a flat lies on the face that is cut back.
pub struct CutBack<'a> {
    outer: &'a Contour,
    /// By how much each side of the outline is cut back.
    sides: Vec<f64>,
    angles: Vec<f64>,
}

impl<'a> CutBack<'a> {
    /// None where no edge is bevelled.
    pub fn new(outer: &'a Contour, bevels: &[BevelMark]) -> Option<CutBack<'a>> {
        let on = |a: DVec2, b: DVec2| {
            let same = |m: &&BevelMark| {
                let [p, q] = m.edge.map(DVec2::from);
                let [forth, back] = [(p, q), (q, p)]
                    .map(|(p, q)| a.distance(p) < COINCIDENT * 10.0 && b.distance(q) < COINCIDENT * 10.0);
                forth || back
            };
            bevels.iter().find(same).map_or((0.0, 0.0), |m| (m.back, m.angle))
        };
        let (sides, angles) = outer.segments().map(|s| on(s.a, s.b)).unzip();
        (!bevels.is_empty()).then_some(CutBack { outer, sides, angles })
    }

    /// How far each corner of the outline moves, where all is cut back by this share of it.
    fn steps(&self, share: f64) -> Vec<DVec2> {
        let n = self.sides.len();
        let way = |k: usize| {
            let s = self.outer.segment(k % n);
            (s.b - s.a).normalize_or_zero()
        };
        let turn = if self.outer.signed_area() < 0.0 { -1.0 } else { 1.0 };
        (0..n)
            .map(|k| {
                let before = (k + n - 1) % n;
                let (u, v) = (way(before), way(k));
                let (a, b) = (self.sides[before] * share, self.sides[k] * share);
                let across = u.perp_dot(v);
                // Each side moves to its left, where the metal is; the corner goes to where they meet.
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
        let corners = self.outer.vertices.iter().zip(self.steps(share));
        Contour { vertices: corners.map(|(v, step)| Vertex { p: v.p + step, ..*v }).collect() }
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
        let corner = self.outer.vertices.iter().position(|v| v.p.distance(p) < COINCIDENT);
        if let Some(k) = corner {
            return self.steps(1.0)[k];
        }
        let turn = if self.outer.signed_area() < 0.0 { -1.0 } else { 1.0 };
        let sides = self.outer.segments().zip(&self.sides).filter(|(_, back)| **back > 0.0);
        let mut on = sides.filter(|(s, _)| s.nearest(p).distance(p) < COINCIDENT);
        on.next().map_or(DVec2::ZERO, |(s, back)| (s.b - s.a).normalize_or_zero().perp() * turn * *back)
    }

    /// The line on the cut face along each bevelled side, and the angle of its bevel.
    pub fn lines(&self) -> Vec<([DVec2; 2], f64)> {
        let back = self.outline(1.0);
        let all = back.segments().zip(self.sides.iter().zip(&self.angles));
        all.filter(|(_, (back, _))| **back > 0.0).map(|(s, (_, angle))| ([s.a, s.b], *angle)).collect()
    }
}
