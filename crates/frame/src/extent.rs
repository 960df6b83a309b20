//! How far a frame reaches: the outermost points of its bars and plates, solved for on their outlines.

use std::f64::consts::{PI, TAU};

use glam::{DVec2, DVec3};
use ground::geom::ROUNDING;

use super::FrameResult;
use super::bar::Bar;
use super::model::{CentrelineSegment, EndPressed, Member};
use super::pressed::Pressed;
use super::profile::Profile;
use super::result::Plate;
use super::solid::{Flat, extreme, flat};

/// Places of each straight side of a section where the search for its outermost point begins.
const PARTS: usize = 4;

/// The least and the greatest east, north and up of the whole; none where there is nothing.
pub fn extent(r: &FrameResult) -> Option<(DVec3, DVec3)> {
    *r.reach.get_or_init(|| worked_out(r))
}

fn worked_out(r: &FrameResult) -> Option<(DVec3, DVec3)> {
    if r.members.is_empty() && r.plates.is_empty() {
        return None;
    }
    let reach = |d: DVec3| {
        let bars = r.members.iter().map(|m| {
            ground::halt::point();
            of_bar(m, &r.profiles[m.profile], d)
        });
        let plates = r.plates.iter().map(|p| of_plate(p, d));
        bars.chain(plates).fold(f64::NEG_INFINITY, f64::max)
    };
    let most = DVec3::new(reach(DVec3::X), reach(DVec3::Y), reach(DVec3::Z));
    let least = -DVec3::new(reach(-DVec3::X), reach(-DVec3::Y), reach(-DVec3::Z));
    Some((least, most))
}

/// The furthest that a bar reaches in a direction.
fn of_bar(m: &Member, p: &Profile, d: DVec3) -> f64 {
    let pressed = Pressed::of(m, p).map_or(f64::NEG_INFINITY, |e| e.reach(d));
    // Between what is pressed it is as its section.
    let taken = [0, 1].map(|k| m.pressed[k].as_ref().map_or(0.0, EndPressed::taken));
    pressed.max(of_section(m, p, taken, d))
}

/// The furthest of its section, where so much of its ends has another.
fn of_section(m: &Member, p: &Profile, taken: [f64; 2], d: DVec3) -> f64 {
    if let (true, Some(a), Some(b)) = (m.is_straight(), flat(m, p, 0), flat(m, p, 1)) {
        let [a, b] = [(a, taken[0]), (b, taken[1])].map(|(f, by)| Flat { at: f.at + by, ..f });
        return of_flat_ended(m, p, [&a, &b], d);
    }
    let cuts = [0, 1].map(|k| m.cuts(k));
    let last = m.way.len() - 1;
    extreme(p, PARTS, &|q| {
        m.way
            .iter()
            .enumerate()
            .map(|(k, s)| {
                let from = if k == 0 && !m.closed { cuts[0].station(q) + taken[0] } else { 0.0 };
                let off = if k == last && !m.closed { cuts[1].station(q) + taken[1] } else { 0.0 };
                of_stretch(s, q, from, off, d)
            })
            .fold(f64::NEG_INFINITY, f64::max)
    })
}

/// A straight bar between two planes: what a direction sees of either end is linear over the section, and
/// outermost on its outline.
fn of_flat_ended(m: &Member, p: &Profile, ends: [&Flat; 2], d: DVec3) -> f64 {
    let (bar, centroid) = (m.end(0), p.properties.centroid);
    let along = bar.d.dot(d);
    let of = |at: f64, slope: DVec2| {
        let share = DVec2::new(bar.y.dot(d), bar.z.dot(d)) + slope * along;
        let turned = p.outer.moved(-share.to_angle(), DVec2::ZERO);
        let most = if share.length() > ROUNDING { turned.bounds().max.x * share.length() } else { 0.0 };
        bar.o.dot(d) + along * (at - slope.dot(centroid)) + most
    };
    let [a, b] = ends;
    of(a.at, a.slope).max(of(m.length - b.at, -b.slope))
}

/// The furthest of the line through a point of the section, between `from` and `off` before the end.
fn of_stretch(s: &CentrelineSegment, q: DVec2, from: f64, off: f64, d: DVec3) -> f64 {
    let at = |along: f64| s.inward(q, along).dot(d);
    let to = s.length() - off;
    let ends = at(from).max(at(to));
    if let CentrelineSegment::Twist { bar, length, angle } = *s {
        return ends.max(of_screw(&bar, q, length / angle, [from, to], d));
    }
    let CentrelineSegment::Bend { bar, centre, axis, radius, .. } = *s else { return ends };
    // Round the bend it is outermost where its spoke points the way, if it comes by there.
    let spoke = bar.point(q, 0.0) - centre;
    let (flat, side) = (spoke - axis * spoke.dot(axis), axis.cross(spoke));
    let turn = side.dot(d).atan2(flat.dot(d));
    let along = turn.rem_euclid(std::f64::consts::TAU) * radius;
    if along > from.min(to) && along < from.max(to) { ends.max(at(along)) } else { ends }
}

/// The furthest of a screw about a bar, `lead` along a rad, where it turns within its stretch.
fn of_screw(bar: &Bar, q: DVec2, lead: f64, [from, to]: [f64; 2], d: DVec3) -> f64 {
    // Seen the way of `d` it is base + a·cos φ + b·sin φ + c·φ.
    let (y, z) = (bar.y.dot(d), bar.z.dot(d));
    let hand = bar.y.cross(bar.z).dot(bar.d);
    let (a, b, c) = (y * q.x + z * q.y, (z * q.x - y * q.y) * hand, bar.d.dot(d) * lead);
    let (most, base) = (a.hypot(b), bar.o.dot(d));
    if most < ROUNDING || c.abs() >= most {
        return f64::NEG_INFINITY;
    }
    // It stands still where most·sin(φ - φ0) = c.
    let (turned, step) = (b.atan2(a), (c / most).asin());
    let mut ends = [from / lead, to / lead];
    ends.sort_by(f64::total_cmp);
    let mut best = f64::NEG_INFINITY;
    for still in [turned + step, turned + PI - step] {
        let mut phi = still + ((ends[0] - still) / TAU).ceil() * TAU;
        while phi < ends[1] {
            best = best.max(base + a * phi.cos() + b * phi.sin() + c * phi);
            phi += TAU;
        }
    }
    best
}

/// The furthest that a plate reaches in all its places.
fn of_plate(p: &Plate, d: DVec3) -> f64 {
    let (outer, t) = (&p.piece.flat.outer, p.piece.thickness);
    let bent = p.piece.zones.len() > 1;
    let solid = bent.then(|| p.piece.mesh().solid(&p.piece.zones, 1.0, t));
    let of = |q: &super::PlatePlace| match &solid {
        // What is wrapped round a tube is looked at by its facets.
        Some(s) => {
            let far = |v: &DVec3| (q.o + q.x * v.x + q.y * v.y + q.z * v.z).dot(d);
            s.points.iter().map(far).fold(f64::NEG_INFINITY, f64::max)
        }
        None => {
            let flat = DVec2::new(q.x.dot(d), q.y.dot(d));
            let within = if flat.length() > ROUNDING {
                outer.moved(-flat.to_angle(), DVec2::ZERO).bounds().max.x * flat.length()
            } else {
                0.0
            };
            q.o.dot(d) + within + (q.z.dot(d) * t).max(0.0)
        }
    };
    p.places.iter().map(of).fold(f64::NEG_INFINITY, f64::max)
}
