//! Lines that lie on one another become one: what is seen before what is soft, and that before what is
//! hidden. Then they are joined to strokes, so that dashes run on round a circle.

use std::collections::HashMap;
use std::f64::consts::PI;

use glam::DVec2;

/// In the order in which they cover one another.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Layer {
    Seen,
    Soft,
    Hidden,
}

/// Lines nearer than this, mm, are one.
const NEAR: f64 = 2e-3;
/// What is left between two lines, mm, is drawn from this length on.
const SLIVER: f64 = 0.02;
/// Directions that differ by less are one, rad.
const ALIKE: f64 = 1e-6;

/// A line by the straight that it lies on, and from where to where.
struct On {
    layer: Layer,
    angle: f64,
    offset: f64,
    from: f64,
    to: f64,
}

/// The strokes of each layer.
pub fn merged(lines: Vec<(Layer, [DVec2; 2])>) -> [Vec<Vec<DVec2>>; 3] {
    let mut on: Vec<On> = lines.into_iter().map(|(layer, [a, b])| on(layer, a, b)).collect();
    on.sort_by(|p, q| p.angle.total_cmp(&q.angle));
    let mut out: [Vec<[DVec2; 2]>; 3] = Default::default();
    for alike in on.chunk_by_mut(|p, q| q.angle - p.angle < ALIKE) {
        alike.sort_by(|p, q| p.offset.total_cmp(&q.offset));
        for group in alike.chunk_by(|p, q| q.offset - p.offset < NEAR) {
            along(group, &mut out);
        }
    }
    out.map(strokes)
}

fn on(layer: Layer, a: DVec2, b: DVec2) -> On {
    let mut angle = (b - a).to_angle().rem_euclid(PI);
    if angle > PI - ALIKE {
        angle = 0.0;
    }
    let way = DVec2::from_angle(angle);
    let (from, to) = (a.dot(way), b.dot(way));
    On { layer, angle, offset: a.dot(way.perp()), from: from.min(to), to: from.max(to) }
}

/// Lines on one straight: of each layer what no layer before it covers.
fn along(group: &[On], out: &mut [Vec<[DVec2; 2]>; 3]) {
    let mut covered: Vec<(f64, f64)> = Vec::new();
    for layer in [Layer::Seen, Layer::Soft, Layer::Hidden] {
        let mut own: Vec<&On> = group.iter().filter(|l| l.layer == layer).collect();
        own.sort_by(|p, q| p.from.total_cmp(&q.from));
        let runs = runs(&own);
        for (low, high, lead) in &runs {
            let way = DVec2::from_angle(lead.angle);
            let at = |v: f64| way * v + way.perp() * lead.offset;
            for (from, to) in without(*low, *high, &covered) {
                if to - from > SLIVER {
                    out[layer as usize].push([at(from), at(to)]);
                }
            }
        }
        covered.extend(runs.iter().map(|r| (r.0, r.1)));
    }
}

/// Stretches of lines that touch one another.
fn runs<'a>(lines: &[&'a On]) -> Vec<(f64, f64, &'a On)> {
    let mut out: Vec<(f64, f64, &On)> = Vec::new();
    for l in lines {
        match out.last_mut() {
            Some(last) if l.from <= last.1 + NEAR => last.1 = last.1.max(l.to),
            _ => out.push((l.from, l.to, l)),
        }
    }
    out
}

/// A stretch without what is covered.
fn without(low: f64, high: f64, covered: &[(f64, f64)]) -> Vec<(f64, f64)> {
    let mut parts = vec![(low, high)];
    for (from, to) in covered {
        parts = parts
            .into_iter()
            .flat_map(|(a, b)| [(a, b.min(*from)), (a.max(*to), b)])
            .filter(|(a, b)| b > a)
            .collect();
    }
    parts
}

/// Lines that end where one other begins, joined.
fn strokes(lines: Vec<[DVec2; 2]>) -> Vec<Vec<DVec2>> {
    let key = |p: DVec2| ((p.x / NEAR / 2.0).round() as i64, (p.y / NEAR / 2.0).round() as i64);
    let mut ends: HashMap<(i64, i64), Vec<usize>> = HashMap::new();
    for (i, [a, b]) in lines.iter().enumerate() {
        ends.entry(key(*a)).or_default().push(i);
        ends.entry(key(*b)).or_default().push(i);
    }
    let mut used = vec![false; lines.len()];
    let mut out = Vec::new();
    for i in 0..lines.len() {
        if std::mem::replace(&mut used[i], true) {
            continue;
        }
        let mut stroke = std::collections::VecDeque::from(lines[i]);
        for forward in [true, false] {
            loop {
                let end = if forward { stroke[stroke.len() - 1] } else { stroke[0] };
                let here = ends.get(&key(end)).map_or(&[][..], Vec::as_slice);
                let next = match here {
                    [p, q] => [*p, *q].into_iter().find(|k| !used[*k]),
                    _ => None,
                };
                let Some(k) = next else { break };
                used[k] = true;
                let [a, b] = lines[k];
                let far = if key(a) == key(end) { b } else { a };
                if forward {
                    stroke.push_back(far);
                } else {
                    stroke.push_front(far);
                }
            }
        }
        out.push(stroke.into());
    }
    out
}
