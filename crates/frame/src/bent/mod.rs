//! A bar bent at the inner nodes of its path: straight stretches with arcs tangent between them.

mod bender;
mod itself;
mod legs;
mod told;

pub use bender::{Bender, BenderCorner, BenderStep, bender, gain};
pub use itself::self_met;
pub use legs::{LEAST_SPIRAL, Leg, LegKind, NoWay, Towards, by_points, walked};
pub use told::{drawn, side, told};

use glam::{DVec2, DVec3};
use ground::geom::{COINCIDENT, ROUNDING};

use super::bar::Bar;
use super::model::{CentrelineSegment, Member, across};
use super::profile::Profile;
use crate::build::skeleton::stand;
use crate::choices::Alignment;

/// An arc from the first of three points through the second to the third, or the whole ring through them.
pub fn arc(points: &[DVec3], ring: bool, turn: f64) -> Result<Vec<CentrelineSegment>, (String, String)> {
    let &[a, b, c] = points else {
        return Err((
            "an arc runs through three nodes".into(),
            "name where it starts, one on the way, and where it ends".into(),
        ));
    };
    let (u, v) = (b - a, c - a);
    let w = u.cross(v);
    // The sine of the angle at the first: below this the three lie in line for any shop.
    if w.length() < 1e-4 * u.length() * v.length() {
        return Err((
            "the three nodes lie in line".into(),
            "move the middle one aside, or leave the arc out".into(),
        ));
    }
    let centre =
        a + (w.cross(u) * v.length_squared() + v.cross(w) * u.length_squared()) / (2.0 * w.length_squared());
    let axis = w.normalize();
    let (from, to) = (a - centre, c - centre);
    let sweep = if ring {
        std::f64::consts::TAU
    } else {
        axis.dot(from.cross(to)).atan2(from.dot(to)).rem_euclid(std::f64::consts::TAU)
    };
    let bar = stand(a, axis.cross(from).normalize(), turn);
    Ok(vec![CentrelineSegment::Bend { bar, centre, axis, radius: from.length(), sweep }])
}

/// The same way with another point of the section on the line between the nodes; none where a bend would run
/// into its own centre.
pub fn set_off(way: Vec<CentrelineSegment>, sits: DVec2) -> Option<Vec<CentrelineSegment>> {
    let off = |bar: Bar| Bar { o: bar.o - bar.y * sits.x - bar.z * sits.y, ..bar };
    let moved = way.into_iter().map(|s| match s {
        CentrelineSegment::Straight { bar, length } => {
            Some(CentrelineSegment::Straight { bar: off(bar), length })
        }
        // About the middle of the section, which is then what sits on the line.
        CentrelineSegment::Twist { .. } => Some(s),
        CentrelineSegment::Bend { bar, centre, axis, sweep, .. } => {
            let (was, now) = (bar.o - centre, off(bar).o - centre);
            let spoke = across(now, axis);
            let out = spoke.dot(was.normalize_or_zero());
            (out > 1e-3).then(|| CentrelineSegment::Bend {
                bar: off(bar),
                centre: centre + (now - spoke),
                axis,
                radius: spoke.length(),
                sweep,
            })
        }
    });
    moved.collect()
}

/// The way through `points` with bends of `radius`; the bar carries its section round each bend without
/// twisting.
pub fn way(
    points: &[DVec3],
    closed: bool,
    radius: f64,
    turn: f64,
) -> Result<Vec<CentrelineSegment>, (String, String)> {
    let n = points.len();
    let corners: Vec<usize> = (1..n - 1).collect();
    let back = |i: usize| -> f64 {
        let (u, v) = ((points[i] - points[i - 1]).normalize(), (points[(i + 1) % n] - points[i]).normalize());
        radius * (u.angle_between(v) / 2.0).tan()
    };
    let told = "write a smaller radius, or move the nodes apart".to_string();
    if closed {
        // The ring is cut at the middle of its first leg.
        let middle = points[0].lerp(points[1], 0.5);
        let mut open = vec![middle];
        open.extend_from_slice(&points[1..n]);
        open.push(points[1].lerp(points[0], 0.5));
        return way(&open, false, radius, turn);
    }
    let backs: Vec<f64> = (0..n).map(|i| if corners.contains(&i) { back(i) } else { 0.0 }).collect();
    let mut out = Vec::new();
    let first = (points[1] - points[0]).normalize();
    let mut bar = stand(points[0], first, turn);
    for i in 0..n - 1 {
        let d = (points[i + 1] - points[i]).normalize();
        let length = points[i].distance(points[i + 1]) - backs[i] - backs[i + 1];
        if !length.is_finite() || length < -COINCIDENT {
            return Err((format!("the leg at node {} of the path is too short for its bends", i + 1), told));
        }
        if length > ROUNDING {
            out.push(CentrelineSegment::Straight { bar, length });
        }
        bar.o += bar.d * length.max(0.0);
        if i + 2 < n {
            let next = (points[i + 2] - points[i + 1]).normalize();
            let sweep = d.angle_between(next);
            if sweep < ROUNDING {
                continue;
            }
            if sweep > std::f64::consts::PI - 1e-3 {
                return Err(("the path turns back on itself".into(), "leave the node out".into()));
            }
            let axis = d.cross(next).normalize();
            let centre = bar.o + axis.cross(d) * radius;
            let bend = CentrelineSegment::Bend { bar, centre, axis, radius, sweep };
            bar = bend.at(1.0);
            out.push(bend);
        }
    }
    Ok(out)
}

/// The way with the section on the line as told, where there is room for it inside of every bend; else what
/// is wrong and what mends it.
pub fn seated(
    way: Vec<CentrelineSegment>,
    p: &Profile,
    sits: Alignment,
) -> Result<Vec<CentrelineSegment>, (String, String)> {
    let fault = || {
        let message = "the bend is tighter than the bar is deep".to_string();
        let mend = "let it run round a centreline radius larger than half of its depth".to_string();
        (message, mend)
    };
    let way = set_off(way, p.sits(sits)).ok_or_else(fault)?;
    let tight = |s: &CentrelineSegment| match (s, depth(p, s)) {
        (CentrelineSegment::Bend { radius, .. }, Some((reach, _))) => *radius <= reach,
        _ => false,
    };
    if way.iter().any(tight) { Err(fault()) } else { Ok(way) }
}

/// How far the section reaches from its middle to the inside of a bend, and how deep it is that way.
pub fn depth(p: &Profile, s: &CentrelineSegment) -> Option<(f64, f64)> {
    let CentrelineSegment::Bend { bar, centre, .. } = s else { return None };
    let (to, _) = bar.turned(*centre - bar.o);
    let b = p.outer.moved(-to.to_angle(), DVec2::ZERO).bounds();
    Some((b.max.x, b.size().x))
}

/// What is left of a bar between its cuts, by its middle: the first and the last stretch end at them.
pub fn as_cut(m: &Member) -> Vec<CentrelineSegment> {
    let mut way = m.way.clone();
    if m.closed {
        return way;
    }
    let [first, last] = [0, 1].map(|k| m.station(k, DVec2::ZERO));
    let end = way.len() - 1;
    way[0] = without(&way[0], first, true);
    way[end] = without(&way[end], last, false);
    way
}

/// A stretch that is shorter by so much, at its start or at its end.
fn without(s: &CentrelineSegment, by: f64, at_start: bool) -> CentrelineSegment {
    let bar = if at_start { s.at(by / s.length().max(1e-12)) } else { s.at(0.0) };
    match *s {
        CentrelineSegment::Straight { length, .. } => {
            CentrelineSegment::Straight { bar, length: length - by }
        }
        CentrelineSegment::Twist { length, angle, .. } => {
            CentrelineSegment::Twist { bar, length: length - by, angle: angle * (1.0 - by / length) }
        }
        CentrelineSegment::Bend { centre, axis, radius, sweep, .. } => {
            CentrelineSegment::Bend { bar, centre, axis, radius, sweep: sweep - by / radius }
        }
    }
}
