//! The order of pieces on one bar, and which way each lies: slants that lie alike share a cut.

use ground::geom::{COINCIDENT, ROUNDING};

/// A piece as the saw sees it from the side. Slants: how far the upper corner stands out beyond the lower
/// one, at start and end, mm.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Part {
    /// Along its middle, mm.
    pub length: f64,
    pub start: f64,
    pub end: f64,
    /// Depth of the side seen.
    pub depth: f64,
    /// It may be turned over about the bar, and walked from its other end.
    pub turns: bool,
}

impl Part {
    /// The ways it can lie: slants at start and end.
    pub fn ways(&self) -> Vec<(f64, f64)> {
        let mut out = vec![(self.start, self.end)];
        if self.turns {
            for w in [(-self.start, -self.end), (self.end, self.start), (-self.end, -self.start)] {
                if out
                    .iter()
                    .all(|o: &(f64, f64)| (o.0 - w.0).abs() > COINCIDENT || (o.1 - w.1).abs() > COINCIDENT)
                {
                    out.push(w);
                }
            }
        }
        out
    }
}

/// What lies between two pieces: the saw's cut, one for both where they lie alike, and the wedge where they
/// do not.
pub fn between(end: f64, start: f64, depth: f64, kerf: f64) -> f64 {
    let wide = |slant: f64| kerf * (1.0 + (slant / depth.max(1e-9)).powi(2)).sqrt();
    if (end + start).abs() < 0.02 {
        return wide(end);
    }
    let cuts = if end.abs() < 0.02 || start.abs() < 0.02 {
        wide(end).max(wide(start))
    } else {
        wide(end) + wide(start)
    };
    cuts + (end + start).abs() / 2.0
}

/// A piece in its place.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Lain {
    pub part: usize,
    pub start: f64,
    pub end: f64,
}

/// Orders the parts (types, one entry a piece) so that little is wasted; the length they take from the first
/// point to the last.
pub fn order(parts: &[Part], pieces: &[usize], kerf: f64) -> (f64, Vec<Lain>) {
    let slanted = pieces.iter().any(|&i| parts[i].start.abs() > 0.02 || parts[i].end.abs() > 0.02);
    if !slanted {
        let run = pieces.iter().map(|&i| parts[i].length).sum::<f64>()
            + kerf * pieces.len().saturating_sub(1) as f64;
        return (run, pieces.iter().map(|&part| Lain { part, start: 0.0, end: 0.0 }).collect());
    }
    // From every kind of first piece, always the next that wastes least; the best of these.
    let mut firsts: Vec<(usize, (f64, f64))> = Vec::new();
    for &i in pieces {
        if firsts.iter().all(|f| f.0 != i) {
            firsts.extend(parts[i].ways().into_iter().map(|w| (i, w)));
        }
    }
    let mut best: Option<(f64, Vec<Lain>)> = None;
    for (first, way) in firsts {
        let mut left: Vec<usize> = pieces.to_vec();
        left.swap_remove(left.iter().position(|&i| i == first).unwrap_or(0));
        let mut row = vec![Lain { part: first, start: way.0, end: way.1 }];
        let mut run = way.0.abs() / 2.0 + parts[first].length;
        while !left.is_empty() {
            let last = row[row.len() - 1];
            let mut next: Option<(f64, usize, (f64, f64))> = None;
            for (k, &i) in left.iter().enumerate() {
                if left[..k].contains(&i) {
                    continue;
                }
                for w in parts[i].ways() {
                    // Ties go to the piece with more slant, so that square ends come last.
                    let cost = between(last.end, w.0, parts[i].depth, kerf) - 1e-3 * w.1.abs().min(1.0);
                    if next.is_none_or(|n| cost < n.0 - 1e-12) {
                        next = Some((cost, k, w));
                    }
                }
            }
            let Some((_, k, w)) = next else { break };
            let i = left.swap_remove(k);
            run += between(last.end, w.0, parts[i].depth, kerf) + parts[i].length;
            row.push(Lain { part: i, start: w.0, end: w.1 });
        }
        run += row[row.len() - 1].end.abs() / 2.0;
        if best.as_ref().is_none_or(|b| run < b.0 - ROUNDING) {
            best = Some((run, row));
        }
    }
    best.unwrap_or_default()
}
