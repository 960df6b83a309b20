//! What a bend leaves beside it: metal that ends inside the bend, or so near it that neither punch nor die
//! holds it. Along the whole length of the bend that is a short flange; here it is told where only a part of
//! it is short.

use glam::DVec2;
use ground::geom::COINCIDENT;

use super::finding;
use crate::BendFact;
use crate::context::PieceContext;
use crate::result::{Finding, Severity};
use ground::geom::in_material;
use shop::Bent;
use shop::brake::shortest_flange;

/// An edge that runs off steeper than this beside a bend is the end of a flange, not a stub (tan).
const STEEP: f64 = 0.6;

/// A stretch of the bend with what stands beyond it.
struct Stub {
    from: DVec2,
    to: DVec2,
    /// From the tangent line to the edge; below zero where the metal ends inside the bend.
    reach: f64,
}

pub fn check(m: &PieceContext, v: f64, out: &mut Vec<Finding>) {
    if m.material.bent != Bent::Cold {
        return;
    }
    let d = &m.display;
    for b in m.blank.bends.iter().filter(|b| b.is_struck() && b.angle < 3.1) {
        let least = shortest_flange(v, b.angle);
        let wanted = least.value - b.ossb;
        let stubs = beside(m, b, wanted);
        let Some(worst) = stubs.iter().min_by(|p, q| p.reach.total_cmp(&q.reach)) else { continue };
        let run: f64 = stubs.iter().map(|s| s.from.distance(s.to)).sum();
        let message = if worst.reach < COINCIDENT {
            format!(
                "Over {} of its length the metal ends inside bend {}: it neither bends nor lies flat",
                d.length_unit(run),
                b.label
            )
        } else {
            format!(
                "Over {} of bend {} only {} stands beyond it, of {} that the die wants",
                d.length_unit(run),
                b.label,
                d.fine(worst.reach),
                d.length_unit(wanted)
            )
        };
        let spot = (worst.from + worst.to) / 2.0;
        out.push(
            finding("bend_stub", Severity::Warn, message, &least.rule, least.source)
                .by(format!("{} short", d.length_unit(wanted - worst.reach.max(0.0))))
                .on(vec![b.name.clone()], Some(&b.line), Some(spot.to_array())),
        );
    }
}

/// Stretches of the bend's metal beyond which less than `wanted` stands; none where all of a side is short,
/// which is a short flange.
fn beside(m: &PieceContext, b: &BendFact, wanted: f64) -> Vec<Stub> {
    let zone = &m.blank.zones[b.zone];
    let Some(bend) = zone.bend() else { return Vec::new() };
    let outer = &m.outcome.outer;
    let across = zone.along.perp();
    let place = |p: DVec2| (p - zone.origin).dot(across);
    let parts: Vec<[f64; 2]> =
        in_material(b.ends[0], b.ends[1], outer, m.outcome.holes.iter().map(|h| &h.contour))
            .into_iter()
            .map(|p| [place(p[0]).min(place(p[1])), place(p[0]).max(place(p[1]))])
            .collect();
    let whole: f64 = parts.iter().map(|p| p[1] - p[0]).sum();
    let mut out = Vec::new();
    for (edge, way) in [(0.0, -zone.along), (bend.allowance, zone.along)] {
        let tangent = zone.origin + zone.along * edge;
        // Where the outline turns, or leaves the strip beside the bend, the reach may change its course.
        let mut turns: Vec<f64> = parts.iter().flatten().copied().collect();
        for s in outer.segments() {
            let near = |p: DVec2| (-bend.allowance..wanted + COINCIDENT).contains(&(p - tangent).dot(way));
            turns.extend([s.a, s.b].into_iter().filter(|p| near(*p)).map(place));
            if let Some(arc) = s.arc() {
                turns.extend((1..4).map(|k| arc.at(f64::from(k) / 4.0)).filter(|p| near(*p)).map(place));
            }
        }
        turns.sort_by(f64::total_cmp);
        turns.dedup_by(|a, b| (*a - *b).abs() < COINCIDENT);
        let reach = |v: f64| -> f64 {
            let foot = tangent + across * v;
            let inside = foot - way * (bend.allowance / 2.0);
            let metal = in_material(inside, foot + way * (wanted + 1.0), outer, std::iter::empty());
            metal
                .first()
                .filter(|p| p[0].distance(inside) < COINCIDENT)
                .map_or(-bend.allowance, |p| (p[1] - foot).dot(way))
        };
        let mut side = Vec::new();
        for w in turns.windows(2) {
            let [from, to] = [w[0], w[1]];
            let middle = (from + to) / 2.0;
            if to - from < 2.0 * m.t || !parts.iter().any(|p| p[0] <= middle && middle <= p[1]) {
                continue;
            }
            let step = (to - from) * 0.05;
            let (low, high) = (reach(from + step), reach(to - step));
            let level = (high - low).abs() / (to - from - 2.0 * step) < STEEP;
            let least = low.min(high).min(reach(middle));
            if level && least < wanted - COINCIDENT && least > -bend.allowance / 2.0 {
                side.push(Stub { from: tangent + across * from, to: tangent + across * to, reach: least });
            }
        }
        let short: f64 = side.iter().map(|s| s.from.distance(s.to)).sum();
        if short < whole * 0.98 {
            out.extend(side);
        }
    }
    out
}
