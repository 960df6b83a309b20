//! Drilled holes: what is wrong with each by itself, holes that meet inside the sheet, and what is too near
//! an edge.

use ground::finding::finding;
use ground::geom::{COINCIDENT, Grid, ROUNDING, Segment, closest};

use super::told;
use crate::Bore;
use crate::bore_rules::{Into, faults};
use crate::context::PieceContext;
use crate::result::{BoreMark, Finding, PieceResult, Severity};
use shop::limits::{self, Limit};

/// Told one by one up to this many of a kind.
const TOLD: usize = 5;

pub fn check(m: &PieceContext, result: &PieceResult, out: &mut Vec<Finding>) {
    let bores = &result.flat.bores;
    if bores.is_empty() {
        return;
    }
    let mut found: Vec<Finding> = Vec::new();
    let mut lines: Vec<&str> = Vec::new();
    // Copies of one hole are the same in this: told once a line.
    for b in bores {
        ground::halt::point();
        if !lines.contains(&b.line.as_str()) {
            lines.push(&b.line);
            let sheet = Into { said: "sheet", t: m.t, material: m.material };
            let own = faults(&b.bore, &b.name, &sheet, &m.display).into_iter();
            found.extend(own.map(|f| f.on(vec![b.name.clone()], Some(b.line.as_str()), Some(b.at))));
        }
    }
    told(found, 4 * TOLD, out);
    meetings(m, bores, out);
    edges(m, result, out);
}

fn on(b: &BoreMark, check: &'static str, severity: Severity, said: (String, &Limit)) -> Finding {
    let (message, limit) = said;
    finding(check, severity, message, &limit.rule, limit.source).on(
        vec![b.name.clone()],
        Some(b.line.as_str()),
        Some(b.at),
    )
}

/// Holes that run into one another below a face: from both sides, or side by side.
fn meetings(m: &PieceContext, bores: &[BoreMark], out: &mut Vec<Finding>) {
    let boxes: Vec<_> = bores.iter().map(|b| b.bore.footprint(&b.plan, b.at.into()).bounds()).collect();
    let grid = Grid::new(&boxes, 0.0);
    let rule = Limit { value: 0.0, rule: "drilled holes keep metal between them".into(), source: "geometry" };
    let mut found = Vec::new();
    for (i, a) in bores.iter().enumerate() {
        ground::halt::point();
        for b in grid.near(&boxes[i]).into_iter().map(|j| j as usize).filter(|&j| j > i).map(|j| &bores[j]) {
            let apart = glam::DVec2::from(a.at).distance(b.at.into());
            let over = overlap(&a.bore, &b.bore, m.t) - apart;
            // What goes through the sheet is looked at with all other cuts.
            let whole = a.bore.through() && b.bore.through();
            let cuts = (a.bore.diameter + b.bore.diameter) / 2.0;
            if over < COINCIDENT || (whole && apart < cuts) {
                continue;
            }
            let how = if a.bore.back == b.bore.back {
                "run into one another"
            } else {
                "meet inside the sheet: one comes from the front, one from the back"
            };
            let message = format!("{} and {} {how}", a.name, b.name);
            let mut f = on(a, "bores_meet", Severity::Stop, (message, &rule));
            f = f.by(format!("{} over", m.display.length_unit(over)));
            f.names.push(b.name.clone());
            found.push(f);
        }
    }
    told(found, TOLD, out);
}

/// The most that two holes' radii come to at one depth of the sheet: they are straight between the ends of
/// their parts.
fn overlap(a: &Bore, b: &Bore, t: f64) -> f64 {
    let ends = |x: &Bore| -> Vec<f64> {
        let from_front = |z: f64| if x.back { t - z } else { z };
        x.profile(t).iter().map(|p| from_front(p.1)).collect()
    };
    let both = ends(a).into_iter().chain(ends(b));
    both.map(|z| {
        let (ra, rb) = (a.radius_at(z, t), b.radius_at(z, t));
        if ra > ROUNDING && rb > ROUNDING { ra + rb } else { 0.0 }
    })
    .fold(0.0, f64::max)
}

/// Cones, bores and blind holes against the outline and what else is cut.
fn edges(m: &PieceContext, result: &PieceResult, out: &mut Vec<Finding>) {
    let d = &m.display;
    let flat = &result.flat;
    let sides: Vec<_> =
        flat.outer.segments().chain(flat.holes.iter().flat_map(|h| h.contour.segments())).collect();
    let boxes: Vec<_> = sides.iter().map(|s| s.bounds()).collect();
    let widest = flat.bores.iter().map(|b| b.bore.widest()).fold(0.0, f64::max);
    let grid = Grid::new(&boxes, limits::hole_to_edge(m.material, m.t, widest).value);
    let mut found = Vec::new();
    for b in flat.bores.iter().filter(|b| b.bore.mouth.is_some() || !b.bore.through()) {
        ground::halt::point();
        let foot = b.bore.footprint(&b.plan, b.at.into());
        let own: Vec<_> = foot.segments().collect();
        // A blind hole keeps off as any hole does; a cone or bore has its hole for that, and must only stay
        // on the sheet.
        let limit = if b.bore.through() {
            Limit { value: 0.0, rule: "cones and bores lie on the sheet whole".into(), source: "geometry" }
        } else {
            let cut = limits::hole_to_edge(m.material, m.t, b.bore.diameter);
            limits::drilled(m.material, cut, b.bore.diameter, true)
        };
        let near = grid.near(&foot.bounds());
        let others = near.into_iter().map(|k| &sides[k as usize]).filter(|s| {
            // Its own hole lies inside it.
            !b.bore.through() || !b.plan.segments().any(|p| p.a == s.a && p.b == s.b)
        });
        let gap = |s: &Segment| {
            let within = glam::DVec2::from(b.at).distance(s.a) < b.bore.widest() / 2.0;
            own.iter().map(|o| closest(o, s).gap).fold(if within { 0.0 } else { f64::INFINITY }, f64::min)
        };
        let gap = others.map(gap).fold(f64::INFINITY, f64::min);
        if gap > limit.value.max(COINCIDENT) - ROUNDING {
            continue;
        }
        let message = if gap < COINCIDENT {
            format!("{} reaches over an edge or another cut; it is weighed as if it were whole", b.name)
        } else {
            format!("{} is {} from an edge, {} wanted", b.name, d.fine(gap), d.length_unit(limit.value))
        };
        found.push(on(b, "bore_edge", Severity::Warn, (message, &limit)));
    }
    told(found, TOLD, out);
}
