//! `node … between`: a point on the way between two others.

use grammar::*;
use ground::reader::{Range, Reader};

use crate::build::skeleton::{SAME, Skeleton};
use crate::build::spec::{Shapes, Spec, Spoken, Turn, Usual};

pub static VERB: Verb = Verb {
    tag: "between",
    stem: "node",
    about: "A point on the way between two others, by a part of the way or by a length.",
    role: Role::Node,
    starts: &[Start {
        key: 'b',
        name: "node between",
        mm: "node $new-node between $node-2 and $node, 1/2 of the way",
        inch: "node $new-node between $node-2 and $node, 1/2 of the way",
    }],
    offers: &[],
    sentence: &[
        verb("Node|node"),
        name("/name", "name", Kind::NewNode),
        word("between"),
        name("/from", "from", Kind::Node),
        printed("and"),
        name("/to", "to", Kind::Node),
        ALONG,
    ],
    examples: &["node M between A and B, 1/2 of the way", "node M between A and B, 300 along"],
};

/// How far along the way between two nodes, or along a member.
pub const ALONG: Part = must(&[
    Slot::new("/at", "at", Kind::Number).part(),
    pick("/by", "measured by", &[("share", "of the way"), ("length", "along")]),
]);

word! {
    pub enum AlongBy {
        /// A part of the way: `1/2`.
        #[default]
        Share,
        /// A length from the first node.
        Length,
    }
}

spoken! {
    /// A point on the way between two others.
    pub struct Between {
        pub name: String,
        pub from: String,
        pub to: String,
        pub by: AlongBy,
        pub at: String,
    }
}

/// How far along something: a part of it, or a length in mm.
#[derive(Clone, Copy)]
pub enum Along {
    Share(f64),
    Length(f64),
}

impl AlongBy {
    pub fn read(self, reader: &mut Reader, path: &str, text: &str) -> Option<Along> {
        Some(match self {
            AlongBy::Share => Along::Share(reader.number(path, text)?),
            AlongBy::Length => Along::Length(reader.length(path, text, Range::Any)?),
        })
    }
}

struct BetweenSpec {
    name: String,
    from: String,
    to: String,
    at: Along,
}

/// No node is told further off the way between two others than so many times their distance.
const FURTHEST: f64 = 100.0;

impl Spoken for Between {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let at = self.by.read(reader, "/say/at", &self.at)?;
        let (name, from, to) = (self.name.clone(), self.from.clone(), self.to.clone());
        Some(Spec::Shapes(Box::new(BetweenSpec { name, from, to, at })))
    }
}

impl Shapes for BetweenSpec {
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let a = skeleton.known(turn.tell, "/say/from", &self.from)?;
        let b = skeleton.known(turn.tell, "/say/to", &self.to)?;
        let (a, b) = (skeleton.nodes[a].at, skeleton.nodes[b].at);
        let share = match self.at {
            Along::Share(share) => share,
            Along::Length(_) if a.distance(b) < SAME => {
                let mend = "name two that are apart";
                turn.tell.refuse_at("/say/to", "both nodes stand in one place", mend);
                return None;
            }
            Along::Length(length) => length / a.distance(b),
        };
        if !(-FURTHEST..=FURTHEST).contains(&share) {
            turn.tell.refuse_at(
                "/say/at",
                "this is far off the way between the two",
                "write a part of the way such as 1/2, or a length",
            );
            return None;
        }
        skeleton.name_node(turn, &self.name, a.lerp(b, share))
    }
}
