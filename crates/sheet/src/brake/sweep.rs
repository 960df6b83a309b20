//! Bodies swept through a stroke: along plane motions, in steps as long as the gap allows.

use glam::DVec2;
use ground::geom::{COINCIDENT, ROUNDING};

use super::stroke::{MOST_STEP, Side, Stroke};
use super::tools::{Section, Tool};
use ground::geom::convex::{Prism, apart_until, hull};
use shop::brake::Tools;

/// Deeper than this is a strike; nearer is a touch.
pub const TOUCH: f64 = 0.25;

/// Convex bodies seen along the tools.
pub struct Shadow {
    ring: Vec<DVec2>,
    /// From where to where along y.
    span: (f64, f64),
    /// The nearest and the furthest from the bend's end.
    radii: (f64, f64),
}

impl Shadow {
    pub fn of<'p>(prisms: impl Iterator<Item = &'p Prism> + Clone, s: &Stroke, side: Side) -> Shadow {
        let corners = prisms.flat_map(|p| &p.corners);
        let span = corners
            .clone()
            .map(|c| c.y)
            .fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), y| (l.min(y), h.max(y)));
        let ring = hull(corners.map(|c| DVec2::new(c.x, c.z)).collect());
        let end = s.end_of(side);
        let far = ring.iter().map(|p| p.distance(end)).fold(0.0, f64::max);
        Shadow { radii: (nearest(&ring, end), far), ring, span }
    }

    /// What stays above the leg's underside keeps off the die on its own side, which that underside rests on;
    /// what stays below the leg's inside keeps off the punch, whose flanks stand steeper.
    fn is_clear(&self, s: &Stroke, side: Side, section: &Section) -> bool {
        let beyond = self.ring.iter().all(|p| p.x * side.sign() >= -ROUNDING);
        let above = self.ring.iter().all(|p| p.y >= -s.t - COINCIDENT);
        let below = self.ring.iter().all(|p| p.y <= COINCIDENT);
        match section.tool {
            Tool::Die => beyond && above && section.corners.iter().any(|c| c.x * side.sign() > ROUNDING),
            Tool::Bed => beyond && above,
            Tool::Punch => beyond && below,
            _ => false,
        }
    }

    /// The first angle at which it is deeper in a section than a touch.
    pub fn first_deep(&self, s: &Stroke, side: Side, section: &Section) -> Option<f64> {
        let beside = self.span.1 < section.run.0 + TOUCH || self.span.0 > section.run.1 - TOUCH;
        if beside || self.is_clear(s, side, section) || !s.within_reach(section, self.radii.1) {
            return None;
        }
        let (mut now, mut tool) = (Vec::with_capacity(self.ring.len()), Vec::with_capacity(8));
        let (mut phi, mut first) = (0.0, 0);
        loop {
            now.clear();
            now.extend(self.ring.iter().copied().map(s.motion(side, phi)));
            s.standing(section, phi, &mut tool);
            let speed = s.speed(self.radii.1) + if section.on_die { s.die_speed(phi) } else { 0.0 };
            let gap = apart_until(&now, &tool, speed * MOST_STEP, &mut first) + TOUCH;
            if gap <= 0.0 {
                return Some(phi);
            }
            if phi >= s.most {
                return None;
            }
            phi = (phi + (gap.max(TOUCH / 2.0) / speed).min(MOST_STEP)).min(s.most);
        }
    }
}

/// Distance of a convex polygon from a point; zero where it holds it.
fn nearest(ring: &[DVec2], p: DVec2) -> f64 {
    let n = ring.len();
    let inside = n > 2 && (0..n).all(|i| (ring[(i + 1) % n] - ring[i]).perp_dot(p - ring[i]) >= 0.0);
    if inside {
        return 0.0;
    }
    let to_side = |i: usize| ground::geom::Segment::line(ring[i], ring[(i + 1) % n]).nearest(p).distance(p);
    (0..n).map(to_side).fold(f64::INFINITY, f64::min)
}

/// What one body does with one tool.
pub enum Met {
    Strikes(f64),
    End(f64, f64),
}

/// What a body, seen along the tools as its shadow, does with a tool.
pub fn met(
    s: &Stroke,
    tools: &Tools,
    side: Side,
    prism: &Prism,
    shadow: &Shadow,
    section: &Section,
) -> Option<Met> {
    let first = shadow.first_deep(s, side, section)?;
    if !section.parted {
        return Some(Met::Strikes(first));
    }
    let limit = tools.unsupported(s.t, s.reach.1 - s.reach.0);
    // Where all of it stands near an end, the whole is as good as the part that meets the tool.
    let (low, high) = shadow.span;
    let level =
        prism.corners.iter().all(|c| (c.y - low).abs() < COINCIDENT || (c.y - high).abs() < COINCIDENT);
    let within = (low.max(section.run.0), high.min(section.run.1));
    if level && !is_midway(s, limit, within) {
        return Some(Met::End(within.0, within.1));
    }
    let most = if is_midway(s, limit, within) { MOST_FOLLOWED } else { FEW_FOLLOWED };
    followed(s, side, prism, section, first, (s.most - first) / most, limit)
}

/// Whether something from here to there along y keeps a punch out that leaves only a little of the bend.
fn is_midway(s: &Stroke, limit: f64, (low, high): (f64, f64)) -> bool {
    let (from, to) = (s.reach.0 + limit, s.reach.1 - limit);
    high > from + ROUNDING && low < to - ROUNDING
}

/// Steps in which the part of a body that stands in a parted tool is followed, at most: many where it may be
/// a strike, few where only the length of the punch hangs on it.
const MOST_FOLLOWED: f64 = 400.0;
const FEW_FOLLOWED: f64 = 32.0;

/// From where to where along y a body stands in a tool that is made up to length; the angle where that leaves
/// too much of the bend without punch.
fn followed(
    s: &Stroke,
    side: Side,
    prism: &Prism,
    section: &Section,
    first: f64,
    least: f64,
    limit: f64,
) -> Option<Met> {
    let mut out: Option<(f64, f64)> = None;
    let mut tool = Vec::with_capacity(8);
    let end = s.end_of(side);
    let radius = prism.corners.iter().map(|c| DVec2::new(c.x, c.z).distance(end)).fold(0.0, f64::max);
    let speed = s.speed(radius) + if section.on_die { s.die_speed(first) } else { 0.0 };
    let step = (TOUCH / speed).max(least);
    let mut phi = first;
    loop {
        s.standing(section, phi, &mut tool);
        let now = prism.mapped(|p| s.moved_in_space(side, phi, p));
        if let Some((l, h)) = now.inside(&tool, TOUCH) {
            let (l, h) = (l.max(section.run.0), h.min(section.run.1));
            if h > l {
                let all = out.map_or((l, h), |o| (o.0.min(l), o.1.max(h)));
                if is_midway(s, limit, all) {
                    return Some(Met::Strikes(phi));
                }
                out = Some(all);
            }
        }
        if phi >= s.most {
            return out.map(|(l, h)| Met::End(l, h));
        }
        phi = (phi + step).min(s.most);
    }
}

/// Whether two shadows may cross at all: beside one another along y, and by their distances from the bend's
/// end, which hardly wanders.
fn may_cross(s: &Stroke, far: &Shadow, near: &Shadow) -> bool {
    let (a, b, wander) = (far.radii, near.radii, 2.0 * s.wander());
    let beside = far.span.1 - TOUCH < near.span.0 || near.span.1 - TOUCH < far.span.0;
    !beside && a.0 <= b.1 + wander && b.0 <= a.1 + wander
}

/// The first angle at which a body of the far side is deeper in one of the near side than a touch.
pub fn crossing(s: &Stroke, (far, a): (&Prism, &Shadow), (near, b): (&Prism, &Shadow)) -> Option<f64> {
    crossed(s, a, b, |phi| {
        let at = |p: &Prism, side: Side| p.mapped(|p| s.moved_in_space(side, phi, p));
        at(far, Side::Far).apart(&at(near, Side::Near)) + TOUCH
    })
}

/// The first angle at which two shadows overlap and what cast them is no further apart than nothing, by `gap`
/// at that angle.
pub fn crossed(s: &Stroke, far: &Shadow, near: &Shadow, gap: impl Fn(f64) -> f64) -> Option<f64> {
    if !may_cross(s, far, near) {
        return None;
    }
    let speed = s.speed(far.radii.1) + s.speed(near.radii.1);
    let (mut now_far, mut now_near) = (Vec::new(), Vec::new());
    let (mut phi, mut first) = (0.0, 0);
    loop {
        now_far.clear();
        now_near.clear();
        now_far.extend(far.ring.iter().copied().map(s.motion(Side::Far, phi)));
        now_near.extend(near.ring.iter().copied().map(s.motion(Side::Near, phi)));
        let mut free = apart_until(&now_far, &now_near, speed * MOST_STEP, &mut first) + TOUCH;
        if free <= 0.0 {
            free = gap(phi);
            if free <= 0.0 {
                return Some(phi);
            }
        }
        if phi >= s.angle {
            return None;
        }
        phi = (phi + (free.max(TOUCH / 2.0) / speed).min(MOST_STEP)).min(s.angle);
    }
}
