//! The true shape of a section: outline and bore with their radii, in the section's plane. y runs across, z
//! up; the origin is the middle of the box around it. Millimetres.

use glam::DVec2;
use ground::geom::{COINCIDENT, ROUNDING};

use ground::geom::{Contour, Vertex};

/// A section by its sizes.
#[derive(Clone, Debug, PartialEq)]
pub enum Shape {
    /// Hollow, with outer and inner corner radius.
    Box { h: f64, b: f64, t: f64, outer: f64, inner: f64 },
    /// Round and hollow.
    Tube { d: f64, t: f64 },
    /// Two flanges on a web; root radius.
    I { h: f64, b: f64, tw: f64, tf: f64, r: f64 },
    /// Flanges to one side of a web; flange thickness where the standard measures it, root and toe radius,
    /// slope of the inner faces.
    Channel { h: f64, b: f64, tw: f64, tf: f64, root: f64, toe: f64, slope: f64 },
    /// Two legs of one thickness, heel at the lower left.
    Angle { h: f64, b: f64, t: f64, root: f64, toe: f64 },
    /// Solid rectangle, long side up.
    Flat { h: f64, b: f64 },
    /// Solid round.
    Round { d: f64 },
    /// A told outline with holes in it.
    Own { outer: Contour, holes: Vec<Contour> },
}

/// Outline with its sharp corners rounded: each corner with its radius, counter-clockwise.
fn rounded(corners: &[(f64, f64, f64)]) -> Contour {
    let n = corners.len();
    let p = |i: usize| DVec2::new(corners[i % n].0, corners[i % n].1);
    let mut vertices = Vec::with_capacity(2 * n);
    for (i, corner) in corners.iter().enumerate() {
        let (before, at, after) = (p(i + n - 1), p(i), p(i + 1));
        let (u, v) = ((at - before).normalize_or_zero(), (after - at).normalize_or_zero());
        let turn = u.perp_dot(v).atan2(u.dot(v));
        if corner.2 <= 0.0 || turn.abs() < ROUNDING {
            vertices.push(Vertex { p: at, bulge: 0.0, tag: 0 });
            continue;
        }
        let back = corner.2 * (turn.abs() / 2.0).tan();
        vertices.push(Vertex { p: at - u * back, bulge: (turn / 4.0).tan(), tag: 0 });
        vertices.push(Vertex { p: at + v * back, bulge: 0.0, tag: 0 });
    }
    // A radius that takes a whole side leaves two points in one place.
    let mut kept: Vec<Vertex> = Vec::with_capacity(vertices.len());
    for (i, v) in vertices.iter().enumerate() {
        let next = vertices[(i + 1) % vertices.len()].p;
        if v.bulge != 0.0 || v.p.distance(next) > ROUNDING {
            kept.push(*v);
        }
    }
    Contour { vertices: kept }
}

fn rectangle(b: f64, h: f64, r: f64) -> Contour {
    let (y, z) = (b / 2.0, h / 2.0);
    rounded(&[(-y, -z, r), (y, -z, r), (y, z, r), (-y, z, r)])
}

impl Shape {
    /// Outline, then what is hollow in it.
    pub fn contours(&self) -> (Contour, Vec<Contour>) {
        match *self {
            Shape::Box { h, b, t, outer, inner } => {
                (rectangle(b, h, outer), vec![rectangle(b - 2.0 * t, h - 2.0 * t, inner)])
            }
            Shape::Tube { d, t } => {
                (Contour::circle(DVec2::ZERO, d / 2.0, 0), vec![Contour::circle(DVec2::ZERO, d / 2.0 - t, 0)])
            }
            Shape::I { h, b, tw, tf, r } => {
                let (y, z, w, f) = (b / 2.0, h / 2.0, tw / 2.0, h / 2.0 - tf);
                let outline = rounded(&[
                    (-y, -z, 0.0),
                    (y, -z, 0.0),
                    (y, -f, 0.0),
                    (w, -f, r),
                    (w, f, r),
                    (y, f, 0.0),
                    (y, z, 0.0),
                    (-y, z, 0.0),
                    (-y, f, 0.0),
                    (-w, f, r),
                    (-w, -f, r),
                    (-y, -f, 0.0),
                ]);
                (outline, Vec::new())
            }
            Shape::Channel { h, b, tw, tf, root, toe, slope } => {
                let (y, z) = (b / 2.0, h / 2.0);
                // EN 10365 measures sloping flanges up to 300 mm high at half the width, AISC and the others
                // at half of what overhangs.
                let measured = if (slope - 0.08).abs() < ROUNDING { b / 2.0 } else { (b + tw) / 2.0 };
                let inside = |at: f64| z - tf - slope * (measured - at);
                let (web, tip) = (inside(tw), inside(b));
                let outline = rounded(&[
                    (-y, -z, 0.0),
                    (y, -z, 0.0),
                    (y, -tip, toe),
                    (tw - y, -web, root),
                    (tw - y, web, root),
                    (y, tip, toe),
                    (y, z, 0.0),
                    (-y, z, 0.0),
                ]);
                (outline, Vec::new())
            }
            Shape::Angle { h, b, t, root, toe } => {
                let (y, z) = (b / 2.0, h / 2.0);
                (
                    rounded(&[
                        (-y, -z, 0.0),
                        (y, -z, 0.0),
                        (y, t - z, toe),
                        (t - y, t - z, root),
                        (t - y, z, toe),
                        (-y, z, 0.0),
                    ]),
                    Vec::new(),
                )
            }
            Shape::Flat { h, b } => (rectangle(b, h, 0.0), Vec::new()),
            Shape::Round { d } => (Contour::circle(DVec2::ZERO, d / 2.0, 0), Vec::new()),
            Shape::Own { ref outer, ref holes } => (outer.clone(), holes.clone()),
        }
    }

    /// Across and up.
    pub fn size(&self) -> DVec2 {
        match *self {
            Shape::Box { h, b, .. }
            | Shape::I { h, b, .. }
            | Shape::Channel { h, b, .. }
            | Shape::Angle { h, b, .. }
            | Shape::Flat { h, b } => DVec2::new(b, h),
            Shape::Tube { d, .. } | Shape::Round { d } => DVec2::splat(d),
            Shape::Own { ref outer, .. } => outer.bounds().size(),
        }
    }

    pub fn is_round(&self) -> bool {
        matches!(self, Shape::Tube { .. } | Shape::Round { .. })
    }

    /// Flat faces on all four sides, so that a plane cut closes against any of them.
    pub fn is_boxed(&self) -> bool {
        matches!(self, Shape::Box { .. } | Shape::Flat { .. })
    }

    /// Thickness of the wall that a weld or a cut meets: the thickest part of an open section, the whole of a
    /// bar.
    pub fn thickness(&self) -> f64 {
        match *self {
            Shape::Box { t, .. } | Shape::Tube { t, .. } | Shape::Angle { t, .. } => t,
            Shape::I { tw, tf, .. } | Shape::Channel { tw, tf, .. } => tf.max(tw),
            Shape::Flat { h, b } => b.min(h),
            Shape::Round { d } => d,
            Shape::Own { ref outer, .. } => outer.bounds().size().min_element(),
        }
    }

    /// Why these sizes make no section; none when they do.
    pub fn fault(&self) -> Option<&'static str> {
        let bad = match *self {
            Shape::Box { h, b, t, outer, .. } => {
                t <= 0.0 || 2.0 * t >= h.min(b) || 2.0 * outer > h.min(b) + ROUNDING
            }
            Shape::Tube { d, t } => t <= 0.0 || 2.0 * t >= d,
            Shape::I { h, b, tw, tf, r } => tw <= 0.0 || tf <= 0.0 || tw + 2.0 * r > b || 2.0 * (tf + r) > h,
            Shape::Channel { h, b, tw, tf, .. } => tw <= 0.0 || tf <= 0.0 || tw >= b || 2.0 * tf >= h,
            Shape::Angle { h, b, t, root, toe } => t <= 0.0 || toe > t || t + root >= h.min(b),
            Shape::Flat { h, b } => h <= 0.0 || b <= 0.0,
            Shape::Round { d } => d <= 0.0,
            Shape::Own { ref outer, .. } => outer.area() < COINCIDENT,
        };
        bad.then_some("the wall is too thick, or the radii too large, for the size")
    }
}

/// EN 10219-2 corner radii for calculation by wall thickness.
pub fn cold_formed(h: f64, b: f64, t: f64) -> Shape {
    let (outer, inner) = if t <= 6.0 {
        (2.0, 1.0)
    } else if t <= 10.0 {
        (2.5, 1.5)
    } else {
        (3.0, 2.0)
    };
    Shape::Box { h, b, t, outer: outer * t, inner: inner * t }
}

/// EN 10210-2 corner radii for calculation.
pub fn hot_finished(h: f64, b: f64, t: f64) -> Shape {
    Shape::Box { h, b, t, outer: 1.5 * t, inner: t }
}

/// A hollow section with outer radius two walls and inner one, as the AISC tables have it.
pub fn two_walls(h: f64, b: f64, t: f64) -> Shape {
    Shape::Box { h, b, t, outer: 2.0 * t, inner: t }
}
