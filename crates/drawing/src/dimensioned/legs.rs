//! The outside sizes of a formed piece: of each leg where it is seen edge-on, and the whole.

use glam::{DAffine3, DVec2, DVec3};
use ground::quantity::Display;
use sheet::result::{Margin, PieceResult};

use crate::sizes::Size;
use crate::views::Sight;

/// mm and directions within which two are one.
const ALIKE: f64 = 1e-3;
const SQUARE: f64 = 1e-6;

/// A size in space, and the way out of the body.
struct Leg {
    from: DVec3,
    to: DVec3,
    out: DVec3,
}

/// The sizes of each view; `low` and `high` are the corners of the box round the body.
pub fn sizes(p: &PieceResult, views: &[Sight], low: DVec3, high: DVec3) -> Vec<Vec<Size>> {
    let d = &p.display;
    let mut out: Vec<Vec<Size>> = vec![Vec::new(); views.len()];
    let mut told: Vec<(DVec3, f64, f64)> = Vec::new();
    let legs = legs(p, (low + high) / 2.0);
    let mut merged: Vec<(usize, Size, usize)> = Vec::new();
    for leg in &legs {
        let way = (leg.to - leg.from).normalize_or_zero();
        let across = |s: &Sight| way.dot(s.eye).abs() < SQUARE && leg.out.dot(s.eye).abs() < SQUARE;
        let Some(v) = views.iter().position(across) else { continue };
        let span = span(leg.from, leg.to, way);
        if told.iter().any(|t| alike(t, &span)) {
            continue;
        }
        told.push(span);
        let size = flat(&views[v], leg, d);
        // Legs that are as long and lie the same way are said once, with how many.
        let ways = |s: &Size| (s.to - s.from).normalize_or_zero();
        let same = |m: &(usize, Size, usize)| {
            m.0 == v && m.1.text == size.text && ways(&m.1).perp_dot(ways(&size)).abs() < SQUARE
        };
        match merged.iter_mut().find(|m| same(m)) {
            Some(m) => m.2 += 1,
            None => merged.push((v, size, 1)),
        }
    }
    for (v, mut size, n) in merged {
        if n > 1 {
            size.text = format!("{n}× {}", size.text);
        }
        out[v].push(size);
    }
    for axis in [DVec3::X, DVec3::Z, DVec3::Y] {
        let span = span(low, high, axis);
        if told.iter().any(|t| alike(t, &span)) || span.2 - span.1 < ALIKE {
            continue;
        }
        let Some(v) = views.iter().position(|s| axis.dot(s.eye).abs() < SQUARE) else { continue };
        let s = &views[v];
        let (a, b) = (s.flat(low), s.flat(high));
        let (a, b) = (a.min(b), a.max(b));
        let lying = axis.dot(s.right).abs() > 0.5;
        let (to, side) =
            if lying { (DVec2::new(b.x, a.y), Margin::South) } else { (DVec2::new(a.x, b.y), Margin::West) };
        // To the tenth, as a whole is measured.
        let text = d.length(span.2 - span.1);
        let text = text.strip_suffix(".0").unwrap_or(&text).to_string();
        out[v].push(Size { from: a, to, side: Some(side), out: DVec2::ZERO, text, overall: true });
    }
    out
}

/// Where a size begins and ends along a direction.
fn span(a: DVec3, b: DVec3, way: DVec3) -> (DVec3, f64, f64) {
    let (p, q) = (a.dot(way), b.dot(way));
    (way, p.min(q), p.max(q))
}

fn alike(a: &(DVec3, f64, f64), b: &(DVec3, f64, f64)) -> bool {
    let turned = if a.0.dot(b.0) < 0.0 { (-b.2, -b.1) } else { (b.1, b.2) };
    a.0.cross(b.0).length() < SQUARE && (a.1 - turned.0).abs() < ALIKE && (a.2 - turned.1).abs() < ALIKE
}

/// Outside sizes of panels along the direction in which they were folded; of the one that lies still both
/// ways.
fn legs(p: &PieceResult, middle: DVec3) -> Vec<Leg> {
    let frames: Vec<DAffine3> = sheet::zones::frames(&p.zones, 1.0, p.thickness);
    let bends = |k: usize| p.zones.iter().any(|z| z.parent == Some(k) && z.bend().is_some());
    let mut out = Vec::new();
    for (k, (zone, frame)) in p.zones.iter().zip(&frames).enumerate() {
        let Some(Some([x0, y0, x1, y1])) = p.outside.get(k).copied() else { continue };
        if !zone.is_panel() {
            continue;
        }
        let n = frame.transform_vector3(DVec3::Z);
        let centre = zone.centre();
        let side = (frame.transform_point3(centre.extend(p.thickness / 2.0)) - middle).dot(n);
        let (z, out_of) = if side >= 0.0 { (p.thickness, n) } else { (0.0, -n) };
        let at = |x: f64, y: f64| frame.transform_point3(DVec3::new(x, y, z));
        let folded = |axis: DVec2| zone.parent.is_none() || zone.along.perp_dot(axis).abs() < SQUARE;
        // What has no bend at either end is told by the whole.
        let ends = zone.parent.is_some() || bends(k);
        if ends && folded(DVec2::X) {
            out.push(Leg { from: at(x0, centre.y), to: at(x1, centre.y), out: out_of });
        }
        if ends && folded(DVec2::Y) {
            out.push(Leg { from: at(centre.x, y0), to: at(centre.x, y1), out: out_of });
        }
    }
    out
}

/// A leg as a view shows it.
fn flat(s: &Sight, leg: &Leg, d: &Display) -> Size {
    let (from, to) = (s.flat(leg.from), s.flat(leg.to));
    let out = DVec2::new(leg.out.dot(s.right), leg.out.dot(s.up));
    let way = (to - from).normalize_or_zero();
    let side = if way.y.abs() < SQUARE {
        Some(if out.y > 0.0 { Margin::North } else { Margin::South })
    } else if way.x.abs() < SQUARE {
        Some(if out.x > 0.0 { Margin::East } else { Margin::West })
    } else {
        None
    };
    Size { from, to, side, out, text: d.brief(leg.from.distance(leg.to)), overall: false }
}
