//! `tab`: a tongue that stands out of an edge, in the plane of its panel.

use grammar::*;
use ground::reader::{Range, Reader};

use crate::choices::ReliefKind;
use crate::flat::bends::BendRole;
use crate::flat::folds::{Bent, FoldSpec, ReliefOf, SpanOf, Tree, pick_edge};
use crate::flat::spec::{Panels, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "tab",
    stem: "tab",
    about: "A tongue that stands out of an edge, in the plane of its panel.",
    role: Role::Bend,
    starts: &[Start { key: 't', name: "tab", mm: "tab $edge 30 x 12", inch: "tab $edge 1 x 1/2" }],
    offers: &[Offer { on: "edge", words: "Add a tab", mm: "tab $this 30 x 12", inch: "tab $this 1 x 1/2" }],
    sentence: &[
        verb("Add a tab to|tab"),
        name("/edge", "edge of the tab", Kind::Edge),
        aloud(","),
        length("/width", "width"),
        times(),
        length("/length", "length"),
        aloud("out"),
        PLACE_ON_EDGE,
    ],
    examples: &["tab north 30 x 12", "tab north 30 x 12, at 60"],
};

/// Where along an edge.
pub const PLACE_ON_EDGE: Part = clause(&[
    word("its middle|at"),
    length_or("/place", "place from the left end", "half way"),
    aloud("from the left end"),
]);

spoken! {
    /// A tongue that stands out of an edge, in the plane of its panel.
    pub struct Tab {
        pub edge: String,
        /// Along the edge.
        pub width: String,
        /// Out from the edge.
        pub length: String,
        /// From the left end of the edge, seen from the piece looking out, to the tab's middle; empty means
        /// the middle of the edge.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub place: String,
    }
}

struct TabSpec {
    edge: String,
    length: f64,
    span: SpanOf,
}

impl Spoken for Tab {
    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let width = reader.length("/say/width", &self.width, Range::AboveZero);
        let length = reader.length("/say/length", &self.length, Range::AboveZero);
        let place = reader.length_if("/say/place", &self.place, Range::ZeroUp);
        let (width, length, place) = (width?, length?, place?);
        // Where on its edge, and whether it has room there, is known when the corners have closed.
        let span = place.map_or(SpanOf::Centred(width), |middle| SpanOf::At(middle, width));
        Some(Spec::Panels(Box::new(TabSpec { edge: self.edge.clone(), length, span })))
    }
}

impl Panels for TabSpec {
    fn hang(&self, turn: &mut Turn, tree: &mut Tree) -> Option<()> {
        let edge = pick_edge(turn, tree, "/say/edge", &self.edge)?;
        if tree.is_folded(&edge) {
            turn.tell.refuse_at(
                "/say/edge",
                "this edge is folded already",
                "put the tab on the tip of the fold",
            );
            return None;
        }
        let fold = FoldSpec {
            index: turn.at.index,
            line: turn.at.line.into(),
            path: None,
            width_at: "/say/width",
            name: turn.at.line.into(),
            role: BendRole::Fold,
            is_tab: true,
            is_glued: false,
            bend: Bent::straight_out(self.length),
            span: self.span,
            relief: ReliefOf { kind: ReliefKind::Torn, width: 0.0, depth: 0.0 },
            trims: Default::default(),
        };
        tree.hang(&edge, fold);
        Some(())
    }
}
