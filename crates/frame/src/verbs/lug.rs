//! `lug`: base plate, upright plate with a round top and an eye on the same centre.

use glam::{DVec2, DVec3};
use grammar::*;
use ground::geom::{COINCIDENT, Contour, Vertex};
use ground::reader::{Range, Reader};
use ground::reference::Reference;
use ground::word;

use super::hole::{FACE, FROM_START};
use crate::build::plates::{Cutting, on_face};
use crate::build::sides::{SideFace, Standing};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Plates, Spec, Spoken, Turn, Usual};
use crate::choices::Face;

pub static VERB: Verb = Verb {
    tag: "lug",
    stem: "lug",
    about: "A lug on a member, or on the side of a hopper or transition: base plate, upright plate with a \
        round top and an eye on the same centre.",
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
        clause(&[length_or("/up", "up a side", "none"), word("up its side")]),
        Clause::new(FACE).shown(When::NotTold("/up")).part(),
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
        "lug on hopper-1.east, 200 from its start, 260 up its side, 10 thick, R28, eye ⌀22 at 40",
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
        /// Or the side of a hopper, `hopper-1.east`.
        pub member: String,
        pub face: Face,
        /// Along the member, from the node it starts at; along the lower edge of a side from its left, seen
        /// from outside.
        pub at: String,
        /// Up the slope of a side, from its lower edge; empty on a member.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub up: String,
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
    /// Up the side of a hopper.
    up: Option<f64>,
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
        let up = reader.length_if("/say/up", &self.up, Range::ZeroUp);
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
            up: up?,
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
        let ([at, n, d], wall) = match self.up {
            Some(up) => self.on_side(turn, skeleton, up)?,
            None => {
                if side_of(skeleton, &self.member).is_some() {
                    let mend = "write how far up from the lower edge of that side";
                    turn.tell.refuse_at("/say/up", "this is the side of a hopper or transition", mend);
                    return None;
                }
                let (at, n, d, i) = on_face(turn, skeleton, &self.member, self.face, self.at)?;
                ([at, n, d], skeleton.profiles[skeleton.members[i].profile].section.shape.thickness())
            }
        };
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

/// Where plates round openings stand, and which of their faces this names.
fn side_of<'s>(s: &'s Skeleton, name: &str) -> Option<(&'s Standing, &'s SideFace)> {
    let Reference { line, part, copy: None } = Reference::parse(name.trim()) else { return None };
    let on = s.standing.get(line)?.as_ref()?;
    Some((on, on.faces.iter().find(|f| on.sides.all[f.side].name == part)?))
}

impl LugSpec {
    /// Its place on a side, the way out, and the way up the slope, which its upright lies in; and the wall.
    fn on_side(&self, turn: &mut Turn, skeleton: &Skeleton, up: f64) -> Option<([DVec3; 3], f64)> {
        let line = Reference::parse(self.member.trim()).line;
        let known = skeleton.standing(turn.tell, "/say/member", line)?;
        let Some((on, face)) = side_of(skeleton, &self.member) else {
            let first = known.faces.first().map_or("south", |f| &known.sides.all[f.side].name);
            let mend = format!("name a side that is there, such as {line}.{first}");
            turn.tell.refuse_at("/say/member", format!("'{}' is no side of it", self.member), mend);
            return None;
        };
        let low = face.ring.iter().map(|q| q.y).fold(f64::INFINITY, f64::min);
        let edge = face.ring.iter().filter(|q| q.y < low + COINCIDENT);
        let left = edge.map(|q| q.x).fold(f64::INFINITY, f64::min);
        let foot = DVec2::new(left + self.at, low + up);
        // What it stands on lies on the side.
        let size = self.base.map_or(DVec2::new(2.0 * self.radius, self.thickness), |b| b.0) / 2.0;
        let outline = Contour::polygon(face.ring.iter().copied(), 0).outward();
        let corners = [(1.0, 1.0), (1.0, -1.0), (-1.0, 1.0), (-1.0, -1.0)];
        let beside = corners.map(|(x, y)| foot + DVec2::new(size.y * x, size.x * y));
        if beside.into_iter().any(|q| !outline.contains(q)) {
            let message = format!("its foot runs over the edge of the {} side", on.sides.all[face.side].name);
            turn.tell.refuse_at("/say/at", message, "move it, or make it smaller");
            return None;
        }
        let at = on.o + face.point(foot, on.sides.thickness);
        Some(([at, face.out(), face.y], on.sides.thickness))
    }
}
