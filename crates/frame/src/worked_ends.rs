//! Ends that are rounded off or pressed flat, seated when all cuts stand: a square end of a straight leg,
//! with room for what is told.

use glam::DVec2;
use ground::geom::COINCIDENT;
use ground::reader::Tell;

use super::bar::{Bar, Surface};
use super::model::{Cause, CentrelineSegment, EndCut, EndPressed, Member};
use super::profile::Profile;
use super::rounds;
use super::solid::flat;
use crate::build::skeleton::Skeleton;

/// An end that slopes by less than this, mm a mm, is square.
const SQUARE: f64 = 1e-9;

/// Why an end stays as it is cut: the field, what is wrong and what mends it.
struct Refused {
    path: &'static str,
    message: String,
    mend: &'static str,
}

/// One that cannot be stays as it is cut; what cannot be of a bar and of its copies is told once.
pub fn seat(tell: &mut Tell, s: &mut Skeleton) {
    let mut told: Vec<(String, usize)> = Vec::new();
    for i in 0..s.members.len() {
        for end in 0..2 {
            let m = &s.members[i];
            let line = [m.rounds[end].as_ref().map(|r| &r.line), m.pressed[end].as_ref().map(|e| &e.line)];
            let Some(line) = line.into_iter().flatten().next().cloned() else { continue };
            let p = &s.profiles[m.profile];
            match seated(tell, m, p, end) {
                Ok((bar, at)) => {
                    let Some(round) = &m.rounds[end] else { continue };
                    let surface = Surface::Rounded(rounds::rounded_end(p, round, &bar, at));
                    let (cause, by) = m.trims[end].first().map_or((Cause::Told, None), |t| (t.cause, t.by));
                    s.members[i].trims[end] = vec![EndCut { surface, cause, by }];
                }
                Err(why) => {
                    let of = (line, m.root);
                    if !told.contains(&of) {
                        tell.enter(&of.0);
                        tell.refuse_at(why.path, why.message, why.mend);
                        told.push(of);
                    }
                    let m = &mut s.members[i];
                    (m.rounds[end], m.pressed[end]) = (None, None);
                }
            }
        }
    }
}

/// What is worked at an end takes so much of its leg.
fn taken(m: &Member, end: usize) -> f64 {
    let pressed = m.pressed[end].as_ref().map_or(0.0, EndPressed::taken);
    m.rounds[end].as_ref().map_or(pressed, |r| r.radius)
}

/// The leg looking in from an end, and where it begins there.
fn seated(tell: &Tell, m: &Member, p: &Profile, end: usize) -> Result<(Bar, f64), Refused> {
    let which = ["start", "end"][end];
    let refused = |path, message, mend| Refused { path, message, mend };
    let Some(square) = flat(m, p, end).filter(|f| f.slope.length() < SQUARE) else {
        let message = format!("the {which} of {} is not cut square", m.name);
        return Err(refused("/say/ends", message, "take an end that is free, or trim it square first"));
    };
    let CentrelineSegment::Straight { bar, length } = m.end_stretch(end) else {
        let message = format!("{} is bent up to its {which}", m.name);
        return Err(refused("/say/ends", message, "let it end in a straight leg"));
    };
    // The other end takes its own share of a bar that is one straight leg.
    let other = match m.way.len() {
        1 => m.station(end ^ 1, DVec2::ZERO) + taken(m, end ^ 1),
        _ => 0.0,
    };
    let room = length - square.at - other;
    if room < taken(m, end) + COINCIDENT {
        let [room, wanted] = [room.max(0.0), taken(m, end)].map(|v| tell.display.length_unit(v));
        let message =
            format!("{} has {room} of straight left at its {which}, and this takes {wanted}", m.name);
        return Err(match m.rounds[end] {
            Some(_) => refused("/say/radius", message, "write a smaller radius, or a longer bar"),
            None => refused("/say/length", message, "write shorter lengths, or a longer bar"),
        });
    }
    Ok((bar, square.at))
}
