//! Path data of an SVG → lines and arcs: what is an arc there is one here, Bézier curves are fitted.

use std::f64::consts::{PI, TAU};

use glam::{DAffine2, DVec2};
use steelk_core::geom::{Segment, arcs};
use svgtypes::PathSegment;

/// Draws into the drawing's plane; `place` carries there.
pub struct Pen {
    place: DAffine2,
    here: DVec2,
    start: DVec2,
    segments: Vec<Segment>,
    curve: bool,
    /// What was drawn without lifting: closed by its own word or not, and whether curves are in it.
    pub strokes: Vec<(Vec<Segment>, bool)>,
}

impl Pen {
    pub fn new(place: DAffine2) -> Pen {
        Pen {
            place,
            here: DVec2::ZERO,
            start: DVec2::ZERO,
            segments: Vec::new(),
            curve: false,
            strokes: Vec::new(),
        }
    }

    pub fn lift(&mut self) {
        if !self.segments.is_empty() {
            self.strokes.push((std::mem::take(&mut self.segments), std::mem::take(&mut self.curve)));
        }
    }

    pub fn move_to(&mut self, p: DVec2) {
        self.lift();
        (self.here, self.start) = (p, p);
    }

    pub fn line_to(&mut self, p: DVec2) {
        let (a, b) = (self.place.transform_point2(self.here), self.place.transform_point2(p));
        if a != b {
            self.segments.push(Segment::line(a, b));
        }
        self.here = p;
    }

    pub fn close(&mut self) {
        if self.here != self.start {
            self.line_to(self.start);
        }
        self.lift();
        self.here = self.start;
    }

    /// Part of an ellipse; angles in its own measure.
    pub fn round(&mut self, centre: DVec2, u: DVec2, v: DVec2, from: f64, sweep: f64) {
        let m = |v: DVec2| self.place.transform_vector2(v);
        let (u, v) = (m(u), m(v));
        let made = arcs::round(self.place.transform_point2(centre), u, v, from, sweep);
        self.curve |=
            (u.length() - v.length()).abs() > 1e-9 * u.length() || u.dot(v).abs() > 1e-9 * u.length_squared();
        self.segments.extend(made);
    }

    /// A quarter from here to `to`.
    pub fn arc_on(&mut self, centre: DVec2, r: DVec2, from: f64, to: DVec2) {
        self.round(centre, DVec2::new(r.x, 0.0), DVec2::new(0.0, r.y), from, PI / 2.0);
        self.here = to;
    }

    fn cubic(&mut self, b: DVec2, c: DVec2, d: DVec2) {
        let p = [self.here, b, c, d].map(|p| self.place.transform_point2(p));
        self.here = d;
        if p.iter().all(|q| *q == p[0]) {
            return;
        }
        self.curve = true;
        match as_arc(&p) {
            Some(arc) => self.segments.push(arc),
            None => {
                let mut out = Vec::new();
                arcs::along(&|t| at(&p, t), 0.0, 1.0, &mut out);
                self.segments.extend(arcs::merged(out));
            }
        }
    }

    /// From here to `to` as the format tells it (SVG 1.1, F.6.5: from ends to centre).
    fn elliptic(&mut self, r: DVec2, turn: f64, large: bool, sweeps: bool, to: DVec2) {
        let from = self.here;
        let r = r.abs();
        if from == to {
            return;
        }
        if r.x < 1e-12 || r.y < 1e-12 || !r.is_finite() {
            return self.line_to(to);
        }
        let axis = DVec2::from_angle(turn.to_radians());
        let half = (from - to) / 2.0;
        let d = DVec2::new(half.dot(axis), half.dot(axis.perp()));
        let reach = (d / r).length_squared();
        let r = if reach > 1.0 { r * reach.sqrt() } else { r };
        let (rx2, ry2) = (r.x * r.x, r.y * r.y);
        let (n, m) = (rx2 * ry2, rx2 * d.y * d.y + ry2 * d.x * d.x);
        let sign = if large == sweeps { -1.0 } else { 1.0 };
        let k = sign * ((n - m).max(0.0) / m).sqrt();
        let c = DVec2::new(k * r.x * d.y / r.y, -k * r.y * d.x / r.x);
        let centre = axis * c.x + axis.perp() * c.y + (from + to) / 2.0;
        let (begin, end) = (((d - c) / r).to_angle(), ((-d - c) / r).to_angle());
        let swept = if sweeps { (end - begin).rem_euclid(TAU) } else { -(begin - end).rem_euclid(TAU) };
        let before = self.segments.len();
        self.round(centre, axis * r.x, axis.perp() * r.y, begin, swept);
        // Both ends as they are told.
        let (a, b) = (self.place.transform_point2(from), self.place.transform_point2(to));
        if let Some(s) = self.segments.get_mut(before) {
            s.a = a;
        }
        if let Some(s) = self.segments.last_mut() {
            s.b = b;
        }
        self.here = to;
    }

    /// A whole path. What cannot be read ends it there, as the format has it; true where all was read.
    pub fn path(&mut self, data: &str) -> bool {
        // Handles of the curve before, for those that go on smoothly.
        let (mut cubic, mut quad): (Option<DVec2>, Option<DVec2>) = (None, None);
        for step in svgtypes::PathParser::from(data) {
            steelk_core::halt::often();
            let Ok(step) = step else {
                self.lift();
                return false;
            };
            let here = self.here;
            let p = |abs: bool, x: f64, y: f64| DVec2::new(x, y) + if abs { DVec2::ZERO } else { here };
            let (before, bent) = (cubic.take(), quad.take());
            match step {
                PathSegment::MoveTo { abs, x, y } => self.move_to(p(abs, x, y)),
                PathSegment::LineTo { abs, x, y } => self.line_to(p(abs, x, y)),
                PathSegment::HorizontalLineTo { abs, x } => {
                    self.line_to(DVec2::new(if abs { x } else { here.x + x }, here.y));
                }
                PathSegment::VerticalLineTo { abs, y } => {
                    self.line_to(DVec2::new(here.x, if abs { y } else { here.y + y }));
                }
                PathSegment::CurveTo { abs, x1, y1, x2, y2, x, y } => {
                    let second = p(abs, x2, y2);
                    self.cubic(p(abs, x1, y1), second, p(abs, x, y));
                    cubic = Some(second);
                }
                PathSegment::SmoothCurveTo { abs, x2, y2, x, y } => {
                    let second = p(abs, x2, y2);
                    self.cubic(before.map_or(here, |b| here * 2.0 - b), second, p(abs, x, y));
                    cubic = Some(second);
                }
                PathSegment::Quadratic { abs, x1, y1, x, y } => {
                    quad = Some(p(abs, x1, y1));
                    self.quadratic(p(abs, x1, y1), p(abs, x, y));
                }
                PathSegment::SmoothQuadratic { abs, x, y } => {
                    let handle = bent.map_or(here, |b| here * 2.0 - b);
                    quad = Some(handle);
                    self.quadratic(handle, p(abs, x, y));
                }
                PathSegment::EllipticalArc { abs, rx, ry, x_axis_rotation, large_arc, sweep, x, y } => {
                    self.elliptic(DVec2::new(rx, ry), x_axis_rotation, large_arc, sweep, p(abs, x, y));
                }
                PathSegment::ClosePath { .. } => self.close(),
            }
        }
        self.lift();
        true
    }

    fn quadratic(&mut self, handle: DVec2, to: DVec2) {
        let from = self.here;
        self.cubic(from.lerp(handle, 2.0 / 3.0), to.lerp(handle, 2.0 / 3.0), to);
    }
}

/// Place and velocity on a cubic.
fn at(p: &[DVec2; 4], t: f64) -> (DVec2, DVec2) {
    let u = 1.0 - t;
    let place = p[0] * (u * u * u) + p[1] * (3.0 * t * u * u) + p[2] * (3.0 * t * t * u) + p[3] * (t * t * t);
    let speed = (p[1] - p[0]) * (3.0 * u * u) + (p[2] - p[1]) * (6.0 * t * u) + (p[3] - p[2]) * (3.0 * t * t);
    (place, speed)
}

/// How far a cubic that stands for an arc strays from it, as a share of its radius: 2.7e-4 for a quarter.
const STRAYS: f64 = 3e-4;

/// The arc that a cubic stands for: the tangents at both ends lie alike to the chord, and all between lies on
/// the circle as near as such curves come.
fn as_arc(p: &[DVec2; 4]) -> Option<Segment> {
    let chord = p[3] - p[0];
    let (t0, t1) = ((p[1] - p[0]).try_normalize()?, (p[3] - p[2]).try_normalize()?);
    if chord.length() < 1e-9 {
        return None;
    }
    let (out, back) = (chord.angle_to(t0), t1.angle_to(chord));
    let half = -(out + back) / 2.0;
    if (out - back).abs() > 2e-3 || half.abs() < 1e-3 || half.abs() > 0.6 * PI {
        return None;
    }
    let s = Segment { a: p[0], b: p[3], bulge: (half / 2.0).tan() };
    let arc = s.arc()?;
    let within = (STRAYS * arc.radius).min(0.1);
    let round = (1..16).all(|k| {
        let q = at(p, f64::from(k) / 16.0).0;
        s.nearest(q).distance(q) <= within
    });
    round.then_some(s)
}
