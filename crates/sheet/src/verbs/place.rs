//! Where a shape goes: on a panel, or in the flat across bends; how far from which edges.

use grammar::*;

/// A place, below its path. Two distances make a place; one is completed by the middle.
pub const PLACE: &[Part] = &[
    heard("at"),
    Clause::new(&[word("on"), Slot::new("/on", "on", Kind::Surface).usual("flat").part()]).close().part(),
    clause(&[
        Slot::new("/x/distance", "distance across", Kind::Length).empty("0").part(),
        pick("/x/to", "to", TO),
        Pick::new(
            "/x/from",
            "from",
            &[
                ("centre|panel", "the middle eastwards|middle eastwards"),
                ("west|panel", "west"),
                ("west|outside", "the outside of west|the outside of west|outside of west"),
                ("east|panel", "east"),
                ("east|outside", "the outside of east|the outside of east|outside of east"),
                ("left|panel", "its left end|left"),
                ("left|outside", "the outside of its left end|the outside of left|outside of left"),
                ("right|panel", "its right end|right"),
                ("right|outside", "the outside of its right end|the outside of right|outside of right"),
            ],
        )
        .beside("/x/edge")
        .folded(&["left|panel", "left|outside", "right|panel", "right|outside"])
        .part(),
    ]),
    clause(&[
        Slot::new("/y/distance", "distance up", Kind::Length).empty("0").part(),
        pick("/y/to", "to", TO),
        Pick::new(
            "/y/from",
            "from",
            &[
                ("centre|panel", "the middle northwards|middle northwards"),
                ("south|panel", "south"),
                ("south|outside", "the outside of south|the outside of south|outside of south"),
                ("north|panel", "north"),
                ("north|outside", "the outside of north|the outside of north|outside of north"),
                ("fold|panel", "its fold|fold|the fold"),
                ("outside|panel", "the outside of its bend|the outside|outside"),
                ("tip|panel", "its tip|tip|the tip"),
            ],
        )
        .beside("/y/edge")
        .folded(&["fold|panel", "outside|panel", "tip|panel"])
        .part(),
    ]),
    clause(&[word("turned"), angle_or("/turn", "turn", "not")]),
];

const TO: &[(&str, &str)] = &[("centre", "from"), ("side", "clear of")];

/// Where a shape goes: on a panel, or in the flat across bends.
#[derive(Clone, Debug, PartialEq, serde::Serialize, serde::Deserialize)]
#[serde(default, deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Place {
    /// `flat`, or the name of a panel.
    pub on: String,
    pub x: Offset,
    pub y: Offset,
    /// Turned counter-clockwise; empty means not.
    #[serde(skip_serializing_if = "String::is_empty")]
    pub turn: String,
}

impl Default for Place {
    fn default() -> Self {
        Place { on: flat(), x: Offset::default(), y: Offset::default(), turn: String::new() }
    }
}

pub fn flat() -> String {
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

spoken! {
    pub struct Offset {
        pub from: From,
        pub distance: String,
        pub to: To,
        #[serde(skip_serializing_if = "EdgeOf::is_panel")]
        pub edge: EdgeOf,
    }
}
