//! `cone`: a frustum of a cone, or a part of one.

use super::start_strip::{Measure, TOLD_FROM};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "start_cone",
    stem: "start",
    about: "Starts a piece with a frustum of a cone, or a part of one.",
    role: Role::Start,
    starts: &[Start {
        key: 'n',
        name: "cone",
        mm: "cone ⌀260 to ⌀140, 260 high",
        inch: "cone ⌀10 to ⌀6, 10 high",
    }],
    offers: &[],
    sentence: &[
        verb("Start with a cone|cone"),
        diameter("/wide", "wide diameter"),
        printed("to"),
        diameter("/narrow", "narrow diameter"),
        must(&[length("/height", "height"), word("high")]),
        also(&[word("high"), length("/height", "height")]),
        TOLD_FROM,
        clause(&[pick(
            "/ends",
            "ends",
            &[("square", "ends as cut"), ("level", "ends ground level|ends level")],
        )]),
        clause(&[word("rolled through|through"), angle_or("/angle", "angle", "the full round")]),
        clause(&[word("seam gap|gap"), length_or("/seam_gap", "seam gap", "none")]),
    ],
    examples: &["cone ⌀400 to ⌀200, 300 high", "cone ⌀400 to ⌀200, 300 high, ends level, through 180°"],
};

spoken! {
    /// A frustum of a cone, or a part of one.
    pub struct StartCone {
        /// Diameters of the two ends, on the face told.
        pub wide: String,
        pub narrow: String,
        /// Square from end to end.
        pub height: String,
        /// Part of the full round; empty means 360°.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub angle: String,
        pub measure: Measure,
        /// For a full round: gap at the wide end.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub seam_gap: String,
        #[serde(skip_serializing_if = "ConeEnds::is_square")]
        pub ends: ConeEnds,
    }
}

word! {
    /// How the rims of a cone are finished, and so where its diameters are measured.
    pub enum ConeEnds {
        /// As cut, square to the sheet: on the rim's own edge.
        #[default]
        Square,
        /// Ground level: in the plane of the end.
        Level,
    }
}

impl ConeEnds {
    pub fn is_square(&self) -> bool {
        *self == ConeEnds::Square
    }
}
