//! Papers of a kind; those of every variant of a job in one archive.

use std::sync::Arc;

use steelk_core::evaluate::{MOST_VARIANTS, in_variant, is_pattern};
use steelk_core::frame::FrameResult;
use steelk_core::job::Job;
use steelk_core::result::{JobResult, PieceResult};
use steelk_formats::{name, zipped};

use crate::files::{self, Of, PaperError, Paperwork};

/// A paper of a job, of all its variants, or of several of its pieces.
pub fn make(job: &Job, result: &JobResult, kind: &str, of: Of) -> Result<Paperwork, PaperError> {
    let stem = name::safe(if job.number.is_empty() { &job.title } else { &job.number });
    let (last, bytes) = match kind {
        "variants" => ("variants", of_variants(job, of)?),
        "dxf-zip" => ("dxf", of_chosen(job, result, &["dxf"], of)?),
        "papers-zip" => ("papers", of_chosen(job, result, &["template", "bend-sheet", "hole-sheet"], of)?),
        "plates-zip" => ("plates", of_plates(job, result, of)?),
        _ => return files::make(job, result, kind, of),
    };
    Ok(Paperwork { name: format!("{stem}_{last}.zip"), mime: "application/zip", bytes })
}

/// Plates of a frame; what is cut from tube goes to the saw.
fn plates(f: &FrameResult) -> impl Iterator<Item = Arc<PieceResult>> + '_ {
    f.plates.iter().filter(|p| p.tube.is_none()).map(|p| p.piece.clone())
}

fn is_frame(called: &str, f: &FrameResult) -> bool {
    f.id == called || f.mark == called
}

/// The papers of the pieces and plates named, their ids or marks parted by commas, those of a whole frame by
/// its own, or of all where none is; pads with their pieces.
fn of_chosen(job: &Job, result: &JobResult, kinds: &[&str], of: Of) -> Result<Vec<u8>, PaperError> {
    let asked: Vec<&str> = of.piece.split(',').map(str::trim).filter(|p| !p.is_empty()).collect();
    let is_of = |p: &str, q: &PieceResult| q.id == p || q.mark == p;
    let known = |a: &str| {
        let of_frame = |f: &Arc<FrameResult>| is_frame(a, f) || plates(f).any(|p| is_of(a, &p));
        result.pieces.iter().any(|p| is_of(a, p)) || result.frames.iter().any(of_frame)
    };
    if let Some(none) = asked.iter().find(|a| !known(a)) {
        return Err(PaperError::NoPiece((*none).to_string()));
    }
    let named = |p: &PieceResult| asked.iter().any(|a| is_of(a, p));
    let pieces = result.pieces.iter().filter(|p| named(p));
    let of_frames = result.frames.iter().flat_map(|f| {
        let whole = asked.iter().any(|a| is_frame(a, f));
        plates(f).filter(move |p| whole || named(p))
    });
    let chosen: Vec<Arc<PieceResult>> = if asked.is_empty() {
        all_sheets(result)
    } else {
        pieces.flat_map(|p| p.with_pads()).cloned().chain(of_frames).collect()
    };
    if chosen.is_empty() {
        return Err(PaperError::NoPieces);
    }
    zip_of(job, result, kinds, &chosen, of)
}

/// The DXF of every plate of a frame.
fn of_plates(job: &Job, result: &JobResult, of: Of) -> Result<Vec<u8>, PaperError> {
    let by = |r: &&Arc<FrameResult>| of.frame.is_empty() || is_frame(of.frame, r);
    let frame = result.frames.iter().find(by).ok_or_else(|| PaperError::NoFrame(of.frame.into()))?;
    let chosen: Vec<Arc<PieceResult>> = plates(frame).collect();
    if chosen.is_empty() {
        return Err(PaperError::NoPlates(frame.mark.clone()));
    }
    zip_of(job, result, &["dxf"], &chosen, of)
}

/// Papers of these kinds. A sheet that a piece has no need of is no lack; what could not be made is listed.
fn zip_of(
    job: &Job,
    result: &JobResult,
    kinds: &[&str],
    chosen: &[Arc<PieceResult>],
    of: Of,
) -> Result<Vec<u8>, PaperError> {
    let mut files: Vec<(String, Vec<u8>)> = Vec::new();
    let mut missing = String::new();
    for piece in chosen {
        for kind in kinds {
            steelk_core::halt::point();
            match files::make(job, result, kind, Of { piece: &piece.id, ..of }) {
                Ok(paper) => {
                    // Two pieces may have one mark.
                    let taken = files.iter().filter(|f| f.0 == paper.name).count();
                    let name = if taken > 0 { format!("{}_{}", piece.id, paper.name) } else { paper.name };
                    files.push((name, paper.bytes));
                }
                Err(PaperError::NoBends(_) | PaperError::NoHoles(_)) => {}
                Err(e) => missing += &format!("{} {kind}: {e}\r\n", piece.mark),
            }
        }
    }
    if !missing.is_empty() {
        files.push(("not-made.txt".into(), missing.into_bytes()));
    }
    zipped::zip(&files).map_err(|e| PaperError::Write(e.to_string()))
}

/// Every piece that is made, with its pads, and the plates of all frames.
fn all_sheets(result: &JobResult) -> Vec<Arc<PieceResult>> {
    let pieces = result.pieces.iter().filter(|p| !is_pattern(p)).flat_map(|p| p.with_pads()).cloned();
    pieces.chain(result.frames.iter().flat_map(|f| plates(f))).collect()
}

/// For each variant a folder: the DXF of every piece and plate, the cut list, the job itself; what could not
/// be made is listed, never left out in silence.
fn of_variants(job: &Job, of: Of) -> Result<Vec<u8>, PaperError> {
    if job.variants.is_empty() {
        return Err(PaperError::NoVariants);
    }
    let mut files: Vec<(String, Vec<u8>)> = Vec::new();
    let mut missing = String::new();
    let mut folders: Vec<String> = Vec::new();
    for (k, variant) in job.variants.iter().enumerate() {
        steelk_core::halt::point();
        let mut folder = name::safe(&variant.name);
        if folder.is_empty() || folders.contains(&folder) {
            folder = format!("{folder}-{}", k + 1);
        }
        folders.push(folder.clone());
        if k >= MOST_VARIANTS {
            missing += &format!("{folder}: {MOST_VARIANTS} variants are the most\r\n");
            continue;
        }
        let (made, result) = match in_variant(job, variant) {
            Ok(made) => made,
            Err(fault) => {
                missing += &format!("{folder}: {}; {}\r\n", fault.message, fault.mend);
                continue;
            }
        };
        for piece in all_sheets(&result) {
            match files::make(&made, &result, "dxf", Of { piece: &piece.id, ..of }) {
                Ok(paper) => files.push((format!("{folder}/{}", paper.name), paper.bytes)),
                Err(e) => missing += &format!("{folder}: {e}\r\n"),
            }
        }
        for kind in ["cutlist", "job"] {
            let paper = files::make(&made, &result, kind, of)?;
            files.push((format!("{folder}/{}", paper.name), paper.bytes));
        }
    }
    if !missing.is_empty() {
        files.push(("not-made.txt".into(), missing.into_bytes()));
    }
    zipped::zip(&files).map_err(|e| PaperError::Write(e.to_string()))
}
