//! Holes: too small, too near a bend, an edge or one another; cuts that miss.

use std::collections::HashSet;

use glam::DVec2;
use ground::geom::{COINCIDENT, ROUNDING};

use super::finding;
use crate::context::PieceContext;
use crate::result::{Finding, Mend, Patch, PieceResult, Severity};
use crate::verbs::{Offset, Operation};
use crate::{Feature, Pressed};
use ground::geom::{Bounds, Closest, Contour, Grid, Segment, closest};
use shop::limits;

/// Findings of one kind are told one by one up to this many; then the rest are counted.
const TOLD: usize = 5;

pub fn check(m: &PieceContext, result: &PieceResult, out: &mut Vec<Finding>) {
    small(m, out);
    near_bends(m, out);
    webs(m, result, out);
    in_bevels(m, result, out);
    open(m, out);
    for &s in m.outcome.missed.iter().take(TOLD) {
        let f = &m.features[s as usize];
        let (message, rule) = match f.is_cut_through() {
            true => {
                (format!("{} lies outside the material and cuts nothing", f.name), "a cut meets the material")
            }
            _ if f.pressed.as_ref().is_some_and(Pressed::is_pad) => {
                (format!("{} lies on no sheet and is left out", f.name), "a pad lies on sheet")
            }
            _ => (
                format!("{} lies outside the sheet or over its edge, and is left out", f.name),
                "what is pressed or drilled blind has sheet under all of it",
            ),
        };
        out.push(finding("cut_misses", Severity::Stop, message, rule, "geometry").on(
            vec![f.name.clone()],
            line_of(m, f),
            Some(f.centre.to_array()),
        ));
    }
}

/// Arcs nearer than this are of one circle, mm: less than any drawing tells.
const SAME: f64 = 1e-4;

/// Round holes that run over the edge, a row of them told once: some are meant as notches. What has a mouth
/// is told as `bore_edge`.
fn open(m: &PieceContext, out: &mut Vec<Finding>) {
    let arcs: Vec<_> = m.outcome.outer.segments().filter_map(|s| s.arc()).collect();
    let whole: HashSet<u32> = m.outcome.holes.iter().flat_map(|h| h.sources.iter().copied()).collect();
    let mut lines: Vec<usize> = Vec::new();
    let cuts = (0..).zip(m.features).filter(|(i, _)| !whole.contains(i)).map(|(_, f)| f);
    let has_mouth = |f: &Feature| f.bore.as_ref().is_some_and(|b| b.mouth.is_some());
    for f in cuts.filter(|f| f.is_cut_through() && !f.is_relief && !has_mouth(f)) {
        ground::halt::often();
        if lines.contains(&f.line) {
            continue;
        }
        let Some((centre, radius)) = f.contour.as_circle() else { continue };
        if !arcs.iter().any(|a| a.centre.distance(centre) < SAME && (a.radius - radius).abs() < SAME) {
            continue;
        }
        lines.push(f.line);
        let message = format!("{} runs over the edge: it is a notch there, and no hole", f.name);
        out.push(
            finding("hole_open", Severity::Note, message, "a hole has sheet all round it", "geometry").on(
                vec![f.name.clone()],
                line_of(m, f),
                Some(f.centre.to_array()),
            ),
        );
    }
}

/// Holes that a bevelled edge is cut back into.
fn in_bevels(m: &PieceContext, result: &PieceResult, out: &mut Vec<Finding>) {
    for b in &result.flat.bevels {
        let edge = Segment::line(b.edge[0], b.edge[1]);
        for h in &result.flat.holes {
            let gap = h.contour.segments().map(|s| closest(&s, &edge).gap).fold(f64::INFINITY, f64::min);
            let Some(f) = h.sources.first().map(|s| &m.features[*s as usize]) else { continue };
            if gap < b.back - COINCIDENT {
                let message = format!("{} runs into the bevel of its edge", f.name);
                let rule = format!("this edge is cut back by {}", m.display.length_unit(b.back));
                out.push(finding("bevel_hole", Severity::Stop, message, &rule, "geometry").on(
                    vec![f.name.clone()],
                    line_of(m, f),
                    Some(f.centre.to_array()),
                ));
            }
        }
    }
}

fn line_of<'a>(m: &'a PieceContext, f: &Feature) -> Option<&'a str> {
    m.line_name(f)
}

fn small(m: &PieceContext, out: &mut Vec<Finding>) {
    let d = &m.display;
    let Some(limit) = limits::smallest_hole(m.material, m.t) else { return };
    let mut by_line: Vec<usize> = Vec::new();
    for f in m.features.iter().filter(|f| {
        // What is drilled may be as small as a drill.
        f.pressed.is_none() && f.bore.is_none() && f.least < limit.value - ROUNDING
    }) {
        ground::halt::point();
        if by_line.contains(&f.line) {
            continue;
        }
        by_line.push(f.line);
        let message = format!("{} is {} wide in sheet {} thick", f.name, d.fine(f.least), d.length_unit(m.t));
        out.push(
            finding("hole_small", Severity::Warn, message, &limit.rule, limit.source)
                .by(format!("{} short", d.length_unit(limit.value - f.least)))
                .on(vec![f.name.clone()], line_of(m, f), Some(f.centre.to_array())),
        );
    }
}

fn near_bends(m: &PieceContext, out: &mut Vec<Finding>) {
    let d = &m.display;
    let (mut near, mut across) = (Vec::new(), Vec::new());
    let zones: Vec<_> =
        m.blank.zones.iter().filter(|z| z.bend().is_some_and(|x| x.radius / m.t < 5.0)).collect();
    let widest = limits::hole_to_bend(m.t, 1e9, 0.0).value;
    for f in m.features.iter().filter(|f| f.pressed.is_none() && !f.is_relief) {
        ground::halt::point();
        let foot = f.footprint();
        let own = foot.bounds();
        for z in zones.iter().filter(|z| own.near(&Bounds { min: z.min, max: z.max }, widest)) {
            // In the bend's own directions: u away from its parent, v along it.
            let b = foot.moved(-z.along.to_angle(), DVec2::ZERO).bounds();
            let start = z.along.dot(z.origin);
            let width = z.bend().map_or(0.0, |x| x.allowance);
            let [_, (low, high)] = z.extent();
            let (low, high) = (low + z.along.perp().dot(z.origin), high + z.along.perp().dot(z.origin));
            let limit = limits::hole_to_bend(m.t, b.size().y, b.size().x);
            let beside = b.max.y > low + COINCIDENT && b.min.y < high - COINCIDENT;
            // Clear distance to the bend zone on either side; negative when the cut reaches into it.
            let gap = (start - b.max.x).max(b.min.x - (start + width));
            let open = b.min.y <= low + COINCIDENT && b.max.y >= high - COINCIDENT;
            if !beside || gap >= limit.value - ROUNDING || open {
                continue;
            }
            if gap < -ROUNDING {
                // A cut that opens at the end of the bend is a relief; one inside the bend is drawn as cut,
                // and will pull.
                let message = format!(
                    "{} is cut across bend {}: its edges will pull out of shape when bent",
                    f.name, z.name
                );
                across.push(
                    finding(
                        "cut_across_bend",
                        Severity::Note,
                        message,
                        "cuts across a bend distort",
                        "common practice",
                    )
                    .on(
                        vec![f.name.clone(), z.name.clone()],
                        line_of(m, f),
                        Some(f.centre.to_array()),
                    ),
                );
                continue;
            }
            let more = limit.value - gap;
            let ahead = b.min.x >= start + width - ROUNDING;
            let message = format!(
                "{} is {} from bend {}, {} wanted",
                f.name,
                d.fine(gap),
                z.name,
                d.length_unit(limit.value)
            );
            let away = z.along * if ahead { more } else { -more };
            let at = f.centre - z.along * (b.size().x / 2.0) * if ahead { 1.0 } else { -1.0 };
            near.push(
                finding("hole_near_bend", Severity::Warn, message, &limit.rule, limit.source)
                    .by(format!("{} too near", d.length_unit(more)))
                    .on(vec![f.name.clone(), z.name.clone()], line_of(m, f), Some(at.to_array()))
                    .with(move_away(m, f, away)),
            );
        }
    }
    super::told(near, TOLD, out);
    super::told(across, TOLD, out);
}

/// Moves a punched cut by writing a new distance, when its own line places it along the way it must go.
fn move_away(m: &PieceContext, f: &Feature, away: DVec2) -> Option<Mend> {
    let line = m.piece.lines.get(f.line)?;
    let place = match &line.say {
        Operation::Punch(p) => &p.place,
        Operation::Drill(d) => &d.place,
        _ => return None,
    };
    if !place.beside.is_not() {
        return None;
    }
    // The axes that its place is told along: a folded panel's own, or the flat's.
    let own = place.x.from.is_own() || place.y.from.is_own();
    let x = if own { m.blank.zones.iter().find(|z| z.name == place.on)?.right() } else { DVec2::X };
    let (field, told, by) = [("x", &place.x, x), ("y", &place.y, x.perp())]
        .into_iter()
        .map(|(field, told, axis)| (field, told, away.dot(axis)))
        .find(|(_, _, by)| (by.abs() - away.length()).abs() < ROUNDING)?;
    let by = if told.from.is_far() { -by } else { by };
    Some(Mend {
        label: format!("move it {} away from the bend", m.display.length_unit(away.length())),
        patch: vec![Patch::replace(
            format!("/lines/{}/say/place/{field}/distance", f.line),
            moved(m, told, by),
        )],
    })
}

/// The told distance and a step: a plain number is added up, anything else keeps its words.
fn moved(m: &PieceContext, o: &Offset, by: f64) -> String {
    let text = o.distance.trim();
    match text.parse::<f64>() {
        Ok(v) => m.display.typed(v * m.display.length.mm() + by),
        Err(_) if text.is_empty() => m.display.typed(by),
        Err(_) => format!(
            "{text} {} {}{}",
            if by < 0.0 { "-" } else { "+" },
            m.display.typed(by.abs()),
            m.display.length.sign()
        ),
    }
}

/// Material between holes, and between holes and the outline.
fn webs(m: &PieceContext, result: &PieceResult, out: &mut Vec<Finding>) {
    let contours: Vec<&Contour> = result.flat.holes.iter().map(|h| &h.contour).collect();
    let boxes: Vec<Bounds> = contours.iter().map(|c| c.bounds()).collect();
    let width = |i: usize| boxes[i].size().min_element();
    let drilled = |s: &u32| m.features.get(*s as usize).is_some_and(|f| f.bore.is_some());
    let is_drilled = |i: usize| result.flat.holes[i].sources.iter().all(drilled);
    // The rule of a pair is that of its narrower hole; what is looked through is what the widest may want.
    let widest = (0..boxes.len()).map(width).fold(0.0, f64::max);
    let grid = Grid::new(&boxes, limits::web_between(m.material, m.t, widest).value);
    let mut thin = Vec::new();
    let mut edge = Vec::new();
    let mut near = Vec::new();
    for i in 0..contours.len() {
        ground::halt::point();
        if thin.len() > TOLD * 40 {
            break;
        }
        grid.put_near(&boxes[i], &mut near);
        for j in near.iter().map(|j| *j as usize).filter(|&j| j > i) {
            let narrow = width(i).min(width(j));
            let between = limits::web_between(m.material, m.t, narrow);
            let both = is_drilled(i) && is_drilled(j);
            let between = if both { limits::drilled(m.material, between, narrow, false) } else { between };
            if !boxes[i].near(&boxes[j], between.value) {
                continue;
            }
            let c = gap(contours[i], contours[j], between.value);
            if c.gap < between.value - COINCIDENT {
                let names = vec![
                    result.hole_name(&result.flat.holes[i]).to_string(),
                    result.hole_name(&result.flat.holes[j]).to_string(),
                ];
                let message = format!(
                    "The web between {} and {} is {}, {} wanted",
                    names[0],
                    names[1],
                    m.display.fine(c.gap),
                    m.display.length_unit(between.value)
                );
                thin.push(web(m, result, "web_thin", message, (between.value, c), &between, names, i));
            }
        }
    }
    let outer = &result.flat.outer;
    let sides: Vec<(Bounds, ground::geom::Segment)> = outer.segments().map(|s| (s.bounds(), s)).collect();
    for (i, c) in contours.iter().enumerate() {
        ground::halt::point();
        let to_edge = limits::hole_to_edge(m.material, m.t, width(i));
        let to_edge =
            if is_drilled(i) { limits::drilled(m.material, to_edge, width(i), true) } else { to_edge };
        let mut best: Option<Closest> = None;
        for (_, s) in sides.iter().filter(|s| s.0.near(&boxes[i], to_edge.value)) {
            for h in c.segments() {
                let found = closest(&h, s);
                if found.gap < best.map_or(to_edge.value - COINCIDENT, |b| b.gap) {
                    best = Some(found);
                }
            }
        }
        if let Some(c) = best {
            let name = result.hole_name(&result.flat.holes[i]).to_string();
            let message = format!(
                "{name} is {} from the edge, {} wanted",
                m.display.fine(c.gap),
                m.display.length_unit(to_edge.value)
            );
            edge.push(web(m, result, "edge_thin", message, (to_edge.value, c), &to_edge, vec![name], i));
        }
    }
    super::told(thin, TOLD, out);
    super::told(edge, TOLD, out);
}

#[allow(clippy::too_many_arguments)]
fn web(
    m: &PieceContext,
    result: &PieceResult,
    check: &'static str,
    message: String,
    (wanted, c): (f64, Closest),
    limit: &limits::Limit,
    names: Vec<String>,
    hole: usize,
) -> Finding {
    let line = result.flat.holes[hole]
        .sources
        .first()
        .and_then(|&s| m.features.get(s as usize))
        .and_then(|f| line_of(m, f));
    finding(check, Severity::Warn, message, &limit.rule, limit.source)
        .by(format!("{} thin", m.display.length_unit(wanted - c.gap)))
        .on(names, line, Some(((c.on_a + c.on_b) / 2.0).to_array()))
}

fn gap(a: &Contour, b: &Contour, within: f64) -> Closest {
    let mut best: Option<Closest> = None;
    for s in a.segments() {
        ground::halt::point();
        for t in b.segments() {
            if s.bounds().near(&t.bounds(), within) {
                let c = closest(&s, &t);
                if best.is_none_or(|b| c.gap < b.gap) {
                    best = Some(c);
                }
            }
        }
    }
    best.unwrap_or(Closest { gap: f64::INFINITY, on_a: a.vertices[0].p, on_b: b.vertices[0].p })
}
