//! What the drawings say, checked off against the pieces and frames of the job.

use std::sync::Arc;

use brief::{BriefResult, Model, Proposal, check, propose};
use frame::FrameResult;
use sheet::result::PieceResult;
use shop::SheetShop;

use super::JobResult;
use crate::job::{Brief, Job};

/// The piece or frame that a brief is of, as it can be measured; or why it cannot.
fn model(brief: &Brief, pieces: &[Arc<PieceResult>], frames: &[Arc<FrameResult>]) -> Result<Model, String> {
    let of = brief.of.trim();
    let is = |mark: &str| !of.is_empty() && mark.trim().eq_ignore_ascii_case(of);
    if of.is_empty() {
        return Err("the brief names no piece or frame".into());
    }
    let found = match (pieces.iter().find(|p| is(&p.mark)), frames.iter().find(|f| is(&f.mark))) {
        (Some(p), _) => Model::of_piece(p),
        (None, Some(f)) => Model::of_frame(f),
        (None, None) => return Err(format!("the job has no piece or frame with the mark '{of}'")),
    };
    found.ok_or_else(|| format!("{of} cannot be made as it stands"))
}

/// Every brief of the job.
pub(super) fn checked(
    job: &Job,
    shop: &SheetShop,
    pieces: &[Arc<PieceResult>],
    frames: &[Arc<FrameResult>],
) -> Vec<BriefResult> {
    let one = |b: &Brief| {
        ground::halt::point();
        let model = model(b, pieces, frames);
        let missing = model.as_ref().err().map_or("", String::as_str);
        check(b, &shop.figures, job.display, model.as_ref().ok(), missing)
    };
    job.briefs.iter().take(MOST_BRIEFS).map(one).collect()
}

/// Briefs of one job.
pub(super) const MOST_BRIEFS: usize = 500;

/// Things that are offered to be named.
const MOST_OFFERED: usize = 400;

/// What of its piece or frame a brief can name: names, and how they are read.
pub fn measurable(job: &Job, result: &JobResult, id: &str) -> Vec<(String, String)> {
    let found = job.briefs.iter().find(|b| b.id == id);
    let Some(Ok(model)) = found.map(|b| model(b, &result.pieces, &result.frames)) else { return Vec::new() };
    let sides = brief::SIDES.iter().map(|s| (s.0.to_string(), format!("{} side", s.0)));
    let things = model.things.iter().map(|t| (t.name.clone(), t.said.clone()));
    sides.chain(things).take(MOST_OFFERED).collect()
}

/// What the figures of a brief that are not tied could be of; or why nothing can be tied.
pub fn proposals(job: &Job, result: &JobResult, id: &str) -> Result<Vec<Proposal>, String> {
    let brief =
        job.briefs.iter().find(|b| b.id == id).ok_or_else(|| format!("the job has no brief '{id}'"))?;
    let model = model(brief, &result.pieces, &result.frames)?;
    Ok(propose(brief, &result.shop.sheet().figures, job.display, &model))
}
