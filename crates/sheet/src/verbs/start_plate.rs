//! `plate`: a rectangle centred on its middle.

use grammar::*;

pub static VERB: Verb = Verb {
    tag: "start_plate",
    stem: "start",
    about: "Starts a piece with a rectangle, centred on its middle.",
    role: Role::Start,
    starts: &[Start { key: 'p', name: "plate", mm: "plate 260 x 140", inch: "plate 10 x 6" }],
    offers: &[],
    sentence: &[
        verb("Start with a plate|plate"),
        length("/width", "width"),
        times(),
        length("/height", "height"),
        aloud(", centred on its middle"),
    ],
    examples: &["plate 260 x 140"],
};

spoken! {
    /// A rectangle centred on its middle.
    pub struct StartPlate {
        /// West to east.
        pub width: String,
        /// South to north.
        pub height: String,
    }
}
