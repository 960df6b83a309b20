//! `rail`, `post`, `brace` …: bars along a chain of nodes.

use grammar::*;

pub static VERB: Verb = Verb {
    tag: "members",
    stem: "",
    about: "Bars along a chain of nodes: one a leg, or one bent bar where a radius is told.",
    role: Role::Member,
    starts: &[Start { key: 'm', name: "member", mm: "rail $node-2 $node", inch: "rail $node-2 $node" }],
    offers: &[],
    sentence: &[
        Pick::new("/name", "call", CALLS).usual("").begins().other("members").part(),
        aloud("along"),
        heard("from"),
        chain("/path", "path", Kind::Node),
        Clause::new(&[flag("/closed", "closed", &[("false", "open"), ("true", "closed")])]).close().part(),
        Clause::new(&[word("called"), Slot::new("/name", "call", Kind::Text).unless(CALLS).part()])
            .shown(When::Never)
            .part(),
        clause(&[aloud("of"), Slot::new("/section", "section", Kind::Section).empty("usual section").part()]),
        clause(&[pick("/sits", "sits", SITS)]),
        clause(&[word("turned|turned|turn"), angle_or("/turn", "turn", "not")]),
        clause_when(
            When::AtLeast("/path", 3),
            &[flag(
                "/arc",
                "way",
                &[("false", "from node to node"), ("true", "as one arc through them|as one arc|arc|curved")],
            )],
        ),
        clause_when(When::AtLeast("/path", 3), &[word("bent"), length_or("/radius", "bend radius", "not")]),
        clause(&[
            word("material"),
            Slot::new("/material", "material of the bar", Kind::Material).empty("as usual").part(),
        ]),
    ],
    examples: &[
        "rail A B C closed, SHS 60x60x3",
        "post A B, on its top face, turned 45°",
        "pipe A B C, 48.3x3, bent 150",
        "hoop A M B closed, as one arc",
    ],
};

/// What a shop calls bars: any of these begins a line of members.
const CALLS: &[(&str, &str)] = &[
    ("rail", "rail"),
    ("post", "post"),
    ("brace", "brace"),
    ("leg", "leg"),
    ("beam", "beam"),
    ("chord", "chord"),
    ("strut", "strut"),
    ("member", "member"),
    ("bar", "bar"),
    ("tube", "tube"),
    ("pipe", "pipe"),
    ("arm", "arm"),
    ("stud", "stud"),
    ("sill", "sill"),
    ("diagonal", "diagonal"),
    ("vertical", "vertical"),
    ("stringer", "stringer"),
    ("hoop", "hoop"),
];

const SITS: &[(&str, &str)] = &[
    ("middle", "on its middle"),
    ("centroid", "on its centroid|on its centroid|centroid"),
    ("top", "on its top face|on its top face|top"),
    ("bottom", "on its bottom face|on its bottom face|bottom"),
    ("left", "on its left face|on its left face|left"),
    ("right", "on its right face|on its right face|right"),
    ("top_left", "on its top left corner|on its top left corner|top left"),
    ("top_right", "on its top right corner|on its top right corner|top right"),
    ("bottom_left", "on its bottom left corner|on its bottom left corner|bottom left"),
    ("bottom_right", "on its bottom right corner|on its bottom right corner|bottom right"),
];

word! {
    /// Which point of the section lies on the line between its nodes, the section seen from its start with
    /// its up side up.
    pub enum Sits {
        #[default]
        Middle,
        Centroid,
        Top,
        Bottom,
        Left,
        Right,
        TopLeft,
        TopRight,
        BottomLeft,
        BottomRight,
    }
}

impl Sits {
    pub fn is_middle(&self) -> bool {
        *self == Sits::Middle
    }
}

spoken! {
    /// Bars along a chain of nodes: one a leg, or one bent bar where a radius is told.
    pub struct Members {
        /// What the shop calls it: rail, post, brace.
        pub name: String,
        pub path: Vec<String>,
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub closed: bool,
        /// Empty for the frame's usual section.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub section: String,
        /// Id of a material; empty for the frame's.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub material: String,
        /// About its own line, from long side up (a post: long side north).
        #[serde(skip_serializing_if = "String::is_empty")]
        pub turn: String,
        #[serde(skip_serializing_if = "Sits::is_middle")]
        pub sits: Sits,
        /// Centreline radius of the bends at inner nodes; empty for legs of their own.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
        /// One bar curved through three nodes; closed, a whole ring through them.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub arc: bool,
    }
}
