//! The section of a bar as it is seen along it, and the way of a bent one.

use frame::BarRow;
use glam::DVec2;
use ground::geom::{Bounds, Contour, Vertex};

use crate::{Anchor, Item, Pen};

fn at(x: f64, y: f64) -> DVec2 {
    DVec2::new(x, y)
}

/// The middle line of a bent bar in a box, its start marked.
pub fn bent_way(way: &[DVec2], corner: DVec2, room: DVec2) -> Vec<Item> {
    let b = Bounds::of(way.iter().copied());
    let scale = (room / b.size().max(DVec2::splat(1e-6))).min_element();
    let spare = (room - b.size() * scale) / 2.0;
    let to = |p: &DVec2| corner + spare + at(p.x - b.min.x, b.max.y - p.y) * scale;
    let mut out: Vec<Item> = way.windows(2).map(|w| Item::line(to(&w[0]), to(&w[1]), Pen::Cut)).collect();
    let start = to(&way[0]);
    out.push(Item::Shape { loops: vec![Contour::circle(start, 0.9, 0)], pen: Pen::Hair, filled: true });
    out.push(Item::text(start + at(0.0, 4.0), "start", 2.2, Anchor::Middle));
    out
}

/// The section as it is seen from the start of the bar, looking along it, with a mark on each side that is
/// drilled.
pub fn section_seen(row: &BarRow, o: DVec2) -> Vec<Item> {
    let Some(outer) = row.seen.first() else { return Vec::new() };
    let b = outer.bounds();
    let scale = 11.0 / b.size().max_element().max(1e-6);
    // Its x runs to the left of who looks along the bar.
    let to = |p: DVec2| o + at(-(p.x - b.centre().x), -(p.y - b.centre().y)) * scale;
    let laid = |c: &Contour| Contour {
        vertices: c.vertices.iter().map(|v| Vertex { p: to(v.p), bulge: v.bulge, tag: 0 }).collect(),
    };
    let mut items =
        vec![Item::Shape { loops: row.seen.iter().map(laid).collect(), pen: Pen::Hair, filled: true }];
    for way in &row.drilled_to {
        let out = at(-way.x, -way.y);
        let foot = o + out * (b.size() / 2.0 * scale + 0.6).dot(out.abs());
        items.push(Item::Facet {
            points: vec![foot, foot + out * 2.4 + out.perp() * 1.1, foot + out * 2.4 - out.perp() * 1.1],
            shade: 0.1,
        });
    }
    items.push(Item::text(o + at(0.0, 11.0), "from the start, top up", 2.2, Anchor::Middle));
    items
}
