//! Nodes and members of a frame as they stand in space.

use ground::geom::ROUNDING;
use std::f64::consts::PI;

use glam::{DQuat, DVec2, DVec3};
use sheet::Bore;
use std::sync::Arc;

use super::bar::{Bar, Motion, Surface};
use super::profile::Profile;
use shop::Material;

#[derive(Clone, Debug, PartialEq)]
pub struct Node {
    pub name: String,
    pub at: DVec3,
    pub line: String,
    /// The node that this is a copy of, in the end.
    pub root: usize,
}

/// A part of a member's way: straight, or round a bend.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum CentrelineSegment {
    Straight {
        bar: Bar,
        length: f64,
    },
    /// From `bar`, turning about `axis` through `centre`.
    Bend {
        bar: Bar,
        centre: DVec3,
        axis: DVec3,
        radius: f64,
        sweep: f64,
    },
    /// Straight on, while the section turns evenly about its middle, clockwise seen along the bar.
    Twist {
        bar: Bar,
        length: f64,
        angle: f64,
    },
}

impl CentrelineSegment {
    pub fn length(&self) -> f64 {
        match *self {
            CentrelineSegment::Straight { length, .. } | CentrelineSegment::Twist { length, .. } => length,
            CentrelineSegment::Bend { radius, sweep, .. } => radius * sweep,
        }
    }

    /// The bar at a share of the stretch.
    pub fn at(&self, share: f64) -> Bar {
        match *self {
            CentrelineSegment::Straight { bar, length } => Bar { o: bar.o + bar.d * (length * share), ..bar },
            CentrelineSegment::Twist { bar, length, angle } => {
                let turn = DQuat::from_axis_angle(bar.d, angle * share);
                Bar { o: bar.o + bar.d * (length * share), y: turn * bar.y, z: turn * bar.z, ..bar }
            }
            CentrelineSegment::Bend { bar, centre, axis, sweep, .. } => {
                let turn = DQuat::from_axis_angle(axis, sweep * share);
                Bar { o: centre + turn * (bar.o - centre), d: turn * bar.d, y: turn * bar.y, z: turn * bar.z }
            }
        }
    }

    /// How much longer than its own line, for the metal beside it, the way through a point of the section is:
    /// 1 where it is straight.
    pub fn share(&self, p: DVec2) -> f64 {
        match *self {
            CentrelineSegment::Straight { .. } | CentrelineSegment::Twist { .. } => 1.0,
            CentrelineSegment::Bend { bar, centre, axis, radius, .. } => {
                across(bar.point(p, 0.0) - centre, axis).length() / radius
            }
        }
    }

    /// A place so far along it, at a point of the section.
    pub fn inward(&self, p: DVec2, s: f64) -> DVec3 {
        match *self {
            CentrelineSegment::Straight { bar, .. } => bar.point(p, s),
            CentrelineSegment::Twist { length, .. } => self.at(s / length).point(p, 0.0),
            CentrelineSegment::Bend { bar, centre, axis, radius, .. } => {
                centre + DQuat::from_axis_angle(axis, s / radius) * (bar.point(p, 0.0) - centre)
            }
        }
    }

    /// Where the furthest of these cuts lies, at a point of the section.
    pub fn cut_by(&self, trims: &[EndCut], p: DVec2) -> f64 {
        trims.iter().map(|t| self.met(&t.surface, p)).reduce(f64::max).unwrap_or(0.0)
    }

    /// How far along it the way through a point of the section comes upon a surface, looking back from
    /// inside.
    pub fn met(&self, surface: &Surface, p: DVec2) -> f64 {
        match *self {
            // Its ends are square, or lie in straights beside it.
            CentrelineSegment::Straight { bar, .. } | CentrelineSegment::Twist { bar, .. } => {
                surface.station(bar.point(p, 0.0), bar.d)
            }
            CentrelineSegment::Bend { bar, centre, axis, radius, .. } => {
                let spoke = bar.point(p, 0.0) - centre;
                let r = across(spoke, axis).length();
                // From tangent to tangent: each step is what is left to go along the present one.
                let mut turned = 0.0;
                for _ in 0..30 {
                    let turn = DQuat::from_axis_angle(axis, turned);
                    let left = surface.station(centre + turn * spoke, turn * bar.d) / r;
                    turned = (turned + left.clamp(-0.7, 0.7)).clamp(-PI, PI);
                    if left.abs() < 1e-13 {
                        break;
                    }
                }
                turned * radius
            }
        }
    }

    pub fn moved(&self, by: &Motion) -> CentrelineSegment {
        match *self {
            CentrelineSegment::Straight { bar, length } => {
                CentrelineSegment::Straight { bar: bar.moved(by), length }
            }
            CentrelineSegment::Twist { bar, length, angle } => {
                let angle = angle * if by.mirrors() { -1.0 } else { 1.0 };
                CentrelineSegment::Twist { bar: bar.moved(by), length, angle }
            }
            CentrelineSegment::Bend { bar, centre, axis, radius, sweep } => {
                // A mirrored turn goes the other way about the mirrored axis.
                let axis = by.turn(axis) * if by.mirrors() { -1.0 } else { 1.0 };
                CentrelineSegment::Bend { bar: bar.moved(by), centre: by.point(centre), axis, radius, sweep }
            }
        }
    }

    /// Walked from its other end.
    pub fn reversed(&self) -> CentrelineSegment {
        let end = self.at(1.0);
        let back = Bar { d: -end.d, ..end };
        match *self {
            CentrelineSegment::Straight { length, .. } => CentrelineSegment::Straight { bar: back, length },
            CentrelineSegment::Twist { length, angle, .. } => {
                CentrelineSegment::Twist { bar: back, length, angle }
            }
            CentrelineSegment::Bend { centre, axis, radius, sweep, .. } => {
                CentrelineSegment::Bend { bar: back, centre, axis: -axis, radius, sweep }
            }
        }
    }
}

/// The part of a vector that lies across an axis.
pub fn across(v: DVec3, axis: DVec3) -> DVec3 {
    v - axis * v.dot(axis)
}

/// Why an end is cut as it is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Cause {
    Mitre,
    /// Squared off so far that the others stand on it.
    Through,
    /// Ends at another member.
    Against,
    /// A told trim, or room for a plate.
    Told,
}

#[derive(Clone, Debug, PartialEq)]
pub struct EndCut {
    pub surface: Surface,
    pub cause: Cause,
    /// The member that it ends at, when there is one.
    pub by: Option<usize>,
}

/// A hole through a wall.
#[derive(Clone, Debug, PartialEq)]
pub struct Hole {
    /// Along, from the start node.
    pub along: f64,
    /// Where on the outline, and which way out of the material.
    pub at: DVec2,
    pub out: DVec2,
    pub diameter: f64,
    /// Overall, along the member; the diameter for a round one.
    pub length: f64,
    /// Where it ends, measured along `out` from the middle of the section.
    pub floor: f64,
    pub through: bool,
    /// A square notch, open at this end; `along` is found when the end is.
    pub notch: Option<usize>,
    /// How much further than at the middle of the section the end stands out where a notch is open; found
    /// when the end is.
    pub beyond: f64,
    /// What is drilled beside a hole through the wall: a cone, a bore, a thread.
    pub bore: Option<Arc<Bore>>,
}

#[derive(Clone, Debug)]
pub struct Member {
    /// `rail-1.2`, `mirror-1.rail-1.2`.
    pub name: String,
    pub line: String,
    /// What the shop calls it.
    pub call: String,
    /// The member that this is a copy of, in the end.
    pub root: usize,
    pub profile: usize,
    pub material: std::sync::Arc<Material>,
    pub from: usize,
    pub to: usize,
    pub way: Vec<CentrelineSegment>,
    /// The point of the section that lies on the line between its nodes.
    pub sits: DVec2,
    /// Of its own line, node to node.
    pub length: f64,
    /// Cuts at the start and at the end, each from its own end.
    pub trims: [Vec<EndCut>; 2],
    /// Ends that are rounded off once they are found.
    pub rounds: [Option<EndRound>; 2],
    /// Ends that are pressed flat.
    pub pressed: [Option<EndPressed>; 2],
    pub holes: Vec<Hole>,
    /// Sub-assembly, and which of its copies.
    pub assembly: Option<(usize, usize)>,
    /// A ring without ends.
    pub closed: bool,
    pub bending: Bending,
}

/// An end that is rounded off.
#[derive(Clone, Debug, PartialEq)]
pub struct EndRound {
    /// The line that tells it.
    pub line: String,
    /// To the side that is rounded, in the section.
    pub aside: DVec2,
    /// Of its corners; half the width for an end rounded full.
    pub radius: f64,
    pub is_full: bool,
}

/// The end of a tube pressed flat; lengths along the bar from its end as it is cut.
#[derive(Clone, Debug, PartialEq)]
pub struct EndPressed {
    /// The line that tells it.
    pub line: String,
    /// Along the flat, in the section.
    pub across: DVec2,
    pub length: f64,
    /// Until it is round again.
    pub over: f64,
}

impl EndPressed {
    /// What it takes of the bar.
    pub fn taken(&self) -> f64 {
        self.length + self.over
    }
}

/// How a member is bent.
#[derive(Clone, Debug, PartialEq)]
pub struct Bending {
    /// Where the line that keeps its length lies, from the inside of the bend to the outside.
    pub neutral: f64,
    /// The test bend that says so; empty for none.
    pub by: String,
    /// Straight that its bender needs beside each bend; none where it is not looked at.
    pub clamp: Option<f64>,
}

impl Default for Bending {
    fn default() -> Self {
        Bending { neutral: 0.5, by: String::new(), clamp: None }
    }
}

/// What a bar is made of.
pub struct MemberOf {
    pub profile: usize,
    pub material: Arc<Material>,
}

impl Member {
    /// A bar along this way between two nodes, by its middle, its ends square. It is called like its line.
    pub fn new(
        line: &str,
        call: &str,
        bar: MemberOf,
        ends: [usize; 2],
        way: Vec<CentrelineSegment>,
    ) -> Member {
        Member {
            name: line.into(),
            line: line.into(),
            call: call.into(),
            root: 0,
            profile: bar.profile,
            material: bar.material,
            from: ends[0],
            to: ends[1],
            length: way.iter().map(CentrelineSegment::length).sum(),
            way,
            sits: DVec2::ZERO,
            trims: [Vec::new(), Vec::new()],
            rounds: [None, None],
            pressed: [None, None],
            holes: Vec::new(),
            assembly: None,
            closed: false,
            bending: Bending::default(),
        }
    }

    /// The bar seen from an end: 0 the start, 1 the end, looking in.
    pub fn end(&self, k: usize) -> Bar {
        if k == 0 {
            return self.way[0].at(0.0);
        }
        let last = self.way[self.way.len() - 1].at(1.0);
        Bar { d: -last.d, ..last }
    }

    pub fn is_twisted(&self) -> bool {
        self.way.iter().any(|s| matches!(s, CentrelineSegment::Twist { .. }))
    }

    pub fn is_straight(&self) -> bool {
        self.way.len() == 1 && matches!(self.way[0], CentrelineSegment::Straight { .. })
    }

    /// The straight stretch that this place along its line lies on, as a bar that starts where the line does.
    pub fn straight_at(&self, along: f64) -> Option<Bar> {
        let mut from = 0.0;
        for s in &self.way {
            let to = from + s.length();
            if let CentrelineSegment::Straight { bar, .. } = *s
                && (self.is_straight() || (along >= from && along <= to))
            {
                return Some(Bar { o: bar.o - bar.d * from, ..bar });
            }
            from = to;
        }
        None
    }

    /// The place so far along it, on the line between its nodes; round a bend too.
    pub fn place(&self, along: f64) -> Option<DVec3> {
        if !(-ROUNDING..=self.length + ROUNDING).contains(&along) {
            return None;
        }
        let mut from = 0.0;
        for (i, s) in self.way.iter().enumerate() {
            let length = s.length();
            if along <= from + length || i + 1 == self.way.len() {
                return Some(
                    s.at(((along - from) / length.max(1e-12)).clamp(0.0, 1.0)).point(self.sits, 0.0),
                );
            }
            from += length;
        }
        None
    }

    /// Half way along the middle of its box.
    pub fn middle(&self) -> DVec3 {
        let half = &self.way[self.way.len() / 2];
        half.at(if self.way.len() % 2 == 1 { 0.5 } else { 0.0 }).o
    }

    /// The stretch at an end, looking in.
    pub fn end_stretch(&self, k: usize) -> CentrelineSegment {
        if k == 0 { self.way[0] } else { self.way[self.way.len() - 1].reversed() }
    }

    /// How far from an end of its line material begins, at a point of the section; measured along the middle
    /// where the bar is bent. Negative reaches beyond the node.
    pub fn station(&self, k: usize, p: DVec2) -> f64 {
        if self.trims[k].is_empty() {
            return 0.0;
        }
        self.end_stretch(k).cut_by(&self.trims[k], p)
    }

    /// The same for one surface.
    pub fn station_of(&self, k: usize, surface: &Surface, p: DVec2) -> f64 {
        self.end_stretch(k).met(surface, p)
    }

    /// A place so far from an end along the bar, at a point of the section.
    pub fn inward(&self, k: usize, p: DVec2, s: f64) -> DVec3 {
        self.end_stretch(k).inward(p, s)
    }

    /// Where material begins at an end, at a point of the section.
    pub fn tip(&self, k: usize, p: DVec2) -> DVec3 {
        let end = self.end_stretch(k);
        end.inward(p, end.cut_by(&self.trims[k], p))
    }

    /// The bar at the cut, looking in: that of the end, carried round where it is bent.
    pub fn cut_bar(&self, k: usize) -> Bar {
        match self.end_stretch(k) {
            CentrelineSegment::Straight { bar, .. } | CentrelineSegment::Twist { bar, .. } => bar,
            CentrelineSegment::Bend { bar, centre, axis, radius, .. } => {
                let turn = DQuat::from_axis_angle(axis, self.station(k, DVec2::ZERO) / radius);
                Bar { o: centre + turn * (bar.o - centre), d: turn * bar.d, y: turn * bar.y, z: turn * bar.z }
            }
        }
    }

    /// The outline to look along at an end: corners say it all of a single plane, not of anything else.
    pub fn rim<'a>(&self, p: &'a Profile, k: usize) -> &'a [DVec2] {
        let straight = matches!(
            self.way[if k == 0 { 0 } else { self.way.len() - 1 }],
            CentrelineSegment::Straight { .. }
        );
        let plain = matches!(
            (self.trims[k].as_slice(), straight),
            ([], _) | ([EndCut { surface: Surface::Plane { .. }, .. }], true)
        );
        if plain { &p.fine } else { &p.rim }
    }

    /// Length of material along the line through a point of the section.
    pub fn run(&self, p: DVec2) -> f64 {
        self.length - self.station(0, p) - self.station(1, p)
    }

    /// Its way and holes elsewhere. One that is mirrored is walked from its other end, so that its frame
    /// stays right-handed.
    pub fn moved(&self, by: &Motion) -> (Vec<CentrelineSegment>, Vec<Hole>) {
        let mut way: Vec<CentrelineSegment> = self.way.iter().map(|s| s.moved(by)).collect();
        let mut holes = self.holes.clone();
        if by.mirrors() {
            way = way.iter().rev().map(CentrelineSegment::reversed).collect();
            for h in &mut holes {
                h.along = self.length - h.along;
                h.notch = h.notch.map(|end| end ^ 1);
            }
        }
        (way, holes)
    }
}
