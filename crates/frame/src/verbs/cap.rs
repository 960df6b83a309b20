//! `cap`: a plate that closes the ends of members.

use grammar::*;

pub static VERB: Verb = Verb {
    tag: "cap",
    stem: "cap",
    about: "A plate that closes the ends of members.",
    role: Role::Other,
    starts: &[Start { key: 'c', name: "cap", mm: "cap at $node, 3 thick", inch: "cap at $node, 1/8 thick" }],
    offers: &[],
    sentence: &[
        verb("Cap the ends|cap"),
        printed("at"),
        row("/at", "nodes", Kind::Node),
        THICK,
        clause(&[word("inset"), length_or("/inset", "inset", "none")]),
    ],
    examples: &["cap at B C, 3 thick, inset 1"],
};

/// How thick a plate is.
pub const THICK: Part = must(&[heard("thick"), length("/thickness", "thickness"), printed("thick")]);

spoken! {
    /// A plate that closes the ends of members.
    pub struct CapSaid {
        /// Nodes at free ends.
        pub at: Vec<String>,
        pub thickness: String,
        /// Edge of the plate inside the outline of the section; negative stands out.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub inset: String,
    }
}
