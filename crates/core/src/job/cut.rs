//! Cuts and where they go; patterns, repeats and mirrors; rounded corners.

use serde::{Deserialize, Serialize};

use super::Point;

said! {
    /// Cuts a shape out.
    pub struct Punch {
        pub shape: Shape,
        pub place: Place,
    }
}

/// The shape of a cut, lying along x before it is turned.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Shape {
    Round {
        diameter: String,
    },
    Square {
        side: String,
        /// Radius of its corners; empty for sharp ones.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        corner: String,
    },
    Rectangle {
        width: String,
        height: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        corner: String,
    },
    Slot {
        length: String,
        width: String,
        #[serde(default)]
        measure: SlotMeasure,
    },
    /// Two equal sides, point to the north.
    Triangle {
        base: String,
        height: String,
    },
    /// Regular, told across its flats.
    Polygon {
        sides: String,
        across: String,
    },
    /// An entry for the head and a slot for the shank, the slot to the north.
    Keyhole {
        entry: String,
        slot: String,
        /// From the middle of the entry to the end of the slot.
        length: String,
    },
    /// A circle with one flat, to the south; `across` from the flat to the far side.
    D {
        diameter: String,
        across: String,
    },
    Outline {
        points: Vec<Point>,
    },
}

impl Default for Shape {
    fn default() -> Self {
        Shape::Round { diameter: String::new() }
    }
}

word! {
    pub enum SlotMeasure {
        #[default]
        Overall,
        Centres,
    }
}

said! {
    /// Where a shape goes: on a panel, or in the flat across bends.
    pub struct Place {
        /// `flat`, or the name of a panel.
        #[serde(default = "flat")]
        pub on: String,
        pub x: Offset,
        pub y: Offset,
        /// Turned counter-clockwise; empty means not.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub turn: String,
    }
}

fn flat() -> String {
    "flat".into()
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
        /// The outer face of the wall or bend there, as a rule finds it on the formed piece; the metal's end where nothing is bent.
        Outside,
    }
}

impl EdgeOf {
    pub fn is_panel(&self) -> bool {
        *self == EdgeOf::Panel
    }
}

said! {
    pub struct Offset {
        pub from: From,
        pub distance: String,
        #[serde(default)]
        pub to: To,
        #[serde(default, skip_serializing_if = "EdgeOf::is_panel")]
        pub edge: EdgeOf,
    }
}

word! {
    pub enum Treatment {
        #[default]
        Radius,
        Chamfer,
        /// A half circle over the whole end.
        FullEnd,
    }
}

said! {
    /// Takes the point off corners of the outline.
    pub struct Round {
        #[serde(default)]
        pub treatment: Treatment,
        /// Radius, or chamfer length along each side; not used for a full round end.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub size: String,
        /// Corner names (`north-east`, …), or for a full end the edge (`west`). Empty means every sharp outer corner.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub corners: Vec<String>,
    }
}

word! {
    pub enum Axis {
        /// West to east.
        #[default]
        East,
        /// South to north.
        North,
    }
}

/// How the members of a row are spaced. The first stays where its own line puts it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "by", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Spacing {
    /// So many at a pitch; a negative pitch runs back.
    Pitch { count: String, pitch: String },
    /// So many, the last centred this far from the far end.
    Last { count: String, distance: String },
    /// So many with this much material between one and the next.
    Gap { count: String, gap: String },
    /// At a pitch, as many as leave at least this margin at the far end.
    Fill { pitch: String, margin: String },
}

impl Default for Spacing {
    fn default() -> Self {
        Spacing::Pitch { count: String::new(), pitch: String::new() }
    }
}

said! {
    /// The same cut again, in a row or a grid.
    pub struct Repeat {
        /// Ids of the lines repeated.
        pub of: Vec<String>,
        #[serde(default)]
        pub axis: Axis,
        /// A straight edge to run along instead, from its left end to its right, seen from the piece looking out.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub along: String,
        pub spacing: Spacing,
        /// The other way, for a grid.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub across: Option<Spacing>,
    }
}

said! {
    /// The same cuts on the other side of a midplane.
    pub struct Mirror {
        pub of: Vec<String>,
        /// The direction that is turned round: `east` swaps west and east. Not used about an edge or a bend.
        #[serde(default)]
        pub axis: Axis,
        /// The panel whose middle is the mirror, `flat`, or the name of a straight edge or a bend that is the mirror itself.
        #[serde(default = "flat")]
        pub about: String,
    }
}

said! {
    /// The same cuts round a point.
    pub struct Ring {
        pub of: Vec<String>,
        /// All of them, the first included.
        pub count: String,
        /// From the first to the last; empty means evenly all the way round.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub sweep: String,
        /// The middle of the ring.
        pub centre: Place,
        /// Kept upright instead of turned with the ring.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub upright: bool,
    }
}

said! {
    /// The same cuts evenly along a told path; the first stays where it is, and the path starts there.
    pub struct Path {
        pub of: Vec<String>,
        pub count: String,
        /// Open: the bulge of the last point is not used. Points relative to the first cut.
        pub points: Vec<Point>,
        /// Turned with the path.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub turned: bool,
    }
}

word! {
    pub enum Pattern {
        /// Rows over one another.
        #[default]
        Square,
        /// Every other row half a pitch along.
        Staggered,
    }
}

said! {
    /// Fills a panel or a rolled shell with a shape, whole shapes only.
    pub struct Fill {
        pub shape: Shape,
        /// `flat`, or the name of a panel or a rolled zone.
        #[serde(default = "flat")]
        pub on: String,
        #[serde(default)]
        pub pattern: Pattern,
        /// Middle to middle, west to east.
        pub pitch: String,
        /// South to north; empty means the same, or for a staggered pattern the height of even triangles.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub pitch_across: String,
        /// From the outline, and from other cuts above this line.
        pub margin: String,
        /// From the tangent lines of bends; empty means what the rules want.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub bend_margin: String,
        /// Left out of the views, never out of figures and files.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub light: bool,
    }
}

/// The shape of a notch.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum NotchShape {
    Square {
        width: String,
        depth: String,
    },
    /// A point inwards.
    Vee {
        width: String,
        depth: String,
    },
    /// Round-ended.
    Round {
        width: String,
        depth: String,
    },
}

impl Default for NotchShape {
    fn default() -> Self {
        NotchShape::Square { width: String::new(), depth: String::new() }
    }
}

said! {
    /// A cut into an edge.
    pub struct Notch {
        pub edge: String,
        pub shape: NotchShape,
        /// From the left end of the edge, seen from the piece looking out, to its middle; empty means the middle of the edge.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub place: String,
    }
}
