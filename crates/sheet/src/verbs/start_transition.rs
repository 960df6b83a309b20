//! `transition`: the faces between two openings as one piece: hoppers, pyramids, prisms, square-to-round,
//! oblique cones.

use grammar::*;
use ground::reader::{Range, Reader};

use super::start_strip::TOLD_FROM;
pub use super::transition_choices::*;
use super::transition_opening::*;
use crate::choices::{Compass, Measure};
use crate::flat::blank::Blank;
use crate::flat::spec::{Begins, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;
use crate::flat::transition::TransitionFact;
use crate::flat::transition::face::Plane;
use crate::flat::transition::hull::{NoSkin, Rings, Skin, facets};
use crate::flat::transition::net::{Made, NoNet};
use crate::flat::transition::openings::{Opening, OpeningShape};
use crate::flat::transition::unrolled::{Laying, NotThere, Stands, unrolled};

pub static VERB: Verb = Verb {
    tag: "start_transition",
    stem: "start",
    about: "Starts a piece with a transition between two openings: hopper, pyramid, prism, square-to-round, \
        oblique cone; bent at its edges or creased along lines.",
    role: Role::Start,
    starts: &[],
    offers: &[],
    sentence: &[
        verb("Start with a transition|transition"),
        aloud("from"),
        BOTTOM,
        word("to"),
        TOP,
        must(&[length("/height", "height"), word("high")]),
        TOLD_FROM,
        TOP_EAST,
        TOP_NORTH,
        TOP_TURNED,
        TOP_TILTED,
        clause(&[
            Slot::new("/lines", "bend lines a corner", Kind::Count).empty("5").part(),
            word("lines a corner|lines"),
        ]),
        clause(&[quiet(
            "/made",
            "how it is made",
            &[
                ("usual", "bent where it is not round"),
                ("bent", "bent|bent"),
                ("creased", "creased without allowance|creased"),
            ],
        )]),
        clause(&[quiet(
            "/laid",
            "how it is laid",
            &[
                ("row", "face beside face"),
                ("bottom", "laid round its bottom|round the bottom"),
                ("top", "laid round its top|round the top"),
            ],
        )]),
        clause(&[quiet_union(
            "/stands",
            "kind",
            "what of it",
            &[
                case("whole", "all round", &[], ["", ""]),
                case("without", "without its side|without", &[pick("/side", "side", SIDES)], ["north"; 2]),
                case("half", "half", &[pick("/side", "side", SIDES)], ["north"; 2]),
            ],
        )]),
        clause(&[quiet_union(
            "/kept",
            "kind",
            "what is cut off",
            &[
                case("all", "nothing cut off", &[], ["", ""]),
                case(
                    "only",
                    "only",
                    &[pick("/side", "side", SIDES), word("of"), length("/at", "distance from the middle")],
                    ["north of 0"; 2],
                ),
            ],
        )]),
        clause(&[
            word("seam"),
            quiet(
                "/seam",
                "seam",
                &[
                    ("usual", "as usual"),
                    ("south", "to the south|south"),
                    ("south_east", "to the south-east|south-east"),
                    ("east", "to the east|east"),
                    ("north_east", "to the north-east|north-east"),
                    ("north", "to the north|north"),
                    ("north_west", "to the north-west|north-west"),
                    ("west", "to the west|west"),
                    ("south_west", "to the south-west|south-west"),
                    ("both_north", "both edges of the north side|both north"),
                    ("both_east", "both edges of the east side|both east"),
                    ("both_south", "both edges of the south side|both south"),
                    ("both_west", "both edges of the west side|both west"),
                ],
            ),
            aside(&[word("gap"), length_or("/gap", "gap of the seam", "none")]),
        ]),
        clause(&[flag("/floor", "bottom", &[("false", "open below"), ("true", "closed below")])]),
        clause(&[flag("/lid", "top", &[("false", "open above"), ("true", "closed above")])]),
        clause(&[word("scaled|scaled|scale"), Slot::new("/scale", "scale", Kind::Number).empty("1").part()]),
    ],
    examples: &[
        "transition rectangle 400 x 300 to round ⌀200, 250 high",
        "transition rectangle 300 x 200 to rectangle 120 x 120, 180 high, inside, 40 east, seam south gap 1",
        "transition rectangle 80 x 80 to point, 100 high, creased, round the bottom, closed below",
        "transition round ⌀300 to round ⌀160, 200 high, 90 north, 4 lines, half north",
        "transition rectangle 80 x 60 to point, 100 high, creased, seam both south, closed below",
        "transition round ⌀300 to round ⌀180, 260 high, 160 east, 8 lines, only east of 0",
        "transition polygon 6 sides, 90 across to polygon 6 sides, 40 across, 120 high, turned 30°",
    ],
};

spoken! {
    /// The faces between two openings, as one piece.
    pub struct StartTransition {
        pub bottom: TransitionOpening,
        pub top: TransitionOpening,
        /// From the middle of the lower opening to that of the upper one.
        pub height: String,
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
        /// Bend lines that stand for each round corner; empty means 5.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub lines: String,
        pub made: TransitionMade,
        pub laid: TransitionLaid,
        pub stands: TransitionStands,
        /// What an upright plane leaves of it: a leg of a Y meets its mirror there.
        #[serde(skip_serializing_if = "TransitionKept::is_all")]
        pub kept: TransitionKept,
        pub seam: TransitionSeam,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub gap: String,
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub floor: bool,
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        pub lid: bool,
        /// Of all sizes told here; the sheet keeps its thickness. Empty means 1.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub scale: String,
    }
}

/// A transition, read; lengths in mm, angles in rad.
struct TransitionSpec {
    openings: [Opening; 2],
    lines: usize,
    /// How far the middle of the sheet lies outside of what was told.
    outwards: f64,
    made: Made,
    laying: Laying,
}

/// Lines that stand for a round corner, at most.
const MOST_LINES: usize = 24;
const USUAL_LINES: usize = 5;

impl Spoken for StartTransition {
    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec> {
        let lines = match self.lines.trim() {
            "" => Some(USUAL_LINES),
            _ => reader.count("/say/lines", &self.lines, 2, MOST_LINES),
        };
        let gap = reader.length_or("/say/gap", &self.gap, Range::ZeroUp, 0.0);
        let scale = match self.scale.trim() {
            "" => Some(1.0),
            _ => reader.number("/say/scale", &self.scale).filter(|s| {
                let fits = (1e-3..=1e3).contains(s);
                if !fits {
                    reader.refuse_at("/say/scale", "it is scaled out of reach", "write 0.001 to 1000");
                }
                fits
            }),
        };
        let kept = match self.kept.of() {
            None => Some(None),
            Some((side, at)) => {
                let from = reader.length("/say/kept/at", at, Range::Any);
                // To the north and to the east of a place: from it on; to the south and west: up to it.
                let sign = side.out().x + side.out().y;
                from.map(|v| Some((side.out().extend(0.0), sign * v)))
            }
        };
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
        let openings = told.read(reader, scale.unwrap_or(1.0));
        let (scale, openings) = (scale?, openings?);
        let [bottom, top] = openings.map(|o| o.shape);
        let is_round = openings.iter().any(Opening::is_round);
        let made = match self.made {
            TransitionMade::Creased => Made::Creased,
            TransitionMade::Usual if is_round => Made::Creased,
            _ => Made::Bent(stock.r),
        };
        let outwards = match self.measure {
            Measure::Outside => -stock.t / 2.0,
            Measure::Middle => 0.0,
            Measure::Inside => stock.t / 2.0,
        };
        let (floor, lid) =
            (self.floor || self.laid == TransitionLaid::Bottom, self.lid || self.laid == TransitionLaid::Top);
        for (path, has, shape, which) in [("floor", floor, bottom, "lower"), ("lid", lid, top, "upper")] {
            if has && matches!(self.stands.of(), Stands::Half(_)) {
                let message = format!("a half has no {which} end of its own to close");
                reader.refuse_at(&format!("/say/{path}"), message, "leave it open, face beside face");
                return None;
            }
            if has && shape == OpeningShape::Point {
                let message = format!("the {which} opening is a point: nothing closes it");
                reader.refuse_at(&format!("/say/{path}"), message, "leave it open");
                return None;
            }
        }
        if self.stands.of() != Stands::Whole && self.seam != TransitionSeam::Usual {
            let mend = "leave the seam out, or write all round";
            reader.refuse_at("/say/seam", "only what goes all round has a seam", mend);
            return None;
        }
        if self.seam.ripped().is_some() && self.laid != TransitionLaid::Row {
            let mend = "lay it face beside face, or leave the seam out";
            reader.refuse_at("/say/seam", "laid round an opening every side is ripped", mend);
            return None;
        }
        let (gap, kept) = (gap?, kept?);
        // As usual the seam is where it is shortest: on the side that is cut off.
        let seam = match kept {
            Some((way, _)) if self.seam == TransitionSeam::Usual => (-way.y).atan2(-way.x),
            _ => self.seam.heading(is_round),
        };
        let laying = Laying {
            ripped: self.seam.ripped(),
            cut: kept.map(|(way, from)| Plane { way, from: from * scale + gap / 2.0 }),
            seam,
            gap,
            stands: self.stands.of(),
            round: match self.laid {
                TransitionLaid::Row => None,
                TransitionLaid::Bottom => Some(false),
                TransitionLaid::Top => Some(true),
            },
            floor,
            lid,
        };
        let lines = lines?;
        Some(Spec::Start(Box::new(TransitionSpec { openings, lines, outwards, made, laying })))
    }
}

impl TransitionSpec {
    /// The corners of both openings on the middle of the sheet, and what is to be known of those told.
    fn rings(&self, turn: &mut Turn) -> Option<(Rings, TransitionFact)> {
        let skin = match Skin::of(&self.openings, self.lines, self.outwards) {
            Ok(skin) => skin,
            Err(NoSkin::Crosses) => {
                let mend = "write a greater height, or a smaller tilt";
                turn.tell.refuse_at("/say/height", "one opening runs into the plane of the other", mend);
                return None;
            }
            Err(NoSkin::Thick) => {
                let mend = "write larger openings, or tell them from the inside";
                turn.tell.refuse_at("/say/measure", "the sheet is too thick for so narrow an opening", mend);
                return None;
            }
        };
        let fact = TransitionFact::of(&self.openings, &skin.told, &skin.faces);
        Some((skin.moved, fact))
    }
}

impl Begins for TransitionSpec {
    fn blank(&self, turn: &mut Turn) -> Option<Blank> {
        let (rings, fact) = self.rings(turn)?;
        let Some(faces) = facets(&rings) else {
            let mend = "write a greater height, or a smaller tilt";
            turn.tell.refuse_at("/say/height", "one opening runs into the other", mend);
            return None;
        };
        let mut net = match unrolled(&faces, &rings, &self.openings, &self.laying) {
            Ok(net) => net,
            Err(NotThere::Side(side)) => {
                let (path, mend) = match self.laying.ripped {
                    Some(_) => ("/say/seam", "write another side, or one seam"),
                    None => ("/say/stands", "leave it out: write without another one, or all round"),
                };
                turn.tell.refuse_at(path, format!("no side looks to the {}", side.name()), mend);
                return None;
            }
            Err(NotThere::Gone) => {
                turn.tell.refuse_at("/say/kept/at", "nothing of it lies there", "write another place");
                return None;
            }
            Err(NotThere::Parted) => {
                let mend = "put the seam where it is cut off, or cut it elsewhere";
                turn.tell.refuse_at("/say/kept/at", "what is left of it hangs together no more", mend);
                return None;
            }
            Err(NotThere::Loose(side)) => {
                let message = format!("with both its edges ripped the {} side hangs on nothing", side.name());
                turn.tell.refuse_at("/say/seam", message, "close it below or above");
                return None;
            }
            Err(NotThere::Half) => {
                let mend = "write another half, or all round";
                turn.tell.refuse_at("/say/stands", "no straight cut parts it in halves there", mend);
                return None;
            }
        };
        // Along lines the middle of the sheet keeps its length: its edges meet there too.
        let thick = if matches!(self.made, Made::Creased) { 0.0 } else { turn.stock.t };
        net.cut_back(thick, self.laying.gap);
        match net.blank(&self.made, turn) {
            Ok(blank) => Some(Blank { transition: Some(fact), ..blank }),
            Err(NoNet::Told) => None,
            Err(NoNet::Crowded(face)) => {
                let message = format!("its bends leave nothing of the face {face}");
                let mend = "write creased, larger openings, or a smaller inside radius for the piece";
                turn.tell.refuse_at("/say/made", message, mend);
                None
            }
        }
    }
}
