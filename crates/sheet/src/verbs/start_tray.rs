//! `tray`: a plate with four sides folded up, with lips or without.

use super::corner::{CLOSE, Close, CornerRelief, RELIEF};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "start_tray",
    stem: "start",
    about: "Starts a piece with a tray: a plate with four sides folded up, with lips or without.",
    role: Role::Start,
    starts: &[Start { key: 't', name: "tray", mm: "tray 260 x 140 x 50", inch: "tray 10 x 6 x 2" }],
    offers: &[],
    sentence: &[
        verb("Start with a tray|tray"),
        length("/width", "width"),
        times(),
        length("/depth", "depth"),
        times(),
        length("/height", "height"),
        aloud("high"),
        quiet(
            "/measure",
            "told from",
            &[("outside", "told outside|outside"), ("inside", "told inside|inside")],
        ),
        clause(&[
            word("less"),
            aloud("a clearance of"),
            length_or("/clearance", "clearance", "none"),
            aloud("on each side"),
        ]),
        clause(&[
            word("lips|lips|lip"),
            length_or("/lip", "lip", "none"),
            Clause::new(&[flag(
                "/lips_in",
                "lips",
                &[("false", "turned outwards|outwards"), ("true", "turned inwards|inwards")],
            )])
            .close()
            .shown(When::Told("/lip"))
            .part(),
        ]),
        clause(&[aloud("corners"), pick("/close", "how corners close", CLOSE)]),
        clause(&[word("gap"), length_or("/gap", "gap", "usual")]),
        RELIEF,
    ],
    examples: &[
        "tray 300 x 200 x 60, lips 15 inwards",
        "tray 300 x 200 x 60 inside, less 1.5, gap 0.4, round relief 6",
    ],
};

spoken! {
    /// A plate with four sides folded up.
    pub struct StartTray {
        /// West to east, south to north and up, told over `measure`.
        pub width: String,
        pub depth: String,
        pub height: String,
        pub measure: TrayMeasure,
        /// Taken off the width and the depth on each side, so that it goes into what was told.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub clearance: String,
        /// Lips on top of the sides; empty means none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub lip: String,
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub lips_in: bool,
        pub close: Close,
        /// Between neighbouring sides; empty means the usual.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub gap: String,
        pub relief: CornerRelief,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub relief_size: String,
    }
}

word! {
    /// What a tray's width, depth and height run over.
    pub enum TrayMeasure {
        #[default]
        Outside,
        Inside,
    }
}
