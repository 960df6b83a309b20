//! `shell`: a rolled shell, told by two of radius or diameter, angle, and arc length.

use ground::geom::{COINCIDENT, ROUNDING};
use std::f64::consts::TAU;

use grammar::*;
use ground::reader::{Range, Reader};

use super::bending::UP_DOWN;
use super::start_strip::TOLD_FROM;
use super::start_strip::room_inside;
use crate::choices::{Direction, Measure, Side};
use crate::flat::blank::Blank;
use crate::flat::shell::lapped;
use crate::flat::spec::{Begins, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;
use crate::flat::strip::{PartKind, PartSpec, StripSpec};

pub static VERB: Verb = Verb {
    tag: "start_rolled",
    stem: "start",
    about: "Starts a piece with a rolled shell, told by two of radius or diameter, angle, and arc length.",
    role: Role::Start,
    starts: &[],
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

/// A strip of a single arc; `angle` runs past the full round where its ends lap.
struct RolledSpec {
    strip: StripSpec,
    angle: f64,
}

impl Spoken for StartRolled {
    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec> {
        let length = reader.length("/say/length", &self.length, Range::AboveZero);
        let round = self.round(reader);
        let seam = reader.length_or("/say/seam_size", &self.seam_size, Range::ZeroUp, 0.0);
        let (width, (radius, mut angle), seam) = (length?, round?, seam?);
        if angle > TAU - COINCIDENT && seam > 0.0 {
            angle += if self.seam == Seam::Lap { seam / radius } else { -seam / radius };
        }
        if angle <= COINCIDENT {
            reader.refuse_at("/say/seam_size", "the gap leaves nothing of the shell", "write a smaller gap");
            return None;
        }
        let at = if self.radius.trim().is_empty() { "/say/diameter" } else { "/say/radius" };
        let measure = self.measure;
        let radius = room_inside(reader, at, radius, measure, stock)?;
        // The strip itself goes once round at most.
        let kind = PartKind::Arc { angle: angle.min(TAU), up: self.direction == Direction::Up, radius };
        let parts = vec![PartSpec { id: "shell".into(), kind, at: None }];
        let strip = StripSpec { width, side: Side::default(), measure, parts, stays: 0, at };
        Some(Spec::Start(Box::new(RolledSpec { strip, angle })))
    }
}

impl StartRolled {
    /// Radius on the told face and sweep, from two of what was told.
    fn round(&self, reader: &mut Reader) -> Option<(f64, f64)> {
        if !self.radius.trim().is_empty() && !self.diameter.trim().is_empty() {
            reader.refuse_at("/say/diameter", "radius and diameter are both told", "tell one of them");
            return None;
        }
        let radius = reader.length_if("/say/radius", &self.radius, Range::AboveZero)?;
        let diameter = reader.length_if("/say/diameter", &self.diameter, Range::AboveZero)?;
        let angle = if self.angle.trim().is_empty() {
            None
        } else {
            Some(reader.bend_angle("/say/angle", &self.angle, 360.0)?)
        };
        let arc = reader.length_if("/say/arc", &self.arc, Range::AboveZero)?;
        let (r, a) = match (radius.or(diameter.map(|d| d / 2.0)), angle, arc) {
            (Some(r), Some(a), None) => (r, a),
            (Some(r), None, Some(s)) => (r, s / r),
            (None, Some(a), Some(s)) => (s / a, a),
            (Some(_), Some(_), Some(_)) => {
                reader.refuse_at(
                    "/say/arc",
                    "radius, angle and arc length are all told",
                    "leave one of them empty: the other two give it",
                );
                return None;
            }
            _ => {
                reader.refuse_at(
                    "/say/radius",
                    "two of radius (or diameter), angle and arc length are needed",
                    "tell two of them",
                );
                return None;
            }
        };
        if a > TAU + ROUNDING {
            reader.refuse_at(
                "/say/arc",
                "the arc goes more than once round",
                "write a shorter arc, or a larger radius",
            );
            return None;
        }
        Some((r, a))
    }
}

impl Begins for RolledSpec {
    fn blank(&self, turn: &mut Turn) -> Option<Blank> {
        let blank = self.strip.blank(turn)?;
        if self.angle <= TAU { Some(blank) } else { lapped(blank, turn.at.line, self.angle, turn.stock) }
    }
}
