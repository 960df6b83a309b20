//! The flat of a piece: the blank that it starts with, its panels and bends, what is cut out of it and
//! pressed into it. Geometry only: what lines say is read in `verbs`.

pub mod bend_allowance;
pub mod bends;
pub mod blank;
pub mod bore;
pub mod cone;
pub mod contour_start;
pub mod copies;
pub mod corners;
pub mod feature;
pub mod fill;
pub mod folds;
pub mod kept;
pub mod outlines;
pub mod place;
pub mod pressed;
pub mod shape;
pub mod shell;
pub mod spec;
pub mod stock;
pub mod strip;
pub mod transition;
