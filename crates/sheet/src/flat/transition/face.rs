//! The plane faces of a transition on the middle of its sheet, and the halves of one that is cut open.

use glam::DVec3;
use ground::geom::COINCIDENT;

use super::hull::{Facet, Rings};

/// What a side of a face runs along.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Along {
    Low,
    /// The face that comes next against the clock, seen from above.
    Next,
    High,
    Before,
    /// A plane that it is cut by.
    Cut,
}

/// A plane face on the middle of the sheet; its corners against the clock, seen from outside.
#[derive(Clone, Debug)]
pub struct Face {
    pub name: String,
    pub ring: Vec<DVec3>,
    /// Of the side that leaves each corner.
    pub along: Vec<Along>,
    pub out: DVec3,
    /// Of each side: how far it is cut back, for what it meets there.
    pub cut_back: Vec<f64>,
    /// Corners that a seam beside it takes off.
    pub tips: Vec<Tip>,
    /// A floor or a lid.
    pub is_end: bool,
}

/// An upright plane: what lies so far along a way, and further.
#[derive(Clone, Copy, Debug)]
pub struct Plane {
    pub way: DVec3,
    pub from: f64,
}

/// A corner taken off: so far along the side before it, and along its own.
#[derive(Clone, Copy, Debug)]
pub struct Tip {
    pub corner: usize,
    pub before: f64,
    pub after: f64,
}

impl Face {
    fn plane(name: String, ring: Vec<DVec3>, along: Vec<Along>, out: DVec3) -> Face {
        let cut_back = vec![0.0; ring.len()];
        Face { name, ring, along, out, cut_back, tips: Vec::new(), is_end: false }
    }

    pub fn of(facet: &Facet, rings: &Rings, name: String) -> Face {
        let low = facet.low.iter().map(|i| (rings[0][*i], Along::Low));
        let high = facet.high.iter().rev().map(|i| (rings[1][*i], Along::High));
        let (mut ring, mut along): (Vec<DVec3>, Vec<Along>) = low.chain(high).unzip();
        along[facet.low.len() - 1] = Along::Next;
        let last = along.len() - 1;
        along[last] = Along::Before;
        let (mut k, mut n) = (0, ring.len());
        // A place where two corners fall on one another has no side.
        while k < n {
            if ring[k].distance(ring[(k + 1) % n]) < COINCIDENT {
                ring.remove(k);
                along.remove(k);
                n -= 1;
            } else {
                k += 1;
            }
        }
        Face::plane(name, ring, along, facet.out)
    }

    /// A floor or a lid.
    pub fn end(ring: &[DVec3], upper: bool, out: DVec3, name: String) -> Face {
        let mut ring = ring.to_vec();
        let along = if upper { Along::High } else { Along::Low };
        if !upper {
            ring.reverse();
        }
        let along = vec![along; ring.len()];
        Face { is_end: true, ..Face::plane(name, ring, along, out) }
    }

    /// The side that runs between these places the other way round.
    pub fn meeting(&self, [a, b]: [DVec3; 2]) -> Option<usize> {
        (0..self.ring.len()).find(|k| {
            let [p, q] = self.ends(*k);
            p.distance(b) < COINCIDENT && q.distance(a) < COINCIDENT
        })
    }

    pub fn area(&self) -> f64 {
        let fan = |k: usize| (self.ring[k] - self.ring[0]).cross(self.ring[k + 1] - self.ring[0]);
        (1..self.ring.len().saturating_sub(1)).map(fan).sum::<DVec3>().length() / 2.0
    }

    /// What of it lies beyond a plane; none where nothing does.
    pub fn beyond(&self, plane: &Plane) -> Option<Face> {
        let (mut ring, mut along) = (Vec::new(), Vec::new());
        let mut put = |p: DVec3, side: Along| {
            ring.push(p);
            along.push(side);
        };
        for (k, side) in self.along.iter().enumerate() {
            let [a, b] = self.ends(k);
            let [da, db] = [a, b].map(|p| p.dot(plane.way) - plane.from);
            let met = || a.lerp(b, da / (da - db));
            let [inside, beyond] = [da, db].map(|d| d > -COINCIDENT);
            match (inside, beyond) {
                (true, true) => put(a, *side),
                (true, false) if da < COINCIDENT => put(a, Along::Cut),
                (true, false) => {
                    put(a, *side);
                    put(met(), Along::Cut);
                }
                (false, true) if db > COINCIDENT => put(met(), *side),
                (false, _) => {}
            }
        }
        let kept = Face { is_end: self.is_end, ..Face::plane(self.name.clone(), ring, along, self.out) };
        (kept.ring.len() > 2 && kept.area() > COINCIDENT).then_some(kept)
    }

    pub fn side(&self, along: Along) -> Option<usize> {
        self.along.iter().position(|a| *a == along)
    }

    /// Ends of the side that leaves a corner.
    pub fn ends(&self, k: usize) -> [DVec3; 2] {
        [self.ring[k], self.ring[(k + 1) % self.ring.len()]]
    }

    /// Cut in two from the middle of its lower side or corner to that of its upper one: what comes first
    /// against the clock, and what comes after.
    pub fn halved(&self) -> [Face; 2] {
        let middle = |along: Along| {
            let at = self.side(along).map(|k| self.ends(k));
            at.map(|[a, b]| (a + b) / 2.0)
        };
        let only = |before: Along, after: Along| {
            let k = self.side(after)?;
            (self.along[(k + self.ring.len() - 1) % self.ring.len()] == before).then(|| self.ring[k])
        };
        // Without a lower side the side before it runs to the corner where the next one leaves.
        let low = middle(Along::Low).or_else(|| only(Along::Before, Along::Next)).unwrap_or_default();
        let high = middle(Along::High).or_else(|| only(Along::Next, Along::Before)).unwrap_or_default();
        let half = |name: &str, corners: &[(DVec3, Along)]| {
            let kept: Vec<(DVec3, Along)> = (0..corners.len())
                .filter(|k| corners[*k].0.distance(corners[(k + 1) % corners.len()].0) > COINCIDENT)
                .map(|k| corners[k])
                .collect();
            let (ring, along): (Vec<DVec3>, Vec<Along>) = kept.into_iter().unzip();
            Face::plane(format!("{}-{name}", self.name), ring, along, self.out)
        };
        let [right, left] = [Along::Next, Along::Before].map(|a| self.side(a).map(|k| self.ends(k)));
        let [a, b] = right.unwrap_or([low, high]);
        let [c, d] = left.unwrap_or([high, low]);
        [
            half("1", &[(d, Along::Low), (low, Along::Next), (high, Along::High), (c, Along::Before)]),
            half("2", &[(low, Along::Low), (a, Along::Next), (b, Along::High), (high, Along::Before)]),
        ]
    }
}
