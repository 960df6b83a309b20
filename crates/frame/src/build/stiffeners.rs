//! Flat bars that lie round a hopper at a height, cut to its slope and mitred in the corners.

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
}

/// One bar a side.
pub fn bars(hopper: &HopperStands, s: &Stiffener, part: &str) -> Result<Vec<Cutting>, NoStiffener> {
    let (shape, levels) = (&hopper.shape, [s.height, s.height + s.thickness]);
    // Each side's line in plan, so far out: square edges clear the slope over the whole thickness. Where a
    // side is left out the bars end with its inner face.
    let line = |side: Compass, out: f64| {
        let plane = shape.plane(side);
        let across = DVec2::new(plane.out.x, plane.out.y);
        let length = across.length();
        let open = shape.open == Some(side);
        let off = plane.off + if open { 0.0 } else { shape.thickness };
        let at = levels.map(|z| (off - plane.out.z * z) / length);
        let furthest = if open { at[0].min(at[1]) } else { at[0].max(at[1]) };
        (across / length, furthest + if open { 0.0 } else { out })
    };
    let corner = |side: Compass, out: f64| {
        let ((a, p), (b, q)) = (line(side, out), line(side.next(), out));
        DMat2::from_cols(a, b).transpose().inverse() * DVec2::new(p, q)
    };
    let rim = shape.end(true);
    let mut made = Vec::new();
    for side in Compass::ALL.into_iter().filter(|side| shape.open != Some(*side)) {
        let before = side.across().next();
        let [from, to] = [corner(before, 0.0), corner(side, 0.0)];
        let along = side.out().perp();
        if (to - from).dot(along) < COINCIDENT {
            return Err(NoStiffener::Nothing(side));
        }
        let above = |p: &DVec2| rim.out.dot(p.extend(levels[1])) > rim.off + COINCIDENT;
        if [from, to].iter().any(above) {
            return Err(NoStiffener::Above(side));
        }
        let quad = [from, corner(before, s.width), corner(side, s.width), to];
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
