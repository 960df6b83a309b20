//! Plane geometry with true arcs: segments, closed contours, regions with holes, cuts, and the triangulation
//! for display. Millimetres; counter-clockwise outlines enclose material.

pub mod arcs;
mod bounds;
mod chord;
mod contour;
pub mod convex;
mod cuts;
pub mod fields;
mod fillet;
mod grid;
mod intersect;
pub mod rings;
mod room;
mod segment;
pub mod triangulate;
mod validity;

pub use bounds::{Bounds, Rectangle, smallest_rectangle};
pub use chord::{area_within, in_material};
pub use contour::{Contour, Vertex};
pub use cuts::{Cut, CutOutcome, Hole, MOST_JOINED, common, cut_out};
pub use fillet::{Corner, chamfer, fillet};
pub use grid::Grid;
pub use intersect::{Closest, closest, crosses};
pub use room::roomiest;
pub use segment::{Arc, Segment};
pub use validity::{Crossing, first_crossing};

/// Two points closer than this are one, mm; lengths (mm), angles (rad) and shares that
/// differ by less are the same.
pub const COINCIDENT: f64 = 1e-6;

/// What rounding in the last places may part, in mm, radians and shares alike: no shop tells or cuts it.
pub const ROUNDING: f64 = 1e-9;

/// How far a drawn chord may lie from its arc: display and mesh only, never figures or cut files.
pub const CHORD: f64 = 0.05;
