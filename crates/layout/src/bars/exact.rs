//! Every arrangement worth trying, for tasks that the quicker ways leave open: pieces from the longest, each
//! on every bar that differs.

use super::{Filled, Search};
use ground::geom::ROUNDING;

/// Arrangements looked at before the search gives up.
const MOST_STEPS: usize = 400_000;
/// More pieces than this are not tried.
pub const MOST_PIECES: usize = 60;

struct Walk<'a, 'b> {
    search: &'a Search<'b>,
    pieces: Vec<usize>,
    /// Steps that the pieces from here on take.
    ahead: Vec<usize>,
    bars: Vec<(usize, Vec<usize>, usize)>,
    used: Vec<usize>,
    cost: f64,
    best: f64,
    found: Option<Vec<(usize, Vec<usize>)>>,
    steps: usize,
    /// Cheapest cost of a step of bar.
    rate: f64,
}

impl Search<'_> {
    /// A plan that costs less than `below`, if the search comes upon one; the best that it meets.
    pub(super) fn every_way(&self, demand: &[usize], below: f64) -> Option<Filled> {
        let mut pieces: Vec<usize> =
            demand.iter().enumerate().flat_map(|(i, &n)| std::iter::repeat_n(i, n)).collect();
        if pieces.len() > MOST_PIECES {
            return None;
        }
        pieces.sort_by(|&a, &b| self.sizes[b].cmp(&self.sizes[a]).then(a.cmp(&b)));
        let mut ahead = vec![0; pieces.len() + 1];
        for i in (0..pieces.len()).rev() {
            ahead[i] = ahead[i + 1] + self.sizes[pieces[i]];
        }
        let rate = self
            .lengths
            .iter()
            .filter(|l| l.capacity > 0)
            .map(|l| l.cost / l.capacity as f64)
            .fold(f64::INFINITY, f64::min);
        let used = vec![0; self.lengths.len()];
        let mut w = Walk {
            search: self,
            pieces,
            ahead,
            bars: Vec::new(),
            used,
            cost: 0.0,
            best: below,
            found: None,
            steps: 0,
            rate,
        };
        w.go(0);
        w.found.map(|bars| (bars, vec![0; demand.len()]))
    }
}

impl Walk<'_, '_> {
    fn go(&mut self, at: usize) {
        self.steps += 1;
        if self.steps > MOST_STEPS {
            return;
        }
        if at == self.pieces.len() {
            self.best = self.cost;
            self.found = Some(self.bars.iter().map(|b| (b.0, b.1.clone())).collect());
            return;
        }
        // What does not fit on the bars begun must be paid for.
        let free: usize = self.bars.iter().map(|b| self.search.lengths[b.0].capacity - b.2).sum();
        if self.cost + self.ahead[at].saturating_sub(free) as f64 * self.rate >= self.best - ROUNDING {
            return;
        }
        let piece = self.pieces[at];
        let size = self.search.sizes[piece];
        let mut tried: Vec<(usize, usize)> = Vec::new();
        for b in 0..self.bars.len() {
            let (k, left) = (self.bars[b].0, self.search.lengths[self.bars[b].0].capacity - self.bars[b].2);
            if size > left || tried.contains(&(k, left)) {
                continue;
            }
            tried.push((k, left));
            self.bars[b].1.push(piece);
            if self.search.fits(k, &self.bars[b].1) {
                self.bars[b].2 += size;
                self.go(at + 1);
                self.bars[b].2 -= size;
            }
            self.bars[b].1.pop();
        }
        for k in 0..self.search.lengths.len() {
            let l = self.search.lengths[k];
            if size > l.capacity
                || l.count.is_some_and(|n| self.used[k] >= n)
                || self.cost + l.cost >= self.best - ROUNDING
                || !self.search.fits(k, &[piece])
            {
                continue;
            }
            self.used[k] += 1;
            self.cost += l.cost;
            self.bars.push((k, vec![piece], size));
            self.go(at + 1);
            self.bars.pop();
            self.cost -= l.cost;
            self.used[k] -= 1;
        }
    }
}
