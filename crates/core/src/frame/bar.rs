//! A straight stretch of bar seen from one end, and what can cut it: for each point of the section, how far from that end material begins.

use std::sync::Arc;

use glam::{DMat3, DVec2, DVec3};

/// Where the middle of the section's box starts (`o`), the way into the bar (`d`), across (`y`) and up (`z`) of the section.
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
}

impl Surface {
    pub fn moved(&self, by: &Motion) -> Surface {
        match self {
            Surface::Plane { at, normal } => Surface::Plane { at: by.point(*at), normal: by.turn(*normal) },
            Surface::Round { at, axis, radius } => Surface::Round { at: by.point(*at), axis: by.turn(*axis), radius: *radius },
            Surface::Outline { bar, outline, gap } => Surface::Outline { bar: bar.moved(by), outline: outline.clone(), gap: *gap },
        }
    }

    /// Where the line `o + s·d`, walked back from far off, first comes upon the surface. A line that passes by ends where it is nearest.
    pub fn station(&self, o: DVec3, d: DVec3) -> f64 {
        match self {
            Surface::Plane { at, normal } => {
                let along = normal.dot(d);
                if along.abs() < 1e-9 { 0.0 } else { normal.dot(*at - o) / along }
            }
            Surface::Round { at, axis, radius } => {
                let across = |v: DVec3| v - *axis * v.dot(*axis);
                let (v, w) = (across(o - *at), across(d));
                let a = w.length_squared();
                if a < 1e-12 {
                    return 0.0;
                }
                let (b, c) = (v.dot(w), v.length_squared() - radius * radius);
                let root = (b * b - a * c).max(0.0).sqrt();
                (root - b) / a
            }
            Surface::Outline { bar, outline, gap } => {
                let (p, _) = bar.local(o);
                let (v, _) = bar.turned(d);
                last_crossing(outline, p, v) + gap / v.length().max(1e-9)
            }
        }
    }
}

/// Nearer to a corner than this a line is taken to touch it, mm.
const GRAZE: f64 = 1e-7;

/// Furthest crossing of the line `p + s·v` with a closed outline; beside it, the place nearest to it.
fn last_crossing(outline: &[DVec2], p: DVec2, v: DVec2) -> f64 {
    let n = v.length();
    if n < 1e-9 {
        return 0.0;
    }
    let across = v.perp() / n;
    let offset = |q: DVec2| (q - p).dot(across);
    let mut best = f64::NEG_INFINITY;
    let mut nearest = (f64::INFINITY, 0.0);
    for (i, &a) in outline.iter().enumerate() {
        let b = outline[(i + 1) % outline.len()];
        let (da, db) = (offset(a), offset(b));
        let along = (a - p).dot(v) / (n * n);
        if da.abs() < nearest.0 - 1e-9 || (da.abs() < nearest.0 + 1e-9 && along > nearest.1) {
            nearest = (da.abs().min(nearest.0), along);
        }
        // A line that grazes a corner or runs along a side comes upon it, whichever way the last digit falls.
        if da.abs() < GRAZE {
            best = best.max(along);
        } else if db.abs() >= GRAZE && (da < 0.0) != (db < 0.0) {
            let q = a.lerp(b, da / (da - db));
            best = best.max((q - p).dot(v) / (n * n));
        }
    }
    if best.is_finite() { best } else { nearest.1 }
}

/// The stretch of a line that lies inside a closed outline, widest if there are several; `None` when it passes by or only grazes.
pub fn inside_outline(outline: &[DVec2], p: DVec2, v: DVec2) -> Option<(f64, f64)> {
    let aside = v.perp().normalize_or_zero() * GRAZE;
    let (left, right) = (stretch(outline, p + aside, v)?, stretch(outline, p - aside, v)?);
    let (low, high) = (left.0.max(right.0), left.1.min(right.1));
    (low < high).then_some((low, high))
}

fn stretch(outline: &[DVec2], p: DVec2, v: DVec2) -> Option<(f64, f64)> {
    let n = v.length_squared();
    if n < 1e-18 {
        return None;
    }
    let across = v.perp();
    let offset = |q: DVec2| (q - p).dot(across);
    let (mut low, mut high) = (f64::INFINITY, f64::NEG_INFINITY);
    for (i, &a) in outline.iter().enumerate() {
        let b = outline[(i + 1) % outline.len()];
        let (da, db) = (offset(a), offset(b));
        if (da <= 0.0) != (db <= 0.0) {
            let s = (a.lerp(b, da / (da - db)) - p).dot(v) / n;
            low = low.min(s);
            high = high.max(s);
        }
    }
    (low < high).then_some((low, high))
}
