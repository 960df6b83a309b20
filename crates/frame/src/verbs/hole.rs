//! `hole` of a frame: round or slotted holes through a face of members.

use grammar::*;

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
        clause(&[length_or("/off", "off the middle", "none"), word("off the middle")]),
        clause(&[
            Slot::new("/count", "count", Kind::Count).empty("one").part(),
            word("at a pitch of|x|×|at pitch|pitch"),
            length_or("/pitch", "pitch", "none"),
        ]),
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

/// A side of a member.
pub const IN_FACE: Part = clause(&[
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
]);

pub const WALLS: Part = clause(&[flag(
    "/through",
    "walls",
    &[("false", "near wall"), ("true", "both walls|both walls|through both walls|through")],
)]);

word! {
    /// A side of a member, seen from its start with its up side up.
    pub enum Face {
        #[default]
        Top,
        Bottom,
        Left,
        Right,
    }
}

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
