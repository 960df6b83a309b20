//! A bent bar in one line of words, and its middle line as a picture shows it.

use std::f64::consts::TAU;

use glam::{DVec2, DVec3};
use ground::quantity::Display;

use super::as_cut;
use super::legs::{Stretch, stretches};
use crate::bar::Bar;
use crate::model::{CentrelineSegment, Member};

/// Turned by less than this, rad, a bar is not turned.
const SAME_WAY: f64 = 1e-4;

/// A bent bar as it is told to the bender, from its start: straight lengths with radius and angle of each
/// bend between, by the middle of the section. The first bend of a section that is not round says to which
/// side it goes, the others how far the bar is turned before them, clockwise seen along it. Empty for a
/// straight one.
pub fn told(m: &Member, round: bool, d: &Display) -> String {
    if m.is_straight() {
        return String::new();
    }
    let mut before: Option<f64> = None;
    let mut out: Vec<String> = Vec::new();
    for s in stretches(&as_cut(m)) {
        let (bar, centre, radii, sweep) = match s {
            Stretch::Straight(length) => {
                out.push(d.length(length));
                continue;
            }
            Stretch::Twist { length, angle } => {
                let way = if angle < 0.0 { " anticlockwise" } else { "" };
                out.push(format!("twisted {}{way} over {}", d.angle(angle.abs()), d.length(length)));
                continue;
            }
            Stretch::Bend { bar, centre, radii, sweep, .. } => (bar, centre, radii, sweep),
        };
        let [from, to] = radii.map(|r| d.length(r));
        let angle = d.angle(sweep);
        let bend = if radii[0] == radii[1] {
            format!("R{from} {angle}")
        } else {
            format!("spiral R{from} to R{to} {angle}")
        };
        let heading = heading(&bar, centre);
        match before {
            None if round => out.push(bend),
            None => out.push(format!("{bend} {}", side(heading, d))),
            Some(last) => {
                let turn = turned(last, heading);
                if turn > 0.0 {
                    out.push(format!("turned {}", d.angle(turn)));
                }
                out.push(bend);
            }
        }
        before = Some(heading);
    }
    out.join(" · ")
}

/// Which way of the section a bend goes, from left clockwise seen along the bar.
pub(super) fn heading(bar: &Bar, centre: DVec3) -> f64 {
    let (to, _) = bar.turned(centre - bar.o);
    to.y.atan2(to.x)
}

/// How far a bar is turned from one bend to the next, from 0 up to a whole turn.
pub(super) fn turned(last: f64, heading: f64) -> f64 {
    let turn = (heading - last).rem_euclid(TAU);
    if turn > SAME_WAY && turn < TAU - SAME_WAY { turn } else { 0.0 }
}

/// The side of the section that a bend goes to: left and up seen along the bar from its start.
pub fn side(heading: f64, d: &Display) -> String {
    let quarter = std::f64::consts::FRAC_PI_2;
    let k = (heading / quarter).round();
    if (heading - k * quarter).abs() > SAME_WAY {
        return format!("{} clockwise from left", d.angle(heading.rem_euclid(TAU)));
    }
    ["left", "up", "right", "down"][(k as i64).rem_euclid(4) as usize].to_string()
}

/// The middle line of a bent bar as a picture shows it: x along its start, y to the side of its first bend;
/// one that is bent out of that plane is seen a little from the side, and told so.
pub fn drawn(m: &Member) -> (Vec<DVec2>, bool) {
    let mut way: Vec<DVec3> = Vec::new();
    for s in &m.way {
        let steps = if matches!(s, CentrelineSegment::Bend { .. }) { 24 } else { 1 };
        way.extend(
            (usize::from(!way.is_empty())..=steps)
                .map(|k| s.at(f64::from(k as u32) / f64::from(steps as u32)).o),
        );
    }
    let Some(first) = m.way.first() else { return (Vec::new(), false) };
    let x = first.at(0.0).d;
    let to = m
        .way
        .iter()
        .find_map(|s| {
            if let CentrelineSegment::Bend { bar, centre, .. } = s { Some(*centre - bar.o) } else { None }
        })
        .unwrap_or(DVec3::Z);
    let y = (to - x * to.dot(x)).try_normalize().unwrap_or_else(|| x.any_orthonormal_vector());
    let z = x.cross(y);
    let o = way[0];
    let spatial = way.iter().any(|p| (*p - o).dot(z).abs() > 1.0);
    let flat = |p: &DVec3| {
        let q = *p - o;
        let aside = if spatial { DVec2::new(0.35, 0.2) * q.dot(z) } else { DVec2::ZERO };
        DVec2::new(q.dot(x), q.dot(y)) + aside
    };
    (way.iter().map(flat).collect(), spatial)
}
