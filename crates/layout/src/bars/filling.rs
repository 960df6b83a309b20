//! Bars filled one after another, and what a filling costs.

use super::knapsack::fullest;
use super::{Filled, Search, Task};
use ground::geom::ROUNDING;

impl Search<'_> {
    /// The longest first, each onto the first bar that takes it.
    pub(super) fn first_fit(&self, demand: &[usize]) -> Filled {
        let mut bars: Vec<(usize, Vec<usize>)> = Vec::new();
        let mut used = vec![0; self.task.stock.len()];
        let mut missing = vec![0; demand.len()];
        let mut types: Vec<usize> = (0..demand.len()).collect();
        types.sort_by(|&a, &b| self.task.parts[b].length.total_cmp(&self.task.parts[a].length));
        for i in types {
            'piece: for _ in 0..demand[i] {
                for b in bars.iter_mut() {
                    let steps: usize = b.1.iter().map(|&p| self.sizes[p]).sum();
                    if steps + self.sizes[i] > self.lengths[b.0].capacity {
                        continue;
                    }
                    b.1.push(i);
                    if self.fits(b.0, &b.1) {
                        continue 'piece;
                    }
                    b.1.pop();
                }
                let shelf = self.shelf();
                let free = |k: &&usize| {
                    self.task.stock[**k].count.is_none_or(|n| used[**k] < n) && self.fits(**k, &[i])
                };
                match shelf.iter().find(free) {
                    Some(&k) => {
                        used[k] += 1;
                        bars.push((k, vec![i]));
                    }
                    None => missing[i] += 1,
                }
            }
        }
        (bars, missing)
    }

    /// Bar after bar as full as can be, the longest piece left always among them; by each way to choose the
    /// length of new bars.
    pub(super) fn full_bars(&self, demand: &[usize], go_on: &mut dyn FnMut(f64) -> bool) -> Filled {
        let mut left = demand.to_vec();
        let mut bars = Vec::new();
        let mut used = vec![0; self.task.stock.len()];
        let all: usize = demand.iter().sum();
        while let Some(first) = (0..left.len())
            .filter(|&i| left[i] > 0)
            .max_by(|&a, &b| self.task.parts[a].length.total_cmp(&self.task.parts[b].length))
        {
            let done = all - left.iter().sum::<usize>();
            if !go_on(done as f64 / all as f64) {
                break;
            }
            let mut pick: Option<(f64, usize, Vec<usize>)> = None;
            for k in self.shelf() {
                if self.task.stock[k].count.is_some_and(|n| used[k] >= n)
                    || self.sizes[first] > self.lengths[k].capacity
                {
                    continue;
                }
                let pieces =
                    self.shorten(k, first, fullest(&self.sizes, &left, first, self.lengths[k].capacity));
                if pieces.is_empty() {
                    continue;
                }
                let filled: f64 = pieces.iter().map(|&i| self.task.parts[i].length).sum();
                // Waste of a new bar counts whole, that of an offcut little.
                let waste = (self.room(k) - filled) / self.room(k).max(1.0)
                    * if self.task.stock[k].offcut { 0.5 } else { 1.0 };
                if pick.as_ref().is_none_or(|p| waste < p.0 - ROUNDING) {
                    pick = Some((waste, k, pieces));
                }
            }
            let Some((_, k, pieces)) = pick else { break };
            used[k] += 1;
            pieces.iter().for_each(|&i| left[i] -= 1);
            bars.push((k, pieces));
        }
        // What remains, if anything, goes on as it fits.
        self.finish(bars, used, left)
    }

    /// Pieces of a pattern, the shortest taken off until they fit with their points and cuts.
    pub(super) fn shorten(&self, k: usize, keep: usize, counts: Vec<usize>) -> Vec<usize> {
        let mut pieces: Vec<usize> =
            counts.iter().enumerate().flat_map(|(i, &n)| std::iter::repeat_n(i, n)).collect();
        while !pieces.is_empty() && !self.fits(k, &pieces) {
            let off =
                (0..pieces.len()).filter(|&p| pieces[p] != keep || pieces.len() == 1).min_by(|&a, &b| {
                    self.task.parts[pieces[a]].length.total_cmp(&self.task.parts[pieces[b]].length)
                });
            match off {
                Some(p) => pieces.swap_remove(p),
                None => pieces.pop().unwrap_or(0),
            };
        }
        pieces
    }

    pub(super) fn finish(
        &self,
        mut bars: Vec<(usize, Vec<usize>)>,
        used: Vec<usize>,
        left: Vec<usize>,
    ) -> Filled {
        if left.iter().all(|l| *l == 0) {
            return (bars, left);
        }
        let mut stock = self.task.stock.clone();
        for (s, n) in stock.iter_mut().zip(used) {
            s.count = s.count.map(|c| c.saturating_sub(n));
        }
        let task = Task { stock, ..self.task.clone() };
        let rest =
            Search { task: &task, sizes: self.sizes.clone(), lengths: self.lengths.clone() }.first_fit(&left);
        bars.extend(rest.0);
        (bars, rest.1)
    }
}
