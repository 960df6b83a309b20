//! Laying out: pieces onto the stock that a shop has.

pub mod bars;

pub use bars::Effort;
