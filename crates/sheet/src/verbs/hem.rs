//! `hem`: turns an edge over, flat, open, as a teardrop or rolled.

use super::bending::{BEND_AT, BendAt, Direction, RELIEF, Relief, SPAN, Span, UP_DOWN};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "hem",
    stem: "hem",
    about: "Turns an edge over: flat on itself, open with a gap, round as a teardrop, or rolled.",
    role: Role::Bend,
    starts: &[Start { key: 'x', name: "hem", mm: "hem $edge closed 12", inch: "hem $edge closed 1/2" }],
    offers: &[Offer { on: "edge", words: "Hem {}", mm: "hem $this closed 12", inch: "hem $this closed 1/2" }],
    sentence: &[
        verb("Hem|hem"),
        names_or("/edges", "edges hemmed", Kind::Edge, "all round"),
        aloud("with a"),
        union(
            "/hem",
            "kind",
            "kind of hem",
            &[
                case(
                    "closed",
                    "closed hem|closed",
                    &[length("/length", "length"), aloud("outside")],
                    ["12", "1/2"],
                ),
                case(
                    "open",
                    "open hem|open",
                    &[
                        length("/length", "length"),
                        aloud("outside"),
                        sign(","),
                        word("gap"),
                        length("/gap", "gap"),
                    ],
                    ["12, gap 3", "1/2, gap 1/8"],
                ),
                case(
                    "teardrop",
                    "teardrop hem|teardrop",
                    &[length("/length", "length"), aloud("outside"), sign(","), radius("/radius", "radius")],
                    ["14, R2", "9/16, R3/32"],
                ),
                case(
                    "rolled",
                    "rolled edge|rolled",
                    &[radius("/radius", "radius"), printed("through"), angle("/angle", "angle")],
                    ["R3 through 270°", "R1/8 through 270°"],
                ),
            ],
        ),
        clause(&[pick("/direction", "direction", UP_DOWN)]),
        BEND_AT,
        SPAN,
        RELIEF,
    ],
    examples: &[
        "hem north closed 12",
        "hem east and west open 9, gap 2, down",
        "hem north rolled R3 through 270°",
    ],
};

choice! {
    /// How an edge is turned over.
    pub enum HemKind by "kind" {
        /// Flat on itself.
        Closed {
            #[serde(default)]
            length: String,
        },
        /// Parallel, with a gap.
        Open { length: String, gap: String },
        /// Round inside, the tip touching the sheet.
        Teardrop { length: String, radius: String },
        /// Curled through an angle, no straight end.
        Rolled { radius: String, angle: String },
    }
}

impl Default for HemKind {
    fn default() -> Self {
        HemKind::Closed { length: String::new() }
    }
}

spoken! {
    /// Turns an edge over.
    pub struct Hem {
        /// Names of straight edges; empty means all round the start.
        pub edges: Vec<String>,
        pub hem: HemKind,
        pub direction: Direction,
        pub bend_at: BendAt,
        pub span: Span,
        #[serde(deserialize_with = "super::unusual", skip_serializing_if = "Option::is_none")]
        pub relief: Option<Relief>,
    }
}
