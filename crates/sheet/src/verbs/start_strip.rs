//! `strip`: a strip told by its side profile: legs, bends and arcs from west to east.

use super::bending::{BEND_RULE, Direction, UP_DOWN};
use grammar::*;
use shop::BendRule;

pub static VERB: Verb = Verb {
    tag: "start_strip",
    stem: "start",
    about: "Starts a piece with a bent strip, told by its side profile: legs, bends and arcs from west to east.",
    role: Role::Start,
    starts: &[Start {
        key: 's',
        name: "bent strip",
        mm: "strip 50 wide: 50, up 90°, 50",
        inch: "strip 2 wide: 2, up 90°, 2",
    }],
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

word! {
    /// The face that leg lengths are told from.
    pub enum Measure {
        #[default]
        Outside,
        Inside,
        Middle,
    }
}

word! {
    /// Which way the width lies from the profile.
    pub enum Side {
        #[default]
        Symmetric,
        North,
        South,
    }
}

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
