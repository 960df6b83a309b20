//! The holes of a piece on paper: where each lies from one datum, what it is and from which side, with the
//! flat to find it on.

use glam::DVec2;
use sheet::result::PieceResult;
use sheet::{HoleRow, HoleTable, hole_table};

use super::flat::outline;
use super::{Anchor, Drawing, Item, Pen, ToPaper};

/// A4 lying.
const PAGE: DVec2 = DVec2::new(297.0, 210.0);
const MARGIN: f64 = 12.0;
const HEAD: f64 = 18.0;
/// The picture on the first page.
const PICTURE: DVec2 = DVec2::new(170.0, 110.0);
const ROW: f64 = 5.0;
/// Of places, side by side.
const COLUMN: f64 = 66.0;
/// So many holes are told one by one; a cutter needs no table, and a drill has none of so many.
pub const MOST_TOLD: usize = 2000;

/// The sheets; none where the piece has no holes.
pub fn hole_sheet(p: &PieceResult) -> Vec<Drawing> {
    let table = hole_table(p);
    if table.rows.is_empty() {
        return Vec::new();
    }
    let told: Vec<&HoleRow> = table.rows.iter().take(MOST_TOLD).collect();
    let below = MARGIN + HEAD + PICTURE.y.max(kinds_height(&table)) + 8.0;
    let (first, rest) = (columns(below), columns(MARGIN + HEAD));
    let split = told.len().min(first);
    let mut pages = vec![(below, &told[..split])];
    pages.extend(told[split..].chunks(rest).map(|rows| (MARGIN + HEAD, rows)));
    let all = pages.len();
    let page = |(n, (top, rows)): (usize, (f64, &[&HoleRow]))| {
        let mut items = head(p, &table, n + 1, all);
        if n == 0 {
            items.extend(picture(p, &table));
            items.extend(kinds(&table));
        }
        items.extend(places(rows, top));
        let title = format!("{} {} holes, sheet {} of {all}", p.mark, p.name, n + 1);
        Drawing { size: PAGE, title, items }
    };
    pages.into_iter().enumerate().map(page).collect()
}

/// Rows in one column of places that begins here.
fn rows_from(top: f64) -> usize {
    (((PAGE.y - MARGIN - top) / ROW).floor() as usize).saturating_sub(1).max(1)
}

/// Places on a page whose columns begin here.
fn columns(top: f64) -> usize {
    rows_from(top) * ((PAGE.x - 2.0 * MARGIN) / COLUMN).floor() as usize
}

fn head(p: &PieceResult, table: &HoleTable, n: usize, all: usize) -> Vec<Item> {
    let start = |y: f64| DVec2::new(MARGIN, MARGIN + y);
    let unit = p.display.length.sign();
    let count = table.rows.len();
    let mut about = format!(
        "{} {} · x to the east and y to the north from the datum, the south-west corner of the flat · {}",
        p.material,
        p.thickness_said(),
        if unit == "mm" { "millimetres" } else { "inches" }
    );
    if count > MOST_TOLD {
        about += &format!(" · the first {MOST_TOLD} of {count} holes; the CSV has all");
    }
    vec![
        Item::text(start(5.0), format!("{} {}: {count} holes", p.mark, p.name), 6.0, Anchor::Start).bold(),
        Item::text(
            DVec2::new(PAGE.x - MARGIN, MARGIN + 5.0),
            format!("hole sheet {n} of {all}"),
            4.0,
            Anchor::End,
        ),
        Item::text(start(11.5), about, 3.2, Anchor::Start),
    ]
}

/// The flat with a tag at each hole and the datum in its corner.
fn picture(p: &PieceResult, table: &HoleTable) -> Vec<Item> {
    let b = p.flat.outer.bounds();
    let room = PICTURE - DVec2::splat(14.0);
    let scale = (room / b.size()).min_element();
    let corner = DVec2::new(MARGIN + 10.0, MARGIN + HEAD + 4.0 + b.size().y * scale);
    let to = ToPaper { scale, shift: DVec2::new(corner.x - b.min.x * scale, corner.y + b.min.y * scale) };
    let mut items = outline(p, &to);
    let datum = to.point(table.datum);
    for (axis, name, at) in
        [(DVec2::X, "x", DVec2::new(9.0, 4.0)), (DVec2::NEG_Y, "y", DVec2::new(-4.0, -9.0))]
    {
        items.push(Item::line(datum - axis * 4.0, datum + axis * 12.0, Pen::Hair));
        let tip = datum + axis * 12.0;
        let side = axis.perp() * 0.9;
        items.push(Item::line(tip, tip - axis * 2.2 + side, Pen::Hair));
        items.push(Item::line(tip, tip - axis * 2.2 - side, Pen::Hair));
        items.push(Item::text(datum + at, name, 3.2, Anchor::Middle));
    }
    // Tags stand beside their holes, to the upper right, where they are few enough to be read.
    if table.rows.len() <= 120 {
        for r in &table.rows {
            let off = r.reach.min(20.0 / scale) * scale * std::f64::consts::FRAC_1_SQRT_2 + 0.6;
            let at = to.point(r.at) + DVec2::new(off, -off);
            items.push(Item::text(at, r.tag.clone(), 2.6, Anchor::Start));
        }
    }
    items
}

fn kinds_height(table: &HoleTable) -> f64 {
    ROW * (2 * table.kinds.len() + 1) as f64
}

/// One line a kind beside the picture: how many, what, from which side.
fn kinds(table: &HoleTable) -> Vec<Item> {
    let left = MARGIN + PICTURE.x + 4.0;
    let right = PAGE.x - MARGIN;
    let mut items = Vec::new();
    for (k, kind) in table.kinds.iter().enumerate() {
        let y = MARGIN + HEAD + 4.0 + 2.0 * ROW * k as f64;
        items.push(Item::text(DVec2::new(left, y), kind.tag.clone(), 3.6, Anchor::Start).bold());
        let most = ((right - left - 8.0) / 1.62) as usize;
        let count =
            format!("{}× {}{}", kind.count, kind.size, if kind.back { ", from the back" } else { "" });
        items.push(Item::fitted(DVec2::new(left + 8.0, y), count, 3.4, most, Anchor::Start).bold());
        if kind.said != kind.size {
            let at = DVec2::new(left + 8.0, y + ROW - 0.6);
            items.push(Item::fitted(at, kind.said.clone(), 2.8, most * 6 / 5, Anchor::Start));
        }
    }
    items
}

fn places(rows: &[&HoleRow], top: f64) -> Vec<Item> {
    let each = rows_from(top);
    let mut items = Vec::new();
    for (c, column) in rows.chunks(each).enumerate() {
        let left = MARGIN + COLUMN * c as f64;
        let cells = [left + 2.0, left + 36.0, left + 60.0];
        let put = |items: &mut Vec<Item>, y: f64, texts: [&str; 3], size: f64| {
            for (k, text) in texts.into_iter().enumerate() {
                let anchor = if k == 0 { Anchor::Start } else { Anchor::End };
                items.push(Item::text(DVec2::new(cells[k], y), text, size, anchor));
            }
        };
        put(&mut items, top - 1.5, ["hole", "x", "y"], 3.0);
        items.push(Item::line(DVec2::new(left, top), DVec2::new(left + COLUMN - 4.0, top), Pen::Cut));
        for (k, r) in column.iter().enumerate() {
            let y = top + ROW * (k + 1) as f64;
            put(&mut items, y - 1.4, [&r.tag, &r.x, &r.y], 3.4);
            items.push(Item::line(DVec2::new(left, y), DVec2::new(left + COLUMN - 4.0, y), Pen::Faint));
        }
    }
    items
}
