//! The cutting-stock problem with fractions of bars allowed: a bound that no plan can beat, and the patterns
//! that reach it. Column generation after Gilmore and Gomory (1961), on a dense inverse of the basis; bars
//! that are few get a row of their own. A filling that pays is looked for among those met before, then by a
//! short search, and only then worked out: the bound rests on the last.

use super::knapsack::{Fillings, likely};
use ground::geom::ROUNDING;

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

/// What the demand costs at least by prices of the pieces, whatever they are: scaled down until no filling is
/// worth more than its bar (Farley 1990), what bars that are few may earn beyond their cost taken off (the
/// Lagrangian bound).
fn priced(prices: &[f64], demand: &[usize], lengths: &[Length], values: &[f64]) -> f64 {
    let worth: f64 = prices.iter().zip(demand).map(|(p, d)| p.max(0.0) * *d as f64).sum();
    let scales = |few: bool| {
        lengths
            .iter()
            .zip(values)
            .filter(move |(l, v)| l.count.is_some() == few && **v > 0.0)
            .map(|(l, v)| l.cost / v)
    };
    let most = scales(false).fold(f64::INFINITY, f64::min);
    let bound = |scale: f64| {
        let earned = lengths
            .iter()
            .zip(values)
            .map(|(l, v)| l.count.unwrap_or(0) as f64 * (scale * v - l.cost).max(0.0));
        scale * worth - earned.sum::<f64>()
    };
    if most.is_infinite() {
        return 0.0;
    }
    // Its corners: where a bar that is few begins to earn, and where one of the others does.
    scales(true).filter(|s| *s < most).map(bound).fold(bound(most), f64::max)
}

/// The prices that gave the best bound so far. The first are those of the material: near the mark whenever
/// the bars come out nearly full.
struct Centre {
    prices: Vec<f64>,
    bound: f64,
}

impl Centre {
    fn new(sizes: &[usize], demand: &[usize], lengths: &[Length]) -> Self {
        let usable = lengths.iter().filter(|l| l.count.is_none() && l.capacity > 0);
        let rate = usable.map(|l| l.cost / l.capacity as f64).fold(f64::INFINITY, f64::min);
        let prices: Vec<f64> =
            sizes.iter().map(|&s| if rate.is_finite() { s as f64 * rate } else { 0.0 }).collect();
        let values: Vec<f64> =
            lengths.iter().map(|l| if rate.is_finite() { l.capacity as f64 * rate } else { 0.0 }).collect();
        let bound = priced(&prices, demand, lengths, &values);
        Centre { prices, bound }
    }

    fn try_prices(&mut self, prices: &[f64], demand: &[usize], lengths: &[Length], values: &[f64]) {
        let bound = priced(prices, demand, lengths, values);
        if bound > self.bound {
            *self = Centre { prices: prices.to_vec(), bound };
        }
    }
}

fn packed(length: usize, counts: &[usize]) -> Met {
    (length, counts.iter().enumerate().filter(|c| *c.1 > 0).map(|(t, &n)| (t, n)).collect())
}

/// Fillings that go with the ones found: what those leave of the demand, bar after bar, as the prices have
/// it.
fn companions(
    sizes: &[usize],
    prices: &[f64],
    demand: &[usize],
    lengths: &[Length],
    found: &[Met],
) -> Vec<Met> {
    let mut out: Vec<Met> = Vec::new();
    for (k, first) in found {
        if lengths[*k].count.is_some() {
            continue;
        }
        let mut left = demand.to_vec();
        let mut filling = first.clone();
        while !filling.is_empty() && out.len() < MOST_COMPANIONS {
            filling.iter().for_each(|&(t, n)| left[t] -= n);
            let (_, counts) = likely(sizes, prices, &left, lengths[*k].capacity, SEARCH_STEPS);
            filling = packed(*k, &counts).1;
            if !filling.is_empty() {
                out.push((*k, filling.clone()));
            }
        }
    }
    out
}

/// Fillings met before, and the most that one look at the prices adds.
const MOST_MET: usize = 6_000;
const MOST_COMPANIONS: usize = 60;
/// Steps of the short search for a filling.
const SEARCH_STEPS: usize = 300;
/// How far prices lean towards the best ones (Wentges 1997): without it they swing, and hundreds of turns
/// bring little.
const LEAN: f64 = 0.9;
/// Turns until it is given up; the bound so far holds.
const MOST_TURNS: usize = 20_000;

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

/// The relaxed problem; `None` when a type fits no bar that can be had in any number. It ends early when
/// `enough` says so of the bound and of the cost reached: the last turns of column generation are many and
/// change nothing that whole bars can show.
pub fn relaxed(
    sizes: &[usize],
    demand: &[usize],
    lengths: &[Length],
    met: &mut Vec<Met>,
    enough: &dyn Fn(f64, f64) -> bool,
    go_on: &mut dyn FnMut() -> bool,
) -> Option<Relaxed> {
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
        let (k, l) = any.min_by(|a, b| {
            (a.1.cost / (a.1.capacity / sizes[i]) as f64)
                .total_cmp(&(b.1.cost / (b.1.capacity / sizes[i]) as f64))
        })?;
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
    let longest = lengths.iter().map(|l| l.capacity).max().unwrap_or(0);
    let mut centre = Centre::new(sizes, demand, lengths);
    let mut finished = false;
    let mut lean = LEAN;
    for _ in 0..MOST_TURNS {
        ground::halt::point();
        let costs: Vec<f64> = basis.iter().map(cost).collect();
        let y: Vec<f64> = (0..rows).map(|j| (0..rows).map(|i| costs[i] * inverse[i][j]).sum()).collect();
        let total: f64 = costs.iter().zip(&x).map(|(c, v)| c * v).sum();
        if enough(centre.bound, total) {
            finished = true;
            break;
        }
        if !go_on() {
            break;
        }
        // The column that would save most.
        let mut best: Option<(f64, Column)> = None;
        let mut offer = |gain: f64, c: Column| {
            if gain > 1e-7 && best.as_ref().is_none_or(|b| gain > b.0) {
                best = Some((gain, c));
            }
        };
        let own = |k: usize| few.iter().position(|f| *f == k).map_or(0.0, |r| y[types + r]);
        let gain =
            |m: &Met| m.1.iter().map(|&(t, n)| y[t] * n as f64).sum::<f64>() + own(m.0) - lengths[m.0].cost;
        let soon = |from: usize, met: &[Met]| {
            let paying = met.iter().enumerate().skip(from).map(|(i, m)| (gain(m), i)).filter(|g| g.0 > 1e-7);
            paying.max_by(|a, b| a.0.total_cmp(&b.0))
        };
        let mut found = soon(0, met);
        // Prices leant towards the best ones so far; straight ones when those bring nothing.
        while found.is_none() {
            let prices: Vec<f64> = y[..types]
                .iter()
                .zip(&centre.prices)
                .map(|(y, c)| lean * c + (1.0 - lean) * y.max(0.0))
                .collect();
            let all = Fillings::new(sizes, &prices, demand, longest);
            let values: Vec<f64> = lengths.iter().map(|l| all.value(l.capacity)).collect();
            centre.try_prices(&prices, demand, lengths, &values);
            let from = met.len();
            met.extend(lengths.iter().enumerate().map(|(k, l)| packed(k, &all.counts(l.capacity))));
            found = soon(from, met);
            if found.is_some() {
                met.extend(companions(sizes, &prices, demand, lengths, &met[from..]));
                found = soon(from, met);
                met.truncate(MOST_MET.max(from + lengths.len()));
                lean = (lean + 0.1).min(LEAN);
            } else if lean > 0.0 {
                met.truncate(from);
                lean = if lean > 0.25 { lean - 0.25 } else { 0.0 };
            } else {
                met.truncate(from);
                break;
            }
            if enough(centre.bound, total) {
                break;
            }
        }
        if let Some((gain, i)) = found {
            let mut counts = vec![0; types];
            met[i].1.iter().for_each(|&(t, n)| counts[t] = n);
            offer(gain, Column::Fill { length: met[i].0, counts });
        }
        for (i, v) in y.iter().enumerate().take(types) {
            offer(-v, Column::Surplus(i));
        }
        for r in 0..few.len() {
            offer(y[types + r], Column::Spare(r));
        }
        let Some((_, entering)) = best else {
            centre.bound = centre.bound.max(total);
            finished = true;
            break;
        };
        let a = column(&entering);
        let d: Vec<f64> = (0..rows).map(|i| (0..rows).map(|j| inverse[i][j] * a[j]).sum()).collect();
        let leaving =
            (0..rows).filter(|&i| d[i] > ROUNDING).min_by(|&i, &j| (x[i] / d[i]).total_cmp(&(x[j] / d[j])));
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
        Column::Fill { length, counts } if bars > ROUNDING => Some(Pattern { length, counts, bars }),
        _ => None,
    });
    Some(Relaxed { bound: centre.bound, patterns: patterns.collect(), finished })
}
