//! A full-size paper template, tiled over sheets with overlap and crop marks. Each page carries a square to measure,
//! so that a printer that shrinks to fit is found out before the plate is cut.

use glam::DVec2;

use super::flat::{bend_texts, outline};
use super::{Anchor, Drawing, Item, Pen, ToPaper};
use crate::quantity::LengthUnit;
use crate::result::PieceResult;

#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Paper {
    #[default]
    A4,
    A3,
    Letter,
}

impl Paper {
    /// Width and height, mm, upright.
    pub fn size(self) -> DVec2 {
        match self {
            Paper::A4 => DVec2::new(210.0, 297.0),
            Paper::A3 => DVec2::new(297.0, 420.0),
            Paper::Letter => DVec2::new(215.9, 279.4),
        }
    }

    pub fn named(name: &str) -> Option<Paper> {
        match name.to_ascii_lowercase().as_str() {
            "a4" => Some(Paper::A4),
            "a3" => Some(Paper::A3),
            "letter" => Some(Paper::Letter),
            _ => None,
        }
    }
}

/// White border that printers leave.
const BORDER: f64 = 10.0;
/// Head of each page.
const HEAD: f64 = 22.0;
/// Neighbouring pages show this much of one another.
pub const OVERLAP: f64 = 10.0;
/// The most pages one template may have.
pub const MOST_PAGES: usize = 200;

/// The pages, row by row from the north-west; `None` when there would be more than [`MOST_PAGES`].
pub fn template(piece: &PieceResult, paper: Paper) -> Option<Vec<Drawing>> {
    let page = paper.size();
    let tile = page - DVec2::new(2.0 * BORDER, 2.0 * BORDER + HEAD);
    let step = tile - DVec2::splat(OVERLAP);
    let b = piece.flat.outer.bounds();
    let size = b.size() + DVec2::splat(4.0);
    let count = |length: f64, tile: f64, step: f64| if length <= tile { 1 } else { ((length - tile) / step).ceil() as usize + 1 };
    let (columns, rows) = (count(size.x, tile.x, step.x), count(size.y, tile.y, step.y));
    if columns.saturating_mul(rows) > MOST_PAGES {
        return None;
    }
    let corner = DVec2::new(BORDER, BORDER + HEAD);
    let pages = (0..rows).flat_map(|r| (0..columns).map(move |c| (r, c)));
    let all = rows * columns;
    Some(
        pages
            .enumerate()
            .map(|(n, (row, column))| {
                let from = DVec2::new(step.x * column as f64, step.y * row as f64);
                let to = ToPaper { scale: 1.0, shift: corner - from + DVec2::new(2.0 - b.min.x, 2.0 + b.max.y) };
                let mut seen = outline(piece, &to);
                seen.extend(bend_texts(piece, &to));
                let mut items = vec![Item::Window { min: corner, max: corner + tile, items: seen }];
                items.extend(crop_marks(corner, tile));
                items.extend(seams(corner, tile, [row > 0, column > 0]));
                items.extend(check_square(corner + tile, piece.display.length));
                items.extend(head(piece, (n + 1, all), (row, column), (rows, columns), page.x));
                Drawing { size: page, title: format!("{} {} template, page {} of {all}", piece.mark, piece.name, n + 1), items }
            })
            .collect(),
    )
}

fn page_name(row: usize, column: usize) -> String {
    let letter = char::from(b'A' + (row % 26) as u8);
    let again = if row >= 26 { format!("{}", row / 26) } else { String::new() };
    format!("{letter}{again}{}", column + 1)
}

fn crop_marks(corner: DVec2, tile: DVec2) -> Vec<Item> {
    let mut out = Vec::new();
    for (x, sx) in [(corner.x, -1.0), (corner.x + tile.x, 1.0)] {
        for (y, sy) in [(corner.y, -1.0), (corner.y + tile.y, 1.0)] {
            let p = DVec2::new(x, y);
            out.push(Item::line(p, p + DVec2::new(sx * 6.0, 0.0), Pen::Hair));
            out.push(Item::line(p, p + DVec2::new(0.0, sy * 6.0), Pen::Hair));
        }
    }
    out
}

/// Where the neighbour above and the neighbour to the west end: lay their edge on this line.
fn seams(corner: DVec2, tile: DVec2, [above, west]: [bool; 2]) -> Vec<Item> {
    let mut out = Vec::new();
    if above {
        let y = corner.y + OVERLAP;
        out.push(Item::line(DVec2::new(corner.x, y), DVec2::new(corner.x + tile.x, y), Pen::Faint));
    }
    if west {
        let x = corner.x + OVERLAP;
        out.push(Item::line(DVec2::new(x, corner.y), DVec2::new(x, corner.y + tile.y), Pen::Faint));
    }
    out
}

/// 100 mm or 4 in each way, in the lower right of the tile.
fn check_square(end: DVec2, unit: LengthUnit) -> Vec<Item> {
    let (side, said) = match unit {
        LengthUnit::Mm => (100.0, "100 mm"),
        LengthUnit::In => (101.6, "4 in"),
    };
    let max = end - DVec2::splat(4.0);
    let min = max - DVec2::splat(side);
    vec![
        Item::frame(min, max, Pen::Hair),
        Item::text(DVec2::new(max.x - 2.0, max.y - 2.0), format!("check square: {said} each way; measure before you cut"), 2.6, Anchor::End),
    ]
}

fn head(piece: &PieceResult, (n, all): (usize, usize), (row, column): (usize, usize), (rows, columns): (usize, usize), width: f64) -> Vec<Item> {
    let d = &piece.display;
    let left = DVec2::new(BORDER, BORDER);
    let size = format!("flat {} × {}", d.length(piece.value("flat_length")), d.length_unit(piece.value("flat_width")));
    let how = "Print at 100 %, never \"fit to page\". Lay each page on its neighbour's dashed line.";
    let mut out = vec![
        Item::text(left + DVec2::new(0.0, 5.0), format!("{}  {}", piece.mark, piece.name), 5.0, Anchor::Start).bold(),
        Item::text(
            left + DVec2::new(0.0, 10.5),
            format!("{} {}   {size}   quantity {}", piece.material, piece.thickness_said(), piece.quantity),
            3.4,
            Anchor::Start,
        ),
        Item::text(left + DVec2::new(0.0, 15.5), how, 3.0, Anchor::Start),
        Item::text(DVec2::new(width - BORDER - 34.0, BORDER + 5.0), format!("page {}   {n} of {all}", page_name(row, column)), 3.8, Anchor::End).bold(),
    ];
    // A map of the pages, this one filled.
    let cell = (30.0 / columns as f64).min(18.0 / rows as f64).min(6.0);
    let origin = DVec2::new(width - BORDER - cell * columns as f64, BORDER);
    for r in 0..rows {
        for c in 0..columns {
            let min = origin + DVec2::new(c as f64, r as f64) * cell;
            let max = min + DVec2::splat(cell);
            if (r, c) == (row, column) {
                out.push(Item::Facet { points: vec![min, DVec2::new(max.x, min.y), max, DVec2::new(min.x, max.y)], shade: 0.2 });
            }
            out.push(Item::frame(min, max, Pen::Hair));
        }
    }
    out
}
