//! `channel`: lip, side, web, side, lip, bent from one strip.

use super::start_strip::{Measure, TOLD_FROM};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "start_channel",
    stem: "start",
    about: "Starts a piece with a channel: lip, side, web, side, lip, bent from one strip.",
    role: Role::Start,
    starts: &[Start {
        key: 'c',
        name: "channel",
        mm: "channel 260 long, web 140, sides 50, lips 12",
        inch: "channel 10 long, web 6, sides 2, lips 1/2",
    }],
    offers: &[],
    sentence: &[
        verb("Start with a channel|channel"),
        length("/length", "length"),
        printed("long"),
        must(&[word("web"), length("/web", "web")]),
        must(&[word("sides|sides|side"), length("/side", "side")]),
        clause(&[word("west side"), length_or("/west_side", "west side", "the same")]),
        clause(&[
            word("lips|lips|lip"),
            length_or("/lip", "lip", "none"),
            Clause::new(&[flag(
                "/lips_out",
                "lips",
                &[("false", "turned inwards|inwards"), ("true", "turned outwards|outwards|out")],
            )])
            .close()
            .shown(When::Told("/lip"))
            .part(),
        ]),
        TOLD_FROM,
    ],
    examples: &[
        "channel 600 long, web 120, sides 60, lips 15",
        "channel 600 long, web 120, sides 60, lips 15 outwards, inside",
    ],
};

spoken! {
    /// Lip, side, web, side, lip, bent from one strip.
    pub struct StartChannel {
        /// Along the channel, south to north.
        pub length: String,
        /// Width of the web.
        pub web: String,
        /// Height of the sides; `west_side` empty means the same as `side`.
        pub side: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub west_side: String,
        /// Width of the lips; empty means none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub lip: String,
        /// Lips turned away from the middle.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub lips_out: bool,
        pub measure: Measure,
    }
}
