//! Ends rounded off: how they lie, and the metal that rounding takes.

use std::f64::consts::FRAC_PI_2;

use glam::DVec2;
use ground::geom::Contour;

use super::bar::{Bar, RoundedEnd};
use super::model::EndRound;
use super::profile::Profile;

/// The round of a bar's end that begins so far along its leg.
pub fn rounded_end(p: &Profile, round: &EndRound, bar: &Bar, at: f64) -> RoundedEnd {
    RoundedEnd {
        at: bar.point(DVec2::ZERO, at),
        aside: bar.y * round.aside.x + bar.z * round.aside.y,
        into: bar.d,
        half: (width(p, round.aside) / 2.0 - round.radius).max(0.0),
        radius: round.radius,
    }
}

/// How wide a section is, about the middle of its box.
pub fn width(p: &Profile, aside: DVec2) -> f64 {
    2.0 * p.reach(aside).max(p.reach(-aside))
}

/// Metal that rounding takes off a square end, mm³, and its moments: along from the tip, and in the section.
pub fn taken(p: &Profile, rounded_end: &RoundedEnd, aside: DVec2) -> (f64, f64, DVec2) {
    let chord = p.section.shape.size().max_element() * 1e-5;
    let turned = |c: &Contour| -> Vec<DVec2> {
        // x to the side that is rounded.
        c.flatten(chord).into_iter().map(|q| DVec2::new(q.dot(aside), q.dot(aside.perp()))).collect()
    };
    let loops: Vec<Vec<DVec2>> = std::iter::once(&p.outer).chain(&p.holes).map(turned).collect();
    // Between corners of the section its width changes evenly: each such strip by itself, over the angle of
    // the round, where all of it is smooth.
    let mut angles: Vec<f64> = loops
        .iter()
        .flatten()
        .map(|q| ((q.x.abs() - rounded_end.half) / rounded_end.radius).clamp(0.0, 1.0).asin())
        .chain([0.0, FRAC_PI_2])
        .collect();
    angles.sort_by(f64::total_cmp);
    angles.dedup_by(|a, b| (*a - *b).abs() < 1e-9);
    let (mut volume, mut along, mut off) = (0.0, 0.0, DVec2::ZERO);
    for side in [1.0, -1.0] {
        for strip in angles.windows(2) {
            for (share, weight) in GAUSS {
                let (sin, cos) = (strip[0] + (strip[1] - strip[0]) * share).sin_cos();
                let x = side * (rounded_end.half + rounded_end.radius * sin);
                let back = rounded_end.radius * (1.0 - cos);
                let step = weight * (strip[1] - strip[0]) * rounded_end.radius * cos * back;
                let (deep, middle) = metal(&loops, x);
                volume += deep * step;
                along += deep * step * back / 2.0;
                off += (aside * x * deep + aside.perp() * middle) * step;
            }
        }
    }
    (volume, along, off)
}

/// Places and weights of Gauss and Legendre over 0 to 1, five of them: Abramowitz and Stegun, table 25.4.
const GAUSS: [(f64, f64); 5] = [
    (0.046_910_077_030_668, 0.118_463_442_528_094_5),
    (0.230_765_344_947_158_5, 0.239_314_335_249_683_2),
    (0.5, 0.284_444_444_444_444_4),
    (0.769_234_655_052_841_5, 0.239_314_335_249_683_2),
    (0.953_089_922_969_332, 0.118_463_442_528_094_5),
];

/// How much metal a line across a section runs through, and its moment along that line.
fn metal(loops: &[Vec<DVec2>], x: f64) -> (f64, f64) {
    let mut met: Vec<f64> = Vec::new();
    for ring in loops {
        for (i, a) in ring.iter().enumerate() {
            let b = ring[(i + 1) % ring.len()];
            if (a.x <= x) != (b.x <= x) {
                met.push(a.y + (x - a.x) / (b.x - a.x) * (b.y - a.y));
            }
        }
    }
    met.sort_by(f64::total_cmp);
    let pairs = met.chunks_exact(2).map(|w| (w[1] - w[0], (w[1] * w[1] - w[0] * w[0]) / 2.0));
    pairs.fold((0.0, 0.0), |(a, m), (b, n)| (a + b, m + n))
}
