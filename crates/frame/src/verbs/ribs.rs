//! `ribs`: the flat of a piece of the job, cut many times and stood in a row.

use std::sync::Arc;

use glam::DVec3;
use grammar::*;
use ground::geom::{COINCIDENT, Contour, Vertex};
use ground::reader::{Range, Reader};
use ground::{choice, reference, word};
use sheet::BoreKind;
use sheet::result::PieceResult;
use shop::Material;

use crate::build::plates::Cutting;
use crate::build::ribs::{NoBlend, RibRow, RibShape, blend};
use crate::build::skeleton::Skeleton;
use crate::build::spec::{Plates, Spec, Spoken, Turn, Usual};

pub static VERB: Verb = Verb {
    tag: "ribs",
    stem: "ribs",
    about: "A row of equal ribs: the flat of a piece of the job (0 off, where it is nothing by itself), cut \
        so many times and stood at an even pitch; or one flat turning into another on the way. The lower \
        corners of its box are nodes, for feet and what else stands by it.",
    role: Role::Other,
    starts: &[Start {
        key: 'u',
        name: "ribs",
        mm: "ribs $profile, 12 off, over 600",
        inch: "ribs $profile, 12 off, over 24",
    }],
    offers: &[],
    sentence: &[
        verb("Ribs|ribs"),
        aloud("of"),
        name("/profile", "mark of the profile", Kind::Word),
        Clause::new(&[
            word("turning into|to"),
            Slot::new("/last", "mark of the last profile", Kind::Word).empty("the same").part(),
        ])
        .close()
        .part(),
        must(&[count("/count", "ribs"), printed("off")]),
        must(&[union(
            "/spread",
            "by",
            "spread",
            &[
                case("over", "over", &[length("/length", "over all")], ["600", "24"]),
                case("pitch", "every", &[length("/pitch", "pitch")], ["50", "2"]),
                case("gap", "with a gap of|gap", &[length("/gap", "gap")], ["30", "1"]),
            ],
        )]),
        clause(&[pick(
            "/towards",
            "towards",
            &[
                ("north", "to the north|north"),
                ("east", "to the east|east"),
                ("up", "one above the other|up"),
            ],
        )]),
        clause(&[
            word("its ends|ends"),
            Slot::new("/end_profile", "mark of the first and last", Kind::Word).empty("the same").part(),
        ]),
        clause(&[quiet_union(
            "/among",
            "kind",
            "others among them",
            &[
                case("none", "no others among them", &[], ["", ""]),
                case(
                    "each",
                    "with",
                    &[
                        name("/profile", "mark of the others", Kind::Word),
                        word("as every|each"),
                        count("/nth", "which of them"),
                    ],
                    ["P-31 each 3", "P-31 each 3"],
                ),
            ],
        )]),
        clause(&[word("on"), Slot::new("/at", "node", Kind::Node).empty("the origin").part()]),
    ],
    examples: &[
        "ribs P-30, 24 off, over 1200",
        "ribs P-30 to P-31, 9 off, every 120, east, on A",
        "ribs P-30, 5 off, gap 40, up",
        "ribs P-30, 24 off, over 1200, ends P-31, with P-32 each 4",
    ],
};

choice! {
    /// How far apart ribs stand.
    pub enum RibSpread by "by" {
        /// Over all, from the first face to the last.
        Over { length: String },
        /// From one to the next.
        Pitch { pitch: String },
        /// From face to face.
        Gap { gap: String },
    }
}

impl Default for RibSpread {
    fn default() -> Self {
        RibSpread::Over { length: String::new() }
    }
}

word! {
    /// The way that a row of ribs runs.
    pub enum RibTowards {
        #[default]
        North,
        East,
        Up,
    }
}

choice! {
    /// Ribs of another profile among the rest.
    pub enum RibsAmong by "kind" {
        None {},
        /// Every so-and-so-many-th one.
        Each {
            /// Mark of the piece whose flat they are.
            profile: String,
            nth: String,
        },
    }
}

impl Default for RibsAmong {
    fn default() -> Self {
        RibsAmong::None {}
    }
}

impl RibsAmong {
    pub fn is_none(&self) -> bool {
        *self == RibsAmong::None {}
    }

    fn profile(&self) -> &str {
        match self {
            RibsAmong::None {} => "",
            RibsAmong::Each { profile, .. } => profile,
        }
    }
}

spoken! {
    /// A row of equal ribs.
    pub struct RibsSaid {
        /// Mark of the piece whose flat they are.
        pub profile: String,
        /// Mark of the piece whose flat the last one is; empty for equal ones.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub last: String,
        pub count: String,
        pub spread: RibSpread,
        pub towards: RibTowards,
        /// Mark of the piece whose flat the first and the last one are; empty for the same as the others.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub end_profile: String,
        #[serde(skip_serializing_if = "RibsAmong::is_none")]
        pub among: RibsAmong,
        /// Where the lower left corner of the first one stands; empty for the origin.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub at: String,
    }
}

impl RibsSaid {
    /// The pieces whose flats it takes.
    pub fn pieces(&self) -> impl Iterator<Item = &str> {
        [self.profile.as_str(), &self.last, &self.end_profile, self.among.profile()].into_iter()
    }
}

struct RibsSpec {
    call: String,
    material: Arc<Material>,
    thickness: f64,
    pitch: f64,
    ribs: Vec<RibShape>,
    axes: [DVec3; 3],
    at: String,
}

/// Ribs of one row.
const MOST_RIBS: usize = 1_000;

impl Spoken for RibsSaid {
    fn read(&self, reader: &mut Reader, usual: &Usual) -> Option<Spec> {
        let first = profile(reader, usual, "/say/profile", &self.profile);
        let last = told_profile(reader, usual, "/say/last", &self.last);
        let count = reader.count("/say/count", &self.count, 1, MOST_RIBS);
        let above = Range::AboveZero;
        let spread = match &self.spread {
            RibSpread::Over { length } => reader.length("/say/spread/length", length, above),
            RibSpread::Pitch { pitch } => reader.length("/say/spread/pitch", pitch, above),
            RibSpread::Gap { gap } => reader.length("/say/spread/gap", gap, Range::ZeroUp),
        };
        let (first, last, count, spread) = (first?, last?, count?, spread?);
        let t = first.thickness;
        let material = usual.material(reader, "/say/profile", &first.material_id)?;
        let pitch = match self.spread {
            RibSpread::Over { .. } if count == 1 => t,
            RibSpread::Over { .. } => (spread - t) / (count - 1) as f64,
            RibSpread::Pitch { .. } => spread,
            RibSpread::Gap { .. } => spread + t,
        };
        if pitch < t - COINCIDENT {
            let d = reader.display;
            let (path, mend) = match self.spread {
                RibSpread::Over { .. } => {
                    let least = d.length_unit(t * count as f64);
                    ("/say/spread/length", format!("write fewer, or {least} or more"))
                }
                _ => ("/say/spread/pitch", format!("write {} or more", d.length_unit(t))),
            };
            let message = format!("ribs {} thick every {} touch", d.thickness(t), d.length_unit(pitch));
            reader.refuse_at(path, message, mend);
            return None;
        }
        let ribs = match last {
            None => vec![shape(&first); count],
            Some(last) => {
                of_one_sheet(reader, "/say/last", &first, &last)?;
                let made = blend(&shape(&first), &shape(&last), count).map_err(|why| match why {
                    NoBlend::Sides(a, b) => {
                        format!("{} has {a} sides and {} has {b}", first.mark, last.mark)
                    }
                    NoBlend::Holes(a, b) => {
                        format!("{} has {a} holes and {} has {b}, or other ones", first.mark, last.mark)
                    }
                });
                let mend = "give both as many sides and holes, in the same order";
                made.map_err(|message| reader.refuse_at("/say/last", message, mend)).ok()?
            }
        };
        let ribs = self.groups(reader, usual, &first, ribs)?;
        let axes = match self.towards {
            RibTowards::North => [DVec3::X, DVec3::Z, DVec3::Y],
            RibTowards::East => [DVec3::Y, DVec3::Z, DVec3::X],
            RibTowards::Up => [DVec3::X, DVec3::Y, DVec3::Z],
        };
        let call = if first.name.trim().is_empty() { "rib".into() } else { first.name.clone() };
        let at = self.at.clone();
        Some(Spec::Plates(Box::new(RibsSpec { call, material, thickness: t, pitch, ribs, axes, at })))
    }
}

impl RibsSaid {
    /// The row with its ends and every so-and-so-many-th of another profile.
    fn groups(
        &self,
        reader: &mut Reader,
        usual: &Usual,
        first: &PieceResult,
        mut ribs: Vec<RibShape>,
    ) -> Option<Vec<RibShape>> {
        let ends = told_profile(reader, usual, "/say/end_profile", &self.end_profile);
        if let RibsAmong::Each { profile: mark, nth } = &self.among {
            let other = profile(reader, usual, "/say/among/profile", mark);
            let nth = reader.count("/say/among/nth", nth, 2, MOST_RIBS);
            let (other, nth) = (other?, nth?);
            of_one_sheet(reader, "/say/among/profile", first, &other)?;
            if nth > ribs.len() {
                let message = format!("the row has {} ribs: none of them is number {nth}", ribs.len());
                reader.refuse_at("/say/among/nth", message, "write a smaller number, or no others");
                return None;
            }
            ribs.iter_mut().skip(nth - 1).step_by(nth).for_each(|rib| *rib = shape(&other));
        }
        if let Some(ends) = ends? {
            of_one_sheet(reader, "/say/end_profile", first, &ends)?;
            let last = ribs.len() - 1;
            for k in [0, last] {
                ribs[k] = shape(&ends);
            }
        }
        Some(ribs)
    }
}

/// A profile that may be left out.
fn told_profile(
    reader: &mut Reader,
    usual: &Usual,
    path: &str,
    mark: &str,
) -> Option<Option<Arc<PieceResult>>> {
    match mark.trim() {
        "" => Some(None),
        mark => profile(reader, usual, path, mark).map(Some),
    }
}

/// Ribs of one row are cut from one sheet.
fn of_one_sheet(reader: &mut Reader, path: &str, first: &PieceResult, other: &PieceResult) -> Option<()> {
    if (other.thickness - first.thickness).abs() <= COINCIDENT && other.material_id == first.material_id {
        return Some(());
    }
    let message = format!("{} is not of the same sheet as {}", other.mark, first.mark);
    reader.refuse_at(path, message, "give both one material and thickness");
    None
}

/// The piece of the job with this mark, whose flat can be a rib.
fn profile(reader: &mut Reader, usual: &Usual, path: &str, mark: &str) -> Option<Arc<PieceResult>> {
    let mark = mark.trim();
    let Some(piece) = (usual.piece_of)(mark) else {
        let message = match mark {
            "" => "no profile is named".into(),
            mark => format!("no piece of this job is called '{mark}'"),
        };
        reader.refuse_at(path, message, "draw the profile as a piece, and write its mark");
        return None;
    };
    let (message, mend) = if !piece.made {
        ("cannot be made yet", "see what it says")
    } else if piece.zones.len() > 1 {
        ("is bent: a rib is flat", "name a flat piece")
    } else if piece.flat.bores.iter().any(|b| b.bore.kind != BoreKind::Clearance)
        || !piece.flat.pressed.is_empty()
    {
        (
            "has drilled or pressed shapes, which ribs do not take over",
            "tell them of the ribs themselves: bore …",
        )
    } else {
        return Some(piece);
    };
    reader.refuse_at(path, format!("{mark} {message}"), mend);
    None
}

fn shape(piece: &PieceResult) -> RibShape {
    let low = piece.flat.outer.bounds().min;
    let moved = |c: &Contour| Contour {
        vertices: c.vertices.iter().map(|v| Vertex { p: v.p - low, bulge: v.bulge, tag: 0 }).collect(),
    };
    let holes = piece.flat.holes.iter().map(|h| moved(&h.contour).outward()).collect();
    RibShape { outer: moved(&piece.flat.outer).outward(), holes }
}

impl Plates for RibsSpec {
    fn set(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let o = match self.at.trim() {
            "" => DVec3::ZERO,
            name => skeleton.nodes[skeleton.known(turn.tell, "/say/at", name)?].at,
        };
        let [x, y, d] = self.axes;
        let row = RibRow {
            line: turn.line.into(),
            call: self.call.clone(),
            material: self.material.clone(),
            thickness: self.thickness,
            pitch: self.pitch,
            ribs: self.ribs.clone(),
            o,
            x,
            y,
            d,
            through: Vec::new(),
            rails: Vec::new(),
            told: self.ribs[0].outer.bounds(),
        };
        // What stands under the row, feet or a frame, is told from its corners.
        for (name, at) in row.corners() {
            if skeleton.put(&reference::part(turn.line, name), at, turn.line, None).is_none() {
                turn.tell.refuse_at("/say", "the frame has too many nodes", "split the frame");
                return None;
            }
        }
        skeleton.ribs.push(row);
        Some(())
    }

    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        skeleton.ribs.iter().find(|r| r.line == turn.line).map(RibRow::cut)
    }
}
