//! What a piece starts with.

use serde::{Deserialize, Serialize};

use super::{Close, CornerRelief, Direction};
use crate::shopbook::BendRule;

said! {
    /// A rectangle centred on its middle.
    pub struct StartPlate {
        /// West to east.
        pub width: String,
        /// South to north.
        pub height: String,
    }
}

said! {
    /// A contour told point by point.
    pub struct StartOutline {
        pub points: Vec<Point>,
    }
}

said! {
    /// A corner of a told contour. `bulge` curves the side that leaves it: tan(sweep / 4), positive counter-clockwise.
    pub struct Point {
        pub x: String,
        pub y: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub bulge: String,
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

said! {
    /// A strip told by its side profile: legs, bends and arcs from west to east.
    pub struct StartStrip {
        pub width: String,
        #[serde(default)]
        pub side: Side,
        #[serde(default)]
        pub measure: Measure,
        pub profile: Vec<Element>,
        /// Id of the leg that lies still; empty means the first.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub stays: String,
    }
}

/// A part of a strip's profile.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Element {
    Leg(Leg),
    Bend(Bend),
    Arc(ProfileArc),
}

impl Element {
    pub fn id(&self) -> &str {
        match self {
            Element::Leg(e) => &e.id,
            Element::Bend(e) => &e.id,
            Element::Arc(e) => &e.id,
        }
    }
}

said! {
    pub struct Leg {
        pub id: String,
        pub length: String,
    }
}

said! {
    /// A bend between two legs; leg lengths run to its virtual sharp.
    pub struct Bend {
        pub id: String,
        /// Angle swept: 90 for a square flange.
        pub angle: String,
        #[serde(default)]
        pub direction: Direction,
        /// Inside radius; empty means the piece's.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub bend_rule: Option<BendRule>,
    }
}

said! {
    /// A curved part of the profile; neighbouring legs run to its tangent points.
    pub struct ProfileArc {
        pub id: String,
        /// Of the face that the strip is told from.
        pub radius: String,
        pub angle: String,
        #[serde(default)]
        pub direction: Direction,
    }
}

said! {
    /// Lip, side, web, side, lip, bent from one strip.
    pub struct StartChannel {
        /// Along the channel, south to north.
        pub length: String,
        /// Width of the web.
        pub web: String,
        /// Height of the sides; `west_side` empty means the same as `side`.
        pub side: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub west_side: String,
        /// Width of the lips; empty means none.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub lip: String,
        /// Lips turned away from the middle.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub lips_out: bool,
        #[serde(default)]
        pub measure: Measure,
    }
}

said! {
    /// A plate with four sides folded up.
    pub struct StartTray {
        /// West to east, south to north and up, told over `measure`.
        pub width: String,
        pub depth: String,
        pub height: String,
        #[serde(default)]
        pub measure: TrayMeasure,
        /// Taken off the width and the depth on each side, so that it goes into what was told.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub clearance: String,
        /// Lips on top of the sides; empty means none.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub lip: String,
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub lips_in: bool,
        #[serde(default)]
        pub close: Close,
        /// Between neighbouring sides; empty means the usual.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub gap: String,
        #[serde(default)]
        pub relief: CornerRelief,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub relief_size: String,
    }
}

word! {
    /// What a tray's width, depth and height run over.
    pub enum TrayMeasure {
        #[default]
        Outside,
        Inside,
    }
}

word! {
    /// How the ends of a full round meet.
    pub enum Seam {
        /// A gap to weld.
        #[default]
        Gap,
        /// One end over the other: that much longer.
        Lap,
    }
}

said! {
    /// A rolled shell: two of radius or diameter, angle, and arc length.
    pub struct StartRolled {
        /// Along the axis, south to north.
        pub length: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub diameter: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub angle: String,
        /// Along the face that the shell is told from.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub arc: String,
        #[serde(default)]
        pub measure: Measure,
        #[serde(default)]
        pub direction: Direction,
        /// For a full round (360°): gap or lap along the face told.
        #[serde(default)]
        pub seam: Seam,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub seam_size: String,
    }
}

said! {
    /// A frustum of a cone, or a part of one.
    pub struct StartCone {
        /// Diameters of the two ends, on the face told.
        pub wide: String,
        pub narrow: String,
        /// Square from end to end.
        pub height: String,
        /// Part of the full round; empty means 360°.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub angle: String,
        #[serde(default)]
        pub measure: Measure,
        /// For a full round: gap at the wide end.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub seam_gap: String,
        #[serde(default, skip_serializing_if = "ConeEnds::is_square")]
        pub ends: ConeEnds,
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
