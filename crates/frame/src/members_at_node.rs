//! Which members come to a node: those that end there, and those that pass it on their way.

use std::f64::consts::TAU;

use glam::{DVec2, DVec3};

use super::bar::Bar;
use super::model::{CentrelineSegment, across};
use crate::build::skeleton::{SAME, Skeleton};

/// A member at a node.
#[derive(Clone, Debug, PartialEq)]
pub struct MemberAtNode {
    pub member: usize,
    /// Which end; none where it passes.
    pub end: Option<usize>,
    pub bar: Bar,
}

/// Who is at each node: ends, then members that pass it.
pub fn members_at_node(s: &Skeleton) -> Vec<Vec<MemberAtNode>> {
    let mut at: Vec<Vec<MemberAtNode>> = vec![Vec::new(); s.nodes.len()];
    for (i, m) in s.members.iter().enumerate() {
        ground::halt::point();
        if m.closed {
            continue;
        }
        at[m.from].push(MemberAtNode { member: i, end: Some(0), bar: m.end(0) });
        at[m.to].push(MemberAtNode { member: i, end: Some(1), bar: m.end(1) });
    }
    let mut sorted: Vec<(f64, usize)> = s.nodes.iter().enumerate().map(|(i, n)| (n.at.x, i)).collect();
    sorted.sort_by(|a, b| a.0.total_cmp(&b.0));
    for (i, m) in s.members.iter().enumerate() {
        ground::halt::point();
        for w in &m.way {
            let (low, high) = reach_in_x(w, m.sits);
            let from = sorted.partition_point(|v| v.0 < low);
            for &(_, k) in sorted[from..].iter().take_while(|v| v.0 <= high) {
                if k != m.from
                    && k != m.to
                    && let Some(bar) = passing(w, m.sits, s.nodes[k].at)
                {
                    at[k].push(MemberAtNode { member: i, end: None, bar });
                }
            }
        }
    }
    at
}

/// The line of a bar that lies between the nodes, where its section is set off it.
fn line_point(bar: &Bar, sits: DVec2) -> DVec3 {
    bar.point(sits, 0.0)
}

/// From where to where along x the nodes on a stretch can lie.
fn reach_in_x(w: &CentrelineSegment, sits: DVec2) -> (f64, f64) {
    let (low, high) = match w {
        CentrelineSegment::Straight { .. } | CentrelineSegment::Twist { .. } => {
            let (a, b) = (line_point(&w.at(0.0), sits).x, line_point(&w.at(1.0), sits).x);
            (a.min(b), a.max(b))
        }
        CentrelineSegment::Bend { bar, centre, .. } => {
            let r = line_point(bar, sits).distance(*centre);
            (centre.x - r, centre.x + r)
        }
    };
    (low - SAME, high + SAME)
}

/// The bar where its line passes a place between its ends; round a bend, the tangent there.
fn passing(w: &CentrelineSegment, sits: DVec2, place: DVec3) -> Option<Bar> {
    match *w {
        CentrelineSegment::Straight { bar, length } | CentrelineSegment::Twist { bar, length, .. } => {
            let v = place - line_point(&bar, sits);
            let along = v.dot(bar.d);
            let inside = along > SAME && along < length - SAME && (v - bar.d * along).length() < SAME;
            inside.then(|| w.at(along / length))
        }
        CentrelineSegment::Bend { bar, centre, axis, sweep, .. } => {
            let start = line_point(&bar, sits) - centre;
            let (from, to) = (across(start, axis), across(place - centre, axis));
            let turned = axis.dot(from.cross(to)).atan2(from.dot(to)).rem_euclid(TAU);
            let r = from.length();
            let away = (to.length() - r).hypot((place - centre - start).dot(axis));
            (away < SAME && turned * r > SAME && (sweep - turned) * r > SAME).then(|| w.at(turned / sweep))
        }
    }
}
