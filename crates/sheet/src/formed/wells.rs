//! Drilled holes in the mesh of a sheet: below the loop that each makes in the flat, rings of its own narrow
//! down a cone, step down a bore, or close a blind hole.

use std::collections::HashMap;

use glam::DVec2;
use ground::geom::{COINCIDENT, Contour};

use super::zones::{Zone, zone_of};

/// A drilled hole: the loop that it makes in both faces of the mesh, and what lies below it.
#[derive(Clone, Debug, PartialEq)]
pub struct Well {
    /// Its loop, with its tag on every side.
    pub around: Contour,
    centre: DVec2,
    tag: u32,
    /// Share of the loop's radius, and height over the lower face: from the loop in the upper face down. A
    /// share of nothing closes it; the next begins anew from the middle.
    rings: Vec<(f64, f64)>,
}

impl Well {
    /// `profile`: radius and distance from the face it is drilled from, inwards; `back`: from the lower one.
    pub fn new(profile: &[(f64, f64)], back: bool, centre: DVec2, tag: u32, t: f64) -> Well {
        let radius = profile.iter().map(|p| p.0).fold(0.0, f64::max);
        let mut rings: Vec<(f64, f64)> = profile.iter().map(|(r, deep)| (r / radius, t - deep)).collect();
        if rings.last().is_some_and(|r| r.0 < COINCIDENT) {
            // Blind: the far face is closed where the hole stands over it.
            rings.push((0.0, 0.0));
        }
        rings.push((1.0, 0.0));
        if back {
            rings.reverse();
            rings.iter_mut().for_each(|r| r.1 = t - r.1);
        }
        rings.dedup_by(|b, a| (a.0 - b.0).abs() < COINCIDENT && (a.1 - b.1).abs() < COINCIDENT);
        Well { around: Contour::circle(centre, radius, tag).retagged(tag), centre, tag, rings }
    }

    /// Its loop in a face that goes on inside it: no edge is there.
    fn is_seam(&self, ring: usize) -> bool {
        let (n, z) = (self.rings.len(), |k: usize| self.rings[k].1);
        let beside = |a: usize, b: usize| (z(a) - z(b)).abs() < COINCIDENT;
        (ring == 0 && beside(0, 1)) || (ring + 1 == n && beside(n - 1, n - 2))
    }

    pub fn stands_at(&self, centre: DVec2) -> bool {
        self.centre.distance(centre) < COINCIDENT
    }
}

/// A point of a well: where over the flat it stands, and in which zone.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Deep {
    pub zone: u32,
    pub at: DVec2,
    pub z: f64,
}

/// The inner surfaces of drilled holes. Corners of triangles below the number of flat points are those of the
/// upper face, then come those of the lower face, then `points`.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Wells {
    pub points: Vec<Deep>,
    pub triangles: Vec<[u32; 3]>,
    /// Which feature each triangle belongs to, by tag.
    pub tags: Vec<u32>,
    /// Sides of rings that are seen as edges.
    pub edges: Vec<[u32; 2]>,
}

impl Wells {
    /// Takes the walls of its loops out of `walls`, and puts what lies below them in their place.
    pub fn take(wells: &[Well], walls: &mut Vec<(u32, u32, u32)>, points: &[DVec2], zones: &[Zone]) -> Wells {
        let by_tag: HashMap<u32, &Well> = wells.iter().map(|w| (w.tag, w)).collect();
        let n = points.len() as u32;
        let mut out = Sunk { made: HashMap::new(), out: Wells::default(), points, zones, n };
        walls.retain(|&(a, b, tag)| {
            let Some(well) = by_tag.get(&tag) else { return true };
            out.side(well, a, b);
            false
        });
        out.out
    }
}

struct Sunk<'a> {
    made: HashMap<(u32, u32, usize), u32>,
    out: Wells,
    points: &'a [DVec2],
    zones: &'a [Zone],
    n: u32,
}

impl Sunk<'_> {
    /// The point of a ring below a point of the loop.
    fn point(&mut self, well: &Well, ring: usize, over: u32) -> u32 {
        let (share, z) = well.rings[ring];
        if ring == 0 {
            return over;
        }
        if ring + 1 == well.rings.len() {
            return over + self.n;
        }
        let middle = share < COINCIDENT;
        let key = (well.tag, if middle { u32::MAX } else { over }, ring);
        if let Some(known) = self.made.get(&key) {
            return *known;
        }
        let at = if middle {
            well.centre
        } else {
            well.centre + (self.points[over as usize] - well.centre) * share
        };
        let zone = zone_of(self.zones, at).unwrap_or(0) as u32;
        self.out.points.push(Deep { zone, at, z });
        let index = 2 * self.n + self.out.points.len() as u32 - 1;
        self.made.insert(key, index);
        index
    }

    /// What lies below one side of the loop.
    fn side(&mut self, well: &Well, a: u32, b: u32) {
        for k in 0..well.rings.len() {
            let (share, z) = well.rings[k];
            let own = [a, b].map(|over| self.point(well, k, over));
            if share > COINCIDENT && !well.is_seam(k) {
                self.out.edges.push(own);
            }
            let Some(&(next_share, next_z)) = well.rings.get(k + 1) else { continue };
            let next = [a, b].map(|over| self.point(well, k + 1, over));
            let (here, below) = (share > COINCIDENT, next_share > COINCIDENT);
            if !here && !below || (z - next_z).abs() < COINCIDENT && (share - next_share).abs() < COINCIDENT {
                continue;
            }
            if below {
                self.put(well.tag, [next[0], next[1], own[1]]);
            }
            if here {
                self.put(well.tag, [next[0], own[1], own[0]]);
            }
        }
    }

    fn put(&mut self, tag: u32, triangle: [u32; 3]) {
        self.out.triangles.push(triangle);
        self.out.tags.push(tag);
    }
}
