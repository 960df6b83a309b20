//! `length of rail-1 900`: a member from long point to long point, or an edge.

use grammar::*;
use ground::reader::{Range, Reader};

use super::tolerance::{TOLERANCE, ToldLength};
use super::{Look, Reading, Spoken, Standing, Tie, Tolerance, Wanted};
use crate::model::ThingKind;

pub static VERB: Verb = Verb {
    tag: "length",
    stem: "length",
    about: "The length of a member from long point to long point, or of an edge.",
    role: Role::Other,
    starts: &[Start { key: 'l', name: "length", mm: "length of 100", inch: "length of 4" }],
    offers: &[],
    sentence: &[
        verb("Length of|length of|length"),
        Slot::new("/of", "member or edge", Kind::Thing).empty("…").part(),
        length("/value", "length"),
        TOLERANCE,
    ],
    examples: &["length of rail-1 900 ± 1", "length of north 60"],
};

spoken! {
    /// The length of one thing.
    pub struct LengthFigure {
        pub of: String,
        pub value: String,
        #[serde(skip_serializing_if = "Option::is_none")]
        pub tolerance: Option<Tolerance>,
    }
}

struct LengthSpec {
    of: String,
    told: ToldLength,
}

impl Spoken for LengthFigure {
    fn read(&self, reader: &mut Reader) -> Option<Box<dyn Wanted>> {
        let told = ToldLength::read(reader, &self.value, Range::AboveZero, self.tolerance.as_ref())?;
        Some(Box::new(LengthSpec { of: self.of.clone(), told }))
    }
}

impl Wanted for LengthSpec {
    fn look(&self, at: &Standing) -> Vec<Look> {
        // `north` is an edge here, and a side where a distance runs to it.
        let edge = || {
            let ends = |n: &str| n == self.of || n.strip_suffix(&self.of).is_some_and(|h| h.ends_with('.'));
            let mut found = at.model.of_kind(ThingKind::Edge).filter(|t| ends(&t.name));
            found.next().filter(|_| found.next().is_none()).cloned()
        };
        let reading = if self.of.is_empty() {
            Reading::Untied
        } else {
            match edge().map_or_else(|| at.thing(&self.of), Ok) {
                Ok(t) => {
                    let length = t.length.ok_or_else(|| format!("{} has no length of its own", t.said));
                    Reading::of(length, &[&t])
                }
                Err(why) => Reading::Lost(why),
            }
        };
        vec![self.told.look(at, ["too long", "too short"], reading)]
    }

    fn ties(&self, at: &Standing) -> Vec<Tie> {
        if !self.of.is_empty() {
            return Vec::new();
        }
        let all = at.model.things.iter().filter_map(|t| Some((t, t.length?)));
        all.filter(|(_, v)| self.told.allows(at, *v))
            .map(|(t, v)| Tie::one("/say/of", t, v, u32::from(t.kind != ThingKind::Member)))
            .collect()
    }
}
