//! Lengths, angles and plain numbers as a shop writes them: read with units and arithmetic, printed as the
//! job wants them.

pub mod boards;
mod display;
mod eval;
mod figures;
mod lexer;
mod parser;
mod printed;

pub use display::{Display, InchStyle, LengthUnit, counted, fixed, parts_of, trim_number};
pub use eval::{Dim, Names, Scope, Value};
pub use figures::{Figure, FigureKind, FigureTable, FigureValue, PieceNames, Slider};
pub use parser::{Expr, MAX_TEXT, parse, scan};
pub use printed::{Printed, Shown, summed};

/// A value that cannot be read: what is wrong, how to mend it, and the characters it concerns.
#[derive(Clone, Debug, PartialEq, Eq, serde::Serialize, thiserror::Error)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
#[error("{message}")]
pub struct Fault {
    pub message: String,
    /// What to write instead.
    pub mend: String,
    /// First character concerned (counted in characters from 0).
    pub start: usize,
    /// One past the last character concerned.
    pub end: usize,
}

impl Fault {
    pub fn new(message: impl Into<String>, mend: impl Into<String>, span: (usize, usize)) -> Self {
        Fault { message: message.into(), mend: mend.into(), start: span.0, end: span.1 }
    }
}
