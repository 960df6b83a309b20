//! `flatten`: ends of tubes pressed flat.

use glam::DVec2;
use grammar::*;
use ground::reader::{Range, Reader};
use ground::word;

use crate::build::holes::members_named;
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Shapes, Spec, Spoken, Turn, Usual};
use crate::choices::Ends;
use crate::model::EndPressed;
use crate::pressed::pressed_width;

pub static VERB: Verb = Verb {
    tag: "flatten",
    stem: "flat",
    about: "Presses ends of round tubes flat, wall on wall, with a stretch over which they become round \
        again.",
    role: Role::Other,
    starts: &[Start {
        key: '6',
        name: "flattened end",
        mm: "flatten $member at both ends, 50 flat, over 40",
        inch: "flatten $member at both ends, 2 flat, over 1 1/2",
    }],
    offers: &[],
    sentence: &[
        verb("Flatten|flatten"),
        names("/members", "members", Kind::Member),
        ENDS,
        must(&[aloud(","), length("/length", "length that is flat"), word("flat")]),
        must(&[word("round again over|over"), length("/over", "length of the change")]),
        clause(&[quiet(
            "/lies",
            "how the flat lies",
            &[("level", "its sides top and bottom|level"), ("upright", "its sides left and right|upright")],
        )]),
    ],
    examples: &[
        "flatten brace-1 at both ends, 50 flat, over 40",
        "flatten brace-1 and brace-2 at the end, 60 flat, over 45, upright",
    ],
};

/// Which ends of members.
pub const ENDS: Part = pick(
    "/ends",
    "ends",
    &[
        ("both", "at both ends|at both ends|both ends"),
        ("start", "at the start|at the start|at its start|start"),
        ("end", "at the end|at the end|at its end|end"),
    ],
);

word! {
    /// How the flat of a pressed end lies in the section.
    pub enum FlatLies {
        #[default]
        Level,
        Upright,
    }
}

spoken! {
    /// Ends of tubes pressed flat.
    pub struct FlattenSaid {
        pub members: Vec<String>,
        pub ends: Ends,
        /// Along the bar from its end.
        pub length: String,
        /// Along the bar, until it is round again.
        pub over: String,
        pub lies: FlatLies,
    }
}

struct FlattenSpec {
    members: Vec<String>,
    ends: Ends,
    length: f64,
    over: f64,
    lies: FlatLies,
}

impl Spoken for FlattenSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let length = reader.length("/say/length", &self.length, Range::AboveZero);
        let over = reader.length("/say/over", &self.over, Range::AboveZero);
        Some(Spec::Shapes(Box::new(FlattenSpec {
            members: self.members.clone(),
            ends: self.ends,
            length: length?,
            over: over?,
            lies: self.lies,
        })))
    }
}

impl Shapes for FlattenSpec {
    /// Whether there is room is known when the ends are.
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        for i in members_named(turn, skeleton, &self.members)? {
            let m = &skeleton.members[i];
            let p = &skeleton.profiles[m.profile];
            if pressed_width(p).is_none() || m.closed {
                let message = format!("{} is a {}", m.name, p.section.designation);
                turn.tell.refuse_at("/say/members", message, "name a round tube with two ends");
                return None;
            }
            if let Some(end) = self.ends.each().find(|k| m.rounds[*k].is_some()) {
                let message = format!("the {} of {} is rounded off", ["start", "end"][end], m.name);
                turn.tell.refuse_at("/say/members", message, "flatten another end");
                return None;
            }
            let across = if self.lies == FlatLies::Level { DVec2::X } else { DVec2::Y };
            for end in self.ends.each() {
                skeleton.members[i].pressed[end] =
                    Some(EndPressed { line: turn.line.into(), across, length: self.length, over: self.over });
            }
        }
        Some(())
    }
}
