//! Cutting shapes out of a blank. Shapes that stand alone become holes as they are, with their true arcs; only those that
//! overlap one another or the outline go through a boolean, so ten thousand holes cost little more than their neighbours' look-up.

use cavalier_contours::polyline::{BooleanOp, BooleanResult, PlineSource, Polyline};
use glam::DVec2;

use super::{Bounds, COINCIDENT, Contour, Grid, closest, crosses};

/// A shape to cut, told apart by `source` (the caller's index).
#[derive(Clone, Debug)]
pub struct Cut {
    pub contour: Contour,
    pub source: u32,
}

/// A hole that stayed inside the outline, with the cuts that made it.
#[derive(Clone, Debug, PartialEq)]
pub struct Hole {
    pub contour: Contour,
    pub sources: Vec<u32>,
}

#[derive(Clone, Debug, Default, PartialEq)]
pub struct CutOutcome {
    pub outer: Contour,
    pub holes: Vec<Hole>,
    /// Parts that the cuts separate from the piece: they fall out.
    pub dropped: Vec<Contour>,
    /// Cuts that do not touch the material.
    pub missed: Vec<u32>,
    /// The cuts take the whole blank.
    pub nothing_left: bool,
}

/// `outer` (counter-clockwise) less every cut.
pub fn cut_out(outer: Contour, cuts: &[Cut]) -> CutOutcome {
    let mut out = CutOutcome { outer, ..CutOutcome::default() };
    for (contour, sources) in clusters(cuts, &mut out.dropped) {
        apply(&mut out, contour, sources);
        if out.nothing_left {
            return out;
        }
    }
    // A cut that severs the blank may have taken earlier holes with the part that fell.
    if !out.dropped.is_empty() {
        let outer = out.outer.clone();
        out.holes.retain(|h| outer.contains(h.contour.segment(0).at(0.5)));
    }
    out
}

fn apply(out: &mut CutOutcome, contour: Contour, sources: Vec<u32>) {
    let bounds = contour.bounds();
    let meets = out.outer.segments().any(|s| s.bounds().near(&bounds, COINCIDENT) && contour.segments().any(|c| crosses(&s, &c, COINCIDENT)));
    if !meets {
        if out.outer.contains(contour.vertices[0].p) {
            out.holes.push(Hole { contour, sources });
        } else if contour.contains(out.outer.vertices[0].p) {
            out.nothing_left = true;
        } else {
            out.missed.extend(sources);
        }
        return;
    }
    let before = out.outer.area();
    let result = boolean(&out.outer, &contour, BooleanOp::Not);
    let mut parts: Vec<Contour> = result.pos_plines.iter().map(|p| tagged(&p.pline, &[&out.outer, &contour])).collect();
    parts.retain(|p| p.area() > 1e-6);
    parts.sort_by(|a, b| b.area().total_cmp(&a.area()));
    if parts.is_empty() {
        out.nothing_left = true;
        return;
    }
    out.outer = parts.remove(0).outward();
    if parts.is_empty() && (before - out.outer.area()).abs() < 1e-6 {
        out.missed.extend(sources);
    }
    out.dropped.extend(parts);
    // A shape that only touches the outline from inside stays a hole.
    for n in &result.neg_plines {
        out.holes.push(Hole { contour: tagged(&n.pline, &[&contour]).outward(), sources: Vec::new() });
    }
}

/// Joins cuts that overlap; the islands that a ring of cuts frees are dropped.
fn clusters(cuts: &[Cut], dropped: &mut Vec<Contour>) -> Vec<(Contour, Vec<u32>)> {
    let boxes: Vec<Bounds> = cuts.iter().map(|c| c.contour.bounds()).collect();
    let grid = Grid::new(&boxes, COINCIDENT);
    let mut group: Vec<usize> = (0..cuts.len()).collect();
    for i in 0..cuts.len() {
        for j in grid.near(&boxes[i]) {
            let j = j as usize;
            if j > i && boxes[i].near(&boxes[j], COINCIDENT) && overlap(&cuts[i].contour, &cuts[j].contour) {
                let (a, b) = (root(&mut group, i), root(&mut group, j));
                group[a.max(b)] = a.min(b);
            }
        }
    }
    let mut members: Vec<Vec<usize>> = vec![Vec::new(); cuts.len()];
    for i in 0..cuts.len() {
        members[root(&mut group, i)].push(i);
    }
    let mut out = Vec::new();
    for list in members.into_iter().filter(|l| !l.is_empty()) {
        let sources = |list: &[usize]| list.iter().map(|&i| cuts[i].source).collect::<Vec<_>>();
        if list.len() == 1 {
            out.push((cuts[list[0]].contour.clone(), sources(&list)));
            continue;
        }
        for joined in union(list.iter().map(|&i| &cuts[i].contour), dropped) {
            out.push((joined, sources(&list)));
        }
    }
    out
}

fn root(group: &mut [usize], mut i: usize) -> usize {
    while group[i] != i {
        group[i] = group[group[i]];
        i = group[i];
    }
    i
}

fn overlap(a: &Contour, b: &Contour) -> bool {
    a.segments().any(|s| b.segments().any(|t| s.bounds().near(&t.bounds(), COINCIDENT) && closest(&s, &t).gap <= COINCIDENT))
        || a.contains(b.vertices[0].p)
        || b.contains(a.vertices[0].p)
}

/// The union of overlapping contours: usually one outline. The inner islands go to `dropped`.
fn union<'a>(contours: impl Iterator<Item = &'a Contour>, dropped: &mut Vec<Contour>) -> Vec<Contour> {
    let mut parts: Vec<Contour> = Vec::new();
    for next in contours {
        let mut current = next.clone();
        let mut rest = Vec::new();
        for part in parts {
            if !overlap(&part, &current) {
                rest.push(part);
                continue;
            }
            let result = boolean(&current, &part, BooleanOp::Or);
            dropped.extend(result.neg_plines.iter().map(|p| tagged(&p.pline, &[&current, &part]).outward()));
            let mut joined: Vec<Contour> = result.pos_plines.iter().map(|p| tagged(&p.pline, &[&current, &part])).collect();
            joined.sort_by(|a, b| b.area().total_cmp(&a.area()));
            if !joined.is_empty() {
                current = joined.remove(0).outward();
                rest.extend(joined);
            }
        }
        rest.push(current);
        parts = rest;
    }
    parts
}

fn boolean(a: &Contour, b: &Contour, op: BooleanOp) -> BooleanResult<Polyline<f64>> {
    a.to_polyline().boolean(&b.to_polyline(), op)
}

/// Gives each side of a boolean result the tag of the side it came from.
fn tagged(p: &Polyline<f64>, from: &[&Contour]) -> Contour {
    let mut out = Contour::from_polyline(p).without_short_sides();
    for i in 0..out.vertices.len() {
        let middle: DVec2 = out.segment(i).at(0.5);
        let mut best = (f64::INFINITY, 0);
        for c in from {
            for (v, s) in c.vertices.iter().zip(c.segments()) {
                let d = s.nearest(middle).distance_squared(middle);
                if d < best.0 {
                    best = (d, v.tag);
                }
            }
        }
        out.vertices[i].tag = best.1;
    }
    out
}
