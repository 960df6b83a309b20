//! Ends rounded off: seated when the ends stand, and the metal that rounding takes.

use std::f64::consts::FRAC_PI_2;

use glam::DVec2;
use ground::geom::{COINCIDENT, Contour};
use ground::reader::Tell;

use super::bar::{Nose, Surface};
use super::model::{Cause, CentrelineSegment, EndCut, EndRound, Member};
use super::profile::Profile;
use super::solid::flat;
use crate::build::skeleton::Skeleton;

/// An end that slopes by less than this, mm a mm, is square.
const SQUARE: f64 = 1e-9;

/// Ends that are told round, once it is known where they lie. One that is not square stays as it is.
pub fn seat_rounds(tell: &mut Tell, s: &mut Skeleton) {
    // What cannot be of a bar and of its copies is told once.
    let mut refused: Vec<(String, usize)> = Vec::new();
    for i in 0..s.members.len() {
        for end in 0..2 {
            let m = &s.members[i];
            let Some(round) = m.rounds[end].clone() else { continue };
            let (d, root) = (tell.display, m.root);
            let mut refuse = |path: &str, message: String, mend: &str| {
                let of = (round.line.clone(), root);
                if refused.contains(&of) {
                    return;
                }
                refused.push(of);
                tell.enter(&round.line);
                tell.refuse_at(path, message, mend);
            };
            let p = &s.profiles[m.profile];
            let which = ["start", "end"][end];
            let Some(square) = flat(m, p, end).filter(|f| f.slope.length() < SQUARE) else {
                let message = format!("the {which} of {} is not cut square", m.name);
                refuse("/say/ends", message, "round off an end that is free, or trim it square first");
                continue;
            };
            let (stretch, at) = (m.end_stretch(end), square.at);
            let CentrelineSegment::Straight { bar, length } = stretch else {
                let message = format!("{} is bent up to its {which}", m.name);
                refuse("/say/ends", message, "let it end in a straight leg");
                continue;
            };
            // The other end takes its own share of a bar that is one straight leg.
            let other = if m.way.len() > 1 {
                0.0
            } else {
                let far = m.rounds[end ^ 1].as_ref().map_or(0.0, |r| r.radius);
                m.station(end ^ 1, DVec2::ZERO) + if other_counts(m, end) { far } else { 0.0 }
            };
            let room = length - at - other;
            if room < round.radius + COINCIDENT {
                let message = format!(
                    "{} has {} of straight left at its {which} for a radius of {}",
                    m.name,
                    d.length_unit(room.max(0.0)),
                    d.length_unit(round.radius)
                );
                refuse("/say/radius", message, "write a smaller radius, or a longer bar");
                continue;
            }
            let nose = Nose {
                at: bar.point(DVec2::ZERO, at),
                aside: bar.y * round.aside.x + bar.z * round.aside.y,
                into: bar.d,
                half: half(p, &round),
                radius: round.radius,
            };
            let old = s.members[i].trims[end].first();
            let (cause, by) = old.map_or((Cause::Told, None), |t| (t.cause, t.by));
            s.members[i].trims[end] = vec![EndCut { surface: Surface::Nose(nose), cause, by }];
        }
    }
}

/// Whether the other end takes its share for a round: the start is looked at before the end, which may still
/// be refused.
fn other_counts(m: &Member, end: usize) -> bool {
    end == 0 || m.trims[0].iter().any(|t| matches!(t.surface, Surface::Nose(_)))
}

/// Half of what stays straight between its two corners.
fn half(p: &Profile, round: &EndRound) -> f64 {
    (width(p, round.aside) / 2.0 - round.radius).max(0.0)
}

/// How wide a section is, about the middle of its box.
pub fn width(p: &Profile, aside: DVec2) -> f64 {
    2.0 * p.reach(aside).max(p.reach(-aside))
}

/// Metal that rounding takes off a square end, mm³, and its moments: along from the tip, and in the section.
pub fn taken(p: &Profile, nose: &Nose, aside: DVec2) -> (f64, f64, DVec2) {
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
        .map(|q| ((q.x.abs() - nose.half) / nose.radius).clamp(0.0, 1.0).asin())
        .chain([0.0, FRAC_PI_2])
        .collect();
    angles.sort_by(f64::total_cmp);
    angles.dedup_by(|a, b| (*a - *b).abs() < 1e-9);
    let (mut volume, mut along, mut off) = (0.0, 0.0, DVec2::ZERO);
    for side in [1.0, -1.0] {
        for strip in angles.windows(2) {
            for (share, weight) in GAUSS {
                let (sin, cos) = (strip[0] + (strip[1] - strip[0]) * share).sin_cos();
                let x = side * (nose.half + nose.radius * sin);
                let back = nose.radius * (1.0 - cos);
                let step = weight * (strip[1] - strip[0]) * nose.radius * cos * back;
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
