//! `cut`: holes and cut-outs in plates of a frame, told on the plate's flat as its own paper shows it.

use glam::DVec2;
use grammar::*;
use ground::reader::{Range, Reader};
use ground::word;
use sheet::verbs::shape::{PUNCHED, Shape};

use crate::build::overrides::FrameOverrides;
use crate::build::plate_holes::{Across, PlateHoles, Through};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Spec, Spoken, Tells, Turn, Usual};

pub static VERB: Verb = Verb {
    tag: "cut_plate",
    stem: "cut",
    about: "Cuts holes, slots and cut-outs into plates of the frame, told from the sides of the \
        plate's flat.",
    role: Role::Other,
    starts: &[Start {
        key: 'q',
        name: "hole in a plate",
        mm: "cut : hole ⌀9, 30 from west, 30 from south",
        inch: "cut : hole ⌀3/8, 1 from west, 1 from south",
    }],
    offers: &[],
    sentence: &[
        verb("Cut into|cut"),
        names_or("/of", "plates", Kind::Line, "no plate"),
        sign(":"),
        union("/shape", "kind", "shape", PUNCHED),
        FROM_X,
        FROM_Y,
        IN_A_ROW,
    ],
    examples: &[
        "cut plate-1: hole ⌀14, 40 from west, 30 from south",
        "cut foot-1: slot 30 x 9, 40 from west, 25 from south, 2 at 50 north",
    ],
};

/// From the west or east side of the flat.
pub const FROM_X: Part = clause(&[
    length_or("/x", "distance across", "in the middle"),
    pick("/x_from", "from", &[("west", "from west"), ("east", "from east")]),
]);

/// From its south or north side.
pub const FROM_Y: Part = clause(&[
    length_or("/y", "distance up", "in the middle"),
    pick("/y_from", "from", &[("south", "from south"), ("north", "from north")]),
]);

/// Several in a row.
pub const IN_A_ROW: Part = clause(&[
    Slot::new("/count", "count", Kind::Count).empty("one").part(),
    word("at a pitch of|at|x|×|at pitch|pitch"),
    length_or("/pitch", "pitch", "none"),
    pick("/way", "way", &[("east", "to the east|east"), ("north", "to the north|north")]),
]);

word! {
    pub enum XFrom {
        #[default]
        West,
        East,
    }
}

word! {
    pub enum YFrom {
        #[default]
        South,
        North,
    }
}

word! {
    pub enum RowWay {
        #[default]
        East,
        North,
    }
}

spoken! {
    /// Cuts holes, slots and cut-outs into plates of the frame.
    pub struct CutPlateSaid {
        /// Lines that make plates, or one plate of a line.
        pub of: Vec<String>,
        pub shape: Shape,
        /// Empty for the middle.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub x: String,
        pub x_from: XFrom,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub y: String,
        pub y_from: YFrom,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub count: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub pitch: String,
        pub way: RowWay,
    }
}

/// Holes of one row.
const MOST_HOLES: usize = 500;

/// Where a row lies on a flat, as told.
pub struct RowTold<'a> {
    pub x: (&'a str, XFrom),
    pub y: (&'a str, YFrom),
    pub count: &'a str,
    pub pitch: &'a str,
    pub way: RowWay,
}

impl RowTold<'_> {
    /// Where the first lies each way, and the steps to all of the row.
    pub fn read(&self, reader: &mut Reader) -> Option<([Across; 2], Vec<DVec2>)> {
        let x = reader.length_if("/say/x", self.x.0, Range::Any);
        let y = reader.length_if("/say/y", self.y.0, Range::Any);
        let count = match self.count.trim() {
            "" => Some(1),
            told => reader.count("/say/count", told, 1, MOST_HOLES),
        };
        let pitch = match count {
            Some(1) | None => Some(0.0),
            _ => reader.length("/say/pitch", self.pitch, Range::AboveZero),
        };
        let across = |told: Option<f64>, far: bool| told.map_or(Across::Middle, |v| Across::From(v, far));
        let (x, y) = (across(x?, self.x.1 == XFrom::East), across(y?, self.y.1 == YFrom::North));
        let step = pitch? * if self.way == RowWay::East { DVec2::X } else { DVec2::Y };
        Some(([x, y], (0..count?).map(|k| step * k as f64).collect()))
    }
}

/// What is cut into plates when they stand.
pub struct CutPlateSpec {
    pub of: Vec<String>,
    pub through: Through,
    pub at: [Across; 2],
    pub steps: Vec<DVec2>,
}

impl Spoken for CutPlateSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let shape = self.shape.read(reader, "/say/shape");
        let row = RowTold {
            x: (&self.x, self.x_from),
            y: (&self.y, self.y_from),
            count: &self.count,
            pitch: &self.pitch,
            way: self.way,
        };
        let (at, steps) = row.read(reader)?;
        let through = Through::Shape(shape?);
        Some(Spec::Tells(Box::new(CutPlateSpec { of: self.of.clone(), through, at, steps })))
    }
}

impl Tells for CutPlateSpec {
    fn tell(&self, turn: &mut Turn, _: &Skeleton, told: &mut FrameOverrides) -> Option<()> {
        if self.of.is_empty() {
            turn.tell.refuse_at("/say/of", "no plate is named", "name a line above that makes plates");
            return None;
        }
        told.plate_holes.push(PlateHoles {
            line: turn.line.into(),
            of: self.of.clone(),
            through: self.through.clone(),
            at: self.at,
            steps: self.steps.clone(),
        });
        Some(())
    }
}
