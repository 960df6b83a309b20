//! Dashes beside a full line, nearer than an eye tells apart: they are left out.

use std::collections::HashMap;

use glam::{DVec2, IVec2};
use ground::geom::Bounds;

use super::Wires;

/// Lines that run together turn from one another by less than this, rad.
const TOGETHER: f64 = 0.3;

impl Wires {
    /// Without what is hidden, or soft, within `near` mm of a line that is seen and runs with it.
    pub fn clear(mut self, near: f64) -> Wires {
        let beside = Beside::new(&self.seen, near);
        for strokes in [&mut self.hidden, &mut self.soft] {
            *strokes = strokes.iter().flat_map(|s| beside.rest(s)).collect();
        }
        // Nor do dashes run beside dashes.
        let mut own = Beside::new(&[], near.max(self.bounds().size().max_element() / 150.0));
        own.near = near;
        for stroke in std::mem::take(&mut self.hidden) {
            let rest = own.rest(&stroke);
            rest.iter().for_each(|s| own.add(s));
            self.hidden.extend(rest);
        }
        self
    }
}

struct Beside {
    near: f64,
    pace: f64,
    lines: Vec<[DVec2; 2]>,
    cells: HashMap<IVec2, Vec<u32>>,
}

impl Beside {
    fn new(seen: &[Vec<DVec2>], near: f64) -> Beside {
        let extent = Bounds::of(seen.iter().flatten().copied()).size().max_element();
        let pace = (extent / 150.0).max(near * 2.0).max(1e-3);
        let mut out = Beside { near, pace, lines: Vec::new(), cells: HashMap::new() };
        seen.iter().for_each(|s| out.add(s));
        out
    }

    fn add(&mut self, stroke: &[DVec2]) {
        for line in stroke.windows(2) {
            let [a, b] = [line[0], line[1]];
            for cell in self.cells_of(a, b) {
                self.cells.entry(cell).or_default().push(self.lines.len() as u32);
            }
            self.lines.push([a, b]);
        }
    }

    /// The cells along a line, and those beside them.
    fn cells_of(&self, a: DVec2, b: DVec2) -> Vec<IVec2> {
        let steps = (a.distance(b) / self.pace).ceil().clamp(1.0, 4_000.0) as usize;
        let mut out: Vec<IVec2> = (0..=steps)
            .flat_map(|k| {
                let c = (a.lerp(b, k as f64 / steps as f64) / self.pace).floor().as_ivec2();
                (-1..2).flat_map(move |x| (-1..2).map(move |y| c + IVec2::new(x, y)))
            })
            .collect();
        out.sort_by_key(|c| (c.x, c.y));
        out.dedup();
        out
    }

    /// The parts of a stroke that no line runs beside.
    fn rest(&self, stroke: &[DVec2]) -> Vec<Vec<DVec2>> {
        let mut out: Vec<Vec<DVec2>> = Vec::new();
        for side in stroke.windows(2) {
            let (a, b) = (side[0], side[1]);
            for (from, to) in self.free(a, b) {
                let (p, q) = (a.lerp(b, from), a.lerp(b, to));
                match out.last_mut() {
                    Some(last) if last.last().is_some_and(|l| l.distance(p) < 1e-9) => last.push(q),
                    _ => out.push(vec![p, q]),
                }
            }
        }
        out.retain(|s| s.windows(2).map(|w| w[0].distance(w[1])).sum::<f64>() > self.near);
        out
    }

    fn free(&self, a: DVec2, b: DVec2) -> Vec<(f64, f64)> {
        let long = a.distance(b);
        if long < 1e-9 {
            return Vec::new();
        }
        let way = (b - a) / long;
        let mut met: Vec<u32> =
            self.cells_of(a, b).iter().filter_map(|c| self.cells.get(c)).flatten().copied().collect();
        met.sort_unstable();
        met.dedup();
        let mut parts: Vec<(f64, f64)> = vec![(0.0, 1.0)];
        for i in met {
            let [p, q] = self.lines[i as usize];
            if (q - p).normalize_or_zero().perp_dot(way).abs() > TOGETHER {
                continue;
            }
            // Along this line: where the other stands, and how far off it is there.
            let along = |v: DVec2| (v - a).dot(way) / long;
            let off = |v: DVec2| (v - a).perp_dot(way);
            let (mut s, mut e) = ((along(p), off(p)), (along(q), off(q)));
            if s.0 > e.0 {
                std::mem::swap(&mut s, &mut e);
            }
            let slope = (e.1 - s.1) / (e.0 - s.0).max(1e-12);
            // |off| stays within near between these.
            let (mut low, mut high) = (s.0, e.0);
            if slope.abs() > 1e-9 {
                let x = [(-self.near - s.1) / slope + s.0, (self.near - s.1) / slope + s.0];
                low = low.max(x[0].min(x[1]));
                high = high.min(x[0].max(x[1]));
            } else if s.1.abs() > self.near {
                continue;
            }
            if low >= high {
                continue;
            }
            parts = parts
                .into_iter()
                .flat_map(|(x, y)| [(x, y.min(low)), (x.max(high), y)])
                .filter(|(x, y)| y - x > 1e-9)
                .collect();
        }
        parts
    }
}
