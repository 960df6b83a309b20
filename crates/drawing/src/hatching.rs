//! Hatching of faces.

use glam::DVec2;

/// Lines at 45° so far apart within loops, even-odd.
pub fn hatching(loops: &[Vec<DVec2>], pitch: f64) -> Vec<[DVec2; 2]> {
    let across = DVec2::new(1.0, -1.0).normalize();
    let along = across.perp();
    let sides = || loops.iter().flat_map(|l| (0..l.len()).map(|k| (l[k], l[(k + 1) % l.len()])));
    let ways = sides().map(|(a, _)| a.dot(across));
    let (low, high) = (ways.clone().fold(f64::INFINITY, f64::min), ways.fold(f64::NEG_INFINITY, f64::max));
    let mut out = Vec::new();
    let n = ((high - low) / pitch).floor().max(0.0) as usize;
    for k in 0..n {
        let at = low + pitch * (k as f64 + 0.5);
        let mut meets: Vec<f64> = sides()
            .map(|(a, b)| (a, b, a.dot(across) - at, b.dot(across) - at))
            .filter(|(_, _, da, db)| (*da < 0.0) != (*db < 0.0))
            .map(|(a, b, da, db)| a.lerp(b, da / (da - db)).dot(along))
            .collect();
        meets.sort_by(f64::total_cmp);
        out.extend(meets.chunks_exact(2).map(|w| [0, 1].map(|k| across * at + along * w[k])));
    }
    out
}
