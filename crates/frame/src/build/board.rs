//! Planes that plates are laid out in and end at.

use glam::{DVec2, DVec3};
use ground::geom::COINCIDENT;
use ground::geom::convex::clipped;
use sheet::EdgeBevel;

/// A plane that the metal's inside lies behind: `out · p ≤ off`.
#[derive(Clone, Copy, Debug)]
pub struct Plane {
    pub out: DVec3,
    pub off: f64,
}

impl Plane {
    pub fn through(at: DVec3, out: DVec3) -> Plane {
        let out = out.normalize_or_zero();
        Plane { out, off: out.dot(at) }
    }
}

/// A plane that an outline is drawn in: a place of it, and two ways square to one another.
#[derive(Clone, Copy, Debug)]
pub struct Board {
    pub o: DVec3,
    pub x: DVec3,
    pub y: DVec3,
}

impl Board {
    pub fn point(&self, q: DVec2) -> DVec3 {
        self.o + self.x * q.x + self.y * q.y
    }

    /// What of it lies behind all of these, against the clock; `reach` is more than it can be.
    pub fn behind(&self, planes: impl IntoIterator<Item = Plane>, reach: f64) -> Vec<DVec2> {
        let square = [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)];
        let mut ring: Vec<DVec2> = square.map(|(x, y)| DVec2::new(x, y) * reach).into();
        for p in planes {
            let way = DVec2::new(p.out.dot(self.x), p.out.dot(self.y));
            ring = clipped(&ring, way, p.off - p.out.dot(self.o));
        }
        ring.dedup_by(|a, b| a.distance(*b) < COINCIDENT);
        while ring.len() > 1 && ring[0].distance(ring[ring.len() - 1]) < COINCIDENT {
            ring.pop();
        }
        ring
    }

    /// The side of a ring that lies on a plane.
    pub fn side(&self, ring: &[DVec2], plane: &Plane) -> Option<usize> {
        let on = |q: DVec2| (plane.out.dot(self.point(q)) - plane.off).abs() < COINCIDENT;
        let n = ring.len();
        (0..n).find(|k| on(ring[*k]) && on(ring[(k + 1) % n]))
    }

    /// How long that side is.
    pub fn along(&self, ring: &[DVec2], plane: &Plane) -> f64 {
        self.side(ring, plane).map_or(0.0, |k| ring[k].distance(ring[(k + 1) % ring.len()]))
    }

    /// The bevel of the edge of a ring that ends at a plane, by half of the angle between both planes.
    pub fn bevel(&self, ring: &[DVec2], plane: &Plane) -> Option<EdgeBevel> {
        let k = self.side(ring, plane)?;
        let n = ring.len();
        let way = |k: usize| (ring[(k + 1) % n] - ring[k % n]).normalize_or_zero();
        Some(EdgeBevel {
            edge: [ring[k], ring[(k + 1) % n]],
            beside: [way(k + n - 1), way(k + 1)],
            angle: self.x.cross(self.y).angle_between(plane.out) / 2.0,
            up: false,
        })
    }
}

/// How far before the inner face of its neighbour a plate ends, along that one's normal, for half of a gap:
/// along its own face that is gap / (2·sin β/2), β the angle inside. `cos` is that of the angle between both
/// normals.
pub fn given_for(gap: f64, cos: f64) -> f64 {
    gap * ((1.0 - cos) / 2.0).sqrt()
}
