//! Labels that keep clear: each stands near what it speaks of, over no other text, inside of its view; over
//! lines only where there is no better place. One that has to stand apart gets a leader, one that has no
//! room is told, never laid over another.
//!
//! Greedy by weight over places on rings round the anchor, as in point-feature label placement (Christensen,
//! Marks and Shieber 1995 call it the greedy of cartographers); boxes and lines are looked up in a grid, so
//! the work grows with the number of labels.

use std::collections::HashMap;

use glam::{DVec2, IVec2};
use ground::geom::Bounds;

/// Something to be written near a place.
#[derive(Clone, Copy, Debug)]
pub struct Label {
    /// What it speaks of.
    pub anchor: DVec2,
    /// Width and height of its box.
    pub size: DVec2,
    /// Kept free round the anchor: the half of a hole, say.
    pub clear: f64,
    /// The heavier one is placed first.
    pub weight: f64,
    /// Where it stood before, from its anchor: kept while it is free, so that nothing jumps.
    pub before: Option<DVec2>,
}

/// Where a label came to stand.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Placed {
    /// Middle of its box.
    pub at: DVec2,
    /// From its box to its anchor, where it stands apart.
    pub leader: Option<[DVec2; 2]>,
}

/// What labels keep clear of.
#[derive(Clone, Debug, Default)]
pub struct Obstacles {
    /// Never stood over: other text, signs.
    pub boxes: Vec<Bounds>,
    /// Stood over where there is no better place.
    pub lines: Vec<[DVec2; 2]>,
}

/// Between a label and what it must not touch.
const GAP: f64 = 0.6;
/// Directions tried on a ring, the most readable first: above, right, left, below, then between them.
const WAYS: [[f64; 2]; 12] = [
    [0.0, 1.0],
    [1.0, 0.4],
    [-1.0, 0.4],
    [0.0, -1.0],
    [1.0, 1.0],
    [-1.0, 1.0],
    [1.0, -0.4],
    [-1.0, -0.4],
    [1.0, -1.0],
    [-1.0, -1.0],
    [0.5, 1.0],
    [-0.5, -1.0],
];
const RINGS: usize = 9;

/// Places labels in a view whose `y` grows upwards (`down` where it grows downwards); none for one that has
/// no room.
pub fn place(labels: &[Label], keep_clear: &Obstacles, view: Bounds, down: bool) -> Vec<Option<Placed>> {
    let pace = labels.iter().map(|l| l.size.max_element()).fold(1.0, f64::max);
    let mut taken = Grid::new(pace);
    for b in &keep_clear.boxes {
        taken.add(*b);
    }
    let mut lines = Grid::new(pace);
    for l in &keep_clear.lines {
        lines.add_line(*l);
    }
    let mut order: Vec<usize> = (0..labels.len()).collect();
    order.sort_by(|&a, &b| labels[b].weight.total_cmp(&labels[a].weight));
    let mut out = vec![None; labels.len()];
    let usable = |l: &Label| l.anchor.is_finite() && l.size.is_finite() && l.size.cmpgt(DVec2::ZERO).all();
    for i in order {
        let l = &labels[i];
        if !usable(l) {
            continue;
        }
        let mut best: Option<(f64, Placed)> = None;
        for (k, offset) in offsets(l, down).enumerate() {
            let least = k as f64 * 0.01 + ring_cost(k);
            if best.as_ref().is_some_and(|b| b.0 <= least) {
                break;
            }
            let at = l.anchor + offset;
            let body = around(at, l.size / 2.0);
            if !within(&body, &view) || taken.meets(&body, GAP) {
                continue;
            }
            let leader = leader(l, at);
            let crossed = lines.crossings(&body) as f64;
            let cost = least + crossed * 0.8 + leader.map_or(0.0, |s| taken.crossings(s) as f64 * 3.0);
            if best.as_ref().is_none_or(|b| cost < b.0) {
                best = Some((cost, Placed { at, leader }));
            }
        }
        if let Some((_, placed)) = best {
            taken.add(around(placed.at, l.size / 2.0));
            out[i] = Some(placed);
        }
    }
    out
}

/// Where it stood, then rings round the anchor, ever wider.
fn offsets(l: &Label, down: bool) -> impl Iterator<Item = DVec2> + '_ {
    let up = if down { -1.0 } else { 1.0 };
    let rings = (0..RINGS).flat_map(move |ring| {
        let away = l.clear + GAP * 2.0 + ring as f64 * l.size.y * (1.0 + ring as f64 * 0.25);
        WAYS.iter()
            .map(move |[x, y]| DVec2::new(x * (l.size.x / 2.0 + away), y * up * (l.size.y / 2.0 + away)))
    });
    l.before.into_iter().chain(rings)
}

/// Farther rings cost more; the first place is free.
fn ring_cost(k: usize) -> f64 {
    (k.saturating_sub(1) / WAYS.len()) as f64
}

fn around(at: DVec2, half: DVec2) -> Bounds {
    Bounds { min: at - half, max: at + half }
}

fn within(b: &Bounds, view: &Bounds) -> bool {
    b.min.cmpge(view.min).all() && b.max.cmple(view.max).all()
}

/// From the box to the rim of what is spoken of; none where they stand together.
fn leader(l: &Label, at: DVec2) -> Option<[DVec2; 2]> {
    let half = l.size / 2.0;
    let from = l.anchor.clamp(at - half, at + half);
    let way = l.anchor - from;
    let free = way.length() - l.clear;
    (free > l.size.y * 0.9).then(|| [from, l.anchor - way.normalize() * l.clear])
}

/// Boxes and lines by the cells that they touch.
struct Grid {
    pace: f64,
    boxes: Vec<Bounds>,
    lines: Vec<[DVec2; 2]>,
    by_cell: HashMap<IVec2, Vec<u32>>,
}

impl Grid {
    fn new(pace: f64) -> Grid {
        Grid { pace, boxes: Vec::new(), lines: Vec::new(), by_cell: HashMap::new() }
    }

    fn cell(&self, p: DVec2) -> IVec2 {
        (p / self.pace).floor().as_ivec2()
    }

    fn cells(&self, b: &Bounds) -> impl Iterator<Item = IVec2> + use<> {
        let (low, high) = (self.cell(b.min), self.cell(b.max));
        (low.x..=high.x).flat_map(move |x| (low.y..=high.y).map(move |y| IVec2::new(x, y)))
    }

    fn add(&mut self, b: Bounds) {
        let n = self.boxes.len() as u32;
        for c in self.cells(&b) {
            self.by_cell.entry(c).or_default().push(n);
        }
        self.boxes.push(b);
    }

    /// In pieces no longer than a cell: a long slanting line touches few of the cells of its box.
    fn add_line(&mut self, [a, b]: [DVec2; 2]) {
        let parts = ((b - a).length() / self.pace).ceil().clamp(1.0, 10_000.0) as usize;
        for k in 0..parts {
            let at = |k: usize| a.lerp(b, k as f64 / parts as f64);
            let part = [at(k), at(k + 1)];
            let n = self.lines.len() as u32;
            for c in self.cells(&Bounds::of(part)) {
                self.by_cell.entry(c).or_default().push(n);
            }
            self.lines.push(part);
        }
    }

    fn meets(&self, b: &Bounds, gap: f64) -> bool {
        let wide = Bounds { min: b.min - gap, max: b.max + gap };
        self.cells(&wide).any(|c| {
            let here = self.by_cell.get(&c).into_iter().flatten();
            here.map(|i| &self.boxes[*i as usize]).any(|o| overlap(&wide, o))
        })
    }
}

fn overlap(a: &Bounds, b: &Bounds) -> bool {
    a.min.cmplt(b.max).all() && b.min.cmplt(a.max).all()
}

trait Crossed<T> {
    /// How many of what is kept it crosses.
    fn crossings(&self, by: T) -> usize;
}

impl Crossed<&Bounds> for Grid {
    fn crossings(&self, by: &Bounds) -> usize {
        let mut met: Vec<u32> =
            self.cells(by).filter_map(|c| self.by_cell.get(&c)).flatten().copied().collect();
        met.sort_unstable();
        met.dedup();
        met.into_iter().filter(|i| crosses(self.lines[*i as usize], by)).count()
    }
}

impl Crossed<[DVec2; 2]> for Grid {
    fn crossings(&self, by: [DVec2; 2]) -> usize {
        let mut met: Vec<u32> =
            self.cells(&Bounds::of(by)).filter_map(|c| self.by_cell.get(&c)).flatten().copied().collect();
        met.sort_unstable();
        met.dedup();
        met.into_iter().filter(|i| crosses(by, &self.boxes[*i as usize])).count()
    }
}

/// Whether a line passes through a box (Liang and Barsky 1984).
fn crosses([a, b]: [DVec2; 2], of: &Bounds) -> bool {
    let way = b - a;
    let (mut from, mut to) = (0.0f64, 1.0f64);
    for k in 0..2 {
        if way[k].abs() < 1e-12 {
            if a[k] <= of.min[k] || a[k] >= of.max[k] {
                return false;
            }
            continue;
        }
        let (p, q) = ((of.min[k] - a[k]) / way[k], (of.max[k] - a[k]) / way[k]);
        from = from.max(p.min(q));
        to = to.min(p.max(q));
    }
    from < to
}
