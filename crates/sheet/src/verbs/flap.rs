//! `flap`: a strip along an edge, creased and trimmed at its ends: to glue, to rivet, to tuck in.

use std::f64::consts::FRAC_PI_2;

use grammar::*;
use ground::geom::COINCIDENT;
use ground::reader::{Range, Reader};

use crate::choices::{Direction, ReliefKind};
use crate::flat::bends::BendRole;
use crate::flat::folds::{Bent, FoldSpec, ReliefOf, SpanOf, Tree, Trim, pick_edges};
use crate::flat::spec::{Panels, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "flap",
    stem: "flap",
    about: "A strip along an edge, creased without allowance and trimmed at its ends: to glue, to rivet, to \
        tuck in.",
    role: Role::Bend,
    starts: &[Start { key: '1', name: "flap", mm: "flap $edge, 8", inch: "flap $edge, 1/4" }],
    offers: &[Offer { on: "edge", words: "Add a flap", mm: "flap $this, 8", inch: "flap $this, 1/4" }],
    sentence: &[
        verb("Add flaps to|flap"),
        names_or("/edges", "edges", Kind::Edge, "all round"),
        sign(","),
        length("/width", "width"),
        aloud("wide"),
        clause(&[word("bent"), angle_or("/angle", "angle", "90°")]),
        clause(&[quiet("/direction", "way", &[("up", "upwards"), ("down", "downwards")])]),
        clause(&[word("ends trimmed at|ends"), angle_or("/ends", "angle of its ends", "45°")]),
        clause(&[
            word("right end at|right end"),
            angle_or("/right", "angle of its right end", "as its ends"),
        ]),
        clause(&[flag("/glued", "glue", &[("false", "not glued"), ("true", "to be glued|glued")])]),
    ],
    examples: &[
        "flap north, 8",
        "flap north and east, 6.5, bent 112°, downwards, ends 60°",
        "flap east-left, 6, ends 45°, right end 90°, glued",
    ],
};

spoken! {
    /// A strip along an edge, creased and trimmed at its ends.
    pub struct Flap {
        /// Names of straight edges; empty means all round the start.
        pub edges: Vec<String>,
        /// From the edge out.
        pub width: String,
        /// Angle swept; empty means 90°.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub angle: String,
        pub direction: Direction,
        /// Between its edge and its ends: 90° is square. Empty means 45°.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub ends: String,
        /// The same of its right end alone, seen from the piece looking out. Empty means as its ends.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub right: String,
        /// Glued to another panel: papers mark where.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub glued: bool,
    }
}

struct FlapSpec {
    edges: Vec<String>,
    width: f64,
    angle: f64,
    up: bool,
    is_glued: bool,
    /// How far its tip is drawn in at its left and at its right end.
    drawn_in: [f64; 2],
}

impl Spoken for Flap {
    fn tip(&self, _: &str) -> Option<String> {
        Some("/width".into())
    }

    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let width = reader.length("/say/width", &self.width, Range::AboveZero);
        let angle = match self.angle.trim() {
            "" => Some(FRAC_PI_2),
            _ => reader.bend_angle("/say/angle", &self.angle, 175.0),
        };
        let ends = reader.angle_or("/say/ends", &self.ends, FRAC_PI_2 / 2.0);
        let right = match self.right.trim() {
            "" => ends,
            _ => reader.angle_or("/say/right", &self.right, FRAC_PI_2),
        };
        let (width, angle, ends) = (width?, angle?, [ends?, right?]);
        for (end, path) in ends.into_iter().zip(["/say/ends", "/say/right"]) {
            if !(0.1..=FRAC_PI_2 + 1e-9).contains(&end) {
                let mend = "write an angle up to 90°, which is square";
                reader.refuse_at(path, "the ends are not trimmed at such an angle", mend);
                return None;
            }
        }
        let up = self.direction == Direction::Up;
        let (edges, is_glued) = (self.edges.clone(), self.glued);
        let drawn_in = ends.map(|end| width / end.tan());
        Some(Spec::Panels(Box::new(FlapSpec { edges, width, angle, up, is_glued, drawn_in })))
    }
}

impl Panels for FlapSpec {
    fn hang(&self, turn: &mut Turn, tree: &mut Tree) -> Option<()> {
        for p in pick_edges(turn, tree, &self.edges, 1)? {
            let [a, b] = tree.ends(p.edge.node, p.edge.side);
            let length = p.edge.part.map_or(a.distance(b), |(from, to)| to - from);
            let [left, right] = self.drawn_in;
            if length - left - right < COINCIDENT {
                let most = turn.tell.display.length_unit(length * self.width / (left + right));
                turn.tell.refuse_at(
                    "/say/width",
                    format!("nothing is left of the tip of the flap on {}", p.panel),
                    format!("write less than {most}, or steeper ends"),
                );
                return None;
            }
            let end = |by: f64| Trim { bend: 0.0, low: 0.0, high: -by };
            tree.hang(
                &p.edge,
                FoldSpec {
                    index: turn.at.index,
                    line: turn.at.line.into(),
                    path: None,
                    width_at: "/say/width",
                    name: p.panel,
                    role: BendRole::Crease,
                    is_tab: false,
                    is_glued: self.is_glued,
                    bend: Bent::creased(self.angle, self.up, tree.t, self.width),
                    span: SpanOf::Full,
                    relief: ReliefOf { kind: ReliefKind::Torn, width: 0.0, depth: 0.0 },
                    // The outline runs to the left.
                    trims: [end(right), end(left)],
                },
            );
        }
        Some(())
    }
}
