//! The sheet for the brake: the flat with its bends numbered in their order, and a row a bend.

use glam::DVec2;

use super::flat::outline;
use super::{Anchor, Drawing, Item, Pen, ToPaper};
use crate::quantity::LengthUnit;
use crate::result::{BendRow, PieceResult};

/// A4 lying down.
const PAGE: DVec2 = DVec2::new(297.0, 210.0);
const BORDER: f64 = 12.0;
const ROW: f64 = 6.5;
/// Where the table starts on the first page.
const TABLE: f64 = 112.0;

/// Heads, left edges of the columns, and whether they hold figures (set to the right).
const COLUMNS: [(&str, f64, bool); 10] = [
    ("strike", 16.0, true),
    ("bend", 22.0, false),
    ("turn", 74.0, false),
    ("inside R", 112.0, true),
    ("length", 132.0, true),
    ("V die", 150.0, true),
    ("back gauge", 174.0, true),
    ("measures", 196.0, true),
    ("force", 216.0, true),
    ("why here, and what to mind", 222.0, false),
];

/// The pages; none for a piece without bends.
pub fn bend_sheet(piece: &PieceResult) -> Vec<Drawing> {
    let rows = &piece.bend_rows;
    // Every bend may take two rows.
    let closed = rows.iter().any(|r| r.angle >= CLOSED);
    let room = |height: f64| ((height / ROW) as usize - 3) / if closed { 2 } else { 1 };
    let (first, other) = (room(PAGE.y - BORDER - TABLE), room(PAGE.y - 2.0 * BORDER - 24.0));
    let mut pages = Vec::new();
    let mut from = 0;
    while from < rows.len() {
        let count = if from == 0 { first } else { other };
        let to = (from + count).min(rows.len());
        pages.push(page(piece, &rows[from..to], from == 0, pages.len() + 1));
        from = to;
    }
    pages
}

fn page(piece: &PieceResult, rows: &[BendRow], first: bool, number: usize) -> Drawing {
    let d = &piece.display;
    let mut items = vec![
        Item::text(DVec2::new(BORDER, BORDER + 4.0), format!("{}  {}", piece.mark, piece.name), 5.5, Anchor::Start).bold(),
        Item::text(DVec2::new(PAGE.x - BORDER, BORDER + 4.0), format!("bend sheet {number}"), 4.0, Anchor::End),
    ];
    let size = format!("flat {} × {}", d.length(piece.value("flat_length")), d.length_unit(piece.value("flat_width")));
    let said = format!("{} {}   {size}   quantity {}   {}", piece.material, piece.thickness_said(), piece.quantity, d.mass(piece.value("mass")));
    items.push(Item::text(DVec2::new(BORDER, BORDER + 10.0), said, 3.6, Anchor::Start));
    let mut y = if first { TABLE } else { BORDER + 22.0 };
    if first {
        items.extend(numbered(piece, DVec2::new(BORDER, BORDER + 14.0), DVec2::new(PAGE.x - 2.0 * BORDER, TABLE - BORDER - 22.0)));
    }
    for (head, x, right) in COLUMNS {
        items.push(Item::text(DVec2::new(x, y), head, 3.0, if right { Anchor::End } else { Anchor::Start }));
    }
    items.push(Item::line(DVec2::new(BORDER - 4.0, y + 1.8), DVec2::new(PAGE.x - BORDER, y + 1.8), Pen::Hair));
    y += ROW;
    for cells in rows.iter().flat_map(steps) {
        for ((_, x, right), text) in COLUMNS.iter().zip(cells) {
            let most = if *x > 220.0 { 44 } else { 30 };
            items.push(Item::fitted(DVec2::new(*x, y), text, 3.2, most, if *right { Anchor::End } else { Anchor::Start }));
        }
        items.push(Item::line(DVec2::new(BORDER - 4.0, y + 1.8), DVec2::new(PAGE.x - BORDER, y + 1.8), Pen::Hair));
        y += ROW;
    }
    let unit = if d.length == LengthUnit::Mm { "mm" } else { "in" };
    let note = format!(
        "Lengths in {unit}. Back gauge from the middle of the bend to the stop; \"measures\" is the outside length after bending. Force by common practice: check the brake's own plate. Keep hands clear of punch and gauge."
    );
    items.push(Item::text(DVec2::new(BORDER, PAGE.y - BORDER + 4.0), note, 2.8, Anchor::Start));
    Drawing { size: PAGE, title: format!("{} {} bend sheet", piece.mark, piece.name), items }
}

/// A bend past this is folded acute in one stroke and closed in another, rad.
const CLOSED: f64 = 170.0 * std::f64::consts::PI / 180.0;

/// A bend as its strokes at the brake, a row of cells each.
fn steps(r: &BendRow) -> Vec<[String; 10]> {
    let way = if r.up { "up" } else { "down" };
    // A number alone would be taken for the strike's.
    let label = if r.label.chars().all(|c| c.is_ascii_digit()) { format!("bend {}", r.label) } else { r.label.clone() };
    let mind = r.strikes.first().map_or(r.reason.clone(), |s| format!("! {s}"));
    let row = |cells: [&str; 10]| cells.map(str::to_string);
    let order = r.order.to_string();
    let turn = format!("{way} {}", r.angle_text);
    if r.angle < CLOSED {
        return vec![row([&order, &label, &turn, &r.radius, &r.length, &r.die, &r.gauge, &r.check, &r.force, &mind])];
    }
    let (acute, then) = (format!("{way}, acute"), format!("{label}, closed"));
    vec![
        row([&format!("{order}a"), &label, &acute, &r.radius, &r.length, "acute", &r.gauge, "", &r.force, &mind]),
        row([&format!("{order}b"), &then, &turn, &r.radius, &r.length, "flat", "", &r.check, "", "pressing flat takes far more force: see the tool's plate"]),
    ]
}

/// The flat with a numbered disc on each bend.
fn numbered(piece: &PieceResult, corner: DVec2, room: DVec2) -> Vec<Item> {
    let b = piece.flat.outer.bounds();
    let scale = (room.x / b.size().x.max(1e-6)).min(room.y / b.size().y.max(1e-6));
    let spare = (room - b.size() * scale) / 2.0;
    let to = ToPaper { scale, shift: corner + spare + DVec2::new(-b.min.x * scale, b.max.y * scale) };
    let mut items = outline(piece, &to);
    for r in &piece.bend_rows {
        let Some(mark) = piece.flat.bends.iter().find(|m| m.name == r.name) else { continue };
        let at = to.point((DVec2::from(mark.from) + DVec2::from(mark.to)) / 2.0);
        let disc = crate::geom::Contour::circle(at, 2.6, 0);
        items.push(Item::Shape { loops: vec![disc], pen: Pen::Hair, filled: true });
        items.push(Item::text(at + DVec2::new(0.0, 1.2), format!("{}", r.order), 3.2, Anchor::Middle).bold());
    }
    items
}
