//! The pairs of lines that a DXF is made of: a code, and its value. Nothing is copied, nothing descends.

use std::borrow::Cow;

use super::unreadable;
use crate::drawn::DrawingError;

#[derive(Clone, Copy, Debug)]
pub struct Group<'a> {
    pub code: i32,
    value: &'a [u8],
    /// Number of the code's line, from 1.
    pub line: usize,
}

impl<'a> Group<'a> {
    pub fn text(&self) -> Cow<'a, str> {
        String::from_utf8_lossy(self.value)
    }

    pub fn is(&self, code: i32, value: &str) -> bool {
        self.code == code && self.value == value.as_bytes()
    }

    /// Not a number where it cannot be read or lies out of all bounds: what is made of it is then left out.
    pub fn number(&self) -> f64 {
        let read = std::str::from_utf8(self.value).ok().and_then(|t| t.parse::<f64>().ok());
        read.filter(|v| v.abs() < 1e15).unwrap_or(f64::NAN)
    }

    pub fn whole(&self) -> i64 {
        std::str::from_utf8(self.value).ok().and_then(|t| t.parse().ok()).unwrap_or(0)
    }
}

pub struct Groups<'a> {
    rest: &'a [u8],
    line: usize,
}

impl<'a> Groups<'a> {
    pub fn new(bytes: &'a [u8]) -> Result<Self, DrawingError> {
        let bytes = bytes.strip_prefix(b"\xef\xbb\xbf").unwrap_or(bytes);
        if bytes.iter().take(64).any(|b| *b == 0) {
            return Err(unreadable("it is not a text; save it as a text DXF (ASCII) and bring that in"));
        }
        Ok(Groups { rest: bytes, line: 0 })
    }

    fn row(&mut self) -> Option<&'a [u8]> {
        if self.rest.is_empty() {
            return None;
        }
        self.line += 1;
        let end = self.rest.iter().position(|b| *b == b'\n');
        let (row, rest) = end.map_or((self.rest, &b""[..]), |i| (&self.rest[..i], &self.rest[i + 1..]));
        self.rest = rest;
        Some(row.trim_ascii())
    }
}

impl<'a> Iterator for Groups<'a> {
    type Item = Result<Group<'a>, DrawingError>;

    fn next(&mut self) -> Option<Self::Item> {
        loop {
            let code = self.row()?;
            let line = self.line;
            let Some(value) = self.row() else {
                return (!code.is_empty())
                    .then(|| Err(unreadable(format!("it ends in the middle of line {line}"))));
            };
            match std::str::from_utf8(code).ok().and_then(|t| t.parse().ok()) {
                // A remark.
                Some(999) => {}
                Some(code) => return Some(Ok(Group { code, value, line })),
                None => {
                    self.rest = b"";
                    return Some(Err(unreadable(format!(
                        "line {line} should be a number that says what follows"
                    ))));
                }
            }
        }
    }
}
