//! The cut list: one row a piece, with the job's totals.

use std::sync::Arc;

use serde::Serialize;

use super::JobResult;
use crate::job::{Job, Line, Operation, Piece, Rolling};
use frame::{FrameList, frame_list};
use ground::quantity::{Display, Printed, summed};
use sheet::result::PieceResult;

/// The list of one frame in its own unit, as its drawing has it; the job's list is in the job's.
pub fn list_of_frame(job: &Job, result: &JobResult, id: &str) -> Option<FrameList> {
    let mut both = job.frames.iter().zip(&result.frames);
    let (f, r) = both.find(|(f, _)| f.id == id)?;
    Some(frame_list(f, r, &r.display, &result.shop.frame.saw))
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct CutRow {
    pub piece: String,
    /// Id of the piece that it is laid on as a pad; empty for a piece of the bench.
    pub of: String,
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    pub material: String,
    /// Lengths as printed in the job's unit.
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub thickness: Printed,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub flat_length: Printed,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub flat_width: Printed,
    /// The smallest rectangle that it is cut from, at any angle.
    pub blank: String,
    /// One face, holes taken out, m² or in².
    pub area: String,
    /// The usual inside radius of its bends; empty where nothing is bent.
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub radius: Printed,
    /// The way the sheet was rolled, where that is told.
    pub rolling: String,
    /// `left` or `right` of a pair; empty for neither.
    pub hand: String,
    /// As told; empty for none.
    pub finish: String,
    /// What it goes into; empty where nothing is told.
    pub assembly: String,
    pub bends: usize,
    /// Arcs to be rolled.
    pub rolls: usize,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub unit_mass: Printed,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub total_mass: Printed,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub cut_length: Printed,
    /// Lines that could not be carried out and findings of severity stop: not to be cut yet.
    pub stops: usize,
    /// Its outline was traced, brought in or told side by side: common practice is to fit paper first.
    pub fit_first: bool,
    /// It has holes: a hole sheet can be made of it.
    pub holes: bool,
    /// It has lines that make hundreds of cuts: its meshes come without them too.
    pub patterns: bool,
    /// What its meshes and its formed picture do not show; empty for nothing.
    pub unseen: String,
}

/// Sheet and plate of one material and thickness.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct SheetTotal {
    pub material: String,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub thickness: Printed,
    pub pieces: usize,
    /// Of the pieces, and of the rectangles that they are cut from.
    pub area: String,
    pub blanks: String,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub mass: Printed,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct CutList {
    /// Of the job.
    pub number: String,
    pub title: String,
    /// `revision 12` and its day, where the list is of a filed job.
    pub revision: String,
    pub date: String,
    pub length_unit: String,
    pub mass_unit: String,
    pub rows: Vec<CutRow>,
    pub sheets: Vec<SheetTotal>,
    pub frames: Vec<FrameList>,
    /// All of them: sheet pieces, members and plates.
    pub pieces: usize,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub total_mass: Printed,
}

/// Told to be made not once: its shape is for what takes it over.
pub fn is_pattern(p: &PieceResult) -> bool {
    p.quantity == 0 && p.faults.iter().all(|f| f.path != "/quantity")
}

/// Every piece that can be made, in the job's order and unit.
pub fn cut_list(job: &Job, result: &JobResult) -> CutList {
    let display = &job.display;
    let mass = |kg: f64| display.mass_number(kg);
    let made: Vec<(&str, &Arc<PieceResult>)> = { result.pieces.iter() }
        .filter(|p| p.made)
        .flat_map(|host| host.with_pads().map(|p| (if p.id == host.id { "" } else { &*host.id }, p)))
        .filter(|(_, p)| p.made && !is_pattern(p))
        .collect();
    let rows: Vec<CutRow> = made
        .iter()
        .map(|&(of, p)| {
            let unit = p.value("mass");
            let said = job.pieces.iter().find(|q| q.id == p.id);
            CutRow {
                piece: p.id.clone(),
                of: of.into(),
                mark: p.mark.clone(),
                name: p.name.clone(),
                quantity: p.quantity,
                material: p.material.clone(),
                thickness: if p.display == *display {
                    told_thickness(p, display)
                } else {
                    display.thickness_number(p.thickness)
                },
                blank: {
                    let size = p.blank().size;
                    format!("{} × {}", display.length(size.max_element()), display.length(size.min_element()))
                },
                area: display.area(p.value("area")),
                radius: if p.flat.bends.iter().any(|b| !b.rolled && !b.creased) {
                    display.brief_number(p.radius)
                } else {
                    Printed::default()
                },
                rolling: match said.map(|q| q.rolling) {
                    Some(Rolling::East) => "east-west".into(),
                    Some(Rolling::North) => "north-south".into(),
                    _ => String::new(),
                },
                hand: said.map_or(String::new(), |q| q.hand.said().into()),
                finish: said.map_or(String::new(), |q| q.finish.trim().into()),
                assembly: said.map_or(String::new(), |q| q.assembly.trim().into()),
                flat_length: display.length_number(p.flat.outer.bounds().size().x),
                flat_width: display.length_number(p.flat.outer.bounds().size().y),
                bends: p.flat.bends.iter().filter(|b| !b.rolled).count(),
                rolls: p.flat.bends.iter().filter(|b| b.rolled).count(),
                unit_mass: mass(unit),
                total_mass: mass(unit * p.quantity as f64),
                cut_length: display.length_number(p.value("cut_length")),
                stops: p.stops(),
                fit_first: said.is_some_and(has_new_outline),
                holes: !p.flat.holes.is_empty() || !p.flat.bores.is_empty(),
                patterns: sheet::has_patterns(p),
                unseen: sheet::unseen(p),
            }
        })
        .collect();
    let frames: Vec<FrameList> = job
        .frames
        .iter()
        .zip(&result.frames)
        .map(|(f, r)| frame_list(f, r, display, &result.shop.frame.saw))
        .collect();
    let of_frames: usize = frames
        .iter()
        .map(|f| {
            f.bars.iter().map(|b| b.quantity).sum::<usize>()
                + f.plates.iter().map(|p| p.quantity).sum::<usize>()
        })
        .sum();
    CutList {
        number: job.number.clone(),
        title: job.title.clone(),
        revision: String::new(),
        date: String::new(),
        length_unit: display.length.sign().into(),
        mass_unit: display.mass_unit().into(),
        pieces: rows.iter().map(|r| r.quantity).sum::<usize>() + of_frames,
        total_mass: summed(
            rows.iter().map(|r| &r.total_mass).chain(frames.iter().flat_map(FrameList::masses)),
        ),
        sheets: sheet_totals(display, &rows, made.iter().map(|m| &**m.1)),
        rows,
        frames,
    }
}

fn has_new_outline(piece: &Piece) -> bool {
    let told = |l: &Line| !l.off && matches!(l.say, Operation::StartContour(_) | Operation::StartOutline(_));
    piece.tracing.is_some() || piece.origin.is_some() || piece.lines.iter().any(told)
}

/// What is to be bought of each material and thickness, in the order of the list. Masses are the sums of the
/// rows as they are printed.
fn sheet_totals<'a>(
    display: &Display,
    rows: &[CutRow],
    made: impl Iterator<Item = &'a PieceResult>,
) -> Vec<SheetTotal> {
    let mut out: Vec<(SheetTotal, f64, f64, Vec<&Printed>)> = Vec::new();
    for (row, p) in rows.iter().zip(made) {
        let n = row.quantity as f64;
        let at = out
            .iter()
            .position(|t| t.0.material == row.material && t.0.thickness == row.thickness)
            .unwrap_or_else(|| {
                let (material, thickness) = (row.material.clone(), row.thickness.clone());
                let none = SheetTotal {
                    material,
                    thickness,
                    pieces: 0,
                    area: String::new(),
                    blanks: String::new(),
                    mass: Printed::default(),
                };
                out.push((none, 0.0, 0.0, Vec::new()));
                out.len() - 1
            });
        let t = &mut out[at];
        t.0.pieces += row.quantity;
        t.1 += p.value("area") * n;
        t.2 += p.value("blank") * n;
        t.3.push(&row.total_mass);
    }
    let told = |(t, area, blanks, masses): (SheetTotal, f64, f64, Vec<&Printed>)| SheetTotal {
        area: display.area(area),
        blanks: display.area(blanks),
        mass: summed(masses.into_iter()),
        ..t
    };
    out.into_iter().map(told).collect()
}

/// As it was told: a gauge with what it measures, or the number.
fn told_thickness(p: &sheet::result::PieceResult, display: &Display) -> Printed {
    let number = display.thickness_number(p.thickness);
    if number == *p.thickness_text { number } else { Printed::words(&p.thickness_text) }
}
