//! Convex shapes: hulls, how far two of them stand apart, and what of a face lies inside a section.

use crate::geom::ROUNDING;
use glam::{DVec2, DVec3};

use super::COINCIDENT;
use super::rings::Ring;

/// The convex hull of points of a plane, counter-clockwise, without corners that lie on a side (Andrew's
/// monotone chain, 1979).
pub fn hull(mut points: Vec<DVec2>) -> Vec<DVec2> {
    points.sort_unstable_by(|a, b| a.x.total_cmp(&b.x).then(a.y.total_cmp(&b.y)));
    points.dedup_by(|a, b| a.distance_squared(*b) < 1e-18);
    if points.len() < 3 {
        return points;
    }
    let turns = |a: DVec2, b: DVec2, c: DVec2| (b - a).perp_dot(c - b);
    let chain = |points: &mut dyn Iterator<Item = DVec2>| {
        let mut out: Vec<DVec2> = Vec::new();
        for p in points {
            while out.len() > 1 && turns(out[out.len() - 2], out[out.len() - 1], p) <= ROUNDING {
                out.pop();
            }
            out.push(p);
        }
        out.pop();
        out
    };
    let mut out = chain(&mut points.iter().copied());
    out.extend(chain(&mut points.iter().rev().copied()));
    out
}

/// What of a convex polygon lies where `way · q` is no more than `most`.
pub fn clipped(ring: &[DVec2], way: DVec2, most: f64) -> Vec<DVec2> {
    let mut out = Vec::with_capacity(ring.len() + 1);
    for (i, &a) in ring.iter().enumerate() {
        let b = ring[(i + 1) % ring.len()];
        let (da, db) = (way.dot(a) - most, way.dot(b) - most);
        if da <= 0.0 {
            out.push(a);
        }
        if (da < 0.0 && db > 0.0) || (da > 0.0 && db < 0.0) {
            out.push(a.lerp(b, da / (da - db)));
        }
    }
    out
}

/// A convex ring against the clock with the side that leaves each corner moved in (out below zero);
/// none where a side is lost.
pub fn moved_in(corners: &[DVec2], by: impl Fn(usize) -> f64) -> Option<Vec<DVec2>> {
    let n = corners.len();
    let dir = |s: usize| (corners[(s + 1) % n] - corners[s]).normalize_or_zero();
    let moved: Vec<DVec2> = (0..n)
        .map(|k| {
            let before = (k + n - 1) % n;
            let (d, e) = (dir(before), dir(k));
            let cross = d.perp_dot(e);
            if cross.abs() < 1e-9 {
                return corners[k] + e.perp() * by(k);
            }
            corners[k] + (e * by(before) - d * by(k)) / cross
        })
        .collect();
    let keeps = |s: usize| (moved[(s + 1) % n] - moved[s]).dot(dir(s)) > -COINCIDENT;
    (0..n).all(keeps).then_some(moved)
}

/// A convex body between two polygons with as many corners: those of the one face, then those of the other.
#[derive(Clone, Debug, PartialEq)]
pub struct Prism {
    pub corners: Vec<DVec3>,
}

impl Prism {
    pub fn mapped(&self, to: impl Fn(DVec3) -> DVec3) -> Prism {
        Prism { corners: self.corners.iter().map(|p| to(*p)).collect() }
    }

    /// Its faces, each a ring of corners.
    pub fn faces(&self) -> impl Iterator<Item = Vec<DVec3>> + '_ {
        let n = self.corners.len() / 2;
        (0..n + 2).map(move |k| face(n, k).map(|i| self.corners[i]).collect())
    }

    /// Directions of its edges: of the one face, and from face to face.
    fn edges(&self) -> Vec<DVec3> {
        let n = self.corners.len() / 2;
        let c = &self.corners;
        let mut out: Vec<DVec3> = Vec::new();
        for d in (0..n).map(|i| c[(i + 1) % n] - c[i]).chain((0..n).map(|i| c[n + i] - c[i])) {
            let d = d.normalize_or_zero();
            if d != DVec3::ZERO && out.iter().all(|o| o.cross(d).length_squared() > 1e-12) {
                out.push(d);
            }
        }
        out
    }

    fn spread(&self, along: DVec3) -> (f64, f64) {
        self.corners
            .iter()
            .map(|p| p.dot(along))
            .fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)))
    }

    /// As `apart`, in space: along normals of faces and of pairs of edges.
    pub fn apart(&self, other: &Prism) -> f64 {
        let mut most = f64::NEG_INFINITY;
        let mut along = |axis: DVec3| {
            let (a, b) = (self.spread(axis), other.spread(axis));
            most = most.max((b.0 - a.1).max(a.0 - b.1));
        };
        for f in self.faces().chain(other.faces()) {
            let n = (f[1] - f[0]).cross(f[2] - f[1]).normalize_or_zero();
            if n != DVec3::ZERO {
                along(n);
            }
        }
        let (mine, theirs) = (self.edges(), other.edges());
        for a in &mine {
            for b in &theirs {
                let n = a.cross(*b);
                if n.length_squared() > ROUNDING {
                    along(n.normalize());
                }
            }
        }
        most
    }

    /// From where to where along y it lies deeper than `deep` inside a section (convex, counter-clockwise, x
    /// across and z up, of no more than 32 sides); `None` where it does not.
    pub fn inside(&self, section: &Ring, deep: f64) -> Option<(f64, f64)> {
        let c = &self.corners;
        let off = |(out, at): &(DVec2, f64), p: DVec3| DVec2::new(p.x, p.z).dot(*out) - at + deep;
        // Of each corner a bit for each side that it lies beyond.
        let beyond = |p: &DVec3| {
            section.sides.iter().enumerate().fold(0u32, |m, (i, s)| m | u32::from(off(s, *p) > 0.0) << i)
        };
        let bits: Vec<u32> = c.iter().map(beyond).collect();
        if bits.iter().fold(u32::MAX, |m, b| m & b) != 0 {
            return None;
        }
        let n = c.len() / 2;
        let mut out: Option<(f64, f64)> = None;
        let (mut ring, mut next) = (Vec::with_capacity(n + 12), Vec::with_capacity(n + 12));
        for k in 0..n + 2 {
            let (all, some) = face(n, k).fold((u32::MAX, 0), |(a, s), i| (a & bits[i], s | bits[i]));
            if all != 0 {
                continue;
            }
            ring.clear();
            ring.extend(face(n, k).map(|i| c[i]));
            for (_, side) in section.sides.iter().enumerate().filter(|(i, _)| some >> i & 1 == 1) {
                keep(&ring, |p| off(side, p), &mut next);
                std::mem::swap(&mut ring, &mut next);
            }
            for p in &ring {
                out = Some(out.map_or((p.y, p.y), |(l, h)| (l.min(p.y), h.max(p.y))));
            }
        }
        out
    }

    /// What a plane y = `at` cuts of it: a convex polygon of x and z.
    pub fn cut(&self, at: f64) -> Vec<DVec2> {
        let mut points = Vec::new();
        for face in self.faces() {
            for i in 0..face.len() {
                let (p, q) = (face[i], face[(i + 1) % face.len()]);
                let (a, b) = (p.y - at, q.y - at);
                if a.abs() < COINCIDENT {
                    points.push(DVec2::new(p.x, p.z));
                } else if a * b < 0.0 {
                    let m = p.lerp(q, a / (a - b));
                    points.push(DVec2::new(m.x, m.z));
                }
            }
        }
        hull(points)
    }
}

/// Corners of a face of a prism between two polygons of `n`: the one, the other, then its sides.
fn face(n: usize, k: usize) -> impl Iterator<Item = usize> {
    let (run, side) = match k {
        0 => (0..n, None),
        1 => (n..2 * n, None),
        _ => (0..0, Some([k - 2, (k - 1) % n, n + (k - 1) % n, n + k - 2])),
    };
    run.chain(side.into_iter().flatten())
}

/// The part of a ring where `off` is not above zero.
fn keep(ring: &[DVec3], off: impl Fn(DVec3) -> f64, out: &mut Vec<DVec3>) {
    out.clear();
    let Some(&last) = ring.last() else { return };
    let (mut p, mut a) = (last, off(last));
    for &q in ring {
        let b = off(q);
        if a * b < 0.0 {
            out.push(p.lerp(q, a / (a - b)));
        }
        if b <= 0.0 {
            out.push(q);
        }
        (p, a) = (q, b);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn block(min: DVec3, max: DVec3) -> Prism {
        let ring = |z: f64| {
            [(min.x, min.y), (max.x, min.y), (max.x, max.y), (min.x, max.y)].map(|(x, y)| DVec3::new(x, y, z))
        };
        Prism { corners: ring(min.z).into_iter().chain(ring(max.z)).collect() }
    }

    #[test]
    fn hulls_leave_out_what_lies_inside_and_on_sides() {
        let p = [(0.0, 0.0), (1.0, 0.0), (2.0, 0.0), (2.0, 2.0), (1.0, 1.0), (0.0, 2.0), (0.0, 0.0)]
            .map(|(x, y)| DVec2::new(x, y));
        assert_eq!(
            hull(p.to_vec()),
            [(0.0, 0.0), (2.0, 0.0), (2.0, 2.0), (0.0, 2.0)].map(|(x, y)| DVec2::new(x, y))
        );
    }

    #[test]
    fn blocks_stand_apart_or_overlap_by_what_is_told() {
        let a = block(DVec3::ZERO, DVec3::ONE);
        let by = |d: DVec3| a.apart(&a.mapped(|p| p + d));
        assert!((by(DVec3::new(1.5, 0.2, 0.0)) - 0.5).abs() < 1e-12);
        assert!((by(DVec3::new(0.2, 0.75, 0.0)) + 0.25).abs() < 1e-12);
        // Turned by 45° about z its corner reaches 0.5·√2 from its middle.
        let turned = a.mapped(|p| {
            glam::DMat3::from_rotation_z(std::f64::consts::FRAC_PI_4) * (p - DVec3::splat(0.5))
                + DVec3::new(2.0, 0.5, 0.5)
        });
        assert!((a.apart(&turned) - (1.0 - 0.5f64.sqrt())).abs() < 1e-12);
    }

    /// A block that leans through a section: the part inside is that of the cut.
    #[test]
    fn the_part_inside_a_section_is_found_along_y() {
        let corners = [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)].map(|(x, z)| DVec2::new(x, z));
        let section = Ring::new(corners.to_vec());
        let sheared =
            block(DVec3::ZERO, DVec3::new(4.0, 1.0, 1.0)).mapped(|p| DVec3::new(p.x, p.y + p.x, p.z));
        let (low, high) = sheared.inside(&section, 0.0).unwrap();
        assert!(low.abs() < 1e-12 && (high - 2.0).abs() < 1e-12, "{low} {high}");
        assert_eq!(sheared.mapped(|p| p + DVec3::new(0.0, 0.0, 1.1)).inside(&section, 0.0), None);
        assert_eq!(sheared.cut(2.5).len(), 4);
    }
}
