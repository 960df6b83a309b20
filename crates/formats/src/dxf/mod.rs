//! DXF: the flat pattern out (R2000), contours in. Circles stay circles and arcs stay arcs both ways.

mod chain;
mod document;
mod file;
mod flatten;
mod groups;
mod read;
mod spline;
mod texts;
mod write;

pub use read::{Content, read};
pub use write::write;

pub const CUT: &str = "CUT";
pub const BEND_UP: &str = "BEND_UP";
pub const BEND_DOWN: &str = "BEND_DOWN";
/// Where a rolled arc begins and ends.
pub const ROLL_UP: &str = "ROLL_UP";
pub const ROLL_DOWN: &str = "ROLL_DOWN";
pub const MARKS: &str = "MARKS";
/// Drilled holes, from the front and from the back: blind ones at their diameter, threads at their nominal
/// diameter, countersinks and counterbores (spot faces too) at their widest.
pub const DRILLED: [[&str; 2]; 4] = [
    ["DRILL_FRONT", "DRILL_BACK"],
    ["TAP_FRONT", "TAP_BACK"],
    ["CSK_FRONT", "CSK_BACK"],
    ["CBORE_FRONT", "CBORE_BACK"],
];

/// Larger files are refused before they are read.
pub const MOST_BYTES: usize = 32 * 1024 * 1024;

#[derive(Debug, thiserror::Error)]
pub enum DxfError {
    #[error("the file is not a DXF that can be read: {0}")]
    Read(String),
    #[error("the file is larger than {MOST_BYTES} bytes")]
    TooLarge,
    #[error(
        "the outline is not closed: at {place} on layer {layer} a gap of {gap} is open. Close it in the \
            drawing; gaps up to {closes} close by themselves"
    )]
    Open { place: String, layer: String, gap: String, closes: String },
    #[error(
        "the file names no unit: its outline is {wide} × {high} of something. Say whether its numbers are \
            millimetres or inches"
    )]
    Unit { wide: String, high: String },
    #[error("the file holds no closed contour on its cut layers")]
    Empty,
}

impl DxfError {
    /// What to do about it.
    pub fn mend(&self) -> &'static str {
        match self {
            DxfError::Unit { .. } => "ask again with assume=mm or assume=in",
            DxfError::TooLarge => "take parts that do not belong to this piece out of the drawing",
            DxfError::Read(_) => "export it again as a text DXF",
            DxfError::Open { .. } | DxfError::Empty => {
                "close the contour in the program it came from, and export it again"
            }
        }
    }
}
