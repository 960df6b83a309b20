//! What a hand finds at the brake: the outermost points of the piece as it lies on the die, on either side of
//! the bend. Arcs of bends and of the outline are solved for, not sampled.

use glam::{DAffine3, DVec2, DVec3};

use super::bodies::Body;
use super::strike::Bench;
use super::stroke::Side;
use crate::formed::zones::{BendZone, Zone};
use ground::geom::{COINCIDENT, Contour};

/// The outermost point on one side of a bend.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Outermost {
    /// From the middle of the bend, before the stroke.
    pub away: f64,
    /// Above the top of the die: the lowest where several are as far out.
    pub above: f64,
    pub zone: usize,
}

/// The outermost point on `side` before a stroke, each zone formed by its share.
pub fn outermost(
    bench: &Bench,
    outer: &Contour,
    stroke: usize,
    shares: &[f64],
    side: Side,
) -> Option<Outermost> {
    let s = &bench.strokes[stroke];
    let places = s.places(bench.zones, shares);
    let out = if side == Side::Far { 1.0 } else { -1.0 };
    let mut best: Option<Outermost> = None;
    let mut take = |p: DVec3, zone: usize| {
        let (away, above) = (p.x * out, p.z + s.t);
        let further = best
            .is_none_or(|b| away > b.away + COINCIDENT || (away > b.away - COINCIDENT && above < b.above));
        if further {
            best = Some(Outermost { away: best.map_or(away, |b| b.away.max(away)), above, zone });
        }
    };
    for body in bench.bodies.iter().filter(|b| bench.side(stroke, b.zone) == Some(side)) {
        let place = places[body.zone];
        let formed = shares[body.zone] > 0.5;
        body.as_it_is(formed).corners.iter().for_each(|p| take(place.transform_point3(*p), body.zone));
        let zone = &bench.zones[body.zone];
        if let Some(bend) = zone.bend().filter(|_| formed) {
            turning_points(body, zone, bend, &place, s.t, out)
                .for_each(|p| take(place.transform_point3(p), body.zone));
        }
    }
    for (k, zone) in bench.zones.iter().enumerate() {
        let flat = zone.is_panel() || shares[k] < 0.5;
        if !flat || bench.side(stroke, k) != Some(side) {
            continue;
        }
        let place = places[k];
        let towards = DVec2::new(place.matrix3.x_axis.x, place.matrix3.y_axis.x) * out;
        for p in outline_extremes(outer, towards).filter(|p| zone.contains(*p)) {
            [0.0, s.t].iter().for_each(|h| take(place.transform_point3(p.extend(*h)), k));
        }
    }
    best
}

/// Points where an arc of the outline lies square to a direction.
fn outline_extremes(outer: &Contour, towards: DVec2) -> impl Iterator<Item = DVec2> + '_ {
    let way = towards.try_normalize();
    let of = move |s: ground::geom::Segment| {
        let (arc, way) = (s.arc()?, way?);
        let p = arc.centre + way * arc.radius;
        (s.nearest(p).distance(p) < COINCIDENT).then_some(p)
    };
    outer.segments().filter_map(of)
}

/// Points of a bent body where its surface stands square to the tools' x, along its own sides.
fn turning_points<'a>(
    body: &'a Body,
    zone: &'a Zone,
    bend: &'a BendZone,
    place: &DAffine3,
    t: f64,
    out: f64,
) -> impl Iterator<Item = DVec3> + 'a {
    let r = bend.allowance / bend.angle - bend.k * t;
    let turn = bend.angle / bend.allowance;
    let across = zone.along.perp();
    let up = if bend.up { 1.0 } else { -1.0 };
    // How x grows along the bend, across it and upwards.
    let grows =
        [zone.along.extend(0.0), across.extend(0.0), DVec3::Z].map(|d| place.transform_vector3(d).x * out);
    let local = move |p: DVec2| DVec2::new((p - zone.origin).dot(zone.along), (p - zone.origin).dot(across));
    let n = body.ring.len();
    (0..n).flat_map(move |i| {
        let (a, b) = (local(body.ring[i]), local(body.ring[(i + 1) % n]));
        let lean = (b.y - a.y) / (b.x - a.x);
        let mut found = Vec::new();
        if (b.x - a.x).abs() < 1e-12 {
            return found;
        }
        for rho in [r, r + t] {
            // rho·(gx·cos + up·gz·sin) + gy·lean/turn = 0.
            let size = rho * grows[0].hypot(grows[2]);
            let share = -grows[1] * lean / turn / size;
            if !share.is_finite() || share.abs() > 1.0 {
                continue;
            }
            let (middle, half) = ((up * grows[2]).atan2(grows[0]), share.acos());
            for angle in [middle + half, middle - half] {
                let least = turn * a.x.min(b.x);
                let angle = least + (angle - least).rem_euclid(std::f64::consts::TAU);
                let u = angle / turn;
                if u > a.x.max(b.x) {
                    continue;
                }
                let v = a.y + lean * (u - a.x);
                let z = t + r - rho * angle.cos();
                let height = if bend.up { z } else { t - z };
                found.push((zone.origin + zone.along * (rho * angle.sin()) + across * v).extend(height));
            }
        }
        found
    })
}
