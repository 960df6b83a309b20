//! A bend at the tools: where each body of the piece lies and how the two sides of the bend move while it is
//! made.
//!
//! The frame of the tools: x across them, y along the bend, z up the punch, the origin where the tip of the
//! punch touches the sheet. The sheet lies with its inside up. What hangs on the far side of the bend moves
//! to +x and up, its other side to −x and up, by half the angle each.

use glam::{DAffine3, DMat3, DVec2, DVec3};
use ground::geom::ROUNDING;

use super::bodies::Body;
use super::tools::{BEAM_TALL, Section, Tool, sections};
use crate::flat::bends::BendFact;
use crate::formed::zones::{Zone, frames_by};
use shop::brake::BrakeOf;

/// A set of bends that are made, by their index among those of the brake.
pub type BendSet = u128;

/// The most bends that are looked at.
pub const MOST_BENDS: usize = 128;

/// One bend as the tools see it.
#[derive(Clone, Debug)]
pub struct Stroke {
    /// Index among the piece's bends.
    pub bend: usize,
    pub zone: usize,
    pub angle: f64,
    allowance: f64,
    k: f64,
    pub t: f64,
    pub v: f64,
    /// To where punch and die bend it; an edge turned over is closed by flattening.
    pub most: f64,
    /// Where its metal begins and ends along y.
    pub reach: (f64, f64),
    pub sections: Vec<Section>,
    /// From the bend's neighbourhood to the tools.
    into: DAffine3,
}

/// Which side of the bend: the one that hangs on it, or the one that it hangs on.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Side {
    Far,
    Near,
}

impl Side {
    pub fn sign(self) -> f64 {
        match self {
            Side::Far => 1.0,
            Side::Near => -1.0,
        }
    }
}

impl Stroke {
    pub fn new(
        bend: usize,
        b: &BendFact,
        zones: &[Zone],
        bodies: &[Body],
        brake: &BrakeOf,
        t: f64,
    ) -> Option<Stroke> {
        let zone = &zones[b.zone];
        let z = zone.bend()?;
        let across = zone.along.perp();
        let own = bodies
            .iter()
            .filter(|o| o.zone == b.zone)
            .flat_map(|o| &o.ring)
            .map(|p| (*p - zone.origin).dot(across));
        let reach = own.fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)));
        let v = brake.opening(t);
        let (flip, lift) = if b.up { (1.0, -t) } else { (-1.0, 0.0) };
        let turn = DAffine3::from_mat3_translation(
            DMat3::from_diagonal(DVec3::new(1.0, 1.0, flip)),
            DVec3::new(-z.allowance / 2.0, 0.0, lift),
        );
        let mut out = Stroke {
            bend,
            zone: b.zone,
            angle: b.angle,
            allowance: z.allowance,
            k: z.k,
            t,
            v,
            most: b.angle.min(brake.tools.most_angle()),
            reach: if reach.0 < reach.1 { reach } else { (0.0, 0.0) },
            sections: Vec::new(),
            into: turn * zone.basis().inverse(),
        };
        out.sections = sections(&brake.tools, v, out.reach, brake.length);
        out.most = out.bottomed(out.most);
        Some(out)
    }

    /// To where it bends before the sheet lies on the floor of the V, if that is less than `most`.
    fn bottomed(&self, most: f64) -> f64 {
        let floor = self
            .sections
            .iter()
            .filter(|s| s.tool == Tool::Die)
            .flat_map(|s| &s.corners)
            .filter(|c| c.x.abs() < self.v / 2.0 + ROUNDING && c.y < 0.0);
        let deep = -floor.map(|c| c.y).fold(f64::NEG_INFINITY, f64::max);
        let clear = |phi: f64| self.die_top(phi) + self.t <= deep + ROUNDING;
        if !deep.is_finite() || clear(most) {
            return most;
        }
        let (mut low, mut high) = (0.0, most);
        for _ in 0..50 {
            let middle = (low + high) / 2.0;
            if clear(middle) { low = middle } else { high = middle }
        }
        low
    }

    /// Where the frame of every zone stands among the tools, with the bends of `made` (as shares of all
    /// zones) formed and this one not yet.
    pub fn places(&self, zones: &[Zone], shares: &[f64]) -> Vec<DAffine3> {
        let frames = frames_by(zones, shares, self.t);
        let into = self.into * frames[self.zone].inverse();
        frames.into_iter().map(|f| into * f).collect()
    }

    /// Inside end of the bend at angle `phi`, on the far side.
    fn end(&self, phi: f64) -> DVec2 {
        if phi < ROUNDING {
            return DVec2::new(self.allowance / 2.0, 0.0);
        }
        let r = self.allowance / phi - self.k * self.t;
        DVec2::new(r * (phi / 2.0).sin(), r * (1.0 - (phi / 2.0).cos()))
    }

    /// Where a point that lies at `p` (across, up) before the stroke stands at angle `phi`.
    pub fn moved(&self, side: Side, phi: f64, p: DVec2) -> DVec2 {
        self.motion(side, phi)(p)
    }

    /// The same for many points.
    pub fn motion(&self, side: Side, phi: f64) -> impl Fn(DVec2) -> DVec2 + use<> {
        let (turn, end, half, sign) =
            (DVec2::from_angle(phi / 2.0), self.end(phi), self.allowance / 2.0, side.sign());
        move |p| {
            let q = end + turn.rotate(DVec2::new(sign * p.x - half, p.y));
            DVec2::new(sign * q.x, q.y)
        }
    }

    /// Where points of the bend itself stand at angle `phi`.
    pub fn bent(&self, points: &[DVec2], phi: f64) -> Vec<DVec2> {
        if phi < ROUNDING {
            return points.to_vec();
        }
        let r = self.allowance / phi - self.k * self.t;
        let turn = phi / self.allowance;
        points
            .iter()
            .map(|p| DVec2::new((r - p.y) * (p.x * turn).sin(), r - (r - p.y) * (p.x * turn).cos()))
            .collect()
    }

    pub fn moved_in_space(&self, side: Side, phi: f64, p: DVec3) -> DVec3 {
        let q = self.moved(side, phi, DVec2::new(p.x, p.z));
        DVec3::new(q.x, p.y, q.y)
    }

    /// Height of the die's top: its shoulders bear the sheet.
    pub fn die_top(&self, phi: f64) -> f64 {
        let (s, c) = (phi / 2.0).sin_cos();
        let e = self.end(phi);
        let low = DVec2::new(e.x + self.t * s, e.y - self.t * c);
        let half = self.v / 2.0;
        if half >= low.x || phi < ROUNDING {
            return low.y + (half - low.x) * s / c;
        }
        // Bent so wide that the arc itself lies on the shoulders.
        let r = self.allowance / phi - self.k * self.t;
        let outer = r + self.t;
        r - (outer * outer - half * half).max(0.0).sqrt()
    }

    /// A bound on how fast the die's top moves, mm a rad, up to a little beyond `phi`.
    pub fn die_speed(&self, phi: f64) -> f64 {
        let c = ((phi + MOST_STEP) / 2.0).min(1.55).cos();
        self.v / 4.0 / (c * c) + self.slack()
    }

    /// A bound on how far the inside end of the bend moves a rad.
    fn slack(&self) -> f64 {
        self.allowance / 4.0 + self.t
    }

    /// A bound on the speed of points no further from the bend's end than `radius`, mm a rad.
    pub fn speed(&self, radius: f64) -> f64 {
        radius / 2.0 + self.slack()
    }

    /// The bend's end on one side before the stroke: what hangs there keeps its distance from it.
    pub fn end_of(&self, side: Side) -> DVec2 {
        DVec2::new(side.sign() * self.allowance / 2.0, 0.0)
    }

    /// How far that end wanders during the stroke, at most.
    pub fn wander(&self) -> f64 {
        self.allowance + 2.0 * self.t
    }

    /// A section as it stands at `phi`.
    pub fn standing(&self, section: &Section, phi: f64, out: &mut Vec<DVec2>) {
        let by = if section.on_die { DVec2::new(0.0, self.die_top(phi)) } else { DVec2::ZERO };
        out.clear();
        out.extend(section.corners.iter().map(|p| *p + by));
    }

    /// Whether points this near to the bend can meet a tool at all.
    pub fn within_reach(&self, section: &Section, radius: f64) -> bool {
        let near = match section.tool {
            Tool::Beam => section.corners.iter().map(|p| p.y).fold(f64::INFINITY, f64::min),
            Tool::Bed => {
                -section.corners.iter().map(|p| p.y).fold(f64::NEG_INFINITY, f64::max)
                    - self.die_top(self.most).max(0.0)
            }
            _ => 0.0,
        };
        near < radius + self.wander() && near < BEAM_TALL
    }
}

/// The furthest that a sweep goes at once, rad.
pub const MOST_STEP: f64 = 0.15;
