//! Whether a bent bar comes back upon itself.

use std::f64::consts::FRAC_PI_2;

use glam::DVec3;
use ground::geom::COINCIDENT;

use crate::model::{CentrelineSegment, Member};
use crate::profile::Profile;

/// No chord of the middle line stands further off its arc, mm.
const FINE: f64 = 0.02;
/// Bars of more chords are not looked at; coils of a spiral are told apart when it is said.
const MOST: usize = 2_000;

/// A chord of the middle line, and how far along its ends lie.
struct Chord {
    ends: [DVec3; 2],
    along: [f64; 2],
}

/// How much two stretches of a bar lie in one another, where its middle comes nearer to itself than the bar
/// is thin; round an arc that leaves room inside, its own neighbours never do.
pub fn self_met(m: &Member, p: &Profile) -> Option<f64> {
    let thin = p.section.shape.size().min_element();
    let chords = chords(m);
    let whole = chords.last()?.along[1];
    let closed = chords[0].ends[0].distance(chords[chords.len() - 1].ends[1]) < COINCIDENT;
    let mut worst = 0.0f64;
    for (i, a) in chords.iter().enumerate() {
        ground::halt::point();
        for b in &chords[i + 1..] {
            // From the far end of the one to the near end of the other, either way round a ring.
            let ahead = b.along[0] - a.along[1];
            let round = if closed { whole - (b.along[1] - a.along[0]) } else { f64::INFINITY };
            if ahead.min(round) < FRAC_PI_2 * thin {
                continue;
            }
            worst = worst.max(thin - 2.0 * FINE - apart(&a.ends, &b.ends));
        }
    }
    (worst > 0.0).then_some(worst)
}

/// None of them where they are too many.
fn chords(m: &Member) -> Vec<Chord> {
    let (mut out, mut from) = (Vec::new(), 0.0);
    for s in &m.way {
        let length = s.length();
        let parts = match s {
            CentrelineSegment::Straight { .. } | CentrelineSegment::Twist { .. } => 1,
            CentrelineSegment::Bend { radius, sweep, .. } => {
                let step = 2.0 * (1.0 - FINE / radius.max(FINE)).clamp(-1.0, 1.0).acos();
                (sweep / step).ceil().max(1.0) as usize
            }
        };
        if out.len() + parts > MOST {
            return Vec::new();
        }
        for k in 0..parts {
            let [a, b] = [k, k + 1].map(|k| k as f64 / parts as f64);
            let ends = [s.at(a).o, s.at(b).o];
            out.push(Chord { ends, along: [from + length * a, from + length * b] });
        }
        from += length;
    }
    out
}

/// How far apart two stretches of line lie: where both are nearest inside, else from an end to the other.
fn apart(a: &[DVec3; 2], b: &[DVec3; 2]) -> f64 {
    let (u, v, w) = (a[1] - a[0], b[1] - b[0], a[0] - b[0]);
    let (uu, uv, vv) = (u.dot(u), u.dot(v), v.dot(v));
    let det = uu * vv - uv * uv;
    if det > 1e-12 * uu * vv {
        let (wu, wv) = (w.dot(u), w.dot(v));
        let (s, t) = ((uv * wv - vv * wu) / det, (uu * wv - uv * wu) / det);
        if (0.0..=1.0).contains(&s) && (0.0..=1.0).contains(&t) {
            return (w + u * s - v * t).length();
        }
    }
    let to = |q: DVec3, line: &[DVec3; 2]| {
        let d = line[1] - line[0];
        let share = ((q - line[0]).dot(d) / d.length_squared().max(1e-300)).clamp(0.0, 1.0);
        q.distance(line[0] + d * share)
    };
    let ends = [to(a[0], b), to(a[1], b), to(b[0], a), to(b[1], a)];
    ends.into_iter().fold(f64::INFINITY, f64::min)
}
