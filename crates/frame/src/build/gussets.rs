//! Triangular plates in corners: between two faces, and under the flanges round an opening.

use glam::{DVec2, DVec3};
use ground::geom::{COINCIDENT, Contour, first_crossing};
use ground::quantity::Display;
use ground::reader::Tell;
use sheet::{EdgeEnd, EdgeHole};

use super::plates::Cutting;
use super::rim_flats::welded_on;
use super::rims::{Rim, Rims, beyond, rimmed};
use super::sides::{SideFace, Standing};

/// A triangle in the corner of two legs, its root at the origin and its first leg along x.
#[derive(Clone, Copy, Debug)]
pub struct Triangle {
    pub legs: [f64; 2],
    /// Width left at the tips.
    pub nose: f64,
    /// Cut off at the root, along both legs.
    pub snipe: f64,
}

impl Triangle {
    /// Its outline; `second` is the way of its second leg. None where the noses run into one another.
    pub fn outline(&self, second: DVec2) -> Option<Contour> {
        let (first, [a, b]) = (DVec2::X, self.legs);
        let cos = first.dot(second);
        let within = [second - first * cos, first - second * cos].map(DVec2::normalize_or_zero);
        let mut corners = vec![first * self.snipe, first * a];
        if self.nose > 0.0 {
            corners.extend([first * a + within[0] * self.nose, second * b + within[1] * self.nose]);
        }
        corners.push(second * b);
        if self.snipe > 0.0 {
            corners.push(second * self.snipe);
        }
        let outline = Contour::polygon(corners, 0);
        first_crossing(&outline).is_none().then_some(outline)
    }

    /// Along both legs on both faces.
    pub fn weld(&self) -> f64 {
        2.0 * (self.legs[0] + self.legs[1] - 2.0 * self.snipe)
    }
}

/// Gussets under the flanges of one line; lengths in mm. The first leg lies along the flange.
pub struct RimGussets {
    /// What lists call one.
    pub called: &'static str,
    pub legs: [f64; 2],
    pub nose: f64,
    /// None for what the bend needs.
    pub snipe: Option<f64>,
    pub thickness: f64,
    /// On each side at equal steps; none for one between every two holes.
    pub count: Option<usize>,
    /// Inside, of flanges whose line does not tell it.
    pub radius: f64,
}

/// Field, message and mend.
pub type Refused = (&'static str, String, String);

/// Of one line.
const MOST: usize = 1000;

/// A flange in section: square to the edge it stands on.
struct Section {
    /// Where the edge begins, and the way along it.
    at: DVec3,
    along: DVec3,
    length: f64,
    /// How the flange ends at both ends of the edge.
    ends: [EdgeEnd; 2],
    clear: [f64; 2],
    /// From the root of the corner along the flange, and down the side.
    legs: [DVec3; 2],
    /// From the edge to that root, square to it.
    root: DVec3,
    /// The flange from its edge, and how much of it lies beyond the root.
    width: f64,
    room: f64,
    /// From the root to where the bend ends.
    bend: f64,
    /// From the start of the edge to the holes, and how far across from the root.
    holes: Vec<DVec2>,
    thickness: f64,
}

impl Section {
    fn of(on: &Standing, face: &SideFace, rim: &Rim, rims: &Rims, g: &RimGussets) -> Option<Section> {
        let at = rimmed(&on.sides, face, rim)?;
        let [a, b] = at.ends;
        let (t, z) = (on.sides.thickness, face.out());
        let along = (b - a).normalize_or_zero();
        // Over the edge, in the side's plane: the outline runs against the clock.
        let up = along.cross(z);
        let (root, room, bend, thickness) = match rim.welded {
            None => {
                let back = t * (at.angle / 2.0).tan();
                let radius = rim.radius.unwrap_or(g.radius);
                (z * t - up * back, rim.width - back, radius * (at.angle / 2.0).tan(), t)
            }
            // The flat lies on the side's end; the corner is where its outer face comes to the opening.
            Some(flat) => {
                let by = t / at.way.dot(z);
                (at.way * by, rim.width - by, 0.0, flat)
            }
        };
        let (ends, clear, drilled) = match rim.welded {
            Some(_) => {
                let (ends, holes) = welded_on(rims, &on.sides, rim, face.side);
                (ends, [0.0; 2], holes)
            }
            None => {
                let mut quiet = Tell::new(Display::default());
                let folds = rims.folds(&mut quiet, &on.sides, face);
                let own = folds.into_iter().find(|f| f.told_by == rim.line)?;
                let hole = |h: &EdgeHole| a + along * h.along + at.way * h.across;
                (own.ends, own.clear, own.holes.iter().map(hole).collect::<Vec<_>>())
            }
        };
        let hole = |p: &DVec3| DVec2::new((*p - a).dot(along), (*p - a - root).dot(at.way));
        let mut holes: Vec<DVec2> = drilled.iter().map(hole).collect();
        holes.sort_by(|p, q| p.x.total_cmp(&q.x));
        let length = a.distance(b);
        let width = rim.width;
        let legs = [at.way, -up];
        Some(Section { at: a, along, length, ends, clear, legs, root, width, room, bend, holes, thickness })
    }

    /// Whether a plate stands under the flange over its whole leg, between these places of the edge.
    fn is_under(&self, from: f64, to: f64, leg: [f64; 2]) -> bool {
        leg.into_iter().all(|x| {
            let [before, after] =
                [0, 1].map(|k| beyond(&self.ends[k], self.clear[k], self.width - self.room + x));
            from > -before.min(0.0) - COINCIDENT && to < self.length + after.min(0.0) + COINCIDENT
        })
    }

    /// How far along the edge they stand.
    fn places(&self, count: Option<usize>) -> Vec<f64> {
        match count {
            Some(n) => (0..n).map(|k| self.length * (k as f64 + 0.5) / n as f64).collect(),
            None => self.holes.windows(2).map(|w| (w[0].x + w[1].x) / 2.0).collect(),
        }
    }
}

/// The gussets under the flanges of one line.
pub fn gussets(
    on: &Standing,
    rims: &Rims,
    rim: &Rim,
    g: &RimGussets,
    d: &Display,
) -> Result<Vec<Cutting>, Refused> {
    let write = |what: &str, v: f64| format!("write {} {what}", d.length_unit(v));
    let mut out = Vec::new();
    for face in on.faces.iter().filter(|f| rims.at(f.side, rim.upper).is_some_and(|r| r.line == rim.line)) {
        ground::halt::point();
        let Some(s) = Section::of(on, face, rim, rims, g) else { continue };
        let name = &on.sides.all[face.side].name;
        if g.legs[0] > s.room + COINCIDENT {
            let message = format!("{name}: its flange is {} wide beyond the corner", d.length_unit(s.room));
            return Err(("/say/leg", message, write("or less", s.room)));
        }
        let snipe = g.snipe.unwrap_or(s.bend);
        if snipe < s.bend - COINCIDENT {
            let message =
                format!("{name}: the bend's inside radius reaches {} into the corner", d.length_unit(s.bend));
            return Err(("/say/snipe", message, write("or more, or leave it out", s.bend)));
        }
        if g.nose + snipe >= g.legs[0].min(g.legs[1]) {
            let message =
                format!("{name}: nose and a snipe of {} leave nothing of the leg", d.length_unit(snipe));
            return Err(("/say/nose", message, "write longer legs".into()));
        }
        // Square to the first leg, towards the second.
        let [x, down] = s.legs;
        let y = (down - x * x.dot(down)).normalize_or_zero();
        let triangle = Triangle { legs: g.legs, nose: g.nose, snipe };
        let Some(outline) = triangle.outline(DVec2::new(down.dot(x), down.dot(y))) else {
            let mend = "write a narrower nose or longer legs";
            return Err(("/say/nose", format!("{name}: the noses run into one another"), mend.into()));
        };
        let places = s.places(g.count);
        if out.len() + places.len() > MOST {
            let message = format!("more than {MOST} gussets");
            return Err(("/say/count", message, "write fewer".into()));
        }
        for (k, along) in places.iter().enumerate() {
            let which = format!("{} {} of {name}", g.called, k + 1);
            let half = g.thickness / 2.0;
            let radius = rim.holes.map_or(0.0, |h| h.diameter / 2.0);
            let is_at_hole = |h: &DVec2| {
                let across = (h.y - h.y.clamp(snipe, g.legs[0])).abs();
                (h.x - along).abs() < half + radius && across < radius
            };
            if s.holes.iter().any(is_at_hole) {
                let mend = "write another count, or none: they stand between the holes then";
                return Err(("/say/count", format!("{which} stands at a hole of the flange"), mend.into()));
            }
            if !s.is_under(along - half, along + half, [snipe, g.legs[0]]) {
                let mend = "write fewer gussets, or thinner ones";
                return Err((
                    "/say/count",
                    format!("{which} stands over the end of its flange"),
                    mend.into(),
                ));
            }
            let foot = |by: f64| s.at + s.along * (along + by) + s.root + s.legs[1] * g.legs[1];
            if [-half, half].into_iter().any(|by| !is_on(face, foot(by))) {
                let mend = "write a shorter leg, fewer gussets, or thinner ones";
                return Err(("/say/leg_2", format!("{which} stands over the edge of its side"), mend.into()));
            }
            let z = x.cross(y);
            let o = on.o + s.at + s.along * *along + s.root - z * half;
            let plate = Cutting::new(g.called, outline.clone(), g.thickness, o, x, y);
            let against = s.thickness.min(on.sides.thickness);
            out.push(plate.part(&format!("{name}-{}", k + 1)).welded(triangle.weld(), against));
        }
    }
    Ok(out)
}

/// Whether a place lies over a face.
fn is_on(face: &SideFace, p: DVec3) -> bool {
    let q = DVec2::new((p - face.o).dot(face.x), (p - face.o).dot(face.y));
    let n = face.ring.len();
    (0..n).all(|k| (face.ring[(k + 1) % n] - face.ring[k]).perp_dot(q - face.ring[k]) > -COINCIDENT)
}
