//! `parallel a and c`, `level base`, `equal A and B`, `in line A, B and C`: how things stand to one another.

use grammar::*;
use ground::reader::{Range, Reader};

use super::{Look, Quantity, Reading, Spoken, Standing, Wanted};
use crate::measure::{out_of_line, size, unlevel, unparallel, unsquare};
use crate::model::Thing;

pub static VERB: Verb = Verb {
    tag: "stands",
    stem: "stands",
    about: "What is to be parallel, square, level, upright, equal or in line, and by how much it is not.",
    role: Role::Other,
    starts: &[Start { key: 'p', name: "parallel", mm: "parallel nothing", inch: "parallel nothing" }],
    offers: &[],
    sentence: &[
        Pick::new(
            "/relation",
            "how they stand",
            &[
                ("parallel", "Parallel|parallel"),
                ("square", "Square to one another|square"),
                ("level", "Level|level"),
                ("upright", "Upright|upright|plumb"),
                ("equal", "Equal|equal"),
                ("in_line", "In line|in line"),
            ],
        )
        .begins()
        .part(),
        names("/of", "thing", Kind::Thing),
        clause(&[word("within"), length_or("/within", "distance allowed", "none")]),
        clause(&[word("turned"), angle_or("/turned", "angle allowed", "none")]),
    ],
    examples: &[
        "parallel start-1.a and start-1.c",
        "square start-1.a and start-1.b, turned 1°",
        "level start-1.a",
        "equal A and B, within 0.1",
        "in line A, B and C, within 0.2",
    ],
};

word! {
    pub enum Relation {
        #[default]
        Parallel,
        Square,
        Level,
        Upright,
        /// In diameter, length or radius.
        Equal,
        InLine,
    }
}

spoken! {
    /// How things stand to one another.
    pub struct StandsFigure {
        pub relation: Relation,
        pub of: Vec<String>,
        /// The distance allowed, where it is one that fails.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub within: String,
        /// The angle allowed, where it is one that fails.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub turned: String,
    }
}

struct StandsSpec {
    relation: Relation,
    of: Vec<String>,
    within: Option<f64>,
    turned: Option<f64>,
}

/// What stands as it should stands so to this: the rounding of what is drawn, mm and rad.
const TRUE: f64 = 1e-4;

impl Spoken for StandsFigure {
    fn read(&self, reader: &mut Reader) -> Option<Box<dyn Wanted>> {
        let within = reader.length_if("/say/within", &self.within, Range::ZeroUp)?;
        let turned = match self.turned.trim() {
            "" => None,
            text => Some(reader.angle("/say/turned", text)?),
        };
        Some(Box::new(StandsSpec { relation: self.relation, of: self.of.clone(), within, turned }))
    }
}

impl StandsSpec {
    /// By how much it fails, at its worst.
    fn measured(&self, things: &[Thing]) -> Result<f64, String> {
        let worst =
            |all: Vec<Result<f64, String>>| all.into_iter().try_fold(0.0, |worst: f64, v| Ok(worst.max(v?)));
        let pairs = |of: fn(&Thing, &Thing) -> Result<f64, String>| match things {
            [first, rest @ ..] if !rest.is_empty() => worst(rest.iter().map(|t| of(first, t)).collect()),
            _ => Err("name two things at least".into()),
        };
        match self.relation {
            Relation::Parallel => pairs(unparallel),
            Relation::Square => pairs(|a, b| Ok(unsquare(a, b)?.abs())),
            Relation::Level => worst(things.iter().map(unlevel).collect()),
            Relation::Upright => {
                let off = |t: &Thing| Ok((std::f64::consts::FRAC_PI_2 - unlevel(t)?).abs());
                worst(things.iter().map(off).collect())
            }
            Relation::Equal => pairs(|a, b| Ok((size(a)? - size(b)?).abs())),
            Relation::InLine => out_of_line(things),
        }
    }
}

impl Wanted for StandsSpec {
    fn look(&self, at: &Standing) -> Vec<Look> {
        let things: Result<Vec<Thing>, String> = self.of.iter().map(|n| at.thing(n)).collect();
        let is_distance = matches!(self.relation, Relation::Equal | Relation::InLine);
        let reading = match things {
            _ if self.of.is_empty() => Reading::Untied,
            Err(why) => Reading::Lost(why),
            Ok(things) => Reading::of(self.measured(&things), &things.iter().collect::<Vec<_>>()),
        };
        let told = if is_distance { self.within } else { self.turned };
        vec![Look {
            what: "",
            quantity: if is_distance { Quantity::Length } else { Quantity::Angle },
            nominal: 0.0,
            limits: Some((0.0, told.unwrap_or(TRUE))),
            by: if told.is_some() { "its own tolerance" } else { "" }.into(),
            more: ["out", ""],
            reading,
        }]
    }
}
