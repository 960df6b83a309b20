//! `node … between`: a point on the way between two others.

use grammar::*;

pub static VERB: Verb = Verb {
    tag: "between",
    stem: "node",
    about: "A point on the way between two others, by a part of the way or by a length.",
    role: Role::Node,
    starts: &[Start {
        key: 'b',
        name: "node between",
        mm: "node $new-node between $node-2 and $node, 1/2 of the way",
        inch: "node $new-node between $node-2 and $node, 1/2 of the way",
    }],
    offers: &[],
    sentence: &[
        verb("Node|node"),
        name("/name", "name", Kind::NewNode),
        word("between"),
        name("/from", "from", Kind::Node),
        printed("and"),
        name("/to", "to", Kind::Node),
        ALONG,
    ],
    examples: &["node M between A and B, 1/2 of the way", "node M between A and B, 300 along"],
};

/// How far along the way between two nodes, or along a member.
pub const ALONG: Part = must(&[
    Slot::new("/at", "at", Kind::Number).part(),
    pick("/by", "measured by", &[("share", "of the way"), ("length", "along")]),
]);

word! {
    pub enum AlongBy {
        /// A part of the way: `1/2`.
        #[default]
        Share,
        /// A length from the first node.
        Length,
    }
}

spoken! {
    /// A point on the way between two others.
    pub struct Between {
        pub name: String,
        pub from: String,
        pub to: String,
        pub by: AlongBy,
        pub at: String,
    }
}
