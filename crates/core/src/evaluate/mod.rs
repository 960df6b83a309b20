//! A whole job: its pieces and frames evaluated, its cut list and its bars. Pure: no clock, files or
//! randomness, and no input makes it panic.

mod bars;
mod briefs;
mod clicked;
mod coverage;
mod cut_list;
mod names;
mod uses;
mod variants;

use std::sync::Arc;

pub use bars::bar_plans;
pub use briefs::{BriefSubject, CheckOf, brief_subject, proposals};
pub use clicked::{Clicked, OfferedLine, Offers, Target, offers};
pub use coverage::{Coverage, Unchecked, coverage};
pub use cut_list::{CutList, CutRow, SheetTotal, cut_list, is_pattern, list_of_frame};
pub use uses::{FigureUse, FigureUses, figure_uses};
pub use variants::{MOST_VARIANTS, VariantPart, VariantRow, in_variant, variants};

use brief::BriefResult;
use frame::{FrameResult, PieceOf};
use ground::finding::LineFault;
use ground::quantity::{Fault, FigureValue};
use sheet::brake::Search;
use sheet::result::PieceResult;
use sheet::{MOST_JOB_FEATURES, MOST_PIECES};
use shop::{FrameShop, SheetShop, Shop};

use crate::job::{Brief, Frame, Job, Piece, is_same_mark};
use names::unclear_names;

/// A whole job evaluated.
#[derive(Clone, Debug)]
pub struct JobResult {
    pub figures: Vec<FigureValue>,
    pub pieces: Vec<Arc<PieceResult>>,
    pub frames: Vec<Arc<FrameResult>>,
    /// What the drawings say, checked off.
    pub briefs: Vec<Arc<BriefResult>>,
    /// Faults of the job's own settings and names.
    pub faults: Vec<LineFault>,
    /// The job's settings, read.
    pub shop: Shop,
}

impl JobResult {
    /// Mass of all pieces and frames in their quantities, kg.
    pub fn mass(&self) -> f64 {
        let pieces: f64 =
            self.pieces.iter().filter(|p| p.made).map(|p| p.mass_with_pads() * p.quantity as f64).sum();
        pieces + self.frames.iter().map(|f| f.mass() * f.quantity as f64).sum::<f64>()
    }

    /// Pieces of the bench, each with the pads laid on it, then plates of frames.
    pub fn sheets(&self) -> impl Iterator<Item = &Arc<PieceResult>> {
        let pieces = self.pieces.iter().flat_map(|p| p.with_pads());
        pieces.chain(self.frames.iter().flat_map(|f| f.plates.iter().map(|p| &p.piece)))
    }
}

/// The whole job.
pub fn evaluate(job: &Job) -> JobResult {
    evaluate_with(
        job,
        |shop, piece| Arc::new(sheet::evaluate_piece(shop, piece)),
        |shop, frame, piece_of| Arc::new(frame::evaluate_frame(shop, frame, piece_of)),
        |_, _, check| Arc::new(check()),
    )
}

/// One piece with its job's settings.
pub fn evaluate_piece(job: &Job, piece: &Piece) -> PieceResult {
    sheet::evaluate_piece(Shop::of(&job.settings()).sheet(), piece)
}

/// One piece, with an order of bends that is searched for as long as told.
pub fn evaluate_searching(job: &Job, piece: &Piece, how: &mut Search) -> PieceResult {
    sheet::evaluate_searching(Shop::of(&job.settings()).sheet(), piece, how)
}

/// One frame with its job's settings and pieces.
pub fn evaluate_frame(job: &Job, frame: &Frame) -> FrameResult {
    let shop = Shop::of(&job.settings());
    let piece = |mark: &str| Some(Arc::new(sheet::evaluate_piece(shop.sheet(), called(job, mark)?)));
    frame::evaluate_frame(&shop.frame, frame, &piece)
}

/// The piece with a mark.
pub fn called<'a>(job: &'a Job, mark: &str) -> Option<&'a Piece> {
    job.pieces.iter().find(|p| is_same_mark(&p.mark, mark))
}

/// The whole job, each piece, frame and brief from a function (a cache by content, say).
pub fn evaluate_with(
    job: &Job,
    each: impl Fn(&SheetShop, &Piece) -> Arc<PieceResult>,
    each_frame: impl Fn(&FrameShop, &Frame, PieceOf) -> Arc<FrameResult>,
    each_brief: impl Fn(&Brief, Option<&BriefSubject>, CheckOf) -> Arc<BriefResult>,
) -> JobResult {
    let shop = Shop::of(&job.settings());
    let mut faults = shop.faults.clone();
    let mut pieces: Vec<Arc<PieceResult>> = Vec::new();
    let mut cuts = 0;
    for (i, piece) in job.pieces.iter().enumerate() {
        ground::halt::point();
        if i >= MOST_PIECES || cuts > MOST_JOB_FEATURES {
            let message = format!(
                "the job is larger than {MOST_PIECES} pieces or {MOST_JOB_FEATURES} cuts; the rest is left \
                 out"
            );
            faults.push(too_large(format!("/pieces/{i}"), message));
            break;
        }
        let made = each(shop.sheet(), piece);
        cuts += made.features.len();
        pieces.push(made);
    }
    faults.extend(unclear_names(job));
    if job.frames.len() > frame::MOST_FRAMES {
        let message = format!("the job has more than {} frames; the rest is left out", frame::MOST_FRAMES);
        faults.push(too_large("/frames".into(), message));
    }
    let piece_of = |mark: &str| Some(each(shop.sheet(), called(job, mark)?));
    let frames: Vec<Arc<FrameResult>> =
        job.frames.iter().take(frame::MOST_FRAMES).map(|f| each_frame(&shop.frame, f, &piece_of)).collect();
    if job.briefs.len() > briefs::MOST_BRIEFS {
        let message = format!("the job has more than {} briefs; the rest is left out", briefs::MOST_BRIEFS);
        faults.push(too_large("/briefs".into(), message));
    }
    let briefs = briefs::checked(job, shop.sheet(), &pieces, &frames, each_brief);
    for (i, printer) in job.printers.iter().enumerate() {
        if let Err((field, fault)) = printer.scale(&shop.sheet().figures, &job.display) {
            faults.push(LineFault { line: String::new(), path: format!("/printers/{i}/{field}"), fault });
        }
    }
    let figures = shop.sheet().figures.all(|v| job.display.value(v));
    JobResult { figures, pieces, frames, briefs, faults, shop }
}

fn too_large(path: String, message: String) -> LineFault {
    LineFault { line: String::new(), path, fault: Fault::new(message, "split the job", (0, 0)) }
}
