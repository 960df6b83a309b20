//! A member as a body: lengths, volume and centre of mass from its end cuts.

use glam::{DMat2, DVec2, DVec3};
use ground::geom::ROUNDING;

use super::bar::Surface;
use super::bent;
use super::bores::Walls;
use super::ends::rounded_end;
use super::model::{CentrelineSegment, EndCut, Hole, Member, across};
use super::notches::{self, Slant};
use super::profile::Profile;
use super::rounds;
use ground::geom::Segment;

/// Lengths along the bar, mm.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Lengths {
    /// The longest line along the bar: what is measured from long point to long point.
    pub long: f64,
    pub centre: f64,
    /// The shortest.
    pub short: f64,
    /// Between the outermost points of the two ends.
    pub overall: f64,
}

pub fn lengths(m: &Member, p: &Profile) -> Lengths {
    let gain = bent::gain(m, p);
    if m.closed || (m.trims[0].is_empty() && m.trims[1].is_empty()) {
        let all = m.length - gain;
        return Lengths { long: all, centre: all, short: all, overall: all };
    }
    let cuts = [0, 1].map(|k| m.cuts(k));
    let run = |q: DVec2| m.length - cuts[0].station(q) - cuts[1].station(q);
    let parts = parts(m);
    let first = -extreme(p, parts, &|q| -cuts[0].station(q));
    let last = -extreme(p, parts, &|q| -cuts[1].station(q));
    Lengths {
        long: extreme(p, parts, &run) - gain,
        centre: m.run(DVec2::ZERO) - gain,
        short: -extreme(p, parts, &|q| -run(q)) - gain,
        overall: m.length - first - last - gain,
    }
}

/// Ends that are planes are extreme at corners of the section and on its rounds; others anywhere on the
/// outline.
fn parts(m: &Member) -> usize {
    let plane = |t: &[EndCut]| t.len() < 2 && t.iter().all(|t| matches!(t.surface, Surface::Plane { .. }));
    if m.trims.iter().all(|t| plane(t)) { 4 } else { 48 }
}

/// How much further an end stands out than at the middle of the section.
pub(crate) fn stands_out(m: &Member, p: &Profile, end: usize) -> f64 {
    let cuts = m.cuts(end);
    let middle = cuts.station(DVec2::ZERO);
    extreme(p, parts(m), &|q| middle - cuts.station(q)).max(0.0)
}

/// The greatest value of a function over the outline of a section: looked for in `parts` places of each side,
/// then closed in upon from the best of them. Each side is smooth, so that between two places beside one that
/// is higher there is one summit.
pub(crate) fn extreme(p: &Profile, parts: usize, f: &dyn Fn(DVec2) -> f64) -> f64 {
    let sides: Vec<Segment> = p.outer.segments().collect();
    let mut seen: Vec<(f64, usize, f64)> = Vec::new();
    for (i, s) in sides.iter().enumerate() {
        let n = if s.is_line() { parts } else { parts.max(8) };
        seen.extend((0..=n).map(|k| k as f64 / n as f64).map(|t| (f(s.at(t)), i, t)));
    }
    seen.sort_by(|a, b| b.0.total_cmp(&a.0));
    let mut best = seen.first().map_or(0.0, |s| s.0);
    for &(_, i, t) in seen.iter().take(6) {
        let s = &sides[i];
        let step = 1.0 / if s.is_line() { parts as f64 } else { parts.max(8) as f64 };
        let (mut low, mut high) = ((t - step).max(0.0), (t + step).min(1.0));
        // Golden section: what is told is a tenth of a millimetre, and this ends far below it.
        const SHARE: f64 = 0.618_033_988_749_894_9;
        let (mut a, mut b) = (high - (high - low) * SHARE, low + (high - low) * SHARE);
        let (mut fa, mut fb) = (f(s.at(a)), f(s.at(b)));
        while high - low > ROUNDING {
            if fa < fb {
                (low, a, fa) = (a, b, fb);
                b = low + (high - low) * SHARE;
                fb = f(s.at(b));
            } else {
                (high, b, fb) = (b, a, fa);
                a = high - (high - low) * SHARE;
                fa = f(s.at(a));
            }
        }
        best = best.max(fa).max(fb);
    }
    best
}

/// Volume (holes taken out) and centre of mass.
pub fn volume(m: &Member, p: &Profile) -> (f64, DVec3) {
    let (mut v, mut moment) = (0.0, DVec3::ZERO);
    let bar = m.end(0);
    if let (true, Some(a), Some(b)) = (m.is_straight(), unrounded(m, p, 0), unrounded(m, p, 1)) {
        // Ends that are planes: moments of the section say it all.
        let q = &p.properties;
        let (a, b) = (a, Flat { at: m.length - b.at, slope: -b.slope });
        let j = DMat2::from_cols(DVec2::new(q.i_z, q.i_yz), DVec2::new(q.i_yz, q.i_y));
        let run = b.at - a.at;
        v = q.area * run;
        let across = q.centroid * v + j * (b.slope - a.slope);
        let along = (q.area * (b.at * b.at - a.at * a.at) + b.slope.dot(j * b.slope)
            - a.slope.dot(j * a.slope))
            / 2.0;
        moment = bar.o * v + bar.y * across.x + bar.z * across.y + bar.d * along;
    } else if m.is_straight() {
        let cuts = [0, 1].map(|k| m.cuts(k));
        for &(q, w) in &p.spread {
            let (a, b) = (cuts[0].station(q), m.length - cuts[1].station(q));
            let run = (b - a).max(0.0) * w;
            v += run;
            moment += bar.point(q, (a + b) / 2.0) * run;
        }
    } else {
        for s in &m.way {
            ground::halt::point();
            let (run, at) = swept(s, p);
            v += run;
            moment += at;
        }
        for (end, s) in [0, 1].map(|k| (k, m.end_stretch(k))).into_iter().filter(|_| !m.closed) {
            let cuts = m.cuts(end);
            for &(q, w) in &p.spread {
                let along =
                    if rounded_end(m, end).is_some() { cuts.station(DVec2::ZERO) } else { cuts.station(q) };
                let gone = along * s.share(q) * w;
                v -= gone;
                moment -= s.inward(q, along / 2.0) * gone;
            }
        }
    }
    for (end, rounded_end) in [0, 1].into_iter().filter_map(|k| Some((k, rounded_end(m, k)?))) {
        let Some(round) = &m.rounds[end] else { continue };
        let (taken, along, off) = rounds::taken(p, rounded_end, round.aside);
        v -= taken;
        let bar = m.cut_bar(end);
        moment -= rounded_end.at * taken + bar.d * along + bar.y * off.x + bar.z * off.y;
    }
    let walls = (!m.holes.is_empty()).then(|| Walls::new(p));
    // Several notches in one end may run into one another.
    let together = [0, 1].map(|end| {
        let own: Vec<&Hole> = m.holes.iter().filter(|h| h.notch == Some(end)).collect();
        let bar = m.straight_at(own.first()?.along)?;
        let slant = match flat(m, p, end) {
            Some(f) => Slant { at: f.at - f.slope.dot(p.properties.centroid), slope: f.slope },
            None => Slant { at: m.station(end, DVec2::ZERO), slope: DVec2::ZERO },
        };
        let inwards = |along: f64| if end == 0 { along } else { m.length - along };
        let deep: Vec<(&Hole, f64)> = own.iter().map(|h| (*h, inwards(h.along) + h.length / 2.0)).collect();
        let alone = own.len() == 1 && slant.slope.length() < ROUNDING;
        let (taken, at) = notches::taken(p, &deep, &slant).filter(|_| !alone)?;
        let along = if end == 0 { at.x } else { m.length * taken - at.x };
        v -= taken;
        moment -= bar.o * taken + bar.d * along + bar.y * at.y + bar.z * at.z;
        Some(())
    });
    let mut last: Option<(&Hole, f64, DVec3)> = None;
    let alone = |h: &&Hole| h.notch.is_none_or(|end| together.get(end).is_none_or(Option::is_none));
    for (h, walls) in m.holes.iter().filter(alone).flat_map(|h| Some((h, walls.as_ref()?))) {
        let Some(bar) = m.straight_at(h.along) else { continue };
        // Holes in a row take the same metal.
        let (taken, off) = match last {
            Some((l, v, off)) if *l == (Hole { along: l.along, ..h.clone() }) => (v, off),
            _ => {
                let (v, q) = walls.taken(h);
                (v, DVec3::new(0.0, q.y, q.z))
            }
        };
        last = Some((h, taken, off));
        v -= taken;
        moment -= bar.point(DVec2::ZERO, h.along) * taken + bar.y * off.y + bar.z * off.z;
    }
    let centre = if v > ROUNDING { moment / v } else { m.end(0).o };
    (v.max(0.0), centre)
}

/// What the section sweeps over a stretch (after Pappus), and its first moment.
fn swept(s: &CentrelineSegment, p: &Profile) -> (f64, DVec3) {
    let q = &p.properties;
    let (area, sum) = (q.area, q.centroid * q.area);
    let middle = s.at(0.5);
    let place = |v: DVec2| middle.y * v.x + middle.z * v.y;
    match *s {
        CentrelineSegment::Straight { length, .. } => {
            (area * length, (middle.o * area + place(sum)) * length)
        }
        CentrelineSegment::Twist { length, angle, .. } => {
            // The centroid goes round the middle in a screw: its mean lies nearer to it.
            let half = angle / 2.0;
            let drawn_in = if half.abs() > ROUNDING { half.sin() / half } else { 1.0 };
            (area * length, (middle.o * area + place(sum) * drawn_in) * length)
        }
        CentrelineSegment::Bend { centre, axis, radius, sweep, .. } => {
            // Lines nearer the centre are shorter, by this much a millimetre.
            let to_centre = across(centre - middle.o, axis) / (radius * radius);
            let less = DVec2::new(to_centre.dot(middle.y), to_centre.dot(middle.z));
            let j = DMat2::from_cols(DVec2::new(q.i_z, q.i_yz), DVec2::new(q.i_yz, q.i_y));
            let second = j * less + q.centroid * sum.dot(less);
            let area = area - sum.dot(less);
            let from_centre = (middle.o - centre) * area + place(sum - second);
            let along_axis = axis * from_centre.dot(axis);
            // The mean of what turns about the axis lies nearer to it than its middle.
            let drawn_in = if sweep.abs() > ROUNDING { (sweep / 2.0).sin() / (sweep / 2.0) } else { 1.0 };
            let length = radius * sweep;
            (area * length, (centre * area + along_axis + (from_centre - along_axis) * drawn_in) * length)
        }
    }
}

/// An end that is one plane: where it lies at the centroid of the section, and how it slopes from there.
pub(crate) struct Flat {
    pub at: f64,
    pub slope: DVec2,
}

/// The same of an end that is rounded off: as it was before.
fn unrounded(m: &Member, p: &Profile, end: usize) -> Option<Flat> {
    match rounded_end(m, end) {
        Some(_) => Some(Flat { at: m.station(end, DVec2::ZERO), slope: DVec2::ZERO }),
        None => flat(m, p, end),
    }
}

pub(crate) fn flat(m: &Member, p: &Profile, end: usize) -> Option<Flat> {
    match m.trims[end].as_slice() {
        [] => Some(Flat { at: 0.0, slope: DVec2::ZERO }),
        [EndCut { surface: Surface::Plane { normal, .. }, .. }] => {
            let (v, along) = m.end(end).turned(*normal);
            Some(Flat { at: m.station(end, p.properties.centroid), slope: -v / along })
        }
        _ => None,
    }
}
