//! Lines and circles through points, by least squares of their distances.

use glam::{DMat2, DMat3, DVec2, DVec3};

/// A line through `at`, along `along` (of length one).
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Straight {
    pub at: DVec2,
    pub along: DVec2,
}

impl Straight {
    pub fn off(&self, p: DVec2) -> f64 {
        self.along.perp_dot(p - self.at)
    }

    pub fn foot(&self, p: DVec2) -> DVec2 {
        self.at + self.along * self.along.dot(p - self.at)
    }
}

#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Circle {
    pub centre: DVec2,
    pub radius: f64,
}

impl Circle {
    pub fn off(&self, p: DVec2) -> f64 {
        p.distance(self.centre) - self.radius
    }
}

/// Total least squares: the long axis of the points about their middle.
pub fn fit_line(points: &[DVec2]) -> Option<Straight> {
    if points.len() < 2 {
        return None;
    }
    let at = points.iter().sum::<DVec2>() / points.len() as f64;
    let (mut xx, mut xy, mut yy) = (0.0, 0.0, 0.0);
    for p in points {
        let d = *p - at;
        (xx, xy, yy) = (xx + d.x * d.x, xy + d.x * d.y, yy + d.y * d.y);
    }
    if xx + yy <= 0.0 {
        return None;
    }
    let along = DVec2::from_angle(0.5 * (2.0 * xy).atan2(xx - yy));
    let way = points[points.len() - 1] - points[0];
    Some(Straight { at, along: if along.dot(way) < 0.0 { -along } else { along } })
}

/// The circle through three points; none where they lie in one line.
pub fn circle_through(a: DVec2, b: DVec2, c: DVec2) -> Option<Circle> {
    let m = DMat2::from_cols(b - a, c - a).transpose();
    let size = (b - a).length() * (c - a).length();
    if m.determinant().abs() < 1e-9 * size || size == 0.0 {
        return None;
    }
    let half = DVec2::new((b - a).length_squared(), (c - a).length_squared()) / 2.0;
    let from = m.inverse() * half;
    Some(Circle { centre: a + from, radius: from.length() })
}

/// From the algebraic fit (Kåsa) by Gauss and Newton's steps to the least squares of distances.
pub fn fit_circle(points: &[DVec2]) -> Option<Circle> {
    if points.len() < 3 {
        return None;
    }
    let mean = points.iter().sum::<DVec2>() / points.len() as f64;
    let size = points.iter().map(|p| p.distance(mean)).fold(0.0, f64::max);
    if size <= 0.0 {
        return None;
    }
    // Scaled to about one: sums of squares keep their places.
    let own: Vec<DVec2> = points.iter().map(|p| (*p - mean) / size).collect();
    let (mut m, mut r) = (DMat3::ZERO, DVec3::ZERO);
    for p in &own {
        let row = DVec3::new(p.x, p.y, 1.0);
        m += DMat3::from_cols(row * row.x, row * row.y, row * row.z);
        r += row * p.length_squared();
    }
    if m.determinant().abs() < 1e-14 * (own.len() as f64).powi(3) {
        return None;
    }
    let k = m.inverse() * r;
    let mut centre = DVec2::new(k.x, k.y) / 2.0;
    let mut radius = (k.z + centre.length_squared()).max(0.0).sqrt();
    for _ in 0..40 {
        let (mut m, mut r) = (DMat3::ZERO, DVec3::ZERO);
        for p in &own {
            let d = *p - centre;
            let u = d.normalize_or_zero();
            let row = DVec3::new(-u.x, -u.y, -1.0);
            m += DMat3::from_cols(row * row.x, row * row.y, row * row.z);
            r += row * (d.length() - radius);
        }
        if m.determinant().abs() < 1e-300 {
            break;
        }
        let step = m.inverse() * -r;
        if !step.is_finite() {
            break;
        }
        centre += step.truncate();
        radius += step.z;
        if step.length() < 1e-13 {
            break;
        }
    }
    let sound = radius > 0.0 && radius < 1e6 && centre.is_finite();
    sound.then(|| Circle { centre: mean + centre * size, radius: radius * size })
}
