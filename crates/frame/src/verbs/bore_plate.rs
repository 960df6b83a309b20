//! `bore`: tapped, countersunk, counterbored and other drilled holes in plates of a frame.

use grammar::*;
use ground::reader::Reader;
use sheet::verbs::DrillSide;
use sheet::verbs::bore::Drilled;
use sheet::verbs::bore_cases::DRILLED;
use sheet::verbs::drill::SIDE;

use super::cut_plate::{CutPlateSpec, FROM_X, FROM_Y, IN_A_ROW, RowTold, RowWay, XFrom, YFrom};
use crate::build::plate_holes::Through;
use crate::build::spec::{Spec, Spoken, Usual};

pub static VERB: Verb = Verb {
    tag: "bore_plate",
    stem: "bore",
    about: "Drills plates of the frame: tapped, countersunk, counterbored, blind, or for a screw, told \
        from the sides of the plate's flat, from the face that it shows or from its back.",
    role: Role::Other,
    starts: &[Start {
        key: 'x',
        name: "drilled hole in a plate",
        mm: "bore : tapped hole M8, 30 from west, 30 from south",
        inch: "bore : tapped hole 5/16-18, 1 from west, 1 from south",
    }],
    offers: &[],
    sentence: &[
        verb("Bore into|bore"),
        names_or("/of", "plates", Kind::Line, "no plate"),
        sign(":"),
        union("/hole", "kind", "kind of hole", DRILLED),
        SIDE,
        FROM_X,
        FROM_Y,
        IN_A_ROW,
    ],
    examples: &[
        "bore plate-1: tapped hole M8, 40 from west, 30 from south",
        "bore foot-1: countersunk hole for M8, from the back, 2 at 60 east",
    ],
};

spoken! {
    /// Drills plates of the frame.
    pub struct BorePlateSaid {
        /// Lines that make plates, or one plate of a line.
        pub of: Vec<String>,
        pub hole: Drilled,
        pub side: DrillSide,
        /// Empty for the middle.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub x: String,
        pub x_from: XFrom,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub y: String,
        pub y_from: YFrom,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub count: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub pitch: String,
        pub way: RowWay,
    }
}

impl Spoken for BorePlateSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let hole = self.hole.read(reader, "/say/hole", self.side == DrillSide::Back);
        let row = RowTold {
            x: (&self.x, self.x_from),
            y: (&self.y, self.y_from),
            count: &self.count,
            pitch: &self.pitch,
            way: self.way,
        };
        let (at, steps) = row.read(reader)?;
        let through = Through::Bore(hole?);
        Some(Spec::Tells(Box::new(CutPlateSpec { of: self.of.clone(), through, at, steps })))
    }
}
