//! The view from the side as a section, where flanges hide behind others; its trace on the front view.

use glam::{DVec2, DVec3};
use ground::geom::Bounds;
use sheet::result::PieceResult;

use crate::hatching::hatching;
use crate::views::{Body, Cut, Sight, cut};
use crate::{Anchor, Item, Pen};

/// Directions within which two are one.
const SQUARE: f64 = 1e-6;
/// Outlines nearer than this, mm, are one.
const ALIKE: f64 = 1e-3;
/// Cut faces thinner than this on paper, mm, are filled (ISO 128-50).
const NARROW: f64 = 1.6;
/// Between lines of a hatching, mm.
const HATCH: f64 = 2.2;
/// How far the trace stands out beyond the view, mm.
pub const BEYOND: f64 = 6.5;

/// A section, and where its plane stands.
pub struct Section {
    pub cut: Cut,
    /// East of the piece's own origin, mm.
    pub x: f64,
}

/// Across the piece through the most bends that run along it, where others run across it: a view from the
/// side would show those dashed. None where the plane would take away part of the outline.
pub fn section(p: &PieceResult, body: &Body, sight: &Sight) -> Option<Section> {
    let frames = sheet::zones::frames(&p.zones, 1.0, p.thickness);
    let mut along: Vec<[f64; 2]> = Vec::new();
    let mut across = false;
    for (zone, frame) in p.zones.iter().zip(&frames).filter(|(z, _)| z.bend().is_some()) {
        let axis = frame.transform_vector3(zone.along.perp().extend(0.0));
        across |= axis.dot(DVec3::Y).abs() > 1.0 - SQUARE;
        if axis.dot(DVec3::X).abs() > 1.0 - SQUARE {
            let x = |q: &DVec2| frame.transform_point3(q.extend(0.0)).x;
            let ends = zone.region.iter().map(x);
            along.push([ends.clone().fold(f64::INFINITY, f64::min), ends.fold(f64::NEG_INFINITY, f64::max)]);
        }
    }
    if !across || along.is_empty() {
        return None;
    }
    let x = most_crossed(&along)?;
    let made = cut(body, sight, x * sight.eye.x)?;
    let seen = |b: &Body| Bounds::of(b.solid.points.iter().map(|q| sight.flat(*q)));
    // Points that nothing uses any more are no outline.
    let left = made.rest.solid.triangles.iter().flatten().map(|i| made.rest.solid.points[*i as usize]);
    let (rest, all) = (Bounds::of(left.map(|q| sight.flat(q))), seen(body));
    let whole = (rest.min - all.min).abs().max((rest.max - all.max).abs()).max_element() < ALIKE;
    whole.then_some(Section { cut: made, x })
}

/// Within the most of the stretches; of several places the one nearest to their middle.
fn most_crossed(along: &[[f64; 2]]) -> Option<f64> {
    let mut ends: Vec<f64> = along.iter().flatten().copied().collect();
    ends.sort_by(f64::total_cmp);
    let middle = (ends.first()? + ends.last()?) / 2.0;
    let within = |x: f64| along.iter().filter(|[a, b]| *a < x && x < *b).count();
    let between = ends.windows(2).filter(|w| w[1] - w[0] > 1.0);
    // Not where a bend ends: the middle itself where it lies well within.
    let places = between
        .map(|w| if w[0] + 0.5 < middle && middle < w[1] - 0.5 { middle } else { (w[0] + w[1]) / 2.0 });
    let best = places.max_by(|a, b| {
        let near = |x: f64| -(x - middle).abs();
        within(*a).cmp(&within(*b)).then(near(*a).total_cmp(&near(*b)))
    })?;
    (within(best) > 0).then_some(best)
}

/// The cut faces on paper: hatched, or filled where they are too narrow for it.
pub fn faces(loops: &[Vec<DVec2>], thickness: f64, scale: f64, shift: DVec2) -> Vec<Item> {
    let at = |p: &DVec2| DVec2::new(p.x, -p.y) * scale + shift;
    let loops: Vec<Vec<DVec2>> = loops.iter().map(|l| l.iter().map(at).collect()).collect();
    let round =
        |l: &Vec<DVec2>| Item::Path { points: l.iter().chain(l.first()).copied().collect(), pen: Pen::Edge };
    let mut out: Vec<Item> = loops.iter().map(round).collect();
    if thickness * scale < NARROW {
        out.extend(loops.into_iter().map(|points| Item::Facet { points, shade: 0.0 }));
    } else {
        out.extend(hatching(&loops, HATCH).into_iter().map(|[a, b]| Item::line(a, b, Pen::Hair)));
    }
    out
}

/// Where the plane stands on the view that shows it edge-on: a chain line, thick ends with arrows the way one
/// looks (ISO 128-3), and its letter.
pub fn trace(view: Bounds, x: f64, looks: f64) -> Vec<Item> {
    let at = |y: f64| DVec2::new(x, y);
    let mut out = vec![Item::line(at(view.min.y - 1.0), at(view.max.y + 1.0), Pen::Centre)];
    for (edge, way) in [(view.min.y, -1.0), (view.max.y, 1.0)] {
        let end = edge + way * (BEYOND - 2.0);
        out.push(Item::line(at(edge + way), at(end), Pen::Edge));
        let tip = at(end);
        let tail = tip - DVec2::new(looks * 6.0, 0.0);
        out.push(Item::line(tail, tip, Pen::Edge));
        let barb = |side: f64| Item::line(tip, tip + DVec2::new(-looks * 2.2, side * 0.8), Pen::Edge);
        out.extend([barb(1.0), barb(-1.0)]);
        let letter = tail + DVec2::new(-looks * 1.8, 1.2);
        out.push(Item::text(letter, "A", 3.3, Anchor::Middle).bold());
    }
    out
}
