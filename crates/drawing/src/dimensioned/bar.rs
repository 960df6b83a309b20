//! The detail of a bar to scale: its sides as they are cut, its length from tip to tip, what its ends are cut
//! to, its holes from the long point of its start, its section.

use frame::{BarRow, EndRelation, FrameResult, Standing, standing};
use glam::{DAffine3, DVec2};
use ground::geom::Bounds;
use ground::quantity::Display;
use sheet::result::Margin;

use super::bar_looks::{bent_way, section_seen};
use super::bender_table::bender_table;
use super::broken::{Broken, GAP};
use super::ordinates::{self, Ordinate};
use super::page::Projection;
use super::scale;
use super::views_on_paper::of_standing;
use crate::hole_marks::text_width;
use crate::sizes::{self, Size};
use crate::views::{Sight, Wires, wires};
use crate::wrapped::broken;
use crate::{Anchor, Drawing, Item, Pen};

/// Width of a detail on a sheet of its own.
const ALONE: f64 = 230.0;
const HEAD: f64 = 11.5;
const TEXT: f64 = 2.6;
const LINE: f64 = 3.8;
/// Beside the views: the cuts on either side, and the section.
const CUTS: f64 = 27.0;
const SECTION: f64 = 26.0;
/// What is drawn of a stretch where nothing happens, mm on paper: as much as has room.
const KEPT: [f64; 5] = [120.0, 80.0, 50.0, 30.0, 16.0];
/// No side is drawn deeper than this, mm on paper.
const DEEPEST: f64 = 20.0;
/// A whole one is drawn no shallower than this.
const SHALLOWEST: f64 = 5.0;
/// Rows of a bender's table beside other details.
const MOST_ROWS: usize = 24;
/// mm within which two places along a bar are one.
const ONE: f64 = 0.5;

/// One bar on a sheet of its own.
pub fn bar_drawing(r: &FrameResult, row: &BarRow, projection: Projection) -> Drawing {
    let bodies = standing(r, false);
    let (high, items) = detail(row, body_of(row, &bodies), &r.display, projection, ALONE);
    let margin = DVec2::splat(8.0);
    Drawing {
        size: DVec2::new(ALONE, high) + margin * 2.0,
        title: format!("{} {}", row.mark, row.name),
        items: items.into_iter().map(|i| i.moved(margin)).collect(),
    }
}

/// The body that a row of the list is of.
pub fn body_of<'a>(row: &BarRow, bodies: &'a [Standing]) -> Option<&'a Standing> {
    let is = |s: &&Standing| !s.is_plate && s.places.iter().any(|p| row.members.contains(&p.name));
    bodies.iter().find(is)
}

/// Its height on paper, its items from the upper left corner, and its scale.
pub fn detail(
    row: &BarRow,
    body: Option<&Standing>,
    d: &Display,
    projection: Projection,
    wide: f64,
) -> (f64, Vec<Item>) {
    let unit = d.length.sign();
    let mut items = Vec::new();
    let hand = if row.opposite { " · opposite hand" } else { "" };
    let head = format!("{} · {} · {} off{hand}", row.mark, row.name, row.quantity);
    let most = ((wide - SECTION) / text_width("n", 3.6)) as usize;
    items.push(Item::fitted(DVec2::new(0.0, 4.0), head, 3.6, most, Anchor::Start).bold());
    let mass = d.mass_unit();
    let mut about = format!("{} · {} · {} {mass} each", row.section, row.material, row.unit_mass);
    items.extend(section_seen(row, DVec2::new(wide - SECTION / 2.0, HEAD + 10.0)));
    let mut y = HEAD;
    match body.filter(|_| row.way.0.is_empty()) {
        Some(body) => {
            let (drawn, high, said) = sides(row, body, d, projection, DVec2::new(wide - SECTION, HEAD));
            items.extend(drawn);
            y += high;
            about += &format!(" · {said}");
        }
        None => {
            items.extend(bent_way(
                &row.way.0,
                DVec2::new(20.0, y + 4.0),
                DVec2::new(wide - SECTION - 40.0, 30.0),
            ));
            y += 41.0;
            about += " · not to scale";
            let text = format!("{} {unit} developed along its middle", row.length);
            items.push(Item::text(DVec2::new(0.0, y), text, 3.0, Anchor::Start).bold());
        }
    }
    items.push(Item::text(DVec2::new(0.0, 8.2), about, TEXT, Anchor::Start));
    y = y.max(HEAD + 24.0) + 3.0;
    for line in notes(row).iter().flat_map(|n| broken(n, (wide / text_width("n", TEXT)) as usize)) {
        items.push(Item::text(DVec2::new(0.0, y), line, TEXT, Anchor::Start));
        y += LINE;
    }
    if let Some(table) = &row.bender {
        let most = if wide == ALONE { None } else { Some(MOST_ROWS) };
        let (high, drawn) = bender_table(table, DVec2::new(0.0, y + 1.0), d, most);
        items.extend(drawn);
        y += high + 1.0;
    }
    (y + 2.0, items)
}

fn notes(row: &BarRow) -> Vec<String> {
    let mut out = vec![format!("centre {} · short {}", row.centre, row.short)];
    if !row.edge.is_empty() {
        out[0] += &format!(" · longest edge {}", row.edge);
    }
    match row.lie {
        EndRelation::Plain => {}
        EndRelation::Same => out[0] += " · ends the same way",
        EndRelation::Opposite => out[0] += " · ends opposite",
        EndRelation::Turned => out[0] += &format!(" · far end {}", row.ends),
    }
    // A straight bar shows its ends; of a bent one they are told.
    let ends = row.cuts.each_ref().map(|c| c.text.to_string());
    if !row.way.0.is_empty() && ends.iter().any(|e| e != "square" && e != "none") {
        out.push(format!("start {} · end {}", ends[0], ends[1]));
    }
    if row.bender.is_none() && !row.bends.is_empty() {
        out.push(row.bends.clone());
    }
    if !row.length_gap.is_empty() {
        out[0] += &format!(" · rounding the length leaves {}", row.length_gap);
    }
    out.extend(row.worked.iter().chain(&row.drilled).cloned());
    out
}

/// The sides of a straight bar: from the front, and from above where that shows more. Its height, and its
/// scale in words.
fn sides(
    row: &BarRow,
    body: &Standing,
    d: &Display,
    projection: Projection,
    room: DVec2,
) -> (Vec<Item>, f64, String) {
    let bodies = [of_standing(body, &DAffine3::IDENTITY)];
    let mut seen = vec![wires(&bodies, &Sight::FRONT, false), wires(&bodies, &Sight::TOP, false)];
    if is_plain(&seen[1]) {
        seen.pop();
    } else if is_plain(&seen[0]) {
        seen.remove(0);
    }
    // What is seen from above stands below in first angle, above in third.
    if projection == Projection::Third {
        seen.reverse();
    }
    let b = seen.iter().map(Wires::bounds).reduce(|a, b| a.join(&b));
    let Some(b) = b else { return (Vec::new(), 0.0, String::new()) };
    let (x0, x1) = (b.min.x, b.max.x);
    let stations: Vec<f64> = row.stations.iter().map(|s| x0 + (x1 - x0) * s).collect();
    let at = happenings(&seen, x0, x1);
    let free = room.x - 2.0 * CUTS;
    let deep = seen.iter().map(|w| w.bounds().size().y).fold(1e-6, f64::max);
    // Whole where that leaves its sides deep enough to be read; else broken.
    let scales = |least: f64| {
        let mut s = DEEPEST / deep;
        std::iter::from_fn(move || {
            let at_scale = scale::largest(d.length, s);
            s = at_scale * 0.99;
            (at_scale * deep >= least).then_some(at_scale)
        })
        .take(60)
    };
    let whole = scales(SHALLOWEST).find_map(|s| Broken::new(&at, s, f64::INFINITY, free));
    let parts = || scales(0.0).find_map(|s| KEPT.iter().find_map(|k| Broken::new(&at, s, *k, free * 0.9)));
    let fits = whole.or_else(parts);
    let Some(way) = fits else { return (Vec::new(), 0.0, "too long for its sides to be drawn".into()) };
    let left = CUTS + (free - way.width()) / 2.0;
    let mut items = Vec::new();
    let mut y = room.y + 9.0;
    let top = y;
    for w in &seen {
        let own = w.bounds();
        let high = own.size().y * way.scale;
        for stroke in &w.seen {
            let parts = way.strokes(stroke, y, own.max.y);
            let on_paper = |points| Item::Path { points, pen: Pen::Edge }.moved(DVec2::new(left, 0.0));
            items.extend(parts.into_iter().map(on_paper));
        }
        items.extend(way.breaks().iter().flat_map(|x| break_line(left + x, y, high)));
        y += high + 4.0;
    }
    let shape = Bounds { min: DVec2::new(left, top), max: DVec2::new(left + way.width(), y - 4.0) };
    let length = Size {
        from: DVec2::new(shape.min.x, shape.min.y),
        to: DVec2::new(shape.max.x, shape.min.y),
        side: Some(Margin::North),
        out: DVec2::ZERO,
        text: format!("{} {}", row.length, d.length.sign()),
        overall: true,
    };
    items.extend(sizes::drawn(&[length], shape, &|p| p, &[]));
    let cut = |k: usize| format!("{}{}", row.cuts[k].text, if row.cuts[k].beyond { " !" } else { "" });
    for (k, (x, anchor)) in
        [(shape.min.x - 3.0, Anchor::End), (shape.max.x + 3.0, Anchor::Start)].into_iter().enumerate()
    {
        let most = ((CUTS - 4.0) / text_width("n", 3.0)) as usize;
        items.push(Item::fitted(DVec2::new(x, shape.centre().y + 1.0), cut(k), 3.0, most, anchor));
    }
    let mut told: Vec<Ordinate> = Vec::new();
    for v in &stations {
        let text = d.length(v - x0);
        if told.iter().all(|o| o.text != text) {
            told.push(Ordinate { at: DVec2::new(left + way.x(*v), shape.max.y), text, side: Margin::South });
        }
    }
    let below = ordinates::depth(&told, Margin::South).max(2.0);
    items.extend(ordinates::drawn(&told, shape));
    let said = if way.breaks().is_empty() {
        scale::said(way.scale)
    } else {
        format!("{}, broken", scale::said(way.scale))
    };
    (items, shape.max.y + below - room.y, said)
}

/// Whether a side shows a rectangle and nothing else.
fn is_plain(w: &Wires) -> bool {
    let b = w.bounds();
    w.seen.iter().flat_map(|s| s.windows(2)).all(|p| {
        let along = (p[0].y - p[1].y).abs() < 1e-3;
        let at_end =
            [b.min.x, b.max.x].iter().any(|x| (p[0].x - x).abs() < 1e-2 && (p[1].x - x).abs() < 1e-2);
        along || at_end
    })
}

/// Places along a bar where its sides are not just straight on.
fn happenings(seen: &[Wires], x0: f64, x1: f64) -> Vec<f64> {
    let mut out = vec![x0, x1];
    for p in seen.iter().flat_map(|w| &w.seen).flat_map(|s| s.windows(2)) {
        let along = (p[0].y - p[1].y).abs() < 1e-3;
        if !along {
            out.extend([p[0].x, p[1].x]);
        }
    }
    out.sort_by(f64::total_cmp);
    out.dedup_by(|b, a| (*b - *a).abs() < ONE);
    out
}

/// A zigzag across a bar on either side of what is cut out.
fn break_line(x: f64, y: f64, high: f64) -> Vec<Item> {
    let line = |side: f64| {
        let at = |(dx, f): (f64, f64)| DVec2::new(x + side + dx, y - 1.2 + (high + 2.4) * f);
        let way = [(0.0, 0.0), (0.0, 0.42), (-0.8, 0.46), (0.8, 0.54), (0.0, 0.58), (0.0, 1.0)];
        Item::Path { points: way.map(at).to_vec(), pen: Pen::Hair }
    };
    vec![line(-GAP), line(GAP)]
}
