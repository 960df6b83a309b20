//! Dimensioned drawings: formed views, the flat with what makes it, tables, a title block. A size is chosen
//! and said once.

mod features;
mod flat_view;
mod formed_views;
mod legs;
mod ordinates;
mod outline;
mod page;
mod patterns;
mod piece;
mod rows;
mod scale;
mod shape;
mod tables;

pub use page::{Head, Projection};
pub use piece::{Piece, piece_drawing};
