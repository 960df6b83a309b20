//! Sizes round a view: in rows outside its box, nearest first, each row as free as its texts need.

use glam::DVec2;
use ground::geom::{Bounds, COINCIDENT};
use sheet::result::Margin;

use crate::hole_marks::{text_box, text_width};
use crate::{Anchor, Item, Pen};

/// Height of a size's text, mm.
pub const TOLD: f64 = 2.8;
/// From row to row.
pub const ROW: f64 = 6.0;
/// From the box to the first row.
pub const FIRST: f64 = 7.0;
/// From the end of a short size to its text.
const BEYOND: f64 = 2.6;

/// A size between two places of a view, in mm as the view lies, y upwards.
#[derive(Clone, Debug, PartialEq)]
pub struct Size {
    pub from: DVec2,
    pub to: DVec2,
    /// Where it stands; none for along itself, on the side of `out`.
    pub side: Option<Margin>,
    pub out: DVec2,
    pub text: String,
    /// Outside all others.
    pub overall: bool,
}

/// Room that sizes need on a side.
pub fn depth(sizes: &[Size], side: Margin) -> f64 {
    let n = sizes.iter().filter(|s| s.side == Some(side)).count();
    if n == 0 { 3.0 } else { FIRST + ROW * (n - 1) as f64 + 4.5 }
}

/// The sizes drawn; `to` carries from the view to the paper, `shape` is the box of the view there. Those
/// along themselves come last: they keep clear of the texts that stand, `before` among them.
pub fn drawn(sizes: &[Size], shape: Bounds, to: &impl Fn(DVec2) -> DVec2, before: &[Item]) -> Vec<Item> {
    let mut out: Vec<Item> = Vec::new();
    let mut taken: Vec<(Margin, usize, f64, f64)> = Vec::new();
    let mut order: Vec<&Size> = sizes.iter().collect();
    order.sort_by_key(|s| (s.side.is_none(), s.overall));
    for s in order {
        let (p, q) = (to(s.from), to(s.to));
        let Some(side) = s.side else {
            let away = (to(s.from + s.out) - p).normalize_or_zero();
            let texts: Vec<Bounds> = before.iter().chain(&out).filter_map(text_box).collect();
            let places = (0..5).flat_map(|k| [1.0, -1.0].map(|side| side * (FIRST + ROW * f64::from(k))));
            let mut tried = places.map(|off| between(p, q, away * off, away * off, &s.text));
            let first = tried.next().unwrap_or_default();
            let clear = |items: &Vec<Item>| {
                let own: Vec<Bounds> = items.iter().filter_map(text_box).collect();
                own.iter().all(|a| texts.iter().all(|b| !meet(a, b)))
            };
            let best = if clear(&first) { first } else { tried.find(clear).unwrap_or(first) };
            out.extend(best);
            continue;
        };
        let k = usize::from(matches!(side, Margin::West | Margin::East));
        let (low, high) = (p[k].min(q[k]), p[k].max(q[k]));
        // A text that has no room between stands beyond the end: to the right, or above.
        let wide = text_width(&s.text, TOLD);
        let (from, till) = match (wide + 1.0 < high - low, k) {
            (true, _) => (low, high),
            (false, 0) => (low, high + BEYOND + wide + 1.0),
            (false, _) => (low - BEYOND - wide - 1.0, high),
        };
        let own = || taken.iter().filter(|t| t.0 == side);
        let free = |row: usize| {
            own().filter(|t| t.1 == row).all(|t| till <= t.2 + COINCIDENT || from >= t.3 - COINCIDENT)
        };
        let least = if s.overall { own().map(|t| t.1 + 1).max().unwrap_or(0) } else { 0 };
        let row = (least..).find(|r| free(*r)).unwrap_or(least);
        taken.push((side, row, from, till));
        let away = FIRST + ROW * row as f64;
        let level = match side {
            Margin::North => shape.min.y - away,
            Margin::South => shape.max.y + away,
            Margin::West => shape.min.x - away,
            Margin::East => shape.max.x + away,
        };
        let across =
            |p: DVec2| if k == 0 { DVec2::new(0.0, level - p.y) } else { DVec2::new(level - p.x, 0.0) };
        out.extend(between(p, q, across(p), across(q), &s.text));
    }
    out
}

/// From a broken line to the text that it leaves free.
const FREE: f64 = 0.6;

/// A line without what would run through a text; anything else as it is.
pub fn broken(item: Item, texts: &[Bounds]) -> Vec<Item> {
    let Item::Line { a, b, pen } = item else { return vec![item] };
    let mut parts = vec![(0.0, 1.0)];
    for text in texts {
        let (low, high) = (text.min - FREE, text.max + FREE);
        let (mut from, mut to) = (0.0f64, 1.0f64);
        for k in 0..2 {
            let d = b[k] - a[k];
            if d.abs() < COINCIDENT {
                if a[k] <= low[k] || a[k] >= high[k] {
                    to = -1.0;
                }
                continue;
            }
            let (s, t) = ((low[k] - a[k]) / d, (high[k] - a[k]) / d);
            (from, to) = (from.max(s.min(t)), to.min(s.max(t)));
        }
        if from < to {
            let rest = |(s, t): (f64, f64)| [(s, t.min(from)), (s.max(to), t)];
            parts = parts.into_iter().flat_map(rest).filter(|(s, t)| s < t).collect();
        }
    }
    let long = a.distance(b);
    let seen = parts.into_iter().filter(|(s, t)| (t - s) * long > FREE.min(long / 2.0));
    seen.map(|(s, t)| Item::line(a.lerp(b, s), a.lerp(b, t), pen)).collect()
}

fn meet(a: &Bounds, b: &Bounds) -> bool {
    a.min.cmplt(b.max).all() && b.min.cmplt(a.max).all()
}

fn between(p: DVec2, q: DVec2, off_p: DVec2, off_q: DVec2, text: &str) -> Vec<Item> {
    let (mut a, mut b) = (p + off_p, q + off_q);
    let helper = |from: DVec2, off: DVec2| {
        let way = off.normalize_or_zero();
        Item::line(from + way * 0.8, from + off + way * 1.5, Pen::Hair)
    };
    let mut out = vec![helper(p, off_p), helper(q, off_q)];
    // To be read from below or from the right.
    if b.x < a.x - COINCIDENT || (b.x < a.x + COINCIDENT && b.y > a.y) {
        std::mem::swap(&mut a, &mut b);
    }
    let way = (b - a).normalize_or_zero();
    out.push(Item::line(a, b, Pen::Hair));
    let slash = DVec2::new(way.x + way.y, way.y - way.x).normalize_or_zero() * 1.3;
    out.extend([a, b].map(|p| Item::line(p - slash, p + slash, Pen::Cut)));
    let lift = DVec2::new(way.y, -way.x) * 1.0;
    let turn = way.to_angle().to_degrees();
    let (at, anchor) = if text_width(text, TOLD) + 1.0 < a.distance(b) {
        ((a + b) / 2.0 + lift, Anchor::Middle)
    } else {
        out.push(Item::line(b, b + way * BEYOND, Pen::Hair));
        (b + way * BEYOND - lift * TOLD * 0.35 / lift.length(), Anchor::Start)
    };
    out.push(Item::Text { at, text: text.into(), size: TOLD, anchor, turn, bold: false });
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_line_leaves_out_the_texts_that_it_runs_through() {
        let text = Bounds { min: DVec2::new(4.0, -1.0), max: DVec2::new(6.0, 1.0) };
        let beside = Bounds { min: DVec2::new(4.0, 2.0), max: DVec2::new(6.0, 3.0) };
        let line = Item::line(DVec2::ZERO, DVec2::new(10.0, 0.0), Pen::Hair);
        let parts = broken(line.clone(), &[text, beside]);
        let [Item::Line { b, .. }, Item::Line { a, .. }] = &parts[..] else { panic!("{parts:?}") };
        assert!((b.x - (4.0 - FREE)).abs() < 1e-9 && (a.x - (6.0 + FREE)).abs() < 1e-9);
        assert_eq!(broken(line.clone(), &[beside]), [line]);
    }
}
