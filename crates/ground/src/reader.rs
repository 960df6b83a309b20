//! Reads the values of a piece's or frame's lines against the job's figures, and keeps the faults with the
//! field they belong to.

use std::ops::{Deref, DerefMut};

use crate::finding::LineFault;
use crate::quantity::{Display, Fault, FigureTable, PieceNames, Scope};

/// No part of a piece may be longer than this, mm.
pub const LONGEST: f64 = 100_000.0;

/// The end of a fault that concerns the whole of its field, whatever stands there.
const WHOLE: usize = usize::MAX;

/// Faults, each with the line and the field that it belongs to. Who has only this cannot read.
pub struct Tell {
    pub display: Display,
    pub faults: Vec<LineFault>,
    line: String,
}

impl Tell {
    pub fn new(display: Display) -> Self {
        Tell { display, faults: Vec::new(), line: String::new() }
    }

    /// Faults from here on belong to this line.
    pub fn enter(&mut self, line: &str) {
        self.line = line.to_string();
    }

    pub fn fault(&mut self, path: &str, fault: Fault) {
        self.faults.push(LineFault { line: self.line.clone(), path: path.to_string(), fault });
    }

    /// A fault of the whole field, which holds this text.
    pub fn refuse(&mut self, path: &str, text: &str, message: impl Into<String>, mend: impl Into<String>) {
        self.fault(path, Fault::new(message, mend, (0, text.chars().count())));
    }

    /// A fault of the whole field, whatever it holds.
    pub fn refuse_at(&mut self, path: &str, message: impl Into<String>, mend: impl Into<String>) {
        self.fault(path, Fault::new(message, mend, (0, WHOLE)));
    }

    /// The faults, those of a whole field with its letters counted: `text` finds it by line and pointer.
    pub fn settled(self, text: impl Fn(&str, &str) -> Option<String>) -> Vec<LineFault> {
        let letters = |f: &LineFault| text(&f.line, &f.path).map_or(0, |t| t.chars().count());
        let mut faults = self.faults;
        for f in faults.iter_mut().filter(|f| f.fault.end == WHOLE) {
            f.fault.end = letters(f);
        }
        faults
    }
}

pub struct Reader<'a> {
    pub names: PieceNames<'a>,
    pub tell: Tell,
}

impl Deref for Reader<'_> {
    type Target = Tell;

    fn deref(&self) -> &Tell {
        &self.tell
    }
}

impl DerefMut for Reader<'_> {
    fn deref_mut(&mut self) -> &mut Tell {
        &mut self.tell
    }
}

/// What a length may be.
#[derive(Clone, Copy, PartialEq)]
pub enum Range {
    AboveZero,
    ZeroUp,
    Any,
}

fn is_told(text: &str) -> bool {
    !text.trim().is_empty()
}

impl<'a> Reader<'a> {
    pub fn new(table: &'a FigureTable, display: Display) -> Self {
        Reader { names: PieceNames { table, t: None, r: None }, tell: Tell::new(display) }
    }

    pub fn scope(&self) -> Scope<'_> {
        Scope { unit: self.display.length, names: &self.names }
    }

    fn keep<T>(&mut self, path: &str, value: Result<T, Fault>) -> Option<T> {
        value.map_err(|f| self.fault(path, f)).ok()
    }

    pub fn length(&mut self, path: &str, text: &str, range: Range) -> Option<f64> {
        let read = self.scope().length(text);
        let v = self.keep(path, read)?;
        let (low, said) = match range {
            Range::AboveZero => (1e-6, "must be above zero"),
            Range::ZeroUp => (0.0, "must not be negative"),
            Range::Any => (-LONGEST, "is too far"),
        };
        if v < low {
            self.refuse(path, text, format!("this length {said}"), "write a larger length");
            return None;
        }
        if v > LONGEST {
            let most = self.display.length_unit(LONGEST);
            self.refuse(
                path,
                text,
                format!("this is longer than {most}"),
                "check the unit: a bare number is in the job's unit",
            );
            return None;
        }
        Some(v)
    }

    pub fn angle(&mut self, path: &str, text: &str) -> Option<f64> {
        let read = self.scope().angle(text);
        self.keep(path, read)
    }

    /// A bend's angle: above 0°, at most 180°.
    pub fn bend_angle(&mut self, path: &str, text: &str, most: f64) -> Option<f64> {
        let v = self.angle(path, text)?;
        if v > 1e-6 && v <= most.to_radians() + 1e-9 {
            return Some(v);
        }
        let message = format!("{} is not an angle that can be bent", self.display.angle(v));
        let mend = format!("write an angle above 0° up to {most}°; pick up or down beside it");
        self.refuse(path, text, message, mend);
        None
    }

    pub fn number(&mut self, path: &str, text: &str) -> Option<f64> {
        let read = self.scope().number(text);
        self.keep(path, read)
    }

    pub fn count(&mut self, path: &str, text: &str, low: usize, high: usize) -> Option<usize> {
        let read = self.scope().count(text, low, high);
        self.keep(path, read)
    }

    /// A length, or the usual one where none is told.
    pub fn length_or(&mut self, path: &str, text: &str, range: Range, usual: f64) -> Option<f64> {
        if is_told(text) { self.length(path, text, range) } else { Some(usual) }
    }

    /// A length where one is told. None of it where it cannot be read.
    pub fn length_if(&mut self, path: &str, text: &str, range: Range) -> Option<Option<f64>> {
        if is_told(text) { self.length(path, text, range).map(Some) } else { Some(None) }
    }

    /// An angle, or the usual one where none is told.
    pub fn angle_or(&mut self, path: &str, text: &str, usual: f64) -> Option<f64> {
        if is_told(text) { self.angle(path, text) } else { Some(usual) }
    }
}
