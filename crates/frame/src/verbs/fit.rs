//! `plate` of a frame: a plate cut to fit between members that close a ring; it follows them.

use super::cap::THICK;
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "fit",
    stem: "plate",
    about: "A plate cut to fit between members that close a ring, or over them; it follows them.",
    role: Role::Other,
    starts: &[Start {
        key: 'p',
        name: "plate",
        mm: "plate $nodes, 6 thick",
        inch: "plate $nodes, 1/4 thick",
    }],
    offers: &[],
    sentence: &[
        verb("Plate|plate"),
        flag("/over", "fitted", &[("false", "between"), ("true", "over")]),
        aloud("the members round"),
        row("/around", "around", Kind::Node),
        also(&[flag("/over", "fitted", &[("false", "between"), ("true", "over")])]),
        THICK,
        clause(&[word("clearance"), length_or("/clearance", "clearance", "none")]),
        clause(&[word("off the plane by|off"), length_or("/off", "off", "nothing")]),
    ],
    examples: &["plate over A B C D, 6 thick", "plate A B C D, 6 thick, clearance 1, off 20"],
};

spoken! {
    /// A plate cut to fit between members that close a ring; it follows them.
    pub struct FitSaid {
        /// Nodes round the opening, in turn.
        pub around: Vec<String>,
        pub thickness: String,
        /// Left open all round.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub clearance: String,
        /// Of the plate's middle from the plane of the nodes, towards the side they run round
        /// counter-clockwise.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub off: String,
        /// Stands over the members instead of between them: to their outer faces.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub over: bool,
    }
}
