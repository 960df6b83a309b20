//! `tapped hole`, `countersunk hole`, `clearance hole` …: holes that a drill makes, from either face.

use grammar::*;
use ground::quantity::Display;
use ground::reader::Reader;
use ground::word;

use super::bore::{BoreSpec, Drilled};
use super::bore_cases::DRILLED;
use super::place::{PLACE, Place};
use crate::flat::feature::Feature;
use crate::flat::place::PlaceSpec;
use crate::flat::pressed::Pressed;
use crate::flat::spec::{Cuts, Spec, Spoken, Standing, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "drill",
    stem: "drill",
    about: "Drills a hole: tapped, countersunk, counterbored, spot-faced, blind, or for a screw.",
    role: Role::Cut,
    starts: &[
        Start { key: 'a', name: "tapped hole", mm: "tapped hole M8", inch: "tapped hole 1/4-20" },
        Start {
            key: 'd',
            name: "countersunk hole",
            mm: "countersunk hole for M5",
            inch: "countersunk hole for #10",
        },
        Start {
            key: 'q',
            name: "counterbored hole",
            mm: "counterbored hole for M8",
            inch: "counterbored hole for 5/16",
        },
        Start { key: 'z', name: "hole for a screw", mm: "hole for M8", inch: "hole for 5/16" },
    ],
    offers: &[
        Offer {
            on: "panel",
            words: "Tap a hole here",
            mm: "tapped hole M8 $place",
            inch: "tapped hole 1/4-20 $place",
        },
        Offer {
            on: "panel",
            words: "Countersink a hole here",
            mm: "countersunk hole for M5 $place",
            inch: "countersunk hole for #10 $place",
        },
        Offer {
            on: "panel",
            words: "Drill a hole for a screw here",
            mm: "hole for M8 $place",
            inch: "hole for 5/16 $place",
        },
    ],
    sentence: &[beginning("/hole", "kind", "kind of hole", DRILLED), SIDE, Part::Within("/place", PLACE)],
    examples: &[
        "tapped hole M8, 20 from west, 15 from south",
        "tapped hole #8-32, 0.2875 deep, from the back, 0.5 from west, 0.5 from south",
        "tapped hole M10x1, 12 deep, drilled 16, flat bottom",
        "countersunk hole for M5, close fit, sunk 0.3, 20 from east",
        "countersunk hole ⌀5.5, head ⌀11.2 at 82°",
        "counterbored hole for M8, 30 from west, 30 from north",
        "counterbored hole ⌀9, bore ⌀15, 8.6 deep, from the back",
        "spot-faced hole ⌀9, face ⌀20, 1 deep",
        "blind hole ⌀8, 6 deep, flat bottom on base, 20 from the outside of west",
        "hole for M12, loose fit, 40 from west",
        "slot for M8, 20 long, 30 from east, turned 45°",
    ],
};

/// The face that is drilled from.
pub const SIDE: Part = clause(&[pick(
    "/side",
    "side",
    &[("front", "from the front"), ("back", "from the back|from the back|back")],
)]);

word! {
    /// The face that is drilled from: the one that the flat shows, or the one behind it.
    pub enum DrillSide {
        #[default]
        Front,
        Back,
    }
}

spoken! {
    /// Drills a hole.
    pub struct Drill {
        pub hole: Drilled,
        pub side: DrillSide,
        pub place: Place,
    }
}

pub struct DrillSpec {
    pub hole: BoreSpec,
    pub place: PlaceSpec,
}

impl Spoken for Drill {
    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let hole = self.hole.read(reader, "/say/hole", self.side == DrillSide::Back);
        let place = self.place.read(reader, "/say/place");
        Some(Spec::Cuts(Box::new(DrillSpec { hole: hole?, place: place? })))
    }
}

impl Cuts for DrillSpec {
    fn cut(&self, turn: &mut Turn, standing: &Standing) -> Option<Vec<Feature>> {
        let spot = self.place.spot(turn.tell, standing)?;
        let set = self.place.set(turn.tell, &self.hole.plan.contour(), &spot)?;
        let cut = Feature::set(turn.at.line.into(), turn.at.index, set, self.hole.plan.least());
        Some(vec![Feature { bore: Some(Box::new(self.hole.bore.clone())), ..cut }])
    }

    fn mark(&self, display: &Display, _: Option<&Pressed>) -> Option<String> {
        Some(self.hole.bore.mark(display))
    }

    fn place(&self) -> Option<&PlaceSpec> {
        Some(&self.place)
    }
}
