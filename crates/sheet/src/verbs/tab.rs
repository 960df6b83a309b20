//! `tab`: a tongue that stands out of an edge, in the plane of its panel.

use grammar::*;

pub static VERB: Verb = Verb {
    tag: "tab",
    stem: "tab",
    about: "A tongue that stands out of an edge, in the plane of its panel.",
    role: Role::Bend,
    starts: &[Start { key: 't', name: "tab", mm: "tab $edge 30 x 12", inch: "tab $edge 1 x 1/2" }],
    offers: &[Offer { on: "edge", words: "Add a tab", mm: "tab $this 30 x 12", inch: "tab $this 1 x 1/2" }],
    sentence: &[
        verb("Add a tab to|tab"),
        name("/edge", "edge of the tab", Kind::Edge),
        aloud(","),
        length("/width", "width"),
        times(),
        length("/length", "length"),
        aloud("out"),
        PLACE_ON_EDGE,
    ],
    examples: &["tab north 30 x 12", "tab north 30 x 12, at 60"],
};

/// Where along an edge.
pub const PLACE_ON_EDGE: Part = clause(&[
    word("its middle|at"),
    length_or("/place", "place from the left end", "half way"),
    aloud("from the left end"),
]);

spoken! {
    /// A tongue that stands out of an edge, in the plane of its panel.
    pub struct Tab {
        pub edge: String,
        /// Along the edge.
        pub width: String,
        /// Out from the edge.
        pub length: String,
        /// From the left end of the edge, seen from the piece looking out, to the tab's middle; empty means
        /// the middle of the edge.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub place: String,
    }
}
