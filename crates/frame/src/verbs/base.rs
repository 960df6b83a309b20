//! `foot`: a plate under (or on) the end of a post. The post is shortened by its thickness.

use super::cap::THICK;
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "base",
    stem: "foot",
    about: "A plate under or on the end of a post: foot, base or head plate. The post is shortened by its \
        thickness.",
    role: Role::Other,
    starts: &[Start {
        key: 'f',
        name: "foot",
        mm: "foot at $node, 120 x 120, 8 thick",
        inch: "foot at $node, 5 x 5, 5/16 thick",
    }],
    offers: &[],
    sentence: &[
        verb("Foot|foot|base"),
        printed("at"),
        row("/at", "nodes", Kind::Node),
        must(&[length("/width", "width"), times(), length("/length", "length")]),
        THICK,
        clause(&[word("holes|holes|hole"), diameter_or("/hole", "hole", "none")]),
        clause(&[
            length_or("/edge", "edge", "twice their size"),
            word("from the edges|from the edges|from the edge"),
        ]),
        also(&[word("edge"), length("/edge", "edge")]),
    ],
    examples: &[
        "foot at A, 120 x 120, 8 thick, holes ⌀11",
        "foot at A B, 150 x 120, 10 thick, holes ⌀14, 25 from the edges",
    ],
};

spoken! {
    /// A plate under (or on) the end of a post: foot, base or head plate. The post is shortened by its
    /// thickness.
    pub struct BaseSaid {
        pub at: Vec<String>,
        pub width: String,
        pub length: String,
        pub thickness: String,
        /// Diameter of a hole in each corner; empty for none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub hole: String,
        /// Of the holes from the edges.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub edge: String,
    }
}
