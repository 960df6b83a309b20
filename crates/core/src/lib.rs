//! Steelk's rules and computation: recipes in, checked geometry and figures out.
//!
//! No files, clock, network or interface code lives here. The one entry is [`evaluate`](sheet::evaluate).

pub mod geom;
pub mod job;
pub mod quantity;
pub mod shopbook;
pub mod working;
pub mod check;
pub mod result;
pub mod sheet;
