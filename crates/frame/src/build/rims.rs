//! Flanges round the openings of a hopper: how far each is bent, how its ends are cut beside its neighbours,
//! where its holes lie, and the flat ring that is screwed to them.

use std::f64::consts::PI;

use glam::{DMat2, DVec2, DVec3};
use ground::geom::{COINCIDENT, Contour};
use ground::quantity::Display;
use ground::reader::Tell;
use sheet::choices::Compass;
use sheet::{EdgeEnd, EdgeFold, EdgeHole};

use super::hoppers::{Face, HopperShape, Plane};
use super::plates::Cutting;

/// Flanges of one line; lengths in mm, angles in rad.
#[derive(Clone, Debug)]
pub struct Rim {
    pub line: String,
    /// The line of the hopper.
    pub of: String,
    pub upper: bool,
    /// The sides that it is told of; all of them where none is.
    pub sides: Vec<Compass>,
    pub width: f64,
    pub inwards: bool,
    /// Between the side and its flange; none for level with the opening.
    pub angle: Option<f64>,
    pub radius: Option<f64>,
    pub set_back: f64,
    /// Mitred, with this gap.
    pub gap: Option<f64>,
    pub holes: Option<RimHoles>,
    /// Thickness of the ring that lies on it.
    pub counter: Option<f64>,
}

/// A row of round holes along each flange.
#[derive(Clone, Copy, Debug)]
pub struct RimHoles {
    pub diameter: f64,
    pub many: Many,
    /// From the edge that the flange is bent from.
    pub across: f64,
    /// From the ends of the flange on the line of the holes; half a step where it is not told.
    pub first: Option<f64>,
}

#[derive(Clone, Copy, Debug)]
pub enum Many {
    Count(usize),
    /// No further apart than this.
    Pitch(f64),
}

/// Holes of one flange.
pub const MOST_HOLES: usize = 500;

impl RimHoles {
    /// Where they lie along an edge of this length, at equal steps.
    fn along(
        &self,
        edge: f64,
        ends: &[EdgeEnd; 2],
        clear: [f64; 2],
    ) -> Result<Vec<f64>, (&'static str, String)> {
        let beyond = [0, 1].map(|k| match ends[k] {
            EdgeEnd::Square => -clear[k],
            EdgeEnd::SetBack(by) => -by - clear[k],
            EdgeEnd::Slanting { slope, back } => slope * self.across - back,
        });
        let length = edge + beyond[0] + beyond[1];
        let first = self.first.unwrap_or(0.0);
        let run = length - 2.0 * first;
        if run < 0.0 {
            return Err(("/say/from_ends", "the first and the last hole pass one another".into()));
        }
        let steps = |pitch: f64| (run / pitch - COINCIDENT).ceil().max(0.0);
        let count = match (self.many, self.first) {
            (Many::Count(n), _) => n as f64,
            (Many::Pitch(pitch), Some(_)) => steps(pitch) + 1.0,
            (Many::Pitch(pitch), None) => steps(pitch).max(1.0),
        };
        if count > MOST_HOLES as f64 {
            let message = format!("{count} holes along one flange; {MOST_HOLES} is the most");
            return Err(("/say/pitch", message));
        }
        let at = |k: usize| match self.first {
            None => length * (k as f64 + 0.5) / count,
            Some(_) if count < 2.0 => length / 2.0,
            Some(first) => first + run * k as f64 / (count - 1.0),
        };
        Ok((0..count as usize).map(|k| at(k) - beyond[0]).collect())
    }
}

/// The flanges of a hopper: which line tells that of each side and opening.
#[derive(Default)]
pub struct Rims<'a> {
    told: Vec<(Compass, bool, &'a Rim)>,
}

/// An edge of a face on an opening, and what its flange stands beside.
struct Rimmed {
    edge: [DVec2; 2],
    /// The same in space, on the face that lies in the opening.
    ends: [DVec3; 2],
    /// Where the flange runs, away from its edge.
    way: DVec3,
    angle: f64,
    /// Along the opening's plane, away from the opening.
    out: DVec3,
    /// At either end: the angle of the opening's corner, and how far beyond the edge it lies.
    corners: [(f64, f64); 2],
    /// How far in from either end the edge is bevelled away.
    clear: [f64; 2],
}

impl Rim {
    /// How far the face that lies in the opening stands from the inner one.
    fn lift(&self, shape: &HopperShape) -> f64 {
        if self.inwards { shape.thickness } else { 0.0 }
    }
}

impl Rimmed {
    /// How far a mitre runs along the edge, beyond its end, for each mm across the flange.
    fn slope(&self, end: usize) -> f64 {
        self.way.dot(self.out) / (self.corners[end].0 / 2.0).tan()
    }
}

impl<'a> Rims<'a> {
    /// Those that stand on one hopper, whose sides are these. What cannot be is told of its own line.
    pub fn of(tell: &mut Tell, rims: &'a [Rim], line: &str, stands: &[Compass], shape: &HopperShape) -> Self {
        let mut out = Rims::default();
        for rim in rims.iter().filter(|r| r.of == line) {
            tell.enter(&rim.line);
            let opening = if rim.upper { &shape.top } else { &shape.bottom };
            if opening.size.min_element() <= 0.0 {
                let mend = "name its other opening";
                tell.refuse_at("/say/opening", "this end of the hopper is a point", mend);
                continue;
            }
            let sides = if rim.sides.is_empty() { stands } else { &rim.sides };
            for &side in sides {
                if !stands.contains(&side) {
                    let message = format!("the hopper has no {} side", side.name());
                    tell.refuse_at("/say/sides", message, "name sides that are there");
                } else if let Some(by) = out.at(side, rim.upper) {
                    let message = format!("the {} side has a flange by {} already", side.name(), by.line);
                    tell.refuse_at("/say/sides", message, "name other sides, or take one of the lines out");
                } else {
                    out.told.push((side, rim.upper, rim));
                }
            }
        }
        tell.enter(line);
        out
    }

    fn at(&self, side: Compass, upper: bool) -> Option<&'a Rim> {
        self.told.iter().find(|t| t.0 == side && t.1 == upper).map(|t| t.2)
    }

    /// Whether the flange of a side turns inwards: its edge is then the sharp of the outer face.
    pub fn inwards(&self, side: Compass, upper: bool) -> bool {
        self.at(side, upper).is_some_and(|r| r.inwards)
    }

    /// The flanges of a face.
    pub fn folds(&self, tell: &mut Tell, shape: &HopperShape, face: &Face) -> Vec<EdgeFold> {
        let mut out = Vec::new();
        for upper in [false, true] {
            let Some(rim) = self.at(face.side, upper) else { continue };
            let Some(at) = rimmed(shape, face, rim) else { continue };
            tell.enter(&rim.line);
            if let Err((path, message, mend)) = self.fold(&tell.display, face, rim, &at).map(|f| out.push(f))
            {
                tell.refuse_at(path, format!("{}: {message}", face.side.name()), mend);
            }
        }
        out
    }

    fn fold(
        &self,
        display: &Display,
        face: &Face,
        rim: &Rim,
        at: &Rimmed,
    ) -> Result<EdgeFold, (&'static str, String, String)> {
        // The outline runs round the face against the clock: along its upper edge towards the side before.
        let beside = [false, true].map(|last| face.side.beside(rim.upper != last));
        let mut ends = [EdgeEnd::Square; 2];
        for (k, next) in beside.into_iter().enumerate() {
            let (corner, beyond) = at.corners[k];
            let (half, slope) = (corner / 2.0, at.slope(k));
            let other = self.at(next, rim.upper).filter(|o| o.inwards == rim.inwards);
            ends[k] = match rim.gap {
                Some(gap) if other.is_some() => {
                    EdgeEnd::Slanting { slope, back: gap / 2.0 / half.sin() - beyond }
                }
                _ if rim.set_back > 0.0 => EdgeEnd::SetBack(rim.set_back),
                _ => EdgeEnd::Square,
            };
            let least = -(beyond + slope * rim.width) - at.clear[k];
            let crosses = rim.inwards && rim.gap.is_none() && rim.set_back < least - COINCIDENT;
            if crosses && other.is_some() {
                return Err((
                    "/say/ends",
                    format!("flanges that turn inwards cross at the {} corner", next.name()),
                    format!("mitre them, or set them back by {} or more", display.length_unit(least)),
                ));
            }
        }
        let [a, b] = at.edge;
        let mut holes = Vec::new();
        if let Some(h) = &rim.holes {
            let along = h.along(a.distance(b), &ends, at.clear);
            let mend = || "write fewer holes, or a smaller distance".to_string();
            let along = along.map_err(|(path, message)| (path, message, mend()))?;
            let hole = |along| EdgeHole { along, across: h.across, diameter: h.diameter };
            holes.extend(along.into_iter().map(hole));
        }
        Ok(EdgeFold {
            name: name(rim.upper).into(),
            edge: at.edge,
            up: !rim.inwards,
            angle: at.angle,
            radius: rim.radius,
            told_by: rim.line.clone(),
            width: rim.width,
            ends,
            clear: at.clear,
            holes,
        })
    }

    /// How much longer the seam of a side with the next one is by its mitred flanges.
    pub fn seams(&self, shape: &HopperShape, face: &Face) -> f64 {
        let seam = |upper: bool| {
            let rim = self.at(face.side, upper).filter(|r| r.gap.is_some())?;
            self.at(face.side.next(), upper).filter(|o| o.gap.is_some() && o.inwards == rim.inwards)?;
            let slope = rimmed(shape, face, rim)?.slope(usize::from(!rim.upper));
            Some(rim.width * slope.hypot(1.0))
        };
        [false, true].into_iter().filter_map(seam).sum()
    }

    /// The rings that lie on flanges, each cut with the holes of those.
    pub fn counters(
        &self,
        tell: &mut Tell,
        shape: &HopperShape,
        flanged: &[(Face, Vec<EdgeFold>)],
        from: DVec3,
    ) -> Vec<Cutting> {
        let mut out = Vec::new();
        for upper in [false, true] {
            let round: Vec<&Rim> = Compass::ALL.iter().filter_map(|s| self.at(*s, upper)).collect();
            let Some((rim, thickness)) = round.iter().find_map(|r| Some((*r, r.counter?))) else { continue };
            tell.enter(&rim.line);
            let one = round.len() == 4 && round.iter().all(|r| r.line == rim.line);
            if !one || rim.angle.is_some() {
                let message = "a counter-flange lies on four flanges of one line, level with their opening";
                let mend = "tell all sides at once, without an angle, or leave it out";
                tell.refuse_at("/say/counter", message, mend);
                continue;
            }
            out.push(counter(shape, flanged, rim, thickness, from));
        }
        out
    }
}

fn name(upper: bool) -> &'static str {
    if upper { "upper" } else { "lower" }
}

/// The edge of a face on the opening of a rim; none for a face that does not come there.
fn rimmed(shape: &HopperShape, face: &Face, rim: &Rim) -> Option<Rimmed> {
    let (end, z, lift) = (shape.end(rim.upper), face.out(), rim.lift(shape));
    let space = |p: DVec2| face.point(p, lift);
    let n = face.ring.len();
    let on = |i: usize| (end.out.dot(space(face.ring[i % n])) - end.off).abs() < COINCIDENT;
    let k = (0..n).find(|k| on(*k) && on(k + 1))?;
    let edge = [face.ring[k], face.ring[(k + 1) % n]];
    let ends = edge.map(space);
    let along = (ends[1] - ends[0]).normalize_or_zero();
    let w = -(edge[1] - edge[0]).normalize_or_zero().perp();
    let up = face.x * w.x + face.y * w.y;
    // Level with the opening, away from it.
    let level = |plane: &Plane| (plane.out - end.out * end.out.dot(plane.out)).normalize_or_zero();
    let sides = Compass::ALL.map(|s| shape.plane(s));
    let out = level(&sides[face.side as usize]);
    let towards = if rim.inwards { -out } else { out };
    let turned = if rim.inwards { -z } else { z };
    let angle = match rim.angle {
        Some(between) => PI - between,
        None => towards.dot(turned).atan2(towards.dot(up)),
    };
    let way = up * angle.cos() + turned * angle.sin();
    let corners = [false, true].map(|last| {
        let next = &sides[face.side.beside(rim.upper != last) as usize];
        let corner = PI - level(next).dot(out).clamp(-1.0, 1.0).acos();
        // The other side's told face comes by on the line of the edge at …
        let (end, sense) = if last { (ends[1], along) } else { (ends[0], -along) };
        let reach = (next.off + lift - next.out.dot(end)) / next.out.dot(sense);
        (corner, if reach.is_finite() { reach } else { 0.0 })
    });
    let clear = edge.map(|p| {
        let own = (edge[1] - edge[0]).normalize_or_zero();
        let beside = face.bevels.iter().find(|b| b.edge.iter().any(|q| q.distance(p) < COINCIDENT));
        beside.map_or(0.0, |b| {
            let way = (b.edge[1] - b.edge[0]).normalize_or_zero();
            b.back(shape.thickness) / own.perp_dot(way).abs()
        })
    });
    Some(Rimmed { edge, ends, way, angle, out, corners, clear })
}

/// A flat ring on the flanges of an opening, away from the hopper.
fn counter(
    shape: &HopperShape,
    flanged: &[(Face, Vec<EdgeFold>)],
    rim: &Rim,
    thickness: f64,
    from: DVec3,
) -> Cutting {
    let end = shape.end(rim.upper);
    let x = (DVec3::X - end.out * end.out.x).normalize_or_zero();
    let y = end.out.cross(x);
    let o = end.out * end.off;
    let flat = |p: DVec3| DVec2::new((p - o).dot(x), (p - o).dot(y));
    // Each side's line in the opening, that far out of it.
    let line = |side: Compass, by: f64| {
        let plane = shape.plane(side);
        let out = DVec2::new(plane.out.dot(x), plane.out.dot(y));
        let length = out.length();
        (out / length, (plane.off + rim.lift(shape) - plane.out.dot(o)) / length + by)
    };
    let quad = |by: f64| {
        let corner = |side: Compass| {
            let ((a, p), (b, q)) = (line(side, by), line(side.next(), by));
            DMat2::from_cols(a, b).transpose().inverse() * DVec2::new(p, q)
        };
        Contour::polygon(Compass::ALL.map(corner), 0).outward()
    };
    let (outer, inner) = if rim.inwards { (0.0, -rim.width) } else { (rim.width, 0.0) };
    let mut ring = Cutting::new("counter-flange", quad(outer), thickness, o + from, x, y);
    ring.holes.push(quad(inner));
    for (face, folds) in flanged {
        let Some(at) = rimmed(shape, face, rim) else { continue };
        let [a, b] = at.ends;
        for hole in folds.iter().filter(|f| f.name == name(rim.upper)).flat_map(|f| &f.holes) {
            let centre = a + (b - a).normalize_or_zero() * hole.along + at.way * hole.across;
            ring.holes.push(Contour::circle(flat(centre), hole.diameter / 2.0, 0));
        }
    }
    ring.part(&format!("{}-counter", name(rim.upper)))
}

/// Lines that name what is no hopper are told so.
pub fn unknown(tell: &mut Tell, rims: &[Rim], hoppers: &[&str]) {
    for rim in rims.iter().filter(|r| !hoppers.contains(&r.of.as_str())) {
        tell.enter(&rim.line);
        let mend = match hoppers {
            [] => "say a hopper first".into(),
            known => format!("name one of {}", known.join(", ")),
        };
        tell.refuse_at("/say/of", format!("'{}' makes no hopper", rim.of), mend);
    }
}
