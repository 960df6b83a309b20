//! Whether panels run through one another: an edge or a middle line of one, by the middle of the sheet, through the other.

use glam::{DAffine3, DVec2, DVec3};

use super::zones::{Zone, formed};

/// A panel by the middle of its sheet.
struct Panel<'a> {
    zone: &'a Zone,
    index: usize,
    corners: Vec<DVec3>,
    low: DVec3,
    high: DVec3,
    /// From space back to the flat.
    back: DAffine3,
}

/// Where the edge of one panel goes through another: both zones, and the place on the flat of the second.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Clash {
    pub edge_of: usize,
    pub through: usize,
    pub at: DVec2,
}

/// The first two panels that clash as they stand in `frames`. `there` tells whether a flat point is material.
pub fn clash(zones: &[Zone], frames: &[DAffine3], t: f64, there: &dyn Fn(DVec2) -> bool) -> Option<Clash> {
    let panel = |i: usize| {
        let corners: Vec<DVec3> = zones[i].region.iter().map(|p| formed(&zones[i], &frames[i], 1.0, t, *p, t / 2.0)).collect();
        let (low, high) = corners.iter().fold((DVec3::INFINITY, DVec3::NEG_INFINITY), |(l, h), p| (l.min(*p), h.max(*p)));
        Panel { zone: &zones[i], index: i, corners, low, high, back: frames[i].inverse() }
    };
    let panels: Vec<Panel> = (0..zones.len()).filter(|i| zones[*i].is_panel()).map(panel).collect();
    // Panels on either side of one bend meet there.
    let bend = |c: usize, p: usize| zones[c].parent.is_some_and(|q| zones[q].parent == Some(p));
    for (k, a) in panels.iter().enumerate() {
        for b in &panels[k + 1..] {
            let apart = a.low.cmpgt(b.high + 1e-6).any() || b.low.cmpgt(a.high + 1e-6).any();
            if apart || bend(a.index, b.index) || bend(b.index, a.index) {
                continue;
            }
            if let Some(found) = pierced(a, b, t, there).or_else(|| pierced(b, a, t, there)) {
                return Some(found);
            }
        }
    }
    None
}

/// The edges of a panel, and lines from their middles to its own: on the flat and in space.
fn lines(a: &Panel) -> Vec<([DVec2; 2], [DVec3; 2])> {
    let n = a.corners.len();
    let next = |i: usize| (i + 1) % n;
    let (flat, space) = (&a.zone.region, &a.corners);
    let centre = (flat.iter().sum::<DVec2>() / n as f64, space.iter().sum::<DVec3>() / n as f64);
    let edges = (0..n).map(|i| ([flat[i], flat[next(i)]], [space[i], space[next(i)]]));
    let across = (0..n).map(|i| ([(flat[i] + flat[next(i)]) / 2.0, centre.0], [(space[i] + space[next(i)]) / 2.0, centre.1]));
    edges.chain(across).collect()
}

fn pierced(a: &Panel, b: &Panel, t: f64, there: &dyn Fn(DVec2) -> bool) -> Option<Clash> {
    for (flat, space) in lines(a) {
        let ends = space.map(|p| b.back.transform_point3(p));
        let heights = ends.map(|p| p.z - t / 2.0);
        if heights[0] * heights[1] >= 0.0 || (heights[0] - heights[1]).abs() < 1e-9 {
            continue;
        }
        let share = heights[0] / (heights[0] - heights[1]);
        let at = ends[0].lerp(ends[1], share).truncate();
        // A touch at the border is a corner that closes; and what is cut away is not there.
        let own = flat[0].lerp(flat[1], share);
        let inward = (a.zone.centre() - own).normalize_or_zero() * t * 0.25;
        if b.zone.contains(at) && b.zone.off(at) > t * 0.25 && there(at) && there(own + inward) {
            return Some(Clash { edge_of: a.index, through: b.index, at });
        }
    }
    None
}
