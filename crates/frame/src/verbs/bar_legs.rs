//! Legs of a bar: straight, bent, spiral, or the points where they meet.

use std::f64::consts::TAU;

use glam::DVec3;
use grammar::*;
use ground::reader::{Range, Reader};
use ground::{choice, word};

use crate::bent::{LEAST_SPIRAL, LegKind, Towards};

pub const LEGS: &[Case] = &[
    case("straight", "||straight", &[length("/length", "length of a leg")], ["100", "4"]),
    case(
        "bend",
        "bend",
        &[angle("/angle", "angle of a bend"), radius("/radius", "radius of a bend"), TOWARDS],
        ["90° R40", "90° R1 1/2"],
    ),
    case(
        "twist",
        "twist",
        &[angle("/angle", "angle of a twist"), word("over"), length("/length", "length of a twist")],
        ["90° over 100", "90° over 4"],
    ),
    case(
        "spiral",
        "spiral",
        &[
            angle("/angle", "angle of a spiral"),
            radius("/radius", "radius of a spiral at its beginning"),
            word("to"),
            radius("/until", "radius of a spiral at its end"),
            TOWARDS,
        ],
        ["360° R20 to R60", "360° R3/4 to R2 1/2"],
    ),
    case(
        "point",
        "point",
        &[
            opening("("),
            length("/x", "steps east from the start"),
            sign(","),
            length("/y", "steps north from the start"),
            sign(","),
            length("/z", "steps up from the start"),
            sign(")"),
            Clause::new(&[radius_or("/radius", "radius at a point", "none")]).close().part(),
        ],
        ["(100, 0, 0)", "(4, 0, 0)"],
    ),
];

const TOWARDS: Part = aside(&[union_or(
    "/towards",
    "kind",
    "way of a bend",
    "as the bend before",
    &[
        case("heads", "going||going", &[pick("/heading", "direction of a bend", HEADINGS)], ["east"; 2]),
        case("turned", "turned", &[angle("/angle", "turn before a bend")], ["90°", "90°"]),
    ],
)]);

pub const HEADINGS: &[(&str, &str)] = &[
    ("east", "to the east|east"),
    ("north", "to the north|north"),
    ("west", "to the west|west"),
    ("south", "to the south|south"),
    ("up", "up"),
    ("down", "down"),
];

word! {
    /// A way that a bar sets out, or is bent to.
    pub enum BarHeading {
        #[default]
        East,
        North,
        West,
        South,
        Up,
        Down,
    }
}

impl BarHeading {
    pub fn unit(self) -> DVec3 {
        match self {
            BarHeading::East => DVec3::X,
            BarHeading::North => DVec3::Y,
            BarHeading::West => -DVec3::X,
            BarHeading::South => -DVec3::Y,
            BarHeading::Up => DVec3::Z,
            BarHeading::Down => -DVec3::Z,
        }
    }
}

choice! {
    /// The way a bend goes.
    pub enum BendTowards by "kind" {
        Heads {
            #[serde(default)]
            heading: BarHeading,
        },
        /// From the way of the bend before, clockwise seen along the bar.
        Turned { angle: String },
    }
}

choice! {
    /// A part of a bent bar.
    pub enum BarLeg by "kind" {
        Straight { length: String },
        Bend {
            angle: String,
            /// Of the drawn line.
            radius: String,
            /// As the bend before where none is told; the first one up, on an upright bar north.
            #[serde(default, skip_serializing_if = "Option::is_none")]
            towards: Option<BendTowards>,
        },
        /// Straight on, while the section turns evenly, clockwise seen along the bar; below 0 the other way.
        Twist { angle: String, length: String },
        /// A bend whose radius changes evenly with its angle.
        Spiral {
            angle: String,
            radius: String,
            until: String,
            #[serde(default, skip_serializing_if = "Option::is_none")]
            towards: Option<BendTowards>,
        },
        /// Where the lines of two legs meet, by steps from the start; the last one is the end.
        Point {
            x: String,
            y: String,
            z: String,
            /// Empty at the end, or where the bar runs straight on.
            #[serde(default, skip_serializing_if = "String::is_empty")]
            radius: String,
        },
    }
}

pub fn point(reader: &mut Reader, at: usize, leg: &BarLeg) -> Option<(DVec3, f64)> {
    let BarLeg::Point { x, y, z, radius } = leg else { return None };
    let path = |field: &str| format!("/say/legs/{at}/{field}");
    let [x, y, z] =
        [("x", x), ("y", y), ("z", z)].map(|(field, text)| reader.length(&path(field), text, Range::Any));
    let radius = reader.length_or(&path("radius"), radius, Range::AboveZero, 0.0);
    Some((DVec3::new(x?, y?, z?), radius?))
}

pub fn leg(reader: &mut Reader, at: usize, leg: &BarLeg) -> Option<LegKind> {
    let path = |field: &str| format!("/say/legs/{at}/{field}");
    match leg {
        BarLeg::Straight { length } => {
            reader.length(&path("length"), length, Range::AboveZero).map(LegKind::Straight)
        }
        BarLeg::Bend { angle, radius, towards } => {
            let angle = reader.bend_angle(&path("angle"), angle, 360.0);
            let radius = reader.length(&path("radius"), radius, Range::AboveZero);
            let towards = heading(reader, &path("towards"), towards);
            Some(LegKind::Bend { angle: angle?, radius: radius?, towards: towards? })
        }
        BarLeg::Twist { angle, length } => {
            let told = reader.angle(&path("angle"), angle);
            let length = reader.length(&path("length"), length, Range::AboveZero);
            let (told, length) = (told?, length?);
            if !(LEAST_TWIST..=MOST_SPIRAL).contains(&told.abs()) {
                let message = format!("a twist of {} cannot be made", reader.display.angle(told));
                reader.refuse(
                    &path("angle"),
                    angle,
                    message,
                    "write 1° to 7200°, or below 0 for the other hand",
                );
                return None;
            }
            Some(LegKind::Twist { angle: told, length })
        }
        BarLeg::Spiral { angle, radius, until, towards } => {
            let told = reader.angle(&path("angle"), angle);
            let radius = reader.length(&path("radius"), radius, Range::AboveZero);
            let last = reader.length(&path("until"), until, Range::AboveZero);
            let towards = heading(reader, &path("towards"), towards);
            let (told, radii) = (told?, [radius?, last?]);
            if !(LEAST_SPIRAL - 1e-9..=MOST_SPIRAL).contains(&told) {
                let message =
                    format!("{} is not an angle that a spiral turns by", reader.display.angle(told));
                reader.refuse(&path("angle"), angle, message, "write 45° to 7200°; less is a bend");
                return None;
            }
            if (radii[1] - radii[0]).abs() < LEAST_GROWTH {
                let mend = "write another radius for its end, or make it a bend";
                reader.refuse_at(&path("until"), "a spiral whose radius stays is a bend", mend);
                return None;
            }
            Some(LegKind::Spiral { angle: told, radii, towards: towards? })
        }
        BarLeg::Point { .. } => None,
    }
}

/// Twenty turns, rad.
const MOST_SPIRAL: f64 = 20.0 * TAU + 1e-9;
/// A degree, rad: less is no twist.
const LEAST_TWIST: f64 = TAU / 360.0 - 1e-9;
/// A spiral grows by this at least, mm, so that it is read back as one.
const LEAST_GROWTH: f64 = 0.1;

fn heading(reader: &mut Reader, path: &str, told: &Option<BendTowards>) -> Option<Towards> {
    Some(match told {
        None => Towards::Same,
        Some(BendTowards::Heads { heading }) => Towards::World(heading.unit()),
        Some(BendTowards::Turned { angle }) => {
            Towards::Turned(reader.angle(&format!("{path}/angle"), angle)?)
        }
    })
}
