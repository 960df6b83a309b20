//! Which figures an outline is short of, and what it could be without them.

use ground::geom::Contour;

use super::dense::Ranked;
use super::shape::{contour_of, found_sides};
use super::solve::{Solution, follow};
use super::told::{Figure, Run};
use super::unknowns::{System, Walk};

/// How a figure of a side follows a movement of the unknowns.
fn moves(walk: &Walk, along: &[f64], side: usize, figure: Figure) -> f64 {
    let of = match figure {
        Figure::Length | Figure::Radius => &walk.sizes[side],
        Figure::Sweep => &walk.sweeps[side],
        Figure::Direction => &walk.begins[side],
    };
    of.slope.iter().zip(along).map(|(a, b)| a * b).sum()
}

/// What moves less is settled.
const STILL: f64 = 1e-7;

/// Figures that together settle the outline: as many as are missing, lengths before radii, angles last.
pub fn missing(system: &System, found: &Solution, ranked: &Ranked) -> Vec<(usize, Figure)> {
    let mut free = ranked.free.clone();
    let walk = system.walk(&found.unknowns);
    let mut out = Vec::new();
    for wanted in [Figure::Length, Figure::Radius, Figure::Direction, Figure::Sweep] {
        for (side, told) in system.told.sides.iter().enumerate() {
            let has = match (told.run, wanted) {
                (Run::Line { .. }, Figure::Length | Figure::Direction) => true,
                (Run::Arc { .. }, Figure::Radius | Figure::Sweep) => true,
                (Run::Arc { .. }, Figure::Direction) => !system.told.is_tangent(side),
                _ => false,
            };
            if !has || free.is_empty() {
                continue;
            }
            let by: Vec<f64> = free.iter().map(|f| moves(&walk, f, side, wanted)).collect();
            let Some(k) = (0..by.len()).max_by(|&a, &b| by[a].abs().total_cmp(&by[b].abs())) else {
                continue;
            };
            if by[k].abs() < STILL {
                continue;
            }
            out.push((side, wanted));
            // What is left can move without this figure moving.
            let pivot = free.swap_remove(k);
            let mut rest = by;
            let own = rest.swap_remove(k);
            for (f, by) in free.iter_mut().zip(rest) {
                f.iter_mut().zip(&pivot).for_each(|(f, p)| *f -= by / own * p);
            }
        }
    }
    out
}

/// How far a member of the family stands off, of the scale.
const STRIDES: [f64; 4] = [-0.4, -0.2, 0.2, 0.4];

/// Outlines that fit all that is told, counter-clockwise: the one that was found, and some to either side of
/// it.
pub fn family(system: &System, found: &Solution, ranked: &Ranked) -> Vec<Contour> {
    let mut out: Vec<Contour> = found.contour.iter().cloned().collect();
    for along in ranked.free.iter().take(3) {
        let most = along.iter().fold(0.0f64, |most, v| most.max(v.abs())).max(STILL);
        for stride in STRIDES {
            let x = found.unknowns.iter().zip(along).map(|(x, v)| x + v / most * stride).collect();
            let sides = follow(system, x).map(|x| found_sides(system, &x));
            out.extend(sides.and_then(|sides| contour_of(system.told, &sides).ok()));
        }
    }
    out.into_iter().map(Contour::outward).collect()
}
