//! Laying out: pieces onto the stock that a shop has.

pub mod bars;
mod job_bars;

pub use job_bars::{BarPlan, CutBar, CutPiece, bar_plans};
