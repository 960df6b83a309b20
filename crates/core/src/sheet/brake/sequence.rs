//! The order that bends are made in: proposed from the outside in, the short flanges first, and changed where a panel would strike a tool;
//! as far as a hand has set it, kept.

use super::strike::{Strike, at_tools, strikes};
use crate::sheet::bends::BendFact;
use crate::sheet::zones::Zone;
use crate::shopbook::brake::BrakeOf;

/// One bend in its turn.
#[derive(Clone, Debug)]
pub struct Step {
    /// Index among the piece's bends.
    pub bend: usize,
    pub reason: String,
    pub strikes: Vec<Strike>,
    /// The longest punch that keeps clear, where it must be shorter than the bend.
    pub punch: Option<f64>,
    /// From the middle of the bend to the stop.
    pub gauge: f64,
}

/// More bends than this are put in order without looking for strikes.
const MOST_LOOKED_AT: usize = 40;

/// Which way candidates are tried.
#[derive(Clone, Copy, PartialEq)]
enum Way {
    OutsideIn,
    InsideOut,
    ShortFirst,
}

pub fn sequence(zones: &[Zone], bends: &[BendFact], told: &[String], brake: &BrakeOf, t: f64) -> Vec<Step> {
    let all: Vec<usize> = (0..bends.len()).filter(|i| !bends[*i].rolled).collect();
    let mut fixed: Vec<usize> = Vec::new();
    for i in told.iter().filter_map(|name| all.iter().copied().find(|i| bends[*i].name == *name)) {
        if !fixed.contains(&i) {
            fixed.push(i);
        }
    }
    let v = brake.opening(t);
    let free: Vec<usize> = all.iter().copied().filter(|i| !fixed.contains(i)).collect();
    let ways = [Way::OutsideIn, Way::ShortFirst, Way::InsideOut];
    let plan = |way| propose(zones, bends, &fixed, &free, way, v, t);
    let mut best: Option<Vec<Step>> = None;
    for way in ways {
        let steps = plan(way);
        let struck = |s: &[Step]| s.iter().map(|s| s.strikes.len()).sum::<usize>();
        let fewer = best.as_ref().is_none_or(|b| struck(&steps) < struck(b));
        let clean = struck(&steps) == 0;
        if fewer {
            best = Some(steps);
        }
        if clean || all.len() > MOST_LOOKED_AT {
            break;
        }
    }
    best.unwrap_or_default()
}

/// Bends between a zone and the one that lies still.
fn depth(zones: &[Zone], mut i: usize) -> usize {
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

fn reach(zones: &[Zone], b: &BendFact) -> f64 {
    let panel = zones.iter().find(|z| z.parent == Some(b.zone) && z.is_panel());
    panel.map_or(0.0, |p| p.extent()[0].1)
}

fn propose(zones: &[Zone], bends: &[BendFact], fixed: &[usize], free: &[usize], way: Way, v: f64, t: f64) -> Vec<Step> {
    let look = fixed.len() + free.len() <= MOST_LOOKED_AT;
    let mut shares = vec![0.0; zones.len()];
    let mut out: Vec<Step> = Vec::new();
    let take = |i: usize, reason: String, (strikes, punch): (Vec<Strike>, Option<f64>), shares: &mut Vec<f64>, out: &mut Vec<Step>| {
        let gauge = gauge(zones, &bends[i], shares, t);
        shares[bends[i].zone] = 1.0;
        out.push(Step { bend: i, reason, strikes, punch, gauge });
    };
    let struck = |i: usize, shares: &[f64]| if look { strikes(zones, &bends[i], shares, v, t) } else { (Vec::new(), None) };
    for &i in fixed {
        let found = struck(i, &shares);
        take(i, "set by hand".into(), found, &mut shares, &mut out);
    }
    let key = |i: &usize| {
        let (d, r) = (depth(zones, bends[*i].zone) as f64, reach(zones, &bends[*i]));
        match way {
            Way::OutsideIn => (-d, r),
            Way::InsideOut => (d, r),
            Way::ShortFirst => (r, -d),
        }
    };
    let mut left = free.to_vec();
    left.sort_by(|a, b| key(a).partial_cmp(&key(b)).unwrap_or(std::cmp::Ordering::Equal).then(a.cmp(b)));
    while !left.is_empty() {
        // A bend that would keep a later one from being made waits for it: look one step ahead.
        let mut pick = 0;
        let mut found = struck(left[0], &shares);
        if !found.0.is_empty() {
            for (k, &i) in left.iter().enumerate().skip(1) {
                let other = struck(i, &shares);
                if other.0.is_empty() {
                    (pick, found) = (k, other);
                    break;
                }
            }
        }
        let i = left.remove(pick);
        let reason = why(zones, bends, i, &left, pick > 0, &found.0);
        take(i, reason, found, &mut shares, &mut out);
    }
    out
}

fn why(zones: &[Zone], bends: &[BendFact], i: usize, left: &[usize], waited: bool, found: &[Strike]) -> String {
    if let Some(s) = found.first() {
        return format!("no order is free of strikes: {}", s.said());
    }
    if waited {
        return "taken before one that would strike now".into();
    }
    let own = depth(zones, bends[i].zone);
    let inner = left.iter().find(|j| depth(zones, bends[**j].zone) < own);
    match (inner, left.is_empty()) {
        (Some(j), _) => format!("from the outside in: before {}", bends[*j].label),
        (None, true) => "the last one left".into(),
        (None, false) => "the shorter flange first".into(),
    }
}

/// From the middle of a bend to the stop behind it: the nearer outermost end of the piece, as it lies on the die.
fn gauge(zones: &[Zone], b: &BendFact, shares: &[f64], t: f64) -> f64 {
    let at = at_tools(zones, b, shares, t);
    let (mut ahead, mut behind) = (0.0f64, 0.0f64);
    for p in at.panels.iter().flat_map(|p| p.1.iter().flatten()) {
        ahead = ahead.max(p.x);
        behind = behind.max(-p.x);
    }
    if ahead.min(behind) > 1e-6 { ahead.min(behind) } else { ahead.max(behind) }
}
