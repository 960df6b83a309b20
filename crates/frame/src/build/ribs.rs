//! Ribs: one profile, or one turning into another, cut many times and stood one behind the other; bars that
//! run through all of them, and the tubes between.

use std::sync::Arc;

use glam::{DVec2, DVec3};
use ground::geom::{Bounds, Contour, Vertex};
use shop::Material;

use super::plates::Cutting;
use super::rails::RowRail;

/// How far chords may stand off the arcs that are looked at, mm.
const FINE: f64 = 0.05;

/// A rib as cut, the lower left corner of its profile at the origin.
#[derive(Clone, Debug, PartialEq)]
pub struct RibShape {
    pub outer: Contour,
    pub holes: Vec<Contour>,
}

/// A row of ribs where it stands.
#[derive(Clone, Debug)]
pub struct RibRow {
    pub line: String,
    pub call: String,
    pub material: Arc<Material>,
    pub thickness: f64,
    /// From the near face of one to that of the next.
    pub pitch: f64,
    pub ribs: Vec<RibShape>,
    /// The lower left corner of the first, on its near face; across, up and along the row.
    pub o: DVec3,
    pub x: DVec3,
    pub y: DVec3,
    pub d: DVec3,
    pub through: Vec<ThroughBar>,
    pub rails: Vec<RowRail>,
    /// Of the first profile as told, which places are told from.
    pub told: Bounds,
}

/// A bar that runs through a row.
#[derive(Clone, Debug)]
pub struct ThroughBar {
    pub line: String,
    pub section: String,
    /// Cut into each rib.
    pub hole: Contour,
    /// Of its pieces.
    pub lengths: Vec<f64>,
    /// The section of the tubes on it, one in each gap.
    pub spacers: Option<String>,
}

impl RibRow {
    /// From face to face of neighbours.
    pub fn gap(&self) -> f64 {
        self.pitch - self.thickness
    }

    /// Over all.
    pub fn over(&self) -> f64 {
        self.pitch * (self.ribs.len() - 1) as f64 + self.thickness
    }

    /// The lower corners of the row, on the near face of its first rib and on the far face of its last.
    pub fn corners(&self) -> [(&'static str, DVec3); 4] {
        let width = |rib: Option<&RibShape>| rib.map_or(0.0, |r| r.outer.bounds().size().x);
        let end = self.o + self.d * self.over();
        [
            ("start-west", self.o),
            ("start-east", self.o + self.x * width(self.ribs.first())),
            ("end-west", end),
            ("end-east", end + self.x * width(self.ribs.last())),
        ]
    }

    /// Where along the row a bar of so many pieces is butted: in the middle of ribs, in pieces as equal as
    /// those allow; none where there are too few ribs.
    pub fn joints(&self, pieces: usize, overhang: f64) -> Option<Vec<f64>> {
        let (n, joints) = (self.ribs.len(), pieces - 1);
        let middle = |k: usize| self.pitch * k as f64 + self.thickness / 2.0;
        let step = (self.over() + 2.0 * overhang) / pieces as f64;
        let mut least = 0;
        let mut out = Vec::with_capacity(joints);
        for j in 0..joints {
            // Enough ribs are left for the joints that follow.
            let most = n.checked_sub(joints - j)?;
            let ideal = step * (j + 1) as f64 - overhang;
            let k = ((ideal - self.thickness / 2.0) / self.pitch).round().max(0.0) as usize;
            let k = k.clamp(least, most);
            out.push(middle(k));
            least = k + 1;
        }
        Some(out)
    }

    pub fn point(&self, p: DVec2, along: f64) -> DVec3 {
        self.o + self.x * p.x + self.y * p.y + self.d * along
    }

    /// A plate of the row: its flat about a place of the profile, its thickness from so far along the row.
    fn stood(&self, call: &str, outer: Contour, thickness: f64, at: DVec2, near: f64) -> Cutting {
        // Thickness goes along the row, whichever way the profile is looked at.
        let turned = self.x.cross(self.y).dot(self.d) < 0.0;
        let o = self.point(at, near + if turned { thickness } else { 0.0 });
        Cutting::new(call, outer, thickness, o, self.x, self.y)
    }

    /// The ribs.
    pub fn cut(&self) -> Vec<Cutting> {
        let plate = |(k, rib): (usize, &RibShape)| {
            let (outer, near) = (rib.outer.clone(), self.pitch * k as f64);
            let mut out = self.stood(&self.call, outer, self.thickness, DVec2::ZERO, near);
            out.holes = rib.holes.iter().chain(self.through.iter().map(|t| &t.hole)).cloned().collect();
            out.material = Some(self.material.clone());
            out.part(&(k + 1).to_string())
        };
        self.ribs.iter().enumerate().map(plate).collect()
    }

    /// Tubes on a bar, one in each gap of the row: outside and wall.
    pub fn spacers(&self, at: DVec2, [outside, wall]: [f64; 2]) -> Vec<Cutting> {
        let tube = |k: usize| {
            let near = self.pitch * k as f64 + self.thickness;
            let circle = |diameter: f64| Contour::circle(DVec2::ZERO, diameter / 2.0, 0);
            let mut out = self.stood("spacer", circle(outside), self.gap(), at, near);
            out.holes = vec![circle(outside - 2.0 * wall)];
            out.tube = Some([outside, wall]);
            out.part(&(k + 1).to_string())
        };
        (0..self.ribs.len() - 1).map(tube).collect()
    }
}

/// Why one profile does not turn into another.
pub enum NoBlend {
    Sides(usize, usize),
    Holes(usize, usize),
}

/// So many ribs from one profile to the other: corner for corner, in equal steps. Arcs stay arcs.
pub fn blend(first: &RibShape, last: &RibShape, count: usize) -> Result<Vec<RibShape>, NoBlend> {
    let sides = [first, last].map(|s| s.outer.vertices.len());
    if sides[0] != sides[1] {
        return Err(NoBlend::Sides(sides[0], sides[1]));
    }
    let holes = [first, last].map(|s| s.holes.len());
    let alike = |(a, b): (&Contour, &Contour)| a.vertices.len() == b.vertices.len();
    if holes[0] != holes[1] || !first.holes.iter().zip(&last.holes).all(alike) {
        return Err(NoBlend::Holes(holes[0], holes[1]));
    }
    let between = |a: &Contour, b: &Contour, s: f64| Contour {
        vertices: { a.vertices.iter().zip(&b.vertices) }
            .map(|(p, q)| Vertex { p: p.p.lerp(q.p, s), bulge: p.bulge + (q.bulge - p.bulge) * s, tag: 0 })
            .collect(),
    };
    let step = |k: usize| {
        let s = if count > 1 { k as f64 / (count - 1) as f64 } else { 0.0 };
        let holes = first.holes.iter().zip(&last.holes).map(|(a, b)| between(a, b, s)).collect();
        RibShape { outer: between(&first.outer, &last.outer, s), holes }
    };
    Ok((0..count).map(step).collect())
}

/// Whether a cut keeps clear of the holes of a rib and of those of bars.
pub fn is_clear(rib: &RibShape, through: &[ThroughBar], cut: &Contour) -> bool {
    let (b, points) = (cut.bounds(), cut.flatten(FINE));
    let clear = |other: &Contour| {
        !other.bounds().near(&b, 0.0)
            || points.iter().all(|p| !other.contains(*p)) && is_outside(cut, &other.flatten(FINE))
    };
    rib.holes.iter().chain(through.iter().map(|t| &t.hole)).all(clear)
}

fn is_outside(c: &Contour, points: &[DVec2]) -> bool {
    points.iter().all(|p| !c.contains(*p))
}

/// Whether a hole lies within a rib, clear of its edge, of its holes and of those of bars.
pub fn holds(rib: &RibShape, through: &[ThroughBar], hole: &Contour) -> bool {
    hole.flatten(FINE).iter().all(|p| rib.outer.contains(*p))
        && is_outside(hole, &rib.outer.flatten(FINE))
        && is_clear(rib, through, hole)
}
