//! Which members are one piece in the list: the same body after a turn, or its mirror image.

use glam::{DMat2, DVec2};

use super::end_cuts::EndCuts;
use super::model::{CentrelineSegment, Member};
use super::profile::Profile;
use crate::build::skeleton::Skeleton;

/// Bodies that differ by less than this are one, mm.
pub const ALIKE: f64 = 0.01;
/// Turns that differ by less than this, rad, are one.
const SAME_TWIST: f64 = 1e-4;

/// How a member's body lies on that of the first of its group.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Fit {
    pub member: usize,
    /// Section coordinates of the first → of this one.
    pub m: DMat2,
    /// Walked from the other end.
    pub flip: bool,
    /// Mirror image of the first.
    pub mirrored: bool,
}

/// Members of one body; the mirror images among them only where no turn makes them the same.
#[derive(Clone, Debug)]
pub struct Group {
    pub fits: Vec<Fit>,
}

/// What is compared: ends measured from the line through the middle of the section.
struct Shape<'a> {
    m: &'a Member,
    cuts: [EndCuts<'a>; 2],
    /// Along the bar at the middle: where material begins and ends.
    from: f64,
    to: f64,
    /// Directions about the bar that its ends and holes single out, with how often they come round in a turn.
    marks: Vec<(f64, usize)>,
    volume: f64,
}

fn shape<'a>(m: &'a Member, p: &Profile, volume: f64) -> Shape<'a> {
    let cuts = [0, 1].map(|k| m.cuts(k));
    let (from, to) = (cuts[0].station(DVec2::ZERO), m.length - cuts[1].station(DVec2::ZERO));
    let mut marks = Vec::new();
    if p.section.shape.is_round() && !m.closed {
        let r = p.section.shape.size().x / 2.0;
        for cuts in &cuts {
            for k in 1..=2 {
                let wave: DVec2 = (0..24)
                    .map(|i| {
                        let a = i as f64 / 24.0 * std::f64::consts::TAU;
                        DVec2::from_angle(a * k as f64) * cuts.station(DVec2::from_angle(a) * r)
                    })
                    .sum();
                if wave.length() > 24.0 * ALIKE {
                    marks.push((wave.to_angle() / k as f64, k));
                    break;
                }
            }
        }
        marks.extend(m.pressed.iter().flatten().map(|e| (e.across.to_angle(), 2)));
        marks.extend(m.holes.iter().map(|h| (h.out.to_angle(), 1)));
    }
    Shape { m, cuts, from, to, marks, volume }
}

/// Turns and flips of a round section that bring a mark of `a` onto one of `b`.
fn round_ways(a: &Shape, b: &Shape) -> Vec<DMat2> {
    let flip = DMat2::from_diagonal(DVec2::new(1.0, -1.0));
    let Some(&(at, every)) = a.marks.first() else { return vec![DMat2::IDENTITY, flip] };
    let mut out = Vec::new();
    for &(to, other) in b.marks.iter().filter(|m| m.1 == every) {
        for k in 0..other {
            let more = k as f64 / other as f64 * std::f64::consts::TAU;
            out.push(DMat2::from_angle(to - at + more));
            out.push(DMat2::from_angle(to + at + more) * flip);
        }
    }
    out
}

/// A stretch as it is walked: how long, how tight, and where in the section its centre lies.
#[derive(Clone, Copy)]
struct Leg {
    length: f64,
    radius: f64,
    centre: DVec2,
    /// How far the section turns over it.
    twist: f64,
}

/// The legs of a bar that is not straight, what its cuts take off left out; walked from its other end with
/// `flip`.
fn legs(of: &Shape, flip: bool) -> Vec<Leg> {
    let stretch = |s: &CentrelineSegment| match *s {
        CentrelineSegment::Straight { length, .. } => {
            Leg { length, radius: 0.0, centre: DVec2::ZERO, twist: 0.0 }
        }
        CentrelineSegment::Twist { length, angle, .. } => {
            Leg { length, radius: 0.0, centre: DVec2::ZERO, twist: angle }
        }
        CentrelineSegment::Bend { bar, centre, radius, sweep, .. } => {
            let to = centre - bar.o;
            Leg {
                length: radius * sweep,
                radius,
                centre: DVec2::new(to.dot(bar.y), to.dot(bar.z)).normalize_or_zero(),
                twist: 0.0,
            }
        }
    };
    let mut out: Vec<Leg> = of.m.way.iter().map(stretch).collect();
    let last = out.len() - 1;
    out[0].length -= of.from;
    out[last].length -= of.m.length - of.to;
    if flip {
        out.reverse();
    }
    out
}

/// Turns and flips of a round section that bring the first bend of `a` onto the first or the last of `b`.
fn bent_ways(a: &Shape, b: &Shape) -> Vec<DMat2> {
    let first = |legs: Vec<Leg>| legs.iter().find(|l| l.radius > 0.0).map(|l| l.centre.to_angle());
    let over = DMat2::from_diagonal(DVec2::new(1.0, -1.0));
    let Some(at) = first(legs(a, false)) else { return vec![DMat2::IDENTITY, over] };
    let onto = [false, true].into_iter().filter_map(|flip| first(legs(b, flip)));
    onto.flat_map(|to| [DMat2::from_angle(to - at), DMat2::from_angle(to + at) * over]).collect()
}

/// Whether the way of `b` is that of `a` after `m` in the section.
fn ways_alike(a: &Shape, b: &Shape, m: DMat2, flip: bool) -> bool {
    let near = |x: f64, y: f64| (x - y).abs() < ALIKE;
    let (p, q) = (legs(a, false), legs(b, flip));
    // A twist keeps its hand from either end; its image has the other.
    let hand = if (m.determinant() < 0.0) != flip { -1.0 } else { 1.0 };
    // A centre that lies aside by this much at the far end of the bend is another bend.
    let aside = |s: &Leg, t: &Leg| (m * s.centre).distance(t.centre) * s.length;
    p.len() == q.len()
        && a.m.bending.neutral == b.m.bending.neutral
        && p.iter().zip(&q).all(|(s, t)| {
            let turned = (s.twist * hand - t.twist).abs() < SAME_TWIST;
            near(s.length, t.length) && near(s.radius, t.radius) && aside(s, t) < ALIKE && turned
        })
}

/// Whether an end of `a` is rounded or pressed as that of `b` which lies on it.
fn worked_alike(a: &Member, b: &Member, end: usize, m: DMat2, flip: bool) -> bool {
    let other = end ^ usize::from(flip);
    let along = |v: DVec2, w: DVec2| (m * v).perp_dot(w).abs() < SAME_TWIST;
    let near = |x: f64, y: f64| (x - y).abs() < ALIKE;
    let round = match (&a.rounds[end], &b.rounds[other]) {
        (None, None) => true,
        (Some(r), Some(q)) => near(r.radius, q.radius) && along(r.aside, q.aside),
        _ => false,
    };
    let pressed = match (&a.pressed[end], &b.pressed[other]) {
        (None, None) => true,
        (Some(r), Some(q)) => near(r.length, q.length) && near(r.over, q.over) && along(r.across, q.across),
        _ => false,
    };
    round && pressed
}

/// Whether `b` is `a` after `m` in the section and, with `flip`, walked from its other end.
fn lies_on(a: &Shape, b: &Shape, p: &Profile, m: DMat2, flip: bool) -> bool {
    if (!a.m.is_straight() || !b.m.is_straight()) && !ways_alike(a, b, m, flip) {
        return false;
    }
    let near = |x: f64, y: f64| (x - y).abs() < ALIKE;
    let ends = |q: DVec2| {
        let r = m * q;
        let a0 = a.cuts[0].station(q) - a.from;
        let a1 = a.m.length - a.cuts[1].station(q) - a.to;
        let b0 = b.cuts[0].station(r) - b.from;
        let b1 = b.m.length - b.cuts[1].station(r) - b.to;
        if flip { near(b0, -a1) && near(b1, -a0) } else { near(b0, a0) && near(b1, a1) }
    };
    if !p.outline.iter().all(|&q| ends(q)) || !(0..2).all(|k| worked_alike(a.m, b.m, k, m, flip)) {
        return false;
    }
    a.m.holes.iter().all(|h| {
        let along = if flip { b.to - (h.along - a.from) } else { b.from + (h.along - a.from) };
        b.m.holes.iter().any(|g| {
            near(g.along, along)
                && g.at.distance(m * h.at) < ALIKE
                && near(g.diameter, h.diameter)
                && near(g.length, h.length)
                && g.through == h.through
                && g.notch.is_some() == h.notch.is_some()
                && g.bore == h.bore
        })
    })
}

fn fit(a: &Shape, b: &Shape, p: &Profile) -> Option<(DMat2, bool, bool)> {
    let ways = match (p.section.shape.is_round(), a.m.is_straight()) {
        (true, true) => round_ways(a, b),
        (true, false) => bent_ways(a, b),
        (false, _) => p.symmetries.clone(),
    };
    let mut image = None;
    for &m in &ways {
        for flip in [false, true] {
            // Walking a bar from its other end turns it over.
            let mirrored = (m.determinant() < 0.0) != flip;
            if (mirrored && image.is_some()) || !lies_on(a, b, p, m, flip) {
                continue;
            }
            if !mirrored {
                return Some((m, flip, false));
            }
            image = Some((m, flip, true));
        }
    }
    image
}

/// Groups in the order that their first members were told. `apart`: members of different names are never one.
pub fn groups(s: &Skeleton, volumes: &[f64], apart: bool) -> Vec<Group> {
    let shapes: Vec<Shape> =
        s.members.iter().zip(volumes).map(|(m, &v)| shape(m, &s.profiles[m.profile], v)).collect();
    let mut found: std::collections::HashMap<(usize, *const (), i64), Vec<usize>> =
        std::collections::HashMap::new();
    let mut out: Vec<Group> = Vec::new();
    for (i, b) in shapes.iter().enumerate() {
        ground::halt::point();
        let p = &s.profiles[b.m.profile];
        let material = std::sync::Arc::as_ptr(&b.m.material).cast::<()>();
        // Bodies of one kind hold the same volume.
        let slack = p.properties.area * ALIKE;
        let cell = (b.volume / (slack * 4.0)).floor() as i64;
        let mut joined = None;
        'search: for c in [cell, cell - 1, cell + 1] {
            for &g in found.get(&(b.m.profile, material, c)).into_iter().flatten() {
                ground::halt::point();
                let a = &shapes[out[g].fits[0].member];
                let same = (!apart || a.m.call == b.m.call)
                    && (a.m.holes.len() == b.m.holes.len())
                    && (a.to - a.from - (b.to - b.from)).abs() < ALIKE;
                if same
                    && a.m.closed == b.m.closed
                    && let Some((m, flip, mirrored)) = fit(a, b, p)
                {
                    joined = Some((g, Fit { member: i, m, flip, mirrored }));
                    break 'search;
                }
            }
        }
        match joined {
            Some((g, fit)) => out[g].fits.push(fit),
            None => {
                found.entry((b.m.profile, material, cell)).or_default().push(out.len());
                out.push(Group {
                    fits: vec![Fit { member: i, m: DMat2::IDENTITY, flip: false, mirrored: false }],
                });
            }
        }
    }
    out
}
