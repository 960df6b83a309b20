//! `node … on`: a point on a member's line, round its bends too.

use super::between::{ALONG, AlongBy};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "on",
    stem: "node",
    about: "A point on a member's line, round its bends too.",
    role: Role::Node,
    starts: &[Start {
        key: 'i',
        name: "node on",
        mm: "node $new-node on $member, 1/2 of the way",
        inch: "node $new-node on $member, 1/2 of the way",
    }],
    offers: &[],
    sentence: &[
        verb("Node|node"),
        name("/name", "name", Kind::NewNode),
        word("on"),
        name("/member", "member", Kind::Member),
        ALONG,
    ],
    examples: &["node P on rail-1, 1/3 of the way"],
};

spoken! {
    /// A point on a member's line, round its bends too.
    pub struct On {
        pub name: String,
        pub member: String,
        pub by: AlongBy,
        /// From the node it starts at.
        pub at: String,
    }
}
