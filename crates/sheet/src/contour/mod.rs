//! An outline told by its sides and by what holds between them, worked out: found, or which figure is
//! missing, or which of them contradict.

mod conditions;
mod conflict;
mod dense;
mod dual;
mod missing;
mod says;
mod shape;
mod solve;
mod told;
mod unknowns;

pub use missing::{family, missing};
pub use says::{Named, Says, figure_field, open};
pub use shape::FoundSide;
pub use solve::{Answer, is_thorough, solve};
pub use told::{Condition, Figure, Run, Side, Told};
pub use unknowns::System;
