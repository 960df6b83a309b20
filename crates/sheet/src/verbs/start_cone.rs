//! `cone`: a frustum of a cone, or a part of one.

use ground::geom::{COINCIDENT, ROUNDING};
use std::f64::consts::TAU;

use grammar::*;
use ground::reader::{Range, Reader};

use super::start_strip::TOLD_FROM;
use crate::choices::{ConeEnds, Measure};
use crate::flat::blank::Blank;
use crate::flat::cone::cone_of;
use crate::flat::spec::{Begins, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "start_cone",
    stem: "start",
    about: "Starts a piece with a frustum of a cone, or a part of one.",
    role: Role::Start,
    starts: &[],
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

/// A cone on the middle of its sheet, read; lengths in mm, angles in rad.
struct ConeSpec {
    /// Of its ends, wide and narrow.
    radii: [f64; 2],
    /// Half the angle at its tip.
    slope: f64,
    /// How far it goes round.
    turn: f64,
}

impl Spoken for StartCone {
    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec> {
        let wide = reader.length("/say/wide", &self.wide, Range::AboveZero);
        let narrow = reader.length("/say/narrow", &self.narrow, Range::ZeroUp);
        let height = reader.length("/say/height", &self.height, Range::AboveZero);
        let angle = if self.angle.trim().is_empty() {
            Some(TAU)
        } else {
            reader.bend_angle("/say/angle", &self.angle, 360.0)
        };
        let gap = reader.length_or("/say/seam_gap", &self.seam_gap, Range::ZeroUp, 0.0);
        let (wide, narrow, height, mut turn, gap) = (wide?, narrow?, height?, angle?, gap?);
        if narrow > wide - COINCIDENT {
            reader.refuse_at(
                "/say/narrow",
                "the narrow end is not narrower than the wide one",
                "swap them, or start a rolled shell",
            );
            return None;
        }
        // From the face told to the middle of the sheet: square to the generator where the rim is as it was
        // cut, level where it is ground.
        let slope = ((wide - narrow) / 2.0).atan2(height);
        let inward = match self.measure {
            Measure::Outside => stock.t / 2.0,
            Measure::Middle => 0.0,
            Measure::Inside => -stock.t / 2.0,
        };
        let share = if self.ends == ConeEnds::Square { slope.cos() } else { 1.0 / slope.cos() };
        let radius = |d: f64| d / 2.0 - inward * share;
        let radii = [radius(wide), radius(narrow).max(0.0)];
        if radii[0] <= COINCIDENT || (narrow > 0.0 && radius(narrow) < 0.0) {
            reader.refuse_at(
                "/say/narrow",
                "the sheet is too thick for so narrow an end",
                "write a wider end, or tell the cone from the inside",
            );
            return None;
        }
        if gap > 0.0 && turn > TAU - ROUNDING {
            turn -= gap / radii[0];
        }
        if turn <= 1e-3 {
            reader.refuse_at("/say/seam_gap", "the gap leaves nothing of the cone", "write a smaller gap");
            return None;
        }
        Some(Spec::Start(Box::new(ConeSpec { radii, slope, turn })))
    }
}

impl Begins for ConeSpec {
    fn blank(&self, turn: &mut Turn) -> Option<Blank> {
        Some(cone_of(turn.at.line, self.radii, self.slope, self.turn))
    }
}
