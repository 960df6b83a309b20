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
use super::hopper::{EDGE, MITRE};
use crate::build::panels::{NoPanels, PanelCorner, PanelCornerOf, PanelMeet, PanelsShape};
use crate::build::plates::Cutting;
use crate::build::sides::{TRANSITION_SIDE, keep};
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
        clause(&[word("open to|open"), names_or("/open", "sides left out", Kind::PlateSide, "no side")]),
        clause(&[quiet("/corners", "in the corners", &[EDGE, OVER_NEXT, MITRE])]),
        clause(&[word("gap"), length_or("/gap", "gap in the corners", "none")]),
        clause(&[word("on"), Slot::new("/at", "node", Kind::Node).empty("the origin").part()]),
        CORNERS_BY_SIDES,
    ],
    examples: &[
        "transition polygon 6 sides, 800 across to point, 500 high, 4 thick, inside, mitred",
        "transition rectangle 400 x 400 to rectangle 250 x 250, 300 high, 3 thick, turned 45°, gap 1",
        "transition polygon 6 sides, 500 across to polygon 6 sides, 500 across, 400 high, 6 thick, \
            open south and north, each over the next, but face-2 edge to edge with face-3 gap 2",
        "transition polygon 8 sides, 600 across to rectangle 200 x 200, 350 high, 2 thick, tilted 9° north",
    ],
};

const OVER_NEXT: (&str, &str) = ("over_next", "each side over the next|each over the next");

/// Corners that are not as the others, each by its two sides.
const CORNERS_BY_SIDES: Part = Part::List(List {
    path: "/but",
    label: "corner told by itself",
    item: &[
        name("/one", "side", Kind::PlateSide),
        pick(
            "/how",
            "how they meet",
            &[("edge", "edge to edge with"), ("over", "over"), ("mitre", "mitred with")],
        ),
        name("/other", "side beside it", Kind::PlateSide),
        aside(&[word("gap"), length_or("/gap", "gap there", "none")]),
    ],
    lead: "but",
    between: ",",
    ids: Ids::None,
    least: 0,
    adds: &[("a corner", "south over east", "south over east")],
    close: false,
    chain: false,
});

word! {
    /// How the plates meet.
    pub enum PanelCorners {
        /// Inner edge to inner edge.
        #[default]
        Edge,
        /// Each over the edge of the next, against the clock.
        OverNext,
        /// Edges bevelled, so that they meet over their whole thickness.
        Mitre,
    }
}

word! {
    /// How two sides meet in a corner.
    pub enum PanelCornerHow {
        #[default]
        Edge,
        /// The first runs over the edge of the second.
        Over,
        Mitre,
    }
}

impl PanelCorners {
    pub fn is_edge(&self) -> bool {
        *self == PanelCorners::Edge
    }
}

spoken! {
    /// A corner that is not as the others.
    pub struct PanelCornerSaid {
        pub one: String,
        pub how: PanelCornerHow,
        pub other: String,
        /// Left between the plates there, for the weld; empty for none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub gap: String,
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
        /// Sides that are not there.
        #[serde(deserialize_with = "super::older_sides::older_sides", skip_serializing_if = "Vec::is_empty")]
        pub open: Vec<String>,
        #[serde(skip_serializing_if = "PanelCorners::is_edge")]
        pub corners: PanelCorners,
        /// Left between the plates, for the weld; empty for none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub gap: String,
        /// Node under the middle of the lower opening; empty for the origin.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub at: String,
        /// Corners that are not as the others.
        #[serde(skip_serializing_if = "Vec::is_empty")]
        pub but: Vec<PanelCornerSaid>,
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
        let how = match self.corners {
            PanelCorners::Edge => PanelMeet::Edge,
            PanelCorners::OverNext => PanelMeet::Over,
            PanelCorners::Mitre => PanelMeet::Mitred,
        };
        let but: Option<Vec<_>> = self.but.iter().enumerate().map(|(k, b)| b.read(reader, k)).collect();
        let shape = PanelsShape {
            openings,
            thickness,
            inwards,
            corners: PanelCorner { how, gap: gap? },
            but: but?,
            open: self.open.iter().map(|name| name.trim().to_string()).collect(),
        };
        Some(Spec::Plates(Box::new(TransitionSpec { shape, at: self.at.clone() })))
    }
}

impl PanelCornerSaid {
    fn read(&self, reader: &mut Reader, k: usize) -> Option<PanelCornerOf> {
        let gap = reader.length_or(&format!("/say/but/{k}/gap"), &self.gap, Range::ZeroUp, 0.0)?;
        let how = match self.how {
            PanelCornerHow::Edge => PanelMeet::Edge,
            PanelCornerHow::Over => PanelMeet::Over,
            PanelCornerHow::Mitre => PanelMeet::Mitred,
        };
        let sides = [&self.one, &self.other].map(|name| name.trim().to_string());
        Some(PanelCornerOf { sides, corner: PanelCorner { how, gap } })
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
            Some(standing) => standing.plates(turn, TRANSITION_SIDE, |outer| panels.faces(outer)).map(Some),
            // What its node lacks is told already.
            None => panels.faces(&|_, _| false).map(|_| None),
        });
        made.map_err(|why| self.refuse(turn, why)).ok().flatten()
    }
}

impl TransitionSpec {
    fn refuse(&self, turn: &mut Turn, why: NoPanels) {
        let but = |k: usize, field: &str| format!("/say/but/{k}/{field}");
        let (path, message, mend) = match why {
            NoPanels::Skin(NoSkin::Crosses) => (
                "/say/height".into(),
                "one opening runs into the plane of the other".into(),
                "write a greater height, or a smaller tilt",
            ),
            NoPanels::Skin(NoSkin::Thick) => (
                "/say/measure".into(),
                "the plates are too thick for so narrow an opening".into(),
                "write larger openings, or tell them from the inside",
            ),
            NoPanels::Open(k) => (
                format!("/say/open/{k}"),
                format!("there is no side {}", self.shape.open[k]),
                "leave it out, or name another side",
            ),
            NoPanels::None => {
                ("/say/open".into(), "no side is left to stand".into(), "leave fewer sides out")
            }
            NoPanels::Side { corner, second } => (
                but(corner, if second { "other" } else { "one" }),
                format!("no side {} stands", self.shape.but[corner].sides[usize::from(second)]),
                "name a side that stands, such as south or face-2",
            ),
            NoPanels::Apart { corner, beside: [before, after] } => {
                let [one, two] = &self.shape.but[corner].sides;
                let message = format!("{one} and {two} are not beside one another");
                let mend = format!("{one} stands between {before} and {after}");
                return turn.tell.refuse_at(&but(corner, "other"), message, mend);
            }
            NoPanels::Twice(k) => {
                (but(k, "one"), "this corner is told twice".into(), "take one of the two out")
            }
            NoPanels::Bevel(name) => (
                "/say/corners".into(),
                format!("{name} is too thick to be bevelled along so short a seam"),
                "write thinner plates, or let them meet edge to edge",
            ),
            NoPanels::Face(name) if self.shape.has_gaps() => (
                "/say/gap".into(),
                format!("the gap leaves nothing of {name}"),
                "write a smaller gap, or larger openings",
            ),
            NoPanels::Face(name) => (
                "/say/thickness".into(),
                format!("nothing is left of {name} beside its neighbours"),
                "write thinner plates, larger openings, or other corners",
            ),
        };
        turn.tell.refuse_at(&path, message, mend);
    }
}
