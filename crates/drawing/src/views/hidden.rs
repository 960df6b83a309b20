//! What of edges is seen: each is cut where a facet nearer to the eye begins and ends to cover it. Nothing is
//! sampled: along an edge both its place and its distance behind a facet are linear.

use std::collections::HashMap;

use glam::{DVec2, DVec3};
use ground::geom::{Bounds, CHORD};

use super::merged::{Layer, merged};
use super::{Body, Sight, Wires};

/// A facet lies before an edge from this distance on, as a share of what is seen.
const BEFORE: f64 = 1e-6;
/// Parts of an edge shorter than this, mm, are no lines.
const SHORTEST: f64 = 1e-3;
/// Facets steeper than this are seen as lines, and cover nothing.
const STEEP: f64 = 1e-7;

/// Bodies seen from one place: facets towards the eye, by the cells of the picture that they cover.
pub struct Scene {
    facets: Vec<Facet>,
    edges: Vec<(Layer, [DVec3; 2])>,
    grid: Grid,
    depth: f64,
}

struct Facet {
    corners: [DVec2; 3],
    /// Nearness over the plane of the picture: `at + slope · p`.
    at: f64,
    slope: DVec2,
    /// Its nearest corner.
    top: f64,
}

/// Everything drawn of the bodies; without `hidden` only what is seen.
pub fn wires(bodies: &[Body], sight: &Sight, hidden: bool) -> Wires {
    let scene = Scene::of(bodies, sight);
    let mut lines: Vec<(Layer, [DVec2; 2])> = Vec::new();
    let mut visits = Visits::new(scene.facets.len());
    for (layer, edge) in &scene.edges {
        ground::halt::often();
        let [a, b] = edge.map(|p| p.truncate());
        let covered = scene.covered(*edge, &mut visits);
        let mut from = 0.0;
        let shortest = SHORTEST / a.distance(b).max(SHORTEST);
        let mut put = |layer: Layer, from: f64, to: f64| {
            if to - from > shortest {
                lines.push((layer, [a.lerp(b, from), a.lerp(b, to)]));
            }
        };
        for (low, high) in covered.into_iter().chain([(1.0, 1.0)]) {
            put(*layer, from, low);
            if hidden && *layer == Layer::Seen {
                put(Layer::Hidden, low, high);
            }
            from = high;
        }
    }
    let [seen, soft, hidden] = merged(lines);
    // Chords of one round edge at both ends of a body differ by less than this.
    Wires { seen, soft, hidden }.clear(CHORD * 1.2)
}

impl Scene {
    pub fn of(bodies: &[Body], sight: &Sight) -> Scene {
        let mut facets = Vec::new();
        let mut edges = Vec::new();
        let mut extent = Bounds::of([]);
        for body in bodies {
            let points: Vec<DVec3> = body.solid.points.iter().map(|p| sight.place(*p)).collect();
            points.iter().for_each(|p| extent.add(p.truncate()));
            let ends = |e: &[u32; 2]| e.map(|i| points[i as usize]);
            edges.extend(body.sharp.iter().map(|e| (Layer::Seen, ends(e))));
            edges.extend(silhouettes(body, &points).iter().map(|e| (Layer::Seen, ends(e))));
            edges.extend(body.soft.iter().map(|e| (Layer::Soft, ends(e))));
            facets
                .extend(body.solid.triangles.iter().filter_map(|t| Facet::of(t.map(|i| points[i as usize]))));
        }
        // An edge that is seen end-on is a point.
        edges.retain(|(_, [a, b])| a.truncate().distance(b.truncate()) > SHORTEST);
        // The nearest first: what they cover needs no further look.
        facets.sort_by(|a: &Facet, b: &Facet| b.top.total_cmp(&a.top));
        let mut grid = Grid::new(extent, facets.len());
        for (i, f) in facets.iter().enumerate() {
            grid.add(i as u32, &f.corners);
        }
        Scene { facets, edges, grid, depth: BEFORE * extent.size().max_element().max(1.0) }
    }

    /// The parts of an edge that something lies before, in order and apart.
    fn covered(&self, [a, b]: [DVec3; 2], visits: &mut Visits) -> Vec<(f64, f64)> {
        let mut out: Vec<(f64, f64)> = Vec::new();
        visits.next();
        let deepest = a.z.min(b.z);
        let near = SHORTEST * 0.1 / a.truncate().distance(b.truncate()).max(SHORTEST);
        let whole = self.grid.along(a.truncate(), b.truncate(), &mut |i| {
            let facet = &self.facets[i as usize];
            if facet.top <= deepest {
                return Look::Behind;
            }
            let part = if visits.first(i) { facet.covers(a, b, self.depth) } else { None };
            if let Some((low, high)) = part {
                if low <= near && high >= 1.0 - near {
                    return Look::Whole;
                }
                out.push((low, high));
            }
            Look::On
        });
        if whole {
            return vec![(0.0, 1.0)];
        }
        out.sort_by(|p, q| p.0.total_cmp(&q.0));
        let mut joined: Vec<(f64, f64)> = Vec::new();
        for (low, high) in out {
            match joined.last_mut() {
                Some(last) if low <= last.1 + near => last.1 = last.1.max(high),
                _ => joined.push((low, high)),
            }
        }
        joined
    }
}

impl Facet {
    /// None where it looks away or is seen as a line.
    fn of([a, b, c]: [DVec3; 3]) -> Option<Facet> {
        let n = (b - a).cross(c - a);
        let long = n.length();
        if n.z <= STEEP * long || long < 1e-12 {
            return None;
        }
        let slope = DVec2::new(-n.x, -n.y) / n.z;
        Some(Facet {
            corners: [a, b, c].map(|p| p.truncate()),
            at: a.z - slope.dot(a.truncate()),
            slope,
            top: a.z.max(b.z).max(c.z),
        })
    }

    /// From where to where along an edge it lies before it, its border among it: what ends there is drawn by
    /// an edge of its own.
    fn covers(&self, a: DVec3, b: DVec3, before: f64) -> Option<(f64, f64)> {
        let (mut low, mut high) = (0.0f64, 1.0f64);
        // Where a linear value that is p at the start and q at the end is not below zero.
        let mut keep = |p: f64, q: f64| {
            if p < 0.0 && q < 0.0 {
                low = 2.0;
            } else if p < 0.0 {
                low = low.max(p / (p - q));
            } else if q < 0.0 {
                high = high.min(p / (p - q));
            }
        };
        let (p, q) = (a.truncate(), b.truncate());
        for k in 0..3 {
            let (from, to) = (self.corners[k], self.corners[(k + 1) % 3]);
            let along = (to - from).normalize_or_zero();
            // On the line itself is inside.
            let side = |p: DVec2| along.perp_dot(p - from) + before;
            keep(side(p), side(q));
        }
        // Beyond the tip of a needle both of its sides are still near.
        let way = (q - p).normalize_or_zero();
        let reach = self.corners.map(|c| (c - p).dot(way));
        let first = reach.into_iter().fold(f64::INFINITY, f64::min) - before;
        let last = reach.into_iter().fold(f64::NEG_INFINITY, f64::max) + before;
        keep(-first, (q - p).length() - first);
        keep(last, last - (q - p).length());
        let over = |p: DVec3| self.at + self.slope.dot(p.truncate()) - p.z - before;
        // A steep facet's nearness is less sure.
        let spare = before * self.slope.length();
        keep(over(a) - spare, over(b) - spare);
        (low < high).then_some((low, high))
    }
}

/// Sides between a facet that looks to the eye and one that does not.
fn silhouettes(body: &Body, points: &[DVec3]) -> Vec<[u32; 2]> {
    let mut towards: HashMap<[u32; 2], (u8, u8)> = HashMap::new();
    for t in &body.solid.triangles {
        let [a, b, c] = t.map(|i| points[i as usize]);
        let n = (b - a).cross(c - a);
        let looks = n.z > STEEP.sqrt() * n.length();
        for k in 0..3 {
            let (a, b) = (t[k], t[(k + 1) % 3]);
            let seen = towards.entry([a.min(b), a.max(b)]).or_default();
            if looks {
                seen.0 += 1;
            } else {
                seen.1 += 1;
            }
        }
    }
    let mut out: Vec<[u32; 2]> =
        towards.into_iter().filter(|(_, n)| n.0 > 0 && n.1 > 0).map(|(e, _)| e).collect();
    out.sort_unstable();
    out
}

/// What a look at a facet says of those after it in its cell.
enum Look {
    On,
    /// They lie behind the edge.
    Behind,
    /// Nothing of the edge is left.
    Whole,
}

/// Which facets were met on the way along this edge already.
struct Visits {
    marks: Vec<u32>,
    round: u32,
}

impl Visits {
    fn new(n: usize) -> Visits {
        Visits { marks: vec![0; n], round: 0 }
    }

    fn next(&mut self) {
        self.round += 1;
    }

    fn first(&mut self, i: u32) -> bool {
        std::mem::replace(&mut self.marks[i as usize], self.round) != self.round
    }
}

/// Cells of the picture, with the facets that touch each.
struct Grid {
    min: DVec2,
    pace: DVec2,
    n: usize,
    cells: Vec<Vec<u32>>,
}

impl Grid {
    fn new(extent: Bounds, facets: usize) -> Grid {
        let n = ((facets as f64).sqrt() * 0.7).ceil().clamp(4.0, 256.0) as usize;
        let size = extent.size().max(DVec2::splat(1e-6)) * 1.000_001;
        Grid { min: extent.min, pace: size / n as f64, n, cells: vec![Vec::new(); n * n] }
    }

    fn row(&self, y: f64) -> usize {
        (((y - self.min.y) / self.pace.y).floor().max(0.0) as usize).min(self.n - 1)
    }

    fn column(&self, x: f64) -> usize {
        (((x - self.min.x) / self.pace.x).floor().max(0.0) as usize).min(self.n - 1)
    }

    /// Row by row, from its leftmost to its rightmost point in that row.
    fn add(&mut self, i: u32, corners: &[DVec2; 3]) {
        let b = Bounds::of(corners.iter().copied());
        for row in self.row(b.min.y)..=self.row(b.max.y) {
            let low = self.min.y + self.pace.y * row as f64;
            let high = low + self.pace.y;
            let (mut left, mut right) = (f64::INFINITY, f64::NEG_INFINITY);
            let mut reach = |x: f64| (left, right) = (left.min(x), right.max(x));
            for k in 0..3 {
                let (p, q) = (corners[k], corners[(k + 1) % 3]);
                if p.y >= low && p.y <= high {
                    reach(p.x);
                }
                for y in [low, high] {
                    if (p.y - y) * (q.y - y) < 0.0 {
                        reach(p.x + (q.x - p.x) * (y - p.y) / (q.y - p.y));
                    }
                }
            }
            if left > right {
                (left, right) = (b.min.x, b.max.x);
            }
            // The next cell as well where it only touches.
            let spare = self.pace.x * 1e-6;
            for column in self.column(left - spare)..=self.column(right + spare) {
                self.cells[row * self.n + column].push(i);
            }
        }
    }

    /// The facets near a line, in each cell the nearest to the eye first; true where one covers it whole.
    fn along(&self, a: DVec2, b: DVec2, each: &mut impl FnMut(u32) -> Look) -> bool {
        let (low, high) = if a.y <= b.y { (a, b) } else { (b, a) };
        let at = |y: f64| {
            if high.y - low.y < 1e-9 {
                low.x
            } else {
                low.x + (high.x - low.x) * (y - low.y) / (high.y - low.y)
            }
        };
        let spare = self.pace * 1e-3;
        for row in self.row(low.y - spare.y)..=self.row(high.y + spare.y) {
            let from = (self.min.y + self.pace.y * row as f64 - spare.y).clamp(low.y, high.y);
            let to = (self.min.y + self.pace.y * (row + 1) as f64 + spare.y).clamp(low.y, high.y);
            let (x0, x1) = if high.y - low.y < 1e-9 {
                (a.x.min(b.x), a.x.max(b.x))
            } else {
                (at(from).min(at(to)), at(from).max(at(to)))
            };
            for column in self.column(x0 - spare.x)..=self.column(x1 + spare.x) {
                for i in &self.cells[row * self.n + column] {
                    match each(*i) {
                        Look::On => {}
                        Look::Behind => break,
                        Look::Whole => return true,
                    }
                }
            }
        }
        false
    }
}
