//! The flat pattern as a drawing: outline, holes, bend lines with angle and direction, dimensions, hole
//! marks.

use glam::DVec2;
use ground::geom::COINCIDENT;

use super::hatching::hatching;
use super::hole_marks::{hole_marks, not_shown, text_box, text_width};
use super::sizes::{self, Size};
use super::{Anchor, Drawing, Item, Pen, ToPaper};
use ground::geom::{Bounds, Contour};
use sheet::result::{BendMark, Dimension, Margin, PieceResult, SlantingSize};
use sheet::{BevelMark, CutBack, contours};

/// The flat at a scale of `scale` (1 is full size). With `dimensions`, room for them is left around it.
pub fn flat_drawing(piece: &PieceResult, scale: f64, dimensions: bool) -> Drawing {
    let b = piece.flat.outer.bounds();
    let labels = 4.5 * piece.flat.bends.iter().filter(|b| runs_through(piece, b)).count().min(3) as f64;
    let told = levelled(&piece.flat.dimensions, scale);
    let room = if dimensions { margins(&told) } else { [2.0; 4] };
    let [south, north, west, east] = room;
    let north = if dimensions { north + labels } else { north };
    let body = b.size() * scale;
    let title = if dimensions { 10.0 } else { 0.0 };
    let to = ToPaper { scale, shift: DVec2::new(west - b.min.x * scale, title + north + b.max.y * scale) };
    let mut items = outline(piece, &to);
    if dimensions {
        let text = format!("{}  {}   {} {}", piece.mark, piece.name, piece.material, piece.thickness_said());
        // Whole, though it be small: a narrow flat has a narrow sheet.
        let letter = text_width(&text, 1.0);
        let high = ((body.x + west + east - 4.0) / (1.08 * letter)).min(4.0);
        items.push(Item::text(DVec2::new(2.0, 7.0), text, high, Anchor::Start).bold());
        items.extend(told.iter().flat_map(|d| dimension(d, &b, &to)));
        items.extend(bend_labels(piece, &to, rows(&told, Margin::North)));
        let slanting: Vec<Size> = piece.flat.kept.iter().map(|s| slanting(s, s.text.clone())).collect();
        let shape = Bounds::of([to.point(b.min), to.point(b.max)]);
        let kept = sizes::drawn(&slanting, shape, &|p| to.point(p), &items);
        let texts: Vec<Bounds> = items.iter().filter_map(text_box).collect();
        items.extend(kept.into_iter().flat_map(|i| sizes::broken(i, &texts)));
    }
    let size = body + DVec2::new(west + east, title + south + north);
    if dimensions {
        let view = Bounds { min: DVec2::new(1.0, title), max: size - DVec2::splat(1.0) };
        let (marks, left) = hole_marks(piece, &to, &items, view);
        items.extend(marks);
        items.extend(not_shown(&left, DVec2::new(2.0, size.y - 1.5)));
    }
    Drawing { size, title: format!("{} {} flat pattern", piece.mark, piece.name), items }
}

/// Outline, holes and bend lines.
pub fn outline(piece: &PieceResult, to: &ToPaper) -> Vec<Item> {
    let mut items = vec![Item::Shape {
        loops: contours(piece).map(|c| to.contour(c)).collect(),
        pen: Pen::Cut,
        filled: true,
    }];
    items.extend(lines(piece, to));
    items
}

/// What is drawn and not cut: bend lines, pressed shapes, and of drilled holes what does not go through the
/// sheet. From the back it is dashed.
pub fn lines(piece: &PieceResult, to: &ToPaper) -> Vec<Item> {
    let mut items = Vec::new();
    for b in &piece.flat.bends {
        let pen = if b.up { Pen::BendUp } else { Pen::BendDown };
        items.extend(b.lines().map(|[p, q]| Item::line(to.point(p.into()), to.point(q.into()), pen)));
    }
    items.extend(piece.zones.iter().filter(|z| z.is_glued).flat_map(|z| glue(&z.region, to)));
    if let Some(cut) = CutBack::new(&piece.flat.outer, &piece.flat.bevels) {
        let line = |([a, b], _): ([DVec2; 2], f64)| Item::line(to.point(a), to.point(b), Pen::Hair);
        items.extend(cut.lines().into_iter().map(line));
    }
    // Pressed shapes: standing out towards the reader in full, away from it dashed.
    for p in &piece.flat.pressed {
        let pen = if p.pressed.up() == Some(false) { Pen::Faint } else { Pen::Hair };
        items.push(Item::Shape { loops: vec![to.contour(&p.footprint)], pen, filled: false });
    }
    for b in &piece.flat.bores {
        let pen = if b.bore.back { Pen::Faint } else { Pen::Hair };
        let ring = |c: &Contour| Item::Shape { loops: vec![to.contour(c)], pen, filled: false };
        items.extend(b.rings().iter().map(ring));
        let thread: Vec<DVec2> = b.thread().into_iter().map(|p| to.point(p.into())).collect();
        items.extend(thread.windows(2).map(|w| Item::line(w[0], w[1], pen)));
    }
    items
}

/// Between the strokes that mark a strip to be glued, mm.
const GLUE: f64 = 3.0;

/// A strip to be glued: strokes over it.
fn glue(region: &[DVec2], to: &ToPaper) -> impl Iterator<Item = Item> + use<> {
    let ring = region.iter().map(|p| to.point(*p)).collect();
    hatching(&[ring], GLUE).into_iter().map(|[a, b]| Item::line(a, b, Pen::Faint))
}

/// What strokes and lines beside edges mean, where there are any.
pub fn marks_said(piece: &PieceResult) -> Vec<String> {
    let mut out = Vec::new();
    if piece.zones.iter().any(|z| z.is_glued) {
        out.push("Hatched strips are glued.".into());
    }
    let (middle, d) = (piece.flat.outer.bounds().centre(), &piece.display);
    let said = |m: &BevelMark| {
        let [a, b] = m.edge;
        let off = (a + b) / 2.0 - middle;
        let which = match (off.x.abs() > off.y.abs(), off.x > 0.0, off.y > 0.0) {
            (true, true, _) => "right",
            (true, false, _) => "left",
            (false, _, true) => "upper",
            (false, _, false) => "lower",
        };
        format!("{which} edge {} off square, {} back", d.angle(m.angle), d.length_unit(m.back))
    };
    if !piece.flat.bevels.is_empty() {
        let each: Vec<String> = piece.flat.bevels.iter().map(said).collect();
        out.push(format!("Bevelled from this face, whole through: {}.", each.join("; ")));
    }
    out
}

/// A kept size that is told along itself.
pub fn slanting(s: &SlantingSize, text: String) -> Size {
    let (from, to) = (DVec2::from(s.from), DVec2::from(s.to));
    Size { from, to, side: None, out: (to - from).perp(), text, overall: false }
}

/// Whether a bend line runs straight up through the whole flat: then it is labelled above the outline.
fn runs_through(piece: &PieceResult, b: &BendMark) -> bool {
    let bounds = piece.flat.outer.bounds();
    (b.from[0] - b.to[0]).abs() < COINCIDENT
        && (b.from[1] - b.to[1]).abs() > 0.98 * (bounds.max.y - bounds.min.y)
}

/// `up 90° R3` over each bend line that runs through, clear of the outline and its dimensions, higher where
/// the neighbours are near; along the others.
fn bend_labels(piece: &PieceResult, to: &ToPaper, above: u32) -> Vec<Item> {
    let above = LEVEL * f64::from(above.max(1)) + 4.5;
    let top = to.point(piece.flat.outer.bounds().max).y;
    let mut ends: Vec<f64> = Vec::new();
    let mut taken = Vec::new();
    let mut out = Vec::new();
    for b in &piece.flat.bends {
        let text = b.said.clone();
        if !runs_through(piece, b) {
            out.extend(along_line(b, to, 2.8, &mut taken));
            continue;
        }
        let x = to.point(b.to.into()).x;
        let half = text.chars().count() as f64 * 0.8 + 1.0;
        let row = ends.iter().position(|end| x - half > *end).unwrap_or(ends.len());
        if row == ends.len() {
            ends.push(0.0);
        }
        ends[row] = x + half;
        let y = top - above - row as f64 * 4.5;
        out.push(Item::line(DVec2::new(x, top), DVec2::new(x, y + 1.0), Pen::Hair));
        out.push(Item::text(DVec2::new(x, y), text, 3.2, Anchor::Middle));
    }
    out
}

/// Text along a bend line, upright to read from below or from the right, in its middle or where it meets no
/// other; none where it has no room.
fn along_line(b: &BendMark, to: &ToPaper, most: f64, taken: &mut Vec<Bounds>) -> Option<Item> {
    let [from, end] = b.longest();
    let (mut p, mut q) = (to.point(from.into()), to.point(end.into()));
    if q.x < p.x - COINCIDENT || (q.x < p.x + COINCIDENT && q.y > p.y) {
        std::mem::swap(&mut p, &mut q);
    }
    let letters = b.said.chars().count() as f64 * 0.6;
    let size = (p.distance(q) / letters).min(most);
    let dir = (q - p).normalize_or_zero();
    let turn = dir.y.atan2(dir.x).to_degrees();
    let on = |share: f64| {
        let at = p.lerp(q, share) + DVec2::new(dir.y, -dir.x) * 1.2;
        Item::Text { at, text: b.said.clone(), size, anchor: Anchor::Middle, turn, bold: false }
    };
    let room = p.distance(q) - size * letters;
    let shares = [0.0, -0.3, 0.3, -0.5, 0.5].map(|s| 0.5 + s * room / p.distance(q).max(COINCIDENT));
    let clear = |i: &Item| text_box(i).is_some_and(|own| taken.iter().all(|b| !b.near(&own, 0.0)));
    let item = shares.into_iter().map(on).find(clear).filter(|_| size > 1.0)?;
    taken.push(text_box(&item)?);
    Some(item)
}

/// `up 90° R3` along each bend line, for sheets where nothing may stand outside the outline.
pub fn bend_texts(piece: &PieceResult, to: &ToPaper) -> Vec<Item> {
    let mut taken = Vec::new();
    piece.flat.bends.iter().filter_map(|b| along_line(b, to, 3.2, &mut taken)).collect()
}

const LEVEL: f64 = 7.0;

/// Height of a dimension's text.
const TOLD: f64 = 3.0;

/// Dimensions in rows where at this scale neither their spans nor their texts meet; the outermost of a side
/// stay outermost.
fn levelled(dimensions: &[Dimension], scale: f64) -> Vec<Dimension> {
    let mut out: Vec<Dimension> = Vec::new();
    let mut order: Vec<&Dimension> = dimensions.iter().collect();
    order.sort_by_key(|d| d.level);
    for d in order {
        let cover = |d: &Dimension| {
            let k = usize::from(matches!(d.side, Margin::West | Margin::East));
            let (low, high) = (d.from[k].min(d.to[k]) * scale, d.from[k].max(d.to[k]) * scale);
            let half = (text_width(&d.text, TOLD) / 2.0 + 0.5).max((high - low) / 2.0);
            ((low + high) / 2.0 - half, (low + high) / 2.0 + half)
        };
        let (low, high) = cover(d);
        let own = || dimensions.iter().filter(|x| x.side == d.side);
        let outermost =
            own().all(|x| x.level <= d.level) && own().filter(|x| x.level == d.level).count() == 1;
        let beside = || out.iter().filter(|x| x.side == d.side);
        let free = |level: u32| {
            let clear = |x: &Dimension| {
                let (a, z) = cover(x);
                high <= a + COINCIDENT || low >= z - COINCIDENT
            };
            beside().filter(|x| x.level == level).all(clear)
        };
        let lowest = if outermost { rows(&out, d.side) } else { d.level };
        let level = (lowest..).find(|l| free(*l)).unwrap_or(lowest);
        out.push(Dimension { level, ..d.clone() });
    }
    out
}

/// Rows of dimensions that a side has.
fn rows(dimensions: &[Dimension], side: Margin) -> u32 {
    dimensions.iter().filter(|d| d.side == side).map(|d| d.level + 1).max().unwrap_or(0)
}

/// Paper room that the dimensions need: south, north, west, east.
fn margins(dimensions: &[Dimension]) -> [f64; 4] {
    [Margin::South, Margin::North, Margin::West, Margin::East]
        .map(|side| 6.0 + LEVEL * f64::from(rows(dimensions, side)))
}

fn dimension(d: &Dimension, b: &Bounds, to: &ToPaper) -> Vec<Item> {
    let (low, high) = (to.point(DVec2::new(b.min.x, b.max.y)), to.point(DVec2::new(b.max.x, b.min.y)));
    let (p, q) = (to.point(d.from.into()), to.point(d.to.into()));
    let out = LEVEL * (f64::from(d.level) + 1.0);
    let (a, c, turn) = match d.side {
        Margin::South => (DVec2::new(p.x, high.y + out), DVec2::new(q.x, high.y + out), 0.0),
        Margin::North => (DVec2::new(p.x, low.y - out), DVec2::new(q.x, low.y - out), 0.0),
        Margin::West => (DVec2::new(low.x - out, p.y), DVec2::new(low.x - out, q.y), -90.0),
        Margin::East => (DVec2::new(high.x + out, p.y), DVec2::new(high.x + out, q.y), -90.0),
    };
    let lift = if turn == 0.0 { DVec2::new(0.0, -1.0) } else { DVec2::new(-1.0, 0.0) };
    let tick = DVec2::new(1.2, -1.2);
    let past = |from: DVec2, end: DVec2| end + (end - from).normalize_or_zero() * 1.5;
    vec![
        Item::line(p, past(p, a), Pen::Hair),
        Item::line(q, past(q, c), Pen::Hair),
        Item::line(a, c, Pen::Hair),
        Item::line(a - tick, a + tick, Pen::Hair),
        Item::line(c - tick, c + tick, Pen::Hair),
        Item::Text {
            at: (a + c) / 2.0 + lift,
            text: d.text.clone(),
            size: TOLD,
            anchor: Anchor::Middle,
            turn,
            bold: false,
        },
    ]
}
