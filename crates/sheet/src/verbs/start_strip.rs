//! `strip`: a strip told by its side profile: legs, bends and arcs from west to east.

use grammar::*;
use ground::reader::{Range, Reader};
use shop::BendRule;

use super::bending::{BEND_RULE, UP_DOWN};
use super::bending::{read_radius, read_rule};
use crate::choices::{Direction, Measure, Side};
use crate::flat::blank::Blank;
use crate::flat::spec::{Begins, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;
use crate::flat::strip::{PartKind, PartSpec, StripSpec};

pub static VERB: Verb = Verb {
    tag: "start_strip",
    stem: "start",
    about: "Starts a piece with a bent strip, told by its side profile: legs, bends and arcs from west to \
        east.",
    role: Role::Start,
    starts: &[],
    offers: &[],
    sentence: &[
        verb("Start with a strip|strip"),
        WIDE,
        also(&[word("wide"), length("/width", "width")]),
        clause(&[pick(
            "/side",
            "side",
            &[
                ("symmetric", "symmetric to its profile|symmetric"),
                ("north", "to the north of its profile|to the north"),
                ("south", "to the south of its profile|to the south"),
            ],
        )]),
        TOLD_FROM,
        clause(&[
            Slot::new("/stays", "leg that lies still", Kind::Leg).empty("the first leg").part(),
            word("lies still"),
        ]),
        sign(":"),
        Part::List(List {
            path: "/profile",
            label: "profile",
            item: &[union(
                "",
                "kind",
                "kind",
                &[
                    case("leg", "||leg", &[length("/length", "length of leg {id}")], ["40", "1 1/2"]),
                    case(
                        "bend",
                        "||bend",
                        &[
                            pick("/direction", "direction of bend {id}", UP_DOWN),
                            angle("/angle", "angle of bend {id}"),
                            aside(&[radius_or("/radius", "radius of bend {id}", "own")]),
                            BEND_RULE,
                        ],
                        ["up 90°", "up 90°"],
                    ),
                    case(
                        "arc",
                        "arc",
                        &[
                            Pick::new("/direction", "direction of arc {id}", UP_DOWN).lacks().part(),
                            angle("/angle", "angle of arc {id}"),
                            radius("/radius", "radius of arc {id}"),
                        ],
                        ["up 90° R50", "up 90° R2"],
                    ),
                ],
            )],
            lead: "",
            between: ",",
            ids: Ids::Profile("leg"),
            least: 0,
            adds: &[
                ("a bend and a leg", "up 90°; 40", "up 90°; 1 1/2"),
                ("an arc and a leg", "arc up 90° R50; 40", "arc up 90° R2; 1 1/2"),
                ("a leg", "40", "1 1/2"),
            ],
            close: false,
            chain: true,
        }),
        also(&[word("wide"), length("/width", "width")]),
        also(&[MEASURE]),
    ],
    examples: &[
        "strip 60 wide: 90, up 75°, 260, down 75°, 90",
        "strip 480 wide, c lies still: 25, up 90°, 35, down 90° R3, 60",
        "strip 50 wide, inside: 45, down 90°, arc up 180° R140, down 90°, 45",
    ],
};

const WIDE: Part = must(&[length("/width", "width"), word("wide")]);

/// The face that lengths are told from.
const MEASURE: Part = pick(
    "/measure",
    "told from",
    &[
        ("outside", "told from the outside|outside"),
        ("inside", "told from the inside|inside"),
        ("middle", "told from the middle|middle"),
    ],
);

pub const TOLD_FROM: Part = clause(&[MEASURE]);

spoken! {
    /// A strip told by its side profile: legs, bends and arcs from west to east.
    pub struct StartStrip {
        pub width: String,
        pub side: Side,
        pub measure: Measure,
        pub profile: Vec<Element>,
        /// Id of the leg that lies still; empty means the first.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub stays: String,
    }
}

/// A part of a strip's profile.
#[derive(Clone, Debug, PartialEq, serde::Serialize, serde::Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Element {
    Leg(Leg),
    Bend(Bend),
    Arc(ProfileArc),
}

impl Element {
    pub fn id(&self) -> &str {
        match self {
            Element::Leg(e) => &e.id,
            Element::Bend(e) => &e.id,
            Element::Arc(e) => &e.id,
        }
    }
}

spoken! {
    pub struct Leg {
        pub id: String,
        pub length: String,
    }
}

spoken! {
    /// A bend between two legs; leg lengths run to its virtual sharp.
    pub struct Bend {
        pub id: String,
        /// Angle swept: 90 for a square flange.
        pub angle: String,
        pub direction: Direction,
        /// Inside radius; empty means the piece's.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(skip_serializing_if = "Option::is_none")]
        pub bend_rule: Option<BendRule>,
    }
}

spoken! {
    /// A curved part of the profile; neighbouring legs run to its tangent points.
    pub struct ProfileArc {
        pub id: String,
        /// Of the face that the strip is told from.
        pub radius: String,
        pub angle: String,
        pub direction: Direction,
    }
}

/// The most elements a profile may have.
const MOST: usize = 200;

impl Spoken for StartStrip {
    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec> {
        let width = reader.length("/say/width", &self.width, Range::AboveZero);
        if self.profile.is_empty() || self.profile.len() > MOST {
            reader.refuse_at(
                "/say/profile",
                format!("a profile of {} parts cannot be made", self.profile.len()),
                format!("tell 1 to {MOST} legs, bends and arcs"),
            );
            return None;
        }
        let read = |(i, e): (usize, &Element)| self.part(reader, i, e, stock);
        let parts: Vec<Option<PartSpec>> = self.profile.iter().enumerate().map(read).collect();
        let parts = parts.into_iter().collect::<Option<Vec<_>>>()?;
        let stays = self.staying(reader, &parts);
        let (side, measure, at) = (self.side, self.measure, "/say/profile");
        Some(Spec::Start(Box::new(StripSpec { width: width?, side, measure, parts, stays, at })))
    }
}

impl StartStrip {
    fn part(&self, reader: &mut Reader, i: usize, e: &Element, stock: &SheetStock) -> Option<PartSpec> {
        let path = format!("/say/profile/{i}");
        let at = |field: &str| format!("{path}/{field}");
        if e.id().is_empty() || self.profile[..i].iter().any(|o| o.id() == e.id()) {
            reader.refuse_at(
                &at("id"),
                format!("'{}' already names another part of the profile", e.id()),
                "give each part its own id",
            );
            return None;
        }
        let kind = match e {
            Element::Leg(leg) => {
                PartKind::Leg(reader.length(&at("length"), &leg.length, Range::AboveZero)?)
            }
            Element::Bend(b) => {
                let angle = reader.bend_angle(&at("angle"), &b.angle, 180.0);
                let radius = read_radius(reader, &at("radius"), &b.radius, stock);
                let rule = read_rule(reader, &path, &b.bend_rule);
                PartKind::Bend { angle: angle?, up: b.direction == Direction::Up, radius: radius?, rule }
            }
            Element::Arc(a) => {
                let angle = reader.bend_angle(&at("angle"), &a.angle, 360.0);
                let radius = reader.length(&at("radius"), &a.radius, Range::AboveZero);
                let radius = room_inside(reader, &at("radius"), radius?, self.measure, stock)?;
                PartKind::Arc { angle: angle?, up: a.direction == Direction::Up, radius }
            }
        };
        Some(PartSpec { id: e.id().into(), kind, at: Some(path) })
    }

    /// The leg that lies still; the first where none is told.
    fn staying(&self, reader: &mut Reader, parts: &[PartSpec]) -> usize {
        let is_leg = |p: &PartSpec| matches!(p.kind, PartKind::Leg(_));
        let told = parts.iter().position(|p| p.id == self.stays && is_leg(p));
        if told.is_none() && !self.stays.is_empty() {
            reader.refuse_at(
                "/say/stays",
                format!("no leg is called '{}'", self.stays),
                "pick one of the strip's legs",
            );
        }
        told.or_else(|| parts.iter().position(is_leg)).unwrap_or(0)
    }
}

/// The radius told of a face, where the sheet leaves a radius inside of it.
pub fn room_inside(
    reader: &mut Reader,
    path: &str,
    told: f64,
    measure: Measure,
    stock: &SheetStock,
) -> Option<f64> {
    let inside = match measure {
        Measure::Outside => told - stock.t,
        Measure::Middle => told - stock.t / 2.0,
        Measure::Inside => told,
    };
    if inside >= 0.0 {
        return Some(told);
    }
    reader.refuse_at(
        path,
        "the radius is smaller than the thickness leaves inside",
        "write a larger radius, or tell the strip from the inside",
    );
    None
}

impl Begins for StripSpec {
    fn blank(&self, turn: &mut Turn) -> Option<Blank> {
        StripSpec::blank(self, turn)
    }
}
