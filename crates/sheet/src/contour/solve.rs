//! The search for an outline: damped steps from several beginnings, each followed until everything told
//! holds.

use std::f64::consts::{PI, TAU};

use ground::geom::Contour;

use super::dense::{Matrix, Ranked, damped_step, ranked};
use super::shape::{FoundSide, Misfit, contour_of, found_sides};
use super::told::{Cause, Figure, Told};
use super::unknowns::System;

/// An outline that fits.
#[derive(Clone, Debug)]
pub struct Solution {
    pub unknowns: Vec<f64>,
    pub sides: Vec<FoundSide>,
    /// What they make; none where they are no outline.
    pub contour: Option<Contour>,
    /// It fits the other way round as well: this is the one with its material to the left.
    pub either_way: bool,
}

/// What was found of an outline.
pub enum Answer {
    Found(Solution),
    /// It closes in more than one way.
    Several(Vec<Solution>),
    /// Figures are missing: one of the outlines that fit, and how it can move.
    Free(Solution, Ranked),
    /// Only sides that are no outline fit.
    Unfit(Misfit),
    /// Nothing fits.
    Contradicts,
}

/// What told things may miss by, of the scale: rounding.
const EXACT: f64 = 1e-10;

/// Beginnings that are tried where more than one outline may fit, and the steps that are followed from each.
const BEGINNINGS: usize = 48;
const STEPS: usize = 60;
/// From so many places one that fits is seldom missed.
const ENOUGH: usize = 12;

/// Work that one search may take, in multiplications: what is large is begun from fewer places.
pub const MOST_WORK: usize = 40_000_000;

/// The figures of an outline are read to this share: two that agree so far are one.
const SAME: f64 = 1e-6;

/// What is missed, and how it follows the unknowns.
fn slopes(system: &System, x: &[f64]) -> (Vec<f64>, Matrix) {
    let misses = system.misses(x);
    let mut slopes = Matrix::zero(misses.len(), x.len());
    for (i, miss) in misses.iter().enumerate() {
        slopes.at[i * x.len()..][..miss.slope.len()].copy_from_slice(&miss.slope);
    }
    (misses.iter().map(|m| m.value).collect(), slopes)
}

fn square(misses: &[f64]) -> f64 {
    misses.iter().map(|v| v * v).sum()
}

fn largest(misses: &[f64]) -> f64 {
    misses.iter().fold(0.0, |most, v| most.max(v.abs()))
}

/// Unknowns near these for which everything told holds.
pub fn follow(system: &System, mut x: Vec<f64>) -> Option<Vec<f64>> {
    let (mut misses, mut slope) = slopes(system, &x);
    let mut damping = 1e-2;
    for _ in 0..STEPS {
        ground::halt::often();
        if largest(&misses) < EXACT {
            break;
        }
        let step = damped_step(&slope, &misses, damping)?;
        let next: Vec<f64> = x.iter().zip(&step).map(|(x, s)| x + s).collect();
        let (ahead, slope_ahead) = slopes(system, &next);
        // Not a number: too far.
        if square(&ahead) < square(&misses) {
            (x, misses, slope) = (next, ahead, slope_ahead);
            damping = (damping * 0.2).max(1e-14);
        } else {
            damping *= 5.0;
            if damping > 1e8 {
                break;
            }
        }
    }
    // What the damped steps left of the last places.
    for _ in 0..2 {
        if largest(&misses) < EXACT * 0.01 || x.is_empty() {
            break;
        }
        let step = ranked(slope.clone(), &misses).step;
        let next: Vec<f64> = x.iter().zip(&step).map(|(x, s)| x + s).collect();
        let (ahead, slope_ahead) = slopes(system, &next);
        if largest(&ahead).partial_cmp(&largest(&misses)) != Some(std::cmp::Ordering::Less) {
            break;
        }
        (x, misses, slope) = (next, ahead, slope_ahead);
    }
    (largest(&misses) < EXACT * 10.0).then_some(x)
}

/// Numbers between 0 and 1, the same at every run.
struct Dice(u64);

impl Dice {
    fn next(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(6364136223846793005).wrapping_add(1442695040888963407);
        (self.0 >> 11) as f64 / (1u64 << 53) as f64
    }
}

/// The nth beginning: first sides of the usual length that go round to the left, then to the right, then any.
fn beginning(system: &System, nth: usize) -> Vec<f64> {
    let mut dice = Dice(nth as u64 + 1);
    let n = system.told.sides.len() as f64;
    let way = if nth.is_multiple_of(2) { 1.0 } else { -1.0 };
    let unknown = |(side, figure): &(usize, Figure)| {
        let (any, plain) = (dice.next(), nth < 2);
        match figure {
            Figure::Length | Figure::Radius if plain => 1.0,
            Figure::Length | Figure::Radius => 10f64.powf(1.6 * any - 0.8),
            Figure::Sweep if plain => PI / 2.0,
            Figure::Sweep => 0.2 + any * (TAU - 0.4),
            Figure::Direction if plain => way * TAU * *side as f64 / n,
            Figure::Direction => any * TAU,
        }
    };
    system.unknowns.iter().map(unknown).collect()
}

/// Where a figure that is left out of account was told, the search begins at what was told.
fn as_told(system: &System, told: &Told, x: &mut [f64]) {
    use super::told::Run;
    let Some(Cause::Figure(side, figure)) = system.without else { return };
    let said = match (told.sides[side].run, figure) {
        (Run::Line { length }, Figure::Length) => length.map(|v| v / system.scale),
        (Run::Arc { radius, .. }, Figure::Radius) => radius.map(|v| v / system.scale),
        (Run::Arc { sweep, .. }, Figure::Sweep) => sweep,
        (_, Figure::Direction) => told.sides[side].heading,
        _ => None,
    };
    if let (Some(k), Some(v)) = (system.unknowns.iter().position(|u| *u == (side, figure)), said) {
        x[k] = v;
    }
}

fn is_same(a: &[FoundSide], b: &[FoundSide], scale: f64) -> bool {
    a.iter().zip(b).all(|(a, b)| {
        let near = |p: f64, q: f64, of: f64| (p - q).abs() < SAME * of;
        near(a.from.x, b.from.x, scale)
            && near(a.from.y, b.from.y, scale)
            && near(a.size, b.size, scale)
            && near(a.sweep, b.sweep, 1.0)
    })
}

/// Whether it is the same outline.
fn is_known(found: &[Solution], sides: &[FoundSide], scale: f64) -> bool {
    found.iter().any(|f| is_same(&f.sides, sides, scale))
}

/// What following one beginning takes, in multiplications: usual steps, not the most.
pub fn work(system: &System) -> usize {
    let n = system.unknowns.len() + 1;
    let step = n * n * n / 6 + (n + 8) * n * n / 2 + system.told.sides.len() * n * 12 + 200;
    step * 12
}

/// How many beginnings a search can afford.
fn affordable(system: &System, most: usize) -> usize {
    (MOST_WORK / work(system)).clamp(1, most)
}

/// Whether it is looked from enough places that another outline that fits would be found.
pub fn is_thorough(system: &System) -> bool {
    system.is_plain() || affordable(system, ENOUGH) == ENOUGH
}

pub fn solve(system: &System) -> Answer {
    search(system, BEGINNINGS)
}

/// The same from so many beginnings at most.
pub fn search(system: &System, most: usize) -> Answer {
    let told = system.told;
    let count = if system.is_plain() { 1 } else { affordable(system, most) };
    let (mut found, mut unfit): (Vec<Solution>, Option<Misfit>) = (Vec::new(), None);
    for nth in 0..count {
        let mut x = beginning(system, nth);
        as_told(system, told, &mut x);
        let Some(x) = follow(system, x) else { continue };
        let sides = found_sides(system, &x);
        if is_known(&found, &sides, system.scale) {
            continue;
        }
        let (misses, slope) = slopes(system, &x);
        let rank = ranked(slope, &misses);
        let contour = contour_of(told, &sides);
        let misfit = contour.as_ref().err().copied();
        let solution = Solution { unknowns: x, sides, contour: contour.ok(), either_way: false };
        if rank.rank < system.unknowns.len() {
            // One that could be cut is the better picture.
            if misfit.is_none() || nth + 1 >= count.min(8) {
                return Answer::Free(solution, rank);
            }
            continue;
        }
        match misfit {
            None => found.push(solution),
            Some(misfit) => unfit = unfit.or(Some(misfit)),
        }
    }
    // Where one way round and the other fit alike, material lies to the left.
    let is_left = |s: &Solution| s.contour.as_ref().is_some_and(|c| c.signed_area() > 0.0);
    let both = found.iter().any(is_left) && !found.iter().all(is_left);
    if both {
        found.retain(is_left);
        found.iter_mut().for_each(|f| f.either_way = true);
    }
    match (found.len(), unfit) {
        (0, Some(misfit)) => Answer::Unfit(misfit),
        (0, None) => Answer::Contradicts,
        (1, _) => Answer::Found(found.remove(0)),
        _ => Answer::Several(found),
    }
}
