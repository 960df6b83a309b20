//! `mitre`, `butt`: how the ends at a node close, where the frame's usual way is not meant.

use grammar::*;

pub static VERB: Verb = Verb {
    tag: "joint",
    stem: "joint",
    about: "How the ends at a node close, where the frame's usual way is not meant.",
    role: Role::Other,
    starts: &[Start { key: 'j', name: "joint", mm: "butt at $node", inch: "butt at $node" }],
    offers: &[],
    sentence: &[
        Pick::new("/how", "joint", &[("mitre", "Mitre|mitre"), ("butt", "Butt|butt")]).begins().part(),
        printed("at"),
        row("/at", "nodes", Kind::Node),
        clause(&[word("first|first|through|the two"), row_or("/first", "first", Kind::Member, "as ranked")]),
        clause(&[word("gap"), length_or("/gap", "gap", "usual")]),
    ],
    examples: &["mitre at B C", "butt at B, first post-1 rail-2, gap 2"],
};

word! {
    /// How two ends that meet at a node close.
    pub enum JointHow {
        /// Both cut at half the angle.
        #[default]
        Mitre,
        /// One runs through, the others end at its face.
        Butt,
    }
}

spoken! {
    /// How the ends at these nodes close, where the frame's usual way is not meant.
    pub struct JointSaid {
        pub at: Vec<String>,
        pub how: JointHow,
        /// Members in the order they run through; the first two are mitred with one another.
        #[serde(skip_serializing_if = "Vec::is_empty")]
        pub first: Vec<String>,
        /// Left open for the weld.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub gap: String,
    }
}
