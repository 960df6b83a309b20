//! A closed surface with the edges that a drawing shows of it.

use std::collections::{HashMap, HashSet};

use glam::{DAffine3, DVec2, DVec3};
use ground::geom::Contour;
use sheet::mesh::{FlatMesh, Solid};
use sheet::result::PieceResult;

/// A surface, its sharp edges, and the lines where it goes over smoothly; by points of the solid.
#[derive(Clone, Debug, Default)]
pub struct Body {
    pub solid: Solid,
    pub sharp: Vec<[u32; 2]>,
    pub soft: Vec<[u32; 2]>,
}

/// An outline that turns by less than this goes on smoothly, rad.
const SMOOTH: f64 = 0.05;
/// Between facets of a body whose edges nobody tells, this much is an edge, rad: chords of rounded corners
/// turn by less.
const EDGE: f64 = 0.55;
/// Places of the flat are told apart by this, mm.
const CELL: f64 = 1e-3;

/// The formed piece of a mesh.
pub fn of_sheet(p: &PieceResult, mesh: &FlatMesh) -> Body {
    let solid = mesh.solid(&p.zones, 1.0, p.thickness);
    let n = mesh.points.len() as u32;
    let corners = corners(std::iter::once(&p.flat.outer).chain(p.flat.holes.iter().map(|h| &h.contour)));
    let is_corner = |i: u32| {
        let c = cell(mesh.points[i as usize]);
        (-1..2).any(|x| (-1..2).any(|y| corners.contains(&(c.0 + x, c.1 + y))))
    };
    let mut sharp: Vec<[u32; 2]> = Vec::with_capacity(2 * mesh.walls.len());
    for &(a, b, _) in &mesh.walls {
        sharp.push([a, b]);
        sharp.push([a + n, b + n]);
        if is_corner(a) {
            sharp.push([a, a + n]);
        }
    }
    sharp.extend(&mesh.wells.edges);
    let soft = mesh.creases.iter().flat_map(|&(a, b)| [[a, b], [a + n, b + n]]).collect();
    Body { solid, sharp, soft }
}

fn cell(p: DVec2) -> (i64, i64) {
    ((p.x / CELL).round() as i64, (p.y / CELL).round() as i64)
}

/// Where an outline turns.
fn corners<'a>(contours: impl Iterator<Item = &'a Contour>) -> HashSet<(i64, i64)> {
    let mut out = HashSet::new();
    for c in contours {
        let n = c.vertices.len();
        for k in 0..n {
            let (before, after) = (c.segment((k + n - 1) % n), c.segment(k));
            if before.tangent(true).angle_to(after.tangent(false)).abs() > SMOOTH {
                out.insert(cell(after.a));
            }
        }
    }
    out
}

/// A body of which only the surface is known: its edges are where facets meet at an angle.
pub fn bare(points: &[DVec3], triangles: &[[u32; 3]], at: &DAffine3) -> Body {
    let points: Vec<DVec3> = points.iter().map(|p| at.transform_point3(*p)).collect();
    let flipped = at.matrix3.determinant() < 0.0;
    let triangles: Vec<[u32; 3]> =
        triangles.iter().map(|&[a, b, c]| if flipped { [a, c, b] } else { [a, b, c] }).collect();
    // Points told more than once are one.
    let mut known: HashMap<[i64; 3], u32> = HashMap::new();
    let key = |p: DVec3| (p / (CELL * 0.1)).to_array().map(|v| v.round() as i64);
    let one: Vec<u32> =
        points.iter().enumerate().map(|(i, p)| *known.entry(key(*p)).or_insert(i as u32)).collect();
    let triangles: Vec<[u32; 3]> = triangles
        .into_iter()
        .map(|t| t.map(|i| one[i as usize]))
        .filter(|[a, b, c]| a != b && b != c && a != c)
        .collect();
    let normal = |t: &[u32; 3]| {
        let [a, b, c] = t.map(|i| points[i as usize]);
        (b - a).cross(c - a).normalize_or_zero()
    };
    let mut sides: HashMap<(u32, u32), Vec<DVec3>> = HashMap::new();
    for t in &triangles {
        let n = normal(t);
        for k in 0..3 {
            let (a, b) = (t[k], t[(k + 1) % 3]);
            sides.entry((a.min(b), a.max(b))).or_default().push(n);
        }
    }
    let turns = |n: &[DVec3]| n.len() != 2 || n[0].dot(n[1]) < EDGE.cos();
    let mut sharp: Vec<[u32; 2]> =
        sides.iter().filter(|(_, n)| turns(n)).map(|((a, b), _)| [*a, *b]).collect();
    // Of a map no order can be relied on.
    sharp.sort_unstable();
    Body { solid: Solid { points, triangles }, sharp, soft: Vec::new() }
}
