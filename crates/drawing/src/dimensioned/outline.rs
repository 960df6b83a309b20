//! An outline by the points that a hand would mark out: rounded corners by the corner and its radius.

use glam::DVec2;
use ground::geom::{Contour, Segment};

/// A point of an outline, in order with the material to its left.
#[derive(Clone, Debug, PartialEq)]
pub struct Point {
    pub at: DVec2,
    /// The corner is rounded by this radius.
    pub round: Option<f64>,
    /// To the next point.
    pub next: Way,
}

#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Way {
    Straight,
    Arc {
        radius: f64,
        /// It swings out of the metal inside the outline.
        out: bool,
        /// It is more than a half circle.
        large: bool,
        /// Its middle, where its radius is told.
        top: DVec2,
    },
}

/// A round corner sweeps less than this, rad: of more, the corner lies far out.
const WIDEST: f64 = 2.6;
const TANGENT: f64 = 1e-4;

/// The points of an outline that is no circle.
pub fn points(c: &Contour) -> Vec<Point> {
    let s: Vec<Segment> = c.segments().collect();
    let n = s.len();
    let is_corner: Vec<bool> =
        (0..n).map(|k| n > 3 && rounds(&s[(k + n - 1) % n], &s[k], &s[(k + 1) % n])).collect();
    let anti = c.signed_area() > 0.0;
    let mut out = Vec::new();
    for k in 0..n {
        if is_corner[k] {
            let (before, after) = (&s[(k + n - 1) % n], &s[(k + 1) % n]);
            if let (Some(at), Some(arc)) = (crossing(before, after), s[k].arc()) {
                // What leaves the corner is the line after the arc.
                out.push(Point { at, round: Some(arc.radius), next: Way::Straight });
            }
            continue;
        }
        // The line after a round corner begins at that corner.
        if is_corner[(k + n - 1) % n] {
            continue;
        }
        let next = s[k].arc().map_or(Way::Straight, |a| Way::Arc {
            radius: a.radius,
            out: (a.sweep > 0.0) == anti,
            large: a.sweep.abs() > std::f64::consts::PI + 1e-6,
            top: s[k].at(0.5),
        });
        out.push(Point { at: s[k].a, round: None, next });
    }
    out
}

/// Whether an arc goes over from line to line as a fillet does.
fn rounds(before: &Segment, arc: &Segment, after: &Segment) -> bool {
    let Some(a) = arc.arc() else { return false };
    let smooth = |p: DVec2, q: DVec2| p.angle_to(q).abs() < TANGENT;
    before.is_line()
        && after.is_line()
        && a.sweep.abs() < WIDEST
        && smooth(before.tangent(true), arc.tangent(false))
        && smooth(arc.tangent(true), after.tangent(false))
}

fn crossing(a: &Segment, b: &Segment) -> Option<DVec2> {
    let (p, q) = (a.b - a.a, b.b - b.a);
    let by = p.perp_dot(q);
    (by.abs() > 1e-12).then(|| a.a + p * ((b.a - a.a).perp_dot(q) / by))
}
