//! Openings of a transition: convex outlines in planes of their own, and the corners that stand for their
//! round parts.

use std::f64::consts::{FRAC_PI_2, TAU};

use glam::{DVec2, DVec3};
use ground::geom::{COINCIDENT, ROUNDING};

/// The outline of an opening round its own middle.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum OpeningShape {
    Rectangle {
        size: DVec2,
        corner: f64,
    },
    Round {
        diameter: f64,
    },
    /// Regular, a flat to the south.
    Polygon {
        sides: usize,
        across: f64,
    },
    Point,
}

/// A corner, sharp or round: the outline runs round it against the clock while its way out turns through
/// these angles.
#[derive(Clone, Copy, Debug)]
struct Corner {
    centre: DVec2,
    radius: f64,
    from: f64,
    to: f64,
}

impl Corner {
    fn at(&self, angle: f64) -> DVec2 {
        self.centre + DVec2::from_angle(angle) * self.radius
    }
}

/// An opening where it stands.
#[derive(Clone, Copy, Debug)]
pub struct Opening {
    pub shape: OpeningShape,
    /// About its middle, against the clock.
    pub turn: f64,
    pub o: DVec3,
    pub x: DVec3,
    pub y: DVec3,
}

impl Opening {
    pub fn normal(&self) -> DVec3 {
        self.x.cross(self.y)
    }

    pub fn point(&self, p: DVec2) -> DVec3 {
        self.o + self.x * p.x + self.y * p.y
    }

    /// In its own coordinates, the last square to it.
    fn local(&self, p: DVec3) -> DVec3 {
        let d = p - self.o;
        DVec3::new(d.dot(self.x), d.dot(self.y), d.dot(self.normal()))
    }

    fn corners(&self) -> Vec<Corner> {
        let whole = |radius| Corner { centre: DVec2::ZERO, radius, from: -FRAC_PI_2, to: TAU - FRAC_PI_2 };
        let own = match self.shape {
            OpeningShape::Point => vec![whole(0.0)],
            OpeningShape::Round { diameter } => vec![whole(diameter / 2.0)],
            OpeningShape::Rectangle { size, corner } => {
                let inner = size / 2.0 - DVec2::splat(corner);
                [(1.0, -1.0), (1.0, 1.0), (-1.0, 1.0), (-1.0, -1.0)]
                    .into_iter()
                    .zip([-1.0, 0.0, 1.0, 2.0])
                    .map(|((x, y), q)| Corner {
                        centre: inner * DVec2::new(x, y),
                        radius: corner,
                        from: q * FRAC_PI_2,
                        to: (q + 1.0) * FRAC_PI_2,
                    })
                    .collect()
            }
            OpeningShape::Polygon { sides, across } => {
                let step = TAU / sides as f64;
                let far = across / 2.0 / (step / 2.0).cos();
                let from = |k: usize| k as f64 * step - FRAC_PI_2;
                let centre = |k: usize| DVec2::from_angle(from(k) + step / 2.0) * far;
                (0..sides)
                    .map(|k| Corner { centre: centre(k), radius: 0.0, from: from(k), to: from(k + 1) })
                    .collect()
            }
        };
        let turned = |c: Corner| Corner {
            centre: DVec2::from_angle(self.turn).rotate(c.centre),
            from: c.from + self.turn,
            to: c.to + self.turn,
            ..c
        };
        own.into_iter().map(turned).collect()
    }

    /// Its straight sides, against the clock.
    fn sides(&self) -> Vec<[DVec2; 2]> {
        let corners = self.corners();
        let n = corners.len();
        (0..n)
            .map(|k| [corners[k].at(corners[k].to), corners[(k + 1) % n].at(corners[(k + 1) % n].from)])
            .filter(|[a, b]| a.distance(*b) > COINCIDENT)
            .collect()
    }

    /// Which way out of a round corner the plane touches it that leans on a straight side of the other
    /// opening.
    fn touched(&self, corner: &Corner, side: [DVec3; 2]) -> Option<f64> {
        let [a, b] = side.map(|p| self.local(p));
        let d = (b - a).normalize_or_zero();
        // Out of the other, in this one's plane.
        let out = DVec2::new(d.y, -d.x);
        if d.z.abs() < ROUNDING {
            return Some(out.to_angle());
        }
        let meets = a - d * (a.z / d.z);
        let from = DVec2::new(meets.x, meets.y) - corner.centre;
        let share = corner.radius / from.length();
        if share > 1.0 {
            return None;
        }
        let either = [1.0, -1.0].map(|s| DVec2::from_angle(from.to_angle() + s * share.acos()));
        Some(either.into_iter().max_by(|p, q| p.dot(out).total_cmp(&q.dot(out)))?.to_angle())
    }

    /// Corners that stand for it, against the clock: each round part has `lines` of them between two
    /// straight sides that touch it, those of a full round as long round as the circle.
    pub fn ring(&self, other: &Opening, lines: usize) -> Vec<DVec2> {
        let touching: Vec<[DVec3; 2]> =
            other.sides().into_iter().map(|s| s.map(|p| other.point(p))).collect();
        let corners = self.corners();
        let mut out = Vec::new();
        for c in &corners {
            if c.radius < COINCIDENT {
                out.push(c.centre);
                continue;
            }
            let full = corners.len() == 1;
            let mut marks: Vec<f64> = touching
                .iter()
                .filter_map(|s| self.touched(c, *s))
                .map(|a| c.from + (a - c.from + ROUNDING).rem_euclid(TAU) - ROUNDING)
                .filter(|a| full || (*a > c.from + ANGLE && *a < c.to - ANGLE))
                .collect();
            if !full {
                marks.extend([c.from, c.to]);
            } else if marks.is_empty() {
                marks.extend((0..4).map(|k| c.from + k as f64 * FRAC_PI_2));
            }
            marks.sort_by(f64::total_cmp);
            marks.dedup_by(|a, b| (*a - *b).abs() < ANGLE);
            if full {
                marks.push(marks[0] + TAU);
            }
            let steps = (lines - 1).max(1);
            let mut angles: Vec<f64> = marks
                .windows(2)
                .flat_map(|w| (0..steps).map(|k| w[0] + (w[1] - w[0]) * k as f64 / steps as f64))
                .collect();
            if full {
                let chords: f64 = angles
                    .iter()
                    .zip(angles.iter().skip(1).chain([&marks[marks.len() - 1]]))
                    .map(|(a, b)| 2.0 * ((b - a) / 2.0).sin())
                    .sum();
                let radius = c.radius * TAU / chords;
                out.extend(angles.iter().map(|a| c.centre + DVec2::from_angle(*a) * radius));
            } else {
                angles.push(c.to);
                out.extend(round_corner(c, &angles));
            }
        }
        // Between two round corners there may be no side left.
        out.dedup_by(|a, b| a.distance(*b) < COINCIDENT);
        while out.len() > 1 && out[0].distance(out[out.len() - 1]) < COINCIDENT {
            out.pop();
        }
        out
    }

    /// Whether some of it is round.
    pub fn is_round(&self) -> bool {
        self.corners().iter().any(|c| c.radius >= COINCIDENT)
    }
}

/// Directions nearer than this are one, rad.
const ANGLE: f64 = 1e-6;

/// The corners of a round one between two straight sides, whose ends stay: together as long as the arc, as
/// far as they can.
fn round_corner(c: &Corner, angles: &[f64]) -> Vec<DVec2> {
    let last = angles.len() - 1;
    let place = |k: usize, radius: f64| {
        let r = if k == 0 || k == last { c.radius } else { radius };
        c.centre + DVec2::from_angle(angles[k]) * r
    };
    let long = |radius: f64| (0..last).map(|k| place(k, radius).distance(place(k + 1, radius))).sum::<f64>();
    // Further out the ends would turn inwards.
    let least = (angles[1] - angles[0]).min(angles[last] - angles[last - 1]);
    let (mut low, mut high) = (c.radius, c.radius / least.cos().max(0.5));
    for _ in 0..60 {
        let middle = (low + high) / 2.0;
        if long(middle) < c.radius * (c.to - c.from) { low = middle } else { high = middle }
    }
    (0..=last).map(|k| place(k, low)).collect()
}
