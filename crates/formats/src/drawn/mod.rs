//! Drawings from elsewhere, whatever their format: strokes on layers → what is cut, folded and left, with
//! every
//! repair and its place.

mod chain;
mod chords;
mod content;
mod error;
mod moved;
mod nest;
mod options;
mod overlaps;
mod strokes;
mod units;

pub use chain::{Gap, Open};
pub use content::{Content, LayerSeen, Loop, LoopRole, Repair, RepairKind, content};
pub use error::{DrawingError, MOST_BYTES};
pub use moved::{Change, changes};
pub use nest::Part;
pub use options::usual_use;
pub use steelk_core::job::{Assume, DrawingOptions as Options, LayerUse};
pub use strokes::{LeftOut, Run, SAME, Strokes};
pub use units::{Guess, UNITS, Unit, guess};

/// A drawing, by what its bytes are: SVG or DXF.
pub fn is_svg(bytes: &[u8]) -> bool {
    let head = String::from_utf8_lossy(&bytes[..bytes.len().min(4096)]);
    head.trim_start_matches('\u{feff}').trim_start().starts_with('<') && head.contains("<svg")
}
