//! What evaluation gives back: geometry, figures with their workings, findings, and the lines that could not
//! be carried out. Lengths mm, areas mm², angles rad, masses kg; the `text` beside a value is what to show.

use crate::edge_bevel::BevelMark;
use ground::geom::ROUNDING;
use std::sync::{Arc, OnceLock};

use serde::Serialize;

use crate::brake::Plan;
use crate::formed::mesh::FlatMesh;
use crate::formed::zones::Zone;
use crate::{Bore, BoreKind, Pressed};
pub use ground::finding::*;
use ground::geom::{Contour, Hole, Rectangle, smallest_rectangle};
use ground::quantity::{Display, LengthUnit};
use shop::BendMethod;

/// A bend as the flat pattern marks it.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct BendMark {
    pub name: String,
    /// What people call it.
    pub label: String,
    pub line: String,
    /// Ends of the bend's middle line on the flat, where its metal begins and ends.
    pub from: [f64; 2],
    pub to: [f64; 2],
    /// The parts of that line that have metal: several where a cut crosses it.
    pub parts: Vec<[[f64; 2]; 2]>,
    /// Their sum.
    pub length: f64,
    /// Where a rolled arc begins and ends, as far as there is metal.
    pub tangents: Vec<[[f64; 2]; 2]>,
    pub angle: f64,
    pub angle_text: String,
    pub up: bool,
    pub radius: f64,
    pub radius_text: String,
    pub rolled: bool,
    /// A line without allowance.
    pub creased: bool,
    /// Which way, how far and how round.
    pub said: String,
    pub allowance: f64,
    pub deduction: f64,
    pub k: f64,
}

impl BendMark {
    /// What is drawn of it: a bend's middle line where there is metal; of a rolled arc where it begins and
    /// ends.
    pub fn lines(&self) -> impl Iterator<Item = [[f64; 2]; 2]> + '_ {
        if self.rolled && !self.tangents.is_empty() {
            self.tangents.iter().copied()
        } else {
            self.parts.iter().copied()
        }
    }

    /// Its longest part, where a text has the most room.
    pub fn longest(&self) -> [[f64; 2]; 2] {
        let length = |p: &[[f64; 2]; 2]| glam::DVec2::from(p[0]).distance(p[1].into());
        self.parts
            .iter()
            .copied()
            .max_by(|a, b| length(a).total_cmp(&length(b)))
            .unwrap_or([self.from, self.to])
    }
}

/// What one school says of a bend, printed; empty where it says nothing.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct SchoolRow {
    pub school: BendMethod,
    pub name: String,
    /// The one this bend is made by.
    pub used: bool,
    pub allowance: String,
    pub deduction: String,
    pub k: String,
    /// What it would do to the flat size.
    pub change: String,
    /// What it rests on, or why it says nothing.
    pub note: String,
}

/// A bend as it is made at the brake. Lengths printed in the piece's unit.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct BendRow {
    /// From 1.
    pub order: usize,
    pub name: String,
    pub label: String,
    pub line: String,
    pub up: bool,
    /// rad.
    pub angle: f64,
    pub angle_text: String,
    /// Bent so far that it is folded acute first and then pressed flat: the angle of the first stroke; empty
    /// for other bends.
    pub acute: String,
    /// The angle to aim at, and whose the springback is.
    pub aim: String,
    /// Of angle and length.
    pub tolerance: String,
    pub radius: String,
    /// Along the bend.
    pub length: String,
    /// V opening proposed.
    pub die: String,
    /// Inside radius that air bending over it gives.
    pub air_radius: String,
    pub force: String,
    pub force_per_metre: String,
    /// To press it flat; empty where it is not.
    pub closing_force: String,
    /// The strength that the forces are worked out with.
    pub strength: String,
    /// The name of what lies at the stop.
    pub at_stop: String,
    /// What hands do with the piece since the last bend.
    pub turned: String,
    /// From the middle of the bend to the stop.
    pub gauge: String,
    /// Why the stop does not serve; empty where it does.
    pub gauge_note: String,
    /// Outside length to measure after bending.
    pub check: String,
    pub shortest: String,
    /// The punch that is needed where it must be shorter than the bend, and what stays without it.
    pub punch: String,
    pub reason: String,
    pub strikes: Vec<String>,
    pub cautions: Vec<String>,
    pub schools: Vec<SchoolRow>,
    pub allowance: String,
    pub rule: String,
}

/// A side of the flat that dimensions stand on.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Margin {
    South,
    North,
    West,
    East,
}

/// A dimension on the flat: the points it measures between, the side it stands on and its place in the row
/// there (0 nearest).
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Dimension {
    pub from: [f64; 2],
    pub to: [f64; 2],
    pub side: Margin,
    pub level: u32,
    pub text: String,
    /// The line that keeps it; empty for one that every flat has.
    pub line: String,
}

/// A size that is kept and runs along no axis: told along itself.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct SlantingSize {
    pub line: String,
    pub from: [f64; 2],
    pub to: [f64; 2],
    pub text: String,
}

/// What a hole is, written beside it: `5× ⌀9`.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct HoleMark {
    pub name: String,
    /// The line that made it.
    pub line: String,
    pub at: [f64; 2],
    /// One of them: `⌀9`.
    pub what: String,
    pub text: String,
}

/// A closed loop as `[x, y, bulge]` triples.
pub type Loop = Vec<[f64; 3]>;

pub fn as_loop(c: &Contour) -> Loop {
    c.vertices.iter().map(|v| [v.p.x, v.p.y, v.bulge]).collect()
}

/// The flat pattern.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Flat {
    pub outer: Contour,
    pub holes: Vec<Hole>,
    pub dropped: Vec<Contour>,
    pub bends: Vec<BendMark>,
    pub dimensions: Vec<Dimension>,
    pub marks: Vec<HoleMark>,
    /// Pressed shapes: footprint and side.
    pub pressed: Vec<PressedMark>,
    /// Drilled holes: what of them a cut through the sheet does not say.
    pub bores: Vec<BoreMark>,
    /// Edges ground slanting; the face that the flat shows is cut back.
    pub bevels: Vec<BevelMark>,
    /// Lines and words that mark and do not cut.
    pub guides: Vec<Guide>,
    /// Kept sizes that slant.
    pub kept: Vec<SlantingSize>,
}

/// A line on the flat with its word, or a word alone where both ends are one.
#[derive(Clone, Debug, PartialEq)]
pub struct Guide {
    pub from: [f64; 2],
    pub to: [f64; 2],
    pub text: String,
}

/// A pressed shape on the flat.
#[derive(Clone, Debug, PartialEq)]
pub struct PressedMark {
    pub name: String,
    pub line: String,
    pub at: [f64; 2],
    pub footprint: Contour,
    pub pressed: Pressed,
    /// `bead 60 × 12, 6 up`.
    pub text: String,
    /// Direction in the flat that the shape lay along x by, rad.
    pub turn: f64,
}

/// A drilled hole on the flat.
#[derive(Clone, Debug, PartialEq)]
pub struct BoreMark {
    pub name: String,
    pub line: String,
    pub at: [f64; 2],
    /// What goes through the sheet, or the plan of a blind hole.
    pub plan: Contour,
    pub bore: Bore,
    /// `tapped hole M8 × 12, drill ⌀6.8 × 15.8, 118° point`.
    pub text: String,
}

impl BoreMark {
    /// Circles that are seen from its face beside what goes through the sheet.
    pub fn rings(&self) -> Vec<Contour> {
        let blind = (!self.bore.through()).then(|| self.plan.clone());
        let mouth = self.bore.mouth.map(|m| Contour::circle(self.at.into(), m.diameter / 2.0, 0));
        mouth.into_iter().chain(blind).collect()
    }

    /// Three quarters of a circle round a tapped hole, in steps: a thread as ISO 6410-1 draws it.
    pub fn thread(&self) -> Vec<[f64; 2]> {
        let BoreKind::Tapped { thread, .. } = self.bore.kind else { return Vec::new() };
        let at = |k: usize| {
            let turn = std::f64::consts::TAU * (k as f64 / 24.0 + 0.5 + 1.0 / 48.0);
            (glam::DVec2::from(self.at) + glam::DVec2::from_angle(turn) * (thread.major / 2.0)).to_array()
        };
        (0..=18).map(at).collect()
    }
}

/// A named cut: what it is called and which line made it.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct FeatureName {
    pub name: String,
    pub line: String,
    /// Left out of views.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub hidden_in_views: bool,
}

/// A value that was left open, and what it came to.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct FoundValue {
    pub line: String,
    /// JSON pointer within the line.
    pub path: String,
    /// As it is written, in the piece's unit.
    pub text: String,
}

/// Outlines that fit what a start tells, where it tells too little for one.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Family {
    pub outlines: Vec<Contour>,
    /// Names of their sides, by tag.
    pub sides: Vec<String>,
}

/// Everything about one piece.
#[derive(Clone, Debug)]
pub struct PieceResult {
    pub id: String,
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    pub material: String,
    pub material_id: String,
    pub thickness: f64,
    /// As it was told, without a unit: `2`, `1/16`, `16 ga (0.0598)`.
    pub thickness_text: String,
    pub radius: f64,
    pub display: Display,
    /// False when there is nothing to cut: the start line failed.
    pub made: bool,
    pub zones: Vec<Zone>,
    /// Of each zone that is a panel the outer faces round it, in the flat: least x and y, greatest x and y.
    pub outside: Vec<Option<[f64; 4]>>,
    /// Whether each zone can carry shapes as a panel does: panels of a folded piece, and what is rolled.
    pub carries: Vec<bool>,
    /// Pointer in the piece of the length that each panel's tip stands at, where one tells it.
    pub tips: Vec<Option<String>>,
    pub flat: Flat,
    /// Edge and feature names by tag.
    pub tags: Vec<String>,
    pub features: Vec<FeatureName>,
    pub corners: Vec<CornerName>,
    /// Made when a picture or a mesh file asks for it; figures never wait for it.
    pub(crate) mesh: OnceLock<FlatMesh>,
    pub(crate) blank: OnceLock<Rectangle>,
    /// Bends in the order they are made.
    pub bend_rows: Vec<BendRow>,
    /// What the brake does with it, for pictures.
    pub plan: Plan,
    /// What is laid on it, as pieces of their own.
    pub pads: Vec<Pads>,
    /// Its start tells an outline side by side, by letters.
    pub lettered: bool,
    /// Values that were left open and found.
    pub found: Vec<FoundValue>,
    /// Where too little is told for a blank: some of the outlines that fit.
    pub family: Family,
    pub figures: Vec<FigureResult>,
    pub findings: Vec<Finding>,
    pub faults: Vec<LineFault>,
}

/// Pads of one shape, thickness and material.
#[derive(Clone, Debug)]
pub struct Pads {
    /// What is cut, in the quantity that all pieces with them need.
    pub piece: Arc<PieceResult>,
    /// Where they lie, by name.
    pub names: Vec<String>,
}

/// A corner of the outline that a line can name.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct CornerName {
    pub name: String,
    pub at: [f64; 2],
}

impl PieceResult {
    /// The smallest rectangle that it is cut from, at any angle.
    pub fn blank(&self) -> &Rectangle {
        self.blank.get_or_init(|| smallest_rectangle(&self.flat.outer))
    }

    pub fn figure(&self, key: &str) -> Option<&FigureResult> {
        self.figures.iter().find(|f| f.key == key)
    }

    pub fn value(&self, key: &str) -> f64 {
        self.figure(key).map_or(f64::NAN, |f| f.value)
    }

    /// Its thickness as it was told, with the unit.
    pub fn thickness_said(&self) -> String {
        match (self.display.length, self.thickness_text.split_once(" (")) {
            (unit, Some((gauge, _))) => {
                format!("{gauge} ({} {})", self.display.fine(self.thickness), unit.sign())
            }
            (LengthUnit::Mm, None) => format!("{} mm", self.thickness_text),
            (LengthUnit::In, None) => format!("{}\"", self.thickness_text),
        }
    }

    /// Middle of the flat's mass.
    pub fn flat_centroid(&self) -> glam::DVec2 {
        let outer = &self.flat.outer;
        let (mut area, mut moment) = (outer.area(), outer.centroid() * outer.area());
        for h in &self.flat.holes {
            area -= h.contour.area();
            moment -= h.contour.centroid() * h.contour.area();
        }
        if area > ROUNDING { moment / area } else { outer.centroid() }
    }

    /// Mass of it and of what is laid on it, kg.
    pub fn mass_with_pads(&self) -> f64 {
        let one = |p: &Pads| p.piece.value("mass") * p.names.len() as f64;
        self.value("mass") + self.pads.iter().map(one).sum::<f64>()
    }

    /// It and what is laid on it, as they are cut.
    pub fn with_pads(self: &Arc<Self>) -> impl Iterator<Item = &Arc<PieceResult>> {
        std::iter::once(self).chain(self.pads.iter().map(|p| &p.piece))
    }

    pub fn stops(&self) -> usize {
        self.faults.len() + self.findings.iter().filter(|f| f.severity == Severity::Stop).count()
    }

    /// The holes with a recipe name each, for papers: name of the first cut that made it.
    pub fn hole_name(&self, hole: &Hole) -> &str {
        hole.sources.first().and_then(|&s| self.features.get(s as usize)).map_or("", |f| f.name.as_str())
    }
}
