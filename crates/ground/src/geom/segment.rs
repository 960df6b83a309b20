//! A straight line or a circular arc between two points. The bulge is tan(sweep / 4), positive
//! counter-clockwise.

use crate::geom::ROUNDING;
use glam::DVec2;

use super::Bounds;

#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Segment {
    pub a: DVec2,
    pub b: DVec2,
    pub bulge: f64,
}

/// The circle behind a curved segment. Angles in radians; `sweep` is signed.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Arc {
    pub centre: DVec2,
    pub radius: f64,
    pub start: f64,
    pub sweep: f64,
}

impl Arc {
    pub fn at(&self, fraction: f64) -> DVec2 {
        self.centre + self.radius * DVec2::from_angle(self.start + self.sweep * fraction)
    }

    /// Whether the direction `angle` from the centre lies on the arc, with a small margin at the ends.
    pub fn has_angle(&self, angle: f64) -> bool {
        let turn = std::f64::consts::TAU;
        let along = if self.sweep >= 0.0 { angle - self.start } else { self.start - angle };
        let along = along.rem_euclid(turn);
        let margin = 1e-9;
        along <= self.sweep.abs() + margin || along >= turn - margin
    }
}

impl Segment {
    pub fn line(a: DVec2, b: DVec2) -> Self {
        Segment { a, b, bulge: 0.0 }
    }

    pub fn is_line(&self) -> bool {
        self.bulge.abs() < ROUNDING
    }

    /// The circle of a curved segment; `None` for a line.
    pub fn arc(&self) -> Option<Arc> {
        let (centre, radius) = self.circle()?;
        Some(Arc { centre, radius, start: (self.a - centre).to_angle(), sweep: 4.0 * self.bulge.atan() })
    }

    pub fn length(&self) -> f64 {
        self.arc().map_or_else(|| self.a.distance(self.b), |arc| arc.radius * arc.sweep.abs())
    }

    pub fn at(&self, fraction: f64) -> DVec2 {
        self.arc().map_or_else(|| self.a.lerp(self.b, fraction), |arc| arc.at(fraction))
    }

    /// Centre and radius of a curved segment, without an angle: for what is asked of every segment.
    fn circle(&self) -> Option<(DVec2, f64)> {
        if self.is_line() {
            return None;
        }
        let chord = self.b - self.a;
        let (b, b2) = (self.bulge, self.bulge * self.bulge);
        Some((
            (self.a + self.b) * 0.5 + chord.perp() * ((1.0 - b2) / (4.0 * b)),
            chord.length() * (1.0 + b2) / (4.0 * b.abs()),
        ))
    }

    /// Whether a point of the circle lies on the arc: on the arc's side of the chord, with a small margin at
    /// the ends.
    fn on_arc(&self, p: DVec2, radius: f64) -> bool {
        let chord = self.b - self.a;
        let side = chord.perp_dot(p - self.a);
        // Of the chord, and of what rounding leaves of a point that is told by a far centre: a nearly
        // straight side has a radius of kilometres.
        let length = chord.length();
        let margin = length * (1e-9 * length + 1e-14 * radius);
        let beside = if self.bulge > 0.0 { side <= margin } else { side >= -margin };
        // Up to half a circle lies over its chord; a nearly straight one is in line with what lies beyond its
        // ends.
        let over = chord.dot(p - self.a);
        beside && (self.bulge.abs() > 1.0 || (over >= -margin && over <= chord.length_squared() + margin))
    }

    pub fn bounds(&self) -> Bounds {
        let mut out = Bounds::of([self.a, self.b]);
        if let Some((centre, radius)) = self.circle() {
            for d in [DVec2::X, DVec2::Y, -DVec2::X, -DVec2::Y] {
                let p = centre + d * radius;
                if self.on_arc(p, radius) {
                    out.add(p);
                }
            }
        }
        out
    }

    /// Twice the signed area between the segment and the origin.
    pub fn area2(&self) -> f64 {
        let straight = self.a.perp_dot(self.b);
        match self.arc() {
            None => straight,
            Some(arc) => straight + arc.radius * arc.radius * (arc.sweep - arc.sweep.sin()),
        }
    }

    /// The first moment of that area (∫x dA, ∫y dA).
    pub fn moment(&self) -> DVec2 {
        let straight = (self.a + self.b) * (self.a.perp_dot(self.b) / 6.0);
        match self.arc() {
            None => straight,
            Some(arc) => {
                let area = arc.radius * arc.radius * (arc.sweep - arc.sweep.sin()) / 2.0;
                if area == 0.0 {
                    return straight;
                }
                let half = arc.sweep.abs() / 2.0;
                let out =
                    4.0 * arc.radius * half.sin().powi(3) / (3.0 * (arc.sweep.abs() - arc.sweep.abs().sin()));
                let middle = DVec2::from_angle(arc.start + arc.sweep / 2.0);
                straight + (arc.centre + middle * out) * area
            }
        }
    }

    /// Unit direction of travel at the start (`end` false) or end.
    pub fn tangent(&self, end: bool) -> DVec2 {
        match self.arc() {
            None => (self.b - self.a).normalize_or_zero(),
            Some(arc) => {
                let radial = (if end { self.b } else { self.a } - arc.centre) / arc.radius;
                radial.perp() * arc.sweep.signum()
            }
        }
    }

    /// Nearest point of the segment to `p`.
    pub fn nearest(&self, p: DVec2) -> DVec2 {
        match self.circle() {
            None => {
                let d = self.b - self.a;
                let l2 = d.length_squared();
                if l2 == 0.0 { self.a } else { self.a + d * ((p - self.a).dot(d) / l2).clamp(0.0, 1.0) }
            }
            Some((centre, radius)) => {
                let v = p - centre;
                let on = centre + v.normalize_or_zero() * radius;
                if v.length_squared() > 0.0 && self.on_arc(on, radius) {
                    on
                } else if p.distance_squared(self.a) <= p.distance_squared(self.b) {
                    self.a
                } else {
                    self.b
                }
            }
        }
    }

    /// Points along the segment, without its start, so that no chord is further than `chord` from the arc.
    pub fn flatten(&self, chord: f64, out: &mut Vec<DVec2>) {
        if let Some(arc) = self.arc() {
            let n = arc_steps(arc.radius, arc.sweep, chord);
            for k in 1..n {
                out.push(arc.at(k as f64 / n as f64));
            }
        }
        out.push(self.b);
    }
}

/// Chords that an arc of this radius and sweep needs.
pub fn arc_steps(radius: f64, sweep: f64, chord: f64) -> usize {
    let widest = 2.0 * (1.0 - (chord / radius.max(chord)).min(0.5)).acos();
    let by_angle = sweep.abs() / (std::f64::consts::PI / 6.0);
    (sweep.abs() / widest).max(by_angle).ceil().clamp(1.0, 720.0) as usize
}
