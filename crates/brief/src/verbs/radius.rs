//! `radius of fold-1.north.bend 3`: the inside radius of a bend, or the radius of a round hole.

use grammar::*;
use ground::reader::{Range, Reader};
use serde_json::json;

use super::tolerance::{TOLERANCE, ToldLength};
use super::{Look, Reading, Spoken, Standing, Tie, Tolerance, Wanted};
use crate::model::{Thing, ThingKind};

pub static VERB: Verb = Verb {
    tag: "radius",
    stem: "radius",
    about: "The inside radius of a bend, or of all bends alike where the drawing says it once.",
    role: Role::Other,
    starts: &[Start { key: 'r', name: "radius", mm: "radius R3", inch: "radius R1/8" }],
    offers: &[],
    sentence: &[
        verb("Radius|radius"),
        Clause::new(&[word("of"), name("/of", "bend", Kind::Thing)])
            .close()
            .shown(When::Is("/all", &["", "false"]))
            .part(),
        radius("/value", "radius"),
        TOLERANCE,
        clause(&[flag("/all", "which", &[("false", "this one"), ("true", "typical|typical|typ|all")])]),
    ],
    examples: &["radius of fold-1.north.bend R3", "radius R3, typical"],
};

spoken! {
    /// The inside radius of a bend.
    pub struct RadiusFigure {
        #[serde(skip_serializing_if = "String::is_empty")]
        pub of: String,
        pub value: String,
        #[serde(skip_serializing_if = "Option::is_none")]
        pub tolerance: Option<Tolerance>,
        /// Said once for all bends.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub all: bool,
    }
}

struct RadiusSpec {
    of: String,
    told: ToldLength,
    all: bool,
}

impl Spoken for RadiusFigure {
    fn read(&self, reader: &mut Reader) -> Option<Box<dyn Wanted>> {
        let told = ToldLength::read(reader, &self.value, Range::ZeroUp, self.tolerance.as_ref())?;
        Some(Box::new(RadiusSpec { of: self.of.clone(), told, all: self.all }))
    }
}

/// Every bend with its inside radius.
fn bends<'m>(at: &'m Standing) -> impl Iterator<Item = (&'m Thing, f64)> {
    at.model.of_kind(ThingKind::Bend).filter_map(|t| Some((t, t.radius?)))
}

impl RadiusSpec {
    /// Of all bends those that depart most.
    fn worst(&self, at: &Standing) -> Reading {
        let off = |r: f64| (r - self.told.value).abs();
        let Some((_, worst)) = bends(at).max_by(|a, b| off(a.1).total_cmp(&off(b.1))) else {
            return Reading::Lost("the model has no bends".into());
        };
        let names = bends(at).filter(|b| off(b.1) >= off(worst)).map(|b| b.0.name.clone());
        Reading::Is(worst, names.collect())
    }
}

impl Wanted for RadiusSpec {
    fn look(&self, at: &Standing) -> Vec<Look> {
        let reading = if self.all {
            self.worst(at)
        } else if self.of.is_empty() {
            Reading::Untied
        } else {
            match at.thing(&self.of) {
                Ok(t) => Reading::of(t.radius.ok_or_else(|| format!("{} has no radius", t.said)), &[&t]),
                Err(why) => Reading::Lost(why),
            }
        };
        vec![self.told.look(at, ["too large", "too small"], reading)]
    }

    fn ties(&self, at: &Standing) -> Vec<Tie> {
        if !self.of.is_empty() || self.all {
            return Vec::new();
        }
        let fit: Vec<_> = bends(at).filter(|b| self.told.allows(at, b.1)).collect();
        // Where all bends have it, the drawing says it once for all.
        if fit.len() > 1 && fit.len() == bends(at).count() {
            return vec![Tie {
                fields: vec![("/say/all", json!(true))],
                value: self.told.value,
                said: "all bends".into(),
                names: fit.iter().map(|b| b.0.name.clone()).collect(),
                rank: 0,
            }];
        }
        fit.into_iter().map(|(t, r)| Tie::one("/say/of", t, r, 0)).collect()
    }
}
