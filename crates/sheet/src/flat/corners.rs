//! `round`: radius, chamfer and full round ends on the corners of the outline; and the names that corners go
//! by.

use std::collections::HashMap;

use super::blank::Blank;
use crate::verbs::{Round, Treatment};
use ground::geom::{Contour, chamfer, fillet};
use ground::reader::{Range, Reader};

/// An outer corner that turns by more than this is sharp to a hand: 50°.
pub const SHARP: f64 = 50.0 * std::f64::consts::PI / 180.0;

/// The straight corners of an outline with their names: `north-east` between two sides of the blank,
/// `punch-1/south` where a cut meets a side; a second of the same name gets `#2`.
pub fn names(outer: &Contour, blank: &Blank, tags: &[String]) -> Vec<(usize, String, f64)> {
    let n = outer.vertices.len();
    let stem = format!("{}.", blank.line);
    let short = |tag: u32| tags.get(tag as usize).map_or("", |s| s.strip_prefix(&stem).unwrap_or(s));
    let mut out: Vec<(usize, String, f64)> = Vec::new();
    let mut seen: HashMap<String, usize> = HashMap::new();
    for i in 0..n {
        let Some(corner) = outer.corner(i) else { continue };
        let (a, b) = (short(outer.vertices[(i + n - 1) % n].tag), short(outer.vertices[i].tag));
        let compass = |s: &str| matches!(s, "north" | "south");
        let name = match (compass(a), compass(b)) {
            (true, false) if matches!(b, "east" | "west") => format!("{a}-{b}"),
            (false, true) if matches!(a, "east" | "west") => format!("{b}-{a}"),
            _ => format!("{}/{}", a.min(b), a.max(b)),
        };
        let twins = seen.entry(name.clone()).or_insert(0);
        *twins += 1;
        let name = if *twins == 1 { name } else { format!("{name}#{twins}") };
        out.push((i, name, corner.turn));
    }
    out
}

pub fn round(
    reader: &mut Reader,
    say: &Round,
    outer: &Contour,
    blank: &Blank,
    tags: &[String],
) -> Option<Contour> {
    let corners = names(outer, blank, tags);
    let size = match say.treatment {
        Treatment::FullEnd => 0.0,
        _ => reader.length("/say/size", &say.size, Range::AboveZero)?,
    };
    let mut picks: Vec<(usize, f64)> = Vec::new();
    if say.treatment == Treatment::FullEnd {
        full_ends(reader, say, outer, blank, &corners, tags, &mut picks)?;
    } else if say.corners.is_empty() {
        picks.extend(corners.iter().filter(|c| c.2 > SHARP).map(|c| (c.0, size)));
        with_room(outer, say.treatment, &mut picks);
    } else {
        for (k, name) in say.corners.iter().enumerate() {
            // The two sides of a corner in either order: `punch-1/east` is `east/punch-1`.
            let other = name.split_once('/').map(|(a, b)| match b.split_once('#') {
                Some((b, n)) => format!("{b}/{a}#{n}"),
                None => format!("{b}/{a}"),
            });
            match corners.iter().find(|c| c.1 == *name || Some(&c.1) == other.as_ref()) {
                Some(c) => picks.push((c.0, size)),
                None => {
                    let known: Vec<&str> = corners.iter().map(|c| c.1.as_str()).take(12).collect();
                    let message = format!("the outline has no straight corner called '{name}' here");
                    reader.refuse(
                        &format!("/say/corners/{k}"),
                        name,
                        message,
                        format!("pick from {}", known.join(", ")),
                    );
                    return None;
                }
            }
        }
    }
    if picks.is_empty() {
        reader.refuse(
            "/say/corners",
            "",
            "there is no sharp corner left with room for this size",
            "write a smaller size, or take the line out",
        );
        return None;
    }
    fits(reader, say, outer, &picks, &corners)?;
    Some(match say.treatment {
        Treatment::Chamfer => chamfer(outer, &picks),
        _ => fillet(outer, &picks),
    })
}

fn full_ends(
    reader: &mut Reader,
    say: &Round,
    outer: &Contour,
    blank: &Blank,
    corners: &[(usize, String, f64)],
    tags: &[String],
    picks: &mut Vec<(usize, f64)>,
) -> Option<()> {
    if say.corners.is_empty() {
        reader.refuse(
            "/say/corners",
            "",
            "no end is picked",
            "name the edge that becomes a half circle, for example west",
        );
        return None;
    }
    for (k, edge) in say.corners.iter().enumerate() {
        let full = format!("{}.{edge}", blank.line);
        let n = outer.vertices.len();
        let side = (0..n)
            .find(|&i| tags.get(outer.vertices[i].tag as usize) == Some(&full) && outer.segment(i).is_line());
        let square =
            |i: usize| corners.iter().any(|c| c.0 == i && (c.2 - std::f64::consts::FRAC_PI_2).abs() < 1e-6);
        match side {
            Some(i) if square(i) && square((i + 1) % n) => {
                let r = outer.segment(i).length() / 2.0;
                picks.extend([(i, r), ((i + 1) % n, r)]);
            }
            _ => {
                reader.refuse(
                    &format!("/say/corners/{k}"),
                    edge,
                    format!("'{edge}' is not a straight edge between two square corners"),
                    "pick west, east, south or north, before its corners are cut",
                );
                return None;
            }
        }
    }
    Some(())
}

/// Of all corners, those are rounded that have room: a relief beside a bend leaves corners that have none.
fn with_room(outer: &Contour, treatment: Treatment, picks: &mut Vec<(usize, f64)>) {
    picks.retain(|&(i, size)| {
        outer.corner(i).is_some_and(|c| {
            let need = if treatment == Treatment::Chamfer { size } else { size * (c.turn.abs() / 2.0).tan() };
            c.before.min(c.after) + 1e-6 >= need
        })
    });
}

/// Every side must be long enough for what its two corners take.
fn fits(
    reader: &mut Reader,
    say: &Round,
    outer: &Contour,
    picks: &[(usize, f64)],
    corners: &[(usize, String, f64)],
) -> Option<()> {
    let n = outer.vertices.len();
    let sizes: HashMap<usize, f64> = picks.iter().copied().collect();
    let takes = |i: usize| {
        let size = *sizes.get(&i)?;
        let corner = outer.corner(i)?;
        Some(if say.treatment == Treatment::Chamfer { size } else { size * (corner.turn.abs() / 2.0).tan() })
    };
    for i in 0..n {
        let (a, b) = (takes(i), takes((i + 1) % n));
        let need = a.unwrap_or(0.0) + b.unwrap_or(0.0);
        let have = outer.segment(i).length();
        if need > have + 1e-6 {
            let at = if a.is_some() { i } else { (i + 1) % n };
            let name = corners.iter().find(|c| c.0 == at).map_or("", |c| c.1.as_str()).to_string();
            let (need, have) = (reader.display.length_unit(need), reader.display.length_unit(have));
            reader.refuse(
                "/say/size",
                &say.size,
                format!("corner {name} needs {need} of a side that has {have}"),
                "write a smaller size, or pick fewer corners",
            );
            return None;
        }
    }
    Some(())
}
