//! Cutting shapes out of a blank. Shapes that stand alone become holes as they are, with their true arcs;
//! only those that overlap one another or the outline go through a boolean, so ten thousand holes cost little
//! more than their neighbours' look-up.

use std::hash::{Hash, Hasher};

use cavalier_contours::polyline::{BooleanOp, BooleanResult, PlineSource, Polyline};
use glam::DVec2;
use rustc_hash::{FxHashMap as HashMap, FxHasher};

use super::{Bounds, COINCIDENT, Contour, Grid, ROUNDING, Segment, closest, crosses};

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
    /// The cuts overlap one another too much to be worked out: none was made.
    pub tangled: bool,
}

/// The most cuts that may overlap in one opening.
pub const MOST_JOINED: usize = 2_000;

/// How many pairs of neighbours are looked at before cuts count as tangled.
const MOST_LOOKS: usize = 4_000_000;

/// `outer` (counter-clockwise) less every cut.
pub fn cut_out(outer: Contour, cuts: &[Cut]) -> CutOutcome {
    let mut out = CutOutcome { outer, ..CutOutcome::default() };
    let clusters = match clusters(cuts, &mut out.dropped) {
        Some(c) if cuts.len().saturating_mul(out.outer.vertices.len()) < 10 * MOST_LOOKS => c,
        _ => {
            out.tangled = true;
            return out;
        }
    };
    // Of the outline's sides, as long as no cut has changed them.
    let mut sides = boxed(&out.outer);
    for (contour, sources) in clusters {
        crate::halt::point();
        if apply(&mut out, &sides, contour, sources) {
            sides = boxed(&out.outer);
        }
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

fn boxed(contour: &Contour) -> Vec<(Bounds, Segment)> {
    contour.segments().map(|s| (s.bounds(), s)).collect()
}

/// One cut; whether the outline is another then.
fn apply(out: &mut CutOutcome, sides: &[(Bounds, Segment)], contour: Contour, sources: Vec<u32>) -> bool {
    let bounds = contour.bounds();
    let meets = sides
        .iter()
        .any(|(b, s)| b.near(&bounds, COINCIDENT) && contour.segments().any(|c| crosses(s, &c, COINCIDENT)));
    if !meets {
        if out.outer.contains(contour.vertices[0].p) {
            out.holes.push(Hole { contour, sources });
        } else if contour.contains(out.outer.vertices[0].p) {
            out.nothing_left = true;
        } else {
            out.missed.extend(sources);
        }
        return false;
    }
    let before = out.outer.area();
    let result = boolean(&out.outer, &contour, BooleanOp::Not);
    let mut parts: Vec<Contour> =
        result.pos_plines.iter().map(|p| tagged(&p.pline, &[&out.outer, &contour])).collect();
    parts.retain(|p| p.area() > COINCIDENT);
    parts.sort_by(|a, b| b.area().total_cmp(&a.area()));
    if parts.is_empty() {
        out.nothing_left = true;
        return true;
    }
    out.outer = parts.remove(0).outward();
    if parts.is_empty() && (before - out.outer.area()).abs() < COINCIDENT {
        out.missed.extend(sources);
    }
    out.dropped.extend(parts);
    // A shape that only touches the outline from inside stays a hole.
    for n in &result.neg_plines {
        out.holes.push(Hole { contour: tagged(&n.pline, &[&contour]).outward(), sources: Vec::new() });
    }
    true
}

/// Joins cuts that overlap; the islands that a ring of cuts frees are dropped. `None` when the cuts are too
/// entangled to be worked out.
fn clusters(all: &[Cut], dropped: &mut Vec<Contour>) -> Option<Vec<(Contour, Vec<u32>)>> {
    // The same cut said twice in one place is one.
    let mut cuts: Vec<&Cut> = Vec::with_capacity(all.len());
    // Which of them, and who said it.
    let mut said: Vec<(usize, u32)> = Vec::with_capacity(all.len());
    let mut known: HashMap<u64, usize> = HashMap::with_capacity_and_hasher(all.len(), Default::default());
    for c in all {
        crate::halt::often();
        let mut hasher = FxHasher::default();
        rounded(&c.contour).for_each(|v| v.hash(&mut hasher));
        let mut key = hasher.finish();
        let at = loop {
            match known.get(&key) {
                Some(&at) if rounded(&cuts[at].contour).eq(rounded(&c.contour)) => break at,
                // Another cut has this key by chance.
                Some(_) => key = key.wrapping_add(1),
                None => {
                    known.insert(key, cuts.len());
                    cuts.push(c);
                    break cuts.len() - 1;
                }
            }
        };
        said.push((at, c.source));
    }
    said.sort_by_key(|s| s.0);
    let boxes: Vec<Bounds> = cuts.iter().map(|c| c.contour.bounds()).collect();
    let grid = Grid::new(&boxes, COINCIDENT);
    let mut group: Vec<usize> = (0..cuts.len()).collect();
    let mut looks = MOST_LOOKS + 64 * cuts.len();
    let mut near = Vec::new();
    for i in 0..cuts.len() {
        crate::halt::point();
        grid.put_near(&boxes[i], &mut near);
        looks = looks.checked_sub(near.len())?;
        for &j in &near {
            let j = j as usize;
            if j > i && boxes[i].near(&boxes[j], COINCIDENT) && root(&mut group, i) != root(&mut group, j) {
                looks = looks.checked_sub(cuts[i].contour.vertices.len() * cuts[j].contour.vertices.len())?;
                if overlap(&cuts[i].contour, &cuts[j].contour) {
                    let (a, b) = (root(&mut group, i), root(&mut group, j));
                    group[a.max(b)] = a.min(b);
                }
            }
        }
    }
    let mut members: Vec<(usize, usize)> = Vec::with_capacity(cuts.len());
    for i in 0..cuts.len() {
        crate::halt::point();
        members.push((root(&mut group, i), i));
    }
    members.sort_unstable();
    let mut out = Vec::with_capacity(cuts.len());
    for list in members.chunk_by(|a, b| a.0 == b.0) {
        if list.len() > MOST_JOINED {
            return None;
        }
        let by = |i: usize| {
            let from = said.partition_point(|s| s.0 < i);
            said[from..].iter().take_while(move |s| s.0 == i).map(|s| s.1)
        };
        let sources: Vec<u32> = list.iter().flat_map(|m| by(m.1)).collect();
        let parts: Vec<Contour> = list.iter().map(|m| cuts[m.1].contour.clone()).collect();
        out.extend(union(parts, dropped).into_iter().map(|joined| (joined, sources.clone())));
    }
    Some(out)
}

/// What two contours have alike that are the same within a ten-millionth.
fn rounded(c: &Contour) -> impl Iterator<Item = [i64; 3]> {
    c.vertices.iter().map(|v| [v.p.x, v.p.y, v.bulge].map(|n| (n * 1e7).round() as i64))
}

fn root(group: &mut [usize], mut i: usize) -> usize {
    while group[i] != i {
        group[i] = group[group[i]];
        i = group[i];
    }
    i
}

fn overlap(a: &Contour, b: &Contour) -> bool {
    let sides: Vec<_> = b.segments().map(|t| (t.bounds(), t)).collect();
    let reach = sides.iter().fold(Bounds::EMPTY, |r, s| r.join(&s.0));
    a.segments().any(|s| {
        crate::halt::point();
        let bounds = s.bounds();
        bounds.near(&reach, COINCIDENT)
            && sides.iter().any(|(b, t)| bounds.near(b, COINCIDENT) && closest(&s, t).gap <= COINCIDENT)
    }) || a.contains(b.vertices[0].p)
        || b.contains(a.vertices[0].p)
}

/// The union of overlapping contours: usually one outline. The inner islands go to `dropped`.
/// Halves are joined first, so that the work grows little faster than the number of shapes.
fn union(mut contours: Vec<Contour>, dropped: &mut Vec<Contour>) -> Vec<Contour> {
    if contours.len() < 2 {
        return contours;
    }
    let right = contours.split_off(contours.len() / 2);
    let mut parts = union(contours, dropped);
    for mut current in union(right, dropped) {
        crate::halt::point();
        let mut rest = Vec::new();
        for part in parts {
            if !overlap(&part, &current) {
                rest.push(part);
                continue;
            }
            let result = boolean(&current, &part, BooleanOp::Or);
            dropped.extend(result.neg_plines.iter().map(|p| tagged(&p.pline, &[&current, &part]).outward()));
            let mut joined: Vec<Contour> =
                result.pos_plines.iter().map(|p| tagged(&p.pline, &[&current, &part])).collect();
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

/// What two contours have in common.
pub fn common(a: &Contour, b: &Contour) -> Vec<Contour> {
    boolean(a, b, BooleanOp::And)
        .pos_plines
        .iter()
        .map(|p| tagged(&p.pline, &[a, b]).outward())
        .filter(|c| c.area() > ROUNDING)
        .collect()
}

fn boolean(a: &Contour, b: &Contour, op: BooleanOp) -> BooleanResult<Polyline<f64>> {
    a.to_polyline().boolean(&b.to_polyline(), op)
}

/// Gives each side of a boolean result the tag of the side it came from.
fn tagged(p: &Polyline<f64>, from: &[&Contour]) -> Contour {
    let mut out = Contour::from_polyline(p).without_short_sides();
    let sides: Vec<_> =
        from.iter().flat_map(|c| c.vertices.iter().zip(c.segments())).map(|(v, s)| (v.tag, s)).collect();
    let boxes: Vec<Bounds> = sides.iter().map(|s| s.1.bounds()).collect();
    let grid = Grid::new(&boxes, 1e-3);
    for i in 0..out.vertices.len() {
        let middle: DVec2 = out.segment(i).at(0.5);
        let near = grid.near(&Bounds::of([middle]));
        let apart = |k: &u32| sides[*k as usize].1.nearest(middle).distance_squared(middle);
        let best = near.iter().min_by(|a, b| apart(a).total_cmp(&apart(b)));
        out.vertices[i].tag = best.map_or(0, |&k| sides[k as usize].0);
    }
    out
}
