//! `trim`: an end cut off at a plane or a face.

use super::mirror_frame::{WAYS, Way};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "trim",
    stem: "trim",
    about: "Cuts an end off at a plane or at the face of another member. It never becomes longer unless \
        told to.",
    role: Role::Other,
    starts: &[Start {
        key: 't',
        name: "trim",
        mm: "trim $member at its end at up 0",
        inch: "trim $member at its end at up 0",
    }],
    offers: &[],
    sentence: &[
        verb("Trim|trim"),
        name("/member", "member", Kind::Member),
        pick("/tip", "end", &[("start", "at its start|start"), ("end", "at its end|end")]),
        union(
            "/by",
            "by",
            "trimmed by",
            &[
                case(
                    "plane",
                    "by the plane|at|",
                    &[pick("/way", "direction", WAYS), Slot::new("/at", "plane at", Kind::Length).part()],
                    ["up 0", "up 0"],
                ),
                case(
                    "nodes",
                    "by the plane of nodes|by nodes",
                    &[row_or("/nodes", "nodes", Kind::Node, "")],
                    ["", ""],
                ),
                case(
                    "member",
                    "by the face of|by",
                    &[name("/member", "by member", Kind::Member)],
                    ["\"\"", "\"\""],
                ),
            ],
        ),
        clause(&[word("gap"), length_or("/gap", "gap", "none")]),
        clause(&[flag(
            "/lengthen",
            "lengthen",
            &[("false", "never longer"), ("true", "lengthen to it|lengthen")],
        )]),
    ],
    examples: &[
        "trim brace-1 end at up 0",
        "trim brace-1 start by rail-1, gap 1",
        "trim brace-1 end by nodes A B C, lengthen",
    ],
};

word! {
    /// An end of a member.
    pub enum Tip {
        #[default]
        Start,
        End,
    }
}

choice! {
    /// What an end is trimmed by.
    pub enum TrimBy by "by" {
        /// A plane across a direction, at a coordinate.
        Plane {
            #[serde(default)]
            way: Way,
            #[serde(default)]
            at: String,
        },
        /// The plane through three nodes.
        Nodes {
            #[serde(default)]
            nodes: Vec<String>,
        },
        /// The face of another member that this end comes upon.
        Member { member: String },
    }
}

impl Default for TrimBy {
    fn default() -> Self {
        TrimBy::Plane { way: Way::Up, at: "0".into() }
    }
}

spoken! {
    /// An end cut off at a plane or face. It never becomes longer unless told to.
    pub struct TrimSaid {
        pub member: String,
        pub tip: Tip,
        pub by: TrimBy,
        /// Gap left to the plane or face.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub gap: String,
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub lengthen: bool,
    }
}
