//! A sheet piece as it can be measured, in the frame of the part that lies still.

use std::cell::OnceCell;
use std::collections::HashMap;
use std::sync::Arc;

use glam::{DAffine3, DVec2, DVec3};
use sheet::mesh::FlatMesh;
use sheet::result::{BoreMark, PieceResult};
use sheet::zones::{Zone, formed, frames, zone_of};
use sheet::{arcs_on, said_in, sides_on};
use shop::bend::setback;

use super::{Bent, Model, Probe, Thing, ThingKind};

/// A flat point half way through the sheet, formed; and the way through the sheet where that is one.
fn placed(p: &PieceResult, at: &[DAffine3], q: DVec2) -> (DVec3, Option<DVec3>) {
    let t = p.thickness;
    let Some(k) = zone_of(&p.zones, q) else { return (q.extend(t / 2.0), Some(DVec3::Z)) };
    let point = formed(&p.zones[k], &at[k], 1.0, t, q, t / 2.0);
    (point, p.zones[k].is_panel().then(|| at[k].transform_vector3(DVec3::Z)))
}

fn holes(p: &PieceResult, at: &[DAffine3], out: &mut Vec<Thing>) {
    let bores: HashMap<&str, &BoreMark> = p.flat.bores.iter().map(|b| (b.name.as_str(), b)).collect();
    let cut = p.flat.holes.iter().map(|h| (p.hole_name(h), &h.contour));
    let blind = p.flat.bores.iter().filter(|b| !b.bore.through()).map(|b| (b.name.as_str(), &b.plan));
    for (name, contour) in cut.chain(blind) {
        ground::halt::often();
        let round = contour.as_circle();
        let middle = round.map_or_else(|| contour.bounds().centre(), |c| c.0);
        let radius = round.map(|c| c.1);
        let (point, dir) = placed(p, at, middle);
        let probe = match dir {
            Some(dir) => Probe::Axis { at: point, dir, radius },
            None => Probe::Point(point),
        };
        let bore = bores.get(name).map(|b| Box::new(b.bore.clone()));
        out.push(Thing { radius, bore, ..Thing::new(name, format!("hole {name}"), ThingKind::Hole, probe) });
    }
}

fn panels(p: &PieceResult, at: &[DAffine3], out: &mut Vec<Thing>) {
    for (z, frame) in p.zones.iter().zip(at).filter(|(z, _)| z.is_panel()) {
        let face = |q: DVec3| frame.transform_point3(q);
        let probe = Probe::Plate {
            at: face(z.centre().extend(0.0)),
            normal: frame.transform_vector3(DVec3::Z),
            thick: p.thickness,
        };
        out.push(Thing::new(&z.name, format!("panel {}", said_in(p, &z.name)), ThingKind::Panel, probe));
    }
}

/// How long a panel is along a side that runs on over bends, as drawings have it: from the outside of its
/// bends, or its tip.
fn leg_length(p: &PieceResult, z: &Zone, along: DVec2) -> Option<f64> {
    let k = p.zones.iter().position(|o| o.name == z.name)?;
    let reach = z.region.iter().map(|q| q.dot(along));
    let (low, high) = reach.fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)));
    let beside = p.zones.iter().enumerate().filter(|(j, b)| {
        (b.parent == Some(k) || z.parent == Some(*j)) && b.along.dot(along).abs() > 1.0 - ALIKE
    });
    let outside = beside.filter_map(|(_, b)| b.bend()).map(|b| setback(b.radius + p.thickness, b.angle));
    Some(high - low + outside.sum::<f64>())
}

/// Directions whose cosine is within this of one are the same.
const ALIKE: f64 = 1e-9;

fn edges(p: &PieceResult, at: &[DAffine3], out: &mut Vec<Thing>) {
    for (z, frame) in p.zones.iter().zip(at) {
        let sides = sides_on(p, z);
        for (k, first) in sides.iter().enumerate() {
            // An edge in several pieces is one, from the first to the last.
            if sides[..k].iter().any(|s| s.name == first.name) {
                continue;
            }
            let parts: Vec<_> = sides.iter().filter(|s| s.name == first.name).collect();
            let side = first.side;
            let Some(along) = (side.b - side.a).try_normalize() else { continue };
            let probe = Probe::Plane {
                at: frame.transform_point3(side.a.extend(p.thickness / 2.0)),
                normal: frame.transform_vector3((-along.perp()).extend(0.0)),
            };
            let reach = parts
                .iter()
                .flat_map(|s| [s.side.a, s.side.b])
                .map(|v| (v - side.a).dot(along))
                .fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)));
            let whole = parts.iter().all(|s| s.whole);
            let length = if whole { Some(reach.1 - reach.0) } else { leg_length(p, z, along) };
            let words = format!("edge {}", said_in(p, &first.name));
            out.push(Thing { length, ..Thing::new(&first.name, words, ThingKind::Edge, probe) });
        }
    }
}

fn arcs(p: &PieceResult, at: &[DAffine3], out: &mut Vec<Thing>) {
    for a in arcs_on(p) {
        let (point, dir) = placed(p, at, a.centre);
        if out.iter().any(|t| t.name == a.name) {
            continue;
        }
        let probe = match dir {
            Some(dir) => Probe::Axis { at: point, dir, radius: Some(a.radius) },
            None => Probe::Point(point),
        };
        let thing = Thing::new(&a.name, format!("arc {}", said_in(p, &a.name)), ThingKind::Arc, probe);
        out.push(Thing { radius: Some(a.radius), ..thing });
    }
}

fn bends(p: &PieceResult, at: &[DAffine3], out: &mut Vec<Thing>) {
    for b in &p.flat.bends {
        let Some(k) = p.zones.iter().position(|z| z.name == b.name) else { continue };
        let reach = |i: usize| {
            let (low, high) = p.zones[i].extent()[0];
            high - low
        };
        let beyond = p.zones.iter().position(|z| z.parent == Some(k)).map_or(f64::INFINITY, reach);
        let shorter = p.zones[k].parent.map_or(beyond, |i| reach(i).min(beyond));
        let point = at[k].transform_point3(p.zones[k].centre().extend(p.thickness / 2.0));
        let thing = Thing::new(&b.name, format!("bend {}", b.label), ThingKind::Bend, Probe::Point(point));
        out.push(Thing {
            // A crease has none.
            radius: (!b.creased).then_some(b.radius),
            bent: Some(Bent { angle: b.angle, up: b.up, shorter }),
            ..thing
        });
    }
}

impl Model {
    pub fn of_piece(p: &Arc<PieceResult>) -> Option<Model> {
        if !p.made {
            return None;
        }
        let at = frames(&p.zones, 1.0, p.thickness);
        let mut things = Vec::new();
        holes(p, &at, &mut things);
        panels(p, &at, &mut things);
        edges(p, &at, &mut things);
        arcs(p, &at, &mut things);
        bends(p, &at, &mut things);
        for c in &p.corners {
            let (point, _) = placed(p, &at, c.at.into());
            things.push(Thing::new(
                &c.name,
                format!("corner {}", c.name),
                ThingKind::Corner,
                Probe::Point(point),
            ));
        }
        let flat = p.flat.outer.bounds();
        let of = Arc::clone(p);
        let reach = move || {
            if of.zones.iter().all(|z| z.is_panel()) {
                let b = of.flat.outer.bounds();
                return (b.min.extend(0.0), b.max.extend(of.thickness));
            }
            let mesh = FlatMesh::new(&of.flat.outer, &[], &[], &of.zones, of.thickness, false);
            let low = mesh.solid(&of.zones, 1.0, of.thickness).bounds().0;
            // As the figures have it: a cone stands on its end.
            (low, low + DVec3::new(of.value("formed_x"), of.value("formed_y"), of.value("formed_z")))
        };
        Some(Model {
            things,
            flat: Some(flat.size().to_array()),
            thickness: Some(p.thickness),
            mass: p.value("mass"),
            quantity: p.quantity,
            plates: 0,
            reach: Box::new(reach),
            extent: OnceCell::new(),
        })
    }
}
