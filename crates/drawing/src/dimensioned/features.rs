//! What is made in a flat beside its outline and its bends: holes, drilled holes, pressed shapes, by kinds.

use std::collections::HashMap;

use glam::DVec2;
use ground::geom::Contour;
use ground::quantity::Display;
use ground::reference::{self, Reference};
use sheet::result::{BoreMark, PieceResult};

use super::shape;

/// Things that are made alike.
#[derive(Clone, Debug)]
pub struct Kind {
    /// `A`, `B` …
    pub tag: String,
    /// As a drawing says it.
    pub said: String,
    pub back: bool,
    /// What no few numbers say: its outline about its place.
    pub outline: Option<Contour>,
    /// Where each stands on the flat, and how far it reaches.
    pub at: Vec<DVec2>,
    pub reach: f64,
}

/// Outlines alike to this, mm, are one kind.
const ALIKE: f64 = 1e-4;

/// In the order of the recipe.
pub fn kinds(p: &PieceResult) -> Vec<Kind> {
    let d = &p.display;
    let order: HashMap<&str, usize> =
        p.features.iter().enumerate().map(|(k, f)| (f.name.as_str(), k)).collect();
    let marks: HashMap<&str, &str> =
        p.flat.marks.iter().map(|m| (m.line.as_str(), m.what.as_str())).collect();
    let bores: HashMap<&str, &BoreMark> = p.flat.bores.iter().map(|b| (b.name.as_str(), b)).collect();
    let mut found: Vec<(usize, Kind)> = Vec::new();
    let mut add = |name: &str, kind: Kind| {
        found.push((order.get(name).copied().unwrap_or(usize::MAX), kind));
    };
    let drilled = |b: &BoreMark| Kind {
        tag: String::new(),
        said: b.bore.told(d),
        back: b.bore.back,
        outline: None,
        at: vec![b.at.into()],
        reach: b.bore.widest() / 2.0,
    };
    for h in &p.flat.holes {
        let name = p.hole_name(h);
        match (h.sources.len(), bores.get(name)) {
            (1, Some(b)) => add(name, drilled(b)),
            (n, _) => {
                let of = Reference::parse(name);
                let line = if of.part.is_empty() { of.line } else { reference::last(of.part) };
                let mark = if n == 1 { marks.get(line).copied() } else { None };
                add(name, told(&h.contour, mark.unwrap_or("opening"), true, d));
            }
        }
    }
    for b in p.flat.bores.iter().filter(|b| !b.bore.through()) {
        add(&b.name, drilled(b));
    }
    for m in &p.flat.pressed {
        add(&m.name, told(&m.footprint, &m.text, false, d));
    }
    found.sort_by_key(|f| f.0);
    let mut out: Vec<Kind> = Vec::new();
    let mut by_words: HashMap<(String, bool), Vec<usize>> = HashMap::new();
    for (_, kind) in found {
        ground::halt::often();
        let same = by_words.entry((kind.said.clone(), kind.back)).or_default();
        let like = same.iter().find(|k| alike(out[**k].outline.as_ref(), kind.outline.as_ref()));
        match like {
            Some(k) => out[*k].at.extend(&kind.at),
            None => {
                same.push(out.len());
                out.push(Kind { tag: sheet::letters(out.len()), ..kind });
            }
        }
    }
    out
}

/// By its shape; a cut that no few numbers make by what its line calls it.
fn told(c: &Contour, words: &str, is_cut: bool, d: &Display) -> Kind {
    let at = shape::middle(c);
    let (said, outline) = match shape::said(c, d) {
        Some(shape) if is_cut => (shape, None),
        Some(shape) => (format!("{words}: {shape}"), None),
        None => (format!("{words}: by points"), Some(c.moved(0.0, -at))),
    };
    let reach = c.bounds().size().max_element() / 2.0;
    Kind { tag: String::new(), said, back: false, outline, at: vec![at], reach }
}

fn alike(a: Option<&Contour>, b: Option<&Contour>) -> bool {
    match (a, b) {
        (None, None) => true,
        (Some(a), Some(b)) => {
            let near = |(p, q): (&ground::geom::Vertex, &ground::geom::Vertex)| {
                p.p.distance(q.p) < ALIKE && (p.bulge - q.bulge).abs() < ALIKE
            };
            a.vertices.len() == b.vertices.len() && a.vertices.iter().zip(&b.vertices).all(near)
        }
        _ => false,
    }
}
