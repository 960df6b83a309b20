//! Where a piece came from: a drawing of another program, and how it was taken.

use std::collections::BTreeMap;

use ground::quantity::LengthUnit;
use ground::{said, word};
use serde::{Deserialize, Serialize};

word! {
    /// What the numbers of a drawing that names no unit are.
    pub enum Assume {
        #[default]
        Mm,
        In,
        /// 96 to the inch, as pages on a screen have it (CSS Values and Units).
        Px,
        /// 72 to the inch, as printers have it.
        Pt,
    }
}

impl Assume {
    pub fn mm(self) -> f64 {
        match self {
            Assume::Mm => 1.0,
            Assume::In => 25.4,
            Assume::Px => 25.4 / 96.0,
            Assume::Pt => 25.4 / 72.0,
        }
    }

    pub fn sign(self) -> &'static str {
        match self {
            Assume::Mm => "mm",
            Assume::In => "in",
            Assume::Px => "px",
            Assume::Pt => "pt",
        }
    }

    /// The unit to work in.
    pub fn working(self) -> LengthUnit {
        if self == Assume::In { LengthUnit::In } else { LengthUnit::Mm }
    }
}

word! {
    /// What the strokes of a layer are for.
    pub enum LayerUse {
        #[default]
        Cut,
        /// Straight lines are bend lines, bent towards who looks.
        FoldUp,
        /// Bend lines, bent away from who looks.
        FoldDown,
        /// Seen in the preview, not taken.
        Out,
    }
}

/// How a drawing is taken, as far as a person has told. Lengths and places in mm.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct DrawingOptions {
    /// Unit of a file that names none.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub assume: Option<Assume>,
    /// Gaps up to this close by themselves.
    pub closes: f64,
    /// Uses of layers, where they differ from the usual ones.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    pub layers: BTreeMap<String, LayerUse>,
    /// Gaps closed by hand: a straight line from one place to the other.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub joins: Vec<[[f64; 2]; 2]>,
    /// Contours that are not taken: a place on each.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub skips: Vec<[f64; 2]>,
    /// Whether short chords of a circle become its arc.
    pub arcs: bool,
}

/// Gaps up to this are closed where nothing else is told, mm.
pub const CLOSES: f64 = 0.05;

impl Default for DrawingOptions {
    fn default() -> Self {
        DrawingOptions {
            assume: None,
            closes: CLOSES,
            layers: BTreeMap::new(),
            joins: Vec::new(),
            skips: Vec::new(),
            arcs: true,
        }
    }
}

said! {
    /// The drawing that a piece was brought in from.
    pub struct Origin {
        /// Digest of the kept file (SHA-256).
        pub file: String,
        /// Its name as it was brought in.
        pub name: String,
        /// Which of the parts in it, from 1, the largest first.
        pub part: u32,
        #[serde(default)]
        pub options: DrawingOptions,
    }
}
