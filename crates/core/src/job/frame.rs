//! What can be said of a welded frame: nodes, members between them, joints, plates, and how its list is to look.

use serde::{Deserialize, Serialize};

use crate::quantity::Display;

word! {
    /// A direction of the shop floor: east x, north y, up z.
    pub enum Way {
        #[default]
        East,
        North,
        Up,
    }
}

word! {
    /// How two ends that meet at a node close.
    pub enum JointHow {
        /// Both cut at half the angle.
        #[default]
        Mitre,
        /// One runs through, the others end at its face.
        Butt,
    }
}

word! {
    /// Which point of the section lies on the line between its nodes, the section seen from its start with its up side up.
    pub enum Sits {
        #[default]
        Middle,
        Centroid,
        Top,
        Bottom,
        Left,
        Right,
        TopLeft,
        TopRight,
        BottomLeft,
        BottomRight,
    }
}

impl Sits {
    pub fn is_middle(&self) -> bool {
        *self == Sits::Middle
    }
}

word! {
    /// An end of a member.
    pub enum Tip {
        #[default]
        Start,
        End,
    }
}

word! {
    pub enum AlongBy {
        /// A part of the way: `1/2`.
        #[default]
        Share,
        /// A length from the first node.
        Length,
    }
}

said! {
    /// A point by steps from another (from the origin where none is named).
    pub struct NodeSaid {
        pub name: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub from: String,
        pub x: String,
        pub y: String,
        pub z: String,
    }
}

said! {
    /// A point on the way between two others.
    pub struct Between {
        pub name: String,
        pub from: String,
        pub to: String,
        pub by: AlongBy,
        pub at: String,
    }
}

said! {
    /// Bars along a chain of nodes: one a leg, or one bent bar where a radius is told.
    pub struct Members {
        /// What the shop calls it: rail, post, brace.
        pub name: String,
        pub path: Vec<String>,
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub closed: bool,
        /// Empty for the frame's usual section.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub section: String,
        /// Id of a material; empty for the frame's.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub material: String,
        /// About its own line, from long side up (a post: long side north).
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub turn: String,
        #[serde(default, skip_serializing_if = "Sits::is_middle")]
        pub sits: Sits,
        /// Centreline radius of the bends at inner nodes; empty for legs of their own.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub radius: String,
        /// One bar curved through three nodes; closed, a whole ring through them.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub arc: bool,
    }
}

said! {
    /// How the ends at these nodes close, where the frame's usual way is not meant.
    pub struct JointSaid {
        pub at: Vec<String>,
        pub how: JointHow,
        /// Members in the order they run through; the first two are mitred with one another.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub first: Vec<String>,
        /// Left open for the weld.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub gap: String,
    }
}

/// What an end is trimmed by.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "by", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum TrimBy {
    /// A plane across a direction, at a coordinate.
    Plane { way: Way, at: String },
    /// The plane through three nodes.
    Nodes { nodes: Vec<String> },
    /// The face of another member that this end comes upon.
    Member { member: String },
}

impl Default for TrimBy {
    fn default() -> Self {
        TrimBy::Plane { way: Way::Up, at: "0".into() }
    }
}

said! {
    /// An end cut off at a plane or face. It never becomes longer unless told to.
    pub struct TrimSaid {
        pub member: String,
        pub tip: Tip,
        pub by: TrimBy,
        /// Gap left to the plane or face.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub gap: String,
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub lengthen: bool,
    }
}

said! {
    /// Everything told above (or the lines named), again on the other side of a plane.
    pub struct MirrorFrame {
        #[serde(default)]
        pub of: Vec<String>,
        pub across: Way,
        pub at: String,
    }
}

said! {
    /// Everything told above (or the lines named), again at a step: bays.
    pub struct RepeatFrame {
        #[serde(default)]
        pub of: Vec<String>,
        /// All of them, the first counted.
        pub count: String,
        pub x: String,
        pub y: String,
        pub z: String,
    }
}

word! {
    /// A side of a member, seen from its start with its up side up.
    pub enum Face {
        #[default]
        Top,
        Bottom,
        Left,
        Right,
    }
}

said! {
    /// Round or slotted holes through a face of members.
    pub struct HoleSaid {
        pub members: Vec<String>,
        pub face: Face,
        pub diameter: String,
        /// Overall length along the member; empty for a round hole.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub slot: String,
        /// Along the member, from the node it starts at.
        pub at: String,
        /// Off the middle of the face; empty for none.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub off: String,
        /// Both walls, or the near one only.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub through: bool,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub count: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub pitch: String,
    }
}

said! {
    /// A square notch in the ends of members, open at the end: a slot for a plate, a cut-out.
    pub struct NotchEnd {
        pub members: Vec<String>,
        pub tip: Tip,
        pub face: Face,
        /// Across the face.
        pub width: String,
        /// Along, from the finished end.
        pub length: String,
        /// Through both walls.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub through: bool,
    }
}

said! {
    /// A plate that closes the ends of members.
    pub struct CapSaid {
        /// Nodes at free ends.
        pub at: Vec<String>,
        pub thickness: String,
        /// Edge of the plate inside the outline of the section; negative stands out.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub inset: String,
    }
}

said! {
    /// A plate under (or on) the end of a post: foot, base or head plate. The post is shortened by its thickness.
    pub struct BaseSaid {
        pub at: Vec<String>,
        pub width: String,
        pub length: String,
        pub thickness: String,
        /// Diameter of a hole in each corner; empty for none.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub hole: String,
        /// Of the holes from the edges.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub edge: String,
    }
}

word! {
    pub enum GussetPlace {
        /// In the middle plane of the two members.
        #[default]
        Middle,
        /// Flush with the side that the plate's face points to.
        Near,
        Far,
        /// One plate on each side.
        Both,
    }
}

said! {
    /// A triangular plate in the corner between two members.
    pub struct GussetSaid {
        pub at: String,
        /// The two members whose inner faces it stands on.
        pub between: Vec<String>,
        pub leg: String,
        /// Along the second member; empty for the same.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub leg_2: String,
        pub thickness: String,
        /// Width left at the tips, so that the weld can go round.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub nose: String,
        /// Cut off at the root to clear weld and radius.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub snipe: String,
        #[serde(default)]
        pub place: GussetPlace,
    }
}

said! {
    /// A plate cut to fit between members that close a ring; it follows them.
    pub struct FitSaid {
        /// Nodes round the opening, in turn.
        pub around: Vec<String>,
        pub thickness: String,
        /// Left open all round.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub clearance: String,
        /// Of the plate's middle from the plane of the nodes, towards the side they run round counter-clockwise.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub off: String,
        /// Stands over the members instead of between them: to their outer faces.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub over: bool,
    }
}

said! {
    /// A lug: base plate, upright plate with a round top and an eye on the same centre.
    pub struct LugSaid {
        pub member: String,
        pub face: Face,
        /// Along the member, from the node it starts at.
        pub at: String,
        /// Along and across the member, and thickness; an empty thickness leaves the base out.
        pub base_length: String,
        pub base_width: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub base: String,
        pub thickness: String,
        /// Outside radius of the round top.
        pub radius: String,
        pub eye: String,
        /// Of the eye above what the upright stands on.
        pub height: String,
    }
}

said! {
    /// A ring that clamps a round member: split, with two ears and a cross bolt.
    pub struct RingSaid {
        pub member: String,
        pub at: String,
        /// Outside diameter of the tube it is cut from.
        pub outside: String,
        pub width: String,
        /// Of the bore around the member.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub clearance: String,
        /// Of the split.
        pub split: String,
        pub ear: String,
        pub thickness: String,
        pub bolt: String,
    }
}

said! {
    /// Blocks and plates stacked on a point.
    pub struct StackSaid {
        pub at: String,
        pub blocks: Vec<Block>,
    }
}

said! {
    pub struct Block {
        pub name: String,
        /// East.
        pub length: String,
        /// North.
        pub width: String,
        pub height: String,
    }
}

word! {
    pub enum WeldKind {
        #[default]
        Fillet,
        Butt,
    }
}

said! {
    /// Welds at these nodes, where the usual fillet is not meant.
    pub struct WeldSaid {
        /// Empty for all.
        #[serde(default)]
        pub at: Vec<String>,
        pub kind: WeldKind,
        /// Leg of a fillet; empty for the smallest that the rule allows.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub size: String,
    }
}

said! {
    /// Lines whose pieces are welded together first.
    pub struct AssemblySaid {
        pub mark: String,
        pub name: String,
        pub of: Vec<String>,
    }
}

/// What a line of a frame does.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "verb", rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum FrameSay {
    Node(NodeSaid),
    Between(Between),
    Members(Members),
    Joint(JointSaid),
    Trim(TrimSaid),
    MirrorFrame(MirrorFrame),
    RepeatFrame(RepeatFrame),
    Hole(HoleSaid),
    NotchEnd(NotchEnd),
    Cap(CapSaid),
    Base(BaseSaid),
    Gusset(GussetSaid),
    Fit(FitSaid),
    Lug(LugSaid),
    RingClamp(RingSaid),
    Stack(StackSaid),
    Weld(WeldSaid),
    Assembly(AssemblySaid),
}

/// One spoken line of a frame.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct FrameLine {
    /// The stem of every name this line makes; never changes once given.
    pub id: String,
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub off: bool,
    pub say: FrameSay,
}

said! {
    /// How a row of the list is called, and its own cells.
    pub struct RowSaid {
        /// Any member or plate of the row.
        pub piece: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub mark: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub name: String,
        /// In the order of the frame's own columns.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub cells: Vec<String>,
    }
}

said! {
    /// A welded frame.
    pub struct Frame {
        /// Never changes once given; marks may.
        pub id: String,
        pub mark: String,
        pub name: String,
        pub quantity: String,
        /// Id of a material of the shop book.
        pub material: String,
        /// The usual section.
        pub section: String,
        /// How two free ends close where no joint is told.
        #[serde(default)]
        pub joint: JointHow,
        /// Usual gap left for the weld.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub gap: String,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub display: Option<Display>,
        #[serde(default)]
        pub lines: Vec<FrameLine>,
        /// Headings of own columns of the list, such as part number.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub columns: Vec<String>,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub rows: Vec<RowSaid>,
    }
}

said! {
    /// The saw, for lists and bar plans. Empty values take the usual ones.
    pub struct Saw {
        /// Step that its angles are set in, 0.5° where empty.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub angle_step: String,
        /// Step that lengths are told in: 0.5 mm, or the fraction of an inch that the job prints.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub length_step: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub kerf: String,
        /// Taken off each end of a new bar.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub trim: String,
        /// Furthest off square that it swings, 60° where empty.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub most: String,
        /// Shorter offcuts are scrap.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub offcut: String,
    }
}

said! {
    /// Bars that can be had: new ones, or offcuts on the rack.
    pub struct StockBar {
        /// Empty for every section.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub section: String,
        pub length: String,
        /// How many there are; empty for as many as needed.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub count: String,
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub offcut: bool,
    }
}

said! {
    /// A section of the shop's own: an outline told by its corners.
    pub struct OwnSection {
        pub name: String,
        /// Across and up, in turn, counter-clockwise.
        pub points: Vec<[String; 2]>,
        /// Inner outline of a hollow section.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub bore: Vec<[String; 2]>,
    }
}
