//! The order that bends are made in: from the outside in and the short flanges first, as far as nothing is
//! struck; else whatever order keeps clear. The search goes on until it has one or has proven that there is
//! none, as long as the piece is small enough for that.

use std::cmp::Reverse;
use std::collections::BinaryHeap;

use rustc_hash::FxHashMap;

use super::strike::Bench;
use super::stroke::{BendSet, Stroke};
use crate::flat::bends::BendFact;
use crate::formed::zones::Zone;

/// How an order was come by.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Order {
    /// Indices of strokes.
    pub strokes: Vec<usize>,
    /// As many as these, from the first, were set by hand.
    pub by_hand: usize,
    /// Strokes in it that strike something.
    pub struck: usize,
    /// No order has fewer, with those set by hand as they are.
    pub proven: bool,
    /// Strokes that were looked at in the search.
    pub looked: usize,
}

/// How long is searched: looks until proving is given up, and how many more to find an order at all. A look
/// is some 50 ns.
#[derive(Clone, Copy, Debug)]
pub struct Effort {
    proof: u64,
    finding: u64,
}

impl Effort {
    /// Where only the geometry is asked for.
    pub const NONE: Effort = Effort { proof: 0, finding: 0 };
    /// While somebody types.
    pub const SHORT: Effort = Effort { proof: 3_000_000, finding: 1_500_000 };
    /// When somebody asks for it and waits.
    pub const LONG: Effort = Effort { proof: 600_000_000, finding: 100_000_000 };
}

/// A search under way: its effort, and whom it tells how far it is; told to stop, it takes what it has.
pub struct Search<'a> {
    pub effort: Effort,
    pub on: &'a mut dyn FnMut(f64) -> bool,
}

/// Strokes between two words of how far the search is.
const TOLD_EVERY: usize = 500;

/// Orders that are followed at once when no proof is to be had.
const BEAM: usize = 8;

/// Bends between a zone and the one that lies still.
pub fn depth(zones: &[Zone], mut i: usize) -> usize {
    let mut n = 0;
    for _ in 0..zones.len() {
        match zones[i].parent {
            Some(p) => i = p,
            None => break,
        }
        n += usize::from(zones[i].bend().is_some());
    }
    n
}

/// How far what hangs on a bend reaches.
fn reach(zones: &[Zone], b: &BendFact) -> f64 {
    let panel = zones.iter().find(|z| z.parent == Some(b.zone) && z.is_panel());
    panel.map_or(0.0, |p| p.extent()[0].1)
}

/// Strokes as one would make them if nothing stood in the way.
pub fn preferred(zones: &[Zone], bends: &[BendFact], strokes: &[Stroke]) -> Vec<usize> {
    let mut out: Vec<usize> = (0..strokes.len()).collect();
    let key = |k: usize| {
        let b = &bends[strokes[k].bend];
        (Reverse(depth(zones, b.zone)), reach(zones, b))
    };
    out.sort_by(|a, b| {
        let (p, q) = (key(*a), key(*b));
        p.0.cmp(&q.0).then(p.1.total_cmp(&q.1)).then(a.cmp(b))
    });
    out
}

/// A stroke to be made next: fewest strikes first, then the furthest on, then the most usual order. Until it
/// has been looked at, `struck` counts only those before it.
#[derive(PartialEq, Eq, PartialOrd, Ord)]
struct Open {
    struck: Reverse<u32>,
    done: u32,
    usual: Reverse<usize>,
    newest: usize,
    looked_at: bool,
    stroke: usize,
    before: BendSet,
}

/// The best order that begins with `fixed`.
pub fn search(bench: &mut Bench, preferred: &[usize], fixed: &[usize], how: &mut Search) -> Order {
    let n = preferred.len();
    let mut order = Order { by_hand: fixed.len(), ..Order::default() };
    let mut begun: BendSet = 0;
    for &k in fixed {
        order.looked += 1;
        order.struck += usize::from(bench.is_struck(k, begun));
        begun |= 1 << k;
    }
    order.strokes = fixed.to_vec();
    let all: BendSet = if n >= 128 { BendSet::MAX } else { (1 << n) - 1 };
    let mut open = BinaryHeap::new();
    // The best way to each set of bends: strikes, and the stroke that led there.
    let mut best: FxHashMap<BendSet, (u32, usize)> = FxHashMap::default();
    best.insert(begun, (0, usize::MAX));
    let mut pushed = 0;
    let mut go_on = |open: &mut BinaryHeap<Open>, made: BendSet, struck: u32| {
        for (usual, &stroke) in preferred.iter().enumerate().filter(|(_, k)| made >> **k & 1 == 0) {
            pushed += 1;
            let done = made.count_ones() + 1;
            open.push(Open {
                struck: Reverse(struck),
                done,
                usual: Reverse(usual),
                newest: pushed,
                looked_at: false,
                stroke,
                before: made,
            });
        }
    };
    go_on(&mut open, begun, 0);
    let (from, most) = (bench.looks, how.effort.proof);
    let mut found = begun == all;
    let mut told = 0;
    while let Some(mut next) = open.pop().filter(|_| !found && bench.looks - from <= most) {
        ground::halt::point();
        if order.looked >= told + TOLD_EVERY {
            told = order.looked;
            if !(how.on)((bench.looks - from) as f64 / most as f64) {
                break;
            }
        }
        let made = next.before | 1 << next.stroke;
        if best.get(&made).is_some_and(|b| b.0 <= next.struck.0) {
            continue;
        }
        if !next.looked_at {
            order.looked += 1;
            if bench.is_struck(next.stroke, next.before) {
                next.looked_at = true;
                next.struck.0 += 1;
                open.push(next);
                continue;
            }
        }
        best.insert(made, (next.struck.0, next.stroke));
        found = made == all;
        go_on(&mut open, made, next.struck.0);
    }
    if found {
        order.proven = true;
        order.struck += best[&all].0 as usize;
        order.strokes.extend(way_back(&best, begun, all));
        return order;
    }
    let (struck, strokes, looked) = beam(bench, preferred, begun, how.effort.finding);
    order.struck += struck;
    order.looked += looked;
    order.strokes.extend(strokes);
    order
}

fn way_back(best: &FxHashMap<BendSet, (u32, usize)>, begun: BendSet, mut made: BendSet) -> Vec<usize> {
    let mut out = Vec::new();
    while made != begun {
        let (_, k) = best[&made];
        out.push(k);
        made &= !(1 << k);
    }
    out.reverse();
    out
}

/// Level by level, the few best orders of each length: strikes, the strokes, and how many were looked at.
fn beam(bench: &mut Bench, preferred: &[usize], begun: BendSet, most: u64) -> (usize, Vec<usize>, usize) {
    let left = preferred.iter().filter(|k| begun >> **k & 1 == 0).count();
    let mut level: Vec<(usize, usize, BendSet, Vec<usize>)> = vec![(0, 0, begun, Vec::new())];
    let mut looked = 0;
    let until = bench.looks + most;
    for _ in 0..left {
        let mut next: Vec<(usize, usize, BendSet, Vec<usize>)> = Vec::new();
        for (struck, odd, made, way) in &level {
            ground::halt::point();
            let waiting: Vec<usize> = preferred.iter().copied().filter(|k| made >> *k & 1 == 0).collect();
            for (usual, &k) in waiting.iter().enumerate() {
                // Out of time: the rest as usual.
                if bench.looks > until && usual > 0 {
                    break;
                }
                looked += 1;
                let strikes = usize::from(bench.is_struck(k, *made));
                next.push((
                    struck + strikes,
                    odd + usual,
                    made | 1 << k,
                    way.iter().copied().chain([k]).collect(),
                ));
            }
        }
        next.sort_by_key(|n| (n.0, n.1));
        let mut seen: Vec<BendSet> = Vec::new();
        next.retain(|n| {
            let new = seen.len() < BEAM && !seen.contains(&n.2);
            if new {
                seen.push(n.2);
            }
            new
        });
        level = next;
    }
    let (struck, _, _, way) = level.into_iter().next().unwrap_or_default();
    (struck, way, looked)
}
