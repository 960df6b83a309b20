//! Choices that lines tell and geometry follows.

use glam::{DVec2, DVec3};
use ground::finding::Mend;
use ground::word;
use serde::Serialize;

word! {
    /// A direction of the shop floor: east x, north y, up z.
    pub enum FrameAxis {
        #[default]
        East,
        North,
        Up,
    }
}

impl FrameAxis {
    pub fn unit(self) -> DVec3 {
        match self {
            FrameAxis::East => DVec3::X,
            FrameAxis::North => DVec3::Y,
            FrameAxis::Up => DVec3::Z,
        }
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

impl Tip {
    /// 0 for the start, 1 for the end.
    pub fn index(self) -> usize {
        usize::from(self == Tip::End)
    }
}

word! {
    /// Which ends of members.
    pub enum Ends {
        #[default]
        Both,
        Start,
        End,
    }
}

impl Ends {
    /// 0 for the start, 1 for the end.
    pub fn each(self) -> impl Iterator<Item = usize> {
        [(0, Ends::End), (1, Ends::Start)].into_iter().filter(move |(_, not)| self != *not).map(|(k, _)| k)
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

impl Face {
    /// The way out of the material through it, in the section.
    pub fn outwards(self) -> DVec2 {
        match self {
            Face::Top => DVec2::Y,
            Face::Bottom => -DVec2::Y,
            Face::Left => DVec2::X,
            Face::Right => -DVec2::X,
        }
    }
}

word! {
    /// Which point of the section lies on the line between its nodes, the section seen from its start with
    /// its up side up.
    pub enum Alignment {
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

impl Alignment {
    pub const ALL: [Alignment; 10] = [
        Alignment::Middle,
        Alignment::Centroid,
        Alignment::Top,
        Alignment::Bottom,
        Alignment::Left,
        Alignment::Right,
        Alignment::TopLeft,
        Alignment::TopRight,
        Alignment::BottomLeft,
        Alignment::BottomRight,
    ];

    pub fn is_middle(&self) -> bool {
        *self == Alignment::Middle
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
    pub enum WeldKind {
        #[default]
        Fillet,
        Butt,
        /// In the groove that two edges leave open.
        Groove,
    }
}

impl WeldKind {
    pub fn said(self) -> &'static str {
        match self {
            WeldKind::Fillet => "fillet",
            WeldKind::Butt => "butt",
            WeldKind::Groove => "groove",
        }
    }
}

/// A way to close a node.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct JointChoice {
    pub how: JointHow,
    pub words: String,
    /// Members that it is about.
    pub members: Vec<String>,
    pub mend: Mend,
}
