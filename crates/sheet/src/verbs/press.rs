//! `louvre`, `dimple`, `collar`: shapes that are pressed. The blank keeps its size.

use super::bending::{Direction, UP_DOWN};
use super::place::{PLACE, Place};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "press",
    stem: "press",
    about: "Presses a louvre, a dimple or a collared hole.",
    role: Role::Cut,
    starts: &[Start {
        key: 'u',
        name: "louvre",
        mm: "louvre 50 x 12, 5 high",
        inch: "louvre 2 x 1/2, 3/16 high",
    }],
    offers: &[
        Offer {
            on: "panel",
            words: "Press a louvre here",
            mm: "louvre 50 x 12, 5 high $place",
            inch: "louvre 2 x 1/2, 3/16 high $place",
        },
        Offer {
            on: "panel",
            words: "Press a dimple here",
            mm: "dimple ⌀12, 2 deep $place",
            inch: "dimple ⌀1/2, 1/16 deep $place",
        },
        Offer {
            on: "panel",
            words: "Draw a collared hole here",
            mm: "collar ⌀20, 5 high $place",
            inch: "collar ⌀1, 1/4 high $place",
        },
    ],
    sentence: &[
        beginning(
            "/shape",
            "kind",
            "what is pressed",
            &[
                case(
                    "louvre",
                    "Press a louvre|louvre",
                    &[
                        length("/length", "length"),
                        times(),
                        length("/width", "width"),
                        sign(","),
                        heard("high"),
                        length("/height", "height"),
                        printed("high"),
                    ],
                    ["50 x 12, 5 high", "2 x 1/2, 3/16 high"],
                ),
                case(
                    "dimple",
                    "Press a dimple|dimple",
                    &[
                        diameter("/diameter", "diameter"),
                        sign(","),
                        heard("deep"),
                        length("/depth", "depth"),
                        printed("deep"),
                    ],
                    ["12, 2 deep", "1/2, 1/16 deep"],
                ),
                case(
                    "collar",
                    "Draw a collared hole|collar",
                    &[
                        diameter("/diameter", "diameter"),
                        sign(","),
                        heard("high"),
                        length("/height", "height"),
                        printed("high"),
                    ],
                    ["20, 5 high", "1, 1/4 high"],
                ),
            ],
        ),
        quiet("/direction", "side", UP_DOWN),
        Part::Within("/place", PLACE),
    ],
    examples: &[
        "louvre 60 x 12, 5 high on west, 30 from left, 25 from tip",
        "dimple ⌀12, 2 deep down, 30 from west",
        "collar ⌀20, 5 high",
    ],
};

choice! {
    /// A shape that is pressed, not cut to size.
    pub enum PressShape by "kind" {
        /// Lanced along one long side and raised there; `width` across. The opening lies south before it is
        /// turned.
        Louvre { length: String, width: String, height: String },
        Dimple {
            #[serde(default)]
            diameter: String,
            #[serde(default)]
            depth: String,
        },
        /// A collar drawn from a pilot hole; `diameter` inside the collar.
        Collar { diameter: String, height: String },
    }
}

impl Default for PressShape {
    fn default() -> Self {
        PressShape::Dimple { diameter: String::new(), depth: String::new() }
    }
}

spoken! {
    /// Presses a louvre, a dimple or a collared hole.
    pub struct Press {
        pub shape: PressShape,
        pub place: Place,
        pub direction: Direction,
    }
}
