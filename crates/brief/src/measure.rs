//! Distances and angles between things of the model. What cannot be measured says why.

use glam::DVec3;
use ground::geom::COINCIDENT;
use ground::word;

use crate::model::{Probe, Thing};

word! {
    /// What of two things a distance runs between.
    pub enum DistanceKind {
        /// Middles of holes, outer faces of panels.
        #[default]
        Middles,
        /// The clear space: edges of holes, inner faces of panels.
        Gap,
        /// Over all: far edges of holes, outer faces of panels.
        Over,
    }
}

word! {
    /// Which way a distance is told.
    pub enum Way {
        /// The shortest.
        #[default]
        Straight,
        East,
        North,
        Up,
    }
}

impl Way {
    fn along(self) -> Option<DVec3> {
        match self {
            Way::Straight => None,
            Way::East => Some(DVec3::X),
            Way::North => Some(DVec3::Y),
            Way::Up => Some(DVec3::Z),
        }
    }
}

/// Directions that differ by less than this are one: 0.01°, rad.
const PARALLEL: f64 = 1.7e-4;

type Measured = Result<f64, String>;

/// The angle between two lines, 0 to a quarter turn.
fn between_lines(a: DVec3, b: DVec3) -> f64 {
    a.cross(b).length().atan2(a.dot(b).abs())
}

fn radius(t: &Thing) -> f64 {
    match t.probe {
        Probe::Axis { radius: Some(r), .. } => r,
        _ => 0.0,
    }
}

/// Faces of a flat thing, and the way they look.
fn faces(p: &Probe) -> Option<(Vec<DVec3>, DVec3)> {
    match *p {
        Probe::Plane { at, normal } => Some((vec![at], normal)),
        Probe::Plate { at, normal, thick } => Some((vec![at, at + normal * thick], normal)),
        _ => None,
    }
}

fn point(p: &Probe) -> DVec3 {
    match *p {
        Probe::Point(at) | Probe::Axis { at, .. } | Probe::Plane { at, .. } => at,
        Probe::Plate { at, normal, thick } => at + normal * (thick / 2.0),
    }
}

fn of(between: DistanceKind, all: &[f64]) -> f64 {
    match between {
        DistanceKind::Gap => all.iter().copied().fold(f64::INFINITY, f64::min),
        _ => all.iter().copied().fold(0.0, f64::max),
    }
}

fn widened(between: DistanceKind, d: f64, by: f64) -> f64 {
    match between {
        DistanceKind::Middles => d,
        DistanceKind::Gap => d - by,
        DistanceKind::Over => d + by,
    }
}

/// How far two things are apart.
pub fn distance(a: &Thing, b: &Thing, between: DistanceKind, way: Way) -> Measured {
    if a.name == b.name {
        return Err(format!("both ends are {}", a.said));
    }
    let out = match (faces(&a.probe), faces(&b.probe)) {
        (Some(f), Some(g)) => {
            let lean = between_lines(f.1, g.1);
            if lean > PARALLEL {
                let angle = lean.to_degrees();
                return Err(format!("{} and {} stand at {angle:.2}° to one another", a.said, b.said));
            }
            let all: Vec<f64> =
                f.0.iter().flat_map(|p| g.0.iter().map(|q| (*q - *p).dot(f.1).abs())).collect();
            of(between, &all)
        }
        (Some(f), None) => to_face(b, a, f, between)?,
        (None, Some(g)) => to_face(a, b, g, between)?,
        (None, None) => return between_points(a, b, between, way),
    };
    match (way.along(), faces(&a.probe).or_else(|| faces(&b.probe))) {
        (Some(dir), Some(f)) if between_lines(dir, f.1) > PARALLEL => Err(format!(
            "the face does not look that way: leave the direction out of {} to {}",
            a.said, b.said
        )),
        _ => Ok(out),
    }
}

/// From a hole, node or corner to a face.
fn to_face(a: &Thing, face: &Thing, f: (Vec<DVec3>, DVec3), between: DistanceKind) -> Measured {
    if let Probe::Axis { dir, .. } = a.probe {
        let lean = std::f64::consts::FRAC_PI_2 - between_lines(dir, f.1);
        if lean.abs() > PARALLEL {
            let angle = lean.abs().to_degrees();
            return Err(format!("{} runs into {} at {angle:.1}°", a.said, face.said));
        }
    }
    let all: Vec<f64> = f.0.iter().map(|p| (point(&a.probe) - *p).dot(f.1).abs()).collect();
    Ok(widened(between, of(between, &all), radius(a)))
}

fn between_points(a: &Thing, b: &Thing, between: DistanceKind, way: Way) -> Measured {
    let v = point(&b.probe) - point(&a.probe);
    let by = radius(a) + radius(b);
    if let Some(dir) = way.along() {
        return Ok(widened(between, v.dot(dir).abs(), by));
    }
    let d = match (a.probe, b.probe) {
        (Probe::Axis { dir: p, .. }, Probe::Axis { dir: q, .. }) if between_lines(p, q) < PARALLEL => {
            v.reject_from_normalized(p).length()
        }
        (Probe::Axis { dir, .. }, Probe::Point(_)) | (Probe::Point(_), Probe::Axis { dir, .. }) => {
            v.reject_from_normalized(dir).length()
        }
        (Probe::Axis { .. }, Probe::Axis { .. }) => {
            return Err(format!("{} and {} are not parallel: say which way", a.said, b.said));
        }
        _ => v.length(),
    };
    Ok(widened(between, d, by))
}

/// The direction that tells how a thing stands: of a face its normal, of a hole or bar its axis.
fn standing(t: &Thing) -> Result<(DVec3, bool), String> {
    match t.probe {
        Probe::Plane { normal, .. } | Probe::Plate { normal, .. } => Ok((normal, true)),
        Probe::Axis { dir, .. } => Ok((dir, false)),
        Probe::Point(_) => Err(format!("{} has no direction", t.said)),
    }
}

/// The angle between two faces or lines, 0 to 180°: between faces the one that the sheet encloses.
pub fn angle(a: &Thing, b: &Thing) -> Measured {
    let ((p, flat_a), (q, flat_b)) = (standing(a)?, standing(b)?);
    match (flat_a, flat_b) {
        // Normals look out of the same face of the sheet: side by side they turn by what is bent.
        (true, true) => Ok(std::f64::consts::PI - p.angle_between(q)),
        (false, false) => Ok(between_lines(p, q)),
        _ => Ok(std::f64::consts::FRAC_PI_2 - between_lines(p, q)),
    }
}

/// By how much two things are not parallel, rad.
pub fn unparallel(a: &Thing, b: &Thing) -> Measured {
    let ((p, flat_a), (q, flat_b)) = (standing(a)?, standing(b)?);
    let lean = between_lines(p, q);
    Ok(if flat_a == flat_b { lean } else { std::f64::consts::FRAC_PI_2 - lean })
}

/// By how much two things are not square to one another, rad.
pub fn unsquare(a: &Thing, b: &Thing) -> Measured {
    Ok(std::f64::consts::FRAC_PI_2 - unparallel(a, b)?)
}

/// By how much a thing is not level, rad.
pub fn unlevel(t: &Thing) -> Measured {
    let (dir, flat) = standing(t)?;
    let lean = between_lines(dir, DVec3::Z);
    Ok(if flat { lean } else { std::f64::consts::FRAC_PI_2 - lean })
}

/// How far the middles of several stray from the line through the first and the last.
pub fn out_of_line(things: &[Thing]) -> Measured {
    let [first, .., last] = things else { return Err("one thing is always in line".into()) };
    let (a, b) = (point(&first.probe), point(&last.probe));
    // Holes through parallel sheets are in line where their axes are.
    let flat = |v: DVec3| match first.probe {
        Probe::Axis { dir, .. } => v.reject_from_normalized(dir),
        _ => v,
    };
    let Some(dir) = flat(b - a).try_normalize().filter(|_| flat(b - a).length() > COINCIDENT) else {
        return Err(format!("{} and {} are in one place", first.said, last.said));
    };
    let off = |t: &Thing| flat(point(&t.probe) - a).reject_from_normalized(dir).length();
    Ok(things.iter().map(off).fold(0.0, f64::max))
}

/// The size that tells how large a thing is, for things that are to be equal.
pub fn size(t: &Thing) -> Measured {
    let found = t.length.or(t.radius.map(|r| if t.bent.is_some() { r } else { 2.0 * r }));
    found.ok_or_else(|| format!("{} has no size of its own to compare", t.said))
}
