//! The formed piece: no panel may run through another.

use super::finding;
use crate::result::{Finding, Severity};
use crate::sheet::Making;
use crate::sheet::clash::clash;
use crate::sheet::zones::frames;

pub fn check(m: &Making, out: &mut Vec<Finding>) {
    let zones = &m.blank.zones;
    // A strip without folds is looked at by its profile.
    if m.blank.strip.as_ref().is_some_and(|s| s.parts.len() == zones.len()) {
        return;
    }
    let there = |p| m.outcome.outer.contains(p) && !m.outcome.holes.iter().any(|h| h.contour.contains(p));
    if let Some(c) = clash(zones, &frames(zones, 1.0, m.t), m.t, &there) {
        let (edge, through) = (&zones[c.edge_of], &zones[c.through]);
        let message = format!("Formed, {} runs through {}", edge.name, through.name);
        out.push(finding("formed_through_itself", Severity::Stop, message, "the formed piece keeps clear of itself", "geometry").on(
            vec![edge.name.clone(), through.name.clone()],
            Some(&through.line),
            Some(c.at.to_array()),
        ));
    }
}
