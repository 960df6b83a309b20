//! The four sides of a hopper between two rectangular openings: plane plates whose inner edges meet in the
//! corners, so that the outer edges leave a groove for the weld, or of which two run over the others.

use glam::{DVec2, DVec3};
use ground::geom::COINCIDENT;
use sheet::EdgeBevel;
use sheet::choices::Compass;

use super::board::{Board, Plane, given_for};
use super::plates::{Corner, Met};
use super::sides::{Outer, Side, SideFace, Sides};

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
    /// Which of the sides, as they stand in `Compass::ALL`, are not there.
    pub open: [bool; 4],
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
    fn plane(&self, side: Compass) -> Plane {
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
    fn end(&self, upper: bool) -> Plane {
        if upper { self.rim() } else { Plane { out: DVec3::NEG_Z, off: 0.0 } }
    }

    /// Its sides, one under each way of the compass.
    pub fn sides(&self) -> Sides {
        let side = |s: Compass| Side {
            name: s.name().into(),
            plane: self.plane(s),
            stands: !self.open[s as usize],
            opens: [&self.bottom, &self.top].map(|o| o.size.min_element() > 0.0),
        };
        let ends = [false, true].map(|upper| self.end(upper));
        Sides { all: Compass::ALL.map(side).into(), ends, thickness: self.thickness }
    }

    /// The corner of two sides beside one another.
    fn corner(&self, a: Compass, b: Compass) -> HopperCorner {
        self.corners[if a.next() == b { a } else { b } as usize]
    }

    /// How far a side reaches beyond the inner face of one beside it, along that one's normal. Edges are
    /// square, and no edge stands out of the outer face of the other.
    fn beyond(&self, side: Compass, beside: Compass) -> f64 {
        if beside == side.across() || [side, beside].iter().any(|s| self.open[*s as usize]) {
            return 0.0;
        }
        let cos = self.plane(side).out.dot(self.plane(beside).out).clamp(-1.0, 1.0);
        let corner = self.corner(side, beside);
        match corner.how {
            Corners::Edge => -given_for(corner.gap, cos),
            // As wide as the outer face, which the inner one is cut back from.
            Corners::Mitred => self.thickness * (1.0 - cos) - given_for(corner.gap, cos),
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

    /// Where a side ends at another.
    fn end_at(&self, side: Compass, beside: Compass) -> Plane {
        let plane = self.plane(beside);
        Plane { off: plane.off + self.beyond(side, beside), ..plane }
    }

    /// The edges of a side that are bevelled.
    fn bevels(&self, side: Compass, ring: &[DVec2], board: &Board) -> Vec<EdgeBevel> {
        let beside = [side.next(), side.across().next()];
        let mitred = beside
            .into_iter()
            .filter(|b| !self.open[*b as usize] && self.corner(side, *b).how == Corners::Mitred);
        mitred.filter_map(|b| board.bevel(ring, &self.end_at(side, b))).collect()
    }

    /// The inner faces of the sides that stand. Where the edge of one is told to be that of its outer face
    /// (`outer`), at an opening, that one lies in the opening's plane.
    pub fn faces(&self, outer: Outer) -> Result<Vec<SideFace>, NoHopper> {
        let sides = self.sides();
        let low = Compass::ALL.map(|s| {
            let [a, b] = [s, s.next()].map(|s| s.out() * self.bottom.edge(s));
            (a + b).extend(0.0)
        });
        if low.iter().any(|p| sides.end(true).out.dot(*p) > sides.end(true).off - COINCIDENT) {
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
            .map(|side| {
                let plane = sides.all[side as usize].plane;
                let ends = sides.ends_of(side as usize, outer);
                let x = side.out().perp().extend(0.0);
                let y = plane.out.cross(x);
                // A place of the plane above the middle of the lower opening.
                let middle = self.bottom.middle.extend(0.0);
                let o = middle + plane.out * (plane.off - plane.out.dot(middle));
                let board = Board { o, x, y };
                let others = Compass::ALL.into_iter().filter(|s| *s != side).map(|s| self.end_at(side, s));
                let ring = board.behind(others.chain(ends), reach);
                if ring.len() < 3 {
                    return Err(NoHopper::Side(side));
                }
                // A pyramid ends in a point; what is told as open has to stay so.
                for (upper, told) in [(false, self.bottom), (true, self.top)] {
                    let is_open = board.side(&ring, &ends[usize::from(upper)]).is_some();
                    if told.size.min_element() > COINCIDENT && !is_open {
                        return Err(NoHopper::Closed { upper });
                    }
                }
                let bevels = self.bevels(side, &ring, &board);
                let seam = board.along(&ring, &self.end_at(side, side.next()));
                let next = sides.all[side.next() as usize].plane;
                let cos = plane.out.dot(next.out).clamp(-1.0, 1.0);
                let met = self.corner(side, side.next());
                let corner = (!self.open[side.next() as usize]).then(|| Corner {
                    next: side.next().name().into(),
                    angle: std::f64::consts::PI - cos.acos(),
                    how: met.how.met(),
                    open: self.left_open(met, cos),
                });
                Ok(SideFace { side: side as usize, ring, o, x, y, seam, corner, bevels })
            })
            .filter(|f| !matches!(f, Ok(f) if self.open[f.side]))
            .collect()
    }
}
