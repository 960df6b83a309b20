//! The piece as convex bodies: its panels as prisms, its bends and rolled arcs as slices. Holes are taken as
//! filled, and what is pressed is left out.

use glam::{DAffine3, DVec2, DVec3};
use ground::geom::ROUNDING;
use rustc_hash::FxHashMap as HashMap;

use crate::context::PieceContext;
use crate::formed::mesh::{FlatMesh, bend_lines};
use crate::formed::zones::{Kind, Zone, formed, frames};
use ground::geom::convex::Prism;

/// A part of a zone that is convex in the flat and, in a bend, short enough to stay so when it is bent.
#[derive(Clone, Debug, PartialEq)]
pub struct Body {
    pub zone: usize,
    /// Corners in the flat.
    pub ring: Vec<DVec2>,
    /// In the frame of its zone's neighbourhood: lying flat, and as formed where that differs.
    flat: Prism,
    bent: Option<Prism>,
}

impl Body {
    fn new(zone: usize, of: &Zone, ring: Vec<DVec2>, t: f64) -> Body {
        let faces = |place: &dyn Fn(DVec2, f64) -> DVec3| Prism {
            corners: [0.0, t].iter().flat_map(|h| ring.iter().map(|p| place(*p, *h))).collect(),
        };
        let flat = faces(&|p, h| p.extend(h));
        let bent = (!of.is_panel()).then(|| faces(&|p, h| formed(of, &DAffine3::IDENTITY, 1.0, t, p, h)));
        Body { zone, ring, flat, bent }
    }

    /// Whether it is another shape once it is formed.
    pub fn bends(&self) -> bool {
        self.bent.is_some()
    }

    pub fn as_it_is(&self, formed: bool) -> &Prism {
        self.bent.as_ref().filter(|_| formed).unwrap_or(&self.flat)
    }
}

/// More bodies than this are not looked at.
pub const MOST_BODIES: usize = 3_000;

/// Every body of the piece; where there are too many of them, those of its zones without what is cut from
/// their outline, and true.
pub fn bodies(m: &PieceContext, zones: &[Zone], t: f64) -> (Vec<Body>, bool) {
    let at = frames(zones, 1.0, t);
    let lines: Vec<Vec<f64>> =
        zones.iter().zip(&at).map(|(z, f)| slices(z, bend_lines(z, f, t), t)).collect();
    let exact = (m.outcome.outer.vertices.len() <= MOST_BODIES)
        .then(|| of_outline(m.outline_mesh(), zones, &lines, t))
        .flatten();
    let whole = exact.is_none();
    (exact.unwrap_or_else(|| of_zones(zones, &lines, t)), whole)
}

/// How far a slice of a bend may lie from its arc.
const OFF_ARC: f64 = 0.1;

/// Where a bend is cut into slices: at lines of its mesh, as few as keep near enough to its arc.
fn slices(zone: &Zone, lines: Vec<f64>, t: f64) -> Vec<f64> {
    let Some(bend) = zone.bend() else { return lines };
    let widest = 2.0 * (1.0 - (OFF_ARC / (bend.radius + t).max(OFF_ARC)).min(0.5)).acos() / bend.angle
        * bend.allowance;
    let mut out: Vec<f64> = Vec::new();
    for (i, u) in lines.iter().enumerate() {
        let far =
            lines.get(i + 1).is_none_or(|next| out.last().is_none_or(|last| next - last > widest + ROUNDING));
        if far {
            out.push(*u);
        }
    }
    out
}

/// Zones by their corners, bends slice by slice.
fn of_zones(zones: &[Zone], lines: &[Vec<f64>], t: f64) -> Vec<Body> {
    let mut out = Vec::new();
    for (k, (z, lines)) in zones.iter().zip(lines).enumerate() {
        let corner = |u: f64, v: f64| z.origin + z.along * u + z.along.perp() * v;
        if lines.is_empty() {
            out.push(Body::new(k, z, ground::geom::convex::hull(z.region.clone()), t));
        }
        for w in lines.windows(2) {
            let (Some(a), Some(b)) = (z.span_at(w[0]), z.span_at(w[1])) else { continue };
            out.push(Body::new(
                k,
                z,
                vec![corner(w[0], a.0), corner(w[1], b.0), corner(w[1], b.1), corner(w[0], a.1)],
                t,
            ));
        }
    }
    out
}

fn of_outline(mesh: &FlatMesh, zones: &[Zone], lines: &[Vec<f64>], t: f64) -> Option<Vec<Body>> {
    // Triangles of one zone, and in a bend of one slice, belong together.
    let slice = |zone: usize, centre: DVec2| {
        let z = &zones[zone];
        match &z.kind {
            Kind::Panel => 0,
            Kind::Bend(_) => lines[zone].partition_point(|u| *u < (centre - z.origin).dot(z.along)),
            // A cone's rays turn: its triangles stay as they are.
            Kind::Cone(_) => usize::MAX,
        }
    };
    let mut groups: HashMap<(usize, usize), Vec<[u32; 3]>> = HashMap::default();
    let mut out = Vec::new();
    for (t3, zone) in mesh.triangles.iter().zip(&mesh.triangle_zones) {
        let zone = *zone as usize;
        let corner = t3.map(|i| mesh.points[i as usize]);
        match slice(zone, (corner[0] + corner[1] + corner[2]) / 3.0) {
            usize::MAX => out.push(Body::new(zone, &zones[zone], corner.to_vec(), t)),
            k => groups.entry((zone, k)).or_default().push(*t3),
        }
    }
    let mut groups: Vec<_> = groups.into_iter().collect();
    groups.sort_by_key(|g| g.0);
    for ((zone, _), triangles) in groups {
        ground::halt::often();
        for ring in merged(&triangles, &mesh.points) {
            out.push(Body::new(
                zone,
                &zones[zone],
                ring.iter().map(|i| mesh.points[*i as usize]).collect(),
                t,
            ));
        }
    }
    (out.len() <= MOST_BODIES).then_some(out)
}

/// Triangles joined to convex polygons along their common sides (Hertel and Mehlhorn, 1983).
fn merged(triangles: &[[u32; 3]], points: &[DVec2]) -> Vec<Vec<u32>> {
    let mut rings: Vec<Vec<u32>> = triangles.iter().map(|t| t.to_vec()).collect();
    // The ring that a directed side belongs to.
    let mut owner: HashMap<(u32, u32), usize> = HashMap::default();
    for (k, r) in rings.iter().enumerate() {
        (0..r.len()).for_each(|i| {
            owner.insert((r[i], r[(i + 1) % r.len()]), k);
        });
    }
    let mut sides: Vec<(u32, u32)> =
        owner.keys().copied().filter(|(a, b)| a < b && owner.contains_key(&(*b, *a))).collect();
    sides.sort_unstable();
    let p = |i: u32| points[i as usize];
    let convex = |a: u32, b: u32, c: u32| (p(b) - p(a)).perp_dot(p(c) - p(b)) >= -ROUNDING;
    for (a, b) in sides {
        let (one, two) = (owner[&(a, b)], owner[&(b, a)]);
        if one == two {
            continue;
        }
        // Each ring from the far end of the side all the way round to its near end.
        let from = |r: &[u32], start: u32| {
            let at = r.iter().position(|i| *i == start).unwrap_or(0);
            r[at..].iter().chain(&r[..at]).copied().collect::<Vec<u32>>()
        };
        let (first, second) = (from(&rings[one], b), from(&rings[two], a));
        let n = (first.len(), second.len());
        if !convex(second[n.1 - 2], b, first[1]) || !convex(first[n.0 - 2], a, second[1]) {
            continue;
        }
        let joined: Vec<u32> = first[..n.0 - 1].iter().chain(&second[..n.1 - 1]).copied().collect();
        (0..joined.len()).for_each(|i| {
            owner.insert((joined[i], joined[(i + 1) % joined.len()]), one);
        });
        rings[one] = joined;
        rings[two].clear();
    }
    rings.retain(|r| r.len() > 2);
    rings
}
