//! The zones of a flat and how they stand when it is folded: the solid, and where it runs into itself.

pub mod mesh;
pub mod overlap;
pub mod wells;
pub mod zones;
