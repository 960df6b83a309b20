//! A whole job: its pieces and frames evaluated, its cut list and its bars. Pure: no clock, files or
//! randomness, and no input makes it panic.

mod bars;
mod cut_list;
mod names;

use std::sync::Arc;

pub use bars::{BarPlan, CutBar, CutPiece, bar_plans};
pub use cut_list::{CutList, CutRow, SheetTotal, cut_list};

use crate::finding::LineFault;
use crate::frame::{self, FrameResult, SawFacts};
use crate::job::{Frame, Job, Piece};
use crate::quantity::{Fault, FigureTable, FigureValue};
use crate::sheet::result::PieceResult;
use crate::sheet::{self, MOST_JOB_FEATURES, MOST_PIECES, evaluate_piece};
use names::unclear_names;

/// A whole job evaluated.
#[derive(Clone, Debug)]
pub struct JobResult {
    pub figures: Vec<FigureValue>,
    pub pieces: Vec<Arc<PieceResult>>,
    pub frames: Vec<Arc<FrameResult>>,
    /// Faults of the job's own settings (stock sizes).
    pub faults: Vec<LineFault>,
}

impl JobResult {
    /// Mass of all pieces and frames in their quantities, kg.
    pub fn mass(&self) -> f64 {
        let pieces: f64 =
            self.pieces.iter().filter(|p| p.made).map(|p| p.value("mass") * p.quantity as f64).sum();
        pieces + self.frames.iter().map(|f| f.mass() * f.quantity as f64).sum::<f64>()
    }

    /// Pieces of the bench, then plates of frames.
    pub fn sheets(&self) -> impl Iterator<Item = &Arc<PieceResult>> {
        self.pieces.iter().chain(self.frames.iter().flat_map(|f| f.plates.iter().map(|p| &p.piece)))
    }
}

/// The whole job.
pub fn evaluate(job: &Job) -> JobResult {
    evaluate_with(
        job,
        |job, piece| Arc::new(evaluate_piece(job, piece)),
        |job, frame| Arc::new(frame::evaluate_frame(job, frame)),
    )
}

/// The whole job, each piece and frame from a function (a cache by content, say).
pub fn evaluate_with(
    job: &Job,
    each: impl Fn(&Job, &Piece) -> Arc<PieceResult>,
    each_frame: impl Fn(&Job, &Frame) -> Arc<FrameResult>,
) -> JobResult {
    let table = FigureTable::new(&job.figures, job.display.length);
    let (_, mut faults) = sheet::stock_sheets(job, &table);
    let (shelf, of_shelf) = sheet::shelf::shelf(job, &table);
    faults.extend(of_shelf);
    faults.extend(sheet::bend_book(job, &table, &shelf).1);
    faults.extend(sheet::brake::read(job, &table).1);
    let mut pieces: Vec<Arc<PieceResult>> = Vec::new();
    let mut cuts = 0;
    for (i, piece) in job.pieces.iter().enumerate() {
        crate::halt::point();
        if i >= MOST_PIECES || cuts > MOST_JOB_FEATURES {
            let fault = Fault::new(
                format!(
                    "the job is larger than {MOST_PIECES} pieces or {MOST_JOB_FEATURES} cuts; the rest is left out"
                ),
                "split the job",
                (0, 0),
            );
            faults.push(LineFault { line: String::new(), path: format!("/pieces/{i}"), fault });
            break;
        }
        let made = each(job, piece);
        cuts += made.features.len();
        pieces.push(made);
    }
    faults.extend(SawFacts::of(job, &table).1);
    faults.extend(unclear_names(job));
    if job.frames.len() > frame::MOST_FRAMES {
        let fault = Fault::new(
            format!("the job has more than {} frames; the rest is left out", frame::MOST_FRAMES),
            "split the job",
            (0, 0),
        );
        faults.push(LineFault { line: String::new(), path: "/frames".into(), fault });
    }
    let frames = job.frames.iter().take(frame::MOST_FRAMES).map(|f| each_frame(job, f)).collect();
    JobResult { figures: table.all(|v| job.display.value(v)), pieces, frames, faults }
}
