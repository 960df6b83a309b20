//! Plane plates between two openings, one for each face of the skin round both: their inner edges meet, or
//! their bevelled ones in the planes that halve the corners.

use std::f64::consts::PI;

use glam::{DVec2, DVec3};
use ground::geom::convex::clipped;
use ground::geom::{COINCIDENT, Contour};
use sheet::EdgeBevel;
use sheet::choices::Compass;
use sheet::transition::face::{Along, Face};
use sheet::transition::hull::{NoSkin, Skin, facets};
use sheet::transition::openings::Opening;
use sheet::transition::unrolled::named;

use super::hoppers::Plane;
use super::plates::{Corner, Cutting, Met};

/// Two openings without round corners, and the plates between them.
#[derive(Clone, Copy, Debug)]
pub struct PanelsShape {
    pub openings: [Opening; 2],
    pub thickness: f64,
    /// How far inside of the told faces the inner ones lie.
    pub inwards: f64,
    /// Bevelled, so that they meet over their whole thickness; else edge to edge.
    pub is_mitred: bool,
    /// Left between the plates, for the weld.
    pub gap: f64,
    /// The side that is not there.
    pub open: Option<Compass>,
}

/// Why there are no plates.
pub enum NoPanels {
    Skin(NoSkin),
    /// No face looks this way.
    Side(Compass),
    /// Of this face nothing is left.
    Face(String),
}

/// Round ones are refused before; corners that are not round take no lines.
const LINES: usize = 2;

/// The inner face of a plate: its plane, and a place and two ways in it.
struct Stood<'a> {
    face: &'a Face,
    plane: Plane,
    o: DVec3,
    x: DVec3,
    y: DVec3,
}

impl Stood<'_> {
    fn point(&self, q: DVec2) -> DVec3 {
        self.o + self.x * q.x + self.y * q.y
    }

    /// The side of a ring that lies on a plane.
    fn side(&self, ring: &[DVec2], plane: &Plane) -> Option<usize> {
        let on = |q: DVec2| (plane.out.dot(self.point(q)) - plane.off).abs() < COINCIDENT;
        let n = ring.len();
        (0..n).find(|k| on(ring[*k]) && on(ring[(k + 1) % n]))
    }
}

impl PanelsShape {
    fn stood(face: &Face) -> Stood<'_> {
        let o = face.ring[0];
        let x = (face.ring[1] - o).normalize_or_zero();
        Stood { face, plane: Plane { out: face.out, off: face.out.dot(o) }, o, x, y: face.out.cross(x) }
    }

    /// Where a face ends at another: the plane of that one's inside, moved.
    fn end_at(&self, own: &Stood, other: &Stood, is_beside: bool) -> Plane {
        let cos = own.plane.out.dot(other.plane.out).clamp(-1.0, 1.0);
        // Each gives gap / (2·sin β/2) along its face, β the angle inside: that is gap · cos β/2.
        let apart = if is_beside { self.gap * ((1.0 - cos) / 2.0).sqrt() } else { 0.0 };
        let wide = if self.is_mitred { self.thickness * (1.0 - cos) } else { 0.0 };
        Plane { off: other.plane.off + wide - apart, ..other.plane }
    }

    /// The plates, against the clock from the first face.
    pub fn plates(&self, from: DVec3) -> Result<Vec<Cutting>, NoPanels> {
        let [low, high] = &self.openings;
        let skin = Skin::of([low, high], LINES, -self.inwards).map_err(NoPanels::Skin)?;
        // Moved, a corner may lie off the planes of what is told that touch only it.
        let moved = facets(&skin.moved).ok_or(NoPanels::Skin(NoSkin::Crosses))?;
        let faces = named(&moved, &skin.moved);
        let open = match self.open {
            None => None,
            Some(side) => Some(faces.iter().position(|f| f.name == side.name()).ok_or(NoPanels::Side(side))?),
        };
        let all: Vec<Stood> = faces.iter().map(Self::stood).collect();
        let ends = [
            Plane { out: -low.normal(), off: -low.normal().dot(low.o) },
            Plane { out: high.normal(), off: high.normal().dot(high.o) },
        ];
        let reach = 4.0 * skin.moved.iter().flatten().map(|p| p.length()).fold(self.thickness, f64::max);
        let n = all.len();
        let made = (0..n).filter(|k| Some(*k) != open).map(|k| {
            let own = &all[k];
            let others: Vec<(usize, Plane)> = (0..n)
                .filter(|j| *j != k && Some(*j) != open)
                .map(|j| (j, self.end_at(own, &all[j], (k + 1) % n == j || (j + 1) % n == k)))
                .collect();
            // A side that is not there leaves its neighbours as they are told.
            let left = open.map(|j| all[j].plane);
            let square = [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)];
            let mut ring: Vec<DVec2> = square.map(|(x, y)| DVec2::new(x, y) * reach).into();
            for p in others.iter().map(|o| o.1).chain(left).chain(ends) {
                let way = DVec2::new(p.out.dot(own.x), p.out.dot(own.y));
                ring = clipped(&ring, way, p.off - p.out.dot(own.o));
            }
            ring.dedup_by(|a, b| a.distance(*b) < COINCIDENT);
            while ring.len() > 1 && ring[0].distance(ring[ring.len() - 1]) < COINCIDENT {
                ring.pop();
            }
            // What is told as open has to stay so.
            let has = |end: &Plane, along| own.face.side(along).is_none() || own.side(&ring, end).is_some();
            if ring.len() < 3 || !has(&ends[0], Along::Low) || !has(&ends[1], Along::High) {
                return Err(NoPanels::Face(own.face.name.clone()));
            }
            let mut plate = Cutting::new(
                "transition side",
                Contour::polygon(ring.iter().copied(), 0),
                self.thickness,
                from + own.o,
                own.x,
                own.y,
            );
            if self.is_mitred {
                plate.bevels = bevels(own, &ring, &others, &all);
            }
            // Each seam is told of the plate that comes first.
            let next = (k + 1) % n;
            if let Some((_, end)) = others.iter().find(|o| o.0 == next) {
                let seam = own.side(&ring, end).map_or(0.0, |s| ring[s].distance(ring[(s + 1) % ring.len()]));
                plate = plate.welded(seam, self.thickness);
                plate.corner = Some(Corner {
                    next: all[next].face.name.clone(),
                    angle: PI - own.plane.out.angle_between(all[next].plane.out),
                    how: if self.is_mitred { Met::Mitred } else { Met::Edge },
                    open: self.gap,
                });
            }
            plate.is_joined = true;
            Ok(plate.part(&own.face.name))
        });
        made.collect()
    }
}

/// Edges that end at other plates, bevelled by half of the angle between both.
fn bevels(own: &Stood, ring: &[DVec2], others: &[(usize, Plane)], all: &[Stood]) -> Vec<EdgeBevel> {
    let n = ring.len();
    let way = |k: usize| (ring[(k + 1) % n] - ring[k % n]).normalize_or_zero();
    let made = others.iter().filter_map(|(j, end)| {
        let k = own.side(ring, end)?;
        let angle = own.plane.out.angle_between(all[*j].plane.out) / 2.0;
        let (edge, beside) = ([ring[k], ring[(k + 1) % n]], [way(k + n - 1), way(k + 1)]);
        Some(EdgeBevel { edge, beside, angle, up: false })
    });
    made.collect()
}
