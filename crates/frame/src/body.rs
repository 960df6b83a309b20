//! The mesh of a member.

use std::f64::consts::FRAC_PI_2;

use glam::{DVec2, DVec3};
use ground::geom::triangulate::{Crease, Creases, Family, TaggedLoop, Triangles, triangulate};
use ground::geom::{COINCIDENT, ROUNDING};

use super::bar::{Bar, RoundedEnd, Surface};
use super::ends::{rounded, rounded_end};
use super::model::{CentrelineSegment, EndCut, Member};
use super::pressed::Pressed;
use super::profile::Profile;

/// Triangles and the edges worth drawing, in the coordinates given.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Body {
    pub points: Vec<DVec3>,
    pub triangles: Vec<[u32; 3]>,
    pub edges: Vec<[u32; 2]>,
}

/// Chord error of meshes, of the section's size.
const COARSE: f64 = 0.002;

/// Points of the loops, sides no longer than `longest` where an end is not flat; which of them are corners.
fn loops(p: &Profile, longest: f64) -> Vec<Vec<(DVec2, bool)>> {
    let size = p.section.shape.size().max_element();
    let chord = (size * COARSE).max(0.05);
    let mut out = Vec::new();
    for (n, c) in std::iter::once(&p.outer).chain(&p.holes).enumerate() {
        let mut points: Vec<(DVec2, bool)> = Vec::new();
        for (i, s) in c.segments().enumerate() {
            let before = c.segment((i + c.vertices.len() - 1) % c.vertices.len());
            // A corner shows where the outline turns sharply, or where a flat ends.
            let sharp = s.is_line() || before.is_line();
            let mut flat = Vec::new();
            s.flatten(chord, &mut flat);
            flat.insert(0, s.a);
            flat.dedup_by(|a, b| a.distance(*b) < ROUNDING);
            for (k, w) in flat.windows(2).enumerate() {
                let parts = (w[0].distance(w[1]) / longest).ceil().max(1.0) as usize;
                for j in 0..parts {
                    points.push((w[0].lerp(w[1], j as f64 / parts as f64), sharp && k == 0 && j == 0));
                }
            }
        }
        // Holes run clockwise: material on the left of every side.
        if n > 0 {
            points.reverse();
        }
        out.push(points);
    }
    out
}

/// Parts that a quarter of a round end is drawn in.
const QUARTER: usize = 12;
/// Further than any section reaches, mm.
const FAR: f64 = 1e5;

/// Lines across the section where the round of an end is divided.
fn divisions(rounded_end: &RoundedEnd, aside: DVec2) -> Creases {
    let places = (0..QUARTER)
        .map(|k| rounded_end.half + rounded_end.radius * (FRAC_PI_2 * k as f64 / QUARTER as f64).sin());
    let mut at: Vec<f64> = places.flat_map(|x| [x, -x]).collect();
    at.sort_by(f64::total_cmp);
    at.dedup_by(|a, b| (*a - *b).abs() < COINCIDENT);
    let line = |at| Crease { at, low: -FAR, high: FAR };
    Creases { family: Family::Parallel(aside), lines: at.into_iter().map(line).collect() }
}

/// Parts that a stretch is drawn in.
fn rounds(s: &CentrelineSegment) -> usize {
    let turn = match s {
        CentrelineSegment::Straight { .. } => 0.0,
        CentrelineSegment::Bend { sweep, .. } => *sweep,
        CentrelineSegment::Twist { angle, .. } => angle.abs(),
    };
    (turn / 0.15).ceil().max(1.0) as usize
}

/// Rows of the section along the way: both ends, and every part of a bend.
fn rows(m: &Member, p: &Profile, points: &[DVec2]) -> Vec<Vec<DVec3>> {
    if let Some(pressed) = Pressed::of(m, p) {
        return pressed_rows(m, &pressed, points);
    }
    let mut rows: Vec<Vec<DVec3>> = Vec::new();
    let [start, end] = [0, 1].map(|k| m.cuts(k));
    match *m.way.as_slice() {
        [CentrelineSegment::Straight { bar, .. }] => {
            rows.push(points.iter().map(|&q| bar.point(q, start.station(q))).collect());
            // Ends that run into one another leave nothing between them.
            let last = |q: DVec2| (m.length - end.station(q)).max(start.station(q));
            rows.push(points.iter().map(|&q| bar.point(q, last(q))).collect());
        }
        // An arc is divided between its own two cuts.
        [s @ CentrelineSegment::Bend { .. }] if !m.closed => {
            let parts = rounds(&s);
            let ends: Vec<(f64, f64)> =
                points.iter().map(|&q| (start.station(q), m.length - end.station(q))).collect();
            for k in 0..=parts {
                let share = k as f64 / parts as f64;
                let at = |(&q, e): (&DVec2, &(f64, f64))| m.inward(0, q, e.0 + (e.1.max(e.0) - e.0) * share);
                rows.push(points.iter().zip(&ends).map(at).collect());
            }
        }
        _ => {
            let last = m.way.len() - 1;
            for (i, s) in m.way.iter().enumerate() {
                let parts = rounds(s);
                for k in 0..=parts {
                    // Each stretch begins where the one before it ends; a ring ends where it begins.
                    if (k == 0 && i > 0) || (m.closed && i == last && k == parts) {
                        continue;
                    }
                    let bar = s.at(k as f64 / parts as f64);
                    rows.push(match (i == 0 && k == 0, i == last && k == parts) {
                        (true, _) if !m.closed => points.iter().map(|&q| start.tip(q)).collect(),
                        (_, true) if !m.closed => points.iter().map(|&q| end.tip(q)).collect(),
                        _ => points.iter().map(|&q| bar.point(q, 0.0)).collect(),
                    });
                }
            }
        }
    }
    rows
}

/// The same of a bar with ends that are pressed flat: they are square, and lie in its first or last straight.
fn pressed_rows(m: &Member, pressed: &Pressed, points: &[DVec2]) -> Vec<Vec<DVec3>> {
    let (first, last) = (m.station(0, DVec2::ZERO), m.length - m.station(1, DVec2::ZERO));
    let mut places: Vec<(f64, Bar)> = Vec::new();
    let mut from = 0.0;
    for (i, s) in m.way.iter().enumerate() {
        let (length, parts) = (s.length(), rounds(s));
        let even = (0..=parts).map(|k| from + length * k as f64 / parts as f64);
        let wanted = pressed.rows().into_iter().filter(|a| *a > from && *a < from + length);
        let mut here: Vec<f64> = even.chain(wanted).map(|a| a.clamp(first, last)).collect();
        here.sort_by(f64::total_cmp);
        // Each stretch begins where the one before it ends.
        let mut before = if i == 0 { f64::NEG_INFINITY } else { from + COINCIDENT };
        for along in here {
            if along > before {
                places.push((along, s.at((along - from) / length)));
                before = along + COINCIDENT;
            }
        }
        from += length;
    }
    let row = |(along, bar): &(f64, Bar)| {
        points.iter().map(|&q| bar.point(pressed.place(q, *along), 0.0)).collect()
    };
    places.iter().map(row).collect()
}

/// The mesh in the frame's space, watertight.
pub fn body(m: &Member, p: &Profile, bores: bool) -> Body {
    let bores = bores || !m.holes.is_empty();
    let plain = |t: &EndCut| matches!(t.surface, Surface::Plane { .. } | Surface::Rounded(_));
    let plane = m.trims.iter().flatten().all(plain) && m.trims.iter().all(|t| t.len() < 2);
    let size = p.section.shape.size().max_element();
    // Sides that wind round a twist are no planes either.
    let mut loops = loops(p, if plane && !m.is_twisted() { f64::INFINITY } else { size / 16.0 });
    if !bores {
        loops.truncate(1);
    }
    let tagged: Vec<TaggedLoop> = loops.iter().map(|l| l.iter().map(|q| (q.0, 0)).collect()).collect();
    let mut divided: Vec<Creases> = Vec::new();
    for end in 0..2 {
        let (Some(round), Some(rounded_end)) = (rounded(m, end), rounded_end(m, end)) else { continue };
        let lines = divisions(rounded_end, round.aside);
        // Both ends alike are divided once.
        if divided.first() != Some(&lines) {
            divided.push(lines);
        }
    }
    let cap: Triangles = triangulate(&tagged, &divided);
    let n = cap.points.len() as u32;
    let mut out = Body::default();
    let rows = rows(m, p, &cap.points);
    let count = rows.len() as u32;
    out.points = rows.into_iter().flatten().collect();
    if !m.closed {
        out.triangles.extend(cap.triangles.iter().map(|t| [t[0], t[2], t[1]]));
        let far = (count - 1) * n;
        out.triangles.extend(cap.triangles.iter().map(|t| t.map(|v| v + far)));
    }
    let turns = if m.closed { count } else { count - 1 };
    for k in 0..turns {
        let (a, b) = (k * n, (k + 1) % count * n);
        for &(v, w, _) in &cap.walls {
            out.triangles.push([a + v, a + w, b + w]);
            out.triangles.push([a + v, b + w, b + v]);
        }
    }
    let corner: std::collections::HashSet<[u64; 2]> =
        loops.iter().flatten().filter(|q| q.1).map(|q| key(q.0)).collect();
    for (i, q) in cap.points.iter().enumerate() {
        if corner.contains(&key(*q)) {
            out.edges.extend((0..turns).map(|k| [k * n + i as u32, (k + 1) % count * n + i as u32]));
        }
    }
    if !m.closed {
        for &(v, w, _) in &cap.walls {
            out.edges.push([v, w]);
            out.edges.push([(count - 1) * n + v, (count - 1) * n + w]);
        }
    }
    out
}

fn key(p: DVec2) -> [u64; 2] {
    [p.x.to_bits(), p.y.to_bits()]
}

impl Body {
    /// Six times the volume enclosed, divided out: positive for outward triangles.
    pub fn volume(&self) -> f64 {
        let p = |i: u32| self.points[i as usize];
        self.triangles.iter().map(|t| p(t[0]).dot(p(t[1]).cross(p(t[2])))).sum::<f64>() / 6.0
    }
}
