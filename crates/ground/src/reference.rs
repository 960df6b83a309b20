//! Names of what lines make: `line.part`, `line.part.part`, and a copy behind `#`: `repeat-1.punch-1#3`. One
//! printer, one parser. A name is made from ids, never from a place in a list, so that inserting a line
//! renames nothing.

use std::fmt;

/// Between a line and its part, and between parts.
const PART: char = '.';
/// Before the number of a copy.
const COPY: char = '#';
/// Between two sides whose corner it is.
const CORNER: char = '/';

/// A name, taken apart.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Reference<'a> {
    pub line: &'a str,
    /// The parts below it, joined; empty for the line itself.
    pub part: &'a str,
    /// Which copy it is: a number, or row and column; of a copy of a copy both.
    pub copy: Option<&'a str>,
}

impl<'a> Reference<'a> {
    pub fn parse(name: &'a str) -> Self {
        let (whole, copy) = name.split_once(COPY).map_or((name, None), |(n, c)| (n, Some(c)));
        let (line, part) = whole.split_once(PART).unwrap_or((whole, ""));
        Reference { line, part, copy }
    }
}

impl fmt::Display for Reference<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.line)?;
        if !self.part.is_empty() {
            write!(f, "{PART}{}", self.part)?;
        }
        match self.copy {
            Some(copy) => write!(f, "{COPY}{copy}"),
            None => Ok(()),
        }
    }
}

/// A part of a line, or of a part.
pub fn part(of: &str, part: impl fmt::Display) -> String {
    format!("{of}{PART}{part}")
}

/// The copy of this number.
pub fn copy(of: &str, number: impl fmt::Display) -> String {
    format!("{of}{COPY}{number}")
}

/// The copy in this row and column.
pub fn copy_at(of: &str, row: usize, column: usize) -> String {
    format!("{of}{COPY}{row}{PART}{column}")
}

/// The corner of two sides.
pub fn corner(a: &str, b: &str) -> String {
    format!("{a}{CORNER}{b}")
}

/// The sides of a corner; the second keeps the number of a copy.
pub fn sides(corner: &str) -> Option<(&str, &str)> {
    corner.split_once(CORNER)
}

/// What it is a part of, and the last part.
pub fn parent(name: &str) -> Option<(&str, &str)> {
    name.rsplit_once(PART)
}

/// The last part: `north` of `start-1.b.north`.
pub fn last(name: &str) -> &str {
    parent(name).map_or(name, |p| p.1)
}

/// What it is called within another: `b.north` of `start-1.b.north` in `start-1`.
pub fn within<'a>(name: &'a str, of: &str) -> Option<&'a str> {
    name.strip_prefix(of)?.strip_prefix(PART)
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    #[test]
    fn names_are_taken_apart() {
        let of = |line, part, copy| Reference { line, part, copy };
        assert_eq!(Reference::parse("punch-1"), of("punch-1", "", None));
        assert_eq!(Reference::parse("start-1.b.north"), of("start-1", "b.north", None));
        assert_eq!(Reference::parse("repeat-1.punch-1#3"), of("repeat-1", "punch-1", Some("3")));
        assert_eq!(Reference::parse("fill-1#2.7"), of("fill-1", "", Some("2.7")));
        assert_eq!(Reference::parse("ring-1.repeat-1.eye#2#4").copy, Some("2#4"));
        assert_eq!(within("fold-1.north.tip", "fold-1.north"), Some("tip"));
        assert_eq!(within("fold-10.north", "fold-1"), None);
        assert_eq!(last("fold-1.north.tip"), "tip");
        assert_eq!(last("fold-1"), "fold-1");
        assert_eq!(sides(&corner("north", "east#2")), Some(("north", "east#2")));
    }

    proptest! {
        /// What is printed is what was read, and parts and copies come back as they were made.
        #[test]
        fn printed_as_read(
            line in "[a-z]{1,6}-[0-9]{1,2}",
            parts in prop::collection::vec("[a-z]{1,4}", 0..4),
            number in prop::option::of(1u32..300),
        ) {
            let mut name = parts.iter().fold(line.clone(), |of, p| part(&of, p));
            if let Some(n) = number {
                name = copy(&name, n);
            }
            let read = Reference::parse(&name);
            prop_assert_eq!(read.to_string(), name.clone());
            prop_assert_eq!(read.line, &line);
            prop_assert_eq!(read.part, parts.join("."));
            prop_assert_eq!(read.copy.map(str::to_string), number.map(|n| n.to_string()));
            prop_assert!(within(&name, &line).is_some() != (parts.is_empty()));
        }
    }
}
