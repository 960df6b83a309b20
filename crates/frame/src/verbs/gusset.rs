//! `gusset`: a triangular plate in the corner between two members.

use glam::{DVec2, DVec3};
use grammar::*;
use ground::reader::{Range, Reader};

use super::cap::THICK;
use crate::bar::Bar;
use crate::build::gussets::Triangle;
use crate::build::plates::{Cutting, Leg, leg};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Plates, Spec, Spoken, Turn, Usual};
use crate::profile::Profile;

/// What lists call one that stands under a flange.
pub const UNDER_FLANGE: &str = "flange gusset";

pub static VERB: Verb = Verb {
    tag: "gusset",
    stem: "gusset",
    about: "A triangular plate in the corner between two members.",
    role: Role::Other,
    starts: &[Start {
        key: 'g',
        name: "gusset",
        mm: "gusset at $node, legs 100, 6 thick",
        inch: "gusset at $node, legs 4, 1/4 thick",
    }],
    offers: &[],
    sentence: &[
        verb("Gusset|gusset"),
        printed("at"),
        name("/at", "node", Kind::Node),
        Clause::new(&[
            printed("between|between|toward"),
            names_or("/between", "between", Kind::MemberOrNode, "two members"),
        ])
        .close()
        .part(),
        must(&[
            word("legs|legs|leg"),
            length("/leg", "leg"),
            Clause::new(&[word("×|x|by"), length_or("/leg_2", "second leg", "the same")]).close().part(),
        ]),
        THICK,
        clause(&[word("nose"), length_or("/nose", "nose", "none")]),
        clause(&[word("snipe"), length_or("/snipe", "snipe", "none")]),
        clause(&[pick(
            "/place",
            "place",
            &[
                ("middle", "in the middle|in the middle|middle"),
                ("near", "flush on the near side|near side|near"),
                ("far", "flush on the far side|far side|far"),
                ("both", "one on each side|one on each side|both"),
            ],
        )]),
    ],
    examples: &["gusset at B between A and C, legs 100, 6 thick, nose 10, snipe 12"],
};

word! {
    pub enum GussetPlace {
        /// In the middle plane of the two members.
        #[default]
        Middle,
        /// Flush with the side that the plate's face points to.
        Near,
        Far,
        /// One plate on each side.
        Both,
    }
}

spoken! {
    /// A triangular plate in the corner between two members.
    pub struct GussetSaid {
        pub at: String,
        /// The two members whose inner faces it stands on.
        pub between: Vec<String>,
        pub leg: String,
        /// Along the second member; empty for the same.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub leg_2: String,
        pub thickness: String,
        /// Width left at the tips, so that the weld can go round.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub nose: String,
        /// Cut off at the root to clear weld and radius.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub snipe: String,
        pub place: GussetPlace,
    }
}

struct GussetSpec {
    at: String,
    between: [String; 2],
    /// Along each member, and where each is told.
    legs: [(f64, &'static str); 2],
    thickness: f64,
    nose: f64,
    snipe: f64,
    place: GussetPlace,
}

impl Spoken for GussetSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let one = reader.length("/say/leg", &self.leg, Range::AboveZero);
        let two = reader.length_if("/say/leg_2", &self.leg_2, Range::AboveZero);
        let thickness = reader.length("/say/thickness", &self.thickness, Range::AboveZero);
        let nose = reader.length_or("/say/nose", &self.nose, Range::ZeroUp, 0.0);
        let snipe = reader.length_or("/say/snipe", &self.snipe, Range::ZeroUp, 0.0);
        let [first, second] = &self.between[..] else {
            reader.refuse_at(
                "/say/between",
                "a gusset stands between two members",
                "name two members, or the two nodes they run to",
            );
            return None;
        };
        let (one, nose, snipe) = (one?, nose?, snipe?);
        let second_leg = two?.map_or((one, "/say/leg"), |leg| (leg, "/say/leg_2"));
        if nose + snipe >= one.min(second_leg.0) {
            let mend = "write a longer leg";
            reader.refuse_at("/say/nose", "nose and snipe leave nothing of the leg", mend);
            return None;
        }
        Some(Spec::Plates(Box::new(GussetSpec {
            at: self.at.clone(),
            between: [first.clone(), second.clone()],
            legs: [(one, "/say/leg"), second_leg],
            thickness: thickness?,
            nose,
            snipe,
            place: self.place,
        })))
    }
}

impl Plates for GussetSpec {
    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        let node = skeleton.known(turn.tell, "/say/at", &self.at)?;
        let one = leg(turn, skeleton, node, "/say/between/0", &self.between[0])?;
        let two = leg(turn, skeleton, node, "/say/between/1", &self.between[1])?;
        for (l, (long, at)) in [&one, &two].into_iter().zip(self.legs) {
            if long > l.room {
                let left = turn.tell.display.length_unit(l.room);
                let of = &skeleton.members[l.member].name;
                let message = format!("the leg runs into the bend of {of}: {left} are straight there");
                turn.tell.refuse_at(at, message, "write a shorter leg");
                return None;
            }
        }
        self.between(turn, skeleton, node, one, two)
    }
}

impl GussetSpec {
    /// The plate in the corner of two legs, on their inner faces.
    fn between(
        &self,
        turn: &mut Turn,
        skeleton: &Skeleton,
        node: usize,
        one: Leg,
        two: Leg,
    ) -> Option<Vec<Cutting>> {
        let [(a, _), (b, _)] = self.legs;
        let &GussetSpec { thickness: t, nose, snipe, .. } = self;
        let ((m1, b1), (m2, b2)) = ((one.member, one.bar), (two.member, two.bar));
        let w = b1.d.cross(b2.d);
        if w.length() < 0.05 {
            let mend = "name two that make a corner";
            turn.tell.refuse_at("/say/between", "the two members run in line", mend);
            return None;
        }
        let w = w.normalize();
        let (in1, in2) =
            ((b2.d - b1.d * b1.d.dot(b2.d)).normalize(), (b1.d - b2.d * b2.d.dot(b1.d)).normalize());
        let (p1, p2) = (
            &skeleton.profiles[skeleton.members[m1].profile],
            &skeleton.profiles[skeleton.members[m2].profile],
        );
        let face = |bar: &Bar, p: &Profile, v: DVec3| bar.o + v * p.reach(bar.turned(v).0);
        let (f1, f2) = (face(&b1, p1, in1), face(&b2, p2, in2));
        let between = f2 - f1;
        let s1 = between.cross(b2.d).dot(w) / b1.d.cross(b2.d).dot(w);
        let root = f1 + b1.d * s1;
        let root = root - w * w.dot(root - skeleton.nodes[node].at);
        let second = DVec2::new(b2.d.dot(b1.d), b2.d.dot(w.cross(b1.d)));
        let triangle = Triangle { legs: [a, b], nose, snipe };
        let Some(outline) = triangle.outline(second) else {
            turn.tell.refuse_at(
                "/say/nose",
                "the noses run into one another",
                "write a narrower nose or longer legs",
            );
            return None;
        };
        // Seen along w the far side is where w points.
        let reach = |v: DVec3| {
            [(&b1, p1), (&b2, p2)]
                .iter()
                .map(|(bar, p)| (bar.o - root).dot(v) + p.reach(bar.turned(v).0))
                .fold(f64::INFINITY, f64::min)
        };
        let thin = p1.section.shape.thickness().min(p2.section.shape.thickness());
        let plate = |part: &str, low: f64| {
            Cutting::new("gusset", outline.clone(), t, root + w * low, b1.d, w.cross(b1.d))
                .part(part)
                .welded(triangle.weld(), thin)
        };
        let (near, far) = (-reach(-w), reach(w) - t);
        Some(match self.place {
            GussetPlace::Middle => vec![plate("", -t / 2.0)],
            GussetPlace::Near => vec![plate("", near)],
            GussetPlace::Far => vec![plate("", far)],
            GussetPlace::Both => vec![plate("near", near), plate("far", far)],
        })
    }
}
