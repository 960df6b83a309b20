//! `notch`: a cut into an edge.

use super::tab::PLACE_ON_EDGE;
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "notch",
    stem: "notch",
    about: "A cut into an edge: square, vee or round-ended.",
    role: Role::Cut,
    starts: &[Start {
        key: 'v',
        name: "notch",
        mm: "notch $edge square 20 x 12",
        inch: "notch $edge square 1 x 1/2",
    }],
    offers: &[Offer {
        on: "edge",
        words: "Notch {}",
        mm: "notch $this square 20 x 12",
        inch: "notch $this square 1 x 1/2",
    }],
    sentence: &[
        verb("Notch|notch"),
        name("/edge", "edge notched", Kind::Edge),
        aloud("with a"),
        union(
            "/shape",
            "kind",
            "shape of the notch",
            &[
                case("square", "square|square|", SIZE, ["20 x 12", "1 x 1/2"]),
                case("vee", "vee", SIZE, ["20 x 12", "1 x 1/2"]),
                case("round", "round-ended|round", SIZE, ["12 x 20", "1/2 x 1"]),
            ],
        ),
        PLACE_ON_EDGE,
    ],
    examples: &["notch north vee 20 x 8", "notch north square 20 x 8, at 60"],
};

const SIZE: &[Part] =
    &[length("/width", "width"), aloud("wide"), times(), length("/depth", "depth"), aloud("deep")];

choice! {
    /// The shape of a notch.
    pub enum NotchShape by "kind" {
        Square {
            #[serde(default)]
            width: String,
            #[serde(default)]
            depth: String,
        },
        /// A point inwards.
        Vee { width: String, depth: String },
        /// Round-ended.
        Round { width: String, depth: String },
    }
}

impl Default for NotchShape {
    fn default() -> Self {
        NotchShape::Square { width: String::new(), depth: String::new() }
    }
}

spoken! {
    /// A cut into an edge.
    pub struct Notch {
        pub edge: String,
        pub shape: NotchShape,
        /// From the left end of the edge, seen from the piece looking out, to its middle; empty means the
        /// middle of the edge.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub place: String,
    }
}
