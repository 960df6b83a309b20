//! Contours in contours: outlines, what is cut out of them, and parts that lie in what falls out.

use steelk_core::geom::{Bounds, Contour, Grid};
use steelk_core::halt;

/// One part: its outline and its cuts, as places in the list of contours.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Part {
    pub outline: usize,
    pub cuts: Vec<usize>,
}

/// `contours` from the largest to the smallest. The parts, largest first.
pub fn nest(contours: &[&Contour]) -> Vec<Part> {
    let boxes: Vec<Bounds> = contours.iter().map(|c| c.bounds()).collect();
    let grid = Grid::new(&boxes, 0.0);
    // Of each: whether it is cut out, and the part that it belongs to.
    let mut at: Vec<(bool, usize)> = Vec::with_capacity(contours.len());
    let mut parts: Vec<Part> = Vec::new();
    for (k, c) in contours.iter().enumerate() {
        halt::often();
        let b = boxes[k];
        let looks = || c.segments().flat_map(|s| [s.a, s.at(0.5)]);
        // The smallest that holds it. A cut may reach over the outline's edge; what lies only partly in a cut
        // is a cut beside it.
        let parent = grid.near(&b).into_iter().rev().map(|j| j as usize).find(|&j| {
            let o = boxes[j];
            let apart = b.min.cmpgt(o.max).any() || b.max.cmplt(o.min).any();
            let within = b.min.cmpge(o.min).all() && b.max.cmple(o.max).all();
            j < k
                && !apart
                && if at[j].0 {
                    within && looks().all(|p| contours[j].contains(p))
                } else {
                    looks().any(|p| contours[j].contains(p))
                }
        });
        at.push(match parent {
            Some(j) if !at[j].0 => {
                parts[at[j].1].cuts.push(k);
                (true, at[j].1)
            }
            _ => {
                parts.push(Part { outline: k, cuts: Vec::new() });
                (false, parts.len() - 1)
            }
        });
    }
    parts
}
