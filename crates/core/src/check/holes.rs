//! Holes: too small, too near a bend, an edge or one another; cuts that miss.

use super::finding;
use crate::geom::{Bounds, Closest, Contour, Grid, closest};
use crate::job::{From, Offset, Say};
use crate::result::{Finding, Mend, Patch, PieceResult, Severity};
use crate::sheet::{Feature, Making};
use crate::shopbook::limits;

/// Findings of one kind are told one by one up to this many; then the rest are counted.
const TOLD: usize = 5;

pub fn check(m: &Making, result: &PieceResult, out: &mut Vec<Finding>) {
    small(m, out);
    near_bends(m, out);
    webs(m, result, out);
    for &s in m.outcome.missed.iter().take(TOLD) {
        let f = &m.features[s as usize];
        out.push(
            finding("cut_misses", Severity::Warn, format!("{} lies outside the material and cuts nothing", f.name), "a cut meets the material", "geometry").on(
                vec![f.name.clone()],
                line_of(m, f),
                Some(f.centre.to_array()),
            ),
        );
    }
}

fn line_of<'a>(m: &'a Making, f: &Feature) -> Option<&'a str> {
    m.piece.lines.get(f.line).map(|l| l.id.as_str())
}

/// Keeps the first few of a kind, and says how many more there are.
fn told(mut found: Vec<Finding>, out: &mut Vec<Finding>) {
    let more = found.len().saturating_sub(TOLD);
    found.truncate(TOLD);
    if let Some(last) = found.last_mut().filter(|_| more > 0) {
        last.message += &format!(" (and {more} more like it)");
    }
    out.append(&mut found);
}

fn small(m: &Making, out: &mut Vec<Finding>) {
    let d = &m.display;
    let limit = limits::smallest_hole(m.t);
    let mut by_line: Vec<usize> = Vec::new();
    for f in m.features.iter().filter(|f| f.least < limit.value - 1e-9) {
        if by_line.contains(&f.line) {
            continue;
        }
        by_line.push(f.line);
        let message = format!("{} is {} wide in sheet {} thick", f.name, d.fine(f.least), d.length_unit(m.t));
        out.push(finding("hole_small", Severity::Warn, message, &limit.rule, limit.source).by(format!("{} short", d.length_unit(limit.value - f.least))).on(
            vec![f.name.clone()],
            line_of(m, f),
            Some(f.centre.to_array()),
        ));
    }
}

fn near_bends(m: &Making, out: &mut Vec<Finding>) {
    let d = &m.display;
    let mut near = Vec::new();
    let mut across = Vec::new();
    for f in m.features {
        let b = f.contour.bounds();
        for z in m.blank.zones.iter().filter(|z| z.bend().is_some_and(|x| x.radius / m.t < 5.0)) {
            let limit = limits::hole_to_bend(m.t, b.size().y, b.size().x);
            // Clear distance to the bend zone on either side; negative when the cut reaches into it.
            let gap = (z.min.x - b.max.x).max(b.min.x - z.max.x);
            let open = b.min.y <= m.blank.outer.bounds().min.y && b.max.y >= m.blank.outer.bounds().max.y;
            if gap >= limit.value - 1e-9 || open {
                continue;
            }
            if gap < -1e-9 {
                // A cut that opens at the strip's edge over the bend is a relief; one inside the bend is drawn as cut, and will pull.
                let message = format!("{} is cut across bend {}: its edges will pull out of shape when bent", f.name, z.name);
                across.push(finding("cut_across_bend", Severity::Note, message, "cuts across a bend distort", "common practice").on(
                    vec![f.name.clone(), z.name.clone()],
                    line_of(m, f),
                    Some(f.centre.to_array()),
                ));
                continue;
            }
            let more = limit.value - gap;
            let east = b.min.x >= z.max.x - 1e-9;
            let message = format!("{} is {} from bend {}, {} wanted", f.name, d.fine(gap), z.name, d.length_unit(limit.value));
            near.push(
                finding("hole_near_bend", Severity::Warn, message, &limit.rule, limit.source)
                    .by(format!("{} too near", d.length_unit(more)))
                    .on(vec![f.name.clone(), z.name.clone()], line_of(m, f), Some([if east { b.min.x } else { b.max.x }, f.centre.y]))
                    .with(move_x(m, f, if east { more } else { -more })),
            );
        }
    }
    told(near, out);
    told(across, out);
}

/// Moves a punched cut along x by writing a new distance, when its own line places it.
fn move_x(m: &Making, f: &Feature, by: f64) -> Option<Mend> {
    let line = m.piece.lines.get(f.line)?;
    let Say::Punch(p) = &line.say else { return None };
    let inward = if p.place.x.from == From::East { -by } else { by };
    let value = moved(m, &p.place.x, inward, f);
    Some(Mend {
        label: format!("move it {} {}", m.display.length_unit(by.abs()), if by > 0.0 { "east" } else { "west" }),
        patch: vec![Patch::replace(format!("/lines/{}/say/place/x/distance", f.line), value)],
    })
}

/// The told distance and a step: a plain number is added up, anything else keeps its words.
fn moved(m: &Making, o: &Offset, by: f64, f: &Feature) -> String {
    let plain = o.distance.trim().parse::<f64>();
    match plain {
        Ok(v) => m.display.typed(v * m.display.length.mm() + by),
        Err(_) if o.distance.trim().is_empty() => m.display.typed(f.centre.x - f.field.centre().x + by),
        Err(_) => format!("{} {} {}{}", o.distance.trim(), if by < 0.0 { "-" } else { "+" }, m.display.typed(by.abs()), m.display.length.sign()),
    }
}

/// Material between holes, and between holes and the outline.
fn webs(m: &Making, result: &PieceResult, out: &mut Vec<Finding>) {
    let (between, to_edge) = (limits::web_between(m.t), limits::hole_to_edge(m.t));
    let contours: Vec<&Contour> = result.flat.holes.iter().map(|h| &h.contour).collect();
    let boxes: Vec<Bounds> = contours.iter().map(|c| c.bounds()).collect();
    let grid = Grid::new(&boxes, between.value);
    let mut thin = Vec::new();
    let mut edge = Vec::new();
    for i in 0..contours.len() {
        if thin.len() > TOLD * 40 {
            break;
        }
        for j in grid.near(&boxes[i]).into_iter().map(|j| j as usize).filter(|&j| j > i && boxes[i].near(&boxes[j], between.value)) {
            let c = gap(contours[i], contours[j], between.value);
            if c.gap < between.value - 1e-6 {
                let names = vec![result.hole_name(&result.flat.holes[i]).to_string(), result.hole_name(&result.flat.holes[j]).to_string()];
                let message =
                    format!("The web between {} and {} is {}, {} wanted", names[0], names[1], m.display.fine(c.gap), m.display.length_unit(between.value));
                thin.push(web(m, result, "web_thin", message, (between.value, c), &between, names, i));
            }
        }
    }
    let outer = &result.flat.outer;
    let sides: Vec<(Bounds, crate::geom::Segment)> = outer.segments().map(|s| (s.bounds(), s)).collect();
    for (i, c) in contours.iter().enumerate() {
        let mut best: Option<Closest> = None;
        for (_, s) in sides.iter().filter(|s| s.0.near(&boxes[i], to_edge.value)) {
            for h in c.segments() {
                let found = closest(&h, s);
                if found.gap < best.map_or(to_edge.value - 1e-6, |b| b.gap) {
                    best = Some(found);
                }
            }
        }
        if let Some(c) = best {
            let name = result.hole_name(&result.flat.holes[i]).to_string();
            let message = format!("{name} is {} from the edge, {} wanted", m.display.fine(c.gap), m.display.length_unit(to_edge.value));
            edge.push(web(m, result, "edge_thin", message, (to_edge.value, c), &to_edge, vec![name], i));
        }
    }
    told(thin, out);
    told(edge, out);
}

#[allow(clippy::too_many_arguments)]
fn web(
    m: &Making,
    result: &PieceResult,
    check: &'static str,
    message: String,
    (wanted, c): (f64, Closest),
    limit: &limits::Limit,
    names: Vec<String>,
    hole: usize,
) -> Finding {
    let line = result.flat.holes[hole].sources.first().and_then(|&s| m.features.get(s as usize)).and_then(|f| line_of(m, f));
    finding(check, Severity::Warn, message, &limit.rule, limit.source).by(format!("{} thin", m.display.length_unit(wanted - c.gap))).on(
        names,
        line,
        Some(((c.on_a + c.on_b) / 2.0).to_array()),
    )
}

fn gap(a: &Contour, b: &Contour, within: f64) -> Closest {
    let mut best: Option<Closest> = None;
    for s in a.segments() {
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
