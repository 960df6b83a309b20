//! What a reader of any format hands over: lines and arcs in millimetres, each on its layer.

use std::collections::BTreeMap;
use std::rc::Rc;

use steelk_core::geom::{Bounds, Segment};
use steelk_core::job::Assume;
use steelk_core::quantity::counted;

/// Points nearer than this are one, mm.
pub const SAME: f64 = 1e-4;

/// Lines and arcs one after the other, of one entity.
#[derive(Clone, Debug)]
pub struct Run {
    pub segments: Vec<Segment>,
    pub layer: Rc<str>,
    /// Made from a spline or an ellipse.
    pub curve: bool,
}

impl Run {
    pub fn length(&self) -> f64 {
        self.segments.iter().map(Segment::length).sum()
    }

    pub fn bounds(&self) -> Bounds {
        self.segments.iter().fold(Bounds::EMPTY, |b, s| b.join(&s.bounds()))
    }

    pub fn is_closed(&self) -> bool {
        let (first, last) = (&self.segments[0], &self.segments[self.segments.len() - 1]);
        first.a.distance(last.b) <= SAME
    }
}

/// What is left out and why, with how many there are.
#[derive(Default)]
pub struct LeftOut(BTreeMap<(String, String), (usize, usize)>);

impl LeftOut {
    /// `line` of the file, from 1; 0 where it has none.
    pub fn add(&mut self, what: &str, why: impl Into<String>, line: usize) {
        self.0.entry((what.into(), why.into())).or_insert((0, line)).0 += 1;
    }

    pub fn told(&self) -> Vec<String> {
        let said = |((what, why), (n, line)): (&(String, String), &(usize, usize))| {
            let at = match (*n, *line) {
                (_, 0) => String::new(),
                (1, _) => format!(" (line {line} of the file)"),
                _ => format!(" (the first at line {line} of the file)"),
            };
            format!("{} {why}{at}", counted(*n, what))
        };
        self.0.iter().map(said).collect()
    }
}

#[derive(Default)]
pub struct Strokes {
    /// What its settings lean to, where it names none.
    pub leaning: Option<Assume>,
    pub runs: Vec<Run>,
    /// Layers with anything on them, marks and texts too, and how many items.
    pub layers: BTreeMap<Rc<str>, usize>,
    pub left_out: LeftOut,
    /// Steps without length that were taken away, and where.
    pub repeated: Vec<glam::DVec2>,
}
