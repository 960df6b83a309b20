//! End cuts as a saw is set: how far off square, about which side, and how the two ends lie to one another.

use glam::DVec2;
use ground::geom::COINCIDENT;
use serde::Serialize;

use super::bar::{RoundedEnd, Surface};
use super::model::{EndCut, EndRound, Member};
use super::profile::Profile;

/// One plane cut, seen from its own end.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Plane {
    /// Off square, rad: swing of the saw in the plane of the section's `about` side.
    pub angle: f64,
    /// Tilt beside the swing, rad; zero for a plain cut.
    pub bevel: f64,
    /// Direction in the section towards the long point.
    pub toward: DVec2,
    /// How deep the section is that way: what an error of the angle is multiplied by.
    pub depth: f64,
}

/// What an end looks like.
#[derive(Clone, Debug, PartialEq)]
pub enum Cut {
    Square,
    Plane(Plane),
    /// Several planes, one after another.
    Planes(Vec<Plane>),
    /// Square, then rounded off.
    Round(EndRound),
    /// Curved, or to the outline of another section: by template.
    Cope,
    /// A ring has no ends.
    None,
}

/// Off square by less than this is square, rad.
const SQUARE: f64 = 1e-5;

pub fn cut(m: &Member, p: &Profile, end: usize) -> Cut {
    if m.closed {
        return Cut::None;
    }
    if let Some(round) = rounded(m, end) {
        return Cut::Round(round.clone());
    }
    let bar = m.cut_bar(end);
    let mut planes = Vec::new();
    for t in &m.trims[end] {
        let Surface::Plane { normal, .. } = t.surface else { return Cut::Cope };
        let (v, along) = bar.turned(normal);
        if v.length() < SQUARE {
            continue;
        }
        // The long point is where material begins soonest: against the slope of the plane.
        let toward = v.normalize();
        let depth = p.reach(toward) + p.reach(-toward);
        let (across, up) = (v.x.abs(), v.y.abs());
        let round = p.section.shape.is_round();
        let plain = round || across < SQUARE || up < SQUARE;
        let (angle, bevel) = if plain {
            (v.length().atan2(along), 0.0)
        } else {
            // The bar lies on the side that leaves the smaller tilt.
            let (swing, tilt) = if across >= up { (across, up) } else { (up, across) };
            (swing.atan2(along), tilt.atan2(along.hypot(swing)))
        };
        planes.push(Plane { angle, bevel, toward, depth });
    }
    match planes.len() {
        0 => Cut::Square,
        1 if m.trims[end].len() == 1 => Cut::Plane(planes[0]),
        _ => Cut::Planes(planes),
    }
}

/// How an end is rounded off, where it is.
pub(crate) fn rounded(m: &Member, end: usize) -> Option<&EndRound> {
    m.rounds[end].as_ref().filter(|_| rounded_end(m, end).is_some())
}

/// The round of an end as it stands.
pub(crate) fn rounded_end(m: &Member, end: usize) -> Option<&RoundedEnd> {
    match m.trims[end].as_slice() {
        [EndCut { surface: Surface::Rounded(rounded_end), .. }] => Some(rounded_end),
        _ => None,
    }
}

/// How the ends lie to one another.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum EndRelation {
    /// One end is square, or not a plain cut.
    Plain,
    /// Like a parallelogram.
    Same,
    /// Like a trapezium: both long points on one side.
    Opposite,
    /// The second is turned about the bar from the first.
    Turned,
}

impl EndRelation {
    /// In words, `angle` being how far the second is turned; empty for plain ones.
    pub fn said(self, angle: &str) -> String {
        match self {
            EndRelation::Plain => String::new(),
            EndRelation::Same => "same way".into(),
            EndRelation::Opposite => "opposite".into(),
            EndRelation::Turned => format!("turned {angle}"),
        }
    }
}

/// How they lie, and by how much the second is turned (rad).
pub fn end_relation(a: &Cut, b: &Cut) -> (EndRelation, f64) {
    let (Cut::Plane(p), Cut::Plane(q)) = (a, b) else { return (EndRelation::Plain, 0.0) };
    let turn = p.toward.perp_dot(q.toward).atan2(p.toward.dot(q.toward));
    if turn.abs() < 1e-4 {
        (EndRelation::Opposite, 0.0)
    } else if (turn.abs() - std::f64::consts::PI).abs() < 1e-4 {
        (EndRelation::Same, 0.0)
    } else {
        (EndRelation::Turned, turn)
    }
}

/// The side view of a piece across the slope of its first slanted end, lengths from its middle: four corners
/// of start and end, each how far it stands out of square (mm), over the depth seen.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct SideView {
    /// Depth of the side seen.
    pub depth: f64,
    /// Start: how far the upper corner lies beyond the lower one, outwards.
    pub start: f64,
    pub end: f64,
    pub curved: [bool; 2],
    /// Radius of corners that are rounded off, as a share of half the depth; 0 for none.
    pub round: [f64; 2],
}

pub fn side_view(m: &Member, p: &Profile, cuts: [&Cut; 2]) -> SideView {
    let up = up(cuts);
    let (high, low) = (up * p.reach(up), -up * p.reach(-up));
    let out = |k: usize| if m.closed { 0.0 } else { m.station(k, low) - m.station(k, high) };
    SideView {
        depth: high.distance(low),
        start: out(0),
        end: out(1),
        curved: [0, 1].map(|k| *cuts[k] == Cut::Cope),
        round: [0, 1].map(|k| match cuts[k] {
            Cut::Round(r) => (2.0 * r.radius / high.distance(low).max(r.radius)).min(1.0),
            _ => 0.0,
        }),
    }
}

/// Where an end with several cuts, or a cope, stands back behind its tip as the side view sees it: height
/// from low to high (0 to 1), mm back.
pub fn silhouette(m: &Member, p: &Profile, up: DVec2, end: usize) -> Vec<DVec2> {
    const LEVELS: usize = 32;
    let (low, high) = (-p.reach(-up), p.reach(up));
    let n = p.fine.len();
    let mut out: Vec<DVec2> = Vec::new();
    for k in 0..=LEVELS {
        // Closer together at both sides, where a round end turns fastest.
        let share = (1.0 - (std::f64::consts::PI * k as f64 / LEVELS as f64).cos()) / 2.0;
        // A little inside, so that flat sides are met.
        let h = low + (high - low) * share.clamp(COINCIDENT, 1.0 - COINCIDENT);
        let crossing = (0..n).filter_map(|i| {
            let (a, b) = (p.fine[i], p.fine[(i + 1) % n]);
            let (u, v) = (a.dot(up) - h, b.dot(up) - h);
            ((u <= 0.0) != (v <= 0.0)).then(|| m.station(end, a.lerp(b, u / (u - v))))
        });
        let tip = crossing.fold(f64::INFINITY, f64::min);
        if tip.is_finite() {
            out.push(DVec2::new(share, tip));
        }
    }
    let first = out.iter().map(|q| q.y).fold(f64::INFINITY, f64::min);
    out.iter_mut().for_each(|q| q.y -= first);
    out
}

/// The direction across the section that the side view shows upwards.
pub fn up(cuts: [&Cut; 2]) -> DVec2 {
    let slope = |c: &Cut| match c {
        Cut::Plane(q) => Some(q.toward),
        Cut::Planes(q) => q.first().map(|q| q.toward),
        Cut::Round(r) => Some(r.aside),
        _ => None,
    };
    slope(cuts[0]).or_else(|| slope(cuts[1])).unwrap_or(DVec2::Y)
}
