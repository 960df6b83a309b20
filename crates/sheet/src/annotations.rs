//! What is written on the flat pattern: bend lines, dimensions as the recipe told them, and what the holes
//! are.

use ground::geom::COINCIDENT;
use std::collections::HashMap;

use glam::DVec2;

use crate::choices::{From, To};
use crate::context::PieceContext;
use crate::flat::feature::Feature;
use crate::flat::place::PlaceSpec;
use crate::result::{BendMark, BoreMark, Dimension, HoleMark, Margin, PressedMark};
use ground::geom::in_material;
use ground::reference::{self, Reference};

/// mm from an edge that belongs to the metal.
const BESIDE: f64 = 1e-6;

/// From and to, on the flat.
type Line = [[f64; 2]; 2];

pub fn bend_marks(m: &PieceContext) -> Vec<BendMark> {
    let metal =
        |[a, b]: [DVec2; 2]| in_material(a, b, &m.outcome.outer, m.outcome.holes.iter().map(|h| &h.contour));
    let lines =
        |parts: &[[DVec2; 2]]| parts.iter().map(|p| [p[0].to_array(), p[1].to_array()]).collect::<Vec<_>>();
    let mark = |b: &crate::flat::bends::BendFact| {
        let parts = metal(b.ends);
        let [from, to] = parts.first().zip(parts.last()).map_or(b.ends, |(first, last)| [first[0], last[1]]);
        let zone = &m.blank.zones[b.zone];
        let tangents = if b.rolled { zone.tangents() } else { Vec::new() };
        // Where a rolled sheet begins with the tangent, the line lies on the edge: the metal is looked for
        // beside it.
        let inward = [zone.along * BESIDE, zone.along * -BESIDE];
        let beside = |(t, by): ([DVec2; 2], DVec2)| {
            metal(t.map(|p| p + by)).into_iter().map(move |part| part.map(|p| p - by))
        };
        let tangents: Vec<[DVec2; 2]> = tangents.into_iter().zip(inward).flat_map(beside).collect();
        bend_mark(m, b, [from, to], &parts, lines(&parts), lines(&tangents))
    };
    m.blank.bends.iter().map(mark).collect()
}

fn bend_mark(
    m: &PieceContext,
    b: &crate::flat::bends::BendFact,
    ends: [DVec2; 2],
    metal: &[[DVec2; 2]],
    parts: Vec<Line>,
    tangents: Vec<Line>,
) -> BendMark {
    BendMark {
        name: b.name.clone(),
        label: b.label.clone(),
        line: b.line.clone(),
        from: ends[0].to_array(),
        to: ends[1].to_array(),
        parts,
        length: metal.iter().map(|p| p[0].distance(p[1])).sum(),
        tangents,
        angle: b.angle,
        angle_text: m.display.angle(b.angle),
        up: b.up,
        radius: b.radius,
        radius_text: m.display.fine(b.radius),
        rolled: b.rolled,
        allowance: b.allowance.length,
        deduction: b.deduction,
        k: b.allowance.k,
    }
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
pub fn dimensions(m: &PieceContext, bends: &[BendMark]) -> Vec<Dimension> {
    let b = m.outcome.outer.bounds();
    let mut wanted: Vec<Wanted> = Vec::new();
    // Bend lines straight across stand in a chain to the north, those along in one to the east.
    for (k, side) in [(0, Margin::North), (1, Margin::East)] {
        let straight = bends.iter().filter(|d| (d.from[k] - d.to[k]).abs() < COINCIDENT);
        let (low, high) = (b.min[k], b.max[k]);
        let mut stops: Vec<f64> =
            std::iter::once(low).chain(straight.map(|d| d.from[k])).chain([high]).collect();
        stops.sort_by(f64::total_cmp);
        stops.dedup_by(|a, b| (*a - *b).abs() < COINCIDENT);
        let at = |v: f64| if k == 0 { [v, b.max.y] } else { [b.max.x, v] };
        if stops.len() > 2 && stops.len() < 14 {
            wanted.extend(stops.windows(2).map(|w| Wanted { from: at(w[0]), to: at(w[1]), side }));
        }
    }
    let punched = m.features.iter().filter_map(|f| Some((f, m.line_of(f)?.spec.as_ref()?.cuts()?.place()?)));
    // On a folded piece the edges that places are told from lie far inside the flat's margins.
    let plain = m.blank.strip.is_some() || m.blank.zones.len() == 1;
    for (f, p) in punched.take(if plain { MOST_PLACED } else { 0 }) {
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
        let twin = out.iter().any(|d| {
            d.side == w.side
                && d.text == text
                && Wanted { from: d.from, to: d.to, side: d.side }.span() == (low, high)
        });
        if high - low < COINCIDENT || twin {
            continue;
        }
        if !rows.iter().any(|r| r.0 == w.side) {
            rows.push((w.side, Vec::new()));
        }
        let Some((_, levels)) = rows.iter_mut().find(|r| r.0 == w.side) else { continue };
        // The lowest row with room; the overall sizes stand outside all others.
        let free =
            |row: &Vec<(f64, f64)>| row.iter().all(|(a, z)| high <= a + COINCIDENT || low >= z - COINCIDENT);
        let outermost = k >= wanted.len();
        let level =
            if outermost { levels.len() } else { levels.iter().position(free).unwrap_or(levels.len()) };
        if level == levels.len() {
            levels.push(Vec::new());
        }
        levels[level].push((low, high));
        out.push(Dimension { from: w.from, to: w.to, side: w.side, level: level as u32, text });
    }
    out
}

/// The told distances of one punched cut, from the edge that its line names to where it is told to.
fn placed(f: &Feature, place: &PlaceSpec, middle: f64) -> Vec<Wanted> {
    let shape = f.contour.bounds();
    let mut out = Vec::new();
    let x = match (place.x.from, place.x.to) {
        (From::West, To::Side) => shape.min.x,
        (From::East, To::Side) => shape.max.x,
        _ => f.centre.x,
    };
    let y = match (place.y.from, place.y.to) {
        (From::South, To::Side) => shape.min.y,
        (From::North, To::Side) => shape.max.y,
        _ => f.centre.y,
    };
    let x_from = match place.x.from {
        From::West => Some(f.field.min.x),
        From::East => Some(f.field.max.x),
        _ => None,
    };
    let y_from = match place.y.from {
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
pub fn hole_marks(m: &PieceContext) -> Vec<HoleMark> {
    // How many stem from each line, by the last part of the name: `repeat-1.punch-1#3` from `punch-1`.
    let mut counts: HashMap<&str, usize> = HashMap::new();
    let mut firsts: HashMap<usize, &Feature> = HashMap::new();
    for f in m.features {
        let of = Reference::parse(&f.name);
        *counts.entry(if of.part.is_empty() { of.line } else { reference::last(of.part) }).or_default() += 1;
        firsts.entry(f.line).or_insert(f);
    }
    let mut out = Vec::new();
    for line in m.lines {
        let Some(first) = firsts.get(&line.index) else { continue };
        let own = || m.features.iter().filter(|f| f.line == line.index);
        let pressed = own().find_map(|f| f.pressed.as_ref());
        let spec = line.spec.as_ref().and_then(|s| s.cuts());
        let Some(text) = spec.and_then(|s| s.mark(&m.display, pressed)) else { continue };
        let count = counts.get(line.id.as_str()).copied().unwrap_or(1);
        let times = if count > 1 { format!("{count}× ") } else { String::new() };
        // Above a hole; in the middle of a cut that opens at the edge.
        let (shape, blank) = (first.footprint().bounds(), m.blank.outer.bounds());
        let inside = shape.min.cmpgt(blank.min).all() && shape.max.cmplt(blank.max).all();
        let at = if inside { [first.centre.x, shape.max.y] } else { first.centre.to_array() };
        out.push(HoleMark {
            name: first.name.clone(),
            line: line.id.clone(),
            at,
            text: format!("{times}{text}"),
            what: text,
        });
    }
    out
}

pub fn pressed_marks(m: &PieceContext) -> Vec<PressedMark> {
    let mark = |f: &Feature| {
        let pressed = f.pressed.clone()?;
        Some(PressedMark {
            name: f.name.clone(),
            line: m.line_name(f).unwrap_or_default().into(),
            at: f.centre.to_array(),
            footprint: f.contour.clone(),
            text: pressed.mark(&m.display),
            pressed,
            turn: f.turn,
        })
    };
    standing(m).filter_map(mark).collect()
}

/// What meets the sheet.
fn standing<'a>(m: &'a PieceContext) -> impl Iterator<Item = &'a Feature> {
    let off: std::collections::HashSet<u32> = m.outcome.missed.iter().copied().collect();
    m.features.iter().zip(0u32..).filter(move |f| !off.contains(&f.1)).map(|f| f.0)
}

pub fn bore_marks(m: &PieceContext) -> Vec<BoreMark> {
    let mark = |f: &Feature| {
        let bore = f.bore.as_deref()?;
        Some(BoreMark {
            name: f.name.clone(),
            line: m.line_name(f).unwrap_or_default().into(),
            at: f.centre.to_array(),
            plan: f.contour.clone(),
            text: bore.said(&m.display),
            bore: bore.clone(),
        })
    };
    standing(m).filter_map(mark).collect()
}
