//! Dimensioned drawings: formed views, the flat with what makes it, tables, a title block. A size is chosen
//! and said once.

mod bar;
mod bar_looks;
mod bender_table;
mod broken;
mod features;
mod flat_view;
mod formed_views;
mod frame;
mod legs;
mod ordinates;
mod outline;
mod page;
mod patterns;
mod piece;
mod scale;
mod section_view;
mod shape;
mod tables;
mod views_on_paper;

pub use bar::bar_drawing;
pub use frame::frame_drawing;
pub use page::{Head, Projection, ShopMark};
pub use piece::{Piece, piece_drawing};
