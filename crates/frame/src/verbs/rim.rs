//! `rim`: flanges round an opening of a hopper or transition, bent or welded on, their holes, and what is
//! screwed to them.

use grammar::*;
use ground::reader::{Range, Reader};
use ground::{choice, word};

use crate::build::overrides::FrameOverrides;
use crate::build::rims::{MOST_HOLES, Many, Rim, RimHoles};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Spec, Spoken, Tells, Turn, Usual};

pub static VERB: Verb = Verb {
    tag: "rim",
    stem: "rim",
    about: "Flanges round an opening of a hopper or transition, with a row of holes: bent from its sides, \
        level with the opening or at an angle, or flats welded onto the ends of the sides; and flats with \
        the same holes that lie on them.",
    role: Role::Other,
    starts: &[Start {
        key: 'e',
        name: "flanges of an opening",
        mm: "rim $openings top, 50 wide",
        inch: "rim $openings top, 2 wide",
    }],
    offers: &[],
    sentence: &[
        verb("Rim|rim"),
        aloud("of"),
        name("/of", "hopper or transition", Kind::Line),
        pick("/opening", "opening", &[("top", "at its top|top"), ("bottom", "at its bottom|bottom")]),
        Clause::new(&[printed("on"), names_or("/sides", "sides", Kind::PlateSide, "all sides")])
            .close()
            .part(),
        must(&[length("/width", "width"), word("wide")]),
        clause(&[quiet("/turned", "turned", &[("outward", "outward"), ("inward", "inward")])]),
        clause(&[
            word("welded on"),
            length_or("/welded", "weld-on flange", "bent from its sides"),
            aloud("thick"),
        ]),
        clause_when(
            BENT,
            &[
                word("at"),
                angle_or("/angle", "angle to its side", "level with the opening"),
                aloud("to its side"),
            ],
        ),
        clause_when(BENT, &[radius_or("/radius", "inside radius", "usual")]),
        clause(&[quiet_union(
            "/ends",
            "cut",
            "its ends",
            &[
                case("square", "square ends", &[], ["", ""]),
                case(
                    "set_back",
                    "ends set back by|set back",
                    &[length("/by", "set back at its ends")],
                    ["10", "1/2"],
                ),
                case(
                    "mitred",
                    "mitred with a gap of|mitred",
                    &[length("/gap", "gap of the mitres")],
                    ["2", "1/16"],
                ),
            ],
        )]),
        clause(&[word("holes"), diameter_or("/hole", "holes", "none")]),
        clause_when(
            HOLED,
            &[Slot::new("/count", "holes a side", Kind::Count).empty("by pitch").part(), word("a side")],
        ),
        clause_when(HOLED, &[word("no further apart than|every"), length_or("/pitch", "pitch", "by count")]),
        clause_when(
            HOLED,
            &[
                length_or("/across", "holes across", "in the middle"),
                pick(
                    "/across_from",
                    "from",
                    &[("root", "from the root|from root"), ("tip", "from the tip|from tip")],
                ),
            ],
        ),
        clause_when(
            HOLED,
            &[length_or("/from_ends", "first hole", "half a step"), word("from the ends|from ends")],
        ),
        clause(&[word("counter-flange"), length_or("/counter", "counter-flange", "none"), aloud("thick")]),
        clause(&[quiet(
            "/flats",
            "flats cut",
            &[("ring", "flats as rings|as rings"), ("strips", "flats as strips|as strips")],
        )]),
    ],
    examples: &[
        "rim hopper-1 top, 50 wide, holes ⌀14, 5 a side, 32 from root, counter-flange 6",
        "rim hopper-1 bottom on south and north, 40 wide, inward, mitred 2",
        "rim hopper-1 top on east, 60 wide, at 100°, set back 10, holes ⌀9, every 120, 40 from ends",
        "rim transition-1 top, 50 wide, welded on 6, mitred 2, holes ⌀14, 4 a side, as strips",
    ],
};

/// What only a bent flange has.
const BENT: When = When::NotTold("/welded");

/// Where its holes are told, once there are any.
const HOLED: When = When::Told("/hole");

word! {
    /// An opening of a hopper or transition.
    pub enum RimOpening {
        #[default]
        Top,
        Bottom,
    }
}

word! {
    /// Away from the inside, or over the opening.
    pub enum RimTurned {
        #[default]
        Outward,
        Inward,
    }
}

word! {
    /// Where holes across a flange are told from: the sharp edge that it is bent from, or its free edge.
    pub enum AcrossFrom {
        #[default]
        Root,
        Tip,
    }
}

word! {
    /// What flats are cut as.
    pub enum RimFlats {
        /// One all round.
        #[default]
        Ring,
        /// One a side, mitred.
        Strips,
    }
}

impl RimFlats {
    pub fn is_ring(&self) -> bool {
        *self == RimFlats::Ring
    }
}

choice! {
    /// How flanges end at the corners of their opening.
    pub enum RimCut by "cut" {
        Square {},
        /// So far before the corner.
        SetBack { by: String },
        /// Along the line that halves the corner, with a gap to the neighbour.
        Mitred { gap: String },
    }
}

impl Default for RimCut {
    fn default() -> Self {
        RimCut::Square {}
    }
}

impl RimCut {
    pub fn is_square(&self) -> bool {
        *self == RimCut::Square {}
    }
}

spoken! {
    /// Flanges round an opening of a hopper or transition.
    pub struct RimSaid {
        /// Line of the hopper or transition.
        pub of: String,
        pub opening: RimOpening,
        /// Names of those that have a flange; empty for all.
        #[serde(deserialize_with = "super::older_sides::older_sides", skip_serializing_if = "Vec::is_empty")]
        pub sides: Vec<String>,
        /// Outside, from the sharp edge where the outer faces of side and flange meet.
        pub width: String,
        pub turned: RimTurned,
        /// Between side and flange, measured where it turns to; empty for level with the opening.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub angle: String,
        /// Empty for the smallest that the material allows.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub radius: String,
        #[serde(skip_serializing_if = "RimCut::is_square")]
        pub ends: RimCut,
        /// Diameter of a row of holes; empty for none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub hole: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub count: String,
        /// The most from hole to hole, where no count is told.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub pitch: String,
        /// Empty for the middle of the flange.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub across: String,
        pub across_from: AcrossFrom,
        /// From the ends of the flange, where the holes are, to the first and the last; empty for half a
        /// step.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub from_ends: String,
        /// Thickness of a flat on the flanges, with their holes; empty for none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub counter: String,
        /// Thickness of flats welded onto the ends of the sides; empty for flanges bent from them.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub welded: String,
        #[serde(skip_serializing_if = "RimFlats::is_ring")]
        pub flats: RimFlats,
    }
}

struct RimSpec(Rim);

impl Spoken for RimSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let width = reader.length("/say/width", &self.width, Range::AboveZero);
        let angle = match self.angle.trim() {
            "" => Some(None),
            told => reader.bend_angle("/say/angle", told, 165.0).map(Some),
        };
        let radius = reader.length_if("/say/radius", &self.radius, Range::ZeroUp);
        let ends = match &self.ends {
            RimCut::Square {} => Some((0.0, None)),
            RimCut::SetBack { by } => reader.length("/say/ends/by", by, Range::ZeroUp).map(|v| (v, None)),
            RimCut::Mitred { gap } => {
                reader.length("/say/ends/gap", gap, Range::ZeroUp).map(|v| (0.0, Some(v)))
            }
        };
        let counter = reader.length_if("/say/counter", &self.counter, Range::AboveZero);
        let welded = reader.length_if("/say/welded", &self.welded, Range::AboveZero);
        let width = width?;
        let holes = self.holes(reader, width)?;
        let (set_back, gap) = ends?;
        let (counter, welded) = (counter?, welded?);
        self.told_of_nothing(reader, welded.is_some(), counter.is_some())?;
        Some(Spec::Tells(Box::new(RimSpec(Rim {
            line: String::new(),
            of: self.of.trim().into(),
            upper: self.opening == RimOpening::Top,
            sides: self.sides.iter().map(|name| name.trim().to_string()).collect(),
            width,
            inwards: self.turned == RimTurned::Inward,
            angle: angle?,
            radius: radius?,
            set_back,
            gap,
            holes,
            counter,
            welded,
            in_strips: self.flats == RimFlats::Strips,
        }))))
    }
}

impl RimSaid {
    /// Refuses what would change nothing of the flanges that are told.
    fn told_of_nothing(&self, reader: &mut Reader, welded: bool, counter: bool) -> Option<()> {
        let told = [
            ("/say/angle", welded && !self.angle.trim().is_empty(), "flats lie level with their opening"),
            ("/say/radius", welded && !self.radius.trim().is_empty(), "flats have no bend"),
            ("/say/ends", welded && matches!(self.ends, RimCut::SetBack { .. }), "strips end in mitres"),
            (
                "/say/ends",
                welded && self.flats.is_ring() && !self.ends.is_square(),
                "a ring has no mitres; strips have",
            ),
            ("/say/flats", !welded && !counter && !self.flats.is_ring(), "nothing is cut flat here"),
        ];
        let Some((path, _, message)) = told.into_iter().find(|t| t.1) else { return Some(()) };
        reader.refuse_at(path, message, "leave it out");
        None
    }

    /// Its holes; within nothing where none are told.
    fn holes(&self, reader: &mut Reader, width: f64) -> Option<Option<RimHoles>> {
        let diameter = reader.length_if("/say/hole", &self.hole, Range::AboveZero)?;
        let told = [
            ("/say/count", &self.count),
            ("/say/pitch", &self.pitch),
            ("/say/across", &self.across),
            ("/say/from_ends", &self.from_ends),
        ];
        let Some(diameter) = diameter else {
            if let Some((path, _)) = told.iter().find(|(_, text)| !text.trim().is_empty()) {
                reader.refuse_at(path, "this is told of holes, and there are none", "write their diameter");
                return None;
            }
            return Some(None);
        };
        let many = match (self.count.trim(), self.pitch.trim()) {
            ("", "") => {
                let mend = "write a count or a pitch";
                reader.refuse_at("/say/count", "how many holes is not told", mend);
                return None;
            }
            (count, "") => Many::Count(reader.count("/say/count", count, 1, MOST_HOLES)?),
            ("", pitch) => Many::Pitch(reader.length("/say/pitch", pitch, Range::AboveZero)?),
            _ => {
                let mend = "take one of the two out";
                reader.refuse_at("/say/pitch", "count and pitch are both told", mend);
                return None;
            }
        };
        let across = reader.length_or("/say/across", &self.across, Range::AboveZero, width / 2.0)?;
        let across = if self.across_from == AcrossFrom::Tip && !self.across.trim().is_empty() {
            width - across
        } else {
            across
        };
        if across - diameter / 2.0 <= 0.0 || across + diameter / 2.0 >= width {
            let mend = "write a smaller hole, or one nearer to the middle";
            reader.refuse_at("/say/across", "the holes reach over the edge of the flange", mend);
            return None;
        }
        let first = reader.length_if("/say/from_ends", &self.from_ends, Range::ZeroUp)?;
        Some(Some(RimHoles { diameter, many, across, first }))
    }
}

impl Tells for RimSpec {
    fn tell(&self, turn: &mut Turn, _: &Skeleton, told: &mut FrameOverrides) -> Option<()> {
        told.rims.push(Rim { line: turn.line.into(), ..self.0.clone() });
        Some(())
    }
}
