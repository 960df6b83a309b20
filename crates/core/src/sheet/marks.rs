//! What is written on the flat pattern: bend lines, dimensions as the recipe told them, and what the holes are.

use std::collections::HashMap;

use super::Making;
use super::feature::Feature;
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

/// The spans that stand in each row of a side.
type Rows = Vec<Vec<(f64, f64)>>;

/// A dimension before it has its place in a row: the span it covers along its side.
struct Wanted {
    from: [f64; 2],
    to: [f64; 2],
    side: Margin,
}

impl Wanted {
    fn span(&self) -> (f64, f64) {
        let k = usize::from(matches!(self.side, Margin::West | Margin::East));
        (self.from[k].min(self.to[k]), self.from[k].max(self.to[k]))
    }
}

/// The overall sizes, the chain of bend lines, and each punched cut from the edges its line names.
pub fn dimensions(m: &Making, bends: &[BendMark]) -> Vec<Dimension> {
    let b = m.outcome.outer.bounds();
    let mut wanted: Vec<Wanted> = Vec::new();
    let stops: Vec<f64> = std::iter::once(b.min.x).chain(bends.iter().map(|d| d.from[0])).chain([b.max.x]).collect();
    if stops.len() > 2 {
        wanted.extend(stops.windows(2).map(|w| Wanted { from: [w[0], b.max.y], to: [w[1], b.max.y], side: Margin::North }));
    }
    let punched = m.features.iter().filter_map(|f| match &m.piece.lines.get(f.line)?.say {
        Say::Punch(p) => Some((f, p)),
        _ => None,
    });
    for (f, p) in punched.take(MOST_PLACED) {
        wanted.extend(placed(f, p, b.centre().x));
    }
    let overall = [
        Wanted { from: b.min.to_array(), to: [b.max.x, b.min.y], side: Margin::South },
        Wanted { from: b.min.to_array(), to: [b.min.x, b.max.y], side: Margin::West },
    ];
    let mut rows: Vec<(Margin, Rows)> = Vec::new();
    let mut out: Vec<Dimension> = Vec::new();
    for (k, w) in wanted.iter().chain(&overall).enumerate() {
        let (low, high) = w.span();
        let text = m.display.length(high - low);
        let twin = out.iter().any(|d| d.side == w.side && d.text == text && Wanted { from: d.from, to: d.to, side: d.side }.span() == (low, high));
        if high - low < 1e-6 || twin {
            continue;
        }
        if !rows.iter().any(|r| r.0 == w.side) {
            rows.push((w.side, Vec::new()));
        }
        let Some((_, levels)) = rows.iter_mut().find(|r| r.0 == w.side) else { continue };
        // The lowest row with room; the overall sizes stand outside all others.
        let free = |row: &Vec<(f64, f64)>| row.iter().all(|(a, z)| high <= a + 1e-6 || low >= z - 1e-6);
        let outermost = k >= wanted.len();
        let level = if outermost { levels.len() } else { levels.iter().position(free).unwrap_or(levels.len()) };
        if level == levels.len() {
            levels.push(Vec::new());
        }
        levels[level].push((low, high));
        out.push(Dimension { from: w.from, to: w.to, side: w.side, level: level as u32, text });
    }
    out
}

/// The told distances of one punched cut, from the edge that its line names to where it is told to.
fn placed(f: &Feature, p: &Punch, middle: f64) -> Vec<Wanted> {
    let shape = f.contour.bounds();
    let mut out = Vec::new();
    let x = match (p.place.x.from, p.place.x.to) {
        (From::West, To::Side) => shape.min.x,
        (From::East, To::Side) => shape.max.x,
        _ => f.centre.x,
    };
    let y = match (p.place.y.from, p.place.y.to) {
        (From::South, To::Side) => shape.min.y,
        (From::North, To::Side) => shape.max.y,
        _ => f.centre.y,
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
    if let Some(from) = x_from {
        out.push(Wanted { from: [from.min(x), y], to: [from.max(x), y], side: Margin::South });
    }
    if let Some(from) = y_from {
        let side = if x < middle { Margin::West } else { Margin::East };
        out.push(Wanted { from: [x, from.min(y)], to: [x, from.max(y)], side });
    }
    out
}

/// One mark a line: the first cut of it, with how many there are.
pub fn hole_marks(m: &Making) -> Vec<HoleMark> {
    // How many stem from each line, by the last part of the name: `repeat-1.punch-1#3` from `punch-1`.
    let mut counts: HashMap<&str, usize> = HashMap::new();
    let mut firsts: HashMap<usize, &Feature> = HashMap::new();
    for f in m.features {
        let stem = f.name.split('#').next().unwrap_or_default();
        *counts.entry(stem.rsplit('.').next().unwrap_or(stem)).or_default() += 1;
        firsts.entry(f.line).or_insert(f);
    }
    let mut out = Vec::new();
    for (i, line) in m.piece.lines.iter().enumerate() {
        let Say::Punch(punch) = &line.say else { continue };
        let Some(first) = firsts.get(&i) else { continue };
        let count = counts.get(line.id.as_str()).copied().unwrap_or(1);
        let times = if count > 1 { format!("{count}× ") } else { String::new() };
        // Above a hole; in the middle of a cut that opens at the edge.
        let (shape, blank) = (first.contour.bounds(), m.blank.outer.bounds());
        let inside = shape.min.cmpgt(blank.min).all() && shape.max.cmplt(blank.max).all();
        let at = if inside { [first.centre.x, shape.max.y] } else { first.centre.to_array() };
        out.push(HoleMark { name: first.name.clone(), at, text: format!("{times}{}", said(m, punch)) });
    }
    out
}

fn said(m: &Making, punch: &Punch) -> String {
    let scope_table = crate::quantity::FigureTable::new(&m.job.figures, m.job.display.length);
    let names = crate::quantity::PieceNames { table: &scope_table, t: Some(m.t), r: Some(m.r) };
    let scope = crate::quantity::Scope { unit: m.display.length, names: &names };
    let n = |text: &str| scope.length(text).map_or_else(|_| text.to_string(), |v| m.display.brief(v));
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
