//! What a side of the outline, or a hole, lies on.

use glam::DVec2;

use super::fit::{Circle, Straight, circle_through, fit_circle, fit_line};

/// What is laid over the picture.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Shape {
    Line,
    Arc,
    Circle,
}

/// A fitted line or circle, and the stretch of it that was pointed at.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Carrier {
    Line {
        line: Straight,
        /// Along it, from its own place.
        from: f64,
        to: f64,
    },
    Arc {
        circle: Circle,
        /// Angle where it begins, and how far it goes, counter-clockwise positive.
        from: f64,
        sweep: f64,
    },
}

impl Carrier {
    /// Through places in their order; of an arc the first and the last are its ends, of a circle none is.
    pub fn through(shape: Shape, points: &[DVec2]) -> Option<Carrier> {
        match shape {
            Shape::Line => {
                let line = fit_line(points)?;
                let along = |p: &DVec2| line.along.dot(*p - line.at);
                let ends =
                    points.iter().map(along).fold((f64::MAX, f64::MIN), |e, t| (e.0.min(t), e.1.max(t)));
                Some(Carrier::Line { line, from: ends.0, to: ends.1 })
            }
            Shape::Arc | Shape::Circle => {
                let circle = match points {
                    [a, b, c] => circle_through(*a, *b, *c)?,
                    _ => fit_circle(points)?,
                };
                let angle = |p: DVec2| (p - circle.centre).to_angle();
                let (first, last) = (points[0], points[points.len() - 1]);
                let turned: f64 =
                    points.windows(2).map(|w| (w[0] - circle.centre).angle_to(w[1] - circle.centre)).sum();
                let sweep = if shape == Shape::Circle { std::f64::consts::TAU } else { turned };
                (first != last && sweep != 0.0).then(|| Carrier::Arc { circle, from: angle(first), sweep })
            }
        }
    }

    pub fn off(&self, p: DVec2) -> f64 {
        match self {
            Carrier::Line { line, .. } => line.off(p),
            Carrier::Arc { circle, .. } => circle.off(p),
        }
    }

    /// Its place at a share of the way, and the direction across it there.
    pub fn at(&self, share: f64) -> (DVec2, DVec2) {
        match self {
            Carrier::Line { line, from, to } => {
                (line.at + line.along * (from + (to - from) * share), line.along.perp())
            }
            Carrier::Arc { circle, from, sweep } => {
                let d = DVec2::from_angle(from + sweep * share);
                (circle.centre + d * circle.radius, d)
            }
        }
    }

    pub fn length(&self) -> f64 {
        match self {
            Carrier::Line { from, to, .. } => to - from,
            Carrier::Arc { circle, sweep, .. } => circle.radius * sweep.abs(),
        }
    }

    /// The same stretch on a fit through other points.
    pub fn refitted(&self, points: &[DVec2]) -> Option<Carrier> {
        let (a, b) = (self.at(0.0).0, self.at(1.0).0);
        match self {
            Carrier::Line { line, .. } => {
                let mut l = fit_line(points)?;
                if l.along.dot(line.along) < 0.0 {
                    l.along = -l.along;
                }
                let along = |p: DVec2| l.along.dot(p - l.at);
                Some(Carrier::Line { line: l, from: along(a), to: along(b) })
            }
            Carrier::Arc { sweep, .. } => {
                let circle = fit_circle(points)?;
                let (u, v) = (a - circle.centre, b - circle.centre);
                let whole = sweep.abs() > std::f64::consts::TAU - 1e-3;
                let turned = u.angle_to(v);
                // The same number of turns, as near as may be.
                let k = ((sweep - turned) / std::f64::consts::TAU).round();
                let sweep = if whole { *sweep } else { turned + k * std::f64::consts::TAU };
                Some(Carrier::Arc { circle, from: u.to_angle(), sweep })
            }
        }
    }

    /// Mirrored about a line, gone the other way round.
    pub fn mirrored(&self, about: &Straight) -> Carrier {
        let flip = |p: DVec2| about.foot(p) * 2.0 - p;
        match self {
            Carrier::Line { from, to, .. } => {
                let (a, b) = (flip(self.at(0.0).0), flip(self.at(1.0).0));
                let along = (a - b).normalize_or_zero();
                Carrier::Line { line: Straight { at: b, along }, from: 0.0, to: to - from }
            }
            Carrier::Arc { circle, sweep, .. } => {
                let centre = flip(circle.centre);
                let begin = flip(self.at(1.0).0);
                Carrier::Arc {
                    circle: Circle { centre, radius: circle.radius },
                    from: (begin - centre).to_angle(),
                    sweep: *sweep,
                }
            }
        }
    }
}
