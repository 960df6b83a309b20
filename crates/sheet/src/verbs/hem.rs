//! `hem`: turns an edge over, flat, open, as a teardrop or rolled.

use ground::geom::COINCIDENT;
use std::f64::consts::PI;

use grammar::*;
use ground::reader::{Range, Reader, Tell};
use shop::bend::{Allowance, AllowanceRule, allowance};

use super::bending::read_relief;
use super::bending::{BEND_AT, RELIEF, Relief, SPAN, Span, UP_DOWN};
use crate::choices::{BendAt, Direction};
use crate::flat::bend_allowance::bend_by;
use crate::flat::bends::BendRole;
use crate::flat::folds::{Bent, FoldSpec, ReliefOf, SpanOf, Tree, pick_edges};
use crate::flat::spec::{Panels, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "hem",
    stem: "hem",
    about: "Turns an edge over: flat on itself, open with a gap, round as a teardrop, or rolled.",
    role: Role::Bend,
    starts: &[Start { key: 'x', name: "hem", mm: "hem $edge closed 12", inch: "hem $edge closed 1/2" }],
    offers: &[Offer { on: "edge", words: "Hem {}", mm: "hem $this closed 12", inch: "hem $this closed 1/2" }],
    sentence: &[
        verb("Hem|hem"),
        names_or("/edges", "edges hemmed", Kind::Edge, "all round"),
        aloud("with a"),
        union(
            "/hem",
            "kind",
            "kind of hem",
            &[
                case(
                    "closed",
                    "closed hem|closed",
                    &[length("/length", "length"), aloud("outside")],
                    ["12", "1/2"],
                ),
                case(
                    "open",
                    "open hem|open",
                    &[
                        length("/length", "length"),
                        aloud("outside"),
                        sign(","),
                        word("gap"),
                        length("/gap", "gap"),
                    ],
                    ["12, gap 3", "1/2, gap 1/8"],
                ),
                case(
                    "teardrop",
                    "teardrop hem|teardrop",
                    &[length("/length", "length"), aloud("outside"), sign(","), radius("/radius", "radius")],
                    ["14, R2", "9/16, R3/32"],
                ),
                case(
                    "rolled",
                    "rolled edge|rolled",
                    &[radius("/radius", "radius"), printed("through"), angle("/angle", "angle")],
                    ["R3 through 270°", "R1/8 through 270°"],
                ),
            ],
        ),
        clause(&[pick("/direction", "direction", UP_DOWN)]),
        BEND_AT,
        SPAN,
        RELIEF,
    ],
    examples: &[
        "hem north closed 12",
        "hem east and west open 9, gap 2, down",
        "hem north rolled R3 through 270°",
    ],
};

choice! {
    /// How an edge is turned over.
    pub enum HemKind by "kind" {
        /// Flat on itself.
        Closed {
            #[serde(default)]
            length: String,
        },
        /// Parallel, with a gap.
        Open { length: String, gap: String },
        /// Round inside, the tip touching the sheet.
        Teardrop { length: String, radius: String },
        /// Curled through an angle, no straight end.
        Rolled { radius: String, angle: String },
    }
}

impl Default for HemKind {
    fn default() -> Self {
        HemKind::Closed { length: String::new() }
    }
}

spoken! {
    /// Turns an edge over.
    pub struct Hem {
        /// Names of straight edges; empty means all round the start.
        pub edges: Vec<String>,
        pub hem: HemKind,
        pub direction: Direction,
        pub bend_at: BendAt,
        pub span: Span,
        #[serde(deserialize_with = "super::unusual", skip_serializing_if = "Option::is_none")]
        pub relief: Option<Relief>,
    }
}

/// A hem, read; lengths in mm, the angle in rad.
struct HemSpec {
    edges: Vec<String>,
    angle: f64,
    radius: f64,
    /// Beyond its bend; 0 for one that is only curled.
    straight: f64,
    up: bool,
    bend_at: BendAt,
    span: SpanOf,
    relief: ReliefOf,
}

impl Spoken for Hem {
    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec> {
        let (angle, radius, straight) = self.hem.read(reader, stock.t)?;
        let span = self.span.read(reader);
        let relief = read_relief(reader, &self.relief, radius, stock);
        Some(Spec::Panels(Box::new(HemSpec {
            edges: self.edges.clone(),
            angle,
            radius,
            straight,
            up: self.direction == Direction::Up,
            bend_at: self.bend_at,
            span: span?,
            relief: relief?,
        })))
    }
}

impl HemKind {
    /// Angle, inside radius, and the straight beyond the bend.
    fn read(&self, reader: &mut Reader, t: f64) -> Option<(f64, f64, f64)> {
        let mut size =
            |field: &str, text: &str| reader.length(&format!("/say/hem/{field}"), text, Range::AboveZero);
        let (angle, radius, length) = match self {
            HemKind::Closed { length } => (PI, 0.0, size("length", length)?),
            HemKind::Open { length, gap } => {
                let (length, gap) = (size("length", length), size("gap", gap));
                (PI, gap? / 2.0, length?)
            }
            HemKind::Teardrop { length, radius } => {
                let (length, radius) = (size("length", length), size("radius", radius));
                let (length, radius) = (length?, radius?);
                let straight = (length - radius - t).max(1e-6);
                // The tip touches the sheet: tan(φ/2) = R/L beyond the half turn.
                (PI + 2.0 * (radius / straight).atan(), radius, length)
            }
            HemKind::Rolled { radius, angle } => {
                let radius = size("radius", radius);
                let angle = reader.bend_angle("/say/hem/angle", angle, 345.0);
                return Some((angle?, radius?, 0.0));
            }
        };
        let straight = length - radius - t;
        if straight < COINCIDENT || angle > 1.75 * PI {
            reader.refuse_at(
                "/say/hem/length",
                "the hem is too short for its own bend",
                "write a greater length, or a smaller gap or radius",
            );
            return None;
        }
        Some((angle, radius, straight))
    }
}

/// Bent so tight that the schools say nothing: the middle of the sheet is taken as neutral.
fn allowance_of(tell: &mut Tell, stock: &SheetStock, angle: f64, radius: f64) -> Option<Allowance> {
    if radius / stock.t >= 0.2 {
        return bend_by(tell, stock.rule, stock, angle, radius);
    }
    Some(Allowance {
        rule: "Hem: the middle of the sheet keeps its length".into(),
        source: "common practice: a closed hem takes off 0.43 t".into(),
        ..allowance(AllowanceRule::KFactor(0.5, true), stock.material, angle, radius, stock.t)
    })
}

impl Panels for HemSpec {
    fn hang(&self, turn: &mut Turn, tree: &mut Tree) -> Option<()> {
        let &HemSpec { angle, radius, straight, up, bend_at, span, relief, .. } = self;
        let allowance = allowance_of(turn.tell, turn.stock, angle, radius)?;
        for p in pick_edges(turn, tree, &self.edges, 1)? {
            let fold = FoldSpec {
                index: turn.at.index,
                line: turn.at.line.into(),
                path: Some("/say/hem".into()),
                width_at: "/say/span",
                name: p.panel,
                role: BendRole::TurnedOver,
                is_tab: false,
                is_glued: false,
                bend: Bent { angle, up, radius, allowance: allowance.clone(), bend_at, straight },
                span,
                relief,
                trims: Default::default(),
            };
            tree.hang(&p.edge, fold);
        }
        Some(())
    }
}
