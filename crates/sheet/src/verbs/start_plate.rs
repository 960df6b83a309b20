//! `plate`: a rectangle centred on its middle.

use glam::DVec2;
use grammar::*;
use ground::reader::{Range, Reader};

use crate::flat::blank::{Blank, plate_of};
use crate::flat::spec::{Begins, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "start_plate",
    stem: "start",
    about: "Starts a piece with a rectangle, centred on its middle.",
    role: Role::Start,
    starts: &[],
    offers: &[],
    sentence: &[
        verb("Start with a plate|plate"),
        length("/width", "width"),
        times(),
        length("/height", "height"),
        aloud(", centred on its middle"),
    ],
    examples: &["plate 260 x 140"],
};

spoken! {
    /// A rectangle centred on its middle.
    pub struct StartPlate {
        /// West to east.
        pub width: String,
        /// South to north.
        pub height: String,
    }
}

struct PlateSpec {
    size: DVec2,
}

impl Spoken for StartPlate {
    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let width = reader.length("/say/width", &self.width, Range::AboveZero);
        let height = reader.length("/say/height", &self.height, Range::AboveZero);
        Some(Spec::Start(Box::new(PlateSpec { size: DVec2::new(width?, height?) })))
    }
}

impl Begins for PlateSpec {
    fn blank(&self, turn: &mut Turn) -> Option<Blank> {
        Some(plate_of(turn.at.line, self.size))
    }
}
