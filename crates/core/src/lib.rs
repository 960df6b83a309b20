//! Steelk's rules and computation: recipes in, checked geometry and figures out.
//!
//! No files, clock, network or interface code lives here. The one entry is [`evaluate`](evaluate::evaluate).
//!
//! ```
//! use steelk_core::{job::*, evaluate::evaluate};
//!
//! let line = |id: &str, text: &str| Line::new(id, read_line(text, &Default::default()).unwrap());
//! let piece = Piece { mark: "P-1".into(), quantity: "2".into(), material: "s235".into(), thickness: "2".into(), radius: "2".into(),
//!     lines: vec![line("start-1", "strip 40 up 90 60 wide 30")], ..Piece::default() };
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
