//! What the drawings say, checked off against the pieces and frames of the job.

use std::collections::HashMap;
use std::sync::Arc;

use brief::{BriefResult, Model, Proposal, check, propose};
use frame::FrameResult;
use sheet::result::PieceResult;
use shop::SheetShop;

use super::JobResult;
use crate::job::{Brief, Job, is_same_mark};

/// What a brief is of.
pub enum BriefSubject<'a> {
    Piece(&'a Arc<PieceResult>),
    Frame(&'a Arc<FrameResult>),
}

/// The piece or frame with the mark that a brief names; a piece first.
pub fn brief_subject<'a>(
    brief: &Brief,
    pieces: &'a [Arc<PieceResult>],
    frames: &'a [Arc<FrameResult>],
) -> Option<BriefSubject<'a>> {
    let piece = pieces.iter().find(|p| is_same_mark(&p.mark, &brief.of)).map(BriefSubject::Piece);
    piece.or_else(|| frames.iter().find(|f| is_same_mark(&f.mark, &brief.of)).map(BriefSubject::Frame))
}

/// The same, as it can be measured; or why it cannot.
fn model(brief: &Brief, subject: Option<&BriefSubject>) -> Result<Model, String> {
    let of = brief.of.trim();
    if of.is_empty() {
        return Err("the brief names no piece or frame".into());
    }
    let found = match subject {
        Some(BriefSubject::Piece(p)) => Model::of_piece(p),
        Some(BriefSubject::Frame(f)) => Model::of_frame(f),
        None => return Err(format!("the job has no piece or frame with the mark '{of}'")),
    };
    found.ok_or_else(|| format!("{of} cannot be made as it stands"))
}

/// Every brief of the job, each from a function that is told what it is of and how it is checked; those of
/// the same piece or frame look at one model.
pub(super) fn checked(
    job: &Job,
    shop: &SheetShop,
    pieces: &[Arc<PieceResult>],
    frames: &[Arc<FrameResult>],
    each: impl Fn(&Brief, Option<&BriefSubject>, CheckOf) -> Arc<BriefResult>,
) -> Vec<Arc<BriefResult>> {
    let mut models: HashMap<String, Result<Model, String>> = HashMap::new();
    let one = |b: &Brief| {
        ground::halt::point();
        let subject = brief_subject(b, pieces, frames);
        let key = b.of.trim().to_ascii_lowercase();
        each(b, subject.as_ref(), &mut || {
            let model = models.entry(key.clone()).or_insert_with(|| model(b, subject.as_ref()));
            let missing = model.as_ref().err().map_or("", String::as_str);
            check(b, &shop.figures, job.display, model.as_ref().ok(), missing)
        })
    };
    job.briefs.iter().take(MOST_BRIEFS).map(one).collect()
}

/// Checks a brief.
pub type CheckOf<'a> = &'a mut dyn FnMut() -> BriefResult;

/// Briefs of one job.
pub(super) const MOST_BRIEFS: usize = 500;

/// What the figures of a brief that are not tied could be of; or why nothing can be tied.
pub fn proposals(job: &Job, result: &JobResult, id: &str) -> Result<Vec<Proposal>, String> {
    let brief =
        job.briefs.iter().find(|b| b.id == id).ok_or_else(|| format!("the job has no brief '{id}'"))?;
    let subject = brief_subject(brief, &result.pieces, &result.frames);
    let model = model(brief, subject.as_ref())?;
    Ok(propose(brief, &result.shop.sheet().figures, job.display, &model))
}
