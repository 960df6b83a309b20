//! `clamp`: a ring that clamps a round member: split, with two ears and a cross bolt.

use glam::DVec2;
use grammar::*;
use ground::geom::{Contour, Vertex};
use ground::reader::{Range, Reader};

use super::cap::THICK;
use super::hole::FROM_START;
use crate::build::plates::Cutting;
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Plates, Spec, Spoken, Turn, Usual};

pub static VERB: Verb = Verb {
    tag: "ring_clamp",
    stem: "clamp",
    about: "A ring that clamps a round member: split, with two ears and a cross bolt.",
    role: Role::Other,
    starts: &[Start {
        key: 'o',
        name: "clamp ring",
        mm: "clamp on $member, 100 from its start, outside ⌀70, 30 wide, split 6, ears 30 long, 8 thick, \
            bolt ⌀9",
        inch: "clamp on $member, 4 from its start, outside ⌀3, 1 1/4 wide, split 1/4, ears 1 1/4 long, 5/16 \
            thick, bolt ⌀3/8",
    }],
    offers: &[],
    sentence: &[
        verb("Clamp ring|clamp"),
        printed("on|on|round"),
        name("/member", "member", Kind::Member),
        FROM_START,
        must(&[word("outside"), diameter("/outside", "outside")]),
        must(&[length("/width", "width"), word("wide")]),
        also(&[word("wide"), length("/width", "width")]),
        clause(&[word("clearance"), length_or("/clearance", "clearance", "none")]),
        must(&[word("split"), length("/split", "split")]),
        must(&[word("ears|ears|ear"), length("/ear", "ear"), printed("long")]),
        clause(&[word("ears|ears|ear"), length_or("/ear_width", "ear width", "as the ring"), word("wide")]),
        THICK,
        must(&[
            word("bolt hole|bolt"),
            diameter("/bolt", "bolt hole"),
            Clause::new(&[
                word("at"),
                length_or("/bolt_at", "bolt from the ring", "the middle"),
                aloud("from the ring"),
            ])
            .close()
            .part(),
        ]),
    ],
    examples: &[
        "clamp on post-1, 300 from its start, outside ⌀63.5, 30 wide, split 5, ears 28 long, 8 thick, bolt \
         ⌀9",
    ],
};

spoken! {
    /// A ring that clamps a round member: split, with two ears and a cross bolt.
    pub struct RingSaid {
        pub member: String,
        pub at: String,
        /// Outside diameter of the tube it is cut from.
        pub outside: String,
        pub width: String,
        /// Of the bore around the member.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub clearance: String,
        /// Of the split.
        pub split: String,
        /// How far the ears stand out of the ring.
        pub ear: String,
        /// Of the ears along the member; empty for as wide as the ring.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub ear_width: String,
        pub thickness: String,
        pub bolt: String,
        /// From the ring to the middle of the bolt; empty for the middle of the ear.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub bolt_at: String,
    }
}

/// A clamp, read; lengths in mm.
struct ClampSpec {
    member: String,
    at: f64,
    outside: f64,
    width: f64,
    clearance: f64,
    split: f64,
    ear: f64,
    ear_width: f64,
    thickness: f64,
    bolt: f64,
    bolt_at: f64,
}

impl Spoken for RingSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let at = reader.length("/say/at", &self.at, Range::ZeroUp);
        let above = Range::AboveZero;
        let outside = reader.length("/say/outside", &self.outside, above);
        let width = reader.length("/say/width", &self.width, above);
        let clearance = reader.length_or("/say/clearance", &self.clearance, Range::ZeroUp, 0.0);
        let split = reader.length("/say/split", &self.split, above);
        let ear = reader.length("/say/ear", &self.ear, above);
        let thickness = reader.length("/say/thickness", &self.thickness, above);
        let bolt = reader.length("/say/bolt", &self.bolt, above);
        let (width, ear, bolt) = (width?, ear?, bolt?);
        let ear_width = reader.length_or("/say/ear_width", &self.ear_width, above, width);
        let bolt_at = reader.length_or("/say/bolt_at", &self.bolt_at, above, ear / 2.0)?;
        if bolt_at - bolt / 2.0 < 0.25 * bolt || ear - bolt_at < 0.75 * bolt {
            let d = reader.display;
            let (least, most) = (d.length_unit(0.75 * bolt), d.length_unit(ear - 0.75 * bolt));
            reader.refuse_at(
                "/say/bolt_at",
                "the bolt hole leaves too little of the ear",
                format!("write from {least} to {most}, or longer ears"),
            );
            return None;
        }
        Some(Spec::Plates(Box::new(ClampSpec {
            member: self.member.clone(),
            at: at?,
            outside: outside?,
            width,
            clearance: clearance?,
            split: split?,
            ear,
            ear_width: ear_width?,
            thickness: thickness?,
            bolt,
            bolt_at,
        })))
    }
}

impl Plates for ClampSpec {
    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        let i = skeleton.known_member(turn.tell, "/say/member", &self.member)?;
        let m = &skeleton.members[i];
        let p = &skeleton.profiles[m.profile];
        if !p.section.shape.is_round() || !m.is_straight() {
            let mend = "name a tube or a round bar";
            turn.tell.refuse_at("/say/member", "a ring clamps a straight round member", mend);
            return None;
        }
        let &ClampSpec { at, outside, width, split, ear, ear_width, thickness: t, bolt, bolt_at, .. } = self;
        let (big, small) = (outside / 2.0, p.section.shape.size().x / 2.0 + self.clearance);
        if big - small < 0.5 || split >= small || bolt * 1.5 >= ear.min(ear_width) {
            turn.tell.refuse_at(
                "/say/outside",
                "the ring has no wall, the split is too wide, or the ears too small for the bolt",
                "check outside, split, ear and bolt",
            );
            return None;
        }
        let bar = m.end(0);
        let (a, b) = ((split / 2.0 / big).asin(), (split / 2.0 / small).asin());
        let turn = |a: f64| std::f64::consts::TAU - 2.0 * a;
        let on = |r: f64, a: f64| DVec2::from_angle(a) * r;
        let v = |p: DVec2, bulge: f64| Vertex { p, bulge, tag: 0 };
        // Two arcs each, so that no bulge passes a half circle.
        let arc = |r: f64, from: f64, sweep: f64| {
            [v(on(r, from), (sweep / 8.0).tan()), v(on(r, from + sweep / 2.0), (sweep / 8.0).tan())]
        };
        let mut vertices = arc(big, a, turn(a)).to_vec();
        vertices.push(v(on(big, -a), 0.0));
        vertices.extend(arc(small, -b, -turn(b)));
        vertices.push(v(on(small, b), 0.0));
        let o = bar.o + bar.d * (at - width / 2.0);
        let mut ring = Cutting::new("clamp ring", Contour { vertices }, width, o, bar.y, bar.z);
        ring.tube = Some([outside, big - small]);
        let mut out = vec![ring];
        let foot = (big * big - split * split / 4.0).sqrt();
        for (part, side) in [("ear-1", 1.0), ("ear-2", -1.0)] {
            let plate =
                Contour::rectangle(DVec2::new(0.0, -ear_width / 2.0), DVec2::new(ear, ear_width / 2.0), 0);
            // Outwards along y of the section, across the width along the bar; thickness away from the split.
            let o = bar.o + bar.d * at + bar.y * foot + bar.z * (side * split / 2.0);
            let across = if side > 0.0 { -bar.d } else { bar.d };
            let mut plate = Cutting::new("clamp ear", plate, t, o, bar.y, across)
                .part(part)
                .welded(2.0 * ear_width, big - small);
            if plate.z.dot(bar.z) * side < 0.0 {
                plate.y = -plate.y;
                plate.z = -plate.z;
            }
            plate.holes = vec![Contour::circle(DVec2::new(bolt_at, 0.0), bolt / 2.0, 0)];
            out.push(plate);
        }
        Some(out)
    }
}
