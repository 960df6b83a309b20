//! Flanges round the openings of a hopper or transition: how far each is bent, how its ends are cut beside
//! its neighbours, and where its holes lie.

use std::f64::consts::PI;

use glam::{DVec2, DVec3};
use ground::geom::COINCIDENT;
use ground::quantity::Display;
use ground::reader::Tell;
use sheet::{EdgeEnd, EdgeFold, EdgeHole};

use super::board::Plane;
use super::sides::{SideFace, Sides};
use super::skeleton::Skeleton;

/// Flanges of one line; lengths in mm, angles in rad.
#[derive(Clone, Debug)]
pub struct Rim {
    pub line: String,
    /// The line whose plates they are bent from.
    pub of: String,
    pub upper: bool,
    /// Names of the sides that it is told of; all of them where none is.
    pub sides: Vec<String>,
    pub width: f64,
    pub inwards: bool,
    /// Between the side and its flange; none for level with the opening.
    pub angle: Option<f64>,
    pub radius: Option<f64>,
    pub set_back: f64,
    /// Mitred, with this gap.
    pub gap: Option<f64>,
    pub holes: Option<RimHoles>,
    /// Thickness of the flat that lies on it.
    pub counter: Option<f64>,
    /// Thickness of flats welded onto the ends of the sides instead of flanges bent from them.
    pub welded: Option<f64>,
    /// Flats are strips, one a side, instead of a ring.
    pub in_strips: bool,
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

/// How far beyond an end of its edge a flange reaches, so far across from its root.
pub fn beyond(end: &EdgeEnd, clear: f64, across: f64) -> f64 {
    match *end {
        EdgeEnd::Square => -clear,
        EdgeEnd::SetBack(by) => -by - clear,
        EdgeEnd::Slanting { slope, back } => slope * across - back,
    }
}

impl RimHoles {
    /// Where they lie along an edge of this length, at equal steps.
    pub fn along(
        &self,
        edge: f64,
        ends: &[EdgeEnd; 2],
        clear: [f64; 2],
    ) -> Result<Vec<f64>, (&'static str, String)> {
        let beyond = [0, 1].map(|k| beyond(&ends[k], clear[k], self.across));
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
        // The outer ones stand clear of the ends, which may slant.
        let lean = ends.map(|e| if let EdgeEnd::Slanting { slope, .. } = e { slope.hypot(1.0) } else { 1.0 });
        let clear = (at(0) / lean[0]).min((length - at(count as usize - 1)) / lean[1]);
        if clear < self.diameter / 2.0 + COINCIDENT {
            let path = match (self.first, self.many) {
                (Some(_), _) => "/say/from_ends",
                (None, Many::Count(_)) => "/say/count",
                (None, Many::Pitch(_)) => "/say/pitch",
            };
            return Err((path, "the first and the last hole run over the ends of the flange".into()));
        }
        Ok((0..count as usize).map(|k| at(k) - beyond[0]).collect())
    }
}

/// The flanges of one line's plates: which line tells that of each side and opening.
#[derive(Default)]
pub struct Rims<'a> {
    pub told: Vec<(usize, bool, &'a Rim)>,
}

/// An edge of a face on an opening, and what its flange stands beside.
pub struct Rimmed {
    edge: [DVec2; 2],
    /// The same in space, on the face that lies in the opening.
    pub ends: [DVec3; 2],
    /// Where the flange runs, away from its edge.
    pub way: DVec3,
    /// That it turns by.
    pub angle: f64,
    /// Along the opening's plane, away from the opening.
    out: DVec3,
    /// At either end: the angle of the opening's corner, and how far beyond the edge it lies.
    corners: [(f64, f64); 2],
    /// How far in from either end the edge is bevelled away.
    clear: [f64; 2],
}

impl Rim {
    /// How far the face that lies in the opening stands from the inner one.
    pub fn lift(&self, sides: &Sides) -> f64 {
        if self.inwards { sides.thickness } else { 0.0 }
    }
}

impl Rimmed {
    /// How far a mitre runs along the edge, beyond its end, for each mm across the flange.
    fn slope(&self, end: usize) -> f64 {
        self.way.dot(self.out) / (self.corners[end].0 / 2.0).tan()
    }
}

impl<'a> Rims<'a> {
    /// Those of one line, whose sides these are. What cannot be is told of its own line.
    pub fn of(tell: &mut Tell, rims: &'a [Rim], line: &str, sides: &Sides) -> Self {
        let mut out = Rims::default();
        for rim in rims.iter().filter(|r| r.of == line) {
            tell.enter(&rim.line);
            let round = sides.round(rim.upper);
            if round.is_empty() {
                let mend = "name its other opening";
                tell.refuse_at("/say/opening", "this opening is a point", mend);
                continue;
            }
            let named = rim.sides.iter().enumerate().map(|(at, name)| {
                let found = sides.named(name).filter(|k| sides.all[*k].stands);
                (format!("/say/sides/{at}"), found.ok_or_else(|| format!("there is no side {name}")))
            });
            let all =
                round.into_iter().filter(|k| sides.all[*k].stands).map(|k| ("/say/sides".into(), Ok(k)));
            let told: Vec<_> = if rim.sides.is_empty() { all.collect() } else { named.collect() };
            let mut by_tips: Vec<&str> = Vec::new();
            for (path, side) in told {
                let free = side.and_then(|k| out.free(k, rim.upper, sides).map(|()| k));
                match free {
                    // The flange would stand in the metal of the tip.
                    Ok(k) if rim.welded.is_none() && sides.is_by_tip(k, rim.upper) => {
                        by_tips.push(&sides.all[k].name)
                    }
                    Ok(k) => out.told.push((k, rim.upper, rim)),
                    Err(why) => tell.refuse_at(&path, why, "name other sides"),
                }
            }
            if !by_tips.is_empty() {
                let message = format!(
                    "another side comes to this opening with its tip, beside the edge of {}",
                    by_tips.join(", ")
                );
                let mend = "have flats welded on, or name other sides";
                tell.refuse_at("/say/sides", message, mend);
            }
        }
        tell.enter(line);
        out
    }

    /// Whether a flange may be bent from a side at an opening.
    fn free(&self, k: usize, upper: bool, sides: &Sides) -> Result<(), String> {
        let side = &sides.all[k];
        match self.at(k, upper) {
            Some(by) => Err(format!("the {} side has a flange by {} already", side.name, by.line)),
            None if side.opens[usize::from(upper)] => Ok(()),
            None => Err(format!("the {} side comes to this opening with its tip", side.name)),
        }
    }

    pub fn at(&self, side: usize, upper: bool) -> Option<&'a Rim> {
        self.told.iter().find(|t| t.0 == side && t.1 == upper).map(|t| t.2)
    }

    /// What is bent from a side.
    fn bent(&self, side: usize, upper: bool) -> Option<&'a Rim> {
        self.at(side, upper).filter(|r| r.welded.is_none())
    }

    /// Whether a side ends at an opening with the edge of its outer face: where its flange turns inwards,
    /// that is the sharp, and under flats it would stand in these.
    pub fn ends_outside(&self, sides: &Sides, side: usize, upper: bool) -> bool {
        let this = &sides.all[side];
        let rises = this.plane.out.dot(sides.end(upper).out) > 0.0;
        match self.at(side, upper) {
            Some(rim) if rim.welded.is_none() => rim.inwards,
            Some(_) => rises,
            None => {
                let has_flats = self.told.iter().any(|t| t.1 == upper && t.2.welded.is_some());
                has_flats && rises && !this.opens[usize::from(upper)]
            }
        }
    }

    /// The flanges of a face.
    pub fn folds(&self, tell: &mut Tell, sides: &Sides, face: &SideFace) -> Vec<EdgeFold> {
        let mut out = Vec::new();
        for upper in [false, true] {
            let Some(rim) = self.bent(face.side, upper) else { continue };
            let Some(at) = rimmed(sides, face, rim) else { continue };
            tell.enter(&rim.line);
            let fold = self.fold(&tell.display, sides, face, rim, &at);
            if let Err((path, message, mend)) = fold.map(|f| out.push(f)) {
                tell.refuse_at(path, format!("{}: {message}", sides.all[face.side].name), mend);
            }
        }
        out
    }

    fn fold(
        &self,
        display: &Display,
        sides: &Sides,
        face: &SideFace,
        rim: &Rim,
        at: &Rimmed,
    ) -> Result<EdgeFold, (&'static str, String, String)> {
        // The outline runs round the face against the clock: along its upper edge towards the side before.
        let beside = [false, true].map(|last| sides.along(face.side, rim.upper, rim.upper != last));
        let mut ends = [EdgeEnd::Square; 2];
        for (k, next) in beside.into_iter().enumerate() {
            let (corner, beyond) = at.corners[k];
            let (half, slope) = (corner / 2.0, at.slope(k));
            let other = self.bent(next, rim.upper).filter(|o| o.inwards == rim.inwards);
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
                    format!("flanges that turn inwards cross at the {} corner", sides.all[next].name),
                    format!("mitre them, or set them back by {} or more", display.length_unit(least)),
                ));
            }
        }
        let [a, b] = at.edge;
        let mut holes = Vec::new();
        if let Some(h) = &rim.holes {
            let along = h.along(a.distance(b), &ends, at.clear);
            let mend = || "write fewer or smaller holes, or another distance from the ends".to_string();
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
    pub fn seams(&self, sides: &Sides, face: &SideFace) -> f64 {
        let seam = |upper: bool| {
            let rim = self.bent(face.side, upper).filter(|r| r.gap.is_some())?;
            let next = sides.along(face.side, upper, true);
            self.bent(next, upper).filter(|o| o.gap.is_some() && o.inwards == rim.inwards)?;
            let slope = rimmed(sides, face, rim)?.slope(usize::from(!rim.upper));
            Some(rim.width * slope.hypot(1.0))
        };
        [false, true].into_iter().filter_map(seam).sum()
    }
}

pub fn name(upper: bool) -> &'static str {
    if upper { "upper" } else { "lower" }
}

/// The edge of a face on the opening of a rim; none for a face that does not come there.
pub fn rimmed(sides: &Sides, face: &SideFace, rim: &Rim) -> Option<Rimmed> {
    let (end, z, lift) = (sides.end(rim.upper), face.out(), rim.lift(sides));
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
    let out = level(&sides.all[face.side].plane);
    let towards = if rim.inwards { -out } else { out };
    let turned = if rim.inwards { -z } else { z };
    let angle = match rim.angle {
        Some(between) => PI - between,
        None => towards.dot(turned).atan2(towards.dot(up)),
    };
    let way = up * angle.cos() + turned * angle.sin();
    let corners = [false, true].map(|last| {
        let next = &sides.all[sides.along(face.side, rim.upper, rim.upper != last)].plane;
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
            b.back(sides.thickness) / own.perp_dot(way).abs()
        })
    });
    Some(Rimmed { edge, ends, way, angle, out, corners, clear })
}

/// Lines that name what has no openings are told so.
pub fn unknown(tell: &mut Tell, rims: &[Rim], skeleton: &Skeleton) {
    for rim in rims.iter().filter(|r| !skeleton.standing.contains_key(&r.of)) {
        tell.enter(&rim.line);
        skeleton.no_openings(tell, "/say/of", &rim.of);
    }
}
