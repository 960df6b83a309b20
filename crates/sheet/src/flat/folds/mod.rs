//! Folds on edges: the panels of a piece as a tree, grown line by line (`tree`, `picked`), closed at its
//! corners (`close`) and laid out flat (`layout`, with `on_edge` along an edge and `meeting` at a corner);
//! `bend_line` bends across what is laid out.

mod bend_line;
mod close;
mod layout;
mod meeting;
mod on_edge;
mod picked;
mod reliefs;
mod tree;

pub use bend_line::{Across, bend_across};
pub use close::Trim;
pub use layout::{Laid, Narrowed, lay_out};
pub use picked::{pick_edge, pick_edges};
pub use reliefs::{Met, ReliefCut};
pub use tree::{Bent, Closing, CornerTreatment, Edge, FoldSpec, ReliefOf, SpanOf, TIP, Tree};
