//! `fold`: folds a panel up or down along an edge. Lengths by DIN 6935's usage: outside, over the virtual
//! sharp.

use super::bending::{BEND_AT, BEND_RULE, BendAt, Direction, RADIUS, RELIEF, Relief, SPAN, Span, UP_DOWN};
use grammar::*;
use shop::BendRule;

pub static VERB: Verb = Verb {
    tag: "fold",
    stem: "fold",
    about: "Folds a panel up or down along an edge; further folds may follow on its tip.",
    role: Role::Bend,
    starts: &[Start {
        key: 'f',
        name: "fold",
        mm: "fold $edge up 90°, 40",
        inch: "fold $edge up 90°, 1 1/2",
    }],
    offers: &[
        Offer {
            on: "edge",
            words: "Fold {} up",
            mm: "fold $this up 90°, 40",
            inch: "fold $this up 90°, 1 1/2",
        },
        Offer {
            on: "edge",
            words: "Fold {} down",
            mm: "fold $this down 90°, 40",
            inch: "fold $this down 90°, 1 1/2",
        },
    ],
    sentence: &[
        verb("Fold|fold"),
        names_or("/edges", "edges folded", Kind::Edge, "all round"),
        Pick::new("/direction", "direction", UP_DOWN).lacks().part(),
        angle_or("/angle", "angle", ""),
        Clause::new(&[
            word("until parallel to|until parallel to|parallel to"),
            name("/parallel_to", "parallel to", Kind::Panel),
        ])
        .close()
        .shown(When::Told("/parallel_to"))
        .part(),
        sign(","),
        union(
            "/reach",
            "to",
            "reach",
            &[
                case(
                    "length",
                    "length||long",
                    &[
                        length("/length", "length"),
                        quiet(
                            "/measure",
                            "length told from",
                            &[
                                ("outside", "outside"),
                                ("inside", "inside"),
                                ("tangent", "from the tangent line|from tangent|tangent"),
                            ],
                        ),
                    ],
                    ["40", "1 1/2"],
                ),
                case(
                    "height",
                    "overall height|overall height|height",
                    &[length("/height", "height")],
                    ["40", "1 1/2"],
                ),
                case("level", "level with", &[name("/with", "level with", Kind::Panel)], ["\"\"", "\"\""]),
            ],
        ),
        BEND_AT,
        RADIUS,
        SPAN,
        RELIEF,
        BEND_RULE,
        Part::List(List {
            path: "/then",
            label: "further fold",
            item: &[
                Pick::new("/direction", "direction of {id}", UP_DOWN).lacks().part(),
                angle("/angle", "angle of {id}"),
                sign(","),
                length("/length", "length of {id}"),
                aloud("outside"),
                aside(&[radius_or("/radius", "radius of {id}", "own")]),
            ],
            lead: "then",
            between: ",",
            ids: Ids::Words(&["lip", "return", "end"], "fold"),
            least: 0,
            adds: &[("lip", "up 90°, 15", "up 90°, 1/2")],
            chain: false,
        }),
    ],
    examples: &[
        "fold north up 90°, 40 inside",
        "fold west and east down 60°, 35, inset 20 and 20, round-ended reliefs",
        "fold up 90°, 30, then up 90°, 12",
        "fold north up until parallel to fold-1.south, overall height 50",
    ],
};

word! {
    /// What a folded panel's length is told from.
    pub enum FoldMeasure {
        #[default]
        Outside,
        Inside,
        /// The tangent line.
        Tangent,
    }
}

choice! {
    /// How far a fold reaches.
    pub enum Reach by "to" {
        Length {
            #[serde(default)]
            length: String,
            #[serde(default)]
            measure: FoldMeasure,
        },
        /// Overall, square to the panel it is folded from, over the panel's outer face.
        Height { height: String },
        /// As high as another fold of the same panel.
        Level { with: String },
    }
}

impl Default for Reach {
    fn default() -> Self {
        Reach::Length { length: String::new(), measure: FoldMeasure::default() }
    }
}

spoken! {
    /// Folds a panel up or down along an edge.
    pub struct Fold {
        /// Names of straight edges; empty means all round the start.
        pub edges: Vec<String>,
        /// Angle swept: 90 for a square flange. Not used with `parallel_to`.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub angle: String,
        /// Folded until parallel to this panel.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub parallel_to: String,
        pub direction: Direction,
        pub reach: Reach,
        pub bend_at: BendAt,
        pub span: Span,
        /// Inside radius; empty means the piece's.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(skip_serializing_if = "Option::is_none")]
        pub bend_rule: Option<BendRule>,
        #[serde(deserialize_with = "super::unusual", skip_serializing_if = "Option::is_none")]
        pub relief: Option<Relief>,
        /// Further folds, each on the tip of the one before: lip, return.
        #[serde(skip_serializing_if = "Vec::is_empty")]
        pub then: Vec<Further>,
    }
}

spoken! {
    /// A fold that follows on the tip of the one before.
    pub struct Further {
        pub id: String,
        pub angle: String,
        pub direction: Direction,
        /// Told from outside.
        pub length: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
    }
}
