//! From the picture to the part: scaled by readings, or straightened by four corners of a rectangle.

use glam::{DMat3, DVec2, DVec3};

/// Two places in the picture and what a caliper says between them, mm.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Reading {
    pub from: DVec2,
    pub to: DVec2,
    pub length: f64,
}

/// Four corners of a rectangle in the picture, in order, and its sides: from the first to the second, and
/// from
/// the second to the third, mm.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Square {
    pub corners: [DVec2; 4],
    pub wide: f64,
    pub high: f64,
}

#[derive(Clone, Debug, PartialEq, thiserror::Error)]
pub enum PlaneError {
    #[error("nothing tells how large it is")]
    NoScale,
    #[error("a reading from one place to the same place")]
    NoLength,
    #[error(
        "the four corners are not those of a rectangle that is seen from before: they cross, or three \
            lie in a line"
    )]
    Corners,
    #[error("the readings contradict: no scale fits all of them")]
    Readings,
}

/// Pixels ↔ millimetres.
#[derive(Clone, Debug, PartialEq)]
pub struct Plane {
    to: DMat3,
    back: DMat3,
    /// Millimetres a pixel along the picture's x and y; of a straightened one about its middle.
    pub scale: DVec2,
}

fn carried(m: &DMat3, p: DVec2) -> DVec2 {
    let v = *m * p.extend(1.0);
    v.truncate() / v.z
}

impl Plane {
    pub fn mm(&self, pixel: DVec2) -> DVec2 {
        carried(&self.to, pixel)
    }

    pub fn pixel(&self, mm: DVec2) -> DVec2 {
        carried(&self.back, mm)
    }

    /// Every pixel so many millimetres wide and high.
    pub fn scaled(scale: DVec2) -> Plane {
        let to = DMat3::from_diagonal(DVec3::new(scale.x, -scale.y, 1.0));
        Plane { to, back: to.inverse(), scale }
    }

    /// From readings: one gives a scale, several their mean (least squares of their lengths); where
    /// they lie in
    /// different directions and disagree by more than `apart` of the length, one scale along and one across.
    pub fn of_readings(readings: &[Reading], apart: f64) -> Result<Plane, PlaneError> {
        if readings.is_empty() {
            return Err(PlaneError::NoScale);
        }
        if readings.iter().any(|r| r.from.distance(r.to) < 1.0 || r.length <= 0.0) {
            return Err(PlaneError::NoLength);
        }
        let (num, den) = readings.iter().fold((0.0, 0.0), |(n, d), r| {
            let px = r.from.distance(r.to);
            (n + px * r.length, d + px * px)
        });
        let mean = num / den;
        let worst = readings
            .iter()
            .map(|r| (r.from.distance(r.to) * mean / r.length - 1.0).abs())
            .fold(0.0, f64::max);
        if readings.len() < 2 || worst <= apart {
            return Ok(Plane::scaled(DVec2::splat(mean)));
        }
        // length² = (dx·sx)² + (dy·sy)²: linear in the squares of both scales.
        let (mut xx, mut xy, mut yy, mut rx, mut ry) = (0.0, 0.0, 0.0, 0.0, 0.0);
        for r in readings {
            let d = (r.to - r.from) * (r.to - r.from) / (r.length * r.length);
            (xx, xy, yy) = (xx + d.x * d.x, xy + d.x * d.y, yy + d.y * d.y);
            (rx, ry) = (rx + d.x, ry + d.y);
        }
        let det = xx * yy - xy * xy;
        let squares = DVec2::new(rx * yy - ry * xy, xx * ry - xy * rx) / det;
        let sound = det > 1e-4 * (xx + yy) * (xx + yy) && squares.min_element() > 0.0;
        let scale = DVec2::new(squares.x.max(0.0).sqrt(), squares.y.max(0.0).sqrt());
        // More than a fifth apart is no picture of anything flat.
        if !sound || (scale.x / scale.y - 1.0).abs() > 0.2 {
            return Err(PlaneError::Readings);
        }
        Ok(Plane::scaled(scale))
    }

    /// From four corners of a rectangle of known sides (the direct linear transform of four points).
    pub fn of_square(square: &Square) -> Result<Plane, PlaneError> {
        let c = square.corners;
        let turn = |k: usize| (c[(k + 1) % 4] - c[k]).perp_dot(c[(k + 2) % 4] - c[(k + 1) % 4]);
        let size = (0..4).map(|k| c[k].distance(c[(k + 1) % 4])).fold(0.0, f64::max);
        let turns: Vec<f64> = (0..4).map(turn).collect();
        let one_way =
            turns.iter().all(|t| *t > 1e-3 * size * size) || turns.iter().all(|t| *t < -1e-3 * size * size);
        if !one_way || square.wide <= 0.0 || square.high <= 0.0 {
            return Err(PlaneError::Corners);
        }
        // Pixels run down: corners that are told with the clock as seen keep the part as it is seen.
        let seen = turns[0] > 0.0;
        let (w, h) = (square.wide, if seen { -square.high } else { square.high });
        let flat = [DVec2::ZERO, DVec2::new(w, 0.0), DVec2::new(w, h), DVec2::new(0.0, h)];
        let back = basis(c) * basis(flat).inverse();
        let to = back.inverse();
        if !back.is_finite() || !to.is_finite() {
            return Err(PlaneError::Corners);
        }
        let plane = Plane { to, back, scale: DVec2::ONE };
        let middle = c.iter().sum::<DVec2>() / 4.0;
        let a = |d: DVec2| plane.mm(middle + d).distance(plane.mm(middle - d)) / 2.0;
        let scale = DVec2::new(a(DVec2::X), a(DVec2::Y));
        Ok(Plane { scale, ..plane })
    }
}

/// Carries the four corners of the projective unit frame to four points.
fn basis(p: [DVec2; 4]) -> DMat3 {
    let m = DMat3::from_cols(p[0].extend(1.0), p[1].extend(1.0), p[2].extend(1.0));
    let k = m.inverse() * p[3].extend(1.0);
    DMat3::from_cols(m.x_axis * k.x, m.y_axis * k.y, m.z_axis * k.z)
}
