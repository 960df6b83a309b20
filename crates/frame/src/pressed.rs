//! Ends of round tubes pressed flat: the wall keeps its thickness, and its middle the length round.

use std::f64::consts::{FRAC_PI_2, PI};

use glam::DVec2;
use ground::geom::COINCIDENT;
use ground::reader::Tell;
use shop::section::Shape;

use super::model::{CentrelineSegment, EndPressed, Member};
use super::profile::Profile;
use super::solid::flat;
use crate::build::skeleton::Skeleton;

/// The inner faces of what is pressed stand this far apart, mm, so that its mesh bounds a body.
const OPEN: f64 = 0.01;
/// An end that slopes by less than this, mm a mm, is square.
const SQUARE: f64 = 1e-9;
/// Parts that the change from round to flat is drawn in.
const PARTS: usize = 12;

/// How wide a round tube is pressed flat, and how thick; none for any other section.
pub fn pressed_width(p: &Profile) -> Option<DVec2> {
    let Shape::Tube { d, t } = p.section.shape else { return None };
    // Of the middle of the wall what does not go round either edge lies in two flats.
    Some(DVec2::new((PI * (d - t) - PI * t) / 2.0 + 2.0 * t, 2.0 * t))
}

/// Ends told flat are looked at when they stand: where they are not square, or too short, they stay round.
pub fn seat_pressed(tell: &mut Tell, s: &mut Skeleton) {
    // What cannot be of a bar and of its copies is told once.
    let mut refused: Vec<(String, usize)> = Vec::new();
    for m in &mut s.members {
        for end in 0..2 {
            let Some(told) = m.pressed[end].clone() else { continue };
            let which = ["start", "end"][end];
            let p = &s.profiles[m.profile];
            let fault = match (flat(m, p, end), m.end_stretch(end)) {
                (Some(f), CentrelineSegment::Straight { length, .. }) if f.slope.length() < SQUARE => {
                    let far = m.pressed[end ^ 1].as_ref().map_or(0.0, |o| o.length + o.over);
                    let other = if m.way.len() > 1 { 0.0 } else { m.station(end ^ 1, DVec2::ZERO) + far };
                    let room = length - f.at - other;
                    (told.length + told.over > room + COINCIDENT).then(|| {
                        let room = tell.display.length_unit(room.max(0.0));
                        let message = format!("{} has {room} of straight at its {which}", m.name);
                        ("/say/length", message, "write shorter lengths")
                    })
                }
                (_, CentrelineSegment::Straight { .. }) => Some((
                    "/say/ends",
                    format!("the {which} of {} is not cut square", m.name),
                    "flatten an end that is free, or trim it square first",
                )),
                _ => Some((
                    "/say/ends",
                    format!("{} is bent up to its {which}", m.name),
                    "let it end in a straight leg",
                )),
            };
            if let Some((path, message, mend)) = fault {
                let of = (told.line.clone(), m.root);
                if !refused.contains(&of) {
                    tell.enter(&told.line);
                    tell.refuse_at(path, message, mend);
                    refused.push(of);
                }
                m.pressed[end] = None;
            }
        }
    }
}

/// A section as it changes towards ends that are pressed.
pub struct Pressed<'a> {
    /// Of each end: where the bar begins, and what is told.
    ends: [Option<(f64, &'a EndPressed)>; 2],
    length: f64,
    wall: f64,
    /// Half across the middle of the wall while it is round.
    radius: f64,
}

impl<'a> Pressed<'a> {
    /// None where neither end is pressed.
    pub fn of(m: &'a Member, p: &Profile) -> Option<Pressed<'a>> {
        let Shape::Tube { d, t } = p.section.shape else { return None };
        let ends = [0, 1].map(|k| m.pressed[k].as_ref().map(|e| (m.station(k, DVec2::ZERO), e)));
        let any = ends.iter().any(Option::is_some);
        any.then_some(Pressed { ends, length: m.length, wall: t, radius: (d - t) / 2.0 })
    }

    /// Places along the bar where rows of its mesh are wanted.
    pub fn rows(&self) -> Vec<f64> {
        let mut out = Vec::new();
        for (k, end) in self.ends.iter().enumerate() {
            let Some((at, told)) = end else { continue };
            let steps = (0..=PARTS).map(|i| told.length + told.over * i as f64 / PARTS as f64);
            out.extend(steps.map(|s| if k == 0 { at + s } else { self.length - at - s }));
        }
        out.sort_by(f64::total_cmp);
        out
    }

    /// Where a point of the round section lies so far along the bar.
    pub fn place(&self, q: DVec2, along: f64) -> DVec2 {
        let near = self.ends.iter().enumerate().find_map(|(k, end)| {
            let (at, told) = (*end)?;
            let from = if k == 0 { along - at } else { self.length - at - along };
            (from < told.length + told.over).then(|| ((from - told.length) / told.over, told.across))
        });
        let Some((share, across)) = near else { return q };
        let share = share.clamp(0.0, 1.0);
        // Eased at both ends, as the wall bends.
        let round = share * share * (3.0 - 2.0 * share);
        let tight = (self.wall + OPEN) / 2.0;
        let rho = tight + (self.radius - tight) * round;
        // The middle of the wall keeps its length: the flats take what the rounds give.
        let half = PI * (self.radius - rho) / 2.0;
        let v = DVec2::new(q.dot(across), q.dot(across.perp()));
        let off = v.length() - self.radius;
        let along_wall = self.radius * v.y.abs().atan2(v.x.abs());
        let (at, normal) = if along_wall <= rho * FRAC_PI_2 {
            let n = DVec2::from_angle(along_wall / rho);
            (DVec2::new(half, 0.0) + n * rho, n)
        } else {
            (DVec2::new((half - (along_wall - rho * FRAC_PI_2)).max(0.0), rho), DVec2::Y)
        };
        let w = (at + normal * off) * DVec2::new(sign(v.x), sign(v.y));
        across * w.x + across.perp() * w.y
    }
}

/// -1 on the far side, else 1.
fn sign(v: f64) -> f64 {
    if v < 0.0 { -1.0 } else { 1.0 }
}
