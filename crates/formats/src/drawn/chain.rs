//! Runs of lines and arcs → closed contours, each run looked at once. What is drawn twice counts once, small
//! gaps are closed, and both are told.

use std::collections::HashMap;
use std::rc::Rc;

use glam::DVec2;
use steelk_core::geom::{Bounds, Contour, Segment, Vertex};
use steelk_core::halt;
use steelk_core::job::CLOSES;

use super::strokes::{Run, SAME};

/// A stretch that does not close.
#[derive(Clone, Debug)]
pub struct Open {
    pub layer: Rc<str>,
    pub segments: Vec<Segment>,
    pub bounds: Bounds,
}

impl Open {
    pub fn ends(&self) -> [DVec2; 2] {
        [self.segments[0].a, self.segments[self.segments.len() - 1].b]
    }
}

/// Between two loose ends, each of which has no nearer one.
#[derive(Clone, Debug, PartialEq)]
pub struct Gap {
    pub from: DVec2,
    pub to: DVec2,
    pub layer: Rc<str>,
}

impl Gap {
    pub fn width(&self) -> f64 {
        self.from.distance(self.to)
    }
}

#[derive(Debug, Default)]
pub struct Chained {
    pub closed: Vec<(Contour, Rc<str>)>,
    pub open: Vec<Open>,
    /// Strokes that were drawn over another, and where.
    pub doubled: Vec<DVec2>,
    /// Where gaps were closed, and the widest of them.
    pub gaps_closed: Vec<DVec2>,
    pub widest_gap: f64,
}

/// Points by the cell that they lie in.
struct Cells {
    size: f64,
    cells: HashMap<[i64; 2], Vec<usize>>,
}

impl Cells {
    fn new(size: f64) -> Self {
        Cells { size, cells: HashMap::new() }
    }

    fn cell(&self, p: DVec2) -> [i64; 2] {
        [(p.x / self.size).floor() as i64, (p.y / self.size).floor() as i64]
    }

    fn add(&mut self, p: DVec2, n: usize) {
        let cell = self.cell(p);
        self.cells.entry(cell).or_default().push(n);
    }

    fn near(&self, p: DVec2) -> impl Iterator<Item = usize> + '_ {
        let [x, y] = self.cell(p);
        (-1..=1)
            .flat_map(move |i| (-1..=1).map(move |j| [x + i, y + j]))
            .filter_map(|c| self.cells.get(&c))
            .flatten()
            .copied()
    }
}

/// Ends that are one place, each run from one to another.
struct Net {
    nodes: Vec<DVec2>,
    ends: Vec<[usize; 2]>,
}

fn net(runs: &[Run]) -> Net {
    let mut cells = Cells::new(SAME);
    let mut nodes: Vec<DVec2> = Vec::new();
    let mut node = |p: DVec2| {
        halt::often();
        let nearest = cells
            .near(p)
            .filter(|n| nodes[*n].distance(p) <= SAME)
            .min_by(|m, n| nodes[*m].distance(p).total_cmp(&nodes[*n].distance(p)));
        nearest.unwrap_or_else(|| {
            nodes.push(p);
            cells.add(p, nodes.len() - 1);
            nodes.len() - 1
        })
    };
    let ends =
        runs.iter().map(|r| [node(r.segments[0].a), node(r.segments[r.segments.len() - 1].b)]).collect();
    Net { nodes, ends }
}

/// The place half way along a run: with its ends it tells doubles.
fn halfway(r: &Run) -> DVec2 {
    let mut left = r.segments.iter().map(Segment::length).sum::<f64>() / 2.0;
    for s in &r.segments {
        let length = s.length();
        if left <= length && length > 0.0 {
            return s.at(left / length);
        }
        left -= length;
    }
    r.segments[0].a
}

/// Runs drawn over one another, once each.
fn once(runs: Vec<Run>, net: &mut Net, doubled: &mut Vec<DVec2>) -> Vec<Run> {
    let mut known: HashMap<[usize; 2], Vec<(DVec2, f64)>> = HashMap::new();
    let mut ends = Vec::with_capacity(runs.len());
    let mut out = Vec::with_capacity(runs.len());
    for (r, [a, b]) in runs.into_iter().zip(&net.ends) {
        halt::often();
        let (middle, length) = (halfway(&r), r.length());
        let same = known.entry([*a.min(b), *a.max(b)]).or_default();
        if same.iter().any(|(m, l)| (length - l).abs() < 10.0 * SAME && m.distance(middle) < 10.0 * SAME) {
            doubled.push(middle);
            continue;
        }
        same.push((middle, length));
        ends.push([*a, *b]);
        out.push(r);
    }
    net.ends = ends;
    out
}

/// Gaps up to `closes` are closed.
pub fn chain(runs: Vec<Run>, closes: f64) -> Chained {
    let mut out = Chained::default();
    let mut net = net(&runs);
    let mut runs = once(runs, &mut net, &mut out.doubled);
    close_gaps(&mut runs, &mut net, closes, &mut out);
    let mut at: Vec<Vec<usize>> = vec![Vec::new(); net.nodes.len()];
    for (k, [a, b]) in net.ends.iter().enumerate() {
        at[*a].push(k);
        at[*b].push(k);
    }
    let degree: Vec<usize> = at.iter().map(Vec::len).collect();
    let mut used = vec![false; runs.len()];
    // Loose ends first, so that what closes is not begun in the middle of what does not.
    let loose = (0..runs.len()).filter(|k| net.ends[*k].iter().any(|n| degree[*n] == 1));
    let order: Vec<usize> = loose.chain(0..runs.len()).collect();
    let mut open: Vec<Vec<(usize, bool)>> = Vec::new();
    // Where along the walk a place was met, for the places on it.
    let mut met: Vec<Option<usize>> = vec![None; net.nodes.len()];
    for first in order {
        if used[first] {
            continue;
        }
        let forward = degree[net.ends[first][0]] == 1 || degree[net.ends[first][1]] != 1;
        let mut walk: Vec<(usize, bool)> = Vec::new();
        let mut here = net.ends[first][usize::from(!forward)];
        let mut next = Some(first);
        met[here] = Some(0);
        while let Some(k) = next {
            halt::often();
            used[k] = true;
            let onward = net.ends[k][0] == here;
            walk.push((k, onward));
            here = net.ends[k][usize::from(onward)];
            if let Some(since) = met[here] {
                // A loop is closed; the walk goes on from where it began.
                let ring = walk.split_off(since);
                for (k, onward) in &ring {
                    met[net.ends[*k][usize::from(*onward)]] = None;
                }
                met[here] = Some(since);
                out.closed.push(contour(&ring, &runs));
            } else {
                met[here] = Some(walk.len());
            }
            next = at[here].iter().copied().find(|k| !used[*k]);
        }
        for (k, _) in &walk {
            net.ends[*k].iter().for_each(|n| met[*n] = None);
        }
        met[here] = None;
        if !walk.is_empty() {
            open.push(walk);
        }
    }
    for walk in open {
        let segments: Vec<Segment> = walk.iter().flat_map(|w| onward(*w, &runs)).collect();
        let bounds = segments.iter().fold(Bounds::EMPTY, |b, s| b.join(&s.bounds()));
        out.open.push(Open { layer: runs[walk[0].0].layer.clone(), segments, bounds });
    }
    out
}

/// The segments of a run in the sense of the walk.
fn onward((k, onward): (usize, bool), runs: &[Run]) -> Vec<Segment> {
    let s = &runs[k].segments;
    if onward {
        s.clone()
    } else {
        s.iter().rev().map(|s| Segment { a: s.b, b: s.a, bulge: -s.bulge }).collect()
    }
}

/// Ends that are measured against one another.
const MOST_ENDS: usize = 2_000;

/// The gaps between what stays open, nearest ends first; an end is in one gap only.
pub fn gaps(open: &[Open]) -> Vec<Gap> {
    let ends: Vec<(DVec2, usize)> =
        open.iter().enumerate().flat_map(|(k, o)| o.ends().map(|p| (p, k))).take(MOST_ENDS).collect();
    let mut pairs: Vec<(f64, usize, usize)> = Vec::new();
    for (i, (p, _)) in ends.iter().enumerate() {
        halt::often();
        let mut near: Vec<(f64, usize, usize)> =
            (i + 1..ends.len()).map(|j| (p.distance(ends[j].0), i, j)).collect();
        near.sort_by(|a, b| a.0.total_cmp(&b.0));
        near.truncate(8);
        // Its own other end, however far.
        near.extend((i % 2 == 0 && i + 1 < ends.len()).then(|| (p.distance(ends[i + 1].0), i, i + 1)));
        pairs.extend(near);
    }
    pairs.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut taken = vec![false; ends.len()];
    let mut out = Vec::new();
    for (_, i, j) in pairs {
        if !taken[i] && !taken[j] {
            (taken[i], taken[j]) = (true, true);
            let layer = open[ends[i].1].layer.clone();
            out.push(Gap { from: ends[i].0, to: ends[j].0, layer });
        }
    }
    out
}

/// Loose ends near one another become one place, the nearest pairs first.
fn close_gaps(runs: &mut [Run], net: &mut Net, closes: f64, out: &mut Chained) {
    if closes <= SAME {
        return;
    }
    let mut degree = vec![0; net.nodes.len()];
    net.ends.iter().flatten().for_each(|n| degree[*n] += 1);
    let mut cells = Cells::new(closes);
    let loose: Vec<usize> = (0..net.nodes.len()).filter(|n| degree[*n] == 1).collect();
    loose.iter().for_each(|n| cells.add(net.nodes[*n], *n));
    // A speck does not close on itself.
    let mut speck: HashMap<usize, usize> = HashMap::new();
    for (r, [a, b]) in runs.iter().zip(&net.ends) {
        if r.length() < 10.0 * closes.min(CLOSES) {
            speck.extend([(*a, *b), (*b, *a)]);
        }
    }
    let mut pairs: Vec<(f64, usize, usize)> = Vec::new();
    for &n in &loose {
        halt::often();
        let apart = |m: usize| net.nodes[n].distance(net.nodes[m]);
        // Of a crowd the nearest few are enough.
        let mut near: Vec<(f64, usize, usize)> = cells
            .near(net.nodes[n])
            .filter(|m| *m > n && apart(*m) <= closes && speck.get(&n) != Some(m))
            .map(|m| (apart(m), n, m))
            .collect();
        near.sort_by(|a, b| a.0.total_cmp(&b.0));
        near.truncate(8);
        pairs.extend(near);
    }
    pairs.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut becomes: Vec<Option<usize>> = vec![None; net.nodes.len()];
    let mut taken = vec![false; net.nodes.len()];
    for (gap, a, b) in pairs {
        if !taken[a] && !taken[b] {
            (taken[a], taken[b], becomes[b]) = (true, true, Some(a));
            out.gaps_closed.push(net.nodes[a].midpoint(net.nodes[b]));
            out.widest_gap = out.widest_gap.max(gap);
        }
    }
    for (r, ends) in runs.iter_mut().zip(&mut net.ends) {
        let last = r.segments.len() - 1;
        if let Some(n) = becomes[ends[0]] {
            (ends[0], r.segments[0].a) = (n, net.nodes[n]);
        }
        if let Some(n) = becomes[ends[1]] {
            (ends[1], r.segments[last].b) = (n, net.nodes[n]);
        }
    }
}

fn contour(ring: &[(usize, bool)], runs: &[Run]) -> (Contour, Rc<str>) {
    let vertices = ring
        .iter()
        .flat_map(|w| onward(*w, runs))
        .map(|s| Vertex { p: s.a, bulge: s.bulge, tag: 0 })
        .collect();
    // A gap that was closed may leave a step of nothing.
    let all = Contour { vertices };
    let kept = all
        .segments()
        .zip(&all.vertices)
        .filter(|(s, _)| s.a.distance(s.b) > SAME)
        .map(|(_, v)| *v)
        .collect();
    (Contour { vertices: kept }, runs[ring[0].0].layer.clone())
}
