//! Sizes of holes and pressed shapes, once beside the first of each kind, clear of all other text.

use glam::DVec2;
use ground::geom::Bounds;
use sheet::contours;
use sheet::result::{HoleMark, PieceResult};

use super::labels::{Label, Obstacles, place};
use super::{Anchor, Item, Pen, ToPaper};

const SIZE: f64 = 2.8;
/// Breadth of a letter by its height: a little more than the middle of Barlow's, from its advance widths.
const LETTER: f64 = 0.54;
/// mm on the flat: what stands there is meant.
const NEAR: f64 = 1e-3;
/// More sides than this are not looked at one by one: the outline of a screen is a crowd of its own.
const SIDES: usize = 4_000;

/// How wide a text is set, a little more than less.
pub fn text_width(text: &str, size: f64) -> f64 {
    text.chars().count() as f64 * size * LETTER
}

/// The box of a text as it is set; of anything else none.
pub fn text_box(item: &Item) -> Option<Bounds> {
    let Item::Text { at, text, size, anchor, turn, .. } = item else { return None };
    let wide = text_width(text, *size);
    let from = match anchor {
        Anchor::Start => 0.0,
        Anchor::Middle => -wide / 2.0,
        Anchor::End => -wide,
    };
    let way = DVec2::from_angle(turn.to_radians());
    let corners = [[from, -0.75], [from + wide, -0.75], [from + wide, 0.25], [from, 0.25]];
    let turned = corners.map(|[x, y]| *at + way.rotate(DVec2::new(x, y * size)));
    Some(Bounds::of(turned))
}

/// The marks, beside what they are of, led where they stand apart, and those that have no room; `before` is
/// what is drawn already.
pub fn hole_marks(
    piece: &PieceResult,
    to: &ToPaper,
    before: &[Item],
    view: Bounds,
) -> (Vec<Item>, Vec<String>) {
    let marks = &piece.flat.marks;
    let holes: Vec<Bounds> = piece.flat.holes.iter().map(|h| h.contour.bounds()).collect();
    let label = |m: &HoleMark| {
        let top: DVec2 = m.at.into();
        // The mark is told at the top of its hole: what it speaks of is the middle.
        let of = holes.iter().find(|b| DVec2::new(b.centre().x, b.max.y).distance(top) < NEAR);
        let (anchor, clear) = of.map_or((to.point(top), 0.5), |b| {
            (to.point(b.centre()), b.size().min_element() / 2.0 * to.scale)
        });
        Label {
            anchor,
            size: DVec2::new(text_width(&m.text, SIZE), SIZE),
            clear,
            weight: clear,
            before: None,
        }
    };
    let labels: Vec<Label> = marks.iter().map(label).collect();
    let keep = in_the_way(piece, to, before);
    let placed = place(&labels, &keep, view, true);
    let mut out = Vec::new();
    for (m, p) in marks.iter().zip(&placed) {
        let Some(p) = p else { continue };
        if let Some([from, end]) = p.leader {
            out.push(Item::line(from, end, Pen::Hair));
        }
        out.push(Item::text(p.at + DVec2::new(0.0, SIZE * 0.34), m.text.clone(), SIZE, Anchor::Middle));
    }
    (out, marks.iter().zip(&placed).filter(|(_, p)| p.is_none()).map(|(m, _)| m.text.clone()).collect())
}

/// What labels of a flat keep clear of: its outline and holes, and what is drawn already.
pub fn in_the_way(piece: &PieceResult, to: &ToPaper, before: &[Item]) -> Obstacles {
    let mut lines: Vec<[DVec2; 2]> = Vec::new();
    for c in contours(piece) {
        if lines.len() > SIDES {
            break;
        }
        let points: Vec<DVec2> =
            c.flatten(0.3 / to.scale.max(1e-6)).into_iter().map(|p| to.point(p)).collect();
        lines.extend(points.iter().zip(points.iter().cycle().skip(1)).map(|(a, b)| [*a, *b]));
    }
    lines.extend(before.iter().filter_map(|i| match i {
        Item::Line { a, b, .. } => Some([*a, *b]),
        _ => None,
    }));
    Obstacles { boxes: before.iter().filter_map(text_box).collect(), lines }
}

/// What had no room, in one line.
pub fn not_shown(left: &[String], foot: DVec2) -> Option<Item> {
    (!left.is_empty())
        .then(|| Item::fitted(foot, format!("not shown: {}", left.join(", ")), SIZE, 90, Anchor::Start))
}
