//! DXF: the flat pattern and sheets of drawings out (R2000), contours in. Circles stay circles and arcs
//! stay arcs both ways.

mod codes;
mod document;
mod file;
mod flatten;
mod groups;
mod sheets;
mod spline;
mod texts;
mod write;

pub use sheets::sheets;
pub use write::write;

use crate::drawn::{Content, DrawingError, MOST_BYTES, Options, UNITS, content};

/// What a text DXF holds.
pub fn read(bytes: &[u8], options: &Options) -> Result<Content, DrawingError> {
    if bytes.len() > MOST_BYTES {
        return Err(DrawingError::TooLarge);
    }
    let d = document::document(bytes)?;
    let unit = UNITS.iter().find(|u| u.number == d.units && u.number != 0);
    content(unit, options, |mm| flatten::flatten(&d, mm))
}

fn unreadable(why: impl Into<String>) -> DrawingError {
    DrawingError::Read { kind: "DXF", why: why.into() }
}
