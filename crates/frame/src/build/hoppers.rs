//! The four sides of a hopper between two rectangular openings: plane plates whose inner edges meet in the
//! corners, so that the outer edges leave a groove for the weld, or of which two run over the others.

use glam::{DVec2, DVec3};
use ground::geom::COINCIDENT;
use ground::geom::convex::clipped;
use sheet::EdgeBevel;
use sheet::choices::Compass;

use super::plates::Met;

/// An opening in plan.
#[derive(Clone, Copy, Debug)]
pub struct Opening {
    pub middle: DVec2,
    pub size: DVec2,
}

impl Opening {
    /// How far its edge lies out on a side.
    fn edge(&self, side: Compass) -> f64 {
        self.middle.dot(side.out()) + self.size.dot(side.out().abs()) / 2.0
    }
}

/// Two openings one above the other, as they are told.
#[derive(Clone, Copy, Debug)]
pub struct HopperShape {
    pub bottom: Opening,
    pub top: Opening,
    pub height: f64,
    /// A side whose upper edge stands at another height.
    pub taller: Option<(Compass, f64)>,
    /// How far inside of the told faces the inner ones lie.
    pub inwards: f64,
    pub thickness: f64,
    /// The side that is not there.
    pub open: Option<Compass>,
    /// Each corner under the side that comes first in it, against the clock.
    pub corners: [HopperCorner; 4],
}

/// A corner of a hopper.
#[derive(Clone, Copy, Debug)]
pub struct HopperCorner {
    pub how: Corners,
    /// Left between the plates, for the weld.
    pub gap: f64,
}

/// How the sides meet.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Corners {
    /// Inner edge to inner edge.
    Edge,
    /// This side and the one across run over the edges of the others.
    Over(Compass),
    /// Bevelled edges, whole over the thickness.
    Mitred,
}

impl Corners {
    pub fn met(self) -> Met {
        match self {
            Corners::Edge => Met::Edge,
            Corners::Over(_) => Met::Lapped,
            Corners::Mitred => Met::Mitred,
        }
    }
}

/// A plane that the metal's inside lies behind: `out · p ≤ off`.
#[derive(Clone, Copy, Debug)]
pub struct Plane {
    pub out: DVec3,
    pub off: f64,
}

impl Plane {
    fn through(at: DVec3, out: DVec3) -> Plane {
        let out = out.normalize_or_zero();
        Plane { out, off: out.dot(at) }
    }
}

/// The inner face of one side: its corners in its own plane, against the clock as it is looked at from
/// outside, and where that plane stands.
#[derive(Clone, Debug)]
pub struct Face {
    pub side: Compass,
    pub ring: Vec<DVec2>,
    pub o: DVec3,
    pub x: DVec3,
    pub y: DVec3,
    /// How long it meets the next side, and the angle between the two, measured inside, rad.
    pub seam: f64,
    pub angle: f64,
    /// What the plates leave between them there.
    pub open: f64,
    /// Edges that are bevelled, cut back on the inner face.
    pub bevels: Vec<EdgeBevel>,
}

impl Face {
    /// Square to it, out of the hopper.
    pub fn out(&self) -> DVec3 {
        self.x.cross(self.y)
    }

    pub fn point(&self, p: DVec2, height: f64) -> DVec3 {
        self.o + self.x * p.x + self.y * p.y + self.out() * height
    }
}

/// Why there is no hopper.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum NoHopper {
    /// Of this side nothing is left.
    Side(Compass),
    /// Between the inner faces nothing is left of the lower or the upper opening.
    Closed { upper: bool },
    /// The plane of the upper opening runs into the lower one.
    Tilted,
}

impl HopperShape {
    /// How high the upper edge of a side stands; of one beside a taller one, its middle.
    fn height_at(&self, side: Compass) -> f64 {
        match self.taller {
            Some((taller, high)) if side == taller => high,
            Some((taller, high)) if side != taller.across() => (high + self.height) / 2.0,
            _ => self.height,
        }
    }

    /// The plane of the inner face of a side: through both of its told edges, moved inwards.
    pub fn plane(&self, side: Compass) -> Plane {
        let (out, along) = (side.out(), side.out().perp());
        let (from, to) = (self.bottom.edge(side), self.top.edge(side));
        let up = (out * (to - from)).extend(self.height_at(side));
        let normal = along.extend(0.0).cross(up);
        let face = Plane::through((out * from).extend(0.0), normal);
        Plane { off: face.off - self.inwards, ..face }
    }

    /// The plane of the upper opening.
    fn rim(&self) -> Plane {
        let Some((taller, high)) = self.taller else {
            return Plane::through(DVec3::Z * self.height, DVec3::Z);
        };
        let low = taller.across();
        let run = self.top.edge(taller) + self.top.edge(low);
        let rise = (high - self.height) / run;
        let at = (low.out() * self.top.edge(low)).extend(self.height);
        Plane::through(at, (taller.out() * -rise).extend(1.0))
    }

    /// The plane of an opening, and the way out of the hopper there.
    pub fn end(&self, upper: bool) -> Plane {
        if upper { self.rim() } else { Plane { out: DVec3::NEG_Z, off: 0.0 } }
    }

    /// The corner of two sides beside one another.
    fn corner(&self, a: Compass, b: Compass) -> HopperCorner {
        self.corners[if a.next() == b { a } else { b } as usize]
    }

    /// How far a side reaches beyond the inner face of one beside it, along that one's normal. Edges are
    /// square, and no edge stands out of the outer face of the other.
    fn beyond(&self, side: Compass, beside: Compass) -> f64 {
        if beside == side.across() || [side, beside].iter().any(|s| self.open == Some(*s)) {
            return 0.0;
        }
        let cos = self.plane(side).out.dot(self.plane(beside).out).clamp(-1.0, 1.0);
        let corner = self.corner(side, beside);
        match corner.how {
            // Each gives gap / (2·sin β/2) along its face, β the angle inside: that is gap · cos β/2.
            Corners::Edge => -corner.gap * ((1.0 - cos) / 2.0).sqrt(),
            // As wide as the outer face, which the inner one is cut back from.
            Corners::Mitred => self.thickness * (1.0 - cos) - corner.gap * ((1.0 - cos) / 2.0).sqrt(),
            Corners::Over(over) if side == over || side == over.across() => {
                self.thickness * (1.0 - cos.max(0.0))
            }
            Corners::Over(_) => -corner.gap - self.thickness * cos.max(0.0),
        }
    }

    /// What is left open in a corner: between inner edges, or at most between an edge and the face that runs
    /// over it.
    fn left_open(&self, corner: HopperCorner, cos: f64) -> f64 {
        match corner.how {
            Corners::Edge | Corners::Mitred => corner.gap,
            Corners::Over(_) => corner.gap + self.thickness * cos.abs(),
        }
    }

    /// The edges of a side that are bevelled, and by how much: half of the angle between it and its
    /// neighbour.
    fn bevels(&self, side: Compass, ring: &[DVec2], o: DVec3, x: DVec3, y: DVec3) -> Vec<EdgeBevel> {
        let own = self.plane(side);
        let beside = [side.next(), side.across().next()];
        let mitred = beside
            .into_iter()
            .filter(|b| self.open != Some(*b) && self.corner(side, *b).how == Corners::Mitred);
        let made = mitred.filter_map(|b| {
            let plane = self.plane(b);
            let reach = plane.off + self.beyond(side, b);
            let on = |q: &DVec2| (plane.out.dot(o + x * q.x + y * q.y) - reach).abs() < COINCIDENT;
            let n = ring.len();
            let k = (0..n).find(|k| on(&ring[*k]) && on(&ring[(k + 1) % n]))?;
            let angle = own.out.dot(plane.out).clamp(-1.0, 1.0).acos() / 2.0;
            let way = |k: usize| (ring[(k + 1) % n] - ring[k % n]).normalize_or_zero();
            let (edge, beside) = ([ring[k], ring[(k + 1) % n]], [way(k + n - 1), way(k + 1)]);
            Some(EdgeBevel { edge, beside, angle, up: false })
        });
        made.collect()
    }

    /// The inner faces. Where the edge of a side is told to be that of its outer face (`outer`), at an
    /// opening, that one lies in the opening's plane.
    pub fn faces(&self, outer: &dyn Fn(Compass, bool) -> bool) -> Result<Vec<Face>, NoHopper> {
        let sides = Compass::ALL.map(|s| self.plane(s));
        let level = [false, true].map(|upper| self.end(upper));
        let low = Compass::ALL.map(|s| {
            let [a, b] = [s, s.next()].map(|s| s.out() * self.bottom.edge(s));
            (a + b).extend(0.0)
        });
        if low.iter().any(|p| level[1].out.dot(*p) > level[1].off - COINCIDENT) {
            return Err(NoHopper::Tilted);
        }
        let reach = 4.0
            * (self.bottom.size.length()
                + self.top.size.length()
                + self.bottom.middle.distance(self.top.middle)
                + self.height
                + self.taller.map_or(0.0, |t| t.1));
        Compass::ALL
            .into_iter()
            .zip(sides)
            .map(|(side, plane)| {
                let ends = [false, true].map(|upper| {
                    let end = level[usize::from(upper)];
                    let by = if outer(side, upper) { self.thickness * plane.out.dot(end.out) } else { 0.0 };
                    Plane { off: end.off - by, ..end }
                });
                let x = side.out().perp().extend(0.0);
                let y = plane.out.cross(x);
                // A place of the plane above the middle of the lower opening.
                let middle = self.bottom.middle.extend(0.0);
                let o = middle + plane.out * (plane.off - plane.out.dot(middle));
                let square = [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)];
                let mut ring: Vec<DVec2> = square.map(|(x, y)| DVec2::new(x, y) * reach).into();
                let others = Compass::ALL.into_iter().zip(sides).filter(|(s, _)| *s != side);
                let others = others.map(|(s, p)| Plane { off: p.off + self.beyond(side, s), ..p });
                for p in others.chain(ends) {
                    let way = DVec2::new(p.out.dot(x), p.out.dot(y));
                    ring = clipped(&ring, way, p.off - p.out.dot(o));
                }
                ring.dedup_by(|a, b| a.distance(*b) < COINCIDENT);
                while ring.len() > 1 && ring[0].distance(ring[ring.len() - 1]) < COINCIDENT {
                    ring.pop();
                }
                if ring.len() < 3 {
                    return Err(NoHopper::Side(side));
                }
                // A pyramid ends in a point; what is told as open has to stay so.
                for (upper, told) in [(false, self.bottom), (true, self.top)] {
                    let end = ends[usize::from(upper)];
                    let on = |q: &&DVec2| (end.out.dot(o + x * q.x + y * q.y) - end.off).abs() < COINCIDENT;
                    if told.size.min_element() > COINCIDENT && ring.iter().filter(on).count() < 2 {
                        return Err(NoHopper::Closed { upper });
                    }
                }
                let bevels = self.bevels(side, &ring, o, x, y);
                let next = sides[side.next() as usize];
                let reach = next.off + self.beyond(side, side.next());
                let on_next = |q: &DVec2| {
                    let p = o + x * q.x + y * q.y;
                    (next.out.dot(p) - reach).abs() < COINCIDENT
                };
                let met: Vec<DVec2> = ring.iter().copied().filter(on_next).collect();
                let seam = match met.as_slice() {
                    [a, b] => a.distance(*b),
                    _ => 0.0,
                };
                let cos = plane.out.dot(next.out).clamp(-1.0, 1.0);
                let angle = std::f64::consts::PI - cos.acos();
                let open = self.left_open(self.corner(side, side.next()), cos);
                Ok(Face { side, ring, o, x, y, seam, angle, open, bevels })
            })
            .collect()
    }
}
