//! What figures, annotations and findings may look at while a piece is evaluated.

use std::cell::OnceCell;

use ground::geom::{Crossing, CutOutcome};
use ground::quantity::Display;
use ground::working::Working;
use shop::{Material, SheetShop};

use crate::flat::blank::Blank;
use crate::flat::feature::Feature;
use crate::flat::kept::KeptSize;
use crate::formed::mesh::FlatMesh;
use crate::piece::Piece;
use crate::recipe::LineSpec;

/// Everything a check or a figure may look at while a piece is evaluated.
pub(crate) struct PieceContext<'a> {
    pub shop: &'a SheetShop,
    pub piece: &'a Piece,
    /// Its lines, read.
    pub lines: &'a [LineSpec],
    pub material: &'a Material,
    pub t: f64,
    pub t_working: Option<Working>,
    pub blank: &'a Blank,
    pub features: &'a [Feature],
    pub outcome: &'a CutOutcome,
    pub display: Display,
    pub tags: &'a [String],
    /// Where the blank overlaps itself: no cut was made then.
    pub overlap: Option<Crossing>,
    pub kept: &'a [KeptSize],
    pub outline: OnceCell<FlatMesh>,
}

impl PieceContext<'_> {
    /// The piece without its holes: what bends, tools and the formed size are looked at with.
    pub fn outline_mesh(&self) -> &FlatMesh {
        let made = || FlatMesh::new(&self.outcome.outer, &[], &[], &self.blank.zones, self.t, false);
        self.outline.get_or_init(made)
    }

    /// The line that a feature comes from.
    pub fn line_of(&self, f: &Feature) -> Option<&LineSpec> {
        let at = self.lines.binary_search_by_key(&f.line, |l| l.index).ok()?;
        self.lines.get(at)
    }

    /// The name of the line that a feature comes from.
    pub fn line_name(&self, f: &Feature) -> Option<&str> {
        self.line_of(f).map(|l| l.id.as_str())
    }
}
