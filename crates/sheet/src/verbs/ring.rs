//! `ring`: the same cuts round a point.

use super::place::{PLACE, Place};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "ring",
    stem: "ring",
    about: "The same cuts round a point, all the way or over an angle.",
    role: Role::Cut,
    starts: &[Start {
        key: 'w',
        name: "ring",
        mm: "ring $cut, 6 altogether",
        inch: "ring $cut, 6 altogether",
    }],
    offers: &[Offer {
        on: "hole",
        words: "Set {} in a ring",
        mm: "ring $this, 6 altogether",
        inch: "ring $this, 6 altogether",
    }],
    sentence: &[
        verb("Ring|ring"),
        names("/of", "cuts in the ring", Kind::Cut),
        must(&[count("/count", "count"), printed("altogether")]),
        clause(&[word("over"), angle_or("/sweep", "sweep", "the full round")]),
        clause(&[flag(
            "/upright",
            "turned or upright",
            &[("false", "turned with it"), ("true", "kept upright|upright")],
        )]),
        aloud(", about the point"),
        Part::Within("/centre", PLACE),
    ],
    examples: &[
        "ring punch-1, 5 altogether, 30 from west, 30 from south",
        "ring punch-1, 4 altogether, over 90°, upright",
    ],
};

spoken! {
    /// The same cuts round a point.
    pub struct Ring {
        pub of: Vec<String>,
        /// All of them, the first included.
        pub count: String,
        /// From the first to the last; empty means evenly all the way round.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub sweep: String,
        /// The middle of the ring.
        pub centre: Place,
        /// Kept upright instead of turned with the ring.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub upright: bool,
    }
}
