//! Every hole of a piece by its kind, each with its place from one datum: what a hand at the drill reads.

use std::collections::HashMap;

use glam::DVec2;
use ground::quantity::Printed;
use ground::reference::{self, Reference};

use crate::result::{BoreMark, PieceResult};

/// Holes of one kind.
#[derive(Clone, Debug, PartialEq)]
pub struct HoleKind {
    /// `A`, `B` …
    pub tag: String,
    /// What the trade calls it: `tapped hole`, `slot`.
    pub name: String,
    /// As short as a drawing says it: `M8 × 14`.
    pub size: String,
    /// The whole of it: `tapped hole M8 × 14, drill ⌀6.8 × 17.75, 118° point`.
    pub said: String,
    /// Of the thread or the hole; `through` where it goes through.
    pub depth: String,
    pub back: bool,
    pub count: usize,
}

#[derive(Clone, Debug, PartialEq)]
pub struct HoleRow {
    /// `A1`.
    pub tag: String,
    /// Which of the kinds.
    pub kind: usize,
    /// Its name in the recipe.
    pub name: String,
    /// On the flat.
    pub at: DVec2,
    /// Half of its greater side.
    pub reach: f64,
    pub x: Printed,
    pub y: Printed,
}

#[derive(Clone, Debug, Default, PartialEq)]
pub struct HoleTable {
    /// Where places are counted from, on the flat: its south-west corner.
    pub datum: DVec2,
    pub kinds: Vec<HoleKind>,
    pub rows: Vec<HoleRow>,
}

/// The holes of a flat: drilled ones, and those that are cut. Where cuts run together, the opening is one.
pub fn hole_table(p: &PieceResult) -> HoleTable {
    let bores: HashMap<&str, &BoreMark> = p.flat.bores.iter().map(|b| (b.name.as_str(), b)).collect();
    let marks: HashMap<&str, &str> =
        p.flat.marks.iter().map(|m| (m.line.as_str(), m.what.as_str())).collect();
    let mut out = HoleTable { datum: p.flat.outer.bounds().min, ..HoleTable::default() };
    let d = &p.display;
    // In the order of the recipe, whichever way a hole is made.
    let order: HashMap<&str, usize> =
        p.features.iter().enumerate().map(|(k, f)| (f.name.as_str(), k)).collect();
    let mut found: Vec<(usize, String, DVec2, f64, HoleKind)> = Vec::new();
    let mut add = |name: &str, at: DVec2, reach: f64, kind: HoleKind| {
        ground::halt::often();
        let place = order.get(name).copied().unwrap_or(usize::MAX);
        found.push((place, name.to_string(), at, reach, kind));
    };
    let plain = |said: String| HoleKind {
        tag: String::new(),
        name: "cut".into(),
        size: said.clone(),
        said,
        depth: "through".into(),
        back: false,
        count: 0,
    };
    let drilled = |b: &BoreMark| HoleKind {
        tag: String::new(),
        name: b.bore.name().into(),
        size: b.bore.size(d),
        said: b.bore.told(d),
        depth: b.bore.told_depth().map_or("through".into(), |v| d.exact(v)),
        back: b.bore.back,
        count: 0,
    };
    for h in &p.flat.holes {
        let name = p.hole_name(h);
        let reach = h.contour.bounds().size().max_element();
        match (h.sources.len(), bores.get(name)) {
            (1, Some(b)) => add(name, b.at.into(), b.bore.widest().max(reach) / 2.0, drilled(b)),
            (1, None) => {
                let of = Reference::parse(name);
                let line = if of.part.is_empty() { of.line } else { reference::last(of.part) };
                let said = match (marks.get(line), h.contour.as_circle()) {
                    (Some(mark), _) => (*mark).to_string(),
                    (None, Some((_, r))) => format!("⌀{}", d.brief(2.0 * r)),
                    (None, None) => "cut-out".into(),
                };
                let at = h.contour.as_circle().map_or_else(|| h.contour.bounds().centre(), |c| c.0);
                add(name, at, reach / 2.0, plain(said));
            }
            _ => add(name, h.contour.bounds().centre(), reach / 2.0, plain("opening".into())),
        }
    }
    for b in p.flat.bores.iter().filter(|b| !b.bore.through()) {
        add(&b.name, b.at.into(), b.bore.widest() / 2.0, drilled(b));
    }
    found.sort_by_key(|f| f.0);
    for (_, name, at, reach, kind) in found {
        let same = |k: &HoleKind| k.said == kind.said && k.back == kind.back;
        let k = out.kinds.iter().position(same).unwrap_or(out.kinds.len());
        if k == out.kinds.len() {
            out.kinds.push(HoleKind { tag: letters(k), ..kind });
        }
        out.kinds[k].count += 1;
        let tag = format!("{}{}", out.kinds[k].tag, out.kinds[k].count);
        let from = at - out.datum;
        let [x, y] = [from.x, from.y].map(|v| d.place_number(v));
        out.rows.push(HoleRow { tag, kind: k, name, at, reach, x, y });
    }
    out
}

/// A, B … Z, AA …
pub fn letters(k: usize) -> String {
    let last = char::from(b'A' + (k % 26) as u8);
    if k < 26 { last.into() } else { format!("{}{last}", letters(k / 26 - 1)) }
}
