//! Smooth curves as lines and arcs, never further from them than a cutter can tell: pairs of arcs that share
//! the tangents at both ends.

use crate::geom::ROUNDING;
use std::f64::consts::{FRAC_PI_2, PI, TAU};

use super::Segment;
use crate::halt;
use glam::DVec2;

/// Furthest from the curve, mm.
pub const WITHIN: f64 = 0.01;
/// What is looked for: between the places that are looked at a smooth curve strays a little further.
const AIM: f64 = 0.8 * WITHIN;
/// Places looked at in each pair of arcs.
const LOOKS: usize = 16;
/// Halvings of one stretch.
const DEEPEST: u32 = 14;

/// Place and velocity.
pub type Curve<'a> = &'a dyn Fn(f64) -> (DVec2, DVec2);

/// A smooth curve from one parameter to another, added to `out`.
pub fn along(curve: Curve, from: f64, to: f64, out: &mut Vec<Segment>) {
    fit(curve, from, to, 0, out);
}

/// Part of a circle or an ellipse; angles in its own measure.
pub fn round(centre: DVec2, u: DVec2, v: DVec2, from: f64, sweep: f64) -> Vec<Segment> {
    let at = |t: f64| centre + u * t.cos() + v * t.sin();
    let size = u.length().max(v.length());
    if (u.length() - v.length()).abs() < 1e-9 * size && u.dot(v).abs() < 1e-9 * size * size {
        let parts = if sweep.abs() > PI + ROUNDING { 2 } else { 1 };
        let step = sweep / f64::from(parts);
        let bulge = (step / 4.0).tan() * u.perp_dot(v).signum();
        return (0..parts)
            .map(|k| Segment {
                a: at(from + step * f64::from(k)),
                b: at(from + step * f64::from(k + 1)),
                bulge,
            })
            .collect();
    }
    let mut out = Vec::new();
    let quarters = (sweep.abs() / FRAC_PI_2).ceil().max(1.0);
    for k in 0..quarters as u32 {
        let edge = |k: u32| from + sweep * f64::from(k) / quarters;
        fit(&|t| (at(t), (v * t.cos() - u * t.sin()) * sweep.signum()), edge(k), edge(k + 1), 0, &mut out);
    }
    if sweep.abs() >= TAU - ROUNDING
        && let (Some(first), Some(last)) = (out.first().map(|s| s.a), out.last_mut())
    {
        last.b = first;
    }
    merged(out)
}

fn fit(curve: Curve, from: f64, to: f64, depth: u32, out: &mut Vec<Segment>) {
    halt::often();
    let (a, b) = (curve(from).0, curve(to).0);
    let middle = (from + to) / 2.0;
    // A velocity of nothing at an end has the direction of what comes next to it.
    let tangent = |t: f64, inward: f64| {
        let nudged = if (t - from).abs() < (t - to).abs() {
            (curve(t + inward).0 - a) * inward.signum()
        } else {
            (b - curve(t + inward).0) * -inward.signum()
        };
        curve(t).1.try_normalize().or(nudged.try_normalize())
    };
    let step = (to - from) * 1e-4;
    let pair = tangent(from, step).zip(tangent(to, -step)).and_then(|(ta, tb)| biarc(a, ta, b, tb));
    let near = |pair: &[Segment; 2]| {
        (1..LOOKS).all(|k| {
            let p = curve(from + (to - from) * k as f64 / LOOKS as f64).0;
            pair.iter().map(|s| s.nearest(p).distance(p)).fold(f64::INFINITY, f64::min) <= AIM
        })
    };
    match pair.filter(near) {
        Some([first, second]) if first.is_line() && second.is_line() => out.push(Segment::line(a, b)),
        Some(pair) => out.extend(pair),
        // So short that nobody can tell: the curve turns on a point.
        None if depth >= DEEPEST => out.push(Segment::line(a, b)),
        None => {
            fit(curve, from, middle, depth + 1, out);
            fit(curve, middle, to, depth + 1, out);
        }
    }
}

/// Two arcs from `a` along `ta` to `b` along `tb`, equally long arms; none where they would turn by a quarter
/// or more.
fn biarc(a: DVec2, ta: DVec2, b: DVec2, tb: DVec2) -> Option<[Segment; 2]> {
    let chord = b - a;
    if chord.length() < 1e-12 {
        return None;
    }
    let (along, open) = (chord.dot(ta + tb), 2.0 * (1.0 - ta.dot(tb)));
    let arm = if open < 1e-12 {
        chord.length_squared() / (2.0 * along)
    } else {
        ((along * along + open * chord.length_squared()).sqrt() - along) / open
    };
    if !arm.is_finite() || arm <= 0.0 {
        return None;
    }
    let joint = (a + b + (ta - tb) * arm) / 2.0;
    // Half the sweep of an arc is the angle from its tangent to its chord.
    let bulge = |tangent: DVec2, chord: DVec2| {
        let half = tangent.perp_dot(chord).atan2(tangent.dot(chord));
        (half.abs() < FRAC_PI_2 / 2.0).then(|| (half / 2.0).tan())
    };
    let first = Segment { a, b: joint, bulge: bulge(ta, joint - a)? };
    let second = Segment { a: joint, b, bulge: -bulge(-tb, joint - b)? };
    Some(
        [first, second].map(|s| {
            if s.bulge.abs() * s.a.distance(s.b) / 2.0 < 1e-7 { Segment::line(s.a, s.b) } else { s }
        }),
    )
}

/// Arcs of one circle after one another become one, up to a half circle; lines in one line too.
pub fn merged(parts: Vec<Segment>) -> Vec<Segment> {
    let mut out: Vec<Segment> = Vec::new();
    for s in parts {
        let joined = out.last().and_then(|l| match (l.arc(), s.arc()) {
            (Some(p), Some(q))
                if p.centre.distance(q.centre) < 1e-5
                    && (p.radius - q.radius).abs() < 1e-5
                    && p.sweep * q.sweep > 0.0 =>
            {
                let sweep = p.sweep + q.sweep;
                (sweep.abs() <= PI + ROUNDING).then(|| Segment { a: l.a, b: s.b, bulge: (sweep / 4.0).tan() })
            }
            (None, None)
                if Segment::line(l.a, s.b).nearest(s.a).distance(s.a) < ROUNDING
                    && (s.a - l.a).dot(s.b - s.a) > 0.0 =>
            {
                Some(Segment::line(l.a, s.b))
            }
            _ => None,
        });
        match (joined, out.last_mut()) {
            (Some(j), Some(last)) => *last = j,
            _ => out.push(s),
        }
    }
    out
}
