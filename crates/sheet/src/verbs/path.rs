//! `path`: the same cuts evenly along a told path.

use super::shape::{Point, points};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "path",
    stem: "path",
    about: "The same cuts evenly along a told path, whose points are told from the first cut.",
    role: Role::Cut,
    starts: &[Start {
        key: 'y',
        name: "path",
        mm: "path $cut, 4 altogether: (40, 20)",
        inch: "path $cut, 4 altogether: (1 1/2, 1)",
    }],
    offers: &[],
    sentence: &[
        verb("Lay along a path|path"),
        names("/of", "cuts along the path", Kind::Cut),
        must(&[count("/count", "count"), printed("altogether")]),
        clause(&[flag(
            "/turned",
            "turned or upright",
            &[("false", "kept upright"), ("true", "turned with it|turned")],
        )]),
        sign(":"),
        points("/points", "point", 0),
    ],
    examples: &["path punch-1, 4 altogether: (40, 20) (80, 0)"],
};

spoken! {
    /// The same cuts evenly along a told path; the first stays where it is, and the path starts there.
    pub struct Path {
        pub of: Vec<String>,
        pub count: String,
        /// Open: the bulge of the last point is not used. Points relative to the first cut.
        pub points: Vec<Point>,
        /// Turned with the path.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub turned: bool,
    }
}
