//! `radius of fold-1.north.bend 3`: the inside radius of a bend, or the radius of a round hole.

use grammar::*;
use ground::reader::{Range, Reader};
use serde_json::json;

use super::tolerance::{self, Allowed, TOLERANCE};
use super::{Look, Quantity, Reading, Spoken, Standing, Tie, Tolerance, Wanted};
use crate::model::ThingKind;

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
            .shown(When::Is("/all", &["", "no"]))
            .part(),
        radius("/value", "radius"),
        TOLERANCE,
        clause(&[Pick::new("/all", "which", &[("no", "this one"), ("yes", "typical|typical|typ|all")])
            .quiet()
            .part()]),
    ],
    examples: &["radius of fold-1.north.bend R3", "radius R3, typical"],
};

word! {
    /// Whether a radius is said for all bends.
    pub enum Typical {
        #[default]
        No,
        Yes,
    }
}

spoken! {
    /// The inside radius of a bend.
    pub struct RadiusFigure {
        #[serde(skip_serializing_if = "String::is_empty")]
        pub of: String,
        pub value: String,
        #[serde(skip_serializing_if = "Option::is_none")]
        pub tolerance: Option<Tolerance>,
        /// Said once for all bends.
        #[serde(skip_serializing_if = "is_no")]
        pub all: Typical,
    }
}

fn is_no(t: &Typical) -> bool {
    *t == Typical::No
}

struct RadiusSpec {
    of: String,
    value: f64,
    allowed: Allowed,
    all: bool,
}

impl Spoken for RadiusFigure {
    fn read(&self, reader: &mut Reader) -> Option<Box<dyn Wanted>> {
        let value = reader.length("/say/value", &self.value, Range::ZeroUp);
        let allowed = tolerance::read(self.tolerance.as_ref(), reader);
        let all = self.all == Typical::Yes;
        Some(Box::new(RadiusSpec { of: self.of.clone(), value: value?, allowed: allowed?, all }))
    }
}

impl RadiusSpec {
    fn limits(&self, at: &Standing) -> Option<(f64, f64)> {
        self.allowed.limits(self.value, at.class.radius(self.value))
    }

    /// Of all bends the one that departs most.
    fn worst(&self, at: &Standing) -> Reading {
        let of = |t: &&crate::Thing| (t.radius.unwrap_or(f64::NAN) - self.value).abs();
        let all: Vec<_> = at.model.of_kind(ThingKind::Bend).filter(|t| t.radius.is_some()).collect();
        match all.iter().max_by(|a, b| of(a).total_cmp(&of(b))) {
            Some(t) => Reading::Is(
                t.radius.unwrap_or_default(),
                all.iter().filter(|o| of(o) >= of(t)).map(|o| o.name.clone()).collect(),
            ),
            None => Reading::Lost("the model has no bends".into()),
        }
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
        vec![Look {
            what: "",
            quantity: Quantity::Length,
            nominal: self.value,
            limits: self.limits(at),
            by: self.allowed.said(at.class.said()),
            more: ["too large", "too small"],
            reading,
        }]
    }

    fn ties(&self, at: &Standing) -> Vec<Tie> {
        if !self.of.is_empty() || self.all {
            return Vec::new();
        }
        let Some((low, high)) = self.limits(at) else { return Vec::new() };
        let bends: Vec<_> = at.model.of_kind(ThingKind::Bend).filter(|t| t.radius.is_some()).collect();
        let fits = |t: &&&crate::Thing| t.radius.is_some_and(|r| r >= low && r <= high);
        let found: Vec<_> = bends.iter().filter(fits).collect();
        // Where all bends have it, the drawing says it once for all.
        if found.len() == bends.len() && found.len() > 1 {
            return vec![Tie {
                fields: vec![("/say/all", json!("yes"))],
                value: self.value,
                said: "all bends".into(),
                names: bends.iter().map(|t| t.name.clone()).collect(),
                rank: 0,
            }];
        }
        found
            .into_iter()
            .map(|t| Tie {
                fields: vec![("/say/of", json!(t.name))],
                value: t.radius.unwrap_or_default(),
                said: t.said.clone(),
                names: vec![t.name.clone()],
                rank: 0,
            })
            .collect()
    }
}
