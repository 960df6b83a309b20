//! `shell`: a rolled shell, told by two of radius or diameter, angle, and arc length.

use super::bending::{Direction, UP_DOWN};
use super::start_strip::{Measure, TOLD_FROM};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "start_rolled",
    stem: "start",
    about: "Starts a piece with a rolled shell, told by two of radius or diameter, angle, and arc length.",
    role: Role::Start,
    starts: &[Start {
        key: 'o',
        name: "rolled shell",
        mm: "shell 140 long, diameter 260, angle 360°, gap 3",
        inch: "shell 6 long, diameter 10, angle 360°, gap 1/8",
    }],
    offers: &[],
    sentence: &[
        verb("Start with a rolled shell|shell"),
        length("/length", "length"),
        printed("long"),
        clause(&[word("radius"), length_or("/radius", "radius", "—")]),
        clause(&[word("diameter"), length_or("/diameter", "diameter", "—")]),
        clause(&[word("angle"), angle_or("/angle", "angle", "—")]),
        clause(&[word("arc length|arc"), length_or("/arc", "arc length", "—")]),
        TOLD_FROM,
        clause(&[aloud("rolled"), pick("/direction", "direction", UP_DOWN)]),
        clause(&[
            aloud("seam with a"),
            pick("/seam", "seam", &[("gap", "gap"), ("lap", "lap")]),
            aloud("of"),
            length_or("/seam_size", "seam size", "none"),
        ]),
    ],
    examples: &[
        "shell 400 long, diameter 300, angle 360°, gap 2",
        "shell 400 long, radius 150, angle 180°, inside",
    ],
};

word! {
    /// How the ends of a full round meet.
    pub enum Seam {
        /// A gap to weld.
        #[default]
        Gap,
        /// One end over the other: that much longer.
        Lap,
    }
}

spoken! {
    /// A rolled shell: two of radius or diameter, angle, and arc length.
    pub struct StartRolled {
        /// Along the axis, south to north.
        pub length: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub diameter: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub angle: String,
        /// Along the face that the shell is told from.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub arc: String,
        pub measure: Measure,
        pub direction: Direction,
        /// For a full round (360°): gap or lap along the face told.
        pub seam: Seam,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub seam_size: String,
    }
}
