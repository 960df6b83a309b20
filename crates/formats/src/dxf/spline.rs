//! Splines of a DXF: rational, of any degree, by knots and control points (de Boor's scheme in homogeneous
//! coordinates).

use glam::{DAffine2, DVec2, DVec3};
use steelk_core::geom::{Segment, arcs};

use super::groups::Group;

#[derive(Clone, Debug)]
pub struct Spline {
    degree: usize,
    knots: Vec<f64>,
    /// x·w, y·w, w.
    control: Vec<DVec3>,
}

const HIGHEST_DEGREE: usize = 15;
const MOST_POINTS: usize = 100_000;

impl Spline {
    pub fn read(item: &[Group]) -> Result<Spline, &'static str> {
        let (mut knots, mut weights, mut points, mut fits) = (Vec::new(), Vec::new(), Vec::<DVec3>::new(), 0);
        let mut degree = 3;
        for g in item {
            match (g.code, points.last_mut()) {
                (71, _) => degree = g.whole(),
                (40, _) => knots.push(g.number()),
                (41, _) => weights.push(g.number()),
                (10, _) => points.push(DVec3::new(g.number(), 0.0, 0.0)),
                (20, Some(p)) => p.y = g.number(),
                (30, Some(p)) => p.z = g.number(),
                (11, _) => fits += 1,
                _ => {}
            }
        }
        if points.is_empty() && fits > 0 {
            return Err("told by the points that it runs through only: draw it with control points");
        }
        if !(1..=HIGHEST_DEGREE as i64).contains(&degree)
            || points.len() <= degree as usize
            || points.len() > MOST_POINTS
        {
            return Err("of a degree or with points that no curve has");
        }
        let degree = degree as usize;
        if knots.len() != points.len() + degree + 1
            || knots.windows(2).any(|k| k[0].is_nan() || k[1].is_nan() || k[1] < k[0])
        {
            return Err("with knots that no curve has");
        }
        weights.resize(points.len(), 1.0);
        if points.iter().any(|p| !p.is_finite()) || weights.iter().any(|w| w.is_nan() || *w <= 0.0) {
            return Err("with numbers that cannot be read");
        }
        if points.iter().any(|p| (p.z - points[0].z).abs() > 1e-6) {
            return Err("not flat in the drawing's plane");
        }
        Ok(Spline {
            degree,
            knots,
            control: points.iter().zip(weights).map(|(p, w)| p.truncate().extend(1.0) * w).collect(),
        })
    }

    pub fn moved(&self, by: &DAffine2) -> Spline {
        let control = self
            .control
            .iter()
            .map(|c| (by.transform_point2(c.truncate() / c.z)).extend(1.0) * c.z)
            .collect();
        Spline { control, ..self.clone() }
    }

    /// Stretches between knots, each smooth within: number of its first knot, from, to.
    fn spans(&self) -> impl Iterator<Item = (usize, f64, f64)> + '_ {
        (self.degree..self.control.len())
            .map(|k| (k, self.knots[k], self.knots[k + 1]))
            .filter(|(_, a, b)| b > a)
    }

    /// As lines and arcs.
    pub fn arcs(&self) -> Vec<Segment> {
        let mut out = Vec::new();
        for (k, from, to) in self.spans() {
            arcs::along(&|t| self.at(k, t), from, to, &mut out);
        }
        arcs::merged(out)
    }

    /// Place and velocity at `t` of the stretch after knot `k`.
    fn at(&self, k: usize, t: f64) -> (DVec2, DVec2) {
        let p = self.degree;
        let mut d: [DVec3; HIGHEST_DEGREE + 1] = [DVec3::ZERO; HIGHEST_DEGREE + 1];
        d[..=p].copy_from_slice(&self.control[k - p..=k]);
        let mut speed = DVec3::ZERO;
        for level in 1..=p {
            if level == p {
                speed = (d[p] - d[p - 1]) * p as f64 / (self.knots[k + 1] - self.knots[k]);
            }
            for j in (level..=p).rev() {
                let (low, high) = (self.knots[j + k - p], self.knots[j + 1 + k - level]);
                d[j] = d[j - 1].lerp(d[j], if high > low { (t - low) / (high - low) } else { 0.0 });
            }
        }
        let at = d[p].truncate() / d[p].z;
        (at, (speed.truncate() - at * speed.z) / d[p].z)
    }
}
