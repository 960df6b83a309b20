//! The triangulated flat, and the solid that it folds into.

use glam::{DVec2, DVec3};

use super::zones::{Zone, formed, frames, zone_of};
use crate::geom::triangulate::{TaggedLoop, triangulate};
use crate::geom::{CHORD, Contour, Hole};

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
    /// Tangent lines in the material.
    pub creases: Vec<(u32, u32)>,
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
        self.points.iter().fold((DVec3::INFINITY, DVec3::NEG_INFINITY), |(lo, hi), p| (lo.min(*p), hi.max(*p)))
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
    pub fn new(outer: &Contour, holes: &[Hole], zones: &[Zone], t: f64, light: bool) -> Self {
        let light = light && holes.len() > LIGHT_ABOVE;
        let mut loops: Vec<TaggedLoop> = vec![outer.flatten_tagged(CHORD)];
        if !light {
            loops.extend(holes.iter().map(|h| {
                let mut l = h.contour.flatten_tagged(CHORD);
                // Holes run clockwise: material on the left of every side.
                let n = l.len();
                let tags: Vec<u32> = l.iter().map(|v| v.1).collect();
                l.reverse();
                for (k, v) in l.iter_mut().enumerate() {
                    v.1 = tags[(2 * n - 2 - k) % n];
                }
                l
            }));
        }
        let creases = crease_lines(zones, t);
        let tri = triangulate(&loops, &creases);
        let zone = |p: DVec2| zone_of(zones, p).unwrap_or(0) as u32;
        let centre = |t: &[u32; 3]| t.iter().map(|&i| tri.points[i as usize]).sum::<DVec2>() / 3.0;
        let tangent: Vec<f64> = zones.iter().flat_map(|z| [z.min.x, z.max.x]).collect();
        let creases = tri.creases.iter().copied().filter(|c| tangent.iter().any(|x| (tri.points[c.0 as usize].x - x).abs() < 1e-7)).collect();
        FlatMesh {
            zones: tri.points.iter().map(|&p| zone(p)).collect(),
            triangle_zones: tri.triangles.iter().map(|t| zone(centre(t))).collect(),
            points: tri.points,
            triangles: tri.triangles,
            walls: tri.walls,
            creases,
            light,
        }
    }

    /// The solid with every bend folded by `fold`.
    pub fn solid(&self, zones: &[Zone], fold: f64, t: f64) -> Solid {
        let frames = frames(zones, fold, t);
        let place = |z: f64| {
            let frames = &frames;
            self.points.iter().zip(&self.zones).map(move |(&p, &i)| formed(&zones[i as usize], &frames[i as usize], fold, t, p, z))
        };
        let n = self.points.len() as u32;
        let points: Vec<DVec3> = place(t).chain(place(0.0)).collect();
        let mut triangles = Vec::with_capacity(self.triangles.len() * 2 + self.walls.len() * 2);
        for &[a, b, c] in &self.triangles {
            triangles.push([a, b, c]);
            triangles.push([a + n, c + n, b + n]);
        }
        for &(a, b, _) in &self.walls {
            triangles.push([a + n, b + n, b]);
            triangles.push([a + n, b, a]);
        }
        Solid { points, triangles }
    }
}

/// Tangent lines and the facets of bends, sorted. Facets also stand where a bend reaches furthest out in x or z,
/// so that the overall sizes of the mesh are those of the true cylinder.
fn crease_lines(zones: &[Zone], t: f64) -> Vec<f64> {
    let heading = headings(zones);
    let mut out = Vec::new();
    for (zone, start) in zones.iter().zip(heading) {
        let Some(b) = zone.bend() else { continue };
        let steps = facets(b.radius + t, b.angle);
        let mut at: Vec<f64> = (0..=steps).map(|k| k as f64 / steps as f64).collect();
        let turn = if b.up { b.angle } else { -b.angle };
        let quarter = std::f64::consts::FRAC_PI_2;
        let (low, high) = (start.min(start + turn), start.max(start + turn));
        let mut q = (low / quarter).ceil();
        while q * quarter < high {
            at.push((q * quarter - start) / turn);
            q += 1.0;
        }
        at.retain(|f| (0.0..=1.0).contains(f));
        out.extend(at.iter().map(|f| zone.origin.x + zone.along.x * f * b.allowance));
    }
    out.sort_by(f64::total_cmp);
    out.dedup_by(|a, b| (*a - *b).abs() < 1e-6);
    out
}

fn facets(radius: f64, angle: f64) -> usize {
    let widest = 2.0 * (1.0 - (CHORD / radius.max(CHORD)).min(0.5)).acos();
    (angle / widest).max(angle / 10f64.to_radians()).ceil().clamp(1.0, 360.0) as usize
}

/// The heading (turn from the root, in the plane of the profile) at the start of each zone, seen along its own direction.
fn headings(zones: &[Zone]) -> Vec<f64> {
    let mut out = vec![0.0; zones.len()];
    // Parents stand nearer the root: settle outward in as many rounds as the tree is deep.
    for _ in 0..zones.len().min(512) {
        let mut moved = false;
        for i in 0..zones.len() {
            let Some(p) = zones[i].parent else { continue };
            let turn = zones[p].bend().map_or(0.0, |b| if b.up { b.angle } else { -b.angle });
            let h = out[p] + turn;
            moved |= out[i] != h;
            out[i] = h;
        }
        if !moved {
            break;
        }
    }
    out
}
