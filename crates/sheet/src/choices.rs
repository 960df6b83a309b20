//! Choices that lines tell and geometry follows.

use glam::DVec2;
use ground::word;

word! {
    pub enum Direction {
        #[default]
        Up,
        Down,
    }
}

word! {
    /// Where the bend sits relative to the edge that is folded.
    pub enum BendAt {
        /// The outer face of the folded panel in line with the edge (beyond 90°: its outermost tangent).
        #[default]
        OuterFace,
        /// The inner face in line with the edge.
        InnerFace,
        /// The bend starts at the edge: the panel keeps its size.
        FromEdge,
        /// The virtual sharp of the outer faces on the edge, at any angle.
        Sharp,
    }
}

word! {
    /// What is cut beside a bend that ends short of a corner.
    pub enum ReliefKind {
        #[default]
        Square,
        RoundEnded,
        /// A slit only: the material tears.
        Torn,
    }
}

word! {
    /// How two neighbouring folds meet.
    pub enum Close {
        /// Inner edge to inner edge, the outside open for a weld; folds that lean come out mitred.
        #[default]
        Edge,
        /// The fold before the corner (counter-clockwise) laps the end of the other.
        LapBefore,
        /// The fold after the corner laps the end of the other.
        LapAfter,
        /// Each ends at the tangent line of the other.
        Open,
    }
}

word! {
    pub enum CornerRelief {
        #[default]
        None,
        Square,
        Round,
        /// Along the middle of the corner.
        Slot,
    }
}

word! {
    /// What of the bend lies on the line.
    pub enum LineAt {
        /// The middle of the bend.
        #[default]
        Centre,
        /// The tangent line on the side that stays.
        Tangent,
        /// The virtual sharp of the outer faces.
        Sharp,
    }
}

word! {
    /// The edge a distance is told from. East, north, right and tip distances run inwards.
    pub enum From {
        #[default]
        Centre,
        West,
        East,
        South,
        North,
        /// Ends of a folded panel, seen with its fold at the bottom.
        Left,
        Right,
        /// The tangent line of a folded panel.
        Fold,
        /// The outside of the bend that a folded panel hangs on: where its outside length starts.
        Outside,
        /// The free edge of a folded panel.
        Tip,
    }
}

impl From {
    /// A folded panel's own word, not the compass's.
    pub fn is_own(self) -> bool {
        matches!(self, From::Left | From::Right | From::Fold | From::Outside | From::Tip)
    }

    /// Told from the far end: a greater distance lies further back.
    pub fn is_far(self) -> bool {
        matches!(self, From::East | From::North | From::Right | From::Tip)
    }
}

word! {
    /// The side of another hole.
    pub enum BesideWay {
        #[default]
        East,
        West,
        North,
        South,
    }
}

word! {
    /// What a distance beside another hole runs between.
    pub enum BesideBy {
        /// The edges of both.
        #[default]
        Gap,
        /// Their middles.
        Middles,
    }
}

word! {
    /// What of the shape the distance runs to.
    pub enum To {
        #[default]
        Centre,
        /// The shape's side nearest that edge.
        Side,
    }
}

word! {
    /// What of a bent edge a distance is told from.
    pub enum EdgeOf {
        /// The edge of the panel in the flat: its tangent line, or where its metal ends.
        #[default]
        Panel,
        /// The outer face of the wall or bend there, as a rule finds it on the formed piece; the metal's end
        /// where nothing is bent.
        Outside,
    }
}

impl EdgeOf {
    pub fn is_panel(&self) -> bool {
        *self == EdgeOf::Panel
    }
}

word! {
    /// What becomes of a corner of the outline.
    pub enum Treatment {
        #[default]
        Radius,
        Chamfer,
        /// A half circle over the whole end.
        FullEnd,
    }
}

word! {
    /// The face that leg lengths are told from.
    pub enum Measure {
        #[default]
        Outside,
        Inside,
        Middle,
    }
}

word! {
    /// Which way the width lies from the profile.
    pub enum Side {
        #[default]
        Symmetric,
        North,
        South,
    }
}

word! {
    /// How the rims of a cone are finished, and so where its diameters are measured.
    pub enum ConeEnds {
        /// As cut, square to the sheet: on the rim's own edge.
        #[default]
        Square,
        /// Ground level: in the plane of the end.
        Level,
    }
}

impl ConeEnds {
    pub fn is_square(&self) -> bool {
        *self == ConeEnds::Square
    }
}

word! {
    /// A side, by the compass.
    pub enum Compass {
        South,
        East,
        #[default]
        North,
        West,
    }
}

impl Compass {
    /// Against the clock, seen from above.
    pub const ALL: [Compass; 4] = [Compass::South, Compass::East, Compass::North, Compass::West];

    pub fn name(self) -> &'static str {
        match self {
            Compass::South => "south",
            Compass::East => "east",
            Compass::North => "north",
            Compass::West => "west",
        }
    }

    /// The way that it looks.
    pub fn out(self) -> DVec2 {
        match self {
            Compass::South => DVec2::NEG_Y,
            Compass::East => DVec2::X,
            Compass::North => DVec2::Y,
            Compass::West => DVec2::NEG_X,
        }
    }

    pub fn next(self) -> Compass {
        Compass::ALL[(self as usize + 1) % 4]
    }

    pub fn across(self) -> Compass {
        Compass::ALL[(self as usize + 2) % 4]
    }

    /// The next, or the one before.
    pub fn beside(self, next: bool) -> Compass {
        Compass::ALL[(self as usize + if next { 1 } else { 3 }) % 4]
    }
}
