//! Contours and bend lines that come from outside a recipe and become its lines.

use glam::DVec2;
use ground::geom::{Contour, Segment};
use ground::quantity::{Display, trim_number};

use crate::choices::Direction;
use crate::piece::Line;
use crate::verbs::{BendLine, From, Offset, Operation, Place, Point, Punch, Shape, StartOutline};

/// A straight bend line of a drawing, mm.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct DrawnFold {
    pub from: DVec2,
    pub to: DVec2,
    pub up: bool,
}

/// What the lines are typed in.
struct Typed<'a> {
    display: &'a Display,
    /// The corner that places are told from.
    low: DVec2,
}

impl Typed<'_> {
    fn length(&self, v: f64) -> String {
        trim_number(v / self.display.length.mm(), 9)
    }

    fn points(&self, c: &Contour, from: DVec2) -> Vec<Point> {
        let bulge = |b: f64| if b.abs() < 1e-12 { String::new() } else { trim_number(b, 15) };
        c.vertices
            .iter()
            .map(|v| Point {
                x: self.length(v.p.x - from.x),
                y: self.length(v.p.y - from.y),
                bulge: bulge(v.bulge),
            })
            .collect()
    }

    fn cut(&self, hole: &Contour) -> Operation {
        let (centre, shape) = match hole.as_circle() {
            Some((centre, radius)) => (centre, Shape::Round { diameter: self.length(radius * 2.0) }),
            None => {
                let centre = hole.bounds().centre();
                (centre, Shape::Outline { points: self.points(hole, centre) })
            }
        };
        let at = |from: From, d: f64| Offset { from, distance: self.length(d), ..Offset::default() };
        let place = Place {
            on: "flat".into(),
            x: at(From::West, centre.x - self.low.x),
            y: at(From::South, centre.y - self.low.y),
            ..Place::default()
        };
        Operation::Punch(Punch { shape, place })
    }

    /// Told from the nearest straight side that lies parallel; none where there is no such side.
    fn fold(&self, outer: &Contour, fold: &DrawnFold) -> Option<Operation> {
        let along = (fold.to - fold.from).try_normalize()?;
        let middle = fold.from.midpoint(fold.to);
        let parallel =
            |s: &Segment| s.is_line() && (s.b - s.a).normalize_or_zero().perp_dot(along).abs() < 1e-4;
        let off = |s: &Segment| (s.b - s.a).normalize_or_zero().perp_dot(middle - s.a);
        // The outline goes round to the left: what lies inside a side is positive.
        let (n, s) = { outer.segments().enumerate() }
            .filter(|(_, s)| parallel(s) && off(s) > 1e-6)
            .min_by(|a, b| off(&a.1).total_cmp(&off(&b.1)))?;
        Some(Operation::BendLine(BendLine {
            edge: format!("start-1.side-{}", n + 1),
            distance: self.length(off(&s)),
            angle: "90".into(),
            direction: if fold.up { Direction::Up } else { Direction::Down },
            ..BendLine::default()
        }))
    }
}

/// Recipe lines of one part (mm): the outline, what is cut out of it, its bend lines; and how many bend lines
/// no side of it is parallel to.
pub fn lines_from(
    outer: &Contour,
    cuts: &[&Contour],
    folds: &[DrawnFold],
    display: &Display,
) -> (Vec<Line>, usize) {
    let typed = Typed { display, low: outer.bounds().min };
    let mut out = vec![Line::new(
        "start-1",
        Operation::StartOutline(StartOutline { points: typed.points(outer, typed.low) }),
    )];
    for (i, hole) in cuts.iter().enumerate() {
        out.push(Line::new(format!("punch-{}", i + 1), typed.cut(hole)));
    }
    let told: Vec<Operation> = folds.iter().filter_map(|f| typed.fold(outer, f)).collect();
    let left = folds.len() - told.len();
    out.extend(told.into_iter().enumerate().map(|(i, say)| Line::new(format!("bend_line-{}", i + 1), say)));
    (out, left)
}
