//! `corners`: how neighbouring folds meet at the corners of the panel between them.

use grammar::*;

pub static VERB: Verb = Verb {
    tag: "corner",
    stem: "corner",
    about: "Closes the corners between neighbouring folds: edge to edge, lapped or open, with a gap and a relief.",
    role: Role::Bend,
    starts: &[Start {
        key: 'c',
        name: "corners",
        mm: "corners edge, round relief",
        inch: "corners edge, round relief",
    }],
    offers: &[],
    sentence: &[
        verb("Close the corners|corners"),
        names_or("/at", "corners", Kind::Corner, "all"),
        aloud("between folds"),
        Pick::new("/close", "how corners close", CLOSE).lacks().part(),
        clause(&[word("with a gap of|gap"), length_or("/gap", "gap", "usual")]),
        RELIEF,
    ],
    examples: &["corners edge, gap 0.5, round relief", "corners north-east open, square relief 6"],
};

pub const CLOSE: &[(&str, &str)] = &[
    ("edge", "edge to edge|edge"),
    ("lap_before", "the first over the second|first over second|before"),
    ("lap_after", "the second over the first|second over first|after"),
    ("open", "open"),
];

pub const RELIEF: Part = clause(&[
    pick(
        "/relief",
        "corner relief",
        &[
            ("none", "no relief"),
            ("round", "a round relief|round relief|relief round"),
            ("square", "a square relief|square relief|relief square"),
            ("slot", "a slot relief|slot relief|relief slot"),
        ],
    ),
    Clause::new(&[length_or("/relief_size", "relief size", "usual")])
        .close()
        .shown(When::Is("/relief", &["round", "square", "slot"]))
        .part(),
]);

word! {
    /// How two neighbouring folds meet.
    pub enum Close {
        /// Inner edge to inner edge, the outside open for a weld; folds that lean come out mitred.
        #[default]
        Edge,
        /// The fold before the corner (counter-clockwise) laps the end of the other.
        LapBefore,
        /// The fold after the corner laps the end of the other.
        LapAfter,
        /// Each ends at the tangent line of the other.
        Open,
    }
}

word! {
    pub enum CornerRelief {
        #[default]
        None,
        Square,
        Round,
        /// Along the middle of the corner.
        Slot,
    }
}

spoken! {
    /// How neighbouring folds meet at corners of the panel between them.
    pub struct Corner {
        /// Names of corners: `north-east`, or the two edges with a stroke between; empty means every corner
        /// between two folds.
        #[serde(skip_serializing_if = "Vec::is_empty")]
        pub at: Vec<String>,
        pub close: Close,
        /// Empty means the usual.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub gap: String,
        pub relief: CornerRelief,
        /// Side, diameter or slot width; empty means what the rules want.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub relief_size: String,
    }
}
