//! `through`: a bar that runs through a row of ribs, with a hole for it in each, and tubes between them.

use std::sync::Arc;

use glam::{DVec2, DVec3};
use grammar::*;
use ground::geom::{Bounds, COINCIDENT, Contour};
use ground::reader::{Range, Reader};
use shop::Material;
use shop::section::Shape;

use super::cut_plate::{FROM_X, FROM_Y, XFrom, YFrom};
use crate::bar::Bar;
use crate::build::plate_holes::Across;
use crate::build::plates::Cutting;
use crate::build::ribs::{ThroughBar, holds};
use crate::build::skeleton::{MOST_MEMBERS, Skeleton, stand};
use crate::build::spec::{Plates, SectionSpec, Spec, Spoken, Turn, Usual};
use crate::model::{CentrelineSegment, Member, MemberOf};
use ground::reference;

pub static VERB: Verb = Verb {
    tag: "through",
    stem: "through",
    about: "A bar or tube that runs through all ribs of a row: its place in their profile, its overhang, the \
        clearance of its holes, and tubes between the ribs that keep them apart.",
    role: Role::Other,
    starts: &[Start {
        key: '1',
        name: "bar through ribs",
        mm: "through $ribs: CHS 26.9x2.3",
        inch: "through $ribs: CHS 1.05x0.113",
    }],
    offers: &[],
    sentence: &[
        verb("Through|through"),
        name("/of", "ribs", Kind::Line),
        sign(":"),
        Slot::new("/section", "section of the bar", Kind::Section).part(),
        FROM_X,
        FROM_Y,
        clause(&[word("overhang"), length_or("/overhang", "overhang", "none")]),
        clause(&[word("clearance"), length_or("/clearance", "clearance of its holes", "none")]),
        clause(&[
            word("pieces"),
            Slot::new("/pieces", "in how many pieces", Kind::Count).empty("one").part(),
        ]),
        clause(&[
            word("spacers"),
            Slot::new("/spacers", "section of the spacers", Kind::Section).empty("none").part(),
        ]),
    ],
    examples: &[
        "through ribs-1: CHS 26.9x2.3, 120 from west, 80 from south, overhang 40, clearance 1",
        "through ribs-1: round 20, 60 from west, overhang 40, clearance 1, pieces 2",
        "through ribs-1: CHS 21.3x2.6, 60 from east, 40 from north, spacers CHS 26.9x2.3",
    ],
};

spoken! {
    /// A bar that runs through a row of ribs.
    pub struct ThroughSaid {
        /// Line of the ribs.
        pub of: String,
        pub section: String,
        /// From the sides of the profile; empty for its middle.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub x: String,
        pub x_from: XFrom,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub y: String,
        pub y_from: YFrom,
        /// Beyond the first and the last rib.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub overhang: String,
        /// By how much its holes are wider.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub clearance: String,
        /// In how many pieces, butted within ribs; empty for one.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub pieces: String,
        /// Section of the tubes on it, one in each gap; empty for none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub spacers: String,
    }
}

/// Pieces of one bar.
const MOST_PIECES: usize = 100;

struct ThroughSpec {
    of: String,
    section: SectionSpec,
    material: Arc<Material>,
    at: [Across; 2],
    overhang: f64,
    clearance: f64,
    pieces: usize,
    /// Designation, outside and wall.
    spacers: Option<(String, [f64; 2])>,
}

impl Spoken for ThroughSaid {
    fn read(&self, reader: &mut Reader, usual: &Usual) -> Option<Spec> {
        let section = usual.section(reader, "/say/section", &self.section);
        let x = reader.length_if("/say/x", &self.x, Range::Any);
        let y = reader.length_if("/say/y", &self.y, Range::Any);
        let overhang = reader.length_or("/say/overhang", &self.overhang, Range::ZeroUp, 0.0);
        let clearance = reader.length_or("/say/clearance", &self.clearance, Range::ZeroUp, 0.0);
        let pieces = match self.pieces.trim() {
            "" => Some(1),
            told => reader.count("/say/pieces", told, 1, MOST_PIECES),
        };
        let material = usual.material(reader, "/say/section", "");
        let section = section?;
        let spacers = match self.spacers.trim() {
            "" => None,
            told => {
                let tube = usual.section(reader, "/say/spacers", told)?;
                let Shape::Tube { d, t } = tube.section.shape else {
                    let mend = "write a round tube, such as CHS 33.7x2.6";
                    reader.refuse_at("/say/spacers", "spacers are round tubes", mend);
                    return None;
                };
                let bar = section.section.shape.size();
                let wide = if section.section.shape.is_round() { bar.x } else { bar.length() };
                if d - 2.0 * t < wide {
                    let display = reader.display;
                    let [bore, wide] = [d - 2.0 * t, wide].map(|v| display.length_unit(v));
                    let message = format!("its bore of {bore} does not go over the bar, {wide} across");
                    reader.refuse_at("/say/spacers", message, "write a wider tube, or a smaller bar");
                    return None;
                }
                Some((tube.called.trim().to_string(), [d, t]))
            }
        };
        let across = |told: Option<f64>, far: bool| told.map_or(Across::Middle, |v| Across::From(v, far));
        Some(Spec::Plates(Box::new(ThroughSpec {
            of: self.of.trim().into(),
            section,
            material: material?,
            at: [across(x?, self.x_from == XFrom::East), across(y?, self.y_from == YFrom::North)],
            overhang: overhang?,
            clearance: clearance?,
            pieces: pieces?,
            spacers,
        })))
    }
}

impl ThroughSpec {
    /// Where it lies in the profile of the first rib.
    fn place(&self, b: &Bounds) -> DVec2 {
        DVec2::new(self.at[0].between(b.min.x, b.max.x), self.at[1].between(b.min.y, b.max.y))
    }
}

impl Plates for ThroughSpec {
    fn set(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()> {
        let k = skeleton.row(turn.tell, &self.of)?;
        if skeleton.members.len() + self.pieces > MOST_MEMBERS {
            let message = format!("the frame has more than {MOST_MEMBERS} members");
            turn.tell.refuse_at("/say/of", message, "split the frame");
            return None;
        }
        let profile = skeleton.profile(&self.section);
        let row = &skeleton.ribs[k];
        let at = self.place(&row.told);
        let bar = stand(row.point(at, -self.overhang), row.d, 0.0);
        let p = &skeleton.profiles[profile];
        let hole = if p.section.shape.is_round() {
            let across = p.section.shape.size().x + self.clearance;
            Contour::circle(at, across / 2.0, 0)
        } else {
            // Round what is no round, the rectangle that its section stands in.
            let flat = |q: &glam::DVec2| {
                let v = bar.y * q.x + bar.z * q.y;
                DVec2::new(v.dot(row.x), v.dot(row.y))
            };
            let b = Bounds::of(p.fine.iter().map(flat));
            let more = DVec2::splat(self.clearance / 2.0);
            Contour::rectangle(at + b.min - more, at + b.max + more, 0)
        };
        if let Some(k) = row.ribs.iter().position(|r| !holds(r, &row.through, &hole)) {
            let field = if matches!(self.at[0], Across::Middle) { "/say/y" } else { "/say/x" };
            let message = format!("its hole runs over the edge or another hole of rib {}", k + 1);
            turn.tell.refuse_at(field, message, "place it inside of the profile, clear of the others");
            return None;
        }
        if let Some(rail) = row.rails.iter().find(|r| r.place.near(&hole.bounds(), 0.0)) {
            let field = if matches!(self.at[0], Across::Middle) { "/say/y" } else { "/say/x" };
            let message = format!("its hole runs into {}", rail.line);
            turn.tell.refuse_at(field, message, "place it clear of the rail");
            return None;
        }
        let Some(joints) = row.joints(self.pieces, self.overhang) else {
            let message = format!("{} pieces need {} ribs to be butted in", self.pieces, self.pieces - 1);
            let mend = format!("write {} or fewer", row.ribs.len() + 1);
            turn.tell.refuse_at("/say/pieces", message, mend);
            return None;
        };
        let mut stations = vec![("start".to_string(), -self.overhang)];
        stations.extend(joints.iter().enumerate().map(|(k, s)| (format!("joint-{}", k + 1), *s)));
        stations.push(("end".to_string(), row.over() + self.overhang));
        let places: Vec<DVec3> = stations.iter().map(|s| row.point(at, s.1)).collect();
        skeleton.ribs[k].through.push(ThroughBar {
            line: turn.line.into(),
            section: self.section.section.designation.clone(),
            hole,
            lengths: stations.windows(2).map(|w| w[1].1 - w[0].1).collect(),
            spacers: self.spacers.as_ref().map(|s| s.0.clone()),
        });
        let node = |((name, _), at): (&(String, f64), &DVec3)| {
            skeleton.put(&reference::part(turn.line, name), *at, turn.line, None)
        };
        let Some(nodes) = stations.iter().zip(&places).map(node).collect::<Option<Vec<usize>>>() else {
            turn.tell.refuse_at("/say/of", "the frame has too many nodes", "split the frame");
            return None;
        };
        for (k, (ends, from)) in nodes.windows(2).zip(&places).enumerate() {
            let length = from.distance(places[k + 1]);
            let one = self.pieces == 1;
            let name = if one { turn.line.into() } else { reference::part(turn.line, k + 1) };
            let bar = Bar { o: *from, ..bar };
            let of = MemberOf { profile, material: self.material.clone() };
            let way = vec![CentrelineSegment::Straight { bar, length }];
            let member = Member { name, ..Member::new(turn.line, "bar", of, [ends[0], ends[1]], way) };
            skeleton.keep(member, None);
        }
        Some(())
    }

    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>> {
        let row = skeleton.ribs.iter().find(|r| r.line == self.of)?;
        row.through.iter().find(|t| t.line == turn.line)?;
        let Some((_, tube)) = &self.spacers else { return Some(Vec::new()) };
        if row.gap() < COINCIDENT {
            turn.tell.refuse_at("/say/spacers", "there is no gap between the ribs", "take them out");
            return None;
        }
        Some(row.spacers(self.place(&row.told), *tube))
    }
}
