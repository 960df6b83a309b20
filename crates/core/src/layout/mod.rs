//! Laying out: pieces onto the stock that a shop has.

pub mod bars;
mod job_bars;

pub use bars::Effort;
pub use job_bars::{BarPlan, CutBar, CutPiece, bar_plans};
