//! A piece that came from a drawing, brought up to the revised one: what moved, what came, what went. Lines
//! that a hand has changed since stay as they are, and are told.

use glam::DVec2;
use serde::Serialize;
use serde_json::{Value, json};
use steelk_core::geom::Contour;
use steelk_core::job::{Line, Origin, Piece};
use steelk_core::quantity::Display;
use steelk_core::sheet::lines_from;
use steelk_formats::drawn::{Change, changes};
use steelk_formats::svg;
use utoipa::ToSchema;

/// One difference.
#[derive(Serialize, ToSchema)]
pub struct MoveView {
    pub said: String,
    /// Path data, in mm from the corner of the part: what stood, and what stands now; empty where
    /// nothing does.
    pub was: String,
    pub is: String,
    /// A line that a hand has changed: it stays as it is.
    pub kept: bool,
}

#[derive(Serialize, ToSchema)]
pub struct Revised {
    pub moves: Vec<MoveView>,
    /// Cuts that are as they were.
    pub same: usize,
    /// Path data of both outlines.
    pub was: String,
    pub is: String,
    pub min: [f64; 2],
    pub max: [f64; 2],
    /// The piece that follows the revised drawing.
    pub piece: Piece,
}

/// How a contour is called.
fn called(c: &Contour, display: &Display) -> String {
    match c.as_circle() {
        Some((_, r)) => format!("hole ⌀{}", display.length(2.0 * r)),
        None => {
            let s = c.bounds().size();
            format!("cut-out {} × {}", display.length(s.x), display.length(s.y))
        }
    }
}

fn moved(by: DVec2, display: &Display) -> String {
    let one = |v: f64, plus: &str, minus: &str| {
        let said = display.length(v.abs());
        (said != display.length(0.0)).then(|| format!("{said} {}", if v > 0.0 { plus } else { minus }))
    };
    let all: Vec<String> =
        [one(by.x, "east", "west"), one(by.y, "north", "south")].into_iter().flatten().collect();
    all.join(", ")
}

/// The contours of the part, from its corner: outline first.
pub fn revise(
    mut piece: Piece,
    display: &Display,
    (old, new): (&[Contour], &[Contour]),
    to: Origin,
) -> Revised {
    let lines = |all: &[Contour]| -> Vec<Line> {
        let cuts: Vec<&Contour> = all[1..].iter().collect();
        lines_from(&all[0], &cuts, &[], display).0
    };
    let (before, after) = (lines(old), lines(new));
    let mut edit = Edit { piece: &mut piece, before: &before };
    let mut moves = Vec::new();
    let mut tell = |said: String, was: Option<&Contour>, is: Option<&Contour>, done: bool| {
        let path = |c: Option<&Contour>| c.map(svg::path).unwrap_or_default();
        let said =
            if done { said } else { format!("{said}: its line was changed by hand and stays as it is") };
        moves.push(MoveView { said, was: path(was), is: path(is), kept: !done });
    };
    let same_edge = same(&old[0], &new[0]);
    if !same_edge {
        let size = |c: &Contour| {
            let s = c.bounds().size();
            format!("{} × {}", display.length(s.x), display.length(s.y))
        };
        let (a, b) = (size(&old[0]), size(&new[0]));
        let said = if a == b {
            format!("the outline changed, {a} still")
        } else {
            format!("the outline: {a} → {b}")
        };
        let done = edit.put(0, &after[0]);
        tell(said, Some(&old[0]), Some(&new[0]), done);
    }
    let mut same = 0;
    for c in changes(&old[1..], &new[1..]) {
        match c {
            Change::Same { .. } => same += 1,
            Change::Moved { old: i, new: j, by } => {
                let done = edit.put(i + 1, &after[j + 1]);
                let said = format!("{} moved {}", called(&old[i + 1], display), moved(by, display));
                tell(said, Some(&old[i + 1]), Some(&new[j + 1]), done);
            }
            Change::Reshaped { old: i, new: j, by } => {
                let done = edit.put(i + 1, &after[j + 1]);
                let (a, b) = (called(&old[i + 1], display), called(&new[j + 1], display));
                let shift = moved(by, display);
                let mut said = if a == b { format!("{a} has another form") } else { format!("{a} → {b}") };
                if !shift.is_empty() {
                    said = format!("{said}, moved {shift}");
                }
                tell(said, Some(&old[i + 1]), Some(&new[j + 1]), done);
            }
            Change::Gone { old: i } => {
                let done = edit.remove(i + 1);
                tell(format!("{} is gone", called(&old[i + 1], display)), Some(&old[i + 1]), None, done);
            }
            Change::New { new: j } => {
                edit.add(&after[j + 1]);
                tell(format!("{} is new", called(&new[j + 1], display)), None, Some(&new[j + 1]), true);
            }
        }
    }
    piece.origin = Some(to);
    let bounds = old[0].bounds().join(&new[0].bounds());
    let (was, is) = (svg::path(&old[0]), svg::path(&new[0]));
    let [min, max] = [bounds.min.to_array(), bounds.max.to_array()];
    Revised { moves, same, was, is, min, max, piece }
}

/// Whether two outlines are one, each from its own corner.
fn same(a: &Contour, b: &Contour) -> bool {
    let on = |a: &Contour, b: &Contour| {
        a.segments().all(|s| {
            [0.0, 0.25, 0.5, 0.75].iter().all(|t| {
                let p = s.at(*t);
                b.segments().any(|o| o.nearest(p).distance(p) < 0.01)
            })
        })
    };
    on(a, b) && on(b, a)
}

struct Edit<'a> {
    piece: &'a mut Piece,
    before: &'a [Line],
}

impl Edit<'_> {
    /// Where the line of a contour stands, where it still says what the drawing said.
    fn untouched(&self, k: usize) -> Option<usize> {
        let was = &self.before[k];
        let is = |l: &Line| l.id == was.id && said(l) == said(was);
        self.piece.lines.iter().position(is)
    }

    fn put(&mut self, k: usize, to: &Line) -> bool {
        let at = self.untouched(k);
        at.into_iter().for_each(|n| self.piece.lines[n].say = to.say.clone());
        at.is_some()
    }

    fn remove(&mut self, k: usize) -> bool {
        let at = self.untouched(k);
        at.into_iter().for_each(|n| drop(self.piece.lines.remove(n)));
        at.is_some()
    }

    /// Behind the last of the drawing's lines, with a number that nothing had.
    fn add(&mut self, line: &Line) {
        let stem = line.id.rsplit_once('-').map_or("punch", |s| s.0).to_string();
        let number = |id: &str| id.strip_prefix(&stem)?.strip_prefix('-')?.parse::<u32>().ok();
        let used = self.piece.lines.iter().chain(self.before).filter_map(|l| number(&l.id)).max();
        let last = used.max(self.piece.issued.get(&stem).copied()).unwrap_or(0);
        let id = format!("{stem}-{}", last + 1);
        self.piece.issued.insert(stem, last + 1);
        let known = |l: &Line| self.before.iter().any(|b| b.id == l.id);
        let at = self.piece.lines.iter().rposition(known).map_or(self.piece.lines.len(), |n| n + 1);
        self.piece.lines.insert(at, Line { id, ..line.clone() });
    }
}

fn said(l: &Line) -> Value {
    json!(l.say)
}
