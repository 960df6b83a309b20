//! What may be chosen of a transition: its seam, how it is made and laid, what of it is there.

use std::f64::consts::FRAC_PI_4;

use ground::{choice, word};

use crate::choices::Compass;
use crate::flat::transition::unrolled::Stands;

word! {
    /// Where a transition is joined.
    pub enum TransitionSeam {
        /// A corner where both openings have some, else the middle of the south.
        #[default]
        Usual,
        South,
        SouthEast,
        East,
        NorthEast,
        North,
        NorthWest,
        West,
        SouthWest,
        /// Along both edges of a side, which hangs on the closed end alone.
        BothNorth,
        BothEast,
        BothSouth,
        BothWest,
    }
}

impl TransitionSeam {
    /// Which way it looks, rad.
    pub fn heading(self, is_round: bool) -> f64 {
        use TransitionSeam::*;
        let eighth = match self {
            Usual if is_round => -2.0,
            Usual | SouthEast => -1.0,
            South | BothSouth => -2.0,
            East | BothEast => 0.0,
            NorthEast => 1.0,
            North | BothNorth => 2.0,
            NorthWest => 3.0,
            West | BothWest => 4.0,
            SouthWest => 5.0,
        };
        eighth * FRAC_PI_4
    }

    /// The side whose edges are both cut.
    pub fn ripped(self) -> Option<Compass> {
        match self {
            TransitionSeam::BothNorth => Some(Compass::North),
            TransitionSeam::BothEast => Some(Compass::East),
            TransitionSeam::BothSouth => Some(Compass::South),
            TransitionSeam::BothWest => Some(Compass::West),
            _ => None,
        }
    }
}

word! {
    /// How the faces of a transition meet.
    pub enum TransitionMade {
        /// Bent, or creased where an opening is round.
        #[default]
        Usual,
        Bent,
        /// Along lines, without allowance.
        Creased,
    }
}

word! {
    /// What the faces of a transition hang on in the flat.
    pub enum TransitionLaid {
        /// On one another.
        #[default]
        Row,
        Bottom,
        Top,
    }
}

choice! {
    /// What of a transition is made.
    pub enum TransitionStands by "kind" {
        Whole {},
        /// All but the side that looks this way.
        Without {
            #[serde(default)]
            side: Compass,
        },
        Half {
            #[serde(default)]
            side: Compass,
        },
    }
}

impl Default for TransitionStands {
    fn default() -> Self {
        TransitionStands::Whole {}
    }
}

impl TransitionStands {
    pub fn of(&self) -> Stands {
        match *self {
            TransitionStands::Whole {} => Stands::Whole,
            TransitionStands::Without { side } => Stands::Without(side),
            TransitionStands::Half { side } => Stands::Half(side),
        }
    }
}

choice! {
    /// What of a transition is kept by an upright cut, so far from the middle of its lower opening.
    pub enum TransitionKept by "kind" {
        All {},
        Only {
            #[serde(default)]
            side: Compass,
            at: String,
        },
    }
}

impl Default for TransitionKept {
    fn default() -> Self {
        TransitionKept::All {}
    }
}

impl TransitionKept {
    pub fn is_all(&self) -> bool {
        *self == TransitionKept::All {}
    }

    /// The side that is kept, and from where.
    pub fn of(&self) -> Option<(Compass, &str)> {
        match self {
            TransitionKept::All {} => None,
            TransitionKept::Only { side, at } => Some((*side, at)),
        }
    }
}
