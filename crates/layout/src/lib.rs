//! Laying out: pieces onto the stock that a shop has.

mod bar_plan;
pub mod bars;

pub use bar_plan::{BarPlan, CutBar, CutPiece};
pub use bars::Effort;
