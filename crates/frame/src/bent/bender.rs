//! A bent bar as its bender wants it: straight, turn and bend one after the other, and the corners that its
//! straight lines would meet at.

use glam::DVec3;

use super::legs::{Stretch, stretches};
use super::told::{heading, turned};
use super::{as_cut, depth};
use crate::bar::Bar;
use crate::model::{CentrelineSegment, Member};
use crate::profile::Profile;

/// Bends of more than this are told by corners in equal parts: their own corner lies far out or nowhere.
const WIDEST: f64 = 150.0 * std::f64::consts::PI / 180.0;

/// A bend in its turn; lengths in mm, angles in rad.
#[derive(Clone, Debug, PartialEq)]
pub struct BenderStep {
    /// From the start of the bar as it is cut, still straight, to where the bend begins.
    pub mark: f64,
    /// Straight before it.
    pub straight: f64,
    /// How far the bar is turned before it, from the bend before, clockwise seen along it.
    pub turn: f64,
    pub angle: f64,
    /// Of the middle line: at the beginning and at the end of the bend, which differ in a spiral.
    pub radii: [f64; 2],
}

/// Where two straight lines of the middle line meet, or a spiral begins or ends.
#[derive(Clone, Debug, PartialEq)]
pub struct BenderCorner {
    /// From the start of the bar: x along it, y to the side of its first bend.
    pub at: DVec3,
    pub radius: Option<f64>,
    pub note: &'static str,
}

#[derive(Clone, Debug, PartialEq)]
pub struct Bender {
    pub steps: Vec<BenderStep>,
    /// Which way of the section the first bend goes, from left clockwise seen along the bar.
    pub first: f64,
    /// Straight behind the last bend.
    pub tail: f64,
    /// Of the bar as it is cut.
    pub length: f64,
    pub corners: Vec<BenderCorner>,
}

/// How much longer a bar comes out of its bends than it was cut.
pub fn gain(m: &Member, p: &Profile) -> f64 {
    if m.bending.neutral == 0.5 {
        return 0.0;
    }
    as_cut(m).iter().map(|s| gained(m, p, s)).sum()
}

/// The same of one bend: its middle is longer than the line that keeps its length.
fn gained(m: &Member, p: &Profile, s: &CentrelineSegment) -> f64 {
    match (s, depth(p, s)) {
        (CentrelineSegment::Bend { sweep, .. }, Some((_, deep))) => sweep * deep * (0.5 - m.bending.neutral),
        _ => 0.0,
    }
}

/// None for a straight bar.
pub fn bender(m: &Member, p: &Profile) -> Option<Bender> {
    let way = as_cut(m);
    let first = way.iter().find_map(|s| match s {
        CentrelineSegment::Bend { bar, centre, .. } => Some((*bar, *centre)),
        _ => None,
    })?;
    let mut steps: Vec<BenderStep> = Vec::new();
    let side = heading(&first.0, first.1);
    let (mut mark, mut straight, mut before) = (0.0, 0.0, side);
    let mut segment = 0;
    for s in stretches(&way) {
        let (bar, centre, angle, radii, count) = match s {
            Stretch::Straight(length) | Stretch::Twist { length, .. } => {
                straight += length;
                mark += length;
                segment += 1;
                continue;
            }
            Stretch::Bend { bar, centre, radii, sweep, count } => (bar, centre, sweep, radii, count),
        };
        let to = heading(&bar, centre);
        steps.push(BenderStep { mark, straight, turn: turned(before, to), angle, radii });
        for s in &way[segment..segment + count] {
            mark += s.length() - gained(m, p, s);
        }
        (straight, before, segment) = (0.0, to, segment + count);
    }
    let corners = corners(&way, first.1 - first.0.o);
    Some(Bender { steps, first: side, tail: straight, length: mark, corners })
}

/// From the start of the bar, x along it and y to the side of the first bend.
fn corners(way: &[CentrelineSegment], side: DVec3) -> Vec<BenderCorner> {
    let start = way[0].at(0.0);
    let x = start.d;
    let y = (side - x * side.dot(x)).try_normalize().unwrap_or_else(|| x.any_orthonormal_vector());
    let local = |q: DVec3| {
        let v = q - start.o;
        DVec3::new(v.dot(x), v.dot(y), v.dot(x.cross(y)))
    };
    let point = |q: DVec3, note| BenderCorner { at: local(q), radius: None, note };
    let mut out = vec![point(start.o, "start")];
    let mut segment = 0;
    for s in stretches(way) {
        segment += match s {
            Stretch::Straight(_) | Stretch::Twist { .. } => 1,
            Stretch::Bend { radii: [radius, last], sweep, count, .. } if radius == last => {
                let n = (sweep / WIDEST - 1e-9).ceil().max(1.0);
                for k in 0..n as usize {
                    let bar: Bar = way[segment].at(k as f64 / n);
                    let to = bar.o + bar.d * (radius * (sweep / n / 2.0).tan());
                    out.push(BenderCorner { at: local(to), radius: Some(radius), note: "" });
                }
                count
            }
            Stretch::Bend { bar, count, .. } => {
                out.push(point(bar.o, "spiral begins"));
                out.push(point(way[segment + count - 1].at(1.0).o, "spiral ends"));
                count
            }
        };
    }
    out.push(point(way[way.len() - 1].at(1.0).o, "end"));
    out
}
