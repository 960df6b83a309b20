//! What can be said of a welded frame: nodes, members between them, joints and copies, and how its list is to look.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use super::{AssemblySaid, BaseSaid, CapSaid, FitSaid, GussetSaid, HoleSaid, LugSaid, NotchEnd, RingSaid, StackSaid, WeldSaid};
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
    /// A point on a member's line, round its bends too.
    pub struct On {
        pub name: String,
        pub member: String,
        pub by: AlongBy,
        /// From the node it starts at.
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

/// What a line of a frame does.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "verb", rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum FrameSay {
    Node(NodeSaid),
    Between(Between),
    On(On),
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
        /// The highest number given to an id of a line, by stem: none is given twice.
        #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
        pub issued: BTreeMap<String, u32>,
        /// Equal members that go by different names are rows of their own in the list.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub apart: bool,
        /// Headings of own columns of the list, such as part number.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub columns: Vec<String>,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub rows: Vec<RowSaid>,
    }
}
