//! The faces of a bent bar between two planes, or of a ring: along its straights planes and cylinders, round
//! its bends planes, cylinders, cones and tori.

use std::f64::consts::PI;

use glam::{DVec2, DVec3};
use steelk_core::frame::{Bar, CentrelineSegment, Member, Profile, Surface as Cutter};
use steelk_core::geom::{Contour, Segment};

use super::bar::{LEAST, along_side, metal_on_the_left};
use super::cubics::{arcs, cubics};
use super::drilled::{Sides, drill, parted_beside};
use super::ends::End;
use super::shell::{Curve, Face, Shell, Surface};

/// Directions nearer than this are one.
const SQUARE: f64 = 1e-9;

/// A row of the section along the way: an end, or where a straight goes over into a bend.
enum Row<'a> {
    /// Square to the way.
    Square(Bar),
    /// Cut at an end of the member.
    Cut(&'a Member, usize),
}

impl Row<'_> {
    fn place(&self, q: DVec2) -> DVec3 {
        match self {
            Row::Square(bar) => bar.point(q, 0.0),
            Row::Cut(m, k) => m.tip(*k, q),
        }
    }

    fn rim(&self, side: &Segment) -> Curve {
        match (self, side.arc()) {
            (Row::Square(_), None) => Curve::Line,
            (Row::Square(bar), Some(arc)) => Curve::Circle {
                at: bar.point(arc.centre, 0.0),
                axis: bar.y.cross(bar.z) * arc.sweep.signum(),
            },
            (Row::Cut(m, k), None) if matches!(m.end_stretch(*k), CentrelineSegment::Straight { .. }) => {
                Curve::Line
            }
            (Row::Cut(..), arc) => {
                let turn = 4.0 * arc.map_or(1.0, |a| a.sweep.abs());
                Curve::Cubics(cubics(|f| self.place(side.at(f)), arcs(turn)))
            }
        }
    }
}

/// The bar, drilled along its straights; none where its ends are no planes, it is notched, or it turns
/// tighter than it is wide.
pub fn shell(m: &Member, p: &Profile) -> Option<Shell> {
    let plain = |k: usize| m.trims[k].is_empty() || plane(m, k).is_some();
    if m.is_straight() || !plain(0) || !plain(1) {
        return None;
    }
    let end = |k: usize| {
        if m.trims[k].is_empty() {
            let at = if k == 0 { m.way[0].at(0.0) } else { m.way[m.way.len() - 1].at(1.0) };
            Row::Square(at)
        } else {
            Row::Cut(m, k)
        }
    };
    let way = halved(m);
    let joints = way.iter().skip(1).map(|s| Row::Square(s.at(0.0)));
    let rows: Vec<Row> = if m.closed {
        way.iter().map(|s| Row::Square(s.at(0.0))).collect()
    } else {
        std::iter::once(end(0)).chain(joints).chain([end(1)]).collect()
    };
    // Each stretch goes on as the one before ends.
    let same =
        |a: Bar, b: Bar| a.o.distance(b.o) < LEAST && (a.y - b.y).length() + (a.z - b.z).length() < LEAST;
    let goes_on = way.windows(2).all(|w| same(w[0].at(1.0), w[1].at(0.0)));
    if !goes_on || (m.closed && !same(way[way.len() - 1].at(1.0), way[0].at(0.0))) {
        return None;
    }
    let mut out = Shell::default();
    let mut caps: [Vec<Vec<(usize, bool)>>; 2] = [Vec::new(), Vec::new()];
    let mut flats: Vec<Vec<(usize, Segment)>> = vec![Vec::new(); way.len()];
    for (n, c) in std::iter::once(&p.outer).chain(&p.holes).enumerate() {
        let ring = parted_beside(metal_on_the_left(c, n == 0), &m.holes);
        let rims = along(&mut out, &ring, &rows, &way, &mut flats)?;
        caps[0].push(rims.first()?.iter().rev().map(|e| (*e, false)).collect());
        caps[1].push(rims.last()?.iter().map(|e| (*e, true)).collect());
    }
    for (k, loops) in caps.into_iter().enumerate().filter(|_| !m.closed) {
        // Out of the metal: against the way in.
        let inwards = m.end(k).d;
        let normal = plane(m, k).unwrap_or(inwards);
        let normal = -normal * normal.dot(m.cut_bar(k).d).signum();
        out.faces.push(Face { surface: Surface::Plane { at: m.tip(k, DVec2::ZERO), normal }, loops });
    }
    let mut flats: Vec<Sides> = flats.into_iter().map(Sides::new).collect();
    for h in &m.holes {
        let mut from = 0.0;
        let stretch = way.iter().position(|s| {
            from += s.length();
            h.along < from
        })?;
        let end = |k: usize, at: f64| match (k, stretch) {
            (0, 0) if !m.closed => End::of(m, p, 0),
            (1, s) if !m.closed && s + 1 == way.len() => End::of(m, p, 1),
            _ => Some(End::Plane { at, slope: DVec2::ZERO }),
        };
        let ends = [end(0, from - way[stretch].length())?, end(1, from)?];
        drill(&mut out, &mut flats[stretch], h, p, &ends, &m.straight_at(h.along)?)?;
    }
    let first = m.way[0].at(0.0);
    if first.y.cross(first.z).dot(first.d) < 0.0 {
        out.turn_round();
    }
    out.is_closed().then_some(out)
}

/// The way of a member; a bend further than half round is told as two.
fn halved(m: &Member) -> Vec<CentrelineSegment> {
    let halves = |s: &CentrelineSegment| match *s {
        CentrelineSegment::Bend { bar, centre, axis, radius, sweep } if sweep.abs() > PI => {
            let half = |bar| CentrelineSegment::Bend { bar, centre, axis, radius, sweep: sweep / 2.0 };
            vec![half(bar), half(s.at(0.5))]
        }
        s => vec![s],
    };
    m.way.iter().flat_map(halves).collect()
}

/// The normal of the only plane that cuts an end.
fn plane(m: &Member, k: usize) -> Option<DVec3> {
    match m.trims[k].as_slice() {
        [cut] => match &cut.surface {
            Cutter::Plane { normal, .. } => Some(*normal),
            _ => None,
        },
        _ => None,
    }
}

/// The faces along one contour, row by row, and the edges of each row in their order.
fn along(
    out: &mut Shell,
    c: &Contour,
    rows: &[Row],
    way: &[CentrelineSegment],
    flats: &mut [Vec<(usize, Segment)>],
) -> Option<Vec<Vec<usize>>> {
    let n = c.vertices.len();
    let points: Vec<Vec<usize>> =
        rows.iter().map(|r| c.vertices.iter().map(|v| out.point(r.place(v.p))).collect()).collect();
    let rims: Vec<Vec<usize>> = rows
        .iter()
        .zip(&points)
        .map(|(r, at)| (0..n).map(|i| out.edge([at[i], at[(i + 1) % n]], r.rim(&c.segment(i)))).collect())
        .collect();
    for (j, stretch) in way.iter().enumerate() {
        // A ring ends where it begins.
        let after = (j + 1) % rows.len();
        let mut uprights = Vec::with_capacity(n);
        for (i, v) in c.vertices.iter().enumerate() {
            let ends = [points[j][i], points[after][i]];
            if out.points[ends[0]].distance(out.points[ends[1]]) < LEAST {
                return None;
            }
            uprights.push(out.edge(ends, runs(stretch, v.p)));
        }
        for i in 0..n {
            let next = (i + 1) % n;
            let surface = side(stretch, &c.segment(i))?;
            let run = vec![
                (rims[j][i], true),
                (uprights[next], true),
                (rims[after][i], false),
                (uprights[i], false),
            ];
            flats[j].push((out.faces.len(), c.segment(i)));
            out.faces.push(Face { surface, loops: vec![run] });
        }
    }
    Some(rims)
}

/// What a place of the section runs along.
fn runs(s: &CentrelineSegment, q: DVec2) -> Curve {
    match *s {
        CentrelineSegment::Straight { .. } | CentrelineSegment::Twist { .. } => Curve::Line,
        CentrelineSegment::Bend { bar, centre, axis, sweep, .. } => {
            Curve::Circle { at: foot(bar.point(q, 0.0), centre, axis), axis: axis * sweep.signum() }
        }
    }
}

/// The place of an axis beside a point.
fn foot(p: DVec3, centre: DVec3, axis: DVec3) -> DVec3 {
    centre + axis * (p - centre).dot(axis)
}

/// What a side of the section sweeps.
fn side(s: &CentrelineSegment, side: &Segment) -> Option<Surface> {
    let bar = s.at(0.0);
    let at = bar.point(side.a, 0.0);
    let way = (side.b - side.a).normalize_or_zero();
    // Out of the metal.
    let normal = bar.y * way.y - bar.z * way.x;
    match (*s, side.arc()) {
        (CentrelineSegment::Straight { .. }, _) => Some(along_side(side, &bar)),
        (CentrelineSegment::Twist { .. }, _) => None,
        (CentrelineSegment::Bend { centre, axis, .. }, Some(arc)) => {
            let middle = bar.point(arc.centre, 0.0);
            let on = foot(middle, centre, axis);
            let major = middle.distance(on);
            // Tighter than itself it would run through its own axis.
            (major > arc.radius + LEAST).then_some(Surface::Torus {
                at: on,
                axis,
                major,
                minor: arc.radius,
                inside: arc.sweep < 0.0,
            })
        }
        (CentrelineSegment::Bend { centre, axis, .. }, None) => {
            let along = bar.y * way.x + bar.z * way.y;
            let on = foot(at, centre, axis);
            let (radius, out_of) = (at.distance(on), (at - on).normalize_or_zero());
            let (up, off) = (along.dot(axis), along.dot(out_of));
            if radius < LEAST {
                return None;
            }
            let inside = normal.dot(out_of) < 0.0;
            if up.abs() < SQUARE {
                return Some(Surface::Plane { at, normal: axis * normal.dot(axis).signum() });
            }
            if off.abs() < SQUARE {
                return Some(Surface::Cylinder { at: on, axis, radius, inside });
            }
            // Wider the way that the side leads outwards.
            let axis = axis * (up * off).signum();
            Some(Surface::Cone { at: on, axis, radius, half_angle: off.abs().atan2(up.abs()), inside })
        }
    }
}
