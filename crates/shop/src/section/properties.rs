//! Area, surface, centroid and second moments worked out from the true shape, and the ways it lies on itself.

use glam::{DMat2, DVec2};

use super::Shape;
use ground::geom::Contour;

/// Lengths mm; axes through the centroid, y across and z up.
#[derive(Clone, Debug, PartialEq)]
pub struct Properties {
    pub area: f64,
    /// Outer perimeter: mm² of surface a mm.
    pub perimeter: f64,
    /// From the middle of the box.
    pub centroid: DVec2,
    /// Against bending up and down: ∫z².
    pub i_y: f64,
    /// Against bending sideways: ∫y².
    pub i_z: f64,
    pub i_yz: f64,
}

/// Chord error for second moments, of the section's size.
const FINE: f64 = 1e-7;

/// ∫y², ∫z², ∫yz of a contour about a point, whichever way it runs.
pub fn second_moments(c: &Contour, about: DVec2) -> [f64; 3] {
    let points = c.flatten(c.bounds().size().max_element() * FINE);
    let mut sum = [0.0; 3];
    for (i, &a) in points.iter().enumerate() {
        let (p, q) = (a - about, points[(i + 1) % points.len()] - about);
        let cross = p.perp_dot(q);
        sum[0] += cross * (p.x * p.x + p.x * q.x + q.x * q.x) / 12.0;
        sum[1] += cross * (p.y * p.y + p.y * q.y + q.y * q.y) / 12.0;
        sum[2] += cross * (2.0 * p.x * p.y + p.x * q.y + q.x * p.y + 2.0 * q.x * q.y) / 24.0;
    }
    let sign = if c.signed_area() < 0.0 { -1.0 } else { 1.0 };
    sum.map(|v| v * sign)
}

impl Shape {
    pub fn properties(&self) -> Properties {
        let (outer, holes) = self.contours();
        let area = outer.area() - holes.iter().map(Contour::area).sum::<f64>();
        let moment =
            outer.centroid() * outer.area() - holes.iter().map(|h| h.centroid() * h.area()).sum::<DVec2>();
        let centroid = moment / area.max(1e-12);
        let mut i = second_moments(&outer, centroid);
        for h in &holes {
            let j = second_moments(h, centroid);
            (0..3).for_each(|k| i[k] -= j[k]);
        }
        Properties { area, perimeter: outer.perimeter(), centroid, i_y: i[1], i_z: i[0], i_yz: i[2] }
    }

    /// Turns and flips about the middle of the box that lay the section on itself; turns first. A round lies
    /// on itself at any turn: it is told by [`Shape::is_round`] and gives only the quarter turns here.
    pub fn symmetries(&self) -> Vec<DMat2> {
        let (outer, holes) = self.contours();
        let quarter = |k: i32| match k {
            0 => DMat2::IDENTITY,
            1 => DMat2::from_cols(DVec2::Y, -DVec2::X),
            2 => DMat2::from_diagonal(-DVec2::ONE),
            _ => DMat2::from_cols(-DVec2::Y, DVec2::X),
        };
        let flip = DMat2::from_diagonal(DVec2::new(-1.0, 1.0));
        let ways = (0..4).map(quarter).chain((0..4).map(|k| quarter(k) * flip));
        if self.is_round() {
            return ways.collect();
        }
        ways.filter(|m| std::iter::once(&outer).chain(&holes).all(|c| lies_on_itself(c, *m))).collect()
    }
}

fn lies_on_itself(c: &Contour, m: DMat2) -> bool {
    let near = 1e-6 * c.bounds().size().max_element().max(1.0);
    c.segments().all(|s| {
        let (a, b, middle) = (m * s.a, m * s.b, m * s.at(0.5));
        c.segments().any(|t| {
            let ends = (t.a.distance(a) < near && t.b.distance(b) < near)
                || (t.a.distance(b) < near && t.b.distance(a) < near);
            ends && t.at(0.5).distance(middle) < near
        })
    })
}
