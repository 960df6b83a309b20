//! Sheet pieces: what is said of one (`verbs`, `piece`), the flat that comes of it (`flat`), how it is
//! folded (`formed`) and bent (`brake`), what is told of it (`figures`, `findings`, `annotations`), and all
//! of that in order (`evaluate`).

mod annotations;
mod bend_rows;
pub mod bore_rules;
pub mod brake;
pub mod choices;
mod context;
mod contour;
mod edge_bevel;
mod edge_fold;
mod edges;
mod evaluate;
mod figures;
mod findings;
mod flat;
mod formed;
mod hole_table;
mod import;
mod meshes;
pub mod origin;
mod pads;
pub mod piece;
mod plate;
pub mod raised;
mod recipe;
pub mod result;
pub mod tracing;
pub mod verbs;

pub use edge_bevel::{BevelMark, CutBack, EdgeBevel};
pub use edge_fold::{EdgeEnd, EdgeFold, EdgeHole};
pub use edges::{ArcOn, SideOn, arcs_on, bend_said, edges_on, said_in, said_of, sides_on};
pub use evaluate::{MOST_JOB_FEATURES, MOST_LINES, MOST_PIECES, smallest_radius};
pub use flat::bends::BendFact;
pub use flat::bore::{Bore, BoreKind, Mouth};
pub use flat::feature::{Feature, MOST_FEATURES};
pub use flat::folds::Met;
pub use flat::pressed::Pressed;
pub use flat::shape::ShapeSpec;
pub use flat::strip::{ProfileSegment, SegmentForm, Strip};
pub use flat::transition;
pub use formed::{mesh, overlap, zones};
pub use hole_table::{HoleKind, HoleRow, HoleTable, hole_table, letters};
pub use import::{DrawnFold, lines_from};
pub use meshes::{
    Bored, bored, contours, full_mesh, has_patterns, is_hidden_in_views, mesh_size, plain_mesh, unseen,
};
pub use pads::{evaluate_piece, evaluate_searching};
pub use plate::{PlateSpec, evaluate_plate};
