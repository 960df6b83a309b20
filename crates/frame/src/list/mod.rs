//! The cut list of a frame: equal bodies in one row, ends as the saw is set, totals by section.

mod bars;
mod bender_table;
mod saw_cells;
mod totals;

use bars::bar_rows;
pub use bender_table::{BenderRow, BenderTable, CornerRow};
use serde::Serialize;
use totals::{assembly_rows, plate_row, section_totals};

use crate::FrameResult;
use crate::build::plates::Cutting;
use crate::document::Frame;
use crate::ends::{EndRelation, SideView};
use crate::weld_list::{WeldRow, weld_rows};
use ground::quantity::{Display, LengthUnit, Printed, summed};
use layout::bars::Part;
use sheet::{EdgeBevel, EdgeFold};
use shop::settings::SawFacts;

/// One end as the saw is set.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct CutCell {
    /// `square`, `45°`, `30° × 12°`, `cope C1`.
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub text: Printed,
    /// Off square before rounding to the saw's step, two decimals.
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub exact: Printed,
    /// Between cut and axis.
    pub from_axis: String,
    /// What rounding leaves open at the far side; empty where it leaves nothing.
    pub gap: String,
    /// Swings further than the saw does.
    pub beyond: bool,
    /// Number of its wrap-round template.
    pub template: String,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct BarRow {
    /// A member of the row: what names and own cells are kept by.
    pub key: String,
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    /// Mirror image of another row.
    pub opposite: bool,
    pub section: String,
    pub material: String,
    /// From tip to tip, what it is cut from; developed along the middle where it is bent.
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub length: Printed,
    /// The longest line along it, where that is shorter: ends that slant the same way, or that have two cuts.
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub edge: Printed,
    /// For the bender: `200.0 · R150.0 90° · 350.0`; empty for a straight bar.
    pub bends: String,
    /// What its ends are worked to besides the saw.
    pub worked: Vec<String>,
    /// The same bend by bend, and by corners.
    pub bender: Option<BenderTable>,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub centre: Printed,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub short: Printed,
    /// What rounding the length to the saw's step leaves; empty for nothing worth telling.
    pub length_gap: String,
    pub cuts: [CutCell; 2],
    pub lie: EndRelation,
    /// How they lie in words: `same way`, `opposite`, `turned 90°`; empty for plain ones.
    pub ends: String,
    pub look: SideView,
    /// Whether its wall can be laid flat: a straight tube.
    pub skin: bool,
    /// Round and slotted ones; notches not counted.
    pub holes: usize,
    /// `3 holes, 1 notch`; empty for none.
    pub work: String,
    /// How they are drilled and notched: `top, both walls: 4 × Ø9 at 50.0 · 150.0 …` from the start's long
    /// point.
    pub drilled: Vec<String>,
    /// Where holes lie as parts of the way between the outermost points, for pictures.
    #[serde(skip)]
    pub stations: Vec<f64>,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub unit_mass: Printed,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub total_mass: Printed,
    /// Outside to be painted, each.
    pub surface: String,
    pub cells: Vec<String>,
    pub members: Vec<String>,
    /// The section as it is seen from the start, looking along the bar: x to the left, y up; and which ways
    /// its holes look out.
    #[serde(skip)]
    pub seen: Vec<ground::geom::Contour>,
    #[serde(skip)]
    pub drilled_to: Vec<glam::DVec2>,
    /// Where its ends stand back behind their tips, where a slant does not say it: height from 0 to 1, mm
    /// back.
    #[serde(skip)]
    pub ends_seen: Option<[Vec<glam::DVec2>; 2]>,
    /// The middle line of a bent bar, and whether it is bent out of its first plane.
    #[serde(skip)]
    pub way: (Vec<glam::DVec2>, bool),
    /// As it lies on a bar.
    #[serde(skip)]
    pub part: Part,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct PlateRow {
    pub key: String,
    /// Id by which its papers are asked for.
    pub piece: String,
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    pub material: String,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub thickness: Printed,
    /// What it is cut from: `plate 8`, `tube 63.5 × 7.3`.
    pub stock: String,
    pub size: String,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub unit_mass: Printed,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub total_mass: Printed,
    pub cells: Vec<String>,
    pub members: Vec<String>,
    pub stops: usize,
    /// It has holes: a hole sheet can be made of it.
    pub holes: bool,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct SectionTotal {
    pub section: String,
    pub pieces: usize,
    /// Sum of lengths from tip to tip, m or ft.
    pub length: String,
    pub mass: String,
    /// Worked out and published mass a metre (or foot), and where from.
    pub worked: String,
    pub published: String,
    pub source: String,
}

/// What is welded together first.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct AssemblyRow {
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    /// `2 × F-1/1`.
    pub parts: Vec<String>,
    pub unit_mass: String,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct FrameList {
    pub frame: String,
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    pub columns: Vec<String>,
    pub bars: Vec<BarRow>,
    pub plates: Vec<PlateRow>,
    pub assemblies: Vec<AssemblyRow>,
    pub sections: Vec<SectionTotal>,
    pub welds: Vec<WeldRow>,
    /// The step that lengths are told in; empty for none.
    pub steps: String,
    pub weld_length: String,
    pub weld_metal: String,
    pub mass: String,
    pub stops: usize,
}

fn said<'a>(frame: &'a Frame, keys: &[&str]) -> Option<&'a crate::document::RowSaid> {
    frame.rows.iter().find(|r| keys.contains(&r.piece.as_str()))
}

pub fn mark_of(frame: &Frame, key: &str) -> Option<String> {
    said(frame, &[key]).map(|r| r.mark.clone()).filter(|m| !m.trim().is_empty())
}

pub fn name_of(frame: &Frame, key: &str) -> Option<String> {
    said(frame, &[key]).map(|r| r.name.clone()).filter(|m| !m.trim().is_empty())
}

/// Plates with the same key are one body.
pub fn plate_key(c: &Cutting) -> String {
    let r = |v: f64| (v * 100.0).round() as i64;
    let loops = std::iter::once(&c.outer).chain(&c.holes);
    let told: Vec<String> = loops
        .map(|l| {
            // Wherever it was begun.
            let mut told: Vec<[i64; 3]> =
                l.vertices.iter().map(|v| [r(v.p.x), r(v.p.y), r(v.bulge * 100.0)]).collect();
            let first = (0..told.len()).min_by_key(|i| told[*i]).unwrap_or(0);
            told.rotate_left(first);
            told.iter().map(|[x, y, bulge]| format!("{x},{y},{bulge}")).collect::<Vec<_>>().join(" ")
        })
        .collect();
    let bored = c.bores.iter().map(|b| {
        let (at, bore) = (b.at, &b.hole.bore);
        format!("{},{} {bore:?}", r(at.x), r(at.y))
    });
    let mut bored: Vec<String> = bored.collect();
    bored.sort();
    let bevelled = c.bevels.iter().map(EdgeBevel::key);
    let mut folded: Vec<String> = c.folds.iter().map(EdgeFold::key).chain(bevelled).collect();
    folded.sort();
    let [bored, folded] = [bored, folded].map(|told| told.join(" / "));
    let material = c.material.as_ref().map_or("", |m| &*m.id);
    format!("{} {material} {} {bored} {folded}", r(c.thickness), told.join(" / "))
}

/// Metres or feet, two decimals.
pub fn run(display: &Display, mm: f64) -> String {
    // The sum of nothing is -0.
    let mm = mm + 0.0;
    match display.length {
        LengthUnit::Mm => format!("{:.2} m", mm / 1000.0),
        LengthUnit::In => format!("{:.2} ft", mm / 304.8),
    }
}

/// A mass a metre, or a foot.
fn per_run(display: &Display, kg_m: f64) -> String {
    match display.length {
        LengthUnit::Mm => format!("{kg_m:.2} kg/m"),
        LengthUnit::In => format!("{:.2} lb/ft", kg_m / 0.453_592_37 * 0.3048),
    }
}

impl FrameList {
    /// The row of a bar, by its mark or the name of a member.
    pub fn bar(&self, called: &str) -> Option<&BarRow> {
        let by_mark = self.bars.iter().find(|b| b.mark == called);
        by_mark.or_else(|| self.bars.iter().find(|b| b.members.iter().any(|m| m == called)))
    }

    /// What a member or plate is called in files: its mark in the list, then its own name.
    pub fn called(&self, name: &str, is_plate: bool) -> String {
        let has = |members: &[String]| members.iter().any(|m| m == name);
        let mark = match is_plate {
            true => self.plates.iter().find(|p| has(&p.members)).map(|p| &p.mark),
            false => self.bars.iter().find(|b| has(&b.members)).map(|b| &b.mark),
        };
        mark.map_or_else(|| name.to_string(), |m| format!("{m} {name}"))
    }

    /// Masses of its rows as they are printed.
    pub fn masses(&self) -> impl Iterator<Item = &Printed> {
        self.bars.iter().map(|b| &b.total_mass).chain(self.plates.iter().map(|p| &p.total_mass))
    }
}

/// The list of one frame, in the job's unit; quantities of the frame counted.
pub fn frame_list(frame: &Frame, r: &FrameResult, display: &Display, saw: &SawFacts) -> FrameList {
    let bars = bar_rows(frame, r, display, saw);
    let plates = r.plates.iter().map(|p| plate_row(frame, p, r.quantity, display)).collect::<Vec<_>>();
    let assemblies = assembly_rows(r, &bars, &plates, display);
    let weld: f64 = r.welds.iter().map(|w| w.length * w.count as f64).sum();
    let mut list = FrameList {
        frame: r.id.clone(),
        mark: r.mark.clone(),
        name: r.name.clone(),
        quantity: r.quantity,
        columns: frame.columns.clone(),
        sections: section_totals(r, display),
        welds: weld_rows(r, display),
        steps: saw.steps_said(display),
        weld_length: run(display, weld * r.quantity as f64),
        weld_metal: display.mass(r.weld_mass() * r.quantity as f64),
        mass: String::new(),
        stops: r.stops(),
        bars,
        plates,
        assemblies,
    };
    // Welds are told apart from it.
    list.mass = format!("{} {}", summed(list.masses()), display.mass_unit());
    list
}
