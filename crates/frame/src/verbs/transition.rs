//! `transition`: plane plates between two openings of any shape that has no round corners.

use grammar::*;
use ground::reader::{Range, Reader};
use ground::word;
use sheet::choices::{Compass, Measure};
use sheet::transition::hull::NoSkin;
use sheet::transition::openings::Opening;
use sheet::verbs::openings::*;
use sheet::verbs::{TOLD_FROM, TransitionOpening};

use super::cap::THICK;
use super::hopper::{EDGE, MITRE, OPEN_SIDE, OpenSide};
use crate::build::panels::{NoPanels, PanelsShape};
use crate::build::plates::Cutting;
use crate::build::sides::keep;
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Plates, Spec, Spoken, Turn, Usual};

pub static VERB: Verb = Verb {
    tag: "transition",
    stem: "transition",
    about: "Plane plates between two openings: rectangles, regular polygons or a point, turned and tilted \
        as you like; each face of the taut skin round both is a plate. A hopper is the usual one of four.",
    role: Role::Openings,
    starts: &[Start {
        key: '7',
        name: "plates between openings",
        mm: "transition polygon 6 sides, 800 across to polygon 6 sides, 300 across, 500 high, 4 thick",
        inch: "transition polygon 6 sides, 30 across to polygon 6 sides, 12 across, 20 high, 3/16 thick",
    }],
    offers: &[],
    sentence: &[
        verb("Transition|transition"),
        aloud("from"),
        BOTTOM,
        word("to"),
        TOP,
        must(&[length("/height", "height"), word("high")]),
        THICK,
        TOLD_FROM,
        TOP_EAST,
        TOP_NORTH,
        TOP_TURNED,
        TOP_TILTED,
        OPEN_SIDE,
        clause(&[quiet("/corners", "in the corners", &[EDGE, MITRE])]),
        clause(&[word("gap"), length_or("/gap", "gap in the corners", "none")]),
        clause(&[word("on"), Slot::new("/at", "node", Kind::Node).empty("the origin").part()]),
    ],
    examples: &[
        "transition polygon 6 sides, 800 across to point, 500 high, 4 thick, inside, mitred",
        "transition rectangle 400 x 400 to rectangle 250 x 250, 300 high, 3 thick, turned 45°, gap 1",
        "transition polygon 8 sides, 600 across to rectangle 200 x 200, 350 high, 2 thick, tilted 9° north",
    ],
};

word! {
    /// How the plates meet.
    pub enum PanelCorners {
        /// Inner edge to inner edge.
        #[default]
        Edge,
        /// Edges bevelled, so that they meet over their whole thickness.
        Mitre,
    }
}

impl PanelCorners {
    pub fn is_edge(&self) -> bool {
        *self == PanelCorners::Edge
    }
}

spoken! {
    /// A plate for every face between two openings.
    pub struct TransitionSaid {
        /// It lies on the node, the upper one above it.
        pub bottom: TransitionOpening,
        pub top: TransitionOpening,
        /// From the middle of the lower opening to that of the upper one.
        pub height: String,
        pub thickness: String,
        pub measure: Measure,
        /// How far the middle of the upper opening stands off that of the lower one.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub east: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub north: String,
        /// Of the upper opening about its middle, counter-clockwise.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub turn: String,
        /// Of the upper opening about its middle, and the side that rises.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub tilt: String,
        pub tilted: Compass,
        pub open: OpenSide,
        #[serde(skip_serializing_if = "PanelCorners::is_edge")]
        pub corners: PanelCorners,
        /// Left between the plates, for the weld; empty for none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub gap: String,
        /// Node under the middle of the lower opening; empty for the origin.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub at: String,
    }
}

struct TransitionSpec {
    shape: PanelsShape,
    at: String,
}

impl Spoken for TransitionSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let told = OpeningsTold {
            bottom: &self.bottom,
            top: &self.top,
            height: &self.height,
            east: &self.east,
            north: &self.north,
            turn: &self.turn,
            tilt: &self.tilt,
            tilted: self.tilted,
        };
        let openings = told.read(reader, 1.0);
        let thickness = reader.length("/say/thickness", &self.thickness, Range::AboveZero);
        let gap = reader.length_or("/say/gap", &self.gap, Range::ZeroUp, 0.0);
        let openings = openings?;
        if let Some(k) = openings.iter().position(Opening::is_round) {
            let mend = "write a polygon, or start a piece with this transition: in one piece or in halves";
            let message = "plates are plane, and a round opening has no plane sides";
            reader.refuse_at(["/say/bottom", "/say/top"][k], message, mend);
            return None;
        }
        let thickness = thickness?;
        let inwards = match self.measure {
            Measure::Inside => 0.0,
            Measure::Middle => thickness / 2.0,
            Measure::Outside => thickness,
        };
        let shape = PanelsShape {
            openings,
            thickness,
            inwards,
            is_mitred: self.corners == PanelCorners::Mitre,
            gap: gap?,
            open: self.open.side(),
        };
        Some(Spec::Plates(Box::new(TransitionSpec { shape, at: self.at.clone() })))
    }
}

impl Plates for TransitionSpec {
    fn set(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let made = self.shape.stand().ok().and_then(|p| {
            let faces = p.faces(&|_, _| false).ok()?;
            Some((p.sides, faces))
        });
        keep(turn, skeleton, &self.at, made)
    }

    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        let standing = skeleton.standing.get(turn.line)?;
        let made = self.shape.stand().and_then(|panels| match standing {
            Some(standing) => standing.plates(turn, "transition side", |outer| panels.faces(outer)).map(Some),
            // What its node lacks is told already.
            None => panels.faces(&|_, _| false).map(|_| None),
        });
        let (path, message, mend) = match made {
            Ok(plates) => return plates,
            Err(NoPanels::Skin(NoSkin::Crosses)) => (
                "/say/height",
                "one opening runs into the plane of the other".into(),
                "write a greater height, or a smaller tilt",
            ),
            Err(NoPanels::Skin(NoSkin::Thick)) => (
                "/say/measure",
                "the plates are too thick for so narrow an opening".into(),
                "write larger openings, or tell them from the inside",
            ),
            Err(NoPanels::Side(side)) => (
                "/say/open",
                format!("no plate looks to the {}", side.name()),
                "leave it out, or name another side",
            ),
            Err(NoPanels::Face(name)) => (
                "/say/gap",
                format!("the gap leaves nothing of {name}"),
                "write a smaller gap, or larger openings",
            ),
        };
        turn.tell.refuse_at(path, message, mend);
        None
    }
}
