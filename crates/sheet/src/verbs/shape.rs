//! Shapes that are cut out, and points of told contours.

use glam::DVec2;
use grammar::*;
use ground::geom::{COINCIDENT, ROUNDING};
use ground::geom::{Contour, Vertex};
use ground::reader::{Range, Reader};

use crate::flat::blank::crossing_of;
use crate::flat::shape::ShapeSpec;

choice! {
    /// The shape of a cut, lying along x before it is turned.
    pub enum Shape by "kind" {
        Round {
            #[serde(default)]
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
        Triangle { base: String, height: String },
        /// Regular, told across its flats.
        Polygon { sides: String, across: String },
        /// An entry for the head and a slot for the shank, the slot to the north.
        Keyhole {
            entry: String,
            slot: String,
            /// From the middle of the entry to the end of the slot.
            length: String,
        },
        /// A circle with one flat, to the south; `across` from the flat to the far side.
        D { diameter: String, across: String },
        Outline { points: Vec<Point> },
    }
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

spoken! {
    /// A corner of a told contour. `bulge` curves the side that leaves it: tan(sweep / 4), positive
    /// counter-clockwise.
    pub struct Point {
        pub x: String,
        pub y: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub bulge: String,
    }
}

impl Shape {
    /// Its numbers; `path` is the JSON pointer of it.
    pub fn read(&self, reader: &mut Reader, path: &str) -> Option<ShapeSpec> {
        let at = |field: &str| format!("{path}/{field}");
        let size =
            |reader: &mut Reader, field: &str, text: &str| reader.length(&at(field), text, Range::AboveZero);
        let two = |reader: &mut Reader, a: (&str, &String), b: (&str, &String)| {
            let (a, b) = (size(reader, a.0, a.1), size(reader, b.0, b.1));
            a.zip(b)
        };
        Some(match self {
            Shape::Round { diameter } => ShapeSpec::Round { diameter: size(reader, "diameter", diameter)? },
            Shape::Square { side, corner } => {
                let side = size(reader, "side", side)?;
                ShapeSpec::Square { side, corner: rounded(reader, &at("corner"), corner, side)? }
            }
            Shape::Rectangle { width, height, corner } => {
                let (width, height) = two(reader, ("width", width), ("height", height))?;
                let corner = rounded(reader, &at("corner"), corner, width.min(height))?;
                ShapeSpec::Rectangle { width, height, corner }
            }
            Shape::Slot { length, width, measure } => {
                let (told, width) = two(reader, ("length", length), ("width", width))?;
                let centres = *measure == SlotMeasure::Centres;
                if !centres && told < width + COINCIDENT {
                    reader.refuse_at(
                        &at("length"),
                        "the slot is no longer than it is wide",
                        "write a greater length, or punch a round hole",
                    );
                    return None;
                }
                ShapeSpec::Slot { told, width, centres }
            }
            Shape::Triangle { base, height } => {
                let (base, height) = two(reader, ("base", base), ("height", height))?;
                ShapeSpec::Triangle { base, height }
            }
            Shape::Polygon { sides, across } => {
                let across = size(reader, "across", across);
                let sides = reader.count(&at("sides"), sides, 3, MOST_SIDES)?;
                ShapeSpec::Polygon { sides, across: across? }
            }
            Shape::Keyhole { entry, slot, length } => {
                let entry = size(reader, "entry", entry);
                let (slot, length) = two(reader, ("slot", slot), ("length", length))?;
                let entry = entry?;
                if slot >= entry {
                    reader.refuse_at(
                        &at("slot"),
                        "the slot is no narrower than the entry",
                        "write a narrower slot: the shank's, not the head's",
                    );
                    return None;
                }
                if length < (entry + slot) / 2.0 - ROUNDING {
                    reader.refuse_at(
                        &at("length"),
                        "the slot does not come out of the entry",
                        "write at least half the entry and half the slot",
                    );
                    return None;
                }
                ShapeSpec::Keyhole { entry, slot, length }
            }
            Shape::D { diameter, across } => {
                let (diameter, across) = two(reader, ("diameter", diameter), ("across", across))?;
                if across >= diameter || across <= diameter / 2.0 {
                    reader.refuse_at(
                        &at("across"),
                        "the flat must cut less than half off the circle",
                        "write more than half the diameter and less than all of it",
                    );
                    return None;
                }
                ShapeSpec::D { diameter, across }
            }
            Shape::Outline { points } => ShapeSpec::outline(&contour(reader, &at("points"), points)?),
        })
    }
}

/// Sides of a regular shape.
pub const MOST_SIDES: usize = 64;

/// The radius of corners, 0 for sharp ones.
pub fn rounded(reader: &mut Reader, path: &str, corner: &str, least: f64) -> Option<f64> {
    let r = reader.length_or(path, corner, Range::AboveZero, 0.0)?;
    if r > least / 2.0 + ROUNDING {
        let most = reader.display.length_unit(least / 2.0);
        reader.refuse_at(
            path,
            "the corners are rounder than the shape is wide",
            format!("write at most {most}, or punch a slot or a round hole"),
        );
        return None;
    }
    Some(r)
}

/// Points of one contour.
const MOST_POINTS: usize = 20_000;

/// A contour told point by point, checked to be one that can be cut.
pub fn contour(reader: &mut Reader, path: &str, points: &[Point]) -> Option<Contour> {
    let straight = points.len() == 2 && points.iter().all(|p| p.bulge.is_empty());
    if !(2..=MOST_POINTS).contains(&points.len()) || straight {
        reader.refuse_at(
            path,
            format!("a contour of {} points encloses nothing", points.len()),
            "tell at least three corners (at most 20,000)",
        );
        return None;
    }
    let mut vertices = Vec::with_capacity(points.len());
    for (i, p) in points.iter().enumerate() {
        let (at, bulge) = p.read(reader, &format!("{path}/{i}"))?;
        if bulge.abs() > 1.0 + ROUNDING {
            reader.refuse_at(
                &format!("{path}/{i}/bulge"),
                "one arc may sweep at most a half circle",
                "split the arc in two",
            );
            return None;
        }
        vertices.push(Vertex { p: at, bulge, tag: 0 });
    }
    let contour = Contour { vertices };
    if let Some((message, mend)) = crossing_of(&contour, &reader.display) {
        reader.refuse_at(path, message, mend);
        return None;
    }
    Some(contour.outward())
}

impl Point {
    /// Where it lies, and its bulge.
    pub fn read(&self, reader: &mut Reader, path: &str) -> Option<(DVec2, f64)> {
        let x = reader.length(&format!("{path}/x"), &self.x, Range::Any)?;
        let y = reader.length(&format!("{path}/y"), &self.y, Range::Any)?;
        let bulge =
            if self.bulge.is_empty() { 0.0 } else { reader.number(&format!("{path}/bulge"), &self.bulge)? };
        Some((DVec2::new(x, y), bulge))
    }
}

const CORNER: Part =
    clause(&[word("corners|corners|corner"), radius_or("/corner", "corner radius", "sharp")]);
const ROUND: &[Part] = &[diameter("/diameter", "diameter")];
const SQUARE: &[Part] = &[length("/side", "side"), CORNER];
const RECTANGLE: &[Part] = &[length("/width", "width"), times(), length("/height", "height"), CORNER];
const SLOT: &[Part] = &[length("/length", "length"), times(), length("/width", "width"), TOLD_BY];
/// How the length of a slot is told.
pub const TOLD_BY: Part = quiet(
    "/measure",
    "slot length told",
    &[("overall", "overall"), ("centres", "centre to centre|centre to centre|centres")],
);
const TRIANGLE: &[Part] =
    &[length("/base", "base"), aloud("wide"), times(), length("/height", "height"), aloud("high")];
const POLYGON: &[Part] = &[
    count("/sides", "sides"),
    printed("sides|sides|x"),
    sign(","),
    length("/across", "across flats"),
    printed("across flats|across|x"),
];
const KEYHOLE: &[Part] = &[
    aloud("entry"),
    diameter("/entry", "entry diameter"),
    sign(","),
    printed("slot"),
    length("/slot", "slot width"),
    sign(","),
    length("/length", "length"),
    printed("long"),
];
const D: &[Part] = &[
    diameter("/diameter", "diameter"),
    sign(","),
    length("/across", "across the flat"),
    printed("across the flat|across|flat"),
];

/// The shapes that a punch makes; their words begin the line.
pub const PUNCHED: &[Case] = &[
    case("round", "Punch a round hole|hole|punch a hole", ROUND, ["9", "3/8"]),
    case("slot", "Punch a slot|slot", SLOT, ["30 x 9", "1 x 3/8"]),
    case("rectangle", "Punch a rectangle|rectangle", RECTANGLE, ["30 x 9", "1 x 3/8"]),
    case("square", "Punch a square|square", SQUARE, ["9", "3/8"]),
    case("triangle", "Punch a triangle|triangle", TRIANGLE, ["30 x 30", "1 x 1"]),
    case("polygon", "Punch a polygon|polygon", POLYGON, ["6 sides, 9 across", "6 sides, 3/8 across"]),
    case("keyhole", "Punch a keyhole|keyhole", KEYHOLE, ["20, slot 9, 20 long", "1, slot 3/8, 1 long"]),
    case("d", "Punch a D-hole|D-hole|dhole", D, ["20, 17 across", "1, 7/8 across"]),
    case(
        "outline",
        "Punch an outline|cut-out",
        &[points("/points", "corner", 3)],
        ["(0, 0) (30, 0) (30, 30)", "(0, 0) (1, 0) (1, 1)"],
    ),
];

/// The shapes that are laid on a face.
pub const LAID: &[Case] = &[
    case("rectangle", "rectangle", RECTANGLE, ["60 x 40", "2 1/2 x 1 1/2"]),
    case("round", "disc", ROUND, ["50", "2"]),
    case("square", "square", SQUARE, ["40", "1 1/2"]),
    case("slot", "round-ended|slot", SLOT, ["60 x 20", "2 1/2 x 3/4"]),
    case("triangle", "triangle", TRIANGLE, ["40 x 30", "1 1/2 x 1 1/4"]),
    case("polygon", "polygon", POLYGON, ["6 sides, 30 across", "6 sides, 1 1/4 across"]),
    case("d", "D-shape|D", D, ["40, 34 across", "1 1/2, 1 1/4 across"]),
    case(
        "outline",
        "outline",
        &[points("/points", "corner", 3)],
        ["(0, 0) (40, 0) (40, 30)", "(0, 0) (1 1/2, 0) (1 1/2, 1)"],
    ),
];

/// The shapes that a field is filled with.
pub const FILLING: &[Case] = &[
    case("round", "round holes|hole|holes", ROUND, ["9", "3/8"]),
    case("slot", "slots|slot", SLOT, ["30 x 9", "1 x 3/8"]),
    case("rectangle", "rectangles|rectangle", RECTANGLE, ["30 x 9", "1 x 3/8"]),
    case("square", "squares|square", SQUARE, ["6", "1/4"]),
    case("triangle", "triangles|triangle", TRIANGLE, ["12 x 12", "1/2 x 1/2"]),
    case("polygon", "polygons|polygon", POLYGON, ["6 sides, 9 across", "6 sides, 3/8 across"]),
    case("keyhole", "keyholes|keyhole", KEYHOLE, ["14, slot 7, 16 long", "5/8, slot 1/4, 5/8 long"]),
    case("d", "D-holes|D-hole", D, ["20, 17 across", "1, 7/8 across"]),
    case(
        "outline",
        "outlines|cut-out",
        &[points("/points", "corner", 3)],
        ["(0, 0) (12, 0) (12, 12)", "(0, 0) (1/2, 0) (1/2, 1/2)"],
    ),
];

const POINT: &[Part] = &[
    opening("("),
    length("/x", "x of point {n}"),
    sign(","),
    length("/y", "y of point {n}"),
    sign(")"),
    Clause::new(&[
        word("curved"),
        Slot::new("/bulge", "bulge of point {n}", Kind::Number).empty("not").part(),
    ])
    .close()
    .shown(When::Told("/bulge"))
    .part(),
];

/// Corners of a contour, or points of a path.
pub const fn points(path: &'static str, label: &'static str, least: usize) -> Part {
    Part::List(List {
        path,
        label,
        item: POINT,
        lead: "",
        between: "",
        ids: Ids::None,
        least,
        adds: &[("point", "(40, 40)", "(1 1/2, 1 1/2)")],
        close: false,
        chain: false,
    })
}
