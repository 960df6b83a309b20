//! A full-size paper template, tiled over sheets with overlap and crop marks. Each page carries two lines to
//! measure, so that a printer that shrinks to fit is found out before the plate is cut.

use glam::{DVec2, Vec2Swizzles};

use super::flat::{bend_texts, lines, marks_said};
use super::hole_marks::hole_marks;
use super::{Anchor, Drawing, Item, Pen, ToPaper};
use ground::geom::Bounds;
use ground::quantity::{LengthUnit, trim_number};
use sheet::contours;
use sheet::result::PieceResult;

#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Paper {
    #[default]
    A4,
    A3,
    Letter,
    /// 11 × 17 inches.
    Tabloid,
}

impl Paper {
    /// Width and height, mm, upright.
    pub fn size(self) -> DVec2 {
        match self {
            Paper::A4 => DVec2::new(210.0, 297.0),
            Paper::A3 => DVec2::new(297.0, 420.0),
            Paper::Letter => DVec2::new(215.9, 279.4),
            Paper::Tabloid => DVec2::new(279.4, 431.8),
        }
    }

    pub const ALL: [Paper; 4] = [Paper::A4, Paper::A3, Paper::Letter, Paper::Tabloid];

    pub fn name(self) -> &'static str {
        match self {
            Paper::A4 => "A4",
            Paper::A3 => "A3",
            Paper::Letter => "Letter",
            Paper::Tabloid => "Tabloid",
        }
    }

    pub fn named(name: &str) -> Option<Paper> {
        Paper::ALL.into_iter().find(|p| p.name().eq_ignore_ascii_case(name))
    }
}

/// What a printer makes of a length: readings of the two lines of a printed template.
#[derive(Clone, Debug, PartialEq)]
pub struct Printed {
    pub name: String,
    /// What it prints of one, along the short and along the long side of its paper.
    pub short: f64,
    pub long: f64,
}

impl Printed {
    /// Above this it is told on every page, for whoever prints without it.
    const TOLD: f64 = 0.003;

    fn along(&self, lying: bool) -> DVec2 {
        if lying { DVec2::new(self.long, self.short) } else { DVec2::new(self.short, self.long) }
    }

    /// How far off it is, as it is said on the page.
    fn said(&self) -> (String, bool) {
        let off = |v: f64| {
            let off = trim_number((v - 1.0).abs() * 100.0, 2);
            match (off.as_str(), v < 1.0) {
                ("0", _) => off,
                (_, true) => format!("−{off}"),
                (_, false) => format!("+{off}"),
            }
        };
        let (short, long) = (off(self.short), off(self.long));
        let worst = (self.short - 1.0).abs().max((self.long - 1.0).abs());
        let text = format!("For printer {}: {short} % short side, {long} % long side", self.name);
        (text, worst > Printed::TOLD)
    }
}

/// White border that printers leave.
const BORDER: f64 = 10.0;
/// Head of each page.
const HEAD: f64 = 24.0;
/// Strip at the left of each page, for the rule that is measured down.
const STRIP: f64 = 8.0;
/// Neighbouring pages show this much of one another.
pub const OVERLAP: f64 = 10.0;
/// The most pages one template may have.
pub const MOST_PAGES: usize = 200;

/// Pages in rows and columns from the north-west, those left out on which no line falls.
struct Tiling {
    page: DVec2,
    tile: DVec2,
    columns: usize,
    rows: usize,
    /// Row, column.
    printed: Vec<(usize, usize)>,
}

impl Tiling {
    /// None where the pages would be too many to look at.
    fn new(piece: &PieceResult, page: DVec2) -> Option<Tiling> {
        let tile = page - DVec2::new(2.0 * BORDER + STRIP, 2.0 * BORDER + HEAD);
        let size = piece.flat.outer.bounds().size() + DVec2::splat(4.0);
        let count = |length: f64, tile: f64| {
            if length <= tile { 1 } else { ((length - tile) / (tile - OVERLAP)).ceil() as usize + 1 }
        };
        let (columns, rows) = (count(size.x, tile.x), count(size.y, tile.y));
        let mut t = Tiling { page, tile, columns, rows, printed: Vec::new() };
        if columns.saturating_mul(rows) > 4 * MOST_PAGES {
            return None;
        }
        t.printed = t.drawn_on(piece);
        Some(t)
    }

    /// Where a page begins on the flat laid out, y downwards, and how much of it its neighbours before it do
    /// not show.
    fn from(&self, (row, column): (usize, usize)) -> DVec2 {
        DVec2::new(column as f64, row as f64) * (self.tile - DVec2::splat(OVERLAP))
    }

    fn drawn_on(&self, piece: &PieceResult) -> Vec<(usize, usize)> {
        let to = laid(piece, DVec2::ZERO);
        let mut seen = vec![false; self.columns * self.rows];
        let mut stroke = |a: DVec2, b: DVec2| {
            ground::halt::often();
            // No step is longer than the overlap: it lies on the pages of its ends.
            let steps = (a.distance(b) / (OVERLAP / 2.0)).ceil().max(1.0);
            for k in 0..=steps as usize {
                let p = a.lerp(b, k as f64 / steps);
                let cell =
                    ((p - DVec2::splat(OVERLAP)) / (self.tile - DVec2::splat(OVERLAP))).max(DVec2::ZERO);
                let (row, column) =
                    ((cell.y as usize).min(self.rows - 1), (cell.x as usize).min(self.columns - 1));
                seen[row * self.columns + column] = true;
            }
        };
        let pressed = piece.flat.pressed.iter().map(|p| p.footprint.clone());
        let bores = piece.flat.bores.iter().flat_map(|b| b.rings());
        for c in contours(piece).cloned().chain(pressed).chain(bores) {
            let points = to.contour(&c).flatten(0.5);
            (0..points.len()).for_each(|k| stroke(points[k], points[(k + 1) % points.len()]));
        }
        for [a, b] in piece.flat.bends.iter().flat_map(|b| b.lines()) {
            stroke(to.point(a.into()), to.point(b.into()));
        }
        (0..self.rows)
            .flat_map(|r| (0..self.columns).map(move |c| (r, c)))
            .filter(|(r, c)| seen[r * self.columns + c])
            .collect()
    }
}

/// The flat with its north-west corner, and a little of white round it, at a place.
fn laid(piece: &PieceResult, corner: DVec2) -> ToPaper {
    let b = piece.flat.outer.bounds();
    ToPaper { scale: 1.0, shift: corner + DVec2::new(2.0 - b.min.x, 2.0 + b.max.y) }
}

/// The pages, row by row from the north-west, upright or lying, whichever are fewer; `None` when there would
/// be more than [`MOST_PAGES`].
pub fn template(piece: &PieceResult, paper: Paper) -> Option<Vec<Drawing>> {
    template_for(piece, paper, None)
}

/// The same for a printer whose true scale is known: drawn so much larger or smaller that it prints true.
pub fn template_for(piece: &PieceResult, paper: Paper, printer: Option<&Printed>) -> Option<Vec<Drawing>> {
    let along = |lying| printer.map_or(DVec2::ONE, |p| p.along(lying));
    // What the page is once it is printed.
    let upright = Tiling::new(piece, paper.size() * along(false));
    let lying = Tiling::new(piece, paper.size().yx() * along(true));
    let (by, t) = [(along(false), upright), (along(true), lying)]
        .into_iter()
        .filter_map(|(by, t)| Some((by, t?)))
        .min_by_key(|(_, t)| t.printed.len())
        .filter(|(_, t)| t.printed.len() <= MOST_PAGES)?;
    let corner = DVec2::new(BORDER + STRIP, BORDER + HEAD);
    let holes: Vec<Bounds> = piece.flat.holes.iter().map(|h| h.contour.bounds()).collect();
    let all = t.printed.len();
    let page = |(n, &place): (usize, &(usize, usize))| {
        ground::halt::point();
        let to = laid(piece, corner - t.from(place));
        let mut items = vec![Item::Window {
            min: corner,
            max: corner + t.tile,
            items: seen(piece, &holes, &to, corner, t.tile),
        }];
        items.extend(crop_marks(corner, t.tile));
        items.extend(seams(corner, t.tile, [place.0 > 0, place.1 > 0]));
        items.extend(rules(piece.display.length));
        items.extend(head(piece, (n + 1, all), place, &t));
        items.extend(printer.map(corrected));
        let scaled = printer.is_some();
        let items = if scaled { vec![Item::Scaled { by: 1.0 / by, items }] } else { items };
        Drawing {
            size: t.page / by,
            title: format!("{} {} template, page {} of {all}", piece.mark, piece.name, n + 1),
            items,
        }
    };
    Some(t.printed.iter().enumerate().map(page).collect())
}

/// What a page shows of the flat: the outline, the holes that reach onto it with their middles, bends, marks.
fn seen(piece: &PieceResult, holes: &[Bounds], to: &ToPaper, corner: DVec2, tile: DVec2) -> Vec<Item> {
    let low = to.point(DVec2::ZERO);
    let (min, max) = (corner - low, corner + tile - low);
    // On the flat, y upwards.
    let page = Bounds { min: DVec2::new(min.x, -max.y), max: DVec2::new(max.x, -min.y) };
    let on_page = |b: &Bounds| b.near(&page, 6.0);
    let shown: Vec<usize> = (0..holes.len()).filter(|k| on_page(&holes[*k])).collect();
    let mut loops = vec![to.contour(&piece.flat.outer)];
    loops.extend(shown.iter().map(|k| to.contour(&piece.flat.holes[*k].contour)));
    let mut items = vec![Item::Shape { loops, pen: Pen::Cut, filled: true }];
    for k in shown {
        let (at, reach) = (to.point(holes[k].centre()), (holes[k].size().min_element() / 3.0).min(3.0));
        items.push(Item::line(at - DVec2::X * reach, at + DVec2::X * reach, Pen::Hair));
        items.push(Item::line(at - DVec2::Y * reach, at + DVec2::Y * reach, Pen::Hair));
    }
    items.extend(lines(piece, to));
    items.extend(bend_texts(piece, to));
    // The same on every page: nothing stands outside the outline's box.
    let b = piece.flat.outer.bounds();
    let view = Bounds::of([to.point(b.min), to.point(b.max)]);
    items.extend(hole_marks(piece, to, &items, view).0);
    items
}

/// What a page says of the printer that it is for; in bold where it is far off.
fn corrected(printer: &Printed) -> Item {
    let (text, far) = printer.said();
    let item = Item::text(DVec2::new(BORDER + STRIP + 104.6, BORDER + 17.8), text, 2.6, Anchor::Start);
    if far { item.bold() } else { item }
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

/// How long the lines are that a template is measured by, mm, and in words.
pub fn measured_line(unit: LengthUnit) -> (f64, &'static str) {
    match unit {
        LengthUnit::Mm => (100.0, "100 mm"),
        LengthUnit::In => (101.6, "4 in"),
    }
}

/// One across the head and one down the strip: nothing of the flat comes near them.
fn rules(unit: LengthUnit) -> Vec<Item> {
    let (length, said) = measured_line(unit);
    let mut out = Vec::new();
    let across = DVec2::new(BORDER + STRIP, BORDER + HEAD - 4.0);
    let down = DVec2::new(BORDER + 3.0, BORDER + HEAD);
    for (from, dir) in [(across, DVec2::X), (down, DVec2::Y)] {
        let to = from + dir * length;
        out.push(Item::line(from, to, Pen::Hair));
        out.extend(
            [from, to].map(|end| Item::line(end - dir.perp() * 1.5, end + dir.perp() * 1.5, Pen::Hair)),
        );
    }
    let text = format!("{said} across, {said} down: measure both before you cut");
    out.push(Item::text(across + DVec2::new(length + 3.0, 1.0), text, 2.8, Anchor::Start));
    out
}

fn head(piece: &PieceResult, (n, all): (usize, usize), place: (usize, usize), t: &Tiling) -> Vec<Item> {
    let d = &piece.display;
    let left = DVec2::new(BORDER, BORDER);
    let size = format!(
        "flat {} × {}",
        d.length(piece.value("flat_length")),
        d.length_unit(piece.value("flat_width"))
    );
    let mut how =
        "Print at 100 %, never \"fit to page\". Lay each page on its neighbour's dashed line.".to_string();
    if all < t.rows * t.columns {
        how += " Pages without a line are not printed.";
    }
    if piece.flat.bends.iter().any(|b| b.creased) {
        how += " Up is a valley, down a mountain.";
    }
    for said in marks_said(piece) {
        how += " ";
        how += &said;
    }
    let mut out = vec![
        Item::text(
            left + DVec2::new(0.0, 5.0),
            format!("{}  {}", piece.mark, piece.name),
            5.0,
            Anchor::Start,
        )
        .bold(),
        Item::text(
            left + DVec2::new(0.0, 10.5),
            format!("{} {} · {size} · quantity {}", piece.material, piece.thickness_said(), piece.quantity),
            3.4,
            Anchor::Start,
        ),
        Item::text(left + DVec2::new(0.0, 15.5), how, 3.0, Anchor::Start),
        Item::text(
            DVec2::new(t.page.x - BORDER - 34.0, BORDER + 5.0),
            format!("page {} · {n} of {all}", page_name(place.0, place.1)),
            3.8,
            Anchor::End,
        )
        .bold(),
    ];
    // A map of the pages, this one filled, those that are not printed left open.
    let cell = (30.0 / t.columns as f64).min(18.0 / t.rows as f64).min(6.0);
    let origin = DVec2::new(t.page.x - BORDER - cell * t.columns as f64, BORDER);
    for &(r, c) in &t.printed {
        let min = origin + DVec2::new(c as f64, r as f64) * cell;
        let max = min + DVec2::splat(cell);
        if (r, c) == place {
            out.push(Item::Facet {
                points: vec![min, DVec2::new(max.x, min.y), max, DVec2::new(min.x, max.y)],
                shade: 0.2,
            });
        }
        out.push(Item::frame(min, max, Pen::Hair));
    }
    out
}
