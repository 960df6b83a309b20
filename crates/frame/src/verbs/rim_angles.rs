//! `rim_angles`: a counter-flange of angles on the flanges round an opening.

use std::sync::Arc;

use grammar::*;
use ground::reader::{Range, Reader, Tell};
use ground::reference;
use shop::Material;
use shop::section::Shape;

use crate::bar::Bar;
use crate::build::holes::{Drilled, InARow, drill};
use crate::build::rim_angles::{RimAngle, angles};
use crate::build::rims::{Rim, Rims};
use crate::build::skeleton::{MOST_MEMBERS, Skeleton};
use crate::build::spec::{SectionSpec, Shapes, Spec, Spoken, Turn, Usual};
use crate::model::{CentrelineSegment, Member, MemberOf};

pub static VERB: Verb = Verb {
    tag: "rim_angles",
    stem: "angles",
    about: "A counter-flange of angles: one leg lies on the flanges round an opening and has their holes, \
        the other stands away from it.",
    role: Role::Other,
    starts: &[Start {
        key: '9',
        name: "counter-flange of angles",
        mm: "angles on $rim, of L 50x50x5",
        inch: "angles on $rim, of L 2x2x1/4",
    }],
    offers: &[],
    sentence: &[
        verb("Angles|angles"),
        printed("on"),
        name("/on", "line of the flanges", Kind::Line),
        must(&[word("of"), Slot::new("/section", "angle", Kind::Section).part()]),
        clause(&[word("set out"), length_or("/out", "heel out of the opening", "none")]),
    ],
    examples: &["angles on rim-1, of L 50x50x5", "angles on rim-1, of L 40x40x4, set out 3"],
};

spoken! {
    /// A counter-flange of angles on the flanges round an opening.
    pub struct RimAnglesSaid {
        /// Line of the flanges, above this one.
        pub on: String,
        pub section: String,
        /// From the edge that the flanges stand on to the heels; empty for none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub out: String,
    }
}

struct RimAnglesSpec {
    on: String,
    section: SectionSpec,
    material: Arc<Material>,
    /// The leg that lies and the one that stands, and their thickness.
    legs: [f64; 2],
    thickness: f64,
    out: f64,
}

impl Spoken for RimAnglesSaid {
    fn read(&self, reader: &mut Reader, usual: &Usual) -> Option<Spec> {
        let out = reader.length_or("/say/out", &self.out, Range::ZeroUp, 0.0);
        let section = usual.section(reader, "/say/section", &self.section);
        let material = usual.material(reader, "/say/section", "");
        let (section, material, out) = (section?, material?, out?);
        let Shape::Angle { h, b, t, .. } = section.section.shape else {
            let message = format!("{} is no angle", section.section.designation);
            reader.refuse("/say/section", &self.section, message, "name one such as L 40x40x4");
            return None;
        };
        let on = self.on.trim().to_string();
        let spec = RimAnglesSpec { on, section, material, legs: [b, h], thickness: t, out };
        Some(Spec::Shapes(Box::new(spec)))
    }
}

impl RimAnglesSpec {
    /// Why no angle can lie on these flanges: the field, what is wrong, and the mend.
    fn unfit(&self, rim: &Rim, turn: &Turn) -> Option<(&'static str, String, &'static str)> {
        let d = &turn.tell.display;
        if rim.angle.is_some() {
            let message = "these flanges do not lie level with their opening".into();
            return Some(("/say/on", message, "take their angle out, or leave the angles out"));
        }
        if rim.counter.is_some() {
            let message = "a counter-flange of flats lies on these flanges already".into();
            return Some(("/say/on", message, "take it out there, or leave the angles out"));
        }
        let holes = rim.holes?;
        let (across, half) = (holes.across - self.out, holes.diameter / 2.0);
        if across - half < self.thickness {
            let message =
                format!("the holes, {} from the heel, run into the leg that stands", d.length_unit(across));
            return Some(("/say/section", message, "set the angles out less, or the holes further out"));
        }
        if across + half > self.legs[0] {
            let message =
                format!("the holes, {} from the heel, leave the leg that lies", d.length_unit(across));
            return Some(("/say/section", message, "take a larger angle, or set it out more"));
        }
        None
    }

    /// One of them, with its holes.
    fn put(&self, turn: &mut Turn, skeleton: &mut Skeleton, profile: usize, angle: &RimAngle) -> Option<()> {
        let named = |which: &str| reference::part(turn.line, format!("{}-{which}", angle.side));
        let nodes = ["start", "end"].map(named);
        let mut ends = Vec::new();
        for (name, at) in nodes.iter().zip(angle.ends) {
            let Some(node) = skeleton.put(name, at, turn.line, None) else {
                turn.tell.refuse_at("/say/on", "the frame has too many nodes", "split the frame");
                return None;
            };
            ends.push(node);
        }
        skeleton.mitred.extend((0..2).filter(|end| angle.mitred[*end]).map(|end| ends[end]));
        // Walked so that the legs of the section lie as told.
        let d = angle.lies.cross(angle.stands);
        let is_back = (angle.ends[1] - angle.ends[0]).dot(d) < 0.0;
        let (from, to) = if is_back { (1, 0) } else { (0, 1) };
        let bar = Bar { o: angle.ends[from], d, y: angle.lies, z: angle.stands };
        let length = angle.ends[0].distance(angle.ends[1]);
        let of = MemberOf { profile, material: self.material.clone() };
        let way = vec![CentrelineSegment::Straight { bar, length }];
        let index = skeleton.members.len();
        let member = Member {
            name: reference::part(turn.line, &angle.side),
            ..Member::new(turn.line, "flange angle", of, [ends[from], ends[to]], way)
        };
        skeleton.keep(member, None);
        for p in &angle.holes {
            let (out, _) = bar.turned(-angle.stands);
            let (flat, _) = bar.turned(*p - bar.o);
            let row = Drilled {
                out,
                diameter: angle.diameter,
                length: angle.diameter,
                row: InARow { at: (*p - bar.o).dot(d), off: flat.dot(out.perp()), count: 1, pitch: 0.0 },
                through: false,
                bore: None,
            };
            drill(turn, skeleton, index, &row)?;
        }
        Some(())
    }
}

impl Shapes for RimAnglesSpec {
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let Some(rim) = turn.rims.iter().find(|r| r.line == self.on) else {
            let message = format!("{} tells of no flanges above this line", self.on);
            turn.tell.refuse_at("/say/on", message, "name a line above that does, such as rim-1");
            return None;
        };
        if let Some((path, message, mend)) = self.unfit(rim, turn) {
            turn.tell.refuse_at(path, message, mend);
            return None;
        }
        let on = skeleton.standing(turn.tell, "/say/on", &rim.of)?;
        let mut quiet = Tell::new(turn.tell.display);
        let rims = Rims::of(&mut quiet, turn.rims, &rim.of, &on.sides);
        let made = angles(on, &rims, rim, self.legs, self.out);
        if skeleton.members.len() + made.len() > MOST_MEMBERS {
            let message = format!("the frame has more than {MOST_MEMBERS} members");
            turn.tell.refuse_at("/say/on", message, "split the frame");
            return None;
        }
        let profile = skeleton.profile(&self.section);
        made.iter().try_for_each(|angle| self.put(turn, skeleton, profile, angle))
    }
}
