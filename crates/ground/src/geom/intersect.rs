//! How near two segments come, and whether they cross. One closed-form routine serves webs, overlaps and
//! validity.

use glam::DVec2;

use super::{Arc, Segment};

/// The shortest gap between two things, and where it is on each.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Closest {
    pub gap: f64,
    pub on_a: DVec2,
    pub on_b: DVec2,
}

impl Closest {
    fn between(on_a: DVec2, on_b: DVec2) -> Self {
        Closest { gap: on_a.distance(on_b), on_a, on_b }
    }
}

/// The shortest gap between two segments; zero where they cross or touch.
pub fn closest(a: &Segment, b: &Segment) -> Closest {
    let mut best = Closest { gap: f64::INFINITY, on_a: a.a, on_b: b.a };
    let mut offer = |c: Closest| {
        if c.gap < best.gap {
            best = c;
        }
    };
    for p in meeting_points(a, b) {
        offer(Closest { gap: 0.0, on_a: p, on_b: p });
    }
    for p in [a.a, a.b] {
        offer(Closest::between(p, b.nearest(p)));
    }
    for p in [b.a, b.b] {
        offer(Closest::between(a.nearest(p), p));
    }
    match (a.arc(), b.arc()) {
        (None, None) => {}
        (None, Some(arc)) => {
            let on_a = a.nearest(arc.centre);
            offer(Closest::between(on_a, b.nearest(on_a)));
        }
        (Some(arc), None) => {
            let on_b = b.nearest(arc.centre);
            offer(Closest::between(a.nearest(on_b), on_b));
        }
        (Some(p), Some(q)) => {
            let line = (q.centre - p.centre).normalize_or_zero();
            for side in [line, -line] {
                let on_a = a.nearest(p.centre + side * p.radius);
                offer(Closest::between(on_a, b.nearest(on_a)));
                let on_b = b.nearest(q.centre + side * q.radius);
                offer(Closest::between(a.nearest(on_b), on_b));
            }
        }
    }
    best
}

/// The points that the two share (none where they run along one another: their ends tell that).
fn meeting_points(a: &Segment, b: &Segment) -> Vec<DVec2> {
    match (a.arc(), b.arc()) {
        (None, None) => {
            let (d, e, w) = (a.b - a.a, b.b - b.a, b.a - a.a);
            let cross = d.perp_dot(e);
            if cross.abs() <= 1e-12 * d.length() * e.length() {
                return Vec::new();
            }
            let (s, u) = (w.perp_dot(e) / cross, w.perp_dot(d) / cross);
            if (0.0..=1.0).contains(&s) && (0.0..=1.0).contains(&u) { vec![a.a + d * s] } else { Vec::new() }
        }
        (None, Some(arc)) => line_arc(a, &arc),
        (Some(arc), None) => line_arc(b, &arc),
        (Some(p), Some(q)) => {
            let between = q.centre - p.centre;
            let d = between.length();
            if d < 1e-12 || d > p.radius + q.radius || d < (p.radius - q.radius).abs() {
                return Vec::new();
            }
            let x = (d * d + p.radius * p.radius - q.radius * q.radius) / (2.0 * d);
            let y = (p.radius * p.radius - x * x).max(0.0).sqrt();
            let along = between / d;
            [y, -y]
                .map(|y| p.centre + along * x + along.perp() * y)
                .into_iter()
                .filter(|m| {
                    p.has_angle((*m - p.centre).to_angle()) && q.has_angle((*m - q.centre).to_angle())
                })
                .collect()
        }
    }
}

fn line_arc(line: &Segment, arc: &Arc) -> Vec<DVec2> {
    let d = line.b - line.a;
    let length2 = d.length_squared();
    if length2 == 0.0 {
        return Vec::new();
    }
    let s = (arc.centre - line.a).dot(d) / length2;
    let foot = line.a + d * s;
    let h2 = arc.radius * arc.radius - foot.distance_squared(arc.centre);
    if h2 < 0.0 {
        return Vec::new();
    }
    let step = (h2 / length2).sqrt();
    [s - step, s + step]
        .into_iter()
        .filter(|s| (0.0..=1.0).contains(s))
        .map(|s| line.a + d * s)
        .filter(|m| arc.has_angle((*m - arc.centre).to_angle()))
        .collect()
}

/// Whether two segments come within `tolerance` of one another.
pub fn crosses(a: &Segment, b: &Segment, tolerance: f64) -> bool {
    a.bounds().near(&b.bounds(), tolerance) && closest(a, b).gap <= tolerance
}
