//! `hole` of a frame: round or slotted holes through a face of members.

use grammar::*;
use ground::reader::{Range, Reader};

use crate::build::holes::{Drilled, InARow, drill, members_named};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Shapes, Spec, Spoken, Turn, Usual};
use crate::choices::Face;

pub static VERB: Verb = Verb {
    tag: "hole",
    stem: "hole",
    about: "Round or slotted holes through a face of members.",
    role: Role::Other,
    starts: &[Start {
        key: 'h',
        name: "holes",
        mm: "hole ⌀9 on $member, 50 from its start",
        inch: "hole ⌀3/8 on $member, 2 from its start",
    }],
    offers: &[],
    sentence: &[
        verb("Drill a hole|hole|holes|drill"),
        diameter("/diameter", "diameter"),
        word("on|on|through"),
        names("/members", "members", Kind::Member),
        FROM_START,
        IN_FACE,
        OFF,
        IN_A_ROW,
        clause(&[word("slot|slot"), length_or("/slot", "slot length", "none"), printed("long")]),
        WALLS,
    ],
    examples: &[
        "hole ⌀9 on rail-1, 50 from its start",
        "hole ⌀11 on rail-1 and rail-2, 60 from its start, left face, 5 x 100, slot 20 long, both walls",
    ],
};

/// Along a member, from the node it starts at.
pub const FROM_START: Part = must(&[
    heard("at"),
    length("/at", "distance along"),
    printed("from its start|from its start|from the start"),
]);

/// Off the middle of a face.
pub const OFF: Part = clause(&[length_or("/off", "off the middle", "none"), word("off the middle")]);

/// Several along a member.
pub const IN_A_ROW: Part = clause(&[
    Slot::new("/count", "count", Kind::Count).empty("one").part(),
    word("at a pitch of|x|×|at pitch|pitch"),
    length_or("/pitch", "pitch", "none"),
]);

/// A side of a member.
pub const IN_FACE: Part = clause(FACE);

pub const FACE: &[Part] = &[
    aloud("in the"),
    pick(
        "/face",
        "face",
        &[
            ("top", "top face|top face|top"),
            ("bottom", "bottom face|bottom face|bottom"),
            ("left", "left face|left face|left"),
            ("right", "right face|right face|right"),
        ],
    ),
];

pub const WALLS: Part = clause(&[flag(
    "/through",
    "walls",
    &[("false", "near wall"), ("true", "both walls|both walls|through both walls|through")],
)]);

spoken! {
    /// Round or slotted holes through a face of members.
    pub struct HoleSaid {
        pub members: Vec<String>,
        pub face: Face,
        pub diameter: String,
        /// Overall length along the member; empty for a round hole.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub slot: String,
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

/// Members, and what is drilled into each.
pub struct HoleSpec {
    pub members: Vec<String>,
    pub row: Drilled,
}

/// Holes of one row.
const MOST_HOLES: usize = 500;

impl Spoken for HoleSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let diameter = reader.length("/say/diameter", &self.diameter, Range::AboveZero);
        let slot = reader.length_or("/say/slot", &self.slot, Range::ZeroUp, 0.0);
        let row = InARow::read(reader, [&self.at, &self.off, &self.count, &self.pitch]);
        let (diameter, slot) = (diameter?, slot?);
        if slot > 0.0 && slot < diameter {
            let mend = "write its overall length";
            reader.refuse_at("/say/slot", "the slot is shorter than it is wide", mend);
            return None;
        }
        let row = Drilled {
            out: self.face.outwards(),
            diameter,
            length: slot.max(diameter),
            row: row?,
            through: self.through,
            bore: None,
        };
        Some(Spec::Shapes(Box::new(HoleSpec { members: self.members.clone(), row })))
    }
}

impl InARow {
    /// Where the first lies, how far off the middle, how many and how far apart, as they are told.
    pub fn read(reader: &mut Reader, [at, off, count, pitch]: [&str; 4]) -> Option<InARow> {
        let at = reader.length("/say/at", at, Range::ZeroUp);
        let off = reader.length_or("/say/off", off, Range::Any, 0.0);
        let count = match count.trim() {
            "" => Some(1),
            told => reader.count("/say/count", told, 1, MOST_HOLES),
        };
        let pitch = match count {
            Some(1) | None => Some(0.0),
            _ => reader.length("/say/pitch", pitch, Range::AboveZero),
        };
        Some(InARow { at: at?, off: off?, count: count?, pitch: pitch? })
    }
}

impl Shapes for HoleSpec {
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        for i in members_named(turn, skeleton, &self.members)? {
            drill(turn, skeleton, i, &self.row)?;
        }
        Some(())
    }
}
