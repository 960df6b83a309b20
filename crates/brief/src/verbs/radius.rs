//! `radius of fold-1.north.bend 3`: the inside radius of a bend, or the radius of a curved edge, a rounded
//! corner or a round hole.

use grammar::*;
use ground::reader::{Range, Reader};
use serde_json::json;

use super::tolerance::{TOLERANCE, ToldLength};
use super::{Look, Reading, Spoken, Standing, Tie, Tolerance, Wanted};
use crate::model::{Thing, ThingKind};

pub static VERB: Verb = Verb {
    tag: "radius",
    stem: "radius",
    about: "The inside radius of a bend, or the radius of a curved edge or rounded corner; of all \
        alike where the drawing says it once: all bends, or all corners where nothing is bent.",
    role: Role::Other,
    starts: &[Start { key: 'r', name: "radius", mm: "radius R3", inch: "radius R1/8" }],
    offers: &[],
    sentence: &[
        verb("Radius|radius"),
        Clause::new(&[word("of"), name("/of", "bend or arc", Kind::Thing)])
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

/// Things of a kind with their radius.
fn radii<'m>(at: &'m Standing, kind: ThingKind) -> impl Iterator<Item = (&'m Thing, f64)> {
    at.model.of_kind(kind).filter_map(|t| Some((t, t.radius?)))
}

/// What a radius that is said once for all is of: every bend; where nothing is bent every curved edge.
fn all<'m>(at: &'m Standing) -> (Vec<(&'m Thing, f64)>, &'static str) {
    let bends: Vec<_> = radii(at, ThingKind::Bend).collect();
    if bends.is_empty() { (radii(at, ThingKind::Arc).collect(), "all corners") } else { (bends, "all bends") }
}

impl RadiusSpec {
    /// Of all those that depart most.
    fn worst(&self, at: &Standing) -> Reading {
        let off = |r: f64| (r - self.told.value).abs();
        let (all, _) = all(at);
        let Some(&(_, worst)) = all.iter().max_by(|a, b| off(a.1).total_cmp(&off(b.1))) else {
            return Reading::Lost("the model has no bends and no rounded corners".into());
        };
        let names = all.iter().filter(|b| off(b.1) >= off(worst)).map(|b| b.0.name.clone());
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
        // Where all have it, the drawing says it once for all.
        let (all, said) = all(at);
        if all.len() > 1 && all.iter().all(|b| self.told.allows(at, b.1)) {
            return vec![Tie {
                fields: vec![("/say/all", json!(true))],
                value: self.told.value,
                said: said.into(),
                names: all.iter().map(|b| b.0.name.clone()).collect(),
                rank: 0,
            }];
        }
        let arcs = radii(at, ThingKind::Arc).map(|(t, r)| (t, r, 1));
        let each = radii(at, ThingKind::Bend).map(|(t, r)| (t, r, 0)).chain(arcs);
        each.filter(|f| self.told.allows(at, f.1))
            .map(|(t, r, rank)| Tie::one("/say/of", t, r, rank))
            .collect()
    }
}
