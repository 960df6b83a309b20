//! Plans bar by bar, by values of the pieces that are corrected from bar to bar: what was laid with waste
//! becomes dearer and is laid sooner the next time. After Mukhacheva et al. (2000), "sequential value
//! correction".

use super::knapsack::likely;
use super::{Filled, Search};
use ground::geom::{COINCIDENT, ROUNDING};

/// Passes over the whole demand, and those for a plan that is wanted soon.
pub const MOST_PASSES: usize = 150;
pub const FAIR_PASSES: usize = 2;
const SEARCH_STEPS: usize = 1_500;
/// Longer pieces are worth more by the step.
const LONGER: f64 = 1.03;

/// Numbers from 0 to 1 that are the same each time.
struct Chance(u64);

impl Chance {
    fn next(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (self.0 >> 33) as f64 / (1u64 << 31) as f64
    }
}

impl Search<'_> {
    /// The best plan of many passes; ends when one costs no more than `least` buys, or when told to.
    pub(super) fn corrected(
        &self,
        demand: &[usize],
        best: &mut Filled,
        least: f64,
        passes: usize,
        go_on: &mut dyn FnMut() -> bool,
    ) {
        let mut chance = Chance(0x9e37_79b9_7f4a_7c15);
        let worth = |i: usize| (self.sizes[i] as f64).powf(LONGER);
        let mut values: Vec<f64> = (0..demand.len()).map(worth).collect();
        for _ in 0..passes {
            if self.bought(best) <= least + COINCIDENT && best.1.iter().all(|m| *m == 0) {
                return;
            }
            let inertia = 0.5 + chance.next();
            let mut left = demand.to_vec();
            let mut bars: Vec<(usize, Vec<usize>)> = Vec::new();
            let mut used = vec![0; self.lengths.len()];
            while left.iter().any(|l| *l > 0) {
                ground::halt::point();
                if !go_on() {
                    return;
                }
                let Some((k, pieces, waste)) = self.fill_by(&values, &left, &used) else { break };
                let capacity = self.lengths[k].capacity as f64;
                let mut counts = vec![0usize; demand.len()];
                pieces.iter().for_each(|&i| counts[i] += 1);
                for (i, &n) in counts.iter().enumerate().filter(|c| *c.1 > 0) {
                    let (before, now) = (inertia * (demand[i] + left[i]) as f64, n as f64);
                    let told = worth(i) * capacity / (capacity - waste).max(1.0);
                    values[i] = (before * values[i] + now * told) / (before + now);
                    left[i] -= n;
                }
                used[k] += 1;
                bars.push((k, pieces));
            }
            self.better(best, self.finish(bars, used, left));
        }
    }

    /// The bar that is filled best by the values, and the steps that it wastes.
    fn fill_by(&self, values: &[f64], left: &[usize], used: &[usize]) -> Option<(usize, Vec<usize>, f64)> {
        let mut pick: Option<(f64, usize, Vec<usize>, f64)> = None;
        for k in self.shelf() {
            let l = self.lengths[k];
            if l.count.is_some_and(|n| used[k] >= n) {
                continue;
            }
            let pieces =
                self.shorten(k, usize::MAX, likely(&self.sizes, values, left, l.capacity, SEARCH_STEPS).1);
            if pieces.is_empty() {
                continue;
            }
            let waste = l.capacity as f64 - pieces.iter().map(|&i| self.sizes[i] as f64).sum::<f64>();
            let share = waste / l.capacity as f64 * if self.task.stock[k].offcut { 0.5 } else { 1.0 };
            if pick.as_ref().is_none_or(|p| share < p.0 - ROUNDING) {
                pick = Some((share, k, pieces, waste));
            }
        }
        pick.map(|(_, k, pieces, waste)| (k, pieces, waste.max(0.0)))
    }
}
