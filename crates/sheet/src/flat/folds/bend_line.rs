//! A bend across a panel: the flat keeps its size, the panel becomes two with a bend between.

use glam::DVec2;
use ground::geom::COINCIDENT;
use ground::geom::{Contour, Cut, common, cut_out};
use ground::reference;
use shop::bend::{Allowance, setback};

use super::layout::Laid;
use crate::choices::LineAt;
use crate::flat::bends::{BendFact, BendRole};
use crate::flat::spec::Turn;
use crate::formed::zones::{BendZone, Kind, Zone, zone_of};

/// A bend across what is laid flat; lengths in mm, angles in rad.
pub struct Across {
    /// A point of its line.
    pub at: DVec2,
    /// Square to it, to the side that moves.
    pub along: DVec2,
    /// What of the bend lies on the line.
    pub on: LineAt,
    pub angle: f64,
    pub up: bool,
    pub radius: f64,
    pub allowance: Allowance,
}

pub fn bend_across(turn: &mut Turn, laid: &mut Laid, line: Across) -> Option<()> {
    let ossb = setback(line.radius + turn.stock.t, line.angle);
    let width = line.allowance.length;
    let mut refuse = |message: String, mend: &str| turn.tell.refuse_at("/say/distance", message, mend);
    let panel = |z: &usize| laid.zones[*z].is_panel() && laid.outer.contains(line.at);
    let Some(z) = zone_of(&laid.zones, line.at).filter(panel) else {
        refuse("the line does not lie on a panel".into(), "write a distance that falls on flat material");
        return None;
    };
    let zone = &laid.zones[z];
    // The part that hangs on the rest of the piece is the one that holds still here.
    let back = zone.parent.is_some() && (zone.origin - line.at).dot(line.along) > 0.0;
    let along = if back { -line.along } else { line.along };
    let near = match line.on {
        LineAt::Centre => line.at - along * (width / 2.0),
        LineAt::Tangent => line.at,
        LineAt::Sharp => line.at - along * ossb,
    };
    let Some([still, bent, moving]) = split(&zone.region, near, along, width) else {
        refuse(
            "the bend does not divide the panel in two".into(),
            "move the line so that the whole bend lies on the panel",
        );
        return None;
    };
    let holds = |region: &[DVec2], p: DVec2| {
        Zone::new(String::new(), "", Kind::Panel, None, [p, along], region.to_vec()).contains(p)
    };
    let on_line = |z: &Zone, p: &DVec2| (*p - z.origin).dot(z.along).abs() < COINCIDENT;
    for child in laid.zones.iter().filter(|c| c.parent == Some(z)) {
        let shared = || child.region.iter().filter(|p| on_line(child, p));
        if !shared().all(|p| holds(&still, *p)) && !shared().all(|p| holds(&moving, *p)) {
            refuse(format!("the bend runs into {}", child.name), "move the line clear of that bend");
            return None;
        }
    }
    if let Some(parent) = zone.parent
        && !zone.region.iter().filter(|p| on_line(zone, p)).all(|p| holds(&still, *p))
    {
        refuse(
            format!("the bend runs into {}", laid.zones[parent].name),
            "move the line clear of that bend, or tell it from another edge",
        );
        return None;
    }
    let index = laid.zones.len();
    for child in laid.zones.iter_mut().filter(|c| c.parent == Some(z)) {
        if holds(&moving, child.origin) {
            child.parent = Some(index + 1);
        }
    }
    let ends = (f64::INFINITY, f64::NEG_INFINITY);
    let across = bent.iter().map(|p| (*p - near).dot(along.perp()));
    let (low, high) = across.fold(ends, |(l, h), v| (l.min(v), h.max(v)));
    let origin = near + along.perp() * ((low + high) / 2.0);
    let deep = moving.iter().map(|p| (*p - near).dot(along)).fold(0.0, f64::max) - width;
    let name = turn.at.line;
    let kind = Kind::Bend(BendZone {
        angle: line.angle,
        up: line.up,
        radius: line.radius,
        allowance: width,
        k: line.allowance.k,
    });
    let (far, bend) = (origin + along * width, reference::part(name, "bend"));
    laid.zones[z] = laid.zones[z].lying_in(still);
    laid.zones.push(Zone::new(bend.clone(), name, kind, Some(z), [origin, along], bent));
    laid.zones.push(Zone::new(name.into(), name, Kind::Panel, Some(index), [far, along], moving));
    let middle = laid.zones[index].span_at(width / 2.0).unwrap_or((low, high));
    let mid = |v: f64| origin + along * (width / 2.0) + along.perp() * v;
    laid.bends.push(BendFact {
        zone: index,
        name: bend,
        label: name.into(),
        line: name.into(),
        role: BendRole::Fold,
        angle: line.angle,
        up: line.up,
        radius: line.radius,
        deduction: 2.0 * ossb - width,
        allowance: line.allowance,
        ossb,
        rolled: false,
        ends: [mid(middle.0), mid(middle.1)],
        pointer: Some(turn.at.pointer("/say")),
        flange: Some(deep + ossb),
    });
    Some(())
}

/// The region on either side of a strip and in it: still, bent, moving.
fn split(region: &[DVec2], near: DVec2, along: DVec2, width: f64) -> Option<[Vec<DVec2>; 3]> {
    let outer = Contour::polygon(region.iter().copied(), 0).outward();
    let n = region.len();
    // Where the middle of the strip meets the border, to the left of `near`.
    let middle = near + along * (width / 2.0);
    let mut met: Vec<f64> = Vec::new();
    for i in 0..n {
        let (p, q) = (region[i], region[(i + 1) % n]);
        let (u, v) = ((p - middle).dot(along), (q - middle).dot(along));
        if (u > 0.0) != (v > 0.0) {
            met.push((p + (q - p) * (u / (u - v)) - middle).dot(along.perp()));
        }
    }
    met.sort_by(f64::total_cmp);
    let k = met.partition_point(|v| *v <= 0.0);
    let (low, high) = (*met.get(k.checked_sub(1)?)?, *met.get(k)?);
    let reach = 2.0 * width + 10.0;
    let below = k.checked_sub(2).and_then(|k| met.get(k)).map_or(reach, |v| ((low - v) / 2.0).min(reach));
    let above = met.get(k + 1).map_or(reach, |v| ((v - high) / 2.0).min(reach));
    let corner = |u: f64, v: f64| near + along * u + along.perp() * v;
    let strip = Contour::polygon(
        [
            corner(0.0, low - below),
            corner(width, low - below),
            corner(width, high + above),
            corner(0.0, high + above),
        ],
        0,
    )
    .outward();
    let cut = cut_out(outer.clone(), &[Cut { contour: strip.clone(), source: 0 }]);
    let parts: Vec<Contour> = std::iter::once(cut.outer).chain(cut.dropped).collect();
    let inside = common(&outer, &strip);
    if parts.len() != 2 || !cut.holes.is_empty() || inside.len() != 1 {
        return None;
    }
    // Beside the bend nothing may be left standing: a notch that ends within it leaves a part that neither
    // stays nor moves.
    let (left, right) = (low - below, high + above);
    let within = |p: DVec2| {
        let (u, v) = ((p - near).dot(along), (p - near).dot(along.perp()));
        u > COINCIDENT && u < width - COINCIDENT && v > left - COINCIDENT && v < right + COINCIDENT
    };
    if parts.iter().flat_map(|c| &c.vertices).any(|v| within(v.p)) {
        return None;
    }
    let points = |c: &Contour| c.vertices.iter().map(|v| v.p).collect::<Vec<_>>();
    let side = |c: &Contour| (c.centroid() - middle).dot(along) > 0.0;
    let touching = |c: &Contour, u: f64| {
        c.vertices.iter().any(|v| {
            ((v.p - near).dot(along) - u).abs() < 1e-5
                && (low - 1e-3..=high + 1e-3).contains(&(v.p - near).dot(along.perp()))
        })
    };
    let (a, b) = (&parts[0], &parts[1]);
    let (still, moving) =
        match (touching(a, 0.0) && !touching(a, width), touching(b, 0.0) && !touching(b, width)) {
            (true, false) => (a, b),
            (false, true) => (b, a),
            _ if side(b) => (a, b),
            _ => (b, a),
        };
    Some([points(still), points(&inside[0]), points(moving)])
}
