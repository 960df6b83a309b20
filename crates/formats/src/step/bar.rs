//! The faces of a straight bar between two planes: along each side of its section a plane or a cylinder, an
//! ellipse where a slanting end meets a round.

use glam::{DMat2, DVec2, DVec3};
use steelk_core::frame::{Member, Profile, Surface as Cutter};
use steelk_core::geom::{Contour, Segment};

use super::drilled::{Flats, drill};
use super::shell::{Curve, Face, Shell, Surface};

/// Where an end lies along the bar: at the middle of the section, and by how much further for a step in it.
#[derive(Clone, Copy)]
pub struct End {
    at: f64,
    slope: DVec2,
}

impl End {
    pub fn station(&self, q: DVec2) -> f64 {
        self.at + self.slope.dot(q)
    }
}

/// Less than this of a bar is none, mm.
pub const LEAST: f64 = 1e-6;

/// The plane of an end, in the bar's own coordinates; none where it is no single plane.
fn end(m: &Member, k: usize) -> Option<End> {
    let bar = m.end(k);
    let (at, slope) = match m.trims[k].as_slice() {
        [] => (0.0, DVec2::ZERO),
        [cut] => match &cut.surface {
            Cutter::Plane { at, normal } => {
                let (across, along) = bar.turned(*normal);
                if along.abs() < LEAST {
                    return None;
                }
                (normal.dot(*at - bar.o) / along, -across / along)
            }
            _ => return None,
        },
        _ => return None,
    };
    Some(if k == 0 { End { at, slope } } else { End { at: m.length - at, slope: -slope } })
}

/// Where a point of the section, and so far along, lies in space.
pub struct Stand {
    pub o: DVec3,
    pub y: DVec3,
    pub z: DVec3,
    pub d: DVec3,
}

impl Stand {
    /// Where it stands in its frame.
    pub fn of(m: &Member) -> Stand {
        let b = m.end(0);
        Stand { o: b.o, y: b.y, z: b.z, d: b.d }
    }

    /// By itself: along x.
    pub fn alone() -> Stand {
        Stand { o: DVec3::ZERO, y: DVec3::Y, z: DVec3::Z, d: DVec3::X }
    }

    pub fn point(&self, q: DVec2, s: f64) -> DVec3 {
        self.o + self.y * q.x + self.z * q.y + self.d * s
    }
}

/// The bar between its planes with holes through its flat walls; none where anything asks for more: a saddle,
/// a bend, a notch, a hole in a round.
pub fn shell(m: &Member, p: &Profile, at: &Stand) -> Option<Shell> {
    if !m.is_straight() || m.closed {
        return None;
    }
    let ends = [end(m, 0)?, end(m, 1)?];
    let mut out = Shell::default();
    let mut flats = Vec::new();
    let mut caps: [Vec<Vec<(usize, bool)>>; 2] = [Vec::new(), Vec::new()];
    for (n, c) in std::iter::once(&p.outer).chain(&p.holes).enumerate() {
        let ring = metal_on_the_left(c, n == 0);
        if ring.vertices.iter().any(|v| ends[1].station(v.p) - ends[0].station(v.p) < LEAST) {
            return None;
        }
        let first = out.faces.len();
        let [low, high] = along_one(&mut out, &ring, &ends, at);
        flats.extend(ring.segments().enumerate().map(|(i, s)| (first + i, s)));
        caps[1].push(high.iter().map(|e| (*e, true)).collect());
        caps[0].push(low.iter().rev().map(|e| (*e, false)).collect());
    }
    let [low, high] = caps;
    for (k, loops) in [low, high].into_iter().enumerate() {
        let out_of = at.d - at.y * ends[k].slope.x - at.z * ends[k].slope.y;
        let normal = out_of.normalize_or_zero() * if k == 0 { -1.0 } else { 1.0 };
        let on = Surface::Plane { at: at.point(DVec2::ZERO, ends[k].at), normal };
        out.faces.push(Face { surface: on, loops });
    }
    let mut flats = Flats::new(flats);
    for h in &m.holes {
        drill(&mut out, &mut flats, h, p, &ends, at)?;
    }
    // In a mirrored copy across, up and along are a left hand.
    if at.y.cross(at.z).dot(at.d) < 0.0 {
        out.turn_round();
    }
    out.is_closed().then_some(out)
}

fn metal_on_the_left(c: &Contour, outer: bool) -> Contour {
    if (c.signed_area() > 0.0) == outer { c.clone() } else { c.reversed() }
}

/// The faces along one contour, and its edges at both ends in their order.
fn along_one(out: &mut Shell, c: &Contour, ends: &[End; 2], at: &Stand) -> [Vec<usize>; 2] {
    let n = c.vertices.len();
    let points: Vec<[usize; 2]> = { c.vertices.iter() }
        .map(|v| [0, 1].map(|k| out.point(at.point(v.p, ends[k].station(v.p)))))
        .collect();
    let uprights: Vec<usize> = points.iter().map(|p| out.edge(*p, Curve::Line)).collect();
    let mut rims = [Vec::new(), Vec::new()];
    for i in 0..n {
        let (side, next) = (c.segment(i), (i + 1) % n);
        let [low, high] = [0, 1].map(|k| out.edge([points[i][k], points[next][k]], rim(&side, &ends[k], at)));
        let surface = match side.arc() {
            None => {
                let d = (side.b - side.a).normalize_or_zero();
                Surface::Plane { at: at.point(side.a, 0.0), normal: at.y * d.y - at.z * d.x }
            }
            Some(arc) => Surface::Cylinder {
                at: at.point(arc.centre, 0.0),
                axis: at.d,
                radius: arc.radius,
                inside: arc.sweep < 0.0,
            },
        };
        let loops = vec![vec![(low, true), (uprights[next], true), (high, false), (uprights[i], false)]];
        out.faces.push(Face { surface, loops });
        rims[0].push(low);
        rims[1].push(high);
    }
    rims
}

/// A side of the section in the plane of an end.
fn rim(side: &Segment, end: &End, at: &Stand) -> Curve {
    let Some(arc) = side.arc() else { return Curve::Line };
    let centre = at.point(arc.centre, end.station(arc.centre));
    let tilt = end.slope.length();
    let turn = arc.sweep.signum();
    if tilt < 1e-12 {
        return Curve::Circle { at: centre, axis: at.y.cross(at.z) * turn };
    }
    let up = end.slope / tilt;
    let across = DMat2::from_cols(DVec2::Y, DVec2::NEG_X) * up;
    let major = (at.y * up.x + at.z * up.y + at.d * tilt) * arc.radius;
    let minor = (at.y * across.x + at.z * across.y) * arc.radius;
    Curve::Ellipse {
        at: centre,
        axis: major.cross(minor).normalize_or_zero() * turn,
        major,
        minor: arc.radius,
    }
}
