//! Folds on edges: the panels of a piece as a tree, grown line by line (`tree`), closed at its corners
//! (`close`) and laid out flat (`layout`).
//! `say` reads the lines, `bend_line` bends across what is laid out.

mod bend_line;
mod close;
mod layout;
mod reliefs;
mod say;
mod tree;

pub use bend_line::bend_line;
pub use layout::{Laid, Narrowed, lay_out};
pub use reliefs::{Met, ReliefCut};
pub use say::{At, corner, fold, hem, joggle, tab, tray_folds};
pub use tree::Tree;
