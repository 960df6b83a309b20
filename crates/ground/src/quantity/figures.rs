//! Job figures: named values that recipes and other figures may use.

use std::cell::{Cell, RefCell};
use std::collections::HashMap;

use serde::{Deserialize, Serialize};

use super::eval::{Dim, Names, Scope, Value};
use super::parser::parse;
use super::{Fault, LengthUnit};
use crate::word;

/// A named value of the job: `pitch = 40`, `ply = 3/4in`.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Figure {
    pub name: String,
    pub value: String,
    /// What it measures; where nothing is told, what its value says.
    #[serde(default, skip_serializing_if = "FigureKind::is_any")]
    pub kind: FigureKind,
    /// The least and the most that it may be; empty for no bound.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub least: String,
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub most: String,
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
}

impl Figure {
    /// A value with a name and nothing else.
    pub fn new(name: impl Into<String>, value: impl Into<String>) -> Figure {
        Figure { name: name.into(), value: value.into(), ..Figure::default() }
    }
}

word! {
    /// What a figure measures.
    pub enum FigureKind {
        #[default]
        Any,
        Length,
        Angle,
        /// A whole number.
        Count,
        /// A plain number.
        Ratio,
    }
}

impl FigureKind {
    pub fn is_any(&self) -> bool {
        *self == FigureKind::Any
    }
}

/// A job figure worked out, or why it could not be.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct FigureValue {
    pub name: String,
    /// As the job prints it; empty when there is a fault.
    pub text: String,
    pub fault: Option<Fault>,
    /// Where it can be moved by hand: a plain value between two bounds.
    pub slider: Option<Slider>,
}

/// A figure's range, in the unit that it is typed in.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Slider {
    pub value: f64,
    pub least: f64,
    pub most: f64,
    pub step: f64,
}

enum Slot {
    Waiting,
    Working,
    Done(Result<Value, Fault>),
}

/// All figures of a job, worked out once, in whatever order they lean on each other.
#[derive(Clone, Debug, Default)]
pub struct FigureTable {
    figures: Vec<Figure>,
    index: HashMap<String, usize>,
    values: Vec<Result<Value, Fault>>,
    unit: LengthUnit,
}

/// A step of a slider is about this share of its range.
const STEPS: f64 = 100.0;

/// Figures may lean on figures this deep.
const MAX_CHAIN: usize = 64;

impl FigureTable {
    pub fn new(figures: &[Figure], unit: LengthUnit) -> Self {
        let mut index = HashMap::new();
        for (i, f) in figures.iter().enumerate() {
            index.entry(f.name.clone()).or_insert(i);
        }
        let slots = RefCell::new(figures.iter().map(|_| Slot::Waiting).collect());
        let solver = Solver { figures, unit, index: &index, slots, depth: Cell::new(0) };
        let values = (0..figures.len()).map(|i| solver.solve(i)).collect();
        FigureTable { figures: figures.to_vec(), index, values, unit }
    }

    /// The figure at `i`, with the faults a person can mend: bad name, name twice, circle, unreadable value.
    pub fn at(&self, i: usize) -> Result<Value, Fault> {
        let f = &self.figures[i];
        let mut chars = f.name.chars();
        let well_named = chars.next().is_some_and(|c| c.is_alphabetic())
            && chars.all(|c| c.is_alphanumeric() || c == '_')
            && f.name.chars().count() <= 40;
        if !well_named {
            return Err(Fault::new(
                format!("'{}' cannot be the name of a figure", f.name),
                "start with a letter; then letters, digits or _",
                (0, 0),
            ));
        }
        if matches!(f.name.as_str(), "t" | "r" | "pi")
            || super::eval::length_unit(&f.name).is_some()
            || super::eval::angle_unit(&f.name).is_some()
        {
            return Err(Fault::new(
                format!("'{}' already means something else", f.name),
                "choose another name",
                (0, 0),
            ));
        }
        if self.index.get(f.name.as_str()) != Some(&i) {
            return Err(Fault::new(
                format!("two figures are called '{}'", f.name),
                "rename one of them",
                (0, 0),
            ));
        }
        self.values[i].clone()
    }

    pub fn all(&self, print: impl Fn(Value) -> String) -> Vec<FigureValue> {
        (0..self.figures.len())
            .map(|i| match self.at(i) {
                Ok(v) => FigureValue {
                    name: self.figures[i].name.clone(),
                    text: print(v),
                    fault: None,
                    slider: self.slider(i, v),
                },
                Err(fault) => FigureValue {
                    name: self.figures[i].name.clone(),
                    text: String::new(),
                    slider: None,
                    fault: Some(fault),
                },
            })
            .collect()
    }

    /// A range in which a plain value can be moved; none where the value is worked out from others.
    fn slider(&self, i: usize, v: Value) -> Option<Slider> {
        let f = &self.figures[i];
        f.value.trim().parse::<f64>().ok()?;
        let scope = Scope { unit: self.unit, names: self };
        let (value, least, dim) = beside(&scope, f, v, &f.least).ok()?;
        let (_, most, _) = beside(&scope, f, v, &f.most).ok()?;
        let one = match dim {
            Dim::Length(_) => self.unit.mm(),
            Dim::Angle => 1f64.to_radians(),
            Dim::Bare => 1.0,
        };
        let (value, least, most) = (value / one, least / one, most / one);
        let step = match f.kind {
            FigureKind::Count => 1.0,
            FigureKind::Length if self.unit == LengthUnit::In => 1.0 / 16.0,
            _ => {
                // 1, 2 or 5 of a power of ten.
                let about = ((most - least) / STEPS).max(1e-6);
                let power = 10f64.powf(about.log10().floor());
                [1.0, 2.0, 5.0, 10.0].into_iter().find(|m| m * power >= about * 0.999).unwrap_or(10.0) * power
            }
        };
        (most > least).then_some(Slider { value, least, most, step })
    }
}

fn known(figures: &[Figure]) -> Vec<String> {
    figures.iter().take(12).map(|f| f.name.clone()).collect()
}

fn of_figure(name: &str, value: Result<Value, Fault>) -> Result<Value, String> {
    value.map_err(|f| {
        if f.message.contains("leads back") {
            f.message
        } else {
            format!("the figure '{name}' has no value: {}", f.message)
        }
    })
}

impl Names for FigureTable {
    fn value(&self, name: &str) -> Option<Result<Value, String>> {
        let i = *self.index.get(name)?;
        Some(of_figure(name, self.values[i].clone()))
    }

    fn known(&self) -> Vec<String> {
        known(&self.figures)
    }
}

/// Figures while they are worked out.
struct Solver<'a> {
    figures: &'a [Figure],
    unit: LengthUnit,
    index: &'a HashMap<String, usize>,
    slots: RefCell<Vec<Slot>>,
    depth: Cell<usize>,
}

impl Solver<'_> {
    fn solve(&self, i: usize) -> Result<Value, Fault> {
        match &self.slots.borrow()[i] {
            Slot::Done(r) => return r.clone(),
            Slot::Working => {
                return Err(Fault::new(
                    format!("'{}' leads back to itself", self.figures[i].name),
                    "break the circle: give one of its figures a plain value",
                    (0, 0),
                ));
            }
            Slot::Waiting => {}
        }
        if self.depth.get() > MAX_CHAIN {
            return Err(Fault::new(
                format!("more than {MAX_CHAIN} figures lean on one another"),
                "give one of them a plain value",
                (0, 0),
            ));
        }
        self.slots.borrow_mut()[i] = Slot::Working;
        self.depth.set(self.depth.get() + 1);
        let scope = Scope { unit: self.unit, names: self };
        let f = &self.figures[i];
        let out = measured(&scope, f.kind, &f.value).and_then(|v| within(&scope, f, v));
        self.depth.set(self.depth.get() - 1);
        self.slots.borrow_mut()[i] = Slot::Done(out.clone());
        out
    }
}

/// A text as a figure of this kind has it: a bare number takes the kind's unit.
fn measured(scope: &Scope, kind: FigureKind, text: &str) -> Result<Value, Fault> {
    match kind {
        FigureKind::Any => parse(text).and_then(|e| scope.eval(&e)),
        FigureKind::Length => scope.length(text).map(|v| Value { v, dim: Dim::Length(1) }),
        FigureKind::Angle => scope.angle(text).map(|v| Value { v, dim: Dim::Angle }),
        FigureKind::Ratio => scope.number(text).map(|v| Value { v, dim: Dim::Bare }),
        FigureKind::Count => scope.count(text, 0, 1_000_000).map(|n| Value { v: n as f64, dim: Dim::Bare }),
    }
}

/// A value and a bound of its figure in one dimension: a bare number is told in what the other is told in.
fn beside(scope: &Scope, f: &Figure, v: Value, bound: &str) -> Result<(f64, f64, Dim), Fault> {
    let bound = measured(scope, f.kind, bound)?;
    scope.alike(v, bound, (0, 0))
}

/// The value, where its bounds allow it. What rounding leaves of a bound is on it.
fn within(scope: &Scope, f: &Figure, v: Value) -> Result<Value, Fault> {
    for (text, is_most) in [(&f.least, false), (&f.most, true)] {
        if text.trim().is_empty() {
            continue;
        }
        let (what, side) = if is_most { ("most", "above") } else { ("least", "below") };
        let (value, bound, _) = beside(scope, f, v, text)
            .map_err(|e| Fault::new(format!("its {what}: {}", e.message), e.mend, (0, 0)))?;
        let beyond = if is_most { value - bound } else { bound - value };
        if beyond > 1e-9 * bound.abs().max(1.0) {
            let message = format!("{} is {side} its {what}, {}", f.value.trim(), text.trim());
            return Err(Fault::new(message, "write a value in its range, or change the range", (0, 0)));
        }
    }
    if !f.least.trim().is_empty() && !f.most.trim().is_empty() {
        // A bare value goes with either; the two must go with one another.
        beside(scope, f, measured(scope, f.kind, &f.least)?, &f.most)
            .map_err(|e| Fault::new(format!("its most: {}", e.message), e.mend, (0, 0)))?;
    }
    Ok(v)
}

impl Names for Solver<'_> {
    fn value(&self, name: &str) -> Option<Result<Value, String>> {
        Some(of_figure(name, self.solve(*self.index.get(name)?)))
    }

    fn known(&self) -> Vec<String> {
        known(self.figures)
    }
}

/// Job figures with the piece's own `t` and `r` before them.
pub struct PieceNames<'a> {
    pub table: &'a FigureTable,
    pub t: Option<f64>,
    pub r: Option<f64>,
}

impl Names for PieceNames<'_> {
    fn value(&self, name: &str) -> Option<Result<Value, String>> {
        let own = |v: Option<f64>, what: &str| {
            Some(
                v.map(|v| Value { v, dim: Dim::Length(1) })
                    .ok_or_else(|| format!("the piece has no {what} yet")),
            )
        };
        match name {
            "t" => own(self.t, "thickness"),
            "r" => own(self.r, "inside radius"),
            _ => self.table.value(name),
        }
    }

    fn known(&self) -> Vec<String> {
        let mut known = vec!["t".to_string(), "r".to_string()];
        known.extend(self.table.known());
        known
    }
}
