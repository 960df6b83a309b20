//! An outline that was found: its sides, and the contour they make.

use std::f64::consts::{PI, TAU};

use glam::DVec2;
use ground::geom::{COINCIDENT, Contour, Crossing, Vertex, first_crossing};
use ground::reader::LONGEST;

use super::told::{Figure, Run, Told};
use super::unknowns::{System, wrapped};

/// A side as it was found; lengths in mm, angles in rad.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct FoundSide {
    pub from: DVec2,
    /// The way it sets out, within half a turn of east.
    pub heading: f64,
    /// Length of a line, radius of an arc.
    pub size: f64,
    /// How far an arc turns to the left, or below zero to the right; zero for a line.
    pub sweep: f64,
}

impl FoundSide {
    /// A figure of it, as it is told.
    pub fn figure(&self, figure: Figure) -> f64 {
        match figure {
            Figure::Length | Figure::Radius => self.size,
            Figure::Sweep => self.sweep.abs(),
            Figure::Direction => self.heading,
        }
    }
}

/// Why sides that fit what was told are no outline.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Misfit {
    /// A side comes out with nothing or less than nothing.
    Size {
        side: usize,
        size: f64,
    },
    /// A side comes out longer than any piece may be.
    Long {
        side: usize,
    },
    Sweep {
        side: usize,
    },
    Crosses(Crossing),
}

/// The sides for values of the unknowns.
pub fn found_sides(system: &System, x: &[f64]) -> Vec<FoundSide> {
    let walk = system.walk(x);
    let scale = system.scale;
    let at = |k: usize| DVec2::new(walk.corners[k].x.value, walk.corners[k].y.value) * scale;
    let n = system.told.sides.len();
    (0..n)
        .map(|k| {
            let turns = |left: bool| walk.sweeps[k].value.rem_euclid(TAU) * if left { 1.0 } else { -1.0 };
            let sweep = match system.told.sides[k].run {
                Run::Arc { left, .. } => turns(left),
                _ => 0.0,
            };
            FoundSide {
                from: at(k),
                heading: wrapped(walk.begins[k].value),
                size: walk.sizes[k].value * scale,
                sweep,
            }
        })
        .collect()
}

/// The contour that the sides make, each vertex tagged with its side; no arc goes further than half a turn.
pub fn contour_of(told: &Told, sides: &[FoundSide]) -> Result<Contour, Misfit> {
    let mut vertices = Vec::new();
    for (k, side) in sides.iter().enumerate() {
        let tag = k as u32;
        if side.size < COINCIDENT {
            return Err(Misfit::Size { side: k, size: side.size });
        }
        if side.size > LONGEST || side.from.abs().max_element() > LONGEST {
            return Err(Misfit::Long { side: k });
        }
        if !told.sides[k].run.is_arc() {
            vertices.push(Vertex { p: side.from, bulge: 0.0, tag });
            continue;
        }
        if side.sweep.abs() < COINCIDENT || side.sweep.abs() > TAU - COINCIDENT {
            return Err(Misfit::Sweep { side: k });
        }
        let parts = if side.sweep.abs() > PI + COINCIDENT { 2 } else { 1 };
        let bulge = (side.sweep / parts as f64 / 4.0).tan();
        vertices.push(Vertex { p: side.from, bulge, tag });
        if parts == 2 {
            let middle = side.from + DVec2::from_angle(side.heading).perp() * side.size * side.sweep.signum();
            let p = middle + DVec2::from_angle(side.sweep / 2.0).rotate(side.from - middle);
            vertices.push(Vertex { p, bulge, tag });
        }
    }
    let contour = Contour { vertices };
    match first_crossing(&contour) {
        Some(crossing) => {
            let tag = |i: usize| contour.vertices[i].tag as usize;
            let segments = (tag(crossing.segments.0), tag(crossing.segments.1));
            Err(Misfit::Crosses(Crossing { segments, ..crossing }))
        }
        None => Ok(contour),
    }
}
