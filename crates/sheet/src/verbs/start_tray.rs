//! `tray`: a plate with four sides folded up, with lips or without.

use std::f64::consts::FRAC_PI_2;

use glam::DVec2;
use grammar::*;
use ground::reader::{Range, Reader};
use ground::reference;
use shop::bend::setback;

use super::bending::usual_relief;
use super::corner::{CLOSE, RELIEF};
use super::corner::{CornerSpec, read_closing};
use super::fold::{FoldMeasure, Folding, Reaching, Turned};
use super::further::{Next, too_short};
use crate::choices::{BendAt, Close, CornerRelief};
use crate::flat::blank::{Blank, plate_of};
use crate::flat::folds::{SpanOf, Tree};
use crate::flat::spec::{Begins, Panels, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "start_tray",
    stem: "start",
    about: "Starts a piece with a tray: a plate with four sides folded up, with lips or without.",
    role: Role::Start,
    starts: &[],
    offers: &[],
    sentence: &[
        verb("Start with a tray|tray"),
        length("/width", "width"),
        times(),
        length("/depth", "depth"),
        times(),
        length("/height", "height"),
        aloud("high"),
        quiet(
            "/measure",
            "told from",
            &[("outside", "told outside|outside"), ("inside", "told inside|inside")],
        ),
        clause(&[
            word("less a clearance of|less"),
            length_or("/clearance", "clearance", "none"),
            aloud("on each side"),
        ]),
        clause(&[
            word("lips|lips|lip"),
            length_or("/lip", "lip", "none"),
            Clause::new(&[flag(
                "/lips_in",
                "lips",
                &[("false", "turned outwards|outwards"), ("true", "turned inwards|inwards")],
            )])
            .close()
            .shown(When::Told("/lip"))
            .part(),
        ]),
        clause(&[aloud("corners"), pick("/close", "how corners close", CLOSE)]),
        clause(&[word("gap"), length_or("/gap", "gap", "usual")]),
        RELIEF,
    ],
    examples: &[
        "tray 300 x 200 x 60, lips 15 inwards",
        "tray 300 x 200 x 60 inside, less 1.5, gap 0.4, round relief 6",
    ],
};

spoken! {
    /// A plate with four sides folded up.
    pub struct StartTray {
        /// West to east, south to north and up, told over `measure`.
        pub width: String,
        pub depth: String,
        pub height: String,
        pub measure: TrayMeasure,
        /// Taken off the width and the depth on each side, so that it goes into what was told.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub clearance: String,
        /// Lips on top of the sides; empty means none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub lip: String,
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub lips_in: bool,
        pub close: Close,
        /// Between neighbouring sides; empty means the usual.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub gap: String,
        pub relief: CornerRelief,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub relief_size: String,
    }
}

word! {
    /// What a tray's width, depth and height run over.
    pub enum TrayMeasure {
        #[default]
        Outside,
        Inside,
    }
}

/// A tray, read: its bottom, smaller by its clearance, the sides that are folded onto it, and its corners.
struct TraySpec {
    bottom: DVec2,
    sides: Folding,
    corners: CornerSpec,
}

impl Spoken for StartTray {
    fn tip(&self, panel: &str) -> Option<String> {
        Some(if reference::last(panel) == "lip" { "/lip" } else { "/height" }.into())
    }

    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec> {
        let width = reader.length("/say/width", &self.width, Range::AboveZero);
        let depth = reader.length("/say/depth", &self.depth, Range::AboveZero);
        let height = reader.length("/say/height", &self.height, Range::AboveZero);
        let clearance = reader.length_or("/say/clearance", &self.clearance, Range::Any, 0.0);
        let lip = reader.length_if("/say/lip", &self.lip, Range::AboveZero);
        let how = read_closing(reader, stock, self.close, &self.gap, self.relief, &self.relief_size);
        let bottom = DVec2::new(width?, depth?) - DVec2::splat(2.0 * clearance?);
        if bottom.min_element() <= 1e-3 {
            reader.refuse_at(
                "/say/clearance",
                "the clearance leaves nothing of the tray",
                "write a smaller clearance",
            );
            return None;
        }
        let lip = match lip? {
            Some(length) => Some(self.lip_of(reader, stock, length)?),
            None => None,
        };
        let (bend_at, measure) = match self.measure {
            TrayMeasure::Outside => (BendAt::OuterFace, FoldMeasure::Outside),
            TrayMeasure::Inside => (BendAt::InnerFace, FoldMeasure::Inside),
        };
        let sides = Folding {
            edges: Vec::new(),
            angle: Turned::By(FRAC_PI_2),
            up: true,
            reach: Reaching::Length { told: height?, measure },
            reach_at: "/say/height",
            width_at: "/say/width",
            path: None,
            bend_at,
            span: SpanOf::Full,
            radius: stock.r,
            rule: None,
            relief: usual_relief(stock, stock.r),
            then: lip.into_iter().collect(),
        };
        let corners = CornerSpec { at: Vec::new(), how: how? };
        Some(Spec::Start(Box::new(TraySpec { bottom, sides, corners })))
    }
}

impl StartTray {
    /// The lip on top of each side, told from outside.
    fn lip_of(&self, reader: &mut Reader, stock: &SheetStock, length: f64) -> Option<Next> {
        let straight = length - setback(stock.r + stock.t, FRAC_PI_2);
        if straight < 0.0 {
            too_short(reader, "/say/lip", -straight);
            return None;
        }
        Some(Next {
            id: "lip".into(),
            angle: FRAC_PI_2,
            up: self.lips_in,
            radius: stock.r,
            straight,
            bend_at: BendAt::OuterFace,
            path: None,
        })
    }
}

impl Begins for TraySpec {
    fn blank(&self, turn: &mut Turn) -> Option<Blank> {
        Some(plate_of(turn.at.line, self.bottom))
    }

    fn panels(&self) -> Option<&dyn Panels> {
        Some(self)
    }
}

impl Panels for TraySpec {
    fn hang(&self, turn: &mut Turn, tree: &mut Tree) -> Option<()> {
        let folded = self.sides.hang(turn, tree);
        let closed = self.corners.hang(turn, tree);
        folded.and(closed)
    }
}
