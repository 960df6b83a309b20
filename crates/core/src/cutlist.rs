//! The cut list: one row a piece, with the job's totals.

use serde::Serialize;

use crate::frame::{FrameList, SawFacts, frame_list};
use crate::job::Job;
use crate::quantity::FigureTable;
use crate::result::JobResult;

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct CutRow {
    pub piece: String,
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    pub material: String,
    /// Lengths as printed in the job's unit.
    pub thickness: String,
    pub flat_length: String,
    pub flat_width: String,
    pub bends: usize,
    /// Arcs to be rolled.
    pub rolls: usize,
    pub unit_mass: String,
    pub total_mass: String,
    pub cut_length: String,
    /// Lines that could not be carried out and findings of severity stop: not to be cut yet.
    pub stops: usize,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct CutList {
    pub length_unit: String,
    pub mass_unit: String,
    pub rows: Vec<CutRow>,
    pub frames: Vec<FrameList>,
    /// All of them: sheet pieces, members and plates.
    pub pieces: usize,
    pub total_mass: String,
}

/// Every piece that can be made, in the job's order and unit.
pub fn cut_list(job: &Job, result: &JobResult) -> CutList {
    let display = &job.display;
    let mass_unit = if display.length.mm() == 1.0 { "kg" } else { "lb" };
    let mass = |kg: f64| display.mass(kg).trim_end_matches(mass_unit).trim().to_string();
    let made = result.pieces.iter().filter(|p| p.made);
    let rows: Vec<CutRow> = made
        .map(|p| {
            let unit = p.value("mass");
            CutRow {
                piece: p.id.clone(),
                mark: p.mark.clone(),
                name: p.name.clone(),
                quantity: p.quantity,
                material: p.material.clone(),
                thickness: if p.display == *display { p.thickness_text.clone() } else { display.thickness(p.thickness) },
                flat_length: display.length(p.value("flat_length")),
                flat_width: display.length(p.value("flat_width")),
                bends: p.flat.bends.iter().filter(|b| !b.rolled).count(),
                rolls: p.flat.bends.iter().filter(|b| b.rolled).count(),
                unit_mass: mass(unit),
                total_mass: mass(unit * p.quantity as f64),
                cut_length: display.length(p.value("cut_length")),
                stops: p.stops(),
            }
        })
        .collect();
    let (saw, _) = SawFacts::of(job, &FigureTable::new(&job.figures, display.length));
    let frames: Vec<FrameList> = job.frames.iter().zip(&result.frames).map(|(f, r)| frame_list(f, r, display, &saw)).collect();
    let of_frames: usize = frames.iter().map(|f| f.bars.iter().map(|b| b.quantity).sum::<usize>() + f.plates.iter().map(|p| p.quantity).sum::<usize>()).sum();
    CutList {
        length_unit: display.length.sign().into(),
        mass_unit: mass_unit.into(),
        pieces: rows.iter().map(|r| r.quantity).sum::<usize>() + of_frames,
        total_mass: mass(result.mass()),
        rows,
        frames,
    }
}
