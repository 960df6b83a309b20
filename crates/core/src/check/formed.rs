//! The formed piece: no panel may run through another.

use glam::{DVec2, DVec3};

use super::finding;
use crate::result::{Finding, Severity};
use crate::sheet::Making;
use crate::sheet::zones::{Zone, formed, frames};

/// A panel by the middle of its sheet.
struct Panel<'a> {
    zone: &'a Zone,
    index: usize,
    corners: Vec<DVec3>,
    low: DVec3,
    high: DVec3,
    /// From space back to the flat.
    back: glam::DAffine3,
}

/// Panels by the middle of the sheet: an edge of one that goes through the material of another is told once.
pub fn check(m: &Making, out: &mut Vec<Finding>) {
    let zones = &m.blank.zones;
    if m.blank.strip.is_some() && zones.len() == m.blank.strip.as_ref().map_or(0, |s| s.parts.len()) {
        return;
    }
    let frames = frames(zones, 1.0, m.t);
    let panels: Vec<Panel> = (0..zones.len())
        .filter(|i| zones[*i].is_panel())
        .map(|i| {
            let corners: Vec<DVec3> = zones[i].region.iter().map(|p| formed(&zones[i], &frames[i], 1.0, m.t, *p, m.t / 2.0)).collect();
            let (low, high) = corners.iter().fold((DVec3::INFINITY, DVec3::NEG_INFINITY), |(l, h), p| (l.min(*p), h.max(*p)));
            Panel { zone: &zones[i], index: i, corners, low, high, back: frames[i].inverse() }
        })
        .collect();
    for (k, a) in panels.iter().enumerate() {
        for b in &panels[k + 1..] {
            let apart = a.low.cmpgt(b.high + 1e-6).any() || b.low.cmpgt(a.high + 1e-6).any();
            // Panels on either side of one bend meet there.
            let bend = |c: usize, p: usize| zones[c].parent.is_some_and(|q| zones[q].parent == Some(p));
            if apart || bend(a.index, b.index) || bend(b.index, a.index) {
                continue;
            }
            if let Some((at, through)) = pierced(m, a, b).or_else(|| pierced(m, b, a)) {
                let message = format!("Formed, {} runs through {}", through.0, through.1);
                out.push(finding("formed_through_itself", Severity::Stop, message, "the formed piece keeps clear of itself", "geometry").on(
                    vec![a.zone.name.clone(), b.zone.name.clone()],
                    Some(&b.zone.line),
                    Some(at.to_array()),
                ));
                return;
            }
        }
    }
}

/// Where an edge of `a` goes through the material of `b`: the place on the flat of `b`, and who runs through whom.
fn pierced<'a>(m: &Making, a: &'a Panel, b: &'a Panel) -> Option<(DVec2, (&'a str, &'a str))> {
    let n = a.corners.len();
    for i in 0..n {
        let ends = [a.corners[i], a.corners[(i + 1) % n]].map(|p| b.back.transform_point3(p));
        let heights = ends.map(|p| p.z - m.t / 2.0);
        if heights[0] * heights[1] >= 0.0 || (heights[0] - heights[1]).abs() < 1e-9 {
            continue;
        }
        let share = heights[0] / (heights[0] - heights[1]);
        let at = ends[0].lerp(ends[1], share).truncate();
        // A touch at the border is a corner that closes; and what is cut away is not there.
        let flat_a = a.zone.region[i].lerp(a.zone.region[(i + 1) % n], share);
        let inside = b.zone.contains(at) && b.zone.off(at) > m.t * 0.25;
        let material = |p: DVec2| m.outcome.outer.contains(p) && !m.outcome.holes.iter().any(|h| h.contour.contains(p));
        let inward = (a.zone.centre() - flat_a).normalize_or_zero() * m.t * 0.25;
        if inside && material(at) && material(flat_a + inward) {
            return Some((at, (&a.zone.name, &b.zone.name)));
        }
    }
    None
}
