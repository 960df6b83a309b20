//! The corners of an outline: what they are called, and which of them have room for a radius, a chamfer or a
//! full round end.

use ground::geom::COINCIDENT;
use std::collections::HashMap;
use std::f64::consts::FRAC_PI_2;

use ground::geom::Contour;
use ground::reference::{self, Reference};

use super::blank::Blank;
use crate::choices::Treatment;

/// An outer corner that turns by more than this is sharp to a hand: 50°.
pub const SHARP: f64 = 50.0 * std::f64::consts::PI / 180.0;

/// A straight corner of an outline.
pub struct Named {
    pub vertex: usize,
    pub name: String,
    /// How far the outline turns there, rad.
    pub turn: f64,
}

impl Named {
    /// Called so, with its two sides in either order: `punch-1/east` is `east/punch-1`.
    pub fn is_called(&self, name: &str) -> bool {
        let other = reference::sides(name).map(|(a, b)| match Reference::parse(b) {
            Reference { copy: Some(n), .. } => {
                let b = b.strip_suffix(&reference::copy("", n)).unwrap_or(b);
                reference::copy(&reference::corner(b, a), n)
            }
            _ => reference::corner(b, a),
        });
        self.name == name || Some(&self.name) == other.as_ref()
    }
}

/// The straight corners of an outline with their names: `north-east` between two sides of the blank,
/// `punch-1/south` where a cut meets a side; a second of the same name gets `#2`.
pub fn names(outer: &Contour, blank: &Blank, tags: &[String]) -> Vec<Named> {
    let n = outer.vertices.len();
    let short =
        |tag: u32| tags.get(tag as usize).map_or("", |s| reference::within(s, &blank.line).unwrap_or(s));
    let mut out: Vec<Named> = Vec::new();
    let mut seen: HashMap<String, usize> = HashMap::new();
    for i in 0..n {
        let Some(corner) = outer.corner(i) else { continue };
        let (a, b) = (short(outer.vertices[(i + n - 1) % n].tag), short(outer.vertices[i].tag));
        let name = corner_name(a, b);
        let twins = seen.entry(name.clone()).or_insert(0);
        *twins += 1;
        let name = if *twins == 1 { name } else { reference::copy(&name, twins) };
        out.push(Named { vertex: i, name, turn: corner.turn });
    }
    out
}

/// What the corner of two sides is called.
pub fn corner_name(a: &str, b: &str) -> String {
    let compass = |s: &str| matches!(s, "north" | "south");
    match (compass(a), compass(b)) {
        (true, false) if matches!(b, "east" | "west") => format!("{a}-{b}"),
        (false, true) if matches!(a, "east" | "west") => format!("{b}-{a}"),
        _ => reference::corner(a.min(b), a.max(b)),
    }
}

/// The two corners of an edge that becomes a half circle; none where it is not straight between two square
/// ones.
pub fn full_end(
    outer: &Contour,
    corners: &[Named],
    blank: &Blank,
    tags: &[String],
    edge: &str,
) -> Option<[(usize, f64); 2]> {
    let full = reference::part(&blank.line, edge);
    let n = outer.vertices.len();
    let is_side =
        |&i: &usize| tags.get(outer.vertices[i].tag as usize) == Some(&full) && outer.segment(i).is_line();
    let square = |i: usize| corners.iter().any(|c| c.vertex == i && (c.turn - FRAC_PI_2).abs() < COINCIDENT);
    let i = (0..n).find(is_side).filter(|&i| square(i) && square((i + 1) % n))?;
    let r = outer.segment(i).length() / 2.0;
    Some([(i, r), ((i + 1) % n, r)])
}

/// How much of a side a worked corner takes.
fn takes(outer: &Contour, treatment: Treatment, vertex: usize, size: f64) -> Option<f64> {
    let corner = outer.corner(vertex)?;
    Some(if treatment == Treatment::Chamfer { size } else { size * (corner.turn.abs() / 2.0).tan() })
}

/// Of all corners, those are rounded that have room: a relief beside a bend leaves corners that have none.
pub fn with_room(outer: &Contour, treatment: Treatment, picks: &mut Vec<(usize, f64)>) {
    picks.retain(|&(i, size)| {
        let room = outer.corner(i).map(|c| c.before.min(c.after));
        room.zip(takes(outer, treatment, i, size)).is_some_and(|(room, need)| room + COINCIDENT >= need)
    });
}

/// A side that is too short for its two corners.
pub struct Short {
    /// Of one of its corners.
    pub name: String,
    pub need: f64,
    pub have: f64,
    /// Vertex that the side begins at.
    pub side: usize,
}

/// Every side must be long enough for what its two corners take; the first that is not.
pub fn fits(
    outer: &Contour,
    treatment: Treatment,
    picks: &[(usize, f64)],
    corners: &[Named],
) -> Option<Short> {
    let n = outer.vertices.len();
    let sizes: HashMap<usize, f64> = picks.iter().copied().collect();
    let taken = |i: usize| takes(outer, treatment, i, *sizes.get(&i)?);
    (0..n).find_map(|i| {
        let (a, b) = (taken(i), taken((i + 1) % n));
        let need = a.unwrap_or(0.0) + b.unwrap_or(0.0);
        let have = outer.segment(i).length();
        let at = if a.is_some() { i } else { (i + 1) % n };
        let name = || corners.iter().find(|c| c.vertex == at).map_or(String::new(), |c| c.name.clone());
        (need > have + COINCIDENT).then(|| Short { name: name(), need, have, side: i })
    })
}
