//! A bar bent at the inner nodes of its path: straight stretches with arcs tangent between them.

use glam::{DVec2, DVec3};
use ground::geom::{COINCIDENT, ROUNDING};

use super::bar::Bar;
use super::model::{CentrelineSegment, Member, across};
use crate::build::skeleton::stand;
use ground::quantity::Display;

/// An arc from the first of three points through the second to the third, or the whole ring through them.
pub fn arc(points: &[DVec3], ring: bool, turn: f64) -> Result<Vec<CentrelineSegment>, (String, String)> {
    let &[a, b, c] = points else {
        return Err((
            "an arc runs through three nodes".into(),
            "name where it starts, one on the way, and where it ends".into(),
        ));
    };
    let (u, v) = (b - a, c - a);
    let w = u.cross(v);
    // The sine of the angle at the first: below this the three lie in line for any shop.
    if w.length() < 1e-4 * u.length() * v.length() {
        return Err((
            "the three nodes lie in line".into(),
            "move the middle one aside, or leave the arc out".into(),
        ));
    }
    let centre =
        a + (w.cross(u) * v.length_squared() + v.cross(w) * u.length_squared()) / (2.0 * w.length_squared());
    let axis = w.normalize();
    let (from, to) = (a - centre, c - centre);
    let sweep = if ring {
        std::f64::consts::TAU
    } else {
        axis.dot(from.cross(to)).atan2(from.dot(to)).rem_euclid(std::f64::consts::TAU)
    };
    let bar = stand(a, axis.cross(from).normalize(), turn);
    Ok(vec![CentrelineSegment::Bend { bar, centre, axis, radius: from.length(), sweep }])
}

/// The same way with another point of the section on the line between the nodes; none where a bend would run
/// into its own centre.
pub fn set_off(way: Vec<CentrelineSegment>, sits: DVec2) -> Option<Vec<CentrelineSegment>> {
    let off = |bar: Bar| Bar { o: bar.o - bar.y * sits.x - bar.z * sits.y, ..bar };
    let moved = way.into_iter().map(|s| match s {
        CentrelineSegment::Straight { bar, length } => {
            Some(CentrelineSegment::Straight { bar: off(bar), length })
        }
        CentrelineSegment::Bend { bar, centre, axis, sweep, .. } => {
            let (was, now) = (bar.o - centre, off(bar).o - centre);
            let spoke = across(now, axis);
            let out = spoke.dot(was.normalize_or_zero());
            (out > 1e-3).then(|| CentrelineSegment::Bend {
                bar: off(bar),
                centre: centre + (now - spoke),
                axis,
                radius: spoke.length(),
                sweep,
            })
        }
    });
    moved.collect()
}

/// The way through `points` with bends of `radius`; the bar carries its section round each bend without
/// twisting.
pub fn way(
    points: &[DVec3],
    closed: bool,
    radius: f64,
    turn: f64,
) -> Result<Vec<CentrelineSegment>, (String, String)> {
    let n = points.len();
    let corners: Vec<usize> = (1..n - 1).collect();
    let back = |i: usize| -> f64 {
        let (u, v) = ((points[i] - points[i - 1]).normalize(), (points[(i + 1) % n] - points[i]).normalize());
        radius * (u.angle_between(v) / 2.0).tan()
    };
    let told = "write a smaller radius, or move the nodes apart".to_string();
    if closed {
        // The ring is cut at the middle of its first leg.
        let middle = points[0].lerp(points[1], 0.5);
        let mut open = vec![middle];
        open.extend_from_slice(&points[1..n]);
        open.push(points[1].lerp(points[0], 0.5));
        return way(&open, false, radius, turn);
    }
    let backs: Vec<f64> = (0..n).map(|i| if corners.contains(&i) { back(i) } else { 0.0 }).collect();
    let mut out = Vec::new();
    let first = (points[1] - points[0]).normalize();
    let mut bar = stand(points[0], first, turn);
    for i in 0..n - 1 {
        let d = (points[i + 1] - points[i]).normalize();
        let length = points[i].distance(points[i + 1]) - backs[i] - backs[i + 1];
        if !length.is_finite() || length < -COINCIDENT {
            return Err((format!("the leg at node {} of the path is too short for its bends", i + 1), told));
        }
        if length > ROUNDING {
            out.push(CentrelineSegment::Straight { bar, length });
        }
        bar.o += bar.d * length.max(0.0);
        if i + 2 < n {
            let next = (points[i + 2] - points[i + 1]).normalize();
            let sweep = d.angle_between(next);
            if sweep < ROUNDING {
                continue;
            }
            if sweep > std::f64::consts::PI - 1e-3 {
                return Err(("the path turns back on itself".into(), "leave the node out".into()));
            }
            let axis = d.cross(next).normalize();
            let centre = bar.o + axis.cross(d) * radius;
            let bend = CentrelineSegment::Bend { bar, centre, axis, radius, sweep };
            bar = bend.at(1.0);
            out.push(bend);
        }
    }
    Ok(out)
}

/// A bent bar as it is told to the bender, from its start: straight lengths with radius and angle of each
/// bend between, by the middle of the section. The first bend of a section that is not round says to which
/// side it goes, the others how far the bar is turned before them, clockwise seen along it. Empty for a
/// straight one.
pub fn told(m: &Member, round: bool, d: &Display) -> String {
    if m.is_straight() {
        return String::new();
    }
    let last = m.way.len() - 1;
    let cut = |k: usize| if m.closed { 0.0 } else { m.station(k, DVec2::ZERO) };
    let mut before: Option<f64> = None;
    let mut out: Vec<String> = Vec::new();
    for (i, s) in m.way.iter().enumerate() {
        let gone = if i == 0 { cut(0) } else { 0.0 } + if i == last { cut(1) } else { 0.0 };
        match *s {
            CentrelineSegment::Straight { length, .. } => out.push(d.length(length - gone)),
            CentrelineSegment::Bend { bar, centre, radius, sweep, .. } => {
                let (to, _) = bar.turned(centre - bar.o);
                let heading = to.y.atan2(to.x);
                let bend = format!("R{} {}", d.length(radius), d.angle(sweep - gone / radius));
                match before {
                    None if round => out.push(bend),
                    None => out.push(format!("{bend} {}", side(heading, d))),
                    Some(last) => {
                        let turn = (heading - last).rem_euclid(std::f64::consts::TAU);
                        if turn > 1e-4 && turn < std::f64::consts::TAU - 1e-4 {
                            out.push(format!("turned {}", d.angle(turn)));
                        }
                        out.push(bend);
                    }
                }
                before = Some(heading);
            }
        }
    }
    out.join(" · ")
}

/// The side of the section that a bend goes to: left and up seen along the bar from its start.
fn side(heading: f64, d: &Display) -> String {
    let quarter = std::f64::consts::FRAC_PI_2;
    let k = (heading / quarter).round();
    if (heading - k * quarter).abs() > 1e-4 {
        return format!("{} clockwise from left", d.angle(heading.rem_euclid(2.0 * std::f64::consts::PI)));
    }
    ["left", "up", "right", "down"][(k as i64).rem_euclid(4) as usize].to_string()
}

/// The middle line of a bent bar as a picture shows it: x along its start, y to the side of its first bend;
/// one that is bent out of that plane is seen a little from the side, and told so.
pub fn drawn(m: &Member) -> (Vec<DVec2>, bool) {
    let mut way: Vec<DVec3> = Vec::new();
    for s in &m.way {
        let steps = if matches!(s, CentrelineSegment::Straight { .. }) { 1 } else { 24 };
        way.extend(
            (usize::from(!way.is_empty())..=steps)
                .map(|k| s.at(f64::from(k as u32) / f64::from(steps as u32)).o),
        );
    }
    let Some(first) = m.way.first() else { return (Vec::new(), false) };
    let x = first.at(0.0).d;
    let to = m
        .way
        .iter()
        .find_map(|s| {
            if let CentrelineSegment::Bend { bar, centre, .. } = s { Some(*centre - bar.o) } else { None }
        })
        .unwrap_or(DVec3::Z);
    let y = (to - x * to.dot(x)).try_normalize().unwrap_or_else(|| x.any_orthonormal_vector());
    let z = x.cross(y);
    let o = way[0];
    let spatial = way.iter().any(|p| (*p - o).dot(z).abs() > 1.0);
    let flat = |p: &DVec3| {
        let q = *p - o;
        let aside = if spatial { DVec2::new(0.35, 0.2) * q.dot(z) } else { DVec2::ZERO };
        DVec2::new(q.dot(x), q.dot(y)) + aside
    };
    (way.iter().map(flat).collect(), spatial)
}
