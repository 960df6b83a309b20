//! A DXF → the contours that are to be cut, and in words what was mended, and what was left out.

use std::collections::{BTreeMap, HashMap};
use std::rc::Rc;

use glam::DVec2;
use steelk_core::geom::{Bounds, Contour};
use steelk_core::halt;
use steelk_core::quantity::{LengthUnit, counted, trim_number};

use super::chain::{CLOSES, Chained, Open, chain};
use super::document::document;
use super::flatten::flatten;
use super::{DxfError, MOST_BYTES};

/// What a DXF holds, in millimetres.
#[derive(Clone, Debug, Default)]
pub struct Content {
    /// The unit that its head names.
    pub unit: Option<&'static str>,
    /// Closed contours, counter-clockwise: the outline of the part, then its cuts, the largest first.
    pub contours: Vec<Contour>,
    /// Lines on the bend layers: ends, and whether up.
    pub bends: Vec<(DVec2, DVec2, bool)>,
    /// Layers that contours were taken from, and how many.
    pub layers: BTreeMap<String, usize>,
    /// One sentence each.
    pub mended: Vec<String>,
    pub left_out: Vec<String>,
}

/// Name, millimetres and sign of the units that a head can name by number; the others say nothing.
const UNITS: [(i64, &str, f64, &str); 15] = [
    (1, "inches", 25.4, "in"),
    (2, "feet", 304.8, "ft"),
    (4, "millimetres", 1.0, "mm"),
    (5, "centimetres", 10.0, "cm"),
    (6, "metres", 1000.0, "m"),
    (7, "kilometres", 1e6, "km"),
    (8, "microinches", 25.4e-6, "µin"),
    (9, "thousandths of an inch", 0.0254, "mil"),
    (10, "yards", 914.4, "yd"),
    (11, "ångströms", 1e-7, "Å"),
    (12, "nanometres", 1e-6, "nm"),
    (13, "micrometres", 1e-3, "µm"),
    (14, "decimetres", 100.0, "dm"),
    (15, "decametres", 1e4, "dam"),
    (21, "US survey feet", 1_200_000.0 / 3937.0, "ft"),
];

impl Content {
    /// The unit to work on in: inches for a file in inches, feet or yards.
    pub fn working_unit(&self, assumed: Option<LengthUnit>) -> LengthUnit {
        let inch =
            UNITS.iter().filter(|u| Some(u.1) == self.unit).any(|u| matches!(u.0, 1 | 2 | 8 | 9 | 10 | 21));
        if inch || self.unit.is_none() && assumed == Some(LengthUnit::In) {
            LengthUnit::In
        } else {
            LengthUnit::Mm
        }
    }
}

/// Places and lengths in the file's own unit.
struct Own {
    mm: f64,
    sign: &'static str,
}

impl Own {
    fn length(&self, v: f64) -> String {
        format!("{} {}", trim_number(v / self.mm, 4), self.sign)
    }

    fn place(&self, p: DVec2) -> String {
        format!("{}, {}", trim_number(p.x / self.mm, 3), trim_number(p.y / self.mm, 3))
    }

    fn size(&self, of: DVec2) -> String {
        format!("{} × {} {}", trim_number(of.x / self.mm, 3), trim_number(of.y / self.mm, 3), self.sign)
    }
}

/// Reads contours from every layer but bend and mark layers. `assume` is the unit of a file whose head names
/// none; without it such a file asks.
pub fn read(bytes: &[u8], assume: Option<LengthUnit>) -> Result<Content, DxfError> {
    if bytes.len() > MOST_BYTES {
        return Err(DxfError::TooLarge);
    }
    let d = document(bytes)?;
    let named = UNITS.iter().find(|u| u.0 == d.units);
    let own = match (named, assume) {
        (Some(&(_, _, mm, sign)), _) => Own { mm, sign },
        (None, Some(unit)) => Own { mm: unit.mm(), sign: unit.sign() },
        (None, None) => Own { mm: 1.0, sign: "units" },
    };
    let flat = flatten(&d, own.mm)?;
    drop(d);
    let mut out = Content { unit: named.map(|u| u.1), bends: flat.bends, ..Content::default() };
    let mut chained = chain(flat.runs);
    let [twice, empty] = once(&mut chained.closed);
    let largest = (0..chained.closed.len())
        .max_by(|i, j| chained.closed[*i].0.area().total_cmp(&chained.closed[*j].0.area()));
    if let Some(open) = outline_open(&chained, largest) {
        return Err(DxfError::Open {
            place: own.place(open.to),
            layer: open.layer.to_string(),
            gap: own.length(open.gap),
            closes: own.length(CLOSES),
        });
    }
    let outer = chained.closed.remove(largest.ok_or(DxfError::Empty)?);
    if named.is_none() && assume.is_none() {
        let size = outer.0.bounds().size();
        return Err(DxfError::Unit { wide: trim_number(size.x, 3), high: trim_number(size.y, 3) });
    }
    out.left_out = flat.left_out.told();
    if !out.bends.is_empty() {
        out.left_out.push(format!("{}: fold the piece in its recipe", counted(out.bends.len(), "bend line")));
    }
    if empty > 0 {
        out.left_out.push(format!("{} that encloses nothing", counted(empty, "contour")));
    }
    mended(&chained, flat.repeated, twice, &own, &mut out);
    for o in &chained.open {
        out.left_out.push(format!(
            "{} on layer {} from {} to {}, open by {}: it cuts nothing",
            if o.parts == 1 { "a line".into() } else { format!("a run of {} lines", o.parts) },
            o.layer,
            own.place(o.from),
            own.place(o.to),
            own.length(o.gap)
        ));
    }
    sort_in(outer, chained.closed, &own, &mut out);
    let more = out.left_out.len().saturating_sub(MOST_TOLD);
    if more > 0 {
        out.left_out.truncate(MOST_TOLD);
        out.left_out.push(format!("{more} more of such"));
    }
    Ok(out)
}

/// Sentences on what is left out.
const MOST_TOLD: usize = 40;

/// An open stretch that is larger than all that closes: the outline itself.
fn outline_open(c: &Chained, largest: Option<usize>) -> Option<&Open> {
    let size = |b: DVec2| b.x * b.y;
    let closed = largest.map_or(0.0, |k| size(c.closed[k].0.bounds().size()));
    let widest = c.open.iter().max_by(|a, b| size(a.bounds.size()).total_cmp(&size(b.bounds.size())))?;
    (largest.is_none() || size(widest.bounds.size()) > closed).then_some(widest)
}

fn mended(c: &Chained, repeated: usize, twice: usize, own: &Own, out: &mut Content) {
    let mut say = |n: usize, what: &str, how: &str| {
        if n > 0 {
            out.mended.push(format!("{} {how}", counted(n, what)));
        }
    };
    say(c.doubled, "stroke", "drawn over another: counted once");
    say(twice, "contour", "drawn twice: counted once");
    say(repeated, "step", "without length taken away");
    say(c.gaps_closed, "gap", &format!("closed, the widest {}", own.length(c.widest_gap)));
}

/// Contours that say the same, once each. Returns how many were too many, and how many hold nothing.
fn once(closed: &mut Vec<(Contour, Rc<str>)>) -> [usize; 2] {
    let before = closed.len();
    closed.retain(|(c, _)| c.is_finite() && c.vertices.len() >= 2 && c.area() > 1e-9);
    let empty = before - closed.len();
    closed.iter_mut().for_each(|(c, _)| *c = std::mem::take(c).outward());
    closed.sort_by(|a, b| b.0.area().total_cmp(&a.0.area()));
    // Where a contour is the same its middle is.
    let mut known: HashMap<[i64; 2], Vec<[f64; 5]>> = HashMap::new();
    let cell = |v: f64| (v / (2.0 * ALIKE)).floor() as i64;
    let found = closed.len();
    closed.retain(|(c, _)| {
        halt::often();
        let (m, low) = (c.centroid(), c.bounds().min);
        let like = [m.x, m.y, c.perimeter(), low.x, low.y];
        let near = (-1..=1)
            .flat_map(|i| (-1..=1).map(move |j| [cell(m.x) + i, cell(m.y) + j]))
            .filter_map(|k| known.get(&k))
            .flatten();
        let same = { near }.any(|k| k.iter().zip(&like).all(|(a, b)| (a - b).abs() < ALIKE));
        if !same {
            known.entry([cell(m.x), cell(m.y)]).or_default().push(like);
        }
        !same
    });
    [found - closed.len(), empty]
}

/// Contours whose middles, lengths and corners differ by less are the same, mm.
const ALIKE: f64 = 0.01;

/// What lies in the outline is a cut; what lies beside it, or in a cut, is another part.
fn sort_in(outer: (Contour, Rc<str>), rest: Vec<(Contour, Rc<str>)>, own: &Own, out: &mut Content) {
    *out.layers.entry(outer.1.to_string()).or_default() += 1;
    let edge = outer.0.bounds();
    let outer = outer.0;
    let mut cuts: Vec<(Contour, Bounds)> = Vec::new();
    for (c, layer) in rest {
        halt::often();
        let b = c.bounds();
        let apart = b.min.cmpgt(edge.max).any() || b.max.cmplt(edge.min).any();
        let touches = !apart && c.segments().any(|s| outer.contains(s.a) || outer.contains(s.at(0.5)));
        let at = || format!("{} on layer {layer} at {}", own.size(b.size()), own.place(b.centre()));
        let in_cut = |(cut, y): &(Contour, Bounds)| {
            b.min.cmpge(y.min).all() && b.max.cmple(y.max).all() && cut.contains(c.vertices[0].p)
        };
        if !touches {
            out.left_out
                .push(format!("a second outline, {}: bring each part in from a file of its own", at()));
        } else if cuts.iter().any(in_cut) {
            out.left_out.push(format!("a contour in a cut, {}: it lies in what falls out", at()));
        } else {
            *out.layers.entry(layer.to_string()).or_default() += 1;
            cuts.push((c, b));
        }
    }
    out.contours = std::iter::once(outer).chain(cuts.into_iter().map(|c| c.0)).collect();
}
