//! A body by its triangles: what is not told by planes and cylinders alone.

use std::collections::HashMap;

use glam::{DAffine3, DVec3};
use steelk_core::frame::Body as SolidBody;

use super::shell::{Curve, Face, Shell, Surface};

/// Corners nearer than this are one, mm.
const SAME: f64 = 1e-6;

/// The body where it stands; none where its triangles do not close.
pub fn shell(body: &SolidBody, at: &DAffine3) -> Option<Shell> {
    let mut out = Shell::default();
    let mut known: HashMap<[i64; 3], usize> = HashMap::new();
    let of: Vec<usize> = { body.points.iter() }
        .map(|p| {
            let p = at.transform_point3(*p);
            let key = (p / SAME).round().to_array().map(|v| v as i64);
            *known.entry(key).or_insert_with(|| out.point(p))
        })
        .collect();
    let mut edges: HashMap<[usize; 2], usize> = HashMap::new();
    let mirrored = at.matrix3.determinant() < 0.0;
    for t in &body.triangles {
        let [a, b, c] = t.map(|i| of[i as usize]);
        let corners = if mirrored { [a, c, b] } else { [a, b, c] };
        let [p, q, r] = corners.map(|i| out.points[i]);
        let normal = (q - p).cross(r - p);
        // A sliver has no side.
        if a == b || b == c || c == a || normal == DVec3::ZERO {
            continue;
        }
        let mut run = Vec::new();
        for k in 0..3 {
            let (from, to) = (corners[k], corners[(k + 1) % 3]);
            let key = [from.min(to), from.max(to)];
            let e = *edges.entry(key).or_insert_with(|| out.edge(key, Curve::Line));
            run.push((e, from < to));
        }
        let surface = Surface::Plane { at: p, normal: normal.normalize_or_zero() };
        out.faces.push(Face { surface, loops: vec![run] });
    }
    out.is_closed().then_some(out)
}
