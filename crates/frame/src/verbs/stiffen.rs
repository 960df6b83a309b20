//! `stiffen`: flat bars round a hopper at told heights.

use grammar::*;
use ground::reader::{Range, Reader};

use super::cap::THICK;
use crate::build::plates::Cutting;
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Plates, Spec, Spoken, Turn, Usual};
use crate::build::stiffeners::{NoStiffener, Stiffener, bars};

pub static VERB: Verb = Verb {
    tag: "stiffen",
    stem: "stiffener",
    about: "Stiffeners of flat bar that lie round a hopper at told heights, cut to its slope and mitred in \
        the corners.",
    role: Role::Other,
    starts: &[Start {
        key: '3',
        name: "stiffeners of a hopper",
        mm: "stiffen $hopper at 150, 40 wide, 5 thick",
        inch: "stiffen $hopper at 6, 1 1/2 wide, 1/4 thick",
    }],
    offers: &[],
    sentence: &[
        verb("Stiffen|stiffen"),
        name("/of", "hopper", Kind::Line),
        word("at a height of|at"),
        length("/height", "height"),
        must(&[length("/width", "width"), word("wide")]),
        THICK,
        clause(&[
            Slot::new("/count", "how many heights", Kind::Count).empty("one").part(),
            word("heights every|every"),
            length_or("/pitch", "pitch", "none"),
        ]),
    ],
    examples: &[
        "stiffen hopper-1 at 180, 40 wide, 5 thick",
        "stiffen hopper-1 at 120, 50 wide, 6 thick, 3 every 110",
    ],
};

spoken! {
    /// Stiffeners of flat bar round a hopper.
    pub struct StiffenSaid {
        /// Line of the hopper.
        pub of: String,
        /// Of the lower face of the lowest bars over the lower opening.
        pub height: String,
        pub width: String,
        pub thickness: String,
        /// How many heights; empty for one.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub count: String,
        /// From one to the next.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub pitch: String,
    }
}

struct StiffenSpec {
    of: String,
    first: Stiffener,
    count: usize,
    pitch: f64,
}

/// Heights of one line.
const MOST: usize = 100;

impl Spoken for StiffenSaid {
    fn read(&self, reader: &mut Reader, _: &Usual) -> Option<Spec> {
        let height = reader.length("/say/height", &self.height, Range::ZeroUp);
        let width = reader.length("/say/width", &self.width, Range::AboveZero);
        let thickness = reader.length("/say/thickness", &self.thickness, Range::AboveZero);
        let count = match self.count.trim() {
            "" => Some(1),
            told => reader.count("/say/count", told, 1, MOST),
        };
        let pitch = match count {
            Some(1) | None => Some(0.0),
            _ => reader.length("/say/pitch", &self.pitch, Range::AboveZero),
        };
        let (thickness, count, pitch) = (thickness?, count?, pitch?);
        if count > 1 && pitch < thickness {
            let mend = format!("write {} or more", reader.display.length_unit(thickness));
            reader.refuse_at("/say/pitch", "the bars lie in one another", mend);
            return None;
        }
        let first = Stiffener { height: height?, width: width?, thickness };
        Some(Spec::Plates(Box::new(StiffenSpec { of: self.of.trim().into(), first, count, pitch })))
    }
}

impl Plates for StiffenSpec {
    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        let Some(hopper) = skeleton.hoppers.get(&self.of) else {
            let mut known: Vec<&str> = skeleton.hoppers.keys().map(String::as_str).collect();
            known.sort_unstable();
            let mend = match known.as_slice() {
                [] => "say a hopper first".into(),
                known => format!("name one of {}", known.join(", ")),
            };
            turn.tell.refuse_at("/say/of", format!("'{}' makes no hopper", self.of), mend);
            return None;
        };
        if hopper.shape.faces(&|_, _| false).is_err() {
            turn.tell.refuse_at("/say/of", "the hopper cannot be made yet", "see what its line says");
            return None;
        }
        let mut out = Vec::new();
        for k in 0..self.count {
            ground::halt::point();
            let at = Stiffener { height: self.first.height + self.pitch * k as f64, ..self.first };
            let part = if self.count > 1 { format!("{}-", k + 1) } else { String::new() };
            let d = turn.tell.display;
            match bars(hopper, &at, &part) {
                Ok(made) => out.extend(made),
                Err(NoStiffener::Above(side)) => {
                    let top = d.length_unit(at.height + at.thickness);
                    let message =
                        format!("at {top} it stands over the upper opening on the {} side", side.name());
                    turn.tell.refuse_at("/say/height", message, "write a smaller height");
                    return None;
                }
                Err(NoStiffener::Nothing(side)) => {
                    let at = d.length_unit(at.height);
                    let message = format!("the {} side has no width at {at}", side.name());
                    turn.tell.refuse_at("/say/height", message, "write a height where all sides are");
                    return None;
                }
            }
        }
        Some(out)
    }
}
