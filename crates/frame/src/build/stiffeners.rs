//! Flat bars and angles that lie round the sides of a hopper or transition at a height, cut to its slope and
//! mitred in the corners.

use glam::{DMat2, DVec2, DVec3};
use ground::geom::{COINCIDENT, Contour};

use super::plates::Cutting;
use super::sides::{Sides, Standing};

/// Bars of one height; lengths in mm.
#[derive(Clone, Copy, Debug)]
pub struct Stiffener {
    /// Of the lower face of the bars over the lower opening.
    pub height: f64,
    pub width: f64,
    pub thickness: f64,
}

/// Why there is none at this height.
pub enum NoStiffener {
    /// It would stand over the upper opening on this side.
    Above(String),
    /// Nothing is left of this side at its height.
    Nothing(String),
    /// The leg that stands outside would run into this side.
    Leg(String),
}

/// Angles of one height: one leg lies level with its toe on the side, the other stands outside.
#[derive(Clone, Copy, Debug)]
pub struct Angles {
    /// Of the lower face of the level legs.
    pub height: f64,
    /// Of the section: the leg that stands, the level one, and both their thickness.
    pub upright: f64,
    pub level: f64,
    pub thickness: f64,
    /// The other leg hangs down.
    pub down: bool,
}

/// An angle of one side: the middle line of its section's box, and how long its toe lies on the side.
#[derive(Clone, Debug)]
pub struct AngleRun {
    pub side: String,
    pub from: DVec3,
    pub to: DVec3,
    pub toe: f64,
}

/// What lies level round the sides, between two heights.
struct Ring<'a> {
    sides: &'a Sides,
    levels: [f64; 2],
}

impl Ring<'_> {
    /// A side's line in plan, so far out: square edges clear the slope over the whole thickness. Where a side
    /// is left out the bars end with its inner face.
    fn line(&self, k: usize, out: f64) -> (DVec2, f64) {
        let side = &self.sides.all[k];
        let at = self.levels.map(|z| self.reach(k, z));
        let furthest = if side.stands { at[0].max(at[1]) } else { at[0].min(at[1]) };
        let across = side.plane.out.truncate().normalize_or_zero();
        (across, furthest + if side.stands { out } else { 0.0 })
    }

    /// How far out the outer face of a side lies at a height.
    fn reach(&self, k: usize, z: f64) -> f64 {
        let side = &self.sides.all[k];
        let thick = if side.stands { self.sides.thickness } else { 0.0 };
        (side.plane.off + thick - side.plane.out.z * z) / side.plane.out.truncate().length()
    }

    /// The corner of a side and the next, so far out.
    fn corner(&self, k: usize, out: f64) -> DVec2 {
        let ((a, p), (b, q)) = (self.line(k, out), self.line(self.sides.beside(k, true), out));
        DMat2::from_cols(a, b).transpose().inverse() * DVec2::new(p, q)
    }

    /// Each side that is there, with the side before it and where its inner edge runs.
    fn runs(&self) -> Result<Vec<(usize, usize, [DVec2; 2])>, NoStiffener> {
        let rim = self.sides.end(true);
        let mut out = Vec::new();
        for (k, side) in self.sides.all.iter().enumerate().filter(|(_, side)| side.stands) {
            let before = self.sides.beside(k, false);
            let [from, to] = [self.corner(before, 0.0), self.corner(k, 0.0)];
            if (to - from).dot(side.plane.out.truncate().perp()) < COINCIDENT {
                return Err(NoStiffener::Nothing(side.name.clone()));
            }
            let above = |p: &DVec2| rim.out.dot(p.extend(self.levels[1])) > rim.off + COINCIDENT;
            if [from, to].iter().any(above) {
                return Err(NoStiffener::Above(side.name.clone()));
            }
            out.push((k, before, [from, to]));
        }
        Ok(out)
    }
}

/// One bar a side.
pub fn bars(on: &Standing, s: &Stiffener, part: &str) -> Result<Vec<Cutting>, NoStiffener> {
    let sides = &on.sides;
    let ring = Ring { sides, levels: [s.height, s.height + s.thickness] };
    let mut made = Vec::new();
    for (k, before, [from, to]) in ring.runs()? {
        let quad = [from, ring.corner(before, s.width), ring.corner(k, s.width), to];
        if (quad[2] - quad[1]).dot(sides.all[k].plane.out.truncate().perp()) < COINCIDENT {
            return Err(NoStiffener::Nothing(sides.all[k].name.clone()));
        }
        let outline = Contour::polygon(quad, 0).outward();
        let o = on.o + DVec3::Z * s.height;
        let bar = Cutting::new("stiffener", outline, s.thickness, o, DVec3::X, DVec3::Y);
        let mitre = if sides.all[sides.beside(k, true)].stands { quad[2].distance(to) } else { 0.0 };
        made.push(Cutting {
            is_joined: true,
            lies_long: true,
            ..bar
                .part(&format!("{part}{}", sides.all[k].name))
                .welded(from.distance(to) + mitre, sides.thickness)
        });
    }
    Ok(made)
}

/// One angle a side, each from corner to corner.
pub fn angles(on: &Standing, s: &Angles) -> Result<Vec<AngleRun>, NoStiffener> {
    let ring = Ring { sides: &on.sides, levels: [s.height, s.height + s.thickness] };
    // Where the whole section stands, from below to above.
    let [low, high] = match s.down {
        false => [s.height, s.height + s.upright],
        true => [s.height + s.thickness - s.upright, s.height + s.thickness],
    };
    let mut made = Vec::new();
    for (k, before, [from, to]) in ring.runs()? {
        let (_, toe) = ring.line(k, 0.0);
        let name = &on.sides.all[k].name;
        let wall = [low, high].map(|z| ring.reach(k, z)).into_iter().fold(f64::NEG_INFINITY, f64::max);
        if wall > toe + s.level - s.thickness - COINCIDENT {
            return Err(NoStiffener::Leg(name.clone()));
        }
        let place = |k| on.o + ring.corner(k, s.level / 2.0).extend((low + high) / 2.0);
        made.push(AngleRun { side: name.clone(), from: place(before), to: place(k), toe: from.distance(to) });
    }
    Ok(made)
}
