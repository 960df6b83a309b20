//! Lines and arcs in the order of the outline → where each ends and the next begins.

use std::f64::consts::{PI, TAU};

use glam::DVec2;
use ground::geom::{Contour, Vertex};

use super::carrier::Carrier;
use super::fit::{Circle, Straight};

/// An outline of fitted sides.
#[derive(Clone, Debug, Default)]
pub struct Chain {
    pub sides: Vec<Carrier>,
    /// Where each side begins; it ends where the next begins.
    pub joints: Vec<DVec2>,
    /// Whether a side runs on from the one before it without a corner.
    pub tangent: Vec<bool>,
    /// Sides whose ends do not meet: each with the next.
    pub apart: Vec<usize>,
}

/// Half a pattern of sides and its image about a line: the first and the last side may lie across the
/// line, and
/// are then one with their image.
pub fn mirrored(sides: &[Carrier], about: &Straight, near: f64) -> Vec<Carrier> {
    let own = |c: &Carrier| across(c, about, near);
    let mut half = sides.to_vec();
    let n = half.len();
    let (first, last) = (n > 0 && own(&half[0]), n > 1 && own(&half[n - 1]));
    if first {
        half[0] = squared(&half[0], about);
    }
    if last {
        half[n - 1] = squared(&half[n - 1], about);
    }
    let from = usize::from(first);
    let to = n - usize::from(last);
    let images: Vec<Carrier> = half[from.min(to)..to].iter().rev().map(|c| c.mirrored(about)).collect();
    half.into_iter().chain(images).collect()
}

/// Whether a side is its own image: a line square to the axis that reaches it, an arc about a place on it.
fn across(c: &Carrier, about: &Straight, near: f64) -> bool {
    let ends = [c.at(0.0).0, c.at(1.0).0].map(|p| about.off(p));
    let reaches =
        ends[0] * ends[1] <= 0.0 || ends.iter().any(|o| o.abs() < (0.2 * c.length()).max(3.0 * near));
    reaches
        && match c {
            Carrier::Line { line, .. } => line.along.dot(about.along).abs() < 0.05,
            Carrier::Arc { circle, .. } => about.off(circle.centre).abs() < 3.0 * near,
        }
}

/// Made to be its own image, from its end that was pointed at to that end's image.
fn squared(c: &Carrier, about: &Straight) -> Carrier {
    let flip = |p: DVec2| about.foot(p) * 2.0 - p;
    let (a, b) = (c.at(0.0).0, c.at(1.0).0);
    let (oa, ob) = (about.off(a).abs(), about.off(b).abs());
    match c {
        Carrier::Line { line, .. } => {
            let middle = about.foot(c.at(0.5).0);
            let along = about.along.perp();
            let along = if along.dot(line.along) < 0.0 { -along } else { along };
            let reach = oa.max(ob);
            Carrier::Line { line: Straight { at: middle, along }, from: -reach, to: reach }
        }
        Carrier::Arc { circle, sweep, .. } => {
            let centre = about.foot(circle.centre);
            let (a, b) = if oa >= ob { (a, flip(a)) } else { (flip(b), b) };
            let (u, v) = (a - centre, b - centre);
            let turned = u.angle_to(v);
            let turned = if turned * sweep < 0.0 { turned + TAU * sweep.signum() } else { turned };
            let circle = Circle { centre, radius: circle.radius };
            Carrier::Arc { circle, from: u.to_angle(), sweep: turned }
        }
    }
}

/// Joins each side with the next. Nearer than `near` to touching, a line and a circle, or two circles, run on
/// into one another.
pub fn chain(sides: Vec<Carrier>, near: f64) -> Chain {
    let n = sides.len();
    let mut out = Chain::default();
    for k in 0..n {
        let (before, side) = (&sides[(k + n - 1) % n], &sides[k]);
        let about = before.at(1.0).0.midpoint(side.at(0.0).0);
        let (joint, tangent) = match joint(before, side, about, near) {
            Some(found) => found,
            None => {
                out.apart.push((k + n - 1) % n);
                (about, false)
            }
        };
        out.joints.push(joint);
        out.tangent.push(tangent);
    }
    out.sides = sides;
    out
}

/// Where two sides meet next to `about`, and whether without a corner.
fn joint(a: &Carrier, b: &Carrier, about: DVec2, near: f64) -> Option<(DVec2, bool)> {
    match (a, b) {
        (Carrier::Line { line: l, .. }, Carrier::Line { line: m, .. }) => {
            let turn = l.along.perp_dot(m.along);
            if turn.abs() < 0.01 {
                return None;
            }
            Some((l.at + l.along * ((m.at - l.at).perp_dot(m.along) / turn), false))
        }
        (Carrier::Line { line, .. }, Carrier::Arc { circle, .. })
        | (Carrier::Arc { circle, .. }, Carrier::Line { line, .. }) => {
            let foot = line.foot(circle.centre);
            let off = foot.distance(circle.centre);
            // Two places this near to one another cannot be told apart in the picture.
            let blend = near.max(0.004 * circle.radius);
            // Where the arc was pointed at to end is near there; of the line only a part may have been laid.
            let end = if matches!(a, Carrier::Arc { .. }) { a.at(1.0).0 } else { b.at(0.0).0 };
            if (off - circle.radius).abs() <= blend && foot.distance(end) < circle.radius {
                return Some((foot, true));
            }
            let reach = (circle.radius * circle.radius - off * off).max(0.0).sqrt();
            (off <= circle.radius).then(|| {
                let ends = [foot + line.along * reach, foot - line.along * reach];
                (nearest(ends, about), false)
            })
        }
        (Carrier::Arc { circle: c, .. }, Carrier::Arc { circle: d, .. }) => {
            let (apart, way) = (c.centre.distance(d.centre), (d.centre - c.centre).normalize_or_zero());
            let outside = (apart - c.radius - d.radius).abs();
            let inside = (apart - (c.radius - d.radius).abs()).abs();
            let blend = near.max(0.004 * c.radius.min(d.radius));
            if apart > near && outside.min(inside) <= blend {
                let way = if outside <= inside || c.radius > d.radius { way } else { -way };
                return Some((c.centre + way * c.radius, true));
            }
            let x = (apart * apart + c.radius * c.radius - d.radius * d.radius) / (2.0 * apart);
            let y2 = c.radius * c.radius - x * x;
            (apart > 1e-9 && y2 >= 0.0).then(|| {
                let ends = [1.0, -1.0].map(|s| c.centre + way * x + way.perp() * (s * y2.sqrt()));
                (nearest(ends, about), false)
            })
        }
    }
}

fn nearest(ends: [DVec2; 2], about: DVec2) -> DVec2 {
    if ends[0].distance(about) <= ends[1].distance(about) { ends[0] } else { ends[1] }
}

impl Chain {
    /// How far an arc goes between its joints, the way it was pointed at.
    pub fn sweep(&self, k: usize) -> f64 {
        let Carrier::Arc { circle, sweep, .. } = &self.sides[k] else { return 0.0 };
        let (a, b) = (self.joints[k], self.joints[(k + 1) % self.joints.len()]);
        let turned = (a - circle.centre).angle_to(b - circle.centre);
        // Of the two ways round the one that was pointed at.
        if sweep.signum() * turned >= 0.0 && (turned.abs() - sweep.abs()).abs() < PI {
            turned
        } else {
            turned + TAU * sweep.signum() * if turned * sweep < 0.0 || sweep.abs() > PI { 1.0 } else { 0.0 }
        }
    }

    /// Lines and arcs from joint to joint, in the sense in which they were told.
    pub fn contour(&self) -> Contour {
        let vertices = (0..self.sides.len())
            .map(|k| {
                let bulge = match &self.sides[k] {
                    Carrier::Line { .. } => 0.0,
                    Carrier::Arc { .. } => (self.sweep(k) / 4.0).tan(),
                };
                Vertex { p: self.joints[k], bulge, tag: k as u32 }
            })
            .collect();
        Contour { vertices }
    }

    /// The other way round.
    pub fn reversed(&self) -> Chain {
        let n = self.sides.len();
        let turned = |c: &Carrier| match c {
            Carrier::Line { line, from, to } => {
                Carrier::Line { line: Straight { at: line.at, along: -line.along }, from: -to, to: -from }
            }
            Carrier::Arc { circle, from, sweep } => {
                Carrier::Arc { circle: *circle, from: from + sweep, sweep: -sweep }
            }
        };
        Chain {
            sides: self.sides.iter().rev().map(turned).collect(),
            joints: (0..n).map(|k| self.joints[(2 * n - 1 - k + 1) % n]).collect(),
            tangent: (0..n).map(|k| self.tangent[(2 * n - 1 - k + 1) % n]).collect(),
            apart: self.apart.iter().map(|k| (2 * n - 2 - k) % n).collect(),
        }
    }
}
