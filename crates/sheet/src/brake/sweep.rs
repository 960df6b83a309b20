//! Bodies swept through a stroke: along plane motions, in steps as long as gap and speed allow.

use glam::{DVec2, DVec3};
use ground::geom::rings::{Motion, Ring};
use ground::geom::{COINCIDENT, ROUNDING};

use super::stroke::{MOST_STEP, Side, Stroke};
use super::tools::{Section, Tool};
use ground::geom::convex::{Prism, hull};
use shop::brake::Tools;

/// Deeper than this is a strike; nearer is a touch.
pub const TOUCH: f64 = 0.25;

/// Convex bodies seen along the tools.
pub struct Shadow {
    ring: Ring,
    /// From where to where along y.
    span: (f64, f64),
    /// The nearest and the furthest from the bend's end.
    radii: (f64, f64),
    /// It stays on its side of the punch's middle all through the stroke.
    keeps_aside: bool,
}

impl Shadow {
    pub fn of(corners: &[DVec3], s: &Stroke, side: Side) -> Shadow {
        let span = corners
            .iter()
            .map(|c| c.y)
            .fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), y| (l.min(y), h.max(y)));
        let ring = hull(corners.iter().map(|c| DVec2::new(c.x, c.z)).collect());
        let end = s.end_of(side);
        let far = ring.iter().map(|p| p.distance(end)).fold(0.0, f64::max);
        let ring = Ring::new(ring);
        // Aside before the stroke and after it, as the bend's end is, is aside all the while.
        let last = s.at(s.angle);
        let aside = |p: &DVec2| {
            let (out, up) = ((p.x - end.x) * side.sign(), p.y);
            out >= -ROUNDING && out * last.turn.x - up * last.turn.y >= -ROUNDING
        };
        Shadow {
            keeps_aside: last.end.x >= 0.0 && ring.corners.iter().all(aside),
            radii: (ring.distance(end), far),
            ring,
            span,
        }
    }

    /// What stays above the leg's underside keeps off the die on its own side, which that underside rests on;
    /// what stays below the leg's inside keeps off the punch, whose flanks stand steeper.
    fn is_clear(&self, s: &Stroke, side: Side, section: &Section) -> bool {
        let corners = &self.ring.corners;
        let beyond = corners.iter().all(|p| p.x * side.sign() >= -ROUNDING);
        let above = corners.iter().all(|p| p.y >= -s.t - COINCIDENT);
        let below = corners.iter().all(|p| p.y <= COINCIDENT);
        match section.tool {
            Tool::Die => beyond && above && section.ring.corners.iter().any(|c| c.x * side.sign() > ROUNDING),
            Tool::Bed => beyond && above,
            Tool::Punch => beyond && below,
            _ => false,
        }
    }

    /// The first angle from `from` on at which it is deeper in a section than a touch.
    pub fn first_deep(&self, s: &Stroke, side: Side, section: &Section, from: f64) -> Option<f64> {
        let beside = self.span.1 < section.run.0 + TOUCH || self.span.0 > section.run.1 - TOUCH;
        if beside || self.is_clear(s, side, section) || !s.within_reach(section, self.radii.1) {
            return None;
        }
        let own = s.speed(self.radii.1);
        let of_die = |phi: f64| if section.on_die { own + s.die_speed(phi) } else { own };
        // To the end at once, or by a step in which the die is slower.
        let most = of_die(s.most);
        let swings = s.swings(side);
        let (mut phi, mut best) = (from, 0);
        loop {
            let at = s.at(phi);
            let lies = s.motion(side, &at).back().after(&s.standing(section, &at));
            let gap = self.ring.apart(&section.ring, &lies, most * (s.most - phi), &mut best) + TOUCH;
            if gap <= 0.0 {
                return Some(phi);
            }
            if phi >= s.most {
                return None;
            }
            let step = gap.max(TOUCH / 2.0);
            let mut step = (step / most).max((step / of_die(phi)).min(MOST_STEP));
            if !section.on_die && phi + step < s.most {
                let clear = self.ring.clear_for(&section.ring, &lies, best, TOUCH, swings.each_ref());
                step = step.max(clear);
            }
            phi = (phi + step).min(s.most);
        }
    }
}

/// What one body does with one tool.
pub enum Met {
    Strikes(f64),
    End(f64, f64),
}

/// What a body, and its shadow along the tools, does with a tool from an angle on.
pub fn met(
    s: &Stroke,
    tools: &Tools,
    side: Side,
    (prism, shadow): (&Prism, &Shadow),
    section: &Section,
    from: f64,
) -> Option<Met> {
    let first = shadow.first_deep(s, side, section, from)?;
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
    let end = s.end_of(side);
    let radius = prism.corners.iter().map(|c| DVec2::new(c.x, c.z).distance(end)).fold(0.0, f64::max);
    let speed = s.speed(radius) + if section.on_die { s.die_speed(first) } else { 0.0 };
    let step = (TOUCH / speed).max(least);
    let mut phi = first;
    loop {
        let at = s.at(phi);
        let lies = s.motion(side, &at).back().after(&s.standing(section, &at));
        if let Some((l, h)) = prism.inside(&section.ring.moved(&lies), TOUCH) {
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
    let aside = far.keeps_aside && near.keeps_aside;
    !beside && !aside && a.0 <= b.1 + wander && b.0 <= a.1 + wander
}

/// The first angle from `from` on at which a body of the far side is deeper in one of the near side than a
/// touch.
pub fn crossing(
    s: &Stroke,
    (far, a): (&Prism, &Shadow),
    (near, b): (&Prism, &Shadow),
    from: f64,
) -> Option<f64> {
    crossed(s, a, b, from, |lies| {
        let moved = far.mapped(|p| {
            let q = lies.of(DVec2::new(p.x, p.z));
            DVec3::new(q.x, p.y, q.y)
        });
        near.apart(&moved) + TOUCH
    })
}

/// The first angle from `from` on at which two shadows overlap and what cast them is no further apart than
/// nothing, by `gap` of how the far one has moved against the near.
pub fn crossed(
    s: &Stroke,
    far: &Shadow,
    near: &Shadow,
    from: f64,
    gap: impl Fn(&Motion) -> f64,
) -> Option<f64> {
    if !may_cross(s, far, near) {
        return None;
    }
    let speed = s.speed(far.radii.1) + s.speed(near.radii.1);
    let swings = [Side::Near, Side::Far].map(|side| s.swing_against(side));
    let (mut phi, mut best) = (from, 0);
    loop {
        let at = s.at(phi);
        let lies = s.motion(Side::Near, &at).back().after(&s.motion(Side::Far, &at));
        let mut free = near.ring.apart(&far.ring, &lies, speed * (s.angle - phi), &mut best) + TOUCH;
        let shadows_part = free > 0.0;
        if !shadows_part {
            free = gap(&lies);
            if free <= 0.0 {
                return Some(phi);
            }
        }
        if phi >= s.angle {
            return None;
        }
        let mut step = free.max(TOUCH / 2.0) / speed;
        if shadows_part && phi + step < s.angle {
            step = step.max(near.ring.clear_for(&far.ring, &lies, best, TOUCH, swings.each_ref()));
        }
        phi = (phi + step).min(s.angle);
    }
}
