//! `fold`: folds a panel up or down along an edge. Lengths by DIN 6935's usage: outside, over the virtual
//! sharp.

use glam::{DVec2, DVec3};
use grammar::*;
use ground::geom::{COINCIDENT, ROUNDING};
use ground::reader::{Range, Reader};
use ground::reference;
use shop::BendRule;
use shop::bend::setback;

use super::bending::{BEND_AT, BEND_RULE, RADIUS, RELIEF, Relief, SPAN, Span, UP_DOWN};
use super::bending::{read_radius, read_relief, read_rule};
use super::further::{Further, Next, hang_further, read_further, too_short};
use crate::choices::{BendAt, Direction};
use crate::flat::bend_allowance::{Rule, bend_by};
use crate::flat::bends::BendRole;
use crate::flat::folds::{Bent, Edge, FoldSpec, ReliefOf, SpanOf, Tree, pick_edges};
use crate::flat::spec::{Panels, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "fold",
    stem: "fold",
    about: "Folds a panel up or down along an edge; further folds may follow on its tip.",
    role: Role::Bend,
    starts: &[Start {
        key: 'f',
        name: "fold",
        mm: "fold $edge up 90°, 40",
        inch: "fold $edge up 90°, 1 1/2",
    }],
    offers: &[
        Offer {
            on: "edge",
            words: "Fold {} up",
            mm: "fold $this up 90°, 40",
            inch: "fold $this up 90°, 1 1/2",
        },
        Offer {
            on: "edge",
            words: "Fold {} down",
            mm: "fold $this down 90°, 40",
            inch: "fold $this down 90°, 1 1/2",
        },
    ],
    sentence: &[
        verb("Fold|fold"),
        names_or("/edges", "edges folded", Kind::Edge, "all round"),
        Pick::new("/direction", "direction", UP_DOWN).lacks().part(),
        angle_or("/angle", "angle", ""),
        Clause::new(&[
            word("until parallel to|until parallel to|parallel to"),
            name("/parallel_to", "parallel to", Kind::Panel),
        ])
        .close()
        .shown(When::Told("/parallel_to"))
        .part(),
        sign(","),
        union(
            "/reach",
            "to",
            "reach",
            &[
                case(
                    "length",
                    "length||long",
                    &[
                        length("/length", "length"),
                        quiet(
                            "/measure",
                            "length told from",
                            &[
                                ("outside", "outside"),
                                ("inside", "inside"),
                                ("tangent", "from the tangent line|from tangent|tangent"),
                            ],
                        ),
                    ],
                    ["40", "1 1/2"],
                ),
                case(
                    "height",
                    "overall height|overall height|height",
                    &[length("/height", "height")],
                    ["40", "1 1/2"],
                ),
                case("level", "level with", &[name("/with", "level with", Kind::Panel)], ["\"\"", "\"\""]),
            ],
        ),
        BEND_AT,
        RADIUS,
        SPAN,
        RELIEF,
        BEND_RULE,
        Part::List(List {
            path: "/then",
            label: "further fold",
            item: &[
                Pick::new("/direction", "direction of {id}", UP_DOWN).lacks().part(),
                angle("/angle", "angle of {id}"),
                sign(","),
                length("/length", "length of {id}"),
                aloud("outside"),
                aside(&[radius_or("/radius", "radius of {id}", "own")]),
            ],
            lead: "then",
            between: ",",
            ids: Ids::Words(&["lip", "return", "end"], "fold"),
            least: 0,
            adds: &[("lip", "up 90°, 15", "up 90°, 1/2")],
            close: false,
            chain: false,
        }),
    ],
    examples: &[
        "fold north up 90°, 40 inside",
        "fold west and east down 60°, 35, inset 20 and 20, round-ended reliefs",
        "fold up 90°, 30, then up 90°, 12",
        "fold north up until parallel to fold-1.south, overall height 50",
    ],
};

word! {
    /// What a folded panel's length is told from.
    pub enum FoldMeasure {
        #[default]
        Outside,
        Inside,
        /// The tangent line.
        Tangent,
    }
}

choice! {
    /// How far a fold reaches.
    pub enum Reach by "to" {
        Length {
            #[serde(default)]
            length: String,
            #[serde(default)]
            measure: FoldMeasure,
        },
        /// Overall, square to the panel it is folded from, over the panel's outer face.
        Height { height: String },
        /// As high as another fold of the same panel.
        Level { with: String },
    }
}

impl Default for Reach {
    fn default() -> Self {
        Reach::Length { length: String::new(), measure: FoldMeasure::default() }
    }
}

spoken! {
    /// Folds a panel up or down along an edge.
    pub struct Fold {
        /// Names of straight edges; empty means all round the start.
        pub edges: Vec<String>,
        /// Angle swept: 90 for a square flange. Not used with `parallel_to`.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub angle: String,
        /// Folded until parallel to this panel.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub parallel_to: String,
        pub direction: Direction,
        pub reach: Reach,
        pub bend_at: BendAt,
        pub span: Span,
        /// Inside radius; empty means the piece's.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(skip_serializing_if = "Option::is_none")]
        pub bend_rule: Option<BendRule>,
        #[serde(deserialize_with = "super::unusual", skip_serializing_if = "Option::is_none")]
        pub relief: Option<Relief>,
        /// Further folds, each on the tip of the one before: lip, return.
        #[serde(skip_serializing_if = "Vec::is_empty")]
        pub then: Vec<Further>,
    }
}

/// A fold line, read; lengths in mm, angles in rad.
pub struct Folding {
    pub edges: Vec<String>,
    pub angle: Turned,
    pub up: bool,
    pub reach: Reaching,
    /// JSON pointer of how far it reaches, and of how much of its edge it takes.
    pub reach_at: &'static str,
    pub width_at: &'static str,
    /// JSON pointer of what has its own radius.
    pub path: Option<String>,
    pub bend_at: BendAt,
    pub span: SpanOf,
    pub radius: f64,
    pub rule: Option<Rule>,
    pub relief: ReliefOf,
    pub then: Vec<Next>,
}

pub enum Turned {
    By(f64),
    /// Until it is parallel to this panel.
    To(String),
}

pub enum Reaching {
    Length { told: f64, measure: FoldMeasure },
    Height(f64),
    Level(String),
}

impl Spoken for Fold {
    fn tip(&self, panel: &str) -> Option<String> {
        let further = |f: &Further| reference::last(panel) == f.id;
        if let Some(k) = self.then.iter().position(further) {
            return Some(format!("/then/{k}/length"));
        }
        matches!(self.reach, Reach::Length { .. }).then(|| "/reach/length".into())
    }

    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec> {
        let radius = read_radius(reader, "/say/radius", &self.radius, stock);
        let angle = if self.parallel_to.trim().is_empty() {
            reader.bend_angle("/say/angle", &self.angle, 180.0).map(Turned::By)
        } else {
            Some(Turned::To(self.parallel_to.clone()))
        };
        let reach = self.reach.read(reader);
        let span = self.span.read(reader);
        let radius = radius?;
        let relief = read_relief(reader, &self.relief, radius, stock);
        let then = read_further(reader, &self.then, stock);
        let (reach, reach_at) = reach?;
        Some(Spec::Panels(Box::new(Folding {
            edges: self.edges.clone(),
            angle: angle?,
            up: self.direction == Direction::Up,
            reach,
            reach_at,
            width_at: "/say/span",
            path: Some("/say".into()),
            bend_at: self.bend_at,
            span: span?,
            radius,
            rule: read_rule(reader, "/say", &self.bend_rule),
            relief: relief?,
            then: then?,
        })))
    }
}

impl Reach {
    /// What is told, and where.
    fn read(&self, reader: &mut Reader) -> Option<(Reaching, &'static str)> {
        let at = match self {
            Reach::Length { .. } => "/say/reach/length",
            Reach::Height { .. } => "/say/reach/height",
            Reach::Level { .. } => "/say/reach/with",
        };
        let reach = match self {
            Reach::Length { length, measure } => {
                Reaching::Length { told: reader.length(at, length, Range::AboveZero)?, measure: *measure }
            }
            Reach::Height { height } => Reaching::Height(reader.length(at, height, Range::AboveZero)?),
            Reach::Level { with } => Reaching::Level(with.clone()),
        };
        Some((reach, at))
    }
}

impl Panels for Folding {
    fn hang(&self, turn: &mut Turn, tree: &mut Tree) -> Option<()> {
        let rule = self.rule.as_ref().unwrap_or(turn.stock.rule);
        for p in pick_edges(turn, tree, &self.edges, 1 + self.then.len())? {
            let angle = match &self.angle {
                Turned::By(angle) => *angle,
                Turned::To(panel) => until_parallel(turn, tree, &p.edge, panel, self.up)?,
            };
            let straight = self.straight(turn, tree, &p.edge, angle)?;
            let allowance = bend_by(turn.tell, rule, turn.stock, angle, self.radius)?;
            let (up, radius, bend_at) = (self.up, self.radius, self.bend_at);
            let node = tree.hang(
                &p.edge,
                FoldSpec {
                    index: turn.at.index,
                    line: turn.at.line.into(),
                    path: self.path.clone(),
                    width_at: self.width_at,
                    name: p.panel.clone(),
                    role: BendRole::Fold,
                    is_tab: false,
                    is_glued: false,
                    bend: Bent { angle, up, radius, allowance, bend_at, straight },
                    span: self.span,
                    relief: self.relief,
                    trims: Default::default(),
                },
            );
            hang_further(turn, tree, &p.panel, node, &self.then, self.relief)?;
        }
        Some(())
    }
}

impl Folding {
    /// Length beyond the far tangent line.
    fn straight(&self, turn: &mut Turn, tree: &Tree, edge: &Edge, angle: f64) -> Option<f64> {
        let (t, r) = (tree.t, self.radius);
        let straight = match &self.reach {
            Reaching::Length { told, measure } => {
                told - match measure {
                    FoldMeasure::Outside => setback(r + t, angle),
                    FoldMeasure::Inside => setback(r, angle),
                    FoldMeasure::Tangent => 0.0,
                }
            }
            Reaching::Height(height) => straight_to(*height, angle, r, t),
            Reaching::Level(with) => {
                let beside = tree.folds_beside(edge.node);
                let twin = tree.panel(with).filter(|n| beside.contains(n));
                let Some(spec) = twin.and_then(|n| tree.nodes[n].spec.as_ref()) else {
                    turn.tell.refuse_at(
                        self.reach_at,
                        format!("'{with}' is not a fold of the same panel, above this line"),
                        "name a neighbouring fold, or write a height",
                    );
                    return None;
                };
                straight_to(spec.bend.height(t), angle, r, t)
            }
        };
        if straight >= -ROUNDING {
            return Some(straight.max(0.0));
        }
        too_short(turn.tell, self.reach_at, -straight);
        None
    }
}

/// The straight of a fold that stands so high over the outer face of its panel; below nothing where none
/// does.
fn straight_to(height: f64, angle: f64, r: f64, t: f64) -> f64 {
    let (s, c) = angle.sin_cos();
    if s < COINCIDENT {
        return -1.0;
    }
    let face = if c >= 0.0 { r } else { r + t };
    (height - t - r + face * c) / s
}

/// The angle at which a fold on this edge comes parallel to a named panel.
fn until_parallel(turn: &mut Turn, tree: &Tree, edge: &Edge, to: &str, up: bool) -> Option<f64> {
    let Some(target) = tree.pose_of(to) else {
        turn.tell.refuse_at(
            "/say/parallel_to",
            format!("no panel is called '{to}' above this line"),
            "name a panel that stands already",
        );
        return None;
    };
    let (pose, dir, _) = tree.pose_at(edge);
    let own = tree.nodes[edge.node].turn;
    let local = if edge.node > 0 { DVec2::new(own.x, -own.y).rotate(dir) } else { dir };
    let (axis, out, normal) = (pose * local.extend(0.0), pose * (-local.perp()).extend(0.0), pose * DVec3::Z);
    let m = target * DVec3::Z;
    if m.dot(axis).abs() > COINCIDENT {
        turn.tell.refuse_at(
            "/say/parallel_to",
            format!("folded along this edge, the panel never comes parallel to '{to}'"),
            "write an angle",
        );
        return None;
    }
    let side = if up { 1.0 } else { -1.0 };
    let angle = (-out.dot(m)).atan2(side * normal.dot(m)).rem_euclid(std::f64::consts::PI);
    Some(if angle < ROUNDING { std::f64::consts::PI } else { angle })
}
