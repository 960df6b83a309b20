//! A straight stretch of bar seen from one end, and what can cut it: for each point of the section, how far
//! from that end material begins.

use ground::geom::ROUNDING;
use std::sync::Arc;

use glam::{DMat3, DVec2, DVec3};

use super::chords::Chords;
use super::model::across;

/// Where the middle of the section's box starts (`o`), the way into the bar (`d`), across (`y`) and up (`z`)
/// of the section.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Bar {
    pub o: DVec3,
    pub d: DVec3,
    pub y: DVec3,
    pub z: DVec3,
}

impl Bar {
    pub fn point(&self, p: DVec2, s: f64) -> DVec3 {
        self.o + self.y * p.x + self.z * p.y + self.d * s
    }

    /// Section coordinates of a point, and how far along.
    pub fn local(&self, q: DVec3) -> (DVec2, f64) {
        let v = q - self.o;
        (DVec2::new(v.dot(self.y), v.dot(self.z)), v.dot(self.d))
    }

    /// A direction in section coordinates, and along.
    pub fn turned(&self, v: DVec3) -> (DVec2, f64) {
        (DVec2::new(v.dot(self.y), v.dot(self.z)), v.dot(self.d))
    }

    pub fn moved(&self, by: &Motion) -> Bar {
        Bar { o: by.point(self.o), d: by.turn(self.d), y: by.turn(self.y), z: by.turn(self.z) }
    }
}

/// A copy's place: turned or mirrored, then shifted.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Motion {
    pub m: DMat3,
    pub by: DVec3,
}

impl Motion {
    pub const NONE: Motion = Motion { m: DMat3::IDENTITY, by: DVec3::ZERO };

    pub fn point(&self, p: DVec3) -> DVec3 {
        self.m * p + self.by
    }

    pub fn turn(&self, v: DVec3) -> DVec3 {
        self.m * v
    }

    /// This one, then another.
    pub fn then(&self, next: &Motion) -> Motion {
        Motion { m: next.m * self.m, by: next.m * self.by + next.by }
    }

    pub fn mirrors(&self) -> bool {
        self.m.determinant() < 0.0
    }
}

/// What an end is cut by.
#[derive(Clone, Debug, PartialEq)]
pub enum Surface {
    /// Normal towards the side that is kept.
    Plane { at: DVec3, normal: DVec3 },
    /// A round member's outside.
    Round { at: DVec3, axis: DVec3, radius: f64 },
    /// The outside of a member of any section: its bar, its outline, and a gap left before it.
    Outline { bar: Bar, outline: Arc<Vec<DVec2>>, gap: f64 },
    /// An end rounded off, square otherwise.
    Rounded(RoundedEnd),
}

/// The rounded end of a bar: straight over its middle, round towards both sides.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct RoundedEnd {
    /// The middle of the section where the bar begins.
    pub at: DVec3,
    /// To the side that is rounded, and into the bar.
    pub aside: DVec3,
    pub into: DVec3,
    /// Half of what stays straight.
    pub half: f64,
    pub radius: f64,
}

impl RoundedEnd {
    /// How far behind its tip it begins, so far beside its middle.
    pub fn back(&self, aside: f64) -> f64 {
        let round = (aside.abs() - self.half).clamp(0.0, self.radius);
        self.radius - (self.radius.powi(2) - round.powi(2)).sqrt()
    }
}

impl Surface {
    pub fn moved(&self, by: &Motion) -> Surface {
        match self {
            Surface::Plane { at, normal } => Surface::Plane { at: by.point(*at), normal: by.turn(*normal) },
            Surface::Round { at, axis, radius } => {
                Surface::Round { at: by.point(*at), axis: by.turn(*axis), radius: *radius }
            }
            Surface::Outline { bar, outline, gap } => {
                Surface::Outline { bar: bar.moved(by), outline: outline.clone(), gap: *gap }
            }
            Surface::Rounded(n) => Surface::Rounded(RoundedEnd {
                at: by.point(n.at),
                aside: by.turn(n.aside),
                into: by.turn(n.into),
                ..*n
            }),
        }
    }

    /// Where the line `o + s·d`, walked back from far off, first comes upon the surface. A line that passes
    /// by ends where it is nearest.
    pub fn station(&self, o: DVec3, d: DVec3) -> f64 {
        match self {
            Surface::Plane { at, normal } => {
                let along = normal.dot(d);
                if along.abs() < ROUNDING { 0.0 } else { normal.dot(*at - o) / along }
            }
            Surface::Round { at, axis, radius } => {
                let w = across(d, *axis);
                if w.length_squared() < 1e-12 {
                    0.0
                } else {
                    back_to_round(across(o - *at, *axis), w, *radius)
                }
            }
            Surface::Outline { bar, outline, gap } => {
                let (p, _) = bar.local(o);
                let (v, _) = bar.turned(d);
                Chords::new(outline, v).map_or(0.0, |c| c.last(p) + gap / v.length())
            }
            Surface::Rounded(n) => (n.at - o).dot(n.into) + n.back((o - n.at).dot(n.aside)),
        }
    }
}

/// Where a line through `from`, walked back along `on`, both across the axis of a round, comes upon it;
/// beside it, where it is nearest.
pub fn back_to_round(from: DVec3, on: DVec3, radius: f64) -> f64 {
    let (a, b, c) = (on.length_squared(), from.dot(on), from.length_squared() - radius * radius);
    ((b * b - a * c).max(0.0).sqrt() - b) / a
}
