//! Steelk's rules and computation: recipes in, checked geometry and figures out.
//!
//! No files, clock, network or interface code lives here. The one entry is [`evaluate`](evaluate::evaluate).
//!
//! ```
//! use steelk_core::{job::*, evaluate::evaluate};
//!
//! let line = |id: &str, text: &str| Line::new(id, read_line(text, &Default::default()).unwrap());
//! let text = "piece P-1 \"Angle\", 2 off, 2 thick s235, R2";
//! let piece = Piece {
//!     lines: vec![line("start-1", "strip 30 wide: 40, up 90°, 60")],
//!     ..text::read_piece(text).0.unwrap()
//! };
//! let job = Job { format: FORMAT, pieces: vec![piece], ..Job::default() };
//! let result = evaluate(&job);
//! // DIN 6935: 40 + 60 − 3.837
//! assert_eq!(result.pieces[0].figure("flat_length").unwrap().text, "96.2 mm");
//! ```

pub mod drawing;
pub mod evaluate;
pub mod finding;
pub mod frame;
pub mod geom;
pub mod grammar;
pub mod halt;
pub mod job;
pub mod layout;
pub mod quantity;
pub mod sheet;
pub mod shopbook;
pub mod verbs;
pub mod working;

/// What evaluation gives back, of a piece and of a whole job.
pub mod result {
    pub use crate::evaluate::JobResult;
    pub use crate::sheet::result::*;
}
