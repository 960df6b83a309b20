//! `trim`: an end cut off at a plane or a face.

use glam::{DVec2, DVec3};
use grammar::*;
use ground::reader::{Range, Reader};

use super::mirror_frame::WAYS;
use crate::bar::{Bar, Surface};
use crate::build::skeleton::{Skeleton, ToldTrim};
use crate::build::spec::{Shapes, Spec, Spoken, Turn, Usual};
use crate::choices::{FrameAxis, Tip};
use crate::meets::face_met;
use crate::model::{Cause, EndCut};

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

choice! {
    /// What an end is trimmed by.
    pub enum TrimBy by "by" {
        /// A plane across a direction, at a coordinate.
        Plane {
            #[serde(default)]
            way: FrameAxis,
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
        TrimBy::Plane { way: FrameAxis::Up, at: "0".into() }
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

struct TrimSpec {
    member: String,
    end: usize,
    by: Cutter,
    gap: f64,
    lengthen: bool,
}

/// What an end is trimmed by, read.
enum Cutter {
    Plane(FrameAxis, f64),
    Nodes(Vec<String>),
    Member(String),
}

impl Spoken for TrimSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let gap = reader.length_or("/say/gap", &self.gap, Range::ZeroUp, 0.0);
        let by = match &self.by {
            TrimBy::Plane { way, at } => Cutter::Plane(*way, reader.length("/say/by/at", at, Range::Any)?),
            TrimBy::Nodes { nodes } => Cutter::Nodes(nodes.clone()),
            TrimBy::Member { member } => Cutter::Member(member.clone()),
        };
        let (member, end, lengthen) = (self.member.clone(), self.tip.index(), self.lengthen);
        Some(Spec::Shapes(Box::new(TrimSpec { member, end, by, gap: gap?, lengthen })))
    }
}

impl Shapes for TrimSpec {
    /// Whether it shortens is decided when the joints are known.
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let member = skeleton.known_member(turn.tell, "/say/member", &self.member)?;
        let bar = skeleton.members[member].end(self.end);
        let (surface, by) = self.surface(turn, skeleton, member, &bar)?;
        let surface = self.gapped(turn, skeleton, member, &bar, surface)?;
        let trim = EndCut { surface, cause: Cause::Told, by };
        let (line, end, lengthen) = (turn.line.into(), self.end, self.lengthen);
        skeleton.told.push(ToldTrim { line, member, end, trim, lengthen });
        Some(())
    }
}

impl TrimSpec {
    /// What it is trimmed by, and the member whose face that is.
    fn surface(
        &self,
        turn: &mut Turn,
        skeleton: &Skeleton,
        member: usize,
        bar: &Bar,
    ) -> Option<(Surface, Option<usize>)> {
        match &self.by {
            Cutter::Plane(way, at) => {
                Some((Surface::Plane { at: way.unit() * *at, normal: way.unit() }, None))
            }
            Cutter::Nodes(nodes) => {
                let mut p = Vec::new();
                for (i, n) in nodes.iter().enumerate() {
                    p.push(skeleton.nodes[skeleton.known(turn.tell, &format!("/say/by/nodes/{i}"), n)?].at);
                }
                let normal = if p.len() == 3 { (p[1] - p[0]).cross(p[2] - p[0]) } else { DVec3::ZERO };
                if normal.length() < 1.0 {
                    turn.tell.refuse_at(
                        "/say/by/nodes",
                        "these nodes span no plane",
                        "name three nodes that do not lie on one line",
                    );
                    return None;
                }
                Some((Surface::Plane { at: p[0], normal: normal.normalize() }, None))
            }
            Cutter::Member(other) => {
                let at = "/say/by/member";
                let other = skeleton.known_member(turn.tell, at, other)?;
                if other == member {
                    let mend = "name another member";
                    turn.tell.refuse_at(at, "a member cannot be trimmed by itself", mend);
                    return None;
                }
                let wall = &skeleton.members[other];
                if !wall.is_straight() {
                    turn.tell.refuse_at(
                        at,
                        "this member is bent: it has no one face to end at",
                        "trim by a plane instead",
                    );
                    return None;
                }
                let profile = |k: usize| &skeleton.profiles[skeleton.members[k].profile];
                let surface = face_met(profile(other), &wall.way[0].at(0.0), bar, profile(member), 0.0);
                Some((surface, Some(other)))
            }
        }
    }

    /// The surface with the gap that is left to it, where the member comes to it.
    fn gapped(
        &self,
        turn: &mut Turn,
        skeleton: &Skeleton,
        member: usize,
        bar: &Bar,
        surface: Surface,
    ) -> Option<Surface> {
        let gap = self.gap;
        let (at, normal) = match surface {
            Surface::Plane { at, normal } => (at, normal),
            Surface::Round { at, axis, radius } => {
                return Some(Surface::Round { at, axis, radius: radius + gap });
            }
            Surface::Rounded(_) => return Some(surface),
            Surface::Outline { bar, outline, gap: g } => {
                return Some(Surface::Outline { bar, outline, gap: g + gap });
            }
        };
        if normal.dot(bar.d).abs() < NEARLY_ALONG {
            turn.tell.refuse_at(
                "/say/by",
                "this plane runs nearly along the member",
                "choose a plane that crosses it",
            );
            return None;
        }
        let normal = normal * normal.dot(bar.d).signum();
        let surface = Surface::Plane { at: at + normal * gap, normal };
        let m = &skeleton.members[member];
        let tip = m.inward(self.end, DVec2::ZERO, m.station_of(self.end, &surface, DVec2::ZERO));
        if ((tip - at).dot(normal) - gap).abs() > 1e-3 {
            let mend = "choose a plane that it crosses";
            turn.tell.refuse_at("/say/by", "the bend does not come to this plane", mend);
            return None;
        }
        Some(surface)
    }
}

/// A plane nearer to a member's direction than this (cosine of the angle to its normal, 3°) cuts no end.
const NEARLY_ALONG: f64 = 0.05;
