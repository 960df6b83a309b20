//! `notch` of a frame: a square notch in the ends of members, open at the end.

use super::hole::{Face, IN_FACE, WALLS};
use super::trim::Tip;
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "notch_end",
    stem: "notch",
    about: "A square notch in the ends of members, open at the end: a slot for a plate, a cut-out.",
    role: Role::Other,
    starts: &[Start {
        key: 'v',
        name: "notch",
        mm: "notch $member end 6 x 60, both walls",
        inch: "notch $member end 1/4 x 2, both walls",
    }],
    offers: &[],
    sentence: &[
        verb("Notch|notch"),
        names("/members", "members", Kind::Member),
        Pick::new("/tip", "end", &[("start", "at the start|start"), ("end", "at the end|end")]).part(),
        aloud(","),
        length("/width", "width"),
        aloud("wide"),
        times(),
        length("/length", "length"),
        aloud("long"),
        IN_FACE,
        WALLS,
    ],
    examples: &["notch brace-1 end 6 x 80, both walls", "notch rail-1 and rail-2 start 40 x 25, left face"],
};

spoken! {
    /// A square notch in the ends of members, open at the end: a slot for a plate, a cut-out.
    pub struct NotchEnd {
        pub members: Vec<String>,
        pub tip: Tip,
        pub face: Face,
        /// Across the face.
        pub width: String,
        /// Along, from the finished end.
        pub length: String,
        /// Through both walls.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub through: bool,
    }
}
