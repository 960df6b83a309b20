//! `hopper`: four plates between two openings.

use glam::DVec2;
use grammar::*;
use ground::reader::{Range, Reader};
use ground::word;
use sheet::choices::Compass;

use super::cap::THICK;
pub use super::hopper_corners::*;
use crate::build::hoppers::{HopperShape, NoHopper, Opening};
use crate::build::plates::Cutting;
use crate::build::sides::{HOPPER_SIDE, keep};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Plates, Spec, Spoken, Turn, Usual};

pub static VERB: Verb = Verb {
    tag: "hopper",
    stem: "hopper",
    about: "Hopper, chute or pyramid: four plane plates between two rectangular openings, edge to edge in \
        their corners.",
    role: Role::Openings,
    starts: &[Start {
        key: 'z',
        name: "hopper",
        mm: "hopper 200 x 200 to 800 x 600, 500 high, 4 thick",
        inch: "hopper 8 x 8 to 30 x 24, 20 high, 1/4 thick",
    }],
    offers: &[],
    sentence: &[
        verb("Hopper|hopper"),
        length("/bottom_x", "bottom, east"),
        times(),
        length("/bottom_y", "bottom, north"),
        word("to"),
        length("/top_x", "top, east"),
        times(),
        length("/top_y", "top, north"),
        quiet(
            "/measure",
            "told from",
            &[
                ("inside", "told inside|inside"),
                ("middle", "told at mid-thickness|mid-thickness"),
                ("outside", "told outside|outside"),
            ],
        ),
        must(&[length("/height", "height"), word("high")]),
        THICK,
        clause(&[
            word("rising to|rising to|to"),
            length_or("/tall", "height of one side", "the same"),
            pick(
                "/taller",
                "which",
                &[
                    ("north", "on the north|north"),
                    ("east", "on the east|east"),
                    ("south", "on the south|south"),
                    ("west", "on the west|west"),
                ],
            ),
        ]),
        clause(&[quiet(
            "/across",
            "across",
            &[("middle", "centred across"), ("west", "flush west"), ("east", "flush east")],
        )]),
        clause(&[quiet(
            "/along",
            "along",
            &[("middle", "centred along"), ("south", "flush south"), ("north", "flush north")],
        )]),
        clause(&[
            aloud("its top moved"),
            Slot::new("/east", "top to the east", Kind::Length).ways("east", "west").empty("none").part(),
        ]),
        clause(&[
            aloud("moved"),
            Slot::new("/north", "top to the north", Kind::Length).ways("north", "south").empty("none").part(),
        ]),
        clause(&[quiet(
            "/open",
            "sides left out",
            &[
                ("none", "all sides"),
                ("south", "open to the south|open south"),
                ("east", "open to the east|open east"),
                ("north", "open to the north|open north"),
                ("west", "open to the west|open west"),
                ("south_north", "open to the south and north|open south and north"),
                ("east_west", "open to the east and west|open east and west"),
            ],
        )]),
        clause(&[quiet("/corners", "in the corners", CORNERS)]),
        clause(&[word("gap"), length_or("/gap", "gap in the corners", "none")]),
        clause(&[word("on"), Slot::new("/at", "node", Kind::Node).empty("the origin").part()]),
        CORNERS_TOLD,
    ],
    examples: &[
        "hopper 200 x 200 to 800 x 600, 500 high, 4 thick",
        "hopper 300 x 250 to 500 x 400 outside, 400 high, 6 thick, rising to 620 north, flush north",
        "hopper 200 x 150 to 0 x 0, 250 high, 1 thick, 40 east, open south, on A",
        "hopper 250 x 250 to 600 x 500, 400 high, 5 thick, north and south over, gap 2",
        "hopper 250 x 250 to 600 x 500, 400 high, 5 thick, mitred",
        "hopper 250 x 250 to 600 x 500, 400 high, 5 thick, but south-east north or south over gap 1",
    ],
};

word! {
    /// What the openings are told over.
    pub enum HopperMeasure {
        #[default]
        Inside,
        Middle,
        Outside,
    }
}

word! {
    /// Which sides of the two openings stand above one another, west to east.
    pub enum Across {
        #[default]
        Middle,
        West,
        East,
    }
}

word! {
    /// The same from south to north.
    pub enum Along {
        #[default]
        Middle,
        South,
        North,
    }
}

word! {
    /// Sides that are not there.
    pub enum OpenSide {
        #[default]
        None,
        South,
        East,
        North,
        West,
        SouthNorth,
        EastWest,
    }
}

spoken! {
    /// Four plane plates between two rectangular openings, or three.
    pub struct HopperSaid {
        /// West to east and south to north; the lower opening lies on the node, the upper one above it. Both
        /// of one may be 0: a pyramid.
        pub bottom_x: String,
        pub bottom_y: String,
        pub top_x: String,
        pub top_y: String,
        pub measure: HopperMeasure,
        pub height: String,
        pub thickness: String,
        /// Height of the upper edge of one side; empty for the same all round. Beside it the upper opening is
        /// told at the middle of its slope.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub tall: String,
        pub taller: Compass,
        pub across: Across,
        pub along: Along,
        /// How far the upper opening is moved from there.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub east: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub north: String,
        pub open: OpenSide,
        #[serde(skip_serializing_if = "HopperCorners::is_edge")]
        pub corners: HopperCorners,
        /// Left between the plates in their corners, for the weld; empty for none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub gap: String,
        /// Node under the middle of the lower opening; empty for the origin.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub at: String,
        /// Corners that are not as the others.
        #[serde(skip_serializing_if = "Vec::is_empty")]
        pub but: Vec<HopperCornerSaid>,
    }
}

impl OpenSide {
    /// One of each side, as they stand in `Compass::ALL`: whether it is left out.
    fn sides(self) -> [bool; 4] {
        let out: &[Compass] = match self {
            OpenSide::None => &[],
            OpenSide::South => &[Compass::South],
            OpenSide::East => &[Compass::East],
            OpenSide::North => &[Compass::North],
            OpenSide::West => &[Compass::West],
            OpenSide::SouthNorth => &[Compass::South, Compass::North],
            OpenSide::EastWest => &[Compass::East, Compass::West],
        };
        Compass::ALL.map(|side| out.contains(&side))
    }
}

struct HopperSpec {
    shape: HopperShape,
    at: String,
}

impl Spoken for HopperSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let [bottom_x, bottom_y, top_x, top_y] = [
            ("/say/bottom_x", &self.bottom_x),
            ("/say/bottom_y", &self.bottom_y),
            ("/say/top_x", &self.top_x),
            ("/say/top_y", &self.top_y),
        ]
        .map(|(path, told)| reader.length(path, told, Range::ZeroUp));
        let height = reader.length("/say/height", &self.height, Range::AboveZero);
        let thickness = reader.length("/say/thickness", &self.thickness, Range::AboveZero);
        let tall = reader.length_if("/say/tall", &self.tall, Range::AboveZero);
        let east = reader.length_or("/say/east", &self.east, Range::Any, 0.0);
        let north = reader.length_or("/say/north", &self.north, Range::Any, 0.0);
        let gap = reader.length_or("/say/gap", &self.gap, Range::ZeroUp, 0.0);
        let (bottom, top) = (DVec2::new(bottom_x?, bottom_y?), DVec2::new(top_x?, top_y?));
        for (path, size) in [("/say/bottom", bottom), ("/say/top", top)] {
            // A point or a rectangle: a slit has no sides of its own.
            if (size.x > 0.0) != (size.y > 0.0) {
                let path = format!("{path}_{}", if size.x > 0.0 { "y" } else { "x" });
                reader.refuse_at(&path, "the opening has no width", "write a width, or 0 for both");
                return None;
            }
        }
        if bottom.length() + top.length() <= 0.0 {
            let mend = "write the size of one of them";
            reader.refuse_at("/say/top_x", "both openings are points", mend);
            return None;
        }
        let (thickness, height, tall) = (thickness?, height?, tall?);
        let free = (top - bottom) / 2.0;
        let flush = DVec2::new(
            match self.across {
                Across::Middle => 0.0,
                Across::West => free.x,
                Across::East => -free.x,
            },
            match self.along {
                Along::Middle => 0.0,
                Along::South => free.y,
                Along::North => -free.y,
            },
        );
        let inwards = match self.measure {
            HopperMeasure::Inside => 0.0,
            HopperMeasure::Middle => thickness / 2.0,
            HopperMeasure::Outside => thickness,
        };
        if tall.is_some() && top.min_element() <= 0.0 {
            let mend = "leave its height out, or write an upper opening";
            reader.refuse_at("/say/tall", "a point has one height", mend);
            return None;
        }
        let corners = corners(reader, self.corners, gap?, &self.but)?;
        let shape = HopperShape {
            bottom: Opening { middle: DVec2::ZERO, size: bottom },
            top: Opening { middle: flush + DVec2::new(east?, north?), size: top },
            height,
            taller: tall.map(|h| (self.taller, h)),
            inwards,
            thickness,
            open: self.open.sides(),
            corners,
        };
        Some(Spec::Plates(Box::new(HopperSpec { shape, at: self.at.clone() })))
    }
}

impl Plates for HopperSpec {
    fn set(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let faces = self.shape.faces(&|_, _| false).ok();
        keep(turn, skeleton, &self.at, faces.map(|faces| (self.shape.sides(), faces)))
    }

    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        let made = match skeleton.standing.get(turn.line)? {
            Some(standing) => standing.plates(turn, HOPPER_SIDE, |outer| self.shape.faces(outer)).map(Some),
            // What its node lacks is told already.
            None => self.shape.faces(&|_, _| false).map(|_| None),
        };
        let (path, message, mend) = match made {
            Ok(plates) => return plates,
            Err(NoHopper::Side(side)) => (
                "/say",
                format!("nothing is left of the {} side", side.name()),
                "write larger openings, or tell them from the inside",
            ),
            Err(NoHopper::Tilted) => (
                "/say/tall",
                "the upper opening is tilted so far that it runs into the lower one".into(),
                "write heights nearer to one another",
            ),
            Err(NoHopper::Closed { upper }) => {
                let (path, which) = if upper { ("/say/top_x", "upper") } else { ("/say/bottom_x", "lower") };
                let message = format!("the plates leave nothing of the {which} opening inside");
                (path, message, "write a larger one, or tell it from the inside")
            }
        };
        turn.tell.refuse_at(path, message, mend);
        None
    }
}
