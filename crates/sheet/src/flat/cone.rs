//! The frustum of a cone: an annular sector, its middle generator along +x from the tip.

use glam::DVec2;
use ground::geom::COINCIDENT;
use ground::geom::{CHORD, Contour, Vertex};
use ground::reference;

use super::blank::{Blank, SIDES};
use crate::formed::zones::{ConeZone, Kind, Zone};

/// A cone worked out, on the middle of the sheet.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct ConeFact {
    pub slant: f64,
    /// Radii of the sector.
    pub far: f64,
    pub near: f64,
    pub sweep: f64,
    pub turn: f64,
    /// Half the angle at the tip.
    pub slope: f64,
    /// Diameters of the middle of the sheet: wide, narrow.
    pub middle: [f64; 2],
}

/// `rw` and `rn` are the radii of its ends on the middle of the sheet, `slope` half the angle at its tip,
/// `turn` how far it goes round.
pub fn cone_of(line: &str, [rw, rn]: [f64; 2], slope: f64, turn: f64) -> Blank {
    let (far, near) = (rw / slope.sin(), rn / slope.sin());
    let sweep = turn * slope.sin();
    // Arcs of at most a half circle: two each; the sector counter-clockwise, seam to the south first.
    let quarter = (sweep / 8.0).tan();
    let at = |r: f64, share: f64| DVec2::from_angle(sweep * share) * r;
    let v = |p: DVec2, bulge: f64, tag: u32| Vertex { p, bulge, tag };
    let mut vertices = vec![
        v(at(near, -0.5), 0.0, 0),
        v(at(far, -0.5), quarter, 1),
        v(at(far, 0.0), quarter, 1),
        v(at(far, 0.5), 0.0, 2),
    ];
    if near > COINCIDENT {
        vertices.extend([v(at(near, 0.5), -quarter, 3), v(at(near, 0.0), -quarter, 3)]);
    } else {
        vertices[0].p = DVec2::ZERO;
    }
    let outer = Contour { vertices };
    let names = [SIDES[0], "wide", SIDES[2], "narrow"];
    let kind = Kind::Cone(ConeZone { apex: DVec2::ZERO, sweep, turn, up: true });
    let zone = Zone::new(
        reference::part(line, "shell"),
        line,
        kind,
        None,
        [DVec2::ZERO, DVec2::X],
        outer.flatten(CHORD),
    );
    let tags = names.iter().map(|s| reference::part(line, s)).collect();
    let cone = ConeFact { slant: far - near, far, near, sweep, turn, slope, middle: [2.0 * rw, 2.0 * rn] };
    Blank { cone: Some(cone), ..Blank::new(line, outer, vec![zone], tags) }
}
