//! Shapes that are cut out, and points of told contours.

use grammar::*;

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

const CORNER: Part =
    clause(&[word("corners|corners|corner"), radius_or("/corner", "corner radius", "sharp")]);
const ROUND: &[Part] = &[diameter("/diameter", "diameter")];
const SQUARE: &[Part] = &[length("/side", "side"), CORNER];
const RECTANGLE: &[Part] = &[length("/width", "width"), times(), length("/height", "height"), CORNER];
const SLOT: &[Part] = &[
    length("/length", "length"),
    times(),
    length("/width", "width"),
    quiet(
        "/measure",
        "slot length told",
        &[("overall", "overall"), ("centres", "centre to centre|centre to centre|centres")],
    ),
];
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
        chain: false,
    })
}
