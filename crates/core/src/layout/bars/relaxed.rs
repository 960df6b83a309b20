//! The cutting-stock problem with fractions of bars allowed: a bound that no plan can beat, and the patterns that reach it.
//! Column generation after Gilmore and Gomory (1961), on a dense inverse of the basis; bars that are few get a row of their own.
//! A filling that pays is looked for among those met before, then by a short search, and only then worked out: the bound rests on the last.

use super::knapsack::{Fillings, likely};

/// One length of stock: steps, cost, and how many there are.
#[derive(Clone, Copy, Debug)]
pub struct Length {
    pub capacity: usize,
    pub cost: f64,
    pub count: Option<usize>,
}

/// A way to fill a bar, and how many bars (a fraction) are filled so.
#[derive(Clone, Debug, PartialEq)]
pub struct Pattern {
    pub length: usize,
    pub counts: Vec<usize>,
    pub bars: f64,
}

pub struct Relaxed {
    /// No plan costs less.
    pub bound: f64,
    pub patterns: Vec<Pattern>,
    /// False when it was cut short; the bound is then a weaker one.
    pub finished: bool,
}

/// Fillings met before, and steps of the short search for another.
const MOST_MET: usize = 4_000;
const SEARCH_STEPS: usize = 3_000;
/// Turns between two looks at the weaker bound, for who stops early.
const LOOK_EVERY: usize = 150;

/// A filling that was met before: length of stock, and how many of which types.
pub type Met = (usize, Vec<(usize, usize)>);

#[derive(Clone)]
enum Column {
    Fill {
        length: usize,
        counts: Vec<usize>,
    },
    /// More of a type than asked for.
    Surplus(usize),
    /// Bars of a length that are left on the rack.
    Spare(usize),
}

/// The relaxed problem; `None` when a type fits no bar that can be had in any number.
pub fn relaxed(sizes: &[usize], demand: &[usize], lengths: &[Length], met: &mut Vec<Met>, go_on: &mut dyn FnMut() -> bool) -> Option<Relaxed> {
    let types = sizes.len();
    let few: Vec<usize> = (0..lengths.len()).filter(|&k| lengths[k].count.is_some()).collect();
    let rows = types + few.len();
    let column = |c: &Column| -> Vec<f64> {
        let mut v = vec![0.0; rows];
        match c {
            Column::Fill { length, counts } => {
                counts.iter().enumerate().for_each(|(i, &n)| v[i] = n as f64);
                if let Some(r) = few.iter().position(|k| k == length) {
                    v[types + r] = 1.0;
                }
            }
            Column::Surplus(i) => v[*i] = -1.0,
            Column::Spare(r) => v[types + r] = 1.0,
        }
        v
    };
    let cost = |c: &Column| if let Column::Fill { length, .. } = c { lengths[*length].cost } else { 0.0 };
    let mut basis: Vec<Column> = Vec::new();
    let mut inverse = vec![vec![0.0; rows]; rows];
    let mut x: Vec<f64> = Vec::new();
    for i in 0..types {
        let any = lengths.iter().enumerate().filter(|(_, l)| l.count.is_none() && l.capacity >= sizes[i]);
        let (k, l) = any.min_by(|a, b| (a.1.cost / (a.1.capacity / sizes[i]) as f64).total_cmp(&(b.1.cost / (b.1.capacity / sizes[i]) as f64)))?;
        let n = (l.capacity / sizes[i]).min(demand[i].max(1));
        let mut counts = vec![0; types];
        counts[i] = n;
        basis.push(Column::Fill { length: k, counts });
        inverse[i][i] = 1.0 / n as f64;
        x.push(demand[i] as f64 / n as f64);
    }
    for (r, &k) in few.iter().enumerate() {
        basis.push(Column::Spare(r));
        inverse[types + r][types + r] = 1.0;
        x.push(lengths[k].count.unwrap_or(0) as f64);
    }
    let mut weak: f64 = 0.0;
    let mut finished = false;
    let longest = lengths.iter().map(|l| l.capacity).max().unwrap_or(0);
    for turn in 0..6000 {
        crate::halt::point();
        let going = go_on();
        let costs: Vec<f64> = basis.iter().map(cost).collect();
        let y: Vec<f64> = (0..rows).map(|j| (0..rows).map(|i| costs[i] * inverse[i][j]).sum()).collect();
        let total: f64 = costs.iter().zip(&x).map(|(c, v)| c * v).sum();
        // The column that would save most.
        let mut best: Option<(f64, Column)> = None;
        let mut offer = |gain: f64, c: Column| {
            if gain > 1e-7 && best.as_ref().is_none_or(|b| gain > b.0) {
                best = Some((gain, c));
            }
        };
        let own = |k: usize| few.iter().position(|f| *f == k).map_or(0.0, |r| y[types + r]);
        let mut soon: Option<(f64, usize)> = None;
        for (i, (k, counts)) in met.iter().enumerate() {
            let gain = counts.iter().map(|&(t, n)| y[t] * n as f64).sum::<f64>() + own(*k) - lengths[*k].cost;
            if gain > 1e-7 && soon.is_none_or(|s| gain > s.0) {
                soon = Some((gain, i));
            }
        }
        let mut fresh: Vec<(f64, usize, Vec<usize>)> = Vec::new();
        if let Some((gain, i)) = soon {
            let mut counts = vec![0; types];
            met[i].1.iter().for_each(|&(t, n)| counts[t] = n);
            offer(gain, Column::Fill { length: met[i].0, counts });
        } else if going {
            for (k, l) in lengths.iter().enumerate() {
                let (value, counts) = likely(sizes, &y[..types], demand, l.capacity, SEARCH_STEPS);
                fresh.push((value + own(k) - l.cost, k, counts));
            }
        }
        let paid = soon.is_some() || fresh.iter().any(|f| f.0 > 1e-7);
        let mut ratio = f64::INFINITY;
        if !paid || turn % LOOK_EVERY == LOOK_EVERY - 1 || !going {
            ratio = 1.0;
            fresh.clear();
            let all = Fillings::new(sizes, &y[..types], demand, longest);
            for (k, l) in lengths.iter().enumerate() {
                let value = all.value(l.capacity);
                // Farley (1990): prices scaled down until no filling is worth more than its bar.
                if own(k).abs() < 1e-12 && l.cost > 0.0 {
                    ratio = f64::max(ratio, value / l.cost);
                } else {
                    ratio = f64::INFINITY;
                }
                fresh.push((value + own(k) - l.cost, k, all.counts(l.capacity)));
            }
        }
        for (gain, k, counts) in fresh {
            if gain > 1e-7 && met.len() < MOST_MET {
                met.push((k, counts.iter().enumerate().filter(|c| *c.1 > 0).map(|(t, &n)| (t, n)).collect()));
            }
            offer(gain, Column::Fill { length: k, counts });
        }
        for (i, v) in y.iter().enumerate().take(types) {
            offer(-v, Column::Surplus(i));
        }
        for r in 0..few.len() {
            offer(y[types + r], Column::Spare(r));
        }
        if ratio.is_finite() {
            weak = weak.max(total / ratio);
        }
        if !going {
            break;
        }
        let Some((_, entering)) = best else {
            weak = total;
            finished = true;
            break;
        };
        let a = column(&entering);
        let d: Vec<f64> = (0..rows).map(|i| (0..rows).map(|j| inverse[i][j] * a[j]).sum()).collect();
        let leaving = (0..rows).filter(|&i| d[i] > 1e-9).min_by(|&i, &j| (x[i] / d[i]).total_cmp(&(x[j] / d[j])));
        let Some(out) = leaving else { break };
        let t = x[out] / d[out];
        for i in 0..rows {
            x[i] = if i == out { t } else { (x[i] - t * d[i]).max(0.0) };
        }
        let pivot: Vec<f64> = inverse[out].iter().map(|v| v / d[out]).collect();
        for i in 0..rows {
            if i != out {
                for j in 0..rows {
                    inverse[i][j] -= d[i] * pivot[j];
                }
            }
        }
        inverse[out] = pivot;
        basis[out] = entering;
    }
    let patterns = basis.into_iter().zip(x).filter_map(|(c, bars)| match c {
        Column::Fill { length, counts } if bars > 1e-9 => Some(Pattern { length, counts, bars }),
        _ => None,
    });
    Some(Relaxed { bound: weak, patterns: patterns.collect(), finished })
}
