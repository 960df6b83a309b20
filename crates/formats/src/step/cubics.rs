//! A smooth curve as cubic arcs through its places with its directions.

use glam::DVec3;

/// A curve is told in steps of this turn, rad: 1e-7 of its radius off.
pub const STEP: f64 = 0.04;
/// Arcs of one curve.
const MOST: f64 = 400.0;

/// Arcs that a turn needs.
pub fn arcs(turn: f64) -> usize {
    (turn / STEP).ceil().clamp(1.0, MOST) as usize
}

/// The poles of `n` arcs along `at`, from 0 to 1; ends shared.
pub fn cubics(at: impl Fn(f64) -> DVec3, n: usize) -> Vec<DVec3> {
    let h = 1.0 / n as f64;
    let slope = |f: f64| {
        // By places beside it, of the sixth order: what is smooth has no closer derivative.
        let d = h * 0.05;
        let (lo, hi) = ((f - 3.0 * d).max(0.0), (f + 3.0 * d).min(1.0));
        let c = (lo + hi) / 2.0;
        if (c - f).abs() < 1e-15 {
            let w = [(1.0, 45.0), (2.0, -9.0), (3.0, 1.0)];
            w.iter().map(|(k, w)| (at(f + k * d) - at(f - k * d)) * *w).sum::<DVec3>() / (60.0 * d)
        } else {
            let s = if f < 0.5 { d } else { -d };
            let w = [-147.0, 360.0, -450.0, 400.0, -225.0, 72.0, -10.0];
            w.iter().enumerate().map(|(k, w)| at(f + s * k as f64) * *w).sum::<DVec3>() / (60.0 * s)
        }
    };
    let mut out = vec![at(0.0)];
    for k in 0..n {
        let (f, g) = (k as f64 * h, (k + 1) as f64 * h);
        let (a, b) = (at(f), at(g));
        out.extend([a + slope(f) * (h / 3.0), b - slope(g) * (h / 3.0), b]);
    }
    out
}
