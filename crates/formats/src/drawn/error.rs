//! Why a drawing cannot be read.

/// Larger files are refused before they are read.
pub const MOST_BYTES: usize = 32 * 1024 * 1024;

#[derive(Debug, thiserror::Error)]
pub enum DrawingError {
    #[error("the file is not a {kind} that can be read: {why}")]
    Read { kind: &'static str, why: String },
    #[error("the file is larger than {} MB", MOST_BYTES / 1024 / 1024)]
    TooLarge,
    #[error("the file holds {0}; {1} at most are taken")]
    TooMany(String, usize),
}

impl DrawingError {
    /// What to do about it.
    pub fn mend(&self) -> &'static str {
        match self {
            DrawingError::TooLarge | DrawingError::TooMany(..) => {
                "take what does not belong to this piece out of the drawing"
            }
            DrawingError::Read { .. } => "export it again, as a text DXF or a plain SVG",
        }
    }
}
