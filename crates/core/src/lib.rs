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

pub mod evaluate;
pub mod job;
pub mod starts;
pub mod traced;

pub use brief;
pub use drawing;
pub use frame;
pub use grammar;
pub use ground::{finding, geom, halt, quantity, reader, working};
pub use layout;
pub use sheet;
pub use shop;
pub use trace;

/// What can be said of a piece and of a frame.
pub mod verbs {
    pub use brief::verbs::{BRIEF, DrawingFigure, read_figure};
    pub use frame::verbs::*;
    pub use sheet::verbs::*;
}

/// What evaluation gives back, of a piece and of a whole job.
pub mod result {
    pub use crate::evaluate::JobResult;
    pub use sheet::result::*;
}
