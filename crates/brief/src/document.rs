//! What a drawing says, as it is stored. Values are kept as typed.

use std::collections::BTreeMap;

use ground::quantity::Display;
use ground::{said, word};
use serde::{Deserialize, Serialize};
use shop::tolerances::ToleranceClass;

use crate::verbs::DrawingFigure;

/// One figure of a drawing.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct BriefLine {
    /// Never changes once given.
    pub id: String,
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub off: bool,
    /// A remark that stays with the line.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
    /// The name of a group that begins with this line and goes on to the next that begins one.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub group: String,
    /// Where it stands on the drawing that is kept beside the brief: shares of its width and height, from the
    /// upper left corner of the page as it was kept. A text does not tell it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub pin: Option<[f64; 2]>,
    pub say: DrawingFigure,
}

impl ground::lines::TellsLine for BriefLine {
    fn id(&self) -> &str {
        &self.id
    }

    fn is_off(&self) -> bool {
        self.off
    }
}

word! {
    /// Which of the pieces that were made.
    pub enum Specimen {
        #[default]
        First,
        Last,
    }
}

said! {
    /// What was measured of a figure on a piece that was made. Values are kept as typed.
    pub struct Measured {
        /// The line of the brief.
        pub line: String,
        /// What of the line it is: `diameter`, `count`; empty for the line itself.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub what: String,
        #[serde(default, skip_serializing_if = "is_first")]
        pub piece: Specimen,
        pub value: String,
        /// By whom.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub who: String,
        /// When.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub on: String,
    }
}

fn is_first(of: &Specimen) -> bool {
    *of == Specimen::First
}

said! {
    /// A scan, a photograph or a PDF of a drawing.
    pub struct DrawingSheet {
        /// Digest of the kept file (SHA-256).
        pub file: String,
        /// Its name as it was brought in.
        pub name: String,
        /// Page of a PDF, from 1.
        #[serde(default = "one", skip_serializing_if = "is_one")]
        pub page: u32,
        /// Quarter turns, with the clock.
        #[serde(default, skip_serializing_if = "is_none")]
        pub turned: u32,
    }
}

fn one() -> u32 {
    1
}

fn is_one(page: &u32) -> bool {
    *page == 1
}

fn is_none(turns: &u32) -> bool {
    *turns == 0
}

said! {
    /// What one drawing, or one view of it, says of a piece or a frame.
    pub struct Brief {
        /// Never changes once given.
        pub id: String,
        /// Number of the drawing.
        pub mark: String,
        /// Which sheet or view of it.
        pub name: String,
        /// Mark of the piece or frame that it shows.
        pub of: String,
        /// General tolerances of its title block.
        #[serde(default)]
        pub class: ToleranceClass,
        /// Where its figures are in another unit than the job's.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub display: Option<Display>,
        /// The drawing itself, kept beside it. A text does not tell it.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub sheet: Option<DrawingSheet>,
        #[serde(default)]
        pub lines: Vec<BriefLine>,
        /// What was measured on pieces that were made.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub measured: Vec<Measured>,
        /// The highest number given to an id of a line, by stem: none is given twice.
        #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
        pub issued: BTreeMap<String, u32>,
    }
}
