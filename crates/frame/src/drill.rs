//! Holes and notches cut out of a body: prisms subtracted from it, those that stand clear of one another at
//! once.

use ground::geom::{COINCIDENT, ROUNDING};
use std::panic::{AssertUnwindSafe, catch_unwind};

use boolmesh::prelude::{Manifold, OpType, compute_boolean};
use glam::{DVec2, DVec3};

use super::body::Body;
use super::bores::{RIM, Walls, plan};
use super::model::Hole;
use super::pressed::Pressed;
use super::profile::{Profile, ring};

/// How far a prism stands out of what it cuts, mm.
const CLEAR: f64 = 1.0;

/// A prism or a cone cut off: the ring of its plan at the top, and at its floor.
struct Prism {
    ring: Vec<DVec3>,
    floor: Vec<DVec3>,
    low: DVec3,
    high: DVec3,
}

impl Prism {
    fn new(p: &Profile, h: &Hole, place: &dyn Fn(DVec3) -> DVec3) -> Prism {
        let (across, off) = (h.out.perp(), h.at.dot(h.out.perp()));
        let top = p.reach(h.out) + CLEAR;
        // Past the far side; or just past the wall.
        let floor = if h.floor <= -p.reach(-h.out) + COINCIDENT { h.floor - CLEAR } else { h.floor - 0.01 };
        // A notch runs out of its end.
        let beyond = |x: f64| match h.notch {
            Some(0) if x < 0.0 => x - h.beyond - CLEAR,
            Some(1) if x > 0.0 => x + h.beyond + CLEAR,
            _ => x,
        };
        let at = |v: DVec2, z: f64| {
            let q = across * (off + v.y) + h.out * z;
            place(DVec3::new(h.along + beyond(v.x), q.x, q.y))
        };
        let plan = plan(h);
        Prism::between(
            plan.iter().map(|&v| at(v, top)).collect(),
            plan.iter().map(|&v| at(v, floor)).collect(),
        )
    }

    fn between(ring: Vec<DVec3>, floor: Vec<DVec3>) -> Prism {
        let all = || ring.iter().chain(&floor).copied();
        let (low, high) =
            (all().fold(DVec3::INFINITY, DVec3::min), all().fold(DVec3::NEG_INFINITY, DVec3::max));
        Prism { ring, floor, low, high }
    }

    /// The wider beginning of a drilled hole.
    fn mouth(h: &Hole, place: &dyn Fn(DVec3) -> DVec3) -> Option<Prism> {
        let bore = h.bore.as_deref()?;
        let mouth = bore.mouth?;
        let face = h.at.dot(h.out);
        let rings = |radius: f64, z: f64| -> Vec<DVec3> {
            let across = h.out.perp();
            let at = |v: DVec2| {
                let q = across * (h.at.dot(across) + v.y) + h.out * z;
                place(DVec3::new(h.along + v.x, q.x, q.y))
            };
            ring(radius, RIM).into_iter().map(at).collect()
        };
        let wide = mouth.diameter / 2.0;
        if mouth.flat > COINCIDENT {
            return Some(Prism::between(rings(wide, face + CLEAR), rings(wide, face - mouth.flat)));
        }
        let (out, deep) = (CLEAR * (mouth.angle / 2.0).tan(), mouth.depth(bore.diameter));
        Some(Prism::between(rings(wide + out, face + CLEAR), rings(bore.diameter / 2.0, face - deep)))
    }

    /// Where its ring and floor have their middles.
    fn middles(&self) -> [DVec3; 2] {
        [&self.ring, &self.floor].map(|of| of.iter().sum::<DVec3>() / of.len() as f64)
    }

    fn clear_of(&self, other: &Prism) -> bool {
        self.low.cmpgt(other.high + 1e-3).any() || other.low.cmpgt(self.high + 1e-3).any()
    }

    /// Triangles, outwards; the plan runs counter-clockwise seen from outside when `turned` is false.
    fn write(&self, points: &mut Vec<f64>, corners: &mut Vec<usize>) {
        let (first, n) = (points.len() / 3, self.ring.len());
        let [above, below] = self.middles();
        for p in self.ring.iter().chain(&self.floor) {
            points.extend(p.to_array());
        }
        let area: DVec3 =
            (1..n - 1).map(|i| (self.ring[i] - self.ring[0]).cross(self.ring[i + 1] - self.ring[0])).sum();
        let outwards = area.dot(below - above) < 0.0;
        let mut put = |a: usize, b: usize, c: usize| {
            corners.extend(if outwards {
                [first + a, first + b, first + c]
            } else {
                [first + a, first + c, first + b]
            })
        };
        for i in 1..n - 1 {
            put(0, i, i + 1);
            put(n, n + i + 1, n + i);
        }
        for i in 0..n {
            let j = (i + 1) % n;
            put(i, n + i, n + j);
            put(i, n + j, j);
        }
    }

    /// The share of a segment that lies inside, when some of it does.
    fn inside(&self, a: DVec3, b: DVec3) -> Option<(f64, f64)> {
        let (mut low, mut high) = (0.0f64, 1.0f64);
        let n = self.ring.len();
        let [above, below] = self.middles();
        let (middle, down) = ((above + below) / 2.0, below - above);
        let mut clip = |normal: DVec3, at: DVec3| {
            let (s, t) = (normal.dot(a - at), normal.dot(b - at));
            if s > 0.0 && t > 0.0 {
                high = -1.0;
            } else if s > 0.0 {
                low = low.max(s / (s - t));
            } else if t > 0.0 {
                high = high.min(s / (s - t));
            }
        };
        clip(-down, above);
        clip(down, below);
        for i in 0..n {
            let side = (self.ring[(i + 1) % n] - self.ring[i]).cross(self.floor[i] - self.ring[i]);
            let outward = if side.dot(self.ring[i] - middle) < 0.0 { -side } else { side };
            clip(outward, self.ring[i]);
        }
        (high - low > ROUNDING).then_some((low, high))
    }
}

/// The body with its holes; `place` takes along, across and up of the bar to where the body stands. If the
/// solid cannot be cut, the rims are drawn on it and nothing else changes.
pub fn drill(
    mut body: Body,
    p: &Profile,
    holes: &[Hole],
    place: &dyn Fn(DVec3) -> DVec3,
    pressed: Option<&Pressed>,
) -> Body {
    if holes.is_empty() {
        return body;
    }
    let mouths = holes.iter().filter_map(|h| Prism::mouth(h, place));
    let prisms: Vec<Prism> = holes.iter().map(|h| Prism::new(p, h, place)).chain(mouths).collect();
    if let Some((points, triangles)) = subtract(&body, &prisms) {
        // Edges keep their own points: cutting renumbers those of the triangles.
        let edges: Vec<[DVec3; 2]> = body.edges.iter().map(|e| e.map(|i| body.points[i as usize])).collect();
        body = Body { points, triangles, edges: Vec::new() };
        for e in edges {
            left_over(&prisms, e, &mut |a, b| {
                let first = body.points.len() as u32;
                body.points.extend([a, b]);
                body.edges.push([first, first + 1]);
            });
        }
    }
    let walls = Walls::new(p);
    for rim in holes.iter().flat_map(|h| walls.rims(h)) {
        let (first, n) = (body.points.len() as u32, rim.len() as u32);
        let on_wall = |v: DVec3| match pressed {
            Some(pressed) => {
                let q = pressed.place(DVec2::new(v.y, v.z), v.x);
                DVec3::new(v.x, q.x, q.y)
            }
            None => v,
        };
        body.points.extend(rim.into_iter().map(|v| place(on_wall(v))));
        body.edges.extend((0..n).map(|k| [first + k, first + (k + 1) % n]));
    }
    body
}

/// The parts of an edge that no prism takes.
fn left_over(prisms: &[Prism], e: [DVec3; 2], put: &mut dyn FnMut(DVec3, DVec3)) {
    let mut gone: Vec<(f64, f64)> = prisms.iter().filter_map(|p| p.inside(e[0], e[1])).collect();
    gone.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut from = 0.0;
    for (low, high) in gone.into_iter().chain([(1.0, 1.0)]) {
        if low - from > ROUNDING {
            put(e[0].lerp(e[1], from), e[0].lerp(e[1], low));
        }
        from = f64::max(from, high);
    }
}

fn subtract(body: &Body, prisms: &[Prism]) -> Option<(Vec<DVec3>, Vec<[u32; 3]>)> {
    let mut layers: Vec<Vec<&Prism>> = Vec::new();
    for p in prisms {
        match layers.iter_mut().find(|l| l.iter().all(|q| q.clear_of(p))) {
            Some(l) => l.push(p),
            None => layers.push(vec![p]),
        }
    }
    let points: Vec<f64> = body.points.iter().flat_map(|p| p.to_array()).collect();
    let corners: Vec<usize> = body.triangles.iter().flatten().map(|&i| i as usize).collect();
    // The library says what it cannot do in errors, or in an assertion; neither may take a view down.
    let cut = catch_unwind(AssertUnwindSafe(|| -> Result<Manifold, String> {
        let mut out: Manifold = Manifold::new(&points, &corners)?;
        for l in &layers {
            let (mut points, mut corners) = (Vec::new(), Vec::new());
            l.iter().for_each(|p| p.write(&mut points, &mut corners));
            out = compute_boolean(&out, &Manifold::new(&points, &corners)?, OpType::Subtract)?;
        }
        Ok(out)
    }));
    let out = cut.ok()?.ok()?;
    let points = out.ps.iter().map(|p| DVec3::new(p.x, p.y, p.z)).collect();
    let triangles =
        out.hs.chunks_exact(3).map(|t| [t[0].tail as u32, t[1].tail as u32, t[2].tail as u32]).collect();
    Some((points, triangles))
}
