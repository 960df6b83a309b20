//! What a drawing says, as a list that is checked off against the model: each figure with its tolerance, what
//! of the model it is, and by how much the model departs from it.

mod check;
pub mod document;
mod measure;
mod measured;
mod model;
mod shorthand;
pub mod verbs;
mod written;

pub use check::{BriefResult, Check, MOST_FIGURES, Proposal, Tally, Verdict, check, propose};
pub use document::{Brief, BriefLine, Measured, Specimen};
pub use measure::{DistanceKind, Way};
pub use measured::MeasuredValue;
pub use model::{Bent, Model, Probe, Thing, ThingKind};
pub use shorthand::spelled_out;
