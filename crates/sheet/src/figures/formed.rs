//! Figures of the piece as it stands: its size, and slant and sweep of a cone.

use super::{figure, geometry};
use crate::context::PieceContext;
use crate::flat::cone::ConeFact;
use crate::formed::zones::Zone;
use crate::result::FigureResult;
use glam::DVec3;
use ground::working::Term;
use std::f64::consts::TAU;

pub(super) fn formed(m: &PieceContext, zones: &[Zone], out: &mut Vec<FigureResult>) {
    if m.blank.zones.iter().all(|z| z.is_panel()) {
        return;
    }
    // A sheet bends along straight lines, and what is furthest out along each is one of its ends: on the
    // outline, never at a hole.
    let mesh = m.outline_mesh();
    if mesh.points.is_empty() {
        return;
    }
    let d = &m.display;
    let solid = mesh.solid(zones, 1.0, m.t);
    let size = match &m.blank.cone {
        Some(c) => cone_size(c, &solid.points, m.t),
        None => {
            let (low, high) = solid.bounds();
            high - low
        }
    };
    let text = format!("{} × {} × {}", d.length(size.x), d.length(size.y), d.length_unit(size.z));
    let words = match &m.blank.cone {
        Some(_) => ["across the cone, which stands on its end", "across, square to that", "along its axis"],
        None => ["west to east on the part that lies still", "south to north on it", "square to it"],
    };
    let terms = vec![
        Term::plain("x", words[0], d.length_unit(size.x)),
        Term::plain("y", words[1], d.length_unit(size.y)),
        Term::plain("z", words[2], d.length_unit(size.z)),
    ];
    let w = geometry("Extent of the formed solid", "greatest − least coordinate", text.clone(), terms);
    out.push(figure("formed_size", "Formed size", size.max_element(), text, true, w));
    for (key, label, v) in [
        ("formed_x", "Formed along", size.x),
        ("formed_y", "Formed across", size.y),
        ("formed_z", "Formed up", size.z),
    ] {
        let w = geometry("Extent of the formed solid", "greatest − least coordinate", d.fine(v), Vec::new());
        out.push(figure(key, label, v, d.length_unit(v), false, w));
    }
}

/// The size of a cone that stands on its end: across, across, and up. Its middle generator lies along x, the
/// axis leans off it by half the tip.
pub(super) fn cone_size(c: &ConeFact, points: &[DVec3], t: f64) -> DVec3 {
    let (s, k) = c.slope.sin_cos();
    let rise = c.slant * k + t * s;
    if c.turn > TAU * 0.9999 {
        let wide = c.middle[0] + t * k;
        return DVec3::new(wide, wide, rise);
    }
    let spread = |d: DVec3| {
        points
            .iter()
            .map(|p| p.dot(d))
            .fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)))
    };
    let across = spread(DVec3::new(-s, 0.0, k));
    let side = spread(DVec3::Y);
    DVec3::new(side.1 - side.0, across.1 - across.0, rise)
}

/// Slant and sweep of a cone.
pub(super) fn cone(m: &PieceContext, out: &mut Vec<FigureResult>) {
    let Some(c) = &m.blank.cone else { return };
    let d = &m.display;
    let line = m.blank.line.as_str();
    let terms = |c: &ConeFact| {
        vec![
            Term::plain("Dm", "middle diameter of the wide end", d.length_unit(c.middle[0])).of_line(line),
            Term::plain("dm", "middle diameter of the narrow end", d.length_unit(c.middle[1])).of_line(line),
            Term::plain("φ", "half the angle at the tip", d.angle(c.slope)),
        ]
    };
    let filled = format!(
        "({} − {})/(2·sin {}) = {}",
        d.fine(c.middle[0]),
        d.fine(c.middle[1]),
        d.angle(c.slope),
        d.fine(c.slant)
    );
    let w = geometry(
        "Slant of the frustum on the middle of the sheet",
        "s = (Dm − dm)/(2·sin φ)",
        filled,
        terms(c),
    );
    out.push(figure("slant", "Slant", c.slant, d.length_unit(c.slant), true, w));
    let filled = format!("{}·sin {} = {}", d.angle(c.turn), d.angle(c.slope), d.angle(c.sweep));
    let w = geometry("Sweep of the flat sector", "θ = turn·sin φ", filled, terms(c));
    out.push(figure("sweep", "Sweep of the sector", c.sweep, d.angle(c.sweep), true, w));
    for (key, label, v) in [
        ("sector_far", "Outer radius of the sector", c.far),
        ("sector_near", "Inner radius of the sector", c.near),
    ] {
        let w = geometry(
            "Middle radius of the end over the sine of half the tip",
            "R = Dm/(2·sin φ)",
            d.fine(v),
            terms(c),
        );
        out.push(figure(key, label, v, d.length_unit(v), false, w));
    }
}
