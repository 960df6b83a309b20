//! A frame of angles on the flanges round an opening: one leg lies on the flange with its holes, the other
//! stands away from the opening.

use glam::{DVec2, DVec3};
use ground::reader::Tell;
use sheet::EdgeFold;

use super::rim_flats::Level;
use super::rims::{Rim, Rims};
use super::sides::{SideFace, Standing};

/// An angle of one side.
pub struct RimAngle {
    pub side: String,
    /// The middle line of its section's box.
    pub ends: [DVec3; 2],
    /// Whether another one is mitred with each end.
    pub mitred: [bool; 2],
    /// The ways of the leg that lies and of the one that stands.
    pub lies: DVec3,
    pub stands: DVec3,
    /// Middles of the holes, on the face that lies on the flange, and how wide they are.
    pub holes: Vec<DVec3>,
    pub diameter: f64,
}

/// Where angles lie on the flanges of a line: `legs` are that which lies and that which stands, and their
/// heels are `out` of the root.
pub fn angles(on: &Standing, rims: &Rims, rim: &Rim, legs: [f64; 2], out: f64) -> Vec<RimAngle> {
    let sides = &on.sides;
    let mut level = Level::of(sides, rims, rim);
    if rim.welded.is_some() {
        // What cannot be drilled is told where the flats are made.
        let _ = level.drill();
    } else {
        let mut quiet = Tell::new(Default::default());
        let folds: Vec<Vec<EdgeFold>> = on.faces.iter().map(|f| rims.folds(&mut quiet, sides, f)).collect();
        let flanged: Vec<(&SideFace, &[EdgeFold])> =
            on.faces.iter().zip(folds.iter().map(Vec::as_slice)).collect();
        level.as_bent(&flanged);
    }
    let normal = sides.end(rim.upper).out;
    let lifted = normal * rim.welded.unwrap_or(0.0) + on.o;
    let sign = level.reach().signum();
    let by = sign * (out + legs[0] / 2.0);
    let told = (0..level.lines.len()).filter(|k| level.lines[*k].told);
    let angle = |k: usize| {
        let line = &level.lines[k];
        let mitred = [false, true].map(|next| level.lines[level.beside(k, next)].told);
        // One that meets no other ends with the root of its flange.
        let (root, middle) = (level.edge(k, 0.0), level.edge(k, by));
        let place =
            |end: usize| -> DVec2 { if mitred[end] { middle[end] } else { root[end] + line.out * by } };
        let up = lifted + normal * (legs[1] / 2.0);
        RimAngle {
            side: sides.all[line.side].name.clone(),
            ends: [0, 1].map(|end| level.place(place(end)) + up),
            mitred,
            lies: level.way(line.out * sign),
            stands: normal,
            diameter: rim.holes.map_or(0.0, |h| h.diameter),
            holes: line.holes.iter().map(|p| level.place(*p) + lifted).collect(),
        }
    };
    told.map(angle).collect()
}
