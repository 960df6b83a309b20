//! `notch` of a frame: a square notch in the ends of members, open at the end.

use grammar::*;
use ground::reader::{Range, Reader};

use super::hole::{IN_FACE, WALLS};
use crate::build::holes::{Notched, members_named, notch};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Shapes, Spec, Spoken, Turn, Usual};
use crate::choices::{Face, Tip};

pub static VERB: Verb = Verb {
    tag: "notch_end",
    stem: "notch",
    about: "A square notch in the ends of members, open at the end: a slot for a plate, a cut-out.",
    role: Role::Other,
    starts: &[Start {
        key: 'v',
        name: "notch",
        mm: "notch $member end 6 x 60, both walls",
        inch: "notch $member end 1/4 x 2, both walls",
    }],
    offers: &[],
    sentence: &[
        verb("Notch|notch"),
        names("/members", "members", Kind::Member),
        Pick::new("/tip", "end", &[("start", "at the start|start"), ("end", "at the end|end")]).part(),
        aloud(","),
        length("/width", "width"),
        aloud("wide"),
        times(),
        length("/length", "length"),
        aloud("long"),
        IN_FACE,
        WALLS,
    ],
    examples: &["notch brace-1 end 6 x 80, both walls", "notch rail-1 and rail-2 start 40 x 25, left face"],
};

spoken! {
    /// A square notch in the ends of members, open at the end: a slot for a plate, a cut-out.
    pub struct NotchEnd {
        pub members: Vec<String>,
        pub tip: Tip,
        pub face: Face,
        /// Across the face.
        pub width: String,
        /// Along, from the finished end.
        pub length: String,
        /// Through both walls.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub through: bool,
    }
}

struct NotchSpec {
    members: Vec<String>,
    notch: Notched,
}

impl Spoken for NotchEnd {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let width = reader.length("/say/width", &self.width, Range::AboveZero);
        let length = reader.length("/say/length", &self.length, Range::AboveZero);
        let notch = Notched {
            end: self.tip.index(),
            out: self.face.outwards(),
            width: width?,
            length: length?,
            through: self.through,
        };
        Some(Spec::Shapes(Box::new(NotchSpec { members: self.members.clone(), notch })))
    }
}

impl Shapes for NotchSpec {
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        for i in members_named(turn, skeleton, &self.members)? {
            notch(turn, skeleton, i, &self.notch)?;
        }
        Some(())
    }
}
