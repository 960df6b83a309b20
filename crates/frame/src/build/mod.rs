//! What lines make of a frame: nodes, members and their copies, what is cut into them, and plates. Geometry
//! only: what lines say is read in `verbs`.

pub mod board;
pub mod copying;
pub mod gussets;
pub mod holes;
pub mod hoppers;
pub mod overrides;
pub mod panels;
pub mod plate_holes;
pub mod plates;
pub mod rails;
pub mod ribs;
pub mod rim_angles;
pub mod rim_flats;
pub mod rims;
pub mod sides;
pub mod skeleton;
pub mod spec;
pub mod stiffeners;
