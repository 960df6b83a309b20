//! What a paper is asked for by, what comes of it, and why there may be none.

use steelk_core::drawing::dimensioned::{Head, ShopMark};
use steelk_core::drawing::{Drawing, Paper, Picture, Printed};
use steelk_core::frame::NoSkin;
use steelk_core::job::Job;
use steelk_core::quantity::FigureTable;
use steelk_formats::pdf;
use steelk_formats::step::NoBody;

use crate::kinds;
use crate::problem::Problem;

/// A file ready to be sent.
pub struct Paperwork {
    pub name: String,
    pub mime: &'static str,
    pub bytes: Vec<u8>,
}

#[derive(Debug, thiserror::Error)]
pub enum PaperError {
    #[error("no paper is called '{0}'; there are {all}", all = kinds::all_said())]
    Kind(String),
    #[error("no piece has the mark or id '{0}'")]
    NoPiece(String),
    #[error("{0} cannot be made as it stands: its start line has a fault")]
    NotMade(String),
    #[error("the template needs more than 200 pages; pick a larger paper")]
    TooManyPages,
    #[error(
        "the mesh of {0} would have about {1} triangles; {MOST_TRIANGLES} is the most. Take it without its \
            patterns (stl-plain, glb-plain), or the DXF, which has them all"
    )]
    TooFine(String, usize),
    #[error(transparent)]
    NoSkin(#[from] NoSkin),
    #[error(transparent)]
    NoBody(#[from] NoBody),
    #[error("{0}")]
    NoSolid(String),
    #[error("{0} has no bends made at the brake")]
    NoBends(String),
    #[error("{0} has no holes")]
    NoHoles(String),
    #[error("{0}")]
    Printer(String),
    #[error("the job has no variants: tell some beside its figures")]
    NoVariants,
    #[error("the job has no pieces")]
    NoPieces,
    #[error("the job has no frame '{0}'")]
    NoFrame(String),
    #[error("the frame {0} has no plates that are cut from sheet")]
    NoPlates(String),
    #[error("the job has no brief '{0}'")]
    NoBrief(String),
    #[error("the brief {0} has no figures yet")]
    NoFigures(String),
    #[error("no end of the frame is a cope called '{0}'")]
    NoCope(String),
    #[error("the job has no members to be cut from bars")]
    NoBars,
    #[error("{0}")]
    Write(String),
}

/// Triangles of a mesh file: 100 MB of STL.
pub const MOST_TRIANGLES: usize = 2_000_000;

impl From<PaperError> for Problem {
    fn from(e: PaperError) -> Self {
        let status = if matches!(
            e,
            PaperError::Kind(_)
                | PaperError::NoBrief(_)
                | PaperError::NoPiece(_)
                | PaperError::NoFrame(_)
                | PaperError::NoCope(_)
        ) {
            404
        } else {
            422
        };
        Problem::new(status, e.to_string(), "see the piece at the bench")
    }
}

/// What is asked for: the piece by id or mark (a cope's number, a member's name for papers of a frame), the
/// frame by id or mark, the paper.
#[derive(Clone, Copy, Default)]
pub struct Of<'a> {
    pub piece: &'a str,
    pub frame: &'a str,
    pub paper: Paper,
    /// Name of the printer that a template is for; empty for one that prints true.
    pub printer: &'a str,
    /// When the job was saved, seconds since 1970: files that carry a time carry this one.
    pub saved_at: i64,
    /// The revision of a filed job; 0 for none.
    pub revision: i64,
    /// The shop's mark, where it is at hand.
    pub mark: Option<&'a Picture>,
}

impl Of<'_> {
    /// The head of the drawing of a piece or frame.
    pub fn head(&self, job: &Job, id: &str) -> Head {
        let mut head = job.drawing_head_of(id);
        if let (Some(mark), ShopMark::Missing(_)) = (self.mark, &head.mark) {
            head.mark = ShopMark::Picture(mark.clone());
        }
        head
    }

    /// What a paper of the job says of itself.
    pub fn about(&self, job: &Job, title: &str) -> pdf::About {
        let revision =
            if self.revision > 0 { format!(", revision {}", self.revision) } else { String::new() };
        let subject = format!("{}{revision}", format!("{} {}", job.number, job.title).trim());
        pdf::About { title: title.into(), subject, saved_at: self.saved_at }
    }
}

/// Its pages as a PDF.
pub fn written(pages: &[Drawing], about: &pdf::About) -> Result<Vec<u8>, PaperError> {
    pdf::pdf(pages, about).map_err(|e| PaperError::Write(e.to_string()))
}

/// The printer that is asked for, with its true scale.
pub fn printer(job: &Job, of: Of) -> Result<Option<Printed>, PaperError> {
    let figures = FigureTable::new(&job.figures, job.display.length);
    job.printer(of.printer, &figures).map_err(PaperError::Printer)
}

/// Sheets one below the other, to be looked at.
pub fn stacked(pages: Vec<Drawing>) -> Option<Drawing> {
    let mut pages = pages.into_iter();
    let mut out = pages.next()?;
    for page in pages {
        let down = glam::DVec2::new(0.0, out.size.y + 6.0);
        out.items.extend(page.items.into_iter().map(|i| i.moved(down)));
        out.size = glam::DVec2::new(out.size.x.max(page.size.x), down.y + page.size.y);
    }
    Some(out)
}
