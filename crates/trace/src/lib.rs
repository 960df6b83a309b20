//! Figures out of a picture: edges found between pixels, lines and circles through them by least squares, the
//! picture straightened and scaled by what was measured.
//!
//! Pixels are counted from the picture's upper left corner, x to the right, y down; the middle of the first
//! pixel lies at 0.5, 0.5. Millimetres have y up.

mod carrier;
mod chain;
mod edge;
mod exif;
mod fit;
mod follow;
mod picture;
mod plane;

pub use carrier::{Carrier, Shape};
pub use chain::{Chain, chain, mirrored};
pub use edge::{Reach, edge_across, snap};
pub use fit::{Circle, Straight, circle_through, fit_circle, fit_line};
pub use follow::{Followed, corners, follow};
pub use picture::{Gray, MOST_PIXELS, PictureError, read};
pub use plane::{Plane, PlaneError, Reading, Square};
