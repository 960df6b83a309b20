//! The fullest and the most valuable filling of one bar, over whole steps of length.

/// How many of each type fill a bar best: the sum of `value` greatest, sizes within `capacity`, no more of a
/// type than `most`. Sizes are whole steps. Returns the value and the counts.
#[cfg(test)]
pub fn most_valuable(sizes: &[usize], values: &[f64], most: &[usize], capacity: usize) -> (f64, Vec<usize>) {
    let best = Fillings::new(sizes, values, most, capacity);
    (best.value(capacity), best.counts(capacity))
}

/// The most valuable fillings of bars of every length up to one, worked out together.
pub struct Fillings<'a> {
    sizes: &'a [usize],
    best: Vec<f64>,
    /// Copies of a type in the best filling, counted when the type was added.
    took: Vec<Vec<u16>>,
}

impl<'a> Fillings<'a> {
    pub fn new(sizes: &'a [usize], values: &[f64], most: &[usize], capacity: usize) -> Self {
        let mut best = vec![0.0f64; capacity + 1];
        let mut took: Vec<Vec<u16>> = Vec::with_capacity(sizes.len());
        for i in 0..sizes.len() {
            ground::halt::point();
            // Worthless types take no room.
            let top = most[i].min(capacity.checked_div(sizes[i]).unwrap_or(0)).min(usize::from(u16::MAX));
            if values[i] <= 1e-12 || top == 0 {
                took.push(Vec::new());
                continue;
            }
            let mut row = vec![0u16; capacity + 1];
            // Copies in doublings, so that a thousand of a type cost ten passes.
            let mut left = top;
            let mut pack = 1;
            while left > 0 {
                let n = pack.min(left);
                let (w, v) = (sizes[i] * n, values[i] * n as f64);
                if w <= capacity {
                    for c in (w..=capacity).rev() {
                        let with = best[c - w] + v;
                        if with > best[c] + 1e-12 {
                            best[c] = with;
                            row[c] = row[c - w] + n as u16;
                        }
                    }
                }
                left -= n;
                pack *= 2;
            }
            took.push(row);
        }
        Fillings { sizes, best, took }
    }

    pub fn value(&self, capacity: usize) -> f64 {
        self.best[capacity]
    }

    pub fn counts(&self, capacity: usize) -> Vec<usize> {
        let mut counts = vec![0; self.sizes.len()];
        let mut c = capacity;
        for i in (0..self.sizes.len()).rev() {
            let n = self.took[i].get(c).map_or(0, |n| *n as usize);
            counts[i] = n;
            c -= n * self.sizes[i];
        }
        counts
    }
}

/// A good filling, soon: depth first by value for size, the best among so many steps. Often the most
/// valuable, never more than it.
pub fn likely(
    sizes: &[usize],
    values: &[f64],
    most: &[usize],
    capacity: usize,
    steps: usize,
) -> (f64, Vec<usize>) {
    let mut by: Vec<usize> =
        (0..sizes.len()).filter(|&i| values[i] > 1e-12 && most[i] > 0 && sizes[i] <= capacity).collect();
    by.sort_by(|&a, &b| {
        (values[b] / sizes[b] as f64).total_cmp(&(values[a] / sizes[a] as f64)).then(sizes[b].cmp(&sizes[a]))
    });
    let rate = |k: usize| by.get(k).map_or(0.0, |&i| values[i] / sizes[i] as f64);
    // Nothing from here on is smaller: below it the rest of a bar is waste.
    let mut smallest = vec![usize::MAX; by.len() + 1];
    for k in (0..by.len()).rev() {
        smallest[k] = smallest[k + 1].min(sizes[by[k]]);
    }
    let mut taken = vec![0usize; by.len()];
    let mut best = (0.0, taken.clone());
    let (mut room, mut value) = (capacity, 0.0);
    let mut k = 0;
    let full = capacity as f64 * rate(0);
    for _ in 0..steps {
        // Down: as many as go in of each type in turn, while that can still beat the best.
        while k < by.len() && room >= smallest[k] && value + room as f64 * rate(k) > best.0 + 1e-9 {
            let i = by[k];
            taken[k] = (room / sizes[i]).min(most[i]);
            room -= taken[k] * sizes[i];
            value += taken[k] as f64 * values[i];
            k += 1;
        }
        if value > best.0 + 1e-9 {
            best = (value, taken.clone());
            // Nothing is worth more than a bar full of the best.
            if value >= full - 1e-9 {
                break;
            }
        }
        // Back: one fewer of the last type that was taken.
        let Some(last) = (0..k).rev().find(|&j| taken[j] > 0) else { break };
        taken[last + 1..k].fill(0);
        let i = by[last];
        taken[last] -= 1;
        room += sizes[i];
        value -= values[i];
        k = last + 1;
    }
    let mut counts = vec![0; sizes.len()];
    by.iter().zip(&best.1).for_each(|(&i, &n)| counts[i] = n);
    (best.0, counts)
}

/// A filling that the search leaves short is worked out, up to this many cells.
const MOST_CELLS: usize = 600_000;
const SEARCH_STEPS: usize = 2_000;

/// The fullest filling that takes at least one of type `first`.
pub fn fullest(sizes: &[usize], left: &[usize], first: usize, capacity: usize) -> Vec<usize> {
    let values: Vec<f64> = sizes.iter().map(|&s| s as f64).collect();
    let mut most = left.to_vec();
    most[first] -= 1;
    let room = capacity.saturating_sub(sizes[first]);
    let open = most.iter().filter(|m| **m > 0).count();
    let (filled, mut counts) = likely(sizes, &values, &most, room, SEARCH_STEPS);
    if filled + 0.5 < room as f64 && open * room <= MOST_CELLS {
        counts = Fillings::new(sizes, &values, &most, room).counts(room);
    }
    counts[first] += 1;
    counts
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Every filling there is.
    fn tried(sizes: &[usize], values: &[f64], most: &[usize], capacity: usize) -> f64 {
        let Some((&size, rest)) = sizes.split_first() else { return 0.0 };
        (0..=most[0].min(capacity / size))
            .map(|n| n as f64 * values[0] + tried(rest, &values[1..], &most[1..], capacity - n * size))
            .fold(0.0, f64::max)
    }

    proptest! {
        #[test]
        fn the_most_valuable_is_the_best_of_all_and_the_likely_never_more(
            items in prop::collection::vec((1usize..9, 0u32..9, 0usize..4), 1..6), capacity in 1usize..24,
        ) {
            let sizes: Vec<usize> = items.iter().map(|i| i.0).collect();
            let values: Vec<f64> = items.iter().map(|i| f64::from(i.1)).collect();
            let most: Vec<usize> = items.iter().map(|i| i.2).collect();
            let best = tried(&sizes, &values, &most, capacity);
            let sum = |counts: &[usize]| counts.iter().zip(&values).map(|(n, v)| *n as f64 * v).sum::<f64>();
            let held = |counts: &[usize]| counts.iter().zip(&sizes).map(|(n, s)| n * s).sum::<usize>();
            for (value, counts) in [most_valuable(&sizes, &values, &most, capacity), likely(&sizes, &values,
                &most, capacity, 100_000)] {
                prop_assert!((value - best).abs() < 1e-9 && (sum(&counts) - value).abs() < 1e-9);
                prop_assert!(held(&counts) <= capacity && counts.iter().zip(&most).all(|(n, m)| n <= m));
            }
            let soon = likely(&sizes, &values, &most, capacity, 3);
            prop_assert!(soon.0 <= best + 1e-9 && held(&soon.1) <= capacity);
        }
    }
}
