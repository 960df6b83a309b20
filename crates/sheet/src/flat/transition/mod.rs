//! Transitions: the plane faces between two openings, found as what a taut skin round both would touch, and
//! laid flat as one piece.

use glam::DVec3;

use hull::{Facet, Rings};
use openings::{Opening, OpeningShape};

pub mod face;
pub mod hull;
pub mod net;
pub mod openings;
pub mod unrolled;

/// What is to be known of a transition that was worked out.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct TransitionFact {
    pub round: Vec<RoundEnd>,
    /// How far the fourth corner of a side stands off the plane of the others, at most.
    pub warp: f64,
}

/// A circle, made of flats.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct RoundEnd {
    pub upper: bool,
    pub flats: usize,
    /// How far the corners stand outside of the circle, and the flats inside.
    pub outside: f64,
    pub inside: f64,
}

impl TransitionFact {
    pub fn of(openings: &[Opening; 2], rings: &Rings, facets: &[Facet]) -> TransitionFact {
        let mut out = TransitionFact::default();
        for (k, opening) in openings.iter().enumerate() {
            let OpeningShape::Round { diameter } = opening.shape else { continue };
            let (ring, radius) = (&rings[k], diameter / 2.0);
            let off = |p: DVec3| p.distance(opening.o);
            let flat = |i: usize| off((ring[i] + ring[(i + 1) % ring.len()]) / 2.0);
            let outside = ring.iter().map(|p| off(*p) - radius).fold(0.0, f64::max);
            let inside = (0..ring.len()).map(|i| radius - flat(i)).fold(0.0, f64::max);
            out.round.push(RoundEnd { upper: k == 1, flats: ring.len(), outside, inside });
        }
        let is_sided =
            |o: &Opening| matches!(o.shape, OpeningShape::Rectangle { .. } | OpeningShape::Polygon { .. });
        if rings[0].len() == rings[1].len() && openings.iter().all(is_sided) {
            let pairs = facets.iter().zip(facets.iter().cycle().skip(1));
            out.warp = pairs
                .filter(|(a, b)| {
                    a.low.len() == 2 && a.high.len() == 1 && b.low.len() == 1 && b.high.len() == 2
                })
                .map(|(a, b)| (rings[1][b.high[1]] - rings[0][a.low[0]]).dot(a.out).abs())
                .fold(0.0, f64::max);
        }
        out
    }
}
