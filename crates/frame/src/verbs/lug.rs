//! `lug`: base plate, upright plate with a round top and an eye on the same centre.

use glam::DVec2;
use grammar::*;
use ground::geom::{Contour, Vertex};
use ground::reader::{Range, Reader};

use super::hole::{FROM_START, IN_FACE};
use crate::build::plates::{Cutting, on_face};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Plates, Spec, Spoken, Turn, Usual};
use crate::choices::Face;

pub static VERB: Verb = Verb {
    tag: "lug",
    stem: "lug",
    about: "A lug on a member: base plate, upright plate with a round top and an eye on the same centre.",
    role: Role::Other,
    starts: &[Start {
        key: 'l',
        name: "lug",
        mm: "lug on $member, 200 from its start, base 120 x 60 x 10, 12 thick, R30, eye ⌀26 at 45",
        inch: "lug on $member, 8 from its start, base 5 x 2 1/2 x 3/8, 1/2 thick, R1 1/4, eye ⌀1 at 1 3/4",
    }],
    offers: &[],
    sentence: &[
        verb("Lug|lug"),
        printed("on"),
        name("/member", "member", Kind::Member),
        FROM_START,
        IN_FACE,
        clause(&[
            word("base"),
            length_or("/base_length", "base length", ""),
            word("×|x|by"),
            length_or("/base_width", "base width", ""),
            word("×|x|by"),
            length_or("/base", "base thickness", "none"),
        ]),
        must(&[aloud("upright"), heard("thick"), length("/thickness", "thickness"), printed("thick")]),
        must(&[radius("/radius", "radius")]),
        must(&[
            word("eye"),
            diameter("/eye", "eye"),
            word("at|at|height"),
            length("/height", "eye height"),
            aloud("up"),
        ]),
        clause(&[pick(
            "/weld",
            "welded",
            &[
                ("all_round", "welded all round"),
                ("sides", "welded along its sides|weld sides"),
                ("ends", "welded across its ends|weld ends"),
            ],
        )]),
    ],
    examples: &[
        "lug on rail-1, 500 from its start, base 120 x 80 x 10, 12 thick, R30, eye ⌀26 at 60, weld sides",
    ],
};

word! {
    /// Which sides of a lug's upright are welded, as the drawing says.
    pub enum LugWeld {
        #[default]
        AllRound,
        /// Along its two long sides.
        Sides,
        /// Across its two ends.
        Ends,
    }
}

impl LugWeld {
    pub fn is_all_round(&self) -> bool {
        *self == LugWeld::AllRound
    }
}

spoken! {
    /// A lug: base plate, upright plate with a round top and an eye on the same centre.
    pub struct LugSaid {
        pub member: String,
        pub face: Face,
        /// Along the member, from the node it starts at.
        pub at: String,
        /// Along and across the member, and thickness; an empty thickness leaves the base out.
        pub base_length: String,
        pub base_width: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub base: String,
        pub thickness: String,
        /// Outside radius of the round top.
        pub radius: String,
        pub eye: String,
        /// Of the eye above what the upright stands on.
        pub height: String,
        #[serde(skip_serializing_if = "LugWeld::is_all_round")]
        pub weld: LugWeld,
    }
}

struct LugSpec {
    member: String,
    face: Face,
    /// Along the member.
    at: f64,
    /// Along and across the member, and thickness; none for a lug without a base.
    base: Option<(DVec2, f64)>,
    thickness: f64,
    radius: f64,
    eye: f64,
    height: f64,
    weld: LugWeld,
}

impl Spoken for LugSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let at = reader.length("/say/at", &self.at, Range::ZeroUp);
        let thickness = reader.length("/say/thickness", &self.thickness, Range::AboveZero);
        let radius = reader.length("/say/radius", &self.radius, Range::AboveZero);
        let eye = reader.length("/say/eye", &self.eye, Range::AboveZero);
        let height = reader.length("/say/height", &self.height, Range::AboveZero);
        let base = reader.length_or("/say/base", &self.base, Range::ZeroUp, 0.0)?;
        let base = if base > 0.0 {
            let length = reader.length("/say/base_length", &self.base_length, Range::AboveZero);
            let width = reader.length("/say/base_width", &self.base_width, Range::AboveZero);
            Some((DVec2::new(length?, width?), base))
        } else {
            None
        };
        let (radius, eye) = (radius?, eye?);
        if eye / 2.0 >= radius {
            let mend = "write a smaller eye or a larger radius";
            reader.refuse_at("/say/eye", "the eye is as wide as the lug", mend);
            return None;
        }
        Some(Spec::Plates(Box::new(LugSpec {
            member: self.member.clone(),
            face: self.face,
            at: at?,
            base,
            thickness: thickness?,
            radius,
            eye,
            height: height?,
            weld: self.weld,
        })))
    }
}

impl Plates for LugSpec {
    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        let (at, n, d, i) = on_face(turn, skeleton, &self.member, self.face, self.at)?;
        let wall = skeleton.profiles[skeleton.members[i].profile].section.shape.thickness();
        let (r, t, h, eye) = (self.radius, self.thickness, self.height, self.eye);
        let mut out = Vec::new();
        if let Some((size, thick)) = self.base {
            let plate = Contour::rectangle(-size / 2.0, size / 2.0, 0);
            let plate = Cutting::new("lug base", plate, thick, at, d, n.cross(d));
            out.push(plate.part("base").welded(2.0 * (size.x + size.y), wall));
        }
        let base = self.base.map_or(0.0, |b| b.1);
        // Upright, in the plane of member and face normal; its eye sits on the centre of its round top.
        let v = |x: f64, y: f64, bulge: f64| Vertex { p: DVec2::new(x, y), bulge, tag: 0 };
        let outline =
            Contour { vertices: vec![v(-r, 0.0, 0.0), v(r, 0.0, 0.0), v(r, h, 1.0), v(-r, h, 0.0)] };
        let side = d.cross(n);
        let seam = match self.weld {
            LugWeld::AllRound => 2.0 * (2.0 * r + t),
            LugWeld::Sides => 2.0 * 2.0 * r,
            LugWeld::Ends => 2.0 * t,
        };
        let mut upright = Cutting::new("lug", outline, t, at + n * base - side * (t / 2.0), d, n)
            .part("upright")
            .welded(seam, if base > 0.0 { base } else { wall });
        upright.holes = vec![Contour::circle(DVec2::new(0.0, h), eye / 2.0, 0)];
        upright.lifting = true;
        out.push(upright);
        Some(out)
    }
}
