//! The faces of a straight bar between two ends, planes or rounds that it is coped to: along each side of its
//! section a plane or a cylinder.

use glam::DVec3;
use steelk_core::frame::{Bar, Member, Profile};
use steelk_core::geom::{Contour, Segment};

use super::drilled::{Sides, drill, parted_beside};
use super::ends::End;
use super::shell::{Curve, Face, Shell, Surface};

/// Less than this of a bar is none, mm.
pub const LEAST: f64 = 1e-6;
/// Places of a side at which its two ends are compared: a saddle comes nearest within it.
const PLACES: u32 = 16;

/// A bar by itself: along x.
pub const ALONE: Bar = Bar { o: DVec3::ZERO, y: DVec3::Y, z: DVec3::Z, d: DVec3::X };

/// The bar between its ends with holes in its walls; none where anything asks for more: an end of several
/// planes, a bend, a notch.
pub fn shell(m: &Member, p: &Profile, at: &Bar) -> Option<Shell> {
    if !m.is_straight() || m.closed {
        return None;
    }
    let ends = [End::of(m, p, 0)?, End::of(m, p, 1)?];
    if ends.iter().any(|e| matches!(e, End::Planes(_))) {
        return None;
    }
    let mut out = Shell::default();
    let mut flats = Vec::new();
    let mut caps: [Vec<Vec<(usize, bool)>>; 2] = [Vec::new(), Vec::new()];
    for (n, c) in std::iter::once(&p.outer).chain(&p.holes).enumerate() {
        let sides = parted_beside(metal_on_the_left(c, n == 0), &m.holes);
        let ring = ends.iter().fold(sides.clone(), |ring, e| e.parted(ring));
        if !ends.iter().all(|e| e.holds(&ring)) {
            return None;
        }
        let places = ring.segments().flat_map(|s| (0..PLACES).map(move |k| s.at(k as f64 / PLACES as f64)));
        if places.into_iter().any(|q| ends[1].station(q) - ends[0].station(q) < LEAST) {
            return None;
        }
        let first = out.faces.len();
        let [low, high] = along_one(&mut out, &ring, &sides, &ends, at)?;
        flats.extend(sides.segments().enumerate().map(|(i, s)| (first + i, s)));
        caps[1].push(high.iter().map(|e| (*e, true)).collect());
        caps[0].push(low.iter().rev().map(|e| (*e, false)).collect());
    }
    for (k, loops) in caps.into_iter().enumerate() {
        let (_, surface) = ends[k].faces(&[], if k == 0 { -1.0 } else { 1.0 }, at)?.pop()?;
        out.faces.push(Face { surface, loops });
    }
    let mut flats = Sides::new(flats);
    for h in &m.holes {
        drill(&mut out, &mut flats, h, p, &ends, at)?;
    }
    // In a mirrored copy across, up and along are a left hand.
    if at.y.cross(at.z).dot(at.d) < 0.0 {
        out.turn_round();
    }
    out.is_closed().then_some(out)
}

pub fn metal_on_the_left(c: &Contour, outer: bool) -> Contour {
    if (c.signed_area() > 0.0) == outer { c.clone() } else { c.reversed() }
}

/// The faces along the sides of a contour, and its edges at both ends in their order; `c` has the corners of
/// the ends as well, which lie within a side.
fn along_one(
    out: &mut Shell,
    c: &Contour,
    sides: &Contour,
    ends: &[End; 2],
    at: &Bar,
) -> Option<[Vec<usize>; 2]> {
    let n = c.vertices.len();
    let points: Vec<[usize; 2]> = { c.vertices.iter() }
        .map(|v| [0, 1].map(|k| out.point(at.point(v.p, ends[k].station(v.p)))))
        .collect();
    let mut rims = [Vec::new(), Vec::new()];
    for i in 0..n {
        let (side, next) = (c.segment(i), (i + 1) % n);
        for (k, rim) in rims.iter_mut().enumerate() {
            rim.push(out.edge([points[i][k], points[next][k]], ends[k].rim(&side, at)));
        }
    }
    // Where each side begins in the finer contour: both begin with the same corner.
    let begins: Vec<usize> = { sides.vertices.iter() }
        .scan(0, |from, v| {
            *from += c.vertices[*from..].iter().position(|w| w.p.distance(v.p) < LEAST)?;
            Some(*from)
        })
        .collect();
    if begins.len() != sides.vertices.len() {
        return None;
    }
    let uprights: Vec<usize> = begins.iter().map(|i| out.edge(points[*i], Curve::Line)).collect();
    for (k, side) in sides.segments().enumerate() {
        let next = (k + 1) % begins.len();
        let (from, to) = (begins[k], if next == 0 { n } else { begins[next] });
        let mut run: Vec<(usize, bool)> = rims[0][from..to].iter().map(|e| (*e, true)).collect();
        run.push((uprights[next], true));
        run.extend(rims[1][from..to].iter().rev().map(|e| (*e, false)));
        run.push((uprights[k], false));
        out.faces.push(Face { surface: along_side(&side, at), loops: vec![run] });
    }
    Some(rims)
}

/// What a side of the section runs along.
pub fn along_side(side: &Segment, at: &Bar) -> Surface {
    match side.arc() {
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
    }
}
