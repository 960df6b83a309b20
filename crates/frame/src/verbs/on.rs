//! `node … on`: a point on a member's line, round its bends too.

use grammar::*;
use ground::reader::Reader;

use super::between::Along;
use super::between::{ALONG, AlongBy};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Shapes, Spec, Spoken, Turn, Usual};

pub static VERB: Verb = Verb {
    tag: "on",
    stem: "node",
    about: "A point on a member's line, round its bends too.",
    role: Role::Node,
    starts: &[Start {
        key: 'i',
        name: "node on",
        mm: "node $new-node on $member, 1/2 of the way",
        inch: "node $new-node on $member, 1/2 of the way",
    }],
    offers: &[],
    sentence: &[
        verb("Node|node"),
        name("/name", "name", Kind::NewNode),
        word("on"),
        name("/member", "member", Kind::Member),
        ALONG,
    ],
    examples: &["node P on rail-1, 1/3 of the way"],
};

spoken! {
    /// A point on a member's line, round its bends too.
    pub struct On {
        pub name: String,
        pub member: String,
        pub by: AlongBy,
        /// From the node it starts at.
        pub at: String,
    }
}

struct OnSpec {
    name: String,
    member: String,
    at: Along,
}

impl Spoken for On {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let at = self.by.read(reader, "/say/at", &self.at)?;
        let (name, member) = (self.name.clone(), self.member.clone());
        Some(Spec::Shapes(Box::new(OnSpec { name, member, at })))
    }
}

impl Shapes for OnSpec {
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let member = skeleton.known_member(turn.tell, "/say/member", &self.member)?;
        let m = &skeleton.members[member];
        let along = match self.at {
            Along::Share(share) => share * m.length,
            Along::Length(length) => length,
        };
        let Some(at) = m.place(along) else {
            let long = turn.tell.display.length_unit(m.length);
            turn.tell.refuse_at(
                "/say/at",
                format!("{} is {long} long: this lies beyond it", m.name),
                "write a part of the way such as 1/2, or a length from its start",
            );
            return None;
        };
        skeleton.name_node(turn, &self.name, at)
    }
}
