//! Plane plates between two openings, one for each face of the skin round both: their inner edges meet, or
//! their bevelled ones in the planes that halve the corners.

use std::f64::consts::PI;

use glam::{DVec2, DVec3};
use ground::geom::COINCIDENT;
use sheet::transition::face::{Along, Face};
use sheet::transition::hull::{NoSkin, Skin, facets};
use sheet::transition::openings::Opening;
use sheet::transition::unrolled::named;

use super::board::{Board, Plane, given_for};
use super::plates::{Corner, Met};
use super::sides::{Outer, Side, SideFace, Sides};

/// Two openings without round corners, and the plates between them.
#[derive(Clone, Debug)]
pub struct PanelsShape {
    pub openings: [Opening; 2],
    pub thickness: f64,
    /// How far inside of the told faces the inner ones lie.
    pub inwards: f64,
    pub corners: PanelCorner,
    /// Corners that are not as the others.
    pub but: Vec<PanelCornerOf>,
    /// Names of the sides that are not there.
    pub open: Vec<String>,
}

/// How two plates beside one another meet.
#[derive(Clone, Copy, Debug)]
pub struct PanelCorner {
    pub how: PanelMeet,
    /// Left between them, for the weld.
    pub gap: f64,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum PanelMeet {
    /// Inner edge to inner edge.
    Edge,
    /// The first runs over the edge of the second; of all corners, each over the next against the clock.
    Over,
    /// Bevelled edges, whole over the thickness.
    Mitred,
}

/// The corner of two sides, by their names.
#[derive(Clone, Debug)]
pub struct PanelCornerOf {
    pub sides: [String; 2],
    pub corner: PanelCorner,
}

/// Why there are no plates.
pub enum NoPanels {
    Skin(NoSkin),
    /// There is no such side to be left out, by its place in the list.
    Open(usize),
    /// Nothing is left to stand.
    None,
    /// Of this corner: a side that is not there, told as the first or second.
    Side {
        corner: usize,
        second: bool,
    },
    /// The two sides of this corner are not beside one another; the first has these beside it.
    Apart {
        corner: usize,
        beside: [String; 2],
    },
    /// This corner is told before.
    Twice(usize),
    /// Of this face nothing is left.
    Face(String),
    /// A seam of this face is too short for its bevel.
    Bevel(String),
}

/// Round ones are refused before; corners that are not round take no lines.
const LINES: usize = 2;

/// The faces of the skin, and what stands of them.
pub struct Panels<'a> {
    shape: &'a PanelsShape,
    pub sides: Sides,
    faces: Vec<Face>,
    boards: Vec<Board>,
    /// Each corner under the side that comes first in it, against the clock; over it runs the side that is
    /// told.
    corners: Vec<(PanelCorner, usize)>,
    /// More than any of them reaches.
    reach: f64,
}

/// A face as it is cut, and the planes of other faces that it ends at.
struct Outline {
    ring: Vec<DVec2>,
    others: Vec<(usize, Plane)>,
}

impl PanelsShape {
    pub fn stand(&self) -> Result<Panels<'_>, NoPanels> {
        let [low, high] = &self.openings;
        let skin = Skin::of(&self.openings, LINES, -self.inwards).map_err(NoPanels::Skin)?;
        // Moved, a corner may lie off the planes of what is told that touch only it.
        let moved = facets(&skin.moved).ok_or(NoPanels::Skin(NoSkin::Crosses))?;
        let faces = named(&moved, &skin.moved);
        let side = |f: &Face| Side {
            name: f.name.clone(),
            plane: Plane { out: f.out, off: f.out.dot(f.ring[0]) },
            stands: !self.open.contains(&f.name),
            opens: [Along::Low, Along::High].map(|along| f.side(along).is_some()),
        };
        let ends = [
            Plane { out: -low.normal(), off: -low.normal().dot(low.o) },
            Plane { out: high.normal(), off: high.normal().dot(high.o) },
        ];
        let sides = Sides { all: faces.iter().map(side).collect(), ends, thickness: self.thickness };
        if let Some(k) = self.open.iter().position(|name| sides.named(name).is_none()) {
            return Err(NoPanels::Open(k));
        }
        if sides.all.iter().all(|s| !s.stands) {
            return Err(NoPanels::None);
        }
        let board = |f: &Face| {
            let x = DVec3::Z.cross(f.out).normalize_or_zero();
            Board { o: f.ring[0], x, y: f.out.cross(x) }
        };
        let boards = faces.iter().map(board).collect();
        let reach = 4.0 * skin.moved.iter().flatten().map(|p| p.length()).fold(self.thickness, f64::max);
        let corners = self.corners(&sides)?;
        Ok(Panels { shape: self, sides, faces, boards, corners, reach })
    }

    pub fn has_gaps(&self) -> bool {
        self.corners.gap > 0.0 || self.but.iter().any(|b| b.corner.gap > 0.0)
    }

    /// How each side meets the next, and which of the two runs over the other.
    fn corners(&self, sides: &Sides) -> Result<Vec<(PanelCorner, usize)>, NoPanels> {
        let mut out: Vec<_> = (0..sides.all.len()).map(|k| (self.corners, k)).collect();
        let mut told = Vec::new();
        for (at, but) in self.but.iter().enumerate() {
            let found = but.sides.each_ref().map(|name| sides.named(name).filter(|k| sides.all[*k].stands));
            let [Some(one), Some(two)] = found else {
                return Err(NoPanels::Side { corner: at, second: found[0].is_some() });
            };
            let first = match (sides.beside(one, true) == two, sides.beside(two, true) == one) {
                (true, _) => one,
                (_, true) => two,
                _ => {
                    let beside = [false, true].map(|next| sides.all[sides.beside(one, next)].name.clone());
                    return Err(NoPanels::Apart { corner: at, beside });
                }
            };
            if told.contains(&first) {
                return Err(NoPanels::Twice(at));
            }
            told.push(first);
            out[first] = (but.corner, one);
        }
        Ok(out)
    }
}

impl Panels<'_> {
    fn out(&self, k: usize) -> DVec3 {
        self.sides.all[k].plane.out
    }

    fn cos(&self, k: usize, j: usize) -> f64 {
        self.out(k).dot(self.out(j)).clamp(-1.0, 1.0)
    }

    /// How two sides meet that are beside one another, and whether the first runs over the second.
    fn corner(&self, k: usize, j: usize) -> Option<(PanelCorner, bool)> {
        let first = [(k, j), (j, k)].into_iter().find(|(a, b)| self.sides.beside(*a, true) == *b)?.0;
        let (corner, over) = self.corners[first];
        Some((corner, over == k))
    }

    /// Whether what two sides meet with is bevelled. Those that touch with a tip only are where all corners
    /// are alike.
    fn is_mitred(&self, k: usize, j: usize) -> bool {
        let tips = || self.shape.but.is_empty().then_some(self.shape.corners);
        self.corner(k, j).map(|c| c.0).or_else(tips).is_some_and(|c| c.how == PanelMeet::Mitred)
    }

    /// How far the inner face of a side reaches beyond that of another, along that one's normal. No square
    /// edge stands out of the outer face of the other.
    fn beyond(&self, k: usize, j: usize) -> f64 {
        let Some((corner, is_over)) = self.corner(k, j) else { return 0.0 };
        let (thick, cos) = (self.shape.thickness, self.cos(k, j));
        match corner.how {
            PanelMeet::Edge | PanelMeet::Mitred => -given_for(corner.gap, cos),
            PanelMeet::Over if is_over => thick * (1.0 - cos.max(0.0)),
            PanelMeet::Over => -corner.gap - thick * cos.max(0.0),
        }
    }

    /// The outline of a face, and the planes of the other faces that it ends at, each with its place among
    /// all.
    fn outline(&self, k: usize, ends: [Plane; 2]) -> Result<Outline, NoPanels> {
        let (all, board) = (&self.sides.all, &self.boards[k]);
        // A side that is not there leaves its neighbours as they are told.
        let left = all.iter().enumerate().filter(|(j, s)| *j != k && !s.stands).map(|(_, s)| s.plane);
        let inside = |j: usize| Plane { off: all[j].plane.off + self.beyond(k, j), ..all[j].plane };
        let stands = (0..all.len()).filter(|j| *j != k && all[*j].stands);
        let planes: Vec<(usize, Plane)> = stands.map(|j| (j, inside(j))).collect();
        let left: Vec<Plane> = left.collect();
        // The inner face of a bevelled one is its narrower one: no edge of the outline ends outside of it.
        let inner =
            board.behind(planes.iter().map(|p| p.1).chain(left.iter().copied()).chain(ends), self.reach);
        let most =
            |out: DVec3| inner.iter().map(|q| out.dot(board.point(*q))).fold(f64::NEG_INFINITY, f64::max);
        let within = |p: Plane| Plane { off: most(p.out).min(p.off), ..p };
        let wide = |&(j, p): &(usize, Plane)| {
            if !self.is_mitred(k, j) {
                return (j, p);
            }
            let touches =
                self.faces[k].ring.iter().any(|q| (p.out.dot(*q) - all[j].plane.off).abs() < COINCIDENT);
            let off = if touches { most(p.out).min(p.off) } else { p.off };
            (j, Plane { off: off + self.shape.thickness * (1.0 - self.cos(k, j)), ..p })
        };
        let mut others: Vec<(usize, Plane)> = planes.iter().map(wide).collect();
        let mut rest: Vec<Plane> = left.into_iter().chain(ends.map(within)).collect();
        let ring = board.behind(others.iter().map(|o| o.1).chain(rest.iter().copied()), self.reach);
        // What only the wider face would come to.
        let only_wide = |p: &Plane| board.side(&ring, p).is_some() && board.side(&inner, p).is_none();
        let square = others.iter_mut().filter(|o| !self.is_mitred(k, o.0)).map(|o| &mut o.1);
        for p in square.chain(&mut rest).filter(|p| only_wide(p)) {
            *p = within(*p);
        }
        let ring = board.behind(others.iter().map(|o| o.1).chain(rest), self.reach);
        let lost = |(p, o): (&(usize, Plane), &(usize, Plane))| {
            let meets = self.is_mitred(k, p.0) && board.side(&inner, &p.1).is_some();
            meets && board.side(&ring, &o.1).is_none()
        };
        if ring.len() > 2 && planes.iter().zip(&others).any(lost) {
            return Err(NoPanels::Bevel(all[k].name.clone()));
        }
        Ok(Outline { ring, others })
    }

    /// The inner faces of the sides that stand. Where the edge of one is told to be that of its outer face
    /// (`outer`), at an opening, that one lies in the opening's plane.
    pub fn faces(&self, outer: Outer) -> Result<Vec<SideFace>, NoPanels> {
        let stands = (0..self.faces.len()).filter(|k| self.sides.all[*k].stands);
        stands.map(|k| self.face(k, outer)).collect()
    }

    fn face(&self, k: usize, outer: Outer) -> Result<SideFace, NoPanels> {
        let (side, board) = (&self.sides.all[k], self.boards[k]);
        let ends = self.sides.ends_of(k, outer);
        let Outline { ring, others } = self.outline(k, ends)?;
        // What is told as open has to stay so.
        let stays = |upper: usize| !side.opens[upper] || board.side(&ring, &ends[upper]).is_some();
        if ring.len() < 3 || !stays(0) || !stays(1) {
            return Err(NoPanels::Face(side.name.clone()));
        }
        let mitred = others.iter().filter(|o| self.is_mitred(k, o.0));
        let bevels = mitred.filter_map(|(_, end)| board.bevel(&ring, end)).collect();
        let next = self.sides.beside(k, true);
        let met = others.iter().find(|o| o.0 == next);
        Ok(SideFace {
            side: k,
            seam: met.map_or(0.0, |(_, end)| board.along(&ring, end)),
            corner: met.and_then(|_| self.met(k, next)),
            ring,
            o: board.o,
            x: board.x,
            y: board.y,
            bevels,
        })
    }

    /// How a side meets the next, and what is left open there: between inner edges, or at most between an
    /// edge and the face that runs over it.
    fn met(&self, k: usize, next: usize) -> Option<Corner> {
        let (corner, _) = self.corner(k, next)?;
        let lapped = self.shape.thickness * self.cos(k, next).abs();
        let (how, open) = match corner.how {
            PanelMeet::Edge => (Met::Edge, corner.gap),
            PanelMeet::Mitred => (Met::Mitred, corner.gap),
            PanelMeet::Over => (Met::Lapped, corner.gap + lapped),
        };
        let angle = PI - self.out(k).angle_between(self.out(next));
        Some(Corner { next: self.sides.all[next].name.clone(), angle, how, open })
    }
}
