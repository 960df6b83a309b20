//! The unknowns of a told outline: what of its sides is told, what follows from the side before, and what is
//! left to be found.

use std::f64::consts::{PI, TAU};

use super::dual::{Dual, Pair};
use super::told::{Cause, Condition, Figure, Run, Told};

/// A value of a side: told, or an unknown.
#[derive(Clone, Copy, Debug)]
pub enum Value {
    Known(f64),
    Unknown(usize),
}

/// The way that a side sets out: a sum of what is known and of unknowns.
#[derive(Clone, Debug, Default)]
struct Heading {
    known: f64,
    terms: Vec<(usize, f64)>,
}

impl Heading {
    fn plus(&self, value: Value, by: f64) -> Heading {
        let mut out = self.clone();
        match value {
            Value::Known(v) => out.known += v * by,
            Value::Unknown(k) => match out.terms.iter_mut().find(|t| t.0 == k) {
                Some(term) => term.1 += by,
                None => out.terms.push((k, by)),
            },
        }
        out.terms.retain(|t| t.1 != 0.0);
        out
    }

    fn less(&self, other: &Heading) -> Heading {
        let less = self.plus(Value::Known(other.known), -1.0);
        other.terms.iter().fold(less, |sum, (k, by)| sum.plus(Value::Unknown(*k), -by))
    }
}

/// What a side is made of.
#[derive(Clone, Copy, Debug)]
enum Form {
    Line { length: Value },
    Arc { left: bool, radius: Value, sweep: Value },
}

/// An outline as a system: unknowns, and what must be nought.
pub struct System<'t> {
    pub told: &'t Told,
    /// What was told and is left out of account.
    pub without: Option<Cause>,
    /// Lengths are counted in this, mm.
    pub scale: f64,
    /// What each unknown is: a figure of a side.
    pub unknowns: Vec<(usize, Figure)>,
    forms: Vec<Form>,
    headings: Vec<Heading>,
    /// Whole turns each, where the outline is right.
    turns: Vec<Heading>,
    /// No direction is told: the first side goes east.
    pub turned_freely: bool,
}

/// Where the sides go for some values of the unknowns.
pub struct Walk {
    /// The way that each side sets out, and the way that it arrives.
    pub begins: Vec<Dual>,
    pub ends: Vec<Dual>,
    /// Lengths of lines, radii of arcs, sweeps of arcs (nought for lines).
    pub sizes: Vec<Dual>,
    pub sweeps: Vec<Dual>,
    /// Where each side begins, and where the last ends.
    pub corners: Vec<Pair>,
}

/// An angle within half a turn of nought.
pub fn wrapped(angle: f64) -> f64 {
    let turned = (angle + PI).rem_euclid(TAU) - PI;
    if turned == -PI { PI } else { turned }
}

impl<'t> System<'t> {
    pub fn new(told: &'t Told, without: Option<Cause>) -> System<'t> {
        let mut system = System {
            told,
            without,
            scale: told.scale(),
            unknowns: Vec::new(),
            forms: Vec::new(),
            headings: Vec::new(),
            turns: Vec::new(),
            turned_freely: false,
        };
        system.forms = (0..told.sides.len()).map(|k| system.form(k)).collect();
        system.direct();
        system.settle();
        system
    }

    pub fn holds(&self, cause: Cause) -> bool {
        self.without != Some(cause)
    }

    fn unknown(&mut self, side: usize, figure: Figure) -> Value {
        self.unknowns.push((side, figure));
        Value::Unknown(self.unknowns.len() - 1)
    }

    fn value(&mut self, side: usize, figure: Figure, told: Option<f64>) -> Value {
        match told.filter(|_| self.holds(Cause::Figure(side, figure))) {
            Some(v) => Value::Known(if figure == Figure::Sweep { v } else { v / self.scale }),
            None => self.unknown(side, figure),
        }
    }

    fn form(&mut self, k: usize) -> Form {
        match self.told.sides[k].run {
            Run::Line { length } => Form::Line { length: self.value(k, Figure::Length, length) },
            Run::Close => Form::Line { length: self.unknown(k, Figure::Length) },
            Run::Arc { left, radius, sweep } => {
                let radius = self.value(k, Figure::Radius, radius);
                Form::Arc { left, radius, sweep: self.value(k, Figure::Sweep, sweep) }
            }
        }
    }

    /// The way a side arrives where it set out so.
    fn arrives(&self, k: usize, begins: &Heading) -> Heading {
        match self.forms[k] {
            Form::Line { .. } => begins.clone(),
            Form::Arc { left, sweep, .. } => begins.plus(sweep, if left { 1.0 } else { -1.0 }),
        }
    }

    /// How far a side turns to the left of the one before, where that is told.
    fn turn(&self, k: usize) -> Option<f64> {
        let told = self.told.sides[k].turned.filter(|_| self.holds(Cause::Figure(k, Figure::Direction)));
        told.or_else(|| (self.told.is_tangent(k) && self.holds(Cause::Tangent(k))).then_some(0.0))
    }

    /// The headings of all sides, one after another from one whose heading is told.
    fn direct(&mut self) {
        let n = self.told.sides.len();
        let known = |s: &Self, k: usize| {
            s.told.sides[k].heading.filter(|_| s.holds(Cause::Figure(k, Figure::Direction)))
        };
        let first = (0..n).find(|&k| known(self, k).is_some());
        let absolute = self.told.sides.iter().any(|s| s.level.is_some() || s.plumb.is_some())
            || self.told.conditions.iter().any(|c| matches!(c, Condition::Offset { .. }));
        self.turned_freely = first.is_none() && !absolute;
        self.headings = vec![Heading::default(); n];
        let start = first.unwrap_or(0);
        for step in 0..=n {
            let k = (start + step) % n;
            let before = (k + n - 1) % n;
            let follows = self
                .turn(k)
                .filter(|_| step > 0)
                .map(|turn| self.arrives(before, &self.headings[before]).plus(Value::Known(turn), 1.0));
            let fixed = known(self, k).map(|v| Heading { known: v, terms: Vec::new() });
            let fixed = fixed.or_else(|| (step == n).then(|| self.headings[k].clone()));
            match (fixed, follows) {
                // Told twice: both must come to the same.
                (Some(own), Some(follows)) => {
                    self.turns.push(own.less(&follows));
                    self.headings[k] = own;
                }
                (Some(own), None) => self.headings[k] = own,
                (None, Some(follows)) => self.headings[k] = follows,
                (None, None) if step == 0 && self.turned_freely => {}
                (None, None) => {
                    let own = self.unknown(k, Figure::Direction);
                    self.headings[k] = Heading::default().plus(own, 1.0);
                }
            }
        }
    }

    /// Sweeps that one turn alone settles.
    fn settle(&mut self) {
        loop {
            let alone = self.turns.iter().position(|t| {
                matches!(t.terms[..], [(k, by)] if by.abs() == 1.0 && self.unknowns[k].1 == Figure::Sweep)
            });
            let Some(at) = alone else { break };
            let turn = self.turns.remove(at);
            let (k, by) = turn.terms[0];
            let sweep = (-turn.known / by).rem_euclid(TAU);
            self.replace(k, sweep);
        }
    }

    /// An unknown becomes known; those behind it move up.
    fn replace(&mut self, k: usize, with: f64) {
        self.unknowns.remove(k);
        let value = |v: Value| match v {
            Value::Unknown(j) if j == k => Value::Known(with),
            Value::Unknown(j) if j > k => Value::Unknown(j - 1),
            v => v,
        };
        for form in &mut self.forms {
            *form = match *form {
                Form::Line { length } => Form::Line { length: value(length) },
                Form::Arc { left, radius, sweep } => {
                    Form::Arc { left, radius: value(radius), sweep: value(sweep) }
                }
            };
        }
        for heading in self.headings.iter_mut().chain(&mut self.turns) {
            let known = Heading { known: heading.known, terms: Vec::new() };
            *heading =
                heading.terms.iter().fold(known, |sum, (j, by)| sum.plus(value(Value::Unknown(*j)), *by));
        }
    }

    /// Whether everything is a sum of unknowns: then there is one outline at most.
    pub fn is_plain(&self) -> bool {
        // All others are sums where the ways of the sides are known.
        let plain = |c: &Condition| !matches!(c, Condition::Distance(..));
        let lines =
            self.told.sides.iter().all(|s| s.meets.is_none_or(|of| !self.told.sides[of].run.is_arc()));
        let angles = self.unknowns.iter().any(|u| matches!(u.1, Figure::Direction | Figure::Sweep));
        !angles && lines && self.told.conditions.iter().all(plain)
    }

    fn dual(&self, value: Value, x: &[f64]) -> Dual {
        match value {
            Value::Known(v) => Dual::known(v),
            Value::Unknown(k) => Dual::unknown(x[k], k, x.len()),
        }
    }

    fn angle(&self, heading: &Heading, x: &[f64]) -> Dual {
        let known = Dual::known(heading.known);
        heading.terms.iter().fold(known, |sum, (k, by)| sum + &self.dual(Value::Unknown(*k), x).times(*by))
    }

    /// The outline for these values of the unknowns.
    pub fn walk(&self, x: &[f64]) -> Walk {
        let mut walk = Walk {
            begins: Vec::new(),
            ends: Vec::new(),
            sizes: Vec::new(),
            sweeps: Vec::new(),
            corners: vec![Pair::default()],
        };
        for (k, form) in self.forms.iter().enumerate() {
            let begins = self.angle(&self.headings[k], x);
            let ends = self.angle(&self.arrives(k, &self.headings[k]), x);
            let (size, sweep, goes) = match *form {
                Form::Line { length } => {
                    let length = self.dual(length, x);
                    (length.clone(), Dual::default(), Pair::direction(&begins).times(&length))
                }
                Form::Arc { left, radius, sweep } => {
                    let (radius, side) = (self.dual(radius, x), if left { 1.0 } else { -1.0 });
                    // From the middle to its end less from the middle to its beginning.
                    let out = Pair { x: ends.sin() - &begins.sin(), y: begins.cos() - &ends.cos() };
                    (radius.clone(), self.dual(sweep, x), out.times(&radius.times(side)))
                }
            };
            let next = walk.corners[k].clone() + &goes;
            walk.corners.push(next);
            walk.begins.push(begins);
            walk.ends.push(ends);
            walk.sizes.push(size);
            walk.sweeps.push(sweep);
        }
        walk
    }

    /// Turns that must be whole, as they stand.
    pub fn whole_turns(&self, x: &[f64]) -> impl Iterator<Item = Dual> {
        self.turns.iter().map(move |t| {
            let turn = self.angle(t, x);
            Dual { value: wrapped(turn.value), slope: turn.slope }
        })
    }
}
