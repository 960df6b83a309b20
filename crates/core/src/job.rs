//! The job as it is said and stored: pieces, their recipes, the job's figures and settings. Values are kept as typed.

use serde::{Deserialize, Serialize};

use crate::quantity::{Display, Figure};
use crate::shopbook::BendRule;

/// The format number that this version writes and reads.
pub const FORMAT: u32 = 1;

macro_rules! said {
    ($(#[$m:meta])* pub struct $name:ident { $($body:tt)* }) => {
        $(#[$m])*
        #[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
        #[serde(deny_unknown_fields)]
        #[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
        pub struct $name { $($body)* }
    };
}

macro_rules! word {
    ($(#[$m:meta])* pub enum $name:ident { $($body:tt)* }) => {
        $(#[$m])*
        #[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
        #[serde(rename_all = "snake_case")]
        #[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
        pub enum $name { $($body)* }
    };
}

said! {
    /// A job: the document that is saved, sent and evaluated.
    pub struct Job {
        pub format: u32,
        pub title: String,
        #[serde(default)]
        pub number: String,
        #[serde(default)]
        pub customer: String,
        #[serde(default)]
        pub note: String,
        #[serde(default)]
        pub display: Display,
        #[serde(default)]
        pub bend_rule: BendRule,
        #[serde(default)]
        pub figures: Vec<Figure>,
        /// Sheets on the rack; the first is the usual one.
        #[serde(default)]
        pub stock: Vec<StockSheet>,
        #[serde(default)]
        pub pieces: Vec<Piece>,
    }
}

said! {
    /// A sheet size that flat patterns must fit.
    pub struct StockSheet {
        pub length: String,
        pub width: String,
    }
}

said! {
    pub struct Piece {
        /// Never changes once given; marks may.
        pub id: String,
        pub mark: String,
        pub name: String,
        pub quantity: String,
        /// Id of a material of the shop book.
        pub material: String,
        /// A length or a gauge (`16 ga`).
        pub thickness: String,
        /// Usual inside bend radius; empty means the smallest the material allows.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub radius: String,
        /// Where this piece departs from the job's unit.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub display: Option<Display>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub bend_rule: Option<BendRule>,
        #[serde(default)]
        pub lines: Vec<Line>,
    }
}

/// One spoken line of a recipe.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Line {
    /// The stem of every name this line makes; never changes once given.
    pub id: String,
    /// Switched off: kept, but not carried out.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub off: bool,
    pub say: Say,
}

/// What a line does.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "verb", rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Say {
    StartPlate(StartPlate),
    StartStrip(StartStrip),
    StartOutline(StartOutline),
    Punch(Punch),
    Round(Round),
    Repeat(Repeat),
    Mirror(Mirror),
}

impl Say {
    pub fn is_start(&self) -> bool {
        matches!(self, Say::StartPlate(_) | Say::StartStrip(_) | Say::StartOutline(_))
    }
}

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

word! {
    pub enum Direction {
        #[default]
        Up,
        Down,
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
    },
    Rectangle {
        width: String,
        height: String,
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
    /// The edge a distance is told from. East and north distances run inwards.
    pub enum From {
        #[default]
        Centre,
        West,
        East,
        South,
        North,
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

said! {
    pub struct Offset {
        pub from: From,
        pub distance: String,
        #[serde(default)]
        pub to: To,
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
        pub axis: Axis,
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
        /// The direction that is turned round: `east` swaps west and east.
        pub axis: Axis,
        /// The panel whose middle is the mirror, or `flat`.
        #[serde(default = "flat")]
        pub about: String,
    }
}
