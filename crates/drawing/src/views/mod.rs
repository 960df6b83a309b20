//! Bodies seen in parallel, as lines: edges and silhouettes, what is hidden of them, each line once.

mod blurred;
mod body;
mod cut;
mod hidden;
mod merged;

use glam::{DVec2, DVec3};
use ground::geom::Bounds;

pub use body::{Body, bare, of_sheet};
pub use cut::{Cut, cut};
pub use hidden::{Scene, wires};

/// Where one looks from.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Sight {
    /// To the right of the picture.
    pub right: DVec3,
    /// Upwards in it.
    pub up: DVec3,
    /// From what is seen to who looks.
    pub eye: DVec3,
}

impl Sight {
    /// Across, up, and nearness of a point.
    pub fn place(&self, p: DVec3) -> DVec3 {
        DVec3::new(p.dot(self.right), p.dot(self.up), p.dot(self.eye))
    }

    pub fn flat(&self, p: DVec3) -> DVec2 {
        self.place(p).truncate()
    }

    /// From the south, looking north.
    pub const FRONT: Sight = Sight { right: DVec3::X, up: DVec3::Z, eye: DVec3::NEG_Y };
    /// From above.
    pub const TOP: Sight = Sight { right: DVec3::X, up: DVec3::Y, eye: DVec3::Z };
    /// From the east.
    pub const RIGHT: Sight = Sight { right: DVec3::Y, up: DVec3::Z, eye: DVec3::X };
    /// From the west.
    pub const LEFT: Sight = Sight { right: DVec3::NEG_Y, up: DVec3::Z, eye: DVec3::NEG_X };

    /// All three axes shortened alike (ISO 5456-3, isometric), from the south-west above.
    pub fn isometric() -> Sight {
        let eye = DVec3::new(-1.0, -1.0, 1.0).normalize();
        let right = DVec3::Z.cross(eye).normalize();
        Sight { right, up: eye.cross(right), eye }
    }
}

/// What is drawn of bodies, in mm, y upwards: each line in the first of these that it belongs to, once.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Wires {
    /// Edges and silhouettes that are seen.
    pub seen: Vec<Vec<DVec2>>,
    /// Where a surface goes over smoothly into the next.
    pub soft: Vec<Vec<DVec2>>,
    /// Edges behind something.
    pub hidden: Vec<Vec<DVec2>>,
}

impl Wires {
    pub fn bounds(&self) -> Bounds {
        Bounds::of(self.seen.iter().chain(&self.soft).chain(&self.hidden).flatten().copied())
    }
}
