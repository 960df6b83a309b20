//! Pieces onto stock lengths: kerf, trimmed ends, mitres that share a cut, several lengths and offcuts. The
//! plan comes with a bound that no plan can beat, so that it is known to be the best, or by how much it might
//! not be.

mod corrected;
mod diving;
mod exact;
mod filling;
mod knapsack;
mod relaxed;
mod sequence;

pub use relaxed::{Length, Pattern, relaxed};
pub use sequence::{Lain, Part, between, order};

use diving::fillings;
use ground::geom::{COINCIDENT, ROUNDING};

/// Bars that can be had.
#[derive(Clone, Debug, PartialEq)]
pub struct Stock {
    pub length: f64,
    /// None for as many as needed.
    pub count: Option<usize>,
    /// On the rack already: costs nothing.
    pub offcut: bool,
}

#[derive(Clone, Debug, PartialEq)]
pub struct Task {
    pub parts: Vec<Part>,
    pub demand: Vec<usize>,
    pub stock: Vec<Stock>,
    pub kerf: f64,
    /// Taken off each end of a new bar; offcuts are clean.
    pub trim: f64,
}

/// One bar, or several that are cut alike.
#[derive(Clone, Debug, PartialEq)]
pub struct Bar {
    pub stock: usize,
    pub pieces: Vec<Lain>,
    /// From the first point to the last, cuts between them counted.
    pub used: f64,
    /// What is left over behind the last cut.
    pub rest: f64,
    pub times: usize,
}

#[derive(Clone, Debug, Default, PartialEq)]
pub struct Plan {
    pub bars: Vec<Bar>,
    /// New stock, mm: what is to be bought.
    pub bought: f64,
    /// No plan buys less, mm.
    pub bound: f64,
    /// Pieces by type that fit no bar.
    pub left_out: Vec<usize>,
    /// Cut short before it was done.
    pub stopped: bool,
}

impl Plan {
    /// Nothing better can be.
    pub fn is_best(&self) -> bool {
        self.bought <= self.bound + COINCIDENT
    }
}

/// Lengths are compared in steps of this, mm: pieces rounded down, bars up, so that the bound stays one.
const STEP: f64 = 0.5;
/// An offcut costs this part of a new bar of its length: it is taken first, and a short one before a long
/// one.
const RACK: f64 = 1e-4;
/// The most pieces of one task.
pub const MOST_PIECES: usize = 20_000;

/// How hard a plan is looked for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Effort {
    /// A first plan at once, with the bound that its material alone gives.
    Quick,
    /// The bound of the relaxed problem, and the plans that come soon after it.
    Fair,
    /// Better plans for as long as it may go on.
    Full,
}

struct Search<'a> {
    task: &'a Task,
    /// Steps by type and by length of stock.
    sizes: Vec<usize>,
    lengths: Vec<Length>,
}

/// Plans the task. `go_on` is asked between steps with how far it is (0 to 1); false stops it with the best
/// plan so far.
pub fn plan(task: &Task, effort: Effort, go_on: &mut dyn FnMut(f64) -> bool) -> Plan {
    let usable = |s: &Stock| s.length - if s.offcut { 0.0 } else { 2.0 * task.trim };
    let lengths: Vec<Length> = task
        .stock
        .iter()
        .map(|s| Length {
            // One kerf more: n pieces have n − 1 cuts between them.
            capacity: ((usable(s).max(0.0) + task.kerf) / STEP + COINCIDENT).ceil() as usize,
            cost: if s.offcut { s.length * RACK } else { s.length },
            count: s.count,
        })
        .collect();
    let sizes: Vec<usize> = task
        .parts
        .iter()
        .map(|p| (((p.length + task.kerf) / STEP - COINCIDENT).floor() as usize).max(1))
        .collect();
    let search = Search { task, sizes, lengths };
    let mut demand = task.demand.clone();
    let mut out = Plan { left_out: vec![0; demand.len()], ..Plan::default() };
    for (i, wanted) in demand.iter_mut().enumerate() {
        // Alone on a bar it takes its points too.
        if (0..task.stock.len()).all(|k| !search.fits(k, &[i])) {
            out.left_out[i] = std::mem::take(wanted);
        }
    }
    if demand.iter().all(|d| *d == 0) || demand.iter().sum::<usize>() > MOST_PIECES {
        return out;
    }
    let mut stopped = !go_on(0.02);
    let mut best = search.first_fit(&demand);
    search.better(&mut best, search.full_bars(&demand, &mut |f| go_on(0.05 + 0.2 * f)));
    let mut asked = 0;
    let alive = &mut || {
        asked += 1;
        go_on((0.3 + 0.0005 * f64::from(asked)).min(0.8))
    };
    let mut bound = search.material(&demand);
    // What the quick plans found are fillings to begin with.
    let mut met = fillings(&best);
    if effort != Effort::Quick
        && let Some(r) = search.relax(
            &demand,
            &mut met,
            &|bound, cost| search.attainable(bound) >= search.attainable(cost),
            alive,
        )
    {
        bound = f64::max(bound, r.bound);
        stopped |= !r.finished;
        let passes = if effort == Effort::Full { corrected::MOST_PASSES } else { corrected::FAIR_PASSES };
        search.corrected(&demand, &mut best, search.attainable(bound), passes, alive);
        if effort == Effort::Full && search.bought(&best) > search.attainable(bound) + COINCIDENT {
            search.better(&mut best, search.dive(&demand, r, met, alive));
        }
    }
    let open = best.1.iter().all(|m| *m == 0) && search.bought(&best) > search.attainable(bound) + COINCIDENT;
    if open
        && effort == Effort::Full
        && go_on(0.9)
        && let Some(found) = search.every_way(&demand, search.cost(&best))
    {
        search.better(&mut best, found);
    }
    let (bars, missing) = best;
    for (i, m) in missing.iter().enumerate() {
        out.left_out[i] += m;
    }
    out.bars = search.joined(bars);
    out.bought = out
        .bars
        .iter()
        .filter(|b| !task.stock[b.stock].offcut)
        .map(|b| task.stock[b.stock].length * b.times as f64)
        .sum();
    out.bound = search.attainable(bound).min(out.bought);
    out.stopped = stopped;
    go_on(1.0);
    out
}

/// Bars with their stock, and what found no bar.
type Filled = (Vec<(usize, Vec<usize>)>, Vec<usize>);

impl Search<'_> {
    fn room(&self, k: usize) -> f64 {
        let s = &self.task.stock[k];
        s.length - if s.offcut { 0.0 } else { 2.0 * self.task.trim }
    }

    fn fits(&self, k: usize, pieces: &[usize]) -> bool {
        order(&self.task.parts, pieces, self.task.kerf).0 <= self.room(k) + COINCIDENT
    }

    fn cost(&self, filled: &Filled) -> f64 {
        // What is left out weighs more than any bar.
        filled.0.iter().map(|b| self.lengths[b.0].cost).sum::<f64>()
            + filled.1.iter().sum::<usize>() as f64 * 1e9
    }

    /// New stock, mm.
    fn bought(&self, filled: &Filled) -> f64 {
        filled.0.iter().map(|b| &self.task.stock[b.0]).filter(|s| !s.offcut).map(|s| s.length).sum()
    }

    fn better(&self, best: &mut Filled, other: Filled) {
        if self.cost(&other) < self.cost(best) - ROUNDING {
            *best = other;
        }
    }

    /// Stock in the order it is reached for: offcuts from the shortest, then new bars.
    fn shelf(&self) -> Vec<usize> {
        let mut out: Vec<usize> = (0..self.task.stock.len()).collect();
        out.sort_by(|&a, &b| {
            let (s, t) = (&self.task.stock[a], &self.task.stock[b]);
            t.offcut.cmp(&s.offcut).then(s.length.total_cmp(&t.length))
        });
        out
    }

    /// What the material alone costs at the cheapest: no plan costs less.
    fn material(&self, demand: &[usize]) -> f64 {
        let steps: f64 = self.sizes.iter().zip(demand).map(|(s, d)| (s * d) as f64).sum();
        // Bars that are few are taken first, whole, where they are cheaper by the step.
        let mut stock: Vec<&Length> = self.lengths.iter().filter(|l| l.capacity > 0).collect();
        stock.sort_by(|a, b| (a.cost / a.capacity as f64).total_cmp(&(b.cost / b.capacity as f64)));
        let (mut left, mut cost) = (steps, 0.0);
        for l in stock {
            let most = l.count.map_or(f64::INFINITY, |n| (n * l.capacity) as f64);
            let here = left.min(most);
            cost += here * l.cost / l.capacity as f64;
            left -= here;
        }
        cost
    }

    /// The bound brought up to the next sum that whole bars can make.
    fn attainable(&self, bound: f64) -> f64 {
        let news: Vec<i64> =
            self.task.stock.iter().filter(|s| !s.offcut).map(|s| (s.length * 10.0).round() as i64).collect();
        let gcd = news.iter().fold(0i64, |a, &b| {
            let (mut a, mut b) = (a, b);
            while b != 0 {
                (a, b) = (b, a % b);
            }
            a
        });
        // What the offcuts cost in it is no purchase.
        let racked: f64 = self
            .task
            .stock
            .iter()
            .filter(|s| s.offcut)
            .map(|s| s.length * RACK * s.count.unwrap_or(0) as f64)
            .sum();
        if gcd <= 0 {
            return 0.0;
        }
        let step = gcd as f64 / 10.0;
        (((bound - racked).max(0.0) / step - COINCIDENT).ceil() * step).max(0.0)
    }

    /// Bars that are cut alike become one line with a number.
    fn joined(&self, bars: Vec<(usize, Vec<usize>)>) -> Vec<Bar> {
        let mut out: Vec<(Vec<usize>, Bar)> = Vec::new();
        for (stock, mut pieces) in bars {
            pieces.sort_by(|&a, &b| {
                self.task.parts[b].length.total_cmp(&self.task.parts[a].length).then(a.cmp(&b))
            });
            if let Some(same) = out.iter_mut().find(|o| o.1.stock == stock && o.0 == pieces) {
                same.1.times += 1;
                continue;
            }
            let (used, row) = order(&self.task.parts, &pieces, self.task.kerf);
            let rest = (self.room(stock) - used - self.task.kerf).max(0.0);
            out.push((pieces, Bar { stock, pieces: row, used, rest, times: 1 }));
        }
        out.into_iter().map(|o| o.1).collect()
    }
}
