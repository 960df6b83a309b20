//! Flat bars and angles that lie round a hopper at a height, cut to its slope and mitred in the corners.

use glam::{DMat2, DVec2, DVec3};
use ground::geom::{COINCIDENT, Contour};
use sheet::choices::Compass;

use super::hoppers::HopperShape;
use super::plates::Cutting;

/// A hopper that stands: the line that made it, and where the middle of its lower opening lies.
#[derive(Clone, Copy, Debug)]
pub struct HopperStands {
    pub shape: HopperShape,
    pub o: DVec3,
}

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
    Above(Compass),
    /// Nothing is left of this side at its height.
    Nothing(Compass),
    /// The leg that stands outside would run into this side.
    Leg(Compass),
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
#[derive(Clone, Copy, Debug)]
pub struct AngleRun {
    pub side: Compass,
    pub from: DVec3,
    pub to: DVec3,
    pub toe: f64,
}

/// What lies level round a hopper, between two heights.
struct Ring<'a> {
    shape: &'a HopperShape,
    levels: [f64; 2],
}

impl Ring<'_> {
    /// A side's line in plan, so far out: square edges clear the slope over the whole thickness. Where a side
    /// is left out the bars end with its inner face.
    fn line(&self, side: Compass, out: f64) -> (DVec2, f64) {
        let open = self.shape.open == Some(side);
        let at = self.levels.map(|z| self.reach(side, z));
        let furthest = if open { at[0].min(at[1]) } else { at[0].max(at[1]) };
        let across = self.shape.plane(side).out.truncate().normalize_or_zero();
        (across, furthest + if open { 0.0 } else { out })
    }

    /// How far out the outer face of a side lies at a height.
    fn reach(&self, side: Compass, z: f64) -> f64 {
        let plane = self.shape.plane(side);
        let thick = if self.shape.open == Some(side) { 0.0 } else { self.shape.thickness };
        (plane.off + thick - plane.out.z * z) / plane.out.truncate().length()
    }

    /// The corner of a side and the next, so far out.
    fn corner(&self, side: Compass, out: f64) -> DVec2 {
        let ((a, p), (b, q)) = (self.line(side, out), self.line(side.next(), out));
        DMat2::from_cols(a, b).transpose().inverse() * DVec2::new(p, q)
    }

    /// Each side that is there, with the side before it and where its inner edge runs.
    fn sides(&self) -> Result<Vec<(Compass, Compass, [DVec2; 2])>, NoStiffener> {
        let rim = self.shape.end(true);
        let mut out = Vec::new();
        for side in Compass::ALL.into_iter().filter(|side| self.shape.open != Some(*side)) {
            let before = side.across().next();
            let [from, to] = [self.corner(before, 0.0), self.corner(side, 0.0)];
            if (to - from).dot(side.out().perp()) < COINCIDENT {
                return Err(NoStiffener::Nothing(side));
            }
            let above = |p: &DVec2| rim.out.dot(p.extend(self.levels[1])) > rim.off + COINCIDENT;
            if [from, to].iter().any(above) {
                return Err(NoStiffener::Above(side));
            }
            out.push((side, before, [from, to]));
        }
        Ok(out)
    }
}

/// One bar a side.
pub fn bars(hopper: &HopperStands, s: &Stiffener, part: &str) -> Result<Vec<Cutting>, NoStiffener> {
    let shape = &hopper.shape;
    let ring = Ring { shape, levels: [s.height, s.height + s.thickness] };
    let mut made = Vec::new();
    for (side, before, [from, to]) in ring.sides()? {
        let quad = [from, ring.corner(before, s.width), ring.corner(side, s.width), to];
        let outline = Contour::polygon(quad, 0).outward();
        let o = hopper.o + DVec3::Z * s.height;
        let bar = Cutting::new("stiffener", outline, s.thickness, o, DVec3::X, DVec3::Y);
        let mitre = if shape.open == Some(side.next()) { 0.0 } else { quad[2].distance(to) };
        made.push(Cutting {
            is_joined: true,
            lies_long: true,
            ..bar.part(&format!("{part}{}", side.name())).welded(from.distance(to) + mitre, shape.thickness)
        });
    }
    Ok(made)
}

/// One angle a side, each from corner to corner.
pub fn angles(hopper: &HopperStands, s: &Angles) -> Result<Vec<AngleRun>, NoStiffener> {
    let ring = Ring { shape: &hopper.shape, levels: [s.height, s.height + s.thickness] };
    // Where the whole section stands, from below to above.
    let [low, high] = match s.down {
        false => [s.height, s.height + s.upright],
        true => [s.height + s.thickness - s.upright, s.height + s.thickness],
    };
    let mut made = Vec::new();
    for (side, before, [from, to]) in ring.sides()? {
        let (_, toe) = ring.line(side, 0.0);
        let wall = [low, high].map(|z| ring.reach(side, z)).into_iter().fold(f64::NEG_INFINITY, f64::max);
        if wall > toe + s.level - s.thickness - COINCIDENT {
            return Err(NoStiffener::Leg(side));
        }
        let place = |side| hopper.o + ring.corner(side, s.level / 2.0).extend((low + high) / 2.0);
        made.push(AngleRun { side, from: place(before), to: place(side), toe: from.distance(to) });
    }
    Ok(made)
}
