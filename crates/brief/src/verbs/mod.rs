//! What a drawing can say: one file a kind of figure, with its sentence, how it is read, and how it is
//! measured on the model. A kind is registered by one line below.

mod angle;
mod count;
mod distance;
mod drilled;
mod hole;
mod length;
mod mass;
mod overall;
mod radius;
mod stands;
mod tolerance;
mod view;

use std::collections::BTreeMap;

use grammar::{Context, verbs};
use ground::quantity::Fault;
use ground::reader::Reader;
use serde_json::Value;
use shop::tolerances::ToleranceClass;

use crate::model::{Model, Thing};
use crate::shorthand::spelled_out;

pub use angle::AngleFigure;
pub use count::{CountFigure, Counted};
pub use distance::DistanceFigure;
pub use drilled::{DrilledFigure, DrilledHole, DrilledKind};
pub use hole::HoleFigure;
pub use length::LengthFigure;
pub use mass::{MassFigure, MassUnit};
pub use overall::{Extent, OverallFigure, OverallSize};
pub use radius::RadiusFigure;
pub use stands::{Relation, StandsFigure};
pub use tolerance::{Limits, ROUNDED, Tolerance, is_within};
pub use view::ViewHeading;

verbs! {
    /// A figure of a drawing.
    DrawingFigure as Spoken, BRIEF hearing spelled_out:
    Overall(overall::OverallFigure),
    Hole(hole::HoleFigure),
    Drilled(drilled::DrilledFigure),
    Distance(distance::DistanceFigure),
    Length(length::LengthFigure),
    Angle(angle::AngleFigure),
    Radius(radius::RadiusFigure),
    Count(count::CountFigure),
    Mass(mass::MassFigure),
    Stands(stands::StandsFigure),
    View(view::ViewHeading),
}

/// A kind of figure that can be read.
pub trait Spoken {
    fn read(&self, reader: &mut Reader) -> Option<Box<dyn Wanted>>;

    /// The view that the figures below it stand on.
    fn heading(&self) -> Option<&str> {
        None
    }

    /// What the drawing calls something, and what of the model that is.
    fn label(&self) -> Option<(&str, &[String])> {
        None
    }
}

/// A figure of the drawing, read.
pub trait Wanted {
    /// What the model has of it, a row for each thing that is checked.
    fn look(&self, at: &Standing) -> Vec<Look>;

    /// What of the model it could be, as far as that measures what is allowed; nothing where it is tied.
    fn ties(&self, _at: &Standing) -> Vec<Tie> {
        Vec::new()
    }

    /// Whether everything that it could be is among those.
    fn tries_all(&self, _at: &Standing) -> bool {
        true
    }
}

/// What figures are measured on.
pub struct Standing<'a> {
    pub model: &'a Model,
    pub class: ToleranceClass,
    /// What the drawing calls things, and the names they have.
    pub labels: &'a BTreeMap<String, Vec<String>>,
}

impl Standing<'_> {
    /// The thing that a drawing's letter or a name of the model means.
    pub fn thing(&self, word: &str) -> Result<Thing, String> {
        match self.labels.get(word).map(Vec::as_slice) {
            Some([]) => Err(format!("'{word}' is not tied to anything yet")),
            Some([first, ..]) => match (self.model.thing(first), self.model.family(first).first()) {
                (Ok(t), _) => Ok(t),
                (Err(_), Some(t)) => Ok((*t).clone()),
                (Err(e), None) => Err(e),
            },
            None => self.model.thing(word),
        }
    }
}

/// What kind of number a figure is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Quantity {
    Length,
    Angle,
    Count,
    Mass,
}

/// What the model has of a figure.
#[derive(Clone, Debug, PartialEq)]
pub enum Reading {
    /// Nothing says what of the model it is.
    Untied,
    /// It cannot be measured any more, and why.
    Lost(String),
    /// A measure, and names of the geometry it was taken from.
    Is(f64, Vec<String>),
}

impl Reading {
    pub fn of(measured: Result<f64, String>, things: &[&Thing]) -> Reading {
        match measured {
            Ok(v) => Reading::Is(v, things.iter().map(|t| t.name.clone()).collect()),
            Err(why) => Reading::Lost(why),
        }
    }
}

/// A row of the check.
#[derive(Clone, Debug, PartialEq)]
pub struct Look {
    /// What of the line it is: `diameter`, `count`; empty for the line itself.
    pub what: &'static str,
    pub quantity: Quantity,
    pub nominal: f64,
    /// What is allowed: least and greatest, and by what; none where nothing is.
    pub limits: Limits,
    pub by: String,
    /// Words for too much and too little.
    pub more: [&'static str; 2],
    pub reading: Reading,
}

/// A way to tie a figure.
#[derive(Clone, Debug, PartialEq)]
pub struct Tie {
    /// Fields of the line, and what they would say.
    pub fields: Vec<(&'static str, Value)>,
    pub value: f64,
    /// What it would be measured on.
    pub said: String,
    pub names: Vec<String>,
    /// The lower the likelier.
    pub rank: u32,
}

impl Tie {
    /// One field that names one thing.
    pub fn one(field: &'static str, thing: &Thing, value: f64, rank: u32) -> Tie {
        Tie {
            fields: vec![(field, thing.name.as_str().into())],
            value,
            said: thing.said.clone(),
            names: vec![thing.name.clone()],
            rank,
        }
    }
}

/// A typed line of a brief → what it says. It may be written as drawings have it.
pub fn read_figure(text: &str, context: &Context) -> Result<DrawingFigure, Fault> {
    grammar::into_type(grammar::read(&BRIEF, text, context)?, text)
}
