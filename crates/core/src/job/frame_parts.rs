//! What members of a frame carry: holes and notches, plates, lugs, clamps, welds; and what is welded first.

use serde::{Deserialize, Serialize};

use super::Tip;

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

word! {
    /// Which sides of a lug's upright are welded, as the drawing says.
    pub enum LugWeld {
        #[default]
        AllRound,
        /// Along its two long sides.
        Sides,
        /// Across its two ends.
        Ends,
    }
}

impl LugWeld {
    pub fn is_all_round(&self) -> bool {
        *self == LugWeld::AllRound
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
        #[serde(default, skip_serializing_if = "LugWeld::is_all_round")]
        pub weld: LugWeld,
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
        /// How far the ears stand out of the ring.
        pub ear: String,
        /// Of the ears along the member; empty for as wide as the ring.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub ear_width: String,
        pub thickness: String,
        pub bolt: String,
        /// From the ring to the middle of the bolt; empty for the middle of the ear.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub bolt_at: String,
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

impl WeldKind {
    pub fn said(self) -> &'static str {
        match self {
            WeldKind::Fillet => "fillet",
            WeldKind::Butt => "butt",
        }
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
