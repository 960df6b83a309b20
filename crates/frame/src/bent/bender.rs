//! A bent bar as its bender wants it: straight, turn and bend one after the other, and the corners that its
//! straight lines would meet at.

use glam::DVec3;
use ground::quantity::Display;
use serde::Serialize;

use super::legs::{Stretch, stretches};
use super::told::{heading, side, turned};
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
    /// Straight behind the last bend.
    pub tail: f64,
    /// Of the bar as it is cut.
    pub length: f64,
    pub corners: Vec<BenderCorner>,
}

/// How much longer a bar comes out of its bends than it was cut.
pub fn gain(m: &Member, p: &Profile) -> f64 {
    if m.neutral == 0.5 {
        return 0.0;
    }
    m.way.iter().map(|s| gained(m, p, s)).sum()
}

/// The same of one bend: its middle is longer than the line that keeps its length.
fn gained(m: &Member, p: &Profile, s: &CentrelineSegment) -> f64 {
    match (s, depth(p, s)) {
        (CentrelineSegment::Bend { sweep, .. }, Some((_, deep))) => sweep * deep * (0.5 - m.neutral),
        _ => 0.0,
    }
}

/// None for a straight bar.
pub fn bender(m: &Member, p: &Profile) -> Option<Bender> {
    let way = as_cut(m);
    let first = way.iter().find_map(|s| match s {
        CentrelineSegment::Bend { bar, centre, .. } => Some((*bar, *centre)),
        CentrelineSegment::Straight { .. } => None,
    })?;
    let mut steps: Vec<BenderStep> = Vec::new();
    let (mut mark, mut straight, mut before) = (0.0, 0.0, heading(&first.0, first.1));
    let mut segment = 0;
    for s in stretches(&way) {
        let (bar, centre, angle, radii, count) = match s {
            Stretch::Straight(length) => {
                straight += length;
                mark += length;
                segment += 1;
                continue;
            }
            Stretch::Bend { bar, centre, radius, sweep } => (bar, centre, sweep, [radius; 2], 1),
            Stretch::Spiral { bar, centre, radii, sweep, count } => (bar, centre, sweep, radii, count),
        };
        let to = heading(&bar, centre);
        steps.push(BenderStep { mark, straight, turn: turned(before, to), angle, radii });
        for s in &way[segment..segment + count] {
            mark += s.length() - gained(m, p, s);
        }
        (straight, before, segment) = (0.0, to, segment + count);
    }
    Some(Bender { steps, tail: straight, length: mark, corners: corners(&way, first.1 - first.0.o) })
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
            Stretch::Straight(_) => 1,
            Stretch::Bend { radius, sweep, .. } => {
                let n = (sweep / WIDEST - 1e-9).ceil().max(1.0);
                for k in 0..n as usize {
                    let bar: Bar = way[segment].at(k as f64 / n);
                    let to = bar.o + bar.d * (radius * (sweep / n / 2.0).tan());
                    out.push(BenderCorner { at: local(to), radius: Some(radius), note: "" });
                }
                1
            }
            Stretch::Spiral { bar, count, .. } => {
                out.push(point(bar.o, "spiral begins"));
                out.push(point(way[segment + count - 1].at(1.0).o, "spiral ends"));
                count
            }
        };
    }
    out.push(point(way[way.len() - 1].at(1.0).o, "end"));
    out
}

/// The side of the section that the first bend goes to.
fn first_side(m: &Member, d: &Display) -> String {
    let bend = m.way.iter().find_map(|s| match s {
        CentrelineSegment::Bend { bar, centre, .. } => Some(heading(bar, *centre)),
        CentrelineSegment::Straight { .. } => None,
    });
    bend.map_or(String::new(), |h| side(h, d))
}

/// The table as it is printed; lengths in the unit of the job.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct BenderTable {
    pub steps: Vec<BenderRow>,
    /// Straight behind the last bend.
    pub tail: String,
    pub corners: Vec<CornerRow>,
    /// What the cut length rests on.
    pub rests: String,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct BenderRow {
    /// Where the bend begins, from the start of the bar as it is cut.
    pub mark: String,
    pub straight: String,
    /// Clockwise seen along the bar; empty for none. Of the first bend the side of the section that it goes
    /// to, where the section is not round.
    pub turn: String,
    pub angle: String,
    pub radius: String,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct CornerRow {
    pub x: String,
    pub y: String,
    pub z: String,
    /// `R40.0`, or what is here instead of a corner.
    pub what: String,
}

pub fn table(m: &Member, p: &Profile, d: &Display) -> Option<BenderTable> {
    let b = bender(m, p)?;
    let first = if p.section.shape.is_round() { String::new() } else { first_side(m, d) };
    let row = |(i, s): (usize, &BenderStep)| BenderRow {
        mark: d.length(s.mark),
        straight: d.length(s.straight),
        turn: match i {
            0 => first.clone(),
            _ if s.turn > 0.0 => d.angle(s.turn),
            _ => String::new(),
        },
        angle: d.angle(s.angle),
        radius: match s.radii {
            [a, b] if a == b => d.length(a),
            [a, b] => format!("{} to {}", d.length(a), d.length(b)),
        },
    };
    let corner = |c: &BenderCorner| CornerRow {
        x: d.length(c.at.x),
        y: d.length(c.at.y),
        z: d.length(c.at.z),
        what: c.radius.map_or(c.note.into(), |r| format!("R{}", d.length(r))),
    };
    let gained = gain(m, p);
    let rests = if gained == 0.0 {
        "the middle of the bar keeps its length".to_string()
    } else {
        let by =
            if m.neutral_by.is_empty() { "as told".into() } else { format!("of test bend {}", m.neutral_by) };
        let so = if gained > 0.0 { "shorter" } else { "longer" };
        format!(
            "K {} {by}: cut {} {so} than its middle",
            ground::quantity::trim_number(m.neutral, 3),
            d.length_unit(gained.abs())
        )
    };
    Some(BenderTable {
        steps: b.steps.iter().enumerate().map(row).collect(),
        tail: d.length(b.tail),
        corners: b.corners.iter().map(corner).collect(),
        rests,
    })
}
