//! The openings of a transition, as they are told.

use std::f64::consts::{FRAC_PI_2, TAU};

use glam::{DQuat, DVec2, DVec3};
use grammar::*;
use ground::reader::{Range, Reader};

use super::shape::{MOST_SIDES, rounded};
use crate::choices::Compass;
use crate::flat::transition::openings::{Opening, OpeningShape};

const OPENINGS: &[Case] = &[
    case(
        "rectangle",
        "rectangle|rectangle",
        &[
            length("/width", "east"),
            times(),
            length("/depth", "north"),
            aside(&[word("corners"), radius_or("/corner", "corner radius", "sharp")]),
        ],
        ["200 x 200", "8 x 8"],
    ),
    case("round", "circle|round", &[diameter("/diameter", "diameter")], ["200", "8"]),
    case(
        "polygon",
        "polygon of|polygon",
        &[
            count("/sides", "sides"),
            word("sides"),
            sign(","),
            length("/across", "across flats"),
            printed("across the flats|across|flats"),
        ],
        ["6 sides, 100 across", "6 sides, 4 across"],
    ),
    case("point", "point", &[], ["", ""]),
];

pub const BOTTOM: Part = union("/bottom", "kind", "lower opening", OPENINGS);
pub const TOP: Part = union("/top", "kind", "upper opening", OPENINGS);

/// How the upper one stands to the lower one.
pub const TOP_EAST: Part = clause(&[
    aloud("its top moved"),
    Slot::new("/east", "top to the east", Kind::Length).ways("east", "west").empty("none").part(),
]);
pub const TOP_NORTH: Part = clause(&[
    aloud("moved"),
    Slot::new("/north", "top to the north", Kind::Length).ways("north", "south").empty("none").part(),
]);
pub const TOP_TURNED: Part =
    clause(&[word("top turned|turned|turn"), angle_or("/turn", "turn of the top", "not")]);
pub const TOP_TILTED: Part = clause(&[
    word("tilted up|tilted|tilt"),
    angle_or("/tilt", "tilt of the top", "not"),
    pick("/tilted", "side that rises", SIDES),
]);

pub const SIDES: &[(&str, &str)] = &[
    ("north", "to the north|north"),
    ("east", "to the east|east"),
    ("south", "to the south|south"),
    ("west", "to the west|west"),
];

choice! {
    /// An opening of a transition, on the middle of it.
    pub enum TransitionOpening by "kind" {
        /// West to east and south to north.
        Rectangle {
            #[serde(default)]
            width: String,
            #[serde(default)]
            depth: String,
            /// Radius of its corners; empty for sharp ones.
            #[serde(default, skip_serializing_if = "String::is_empty")]
            corner: String,
        },
        Round {
            #[serde(default)]
            diameter: String,
        },
        /// Regular, told across its flats, one of them to the south.
        Polygon { sides: String, across: String },
        /// It closes in a point.
        Point {},
    }
}

impl Default for TransitionOpening {
    fn default() -> Self {
        TransitionOpening::Rectangle { width: String::new(), depth: String::new(), corner: String::new() }
    }
}

impl TransitionOpening {
    pub fn read(&self, reader: &mut Reader, path: &str) -> Option<OpeningShape> {
        let at = |field: &str| format!("{path}/{field}");
        Some(match self {
            TransitionOpening::Point {} => OpeningShape::Point,
            TransitionOpening::Round { diameter } => {
                OpeningShape::Round { diameter: reader.length(&at("diameter"), diameter, Range::AboveZero)? }
            }
            TransitionOpening::Rectangle { width, depth, corner } => {
                let width = reader.length(&at("width"), width, Range::AboveZero);
                let depth = reader.length(&at("depth"), depth, Range::AboveZero);
                let size = DVec2::new(width?, depth?);
                let corner = rounded(reader, &at("corner"), corner, size.min_element())?;
                OpeningShape::Rectangle { size, corner }
            }
            TransitionOpening::Polygon { sides, across } => {
                let across = reader.length(&at("across"), across, Range::AboveZero);
                let sides = reader.count(&at("sides"), sides, 3, MOST_SIDES)?;
                OpeningShape::Polygon { sides, across: across? }
            }
        })
    }
}

/// Two openings and how the upper one stands to the lower one, as they are told.
pub struct OpeningsTold<'a> {
    pub bottom: &'a TransitionOpening,
    pub top: &'a TransitionOpening,
    pub height: &'a str,
    pub east: &'a str,
    pub north: &'a str,
    pub turn: &'a str,
    pub tilt: &'a str,
    pub tilted: Compass,
}

impl OpeningsTold<'_> {
    /// The lower one and the upper one, all sizes multiplied.
    pub fn read(&self, reader: &mut Reader, scale: f64) -> Option<[Opening; 2]> {
        let bottom = self.bottom.read(reader, "/say/bottom");
        let top = self.top.read(reader, "/say/top");
        let height = reader.length("/say/height", self.height, Range::AboveZero);
        let east = reader.length_or("/say/east", self.east, Range::Any, 0.0);
        let north = reader.length_or("/say/north", self.north, Range::Any, 0.0);
        let turn = reader.angle_or("/say/turn", self.turn, 0.0);
        let tilt = reader.angle_or("/say/tilt", self.tilt, 0.0);
        let (bottom, top, height) = (bottom?, top?, height?);
        let (east, north, turn, tilt) = (east?, north?, turn?, tilt?);
        if bottom == OpeningShape::Point && top == OpeningShape::Point {
            let mend = "write a size for one of them";
            reader.refuse_at("/say/top", "both openings are points", mend);
            return None;
        }
        if tilt.abs() > FRAC_PI_2 - 0.01 {
            reader.refuse_at("/say/tilt", "the upper opening stands upright", "write less than 90°");
            return None;
        }
        let rises = self.tilted.out().extend(0.0);
        let lifts = DQuat::from_axis_angle(rises.cross(DVec3::Z), tilt);
        Some([
            Opening { shape: scaled(bottom, scale), turn: 0.0, o: DVec3::ZERO, x: DVec3::X, y: DVec3::Y },
            Opening {
                shape: scaled(top, scale),
                turn: turn.rem_euclid(TAU),
                o: DVec3::new(east, north, height) * scale,
                x: lifts * DVec3::X,
                y: lifts * DVec3::Y,
            },
        ])
    }
}

fn scaled(shape: OpeningShape, by: f64) -> OpeningShape {
    match shape {
        OpeningShape::Rectangle { size, corner } => {
            OpeningShape::Rectangle { size: size * by, corner: corner * by }
        }
        OpeningShape::Round { diameter } => OpeningShape::Round { diameter: diameter * by },
        OpeningShape::Polygon { sides, across } => OpeningShape::Polygon { sides, across: across * by },
        OpeningShape::Point => OpeningShape::Point,
    }
}
