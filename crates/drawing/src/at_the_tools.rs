//! A bend between its tools, seen along them: the sheet as it lies and as it is bent, punch and die, beam and
//! bed, and the stop with its figure.

use glam::DVec2;

use super::{Anchor, Drawing, Item, Pen, ToPaper};
use ground::geom::{Contour, Vertex};
use sheet::brake::{StepPicture, Tool, picture};
use sheet::result::PieceResult;

/// How dark tools and sheet are.
const TOOL: f64 = 0.9;
const LYING: f64 = 0.7;
const BENT: f64 = 0.25;

/// The picture of one step, counted from 0; nothing but its frame where there is no such step.
pub fn at_the_tools(piece: &PieceResult, step: usize, size: DVec2) -> Drawing {
    let title = format!("{} bend {} at the tools", piece.mark, step + 1);
    let mut items = Vec::new();
    if let (Some(s), Some(row)) = (piece.plan.steps.get(step), piece.bend_rows.get(step)) {
        let seen = picture(&piece.plan, &piece.zones, s);
        let (low, high) = heights(&seen, &piece.plan.brake.tools);
        let scale = size.y / (high - low);
        let to = ToPaper { scale, shift: DVec2::new(size.x / 2.0, size.y + low * scale) };
        let mut inside = drawn(&seen, &to);
        inside.extend(stop(piece, &seen, &to, size, &row.gauge));
        items.push(Item::Window { min: DVec2::ZERO, max: size, items: inside });
    }
    items.push(Item::frame(DVec2::ZERO, size, Pen::Hair));
    Drawing { size, title, items }
}

/// From under the die to the beam, or to the top of the sheet if that is near.
fn heights(seen: &StepPicture, tools: &shop::brake::Tools) -> (f64, f64) {
    let die = seen.tools.iter().filter(|t| t.0 == Tool::Die).flat_map(|t| &t.1).map(|p| p.y);
    let low = die.fold(f64::INFINITY, f64::min) - 18.0;
    let sheet = seen.after.iter().flatten().map(|p| p.y).fold(0.0, f64::max);
    (low, (tools.punch_height + 22.0).max((sheet + 8.0).min(1.8 * tools.punch_height)))
}

fn ring(points: &[DVec2], to: &ToPaper) -> Contour {
    Contour { vertices: points.iter().map(|p| Vertex { p: to.point(*p), bulge: 0.0, tag: 0 }).collect() }
}

fn drawn(seen: &StepPicture, to: &ToPaper) -> Vec<Item> {
    let mut items = Vec::new();
    let facet = |points: &[DVec2], by: f64, shade: f64| Item::Facet {
        points: points.iter().map(|p| to.point(*p + DVec2::new(0.0, by))).collect(),
        shade,
    };
    for (_, corners) in &seen.tools {
        items.push(facet(corners, 0.0, TOOL));
        items.push(Item::Shape { loops: vec![ring(corners, to)], pen: Pen::Hair, filled: false });
    }
    // The sheet lies on the die where that is drawn: after the stroke.
    let up = seen.die[1] - seen.die[0];
    items.extend(seen.before.iter().map(|p| facet(p, up, LYING)));
    items.extend(seen.after.iter().map(|p| facet(p, 0.0, BENT)));
    items
}

/// The stop's face and its distance from the middle; an arrow where it stands outside the picture.
fn stop(piece: &PieceResult, seen: &StepPicture, to: &ToPaper, size: DVec2, gauge: &str) -> Vec<Item> {
    let top = seen.die[1];
    let height = piece.plan.brake.tools.stop_height;
    let (foot, head) =
        (to.point(DVec2::new(seen.gauge, top)), to.point(DVec2::new(seen.gauge, top + height)));
    let mut items = Vec::new();
    let line = head.y - 2.0;
    let middle = to.point(DVec2::ZERO).x;
    let edge = size.x - 2.0;
    let end = head.x.min(edge);
    if head.x < edge {
        let block = [foot, foot + DVec2::new(5.0, 0.0), head + DVec2::new(5.0, 0.0), head];
        items.push(Item::Facet { points: block.to_vec(), shade: TOOL });
        items.push(Item::Shape {
            loops: vec![Contour {
                vertices: block.iter().map(|p| Vertex { p: *p, bulge: 0.0, tag: 0 }).collect(),
            }],
            pen: Pen::Cut,
            filled: false,
        });
    } else {
        items.extend(
            [-1.0, 1.0]
                .map(|k| Item::line(DVec2::new(edge, line), DVec2::new(edge - 2.0, line + k), Pen::Hair)),
        );
    }
    items.push(Item::line(DVec2::new(middle, line), DVec2::new(end, line), Pen::Hair));
    items.push(Item::line(DVec2::new(end, line - 1.5), DVec2::new(end, line + 1.5), Pen::Hair));
    // Beside the block where there is room, else over the line.
    let said = format!("stop {gauge}");
    if end + 26.0 < edge {
        items.push(Item::text(DVec2::new(end + 6.5, foot.y.min(head.y + 4.0)), said, 3.2, Anchor::Start));
    } else {
        items.push(Item::text(DVec2::new(edge - 3.0, line - 1.2), said, 3.2, Anchor::End));
    }
    items
}
