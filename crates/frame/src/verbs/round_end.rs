//! `round off`: ends of members rounded full or at their corners.

use grammar::*;
use ground::geom::COINCIDENT;
use ground::reader::{Range, Reader};
use ground::word;

use crate::build::holes::members_named;
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Shapes, Spec, Spoken, Turn, Usual};
use crate::choices::Ends;
use crate::model::EndRound;
use crate::rounds::width;

use super::flatten::ENDS;
use glam::DVec2;

pub static VERB: Verb = Verb {
    tag: "round_end",
    stem: "round",
    about: "Rounds ends of members off: full, to half their width, or their corners alone.",
    role: Role::Other,
    starts: &[Start {
        key: '5',
        name: "rounded end",
        mm: "round off $member at both ends",
        inch: "round off $member at both ends",
    }],
    offers: &[],
    sentence: &[
        verb("Round off|round off"),
        names("/members", "members", Kind::Member),
        ENDS,
        clause(&[radius_or("/radius", "radius of corners", "full")]),
        clause(&[quiet(
            "/over",
            "rounded over",
            &[
                ("wide", "over their width|over the width"),
                ("thin", "over their thickness|over the thickness"),
            ],
        )]),
    ],
    examples: &["round off bent-1 at the end", "round off rail-1 and rail-2 at both ends, R10"],
};

word! {
    /// Which way of the section an end is rounded over.
    pub enum RoundOver {
        /// The wider one; of two alike, left to right.
        #[default]
        Wide,
        Thin,
    }
}

spoken! {
    /// Ends of members rounded off.
    pub struct RoundEndSaid {
        pub members: Vec<String>,
        pub ends: Ends,
        /// Of the corners; empty for an end that is rounded full.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
        pub over: RoundOver,
    }
}

struct RoundSpec {
    members: Vec<String>,
    ends: Ends,
    radius: Option<f64>,
    over: RoundOver,
}

impl Spoken for RoundEndSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let radius = reader.length_if("/say/radius", &self.radius, Range::AboveZero)?;
        let (members, ends, over) = (self.members.clone(), self.ends, self.over);
        Some(Spec::Shapes(Box::new(RoundSpec { members, ends, radius, over })))
    }
}

impl Shapes for RoundSpec {
    /// Where they lie is found when the ends are.
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        for i in members_named(turn, skeleton, &self.members)? {
            let m = &skeleton.members[i];
            let p = &skeleton.profiles[m.profile];
            if m.closed {
                let message = format!("{} is a ring without ends", m.name);
                turn.tell.refuse_at("/say/members", message, "name a member that has ends");
                return None;
            }
            let [across, up] = [DVec2::X, DVec2::Y].map(|v| width(p, v));
            let wide = if across >= up - COINCIDENT { DVec2::X } else { DVec2::Y };
            let aside = if self.over == RoundOver::Wide { wide } else { wide.perp().abs() };
            let most = width(p, aside) / 2.0;
            if self.radius.is_some_and(|r| r > most + COINCIDENT) {
                let most = turn.tell.display.length_unit(most);
                let message = format!("{} is {most} from its middle to its side", m.name);
                turn.tell.refuse_at("/say/radius", message, format!("write {most} or less"));
                return None;
            }
            if let Some(end) = self.ends.each().find(|k| m.pressed[*k].is_some()) {
                let message = format!("the {} of {} is flattened", ["start", "end"][end], m.name);
                turn.tell.refuse_at("/say/members", message, "round off another end");
                return None;
            }
            let radius = self.radius.unwrap_or(most).min(most);
            let round =
                EndRound { line: turn.line.into(), aside, radius, is_full: radius > most - COINCIDENT };
            for end in self.ends.each() {
                skeleton.members[i].rounds[end] = Some(round.clone());
            }
        }
        Some(())
    }
}
