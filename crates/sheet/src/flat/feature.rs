//! Features: the cuts and pressed shapes that lines ask for, each with a closed footprint in the flat and a
//! name of its own.

use glam::DVec2;
use ground::geom::COINCIDENT;

use super::blank::Blank;
use super::bore::Bore;
use super::folds::ReliefCut;
use super::place::Set;
use super::pressed::Pressed;
use ground::geom::{Bounds, Contour, Grid, Segment, Vertex, common, crosses};

/// The most features one piece may have.
pub const MOST_FEATURES: usize = 200_000;

/// The most corners that all cuts of one piece may have together.
pub const MOST_CORNERS: usize = 2_000_000;

#[derive(Clone, Debug)]
pub struct Feature {
    /// `punch-1`, `repeat-1.punch-1#3`, `mirror-1.punch-1`.
    pub name: String,
    /// Index of the recipe line that asked for it.
    pub line: usize,
    pub contour: Contour,
    /// The point that places are told to.
    pub centre: DVec2,
    /// Its smallest width, for the hole-size rule.
    pub least: f64,
    /// The rectangle it was placed in (a panel or the whole flat).
    pub field: Bounds,
    /// Direction in the flat that its shape lay along x by, rad.
    pub turn: f64,
    /// Pressed or laid on, not cut: the contour is its footprint.
    pub pressed: Option<Pressed>,
    /// Drilled: the contour is what goes through the sheet, or the plan of a blind hole.
    pub bore: Option<Box<Bore>>,
    /// Left out of views.
    pub hidden_in_views: bool,
    /// Cut where bends meet, and so in them on purpose.
    pub is_relief: bool,
}

impl Feature {
    pub fn cut(
        name: String,
        line: usize,
        contour: Contour,
        centre: DVec2,
        least: f64,
        field: Bounds,
    ) -> Feature {
        let side = contour.segment(0);
        let turn = if side.is_line() { (side.b - side.a).to_angle() } else { 0.0 };
        Feature {
            name,
            line,
            contour,
            centre,
            least,
            field,
            turn,
            pressed: None,
            bore: None,
            hidden_in_views: false,
            is_relief: false,
        }
    }

    /// Cut through the sheet: neither pressed nor drilled blind.
    pub fn is_cut_through(&self) -> bool {
        self.pressed.is_none() && self.bore.as_ref().is_none_or(|b| b.through())
    }

    /// All that it covers of the sheet, whichever face it lies in.
    pub fn footprint(&self) -> Contour {
        match &self.bore {
            Some(bore) => bore.footprint(&self.contour, self.centre),
            None => self.contour.clone(),
        }
    }

    /// What is cut where two bends meet.
    pub fn relief(r: ReliefCut, field: Bounds) -> Feature {
        Feature { is_relief: true, ..Feature::cut(r.name, r.index, r.contour, r.centre, r.least, field) }
    }

    /// A cut set in its place.
    pub fn set(name: String, line: usize, set: Set, least: f64) -> Feature {
        Feature::cut(name, line, set.contour, set.centre, least, set.field)
    }

    pub fn moved(&self, name: String, line: usize, by: DVec2) -> Feature {
        Feature { name, line, contour: self.contour.moved(0.0, by), centre: self.centre + by, ..self.clone() }
    }

    /// Turned about a point.
    pub fn turned(&self, name: String, line: usize, about: DVec2, angle: f64) -> Feature {
        let turn = |p: DVec2| about + DVec2::from_angle(angle).rotate(p - about);
        let by = about - DVec2::from_angle(angle).rotate(about);
        Feature {
            name,
            line,
            contour: self.contour.moved(angle, by),
            centre: turn(self.centre),
            turn: self.turn + angle,
            ..self.clone()
        }
    }

    /// On the other side of a line through `middle` that `across` (a unit vector) stands square on.
    pub fn mirrored(&self, name: String, line: usize, middle: DVec2, across: DVec2) -> Feature {
        let off = |v: DVec2| v - across * (2.0 * v.dot(across));
        let flip = |p: DVec2| middle + off(p - middle);
        // The side that it opens to stays on its side: its own y is what is mirrored.
        let turn = -off(DVec2::from_angle(self.turn).perp()).perp();
        Feature {
            name,
            line,
            contour: self.contour.mirrored(flip),
            centre: flip(self.centre),
            turn: turn.to_angle(),
            ..self.clone()
        }
    }

    /// A copy of a rib belongs to the bend that it lies on.
    pub fn at_home(mut self, blank: &Blank) -> Feature {
        if let Some(Pressed::Rib { bend, .. }) = &mut self.pressed
            && let Some(home) = blank.bends.iter().find(|b| blank.zones[b.zone].contains(self.centre))
        {
            bend.clone_from(&home.name);
        }
        self
    }
}

/// What is pressed or drilled blind and has no sheet under all of its footprint, and pads with none under any
/// of it; a touch of the edge is none.
pub fn off_sheet(features: &[Feature], outer: &Contour) -> Vec<u32> {
    if features.iter().all(Feature::is_cut_through) {
        return Vec::new();
    }
    let sides: Vec<Segment> = outer.segments().collect();
    let boxes: Vec<Bounds> = sides.iter().map(Segment::bounds).collect();
    let grid = Grid::new(&boxes, 0.0);
    let off = |f: &Feature| {
        ground::halt::point();
        if f.pressed.as_ref().is_some_and(Pressed::is_pad) {
            return common(&f.contour, outer).is_empty();
        }
        let shrunk = |v: &Vertex| Vertex { p: f.centre + (v.p - f.centre) * (1.0 - COINCIDENT), ..*v };
        let foot = Contour { vertices: f.contour.vertices.iter().map(shrunk).collect() };
        !outer.contains(f.centre)
            || foot
                .segments()
                .any(|s| grid.near(&s.bounds()).into_iter().any(|k| crosses(&s, &sides[k as usize], 0.0)))
    };
    features.iter().zip(0u32..).filter(|(f, _)| !f.is_cut_through() && off(f)).map(|(_, k)| k).collect()
}
