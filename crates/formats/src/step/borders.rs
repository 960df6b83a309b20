//! The faces of a flat, zone by zone, and what their borders run along.

use std::collections::HashMap;

use glam::DVec2;
use steelk_core::geom::{CHORD, COINCIDENT, Contour, Segment, Vertex};
use steelk_core::sheet::mesh::FlatMesh;

/// Parts of an arc nearer to its end than this are none.
const END: f64 = 1e-7;

/// Which side of which contour.
pub type Side = (usize, usize);

/// What an edge of a face is shared by.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Border {
    Wall(Side),
    /// The next face, by its number.
    Next(usize),
}

/// A stretch of a face's border, metal on its left: ends, what it borders on, points between.
#[derive(Clone, Debug)]
pub struct Stretch {
    pub from: u32,
    pub to: u32,
    pub border: Border,
    /// The first place along it.
    pub through: u32,
}

/// A contour with a corner wherever an arc of it runs over one of these lines.
pub fn parted(c: &Contour, lines: &[[DVec2; 2]]) -> Contour {
    let mut out = Vec::with_capacity(c.vertices.len());
    for (v, s) in c.vertices.iter().zip(c.segments()) {
        let Some(arc) = s.arc() else {
            out.push(*v);
            continue;
        };
        let over = |[p, q]: &[DVec2; 2]| {
            let way = (*q - *p).normalize_or_zero();
            let foot = *p + way * (arc.centre - *p).dot(way);
            let half = (arc.radius.powi(2) - foot.distance_squared(arc.centre)).max(0.0).sqrt();
            let long = p.distance(*q);
            [-half, half]
                .map(|by| foot + way * by)
                .into_iter()
                .filter_map(move |at| {
                    let along = (at - *p).dot(way);
                    let turned = (s.a - arc.centre).angle_to(at - arc.centre) * arc.sweep.signum();
                    let part = turned.rem_euclid(std::f64::consts::TAU) / arc.sweep.abs();
                    let within = along > -COINCIDENT && along < long + COINCIDENT;
                    (within && half > COINCIDENT && part > END && part < 1.0 - END).then_some(part)
                })
                .collect::<Vec<f64>>()
        };
        let mut parts: Vec<f64> = lines.iter().flat_map(over).collect();
        parts.sort_by(f64::total_cmp);
        parts.dedup_by(|a, b| (*a - *b).abs() < END);
        parts.push(1.0);
        let mut from = 0.0;
        for part in parts {
            let p = if from == 0.0 { v.p } else { arc.at(from) };
            out.push(Vertex { p, bulge: (arc.sweep * (part - from) / 4.0).tan(), tag: v.tag });
            from = part;
        }
    }
    Contour { vertices: out }
}

/// The faces of the flat, each a zone or a part of one, and the rings round them, the outer one first.
pub fn borders(m: &FlatMesh, sides: &[Vec<Segment>]) -> (Vec<usize>, Vec<Vec<Vec<Stretch>>>) {
    let mut of_side: HashMap<(u32, u32), usize> = HashMap::new();
    for (i, t) in m.triangles.iter().enumerate() {
        for k in 0..3 {
            of_side.insert((t[k], t[(k + 1) % 3]), i);
        }
    }
    let mut part = vec![usize::MAX; m.triangles.len()];
    let mut zones = Vec::new();
    for i in 0..m.triangles.len() {
        if part[i] != usize::MAX {
            continue;
        }
        let mut stack = vec![i];
        part[i] = zones.len();
        while let Some(k) = stack.pop() {
            let t = m.triangles[k];
            for e in 0..3 {
                let Some(&n) = of_side.get(&(t[(e + 1) % 3], t[e])) else { continue };
                if part[n] == usize::MAX && m.triangle_zones[n] == m.triangle_zones[i] {
                    part[n] = zones.len();
                    stack.push(n);
                }
            }
        }
        zones.push(m.triangle_zones[i] as usize);
    }
    let chords = Chords::new(sides);
    let mut sides: Vec<HashMap<u32, Vec<(u32, Border)>>> = vec![HashMap::new(); zones.len()];
    for (i, t) in m.triangles.iter().enumerate() {
        for k in 0..3 {
            let (a, b) = (t[k], t[(k + 1) % 3]);
            let border = match of_side.get(&(b, a)) {
                Some(&n) if part[n] == part[i] => continue,
                Some(&n) => Border::Next(part[n]),
                None => Border::Wall(chords.side(m.points[a as usize], m.points[b as usize])),
            };
            sides[part[i]].entry(a).or_default().push((b, border));
        }
    }
    let rings = sides.into_iter().map(|s| rings(m, s)).collect();
    (zones, rings)
}

fn rings(m: &FlatMesh, mut sides: HashMap<u32, Vec<(u32, Border)>>) -> Vec<Vec<Stretch>> {
    let at = |i: u32| m.points[i as usize];
    let mut out: Vec<(f64, Vec<Stretch>)> = Vec::new();
    let mut starts: Vec<u32> = sides.keys().copied().collect();
    starts.sort_unstable();
    for start in starts {
        while sides.get(&start).is_some_and(|s| !s.is_empty()) {
            let mut steps: Vec<(u32, u32, Border)> = Vec::new();
            let (mut here, mut way) = (start, DVec2::ZERO);
            while let Some(next) = sides.get_mut(&here) {
                // Where two rings touch, the sharpest turn to the left stays in this one.
                let turn = |b: u32| if way == DVec2::ZERO { 0.0 } else { way.angle_to(at(b) - at(here)) };
                let Some(k) = (0..next.len()).max_by(|&a, &b| turn(next[a].0).total_cmp(&turn(next[b].0)))
                else {
                    break;
                };
                let (to, border) = next.swap_remove(k);
                steps.push((here, to, border));
                way = at(to) - at(here);
                here = to;
                if here == start {
                    break;
                }
            }
            let area: f64 = steps.iter().map(|(a, b, _)| at(*a).perp_dot(at(*b))).sum();
            out.push((area, stretches(m, &steps)));
        }
    }
    out.sort_by(|a, b| b.0.total_cmp(&a.0));
    out.into_iter().map(|r| r.1).collect()
}

/// Steps along one side, or along one straight border, as one.
fn stretches(m: &FlatMesh, steps: &[(u32, u32, Border)]) -> Vec<Stretch> {
    let at = |i: u32| m.points[i as usize];
    let goes_on = |a: &(u32, u32, Border), b: &(u32, u32, Border)| {
        let (p, q) = (at(a.1) - at(a.0), at(b.1) - at(b.0));
        let straight = p.perp_dot(q).abs() <= 1e-9 * p.length() * q.length() && p.dot(q) > 0.0;
        a.2 == b.2 && (matches!(a.2, Border::Wall(_)) || straight)
    };
    let n = steps.len();
    // Begun where something changes.
    let first = (0..n).find(|&k| !goes_on(&steps[(k + n - 1) % n], &steps[k])).unwrap_or(0);
    let mut out: Vec<Stretch> = Vec::new();
    for k in 0..n {
        let s = &steps[(first + k) % n];
        let before = &steps[(first + k + n - 1) % n];
        match out.last_mut() {
            Some(last) if k > 0 && goes_on(before, s) => last.to = s.1,
            _ => out.push(Stretch { from: s.0, to: s.1, border: s.2, through: s.1 }),
        }
    }
    out
}

/// Chords of all sides, by the cells that they lie in.
struct Chords {
    pace: f64,
    cells: HashMap<(i64, i64), Vec<u32>>,
    chords: Vec<([DVec2; 2], Side)>,
}

impl Chords {
    fn new(sides: &[Vec<Segment>]) -> Chords {
        let mut chords = Vec::new();
        let mut points = Vec::new();
        for (c, sides) in sides.iter().enumerate() {
            for (k, s) in sides.iter().enumerate() {
                points.clear();
                points.push(s.a);
                s.flatten(CHORD, &mut points);
                chords.extend(points.windows(2).map(|w| ([w[0], w[1]], (c, k))));
            }
        }
        let mean = chords.iter().map(|c| c.0[0].distance(c.0[1])).sum::<f64>() / chords.len().max(1) as f64;
        let mut out = Chords { pace: mean.max(0.5), cells: HashMap::new(), chords };
        for i in 0..out.chords.len() {
            let [a, b] = out.chords[i].0;
            let parts = (a.distance(b) / out.pace).ceil().max(1.0) as usize;
            for k in 0..=parts {
                let c = out.cell(a.lerp(b, k as f64 / parts as f64));
                out.cells.entry(c).or_default().push(i as u32);
            }
        }
        out
    }

    fn cell(&self, p: DVec2) -> (i64, i64) {
        ((p.x / self.pace).floor() as i64, (p.y / self.pace).floor() as i64)
    }

    /// The side that a side of the mesh lies on.
    fn side(&self, a: DVec2, b: DVec2) -> Side {
        let middle = (a + b) / 2.0;
        let (x, y) = self.cell(middle);
        let off = |[p, q]: [DVec2; 2]| Segment::line(p, q).nearest(middle).distance(middle);
        let near = (-1..2).flat_map(|i| (-1..2).map(move |j| (x + i, y + j)));
        let found = near
            .filter_map(|c| self.cells.get(&c))
            .flatten()
            .min_by(|a, b| off(self.chords[**a as usize].0).total_cmp(&off(self.chords[**b as usize].0)));
        found.map_or((0, 0), |i| self.chords[*i as usize].1)
    }
}
