//! Where a face has the most room for a word.

use std::cmp::Ordering;
use std::collections::BinaryHeap;

use glam::DVec2;

use super::Contour;

/// Cells that the box of a face is cut into first, each way.
const CELLS: usize = 6;
/// Cells that are looked at, at most.
const MOST_CELLS: usize = 1500;
/// A place is good enough when no other can have more than so much more.
const ENOUGH: f64 = 1.02;

/// A part of the face's box that is still to be looked into.
struct Cell {
    centre: DVec2,
    half: DVec2,
    /// No place in it has more room.
    most: f64,
}

impl PartialEq for Cell {
    fn eq(&self, other: &Self) -> bool {
        self.cmp(other) == Ordering::Equal
    }
}

impl Eq for Cell {}

impl PartialOrd for Cell {
    fn partial_cmp(&self, other: &Self) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}

impl Ord for Cell {
    fn cmp(&self, other: &Self) -> Ordering {
        self.most.total_cmp(&other.most)
    }
}

/// The place in a face that stands the furthest from its edges, or nearly; none where the face has nowhere. A
/// distance changes no faster than its place, so that a cell has no more room than its middle and half its
/// diagonal: the cell that may have the most is cut in four until nothing much better can be left.
pub fn roomiest(outer: &Contour, holes: &[&Contour]) -> Option<DVec2> {
    let sides: Vec<_> = outer.segments().chain(holes.iter().flat_map(|h| h.segments())).collect();
    // Less than none outside.
    let room = |p: DVec2| {
        let gap = sides.iter().map(|s| s.nearest(p).distance(p)).fold(f64::INFINITY, f64::min);
        if outer.contains(p) && !holes.iter().any(|h| h.contains(p)) { gap } else { -gap }
    };
    let mut best: Option<(DVec2, f64)> = None;
    let mut cells = BinaryHeap::new();
    let put = |cells: &mut BinaryHeap<Cell>, best: &mut Option<(DVec2, f64)>, centre, half: DVec2| {
        crate::halt::often();
        let own = room(centre);
        if own > best.map_or(0.0, |b| b.1) {
            *best = Some((centre, own));
        }
        cells.push(Cell { centre, half, most: own + half.length() });
    };
    let b = outer.bounds();
    let half = b.size() / (2.0 * CELLS as f64);
    for k in 0..CELLS * CELLS {
        let at = DVec2::new((k % CELLS) as f64 + 0.5, (k / CELLS) as f64 + 0.5);
        put(&mut cells, &mut best, b.min + 2.0 * half * at, half);
    }
    for _ in 0..MOST_CELLS / 4 {
        let Some(cell) = cells.pop().filter(|c| c.most > ENOUGH * best.map_or(0.0, |b| b.1)) else { break };
        let half = cell.half / 2.0;
        for (x, y) in [(-1.0, -1.0), (1.0, -1.0), (-1.0, 1.0), (1.0, 1.0)] {
            put(&mut cells, &mut best, cell.centre + half * DVec2::new(x, y), half);
        }
    }
    best.map(|b| b.0)
}
