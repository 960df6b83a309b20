//! Whether a formed piece runs into itself, by its solids: every triangle of the flat with its thickness,
//! panels, bends and rolled arcs alike.

use std::collections::{HashMap, HashSet};

use glam::{DAffine3, DVec2, DVec3};
use ground::geom::ROUNDING;

use super::mesh::FlatMesh;
use super::zones::{BendZone, Zone, formed, frames};

/// Corners of creased panels nearer than this over two thicknesses come together, mm.
const CORNER: f64 = 1e-2;
/// This deep in one another is a touch, mm.
const TOUCH: f64 = 0.1;
/// Pairs that are looked at before the search is given up.
const MOST_PAIRS: usize = 3_000_000;

/// Two zones that take one place, and how deep.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Overlap {
    pub a: usize,
    pub b: usize,
    pub deep: f64,
    /// On the flat, in the second.
    pub at: glam::DVec2,
}

/// A triangle with its thickness: three corners above, three below.
struct Prism {
    zone: usize,
    corners: [DVec3; 6],
    low: DVec3,
    high: DVec3,
    flat: glam::DVec2,
}

impl Prism {
    /// Directions that may part it from another: of its faces, and along its edges.
    fn faces(&self) -> [DVec3; 5] {
        let c = &self.corners;
        let side = |i: usize, j: usize| (c[j] - c[i]).cross(c[i + 3] - c[i]);
        [
            (c[1] - c[0]).cross(c[2] - c[0]),
            (c[4] - c[3]).cross(c[5] - c[3]),
            side(0, 1),
            side(1, 2),
            side(2, 0),
        ]
    }

    fn edges(&self) -> [DVec3; 4] {
        let c = &self.corners;
        [c[1] - c[0], c[2] - c[1], c[0] - c[2], c[3] - c[0]]
    }

    fn spread(&self, d: DVec3) -> (f64, f64) {
        self.corners
            .iter()
            .map(|p| p.dot(d))
            .fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)))
    }

    /// How deep two lie in one another: the least way out over all directions that could part them
    /// (Gottschalk 1996); zero when one does.
    fn deep_in(&self, other: &Prism) -> f64 {
        let mut least = f64::INFINITY;
        let mut parts = |d: DVec3| {
            let length = d.length();
            if length < ROUNDING {
                return false;
            }
            let d = d / length;
            let ((a, b), (p, q)) = (self.spread(d), other.spread(d));
            least = least.min((b - p).min(q - a));
            least <= TOUCH
        };
        if self.faces().into_iter().chain(other.faces()).any(&mut parts) {
            return 0.0;
        }
        let crossed = self.edges().into_iter().flat_map(|e| other.edges().map(|f| e.cross(f)));
        if crossed.into_iter().any(parts) { 0.0 } else { least }
    }
}

/// Creased panels whose corners come together when formed, both ways round: where faces meet in a point the
/// sheet has no room inside for its thickness, and takes it.
fn creased(zones: &[Zone], frames: &[DAffine3], t: f64) -> HashSet<(usize, usize)> {
    let beside: HashSet<usize> = zones
        .iter()
        .enumerate()
        .filter(|(_, z)| z.bend().is_some_and(BendZone::is_crease))
        .flat_map(|(k, z)| {
            let beyond = zones.iter().position(|o| o.parent == Some(k));
            z.parent.into_iter().chain(beyond)
        })
        .collect();
    let corners = |k: usize| {
        let at = |p: &DVec2| formed(&zones[k], &frames[k], 1.0, t, *p, t / 2.0);
        zones[k].region.iter().map(at).collect::<Vec<_>>()
    };
    let corners: HashMap<usize, Vec<DVec3>> = beside.iter().map(|k| (*k, corners(*k))).collect();
    let meet = |a: usize, b: usize| {
        corners[&a].iter().any(|p| corners[&b].iter().any(|q| p.distance(*q) < CORNER + 2.0 * t))
    };
    let pairs = beside.iter().flat_map(|a| beside.iter().map(move |b| (*a, *b)));
    pairs.filter(|(a, b)| a != b && meet(*a, *b)).collect()
}

/// The deepest place where a formed piece runs into itself, and whether all of it was looked at. Zones that
/// join at a tangent line are one there.
pub fn overlap(mesh: &FlatMesh, zones: &[Zone], t: f64) -> (Option<Overlap>, bool) {
    let frames = frames(zones, 1.0, t);
    let mut prisms: Vec<Prism> = Vec::with_capacity(mesh.triangles.len());
    for (tri, zone) in mesh.triangles.iter().zip(&mesh.triangle_zones) {
        let zone = *zone as usize;
        if zones[zone].bend().is_some_and(BendZone::is_crease) {
            continue;
        }
        let flat = tri.map(|i| mesh.points[i as usize]);
        let at = |k: usize, height: f64| formed(&zones[zone], &frames[zone], 1.0, t, flat[k], height);
        let corners = [at(0, t), at(1, t), at(2, t), at(0, 0.0), at(1, 0.0), at(2, 0.0)];
        let (low, high) =
            corners.iter().fold((DVec3::INFINITY, DVec3::NEG_INFINITY), |(l, h), p| (l.min(*p), h.max(*p)));
        prisms.push(Prism { zone, corners, low, high, flat: (flat[0] + flat[1] + flat[2]) / 3.0 });
    }
    let creased = creased(zones, &frames, t);
    let joins = |a: usize, b: usize| {
        a == b || zones[a].parent == Some(b) || zones[b].parent == Some(a) || creased.contains(&(a, b))
    };
    prisms.sort_by(|a, b| a.low.x.total_cmp(&b.low.x));
    let mut best: Option<Overlap> = None;
    let mut pairs = 0usize;
    for (k, a) in prisms.iter().enumerate() {
        ground::halt::point();
        for b in prisms[k + 1..].iter().take_while(|b| b.low.x < a.high.x - TOUCH) {
            pairs += 1;
            if pairs > MOST_PAIRS {
                return (best, false);
            }
            let apart = a.low.cmpge(b.high - TOUCH).any() || b.low.cmpge(a.high - TOUCH).any();
            if apart || joins(a.zone, b.zone) {
                continue;
            }
            let deep = a.deep_in(b);
            if deep > TOUCH && best.is_none_or(|o| deep > o.deep) {
                let (first, second) = if a.zone < b.zone { (a, b) } else { (b, a) };
                best = Some(Overlap { a: first.zone, b: second.zone, deep, at: second.flat });
            }
        }
    }
    (best, true)
}
