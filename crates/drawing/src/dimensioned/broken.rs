//! Long bars broken where nothing happens along them: what is cut out is as long as it has to be.

use glam::DVec2;

/// Half of the gap that is left at a break, mm on paper.
pub const GAP: f64 = 0.9;

/// Places along a bar, on paper.
#[derive(Clone, Debug)]
pub struct Broken {
    pub scale: f64,
    /// Where something happens along it, and where that comes to stand.
    stops: Vec<(f64, f64)>,
    /// How much of a stretch is drawn, from either side; of short ones all.
    kept: f64,
}

impl Broken {
    /// `at`: places where something happens, the ends among them, in order. None where it cannot be drawn so
    /// small.
    pub fn new(at: &[f64], scale: f64, kept: f64, room: f64) -> Option<Broken> {
        let mut stops = Vec::new();
        let mut x = 0.0;
        for (k, v) in at.iter().enumerate() {
            if k > 0 {
                x += ((v - at[k - 1]) * scale).min(kept);
            }
            stops.push((*v, x));
        }
        (x <= room).then_some(Broken { scale, stops, kept })
    }

    pub fn width(&self) -> f64 {
        self.stops.last().map_or(0.0, |s| s.1)
    }

    /// Stretches that are broken, on paper.
    pub fn breaks(&self) -> Vec<f64> {
        let broken = |w: &[(f64, f64)]| (w[1].0 - w[0].0) * self.scale > self.kept + 1e-9;
        self.stops.windows(2).filter(|w| broken(w)).map(|w| (w[0].1 + w[1].1) / 2.0).collect()
    }

    /// Where a place comes to stand; what is cut out lies at the break.
    pub fn x(&self, v: f64) -> f64 {
        let Some(k) = self.stops.windows(2).position(|w| v <= w[1].0) else {
            return self.width() + self.stops.last().map_or(0.0, |s| (v - s.0) * self.scale);
        };
        let ((a, from), (b, to)) = (self.stops[k], self.stops[k + 1]);
        let half = (to - from) / 2.0;
        let (near, far) = ((v - a) * self.scale, (b - v) * self.scale);
        if near <= far { from + near.min(half) } else { to - far.min(half) }
    }

    /// A stroke of a view, y upwards, on paper below `top`, where the view reaches up to `high`; open where
    /// it runs over a break.
    pub fn strokes(&self, s: &[DVec2], top: f64, high: f64) -> Vec<Vec<DVec2>> {
        let at = |p: &DVec2| DVec2::new(self.x(p.x), top + (high - p.y) * self.scale);
        let breaks = self.breaks();
        let mut out: Vec<Vec<DVec2>> = vec![s.first().map(at).into_iter().collect()];
        for side in s.windows(2) {
            let (p, q) = (at(&side[0]), at(&side[1]));
            let mut over: Vec<f64> = breaks.iter().copied().filter(|x| (p.x - x) * (q.x - x) < 0.0).collect();
            over.sort_by(|a, b| (a - p.x).abs().total_cmp(&(b - p.x).abs()));
            let to = |x: f64| p.lerp(q, (x - p.x) / (q.x - p.x));
            let gap = GAP * (q.x - p.x).signum();
            for x in over {
                if let Some(last) = out.last_mut() {
                    last.push(to(x - gap));
                }
                out.push(vec![to(x + gap)]);
            }
            if let Some(last) = out.last_mut() {
                last.push(q);
            }
        }
        out
    }
}
