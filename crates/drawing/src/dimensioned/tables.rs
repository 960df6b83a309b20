//! Tables on paper: rows that run on from column to column and from sheet to sheet, each with its head.

use glam::DVec2;
use ground::geom::Bounds;

use crate::hole_marks::text_width;
use crate::{Anchor, Item, Pen};

/// Width of a column of tables.
pub const WIDE: f64 = 88.0;
const ROW: f64 = 4.4;
const TITLE: f64 = 5.5;
const SIZE: f64 = 2.7;
/// Between tables.
const GAP: f64 = 5.0;

/// A column: its heading, its share of the width, and whether its cells end at its right side.
pub type Column = (&'static str, f64, bool);

/// A table; one without columns is lines of text.
#[derive(Clone, Debug)]
pub struct Table {
    pub title: String,
    pub columns: Vec<Column>,
    pub rows: Vec<Vec<String>>,
}

impl Table {
    /// Lines of text, broken to the width.
    pub fn text(title: &str, lines: impl IntoIterator<Item = String>) -> Table {
        let most = (WIDE / text_width("n", SIZE)) as usize;
        let broken = lines.into_iter().flat_map(|l| crate::wrapped::broken(&l, most));
        Table { title: title.into(), columns: Vec::new(), rows: broken.map(|l| vec![l]).collect() }
    }

    fn head(&self) -> f64 {
        TITLE + if self.columns.is_empty() { 0.0 } else { ROW }
    }
}

/// Lays tables into columns of paper: those given, then whole sheets. Items of each sheet, from the one that
/// the first columns are on.
pub fn laid(tables: &[Table], first: &[Bounds], sheet: Bounds) -> Vec<Vec<Item>> {
    let mut out: Vec<Vec<Item>> = vec![Vec::new()];
    let mut rooms: std::collections::VecDeque<Bounds> = first.iter().copied().collect();
    let mut y = rooms.front().map_or(f64::INFINITY, |r| r.min.y);
    for t in tables.iter().filter(|t| !t.rows.is_empty()) {
        let mut rest = t.rows.as_slice();
        let mut goes_on = false;
        while !rest.is_empty() {
            let low = rooms.front().map_or(f64::NEG_INFINITY, |r| r.max.y);
            let fits = ((low - y - t.head()) / ROW).floor();
            // No heading alone, and no table broken that would stand whole in a fresh column.
            let fresh = rooms.front().is_some_and(|r| (y - r.min.y).abs() < 1e-9);
            let whole = rest.len() as f64 <= fits;
            let breaks = fits >= 4.0 && (rest.len() as f64 > 12.0 || fresh);
            if !(whole || breaks || (fresh && fits >= 1.0)) {
                rooms.pop_front();
                if rooms.is_empty() {
                    out.push(Vec::new());
                    rooms.extend(columns(sheet));
                }
                y = rooms.front().map_or(0.0, |r| r.min.y);
                continue;
            }
            let (now, later) = rest.split_at(rest.len().min(fits.max(1.0) as usize));
            let x = rooms.front().map_or(sheet.min.x, |r| r.min.x);
            if let Some(page) = out.last_mut() {
                page.extend(drawn(t, now, DVec2::new(x, y), goes_on));
            }
            y += t.head() + ROW * now.len() as f64 + GAP;
            rest = later;
            goes_on = true;
        }
    }
    out
}

/// Columns of a sheet that has nothing else.
pub fn columns(sheet: Bounds) -> Vec<Bounds> {
    let n = (((sheet.size().x + GAP) / (WIDE + GAP)).floor() as usize).max(1);
    (0..n)
        .map(|k| {
            let x = sheet.min.x + (WIDE + GAP) * k as f64;
            Bounds { min: DVec2::new(x, sheet.min.y), max: DVec2::new(x + WIDE, sheet.max.y) }
        })
        .collect()
}

fn drawn(t: &Table, rows: &[Vec<String>], corner: DVec2, goes_on: bool) -> Vec<Item> {
    let title = if goes_on { format!("{}, continued", t.title) } else { t.title.clone() };
    let mut out = vec![Item::text(corner + DVec2::new(0.0, 3.4), title, 3.3, Anchor::Start).bold()];
    let mut y = corner.y + TITLE;
    let shares: f64 = t.columns.iter().map(|c| c.1).sum();
    let cells: Vec<(f64, f64, bool)> = t
        .columns
        .iter()
        .scan(corner.x, |x, (_, share, ends)| {
            let wide = WIDE * share / shares;
            *x += wide;
            Some((*x - wide, wide, *ends))
        })
        .collect();
    let put = |out: &mut Vec<Item>, y: f64, k: usize, text: &str, size: f64| {
        // An empty heading is kept as a place.
        let Some((x, wide, ends)) = cells.get(k).copied() else {
            out.push(Item::text(DVec2::new(corner.x, y), text, size, Anchor::Start));
            return;
        };
        let size = size.min((wide - 1.6) / text_width(text, 1.0).max(1e-3));
        let (at, anchor) = if ends { (x + wide - 0.8, Anchor::End) } else { (x + 0.8, Anchor::Start) };
        out.push(Item::text(DVec2::new(at, y), text, size, anchor));
    };
    if !t.columns.is_empty() {
        for (k, c) in t.columns.iter().enumerate() {
            put(&mut out, y + 3.0, k, c.0, 2.3);
        }
        y += ROW;
        out.push(Item::line(DVec2::new(corner.x, y - 0.2), DVec2::new(corner.x + WIDE, y - 0.2), Pen::Cut));
    }
    for row in rows {
        for (k, text) in row.iter().enumerate() {
            put(&mut out, y + 3.2, k, text, SIZE);
        }
        y += ROW;
        if !t.columns.is_empty() {
            out.push(Item::line(DVec2::new(corner.x, y), DVec2::new(corner.x + WIDE, y), Pen::Hair));
        }
    }
    out
}
