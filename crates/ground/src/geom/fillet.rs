//! Rounding and chamfering corners between straight sides.

use crate::geom::COINCIDENT;
use glam::DVec2;

use super::{Contour, Vertex};

/// A corner between two straight sides, and how far back along them a rounding of radius 1 would reach.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Corner {
    pub at: DVec2,
    /// Signed turn of the outline there, radians; positive where material is convex (outline
    /// counter-clockwise).
    pub turn: f64,
    /// Lengths of the sides before and after.
    pub before: f64,
    pub after: f64,
}

impl Contour {
    /// The corner at vertex `i`, when both its sides are straight and meet at an angle.
    pub fn corner(&self, i: usize) -> Option<Corner> {
        let n = self.vertices.len();
        let (s, t) = (self.segment((i + n - 1) % n), self.segment(i));
        let turn = s.tangent(true).angle_to(t.tangent(false));
        let straight = s.is_line() && t.is_line();
        // A side that doubles back has no corner to round.
        let sharp = turn.abs() > COINCIDENT && turn.abs() < std::f64::consts::PI - COINCIDENT;
        (straight && sharp).then(|| Corner { at: t.a, turn, before: s.length(), after: t.length() })
    }
}

/// The contour with the corners at `picks` (vertex index, radius) rounded. The caller has checked that they
/// fit.
pub fn fillet(contour: &Contour, picks: &[(usize, f64)]) -> Contour {
    cut_corners(contour, picks, |corner, radius| {
        (radius * (corner.turn.abs() / 2.0).tan(), (corner.turn / 4.0).tan())
    })
}

/// The contour with the corners at `picks` (vertex index, length along each side) cut straight.
pub fn chamfer(contour: &Contour, picks: &[(usize, f64)]) -> Contour {
    cut_corners(contour, picks, |_, size| (size, 0.0))
}

fn cut_corners(
    contour: &Contour,
    picks: &[(usize, f64)],
    shape: impl Fn(&Corner, f64) -> (f64, f64),
) -> Contour {
    let mut out = Contour::default();
    let sizes: std::collections::HashMap<usize, f64> = picks.iter().copied().collect();
    for (i, v) in contour.vertices.iter().enumerate() {
        let pick = sizes.get(&i).and_then(|size| contour.corner(i).map(|c| (c, *size)));
        match pick {
            Some((corner, size)) if size > 0.0 => {
                let n = contour.vertices.len();
                let (back, bulge) = shape(&corner, size);
                let into = contour.segment((i + n - 1) % n).tangent(true);
                let away = contour.segment(i).tangent(false);
                out.vertices.push(Vertex { p: v.p - into * back, bulge, tag: v.tag });
                out.vertices.push(Vertex { p: v.p + away * back, ..*v });
            }
            _ => out.vertices.push(*v),
        }
    }
    out.without_short_sides()
}

impl Contour {
    /// Sides shorter than a coincidence taken out: two roundings that meet leave one behind.
    pub fn without_short_sides(mut self) -> Contour {
        let n = self.vertices.len();
        let keep: Vec<bool> = (0..n).map(|i| self.segment(i).length() > super::COINCIDENT).collect();
        let mut k = keep.iter();
        self.vertices.retain(|_| *k.next().unwrap_or(&true));
        self
    }
}
