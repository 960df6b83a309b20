//! What is written on the flat pattern: bend lines, dimensions as the recipe told them, and what the holes
//! are.

use ground::geom::COINCIDENT;
use std::collections::HashMap;

use glam::DVec2;

use crate::choices::{From, To};
use crate::context::PieceContext;
use crate::flat::feature::Feature;
use crate::flat::kept::{KeptSize, Spot};
use crate::flat::place::PlaceSpec;
use crate::result::{BendMark, BoreMark, Dimension, HoleMark, Margin, PressedMark, SlantingSize};
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
        said: match (if b.up { "up" } else { "down" }, m.display.angle(b.angle)) {
            (way, angle) if b.is_crease() => format!("{way} {angle}"),
            (way, angle) => format!("{way} {angle} R{}", m.display.fine(b.radius)),
        },
        angle_text: m.display.angle(b.angle),
        up: b.up,
        radius: b.radius,
        radius_text: if b.is_crease() { String::new() } else { m.display.fine(b.radius) },
        rolled: b.rolled,
        creased: b.is_crease(),
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
    line: String,
}

impl Wanted {
    fn new(from: [f64; 2], to: [f64; 2], side: Margin) -> Wanted {
        Wanted { from, to, side, line: String::new() }
    }

    fn is_upright(&self) -> bool {
        matches!(self.side, Margin::West | Margin::East)
    }

    fn span(&self) -> (f64, f64) {
        let k = usize::from(self.is_upright());
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
            wanted.extend(stops.windows(2).map(|w| Wanted::new(at(w[0]), at(w[1]), side)));
        }
    }
    let punched = m.features.iter().filter_map(|f| Some((f, m.line_of(f)?.spec.as_ref()?.cuts()?.place()?)));
    // On a folded piece the edges that places are told from lie far inside the flat's margins.
    let plain = m.blank.strip.is_some() || m.blank.zones.len() == 1;
    for (f, p) in punched.take(if plain { MOST_PLACED } else { 0 }) {
        wanted.extend(placed(f, p, b.centre().x));
    }
    let mut overall = [
        Wanted::new(b.min.to_array(), [b.max.x, b.min.y], Margin::South),
        Wanted::new(b.min.to_array(), [b.min.x, b.max.y], Margin::West),
    ];
    // What a hand keeps and the flat tells anyway stands once, and is the hand's.
    for kept in m.kept.iter().filter_map(|s| kept(s, b.centre())) {
        let same = |w: &&mut Wanted| {
            let near = |(a, c): (f64, f64), (d, e): (f64, f64)| {
                (a - d).abs() < COINCIDENT && (c - e).abs() < COINCIDENT
            };
            w.is_upright() == kept.is_upright() && near(w.span(), kept.span())
        };
        match overall.iter_mut().chain(&mut wanted).find(same) {
            Some(w) => w.line = kept.line,
            None => wanted.push(kept),
        }
    }
    let mut rows: Vec<(Margin, Rows)> = Vec::new();
    let mut out: Vec<Dimension> = Vec::new();
    for (k, w) in wanted.iter().chain(&overall).enumerate() {
        let (low, high) = w.span();
        let text = m.display.length(high - low);
        let twin = out.iter().any(|d| {
            d.side == w.side && d.text == text && Wanted::new(d.from, d.to, d.side).span() == (low, high)
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
        out.push(Dimension {
            from: w.from,
            to: w.to,
            side: w.side,
            level: level as u32,
            text,
            line: w.line.clone(),
        });
    }
    out
}

/// A kept size that runs along an axis, told beside the flat on the side that is nearer.
fn kept(s: &KeptSize, middle: DVec2) -> Option<Wanted> {
    let k = s.along?;
    let near = (s.from.at[1 - k] + s.to.at[1 - k]) / 2.0 < middle[1 - k];
    let side = match (k, near) {
        (0, true) => Margin::South,
        (0, false) => Margin::North,
        (_, true) => Margin::West,
        (_, false) => Margin::East,
    };
    // Of an edge the end that lies nearest to where it is told.
    let end = |spot: &Spot| {
        let [p, q] = spot.ends;
        let mut end = if (p[1 - k] < q[1 - k]) == near { p } else { q };
        end[k] = spot.at[k];
        end.to_array()
    };
    let (from, to) = (end(&s.from), end(&s.to));
    let (from, to) = if from[k] <= to[k] { (from, to) } else { (to, from) };
    Some(Wanted { from, to, side, line: s.line.clone() })
}

/// Kept sizes that slant.
pub fn slanting_sizes(m: &PieceContext) -> Vec<SlantingSize> {
    let slanting = m.kept.iter().filter(|s| s.along.is_none());
    let told = |s: &KeptSize| SlantingSize {
        line: s.line.clone(),
        from: s.from.at.to_array(),
        to: s.to.at.to_array(),
        text: m.display.length(s.length),
    };
    slanting.map(told).collect()
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
        out.push(Wanted::new([from.min(x), y], [from.max(x), y], Margin::South));
    }
    if let Some(from) = y_from {
        let side = if x < middle { Margin::West } else { Margin::East };
        out.push(Wanted::new([x, from.min(y)], [x, from.max(y)], side));
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
