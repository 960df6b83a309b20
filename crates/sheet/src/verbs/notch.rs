//! `notch`: a cut into an edge.

use glam::DVec2;
use grammar::*;
use ground::geom::{COINCIDENT, ROUNDING};
use ground::geom::{Contour, Vertex};
use ground::reader::{Range, Reader};

use super::tab::PLACE_ON_EDGE;
use crate::flat::feature::Feature;
use crate::flat::spec::{Cuts, Spec, Spoken, Standing, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "notch",
    stem: "notch",
    about: "A cut into an edge: square, vee or round-ended.",
    role: Role::Cut,
    starts: &[Start {
        key: 'v',
        name: "notch",
        mm: "notch $edge square 20 x 12",
        inch: "notch $edge square 1 x 1/2",
    }],
    offers: &[Offer {
        on: "edge",
        words: "Notch {}",
        mm: "notch $this square 20 x 12",
        inch: "notch $this square 1 x 1/2",
    }],
    sentence: &[
        verb("Notch|notch"),
        name("/edge", "edge notched", Kind::Edge),
        aloud("with a"),
        union(
            "/shape",
            "kind",
            "shape of the notch",
            &[
                case("square", "square|square|", SIZE, ["20 x 12", "1 x 1/2"]),
                case("vee", "vee", SIZE, ["20 x 12", "1 x 1/2"]),
                case("round", "round-ended|round", SIZE, ["12 x 20", "1/2 x 1"]),
            ],
        ),
        PLACE_ON_EDGE,
    ],
    examples: &["notch north vee 20 x 8", "notch north square 20 x 8, at 60"],
};

const SIZE: &[Part] =
    &[length("/width", "width"), aloud("wide"), times(), length("/depth", "depth"), aloud("deep")];

choice! {
    /// The shape of a notch.
    pub enum NotchShape by "kind" {
        Square {
            #[serde(default)]
            width: String,
            #[serde(default)]
            depth: String,
        },
        /// A point inwards.
        Vee { width: String, depth: String },
        /// Round-ended.
        Round { width: String, depth: String },
    }
}

impl Default for NotchShape {
    fn default() -> Self {
        NotchShape::Square { width: String::new(), depth: String::new() }
    }
}

spoken! {
    /// A cut into an edge.
    pub struct Notch {
        pub edge: String,
        pub shape: NotchShape,
        /// From the left end of the edge, seen from the piece looking out, to its middle; empty means the
        /// middle of the edge.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub place: String,
    }
}

#[derive(Clone, Copy, PartialEq)]
enum End {
    Square,
    Vee,
    Round,
}

struct NotchSpec {
    edge: String,
    end: End,
    width: f64,
    depth: f64,
    /// From the left end of the edge; none for its middle.
    place: Option<f64>,
}

/// How far past its edge a notch is cut, so that nothing is left standing on it, mm.
const PAST: f64 = 0.05;

impl Spoken for Notch {
    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let (end, width, depth) = match &self.shape {
            NotchShape::Square { width, depth } => (End::Square, width, depth),
            NotchShape::Vee { width, depth } => (End::Vee, width, depth),
            NotchShape::Round { width, depth } => (End::Round, width, depth),
        };
        let width = reader.length("/say/shape/width", width, Range::AboveZero);
        let depth = reader.length("/say/shape/depth", depth, Range::AboveZero);
        let place = reader.length_if("/say/place", &self.place, Range::ZeroUp);
        let (width, depth, place) = (width?, depth?, place?);
        if end == End::Round && depth < width / 2.0 - ROUNDING {
            reader.refuse_at(
                "/say/shape/depth",
                "a round-ended notch is at least half as deep as it is wide",
                "write a greater depth, or a vee",
            );
            return None;
        }
        Some(Spec::Cuts(Box::new(NotchSpec { edge: self.edge.clone(), end, width, depth, place })))
    }
}

impl NotchSpec {
    /// Its edge along x, inwards along y.
    fn contour(&self) -> Contour {
        let (w, d) = (self.width, self.depth);
        let v = |x: f64, y: f64, bulge: f64| Vertex { p: DVec2::new(x, y), bulge, tag: 0 };
        let (w2, past) = (w / 2.0, -PAST);
        let vertices = match self.end {
            End::Square => vec![v(-w2, past, 0.0), v(w2, past, 0.0), v(w2, d, 0.0), v(-w2, d, 0.0)],
            End::Vee => {
                let wide = w2 * (1.0 + PAST / d);
                vec![v(-wide, past, 0.0), v(wide, past, 0.0), v(0.0, d, 0.0)]
            }
            End::Round => {
                vec![v(-w2, past, 0.0), v(w2, past, 0.0), v(w2, d - w2, 1.0), v(-w2, d - w2, 0.0)]
            }
        };
        let contour = Contour { vertices };
        // As deep as half its width, its straight sides are nothing.
        if self.end == End::Round { contour.without_short_sides() } else { contour }
    }
}

impl Cuts for NotchSpec {
    fn cut(&self, turn: &mut Turn, standing: &Standing) -> Option<Vec<Feature>> {
        let blank = standing.blank;
        let (a, b) = blank.edge(turn.tell, "/say/edge", &self.edge)?;
        let length = a.distance(b);
        let middle = self.place.map_or(length / 2.0, |from_left| length - from_left);
        if middle < -COINCIDENT || middle > length + COINCIDENT {
            turn.tell.refuse_at(
                "/say/place",
                "the notch lies beyond the end of its edge",
                "write a smaller distance",
            );
            return None;
        }
        let along = (b - a).normalize_or_zero();
        let centre = a + along * middle;
        let contour = self.contour().moved(along.to_angle(), centre);
        let at = turn.at;
        Some(vec![Feature::cut(at.line.into(), at.index, contour, centre, self.width, blank.outer.bounds())])
    }
}
