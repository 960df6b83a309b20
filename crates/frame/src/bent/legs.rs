//! A bar told leg by leg: straight stretches, bends and spirals, each bend with the way that it goes.

use glam::{DQuat, DVec3};
use ground::geom::{COINCIDENT, ROUNDING};
use ground::quantity::Display;

use crate::bar::Bar;
use crate::build::skeleton::stand;
use crate::model::{CentrelineSegment, across};

/// Where a bend goes to.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Towards {
    /// As the one before it; the first one up, on an upright bar north.
    Same,
    World(DVec3),
    /// From that of the one before it, clockwise seen along the bar.
    Turned(f64),
}

/// A part of a bar; lengths in mm, angles in rad.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Leg {
    /// Which of the told ones it is.
    pub at: usize,
    pub kind: LegKind,
}

#[derive(Clone, Copy, Debug, PartialEq)]
pub enum LegKind {
    Straight(f64),
    /// Straight on, while the section turns.
    Twist {
        angle: f64,
        length: f64,
    },
    Bend {
        angle: f64,
        radius: f64,
        towards: Towards,
    },
    /// A bend whose radius grows evenly with its angle: an involute of a circle.
    Spiral {
        angle: f64,
        radii: [f64; 2],
        towards: Towards,
    },
}

/// Why a bar cannot go as it is told: the leg, its field, what is wrong and what mends it.
#[derive(Debug)]
pub struct NoWay {
    pub at: usize,
    pub field: &'static str,
    pub message: String,
    pub mend: String,
}

/// Arcs of a spiral turn by no more than this, rad.
const STEP: f64 = 5.0 * std::f64::consts::PI / 180.0;
/// So many arcs that grow evenly are a spiral.
const SPIRAL: usize = 9;
/// A told spiral turns by this at least, rad, so that it is read back as one.
pub const LEAST_SPIRAL: f64 = 45.0 * std::f64::consts::PI / 180.0;
/// Cosine of what is left between a bar and the way that it should bend to: below this there is no bend.
const ALONG: f64 = 1e-3;

/// The way of a bar from `o` along `d`. `to_corners`: legs are told to where their lines meet, else to where
/// bends begin.
pub fn walked(
    o: DVec3,
    d: DVec3,
    turn: f64,
    legs: &[Leg],
    to_corners: bool,
    display: &Display,
) -> Result<Vec<CentrelineSegment>, NoWay> {
    let mut bar = stand(o, d, turn);
    let mut towards = stand(o, d, 0.0).z;
    let mut out = Vec::new();
    for (i, leg) in legs.iter().enumerate() {
        ground::halt::point();
        match leg.kind {
            LegKind::Straight(told) => {
                let mut length = told;
                if to_corners {
                    let beside = [i.checked_sub(1).map(|k| legs[k]), legs.get(i + 1).copied()];
                    for l in beside.into_iter().flatten() {
                        length -= set_back(&l, display)?;
                    }
                }
                if length < -COINCIDENT {
                    let least = display.length_unit(told - length);
                    return Err(NoWay {
                        at: leg.at,
                        field: "",
                        message: format!("the bends beside this leg take {least} of it"),
                        mend: format!("write {least} or more, or smaller radii"),
                    });
                }
                if length > ROUNDING {
                    out.push(CentrelineSegment::Straight { bar, length });
                    bar.o += bar.d * length;
                }
            }
            LegKind::Twist { angle, length } => {
                let twist = CentrelineSegment::Twist { bar, length, angle };
                out.push(twist);
                bar = twist.at(1.0);
            }
            LegKind::Bend { angle, radius, towards: to } => {
                towards = aimed(&bar, towards, to, leg.at)?;
                bent(&mut out, &mut bar, &mut towards, radius, angle);
            }
            LegKind::Spiral { angle, radii: [first, last], towards: to } => {
                towards = aimed(&bar, towards, to, leg.at)?;
                let n = (angle / STEP).ceil().max(1.0) as usize;
                for k in 0..n {
                    let radius = first + (last - first) * (k as f64 + 0.5) / n as f64;
                    bent(&mut out, &mut bar, &mut towards, radius, angle / n as f64);
                }
            }
        }
    }
    Ok(out)
}

/// One arc onto the way, and the bar and its side carried to where it ends.
fn bent(out: &mut Vec<CentrelineSegment>, bar: &mut Bar, towards: &mut DVec3, radius: f64, sweep: f64) {
    let axis = bar.d.cross(*towards).normalize();
    let centre = bar.o + *towards * radius;
    let bend = CentrelineSegment::Bend { bar: *bar, centre, axis, radius, sweep };
    *bar = bend.at(1.0);
    *towards = DQuat::from_axis_angle(axis, sweep) * *towards;
    out.push(bend);
}

/// What a bend takes of the leg beside it when legs are told to corners.
fn set_back(leg: &Leg, display: &Display) -> Result<f64, NoWay> {
    let LegKind::Bend { angle, radius, .. } = leg.kind else { return Ok(0.0) };
    if angle > std::f64::consts::PI - 1e-3 {
        return Err(NoWay {
            at: leg.at,
            field: "/angle",
            message: format!("legs on either side of {} do not meet in a corner", display.angle(angle)),
            mend: "tell legs to their tangents, or two bends of half the angle".into(),
        });
    }
    Ok(radius * (angle / 2.0).tan())
}

/// The way to the centre of a bend, across the bar.
fn aimed(bar: &Bar, before: DVec3, to: Towards, at: usize) -> Result<DVec3, NoWay> {
    let told = match to {
        Towards::Same => before,
        Towards::Turned(by) => DQuat::from_axis_angle(bar.d, by) * before,
        Towards::World(to) => to,
    };
    let aim = across(told, bar.d);
    if aim.length() < ALONG {
        return Err(NoWay {
            at,
            field: "/towards",
            message: "the bar runs that way already, or straight back from it".into(),
            mend: "name a direction across the bar".into(),
        });
    }
    Ok(aim.normalize())
}

/// A bar told by the points where its legs would meet, as legs told to corners, and the way it sets out.
pub fn by_points(o: DVec3, points: &[(DVec3, f64)]) -> Result<(DVec3, Vec<Leg>), NoWay> {
    let fault = |at, field, message: &str, mend: &str| NoWay {
        at,
        field,
        message: message.into(),
        mend: mend.into(),
    };
    let ways: Vec<DVec3> =
        std::iter::once(&(o, 0.0)).chain(points).zip(points).map(|(from, to)| to.0 - from.0).collect();
    if let Some(at) = ways.iter().position(|w| w.length() < COINCIDENT) {
        return Err(fault(
            at,
            "/x",
            "this point stands where the one before it does",
            "move it, or leave it out",
        ));
    }
    let mut legs = Vec::new();
    for (at, way) in ways.iter().enumerate() {
        legs.push(Leg { at, kind: LegKind::Straight(way.length()) });
        let Some(next) = ways.get(at + 1) else { break };
        let angle = way.angle_between(*next);
        if angle > std::f64::consts::PI - 1e-3 {
            return Err(fault(at + 1, "/x", "the bar turns back on itself", "move this point"));
        }
        let radius = points[at].1;
        if angle < ALONG {
            if radius > 0.0 {
                return Err(fault(at, "/radius", "the bar runs straight on here", "leave the radius out"));
            }
            continue;
        }
        if radius <= 0.0 {
            return Err(fault(
                at,
                "/radius",
                "no radius is told for this corner",
                "write the radius of its bend",
            ));
        }
        let towards = Towards::World(next.normalize());
        legs.push(Leg { at, kind: LegKind::Bend { angle, radius, towards } });
    }
    if points.last().is_some_and(|p| p.1 > 0.0) {
        let at = points.len() - 1;
        return Err(fault(at, "/radius", "the bar ends here: nothing is bent", "leave the radius out"));
    }
    Ok((ways[0].normalize(), legs))
}

/// A stretch as the shop sees it: arcs that grow evenly are one bend.
#[derive(Clone, Copy, Debug)]
pub enum Stretch {
    Straight(f64),
    Twist {
        length: f64,
        angle: f64,
    },
    Bend {
        bar: Bar,
        centre: DVec3,
        /// At its beginning and at its end, which differ in a spiral.
        radii: [f64; 2],
        sweep: f64,
        /// Of the segments that it is made of.
        count: usize,
    },
}

/// A way as the shop sees it.
pub fn stretches(way: &[CentrelineSegment]) -> Vec<Stretch> {
    let mut out = Vec::new();
    let mut i = 0;
    while i < way.len() {
        let (count, step) = growing(&way[i..]);
        match way[i] {
            CentrelineSegment::Straight { length, .. } => out.push(Stretch::Straight(length)),
            CentrelineSegment::Twist { length, angle, .. } => out.push(Stretch::Twist { length, angle }),
            CentrelineSegment::Bend { bar, centre, radius, sweep, .. } => {
                let first = radius - step / 2.0;
                let radii = [first, first + step * count as f64];
                out.push(Stretch::Bend { bar, centre, radii, sweep: sweep * count as f64, count });
            }
        }
        i += count;
    }
    out
}

/// How many arcs from here on make a spiral, and how much the radius grows from one to the next; else one
/// that does not grow.
fn growing(way: &[CentrelineSegment]) -> (usize, f64) {
    let arc = |s: &CentrelineSegment| match *s {
        CentrelineSegment::Bend { axis, radius, sweep, .. } => Some((axis, radius, sweep)),
        CentrelineSegment::Straight { .. } | CentrelineSegment::Twist { .. } => None,
    };
    let Some(((axis, r0, sweep), (_, r1, _))) = way.first().and_then(arc).zip(way.get(1).and_then(arc))
    else {
        return (1, 0.0);
    };
    let step = r1 - r0;
    let follows = |(k, s): (usize, &CentrelineSegment)| {
        arc(s).is_some_and(|(a, r, w)| {
            a.dot(axis) > 1.0 - ROUNDING
                && (w - sweep).abs() < ROUNDING
                && (r - r0 - step * k as f64).abs() < COINCIDENT
        })
    };
    let count = way.iter().enumerate().take_while(|s| follows(*s)).count();
    let spiral = count >= SPIRAL && sweep < STEP + ROUNDING && step.abs() > ROUNDING;
    if spiral { (count, step) } else { (1, 0.0) }
}
