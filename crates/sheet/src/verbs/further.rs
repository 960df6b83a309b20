//! Folds that follow one another on the tip of a fold: lip, return.

use grammar::spoken;
use ground::reader::{Range, Reader, Tell};
use ground::reference;
use shop::bend::setback;

use super::bending::read_radius;
use crate::choices::{BendAt, Direction};
use crate::flat::bend_allowance::bend_by;
use crate::flat::bends::BendRole;
use crate::flat::folds::{Bent, Edge, FoldSpec, ReliefOf, SpanOf, TIP, Tree};
use crate::flat::spec::Turn;
use crate::flat::stock::SheetStock;

spoken! {
    /// A fold that follows on the tip of the one before.
    pub struct Further {
        pub id: String,
        pub angle: String,
        pub direction: Direction,
        /// Told from outside.
        pub length: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
    }
}

/// A fold on the tip of the one before.
pub struct Next {
    pub id: String,
    pub angle: f64,
    pub up: bool,
    pub radius: f64,
    /// Beyond its far tangent line.
    pub straight: f64,
    pub bend_at: BendAt,
    /// JSON pointer in the line of what has its own radius.
    pub path: Option<String>,
}

/// Folds that follow one another in one line.
const MOST_FURTHER: usize = 20;

pub fn read_further(reader: &mut Reader, told: &[Further], stock: &SheetStock) -> Option<Vec<Next>> {
    if told.len() > MOST_FURTHER {
        reader.refuse_at(
            "/say/then",
            format!("more than {MOST_FURTHER} folds follow one another"),
            "tell the rest in a line of their own",
        );
        return None;
    }
    let mut out: Vec<Next> = Vec::new();
    for (i, f) in told.iter().enumerate() {
        let path = format!("/say/then/{i}");
        if f.id.is_empty() || out.iter().any(|o| o.id == f.id) {
            reader.refuse_at(
                &format!("{path}/id"),
                format!("'{}' is not this fold's own id", f.id),
                "give each its own id",
            );
            return None;
        }
        let angle = reader.bend_angle(&format!("{path}/angle"), &f.angle, 180.0);
        let radius = read_radius(reader, &format!("{path}/radius"), &f.radius, stock);
        let length = reader.length(&format!("{path}/length"), &f.length, Range::AboveZero);
        let (angle, radius, length) = (angle?, radius?, length?);
        let straight = length - setback(radius + stock.t, angle);
        if straight < 0.0 {
            too_short(reader, &format!("{path}/length"), -straight);
            return None;
        }
        let (up, bend_at) = (f.direction == Direction::Up, BendAt::OuterFace);
        out.push(Next { id: f.id.clone(), angle, up, radius, straight, bend_at, path: Some(path) });
    }
    Some(out)
}

pub fn too_short(tell: &mut Tell, at: &str, by: f64) {
    let short = tell.display.length_unit(by);
    tell.refuse_at(
        at,
        format!("too short for its bend by {short}"),
        "write a greater length, or a smaller radius",
    );
}

/// Each on the tip of the one before.
pub fn hang_further(
    turn: &mut Turn,
    tree: &mut Tree,
    panel: &str,
    mut node: usize,
    then: &[Next],
    relief: ReliefOf,
) -> Option<()> {
    for n in then {
        let &Next { angle, up, radius, bend_at, straight, .. } = n;
        let allowance = bend_by(turn.tell, turn.stock.rule, turn.stock, angle, radius)?;
        node = tree.hang(
            &Edge { node, side: TIP, part: None },
            FoldSpec {
                index: turn.at.index,
                line: turn.at.line.into(),
                path: n.path.clone(),
                width_at: "/say/span",
                name: reference::part(panel, &n.id),
                role: BendRole::Fold,
                is_tab: false,
                is_glued: false,
                bend: Bent { angle, up, radius, allowance, bend_at, straight },
                span: SpanOf::Full,
                relief,
                trims: Default::default(),
            },
        );
    }
    Some(())
}
