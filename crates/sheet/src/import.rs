//! Contours that come from outside a recipe and become its lines.

use crate::piece::Line;
use crate::verbs::Operation;
use ground::geom::Contour;
use ground::quantity::Display;

/// Recipe lines that make the given contours (mm): the first the outline, the rest cut out of it. Circles
/// become round holes.
pub fn lines_from(contours: &[Contour], display: &Display) -> Vec<Line> {
    use crate::verbs::{From, Offset, Place, Point, Punch, Shape, StartOutline};
    let Some((outer, holes)) = contours.split_first() else { return Vec::new() };
    let typed = |v: f64| ground::quantity::trim_number(v / display.length.mm(), 9);
    let points = |c: &Contour, from: glam::DVec2| -> Vec<Point> {
        let bulge =
            |b: f64| if b.abs() < 1e-12 { String::new() } else { ground::quantity::trim_number(b, 15) };
        c.vertices
            .iter()
            .map(|v| Point { x: typed(v.p.x - from.x), y: typed(v.p.y - from.y), bulge: bulge(v.bulge) })
            .collect()
    };
    let low = outer.bounds().min;
    let at = |from: From, d: f64| Offset { from, distance: typed(d), ..Offset::default() };
    let mut out =
        vec![Line::new("start-1", Operation::StartOutline(StartOutline { points: points(outer, low) }))];
    for (i, hole) in holes.iter().enumerate() {
        let (centre, shape) = match hole.as_circle() {
            Some((centre, radius)) => (centre, Shape::Round { diameter: typed(radius * 2.0) }),
            None => {
                let centre = hole.bounds().centre();
                (centre, Shape::Outline { points: points(hole, centre) })
            }
        };
        let place = Place {
            beside: Default::default(),
            on: "flat".into(),
            x: at(From::West, centre.x - low.x),
            y: at(From::South, centre.y - low.y),
            turn: String::new(),
            about: String::new(),
        };
        out.push(Line::new(format!("punch-{}", i + 1), Operation::Punch(Punch { shape, place })));
    }
    out
}
