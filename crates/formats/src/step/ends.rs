//! Where a straight bar ends, in the bar's own coordinates: at a plane or several, or at the outside of a
//! round that it is coped to.

use std::f64::consts::FRAC_PI_2;

use glam::{DMat2, DVec2, DVec3};
use steelk_core::frame::{Bar, Member, Profile, Surface as Cutter};
use steelk_core::geom::{Arc, Contour, Segment};

use super::bar::LEAST;
use super::borders::parted;
use super::cubics::{arcs, cubics};
use super::planes::{self, Facet};
use super::shell::{Curve, Surface};

/// A section that reaches further than this over a round's half width touches it where it turns away: its
/// saddle is too steep for smooth curves.
const GRAZING: f64 = 0.97;

/// A step of an end that is none, mm: planes meet in lines as sharp as the section's own points are.
const STEP: f64 = 1e-5;

#[derive(Clone)]
pub enum End {
    /// So far along at the middle of the section, and by how much further for a step in it.
    Plane {
        at: f64,
        slope: DVec2,
    },
    Round(Round),
    /// More than one over the section.
    Planes(Vec<Facet>),
}

/// A round across the bar: a place on its axis and the way of it, in the section and along.
#[derive(Clone, Copy)]
pub struct Round {
    at: DVec3,
    axis: DVec3,
    radius: f64,
    /// The bar begins behind it (1) or ends before it (-1).
    side: f64,
}

impl Round {
    /// Across both ways, in the section: how far a line along the bar passes beside the axis.
    fn beside(&self) -> DVec2 {
        self.axis.cross(DVec3::Z).normalize_or_zero().truncate()
    }

    /// That distance for a place of the section.
    fn off(&self, q: DVec2) -> f64 {
        (q - self.at.truncate()).dot(self.beside())
    }

    fn station(&self, q: DVec2) -> f64 {
        let across = |v: DVec3| v - self.axis * v.dot(self.axis);
        let (from, on) = (across(q.extend(0.0) - self.at), across(DVec3::Z));
        let (a, b, c) = (on.length_squared(), from.dot(on), from.length_squared() - self.radius.powi(2));
        let under = b * b - a * c;
        // Where two equal rounds touch, what is left is noise.
        let half = if under < a * self.radius.powi(2) * 1e-13 { 0.0 } else { under.sqrt() };
        (self.side * half - b) / a
    }

    /// Whether a round of the section is as wide as this one and runs through its middle: the saddle is two
    /// ellipses, which meet where the two touch.
    fn is_equal(&self, a: &Arc) -> bool {
        self.off(a.centre).abs() < LEAST && (a.radius - self.radius).abs() < LEAST
    }

    /// The contour with a corner wherever it touches the round's half width.
    fn parted(&self, c: &Contour) -> Contour {
        let way = self.beside() * self.radius * 2.0;
        let rounds = c.segments().filter_map(|s| s.arc()).filter(|a| self.is_equal(a));
        let lines: Vec<[DVec2; 2]> = rounds.map(|a| [a.centre - way, a.centre + way]).collect();
        if lines.is_empty() { c.clone() } else { parted(c, &lines) }
    }

    /// Whether every line along the section comes upon it well inside of its half width.
    fn holds(&self, c: &Contour) -> bool {
        let way = self.beside();
        let far = |s: &Segment| {
            let ends = self.off(s.a).abs().max(self.off(s.b).abs());
            let Some(arc) = s.arc().filter(|a| !self.is_equal(a)) else {
                return if s.is_line() { ends } else { 0.0 };
            };
            [way, -way]
                .iter()
                .filter(|w| arc.has_angle(w.to_angle()))
                .map(|w| self.off(arc.centre + *w * arc.radius).abs())
                .fold(ends, f64::max)
        };
        c.segments().all(|s| far(&s) < self.radius * GRAZING)
    }
}

impl End {
    /// Of a member's end; none where a round and something else cut it.
    pub fn of(m: &Member, p: &Profile, k: usize) -> Option<End> {
        let only = match m.trims[k].as_slice() {
            [] => return Some(End::plane(m, k, 0.0, DVec2::ZERO)),
            [cut] => Some(&cut.surface),
            _ => None,
        };
        if let Some(Cutter::Round { at, axis, radius }) = only {
            let own = m.end(0);
            let ((p, s), (v, t)) = (own.local(*at), own.turned(*axis));
            let axis = v.extend(t).normalize_or_zero();
            let side = if k == 0 { 1.0 } else { -1.0 };
            let round = Round { at: p.extend(s), axis, radius: *radius, side };
            return (v.length() > LEAST).then_some(End::Round(round));
        }
        let mut facets = planes::of(m, k, &p.outer.bounds())?;
        if let [one] = facets.as_slice() {
            return Some(End::plane(m, k, one.at, one.slope));
        }
        if k == 1 {
            // Along the bar, from its beginning.
            facets.iter_mut().for_each(|f| (f.at, f.slope) = (m.length - f.at, -f.slope));
        }
        Some(End::Planes(facets))
    }

    fn plane(m: &Member, k: usize, at: f64, slope: DVec2) -> End {
        if k == 0 { End::Plane { at, slope } } else { End::Plane { at: m.length - at, slope: -slope } }
    }

    pub fn station(&self, q: DVec2) -> f64 {
        match self {
            End::Plane { at, slope } => at + slope.dot(q),
            End::Round(r) => r.station(q),
            End::Planes(facets) => planes::at(facets, q).station(q),
        }
    }

    /// A contour of the section with the corners that this end makes in it.
    pub fn parted(&self, c: Contour) -> Contour {
        match self {
            End::Plane { .. } | End::Planes(_) => c,
            End::Round(r) => r.parted(&c),
        }
    }

    pub fn holds(&self, c: &Contour) -> bool {
        match self {
            End::Plane { .. } | End::Planes(_) => true,
            End::Round(r) => r.holds(c),
        }
    }

    /// The parts of a section that end in a face each, and what that lies on; `out` is 1 for the end that is
    /// further along, -1 for the other.
    pub fn faces(&self, section: &[Contour], out: f64, at: &Bar) -> Option<Vec<(Vec<Contour>, Surface)>> {
        Some(match self {
            End::Plane { at: s, slope } => vec![(section.to_vec(), plane(*s, *slope, out, at))],
            End::Round(r) => {
                let surface = Surface::Cylinder {
                    at: at.point(r.at.truncate(), r.at.z),
                    axis: at.y * r.axis.x + at.z * r.axis.y + at.d * r.axis.z,
                    radius: r.radius,
                    inside: true,
                };
                vec![(section.to_vec(), surface)]
            }
            End::Planes(facets) => {
                let mut parts = Vec::new();
                for f in facets {
                    let part = f.of(section)?;
                    // Where one plane ends and the next begins beside it, a wall would be wanted.
                    let steps = |q: DVec2| (f.station(q) - self.station(q)).abs() > STEP;
                    if part.iter().flat_map(|c| &c.vertices).any(|v| steps(v.p)) {
                        return None;
                    }
                    if !part.is_empty() {
                        parts.push((part, plane(f.at, f.slope, out, at)));
                    }
                }
                parts
            }
        })
    }

    /// A side of the section on the end.
    pub fn rim(&self, side: &Segment, at: &Bar) -> Curve {
        let on_plane = |slope: DVec2| match side.arc() {
            Some(arc) => {
                // Its middle may lie beside the part of the end that the side ends in.
                let middle = side.at(0.5);
                let station = self.station(middle) + slope.dot(arc.centre - middle);
                slanting(at.point(arc.centre, station), arc.radius, arc.sweep.signum(), slope, at)
            }
            None => Curve::Line,
        };
        match self {
            End::Plane { slope, .. } => on_plane(*slope),
            End::Planes(facets) => on_plane(planes::at(facets, side.at(0.5)).slope),
            End::Round(r) => {
                let place = |f: f64| {
                    let q = side.at(f);
                    at.point(q, r.station(q))
                };
                // Nearer to its half width the round turns faster.
                let steep = |q: DVec2| (r.off(q).abs() / r.radius).min(1.0).asin() / FRAC_PI_2;
                let turn = side.arc().map_or(side.length() / r.radius, |a| 2.0 * a.sweep.abs());
                Curve::Cubics(cubics(place, arcs(turn * (1.0 + 4.0 * steep(side.a).max(steep(side.b))))))
            }
        }
    }
}

/// A plane that an end lies on, looking out.
fn plane(station: f64, slope: DVec2, out: f64, at: &Bar) -> Surface {
    let normal = (at.d - at.y * slope.x - at.z * slope.y).normalize_or_zero() * out;
    Surface::Plane { at: at.point(DVec2::ZERO, station), normal }
}

/// A round of the section in the plane of a slanting end.
fn slanting(centre: DVec3, radius: f64, turn: f64, slope: DVec2, at: &Bar) -> Curve {
    let tilt = slope.length();
    if tilt < 1e-12 {
        return Curve::Circle { at: centre, axis: at.y.cross(at.z) * turn };
    }
    let up = slope / tilt;
    let across = DMat2::from_cols(DVec2::Y, DVec2::NEG_X) * up;
    let major = (at.y * up.x + at.z * up.y + at.d * tilt) * radius;
    let minor = (at.y * across.x + at.z * across.y) * radius;
    Curve::Ellipse { at: centre, axis: major.cross(minor).normalize_or_zero() * turn, major, minor: radius }
}
