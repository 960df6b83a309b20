//! Features: the cuts that lines ask for, each a closed shape in the flat with a name of its own.

use glam::DVec2;

use crate::geom::{Bounds, Contour};

/// The most cuts one piece may have.
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
}

impl Feature {
    pub fn moved(&self, name: String, line: usize, by: DVec2) -> Feature {
        Feature { name, line, contour: self.contour.moved(0.0, by), centre: self.centre + by, ..self.clone() }
    }
}
