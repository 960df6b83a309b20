//! Holes and notches of a member as a list tells them: face, walls, size, and where from the start's long
//! point.

use glam::DVec2;
use ground::geom::COINCIDENT;

use super::model::{Hole, Member};
use super::profile::Profile;
use ground::quantity::Display;

/// The side of a bar that looks this way in its section.
pub fn face(out: DVec2) -> &'static str {
    if out.x.abs() > out.y.abs() {
        if out.x > 0.0 { "left" } else { "right" }
    } else if out.y > 0.0 {
        "top"
    } else {
        "bottom"
    }
}

/// Off the middle of its face, mm.
fn off(h: &Hole) -> f64 {
    h.at.dot(h.out.perp())
}

fn one_kind(a: &Hole, b: &Hole) -> bool {
    let near = |x: f64, y: f64| (x - y).abs() < COINCIDENT;
    a.out.distance(b.out) < COINCIDENT
        && near(off(a), off(b))
        && near(a.diameter, b.diameter)
        && near(a.length, b.length)
        && a.through == b.through
        && a.bore == b.bore
}

/// Which ways the holes look out of the section, each once.
pub fn ways(m: &Member) -> Vec<DVec2> {
    let mut out: Vec<DVec2> = Vec::new();
    for h in &m.holes {
        for way in [Some(h.out), h.through.then_some(-h.out)].into_iter().flatten() {
            if !out.iter().any(|w| w.distance(way) < COINCIDENT) {
                out.push(way);
            }
        }
    }
    out
}

/// How many holes and notches it has.
pub fn count(m: &Member) -> String {
    let notches = m.holes.iter().filter(|h| h.notch.is_some()).count();
    let several =
        |n: usize, one: &str, more: &str| (n > 0).then(|| format!("{n} {}", if n == 1 { one } else { more }));
    let told = [several(m.holes.len() - notches, "hole", "holes"), several(notches, "notch", "notches")];
    told.into_iter().flatten().collect::<Vec<_>>().join(", ")
}

/// One text a kind of hole, and where each lies as a part of the way between the outermost points of the
/// ends.
pub fn drilled(m: &Member, p: &Profile, d: &Display) -> (Vec<String>, Vec<f64>) {
    if m.holes.is_empty() {
        return (Vec::new(), Vec::new());
    }
    let outermost = |end: usize| {
        let cuts = m.cuts(end);
        m.rim(p, end).iter().map(|&q| cuts.station(q)).fold(f64::INFINITY, f64::min)
    };
    let (from, to) = if m.closed { (0.0, m.length) } else { (outermost(0), m.length - outermost(1)) };
    let mut told = Vec::new();
    let mut rows: Vec<Vec<&Hole>> = Vec::new();
    for h in &m.holes {
        if let Some(end) = h.notch {
            let walls = if h.through { ", both walls" } else { "" };
            let tip = if end == 0 { "start" } else { "end" };
            told.push(format!(
                "{}{walls}: notch {} wide, {} long, at the {tip}",
                face(h.out),
                d.brief(h.diameter),
                d.brief(h.length)
            ));
            continue;
        }
        match rows.iter_mut().find(|r| one_kind(r[0], h)) {
            Some(row) => row.push(h),
            None => rows.push(vec![h]),
        }
    }
    for mut row in rows {
        row.sort_by(|a, b| a.along.total_cmp(&b.along));
        let h = row[0];
        let walls = if h.through { ", both walls" } else { "" };
        let aside = if off(h).abs() > COINCIDENT {
            format!(", {} off the middle", d.length(off(h)))
        } else {
            String::new()
        };
        let size = if let Some(bore) = &h.bore {
            let slot = h.length > h.diameter + COINCIDENT;
            if slot { format!("slot {} × {}", d.brief(h.diameter), d.brief(h.length)) } else { bore.mark(d) }
        } else if h.length > h.diameter + COINCIDENT {
            format!("slot {} × {}", d.brief(h.diameter), d.brief(h.length))
        } else {
            format!("Ø{}", d.brief(h.diameter))
        };
        let at: Vec<String> = row.iter().map(|h| d.length(h.along - from)).collect();
        told.push(format!("{}{walls}{aside}: {} × {size} at {}", face(h.out), row.len(), at.join(" · ")));
    }
    let stations = m
        .holes
        .iter()
        .filter(|h| h.notch.is_none())
        .map(|h| ((h.along - from) / (to - from).max(1e-9)).clamp(0.0, 1.0))
        .collect();
    (told, stations)
}
