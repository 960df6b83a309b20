//! The formed piece in the views that it needs, with its outside sizes and a small picture in space.

use glam::{DVec2, DVec3};
use ground::geom::{Bounds, ROUNDING};
use sheet::mesh::FlatMesh;
use sheet::result::PieceResult;

use super::legs;
use super::page::Projection;
use super::section_view::section;
use super::views_on_paper::{View, laid, picture};
use crate::views::{Sight, of_sheet, wires};
use crate::wrapped::broken;
use crate::{Anchor, Item};

const NOTE: f64 = 2.7;

/// The sheet's items and its scale.
pub fn drawn(
    p: &PieceResult,
    mesh: &FlatMesh,
    projection: Projection,
    room: Bounds,
    notes: &[String],
) -> (Vec<Item>, f64) {
    let body = of_sheet(p, mesh);
    let (low, high) = body.solid.bounds();
    let chosen = needed(p, projection);
    let sights: Vec<Sight> = chosen.iter().map(|c| c.0).collect();
    let sizes = legs::sizes(p, &sights, low, high);
    let side = sights.iter().copied().find(is_side);
    let cut = side.and_then(|s| section(p, &body, &s));
    let bodies = [body];
    let views: Vec<View> = chosen
        .into_iter()
        .zip(sizes)
        .map(|((sight, called), sizes)| match &cut {
            Some(c) if is_side(&sight) => {
                let behind = wires(std::slice::from_ref(&c.cut.rest), &sight, false);
                let cut = Some((c.cut.loops.clone(), p.thickness));
                View { cut, ..View::new(sight, "section A–A", behind, sizes) }
            }
            _ => {
                let own = cut.as_ref().filter(|_| sight == Sight::FRONT);
                let trace = own.zip(side).map(|(c, s)| (c.x, -s.eye.x));
                View { trace, ..View::new(sight, called, wires(&bodies, &sight, true), sizes) }
            }
        })
        .collect();
    let (mut items, scale, corner) = laid(&views, projection, room, p.display.length);
    // Notes stand below the picture.
    let most = (corner.size().x / (NOTE * 0.54)) as usize;
    let notes: Vec<String> = notes.iter().flat_map(|n| broken(n, most.max(20))).collect();
    let foot = 4.0 * notes.len() as f64 + 2.0;
    items.extend(picture(&bodies, Bounds { max: corner.max - DVec2::new(0.0, foot), ..corner }));
    for (k, note) in notes.iter().rev().enumerate() {
        let at = DVec2::new(corner.min.x, corner.max.y - 1.0 - 4.0 * k as f64);
        items.push(Item::text(at, note.clone(), NOTE, Anchor::Start));
    }
    (items, scale)
}

fn is_side(s: &Sight) -> bool {
    *s == Sight::LEFT || *s == Sight::RIGHT
}

/// From the front; from above where the panel that lies still shows more than a rectangle there, or nothing
/// else shows its width; from the side where panels stand across, or bends run across.
fn needed(p: &PieceResult, projection: Projection) -> Vec<(Sight, &'static str)> {
    let frames = sheet::zones::frames(&p.zones, 1.0, p.thickness);
    let is_along = |v: DVec3, axis: DVec3| v.dot(axis).abs() > 1.0 - 1e-6;
    let (mut above, mut across) = (false, false);
    for (zone, frame) in p.zones.iter().zip(&frames) {
        let n = frame.transform_vector3(DVec3::Z);
        if zone.bend().is_some() {
            across |= is_along(frame.transform_vector3(zone.along.perp().extend(0.0)), DVec3::X);
            continue;
        }
        let holes = p.flat.holes.iter().any(|h| zone.contains(h.contour.bounds().centre()));
        let plain = zone.is_panel() && !holes && rectangle(&zone.region);
        if !plain {
            above |= is_along(n, DVec3::Z);
            across |= is_along(n, DVec3::X);
        }
    }
    let side = match projection {
        Projection::First => (Sight::LEFT, "from the left"),
        Projection::Third => (Sight::RIGHT, "from the right"),
    };
    let mut out = vec![(Sight::FRONT, "from the front")];
    if above || !across {
        out.push((Sight::TOP, "from above"));
    }
    if across {
        out.push(side);
    }
    out
}

fn rectangle(region: &[DVec2]) -> bool {
    region.len() == 4
        && (0..4).all(|k| {
            let way = region[(k + 1) % 4] - region[k];
            way.x.abs() < ROUNDING || way.y.abs() < ROUNDING
        })
}
