//! `joggle`: sets an edge off to another height by two opposite bends, so that it laps a neighbour.

use super::bending::{Direction, RADIUS, RELIEF, Relief, SPAN, Span, UP_DOWN};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "joggle",
    stem: "joggle",
    about: "Sets an edge off to another height by two opposite bends, so that it laps a neighbour.",
    role: Role::Bend,
    starts: &[Start {
        key: 'j',
        name: "joggle",
        mm: "joggle $edge up 6 over 20, then 20",
        inch: "joggle $edge up 1/4 over 3/4, then 1",
    }],
    offers: &[Offer {
        on: "edge",
        words: "Joggle {}",
        mm: "joggle $this up 6 over 20, then 20",
        inch: "joggle $this up 1/4 over 3/4, then 1",
    }],
    sentence: &[
        verb("Joggle|joggle"),
        names_or("/edges", "edges joggled", Kind::Edge, "all round"),
        Pick::new("/direction", "direction", UP_DOWN).lacks().part(),
        aloud("by"),
        length("/height", "height"),
        word("over"),
        length("/run", "run"),
        sign(","),
        word("then"),
        length("/length", "length"),
        aloud("straight"),
        RADIUS,
        SPAN,
        RELIEF,
    ],
    examples: &["joggle north up 6 over 20, then 25"],
};

spoken! {
    /// Sets an edge off to another height by two opposite bends, so that it laps a neighbour.
    pub struct Joggle {
        /// Names of straight edges; empty means all round the start.
        pub edges: Vec<String>,
        /// From face to same face.
        pub height: String,
        /// From the first tangent line to the last, along the sheet.
        pub run: String,
        /// Beyond the last tangent line.
        pub length: String,
        pub direction: Direction,
        pub span: Span,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(deserialize_with = "super::unusual", skip_serializing_if = "Option::is_none")]
        pub relief: Option<Relief>,
    }
}
