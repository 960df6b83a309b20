//! An end that several planes make: where each of them is the one that a line along the bar comes upon first.
//! Ends cut to a section that is no round are such, and ends with more than one cut.

use glam::DVec2;
use steelk_core::frame::{Bar, Member, Surface as Cutter, on_the_left};
use steelk_core::geom::convex::clipped;
use steelk_core::geom::{Bounds, Contour};

use super::bar::LEAST;

/// Places nearer than this, mm, are one.
pub const SAME: f64 = 1e-6;

/// One of the planes: where it stands at the middle of the section, by how much further for a step in it, and
/// the part of the section, convex and against the clock, that it makes the end of.
#[derive(Clone, Debug)]
pub struct Facet {
    pub at: f64,
    pub slope: DVec2,
    part: Vec<DVec2>,
}

impl Facet {
    pub fn station(&self, q: DVec2) -> f64 {
        self.at + self.slope.dot(q)
    }

    /// How far beside its part a place lies.
    fn beside(&self, q: DVec2) -> f64 {
        sides(&self.part).map(|(a, b)| (q - a).perp_dot((b - a).normalize_or_zero())).fold(0.0, f64::max)
    }

    /// What of a section, metal on the left, lies in its part.
    pub fn of(&self, section: &[Contour]) -> Option<Vec<Contour>> {
        let long = sides(&self.part).filter(|(a, b)| a.distance(*b) > SAME);
        long.map(|(a, b)| (a, (b - a).normalize()))
            .try_fold(section.to_vec(), |s, (a, way)| on_the_left(&s, a, way))
    }
}

/// Of those whose part a place lies in, the one that stands furthest.
pub fn at(facets: &[Facet], q: DVec2) -> &Facet {
    let beside: Vec<f64> = facets.iter().map(|f| f.beside(q)).collect();
    let least = beside.iter().copied().fold(f64::INFINITY, f64::min);
    let near = facets.iter().zip(&beside).filter(|(_, b)| **b <= least + SAME).map(|(f, _)| f);
    near.max_by(|a, b| a.station(q).total_cmp(&b.station(q))).unwrap_or(&facets[0])
}

fn sides(ring: &[DVec2]) -> impl Iterator<Item = (DVec2, DVec2)> + '_ {
    (0..ring.len()).map(|i| (ring[i], ring[(i + 1) % ring.len()]))
}

fn area(ring: &[DVec2]) -> f64 {
    sides(ring).map(|(a, b)| a.perp_dot(b)).sum::<f64>() / 2.0
}

/// The planes of an end, in stations from that end; none where a round is among its cuts.
pub fn of(m: &Member, k: usize, section: &Bounds) -> Option<Vec<Facet>> {
    let own = m.end(k);
    let grown = DVec2::splat(section.size().max_element() * 0.1);
    let (low, high) = (section.min - grown, section.max + grown);
    let whole = vec![low, DVec2::new(high.x, low.y), high, DVec2::new(low.x, high.y)];
    let mut out: Option<Vec<Facet>> = None;
    for cut in &m.trims[k] {
        let made = match &cut.surface {
            Cutter::Plane { at, normal } => {
                let (across, along) = own.turned(*normal);
                if along.abs() < LEAST {
                    return None;
                }
                let at = normal.dot(*at - own.o) / along;
                vec![Facet { at, slope: -across / along, part: whole.clone() }]
            }
            Cutter::Outline { bar, outline, gap } => strips(&own, bar, outline, *gap, &whole)?,
            Cutter::Round { .. } | Cutter::Rounded(_) => return None,
        };
        out = Some(match out {
            None => made,
            Some(before) => further(&before, &made),
        });
    }
    out.filter(|f| !f.is_empty())
}

/// Of two ends in one place the one that takes away more, everywhere.
fn further(a: &[Facet], b: &[Facet]) -> Vec<Facet> {
    let mut out = Vec::new();
    for (f, g) in a.iter().flat_map(|f| b.iter().map(move |g| (f, g))) {
        let both = sides(&g.part).fold(f.part.clone(), |ring, (p, q)| {
            // Against the clock: right of a side is outside.
            let way = -(q - p).perp();
            clipped(&ring, way, way.dot(p))
        });
        let (slope, by) = (f.slope - g.slope, f.at - g.at);
        for (one, part) in [(f, clipped(&both, -slope, by)), (g, clipped(&both, slope, -by))] {
            // Of two that are parallel one takes away more everywhere, or they are one.
            let loses = slope.length() < LEAST && (by >= 0.0) != std::ptr::eq(one, f);
            if area(&part) > SAME * SAME && !loses {
                out.push(Facet { at: one.at, slope: one.slope, part });
            }
        }
    }
    out
}

/// The outside of another bar, strip by strip along it, as a line along this one comes upon it from beyond.
fn strips(own: &Bar, wall: &Bar, outline: &[DVec2], gap: f64, whole: &[DVec2]) -> Option<Vec<Facet>> {
    let (v, _) = wall.turned(own.d);
    let long = v.length();
    if long < LEAST {
        return None;
    }
    // Aside, and on in lengths of this bar, of a place in its section.
    let seen = |q: DVec2| DVec2::new(q.dot(v.perp()) / long, q.dot(v) / (long * long));
    let of = |q: DVec2| seen(wall.local(own.point(q, 0.0)).0);
    let from = of(DVec2::ZERO);
    let (to_x, to_y) = (of(DVec2::X) - from, of(DVec2::Y) - from);
    let (aside, on) = (DVec2::new(to_x.x, to_y.x), DVec2::new(to_x.y, to_y.y));
    let points: Vec<DVec2> = outline.iter().map(|q| seen(*q)).collect();
    let mut marks: Vec<f64> = points.iter().map(|p| p.x).collect();
    marks.sort_by(f64::total_cmp);
    marks.dedup_by(|a, b| (*a - *b).abs() < SAME);
    let (low, high) = (*marks.first()?, *marks.last()?);
    let beside = |x: f64| {
        let tips = points.iter().filter(|p| (p.x - x).abs() < SAME).map(|p| p.y);
        (tips.fold(f64::NEG_INFINITY, f64::max), 0.0)
    };
    let top = |x: f64| {
        let met = sides(&points).filter(|(a, b)| (a.x <= x) != (b.x <= x));
        let lines = met.map(|(a, b)| {
            let rise = (b.y - a.y) / (b.x - a.x);
            (a.y - rise * a.x, rise)
        });
        lines.max_by(|a, b| (a.0 + a.1 * x).total_cmp(&(b.0 + b.1 * x)))
    };
    let mut runs: Vec<(f64, f64, (f64, f64))> = vec![(f64::NEG_INFINITY, low, beside(low))];
    for w in marks.windows(2) {
        let line = top((w[0] + w[1]) / 2.0)?;
        match runs.last_mut() {
            Some((_, to, last)) if (last.0 - line.0).abs() + (last.1 - line.1).abs() < 1e-12 => *to = w[1],
            _ => runs.push((w[0], w[1], line)),
        }
    }
    runs.push((high, f64::INFINITY, beside(high)));
    let facet = |(a, b, (at, rise)): (f64, f64, (f64, f64))| {
        let mut part = whole.to_vec();
        if a.is_finite() {
            part = clipped(&part, -aside, from.x - a);
        }
        if b.is_finite() {
            part = clipped(&part, aside, b - from.x);
        }
        let at = at + rise * from.x - from.y + gap / long;
        (area(&part) > SAME * SAME).then(|| Facet { at, slope: aside * rise - on, part })
    };
    Some(runs.into_iter().filter_map(facet).collect())
}
