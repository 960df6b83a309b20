//! Outlines that shops make often, about their own middle or corner; arcs true.

use std::f64::consts::{PI, TAU};

use glam::DVec2;
use ground::geom::{COINCIDENT, Contour, Vertex};

fn v(p: DVec2, bulge: f64) -> Vertex {
    Vertex { p, bulge, tag: 0 }
}

fn polygon(points: &[(f64, f64)]) -> Contour {
    Contour::polygon(points.iter().map(|p| DVec2::new(p.0, p.1)), 0)
}

/// A ring's part between two radii, symmetric about east; without an inner radius a pie's piece.
pub fn sector(outer: f64, inner: f64, angle: f64) -> Contour {
    let at = |r: f64, a: f64| DVec2::from_angle(a) * r;
    let half = angle / 2.0;
    // No arc sweeps more than half a turn.
    let parts = if angle > PI - COINCIDENT { 2 } else { 1 };
    let step = angle / parts as f64;
    let bulge = (step / 4.0).tan();
    let mut out: Vec<Vertex> = (0..parts).map(|k| v(at(outer, step * k as f64 - half), bulge)).collect();
    out.push(v(at(outer, half), 0.0));
    if inner > COINCIDENT {
        out.extend((0..parts).map(|k| v(at(inner, half - step * k as f64), -bulge)));
        out.push(v(at(inner, -half), 0.0));
    } else {
        out.push(v(DVec2::ZERO, 0.0));
    }
    Contour { vertices: out }
}

/// Two legs that meet in the south-west: `east` long with a leg `up` thick, `north` long with one `wide`.
pub fn angle(east: f64, north: f64, up: f64, wide: f64) -> Contour {
    polygon(&[(0.0, 0.0), (east, 0.0), (east, up), (wide, up), (wide, north), (0.0, north)])
}

/// A flange to the north and a web down its middle.
pub fn tee(width: f64, height: f64, flange: f64, web: f64) -> Contour {
    let (h, w) = (width / 2.0, web / 2.0);
    let top = height - flange;
    polygon(&[(-w, 0.0), (w, 0.0), (w, top), (h, top), (h, height), (-h, height), (-h, top), (-w, top)])
}

/// A right angle in the south-west, snipped where the weld runs; its tips blunt.
pub fn right_triangle(east: f64, north: f64, snip: f64, tip: f64) -> Contour {
    let mut points = vec![(snip, 0.0), (east, 0.0), (east, tip), (tip, north), (0.0, north), (0.0, snip)];
    if tip < COINCIDENT {
        points = vec![(snip, 0.0), (east, 0.0), (0.0, north), (0.0, snip)];
    }
    if snip < COINCIDENT {
        points.pop();
    }
    polygon(&points)
}

/// A circle with two smaller ones to the east and west, joined by their common tangents.
pub fn two_bolt(body: f64, end: f64, centres: f64) -> Contour {
    let d = centres / 2.0;
    // The tangent's normal leans east by this much: (R − r) = d·sin.
    let lean = ((body - end) / d).asin();
    let normal = |north: bool, east: bool| {
        let x = lean.sin() * if east { 1.0 } else { -1.0 };
        DVec2::new(x, lean.cos() * if north { 1.0 } else { -1.0 })
    };
    let touch = |north: bool, east: bool| {
        let n = normal(north, east);
        let side = DVec2::X * if east { d } else { -d };
        [n * body, side + n * end]
    };
    let ([se, se_end], [ne, ne_end]) = (touch(false, true), touch(true, true));
    let ([sw, sw_end], [nw, nw_end]) = (touch(false, false), touch(true, false));
    // Round an end by what is left of a half turn, round the body by twice the lean.
    let (end_bulge, body_bulge) = (((PI - 2.0 * lean) / 4.0).tan(), (2.0 * lean / 4.0).tan());
    let mut out = vec![
        v(se, 0.0),
        v(se_end, end_bulge),
        v(ne_end, 0.0),
        v(ne, body_bulge),
        v(nw, 0.0),
        v(nw_end, end_bulge),
        v(sw_end, 0.0),
        v(sw, body_bulge),
    ];
    if body - end < COINCIDENT {
        out = vec![v(se_end, 1.0), v(ne_end, 0.0), v(nw_end, 1.0), v(sw_end, 0.0)];
    }
    Contour { vertices: out }
}

/// Whether the middle of a two-bolt flange stands out of its ends' tangents at all.
pub fn is_two_bolt(body: f64, end: f64, centres: f64) -> bool {
    centres / 2.0 > (body - end).abs() + COINCIDENT && body > end - COINCIDENT
}

/// The least and the greatest angle of a sector: all but nothing, all but a whole turn.
pub const SECTOR: (f64, f64) = (1e-3, TAU - 1e-3);
