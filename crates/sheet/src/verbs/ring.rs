//! `ring`: the same cuts round a point.

use ground::geom::ROUNDING;
use std::f64::consts::TAU;

use glam::DVec2;
use grammar::*;
use ground::geom::Contour;
use ground::reader::Reader;
use ground::reference;

use super::place::{PLACE, Place};
use crate::flat::copies::{targets, within_limits};
use crate::flat::feature::{Feature, MOST_FEATURES};
use crate::flat::place::PlaceSpec;
use crate::flat::spec::{Cuts, Spec, Spoken, Standing, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "ring",
    stem: "ring",
    about: "The same cuts round a point, all the way or over an angle.",
    role: Role::Cut,
    starts: &[Start {
        key: 'w',
        name: "ring",
        mm: "ring $cut, 6 altogether",
        inch: "ring $cut, 6 altogether",
    }],
    offers: &[Offer {
        on: "hole",
        words: "Set {} in a ring",
        mm: "ring $this, 6 altogether",
        inch: "ring $this, 6 altogether",
    }],
    sentence: &[
        verb("Ring|ring"),
        names("/of", "cuts in the ring", Kind::Cut),
        must(&[count("/count", "count"), printed("altogether")]),
        clause(&[word("over"), angle_or("/sweep", "sweep", "the full round")]),
        clause(&[flag(
            "/upright",
            "turned or upright",
            &[("false", "turned with it"), ("true", "kept upright|upright")],
        )]),
        aloud(", about the point"),
        Part::Within("/centre", PLACE),
    ],
    examples: &[
        "ring punch-1, 5 altogether, 30 from west, 30 from south",
        "ring punch-1, 4 altogether, over 90°, upright",
    ],
};

spoken! {
    /// The same cuts round a point.
    pub struct Ring {
        pub of: Vec<String>,
        /// All of them, the first included.
        pub count: String,
        /// From the first to the last; empty means evenly all the way round.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub sweep: String,
        /// The middle of the ring.
        pub centre: Place,
        /// Kept upright instead of turned with the ring.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub upright: bool,
    }
}

struct RingSpec {
    of: Vec<String>,
    count: usize,
    /// From one to the next, rad.
    step: f64,
    centre: PlaceSpec,
    upright: bool,
}

impl Spoken for Ring {
    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let count = reader.count("/say/count", &self.count, 2, MOST_FEATURES);
        let sweep = if self.sweep.trim().is_empty() {
            Some(None)
        } else {
            reader.angle("/say/sweep", &self.sweep).map(Some)
        };
        let centre = self.centre.read(reader, "/say/centre");
        let (count, sweep) = (count?, sweep?);
        let step = sweep.map_or(TAU / count as f64, |s| s / (count - 1) as f64);
        if step.abs() < ROUNDING {
            reader.refuse_at(
                "/say/sweep",
                "the members would lie on one another",
                "write an angle other than zero",
            );
            return None;
        }
        let (of, upright) = (self.of.clone(), self.upright);
        Some(Spec::Cuts(Box::new(RingSpec { of, count, step, centre: centre?, upright })))
    }
}

impl Cuts for RingSpec {
    fn cut(&self, turn: &mut Turn, standing: &Standing) -> Option<Vec<Feature>> {
        let features = targets(turn, &self.of, standing)?;
        let spot = self.centre.spot(turn.tell, standing)?;
        let point = Contour::circle(DVec2::ZERO, 1e-9, 0);
        let centre = self.centre.set(turn.tell, &point, &spot)?.centre;
        if !within_limits(turn, "/say/count", &features, self.count, standing) {
            return None;
        }
        let at = turn.at;
        let first = features.first()?.centre;
        let member = |(f, k): (&Feature, usize)| {
            let (name, angle) =
                (reference::copy(&reference::part(at.line, &f.name), k + 1), self.step * k as f64);
            let by = centre + DVec2::from_angle(angle).rotate(first - centre) - first;
            let member = match self.upright {
                false => f.turned(name, at.index, centre, angle),
                true => f.moved(name, at.index, by),
            };
            member.at_home(standing.blank)
        };
        let each = |k: usize| features.iter().map(move |f| (f, k));
        Some((1..self.count).flat_map(each).map(member).collect())
    }
}
