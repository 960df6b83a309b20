//! `bend`: a bend across a panel, along a line told from an edge. The flat keeps its size.

use glam::DVec2;
use grammar::*;
use ground::reader::{Range, Reader};
use shop::BendRule;

use super::bending::{BEND_RULE, RADIUS, UP_DOWN};
use super::bending::{read_radius, read_rule};
use crate::choices::{Direction, LineAt};
use crate::flat::bend_allowance::{Rule, bend_by};
use crate::flat::blank::straight_side;
use crate::flat::folds::{Across, Laid, bend_across};
use crate::flat::spec::{Bends, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "bend_line",
    stem: "bend_line",
    about: "Bends a panel along a line told from one of its edges. The flat keeps its size.",
    role: Role::Bend,
    starts: &[Start {
        key: 'n',
        name: "bend line",
        mm: "bend 50 from $edge up 90°",
        inch: "bend 2 from $edge up 90°",
    }],
    offers: &[Offer {
        on: "edge",
        words: "Bend along a line parallel to it",
        mm: "bend 50 from $this up 90°",
        inch: "bend 2 from $this up 90°",
    }],
    sentence: &[
        verb("Bend along a line|bend"),
        length("/distance", "distance from the edge"),
        printed("from"),
        name("/edge", "told from edge", Kind::Edge),
        Pick::new("/direction", "direction", UP_DOWN).lacks().part(),
        angle("/angle", "angle"),
        RADIUS,
        clause(&[pick(
            "/at",
            "what lies on the line",
            &[
                ("centre", "the middle of the bend on it|middle on it"),
                ("tangent", "its tangent line on it|tangent on it|tangent"),
                ("sharp", "its virtual sharp on it|sharp on it|sharp"),
            ],
        )]),
        clause(&[word("turned"), angle_or("/turn", "turn", "not")]),
        clause(&[pick(
            "/stays",
            "what stays",
            &[
                ("far", "the far side lies still|far side lies still"),
                ("near", "the side of that edge lies still|near side lies still"),
            ],
        )]),
        BEND_RULE,
    ],
    examples: &[
        "bend 40 from east up 90°",
        "bend 30 from north down 45°, R3, tangent on it, near side lies still",
    ],
};

word! {
    pub enum Stays {
        /// What lies on the far side of the line from its edge.
        #[default]
        Far,
        /// What lies between the edge and the line.
        Near,
    }
}

spoken! {
    /// A bend across a panel. The flat keeps its size.
    pub struct BendLine {
        /// The straight edge it is told from.
        pub edge: String,
        /// From the edge inwards, in the flat.
        pub distance: String,
        /// Out of parallel with the edge, about the middle; empty means parallel.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub turn: String,
        pub at: LineAt,
        pub angle: String,
        pub direction: Direction,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
        pub stays: Stays,
        #[serde(skip_serializing_if = "Option::is_none")]
        pub bend_rule: Option<BendRule>,
    }
}

/// A bend line, read; lengths in mm, angles in rad.
struct BendLineSpec {
    edge: String,
    /// From the edge inwards.
    distance: f64,
    /// Out of parallel with the edge.
    turn: f64,
    on: LineAt,
    angle: f64,
    up: bool,
    radius: f64,
    /// Whether what lies beyond the line, seen from the edge, is what stays.
    far_stays: bool,
    rule: Option<Rule>,
}

impl Spoken for BendLine {
    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec> {
        let distance = reader.length("/say/distance", &self.distance, Range::AboveZero);
        let turn = reader.angle_or("/say/turn", &self.turn, 0.0);
        let angle = reader.bend_angle("/say/angle", &self.angle, 180.0);
        let radius = read_radius(reader, "/say/radius", &self.radius, stock);
        Some(Spec::Bends(Box::new(BendLineSpec {
            edge: self.edge.clone(),
            distance: distance?,
            turn: turn?,
            on: self.at,
            angle: angle?,
            up: self.direction == Direction::Up,
            radius: radius?,
            far_stays: self.stays == Stays::Far,
            rule: read_rule(reader, "/say", &self.bend_rule),
        })))
    }
}

impl Bends for BendLineSpec {
    fn bend(&self, turn: &mut Turn, laid: &mut Laid, tags: &[String]) -> Option<()> {
        let on = (&laid.outer, tags, laid.zones.as_slice());
        let (a, b) = straight_side(turn.tell, "/say/edge", &self.edge, on)?;
        let rule = self.rule.as_ref().unwrap_or(turn.stock.rule);
        let &BendLineSpec { angle, up, radius, on, .. } = self;
        let allowance = bend_by(turn.tell, rule, turn.stock, angle, radius)?;
        let inward = (b - a).normalize_or_zero().perp();
        let at = (a + b) / 2.0 + inward * self.distance;
        let across = DVec2::from_angle(self.turn).rotate(inward);
        let along = if self.far_stays { -across } else { across };
        bend_across(turn, laid, Across { at, along, on, angle, up, radius, allowance })
    }
}
