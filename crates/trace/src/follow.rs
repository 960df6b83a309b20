//! Along a fitted line or circle the picture's edge is looked for again and again, and the fit made anew.

use glam::DVec2;

use super::carrier::{Carrier, Shape};
use super::chain::chain;
use super::edge::{Reach, edge_across};
use super::picture::Gray;
use super::plane::Plane;

/// What came of one element.
#[derive(Clone, Debug)]
pub struct Followed {
    pub carrier: Carrier,
    /// Places of the edge, mm.
    pub points: Vec<DVec2>,
    /// Root of the mean square of their distances, and the largest, mm.
    pub rms: f64,
    pub worst: f64,
    /// Share of the looks that found an edge that fits.
    pub seen: f64,
}

/// Looks along one element.
const LOOKS: usize = 160;
/// Of its length, left out at both ends: corners are rounded in every picture.
const ENDS: f64 = 0.06;

/// An element through `points` (pixels), put upon the picture's edge; without a picture's help through the
/// points alone. Looked at twice: wide, then near.
pub fn follow(
    picture: Option<&Gray>,
    plane: &Plane,
    shape: Shape,
    points: &[DVec2],
    reach: Reach,
) -> Option<Followed> {
    let told: Vec<DVec2> = points.iter().map(|p| plane.mm(*p)).collect();
    let first = Carrier::through(shape, &told)?;
    let by_hand = || of(first, told.clone(), 1.0);
    let Some(picture) = picture else { return Some(by_hand()) };
    let mut now = first;
    let mut out = None;
    for reach in [reach, (reach / 3.0).clamp(1.5, 4.0), 1.5] {
        let (edge, looks) = along(picture, plane, shape, &now, reach);
        let Some((carrier, kept)) = robust(&now, edge) else {
            return Some(Followed { seen: 0.0, ..by_hand() });
        };
        let seen = kept.len() as f64 / looks as f64;
        now = carrier;
        out = Some(of(carrier, kept, seen));
    }
    out
}

/// The corners of a rectangle, each where the picture's edges beside it meet; as they were told where an edge
/// cannot be followed.
pub fn corners(picture: &Gray, told: [DVec2; 4], reach: Reach) -> [DVec2; 4] {
    let plane = Plane::scaled(DVec2::ONE);
    let side = |k: usize| follow(Some(picture), &plane, Shape::Line, &[told[k], told[(k + 1) % 4]], reach);
    let sides: Vec<Followed> = (0..4).filter_map(side).collect();
    if sides.len() < 4 || sides.iter().any(|s| s.seen < 0.3) {
        return told;
    }
    let found = chain(sides.iter().map(|s| s.carrier).collect(), 0.0);
    let near = |k: usize| {
        found.joints.get(k).map(|p| plane.pixel(*p)).filter(|p| p.distance(told[k]) <= 2.0 * reach)
    };
    std::array::from_fn(|k| near(k).unwrap_or(told[k]))
}

fn of(carrier: Carrier, points: Vec<DVec2>, seen: f64) -> Followed {
    let offs = points.iter().map(|p| carrier.off(*p).abs());
    let worst = offs.clone().fold(0.0, f64::max);
    let rms = (offs.map(|o| o * o).sum::<f64>() / points.len().max(1) as f64).sqrt();
    Followed { carrier, points, rms, worst, seen }
}

/// Places of the edge along an element, mm, and how many were looked for.
fn along(picture: &Gray, plane: &Plane, shape: Shape, c: &Carrier, reach: Reach) -> (Vec<DVec2>, usize) {
    let (low, high) =
        if shape == Shape::Circle { (0.0, 1.0 - 1.0 / LOOKS as f64) } else { (ENDS, 1.0 - ENDS) };
    let px = |share: f64| plane.pixel(c.at(share).0);
    let span: f64 = (0..16).map(|k| px(f64::from(k) / 16.0).distance(px(f64::from(k + 1) / 16.0))).sum();
    let looks = (span as usize).clamp(12, LOOKS);
    let mut out = Vec::with_capacity(looks);
    for k in 0..looks {
        ground::halt::often();
        let share = low + (high - low) * k as f64 / (looks - 1) as f64;
        let (p, across) = c.at(share);
        let at = plane.pixel(p);
        // Across in the picture is square to the way along it there, not to it in the plane.
        let (a, b) = (px(share - 1e-4), px(share + 1e-4));
        let Some(normal) = (b - a).try_normalize().map(DVec2::perp) else { continue };
        let normal = if normal.dot(plane.pixel(p + across) - at) < 0.0 { -normal } else { normal };
        if picture.holds(at)
            && let Some(t) = edge_across(picture, at, normal, reach)
        {
            out.push(plane.mm(at + normal * t));
        }
    }
    (out, looks)
}

/// Fewest places that carry a fit.
const FEWEST: usize = 6;

/// The fit through those places that agree on one: what lies further off than three times the usual is not of
/// this edge.
fn robust(c: &Carrier, mut points: Vec<DVec2>) -> Option<(Carrier, Vec<DVec2>)> {
    let mut now = *c;
    for _ in 0..6 {
        if points.len() < FEWEST {
            return None;
        }
        now = now.refitted(&points)?;
        let mut offs: Vec<f64> = points.iter().map(|p| now.off(*p).abs()).collect();
        offs.sort_by(f64::total_cmp);
        let limit = (3.0 * 1.4826 * offs[offs.len() / 2]).max(1e-9);
        let before = points.len();
        points.retain(|p| now.off(*p).abs() <= limit);
        if points.len() == before {
            break;
        }
    }
    Some((now, points))
}
