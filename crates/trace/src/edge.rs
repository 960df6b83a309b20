//! Where light turns to dark, between the pixels.

use glam::DVec2;

use super::picture::Gray;

/// How far from a place an edge is looked for, pixels.
pub type Reach = f64;

/// Of the smoothing along the way, pixels.
const SIGMA: f64 = 1.0;
/// Between two looks, pixels.
const STEP: f64 = 0.25;
/// Grey values a pixel: what rises less is no edge.
const FAINTEST: f64 = 2.5;

/// From `at` along `normal` (of length one): how far on the edge lies, the clearest and nearest one.
pub fn edge_across(picture: &Gray, at: DVec2, normal: DVec2, reach: Reach) -> Option<f64> {
    let beyond = 4.0 * SIGMA;
    let n = ((reach + beyond) / STEP).ceil() as i64;
    // Three rows side by side: noise of one is not the edge.
    let row = |k: i64| {
        let p = at + normal * (k as f64 * STEP);
        let side = normal.perp() * 0.75;
        (picture.at(p - side) + picture.at(p) + picture.at(p + side)) / 3.0
    };
    let values: Vec<f64> = (-n..=n).map(row).collect();
    let half = (beyond / STEP) as i64;
    // The slope of a Gauss bell, scaled so that a ramp of one a pixel gives one.
    let weights: Vec<f64> = (-half..=half)
        .map(|k| {
            let t = k as f64 * STEP;
            t * (-t * t / (2.0 * SIGMA * SIGMA)).exp()
        })
        .collect();
    let unit: f64 = weights.iter().zip(-half..=half).map(|(w, k)| w * k as f64 * STEP).sum();
    let slope = |k: i64| -> f64 {
        let from = (k + n - half) as usize;
        weights.iter().zip(&values[from..]).map(|(w, v)| w * v).sum::<f64>() / unit
    };
    let last = n - half;
    let slopes: Vec<f64> = (-last..=last).map(|k| slope(k).abs()).collect();
    // The nearer of two alike.
    let score = |k: usize| {
        let t = (k as i64 - last) as f64 * STEP / reach.max(STEP);
        slopes[k] * (-1.2 * t * t).exp()
    };
    let best = (1..slopes.len().saturating_sub(1))
        .filter(|k| slopes[*k] >= slopes[k - 1] && slopes[*k] >= slopes[k + 1] && slopes[*k] > FAINTEST)
        .max_by(|a, b| score(*a).total_cmp(&score(*b)))?;
    let (a, b, c) = (slopes[best - 1], slopes[best], slopes[best + 1]);
    let bend = a - 2.0 * b + c;
    let off = if bend.abs() < 1e-12 { 0.0 } else { 0.5 * (a - c) / bend };
    Some(((best as i64 - last) as f64 + off) * STEP)
}

/// The nearest clear edge about a place: across the slope of the light there, looked at twice.
pub fn snap(picture: &Gray, at: DVec2, reach: Reach) -> Option<DVec2> {
    // Which way the light changes: the strongest of the directions, from the edges that each finds.
    let mut best: Option<(f64, DVec2, DVec2)> = None;
    for k in 0..16 {
        let d = DVec2::from_angle(std::f64::consts::PI * f64::from(k) / 16.0);
        if let Some(t) = edge_across(picture, at, d, reach)
            && best.is_none_or(|b| t.abs() < b.0)
        {
            best = Some((t.abs(), at + d * t, d));
        }
    }
    let (_, p, _) = best?;
    let slope = |p: DVec2| {
        let s = 1.5;
        let d = |v: DVec2| picture.at(p + v * s) - picture.at(p - v * s);
        DVec2::new(d(DVec2::X), d(DVec2::Y)).try_normalize()
    };
    let normal = slope(p)?;
    let t = edge_across(picture, p, normal, 2.0)?;
    Some(p + normal * t)
}
