//! What square notches leave of a section, stretch by stretch along a bar.

use glam::{DVec2, DVec3};
use ground::geom::{COINCIDENT, Contour, Cut, Vertex, cut_out};

use super::model::Hole;
use super::profile::Profile;

/// How far a notch is cut beyond the outside of its section, mm.
const CLEAR: f64 = 1.0;

/// The loops of a section with these notches, metal on the left: outlines, then bores. None where nothing is
/// left, or one meets no metal.
pub fn left_of(p: &Profile, base: &[Contour], notches: &[&Hole]) -> Option<Vec<Contour>> {
    if notches.is_empty() {
        return Some(base.to_vec());
    }
    let (outline, bores) = base.split_first()?;
    let bores = bores.iter().cloned().map(Contour::outward);
    let taken = notches.iter().map(|h| {
        let across = h.out.perp();
        let (off, half) = (h.at.dot(across), h.diameter / 2.0);
        // Through the far side, or to where it ends.
        let low = if h.floor <= COINCIDENT - p.reach(-h.out) { h.floor - CLEAR } else { h.floor };
        let high = p.reach(h.out) + CLEAR;
        let corner = |u: f64, v: f64| Vertex { p: across * (off + u) + h.out * v, bulge: 0.0, tag: 0 };
        let ring = vec![corner(-half, low), corner(half, low), corner(half, high), corner(-half, high)];
        Contour { vertices: ring }.outward()
    });
    let cuts: Vec<Cut> =
        bores.chain(taken).enumerate().map(|(n, contour)| Cut { contour, source: n as u32 }).collect();
    let left = cut_out(outline.clone().outward(), &cuts);
    if left.nothing_left || left.tangled || !left.missed.is_empty() {
        return None;
    }
    let outers = std::iter::once(left.outer).chain(left.dropped).map(Contour::outward);
    let holes = left.holes.into_iter().map(|h| h.contour.outward().reversed());
    Some(outers.chain(holes).collect())
}

/// Metal that notches take together, mm³, and its moment about the start of the bar: along, across, up. Where
/// they run into one another it is taken once.
pub fn taken(p: &Profile, notches: &[&Hole]) -> Option<(f64, DVec3)> {
    let base: Vec<Contour> = std::iter::once(p.outer.clone().outward())
        .chain(p.holes.iter().map(|c| c.clone().outward().reversed()))
        .collect();
    let area = |loops: &[Contour]| loops.iter().map(Contour::signed_area).sum::<f64>();
    let moment =
        |loops: &[Contour]| -> DVec2 { loops.iter().flat_map(Contour::segments).map(|s| s.moment()).sum() };
    let reach = |h: &Hole| [h.along - h.length / 2.0, h.along + h.length / 2.0];
    let mut marks: Vec<f64> = notches.iter().flat_map(|h| reach(h)).collect();
    marks.sort_by(f64::total_cmp);
    let (mut volume, mut sum) = (0.0, DVec3::ZERO);
    for w in marks.windows(2).filter(|w| w[1] - w[0] > COINCIDENT) {
        let (middle, long) = ((w[0] + w[1]) / 2.0, w[1] - w[0]);
        let here: Vec<&Hole> =
            notches.iter().filter(|h| reach(h)[0] < middle && middle < reach(h)[1]).copied().collect();
        let left = left_of(p, &base, &here)?;
        let gone = (area(&base) - area(&left)) * long;
        volume += gone;
        let across = (moment(&base) - moment(&left)) * long;
        sum += DVec3::new(middle * gone, across.x, across.y);
    }
    Some((volume, sum))
}
