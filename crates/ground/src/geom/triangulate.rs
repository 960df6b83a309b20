//! Region with holes → triangles, for display and mesh output. Creases (tangent lines and facets of bends)
//! become edges of the triangulation, so top, bottom and walls share their vertices and the solid is
//! watertight by construction.

use crate::geom::COINCIDENT;
use rustc_hash::{FxHashMap as HashMap, FxHashSet};

use glam::DVec2;
use spade::handles::{DirectedEdgeHandle, FixedFaceHandle, InnerTag};
use spade::{CdtEdge, ConstrainedDelaunayTriangulation, HasPosition, Point2, Triangulation};

type Edge<'a> = DirectedEdgeHandle<'a, Spot, (), CdtEdge<()>, ()>;

/// A corner that lets the triangulation be halted: it takes seconds for the largest sheets, and asks for
/// positions all the time.
#[derive(Clone, Copy)]
struct Spot(Point2<f64>);

impl HasPosition for Spot {
    type Scalar = f64;

    fn position(&self) -> Point2<f64> {
        crate::halt::often();
        self.0
    }
}

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

/// Crease lines of one family: parallel to one another, or rays from one point.
#[derive(Clone, Debug, PartialEq)]
pub struct Creases {
    pub family: Family,
    /// Sorted by `at`.
    pub lines: Vec<Crease>,
}

#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Family {
    /// Lines across this unit normal; `at` is the distance along it.
    Parallel(DVec2),
    /// Rays from this point; `at` is the direction, rad.
    Rays(DVec2),
}

/// One crease, from `low` to `high` along itself.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Crease {
    pub at: f64,
    pub low: f64,
    pub high: f64,
}

/// Points nearer to a crease than this lie on it.
const ON: f64 = 1e-7;

impl Family {
    /// Place of a point across and along the family.
    fn place(&self, p: DVec2) -> (f64, f64) {
        match *self {
            Family::Parallel(n) => (p.dot(n), p.dot(n.perp())),
            Family::Rays(c) => ((p - c).to_angle(), (p - c).length()),
        }
    }

    /// Signed distance of a point from the line at `at`.
    fn off(&self, at: f64, p: DVec2) -> f64 {
        match *self {
            Family::Parallel(n) => p.dot(n) - at,
            Family::Rays(c) => DVec2::from_angle(at).perp_dot(p - c),
        }
    }

    /// The point moved onto the line at `at`.
    fn onto(&self, at: f64, p: DVec2) -> DVec2 {
        match *self {
            Family::Parallel(n) => p - n * (p.dot(n) - at),
            Family::Rays(c) => c + DVec2::from_angle(at) * (p - c).dot(DVec2::from_angle(at)),
        }
    }

    /// `ON`, as a difference in `at` where this point lies.
    fn slack(&self, along: f64) -> f64 {
        match self {
            Family::Parallel(_) => ON,
            // All rays run through their centre.
            Family::Rays(_) if along < COINCIDENT => f64::INFINITY,
            Family::Rays(_) => ON / along,
        }
    }
}

impl Creases {
    /// The crease that a point lies on.
    fn of(&self, p: DVec2) -> impl Iterator<Item = usize> + '_ {
        let (at, along) = self.family.place(p);
        let slack = self.family.slack(along);
        let first = self.lines.partition_point(|l| l.at < at - slack);
        let near = move |l: &&Crease| l.at <= at + slack;
        self.lines[first..]
            .iter()
            .take_while(near)
            .enumerate()
            .filter(move |(_, l)| along >= l.low - COINCIDENT && along <= l.high + COINCIDENT)
            .map(move |(k, _)| first + k)
    }

    /// Where a side crosses creases between its ends, as fractions of it.
    fn crossings(&self, a: DVec2, b: DVec2, out: &mut Vec<(f64, DVec2)>) {
        let ((at_a, along_a), (at_b, along_b)) = (self.family.place(a), self.family.place(b));
        let (low, high) = (at_a.min(at_b), at_a.max(at_b));
        let slack = self.family.slack(along_a.min(along_b)).min(1e-3);
        let first = self.lines.partition_point(|l| l.at <= low + slack);
        for l in self.lines[first..].iter().take_while(|l| l.at < high - slack) {
            let (fa, fb) = (self.family.off(l.at, a), self.family.off(l.at, b));
            if fa == fb {
                continue;
            }
            let s = fa / (fa - fb);
            let p = self.family.onto(l.at, a.lerp(b, s));
            let along = self.family.place(p).1;
            if (0.0..=1.0).contains(&s) && along >= l.low - COINCIDENT && along <= l.high + COINCIDENT {
                out.push((s, p));
            }
        }
    }
}

/// Points gathered once each, snapped onto the creases that they lie on.
struct Net<'a> {
    creases: &'a [Creases],
    points: Vec<DVec2>,
    seen: HashMap<(i64, i64), u32>,
    /// By family and crease: place along it, and point.
    on: Vec<Vec<Vec<(f64, u32)>>>,
    creased: Vec<bool>,
}

impl Net<'_> {
    fn add(&mut self, p: DVec2) -> u32 {
        let key = ((p.x * 1e7).round() as i64, (p.y * 1e7).round() as i64);
        if let Some(&i) = self.seen.get(&key) {
            return i;
        }
        let onto = |set: &Creases| set.of(p).next().map(|k| set.family.onto(set.lines[k].at, p));
        let at = self.creases.iter().find_map(onto).unwrap_or(p);
        let snapped = ((at.x * 1e7).round() as i64, (at.y * 1e7).round() as i64);
        if let Some(&i) = self.seen.get(&snapped) {
            self.seen.insert(key, i);
            return i;
        }
        let i = self.points.len() as u32;
        let mut creased = false;
        for (set, on) in self.creases.iter().zip(&mut self.on) {
            let along = set.family.place(at).1;
            for k in set.of(at) {
                on[k].push((along, i));
                creased = true;
            }
        }
        self.points.push(at);
        self.creased.push(creased);
        self.seen.insert(key, i);
        self.seen.insert(snapped, i);
        i
    }
}

/// Triangulates the region inside `loops` (even-odd), with the creases that lie in it as sides of triangles.
pub fn triangulate(loops: &[TaggedLoop], creases: &[Creases]) -> Triangles {
    let mut net = Net {
        creases,
        points: Vec::new(),
        seen: HashMap::default(),
        on: creases.iter().map(|c| vec![Vec::new(); c.lines.len()]).collect(),
        creased: Vec::new(),
    };
    let mut walls = Vec::new();
    let mut crossed: Vec<(f64, DVec2)> = Vec::new();
    let mut corners: Vec<u32> = Vec::new();
    for l in loops {
        crate::halt::point();
        corners.clear();
        corners.extend(l.iter().map(|v| net.add(v.0)));
        for k in 0..l.len() {
            crate::halt::point();
            let next = (k + 1) % l.len();
            let ((a, tag), (b, _)) = (l[k], l[next]);
            let (mut last, end) = (corners[k], corners[next]);
            crossed.clear();
            creases.iter().for_each(|set| set.crossings(a, b, &mut crossed));
            crossed.sort_by(|p, q| p.0.total_cmp(&q.0));
            for &(_, p) in &crossed {
                let p = net.add(p);
                if p != last && p != end {
                    walls.push((last, p, tag));
                    last = p;
                }
            }
            if last != end {
                walls.push((last, end, tag));
            }
        }
    }
    let Net { points, on, creased, .. } = net;
    let mut edges: Vec<[usize; 2]> = walls.iter().map(|w| [w.0 as usize, w.1 as usize]).collect();
    let mut sides: Vec<(u32, u32)> = Vec::new();
    for mut line in on.into_iter().flatten() {
        crate::halt::point();
        line.sort_by(|a, b| a.0.total_cmp(&b.0));
        sides.extend(line.windows(2).map(|w| (w[0].1, w[1].1)));
    }
    edges.extend(sides.iter().map(|s| [s.0 as usize, s.1 as usize]));
    let mut bent = vec![false; points.len()];
    for pair in walls.windows(2).filter(|w| w[0].1 == w[1].0) {
        let [a, m, b] = [pair[0].0, pair[0].1, pair[1].1].map(|i| points[i as usize]);
        let (into, away) = ((m - a).normalize_or_zero(), (b - m).normalize_or_zero());
        bent[pair[0].1 as usize] = !creased[pair[0].1 as usize] && into.perp_dot(away).abs() > 1e-3;
    }
    let inside = classify(&points, &bent, edges, &walls);
    let mut shared: HashMap<(u32, u32), u8> = HashMap::default();
    for t in &inside {
        crate::halt::point();
        for k in 0..3 {
            let (a, b) = (t[k], t[(k + 1) % 3]);
            *shared.entry((a.min(b), a.max(b))).or_default() += 1;
        }
    }
    let creases = sides.into_iter().filter(|&(a, b)| shared.get(&(a.min(b), a.max(b))) == Some(&2)).collect();
    Triangles { points, triangles: inside, walls, creases }
}

/// Rectangles and mirrored corners lie on one circle, the case that exact predicates are slow at. Sheared by
/// so little (while neighbours are told) they do not, and what lay in a line still does.
const SHEAR: f64 = 1.0 / 1_048_576.0;

/// Left over from sums that are nought: numbers so small are refused there, and with them the whole face.
fn placed(p: DVec2) -> Spot {
    let rounded = |v: f64| if v.abs() < f64::EPSILON * f64::EPSILON { 0.0 } else { v };
    Spot(Point2::new(rounded(p.x + p.y * SHEAR), rounded(p.y)))
}

/// Corners of one circle all lie on a circle, the one case that exact predicates are slow at. Moved by less
/// than anything that is measured (1e-8 mm, by a fixed pattern, and only while neighbours are told), they are
/// triangulated four times as fast.
fn shaken(p: DVec2, i: usize) -> Spot {
    let h = (i as u64).wrapping_mul(0x9E37_79B9_7F4A_7C15) >> 40;
    let by = |bits: u64| (bits as f64 / 4096.0 - 0.5) * 1e-8;
    placed(DVec2::new(p.x + by(h & 0xFFF), p.y + by(h >> 12)))
}

/// Constrained Delaunay, then the triangles that an odd number of walls separates from the outside.
fn classify(
    points: &[DVec2],
    bent: &[bool],
    edges: Vec<[usize; 2]>,
    walls: &[(u32, u32, u32)],
) -> Vec<[u32; 3]> {
    let vertices = points
        .iter()
        .zip(bent)
        .enumerate()
        .map(|(i, (p, bent))| if *bent { shaken(*p, i) } else { placed(*p) })
        .collect();
    let Ok(cdt) = ConstrainedDelaunayTriangulation::<Spot>::try_bulk_load_cdt(vertices, edges, |_| {}) else {
        return Vec::new();
    };
    if cdt.num_vertices() != points.len() {
        return Vec::new();
    }
    let is_wall: FxHashSet<(usize, usize)> =
        walls.iter().map(|w| ((w.0.min(w.1)) as usize, (w.0.max(w.1)) as usize)).collect();
    // 0 not reached, 1 outside, 2 inside.
    let mut colour = vec![0u8; cdt.num_all_faces()];
    let mut stack = Vec::new();
    let spread =
        |edge: Edge<'_>, here: u8, stack: &mut Vec<FixedFaceHandle<InnerTag>>, colour: &mut Vec<u8>| {
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
        crate::halt::point();
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
