//! What a bender works from: a row a bend, and the corners of the middle line.

use frame::BenderTable;
use glam::DVec2;
use ground::quantity::Display;

use crate::{Anchor, Item, Pen};

const TEXT: f64 = 2.6;
const LINE: f64 = 3.8;
/// Width of a column; of the last one, which holds words.
const COLUMN: f64 = 15.0;
/// Between the two tables.
const BETWEEN: f64 = 8.0;

/// Its height on paper, and its items. Where not `all` rows have room the rest is told.
pub fn bender_table(t: &BenderTable, corner: DVec2, d: &Display, most: Option<usize>) -> (f64, Vec<Item>) {
    let unit = d.length.sign();
    let mut steps: Vec<Vec<String>> = t
        .steps
        .iter()
        .enumerate()
        .map(|(i, s)| {
            let turn = if s.turn.is_empty() { "–".into() } else { s.turn.clone() };
            let [n, straight] = [(i + 1).to_string(), s.straight.clone()];
            vec![n, straight, turn, s.angle.clone(), s.radius.clone(), s.mark.clone()]
        })
        .collect();
    steps.push(vec!["end".into(), t.tail.clone()]);
    let corners: Vec<Vec<String>> =
        t.corners.iter().map(|c| vec![c.x.clone(), c.y.clone(), c.z.clone(), c.what.clone()]).collect();
    let straight = format!("straight {unit}");
    let left = ["bend", &straight, "turn", "angle", "radius", "mark at"];
    let right = ["x", "y", "z", ""];
    let second = corner.x + COLUMN * left.len() as f64 + BETWEEN;
    let (a, mut items) = rows(&left, &steps, corner, most);
    let (b, more) = rows(&right, &corners, DVec2::new(second, corner.y), most);
    items.extend(more);
    let mut y = corner.y + a.max(b);
    for text in &t.notes {
        items.push(Item::text(DVec2::new(corner.x, y), text.as_str(), 2.2, Anchor::Start));
        y += LINE - 0.6;
    }
    (y - corner.y, items)
}

/// A table of numbers: its height and its items.
fn rows(heads: &[&str], rows: &[Vec<String>], o: DVec2, most: Option<usize>) -> (f64, Vec<Item>) {
    let right = |k: usize| o.x + COLUMN * (k as f64 + 1.0) - 2.0;
    let cell = |k: usize, y: f64, text: &str, bold: bool| {
        // Words stand at the left of their column.
        let item = if heads[k].is_empty() {
            Item::text(DVec2::new(right(k) - COLUMN + 4.0, y), text, TEXT, Anchor::Start)
        } else {
            Item::text(DVec2::new(right(k), y), text, TEXT, Anchor::End)
        };
        if bold { item.bold() } else { item }
    };
    let mut y = o.y;
    let mut items: Vec<Item> = (0..heads.len()).map(|k| cell(k, y, heads[k], true)).collect();
    items.push(Item::line(
        DVec2::new(o.x, y + 1.1),
        DVec2::new(o.x + COLUMN * heads.len() as f64, y + 1.1),
        Pen::Hair,
    ));
    let shown = most.map_or(rows.len(), |m| if rows.len() > m { m - 1 } else { rows.len() });
    for row in &rows[..shown] {
        y += LINE;
        items.extend(row.iter().enumerate().map(|(k, text)| cell(k, y, text, false)));
    }
    if shown < rows.len() {
        y += LINE;
        let text = format!("and {} more: see the sheet of this bar", rows.len() - shown);
        items.push(Item::text(DVec2::new(o.x, y), text, TEXT, Anchor::Start));
    }
    (y + LINE - o.y, items)
}
