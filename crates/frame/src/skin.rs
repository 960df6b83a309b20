//! The wall of a tube laid flat, both ends cut and holes in it, for a tube laser: along x from its start,
//! round it along y.

use glam::DVec2;
use ground::geom::COINCIDENT;

use super::bores::straight;
use super::model::Hole;
use super::wrap::{as_piece, round_the_outside};
use super::{FrameResult, Member, Profile, hole_text};
use ground::geom::{Contour, Segment, Vertex, arcs};
use sheet::result::{Guide, PieceResult};
use shop::SheetShop;
use shop::section::Shape;

/// Why a member has no skin to lay flat.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
pub enum NoSkin {
    #[error("no piece of the frame has the mark or is the member '{0}'")]
    Unknown(String),
    #[error("{0} is a {1}, which has no wall to lay flat: only tubes have")]
    Solid(String, String),
    #[error("{0} is bent: a tube laser cuts it straight, before the bender")]
    Bent(String),
}

/// Tubes have a wall to lay flat; beams, solid bars and boards have none.
pub fn has_wall(p: &Profile) -> bool {
    matches!(p.section.shape, Shape::Box { .. } | Shape::Tube { .. })
}

/// Lines that stray less from the ends' true cut are one, mm.
const STRAIGHT: f64 = 0.002;

/// The end of the skin: along the bar by distance round it, straight stretches as one.
fn edge(points: &[DVec2]) -> Vec<DVec2> {
    let Some((&first, &last)) = points.first().zip(points.last()).filter(|_| points.len() > 2) else {
        return points.to_vec();
    };
    let line = Segment::line(first, last);
    let (worst, off) = (1..points.len() - 1)
        .map(|i| (i, line.nearest(points[i]).distance(points[i])))
        .max_by(|a, b| a.1.total_cmp(&b.1))
        .unwrap_or((0, 0.0));
    if off <= STRAIGHT {
        return vec![first, last];
    }
    let mut out = edge(&points[..=worst]);
    out.pop();
    out.extend(edge(&points[worst..]));
    out
}

/// The whole skin of a member unrolled, both ends cut.
pub fn skin_outline(m: &Member, p: &Profile) -> Contour {
    let points = round_the_outside(p);
    let ends = [0, 1].map(|k| m.cuts(k));
    let low = low(m, p);
    let start: Vec<DVec2> =
        points.iter().rev().map(|q| DVec2::new(ends[0].station(q.1) - low, q.0)).collect();
    let end: Vec<DVec2> =
        points.iter().map(|q| DVec2::new(m.length - ends[1].station(q.1) - low, q.0)).collect();
    Contour::polygon(edge(&start).into_iter().chain(edge(&end)), 0).outward()
}

/// Where the metal begins along the bar: the skin's zero.
fn low(m: &Member, p: &Profile) -> f64 {
    let start = m.cuts(0);
    round_the_outside(p).iter().map(|q| start.station(q.1)).fold(f64::INFINITY, f64::min)
}

/// The rim of a hole about its middle: along the bar, and across.
fn rim(h: &Hole) -> Contour {
    let r = h.diameter / 2.0;
    if h.notch.is_some() {
        let corner = DVec2::new(h.length / 2.0, r * 0.999_999);
        return Contour::rectangle(-corner, corner, 0);
    }
    if straight(h) > 0.0 {
        Contour::slot(DVec2::ZERO, h.length, h.diameter, 0)
    } else {
        Contour::circle(DVec2::ZERO, r, 0)
    }
}

/// Holes and notches of a member on its unrolled skin: through the near wall, and through the far one where
/// they go on. True to size on a flat wall, stretched round a bent one. One that runs over the seam stands at
/// both sides of it.
pub fn skin_holes(m: &Member, p: &Profile) -> Vec<Contour> {
    let points = round_the_outside(p);
    let run = points[points.len() - 1].0;
    let low = low(m, p);
    let mut out = Vec::new();
    // What a drill makes without going through is not cut.
    let cut = |h: &&Hole| h.bore.as_ref().is_none_or(|b| b.through());
    for h in m.holes.iter().filter(cut) {
        ground::halt::point();
        let across = h.out.perp();
        let off = h.at.dot(across);
        for far in if h.through { [false, true].as_slice() } else { [false].as_slice() } {
            let place = |t: f64| wall(p, &points, h.out, t, *far);
            let Some(middle) = place(off) else { continue };
            // Beside the middle by less than half way round: no jump at the seam.
            let near = |t: f64| place(t).map(|y| y - run * ((y - middle) / run).round());
            let Some(rim) = laid(&rim(h), &|q| Some(DVec2::new(h.along + q.x - low, near(off + q.y)?)))
            else {
                continue;
            };
            let b = rim.bounds();
            let shifts = [0.0, run, -run].into_iter().filter(|s| b.min.y + s < run && b.max.y + s > 0.0);
            out.extend(shifts.map(|s| rim.moved(0.0, DVec2::new(0.0, s)).outward()));
        }
    }
    out
}

/// Distance round the outside where the line `t` across from the middle, along `out`, meets the near or the
/// far wall.
fn wall(p: &Profile, points: &[(f64, DVec2)], out: DVec2, t: f64, far: bool) -> Option<f64> {
    let side = if far { -1.0 } else { 1.0 };
    if p.section.shape.is_round() {
        let r = p.section.shape.size().x / 2.0;
        let up = (r * r - t * t).max(0.0).sqrt();
        if t.abs() > r {
            return None;
        }
        let from_top = (out.perp() * t + out * (up * side)).to_angle() - std::f64::consts::FRAC_PI_2;
        return Some(from_top.rem_euclid(std::f64::consts::TAU) * r);
    }
    let across = out.perp();
    let crossing = points.windows(2).filter_map(|w| {
        let (a, b) = (w[0].1.dot(across) - t, w[1].1.dot(across) - t);
        let share = a / (a - b);
        ((a <= 0.0) != (b <= 0.0))
            .then(|| (w[0].0 + (w[1].0 - w[0].0) * share, w[0].1.lerp(w[1].1, share).dot(out)))
    });
    crossing.max_by(|a, b| (a.1 * side).total_cmp(&(b.1 * side))).map(|c| c.0)
}

/// A rim laid on the wall: as it is where the wall is flat, else arc by arc.
fn laid(rim: &Contour, on: &dyn Fn(DVec2) -> Option<DVec2>) -> Option<Contour> {
    let b = rim.bounds();
    let zero = on(DVec2::ZERO)?;
    let probes = (0..=8).map(|k| b.min.y + b.size().y * f64::from(k) / 8.0);
    let mut way = Vec::new();
    for t in probes {
        way.push((t, on(DVec2::new(0.0, t * 0.999_999))?.y - zero.y));
    }
    for hand in [1.0, -1.0] {
        if way.iter().all(|(t, y)| (t * 0.999_999 * hand - y).abs() < COINCIDENT) {
            let put = |q: DVec2| DVec2::new(zero.x + q.x, zero.y + q.y * hand);
            return Some(if hand > 0.0 { rim.moved(0.0, zero) } else { rim.mirrored(put) });
        }
    }
    let mut parts = Vec::new();
    for s in rim.segments() {
        // Velocity by what lies a little to either side: the wall has no formula of its own at its corners.
        let at = |t: f64| on(s.at(t.clamp(0.0, 1.0)) * DVec2::new(1.0, 0.999_999)).unwrap_or(zero);
        let step = 1e-5;
        let moving = |t: f64| (at(t), (at(t + step) - at(t - step)) / step);
        for k in 0..4 {
            arcs::along(&moving, f64::from(k) / 4.0, f64::from(k + 1) / 4.0, &mut parts);
        }
    }
    let parts = arcs::merged(parts);
    Some(Contour { vertices: parts.iter().map(|s| Vertex { p: s.a, bulge: s.bulge, tag: 0 }).collect() })
}

/// Lines along the edges of a tube with sides, or along the quarters of a round one, and the names of its
/// sides and ends.
fn guides(p: &Profile, length: f64) -> Vec<Guide> {
    let points = round_the_outside(p);
    let run = points[points.len() - 1].0;
    let at = |y: f64| points.iter().find(|q| q.0 >= y).map_or(DVec2::Y, |q| q.1);
    let line = |y: f64, text: &str| Guide { from: [0.0, y], to: [length, y], text: text.into() };
    let said = |x: f64, y: f64, text: &str| Guide { from: [x, y], to: [x, y], text: text.into() };
    let mut out = vec![said(length * 0.02, run / 2.0, "START"), said(length * 0.94, run / 2.0, "END")];
    if p.section.shape.is_round() {
        out.extend(
            (0..4).map(|k| run * f64::from(k) / 4.0).map(|y| line(y, &hole_text::face(at(y)).to_uppercase())),
        );
        return out;
    }
    let half = p.section.shape.size() / 2.0;
    let corners = [(-half.x, half.y), (-half.x, -half.y), (half.x, -half.y), (half.x, half.y)]
        .map(|(x, y)| DVec2::new(x, y));
    let mut edges: Vec<f64> = corners
        .iter()
        .filter_map(|c| {
            points[1..].iter().min_by(|a, b| a.1.distance(*c).total_cmp(&b.1.distance(*c))).map(|q| q.0)
        })
        .collect();
    edges.sort_by(f64::total_cmp);
    out.extend(edges.iter().map(|y| line(*y, "")));
    let sides = edges.iter().zip(edges.iter().skip(1).copied().chain([edges[0] + run]));
    for (a, b) in sides {
        let y = ((a + b) / 2.0).rem_euclid(run);
        let q = at(y) / half;
        // The side with the seam in its middle is named beside the seam.
        let beside = if y < 1e-6 * run || y > run - run * 1e-6 { run / 24.0 } else { y };
        out.push(said(length / 2.0, beside, &hole_text::face(q).to_uppercase()));
    }
    out
}

/// The skin of a member as a flat with its mark and how many there are: what the list calls it.
pub fn unrolled(
    shop: &SheetShop,
    r: &FrameResult,
    member: &str,
    mark: &str,
    quantity: usize,
) -> Result<PieceResult, NoSkin> {
    let m = r.members.iter().find(|m| m.name == member).ok_or_else(|| NoSkin::Unknown(member.into()))?;
    let p = &r.profiles[m.profile];
    if !has_wall(p) {
        return Err(NoSkin::Solid(mark.into(), p.section.designation.clone()));
    }
    if !m.is_straight() {
        return Err(NoSkin::Bent(mark.into()));
    }
    let contours: Vec<Contour> = std::iter::once(skin_outline(m, p)).chain(skin_holes(m, p)).collect();
    let b = contours[0].bounds();
    let mut out =
        as_piece(shop, r, m, mark.into(), format!("skin of {}", p.section.designation), quantity, &contours);
    let shift = out.flat.outer.bounds().min - b.min;
    let moved = |q: [f64; 2]| (DVec2::from(q) + shift).to_array();
    out.flat.guides = guides(p, b.size().x)
        .into_iter()
        .map(|g| Guide { from: moved(g.from), to: moved(g.to), ..g })
        .collect();
    Ok(out)
}
