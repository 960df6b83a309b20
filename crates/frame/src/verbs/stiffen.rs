//! `stiffen`: flat bars or angles round a hopper or transition at told heights.

use std::f64::consts::PI;
use std::sync::Arc;

use grammar::*;
use ground::reader::{Range, Reader};
use ground::{reference, word};
use shop::Material;
use shop::section::Shape;

use crate::build::plates::Cutting;
use crate::build::skeleton::{MOST_MEMBERS, Skeleton, Toe, stand};
use crate::build::spec::{Plates, SectionSpec, Shapes, Spec, Spoken, Turn, Usual};
use crate::build::stiffeners::{Angles, NoStiffener, Stiffener, angles, bars};
use crate::model::{CentrelineSegment, Member, MemberOf};

pub static VERB: Verb = Verb {
    tag: "stiffen",
    stem: "stiffener",
    about: "Stiffeners of flat bar or angle that lie round a hopper or transition at told heights, cut to \
        its slope and mitred in the corners.",
    role: Role::Other,
    starts: &[Start {
        key: '3',
        name: "stiffeners round a hopper",
        mm: "stiffen $openings at 150, 40 wide, 5 thick",
        inch: "stiffen $openings at 6, 1 1/2 wide, 1/4 thick",
    }],
    offers: &[],
    sentence: &[
        verb("Stiffen|stiffen"),
        name("/of", "hopper or transition", Kind::Line),
        word("at a height of|at"),
        length("/height", "height"),
        Clause::new(&[length_or("/width", "width", "none"), word("wide")]).shown(FLAT).part(),
        Clause::new(&[length_or("/thickness", "thickness", "none"), word("thick")]).shown(FLAT).part(),
        Clause::new(&[
            word("of angle|of"),
            Slot::new("/section", "angle", Kind::Section).empty("flat bar instead").part(),
        ])
        .shown(When::NotTold("/width"))
        .part(),
        Clause::new(&[quiet(
            "/leg",
            "its other leg",
            &[("up", "its other leg up|leg up"), ("down", "its other leg down|leg down")],
        )])
        .shown(When::Told("/section"))
        .part(),
        clause(&[
            Slot::new("/count", "how many heights", Kind::Count).empty("one").part(),
            word("heights every|every"),
            length_or("/pitch", "pitch", "none"),
        ]),
    ],
    examples: &[
        "stiffen hopper-1 at 180, 40 wide, 5 thick",
        "stiffen hopper-1 at 120, 50 wide, 6 thick, 3 every 110",
        "stiffen transition-1 at 150, of L 40x40x4, leg down",
    ],
};

const FLAT: When = When::NotTold("/section");

word! {
    /// Where the leg of an angle that does not lie level goes.
    pub enum AngleLeg {
        #[default]
        Up,
        Down,
    }
}

spoken! {
    /// Stiffeners of flat bar or angle round a hopper or transition.
    pub struct StiffenSaid {
        /// Line of the hopper or transition.
        pub of: String,
        /// Of the lower face of the lowest bars over the lower opening.
        pub height: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub width: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub thickness: String,
        /// An angle, instead of flat bar: one leg lies level, its toe on the side.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub section: String,
        pub leg: AngleLeg,
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
    heights: Heights,
}

struct AnglesSpec {
    of: String,
    first: Angles,
    heights: Heights,
    section: SectionSpec,
    material: Arc<Material>,
}

/// How many, and from one to the next.
#[derive(Clone, Copy)]
struct Heights {
    count: usize,
    pitch: f64,
}

impl Heights {
    /// How far over the first each stands, and what leads the names of its bars.
    fn each(self) -> impl Iterator<Item = (f64, String)> {
        (0..self.count).map(move |k| {
            let lead = if self.count > 1 { format!("{}-", k + 1) } else { String::new() };
            (self.pitch * k as f64, lead)
        })
    }
}

/// Heights of one line.
const MOST: usize = 100;

impl Spoken for StiffenSaid {
    fn read(&self, reader: &mut Reader, usual: &Usual) -> Option<Spec> {
        let of = self.of.trim().to_string();
        let height = reader.length("/say/height", &self.height, Range::ZeroUp);
        if self.section.trim().is_empty() {
            let width = reader.length("/say/width", &self.width, Range::AboveZero);
            let thickness = reader.length("/say/thickness", &self.thickness, Range::AboveZero);
            let thickness = thickness?;
            let heights = self.heights(reader, thickness)?;
            let first = Stiffener { height: height?, width: width?, thickness };
            return Some(Spec::Plates(Box::new(StiffenSpec { of, first, heights })));
        }
        if !(self.width.trim().is_empty() && self.thickness.trim().is_empty()) {
            let mend = "leave the width and the thickness out, or the angle";
            reader.refuse_at("/say/section", "these are flat bars and angles at once", mend);
            return None;
        }
        let section = usual.section(reader, "/say/section", &self.section);
        let material = usual.material(reader, "/say/section", "");
        let (section, material) = (section?, material?);
        let Shape::Angle { h, b, t, .. } = section.section.shape else {
            let message = format!("{} is no angle", section.section.designation);
            let mend = "name one such as L 40x40x4; flat bar is told by its width and thickness";
            reader.refuse("/say/section", &self.section, message, mend);
            return None;
        };
        let heights = self.heights(reader, h)?;
        let down = self.leg == AngleLeg::Down;
        let first = Angles { height: height?, upright: h, level: b, thickness: t, down };
        Some(Spec::Shapes(Box::new(AnglesSpec { of, first, heights, section, material })))
    }
}

impl StiffenSaid {
    fn heights(&self, reader: &mut Reader, deep: f64) -> Option<Heights> {
        let count = match self.count.trim() {
            "" => 1,
            told => reader.count("/say/count", told, 1, MOST)?,
        };
        if count == 1 {
            return Some(Heights { count, pitch: 0.0 });
        }
        let pitch = reader.length("/say/pitch", &self.pitch, Range::AboveZero)?;
        if pitch < deep {
            let mend = format!("write {} or more", reader.display.length_unit(deep));
            reader.refuse_at("/say/pitch", "the bars lie in one another", mend);
            return None;
        }
        Some(Heights { count, pitch })
    }
}

/// Why there are none at a height; `top` is theirs.
fn refuse(turn: &mut Turn, why: &NoStiffener, height: f64, top: f64) {
    let d = turn.tell.display;
    let (message, mend) = match why {
        NoStiffener::Above(side) => (
            format!("at {} it stands over the upper opening on the {side} side", d.length_unit(top)),
            "write a smaller height",
        ),
        NoStiffener::Nothing(side) => (
            format!("the {side} side has no width at {}", d.length_unit(height)),
            "write a height where all sides are",
        ),
        NoStiffener::Leg(side) => (
            format!("the other leg runs into the {side} side, which leans towards it"),
            "let it go the other way, or take an angle with a longer level leg",
        ),
    };
    let path = if matches!(why, NoStiffener::Leg(_)) { "/say/leg" } else { "/say/height" };
    turn.tell.refuse_at(path, message, mend);
}

impl Plates for StiffenSpec {
    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        let on = skeleton.standing(turn.tell, "/say/of", &self.of)?;
        let mut out = Vec::new();
        for (over, lead) in self.heights.each() {
            ground::halt::point();
            let at = Stiffener { height: self.first.height + over, ..self.first };
            let top = at.height + at.thickness;
            out.extend(bars(on, &at, &lead).map_err(|why| refuse(turn, &why, at.height, top)).ok()?);
        }
        Some(out)
    }
}

impl Shapes for AnglesSpec {
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let on = skeleton.standing(turn.tell, "/say/of", &self.of)?;
        let against = on.sides.thickness;
        let mut runs = Vec::new();
        for (over, lead) in self.heights.each() {
            ground::halt::point();
            let at = Angles { height: self.first.height + over, ..self.first };
            let top = at.height + at.thickness;
            let made = angles(on, &at).map_err(|why| refuse(turn, &why, at.height, top)).ok()?;
            runs.extend(made.into_iter().map(|run| (lead.clone(), run)));
        }
        if skeleton.members.len() + runs.len() > MOST_MEMBERS {
            let message = format!("the frame has more than {MOST_MEMBERS} members");
            turn.tell.refuse_at("/say/count", message, "split the frame");
            return None;
        }
        let profile = skeleton.profile(&self.section);
        for (lead, run) in runs {
            let named = |which: &str| reference::part(turn.line, format!("{lead}{}-{which}", run.side));
            let nodes = [(named("start"), run.from), (named("end"), run.to)]
                .map(|(name, at)| skeleton.put(&name, at, turn.line, None));
            let [Some(from), Some(to)] = nodes else {
                turn.tell.refuse_at("/say/count", "the frame has too many nodes", "split the frame");
                return None;
            };
            skeleton.mitred.extend([from, to]);
            // The level leg points in. One whose other leg hangs down is walked the other way, turned over.
            let (ends, places) = match self.first.down {
                false => ([from, to], [run.from, run.to]),
                true => ([to, from], [run.to, run.from]),
            };
            let length = places[0].distance(places[1]);
            let turned = if self.first.down { PI } else { 0.0 };
            let bar = stand(places[0], (places[1] - places[0]) / length, turned);
            skeleton.toes.push(Toe { member: skeleton.members.len(), length: run.toe, against });
            let of = MemberOf { profile, material: self.material.clone() };
            let way = vec![CentrelineSegment::Straight { bar, length }];
            let member = Member {
                name: reference::part(turn.line, format!("{lead}{}", run.side)),
                ..Member::new(turn.line, "stiffener", of, ends, way)
            };
            skeleton.keep(member, None);
        }
        Some(())
    }
}
