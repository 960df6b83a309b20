//! Reads the values of a piece's lines against the job's figures, and keeps the faults with the field they
//! belong to.

use crate::finding::LineFault;
use crate::quantity::{Display, Fault, FigureTable, PieceNames, Scope};

/// No part of a piece may be longer than this, mm.
pub const LONGEST: f64 = 100_000.0;

pub struct Reader<'a> {
    pub names: PieceNames<'a>,
    pub display: Display,
    pub faults: Vec<LineFault>,
    /// Ids of the lines that bend: named where a cut belongs, they are told apart from what is not there.
    pub bending: Vec<String>,
    line: String,
    index: usize,
}

/// What a length may be.
#[derive(Clone, Copy, PartialEq)]
pub enum Range {
    AboveZero,
    ZeroUp,
    Any,
}

impl<'a> Reader<'a> {
    pub fn new(table: &'a FigureTable, display: Display) -> Self {
        Reader {
            names: PieceNames { table, t: None, r: None },
            display,
            faults: Vec::new(),
            bending: Vec::new(),
            line: String::new(),
            index: 0,
        }
    }

    /// Faults from here on belong to this line.
    pub fn enter(&mut self, line: &str) {
        self.line = line.to_string();
    }

    /// Faults from here on belong to the line at this place of the recipe.
    pub fn enter_line(&mut self, index: usize, line: &str) {
        self.index = index;
        self.enter(line);
    }

    /// Place of the line in the recipe.
    pub fn index(&self) -> usize {
        self.index
    }

    pub fn scope(&self) -> Scope<'_> {
        Scope { unit: self.display.length, names: &self.names }
    }

    pub fn fault(&mut self, path: &str, fault: Fault) {
        self.faults.push(LineFault { line: self.line.clone(), path: path.to_string(), fault });
    }

    /// A fault of the whole field.
    pub fn refuse(&mut self, path: &str, text: &str, message: impl Into<String>, mend: impl Into<String>) {
        self.fault(path, Fault::new(message, mend, (0, text.chars().count())));
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
        self.refuse(
            path,
            text,
            format!("{} is not an angle that can be bent", self.display.angle(v)),
            format!("write an angle above 0° up to {most}°; pick up or down beside it"),
        );
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
}
