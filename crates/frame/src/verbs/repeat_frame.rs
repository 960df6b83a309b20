//! `repeat` of a frame: everything told above, or the lines named, again at a step.

use glam::DVec3;
use grammar::*;
use ground::reader::Reader;

use super::node::{STEP_EAST, STEP_NORTH, STEP_UP};
use super::steps;
use crate::build::copying::lines_named;
use crate::build::skeleton::{SAME, Skeleton};
use crate::build::spec::{Shapes, Spec, Spoken, Turn, Usual};

pub static VERB: Verb = Verb {
    tag: "repeat_frame",
    stem: "repeat",
    about: "Everything told above, or the lines named, again at a step: bays.",
    role: Role::Other,
    starts: &[Start {
        key: 'r',
        name: "repeat",
        mm: "repeat 2 times, 500 north",
        inch: "repeat 2 times, 20 north",
    }],
    offers: &[],
    sentence: &[
        verb("Repeat|repeat"),
        names_or("/of", "lines", Kind::Line, "everything above"),
        aloud(","),
        count("/count", "count"),
        printed("times"),
        STEP_EAST.part(),
        STEP_NORTH.part(),
        STEP_UP.part(),
    ],
    examples: &["repeat 3 times, 500 north", "repeat rail-1 and post-1 4 times, 300 east, 20 up"],
};

spoken! {
    /// Everything told above (or the lines named), again at a step: bays.
    pub struct RepeatFrame {
        pub of: Vec<String>,
        /// All of them, the first counted.
        pub count: String,
        #[serde(default = "super::zero")]
        pub x: String,
        #[serde(default = "super::zero")]
        pub y: String,
        #[serde(default = "super::zero")]
        pub z: String,
    }
}

struct RepeatSpec {
    of: Vec<String>,
    count: usize,
    by: DVec3,
}

/// Bays of one repeat.
const MOST_BAYS: usize = 1_000;

impl Spoken for RepeatFrame {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let count = reader.count("/say/count", &self.count, 1, MOST_BAYS);
        let by = steps(reader, [&self.x, &self.y, &self.z])?;
        if by.length() < SAME {
            let mend = "write a length for east, north or up";
            reader.refuse_at("/say/x", "the step leads nowhere", mend);
            return None;
        }
        Some(Spec::Shapes(Box::new(RepeatSpec { of: self.of.clone(), count: count?, by })))
    }
}

impl Shapes for RepeatSpec {
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let of = lines_named(turn, &self.of)?;
        for k in 1..self.count {
            skeleton.shifted(turn, &format!("#{}", k + 1), self.by * k as f64, &of)?;
        }
        Some(())
    }
}
