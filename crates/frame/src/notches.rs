//! What square notches leave of a section, stretch by stretch along a bar.

use glam::{DMat2, DVec2, DVec3};
use ground::geom::{COINCIDENT, Contour, Cut, ROUNDING, Vertex, cut_out};
use shop::section::second_moments;

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

/// What of a section, metal on the left, lies left of a line. None where it cannot be told.
pub fn on_the_left(section: &[Contour], at: DVec2, way: DVec2) -> Option<Vec<Contour>> {
    let corners = |c: &Contour| {
        let b = c.bounds();
        [b.min, b.max, DVec2::new(b.min.x, b.max.y), DVec2::new(b.max.x, b.min.y)]
    };
    let off = |q: DVec2| way.perp_dot(q - at);
    let reach = section.iter().flat_map(corners).map(|q| q.distance(at)).fold(1.0, f64::max) * 2.0;
    let beyond = || {
        let ring = [
            at - way * reach,
            at + (-way - way.perp()) * reach,
            at + (way - way.perp()) * reach,
            at + way * reach,
        ];
        Contour { vertices: ring.map(|p| Vertex { p, bulge: 0.0, tag: 0 }).into() }
    };
    let (outers, inners): (Vec<&Contour>, Vec<&Contour>) =
        section.iter().partition(|c| c.signed_area() > 0.0);
    let mut out = Vec::new();
    for outer in outers {
        let bores = inners.iter().filter(|c| outer.contains(c.vertices[0].p));
        if corners(outer).into_iter().all(|q| off(q) > -COINCIDENT) {
            out.push(outer.clone());
            out.extend(bores.map(|c| (*c).clone()));
            continue;
        }
        let taken = bores.map(|c| (*c).clone()).chain([beyond()]).map(Contour::outward);
        let cuts: Vec<Cut> =
            taken.enumerate().map(|(n, contour)| Cut { contour, source: n as u32 }).collect();
        let left = cut_out(outer.clone(), &cuts);
        if left.tangled {
            return None;
        }
        if !left.nothing_left {
            out.extend(std::iter::once(left.outer).chain(left.dropped).map(Contour::outward));
            out.extend(left.holes.into_iter().map(|h| h.contour.outward().reversed()));
        }
    }
    Some(out)
}

/// An end as a plane in lengths from it, at the middle of the section and for a step in it.
#[derive(Clone, Copy)]
pub struct Slant {
    pub at: f64,
    pub slope: DVec2,
}

/// Area, first and second moments of a section about its middle.
struct Sums {
    area: f64,
    first: DVec2,
    second: DMat2,
}

impl Sums {
    fn of(loops: &[Contour]) -> Sums {
        let second = |c: &Contour| {
            let [yy, zz, yz] = second_moments(c, DVec2::ZERO);
            DMat2::from_cols(DVec2::new(yy, yz), DVec2::new(yz, zz)) * c.signed_area().signum()
        };
        Sums {
            area: loops.iter().map(Contour::signed_area).sum(),
            first: loops.iter().flat_map(Contour::segments).map(|s| s.moment()).sum(),
            second: loops.iter().map(second).fold(DMat2::ZERO, |a, b| a + b),
        }
    }
}

impl Slant {
    /// Metal of a section from the end as far as `to` square to the bar, and its moment: along from the end,
    /// across, up.
    fn metal(&self, loops: &[Contour], to: f64) -> Option<(f64, DVec3)> {
        let (steep, room) = (self.slope.length(), to - self.at);
        let reached = if steep < ROUNDING {
            if room > 0.0 { loops.to_vec() } else { Vec::new() }
        } else {
            // Where the end stands further in there is none.
            let up = self.slope / steep;
            on_the_left(loops, up * (room / steep), up.perp())?
        };
        let s = Sums::of(&reached);
        let sloped = self.slope.dot(s.second * self.slope);
        let squares = self.at.powi(2) * s.area + 2.0 * self.at * self.slope.dot(s.first) + sloped;
        let across = s.first * room - s.second * self.slope;
        let along = (to * to * s.area - squares) / 2.0;
        Some((room * s.area - self.slope.dot(s.first), DVec3::new(along, across.x, across.y)))
    }
}

/// Metal that notches take together from one end, mm³, and its moment: along from that end, across, up. Each
/// is told by how far in it reaches. Where they run into one another it is taken once.
pub fn taken(p: &Profile, notches: &[(&Hole, f64)], end: &Slant) -> Option<(f64, DVec3)> {
    let base: Vec<Contour> = std::iter::once(p.outer.clone().outward())
        .chain(p.holes.iter().map(|c| c.clone().outward().reversed()))
        .collect();
    let mut floors: Vec<f64> = notches.iter().map(|n| n.1).collect();
    floors.sort_by(f64::total_cmp);
    floors.dedup_by(|a, b| (*a - *b).abs() < COINCIDENT);
    let (mut volume, mut sum) = (0.0, DVec3::ZERO);
    for (i, &floor) in floors.iter().enumerate() {
        let here: Vec<&Hole> = notches.iter().filter(|n| n.1 > floor - COINCIDENT).map(|n| n.0).collect();
        let left = left_of(p, &base, &here)?;
        let before = i.checked_sub(1).map(|k| (floors[k], -1.0));
        for (to, sign) in [Some((floor, 1.0)), before].into_iter().flatten() {
            let ((all, of_all), (rest, of_rest)) = (end.metal(&base, to)?, end.metal(&left, to)?);
            volume += (all - rest) * sign;
            sum += (of_all - of_rest) * sign;
        }
    }
    Some((volume, sum))
}
