//! Papers of a kind; those of every variant of a job in one archive.

use steelk_core::evaluate::{MOST_VARIANTS, in_variant};
use steelk_core::job::Job;
use steelk_core::result::JobResult;
use steelk_formats::{name, zipped};

use crate::files::{self, Of, PaperError, Paperwork};

/// A paper of a job, or of all its variants.
pub fn make(job: &Job, result: &JobResult, kind: &str, of: Of) -> Result<Paperwork, PaperError> {
    if kind != "variants" {
        return files::make(job, result, kind, of);
    }
    let stem = name::safe(if job.number.is_empty() { &job.title } else { &job.number });
    let (name, mime) = (format!("{stem}_variants.zip"), "application/zip");
    Ok(Paperwork { name, mime, bytes: of_variants(job, of)? })
}

/// For each variant a folder: the DXF of every piece, the cut list, the job itself; what could not be made is
/// listed, never left out in silence.
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
        for piece in result.pieces.iter().flat_map(|p| p.with_pads()) {
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
