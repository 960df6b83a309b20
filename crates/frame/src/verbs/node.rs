//! `node`: a point by steps from another, or by its coordinates.

use glam::DVec3;
use grammar::*;
use ground::reader::Reader;

use super::steps;
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Shapes, Spec, Spoken, Turn, Usual};

pub static VERB: Verb = Verb {
    tag: "node",
    stem: "node",
    about: "A point where members meet, by steps from another point or by its coordinates.",
    role: Role::Node,
    starts: &[Start {
        key: 'n',
        name: "node",
        mm: "node $new-node 500 up from $node",
        inch: "node $new-node 20 up from $node",
    }],
    offers: &[],
    sentence: &[
        verb("Node|node"),
        name("/name", "name", Kind::NewNode),
        Clause::new(&[
            heard("at"),
            length("/x", "east"),
            sign(","),
            length("/y", "north"),
            sign(","),
            length("/z", "up"),
        ])
        .close()
        .needed()
        .only(When::Is("/from", &[""]))
        .shown(When::Never)
        .part(),
        STEP_EAST.close().only(FROM_ANOTHER).part(),
        STEP_NORTH.only(FROM_ANOTHER).part(),
        STEP_UP.only(FROM_ANOTHER).part(),
        Clause::new(&[word("from|from|of"), Slot::new("/from", "from", Kind::Node).empty("zero").part()])
            .close()
            .only(FROM_ANOTHER)
            .part(),
    ],
    examples: &["node A 0, 0, 0", "node B 900 east from A", "node C 300 west, 450 up from B"],
};

const FROM_ANOTHER: When = When::IsNot("/from", &[""]);

/// Steps in the directions of the shop floor.
pub const STEP_EAST: Clause =
    Clause::new(&[Slot::new("/x", "east", Kind::Length).ways("east", "west").part()]);
pub const STEP_NORTH: Clause =
    Clause::new(&[Slot::new("/y", "north", Kind::Length).ways("north", "south").part()]);
pub const STEP_UP: Clause = Clause::new(&[Slot::new("/z", "up", Kind::Length).ways("up", "down").part()]);

spoken! {
    /// A point by steps from another (from the origin where none is named).
    pub struct NodeSaid {
        pub name: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub from: String,
        #[serde(default = "super::zero")]
        pub x: String,
        #[serde(default = "super::zero")]
        pub y: String,
        #[serde(default = "super::zero")]
        pub z: String,
    }
}

struct NodeSpec {
    name: String,
    /// The origin where none is named.
    from: Option<String>,
    by: DVec3,
}

impl Spoken for NodeSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let by = steps(reader, [&self.x, &self.y, &self.z])?;
        let from = (!self.from.trim().is_empty()).then(|| self.from.clone());
        Some(Spec::Shapes(Box::new(NodeSpec { name: self.name.clone(), from, by })))
    }
}

impl Shapes for NodeSpec {
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let from = match &self.from {
            None => DVec3::ZERO,
            Some(name) => skeleton.nodes[skeleton.known(turn.tell, "/say/from", name)?].at,
        };
        skeleton.name_node(turn, &self.name, from + self.by)
    }
}
