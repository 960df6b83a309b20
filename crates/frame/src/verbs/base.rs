//! `foot`: a plate under (or on) the end of a post. The post is shortened by its thickness.

use glam::DVec2;
use grammar::*;
use ground::geom::Contour;
use ground::reader::{Range, Reader, Tell};

use super::cap::THICK;
use crate::bar::Surface;
use crate::build::plates::{Cutting, end_at};
use crate::build::skeleton::{Skeleton, ToldTrim};
use crate::build::spec::{Plates, Spec, Spoken, Turn, Usual};
use crate::model::{Cause, EndCut};

pub static VERB: Verb = Verb {
    tag: "base",
    stem: "foot",
    about: "A plate under or on the end of a post: foot, base or head plate. The post is shortened by its \
        thickness.",
    role: Role::Other,
    starts: &[Start {
        key: 'f',
        name: "foot",
        mm: "foot at $node, 120 x 120, 8 thick",
        inch: "foot at $node, 5 x 5, 5/16 thick",
    }],
    offers: &[],
    sentence: &[
        verb("Foot|foot|base"),
        printed("at"),
        row("/at", "nodes", Kind::Node),
        must(&[length("/width", "width"), times(), length("/length", "length")]),
        THICK,
        clause(&[word("holes|holes|hole"), diameter_or("/hole", "hole", "none")]),
        clause(&[
            length_or("/edge", "edge", "twice their size"),
            word("from the edges|from the edges|from the edge"),
        ]),
        also(&[word("edge"), length("/edge", "edge")]),
    ],
    examples: &[
        "foot at A, 120 x 120, 8 thick, holes ⌀11",
        "foot at A B, 150 x 120, 10 thick, holes ⌀14, 25 from the edges",
    ],
};

spoken! {
    /// A plate under (or on) the end of a post: foot, base or head plate. The post is shortened by its
    /// thickness.
    pub struct BaseSaid {
        pub at: Vec<String>,
        pub width: String,
        pub length: String,
        pub thickness: String,
        /// Diameter of a hole in each corner; empty for none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub hole: String,
        /// Of the holes from the edges.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub edge: String,
    }
}

struct BaseSpec {
    at: Vec<String>,
    size: DVec2,
    thickness: f64,
    /// Diameter of a hole in each corner, 0 for none, and how far they lie from the edges.
    hole: f64,
    edge: f64,
}

impl Spoken for BaseSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let width = reader.length("/say/width", &self.width, Range::AboveZero);
        let length = reader.length("/say/length", &self.length, Range::AboveZero);
        let thickness = reader.length("/say/thickness", &self.thickness, Range::AboveZero);
        let hole = reader.length_or("/say/hole", &self.hole, Range::ZeroUp, 0.0)?;
        let edge = reader.length_or("/say/edge", &self.edge, Range::AboveZero, hole * 2.0);
        let (size, edge) = (DVec2::new(width?, length?), edge?);
        if hole > 0.0 && (edge * 2.0 + hole >= size.min_element() || edge <= hole / 2.0) {
            reader.refuse_at(
                "/say/edge",
                "the holes do not fit on the plate",
                "write a distance of at least a diameter from the edges, or a larger plate",
            );
            return None;
        }
        let (at, thickness) = (self.at.clone(), thickness?);
        Some(Spec::Plates(Box::new(BaseSpec { at, size, thickness, hole, edge })))
    }
}

const CORNERS: [DVec2; 4] =
    [DVec2::new(-1.0, -1.0), DVec2::new(1.0, -1.0), DVec2::new(1.0, 1.0), DVec2::new(-1.0, 1.0)];

impl BaseSpec {
    /// The ends that stand on a plate, each with the name of its node.
    fn ends(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<(&str, usize, usize)>> {
        let mut out = Vec::new();
        for (i, name) in self.at.iter().enumerate() {
            let (member, end) = end_at(turn, skeleton, &format!("/say/at/{i}"), name)?;
            out.push((name.as_str(), member, end));
        }
        Some(out)
    }
}

impl Plates for BaseSpec {
    /// The plate takes its thickness off the post that stands on it.
    fn room(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<ToldTrim>> {
        let line = turn.line.to_string();
        let trim = |(_, member, end): (&str, usize, usize)| {
            let bar = skeleton.members[member].end(end);
            let surface = Surface::Plane { at: bar.o + bar.d * self.thickness, normal: bar.d };
            let trim = EndCut { surface, cause: Cause::Told, by: None };
            ToldTrim { line: line.clone(), member, end, trim, lengthen: false }
        };
        Some(self.ends(turn, skeleton)?.into_iter().map(trim).collect())
    }

    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        // What cannot be was told when its room was made.
        let mut quiet = Tell::new(turn.tell.display);
        let turn = &mut Turn { tell: &mut quiet, ..*turn };
        let mut out = Vec::new();
        for (name, member, end) in self.ends(turn, skeleton)? {
            let m = &skeleton.members[member];
            let (bar, p) = (m.end(end), &skeleton.profiles[m.profile]);
            let outline = Contour::rectangle(-self.size / 2.0, self.size / 2.0, 0);
            // Thickness goes from the node into the post; the frame of an end seen from inside is turned
            // over.
            let (x, y) = if bar.y.cross(bar.z).dot(bar.d) > 0.0 { (bar.y, bar.z) } else { (-bar.y, bar.z) };
            let mut plate = Cutting::new("base plate", outline, self.thickness, bar.o, x, y)
                .part(name)
                .welded(p.properties.perimeter, p.section.shape.thickness());
            if self.hole > 0.0 {
                let at = self.size / 2.0 - DVec2::splat(self.edge);
                plate.holes = CORNERS.map(|c| Contour::circle(at * c, self.hole / 2.0, 0)).to_vec();
            }
            out.push(plate);
        }
        Some(out)
    }
}
