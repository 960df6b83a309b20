//! The triangulated flat, and the solid that it folds into.

use glam::{DAffine3, DMat3, DVec2, DVec3};
use ground::geom::{COINCIDENT, ROUNDING};

use crate::edge_bevel::{BevelMark, CutBack};

use super::wells::{Well, Wells};
use super::zones::{BendZone, Kind, Zone, formed, frames, zone_of};
use ground::geom::fields::triangulate_fields;
use ground::geom::triangulate::{Crease, Creases, Family, TaggedLoop};
use ground::geom::{CHORD, Contour, Hole};

/// More holes than this are left out of the view (never out of figures or files).
pub const LIGHT_ABOVE: usize = 20_000;

/// A triangulated flat: each point with its zone, so that any fold is only a matter of moving points.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct FlatMesh {
    pub points: Vec<DVec2>,
    pub zones: Vec<u32>,
    pub triangles: Vec<[u32; 3]>,
    /// Zone of each triangle.
    pub triangle_zones: Vec<u32>,
    /// Boundary sides: from, to, tag. Material on the left.
    pub walls: Vec<(u32, u32, u32)>,
    /// Points where creases come together, and the panels that meet there.
    pub corners: Vec<(u32, Vec<u32>)>,
    /// Tangent lines in the material.
    pub creases: Vec<(u32, u32)>,
    /// What lies below the loops of drilled holes.
    pub wells: Wells,
    /// Points that lie elsewhere on the upper face, and by how much.
    pub cut_back: Vec<(u32, DVec2)>,
    /// Holes were left out.
    pub light: bool,
}

/// A closed surface in space, outward normals.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Solid {
    pub points: Vec<DVec3>,
    pub triangles: Vec<[u32; 3]>,
}

impl Solid {
    /// Enclosed volume (divergence theorem).
    pub fn volume(&self) -> f64 {
        let p = |i: u32| self.points[i as usize];
        self.triangles.iter().map(|t| p(t[0]).dot(p(t[1]).cross(p(t[2])))).sum::<f64>() / 6.0
    }

    pub fn bounds(&self) -> (DVec3, DVec3) {
        self.points
            .iter()
            .fold((DVec3::INFINITY, DVec3::NEG_INFINITY), |(lo, hi), p| (lo.min(*p), hi.max(*p)))
    }

    /// Every side is shared by two triangles that run along it in opposite senses.
    pub fn is_watertight(&self) -> bool {
        let mut sides = std::collections::HashMap::new();
        for t in &self.triangles {
            for k in 0..3 {
                let (a, b) = (t[k], t[(k + 1) % 3]);
                *sides.entry((a.min(b), a.max(b))).or_insert(0i32) += if a < b { 1 } else { -1 };
            }
        }
        !self.triangles.is_empty() && sides.values().all(|&n| n == 0)
    }
}

impl FlatMesh {
    /// `light` leaves the holes of heavy patterns out.
    pub fn new(outer: &Contour, holes: &[Hole], wells: &[Well], zones: &[Zone], t: f64, light: bool) -> Self {
        let light = light && holes.len() > LIGHT_ABOVE;
        let flattened = |c: &Contour| c.flatten_tagged(CHORD);
        Self::of(outer, if light { &[] } else { holes }, wells, zones, t, light, flattened)
    }

    /// `flattened` makes the corners of each hole; drilled ones that have more than a hole through the sheet
    /// are `wells`.
    #[allow(clippy::too_many_arguments)]
    pub(crate) fn of(
        outer: &Contour,
        holes: &[Hole],
        wells: &[Well],
        zones: &[Zone],
        t: f64,
        light: bool,
        flattened: impl Fn(&Contour) -> TaggedLoop,
    ) -> Self {
        let mut loops: Vec<TaggedLoop> = vec![outer.flatten_tagged(CHORD)];
        loops.extend(holes.iter().map(|h| &h.contour).chain(wells.iter().map(|w| &w.around)).map(|c| {
            ground::halt::often();
            let mut l = flattened(c);
            // Holes run clockwise: material on the left of every side.
            let n = l.len();
            let tags: Vec<u32> = l.iter().map(|v| v.1).collect();
            l.reverse();
            for (k, v) in l.iter_mut().enumerate() {
                v.1 = tags[(2 * n - 2 - k) % n];
            }
            l
        }));
        let tri = triangulate_fields(&loops, &crease_lines(zones, t));
        let creases: Vec<usize> =
            (0..zones.len()).filter(|k| zones[*k].bend().is_some_and(BendZone::is_crease)).collect();
        let zone = |p: DVec2| {
            ground::halt::often();
            zone_of(zones, p).unwrap_or(0) as u32
        };
        // What lies on a crease belongs to it, and is mitred.
        let own = |p: DVec2| {
            let on = creases.iter().find(|k| zones[**k].off(p) < 10.0 * COINCIDENT);
            on.map_or_else(|| zone(p), |k| *k as u32)
        };
        let centre = |t: &[u32; 3]| t.iter().map(|&i| tri.points[i as usize]).sum::<DVec2>() / 3.0;
        let tangent = |&(a, b): &(u32, u32)| {
            let [a, b] = [a, b].map(|i| tri.points[i as usize]);
            zones.iter().filter(|z| z.bend().is_some()).any(|z| {
                let u = |p: DVec2| (p - z.origin).dot(z.along);
                let width = z.bend().map_or(0.0, |b| b.allowance);
                [0.0, width].iter().any(|w| (u(a) - w).abs() < COINCIDENT && (u(b) - w).abs() < COINCIDENT)
                    && z.contains((a + b) / 2.0)
            })
        };
        let meeting = |p: DVec2| {
            let on: Vec<usize> =
                creases.iter().copied().filter(|k| zones[*k].off(p) < 10.0 * COINCIDENT).collect();
            let beside =
                |z: usize| on.iter().any(|k| zones[*k].parent == Some(z) || zones[z].parent == Some(*k));
            let panels = || (0..zones.len()).filter(|z| beside(*z)).map(|z| z as u32).collect();
            (on.len() > 1).then(panels)
        };
        let corners = match creases.len() {
            0 | 1 => Vec::new(),
            _ => (0u32..).zip(&tri.points).filter_map(|(k, p)| Some((k, meeting(*p)?))).collect(),
        };
        let creases = tri.creases.iter().copied().filter(tangent).collect();
        let mut walls = tri.walls;
        let wells = Wells::take(wells, &mut walls, &tri.points, zones);
        FlatMesh {
            zones: tri.points.iter().map(|&p| own(p)).collect(),
            triangle_zones: tri.triangles.iter().map(|t| zone(centre(t))).collect(),
            points: tri.points,
            triangles: tri.triangles,
            walls,
            corners,
            creases,
            wells,
            cut_back: Vec::new(),
            light,
        }
    }

    /// The same with bevelled edges.
    pub fn bevelled(mut self, outer: &Contour, bevels: &[BevelMark]) -> Self {
        if let Some(cut) = CutBack::new(outer, bevels) {
            let rim: std::collections::BTreeSet<u32> = self.walls.iter().map(|w| w.0).collect();
            let moved = |k: u32| (k, cut.step(self.points[k as usize]));
            self.cut_back = rim.into_iter().map(moved).filter(|m| m.1 != DVec2::ZERO).collect();
        }
        self
    }

    /// The solid with every bend folded by `fold`.
    pub fn solid(&self, zones: &[Zone], fold: f64, t: f64) -> Solid {
        let frames = frames(zones, fold, t);
        let place = |z: f64| {
            let frames = &frames;
            self.points
                .iter()
                .zip(&self.zones)
                .map(move |(&p, &i)| formed(&zones[i as usize], &frames[i as usize], fold, t, p, z))
        };
        let n = self.points.len() as u32;
        let deep = self.wells.points.iter().map(|d| {
            let zone = d.zone as usize;
            formed(&zones[zone], &frames[zone], fold, t, d.at, d.z)
        });
        let mut points: Vec<DVec3> = place(t).chain(place(0.0)).chain(deep).collect();
        for &(k, step) in &self.cut_back {
            let (i, zone) = (k as usize, self.zones[k as usize] as usize);
            points[i] = formed(&zones[zone], &frames[zone], fold, t, self.points[i] + step, t);
        }
        for (k, panels) in &self.corners {
            let (high, low) = (*k as usize, (*k + n) as usize);
            let middle = (points[high] + points[low]) / 2.0;
            let out = corner(panels.iter().map(|z| frames[*z as usize].transform_vector3(DVec3::Z)));
            points[high] = middle + out * (t / 2.0);
            points[low] = middle - out * (t / 2.0);
        }
        let mut triangles = Vec::with_capacity(self.triangles.len() * 2 + self.walls.len() * 2);
        for &[a, b, c] in &self.triangles {
            triangles.push([a, b, c]);
            triangles.push([a + n, c + n, b + n]);
        }
        for &(a, b, _) in &self.walls {
            triangles.push([a + n, b + n, b]);
            triangles.push([a + n, b, a]);
        }
        triangles.extend(&self.wells.triangles);
        Solid { points, triangles }
    }
}

/// From a corner on the middle of the sheet to where the faces of all panels come together that meet in it,
/// for a height of one: the least squares of their planes; of a needle not so far out.
fn corner(normals: impl Iterator<Item = DVec3>) -> DVec3 {
    let (mut square, mut sum) = (DMat3::from_diagonal(DVec3::splat(ROUNDING)), DVec3::ZERO);
    for n in normals {
        square += DMat3::from_cols(n * n.x, n * n.y, n * n.z);
        sum += n;
    }
    (square.inverse() * sum).clamp_length_max(FURTHEST)
}

/// How far a corner reaches out, in half thicknesses.
const FURTHEST: f64 = 4.0;

/// Tangent lines and the facets of bends and cones, by family. Facets also stand where a bend reaches
/// furthest out in x, y or z, so that the overall sizes of the mesh are those of the true cylinder.
fn crease_lines(zones: &[Zone], t: f64) -> Vec<Creases> {
    let at = frames(zones, 1.0, t);
    let mut out: Vec<Creases> = Vec::new();
    for (zone, frame) in zones.iter().zip(at) {
        match &zone.kind {
            Kind::Panel => {}
            Kind::Cone(c) => {
                let reach = zone
                    .region
                    .iter()
                    .map(|p| p.distance(c.apex))
                    .fold((f64::INFINITY, 0.0f64), |(lo, hi), r| (lo.min(r), hi.max(r)));
                // The chord of the wide ring decides; its radius is that of the rolled piece.
                let steps = facets(reach.1 * c.sweep / c.turn, c.turn);
                let ray = |k: usize| Crease {
                    at: c.sweep * (k as f64 / steps as f64 - 0.5),
                    low: reach.0 * 0.5,
                    high: reach.1 * 2.0,
                };
                out.push(Creases { family: Family::Rays(c.apex), lines: (0..=steps).map(ray).collect() });
            }
            Kind::Bend(b) => {
                let normal =
                    if zone.along.x > ROUNDING || (zone.along.x.abs() <= ROUNDING && zone.along.y > 0.0) {
                        zone.along
                    } else {
                        -zone.along
                    };
                let family = Family::Parallel(normal);
                let same =
                    |c: &Creases| matches!(c.family, Family::Parallel(n) if n.distance(normal) < ROUNDING);
                let i = out.iter().position(same).unwrap_or(out.len());
                if i == out.len() {
                    out.push(Creases { family, lines: Vec::new() });
                }
                out[i].lines.extend(bend_facets(b, zone, &frame, t).into_iter().filter_map(|f| {
                    let u = f * b.allowance;
                    let (low, high) = zone.span_at(u)?;
                    let along =
                        |v: f64| (zone.origin + zone.along * u + zone.along.perp() * v).dot(normal.perp());
                    let at = (zone.origin + zone.along * u).dot(normal);
                    Some(Crease { at, low: along(low).min(along(high)), high: along(low).max(along(high)) })
                }));
            }
        }
    }
    for set in &mut out {
        set.lines.sort_by(|a, b| a.at.total_cmp(&b.at).then(a.low.total_cmp(&b.low)));
        let twin = |b: &mut Crease, a: &mut Crease| {
            (a.at - b.at).abs() < COINCIDENT
                && (a.low - b.low).abs() < COINCIDENT
                && (a.high - b.high).abs() < COINCIDENT
        };
        set.lines.dedup_by(twin);
    }
    out
}

/// Where along a bend or rolled arc its mesh has lines, from its origin; none of other zones.
pub(crate) fn bend_lines(zone: &Zone, frame: &DAffine3, t: f64) -> Vec<f64> {
    zone.bend().map_or_else(Vec::new, |b| {
        bend_facets(b, zone, frame, t).into_iter().map(|f| f * b.allowance).collect()
    })
}

/// Shares of a bend at which its mesh has lines.
fn bend_facets(b: &BendZone, zone: &Zone, frame: &DAffine3, t: f64) -> Vec<f64> {
    let steps = facets(b.radius + t, b.angle);
    let mut at: Vec<f64> = (0..=steps).map(|k| k as f64 / steps as f64).collect();
    let forward = frame.transform_vector3(zone.along.extend(0.0));
    let up = frame.transform_vector3(DVec3::Z) * if b.up { 1.0 } else { -1.0 };
    let half = std::f64::consts::PI;
    for k in 0..3 {
        // Travel along the bend is forward·cos φ + up·sin φ: no advance along axis k where tan φ =
        // −forward/up.
        let mut phi = (-forward[k]).atan2(up[k]).rem_euclid(half);
        if forward[k].abs() < 1e-12 && up[k].abs() < 1e-12 {
            continue;
        }
        while phi < b.angle {
            at.push(phi / b.angle);
            phi += half;
        }
    }
    at.sort_by(f64::total_cmp);
    at.dedup_by(|a, b| (*a - *b).abs() < ROUNDING);
    at
}

fn facets(radius: f64, angle: f64) -> usize {
    let widest = 2.0 * (1.0 - (CHORD / radius.max(CHORD)).min(0.5)).acos();
    (angle / widest).max(angle / 10f64.to_radians()).ceil().clamp(1.0, 360.0) as usize
}
