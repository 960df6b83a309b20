//! The core against references, properties and hand sums: one program, so that it is linked once.

mod common;

mod bars;
mod bends;
mod brake;
mod brake_told;
mod checks;
mod folded_findings;
mod folds;
mod formed;
mod frame_arcs;
mod frame_copies;
mod frame_cuts;
mod frame_findings;
mod frame_holes;
mod frame_hostile;
mod frame_lists;
mod frame_parts;
mod frame_room;
mod frame_short;
mod frames;
mod geometry;
mod golden;
mod house;
mod lines;
mod once_said;
mod once_wrong;
mod once_wrong_frames;
mod quantity;
mod sections;
mod segments;
mod shapes;
mod shells;
mod simulated;
mod specs;
mod workings;
