//! `repeat`: the same cut again, in a row or a grid.

use grammar::*;

pub static VERB: Verb = Verb {
    tag: "repeat",
    stem: "repeat",
    about: "The same cuts again, in a row, along an edge, or in a grid.",
    role: Role::Cut,
    starts: &[Start { key: 'e', name: "repeat", mm: "repeat $cut, 3 x 40", inch: "repeat $cut, 3 x 1 1/2" }],
    offers: &[
        Offer {
            on: "hole",
            words: "Repeat {} to the east",
            mm: "repeat $this, 3 x 40",
            inch: "repeat $this, 3 x 1 1/2",
        },
        Offer {
            on: "hole",
            words: "Repeat {} to the north",
            mm: "repeat $this, 3 x 40, north",
            inch: "repeat $this, 3 x 1 1/2, north",
        },
    ],
    sentence: &[
        verb("Repeat|repeat"),
        names("/of", "cuts repeated", Kind::Cut),
        must(&[union("/spacing", "by", "spacing", SPACING)]),
        clause(&[pick(
            "/axis",
            "direction",
            &[("east", "to the east|east"), ("north", "to the north|north")],
        )]),
        clause_when(
            When::Told("/along"),
            &[word("along"), Slot::new("/along", "edge it runs along", Kind::Edge).empty("").part()],
        ),
        clause_when(
            When::Told("/across/by"),
            &[word("rows across:|across"), union_or("/across", "by", "spacing across", SPACING)],
        ),
    ],
    examples: &[
        "repeat punch-1, 5 x 30",
        "repeat punch-1, 2 last 18, across 2 last 18",
        "repeat punch-1, fill pitch 14 margin 24, north",
        "repeat punch-1, 4 x 50, along north",
    ],
};

const SPACING: &[Case] = &[
    case(
        "pitch",
        "evenly:||",
        &[
            count("/count", "count"),
            printed("times at a pitch of|x|×|times at|at|by"),
            length("/pitch", "pitch"),
        ],
        ["3 x 40", "3 x 1 1/2"],
    ),
    case(
        "last",
        "up to the far end:||",
        &[
            count("/count", "count"),
            aloud("times,"),
            word("the last|last|with the last"),
            length("/distance", "distance of the last from the end"),
            aloud("from the far end"),
        ],
        ["3 last 20", "3 last 1"],
    ),
    case(
        "gap",
        "with even gaps:||",
        &[count("/count", "count"), aloud("times,"), word("with gaps of|gaps|gap"), length("/gap", "gap")],
        ["3 gaps 10", "3 gaps 1/2"],
    ),
    case(
        "fill",
        "to fill:|fill",
        &[
            printed("pitch|pitch|at"),
            length("/pitch", "pitch"),
            printed("margin"),
            length("/margin", "margin"),
        ],
        ["pitch 40 margin 20", "pitch 1 1/2 margin 1"],
    ),
];

word! {
    pub enum Axis {
        /// West to east.
        #[default]
        East,
        /// South to north.
        North,
    }
}

choice! {
    /// How the members of a row are spaced. The first stays where its own line puts it.
    pub enum Spacing by "by" {
        /// So many at a pitch; a negative pitch runs back.
        Pitch {
            #[serde(default)]
            count: String,
            #[serde(default)]
            pitch: String,
        },
        /// So many, the last centred this far from the far end.
        Last { count: String, distance: String },
        /// So many with this much material between one and the next.
        Gap { count: String, gap: String },
        /// At a pitch, as many as leave at least this margin at the far end.
        Fill { pitch: String, margin: String },
    }
}

impl Default for Spacing {
    fn default() -> Self {
        Spacing::Pitch { count: String::new(), pitch: String::new() }
    }
}

spoken! {
    /// The same cut again, in a row or a grid.
    pub struct Repeat {
        /// Ids of the lines repeated.
        pub of: Vec<String>,
        pub axis: Axis,
        /// A straight edge to run along instead, from its left end to its right, seen from the piece looking
        /// out.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub along: String,
        pub spacing: Spacing,
        /// The other way, for a grid.
        #[serde(skip_serializing_if = "Option::is_none")]
        pub across: Option<Spacing>,
    }
}
