//! Where a shape goes: on a panel, or in the flat across bends; how far from which edges.

use grammar::*;
use ground::reader::{Range, Reader};

use crate::choices::{BesideBy, BesideWay, EdgeOf, From, To};
use crate::flat::place::{BesideSpec, OffsetSpec, PlaceSpec};

/// A place, below its path. Two distances make a place; one is completed by the middle.
pub const PLACE: &[Part] = &[
    heard("at"),
    Clause::new(&[word("on"), Slot::new("/on", "on", Kind::Surface).usual("flat").part()]).close().part(),
    Clause::new(&[
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
    ])
    .shown(When::NotTold("/about"))
    .part(),
    Clause::new(&[
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
    ])
    .shown(When::NotTold("/about"))
    .part(),
    Clause::new(&[
        length("/beside/distance", "gap to a hole"),
        Pick::new(
            "/beside/way",
            "side of another hole",
            &[
                ("east|gap", "clear, to the east of|clear east of"),
                ("west|gap", "clear, to the west of|clear west of"),
                ("north|gap", "clear, to the north of|clear north of"),
                ("south|gap", "clear, to the south of|clear south of"),
                ("east|middles", "to the east of|east of"),
                ("west|middles", "to the west of|west of"),
                ("north|middles", "to the north of|north of"),
                ("south|middles", "to the south of|south of"),
            ],
        )
        .beside("/beside/by")
        .part(),
        name("/beside/of", "another hole", Kind::Cut),
    ])
    .shown(When::Told("/beside/distance"))
    .part(),
    Clause::new(&[
        word("on the middle of|about"),
        Slot::new("/about", "arc or hole it is about", Kind::Round).part(),
    ])
    .shown(When::Told("/about"))
    .part(),
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
    /// Beside another hole, in line with it where the other distance is not told.
    #[serde(skip_serializing_if = "Beside::is_not")]
    pub beside: Beside,
    /// On the middle of a curved side of the outline, or of another hole.
    #[serde(skip_serializing_if = "String::is_empty")]
    pub about: String,
    /// Turned counter-clockwise; empty means not.
    #[serde(skip_serializing_if = "String::is_empty")]
    pub turn: String,
}

impl Default for Place {
    fn default() -> Self {
        Place {
            on: flat(),
            x: Offset::default(),
            y: Offset::default(),
            beside: Beside::default(),
            about: String::new(),
            turn: String::new(),
        }
    }
}

pub fn flat() -> String {
    "flat".into()
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

spoken! {
    /// How far from another hole.
    pub struct Beside {
        pub distance: String,
        pub way: BesideWay,
        pub by: BesideBy,
        /// The line that makes it, or its own name.
        pub of: String,
    }
}

impl Beside {
    pub fn is_not(&self) -> bool {
        *self == Beside::default()
    }

    /// None where nothing is told; `path` is the JSON pointer of it.
    fn read(&self, reader: &mut Reader, path: &str) -> Option<Option<BesideSpec>> {
        if self.is_not() {
            return Some(None);
        }
        let distance = reader.length(&format!("{path}/distance"), &self.distance, Range::Any)?;
        Some(Some(BesideSpec { distance, way: self.way, by: self.by, of: self.of.trim().into() }))
    }
}

impl Place {
    /// Its numbers; `path` is the JSON pointer of it.
    pub fn read(&self, reader: &mut Reader, path: &'static str) -> Option<PlaceSpec> {
        let turn = reader.angle_or(&format!("{path}/turn"), &self.turn, 0.0);
        let x = self.x.read(reader, &format!("{path}/x"));
        let y = self.y.read(reader, &format!("{path}/y"));
        let beside = self.beside.read(reader, &format!("{path}/beside"));
        let about = Some(self.about.trim().to_string()).filter(|a| !a.is_empty());
        let (on, beside, turn) = (self.on.clone(), beside?, turn?);
        Some(PlaceSpec { at: path, on, x: x?, y: y?, beside, about, turn })
    }
}

impl Offset {
    fn read(&self, reader: &mut Reader, path: &str) -> Option<OffsetSpec> {
        let path = format!("{path}/distance");
        let distance = if self.from == From::Centre {
            reader.length_or(&path, &self.distance, Range::Any, 0.0)?
        } else {
            reader.length(&path, &self.distance, Range::Any)?
        };
        let told = *self != Offset::default();
        Some(OffsetSpec { from: self.from, distance, to: self.to, edge: self.edge, told })
    }
}
