//! Bars that take one place along one line: told twice, one in the other, or one over the end of the other.

use ground::geom::ROUNDING;
use std::collections::HashSet;

use glam::DVec2;

use super::FrameResult;
use super::bar::Bar;
use super::interference::within;
use super::model::Member;
use super::profile::Profile;
use crate::build::skeleton::SAME;

/// Metal this deep in metal is no touch, mm.
const DEEP: f64 = 0.3;
/// Ends that reach past one another by less are a splice, mm.
const PAST: f64 = 1.0;

/// Pairs of members, the earlier first, and over how much of their length they are one. Bars that overlap
/// share a node: an end of one lies on the line of the other.
pub fn duplicates(r: &FrameResult) -> Vec<(usize, usize, f64)> {
    let mut out = Vec::new();
    let mut seen = HashSet::new();
    for j in &r.joints {
        for (k, (x, _)) in j.members_at_node.iter().enumerate() {
            ground::halt::point();
            for (y, _) in j.members_at_node[..k]
                .iter()
                .filter(|(y, _)| y.bar.d.dot(x.bar.d).abs() > 1.0 - ROUNDING && y.member != x.member)
            {
                let (a, b) = (x.member.min(y.member), x.member.max(y.member));
                let roots = (r.members[a].root, r.members[b].root);
                if seen.contains(&roots) {
                    continue;
                }
                if let Some(by) = shared(r, a, b) {
                    seen.insert(roots);
                    out.push((a, b, by));
                }
            }
        }
    }
    out
}

/// Over how much of their length two bars that meet in line take one place.
fn shared(r: &FrameResult, a: usize, b: usize) -> Option<f64> {
    let (ma, mb) = (&r.members[a], &r.members[b]);
    if !ma.is_straight() || !mb.is_straight() {
        let ends = |m: &Member| (m.from.min(m.to), m.from.max(m.to));
        let same = ends(ma) == ends(mb)
            && (ma.length - mb.length).abs() < SAME
            && ma.middle().distance(mb.middle()) < SAME;
        return same.then_some(ma.length);
    }
    let span = |m: &Member| (m.station(0, DVec2::ZERO), m.length - m.station(1, DVec2::ZERO));
    let (bar, other) = (ma.end(0), mb.end(0));
    let (from, to) = span(ma);
    let [p, q] = <[f64; 2]>::from(span(mb)).map(|s| bar.local(other.o + other.d * s).1);
    let by = to.min(p.max(q)) - from.max(p.min(q));
    let of = |m: &Member| &r.profiles[m.profile];
    (by > PAST && (metal_in(of(mb), &other, of(ma), &bar) || metal_in(of(ma), &bar, of(mb), &other)))
        .then_some(by)
}

/// Whether some metal of one section lies in the metal of another beside it; a tube in the bore of a tube
/// does not.
fn metal_in(p: &Profile, bar: &Bar, wall: &Profile, at: &Bar) -> bool {
    let bores: Vec<Vec<DVec2>> = wall.holes.iter().map(|c| c.flatten(0.05)).collect();
    p.spread
        .iter()
        .step_by(3)
        .map(|&(q, _)| at.local(bar.point(q, 0.0)).0)
        .any(|q| within(&wall.fine, q) > DEEP && bores.iter().all(|b| within(b, q) < -DEEP))
}
