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

    /// What of its plane lies behind all of these.
    fn ring(&self, planes: &[Plane], reach: f64) -> Vec<DVec2> {
        let square = [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)];
        let mut ring: Vec<DVec2> = square.map(|(x, y)| DVec2::new(x, y) * reach).into();
        for p in planes {
            let way = DVec2::new(p.out.dot(self.x), p.out.dot(self.y));
            ring = clipped(&ring, way, p.off - p.out.dot(self.o));
        }
        ring.dedup_by(|a, b| a.distance(*b) < COINCIDENT);
        while ring.len() > 1 && ring[0].distance(ring[ring.len() - 1]) < COINCIDENT {
            ring.pop();
        }
        ring
    }

    /// The side of a ring that lies on a plane.
    fn side(&self, ring: &[DVec2], plane: &Plane) -> Option<usize> {
        let on = |q: DVec2| (plane.out.dot(self.point(q)) - plane.off).abs() < COINCIDENT;
        let n = ring.len();
        (0..n).find(|k| on(ring[*k]) && on(ring[(k + 1) % n]))
    }
}

/// The planes that the outline of a plate ends at.
struct Limits {
    others: Vec<(usize, Plane)>,
    ends: Vec<Plane>,
}

impl PanelsShape {
    /// The face that is left out.
    fn gone(&self, all: &[Stood]) -> Option<usize> {
        let side = self.open?;
        all.iter().position(|s| s.face.name == side.name())
    }

    fn stood(face: &Face) -> Stood<'_> {
        let o = face.ring[0];
        let x = (face.ring[1] - o).normalize_or_zero();
        Stood { face, plane: Plane { out: face.out, off: face.out.dot(o) }, o, x, y: face.out.cross(x) }
    }

    /// How far from the planes of two faces beside one another both end, along either normal.
    fn apart(&self, cos: f64) -> f64 {
        // Each gives gap / (2·sin β/2) along its face, β the angle inside: that is gap · cos β/2.
        self.gap * ((1.0 - cos) / 2.0).sqrt()
    }

    /// Where the outline of a face ends: at the other faces, each with its place among all, and at the
    /// openings.
    fn limits(&self, k: usize, all: &[Stood], ends: [Plane; 2], reach: f64) -> Limits {
        let (own, n) = (&all[k], all.len());
        let is_beside = |j: usize| (k + 1) % n == j || (j + 1) % n == k;
        let cos = |j: usize| own.plane.out.dot(all[j].plane.out).clamp(-1.0, 1.0);
        let stands = |j: &usize| *j != k && Some(*j) != self.gone(all);
        // A side that is not there leaves its neighbours as they are told.
        let left = self.gone(all).map(|j| all[j].plane);
        let inside = |j: usize| Plane {
            off: all[j].plane.off - if is_beside(j) { self.apart(cos(j)) } else { 0.0 },
            ..all[j].plane
        };
        let planes = (0..n).filter(stands).map(|j| (j, inside(j)));
        if !self.is_mitred {
            return Limits { others: planes.collect(), ends: left.into_iter().chain(ends).collect() };
        }
        // The inner face is the bevelled ones' narrower one: no edge of the outline ends outside of it.
        let all_planes: Vec<Plane> = planes.clone().map(|p| p.1).chain(left).chain(ends).collect();
        let inner = own.ring(&all_planes, reach);
        let most =
            |out: DVec3| inner.iter().map(|q| out.dot(own.point(*q))).fold(f64::NEG_INFINITY, f64::max);
        let wide = planes.map(|(j, p)| {
            let touches = own.face.ring.iter().any(|q| (p.out.dot(*q) - all[j].plane.off).abs() < COINCIDENT);
            let off = if touches { most(p.out).min(p.off) } else { p.off };
            (j, Plane { off: off + self.thickness * (1.0 - cos(j)), ..p })
        });
        let at_ends = ends.map(|p| Plane { off: most(p.out).min(p.off), ..p });
        Limits { others: wide.collect(), ends: left.into_iter().chain(at_ends).collect() }
    }

    /// The plates, against the clock from the first face.
    pub fn plates(&self, from: DVec3) -> Result<Vec<Cutting>, NoPanels> {
        let [low, high] = &self.openings;
        let skin = Skin::of([low, high], LINES, -self.inwards).map_err(NoPanels::Skin)?;
        // Moved, a corner may lie off the planes of what is told that touch only it.
        let moved = facets(&skin.moved).ok_or(NoPanels::Skin(NoSkin::Crosses))?;
        let faces = named(&moved, &skin.moved);
        let all: Vec<Stood> = faces.iter().map(Self::stood).collect();
        let open = self.gone(&all);
        if let (Some(side), None) = (self.open, open) {
            return Err(NoPanels::Side(side));
        }
        let ends = [
            Plane { out: -low.normal(), off: -low.normal().dot(low.o) },
            Plane { out: high.normal(), off: high.normal().dot(high.o) },
        ];
        let reach = 4.0 * skin.moved.iter().flatten().map(|p| p.length()).fold(self.thickness, f64::max);
        let n = all.len();
        let made = (0..n).filter(|k| Some(*k) != open).map(|k| {
            let (own, limits) = (&all[k], self.limits(k, &all, ends, reach));
            let others = &limits.others;
            let planes: Vec<Plane> = others.iter().map(|o| o.1).chain(limits.ends.iter().copied()).collect();
            let ring = own.ring(&planes, reach);
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
                plate.bevels = bevels(own, &ring, others, &all);
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
