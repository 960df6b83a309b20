//! Plane plates round two openings, as flanges, stiffeners and lugs find them: of a hopper, or of a
//! transition.

use glam::{DVec2, DVec3};
use ground::geom::Contour;
use sheet::EdgeBevel;

use super::board::Plane;
use super::plates::{Corner, Cutting};
use super::rim_flats::flats;
use super::rims::Rims;
use super::skeleton::Skeleton;
use super::spec::Turn;

/// What plates between openings are called.
pub const HOPPER_SIDE: &str = "hopper side";
pub const TRANSITION_SIDE: &str = "transition side";

/// Where one of the plates stands, or would stand.
#[derive(Clone, Debug)]
pub struct Side {
    pub name: String,
    /// Of its inner face, out of what the plates enclose.
    pub plane: Plane,
    pub stands: bool,
    /// Whether it comes to the lower and the upper opening with an edge, and not with its tip.
    pub opens: [bool; 2],
}

/// Whether a side ends at an opening (the upper one) with the edge of its outer face.
pub type Outer<'a> = &'a dyn Fn(usize, bool) -> bool;

/// All of them against the clock, seen from above.
#[derive(Clone, Debug)]
pub struct Sides {
    pub all: Vec<Side>,
    /// The planes of the openings, out of what the plates enclose.
    pub ends: [Plane; 2],
    pub thickness: f64,
}

impl Sides {
    pub fn end(&self, upper: bool) -> &Plane {
        &self.ends[usize::from(upper)]
    }

    /// Where the inner face of a side ends at both openings; where told so (`outer`), its outer face lies in
    /// the opening's plane instead.
    pub fn ends_of(&self, k: usize, outer: Outer) -> [Plane; 2] {
        [false, true].map(|upper| {
            let end = *self.end(upper);
            let by = if outer(k, upper) { self.thickness * self.all[k].plane.out.dot(end.out) } else { 0.0 };
            Plane { off: end.off - by, ..end }
        })
    }

    pub fn named(&self, name: &str) -> Option<usize> {
        self.all.iter().position(|s| s.name == name)
    }

    /// The next of a side against the clock, or the one before.
    pub fn beside(&self, k: usize, next: bool) -> usize {
        let n = self.all.len();
        (k + if next { 1 } else { n - 1 }) % n
    }

    /// The same along an opening: the next that comes to it with an edge.
    pub fn along(&self, k: usize, upper: bool, next: bool) -> usize {
        let mut at = self.beside(k, next);
        while at != k && !self.all[at].opens[usize::from(upper)] {
            at = self.beside(at, next);
        }
        at
    }

    /// Whether a side that comes to an opening with its tip stands beside this one.
    pub fn is_by_tip(&self, k: usize, upper: bool) -> bool {
        let beside = [false, true].map(|next| &self.all[self.beside(k, next)]);
        beside.iter().any(|s| s.stands && !s.opens[usize::from(upper)])
    }

    /// Those that come to an opening with an edge.
    pub fn round(&self, upper: bool) -> Vec<usize> {
        (0..self.all.len()).filter(|k| self.all[*k].opens[usize::from(upper)]).collect()
    }
}

/// The inner face of a plate: its corners in its own plane, against the clock as it is looked at from
/// outside, and where that plane stands; `y` runs up its slope.
#[derive(Clone, Debug)]
pub struct SideFace {
    /// Which of the sides it is.
    pub side: usize,
    pub ring: Vec<DVec2>,
    pub o: DVec3,
    pub x: DVec3,
    pub y: DVec3,
    /// How long it meets the next side, and how; none where that one does not stand.
    pub seam: f64,
    pub corner: Option<Corner>,
    /// Edges that are bevelled, cut back on the inner face.
    pub bevels: Vec<EdgeBevel>,
}

impl SideFace {
    /// Square to it, out of what the plates enclose.
    pub fn out(&self) -> DVec3 {
        self.x.cross(self.y)
    }

    pub fn point(&self, p: DVec2, height: f64) -> DVec3 {
        self.o + self.x * p.x + self.y * p.y + self.out() * height
    }
}

/// Plates that stand: what is known of them before flanges are told.
#[derive(Clone, Debug)]
pub struct Standing {
    pub sides: Sides,
    /// Of those that stand.
    pub faces: Vec<SideFace>,
    /// Where the middle of the lower opening lies.
    pub o: DVec3,
}

/// Keeps what a line makes where it stands: on a node, or at the origin.
pub fn keep(
    turn: &mut Turn,
    skeleton: &mut Skeleton,
    at: &str,
    made: Option<(Sides, Vec<SideFace>)>,
) -> Option<()> {
    let o = match at.trim() {
        "" => Some(DVec3::ZERO),
        name => skeleton.known(turn.tell, "/say/at", name).map(|node| skeleton.nodes[node].at),
    };
    let standing = o.zip(made).map(|(o, (sides, faces))| Standing { sides, faces, o });
    skeleton.standing.insert(turn.line.into(), standing);
    Some(())
}

impl Standing {
    /// Each seam is told of the plate that comes first.
    fn plate(&self, turn: &mut Turn, rims: &Rims, face: &SideFace, call: &str) -> Cutting {
        let outline = Contour::polygon(face.ring.iter().copied(), 0);
        let plate = Cutting::new(call, outline, self.sides.thickness, self.o + face.o, face.x, face.y);
        let name = &self.sides.all[face.side].name;
        let seam = face.corner.as_ref().map_or(0.0, |_| face.seam + rims.seams(&self.sides, face));
        Cutting {
            corner: face.corner.clone(),
            is_joined: true,
            folds: rims.folds(turn.tell, &self.sides, face),
            bevels: face.bevels.clone(),
            ..plate.part(name).welded(seam, self.sides.thickness)
        }
    }

    /// The plates with their flanges, their faces as these want them, and the flats that are welded on or lie
    /// on flanges.
    pub fn plates<E>(
        &self,
        turn: &mut Turn,
        call: &str,
        faces: impl FnOnce(Outer) -> Result<Vec<SideFace>, E>,
    ) -> Result<Vec<Cutting>, E> {
        let rims = Rims::of(turn.tell, turn.rims, turn.line, &self.sides);
        let faces = faces(&|side, upper| rims.ends_outside(&self.sides, side, upper))?;
        let mut plates: Vec<Cutting> = faces.iter().map(|f| self.plate(turn, &rims, f, call)).collect();
        let flanged: Vec<_> = faces.iter().zip(plates.iter().map(|p| p.folds.as_slice())).collect();
        let flats = flats(turn.tell, &rims, &self.sides, &flanged, self.o);
        plates.extend(flats);
        turn.tell.enter(turn.line);
        Ok(plates)
    }
}
