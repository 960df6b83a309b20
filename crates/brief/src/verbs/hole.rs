//! `hole A ⌀9, 4 off`: holes of one size, how many of them, and the letter that the drawing gives them.

use grammar::*;
use ground::reader::{Range, Reader};
use ground::reference::Reference;
use serde_json::json;

use super::tolerance::{TOLERANCE, ToldLength};
use super::{Look, Quantity, Reading, Spoken, Standing, Tie, Tolerance, Wanted};
use crate::model::{Thing, ThingKind};

pub static VERB: Verb = Verb {
    tag: "hole",
    stem: "hole",
    about: "Round holes of one size and their number; a letter names them for the figures that place them.",
    role: Role::Other,
    starts: &[Start { key: 'h', name: "holes", mm: "hole ⌀9", inch: "hole ⌀3/8" }],
    offers: &[],
    sentence: &[
        verb("Hole|hole"),
        Slot::new("/label", "letter on the drawing", Kind::Word).empty("").part(),
        diameter("/value", "diameter"),
        TOLERANCE,
        clause(&[Slot::new("/count", "count", Kind::Count).usual("1").part(), word("off")]),
        clause(&[word("is"), names_or("/is", "hole of the model", Kind::Thing, "not tied")]),
    ],
    examples: &["hole A ⌀9, 4 off, is punch-1", "hole ⌀6.6 ± 0.1", "hole B ⌀12, is punch-2 and punch-3"],
};

spoken! {
    /// Round holes of one size.
    pub struct HoleFigure {
        /// What the drawing calls it.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub label: String,
        /// Diameter.
        pub value: String,
        #[serde(skip_serializing_if = "Option::is_none")]
        pub tolerance: Option<Tolerance>,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub count: String,
        /// Holes of the model or the lines that make them; copies go with the one they are copies of.
        #[serde(skip_serializing_if = "Vec::is_empty")]
        pub is: Vec<String>,
    }
}

struct HoleSpec {
    told: ToldLength,
    count: usize,
    is: Vec<String>,
}

/// The most holes that one line of a drawing counts.
const MOST: usize = 1_000_000;

impl Spoken for HoleFigure {
    fn read(&self, reader: &mut Reader) -> Option<Box<dyn Wanted>> {
        let told = ToldLength::read(reader, &self.value, Range::AboveZero, self.tolerance.as_ref());
        let count = read_count(reader, &self.count);
        Some(Box::new(HoleSpec { told: told?, count: count?, is: self.is.clone() }))
    }

    fn label(&self) -> Option<(&str, &[String])> {
        (!self.label.is_empty()).then_some((self.label.as_str(), &self.is))
    }
}

impl HoleSpec {
    /// The diameter that is furthest from what was told.
    fn worst(&self, found: &[&Thing]) -> Result<f64, String> {
        let mut worst: Option<f64> = None;
        for t in found {
            let Some(r) = t.radius else { return Err(format!("{} is not round", t.said)) };
            let off = |d: f64| (d - self.told.value).abs();
            if worst.is_none_or(|w| off(2.0 * r) > off(w)) {
                worst = Some(2.0 * r);
            }
        }
        worst.ok_or_else(|| format!("the model has no hole called '{}'", self.is.join("' or '")))
    }
}

impl Wanted for HoleSpec {
    fn look(&self, at: &Standing) -> Vec<Look> {
        let found = families(at, &self.is);
        let reading = |measured: Result<f64, String>| {
            if self.is.is_empty() { Reading::Untied } else { Reading::of(measured, &found) }
        };
        let worst = self.worst(&found);
        let n = self.count as f64;
        let count = Look {
            what: "count",
            quantity: Quantity::Count,
            nominal: n,
            limits: Some((n, n)),
            by: String::new(),
            more: ["too many", "too few"],
            reading: reading(worst.clone().map(|_| found.len() as f64)),
        };
        let diameter = self.told.look(at, ["too large", "too small"], reading(worst));
        vec![Look { what: "diameter", ..diameter }, count]
    }

    fn ties(&self, at: &Standing) -> Vec<Tie> {
        if !self.is.is_empty() {
            return Vec::new();
        }
        let fits = |t: &&Thing| t.radius.is_some_and(|r| self.told.allows(at, 2.0 * r));
        ties_of(at, &fits, self.count, self.told.value)
    }
}

/// Holes of the model, or the lines that make them, with their copies.
pub fn families<'m>(at: &'m Standing, is: &[String]) -> Vec<&'m Thing> {
    let mut out: Vec<&Thing> = Vec::new();
    for t in is.iter().flat_map(|name| at.model.family(name)) {
        if !out.iter().any(|o| std::ptr::eq(*o, t)) {
            out.push(t);
        }
    }
    out
}

/// Lines that make so many holes that fit, copies and all: one line, or else all that make any.
pub fn ties_of(at: &Standing, fits: &dyn Fn(&&Thing) -> bool, count: usize, value: f64) -> Vec<Tie> {
    let mut lines: Vec<&str> = Vec::new();
    for t in at.model.of_kind(ThingKind::Hole).filter(fits) {
        let r = Reference::parse(&t.name);
        let line = if r.part.is_empty() { r.line } else { r.part.rsplit('.').next().unwrap_or(r.line) };
        if !lines.contains(&line) {
            lines.push(line);
        }
    }
    let tie = |of: Vec<&str>, rank: u32| {
        let names: Vec<String> = of.iter().flat_map(|l| at.model.family(l)).map(|t| t.name.clone()).collect();
        (names.len() == count).then(|| Tie {
            fields: vec![("/say/is", json!(of))],
            value,
            said: of.join(" and "),
            names,
            rank,
        })
    };
    let mut out: Vec<Tie> = lines.iter().filter_map(|l| tie(vec![l], 0)).collect();
    if lines.len() > 1 {
        out.extend(tie(lines, 1));
    }
    out
}

/// How many holes a line of a drawing tells; one where it does not say.
pub fn read_count(reader: &mut Reader, count: &str) -> Option<usize> {
    if count.trim().is_empty() { Some(1) } else { reader.count("/say/count", count, 1, MOST) }
}
