//! Lines of one direction across a closed outline: where each of them enters and leaves.

use glam::DVec2;
use ground::geom::ROUNDING;

/// Nearer to a corner than this a line is taken to touch it, mm.
const GRAZE: f64 = 1e-7;

/// An outline seen along a direction: how far aside each of its points lies, and how far on, in lengths of
/// that direction.
pub struct Chords {
    /// The first stands again at the end.
    points: Vec<DVec2>,
    aside: DVec2,
    on: DVec2,
    low: f64,
    high: f64,
    far: f64,
}

impl Chords {
    /// None for a direction of no length: such a line stays where it is.
    pub fn new(outline: &[DVec2], v: DVec2) -> Option<Self> {
        let n = v.length_squared();
        if n < 1e-18 {
            return None;
        }
        let (aside, on) = (v.perp() / n.sqrt(), v / n);
        let points: Vec<DVec2> =
            outline.iter().chain(outline.first()).map(|q| DVec2::new(q.dot(aside), q.dot(on))).collect();
        let sides = || points.iter().map(|q| q.x);
        let (low, high) = (sides().fold(f64::INFINITY, f64::min), sides().fold(f64::NEG_INFINITY, f64::max));
        let far = points.iter().map(|q| q.y).fold(f64::NEG_INFINITY, f64::max);
        Some(Self { points, aside, on, low, high, far })
    }

    fn seen(&self, p: DVec2) -> DVec2 {
        DVec2::new(p.dot(self.aside), p.dot(self.on))
    }

    /// Beyond this no part of the outline lies on the line through `p`.
    pub fn beyond(&self, p: DVec2) -> f64 {
        self.far - p.dot(self.on)
    }

    /// The stretch of the line through `p` that lies inside, widest if there are several; `None` when it
    /// passes by or only grazes.
    pub fn inside(&self, p: DVec2) -> Option<(f64, f64)> {
        let at = self.seen(p);
        if at.x - GRAZE >= self.high || at.x + GRAZE <= self.low {
            return None;
        }
        // Just left and just right of it: both must lie inside.
        let lines = [at.x + GRAZE, at.x - GRAZE];
        let mut stretch = [(f64::INFINITY, f64::NEG_INFINITY); 2];
        let mut before = lines.map(|x| self.points[0].x <= x);
        for w in self.points.windows(2) {
            let now = lines.map(|x| w[1].x <= x);
            if now == before {
                continue;
            }
            for (k, &x) in lines.iter().enumerate().filter(|&(k, _)| now[k] != before[k]) {
                let s = w[0].y + (w[1].y - w[0].y) * ((x - w[0].x) / (w[1].x - w[0].x));
                stretch[k] = (stretch[k].0.min(s), stretch[k].1.max(s));
            }
            before = now;
        }
        let (low, high) = (stretch[0].0.max(stretch[1].0) - at.y, stretch[0].1.min(stretch[1].1) - at.y);
        (low < high).then_some((low, high))
    }

    /// Furthest crossing of the line through `p`; beside the outline, the place nearest to it.
    pub fn last(&self, p: DVec2) -> f64 {
        let at = self.seen(p);
        let mut best = f64::NEG_INFINITY;
        let mut nearest = (f64::INFINITY, 0.0);
        for (a, b) in self.points.windows(2).map(|w| (w[0], w[1])) {
            let (da, db) = (a.x - at.x, b.x - at.x);
            if da.abs() < nearest.0 - ROUNDING || (da.abs() < nearest.0 + ROUNDING && a.y > nearest.1) {
                nearest = (da.abs().min(nearest.0), a.y);
            }
            // A line that grazes a corner or runs along a side comes upon it, whichever way the last digit
            // falls.
            if da.abs() < GRAZE {
                best = best.max(a.y);
            } else if db.abs() >= GRAZE && (da < 0.0) != (db < 0.0) {
                best = best.max(a.y + (b.y - a.y) * (da / (da - db)));
            }
        }
        (if best.is_finite() { best } else { nearest.1 }) - at.y
    }
}
