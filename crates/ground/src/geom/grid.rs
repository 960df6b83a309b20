//! Finds neighbours among many boxes: a uniform grid. Its cells lie in one list, in rows where boxes fill
//! them, hashed where they are far apart.

use rustc_hash::FxHashMap as HashMap;

use super::Bounds;

pub struct Grid {
    cell: f64,
    boxes: usize,
    index: Index,
    /// Where each cell begins in `held`, and where the last one ends.
    begins: Vec<u32>,
    held: Vec<u32>,
    /// Boxes far larger than the rest: every look-up reads them.
    large: Vec<u32>,
}

/// Where a cell stands among all.
enum Index {
    Rows(Cells),
    Hashed(HashMap<(i64, i64), u32>),
}

/// Cells from the first to the last, both within.
#[derive(Clone, Copy)]
struct Cells {
    x: [i64; 2],
    y: [i64; 2],
}

/// A box over more cells than this is large.
const MANY: i64 = 4096;
/// Rows are kept whole up to so many cells a box.
const CELLS_A_BOX: usize = 8;

impl Cells {
    fn of(b: &Bounds, cell: f64) -> Cells {
        let index = |v: f64| (v / cell).floor().clamp(-1e9, 1e9) as i64;
        Cells { x: [index(b.min.x), index(b.max.x)], y: [index(b.min.y), index(b.max.y)] }
    }

    fn count(&self) -> i64 {
        let long = |[from, to]: [i64; 2]| (to - from + 1).max(0);
        long(self.x).saturating_mul(long(self.y))
    }

    fn with(self, other: Cells) -> Cells {
        let both = |a: [i64; 2], b: [i64; 2]| [a[0].min(b[0]), a[1].max(b[1])];
        Cells { x: both(self.x, other.x), y: both(self.y, other.y) }
    }

    fn within(self, other: Cells) -> Cells {
        let common = |a: [i64; 2], b: [i64; 2]| [a[0].max(b[0]), a[1].min(b[1])];
        Cells { x: common(self.x, other.x), y: common(self.y, other.y) }
    }

    fn each(self) -> impl Iterator<Item = (i64, i64)> {
        (self.x[0]..=self.x[1]).flat_map(move |x| (self.y[0]..=self.y[1]).map(move |y| (x, y)))
    }

    /// The place of one of these cells among them.
    fn place(&self, (x, y): (i64, i64)) -> usize {
        ((x - self.x[0]) * (self.y[1] - self.y[0] + 1) + (y - self.y[0])) as usize
    }
}

impl Index {
    fn place(&self, cell: (i64, i64)) -> Option<usize> {
        match self {
            Index::Rows(all) => Some(all.place(cell)),
            Index::Hashed(known) => known.get(&cell).map(|k| *k as usize),
        }
    }

    /// What each cell holds is counted, then put there: where each begins, and all that is held.
    fn filled(&self, spans: &[(u32, Cells)], cells: usize) -> (Vec<u32>, Vec<u32>) {
        let mut next = vec![0; cells + 1];
        for at in spans.iter().flat_map(|s| s.1.each()).filter_map(|c| self.place(c)) {
            next[at + 1] += 1;
        }
        for k in 1..next.len() {
            next[k] += next[k - 1];
        }
        let begins = next.clone();
        let mut held = vec![0; next[cells] as usize];
        for (i, span) in spans {
            for at in span.each().filter_map(|c| self.place(c)) {
                held[next[at] as usize] = *i;
                next[at] += 1;
            }
        }
        (begins, held)
    }
}

impl Grid {
    /// A grid over `boxes`, each grown by `gap`.
    pub fn new(boxes: &[Bounds], gap: f64) -> Self {
        let mean = boxes.iter().map(|b| b.size().max_element()).sum::<f64>() / boxes.len().max(1) as f64;
        let cell = (mean + gap).max(1e-3) * 1.5;
        let mut large = Vec::new();
        let mut spans: Vec<(u32, Cells)> = Vec::with_capacity(boxes.len());
        for (i, b) in boxes.iter().enumerate() {
            let span = Cells::of(&Bounds { min: b.min - gap, max: b.max + gap }, cell);
            if span.count() > MANY { large.push(i as u32) } else { spans.push((i as u32, span)) }
        }
        let all = spans.iter().map(|s| s.1).reduce(Cells::with);
        let all = all.unwrap_or(Cells { x: [0, -1], y: [0, -1] });
        let most = (boxes.len() * CELLS_A_BOX) as i64 + MANY;
        let (index, cells) = if all.count() <= most {
            (Index::Rows(all), all.count() as usize)
        } else {
            let mut known = HashMap::default();
            for place in spans.iter().flat_map(|s| s.1.each()) {
                let next = known.len() as u32;
                known.entry(place).or_insert(next);
            }
            let cells = known.len();
            (Index::Hashed(known), cells)
        };
        let (begins, held) = index.filled(&spans, cells);
        Grid { cell, boxes: boxes.len(), index, begins, held, large }
    }

    /// Indices (sorted, each once) of the boxes that may come near `b`.
    pub fn near(&self, b: &Bounds) -> Vec<u32> {
        let mut out = Vec::new();
        self.put_near(b, &mut out);
        out
    }

    /// The same into a list that is used again.
    pub fn put_near(&self, b: &Bounds, out: &mut Vec<u32>) {
        out.clear();
        let span = Cells::of(b, self.cell);
        if span.count() > MANY {
            out.extend(0..self.boxes as u32);
            return;
        }
        let cells = match &self.index {
            Index::Rows(all) => span.within(*all),
            Index::Hashed(_) => span,
        };
        for at in cells.each().filter_map(|c| self.index.place(c)) {
            out.extend(&self.held[self.begins[at] as usize..self.begins[at + 1] as usize]);
        }
        out.extend(&self.large);
        out.sort_unstable();
        out.dedup();
    }
}

#[cfg(test)]
mod tests {
    use glam::DVec2;
    use proptest::prelude::*;

    use super::*;

    fn boxes(reach: f64) -> impl Strategy<Value = Vec<Bounds>> {
        // Most are small, some as wide as all of them, some without width.
        let size = prop_oneof![6 => 0.0..8.0f64, 1 => 0.0..2000.0f64, 1 => Just(0.0)];
        let one = (-reach..reach, -reach..reach, size.clone(), size);
        let of = |(x, y, w, h): (f64, f64, f64, f64)| Bounds {
            min: DVec2::new(x, y),
            max: DVec2::new(x + w, y + h),
        };
        prop::collection::vec(one.prop_map(of), 0..80)
    }

    proptest! {
        /// Nobody who is near is left out, each is told once and in order; close together and far apart.
        #[test]
        fn all_that_is_near_is_found(
            all in prop_oneof![boxes(40.0), boxes(1e7)],
            asked in prop_oneof![boxes(60.0), boxes(1e7)],
            gap in 0.0..5.0f64,
        ) {
            let grid = Grid::new(&all, gap);
            for b in asked.iter().chain(&all) {
                let got = grid.near(b);
                prop_assert!(got.windows(2).all(|w| w[0] < w[1]), "{got:?}");
                prop_assert!(got.iter().all(|i| (*i as usize) < all.len()));
                for (i, other) in all.iter().enumerate() {
                    let apart = other.min.x - gap > b.max.x || b.min.x > other.max.x + gap
                        || other.min.y - gap > b.max.y || b.min.y > other.max.y + gap;
                    prop_assert!(apart || got.contains(&(i as u32)), "{other:?} of {b:?}");
                }
            }
        }
    }

    /// Of a field of holes only the neighbours are told.
    #[test]
    fn few_are_told_of_many() {
        let hole = |k: u32| {
            let at = DVec2::new(f64::from(k % 100), f64::from(k / 100)) * 10.0;
            Bounds { min: at, max: at + 5.0 }
        };
        let all: Vec<Bounds> = (0..10_000).map(hole).collect();
        let grid = Grid::new(&all, 1.0);
        let most = all.iter().map(|b| grid.near(b).len()).max().unwrap();
        assert!(most <= 9, "{most}");
        assert!(grid.near(&Bounds { min: DVec2::splat(5e4), max: DVec2::splat(5e4 + 1.0) }).is_empty());
    }
}
