//! What is written on the flat pattern: bend lines, dimensions as the recipe told them, and what the holes are.

use super::Making;
use super::strip::Made;
use crate::job::{From, Punch, Say, Shape, SlotMeasure, To};
use crate::quantity::trim_number;
use crate::result::{BendMark, Dimension, HoleMark, Margin};

pub fn bend_marks(m: &Making) -> Vec<BendMark> {
    let Some(strip) = &m.blank.strip else { return Vec::new() };
    let bounds = m.blank.outer.bounds();
    strip
        .parts
        .iter()
        .filter_map(|p| {
            let (angle, up, radius, allowance, deduction, rolled) = match &p.made {
                Made::Leg { .. } => return None,
                Made::Bend { angle, up, radius, allowance, deduction, .. } => (*angle, *up, *radius, allowance, *deduction, false),
                Made::Arc { angle, up, radius, allowance } => (*angle, *up, *radius, allowance, 0.0, true),
            };
            let x = (p.from + p.to) / 2.0;
            Some(BendMark {
                name: format!("{}.{}", m.blank.line, p.id),
                line: m.blank.line.clone(),
                from: [x, bounds.min.y],
                to: [x, bounds.max.y],
                angle,
                angle_text: m.display.angle(angle),
                up,
                radius,
                radius_text: m.display.fine(radius),
                rolled,
                allowance: allowance.length,
                deduction,
                k: allowance.k,
            })
        })
        .collect()
}

/// Cuts dimensioned from their edges, at most.
const MOST_PLACED: usize = 6;

/// The overall sizes, the chain of bend lines, and each punched cut from the edges its line names.
pub fn dimensions(m: &Making, bends: &[BendMark]) -> Vec<Dimension> {
    let b = m.outcome.outer.bounds();
    let mut out = Vec::new();
    let mut dim = |from: [f64; 2], to: [f64; 2], side: Margin, level: u32| {
        let d = if matches!(side, Margin::South | Margin::North) { to[0] - from[0] } else { to[1] - from[1] };
        if d.abs() > 1e-6 {
            out.push(Dimension { from, to, side, level, text: m.display.length(d.abs()) });
        }
    };
    let stops: Vec<f64> = std::iter::once(b.min.x).chain(bends.iter().map(|d| d.from[0])).chain([b.max.x]).collect();
    if stops.len() > 2 {
        stops.windows(2).for_each(|w| dim([w[0], b.max.y], [w[1], b.max.y], Margin::North, 0));
    }
    let mut punched = m.features.iter().filter_map(|f| match &m.piece.lines.get(f.line)?.say {
        Say::Punch(p) => Some((f, p)),
        _ => None,
    });
    let (mut east, mut north): (Vec<f64>, Vec<f64>) = (Vec::new(), Vec::new());
    for (f, p) in punched.by_ref().take(MOST_PLACED) {
        let c = f.centre;
        let shape = f.contour.bounds();
        // Where the told distance ends: the shape's centre, or the side that the line names.
        let x = match (p.place.x.from, p.place.x.to) {
            (From::West, To::Side) => shape.min.x,
            (From::East, To::Side) => shape.max.x,
            _ => c.x,
        };
        let y = match (p.place.y.from, p.place.y.to) {
            (From::South, To::Side) => shape.min.y,
            (From::North, To::Side) => shape.max.y,
            _ => c.y,
        };
        let x_from = match p.place.x.from {
            From::West => Some(f.field.min.x),
            From::East => Some(f.field.max.x),
            _ => None,
        };
        let y_from = match p.place.y.from {
            From::South => Some(f.field.min.y),
            From::North => Some(f.field.max.y),
            _ => None,
        };
        let known = |seen: &mut Vec<f64>, v: f64| seen.iter().any(|s| (s - v).abs() < 1e-6) || { seen.push(v); false };
        if let Some(from) = x_from.filter(|_| !known(&mut east, x)) {
            dim([from.min(x), y], [from.max(x), y], Margin::South, east.len() as u32 - 1);
        }
        if let Some(from) = y_from.filter(|_| !known(&mut north, y)) {
            dim([x, from.min(y)], [x, from.max(y)], Margin::East, north.len() as u32 - 1);
        }
    }
    dim([b.min.x, b.min.y], [b.max.x, b.min.y], Margin::South, east.len() as u32);
    dim([b.min.x, b.min.y], [b.min.x, b.max.y], Margin::West, 0);
    out
}

/// One mark a line: the first cut of it, with how many there are.
pub fn hole_marks(m: &Making) -> Vec<HoleMark> {
    let mut out = Vec::new();
    for (i, line) in m.piece.lines.iter().enumerate() {
        let Say::Punch(punch) = &line.say else { continue };
        let Some(first) = m.features.iter().find(|f| f.line == i) else { continue };
        let suffix = format!(".{}", line.id);
        let same = |name: &str| name == line.id || name.split('#').next().is_some_and(|n| n.ends_with(&suffix));
        let count = m.features.iter().filter(|f| same(&f.name)).count();
        let times = if count > 1 { format!("{count}× ") } else { String::new() };
        out.push(HoleMark { name: first.name.clone(), at: first.centre.to_array(), text: format!("{times}{}", said(m, punch)) });
    }
    out
}

fn said(m: &Making, punch: &Punch) -> String {
    let scope_table = crate::quantity::FigureTable::new(&m.job.figures, m.job.display.length);
    let names = crate::quantity::PieceNames { table: &scope_table, t: Some(m.t), r: Some(m.r) };
    let scope = crate::quantity::Scope { unit: m.display.length, names: &names };
    let n = |text: &str| scope.length(text).map_or_else(|_| text.to_string(), |v| m.display.fine(v));
    match &punch.shape {
        Shape::Round { diameter } => format!("⌀{}", n(diameter)),
        Shape::Square { side } => format!("□{}", n(side)),
        Shape::Rectangle { width, height } => format!("{} × {}", n(width), n(height)),
        Shape::Slot { length, width, measure } => {
            let how = if *measure == SlotMeasure::Centres { " c/c" } else { "" };
            format!("slot {}{how} × {}", n(length), n(width))
        }
        Shape::Triangle { base, height } => format!("triangle {} × {}", n(base), n(height)),
        Shape::Polygon { sides, across } => format!("{}-sided {}", trim_number(scope.number(sides).unwrap_or(0.0), 0), n(across)),
        Shape::Outline { .. } => "cut-out".into(),
    }
}
