//! The job as it is said and stored: pieces, their recipes, the job's figures and settings. Values are kept
//! as typed.

use std::collections::BTreeMap;

use ground::quantity::{Display, Figure};
use ground::said;
use shop::BendRule;
use shop::settings::{FrameSettings, Settings, SheetSettings};

/// The format number that this version writes and reads.
pub const FORMAT: u32 = 1;

mod drawings;
mod printer;
mod rename;
mod taking_in;
pub mod text;
mod values;
mod variant;

pub use brief::document::*;
pub use brief::verbs::DrawingFigure;
pub use drawings::{Drawings, ShopPicture, ViewAngle};
pub use frame::document::*;
pub use frame::verbs::*;
pub use printer::Printer;
pub use rename::*;
pub use sheet::origin::{Assume, CLOSES, DrawingOptions, LayerUse, Origin};
pub use sheet::piece::*;
pub use sheet::tracing::{CaliperReading, StraightenBy, TracedElement, TracedShape, Tracing};
pub use sheet::verbs::*;
pub use shop::settings::{
    Brake, BrakeTools, OwnMaterial, OwnSection, Saw, StockBar, StockSheet, TableKind, TableRow, TestBend,
    TestStrip,
};
pub use taking_in::{put_over, take_in};
pub use values::texts;
pub use variant::{Variant, VariantValue};

said! {
    /// What is kept with a job and not made.
    pub struct Archive {
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub pieces: Vec<Piece>,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub frames: Vec<Frame>,
    }
}

impl Archive {
    pub fn is_empty(&self) -> bool {
        self.pieces.is_empty() && self.frames.is_empty()
    }
}

said! {
    /// A job: the document that is saved, sent and evaluated.
    pub struct Job {
        pub format: u32,
        pub title: String,
        #[serde(default)]
        pub number: String,
        #[serde(default)]
        pub customer: String,
        #[serde(default)]
        pub note: String,
        #[serde(default)]
        pub display: Display,
        /// Fields and rows of holes are left out of the views; figures and files have them.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub light: bool,
        #[serde(default)]
        pub bend_rule: BendRule,
        #[serde(default)]
        pub figures: Vec<Figure>,
        /// Other values of the figures that the job is made in.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub variants: Vec<Variant>,
        /// Sheets on the rack; the first is the usual one.
        #[serde(default)]
        pub stock: Vec<StockSheet>,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub bend_table: Vec<TableRow>,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub test_bends: Vec<TestBend>,
        /// The press brake that the piece is bent at.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub brake: Option<Brake>,
        #[serde(default)]
        pub pieces: Vec<Piece>,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub frames: Vec<Frame>,
        /// What the drawings say.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub briefs: Vec<Brief>,
        /// Pieces and frames that are kept with the job, and neither made nor counted.
        #[serde(default, skip_serializing_if = "Archive::is_empty")]
        pub archive: Archive,
        /// Materials of the shop's own.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub materials: Vec<OwnMaterial>,
        /// Sections of the shop's own.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub sections: Vec<OwnSection>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub saw: Option<Saw>,
        /// Bars on the rack or to be bought.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub bars: Vec<StockBar>,
        /// Printers whose true scale was measured.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub printers: Vec<Printer>,
        /// What drawings say in their title block.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub drawings: Option<Drawings>,
        /// The highest number given to an id of a piece or frame, by stem: none is given twice.
        #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
        pub issued: BTreeMap<String, u32>,
    }
}

/// Whether two marks are one: blanks around them and capitals aside; no mark is nobody's.
pub fn is_same_mark(a: &str, b: &str) -> bool {
    !a.trim().is_empty() && a.trim().eq_ignore_ascii_case(b.trim())
}

impl Job {
    /// What it tells of its shop.
    pub fn settings(&self) -> Settings<'_> {
        let sheet = SheetSettings {
            display: self.display,
            light: self.light,
            figures: &self.figures,
            bend_rule: &self.bend_rule,
            stock: &self.stock,
            bend_table: &self.bend_table,
            test_bends: &self.test_bends,
            brake: self.brake.as_ref(),
            materials: &self.materials,
        };
        let frame = FrameSettings { sheet, saw: self.saw.as_ref(), sections: &self.sections };
        Settings { frame, bars: &self.bars }
    }
}
