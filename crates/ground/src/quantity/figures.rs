//! Job figures: named values that recipes and other figures may use.

use std::cell::{Cell, RefCell};
use std::collections::HashMap;

use serde::{Deserialize, Serialize};

use super::eval::{Dim, Names, Scope, Value};
use super::parser::parse;
use super::{Fault, LengthUnit};

/// A named value of the job: `pitch = 40`, `ply = 3/4in`.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Figure {
    pub name: String,
    pub value: String,
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
}

/// A job figure worked out, or why it could not be.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct FigureValue {
    pub name: String,
    /// As the job prints it; empty when there is a fault.
    pub text: String,
    pub fault: Option<Fault>,
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
}

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
        FigureTable { figures: figures.to_vec(), index, values }
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
                Ok(v) => FigureValue { name: self.figures[i].name.clone(), text: print(v), fault: None },
                Err(fault) => FigureValue {
                    name: self.figures[i].name.clone(),
                    text: String::new(),
                    fault: Some(fault),
                },
            })
            .collect()
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
        let out = parse(&self.figures[i].value).and_then(|e| scope.eval(&e));
        self.depth.set(self.depth.get() - 1);
        self.slots.borrow_mut()[i] = Slot::Done(out.clone());
        out
    }
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
