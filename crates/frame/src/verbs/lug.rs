//! `lug`: base plate, upright plate with a round top and an eye on the same centre.

use super::hole::{FROM_START, Face, IN_FACE};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "lug",
    stem: "lug",
    about: "A lug on a member: base plate, upright plate with a round top and an eye on the same centre.",
    role: Role::Other,
    starts: &[Start {
        key: 'l',
        name: "lug",
        mm: "lug on $member, 200 from its start, base 120 x 60 x 10, 12 thick, R30, eye ⌀26 at 45",
        inch: "lug on $member, 8 from its start, base 5 x 2 1/2 x 3/8, 1/2 thick, R1 1/4, eye ⌀1 at 1 3/4",
    }],
    offers: &[],
    sentence: &[
        verb("Lug|lug"),
        printed("on"),
        name("/member", "member", Kind::Member),
        FROM_START,
        IN_FACE,
        clause(&[
            word("base"),
            length_or("/base_length", "base length", ""),
            word("×|x|by"),
            length_or("/base_width", "base width", ""),
            word("×|x|by"),
            length_or("/base", "base thickness", "none"),
        ]),
        must(&[aloud("upright"), heard("thick"), length("/thickness", "thickness"), printed("thick")]),
        must(&[radius("/radius", "radius")]),
        must(&[
            word("eye"),
            diameter("/eye", "eye"),
            word("at|at|height"),
            length("/height", "eye height"),
            aloud("up"),
        ]),
        clause(&[pick(
            "/weld",
            "welded",
            &[
                ("all_round", "welded all round"),
                ("sides", "welded along its sides|weld sides"),
                ("ends", "welded across its ends|weld ends"),
            ],
        )]),
    ],
    examples: &[
        "lug on rail-1, 500 from its start, base 120 x 80 x 10, 12 thick, R30, eye ⌀26 at 60, weld sides",
    ],
};

word! {
    /// Which sides of a lug's upright are welded, as the drawing says.
    pub enum LugWeld {
        #[default]
        AllRound,
        /// Along its two long sides.
        Sides,
        /// Across its two ends.
        Ends,
    }
}

impl LugWeld {
    pub fn is_all_round(&self) -> bool {
        *self == LugWeld::AllRound
    }
}

spoken! {
    /// A lug: base plate, upright plate with a round top and an eye on the same centre.
    pub struct LugSaid {
        pub member: String,
        pub face: Face,
        /// Along the member, from the node it starts at.
        pub at: String,
        /// Along and across the member, and thickness; an empty thickness leaves the base out.
        pub base_length: String,
        pub base_width: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub base: String,
        pub thickness: String,
        /// Outside radius of the round top.
        pub radius: String,
        pub eye: String,
        /// Of the eye above what the upright stands on.
        pub height: String,
        #[serde(skip_serializing_if = "LugWeld::is_all_round")]
        pub weld: LugWeld,
    }
}
