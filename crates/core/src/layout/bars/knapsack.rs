//! The fullest and the most valuable filling of one bar, over whole steps of length.

/// How many of each type fill a bar best: the sum of `value` greatest, sizes within `capacity`, no more of a type than `most`.
/// Sizes are whole steps. Returns the value and the counts.
pub fn most_valuable(sizes: &[usize], values: &[f64], most: &[usize], capacity: usize) -> (f64, Vec<usize>) {
    // best[c]: value of the best filling of at most c steps; took[i][c]: copies of type i in it, counted when i was added.
    let mut best = vec![0.0f64; capacity + 1];
    let mut took: Vec<Vec<u16>> = Vec::with_capacity(sizes.len());
    for i in 0..sizes.len() {
        // Worthless types take no room.
        if values[i] <= 1e-12 || most[i] == 0 || sizes[i] > capacity {
            took.push(Vec::new());
            continue;
        }
        let mut row = vec![0u16; capacity + 1];
        let top = most[i].min(capacity.checked_div(sizes[i]).unwrap_or(0));
        if top > 0 {
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
        }
        took.push(row);
    }
    let mut counts = vec![0; sizes.len()];
    let mut c = capacity;
    for i in (0..sizes.len()).rev() {
        let n = took[i].get(c).map_or(0, |n| *n as usize);
        counts[i] = n;
        c -= n * sizes[i];
    }
    (best[capacity], counts)
}

/// The fullest filling that takes at least one of type `first`.
pub fn fullest(sizes: &[usize], left: &[usize], first: usize, capacity: usize) -> Vec<usize> {
    let values: Vec<f64> = sizes.iter().map(|&s| s as f64).collect();
    let mut most = left.to_vec();
    most[first] -= 1;
    let (_, mut counts) = most_valuable(sizes, &values, &most, capacity.saturating_sub(sizes[first]));
    counts[first] += 1;
    counts
}
