//! Where a piece or a frame may begin: a few sizes, lettered in a picture, and the ordinary lines that they
//! make. What is made stands on its own: nothing remembers where it came from.

mod frames;
mod picture;
mod pieces;

use std::collections::BTreeMap;
use std::fmt;

use grammar::{Bench, TextLine};
use serde::Serialize;

use ground::quantity::{LengthUnit, Names, Scope, Value, parse};

use crate::job::take_in;
use crate::verbs::{FRAME, PIECE};

pub use picture::picture;

/// One way to begin.
pub struct Beginning {
    pub tag: &'static str,
    pub name: &'static str,
    pub about: &'static str,
    /// On an empty bench.
    pub key: char,
    pub bench: fn() -> &'static Bench,
    pub sizes: &'static [Size],
    /// By how many degrees the picture turns what is folded about the line north and about the line east, to
    /// stand it up.
    pub stood: [f64; 2],
    /// What the sizes make: the first goes onto the bench, the others stand beside it.
    parts: fn(&Told) -> Result<Vec<Part>, SizeFault>,
}

/// A size to be told, and where the picture shows it: between two places of the box round it, each from 0 to
/// 1 east, north and up. Both the same where there is no length to show.
pub struct Size {
    pub letter: char,
    pub name: &'static str,
    pub mm: &'static str,
    pub inch: &'static str,
    pub from: [f64; 3],
    pub to: [f64; 3],
}

impl Size {
    pub fn usual(&self, unit: LengthUnit) -> &'static str {
        if unit == LengthUnit::In { self.inch } else { self.mm }
    }
}

/// A piece or frame as text.
pub struct Part {
    /// What it is called where it stands beside the first.
    pub name: &'static str,
    pub text: String,
}

/// The lines of a piece or frame.
pub struct Begun {
    pub name: &'static str,
    pub lines: Vec<TextLine>,
}

/// What is wrong with a size, and how to mend it.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct SizeFault {
    pub letter: char,
    pub message: String,
    pub mend: String,
}

impl fmt::Display for SizeFault {
    fn fmt(&self, f: &mut fmt::Formatter) -> fmt::Result {
        write!(f, "{}: {}: {}", self.letter, self.message, self.mend)
    }
}

/// Sizes as somebody typed them, and the unit that bare numbers are in.
pub struct Told {
    sizes: BTreeMap<char, String>,
    unit: LengthUnit,
}

impl Told {
    /// As it was typed.
    fn at(&self, letter: char) -> &str {
        self.sizes.get(&letter).map_or("", |t| t.trim())
    }

    /// To be reckoned with: what is more than one value stands in brackets.
    fn part(&self, letter: char) -> String {
        let text = self.at(letter);
        let plain = text.chars().all(|c| c.is_ascii_alphanumeric() || c == '.' || c == '_');
        if plain { text.into() } else { format!("({text})") }
    }

    /// What is the same for every size.
    fn usual(&self, mm: &'static str, inch: &'static str) -> &'static str {
        if self.unit == LengthUnit::In { inch } else { mm }
    }

    /// A number of things. It says how many lines there are, so it is a number, not a figure's name.
    fn count(&self, letter: char, low: usize, high: usize) -> Result<usize, SizeFault> {
        let scope = Scope { unit: LengthUnit::Mm, names: &NoNames };
        scope.count(self.at(letter), low, high).map_err(|f| SizeFault {
            letter,
            message: f.message,
            mend: f.mend,
        })
    }
}

struct NoNames;

impl Names for NoNames {
    fn value(&self, _: &str) -> Option<Result<Value, String>> {
        None
    }

    fn known(&self) -> Vec<String> {
        Vec::new()
    }
}

/// Every way to begin a piece, then every way to begin a frame.
pub fn beginnings() -> impl Iterator<Item = &'static Beginning> {
    pieces::ALL.iter().chain(frames::ALL)
}

pub fn beginning(tag: &str) -> Option<&'static Beginning> {
    beginnings().find(|b| b.tag == tag)
}

impl Beginning {
    pub fn is_frame(&self) -> bool {
        std::ptr::eq((self.bench)(), &*FRAME)
    }

    /// The sizes that it is offered with.
    pub fn usual(&self, unit: LengthUnit) -> BTreeMap<char, String> {
        self.sizes.iter().map(|s| (s.letter, s.usual(unit).to_string())).collect()
    }

    /// The lines for these sizes, bare numbers in `unit`. A size that is no value is told, and
    /// nothing is made.
    pub fn lines(&self, sizes: BTreeMap<char, String>, unit: LengthUnit) -> Result<Vec<Begun>, SizeFault> {
        self.lines_beside(sizes, unit, &BTreeMap::new())
    }

    /// The same where numbers were given out before: those of the first part's lines are others.
    pub fn lines_beside(
        &self,
        sizes: BTreeMap<char, String>,
        unit: LengthUnit,
        issued: &BTreeMap<String, u32>,
    ) -> Result<Vec<Begun>, SizeFault> {
        for s in self.sizes {
            let text = sizes.get(&s.letter).map_or("", |t| t.trim());
            if text.is_empty() {
                return Err(SizeFault {
                    letter: s.letter,
                    message: format!("the {} is missing", s.name),
                    mend: format!("write a value, such as {}", s.usual(unit)),
                });
            }
            if let Err(f) = parse(text) {
                return Err(SizeFault { letter: s.letter, message: f.message, mend: f.mend });
            }
        }
        let none = BTreeMap::new();
        let begun = |(k, part): (usize, Part)| {
            let issued = if k == 0 { issued } else { &none };
            let (lines, faults) = take_in((self.bench)(), &part.text, &[], 0, issued);
            match faults.first() {
                None => Ok(Begun { name: part.name, lines }),
                Some(f) => Err(SizeFault {
                    letter: self.sizes[0].letter,
                    message: format!(
                        "“{}” cannot be read: {}",
                        part.text.lines().nth(f.line.saturating_sub(1)).unwrap_or_default(),
                        f.fault.message
                    ),
                    mend: f.fault.mend.clone(),
                }),
            }
        };
        (self.parts)(&Told { sizes, unit })?.into_iter().enumerate().map(begun).collect()
    }
}

fn piece() -> &'static Bench {
    &PIECE
}

fn frame() -> &'static Bench {
    &FRAME
}

const fn size(
    letter: char,
    name: &'static str,
    mm: &'static str,
    inch: &'static str,
    from: [f64; 3],
    to: [f64; 3],
) -> Size {
    Size { letter, name, mm, inch, from, to }
}

fn one(text: String) -> Result<Vec<Part>, SizeFault> {
    Ok(vec![Part { name: "", text }])
}
