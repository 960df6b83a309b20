//! Holes and notches in members: which walls they go through, what metal they take, where their rims lie.

use glam::{DVec2, DVec3};

use super::model::Hole;
use super::profile::{Profile, ring};
use shop::section::Shape;

/// The section's loops in points, ready to be looked through.
pub struct Walls {
    loops: Vec<Vec<DVec2>>,
    thickness: f64,
    hollow: bool,
    solid: bool,
}

/// Stretches of a hole's plan that its metal is summed over.
const STRIPS: usize = 48;

/// Points round the rim of a hole.
pub const RIM: usize = 36;

impl Walls {
    pub fn new(p: &Profile) -> Self {
        let chord = p.section.shape.size().max_element() * 2e-5;
        let loops = std::iter::once(&p.outer).chain(&p.holes).map(|c| c.flatten(chord)).collect();
        let shape = &p.section.shape;
        let (hollow, solid) = (
            matches!(shape, Shape::Box { .. } | Shape::Tube { .. }),
            matches!(shape, Shape::Flat { .. } | Shape::Round { .. }),
        );
        Walls { loops, thickness: shape.thickness(), hollow, solid }
    }

    /// Material on the line `off` beside the middle, looking in against `out`: from where to where it lies
    /// along `out`, outermost first.
    pub fn through(&self, out: DVec2, off: f64) -> Vec<(f64, f64)> {
        let across = out.perp();
        let mut at: Vec<f64> = Vec::new();
        for l in &self.loops {
            for (i, a) in l.iter().enumerate() {
                let b = l[(i + 1) % l.len()];
                let (s, t) = (a.dot(across) - off, b.dot(across) - off);
                if (s <= 0.0) != (t <= 0.0) {
                    at.push(a.lerp(b, s / (s - t)).dot(out));
                }
            }
        }
        at.sort_by(|a, b| b.total_cmp(a));
        at.chunks_exact(2).map(|p| (p[0], p[1])).collect()
    }

    /// How deep a cut this wide goes, along `out`: past the first wall, or through everything. `None` where
    /// it meets no material.
    pub fn floor(&self, out: DVec2, off: f64, width: f64, through: bool) -> Option<f64> {
        let firsts: Vec<Vec<(f64, f64)>> =
            (0..=16).map(|k| self.through(out, off + width * (f64::from(k) / 16.0 - 0.5) * 0.999)).collect();
        let met: Vec<&Vec<(f64, f64)>> = firsts.iter().filter(|f| !f.is_empty()).collect();
        let lowest = |of: &mut dyn Iterator<Item = f64>| of.fold(f64::INFINITY, f64::min);
        if met.is_empty() {
            return None;
        }
        if through || self.solid {
            return Some(lowest(&mut met.iter().map(|f| f[f.len() - 1].1)));
        }
        if self.hollow {
            return Some(0.0);
        }
        // A web or a leg that stands on the wall from behind is not drilled along its depth.
        let mut thin =
            met.iter().map(|f| f[0]).filter(|f| f.0 - f.1 <= 3.0 * self.thickness).map(|f| f.1).peekable();
        if thin.peek().is_some() {
            Some(lowest(&mut thin))
        } else {
            Some(lowest(&mut met.iter().map(|f| f[0].1)))
        }
    }

    /// Where the outermost metal lies on the line of a hole.
    pub fn face(&self, out: DVec2, off: f64) -> Option<f64> {
        self.through(out, off).first().map(|f| f.0)
    }

    /// How thick the outermost metal is on the line of a hole.
    pub fn wall(&self, out: DVec2, off: f64) -> Option<f64> {
        self.through(out, off).first().map(|f| f.0 - f.1)
    }

    /// Metal that a hole takes, mm³, and its moment about the start of the bar: along, across, up.
    pub fn taken(&self, h: &Hole) -> (f64, DVec3) {
        let (r, off, across) = (h.diameter / 2.0, h.at.dot(h.out.perp()), h.out.perp());
        let (mut volume, mut moment) = (0.0, DVec2::ZERO);
        for k in 0..STRIPS {
            // Evenly in angle: the strips are narrow where the chord changes fast.
            let turn = (k as f64 + 0.5) / STRIPS as f64 * std::f64::consts::PI;
            let (t, chord, wide) = if h.notch.is_some() {
                (r * ((2 * k + 1) as f64 / STRIPS as f64 - 1.0), h.length, h.diameter / STRIPS as f64)
            } else {
                let straight = (h.length - h.diameter).max(0.0);
                (
                    -r * turn.cos(),
                    straight + 2.0 * r * turn.sin(),
                    r * turn.sin() * std::f64::consts::PI / STRIPS as f64,
                )
            };
            for (top, bottom) in self.through(h.out, off + t) {
                let bottom = bottom.max(h.floor);
                if top > bottom {
                    let metal = chord * wide * (top - bottom);
                    volume += metal;
                    moment += (across * (off + t) + h.out * ((top + bottom) / 2.0)) * metal;
                }
            }
        }
        if let (Some(bore), Some(face)) = (&h.bore, self.face(h.out, off)) {
            // A cone or bore, and the point of a drill, as in a flat wall.
            let t = self.wall(h.out, off).unwrap_or_default();
            let cut = bore.depth.map_or(0.0, |d| std::f64::consts::PI * r * r * d.min(t));
            let more = bore.taken(t) - cut;
            volume += more;
            moment += (across * off
                + h.out * (face - bore.mouth.map_or(0.0, |m| m.depth(bore.diameter) / 2.0)))
                * more;
        }
        (volume, DVec3::new(h.along * volume, moment.x, moment.y))
    }

    /// The rims of a hole on the outer faces it breaks: along, across, up. The far one only where it comes
    /// out.
    pub fn rims(&self, h: &Hole) -> Vec<Vec<DVec3>> {
        let (off, across) = (h.at.dot(h.out.perp()), h.out.perp());
        let plan = plan(h);
        let rim = |far: bool| -> Vec<DVec3> {
            plan.iter()
                .filter_map(|p| {
                    let met = self.through(h.out, off + p.y);
                    let z = if far { met.last()?.1 } else { met.first()?.0 };
                    let q = across * (off + p.y) + h.out * z;
                    Some(DVec3::new(h.along + p.x, q.x, q.y))
                })
                .collect()
        };
        let blind = h.bore.as_ref().is_some_and(|b| !b.through());
        let comes_out = (h.through || self.solid) && !blind;
        // A cone or bore is seen by its own rim as well.
        let mouth = h.bore.as_ref().and_then(|b| b.mouth).map(|m| {
            let at = |v: DVec2| {
                let q = across * (off + v.y) + h.out * h.at.dot(h.out);
                DVec3::new(h.along + v.x, q.x, q.y)
            };
            ring(m.diameter / 2.0, RIM).into_iter().map(at).collect::<Vec<_>>()
        });
        mouth
            .into_iter()
            .chain(std::iter::once(rim(false)))
            .chain(comes_out.then(|| rim(true)))
            .filter(|r| r.len() > 2)
            .collect()
    }
}

/// Half of what lies between the round ends of a slot.
pub fn straight(h: &Hole) -> f64 {
    (h.length - h.diameter).max(0.0) / 2.0
}

/// The plan of a hole about its middle: along the bar, and across. Counter-clockwise.
pub fn plan(h: &Hole) -> Vec<DVec2> {
    let r = h.diameter / 2.0;
    if h.notch.is_some() {
        return [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)]
            .map(|(x, y)| DVec2::new(x * h.length / 2.0, y * r * 0.999_999))
            .to_vec();
    }
    let straight = straight(h);
    let turn = DVec2::from_angle(std::f64::consts::PI / RIM as f64);
    ring(r, RIM)
        .into_iter()
        .map(|p| turn.rotate(p))
        .map(|p| p + DVec2::new(straight * p.x.signum(), 0.0))
        .collect()
}
