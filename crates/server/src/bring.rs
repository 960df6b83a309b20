//! A drawing as a job, for the command line: every part of it is a piece.

use std::path::Path;

use steelk_core::job::{DrawingOptions, FORMAT, Job, Piece};
use steelk_core::quantity::{Display, LengthUnit, counted};
use steelk_core::sheet::lines_from;
use steelk_formats::drawing;

/// A job out of a drawing, and what there is to tell of it.
pub struct Brought {
    pub job: Job,
    pub told: Vec<String>,
}

/// Every part of the drawing is a piece.
pub fn bring(file: &Path, unit: Option<LengthUnit>, options: &DrawingOptions) -> Result<Brought, String> {
    let bytes = std::fs::read(file).map_err(|e| format!("{}: {e}", file.display()))?;
    let at = |said: String| format!("{}: {said}", file.display());
    let content = drawing(&bytes, options).map_err(|e| at(format!("{e} ({})", e.mend())))?;
    if let Some(g) = &content.guess {
        let (like, why) = (g.unit.sign(), &g.because);
        return Err(at(format!(
            "the file names no unit; {why} (say what its numbers are, perhaps --assume {like})"
        )));
    }
    if let Some(why) = content.nothing() {
        let closes = content.length(options.closes);
        return Err(at(format!(
            "{why} (close it in the drawing; gaps up to {closes} close by themselves, wider ones by --closes)"
        )));
    }
    let unit = unit.unwrap_or_else(|| content.working_unit(options.assume));
    let display = Display { length: unit, ..Display::default() };
    let stem = file.file_stem().map_or(String::new(), |s| s.to_string_lossy().into_owned());
    let thickness = if unit == LengthUnit::Mm { "3" } else { "1/8" };
    let mut told: Vec<String> = content.repairs.iter().map(|r| format!("mended: {}", r.said)).collect();
    told.extend(content.left_out.iter().map(|s| format!("left out: {s}")));
    let one = content.parts.len() == 1;
    let mut pieces = Vec::new();
    for (part, n) in content.parts.iter().zip(1..) {
        let (outer, cuts, folds) = content.part(part);
        let (lines, astray) = lines_from(outer, &cuts, &folds, &display);
        if astray > 0 {
            let said = counted(astray, "bend line");
            told.push(format!("left out: {said} of part {n} that no straight side is parallel to"));
        }
        if folds.len() > astray {
            let said = counted(folds.len() - astray, "bend line");
            told.push(format!("{said} of part {n}: the drawing tells no angle, the recipe says 90°"));
        }
        pieces.push(Piece {
            id: format!("piece-{n}"),
            mark: format!("P-{}", 100 + n),
            name: if one { stem.clone() } else { format!("{stem} {n}") },
            quantity: "1".into(),
            material: "s235".into(),
            thickness: thickness.into(),
            lines,
            ..Piece::default()
        });
    }
    let sign = unit.sign();
    told.push(format!("material and thickness are not in a drawing: the job says S235, {thickness} {sign}"));
    let job = Job { format: FORMAT, title: stem, display, pieces, ..Job::default() };
    Ok(Brought { job, told })
}
