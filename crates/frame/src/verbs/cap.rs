//! `cap`: a plate that closes the ends of members.

use glam::DVec2;
use grammar::*;
use ground::geom::Contour;
use ground::geom::ROUNDING;
use ground::reader::{Range, Reader};

use crate::build::plates::{Cutting, end_at};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Plates, Spec, Spoken, Turn, Usual};
use crate::profile::ring;

pub static VERB: Verb = Verb {
    tag: "cap",
    stem: "cap",
    about: "A plate that closes the ends of members.",
    role: Role::Other,
    starts: &[Start { key: 'c', name: "cap", mm: "cap at $node, 3 thick", inch: "cap at $node, 1/8 thick" }],
    offers: &[],
    sentence: &[
        verb("Cap the ends|cap"),
        printed("at"),
        row("/at", "nodes", Kind::Node),
        THICK,
        clause(&[word("inset"), length_or("/inset", "inset", "none")]),
    ],
    examples: &["cap at B C, 3 thick, inset 1"],
};

/// How thick a plate is.
pub const THICK: Part = must(&[heard("thick"), length("/thickness", "thickness"), printed("thick")]);

spoken! {
    /// A plate that closes the ends of members.
    pub struct CapSaid {
        /// Nodes at free ends.
        pub at: Vec<String>,
        pub thickness: String,
        /// Edge of the plate inside the outline of the section; negative stands out.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub inset: String,
    }
}

struct CapSpec {
    at: Vec<String>,
    thickness: f64,
    inset: f64,
}

impl Spoken for CapSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let thickness = reader.length("/say/thickness", &self.thickness, Range::AboveZero);
        let inset = reader.length_or("/say/inset", &self.inset, Range::Any, 0.0);
        let (at, thickness, inset) = (self.at.clone(), thickness?, inset?);
        Some(Spec::Plates(Box::new(CapSpec { at, thickness, inset })))
    }
}

/// Chords of the outline of a round cap on a slanted cut.
const CHORDS: usize = 96;

impl Plates for CapSpec {
    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        let mut out = Vec::new();
        for (i, name) in self.at.iter().enumerate() {
            let (member, end) = end_at(turn, skeleton, &format!("/say/at/{i}"), name)?;
            let m = &skeleton.members[member];
            let (bar, p) = (m.end(end), &skeleton.profiles[m.profile]);
            let half = p.section.shape.size() / 2.0 - DVec2::splat(self.inset);
            if half.min_element() <= 0.0 {
                let mend = "write a smaller inset";
                turn.tell.refuse_at("/say/inset", "nothing of the cap is left", mend);
                return None;
            }
            // The cap lies on the cut, square or slanted.
            let foot = |q: DVec2| m.tip(end, q);
            let o = foot(DVec2::ZERO);
            let (ey, ez) = (foot(DVec2::X) - o, foot(DVec2::Y) - o);
            let out_of = ey.cross(ez).normalize() * -ey.cross(ez).dot(bar.d).signum();
            let x = ey.normalize();
            let y = out_of.cross(x);
            let flat = |q: DVec2| {
                let v = ey * q.x + ez * q.y;
                DVec2::new(v.dot(x), v.dot(y))
            };
            let square = ey.length() < 1.0 + ROUNDING && ez.length() < 1.0 + ROUNDING;
            let outline = match (p.section.shape.is_round(), square) {
                (true, true) => Contour::circle(DVec2::ZERO, half.x, 0),
                (true, false) => Contour::polygon(ring(half.x, CHORDS).into_iter().map(flat), 0),
                _ => {
                    let corners = [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)];
                    Contour::polygon(corners.map(|(a, b)| flat(half * DVec2::new(a, b))), 0)
                }
            };
            let weld = p.properties.perimeter.min(outline.perimeter());
            let cap = Cutting::new("cap", outline, self.thickness, o, x, y);
            out.push(cap.part(name).welded(weld, p.section.shape.thickness()));
        }
        Some(out)
    }
}
