//! Views on paper: beside and below one another as the projection has them, at the largest scale that fits.

use frame::Standing;
use glam::{DAffine3, DVec2};
use ground::geom::Bounds;
use ground::quantity::LengthUnit;
use sheet::result::Margin;

use super::ordinates::{self, Ordinate};
use super::page::Projection;
use super::scale;
use super::section_view;
use crate::sizes::{self, Size};
use crate::views::{Body, Sight, Wires, bare, wires};
use crate::{Anchor, Item, Pen};

/// A view, and what stands round it.
pub struct View {
    pub sight: Sight,
    pub called: &'static str,
    pub wires: Wires,
    pub sizes: Vec<Size>,
    /// From one datum, in mm as the view lies, nearer than the sizes.
    pub ordinates: Vec<Ordinate>,
    /// Cut faces, where it is a section, and how thick the sheet is.
    pub cut: Option<(Vec<Vec<DVec2>>, f64)>,
    /// Where the plane of a section stands, and which way one looks along x.
    pub trace: Option<(f64, f64)>,
}

impl View {
    pub fn new(sight: Sight, called: &'static str, wires: Wires, sizes: Vec<Size>) -> View {
        View { sight, called, wires, sizes, ordinates: Vec::new(), cut: None, trace: None }
    }

    /// What stands nearer to it than its sizes: what is told from the datum, the ends of a section's trace.
    fn nearer(&self, m: Margin) -> f64 {
        let traced = self.trace.is_some() && matches!(m, Margin::North | Margin::South);
        ordinates::depth(&self.ordinates, m) + if traced { section_view::BEYOND } else { 0.0 }
    }
}

/// Between views, and round them, mm.
const GAP: f64 = 6.0;
const CAPTION: f64 = 5.0;
const BLUR: f64 = 0.5;
/// Least room of the picture in space.
const PICTURE: f64 = 45.0;

/// The views at the largest scale that fits, and the corner that is left for the picture.
pub fn laid(
    views: &[View],
    projection: Projection,
    room: Bounds,
    unit: LengthUnit,
) -> (Vec<Item>, f64, Bounds) {
    let of = |s: Sight| views.iter().find(|v| v.sight == s);
    let (front, top) = (of(Sight::FRONT), of(Sight::TOP));
    let side = of(Sight::LEFT).or_else(|| of(Sight::RIGHT));
    let box_of = |v: Option<&View>| v.map_or(DVec2::ZERO, |v| v.wires.bounds().size());
    let pad = |v: Option<&View>, m: Margin| v.map_or(0.0, |v| sizes::depth(&v.sizes, m) + v.nearer(m));
    let most = |a: f64, b: f64| a.max(b);
    let west = most(pad(front, Margin::West), pad(top, Margin::West));
    let between = most(pad(front, Margin::East), pad(top, Margin::East)) + pad(side, Margin::West) + GAP;
    let right = if side.is_some() { pad(side, Margin::East) } else { PICTURE };
    let (upper, lower) = if projection == Projection::First { (front, top) } else { (top, front) };
    let caption = |v: Option<&View>| if v.is_some() { CAPTION } else { 0.0 };
    // The side view stands beside the front view.
    let is_front = |v: Option<&View>| v.is_some_and(|v| v.sight == Sight::FRONT);
    let beside = |v: Option<&View>, m: Margin| {
        let own = pad(v, m);
        if is_front(v) { most(own, pad(side, m)) } else { own }
    };
    let above = beside(upper, Margin::North) + beside(upper, Margin::South) + caption(upper);
    let below = beside(lower, Margin::North) + beside(lower, Margin::South) + caption(lower);
    let (wide, tall) = (
        most(box_of(front).x, box_of(top).x) + box_of(side).x,
        most(box_of(front).y, box_of(side).y) + box_of(top).y,
    );
    let free = room.size() - DVec2::new(west + between + right, above + below + GAP);
    let fit = (free.x.max(1.0) / wide.max(1e-6)).min(free.y.max(1.0) / tall.max(1e-6));
    let scale = scale::largest(unit, fit);
    let spare = (free - DVec2::new(wide, tall) * scale).max(DVec2::ZERO) / 2.0;
    let x0 = room.min.x + west + spare.x.min(20.0);
    let height = |v: Option<&View>| {
        let own = box_of(v).y;
        scale * if is_front(v) { own.max(box_of(side).y) } else { own }
    };
    let upper_top = room.min.y + spare.y + beside(upper, Margin::North);
    let gap = if upper.is_some() && lower.is_some() { GAP } else { 0.0 };
    let lower_top = upper_top
        + height(upper)
        + beside(upper, Margin::South)
        + caption(upper)
        + gap
        + beside(lower, Margin::North);
    let front_top = if projection == Projection::First { upper_top } else { lower_top };
    let top_top = if projection == Projection::First { lower_top } else { upper_top };
    let width = scale * most(box_of(front).x, box_of(top).x);
    let x1 = x0 + width + between;
    let mut items = Vec::new();
    for (v, x, y, row) in
        [(front, x0, front_top, front), (top, x0, top_top, top), (side, x1, front_top, front)]
    {
        let Some(v) = v else { continue };
        let b = v.wires.bounds();
        let shift = DVec2::new(x - b.min.x * scale, y + b.max.y * scale);
        // Dashes nearer to a line than this on paper only blur it.
        if let Some((loops, thickness)) = &v.cut {
            items.extend(section_view::faces(loops, *thickness, scale, shift));
        }
        // What lies behind a section is thin beside its cut faces.
        let edge = if v.cut.is_some() { Pen::Hair } else { Pen::Edge };
        items.extend(strokes(&v.wires.clone().clear(BLUR / scale), edge, scale, shift));
        let to = move |p: DVec2| DVec2::new(p.x, -p.y) * scale + shift;
        let on_paper = Bounds::of([to(b.min), to(b.max)]);
        if let Some((x, looks)) = v.trace {
            items.extend(section_view::trace(on_paper, to(DVec2::new(x, 0.0)).x, looks));
        }
        let told: Vec<Ordinate> =
            v.ordinates.iter().map(|o| Ordinate { at: to(o.at), ..o.clone() }).collect();
        items.extend(ordinates::drawn(&told, on_paper));
        let deep = |m: Margin| v.nearer(m);
        let outside = Bounds {
            min: on_paper.min - DVec2::new(deep(Margin::West), deep(Margin::North)),
            max: on_paper.max + DVec2::new(deep(Margin::East), deep(Margin::South)),
        };
        // Their lines begin beyond what is told from the datum; a trace they may pass.
        let beyond = |s: &Size| {
            let told = |m: Margin| ordinates::depth(&v.ordinates, m);
            let by = match s.side {
                Some(Margin::South) => DVec2::new(0.0, -told(Margin::South)),
                Some(Margin::North) => DVec2::new(0.0, told(Margin::North)),
                Some(Margin::West) => DVec2::new(-told(Margin::West), 0.0),
                Some(Margin::East) => DVec2::new(told(Margin::East), 0.0),
                None => DVec2::ZERO,
            } / scale;
            Size { from: s.from + by, to: s.to + by, ..s.clone() }
        };
        let sizes: Vec<Size> = v.sizes.iter().map(beyond).collect();
        let told = sizes::drawn(&sizes, outside, &to, &items);
        items.extend(told);
        let under = on_paper.max.y + beside(row, Margin::South) + 2.4;
        items.push(Item::text(DVec2::new(on_paper.centre().x, under), v.called, 2.6, Anchor::Middle));
    }
    // Beside the view that has nothing beside it.
    let corner = match (side, top) {
        (Some(_), Some(_)) => {
            let y = if projection == Projection::First {
                lower_top - beside(lower, Margin::North)
            } else {
                room.min.y
            };
            let end = if projection == Projection::First {
                room.max.y
            } else {
                lower_top - beside(lower, Margin::North)
            };
            Bounds { min: DVec2::new(x0 + width + GAP, y), max: DVec2::new(room.max.x, end - GAP) }
        }
        (Some(_), None) => {
            let y = front_top + height(front) + beside(front, Margin::South) + CAPTION;
            Bounds { min: DVec2::new(room.min.x, y), max: room.max }
        }
        _ => Bounds { min: DVec2::new(x0 + width + between, room.min.y), max: room.max },
    };
    (items, scale, corner)
}

/// Lines of a view on paper; `edge` draws those that are seen.
pub fn strokes(w: &Wires, edge: Pen, scale: f64, shift: DVec2) -> Vec<Item> {
    let pens = [(&w.hidden, Pen::Hidden), (&w.soft, Pen::Hair), (&w.seen, edge)];
    let at = |p: &DVec2| DVec2::new(p.x, -p.y) * scale + shift;
    let path = |s: &Vec<DVec2>, pen: Pen| Item::Path { points: s.iter().map(at).collect(), pen };
    pens.into_iter().flat_map(|(list, pen)| list.iter().map(move |s| path(s, pen))).collect()
}

/// The body in space, as large as the corner lets it, not to scale.
pub fn picture(bodies: &[Body], corner: Bounds) -> Vec<Item> {
    let size = corner.size().min(DVec2::splat(90.0));
    if size.min_element() < 14.0 {
        return Vec::new();
    }
    let w = wires(bodies, &Sight::isometric(), false);
    let b = w.bounds();
    let scale = (size / b.size().max(DVec2::splat(1e-6))).min_element();
    let shift = corner.centre() - DVec2::new(b.centre().x, -b.centre().y) * scale;
    strokes(&w, Pen::Cut, scale, shift)
}

/// A body of a frame where it stands, with its own edges.
pub fn of_standing(s: &Standing, at: &DAffine3) -> Body {
    let made = bare(&s.body.points, &s.body.triangles, at);
    Body { sharp: s.body.edges.clone(), ..made }
}
