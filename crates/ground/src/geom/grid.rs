//! Finds neighbours among many boxes: a uniform grid hashed by cell.

use rustc_hash::FxHashMap as HashMap;

use super::Bounds;

pub struct Grid {
    cell: f64,
    cells: HashMap<(i64, i64), Vec<u32>>,
}

impl Grid {
    /// A grid over `boxes`, each grown by `gap`.
    pub fn new(boxes: &[Bounds], gap: f64) -> Self {
        let mean = boxes.iter().map(|b| b.size().max_element()).sum::<f64>() / boxes.len().max(1) as f64;
        let mut grid = Grid { cell: (mean + gap).max(1e-3) * 1.5, cells: HashMap::default() };
        for (i, b) in boxes.iter().enumerate() {
            let grown = Bounds { min: b.min - gap, max: b.max + gap };
            for cell in grid.span(&grown) {
                grid.cells.entry(cell).or_default().push(i as u32);
            }
        }
        grid
    }

    fn span(&self, b: &Bounds) -> Vec<(i64, i64)> {
        let index = |v: f64| (v / self.cell).floor().clamp(-1e9, 1e9) as i64;
        let (x0, x1, y0, y1) = (index(b.min.x), index(b.max.x), index(b.min.y), index(b.max.y));
        // A box far larger than the rest is held in one far cell that every look-up also reads.
        if (x1 - x0 + 1).saturating_mul(y1 - y0 + 1) > 4096 {
            return vec![LARGE];
        }
        (x0..=x1).flat_map(|x| (y0..=y1).map(move |y| (x, y))).collect()
    }

    /// Indices (sorted, each once) of the boxes that may come near `b`.
    pub fn near(&self, b: &Bounds) -> Vec<u32> {
        let mut cells = self.span(b);
        let mut out: Vec<u32> = Vec::new();
        if cells == [LARGE] {
            out.extend(self.cells.values().flatten());
        } else {
            cells.push(LARGE);
            for c in cells {
                if let Some(list) = self.cells.get(&c) {
                    out.extend(list);
                }
            }
        }
        out.sort_unstable();
        out.dedup();
        out
    }
}

const LARGE: (i64, i64) = (i64::MAX, i64::MAX);
