//! Plane plates between two openings, one for each face of the skin round both: their inner edges meet, or
//! their bevelled ones in the planes that halve the corners.

use std::f64::consts::PI;

use glam::DVec3;
use ground::geom::COINCIDENT;
use sheet::choices::Compass;
use sheet::transition::face::{Along, Face};
use sheet::transition::hull::{NoSkin, Skin, facets};
use sheet::transition::openings::Opening;
use sheet::transition::unrolled::named;

use super::board::{Board, Plane, given_for};
use super::plates::{Corner, Met};
use super::sides::{Outer, Side, SideFace, Sides};

/// Two openings without round corners, and the plates between them.
#[derive(Clone, Copy, Debug)]
pub struct PanelsShape {
    pub openings: [Opening; 2],
    pub thickness: f64,
    /// How far inside of the told faces the inner ones lie.
    pub inwards: f64,
    /// Bevelled, so that they meet over their whole thickness; else edge to edge.
    pub is_mitred: bool,
    /// Left between the plates, for the weld.
    pub gap: f64,
    /// The side that is not there.
    pub open: Option<Compass>,
}

/// Why there are no plates.
pub enum NoPanels {
    Skin(NoSkin),
    /// No face looks this way.
    Side(Compass),
    /// Of this face nothing is left.
    Face(String),
}

/// Round ones are refused before; corners that are not round take no lines.
const LINES: usize = 2;

/// The faces of the skin, and what stands of them.
pub struct Panels {
    shape: PanelsShape,
    pub sides: Sides,
    faces: Vec<Face>,
    boards: Vec<Board>,
    /// More than any of them reaches.
    reach: f64,
}

/// The planes that the outline of a plate ends at.
struct Limits {
    others: Vec<(usize, Plane)>,
    ends: Vec<Plane>,
}

impl PanelsShape {
    pub fn stand(self) -> Result<Panels, NoPanels> {
        let [low, high] = &self.openings;
        let skin = Skin::of(&self.openings, LINES, -self.inwards).map_err(NoPanels::Skin)?;
        // Moved, a corner may lie off the planes of what is told that touch only it.
        let moved = facets(&skin.moved).ok_or(NoPanels::Skin(NoSkin::Crosses))?;
        let faces = named(&moved, &skin.moved);
        let side = |f: &Face| Side {
            name: f.name.clone(),
            plane: Plane { out: f.out, off: f.out.dot(f.ring[0]) },
            stands: self.open.is_none_or(|to| to.name() != f.name),
            opens: [Along::Low, Along::High].map(|along| f.side(along).is_some()),
        };
        let ends = [
            Plane { out: -low.normal(), off: -low.normal().dot(low.o) },
            Plane { out: high.normal(), off: high.normal().dot(high.o) },
        ];
        let sides = Sides { all: faces.iter().map(side).collect(), ends, thickness: self.thickness };
        if let Some(to) = self.open.filter(|to| sides.looking(*to).is_none()) {
            return Err(NoPanels::Side(to));
        }
        let board = |f: &Face| {
            let x = DVec3::Z.cross(f.out).normalize_or_zero();
            Board { o: f.ring[0], x, y: f.out.cross(x) }
        };
        let boards = faces.iter().map(board).collect();
        let reach = 4.0 * skin.moved.iter().flatten().map(|p| p.length()).fold(self.thickness, f64::max);
        Ok(Panels { shape: self, sides, faces, boards, reach })
    }
}

impl Panels {
    fn out(&self, k: usize) -> DVec3 {
        self.sides.all[k].plane.out
    }

    /// Where the outline of a face ends: at the other faces, each with its place among all, and at the
    /// openings.
    fn limits(&self, k: usize, ends: [Plane; 2]) -> Limits {
        let (all, shape, board) = (&self.sides.all, &self.shape, &self.boards[k]);
        let cos = |j: usize| self.out(k).dot(self.out(j)).clamp(-1.0, 1.0);
        let is_beside = |j: usize| [false, true].iter().any(|next| self.sides.beside(k, *next) == j);
        // A side that is not there leaves its neighbours as they are told.
        let left = all.iter().find(|s| !s.stands).map(|s| s.plane);
        let inside = |j: usize| Plane {
            off: all[j].plane.off - if is_beside(j) { given_for(shape.gap, cos(j)) } else { 0.0 },
            ..all[j].plane
        };
        let planes = (0..all.len()).filter(|j| *j != k && all[*j].stands).map(|j| (j, inside(j)));
        if !shape.is_mitred {
            return Limits { others: planes.collect(), ends: left.into_iter().chain(ends).collect() };
        }
        // The inner face is the bevelled ones' narrower one: no edge of the outline ends outside of it.
        let inner = board.behind(planes.clone().map(|p| p.1).chain(left).chain(ends), self.reach);
        let most =
            |out: DVec3| inner.iter().map(|q| out.dot(board.point(*q))).fold(f64::NEG_INFINITY, f64::max);
        let wide = planes.map(|(j, p)| {
            let touches =
                self.faces[k].ring.iter().any(|q| (p.out.dot(*q) - all[j].plane.off).abs() < COINCIDENT);
            let off = if touches { most(p.out).min(p.off) } else { p.off };
            (j, Plane { off: off + shape.thickness * (1.0 - cos(j)), ..p })
        });
        let at_ends = ends.map(|p| Plane { off: most(p.out).min(p.off), ..p });
        Limits { others: wide.collect(), ends: left.into_iter().chain(at_ends).collect() }
    }

    /// The inner faces of the sides that stand. Where the edge of one is told to be that of its outer face
    /// (`outer`), at an opening, that one lies in the opening's plane.
    pub fn faces(&self, outer: Outer) -> Result<Vec<SideFace>, NoPanels> {
        let stands = (0..self.faces.len()).filter(|k| self.sides.all[*k].stands);
        stands.map(|k| self.face(k, outer)).collect()
    }

    fn face(&self, k: usize, outer: Outer) -> Result<SideFace, NoPanels> {
        let (side, board, shape) = (&self.sides.all[k], self.boards[k], &self.shape);
        let ends = self.sides.ends_of(k, outer);
        let limits = self.limits(k, ends);
        let others = &limits.others;
        let ring = board.behind(others.iter().map(|o| o.1).chain(limits.ends), self.reach);
        // What is told as open has to stay so.
        let stays = |upper: usize| !side.opens[upper] || board.side(&ring, &ends[upper]).is_some();
        if ring.len() < 3 || !stays(0) || !stays(1) {
            return Err(NoPanels::Face(side.name.clone()));
        }
        let bevels = match shape.is_mitred {
            true => others.iter().filter_map(|(_, end)| board.bevel(&ring, end)).collect(),
            false => Vec::new(),
        };
        let next = self.sides.beside(k, true);
        let met = others.iter().find(|o| o.0 == next);
        Ok(SideFace {
            side: k,
            seam: met.map_or(0.0, |(_, end)| board.along(&ring, end)),
            corner: met.map(|_| Corner {
                next: self.sides.all[next].name.clone(),
                angle: PI - self.out(k).angle_between(self.out(next)),
                how: if shape.is_mitred { Met::Mitred } else { Met::Edge },
                open: shape.gap,
            }),
            ring,
            o: board.o,
            x: board.x,
            y: board.y,
            bevels,
        })
    }
}
