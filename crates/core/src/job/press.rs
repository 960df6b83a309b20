//! Shapes that are pressed.

use serde::{Deserialize, Serialize};

use super::{Direction, Place};

word! {
    /// The end of its bend that a rib is told from. Left and right are seen from the panel that the bend folds away from; the others are
    /// the flat's, whichever way the bend is made.
    pub enum RibEnd {
        #[default]
        Left,
        Right,
        West,
        East,
        South,
        North,
    }
}

word! {
    pub enum RibShape {
        #[default]
        Round,
        Flat,
    }
}

said! {
    /// A stiffening rib pressed into a bend from the outside, or a bead along a panel. The blank keeps its size.
    pub struct Rib {
        /// Name of a bend; or of a panel, for a bead along it.
        pub on: String,
        #[serde(default)]
        pub shape: RibShape,
        /// How deep it is pressed; for a rib, from the virtual sharp along each leg.
        pub depth: String,
        pub width: String,
        /// For a rib: from an end of the bend to its middle. For a bead: from the south or fold side.
        pub offset: String,
        /// For a rib: which end.
        #[serde(default, skip_serializing_if = "RibEnd::is_left")]
        pub from: RibEnd,
        /// For a bead: its length, in the middle of the panel.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub length: String,
        /// For a bead: the side it stands out on. A rib stands into its bend.
        #[serde(default)]
        pub direction: Direction,
        /// Slope of its sides off square; empty means none.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub draft: String,
        /// Radii of its inner and outer corners; empty means the thickness.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub inner_radius: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub outer_radius: String,
    }
}

/// A shape that is pressed, not cut to size.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum PressShape {
    /// Lanced along one long side and raised there; `width` across. The opening lies south before it is turned.
    Louvre {
        length: String,
        width: String,
        height: String,
    },
    Dimple {
        diameter: String,
        depth: String,
    },
    /// A collar drawn from a pilot hole; `diameter` inside the collar.
    Collar {
        diameter: String,
        height: String,
    },
}

impl Default for PressShape {
    fn default() -> Self {
        PressShape::Dimple { diameter: String::new(), depth: String::new() }
    }
}

said! {
    /// Presses a louvre, a dimple or a collared hole.
    pub struct Press {
        pub shape: PressShape,
        pub place: Place,
        #[serde(default)]
        pub direction: Direction,
    }
}

impl RibEnd {
    pub fn is_left(&self) -> bool {
        *self == RibEnd::Left
    }
}
