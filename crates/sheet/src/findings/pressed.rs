//! Pressed shapes: their room to bends, edges, cuts and each other, and how deep they can go.

use super::finding;
use crate::context::PieceContext;
use crate::result::{Finding, Severity};
use crate::{Feature, Pressed};
use ground::geom::{Bounds, Contour, Grid, Segment, closest};
use ground::geom::{COINCIDENT, ROUNDING};
use ground::reference;
use shop::limits;

/// Told one by one up to this many of a kind.
const TOLD: usize = 5;

pub fn check(m: &PieceContext, out: &mut Vec<Finding>) {
    let off: std::collections::HashSet<u32> = m.outcome.missed.iter().copied().collect();
    let pressed: Vec<&Feature> = m
        .features
        .iter()
        .zip(0u32..)
        .filter(|(f, k)| f.pressed.as_ref().is_some_and(|p| !p.is_pad()) && !off.contains(k))
        .map(|f| f.0)
        .collect();
    if pressed.is_empty() {
        return;
    }
    room(m, &pressed, out);
    depth(m, &pressed, out);
}

fn line_of<'a>(m: &'a PieceContext, f: &Feature) -> Option<&'a str> {
    m.line_name(f)
}

/// Gap between contours, zero where they overlap; endless where it is more than `most`.
fn gap(a: &Contour, sides: &[Segment], most: f64) -> f64 {
    let box_of_a = a.bounds();
    let near: Vec<&Segment> = sides.iter().filter(|s| s.bounds().near(&box_of_a, most)).collect();
    a.segments().flat_map(|s| near.iter().map(move |o| closest(&s, o).gap)).fold(f64::INFINITY, f64::min)
}

fn room(m: &PieceContext, pressed: &[&Feature], out: &mut Vec<Finding>) {
    let d = &m.display;
    let limit = limits::pressed_room(m.t);
    let mut found = Vec::new();
    let outer: Vec<Segment> = m.outcome.outer.segments().collect();
    let boxes: Vec<Bounds> = m.features.iter().map(|f| f.contour.bounds()).collect();
    let grid = Grid::new(&boxes, limit.value);
    for f in pressed {
        ground::halt::point();
        if found.len() > 40 * TOLD {
            break;
        }
        let own_bend = if let Some(Pressed::Rib { bend, .. }) = &f.pressed { bend.as_str() } else { "" };
        let mut near: Vec<(String, f64)> = Vec::new();
        for z in m
            .blank
            .zones
            .iter()
            .filter(|z| z.bend().is_some_and(|b| b.radius / m.t < 5.0) && z.name != own_bend)
        {
            let border: Vec<Segment> = (0..z.region.len())
                .map(|i| Segment::line(z.region[i], z.region[(i + 1) % z.region.len()]))
                .collect();
            near.push((
                format!("bend {}", z.name),
                if z.contains(f.centre) { 0.0 } else { gap(&f.contour, &border, limit.value) },
            ));
        }
        let inside = m.outcome.outer.contains(f.centre);
        near.push(("the edge".into(), if inside { gap(&f.contour, &outer, limit.value) } else { 0.0 }));
        let b = f.contour.bounds();
        for i in grid.near(&b).into_iter().map(|i| i as usize).filter(|&i| boxes[i].near(&b, limit.value)) {
            let other = &m.features[i];
            let pilot = reference::within(&other.name, &f.name) == Some("pilot")
                || other.centre.distance(f.centre) < COINCIDENT && other.line == f.line;
            // Each pair once: by name, and cuts always from the side of the pressed shape.
            let laid = other.pressed.as_ref().is_some_and(Pressed::is_pad);
            if other.name == f.name || pilot || laid || (other.pressed.is_some() && other.name > f.name) {
                continue;
            }
            let sides: Vec<Segment> = other.contour.segments().collect();
            let apart = if other.contour.contains(f.centre) || f.contour.contains(other.centre) {
                0.0
            } else {
                gap(&f.contour, &sides, limit.value)
            };
            near.push((other.name.clone(), apart));
        }
        if let Some((what, apart)) =
            near.into_iter().filter(|n| n.1 < limit.value - COINCIDENT).min_by(|a, b| a.1.total_cmp(&b.1))
        {
            let message = if apart < COINCIDENT {
                format!("{} runs into {what}", f.name)
            } else {
                format!("{} is {} from {what}, {} wanted", f.name, d.fine(apart), d.length_unit(limit.value))
            };
            found.push(
                finding("pressed_near", Severity::Warn, message, &limit.rule, limit.source)
                    .by(format!("{} too near", d.length_unit(limit.value - apart)))
                    .on(vec![f.name.clone()], line_of(m, f), Some(f.centre.to_array())),
            );
        }
    }
    super::told(found, TOLD, out);
}

fn depth(m: &PieceContext, pressed: &[&Feature], out: &mut Vec<Finding>) {
    let d = &m.display;
    let mut lines: Vec<usize> = Vec::new();
    for f in pressed {
        ground::halt::point();
        let Some((pressed, limit)) = f.pressed.as_ref().and_then(|p| Some((p, p.highest(m.t)?))) else {
            continue;
        };
        let height = pressed.height();
        if height <= limit.value + ROUNDING || lines.contains(&f.line) {
            continue;
        }
        lines.push(f.line);
        let message = format!(
            "{} stands out {}, more than {}: the sheet may tear",
            f.name,
            d.fine(height),
            d.length_unit(limit.value)
        );
        out.push(
            finding("pressed_deep", Severity::Warn, message, &limit.rule, limit.source)
                .by(format!("{} over", d.length_unit(height - limit.value)))
                .on(vec![f.name.clone()], line_of(m, f), Some(f.centre.to_array())),
        );
    }
}
