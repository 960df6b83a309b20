//! Plates of a frame: each is a contour with a thickness and a place; and what they stand on: ends, legs and
//! faces of members.

use std::sync::Arc;

use glam::{DMat2, DVec2, DVec3};
use ground::geom::COINCIDENT;

use super::plate_holes::PlateBore;
use super::skeleton::{SAME, Skeleton};
use crate::bar::{Bar, Motion};
use crate::build::spec::Turn;
use crate::choices::Face;
use crate::model::CentrelineSegment;
use ground::geom::{Contour, Vertex};
use sheet::{EdgeBevel, EdgeFold};
use shop::Material;

/// A plate where it stands: its contour's plane, and the side that its thickness goes to.
#[derive(Clone, Debug)]
pub struct Cutting {
    /// Told from other plates of its line: `left`, `near`.
    pub part: String,
    pub call: String,
    pub outer: Contour,
    pub holes: Vec<Contour>,
    /// Drilled from a face of the flat.
    pub bores: Vec<PlateBore>,
    /// Flanges on its edges: up is the face that its flat shows.
    pub folds: Vec<EdgeFold>,
    /// Edges ground slanting.
    pub bevels: Vec<EdgeBevel>,
    pub thickness: f64,
    /// The frame's where none is told.
    pub material: Option<Arc<Material>>,
    pub o: DVec3,
    pub x: DVec3,
    pub y: DVec3,
    pub z: DVec3,
    /// Welded along this length, mm.
    pub weld: f64,
    /// Wall that it is welded to.
    pub against: f64,
    pub lifting: bool,
    /// The angle to the next plate round a hopper, measured inside, rad.
    pub corner: Option<Corner>,
    /// Welded to others along its sides.
    pub is_joined: bool,
    /// Its flat lies along its longest side.
    pub lies_long: bool,
    /// Outside and wall of the tube that it is cut from instead of plate, mm.
    pub tube: Option<[f64; 2]>,
}

/// How the edges of two plates meet.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Met {
    /// Inner edge to inner edge.
    Edge,
    /// One runs over the edge of the other.
    Lapped,
    /// Bevelled, so that they meet over their whole thickness.
    Mitred,
}

/// Where a plate meets another edge to edge.
#[derive(Clone, Debug, PartialEq)]
pub struct Corner {
    /// The part that it meets.
    pub next: String,
    /// Between the two, measured inside, rad.
    pub angle: f64,
    pub how: Met,
    /// Between their edges, mm; where they lap, what the edge of one stands off the other at most.
    pub open: f64,
}

impl Corner {
    /// What the square edges of two plates leave open between them, filled so far up along the edges, mm².
    pub fn groove(&self, filled: f64) -> f64 {
        let leaning = filled * (self.angle / 2.0).cos();
        // A trapezium: as wide as the gap inside, wider outside.
        let deep = filled * (self.angle / 2.0).sin();
        (self.open + leaning) * deep
    }
}

impl Cutting {
    /// A plate lying in x and y, its thickness upwards from `o`.
    pub fn new(call: &str, outer: Contour, thickness: f64, o: DVec3, x: DVec3, y: DVec3) -> Self {
        let outer = outer.outward();
        Cutting {
            part: String::new(),
            call: call.into(),
            outer,
            holes: Vec::new(),
            bores: Vec::new(),
            folds: Vec::new(),
            bevels: Vec::new(),
            thickness,
            material: None,
            o,
            x,
            y,
            z: x.cross(y),
            weld: 0.0,
            against: thickness,
            lifting: false,
            corner: None,
            is_joined: false,
            lies_long: false,
            tube: None,
        }
    }

    pub fn point(&self, p: DVec2, h: f64, by: &Motion) -> DVec3 {
        by.point(self.o + self.x * p.x + self.y * p.y + self.z * h)
    }

    /// The same plate with its flat laid in the one way that all plates of its shape have, turned over if
    /// need be; flanges stand up and bevels are cut from above where most of them can.
    pub fn laid(self) -> Self {
        let n = self.outer.vertices.len();
        if n > 120 {
            return self;
        }
        let mut best: Option<(Vec<[i64; 3]>, DMat2, DMat2, DVec2)> = None;
        let ways = self.folds.iter().map(|f| f.up).chain(self.bevels.iter().map(|b| b.up));
        let up: i32 = ways.map(|up| if up { 1 } else { -1 }).sum();
        for flip in [DMat2::IDENTITY, DMat2::from_diagonal(DVec2::new(1.0, -1.0))] {
            let over = flip != DMat2::IDENTITY;
            let stood = if over { -up } else { up };
            if stood < 0 {
                continue;
            }
            let c = if over { self.outer.mirrored(|p| flip * p) } else { self.outer.clone() };
            let side = |i: usize| c.vertices[i].p.distance(c.vertices[(i + 1) % n].p);
            let longest = if self.lies_long { (0..n).map(side).fold(0.0, f64::max) } else { 0.0 };
            for i in (0..n).filter(|i| side(*i) > longest - 0.005) {
                let a = c.vertices[i].p;
                let turn = DMat2::from_angle(-(c.vertices[(i + 1) % n].p - a).to_angle());
                let told = (0..n).map(|k| {
                    let v = c.vertices[(i + k) % n];
                    let q = turn * (v.p - a);
                    [q.x, q.y, v.bulge * 100.0].map(|v| (v * 100.0).round() as i64)
                });
                let mut told: Vec<_> = told.collect();
                let mut folds: Vec<[i64; 3]> = self
                    .folds
                    .iter()
                    .map(|f| {
                        let q = turn * (flip * (f.edge[0] + f.edge[1]) / 2.0 - a);
                        [i64::from(f.up == over), (q.x * 100.0).round() as i64, (q.y * 100.0).round() as i64]
                    })
                    .collect();
                folds.extend(self.bevels.iter().map(|b| {
                    let q = turn * (flip * (b.edge[0] + b.edge[1]) / 2.0 - a);
                    [2, (q.x * 100.0).round() as i64, (q.y * 100.0).round() as i64]
                }));
                folds.sort();
                told.extend(folds);
                if best.as_ref().is_none_or(|b| told < b.0) {
                    best = Some((told, turn, flip, a));
                }
            }
        }
        let Some((_, turn, flip, a)) = best else { return self };
        let lay = |c: &Contour| {
            let c = if flip == DMat2::IDENTITY { c.clone() } else { c.mirrored(|p| flip * p) };
            Contour { vertices: c.vertices.iter().map(|v| Vertex { p: turn * (v.p - a), ..*v }).collect() }
        };
        let back = |p: DVec2| flip * (turn.transpose() * p);
        let axis = |p: DVec2| self.x * p.x + self.y * p.y;
        let o = self.o + axis(flip * a);
        let (x, y) = (axis(back(DVec2::X)), axis(back(DVec2::Y)));
        let (outer, holes) = (lay(&self.outer), self.holes.iter().map(lay).collect());
        let over = flip != DMat2::IDENTITY;
        let point = |p: DVec2| turn * (flip * p - a);
        let folds = self.folds.iter().map(|f| f.laid(point, over)).collect();
        let bevels = self.bevels.iter().map(|b| b.laid(point, over)).collect();
        let bored = |b: &PlateBore| {
            let b = if over { b.turned_over() } else { b.clone() };
            PlateBore { at: point(b.at), ..b }
        };
        let bores = self.bores.iter().map(bored).collect();
        Cutting { outer, holes, bores, folds, bevels, o, x, y, ..self }
    }

    pub fn part(mut self, part: &str) -> Self {
        self.part = part.into();
        self
    }

    pub fn welded(mut self, length: f64, against: f64) -> Self {
        self.weld = length;
        self.against = against;
        self
    }
}

/// The one straight end that stands at a node.
pub fn end_at(turn: &mut Turn, s: &Skeleton, path: &str, name: &str) -> Option<(usize, usize)> {
    let node = s.known(turn.tell, path, name)?;
    let mut ends = s
        .members
        .iter()
        .enumerate()
        .flat_map(|(i, m)| [(i, 0, m.from), (i, 1, m.to)])
        .filter(|e| e.2 == node && !s.members[e.0].closed);
    let first = ends.next();
    // Where several meet, the one that stands up takes the plate.
    let best = first.map(|f| {
        ends.fold(f, |a, b| {
            if s.members[b.0].end(b.1).d.z.abs() > s.members[a.0].end(a.1).d.z.abs() + COINCIDENT {
                b
            } else {
                a
            }
        })
    });
    if best.is_none() {
        let mend = "name a node where one ends";
        turn.tell.refuse_at(path, format!("no member ends at '{name}'"), mend);
    }
    best.map(|b| (b.0, b.1))
}

/// A straight stretch of a member at a node, away from it.
pub struct Leg {
    pub member: usize,
    pub bar: Bar,
    /// Until it bends; without end for a straight member, whose own end is looked at elsewhere.
    pub room: f64,
}

/// The straight stretch at a node that runs the way a name points: a member's own, or towards another node.
pub fn leg(turn: &mut Turn, s: &Skeleton, node: usize, path: &str, name: &str) -> Option<Leg> {
    let at = s.nodes[node].at;
    let mut here: Vec<Leg> = Vec::new();
    for (i, m) in s.members.iter().enumerate() {
        for stretch in &m.way {
            let CentrelineSegment::Straight { bar, length } = *stretch else { continue };
            // The line that nodes lie on, beside the middle where the section sits off it.
            let (a, length) = if m.is_straight() {
                (s.nodes[m.from].at, s.nodes[m.from].at.distance(s.nodes[m.to].at))
            } else {
                (bar.point(m.sits, 0.0), length)
            };
            let along = (at - a).dot(bar.d);
            if (at - a - bar.d * along).length() >= SAME {
                continue;
            }
            let from = |d: DVec3, room: f64| {
                let along = (at - bar.o).dot(bar.d);
                Leg {
                    member: i,
                    bar: Bar { o: bar.o + bar.d * along, d, ..bar },
                    room: if m.is_straight() { f64::INFINITY } else { room },
                }
            };
            if along < length - SAME && along > -SAME {
                here.push(from(bar.d, length - along));
            }
            if along > SAME && along < length + SAME {
                here.push(from(-bar.d, along));
            }
        }
    }
    let k = match (s.node(name), s.member(name)) {
        (Some(other), _) if other != node => {
            let to = (s.nodes[other].at - at).normalize_or_zero();
            here.iter().position(|l| l.bar.d.dot(to) > 1.0 - COINCIDENT)
        }
        (_, Some(member)) => here.iter().position(|l| l.member == member),
        _ => None,
    };
    if k.is_none() {
        turn.tell.refuse_at(
            path,
            format!(
                "no straight member, nor straight leg of a bent one, runs from '{}' that way",
                s.nodes[node].name
            ),
            "name a member at this node, or the node that it runs to",
        );
    }
    k.map(|k| here.swap_remove(k))
}

/// Along a face of a member: the point on it, outwards, along, and across.
pub fn on_face(
    turn: &mut Turn,
    s: &Skeleton,
    member: &str,
    face: Face,
    at: f64,
) -> Option<(DVec3, DVec3, DVec3, usize)> {
    let i = s.known_member(turn.tell, "/say/member", member)?;
    let m = &s.members[i];
    if !m.is_straight() {
        turn.tell.refuse_at("/say/member", "this member is bent", "name a straight one");
        return None;
    }
    if at > m.length {
        turn.tell.refuse_at(
            "/say/at",
            "this is beyond the member's end",
            "write a shorter distance from its start",
        );
        return None;
    }
    let (bar, p) = (m.end(0), &s.profiles[m.profile]);
    let out = face.outwards();
    let n = bar.y * out.x + bar.z * out.y;
    Some((bar.o + bar.d * at + n * p.reach(out), n, bar.d, i))
}
