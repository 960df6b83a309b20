//! `tapped hole`, `countersunk hole`, `hole for` … in members: holes that a drill makes in a face.

use std::sync::Arc;

use grammar::*;
use ground::reader::Reader;
use sheet::verbs::bore::Drilled as DrilledSaid;
use sheet::verbs::bore_cases::DRILLED;

use super::hole::{FROM_START, HoleSpec, IN_A_ROW, IN_FACE, OFF, WALLS};
use crate::build::holes::{Drilled, InARow};
use crate::build::spec::{Spec, Spoken, Usual};
use crate::choices::Face;

pub static VERB: Verb = Verb {
    tag: "drill",
    stem: "drill",
    about: "Drills holes in a face of members: tapped, countersunk, counterbored, blind, or for a screw.",
    role: Role::Other,
    starts: &[Start {
        key: 'd',
        name: "tapped holes",
        mm: "tapped hole M8 on $member, 50 from its start",
        inch: "tapped hole 5/16-18 on $member, 2 from its start",
    }],
    offers: &[],
    sentence: &[
        beginning("/hole", "kind", "kind of hole", DRILLED),
        word("on|on|through"),
        names("/members", "members", Kind::Member),
        FROM_START,
        IN_FACE,
        OFF,
        IN_A_ROW,
        WALLS,
    ],
    examples: &[
        "tapped hole M8 on rail-1, 50 from its start",
        "hole for M10 on rail-1 and rail-2, 60 from its start, left face, 5 x 100, both walls",
        "countersunk hole for M6 on rail-1, 40 from its start",
        "blind hole ⌀8, 10 deep, flat bottom on bar-1, 30 from its start, 4 off the middle",
    ],
};

spoken! {
    /// Drilled holes in a face of members.
    pub struct DrillSaid {
        pub hole: DrilledSaid,
        pub members: Vec<String>,
        pub face: Face,
        /// Along the member, from the node it starts at.
        pub at: String,
        /// Off the middle of the face; empty for none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub off: String,
        /// Both walls, or the near one only.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub through: bool,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub count: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub pitch: String,
    }
}

impl Spoken for DrillSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let hole = self.hole.read(reader, "/say/hole", false);
        let row = InARow::read(reader, [&self.at, &self.off, &self.count, &self.pitch]);
        let (hole, row) = (hole?, row?);
        // Slots lie along the member.
        let length = hole.plan.contour().bounds().size().x;
        let row = Drilled {
            out: self.face.outwards(),
            diameter: hole.bore.diameter,
            length,
            row,
            through: self.through,
            bore: Some(Arc::new(hole.bore)),
        };
        Some(Spec::Shapes(Box::new(HoleSpec { members: self.members.clone(), row })))
    }
}
