//! Region with holes → triangles, for display and mesh output. Creases (tangent lines and facets of bends) become
//! edges of the triangulation, so top, bottom and walls share their vertices and the solid is watertight by construction.

use rustc_hash::{FxHashMap as HashMap, FxHashSet};

use glam::DVec2;
use spade::handles::{DirectedEdgeHandle, FixedFaceHandle, InnerTag};
use spade::{CdtEdge, ConstrainedDelaunayTriangulation, Point2, Triangulation};

type Edge<'a> = DirectedEdgeHandle<'a, Point2<f64>, (), CdtEdge<()>, ()>;

/// A loop of straight sides: points, each with the tag of the side that leaves it.
pub type TaggedLoop = Vec<(DVec2, u32)>;

#[derive(Clone, Debug, Default)]
pub struct Triangles {
    pub points: Vec<DVec2>,
    /// Counter-clockwise triples.
    pub triangles: Vec<[u32; 3]>,
    /// Boundary sides with material on their left, and their tags.
    pub walls: Vec<(u32, u32, u32)>,
    /// Crease sides that lie in the material.
    pub creases: Vec<(u32, u32)>,
}

/// Triangulates the region inside `loops` (even-odd). `creases` are upright lines at these x, running through the whole region.
pub fn triangulate(loops: &[TaggedLoop], creases: &[f64]) -> Triangles {
    let mut points: Vec<DVec2> = Vec::new();
    let mut seen: HashMap<(i64, i64), u32> = HashMap::default();
    let mut walls = Vec::new();
    let mut on_crease: Vec<Vec<u32>> = vec![Vec::new(); creases.len()];
    let mut index = |p: DVec2, points: &mut Vec<DVec2>| {
        let key = ((p.x * 1e7).round() as i64, (p.y * 1e7).round() as i64);
        *seen.entry(key).or_insert_with(|| {
            points.push(p);
            points.len() as u32 - 1
        })
    };
    for l in loops {
        for k in 0..l.len() {
            let ((a, tag), (b, _)) = (l[k], l[(k + 1) % l.len()]);
            let mut last = index(snapped(a, creases), &mut points);
            let end = index(snapped(b, creases), &mut points);
            for x in between(creases, a.x, b.x) {
                let p = index(DVec2::new(x, a.y + (b.y - a.y) * (x - a.x) / (b.x - a.x)), &mut points);
                if p != last {
                    walls.push((last, p, tag));
                }
                last = p;
            }
            if last != end {
                walls.push((last, end, tag));
            }
        }
    }
    for (i, p) in points.iter().enumerate() {
        if let Ok(k) = creases.binary_search_by(|x| x.total_cmp(&p.x)) {
            on_crease[k].push(i as u32);
        }
    }
    let mut edges: Vec<[usize; 2]> = walls.iter().map(|w| [w.0 as usize, w.1 as usize]).collect();
    for line in &mut on_crease {
        line.sort_by(|a, b| points[*a as usize].y.total_cmp(&points[*b as usize].y));
        edges.extend(line.windows(2).map(|w| [w[0] as usize, w[1] as usize]));
    }
    let mut bent = vec![false; points.len()];
    for pair in walls.windows(2).filter(|w| w[0].1 == w[1].0) {
        let [a, m, b] = [pair[0].0, pair[0].1, pair[1].1].map(|i| points[i as usize]);
        let (into, away) = ((m - a).normalize_or_zero(), (b - m).normalize_or_zero());
        let on_crease = creases.binary_search_by(|x| x.total_cmp(&m.x)).is_ok();
        bent[pair[0].1 as usize] = !on_crease && into.perp_dot(away).abs() > 1e-3;
    }
    let inside = classify(&points, &bent, edges, &walls);
    let mut sides: HashMap<(u32, u32), u8> = HashMap::default();
    for t in &inside {
        for k in 0..3 {
            let (a, b) = (t[k], t[(k + 1) % 3]);
            *sides.entry((a.min(b), a.max(b))).or_default() += 1;
        }
    }
    let creases =
        on_crease.iter().flat_map(|line| line.windows(2).map(|w| (w[0], w[1]))).filter(|&(a, b)| sides.get(&(a.min(b), a.max(b))) == Some(&2)).collect();
    Triangles { points, triangles: inside, walls, creases }
}

/// The creases strictly between two x, in the order of travel.
fn between(creases: &[f64], from: f64, to: f64) -> Vec<f64> {
    let (low, high) = (from.min(to), from.max(to));
    let start = creases.partition_point(|&x| x <= low + 1e-7);
    let mut out: Vec<f64> = creases[start..].iter().copied().take_while(|&x| x < high - 1e-7).collect();
    if from > to {
        out.reverse();
    }
    out
}

/// A point within a coincidence of a crease is moved onto it.
fn snapped(p: DVec2, creases: &[f64]) -> DVec2 {
    let k = creases.partition_point(|&x| x < p.x);
    for x in [k.checked_sub(1), Some(k)].into_iter().flatten().filter_map(|k| creases.get(k)) {
        if (x - p.x).abs() <= 1e-7 {
            return DVec2::new(*x, p.y);
        }
    }
    p
}

/// Corners of one circle all lie on a circle, the one case that exact predicates are slow at. Moved by less than anything that is measured
/// (1e-8 mm, by a fixed pattern, and only while neighbours are told), they are triangulated four times as fast.
fn shaken(p: DVec2, i: usize) -> Point2<f64> {
    let h = (i as u64).wrapping_mul(0x9E37_79B9_7F4A_7C15) >> 40;
    let by = |bits: u64| (bits as f64 / 4096.0 - 0.5) * 1e-8;
    Point2::new(p.x + by(h & 0xFFF), p.y + by(h >> 12))
}

/// Constrained Delaunay, then the triangles that an odd number of walls separates from the outside.
fn classify(points: &[DVec2], bent: &[bool], edges: Vec<[usize; 2]>, walls: &[(u32, u32, u32)]) -> Vec<[u32; 3]> {
    let vertices = points.iter().zip(bent).enumerate().map(|(i, (p, bent))| if *bent { shaken(*p, i) } else { Point2::new(p.x, p.y) }).collect();
    let Ok(cdt) = ConstrainedDelaunayTriangulation::<Point2<f64>>::try_bulk_load_cdt(vertices, edges, |_| {}) else {
        return Vec::new();
    };
    if cdt.num_vertices() != points.len() {
        return Vec::new();
    }
    let is_wall: FxHashSet<(usize, usize)> = walls.iter().map(|w| ((w.0.min(w.1)) as usize, (w.0.max(w.1)) as usize)).collect();
    // 0 not reached, 1 outside, 2 inside.
    let mut colour = vec![0u8; cdt.num_all_faces()];
    let mut stack = Vec::new();
    let spread = |edge: Edge<'_>, here: u8, stack: &mut Vec<FixedFaceHandle<InnerTag>>, colour: &mut Vec<u8>| {
        let Some(face) = edge.face().as_inner() else { return };
        let face = face.fix();
        if colour[face.index()] == 0 {
            let (a, b) = (edge.from().fix().index(), edge.to().fix().index());
            colour[face.index()] = if is_wall.contains(&(a.min(b), a.max(b))) { 3 - here } else { here };
            stack.push(face);
        }
    };
    for edge in cdt.convex_hull() {
        spread(edge, 1, &mut stack, &mut colour);
        spread(edge.rev(), 1, &mut stack, &mut colour);
    }
    let mut inside = Vec::new();
    while let Some(face) = stack.pop() {
        let here = colour[face.index()];
        let face = cdt.face(face);
        for edge in face.adjacent_edges() {
            spread(edge.rev(), here, &mut stack, &mut colour);
        }
        if here == 2 {
            inside.push(face.vertices().map(|v| v.fix().index() as u32));
        }
    }
    inside
}
