//! Whether a contour is one that can be cut: not crossing or touching itself, no doubled-back edge.

use crate::geom::ROUNDING;
use glam::DVec2;

use super::{COINCIDENT, Contour, Grid, closest};

/// Where a contour meets itself, and which two of its segments do.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Crossing {
    pub at: DVec2,
    pub segments: (usize, usize),
}

/// The first place where the contour crosses or touches itself.
pub fn first_crossing(contour: &Contour) -> Option<Crossing> {
    let segments: Vec<_> = contour.segments().collect();
    let n = segments.len();
    if n < 2 {
        return contour.vertices.first().map(|v| Crossing { at: v.p, segments: (0, 0) });
    }
    let boxes: Vec<_> = segments.iter().map(|s| s.bounds()).collect();
    let grid = Grid::new(&boxes, COINCIDENT);
    for i in 0..n {
        if segments[i].length() < COINCIDENT {
            return Some(Crossing { at: segments[i].a, segments: (i, i) });
        }
        for j in grid.near(&boxes[i]) {
            let j = j as usize;
            if j <= i || !boxes[i].near(&boxes[j], COINCIDENT) {
                continue;
            }
            if let Some(at) = meeting(&segments, i, j) {
                return Some(Crossing { at, segments: (i, j) });
            }
        }
    }
    None
}

fn meeting(segments: &[super::Segment], i: usize, j: usize) -> Option<DVec2> {
    let n = segments.len();
    let (a, b) = (&segments[i], &segments[j]);
    let follows = j == i + 1;
    let closes = i == 0 && j == n - 1;
    if !follows && !closes {
        let c = closest(a, b);
        return (c.gap < COINCIDENT).then_some(c.on_a);
    }
    // Neighbours share an end. They meet elsewhere when the pieces away from the shared end still touch.
    let doubled = |out: DVec2, back: DVec2| (out + back).length() < ROUNDING;
    if follows && doubled(a.tangent(true), b.tangent(false)) && a.is_line() == b.is_line() {
        return Some(a.b);
    }
    if closes && doubled(b.tangent(true), a.tangent(false)) && a.is_line() == b.is_line() {
        return Some(a.a);
    }
    if n == 2 || (a.is_line() && b.is_line()) {
        return None;
    }
    let inner = |s: &super::Segment, from: f64, to: f64| {
        let sub = (s.bulge.atan() * (to - from)).tan();
        super::Segment { a: s.at(from), b: s.at(to), bulge: sub }
    };
    let c = if follows { closest(&inner(a, 0.0, 0.999), b) } else { closest(&inner(a, 0.001, 1.0), b) };
    let slack = COINCIDENT.min(a.length() * 1e-5);
    (c.gap < slack).then_some(c.on_a)
}
