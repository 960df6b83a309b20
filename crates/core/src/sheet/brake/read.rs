//! The brake as the job tells it.

use crate::job::Job;
use crate::quantity::FigureTable;
use crate::sheet::reader::{Range, Reader};
use crate::sheet::result::LineFault;
use crate::shopbook::brake::{BrakeOf, Tools};

/// The job's press brake; usual figures where none is told.
pub fn read(job: &Job, table: &FigureTable) -> (BrakeOf, Vec<LineFault>) {
    let mut reader = Reader::new(table, job.display);
    let Some(told) = &job.brake else { return (BrakeOf::default(), Vec::new()) };
    let mut out = BrakeOf { assumed: false, ..BrakeOf::default() };
    match reader.number("/brake/force", &told.force) {
        Some(f) if f > 0.0 => out.force = f,
        Some(_) => reader.refuse(
            "/brake/force",
            &told.force,
            "a force is above zero",
            "write the greatest force in kN",
        ),
        None => {}
    }
    if let Some(l) = reader.length("/brake/length", &told.length, Range::AboveZero) {
        out.length = l;
    }
    if told.openings.len() > MOST_OPENINGS {
        reader.refuse(
            "/brake/openings",
            "",
            format!("{} openings are told; {MOST_OPENINGS} are read", told.openings.len()),
            "take some out",
        );
    }
    let openings = told.openings.iter().enumerate().take(MOST_OPENINGS);
    let openings: Vec<f64> = openings
        .filter_map(|(i, v)| reader.length(&format!("/brake/openings/{i}"), v, Range::AboveZero))
        .collect();
    if !openings.is_empty() {
        out.openings = openings;
        out.openings.sort_by(f64::total_cmp);
    }
    let said = &told.tools;
    let usual = Tools::default();
    let mut length = |field: &str, text: &str, range: Range| {
        if text.trim().is_empty() {
            None
        } else {
            reader.length(&format!("/brake/tools/{field}"), text, range)
        }
    };
    let above = Range::AboveZero;
    let mut tools = Tools {
        punch_height: length("punch_height", &said.punch_height, above).unwrap_or(usual.punch_height),
        punch_thickness: length("punch_thickness", &said.punch_thickness, above)
            .unwrap_or(usual.punch_thickness),
        beam_thickness: length("beam_thickness", &said.beam_thickness, above).unwrap_or(usual.beam_thickness),
        die_height: length("die_height", &said.die_height, above),
        die_shoulder: length("die_shoulder", &said.die_shoulder, above).unwrap_or(usual.die_shoulder),
        bed_thickness: length("bed_thickness", &said.bed_thickness, above).unwrap_or(usual.bed_thickness),
        stop_height: length("stop_height", &said.stop_height, above).unwrap_or(usual.stop_height),
        stop_reach: length("stop_reach", &said.stop_reach, above).unwrap_or(usual.stop_reach),
        unsupported: length("unsupported", &said.unsupported, Range::ZeroUp),
        ..usual
    };
    for (field, text, angle) in [
        ("punch_angle", &said.punch_angle, &mut tools.punch_angle),
        ("die_angle", &said.die_angle, &mut tools.die_angle),
    ] {
        if text.trim().is_empty() {
            continue;
        }
        let at = format!("/brake/tools/{field}");
        match reader.angle(&at, text) {
            Some(a) if (10f64.to_radians()..=170f64.to_radians()).contains(&a) => *angle = a,
            Some(_) => reader.refuse(
                &at,
                text,
                "a punch or V has an angle between 10° and 170°",
                "write the angle that its flanks enclose, such as 30 or 85",
            ),
            None => {}
        }
    }
    out.tools = tools;
    (out, reader.faults)
}

const MOST_OPENINGS: usize = 100;
