//! A bar plan as it is shown.

use serde::Serialize;

/// A piece where it lies on its bar.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct CutPiece {
    pub mark: String,
    pub name: String,
    /// Long point to long point, printed.
    pub length: String,
    pub cuts: [String; 2],
    /// Along the bar, mm: upper start, upper end, lower end, lower start.
    pub x: [f64; 4],
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct CutBar {
    pub length: String,
    pub length_mm: f64,
    pub offcut: bool,
    pub times: usize,
    pub pieces: Vec<CutPiece>,
    /// What is left over.
    pub rest: String,
    pub rest_mm: f64,
    /// Long enough to be kept.
    pub kept: bool,
}

/// One section of one material.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct BarPlan {
    pub section: String,
    pub material: String,
    pub bars: Vec<CutBar>,
    /// New bars: `4 × 6000.0 mm`.
    pub to_buy: Vec<String>,
    /// What is known of it: the best there is, or by how much it might not be.
    pub verdict: String,
    pub proven: bool,
    /// Share of the length taken that becomes pieces.
    pub used: String,
    /// Pieces that fit no bar: `2 × F-1/3`.
    pub left_out: Vec<String>,
}
