//! Sections of the shop's own, told by the corners of their outline.

use glam::DVec2;

use crate::geom::{Contour, first_crossing};
use crate::job::{Job, OwnSection, Piece};
use crate::sheet::reader::Reader;
use crate::shopbook::section::{Section, Shape};

/// The section with its box's middle at the origin.
pub fn section(reader: &Reader, own: &OwnSection) -> Result<Section, String> {
    let scope = reader.scope();
    let read = |points: &[[String; 2]]| -> Result<Contour, String> {
        if !(3..=200).contains(&points.len()) {
            return Err(format!("the section '{}' needs 3 to 200 corners", own.name));
        }
        let mut out = Vec::new();
        for [x, y] in points {
            let at = |t: &str| {
                scope.length(t).map_err(|f| {
                    format!("a corner of the section '{}' cannot be read: {}", own.name, f.message)
                })
            };
            out.push(DVec2::new(at(x)?, at(y)?));
        }
        let c = Contour::polygon(out, 0).outward();
        if c.area() < 1.0 || first_crossing(&c).is_some() || c.bounds().size().max_element() > 3000.0 {
            return Err(format!("the outline of the section '{}' crosses itself, or has no size", own.name));
        }
        Ok(c)
    };
    let outer = read(&own.points)?;
    let middle = outer.bounds().centre();
    let bore = if own.bore.is_empty() { Vec::new() } else { vec![read(&own.bore)?] };
    if bore.iter().any(|b| b.vertices.iter().any(|v| !outer.contains(v.p))) {
        return Err(format!("the bore of the section '{}' is not inside its outline", own.name));
    }
    let moved = |c: &Contour| c.moved(0.0, -middle);
    Ok(own_section(own.name.trim(), moved(&outer), bore.iter().map(moved).collect(), "the shop's own"))
}

fn own_section(name: &str, outer: Contour, holes: Vec<Contour>, source: &str) -> Section {
    let shape = Shape::Own { outer, holes };
    Section {
        designation: name.into(),
        shape,
        series: None,
        source: source.into(),
        mass: None,
        area: None,
        inertia: None,
        design_wall: None,
    }
}

/// The flat of a piece on the bench as a section, east across and north up.
pub fn of_piece(job: &Job, piece: &Piece) -> Result<Section, String> {
    let r = crate::sheet::evaluate_piece(job, piece);
    if !r.made || r.flat.outer.bounds().size().max_element() > 3000.0 {
        return Err(format!(
            "the flat of {} is no section: it cannot be made yet, or is larger than 3 m",
            piece.mark
        ));
    }
    let middle = r.flat.outer.bounds().centre();
    let moved = |c: &Contour| c.moved(0.0, -middle).outward();
    let holes = r.flat.holes.iter().map(|h| moved(&h.contour)).collect();
    Ok(own_section(&piece.mark, moved(&r.flat.outer), holes, "the flat of a piece of this job"))
}
