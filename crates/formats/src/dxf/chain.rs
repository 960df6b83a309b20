//! Runs of lines and arcs → closed contours, each run looked at once. What is drawn twice counts once, small
//! gaps are closed, and both are told.

use std::collections::HashMap;
use std::rc::Rc;

use glam::DVec2;
use steelk_core::geom::{Bounds, Contour, Segment, Vertex};
use steelk_core::halt;

use super::flatten::{Run, SAME};

/// Gaps up to this are closed, mm.
pub const CLOSES: f64 = 0.05;

/// A stretch that does not close.
#[derive(Debug)]
pub struct Open {
    pub layer: Rc<str>,
    pub from: DVec2,
    pub to: DVec2,
    pub parts: usize,
    /// From `to` to the nearest other open end; its own other end counts.
    pub gap: f64,
    pub bounds: Bounds,
}

#[derive(Debug, Default)]
pub struct Chained {
    pub closed: Vec<(Contour, Rc<str>)>,
    pub open: Vec<Open>,
    /// Lines that were drawn over another.
    pub doubled: usize,
    pub gaps_closed: usize,
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
fn once(runs: Vec<Run>, net: &mut Net, doubled: &mut usize) -> Vec<Run> {
    let mut known: HashMap<[usize; 2], Vec<(DVec2, f64)>> = HashMap::new();
    let mut ends = Vec::with_capacity(runs.len());
    let mut out = Vec::with_capacity(runs.len());
    for (r, [a, b]) in runs.into_iter().zip(&net.ends) {
        halt::often();
        let (middle, length) = (halfway(&r), r.segments.iter().map(Segment::length).sum::<f64>());
        let same = known.entry([*a.min(b), *a.max(b)]).or_default();
        if same.iter().any(|(m, l)| (length - l).abs() < 10.0 * SAME && m.distance(middle) < 10.0 * SAME) {
            *doubled += 1;
            continue;
        }
        same.push((middle, length));
        ends.push([*a, *b]);
        out.push(r);
    }
    net.ends = ends;
    out
}

pub fn chain(runs: Vec<Run>) -> Chained {
    let mut out = Chained::default();
    let mut net = net(&runs);
    let mut runs = once(runs, &mut net, &mut out.doubled);
    close_gaps(&mut runs, &mut net, &mut out);
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
    let ends: Vec<DVec2> =
        open.iter().flat_map(|w| [start(w[0], &runs), end(w[w.len() - 1], &runs)]).collect();
    for (n, walk) in open.iter().enumerate() {
        let to = ends[2 * n + 1];
        // Every end against every other: of many, only the first few are measured.
        let others = ends.iter().enumerate().filter(|(i, _)| *i != 2 * n + 1 && (n < 50 || i / 2 == n));
        let gap = others.map(|(_, p)| p.distance(to)).fold(f64::INFINITY, f64::min);
        let mut bounds = Bounds::EMPTY;
        walk.iter().flat_map(|(k, _)| &runs[*k].segments).for_each(|s| bounds = bounds.join(&s.bounds()));
        out.open.push(Open {
            layer: runs[walk[0].0].layer.clone(),
            from: ends[2 * n],
            to,
            parts: walk.len(),
            gap,
            bounds,
        });
    }
    out
}

/// Loose ends near one another become one place, the nearest pairs first.
fn close_gaps(runs: &mut [Run], net: &mut Net, out: &mut Chained) {
    let mut degree = vec![0; net.nodes.len()];
    net.ends.iter().flatten().for_each(|n| degree[*n] += 1);
    let mut cells = Cells::new(CLOSES);
    let loose: Vec<usize> = (0..net.nodes.len()).filter(|n| degree[*n] == 1).collect();
    loose.iter().for_each(|n| cells.add(net.nodes[*n], *n));
    // A speck does not close on itself.
    let mut speck: HashMap<usize, usize> = HashMap::new();
    for (r, [a, b]) in runs.iter().zip(&net.ends) {
        if r.segments.iter().map(Segment::length).sum::<f64>() < 10.0 * CLOSES {
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
            .filter(|m| *m > n && apart(*m) <= CLOSES && speck.get(&n) != Some(m))
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
            out.gaps_closed += 1;
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

fn start((k, onward): (usize, bool), runs: &[Run]) -> DVec2 {
    let s = &runs[k].segments;
    if onward { s[0].a } else { s[s.len() - 1].b }
}

fn end((k, onward): (usize, bool), runs: &[Run]) -> DVec2 {
    start((k, !onward), runs)
}

fn contour(ring: &[(usize, bool)], runs: &[Run]) -> (Contour, Rc<str>) {
    let mut vertices = Vec::new();
    for (k, onward) in ring {
        let segments = &runs[*k].segments;
        if *onward {
            vertices.extend(segments.iter().map(|s| Vertex { p: s.a, bulge: s.bulge, tag: 0 }));
        } else {
            vertices.extend(segments.iter().rev().map(|s| Vertex { p: s.b, bulge: -s.bulge, tag: 0 }));
        }
    }
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
