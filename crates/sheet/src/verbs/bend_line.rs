//! `bend`: a bend across a panel, along a line told from an edge. The flat keeps its size.

use super::bending::{BEND_RULE, Direction, RADIUS, UP_DOWN};
use grammar::*;
use shop::BendRule;

pub static VERB: Verb = Verb {
    tag: "bend_line",
    stem: "bend_line",
    about: "Bends a panel along a line told from one of its edges. The flat keeps its size.",
    role: Role::Bend,
    starts: &[Start {
        key: 'n',
        name: "bend line",
        mm: "bend 50 from $edge up 90°",
        inch: "bend 2 from $edge up 90°",
    }],
    offers: &[Offer {
        on: "edge",
        words: "Bend along a line parallel to it",
        mm: "bend 50 from $this up 90°",
        inch: "bend 2 from $this up 90°",
    }],
    sentence: &[
        verb("Bend along a line|bend"),
        length("/distance", "distance from the edge"),
        printed("from"),
        name("/edge", "told from edge", Kind::Edge),
        Pick::new("/direction", "direction", UP_DOWN).lacks().part(),
        angle("/angle", "angle"),
        RADIUS,
        clause(&[pick(
            "/at",
            "what lies on the line",
            &[
                ("centre", "the middle of the bend on it|middle on it"),
                ("tangent", "its tangent line on it|tangent on it|tangent"),
                ("sharp", "its virtual sharp on it|sharp on it|sharp"),
            ],
        )]),
        clause(&[word("turned"), angle_or("/turn", "turn", "not")]),
        clause(&[pick(
            "/stays",
            "what stays",
            &[
                ("far", "the far side lies still|far side lies still"),
                ("near", "the side of that edge lies still|near side lies still"),
            ],
        )]),
        BEND_RULE,
    ],
    examples: &[
        "bend 40 from east up 90°",
        "bend 30 from north down 45°, R3, tangent on it, near side lies still",
    ],
};

word! {
    /// What of the bend lies on the line.
    pub enum LineAt {
        /// The middle of the bend.
        #[default]
        Centre,
        /// The tangent line on the side that stays.
        Tangent,
        /// The virtual sharp of the outer faces.
        Sharp,
    }
}

word! {
    pub enum Stays {
        /// What lies on the far side of the line from its edge.
        #[default]
        Far,
        /// What lies between the edge and the line.
        Near,
    }
}

spoken! {
    /// A bend across a panel. The flat keeps its size.
    pub struct BendLine {
        /// The straight edge it is told from.
        pub edge: String,
        /// From the edge inwards, in the flat.
        pub distance: String,
        /// Out of parallel with the edge, about the middle; empty means parallel.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub turn: String,
        pub at: LineAt,
        pub angle: String,
        pub direction: Direction,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
        pub stays: Stays,
        #[serde(skip_serializing_if = "Option::is_none")]
        pub bend_rule: Option<BendRule>,
    }
}
