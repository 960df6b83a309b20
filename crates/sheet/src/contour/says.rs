//! Why a told contour was not found, in words: what is missing, what may be meant, what contradicts.

use std::f64::consts::TAU;

use ground::geom::Crossing;
use ground::quantity::{Display, trim_number};
use ground::reader::{LONGEST, Tell};

use super::conflict::{Conflicts, conflict};
use super::shape::Misfit;
use super::solve::Solution;
use super::told::{Cause, Condition, Figure, Run, Told};

/// What the sides are called, and where they were told.
pub struct Named<'a> {
    pub ids: &'a [String],
    /// JSON pointers of the sides, and of what holds between them.
    pub at: &'static str,
    pub rules: &'static str,
}

impl Named<'_> {
    pub fn id(&self, k: usize) -> &str {
        &self.ids[k]
    }

    /// JSON pointer of a side's field.
    pub fn field(&self, k: usize, field: &str) -> String {
        format!("{}/{k}/{field}", self.at)
    }
}

/// The field that a figure is told in.
pub fn figure_field(figure: Figure) -> &'static str {
    match figure {
        Figure::Length => "length",
        Figure::Radius => "radius",
        Figure::Sweep => "angle",
        Figure::Direction => "toward",
    }
}

/// A figure as it is written.
fn written(d: &Display, figure: Figure, value: f64) -> String {
    match figure {
        Figure::Length | Figure::Radius => format!("{} {}", d.fine(value), d.length.sign()),
        Figure::Sweep => degrees(value),
        Figure::Direction => degrees(value.rem_euclid(TAU)),
    }
}

fn degrees(angle: f64) -> String {
    format!("{}°", trim_number(angle.to_degrees(), 2))
}

fn called(figure: Figure, id: &str) -> String {
    match figure {
        Figure::Length => format!("the length of {id}"),
        Figure::Radius => format!("the radius of {id}"),
        Figure::Sweep => format!("the angle of {id}"),
        Figure::Direction => format!("the direction of {id}"),
    }
}

/// Figures of sides that were not told.
pub fn open(told: &Told) -> Vec<(usize, Figure)> {
    let mut out = Vec::new();
    for (k, side) in told.sides.iter().enumerate() {
        match side.run {
            Run::Line { length: None } | Run::Close => out.push((k, Figure::Length)),
            Run::Line { .. } => {}
            Run::Arc { radius, sweep, .. } => {
                out.extend(radius.is_none().then_some((k, Figure::Radius)));
                out.extend(sweep.is_none().then_some((k, Figure::Sweep)));
            }
        }
    }
    out
}

/// Says what stands in the way of a contour.
pub struct Says<'s> {
    pub tell: &'s mut Tell,
    pub named: &'s Named<'s>,
    pub told: &'s Told,
}

impl Says<'_> {
    fn id(&self, k: usize) -> &str {
        self.named.id(k)
    }

    fn field(&self, k: usize, field: &str) -> String {
        self.named.field(k, field)
    }

    pub fn missing(&mut self, wanted: &[(usize, Figure)], free: usize) {
        let names: Vec<String> = wanted.iter().map(|w| called(w.1, self.id(w.0))).collect();
        let (message, mend) = match (free, names.as_slice()) {
            (1, [one, ..]) => (format!("one figure is missing, such as {one}"), format!("tell {one}")),
            (_, []) => (
                format!("{free} figures are missing"),
                "tell lengths, angles, or what holds between the sides".into(),
            ),
            (_, names) => (
                format!("{free} figures are missing, such as {}", and(names)),
                format!("tell {}", and(names)),
            ),
        };
        let at = wanted
            .first()
            .map_or_else(|| self.named.at.to_string(), |(k, figure)| self.field(*k, figure_field(*figure)));
        self.tell.refuse_at(&at, message, mend);
    }

    pub fn several(&mut self, found: &[Solution]) {
        let d = self.tell.display;
        // The first figure that tells them apart.
        let apart = |(k, figure): &(usize, Figure)| {
            let value = |s: &Solution| s.sides[*k].figure(*figure);
            let step = if *figure == Figure::Sweep { 1e-3 } else { 1e-2 };
            (1..found.len()).all(|i| (0..i).all(|j| (value(&found[i]) - value(&found[j])).abs() > step))
        };
        let own = open(self.told);
        let (k, figure) = own
            .iter()
            .find(|f| self.told.sides[f.0].run != Run::Close && apart(f))
            .or(own.first())
            .copied()
            .unwrap_or((0, Figure::Length));
        let mut values: Vec<f64> = found.iter().map(|s| s.sides[k].figure(figure)).collect();
        values.sort_by(f64::total_cmp);
        let listed: Vec<String> = values.iter().map(|v| written(&d, figure, *v)).collect();
        let of = called(figure, self.id(k));
        let message = format!("it closes in {} ways: {of} may be {}", found.len(), or(&listed));
        self.tell.refuse_at(&self.field(k, figure_field(figure)), message, format!("tell {of}"));
    }

    pub fn unfit(&mut self, misfit: Misfit) {
        let d = self.tell.display;
        match misfit {
            Misfit::Size { side, size } => {
                let arc = self.told.sides[side].run.is_arc();
                let (figure, what) =
                    if arc { (Figure::Radius, "radius") } else { (Figure::Length, "length") };
                let message = format!(
                    "{} comes out with a {what} of {}: as told, it would run backwards",
                    self.id(side),
                    d.length_unit(size)
                );
                let mend = "check the figures and directions of the sides beside it";
                self.tell.refuse_at(&self.field(side, figure_field(figure)), message, mend);
            }
            Misfit::Long { side } => {
                let message = format!("{} comes out longer than {}", self.id(side), d.length_unit(LONGEST));
                let mend = "check the directions of the sides beside it: they are all but parallel";
                self.tell.refuse_at(&self.field(side, "kind"), message, mend);
            }
            Misfit::Sweep { side } => {
                let message = format!("arc {} comes out turning through nothing", self.id(side));
                let mend = "leave the arc out, or check the directions of the sides beside it";
                self.tell.refuse_at(&self.field(side, "angle"), message, mend);
            }
            Misfit::Crosses(Crossing { at, segments: (a, b) }) => {
                let message = format!(
                    "the contour crosses or touches itself at {}, {} (sides {} and {})",
                    d.length(at.x),
                    d.length(at.y),
                    self.id(a),
                    self.id(b)
                );
                let mend = format!("check the figures of {} and {}", self.id(a), self.id(b));
                self.tell.refuse_at(&self.field(b, "kind"), message, mend);
            }
        }
    }

    /// Something told, in words.
    fn cause(&self, cause: Cause) -> String {
        let d = &self.tell.display;
        match cause {
            Cause::Figure(k, figure) => {
                let side = &self.told.sides[k];
                let value = match (side.run, figure) {
                    (Run::Line { length }, Figure::Length) => length,
                    (Run::Arc { radius, .. }, Figure::Radius) => radius,
                    (Run::Arc { sweep, .. }, Figure::Sweep) => sweep,
                    _ => side.heading,
                };
                let of = called(figure, self.id(k));
                value.map_or(of.clone(), |v| format!("{of} ({})", written(d, figure, v)))
            }
            Cause::Tangent(k) => {
                let before = (k + self.told.sides.len() - 1) % self.told.sides.len();
                format!("{} running on from {}", self.id(k), self.id(before))
            }
            Cause::Level(k) => format!("{} ending level", self.id(k)),
            Cause::Plumb(k) => format!("{} ending plumb", self.id(k)),
            Cause::Meets(k) => format!("where {} ends", self.id(k)),
            Cause::Condition(k) => self.condition(&self.told.conditions[k]),
        }
    }

    fn condition(&self, condition: &Condition) -> String {
        let two = |what: &str, a: usize, b: usize| format!("{} {what} to {}", self.id(a), self.id(b));
        match *condition {
            Condition::Equal(a, b) => two("equal", a, b),
            Condition::Parallel(a, b) => two("parallel", a, b),
            Condition::Square(a, b) => two("square", a, b),
            Condition::InLine(a, b) => format!("{} in line with {}", self.id(a), self.id(b)),
            Condition::Concentric(a, b) => format!("{} about the middle of {}", self.id(a), self.id(b)),
            Condition::Distance(a, b, by) => {
                let by = self.tell.display.length_unit(by);
                format!("the distance between {} and {} ({by})", self.id(a), self.id(b))
            }
            Condition::Symmetric(k) => format!("the symmetry about {}", self.id(k)),
            Condition::Offset { by, .. } => {
                format!("a corner {} from another", self.tell.display.length_unit(by.abs()))
            }
        }
    }

    fn cause_field(&self, cause: Cause) -> String {
        match cause {
            Cause::Figure(k, figure) => self.field(k, figure_field(figure)),
            Cause::Tangent(k) => self.field(k, "kind"),
            Cause::Level(k) => self.field(k, "level_with"),
            Cause::Plumb(k) => self.field(k, "plumb_with"),
            Cause::Meets(k) => self.field(k, "meets"),
            Cause::Condition(_) => self.named.rules.to_string(),
        }
    }

    pub fn contradicts(&mut self) {
        const NAMED: usize = 4;
        let Conflicts { mut found, whole } = conflict(self.told);
        // What a hand would look at first: figures, then what was said of them, then what is usual.
        let rank = |c: &Cause| match c {
            Cause::Figure(_, Figure::Length | Figure::Radius) => 0,
            Cause::Figure(..) => 1,
            Cause::Tangent(_) => 3,
            _ => 2,
        };
        found.sort_by_key(|f| (rank(&f.cause), f.instead.is_none()));
        let Some(first) = found.first().copied() else {
            let mend = "leave figures out until it closes, then tell them again one by one";
            let message = if whole {
                "no outline keeps all that is told, whichever one figure is left out"
            } else {
                "no outline was found that keeps all that is told, and there is too much to try without each"
            };
            self.tell.refuse_at(self.named.at, message, mend);
            return;
        };
        // Where lengths would do, angles are right more often than not.
        let likeliest = rank(&first.cause);
        if found.iter().filter(|f| rank(&f.cause) == likeliest).count() > 1 {
            found.retain(|f| rank(&f.cause) == likeliest);
        }
        let names: Vec<String> = found.iter().take(NAMED).map(|f| self.cause(f.cause)).collect();
        let more = if found.len() > NAMED { " and others" } else { "" };
        let message = match names.as_slice() {
            [one] => format!("{one} contradicts all else that is told"),
            names => format!("{}{more} contradict one another", and(names)),
        };
        let mends: Vec<String> = found.iter().take(2).filter_map(|f| self.mend(f.cause, f.instead)).collect();
        let mend = match (mends.is_empty(), first.cause) {
            (false, _) => format!("leave out {}", or(&mends)),
            (true, Cause::Tangent(k)) => format!("write sharp at {}, or leave a figure out", self.id(k)),
            (true, _) => "leave one of them out".into(),
        };
        self.tell.refuse_at(&self.cause_field(first.cause), message, mend);
    }

    fn mend(&self, cause: Cause, instead: Option<f64>) -> Option<String> {
        let Cause::Figure(k, figure) = cause else { return None };
        // A turn is told from the side before: its heading is no mend of it.
        if figure == Figure::Direction && self.told.sides[k].turned.is_some() {
            return None;
        }
        let value = written(&self.tell.display, figure, instead?);
        Some(format!("{} (the others make it {value})", called(figure, self.id(k))))
    }
}

fn joined(words: &[String], last: &str) -> String {
    match words.split_last() {
        Some((end, rest)) if !rest.is_empty() => format!("{} {last} {end}", rest.join(", ")),
        Some((end, _)) => end.clone(),
        None => String::new(),
    }
}

fn and(words: &[String]) -> String {
    joined(words, "and")
}

fn or(words: &[String]) -> String {
    joined(words, "or")
}
