//! The openings of a transition, as they are told.

use glam::DVec2;
use grammar::*;
use ground::reader::{Range, Reader};

use super::shape::{MOST_SIDES, rounded};
use crate::flat::transition::openings::OpeningShape;

pub const OPENINGS: &[Case] = &[
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

pub fn scaled(shape: OpeningShape, by: f64) -> OpeningShape {
    match shape {
        OpeningShape::Rectangle { size, corner } => {
            OpeningShape::Rectangle { size: size * by, corner: corner * by }
        }
        OpeningShape::Round { diameter } => OpeningShape::Round { diameter: diameter * by },
        OpeningShape::Polygon { sides, across } => OpeningShape::Polygon { sides, across: across * by },
        OpeningShape::Point => OpeningShape::Point,
    }
}
