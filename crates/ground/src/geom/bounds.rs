//! Upright bounds, and the smallest rectangle at any angle that a contour fits in.

use crate::geom::COINCIDENT;
use glam::DVec2;

use super::Contour;
use super::convex::hull;

#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Bounds {
    pub min: DVec2,
    pub max: DVec2,
}

impl Bounds {
    pub const EMPTY: Bounds = Bounds { min: DVec2::INFINITY, max: DVec2::NEG_INFINITY };

    pub fn of(points: impl IntoIterator<Item = DVec2>) -> Self {
        let mut out = Bounds::EMPTY;
        points.into_iter().for_each(|p| out.add(p));
        out
    }

    pub fn add(&mut self, p: DVec2) {
        self.min = self.min.min(p);
        self.max = self.max.max(p);
    }

    pub fn join(&self, other: &Bounds) -> Bounds {
        Bounds { min: self.min.min(other.min), max: self.max.max(other.max) }
    }

    pub fn size(&self) -> DVec2 {
        self.max - self.min
    }

    pub fn centre(&self) -> DVec2 {
        (self.min + self.max) * 0.5
    }

    /// Whether the two come within `gap` of one another.
    pub fn near(&self, other: &Bounds, gap: f64) -> bool {
        self.min.x <= other.max.x + gap
            && other.min.x <= self.max.x + gap
            && self.min.y <= other.max.y + gap
            && other.min.y <= self.max.y + gap
    }
}

/// A rectangle turned by `angle` (radians): `size.x` along that direction.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Rectangle {
    pub size: DVec2,
    pub angle: f64,
}

/// Sides of a hull that are tried, and of an outline that are taken exactly.
const MOST_EXACT: usize = 400;

/// The rectangle of least area around a contour. One of its sides lies on a side of the convex hull
/// (Freeman and Shapira, 1975); arcs count with their true extent.
pub fn smallest_rectangle(contour: &Contour) -> Rectangle {
    let hull = hull(contour.flatten(0.01));
    // Arcs count with their true extent; an outline of very many sides with its hull.
    let segments: Vec<super::Segment> = match contour.vertices.len() {
        ..=MOST_EXACT => contour.segments().collect(),
        _ => hull.iter().map(|&p| super::Segment::line(p, p)).collect(),
    };
    let extent = |angle: f64| {
        let turn = DVec2::from_angle(-angle);
        let mut b = Bounds::EMPTY;
        for s in &segments {
            let turned = super::Segment { a: turn.rotate(s.a), b: turn.rotate(s.b), bulge: s.bulge };
            b = b.join(&turned.bounds());
        }
        b.size()
    };
    let mut best = Rectangle { size: extent(0.0), angle: 0.0 };
    let mut sides: Vec<DVec2> = (0..hull.len()).map(|i| hull[(i + 1) % hull.len()] - hull[i]).collect();
    sides.sort_by(|a, b| b.length_squared().total_cmp(&a.length_squared()));
    for side in sides.into_iter().take(MOST_EXACT) {
        let angle = side.to_angle().rem_euclid(std::f64::consts::FRAC_PI_2);
        let size = extent(angle);
        if size.x * size.y < best.size.x * best.size.y - COINCIDENT {
            best = Rectangle { size, angle };
        }
    }
    best
}
