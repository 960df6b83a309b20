//! The flat with the sizes that make it: the outline from one datum, by ordinates or by numbered points, bend
//! lines, radii once, tags of what stands in it.

use glam::DVec2;
use ground::geom::{Bounds, COINCIDENT, Contour};
use sheet::result::{BendMark, Dimension, Margin, PieceResult};

use super::features::Kind;
use super::ordinates::{self, Ordinate, PACE};
use super::outline::{Point, Way};
use crate::flat::{outline, slanting as slanting_size};
use crate::hole_marks::{in_the_way, text_box, text_width};
use crate::labels::{Label, place};
use crate::sizes::{self, Size};
use crate::{Anchor, Item, Pen, ToPaper};

/// Height of tags and radii.
const TAG: f64 = 2.7;
/// More holes than this are found by their kind's table alone.
pub const MOST_TAGGED: usize = 60;
/// Ordinates on all sides of more points than this are a thicket: they are numbered, and told in a table.
const MOST_POINTS: usize = 24;

/// How the outline is told.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Told {
    Ordinates,
    Table,
}

/// Sizes that a hand keeps, in brackets: they are told by the rest too (ISO 129-1, auxiliary dimensions).
pub fn kept(p: &PieceResult) -> Vec<Size> {
    let b = p.flat.outer.bounds();
    let said = |text: &str| format!("({text})");
    let own = p.flat.dimensions.iter().filter(|d| !d.line.is_empty());
    // The whole stands there as it is.
    let whole = |d: &&Dimension| {
        let k = usize::from(matches!(d.side, Margin::West | Margin::East));
        (d.from[k] - b.min[k]).abs() < COINCIDENT && (d.to[k] - b.max[k]).abs() < COINCIDENT
    };
    let along = own.filter(|d| !whole(d)).map(|d| {
        let (from, to) = (d.from.into(), d.to.into());
        Size { from, to, side: Some(d.side), out: DVec2::ZERO, text: said(&d.text), overall: false }
    });
    along.chain(p.flat.kept.iter().map(|s| slanting_size(s, said(&s.text)))).collect()
}

/// What the flat needs round it: west and north, east and south.
pub fn margins(all: &[Ordinate], kept: &[Size]) -> [DVec2; 2] {
    let rows = |m: Margin| if kept.iter().any(|s| s.side == Some(m)) { sizes::depth(kept, m) } else { 0.0 };
    let side = |m: Margin| ordinates::depth(all, m).max(7.0) + rows(m);
    [DVec2::new(side(Margin::West), side(Margin::North)), DVec2::new(side(Margin::East), side(Margin::South))]
}

/// By ordinates where they have room beside the flat at this scale.
pub fn told(points: &[Point], b: Bounds, scale: f64) -> Told {
    let n = |k: usize| {
        let mut all: Vec<f64> = points.iter().map(|p| p.at[k]).collect();
        all.sort_by(f64::total_cmp);
        all.dedup_by(|a, b| (*a - *b).abs() < COINCIDENT);
        all.len() as f64
    };
    let room = b.size() * scale + 20.0;
    let fits = n(0) * PACE < 2.0 * room.x && n(1) * PACE < 2.0 * room.y;
    if points.len() <= MOST_POINTS && fits { Told::Ordinates } else { Told::Table }
}

/// What sizes stand round: the flat, and the sharp corners beyond it that ordinates tell.
pub fn extent(p: &PieceResult, points: &[Point], how: Told) -> Bounds {
    let b = p.flat.outer.bounds();
    let beyond = points.iter().map(|q| q.at).filter(|_| how == Told::Ordinates);
    Bounds::of([b.min, b.max].into_iter().chain(beyond))
}

/// What is written from the datum, on the flat: the whole first, then the outline's own points, each value
/// once, by the point nearest to an edge of the view; then bend lines.
pub fn ordinates(p: &PieceResult, points: &[Point], how: Told) -> Vec<Ordinate> {
    let b = p.flat.outer.bounds();
    let said = |v: f64| p.display.place_number(v).to_string();
    let mut out: Vec<Ordinate> = Vec::new();
    let mut add = |k: usize, at: DVec2, text: String| {
        let near = if k == 0 { at.y < b.centre().y } else { at.x < b.centre().x };
        let side = match (k, near) {
            (0, true) => Margin::South,
            (0, false) => Margin::North,
            (_, true) => Margin::West,
            (_, false) => Margin::East,
        };
        let upright = |m: Margin| usize::from(matches!(m, Margin::West | Margin::East));
        if !out.iter().any(|o| o.text == text && upright(o.side) == k) {
            out.push(Ordinate { at, text, side });
        }
    };
    for k in 0..2 {
        let far = if k == 0 { DVec2::new(b.max.x, b.min.y) } else { DVec2::new(b.min.x, b.max.y) };
        add(k, b.min, "0".into());
        add(k, far, said(far[k] - b.min[k]));
        let mut all: Vec<DVec2> = match how {
            Told::Ordinates => points.iter().map(|p| p.at).collect(),
            Told::Table => Vec::new(),
        };
        let reach = |q: &DVec2| (q[1 - k] - b.min[1 - k]).min(b.max[1 - k] - q[1 - k]);
        all.sort_by(|p, q| reach(p).total_cmp(&reach(q)));
        for q in all {
            add(k, q, said(q[k] - b.min[k]));
        }
    }
    for (n, bend) in p.flat.bends.iter().enumerate() {
        if let Some((k, at, v)) = straight(bend, b) {
            add(k, at, format!("{} bend {}", said(v), n + 1));
        }
    }
    out
}

/// The flat on paper, without what it leaves to the tables, and the labels that have no room.
pub fn drawn(
    p: &PieceResult,
    points: &[Point],
    kinds: &[Kind],
    to: &ToPaper,
    how: Told,
    view: Bounds,
) -> (Vec<Item>, Vec<String>) {
    let b = p.flat.outer.bounds();
    let e = extent(p, points, how);
    let shape = Bounds::of([to.point(e.min), to.point(e.max)]);
    let mut items = outline(p, to);
    let datum = to.point(b.min);
    let d = &p.display;
    let ordinates: Vec<Ordinate> =
        ordinates(p, points, how).into_iter().map(|o| Ordinate { at: to.point(o.at), ..o }).collect();
    items.extend(ordinates::drawn(&ordinates, shape));
    let [before, after] = margins(&ordinates, &[]);
    let kept = kept(p);
    if !kept.is_empty() {
        let round = Bounds { min: shape.min - before, max: shape.max + after };
        let told = sizes::drawn(&kept, round, &|q| to.point(q), &items);
        let texts: Vec<Bounds> = items.iter().filter_map(text_box).collect();
        items.extend(told.into_iter().flat_map(|i| sizes::broken(i, &texts)));
    }
    items.push(origin(datum));
    let mut labels: Vec<(Label, String)> = Vec::new();
    let mut say = |anchor: DVec2, clear: f64, text: String, weight: f64| {
        let size = DVec2::new(text_width(&text, TAG), TAG);
        labels.push((Label { anchor, size, clear, weight, before: None }, text));
    };
    for (n, bend) in p.flat.bends.iter().enumerate() {
        let [a, c] = bend.longest().map(|q| to.point(q.into()));
        say(a.lerp(c, 0.5), 0.8, format!("{}", n + 1), 90.0);
    }
    if how == Told::Ordinates {
        for (at, text) in radii(points, |r| d.fine(r)) {
            say(to.point(at), 0.6, text, 70.0);
        }
    } else {
        for (n, q) in points.iter().enumerate() {
            say(to.point(q.at), 0.4, format!("p{}", n + 1), 50.0);
        }
    }
    let few = kinds.iter().map(|k| k.at.len()).sum::<usize>() <= MOST_TAGGED;
    for kind in kinds {
        let clear = (kind.reach * to.scale).min(12.0);
        match few {
            true => kind.at.iter().enumerate().for_each(|(k, at)| {
                let tag = if kind.at.len() > 1 { format!("{}{}", kind.tag, k + 1) } else { kind.tag.clone() };
                say(to.point(*at), clear, tag, 60.0);
            }),
            false => {
                let first = kind.at.iter().min_by(|a, b| (a.x + a.y).total_cmp(&(b.x + b.y)));
                if let Some(at) = first {
                    say(to.point(*at), clear, format!("{}× {}", kind.at.len(), kind.tag), 80.0);
                }
            }
        }
    }
    let keep = in_the_way(p, to, &items);
    let mut left = Vec::new();
    let only: Vec<Label> = labels.iter().map(|l| l.0).collect();
    for ((_, text), at) in labels.iter().zip(place(&only, &keep, view, true)) {
        let Some(at) = at else {
            left.push(text.clone());
            continue;
        };
        if let Some([from, end]) = at.leader {
            items.push(Item::line(from, end, Pen::Hair));
        }
        let foot = at.at + DVec2::new(0.0, TAG * 0.34);
        items.push(Item::text(foot, text.clone(), TAG, Anchor::Middle).bold());
    }
    (items, left)
}

/// Where a bend line that runs straight up or across is told, and its place from the datum.
fn straight(bend: &BendMark, b: Bounds) -> Option<(usize, DVec2, f64)> {
    let (from, to) = (DVec2::from(bend.from), DVec2::from(bend.to));
    let k = if (from.x - to.x).abs() < COINCIDENT {
        0
    } else if (from.y - to.y).abs() < COINCIDENT {
        1
    } else {
        return None;
    };
    let reach = |q: DVec2| (q[1 - k] - b.min[1 - k]).min(b.max[1 - k] - q[1 - k]);
    let at = if reach(from) <= reach(to) { from } else { to };
    Some((k, at, at[k] - b.min[k]))
}

/// Where a slanting bend line runs, in the bend table; empty for one that has an ordinate.
pub fn slanting(bend: &BendMark, b: Bounds, said: impl Fn(f64) -> String) -> String {
    if straight(bend, b).is_some() {
        return String::new();
    }
    let at = |q: [f64; 2]| format!("{}, {}", said(q[0] - b.min.x), said(q[1] - b.min.y));
    format!("{} to {}", at(bend.from), at(bend.to))
}

/// Each radius of the outline once, with how many it has: at the first corner, or the first arc.
fn radii(points: &[Point], said: impl Fn(f64) -> String) -> Vec<(DVec2, String)> {
    let mut out: Vec<(DVec2, String, usize)> = Vec::new();
    for p in points {
        let of_way = match p.next {
            Way::Arc { radius, top, .. } => Some((top, radius)),
            Way::Straight => None,
        };
        for (at, r) in p.round.map(|r| (p.at, r)).into_iter().chain(of_way) {
            let text = format!("R{}", said(r));
            match out.iter_mut().find(|o| o.1 == text) {
                Some(o) => o.2 += 1,
                None => out.push((at, text, 1)),
            }
        }
    }
    out.into_iter().map(|(at, t, n)| (at, if n > 1 { format!("{n}× {t}") } else { t })).collect()
}

/// The sign of the datum: a ring.
fn origin(at: DVec2) -> Item {
    Item::Shape { loops: vec![Contour::circle(at, 1.3, 0)], pen: Pen::Cut, filled: false }
}
