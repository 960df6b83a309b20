//! A bend across a panel: the flat keeps its size, the panel becomes two with a bend between.

use glam::DVec2;

use super::layout::Laid;
use super::say::At;
use crate::flat::bend_allowance::bend_by;
use crate::flat::bends::BendFact;
use crate::flat::blank::straight_side;
use crate::flat::strip::SheetStock;
use crate::formed::zones::{BendZone, Kind, Zone, zone_of};
use crate::verbs::{BendLine, Direction, LineAt, Stays};
use ground::geom::{Contour, Cut, common, cut_out};
use ground::reader::{Range, Reader};
use shop::bend::setback;

pub fn bend_line(
    reader: &mut Reader,
    laid: &mut Laid,
    tags: &[String],
    at: At,
    say: &BendLine,
    stuff: &SheetStock,
) -> Option<()> {
    let edge = straight_side(&laid.outer, tags, &laid.zones, &say.edge);
    if edge.is_none() {
        let mut known: Vec<&str> =
            laid.outer.vertices.iter().filter_map(|v| tags.get(v.tag as usize)).map(String::as_str).collect();
        known.dedup();
        known.truncate(12);
        reader.refuse(
            "/say/edge",
            &say.edge,
            format!("no straight edge is called '{}' here", say.edge),
            format!("pick from {}", known.join(", ")),
        );
    }
    let distance = reader.length("/say/distance", &say.distance, Range::AboveZero);
    let turn = if say.turn.trim().is_empty() { Some(0.0) } else { reader.angle("/say/turn", &say.turn) };
    let angle = reader.bend_angle("/say/angle", &say.angle, 180.0);
    let r = if say.radius.trim().is_empty() {
        Some(stuff.r)
    } else {
        reader.length("/say/radius", &say.radius, Range::ZeroUp)
    };
    let path = if say.bend_rule.is_some() { "/say" } else { "" };
    let ((a, b), distance, turn, angle, r) = (edge?, distance?, turn?, angle?, r?);
    let allowance = bend_by(reader, path, say.bend_rule.as_ref().unwrap_or(stuff.rule), stuff, angle, r)?;
    let ossb = setback(r + stuff.t, angle);
    let inward = DVec2::from_angle(turn).rotate((b - a).normalize_or_zero().perp());
    let told = (a + b) / 2.0 + (b - a).normalize_or_zero().perp() * distance;
    let Some(z) =
        zone_of(&laid.zones, told).filter(|z| laid.zones[*z].is_panel() && laid.outer.contains(told))
    else {
        reader.refuse(
            "/say/distance",
            &say.distance,
            "the line does not lie on a panel",
            "write a distance that falls on flat material",
        );
        return None;
    };
    let mut along = if say.stays == Stays::Far { -inward } else { inward };
    let start = |ahead: DVec2| match say.at {
        LineAt::Centre => told - ahead * (allowance.length / 2.0),
        LineAt::Tangent => told,
        LineAt::Sharp => told - ahead * ossb,
    };
    // The part that hangs on the rest of the piece is the one that holds still here.
    let zone = &laid.zones[z];
    if zone.parent.is_some() && (zone.origin - told).dot(along) > 0.0 {
        along = -along;
    }
    let near = start(along);
    let Some([still, bent, moving]) = split(&zone.region, near, along, allowance.length) else {
        reader.refuse(
            "/say/distance",
            &say.distance,
            "the bend does not divide the panel in two",
            "move the line so that the whole bend lies on the panel",
        );
        return None;
    };
    let holds = |region: &[DVec2], p: DVec2| {
        Zone::new(String::new(), "", Kind::Panel, None, [p, along], region.to_vec()).contains(p)
    };
    for child in laid.zones.iter().filter(|c| c.parent == Some(z)) {
        let shared: Vec<DVec2> = child
            .region
            .iter()
            .copied()
            .filter(|p| (*p - child.origin).dot(child.along).abs() < 1e-6)
            .collect();
        let parts = |region: &[DVec2]| shared.iter().all(|p| holds(region, *p));
        if !parts(&still) && !parts(&moving) {
            reader.refuse(
                "/say/distance",
                &say.distance,
                format!("the bend runs into {}", child.name),
                "move the line clear of that bend",
            );
            return None;
        }
    }
    let own_line = zone
        .region
        .iter()
        .filter(|p| zone.parent.is_some() && (**p - zone.origin).dot(zone.along).abs() < 1e-6);
    if let Some(parent) = zone.parent.filter(|_| !own_line.clone().all(|p| holds(&still, *p))) {
        let into = &laid.zones[parent].name;
        reader.refuse(
            "/say/distance",
            &say.distance,
            format!("the bend runs into {into}"),
            "move the line clear of that bend, or tell it from another edge",
        );
        return None;
    }
    let (name, index) = (at.line.to_string(), laid.zones.len());
    let (kind, line) = (
        BendZone {
            angle,
            up: say.direction == Direction::Up,
            radius: r,
            allowance: allowance.length,
            k: allowance.k,
        },
        at.line,
    );
    for child in laid.zones.iter_mut().filter(|c| c.parent == Some(z)) {
        if holds(&moving, child.origin) {
            child.parent = Some(index + 1);
        }
    }
    let across: Vec<f64> = bent.iter().map(|p| (*p - near).dot(along.perp())).collect();
    let (low, high) =
        across.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(*v), h.max(*v)));
    let origin = near + along.perp() * ((low + high) / 2.0);
    let deep = moving.iter().map(|p| (*p - near).dot(along)).fold(0.0, f64::max) - allowance.length;
    let old = laid.zones[z].clone();
    laid.zones[z] = Zone::new(old.name, &old.line, old.kind, old.parent, [old.origin, old.along], still);
    laid.zones.push(Zone::new(
        format!("{name}.bend"),
        line,
        Kind::Bend(kind),
        Some(z),
        [origin, along],
        bent,
    ));
    laid.zones.push(Zone::new(
        name.clone(),
        line,
        Kind::Panel,
        Some(index),
        [origin + along * allowance.length, along],
        moving,
    ));
    let middle = laid.zones[index].span_at(allowance.length / 2.0).unwrap_or((low, high));
    let half = allowance.length / 2.0;
    let mid = |v: f64| origin + along * half + along.perp() * v;
    laid.bends.push(BendFact {
        zone: index,
        name: format!("{name}.bend"),
        label: name,
        line: line.into(),
        angle,
        up: kind.up,
        radius: r,
        deduction: 2.0 * ossb - allowance.length,
        allowance,
        ossb,
        rolled: false,
        ends: [mid(middle.0), mid(middle.1)],
        pointer: Some(format!("/lines/{}/say", at.index)),
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
        u > 1e-6 && u < width - 1e-6 && v > left - 1e-6 && v < right + 1e-6
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
