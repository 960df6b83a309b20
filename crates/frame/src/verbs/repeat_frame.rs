//! `repeat` of a frame: everything told above, or the lines named, again at a step.

use super::node::{STEP_EAST, STEP_NORTH, STEP_UP};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "repeat_frame",
    stem: "repeat",
    about: "Everything told above, or the lines named, again at a step: bays.",
    role: Role::Other,
    starts: &[Start {
        key: 'r',
        name: "repeat",
        mm: "repeat 2 times, 500 north",
        inch: "repeat 2 times, 20 north",
    }],
    offers: &[],
    sentence: &[
        verb("Repeat|repeat"),
        names_or("/of", "lines", Kind::Line, "everything above"),
        aloud(","),
        count("/count", "count"),
        printed("times"),
        STEP_EAST.part(),
        STEP_NORTH.part(),
        STEP_UP.part(),
    ],
    examples: &["repeat 3 times, 500 north", "repeat rail-1 and post-1 4 times, 300 east, 20 up"],
};

spoken! {
    /// Everything told above (or the lines named), again at a step: bays.
    pub struct RepeatFrame {
        pub of: Vec<String>,
        /// All of them, the first counted.
        pub count: String,
        #[serde(default = "super::zero")]
        pub x: String,
        #[serde(default = "super::zero")]
        pub y: String,
        #[serde(default = "super::zero")]
        pub z: String,
    }
}
