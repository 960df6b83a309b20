//! A bend at the tools: where each body of the piece lies and how the two sides of the bend move while it is
//! made.
//!
//! The frame of the tools: x across them, y along the bend, z up the punch, the origin where the tip of the
//! punch touches the sheet. The sheet lies with its inside up. What hangs on the far side of the bend moves
//! to +x and up, its other side to −x and up, by half the angle each.

use glam::{DAffine3, DMat3, DVec2, DVec3};
use ground::geom::ROUNDING;
use ground::geom::rings::{Motion, Swing};

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

/// A bend on its way.
pub struct At {
    phi: f64,
    /// Cosine and sine of half the angle.
    pub turn: DVec2,
    /// Its inside end on the far side, and how fast that goes.
    pub end: DVec2,
    speed: DVec2,
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
            .flat_map(|s| &s.ring.corners)
            .filter(|c| c.x.abs() < self.v / 2.0 + ROUNDING && c.y < 0.0);
        let deep = -floor.map(|c| c.y).fold(f64::NEG_INFINITY, f64::max);
        let clear = |phi: f64| self.die_top(&self.at(phi)) + self.t <= deep + ROUNDING;
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

    /// The bend at angle `phi`.
    pub fn at(&self, phi: f64) -> At {
        let turn = DVec2::from_angle(phi / 2.0);
        let DVec2 { x: c, y: s } = turn;
        let (a, neutral) = (self.allowance, self.k * self.t);
        let end = if phi < ROUNDING {
            DVec2::new(a / 2.0, 0.0)
        } else {
            (a / phi - neutral) * DVec2::new(s, 1.0 - c)
        };
        // Of a very small angle by the first terms of its series.
        let of_arc = if phi < 1e-3 {
            DVec2::new(-phi / 24.0, 0.125)
        } else {
            DVec2::new(c / 2.0 - s / phi, s / 2.0 - (1.0 - c) / phi) / phi
        };
        At { phi, turn, end, speed: a * of_arc - neutral / 2.0 * turn }
    }

    /// How what lay on one side before the stroke has moved.
    pub fn motion(&self, side: Side, at: &At) -> Motion {
        let sign = side.sign();
        let mirrored = |v: DVec2| DVec2::new(sign * v.x, v.y);
        let turn = DVec2::new(at.turn.x, sign * at.turn.y);
        Motion::about(turn, sign / 2.0, self.end_of(side), mirrored(at.end), mirrored(at.speed))
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

    /// Height of the die's top: its shoulders bear the sheet.
    pub fn die_top(&self, at: &At) -> f64 {
        let (phi, e, DVec2 { x: c, y: s }) = (at.phi, at.end, at.turn);
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

    /// How a section has moved. Its motion says nothing of how fast the die goes on: `die_speed` bounds that.
    pub fn standing(&self, section: &Section, at: &At) -> Motion {
        let up = if section.on_die { self.die_top(at) } else { 0.0 };
        Motion::shifted(DVec2::new(0.0, up))
    }

    /// How far from straight corners go that stand among the tools before the stroke, seen from them, and
    /// how far corners of tools that stand still do, seen from what moves.
    pub fn swings(&self, side: Side) -> [Swing; 2] {
        let (rate, bends) = (0.25, self.end_bends());
        let moved = Swing { about: self.end_of(side), least: bends, more: rate };
        // The end lies within an allowance and two thicknesses of the tip of the punch.
        let seen_back = bends + self.slack() + rate * (self.allowance + 2.0 * self.t);
        [moved, Swing { about: DVec2::ZERO, least: seen_back, more: rate }]
    }

    /// The same of what moves on one side, seen from what moves on the other.
    pub fn swing_against(&self, side: Side) -> Swing {
        let least = self.allowance / 4.0 + 2.0 * self.slack() + 2.0 * self.end_bends();
        Swing { about: self.end_of(side), least, more: 1.0 }
    }

    /// A bound on how far from straight the inside end of the bend goes: of sin x / x and (1 - cos x) / x no
    /// second derivative is beyond 1/3, and no neutral factor beyond 2.
    fn end_bends(&self) -> f64 {
        self.allowance / 16.0 + self.t / 2.0
    }

    /// Whether points this near to the bend can meet a tool at all.
    pub fn within_reach(&self, section: &Section, radius: f64) -> bool {
        let near = match section.tool {
            Tool::Beam => section.ring.corners.iter().map(|p| p.y).fold(f64::INFINITY, f64::min),
            Tool::Bed => {
                -section.ring.corners.iter().map(|p| p.y).fold(f64::NEG_INFINITY, f64::max)
                    - self.die_top(&self.at(self.most)).max(0.0)
            }
            _ => 0.0,
        };
        near < radius + self.wander() && near < BEAM_TALL
    }
}

/// The furthest that a sweep against the die goes by the speed that this has just then, rad.
pub const MOST_STEP: f64 = 0.15;

#[cfg(test)]
mod tests {
    use super::*;

    /// How fast the bend's end goes and how that changes, against differences of where it is; the bounds that
    /// sweeps rest on hold.
    #[test]
    fn the_end_of_a_bend_goes_as_fast_as_told_and_no_faster_than_bounded() {
        let cases = [(0.0, 0.5, 1.0), (2.0, 0.33, 1.5), (3.2, 0.5, 2.0), (9.0, 0.45, 6.0), (120.0, 0.3, 3.0)];
        for (r, k, t) in cases {
            for angle in [0.2, 1.0, 1.6, 2.4, 3.1] {
                let s = Stroke {
                    bend: 0,
                    zone: 0,
                    angle,
                    allowance: (r + k * t) * angle,
                    k,
                    t,
                    v: 10.0,
                    most: angle,
                    reach: (0.0, 100.0),
                    sections: Vec::new(),
                    into: DAffine3::IDENTITY,
                };
                const H: f64 = 1e-4;
                for i in 1..=60 {
                    let phi = H + (angle - 2.0 * H) * f64::from(i) / 60.0;
                    let [before, now, after] = [phi - H, phi, phi + H].map(|p| s.at(p));
                    let seen = (after.end - before.end) / (2.0 * H);
                    assert!((now.speed - seen).length() < 1e-5 * (1.0 + s.allowance), "{r} {angle} {phi}");
                    assert!(now.speed.length() <= s.slack());
                    let bends = (after.speed - before.speed) / (2.0 * H);
                    assert!(bends.length() <= s.end_bends(), "{r} {angle} {phi}: {bends}");
                }
            }
        }
    }
}
