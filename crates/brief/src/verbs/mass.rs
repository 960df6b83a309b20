//! `mass 1.2 kg`: what one weighs.

use grammar::*;
use ground::reader::Reader;

use super::{Look, Quantity, Reading, Spoken, Standing, Wanted};

pub static VERB: Verb = Verb {
    tag: "mass",
    stem: "mass",
    about: "What one weighs, true to the last digit that the drawing writes unless it says how far \
        off it may be.",
    role: Role::Other,
    starts: &[Start { key: 'm', name: "mass", mm: "mass 1 kg", inch: "mass 1 lb" }],
    offers: &[],
    sentence: &[
        verb("Mass|mass|weight"),
        Slot::new("/value", "mass", Kind::Number).part(),
        pick("/unit", "unit of mass", &[("kg", "kg"), ("lb", "lb|lb|lbs")]),
        aside(&[word("±|±|+-|+/-"), Slot::new("/by", "tolerance", Kind::Number).empty("").part()]),
    ],
    examples: &["mass 1.25 kg", "mass 12 lb ± 0.5"],
};

word! {
    pub enum MassUnit {
        #[default]
        Kg,
        Lb,
    }
}

impl MassUnit {
    /// kg in one unit; the pound avoirdupois is defined so.
    fn kg(self) -> f64 {
        match self {
            MassUnit::Kg => 1.0,
            MassUnit::Lb => 0.453_592_37,
        }
    }
}

spoken! {
    /// What one weighs.
    pub struct MassFigure {
        pub value: String,
        pub unit: MassUnit,
        /// How far off it may be, in the same unit.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub by: String,
    }
}

struct MassSpec {
    kg: f64,
    by: f64,
    own: bool,
}

/// A mass that is written as a sum or share is true to so much of it.
const SHARE: f64 = 0.01;

/// Half of the last digit that is written.
fn half_digit(text: &str, value: f64) -> f64 {
    let text = text.trim();
    match text.split_once('.') {
        _ if !text.bytes().all(|b| b.is_ascii_digit() || b == b'.') => value * SHARE,
        Some((_, behind)) => 0.5 * 0.1f64.powi(behind.len() as i32),
        None => 0.5,
    }
}

impl Spoken for MassFigure {
    fn read(&self, reader: &mut Reader) -> Option<Box<dyn Wanted>> {
        let value = reader.number("/say/value", &self.value);
        let own = !self.by.trim().is_empty();
        let by = if own { reader.number("/say/by", &self.by) } else { Some(0.0) };
        let (value, by) = (value?, by?);
        for (path, text, v, least) in
            [("/say/value", &self.value, value, f64::MIN_POSITIVE), ("/say/by", &self.by, by, 0.0)]
        {
            if v < least {
                reader.refuse(path, text, "a mass is above zero", "write how much it weighs");
                return None;
            }
        }
        let by = if own { by } else { half_digit(&self.value, value) };
        Some(Box::new(MassSpec { kg: value * self.unit.kg(), by: by * self.unit.kg(), own }))
    }
}

impl Wanted for MassSpec {
    fn look(&self, at: &Standing) -> Vec<Look> {
        vec![Look {
            what: "",
            quantity: Quantity::Mass,
            nominal: self.kg,
            limits: Some((self.kg - self.by, self.kg + self.by)),
            by: if self.own { "its own tolerance" } else { "the last digit written" }.into(),
            more: ["too heavy", "too light"],
            reading: Reading::Is(at.model.mass, Vec::new()),
        }]
    }
}
