//! `rail`, `post`, `brace` …: bars along a chain of nodes.

use std::sync::Arc;

use grammar::*;
use ground::reader::{Range, Reader};
use ground::reference;
use shop::Material;

use crate::bar::Bar;
use crate::bent;
use crate::build::skeleton::{MOST_MEMBERS, SAME, Skeleton, stand};
use crate::build::spec::{SectionSpec, Shapes, Spec, Spoken, Turn, Usual};
use crate::choices::Alignment;
use crate::model::{CentrelineSegment, Member, MemberOf};

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

pub(super) const SITS: &[(&str, &str)] = &[
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
        #[serde(skip_serializing_if = "Alignment::is_middle")]
        pub sits: Alignment,
        /// Centreline radius of the bends at inner nodes; empty for legs of their own.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
        /// One bar curved through three nodes; closed, a whole ring through them.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub arc: bool,
    }
}

/// Members, read; lengths in mm, angles in rad.
struct MembersSpec {
    call: String,
    path: Vec<String>,
    closed: bool,
    section: SectionSpec,
    material: Arc<Material>,
    turn: f64,
    sits: Alignment,
    radius: Option<f64>,
    arc: bool,
}

impl Spoken for Members {
    fn read(&self, reader: &mut Reader, usual: &Usual) -> Option<Spec> {
        let section = usual.section(reader, "/say/section", &self.section);
        let material = usual.material(reader, "/say/material", &self.material);
        let turn = reader.angle_or("/say/turn", &self.turn, 0.0);
        let radius = reader.length_if("/say/radius", &self.radius, Range::AboveZero);
        let call = if self.name.trim().is_empty() { "member" } else { self.name.trim() };
        Some(Spec::Shapes(Box::new(MembersSpec {
            call: call.into(),
            path: self.path.clone(),
            closed: self.closed,
            section: section?,
            material: material?,
            turn: turn?,
            sits: self.sits,
            radius: radius?,
            arc: self.arc,
        })))
    }
}

impl Shapes for MembersSpec {
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let nodes = self.nodes(turn, skeleton)?;
        let profile = skeleton.profile(&self.section);
        if self.arc || (self.radius.is_some() && nodes.len() > 2) {
            let way = self.bent(turn, skeleton, &nodes, profile)?;
            let (from, to) = (nodes[0], nodes[nodes.len() - 1]);
            let shift = skeleton.profiles[profile].sits(self.sits);
            let member = self.member(turn.line, profile, shift, way, [from, to]);
            skeleton.keep(Member { closed: self.closed, name: turn.line.into(), ..member }, None);
            return Some(());
        }
        let shift = skeleton.profiles[profile].sits(self.sits);
        let off = |bar: Bar| Bar { o: bar.o - bar.y * shift.x - bar.z * shift.y, ..bar };
        for (k, w) in nodes.windows(2).enumerate() {
            let (a, b) = (skeleton.nodes[w[0]].at, skeleton.nodes[w[1]].at);
            let bar = off(stand(a, (b - a).normalize(), self.turn));
            let name = if nodes.len() == 2 { turn.line.into() } else { reference::part(turn.line, k + 1) };
            let way = vec![CentrelineSegment::Straight { bar, length: a.distance(b) }];
            let member = self.member(turn.line, profile, shift, way, [w[0], w[1]]);
            skeleton.keep(Member { name, ..member }, None);
        }
        Some(())
    }
}

impl MembersSpec {
    /// The nodes that it runs along; a closed one comes back to its first.
    fn nodes(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<usize>> {
        let mut nodes = Vec::new();
        for (i, name) in self.path.iter().enumerate() {
            ground::halt::point();
            nodes.push(skeleton.known(turn.tell, &format!("/say/path/{i}"), name)?);
        }
        if nodes.len() < 2 {
            let mend = "name two or more nodes";
            turn.tell.refuse_at("/say/path", "a member runs between two nodes at least", mend);
            return None;
        }
        if self.closed && nodes.len() > 2 {
            nodes.push(nodes[0]);
        }
        let apart = |w: &[usize]| skeleton.nodes[w[0]].at.distance(skeleton.nodes[w[1]].at) >= SAME;
        if let Some(i) = nodes.windows(2).position(|w| !apart(w)) {
            turn.tell.refuse_at(
                &format!("/say/path/{}", (i + 1) % self.path.len()),
                "this node stands where the one before it does",
                "name two nodes that are apart",
            );
            return None;
        }
        if skeleton.members.len() + nodes.len() > MOST_MEMBERS {
            let message = format!("the frame has more than {MOST_MEMBERS} members");
            turn.tell.refuse_at("/say/path", message, "split the frame");
            return None;
        }
        Some(nodes)
    }

    /// One bent bar along the nodes.
    fn bent(
        &self,
        turn: &mut Turn,
        skeleton: &Skeleton,
        nodes: &[usize],
        profile: usize,
    ) -> Option<Vec<CentrelineSegment>> {
        let points: Vec<_> = nodes.iter().map(|&i| skeleton.nodes[i].at).collect();
        let (at, made) = if self.arc {
            let once = &points[..points.len() - usize::from(self.closed)];
            ("/say/path", bent::arc(once, self.closed, self.turn))
        } else {
            ("/say/radius", bent::way(&points, self.closed, self.radius.unwrap_or(0.0), self.turn))
        };
        let profile = &skeleton.profiles[profile];
        made.and_then(|way| bent::seated(way, profile, self.sits))
            .map_err(|(message, mend)| turn.tell.refuse_at(at, message, mend))
            .ok()
    }

    fn member(
        &self,
        line: &str,
        profile: usize,
        sits: glam::DVec2,
        way: Vec<CentrelineSegment>,
        ends: [usize; 2],
    ) -> Member {
        let of = MemberOf { profile, material: self.material.clone() };
        Member { sits, ..Member::new(line, &self.call, of, ends, way) }
    }
}
