//! `joggle`: sets an edge off to another height by two opposite bends, so that it laps a neighbour.

use ground::geom::{COINCIDENT, ROUNDING};
use std::f64::consts::{FRAC_PI_2, PI};

use grammar::*;
use ground::reader::{Range, Reader};

use super::bending::{RADIUS, RELIEF, Relief, SPAN, Span, UP_DOWN};
use super::bending::{read_radius, read_relief};
use super::further::{Next, hang_further};
use crate::choices::{BendAt, Direction};
use crate::flat::bend_allowance::bend_by;
use crate::flat::bends::BendRole;
use crate::flat::folds::{Bent, FoldSpec, ReliefOf, SpanOf, Tree, pick_edges};
use crate::flat::spec::{Panels, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "joggle",
    stem: "joggle",
    about: "Sets an edge off to another height by two opposite bends, so that it laps a neighbour.",
    role: Role::Bend,
    starts: &[Start {
        key: 'j',
        name: "joggle",
        mm: "joggle $edge up 6 over 20, then 20",
        inch: "joggle $edge up 1/4 over 3/4, then 1",
    }],
    offers: &[Offer {
        on: "edge",
        words: "Joggle {}",
        mm: "joggle $this up 6 over 20, then 20",
        inch: "joggle $this up 1/4 over 3/4, then 1",
    }],
    sentence: &[
        verb("Joggle|joggle"),
        names_or("/edges", "edges joggled", Kind::Edge, "all round"),
        Pick::new("/direction", "direction", UP_DOWN).lacks().part(),
        aloud("by"),
        length("/height", "height"),
        word("over"),
        length("/run", "run"),
        sign(","),
        word("then"),
        length("/length", "length"),
        aloud("straight"),
        RADIUS,
        SPAN,
        RELIEF,
    ],
    examples: &["joggle north up 6 over 20, then 25"],
};

spoken! {
    /// Sets an edge off to another height by two opposite bends, so that it laps a neighbour.
    pub struct Joggle {
        /// Names of straight edges; empty means all round the start.
        pub edges: Vec<String>,
        /// From face to same face.
        pub height: String,
        /// From the first tangent line to the last, along the sheet.
        pub run: String,
        /// Beyond the last tangent line.
        pub length: String,
        pub direction: Direction,
        pub span: Span,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(deserialize_with = "super::unusual", skip_serializing_if = "Option::is_none")]
        pub relief: Option<Relief>,
    }
}

/// A joggle, read: two equal opposite bends; lengths in mm, the angle in rad.
struct JoggleSpec {
    edges: Vec<String>,
    angle: f64,
    radius: f64,
    /// Between the two bends.
    straight: f64,
    /// Beyond the second.
    length: f64,
    up: bool,
    span: SpanOf,
    relief: ReliefOf,
}

impl Spoken for Joggle {
    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec> {
        let radius = read_radius(reader, "/say/radius", &self.radius, stock);
        let height = reader.length("/say/height", &self.height, Range::AboveZero);
        let run = reader.length("/say/run", &self.run, Range::AboveZero);
        let length = reader.length("/say/length", &self.length, Range::AboveZero);
        let span = self.span.read(reader);
        let radius = radius?;
        let relief = read_relief(reader, &self.relief, radius, stock);
        let (height, run) = (height?, run?);
        let Some((angle, straight)) = offset(height, run, radius + stock.t / 2.0) else {
            reader.refuse_at(
                "/say/run",
                "two bends of this radius do not fit in so short a run",
                "write a longer run, or a smaller radius",
            );
            return None;
        };
        Some(Spec::Panels(Box::new(JoggleSpec {
            edges: self.edges.clone(),
            angle,
            radius,
            straight,
            length: length?,
            up: self.direction == Direction::Up,
            span: span?,
            relief: relief?,
        })))
    }
}

/// Angle and straight between two equal opposite bends that offset a sheet by `height` over `run`, with
/// middle radius `m`.
fn offset(height: f64, run: f64, m: f64) -> Option<(f64, f64)> {
    // run·sin α + (2m − height)·cos α = 2m.
    let reach = run.hypot(2.0 * m - height);
    let ratio = 2.0 * m / reach;
    if ratio > 1.0 + 1e-12 {
        return None;
    }
    let lean = (2.0 * m - height).atan2(run);
    let half = ratio.min(1.0).asin();
    let fits = |a: &f64| *a > COINCIDENT && *a <= FRAC_PI_2 + ROUNDING;
    let straight = |a: f64| {
        if a.sin() > 0.7 {
            (height - 2.0 * m * (1.0 - a.cos())) / a.sin()
        } else {
            (run - 2.0 * m * a.sin()) / a.cos()
        }
    };
    let both = [half - lean, PI - half - lean].into_iter().filter(fits).map(|a| (a, straight(a)));
    both.filter(|(_, s)| *s >= -ROUNDING).map(|(a, s)| (a, s.max(0.0))).next()
}

impl Panels for JoggleSpec {
    fn hang(&self, turn: &mut Turn, tree: &mut Tree) -> Option<()> {
        let &JoggleSpec { angle, radius, straight, up, span, relief, .. } = self;
        let bend_at = BendAt::FromEdge;
        let edges = pick_edges(turn, tree, &self.edges, 2)?;
        let allowance = bend_by(turn.tell, turn.stock.rule, turn.stock, angle, radius)?;
        let (path, back) = (Some("/say".into()), !up);
        let lip = Next { id: "lip".into(), angle, up: back, radius, straight: self.length, bend_at, path };
        for p in edges {
            let first = FoldSpec {
                index: turn.at.index,
                line: turn.at.line.into(),
                path: Some("/say".into()),
                width_at: "/say/span",
                name: p.panel.clone(),
                role: BendRole::SetOff,
                is_tab: false,
                is_glued: false,
                bend: Bent { angle, up, radius, allowance: allowance.clone(), bend_at, straight },
                span,
                relief,
                trims: Default::default(),
            };
            let node = tree.hang(&p.edge, first);
            hang_further(turn, tree, &p.panel, node, std::slice::from_ref(&lip), relief)?;
        }
        Some(())
    }
}
