//! Corners where two folds meet: what they are called, and what is cut out there.

use glam::DVec2;

use super::tree::{Closing, FoldSpec, Tree};
use crate::choices::CornerRelief;
use ground::geom::Contour;
use ground::reference::{self, Reference};
use shop::limits;

/// A corner between two folds.
#[derive(Clone, Debug)]
pub struct Met {
    pub name: String,
    pub at: DVec2,
    pub panels: [String; 2],
    pub relief: CornerRelief,
}

/// A cut that a corner relief makes.
#[derive(Clone, Debug)]
pub struct ReliefCut {
    pub name: String,
    /// Index of the recipe line.
    pub index: usize,
    pub contour: Contour,
    pub centre: DVec2,
    pub least: f64,
}

/// `north-east` between folds of the start's own sides, else the two edges with a stroke between.
pub fn corner_name(tree: &Tree, before: usize, after: usize) -> String {
    let short = |n: usize| {
        let name = tree.nodes[n].spec.as_ref().map_or("", |s| s.name.as_str());
        let part = Reference::parse(name).part;
        (if part.is_empty() { name } else { part }).to_string()
    };
    let (a, b) = (short(before), short(after));
    let upright = |s: &str| matches!(s, "north" | "south");
    match (upright(&a), upright(&b)) {
        (true, false) if matches!(b.as_str(), "east" | "west") => format!("{a}-{b}"),
        (false, true) if matches!(a.as_str(), "east" | "west") => format!("{b}-{a}"),
        _ => reference::corner(&a, &b),
    }
}

/// The cut at a corner where two bends meet, and its least width.
pub fn relief(
    how: &Closing,
    c: DVec2,
    outward: DVec2,
    a: &FoldSpec,
    b: &FoldSpec,
    t: f64,
) -> Option<(Contour, f64)> {
    let size = if how.relief_size > 0.0 {
        how.relief_size
    } else {
        limits::corner_relief(t, a.bend.radius.max(b.bend.radius)).value
    };
    match how.relief {
        CornerRelief::None => None,
        CornerRelief::Round => Some((Contour::circle(c, size / 2.0, 0), size)),
        CornerRelief::Square => {
            let half = DVec2::splat(size / 2.0);
            Some((
                Contour::rectangle(-half, half, 0)
                    .retagged(0)
                    .moved(outward.to_angle() - std::f64::consts::FRAC_PI_4, c),
                size,
            ))
        }
        CornerRelief::Slot => {
            let length = 2.0 * a.bend.allowance.length.max(b.bend.allowance.length) + size;
            Some((
                Contour::slot(DVec2::ZERO, length, size, 0)
                    .moved(outward.to_angle(), c + outward * (length / 2.0 - size / 2.0)),
                size,
            ))
        }
    }
}
