//! `lap`: a strip on edge along a row of ribs, half-lapped into each of them.

use glam::DVec2;
use grammar::*;
use ground::choice;
use ground::reader::{Range, Reader};
use sheet::choices::Compass;

use super::cut_plate::{FROM_X, FROM_Y, XFrom, YFrom};
use crate::build::plate_holes::Across;
use crate::build::plates::Cutting;
use crate::build::rails::{NoRail, Rail};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Plates, Spec, Spoken, Turn, Usual};

pub static VERB: Verb = Verb {
    tag: "lap",
    stem: "lap",
    about: "A rail on edge along a row of ribs: rail and ribs are each slotted by half of what laps, or the \
        rail by as much as is told, so that they go into one another.",
    role: Role::Other,
    starts: &[Start {
        key: '4',
        name: "rail in ribs",
        mm: "lap $ribs: rail 60 x 18 into north",
        inch: "lap $ribs: rail 2 1/2 x 3/4 into north",
    }],
    offers: &[],
    sentence: &[
        verb("Lap|lap"),
        name("/of", "ribs", Kind::Line),
        sign(":"),
        word("a rail|rail"),
        length("/depth", "depth"),
        word("×|x"),
        length("/thickness", "thickness"),
        union(
            "/side",
            "kind",
            "side of the profile",
            &[
                case("north", "let into the north side|into north", &[FROM_X], ["", ""]),
                case("south", "let into the south side|into south", &[FROM_X], ["", ""]),
                case("east", "let into the east side|into east", &[FROM_Y], ["", ""]),
                case("west", "let into the west side|into west", &[FROM_Y], ["", ""]),
            ],
        ),
        clause(&[word("proud by|proud"), length_or("/proud", "how far it stands out", "flush")]),
        clause(&[word("fit"), length_or("/play", "how much wider its slots are", "none")]),
        clause(&[word("overhang"), length_or("/overhang", "overhang", "none")]),
        clause(&[word("itself slotted|slotted"), length_or("/slot", "how deep it is slotted", "half of it")]),
        clause(&[
            word("material"),
            Slot::new("/material", "material of the rail", Kind::Material).empty("that of the ribs").part(),
        ]),
    ],
    examples: &[
        "lap ribs-1: rail 60 x 18 into north, fit 0.3",
        "lap ribs-1: rail 80 x 18 into south 120 from west, proud 10, fit 0.5, overhang 40",
        "lap ribs-1: rail 60 x 18 into east 90 from north, fit 0.5, slotted 0, material s235",
    ],
};

choice! {
    /// The side of the profile that a rail lies in, and where along it; the middle where nothing is told.
    pub enum RailSide by "kind" {
        North {
            #[serde(default, skip_serializing_if = "String::is_empty")]
            x: String,
            #[serde(default)]
            x_from: XFrom,
        },
        South {
            #[serde(default, skip_serializing_if = "String::is_empty")]
            x: String,
            #[serde(default)]
            x_from: XFrom,
        },
        East {
            #[serde(default, skip_serializing_if = "String::is_empty")]
            y: String,
            #[serde(default)]
            y_from: YFrom,
        },
        West {
            #[serde(default, skip_serializing_if = "String::is_empty")]
            y: String,
            #[serde(default)]
            y_from: YFrom,
        },
    }
}

impl Default for RailSide {
    fn default() -> Self {
        RailSide::North { x: String::new(), x_from: XFrom::West }
    }
}

spoken! {
    /// A rail that is half-lapped into a row of ribs.
    pub struct LapSaid {
        /// Line of the ribs.
        pub of: String,
        /// Of the strip as it stands on edge.
        pub depth: String,
        pub thickness: String,
        pub side: RailSide,
        /// By how much it stands out of that side; below zero it is sunk. Empty for flush.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub proud: String,
        /// By how much slots are wider than what stands in them.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub play: String,
        /// Beyond the first and the last rib.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub overhang: String,
        /// How deep the rail itself is slotted; 0 leaves it whole. Empty for half of what laps.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub slot: String,
        /// Empty for that of the ribs.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub material: String,
    }
}

struct LapSpec {
    of: String,
    /// Its middle is not known before the ribs are.
    rail: Rail,
    at: Across,
}

impl Spoken for LapSaid {
    fn read(&self, reader: &mut Reader, usual: &Usual) -> Option<Spec> {
        let depth = reader.length("/say/depth", &self.depth, Range::AboveZero);
        let thickness = reader.length("/say/thickness", &self.thickness, Range::AboveZero);
        let (side, path, told, far) = match &self.side {
            RailSide::North { x, x_from } => (Compass::North, "/say/side/x", x, *x_from == XFrom::East),
            RailSide::South { x, x_from } => (Compass::South, "/say/side/x", x, *x_from == XFrom::East),
            RailSide::East { y, y_from } => (Compass::East, "/say/side/y", y, *y_from == YFrom::North),
            RailSide::West { y, y_from } => (Compass::West, "/say/side/y", y, *y_from == YFrom::North),
        };
        let at = reader.length_if(path, told, Range::Any);
        let proud = reader.length_or("/say/proud", &self.proud, Range::Any, 0.0);
        let play = reader.length_or("/say/play", &self.play, Range::ZeroUp, 0.0);
        let overhang = reader.length_or("/say/overhang", &self.overhang, Range::ZeroUp, 0.0);
        let slot = reader.length_if("/say/slot", &self.slot, Range::ZeroUp);
        let material = match self.material.trim() {
            "" => Some(None),
            told => usual.material(reader, "/say/material", told).map(Some),
        };
        let rail = Rail {
            depth: depth?,
            thickness: thickness?,
            side,
            middle: 0.0,
            proud: proud?,
            fit: play?,
            overhang: overhang?,
            slot: slot?,
            material: material?,
        };
        let at = at?.map_or(Across::Middle, |v| Across::From(v, far));
        Some(Spec::Plates(Box::new(LapSpec { of: self.of.trim().into(), rail, at })))
    }
}

impl Plates for LapSpec {
    fn set(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let k = skeleton.row(turn.tell, &self.of)?;
        let row = &mut skeleton.ribs[k];
        let [low, high] = [row.told.min, row.told.max].map(|p| p.dot(self.rail.across()));
        let rail = Rail { middle: self.at.between(low, high), ..self.rail.clone() };
        let d = turn.tell.display;
        let side = if rail.across() == DVec2::X { "/say/side/x" } else { "/say/side/y" };
        let (path, message, mend) = match rail.let_into(row, turn.line) {
            Ok(made) => {
                row.rails.push(made);
                return Some(());
            }
            Err(NoRail::Beside) => {
                (side, "it lies beside the profile".into(), "write a place within the profile".into())
            }
            Err(NoRail::Above) => {
                let least = d.length_unit(rail.depth);
                let message = format!("nothing of it laps the ribs: it stands out by {least} or more");
                ("/say/proud", message, format!("write less than {least}"))
            }
            Err(NoRail::Deep(lapped)) => {
                let lapped = d.length_unit(lapped);
                let message = format!("slotted so deep it leaves the ribs whole: {lapped} of it laps them");
                ("/say/slot", message, format!("write less than {lapped}"))
            }
            Err(NoRail::Slots) => {
                let gap = d.length_unit(row.gap());
                let message = format!("its slots leave nothing between them: the ribs are {gap} apart");
                ("/say/play", message, "write a smaller fit, or set the ribs wider apart".into())
            }
            Err(NoRail::Meets(other)) => {
                (side, format!("it runs into {other}"), "place it clear of the other".into())
            }
            Err(NoRail::Low(k)) => {
                let message = format!("rib {k} does not reach up to where the slots meet");
                (side, message, "place it where every rib reaches it, or make it deeper".into())
            }
            Err(NoRail::Parted(k)) => {
                let message = format!("its slot cuts rib {k} in two");
                ("/say/depth", message, "write less depth, or another place".into())
            }
            Err(NoRail::Hole(k)) => {
                let message = format!("it runs into a hole or a bar of rib {k}");
                (side, message, "place it clear of holes".into())
            }
        };
        turn.tell.refuse_at(path, message, mend);
        None
    }

    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        let row = skeleton.ribs.iter().find(|r| r.line == self.of)?;
        let made = row.rails.iter().find(|r| r.line == turn.line)?;
        Some(vec![made.cutting.clone()])
    }
}
