//! `hole`, `slot`, `keyhole` …: cuts a shape out.

use grammar::*;
use ground::quantity::Display;
use ground::reader::Reader;

use super::place::{PLACE, Place};
use super::shape::{PUNCHED, Shape};
use crate::flat::feature::Feature;
use crate::flat::place::PlaceSpec;
use crate::flat::pressed::Pressed;
use crate::flat::shape::ShapeSpec;
use crate::flat::spec::{Cuts, Spec, Spoken, Standing, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "punch",
    stem: "punch",
    about: "Cuts a shape out: a hole, a slot, a rectangle, a keyhole, a told outline.",
    role: Role::Cut,
    starts: &[
        Start { key: 'h', name: "hole", mm: "hole ⌀9", inch: "hole ⌀3/8" },
        Start { key: 'l', name: "slot", mm: "slot 30 x 9", inch: "slot 1 x 3/8" },
        Start { key: 'b', name: "rectangle", mm: "rectangle 30 x 9", inch: "rectangle 1 x 3/8" },
        Start {
            key: 'k',
            name: "keyhole",
            mm: "keyhole ⌀20, slot 9, 20 long",
            inch: "keyhole ⌀1, slot 3/8, 1 long",
        },
    ],
    offers: &[
        Offer {
            on: "panel",
            words: "Punch a round hole here",
            mm: "hole ⌀9 $place",
            inch: "hole ⌀3/8 $place",
        },
        Offer {
            on: "panel",
            words: "Punch a slot here",
            mm: "slot 30 x 9 $place",
            inch: "slot 1 x 3/8 $place",
        },
        Offer {
            on: "panel",
            words: "Punch a rectangle here",
            mm: "rectangle 30 x 9 $place",
            inch: "rectangle 1 x 3/8 $place",
        },
        Offer {
            on: "panel",
            words: "Punch a keyhole here",
            mm: "keyhole ⌀20, slot 9, 20 long $place",
            inch: "keyhole ⌀1, slot 3/8, 1 long $place",
        },
        Offer {
            on: "arc",
            words: "Punch a round hole on the middle of {}",
            mm: "hole ⌀9, about $this",
            inch: "hole ⌀3/8, about $this",
        },
        Offer {
            on: "hole",
            words: "Punch a round hole beside {}",
            mm: "hole ⌀9, 20 clear east of $this",
            inch: "hole ⌀3/8, 3/4 clear east of $this",
        },
        Offer {
            on: "bend",
            words: "Cut a slot across bend {}",
            mm: "slot 30 x 9 $place",
            inch: "slot 1 x 3/8 $place",
        },
        Offer {
            on: "bend",
            words: "Punch a round hole in bend {}",
            mm: "hole ⌀9 $place",
            inch: "hole ⌀3/8 $place",
        },
    ],
    sentence: &[beginning("/shape", "kind", "shape", PUNCHED), Part::Within("/place", PLACE)],
    examples: &[
        "hole ⌀9, 15 from west, 20 from south",
        "hole ⌀9, 12 clear east of punch-1",
        "slot 20 x 9 centre to centre, 30 from east, turned 45°",
        "rectangle 30 x 10, corners R2",
        "square 12",
        "triangle 20 x 10",
        "polygon 6 sides, 17 across",
        "keyhole ⌀14, slot 7, 16 long on base, 40 from the outside of west, 30 from the outside of north",
        "D-hole ⌀20, 17 across",
        "cut-out (0, 0) (30, 0) (30, 20) curved 0.4142 (0, 20)",
    ],
};

spoken! {
    /// Cuts a shape out.
    pub struct Punch {
        pub shape: Shape,
        pub place: Place,
    }
}

pub struct PunchSpec {
    pub shape: ShapeSpec,
    pub place: PlaceSpec,
}

impl Spoken for Punch {
    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let shape = self.shape.read(reader, "/say/shape");
        let place = self.place.read(reader, "/say/place");
        Some(Spec::Cuts(Box::new(PunchSpec { shape: shape?, place: place? })))
    }
}

impl Cuts for PunchSpec {
    fn cut(&self, turn: &mut Turn, standing: &Standing) -> Option<Vec<Feature>> {
        let spot = self.place.spot(turn.tell, standing)?;
        let set = self.place.set(turn.tell, &self.shape.contour(), &spot)?;
        Some(vec![Feature::set(turn.at.line.into(), turn.at.index, set, self.shape.least())])
    }

    fn mark(&self, display: &Display, _: Option<&Pressed>) -> Option<String> {
        Some(self.shape.mark(display))
    }

    fn place(&self) -> Option<&PlaceSpec> {
        Some(&self.place)
    }
}
