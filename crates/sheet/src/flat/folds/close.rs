//! How two neighbouring folds meet: where each ends beyond the corner of the tangent lines, so that formed
//! they keep their gap.

use glam::DVec2;

use super::tree::{Closing, FoldSpec};
use crate::choices::Close;

/// How far the end of a fold reaches beyond the corner of the tangent lines, along its own fold line.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Trim {
    /// Of the bend, at the far tangent line.
    pub bend: f64,
    /// Of the panel, at the far tangent line and at the tip.
    pub low: f64,
    pub high: f64,
}

/// A folded panel as planes: outward distance from its near tangent line at a height over the inner face of
/// the panel it is folded from.
struct Faces {
    r: f64,
    angle: f64,
    t: f64,
}

impl Faces {
    fn of(s: &FoldSpec, t: f64) -> Faces {
        Faces { r: s.bend.radius, angle: s.bend.angle, t }
    }

    /// Of a point `y` beyond the far tangent line on the inner face: outward distance and height.
    fn point(&self, y: f64) -> (f64, f64) {
        let q = y + self.r * (self.angle / 2.0).tan();
        let (s, c) = self.angle.sin_cos();
        (self.r * (self.angle / 2.0).tan() + q * c, q * s)
    }

    fn inner_at(&self, height: f64) -> f64 {
        self.r * (self.angle / 2.0).tan() + height / self.angle.tan()
    }

    fn outer_at(&self, height: f64) -> f64 {
        (self.r + self.t) * (self.angle / 2.0).tan() + (height + self.t) / self.angle.tan()
    }
}

/// Whether two folds can be closed on one another by these rules: both flanges, the same way, neither turned
/// nearly over.
pub fn closes(a: &FoldSpec, b: &FoldSpec) -> bool {
    let most = 165f64.to_radians();
    a.bend.up == b.bend.up && a.bend.angle < most && b.bend.angle < most && a.is_flange() && b.is_flange()
}

/// The ends of the fold before and the fold after a corner whose outline turns by `turn` (90° at a square
/// corner).
pub fn close(before: &FoldSpec, after: &FoldSpec, turn: f64, how: &Closing, t: f64) -> [Trim; 2] {
    if how.close == Close::Open || !closes(before, after) || turn < 1e-3 {
        return [Trim::default(); 2];
    }
    let (a, b) = (Faces::of(before, t), Faces::of(after, t));
    let half = how.gap / (2.0 * (turn / 2.0).cos());
    // Beyond the corner along one fold line, for outward distances from both.
    let along = |own: f64, other: f64| (other - turn.cos() * own) / turn.sin();
    let edge = |own: &Faces, other: &Faces, y: f64| {
        let (o, h) = own.point(y);
        along(o, other.inner_at(h)) - half
    };
    let over = |own: &Faces, other: &Faces, y: f64| {
        let (o, h) = own.point(y);
        along(o, other.outer_at(h))
    };
    let under = |own: &Faces, other: &Faces, y: f64| {
        let (o, h) = own.point(y);
        along(o, other.inner_at(h)) - how.gap / turn.sin()
    };
    // In the flat each bend keeps to its own half of the corner.
    let bend = |own: &Faces, other: &Faces, s: &FoldSpec| {
        edge(own, other, 0.0).min(s.bend.allowance.length * (turn / 2.0).tan())
    };
    let trim = |own: &Faces, other: &Faces, s: &FoldSpec, at: &dyn Fn(&Faces, &Faces, f64) -> f64| {
        let low = at(own, other, 0.0);
        Trim { bend: bend(own, other, s).min(low), low, high: at(own, other, s.bend.straight) }
    };
    match how.close {
        Close::LapBefore => [trim(&a, &b, before, &over), trim(&b, &a, after, &under)],
        Close::LapAfter => [trim(&a, &b, before, &under), trim(&b, &a, after, &over)],
        _ => [trim(&a, &b, before, &edge), trim(&b, &a, after, &edge)],
    }
}

/// A section square to a fold line: a point of the top face and the heading there. x runs outward from the
/// first tangent line.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Profile {
    pub at: DVec2,
    pub heading: f64,
}

impl Profile {
    pub const START: Profile = Profile { at: DVec2::ZERO, heading: 0.0 };

    /// After a bend.
    pub fn bent(self, s: &FoldSpec, t: f64) -> Profile {
        let left = DVec2::from_angle(self.heading).perp();
        let (radius, turn) =
            if s.bend.up { (s.bend.radius, s.bend.angle) } else { (-(s.bend.radius + t), -s.bend.angle) };
        let centre = self.at + left * radius;
        Profile {
            at: centre + DVec2::from_angle(turn).rotate(self.at - centre),
            heading: self.heading + turn,
        }
    }

    /// Straight on.
    pub fn on(self, length: f64) -> Profile {
        Profile { at: self.at + DVec2::from_angle(self.heading) * length, ..self }
    }

    /// The lesser outward distance of the two faces.
    pub fn nearest(&self, t: f64) -> f64 {
        self.at.x + (t * self.heading.sin()).min(0.0)
    }
}

/// Ends of a fold on the tip of a wall whose neighbour has the same: cut along the plane that halves the
/// corner.
/// `from` is the section where the bend starts; `half` is tan(turn / 2).
pub fn mitre(s: &FoldSpec, from: Profile, half: f64, t: f64) -> Trim {
    let base = from.nearest(t);
    let beyond = from.bent(s, t);
    let low = (beyond.nearest(t) - base) * half;
    Trim { bend: low, low, high: (beyond.on(s.bend.straight).nearest(t) - base) * half }
}
