//! Plans out of the relaxed problem: its whole bars are taken, what is left is relaxed again.

use super::relaxed::{self, relaxed};
use super::{Filled, Search};
use ground::geom::ROUNDING;

/// While a plan is made of the relaxed answer, its patterns are good enough this near to the bound.
pub(super) const NEAR: f64 = 1e-3;

/// The different bars of a plan, as counts of types.
pub(super) fn fillings(plan: &Filled) -> Vec<relaxed::Met> {
    let mut out: Vec<relaxed::Met> = Vec::new();
    for (k, pieces) in &plan.0 {
        let mut counts: Vec<(usize, usize)> = Vec::new();
        for &p in pieces {
            match counts.iter_mut().find(|c| c.0 == p) {
                Some(c) => c.1 += 1,
                None => counts.push((p, 1)),
            }
        }
        counts.sort_unstable();
        out.push((*k, counts));
    }
    out.sort();
    out.dedup();
    out
}

impl Search<'_> {
    pub(super) fn relax(
        &self,
        demand: &[usize],
        met: &mut Vec<relaxed::Met>,
        enough: &dyn Fn(f64, f64) -> bool,
        go_on: &mut dyn FnMut() -> bool,
    ) -> Option<relaxed::Relaxed> {
        let some: Vec<usize> = (0..demand.len()).filter(|&i| demand[i] > 0).collect();
        let sizes: Vec<usize> = some.iter().map(|&i| self.sizes[i]).collect();
        let wanted: Vec<usize> = some.iter().map(|&i| demand[i]).collect();
        // Fillings are kept by the types of the whole task.
        let place: Vec<usize> =
            (0..demand.len()).map(|i| some.iter().position(|&s| s == i).unwrap_or(usize::MAX)).collect();
        let mut known: Vec<relaxed::Met> = met
            .iter()
            .filter(|m| m.1.iter().all(|&(t, n)| place[t] != usize::MAX && n <= demand[t]))
            .map(|m| (m.0, m.1.iter().map(|&(t, n)| (place[t], n)).collect()))
            .collect();
        let before = known.len();
        let r = relaxed(&sizes, &wanted, &self.lengths, &mut known, enough, go_on);
        met.extend(
            known.drain(before..).map(|m| (m.0, m.1.into_iter().map(|(t, n)| (some[t], n)).collect())),
        );
        let mut r = r?;
        for p in &mut r.patterns {
            let mut counts = vec![0; demand.len()];
            some.iter().zip(&p.counts).for_each(|(&i, &n)| counts[i] = n);
            p.counts = counts;
        }
        Some(r)
    }

    /// Takes the whole bars of the relaxed answer (or its fullest part bar), then relaxes what is left, until
    /// nothing is.
    pub(super) fn dive(
        &self,
        demand: &[usize],
        first: relaxed::Relaxed,
        mut met: Vec<relaxed::Met>,
        go_on: &mut dyn FnMut() -> bool,
    ) -> Filled {
        let mut left = demand.to_vec();
        let mut bars = Vec::new();
        let mut used = vec![0; self.task.stock.len()];
        let mut relaxed = Some(first);
        while let Some(r) = relaxed.filter(|r| !r.patterns.is_empty()) {
            let most = r.patterns.iter().map(|p| p.bars).fold(0.0, f64::max);
            let mut moved = false;
            for p in &r.patterns {
                let times = if most >= 1.0 {
                    p.bars.floor() as usize
                } else {
                    usize::from(p.bars >= most - ROUNDING && !moved)
                };
                for _ in 0..times {
                    let counts: Vec<usize> = p.counts.iter().zip(&left).map(|(&n, &l)| n.min(l)).collect();
                    if self.task.stock[p.length].count.is_some_and(|n| used[p.length] >= n) {
                        break;
                    }
                    let pieces = self.shorten(p.length, usize::MAX, counts);
                    if pieces.is_empty() {
                        break;
                    }
                    pieces.iter().for_each(|&i| left[i] -= 1);
                    used[p.length] += 1;
                    bars.push((p.length, pieces));
                    moved = true;
                }
            }
            if !moved || left.iter().all(|l| *l == 0) || !go_on() {
                break;
            }
            let mut next =
                Search { task: self.task, sizes: self.sizes.clone(), lengths: self.lengths.clone() };
            for (l, n) in next.lengths.iter_mut().zip(&used) {
                l.count = l.count.map(|c| c.saturating_sub(*n));
            }
            relaxed = next.relax(&left, &mut met, &|bound, cost| cost - bound < NEAR * cost, go_on);
        }
        self.finish(bars, used, left)
    }
}
