//! The files that can be taken away, for the web and the command line alike.

use steelk_core::drawing::{CheckHead, Drawing, bar_plan, check_sheet};
use steelk_core::evaluate::{CutList, bar_plans, cut_list};
use steelk_core::job::Job;
use steelk_core::layout::Effort;
use steelk_core::result::{JobResult, PieceResult};
use steelk_formats::{csv, jobfile, name, svg, xlsx};

use crate::frame_files::of_frame;
use crate::kinds::{self, Subject};
use crate::paperwork::written;
pub use crate::paperwork::{Of, PaperError, Paperwork};
use crate::piece_files::of_piece;

/// The cut list of the job, with the revision that it is of.
fn list_of(job: &Job, result: &JobResult, of: &Of) -> CutList {
    let mut list = cut_list(job, result);
    if of.revision > 0 {
        list.revision = of.revision.to_string();
        list.date = name::day(of.saved_at);
    }
    list
}

pub fn make(job: &Job, result: &JobResult, kind: &str, of: Of) -> Result<Paperwork, PaperError> {
    let piece = of.piece;
    let stem = name::safe(if job.number.is_empty() { &job.title } else { &job.number });
    let file = |name: String, mime, bytes| Ok(Paperwork { name, mime, bytes });
    match kind {
        "cutlist" => {
            let bytes =
                csv::cut_list(&list_of(job, result, &of)).map_err(|e| PaperError::Write(e.to_string()))?;
            file(format!("{stem}_cut-list.csv"), "text/csv; charset=utf-8", bytes)
        }
        "saw-list" => {
            let bytes =
                csv::saw_list(&list_of(job, result, &of)).map_err(|e| PaperError::Write(e.to_string()))?;
            file(format!("{stem}_saw-list.csv"), "text/csv; charset=utf-8", bytes)
        }
        "plate-list" => {
            let bytes =
                csv::plate_list(&list_of(job, result, &of)).map_err(|e| PaperError::Write(e.to_string()))?;
            file(format!("{stem}_plate-list.csv"), "text/csv; charset=utf-8", bytes)
        }
        "spreadsheet" => {
            let bytes = xlsx::cut_list(&list_of(job, result, &of), of.saved_at)
                .map_err(|e| PaperError::Write(e.to_string()))?;
            file(
                format!("{stem}_cut-list.xlsx"),
                "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
                bytes,
            )
        }
        "bars" | "bars-svg" => {
            let begun = std::time::Instant::now();
            let plans = bar_plans(&result.shop, &cut_list(job, result), Effort::Full, &mut |_, _| {
                begun.elapsed() < crate::desk::LONGEST_SEARCH
            });
            let title = format!("{} {}", job.number, job.title);
            let pages: Vec<Drawing> = plans
                .iter()
                .flat_map(|p| bar_plan(p, job.display.length.sign(), &title))
                .map(|d| d.on(of.paper))
                .collect();
            let first = pages.first().ok_or(PaperError::NoBars)?;
            match kind {
                "bars" => file(
                    format!("{stem}_bars.pdf"),
                    "application/pdf",
                    written(&pages, &of.about(job, "bars"))?,
                ),
                _ => file(format!("{stem}_bars-page-1.svg"), "image/svg+xml", svg::svg(first).into_bytes()),
            }
        }
        "job" => file(format!("{stem}.steelk.json"), "application/json", jobfile::write(job)),
        kind => match kinds::subject(kind) {
            Some(Subject::Piece) => of_piece(job, find(result, piece)?, kind, of),
            Some(Subject::Frame) => of_frame(job, result, kind, of),
            Some(Subject::Brief) => of_brief(job, result, kind, of),
            _ => Err(PaperError::Kind(kind.into())),
        },
    }
}

fn of_brief(job: &Job, result: &JobResult, kind: &str, of: Of) -> Result<Paperwork, PaperError> {
    let is = |id: &str, mark: &str| of.piece.is_empty() || id == of.piece || mark == of.piece;
    let found = job.briefs.iter().zip(&result.briefs).find(|(b, _)| is(&b.id, &b.mark));
    let (brief, checked) = found.ok_or_else(|| PaperError::NoBrief(of.piece.into()))?;
    let title = format!("{} {}, of {}", brief.mark, brief.name, brief.of);
    let about = of.about(job, &format!("{title}, check sheet"));
    let head = CheckHead { title: title.clone(), job: &about.subject, class: brief.class.said() };
    let pages: Vec<Drawing> = check_sheet(checked, &head).into_iter().map(|d| d.on(of.paper)).collect();
    let first = pages.first().ok_or_else(|| PaperError::NoFigures(brief.mark.clone()))?;
    let stem = name::safe(&format!("{} {}", brief.mark, brief.name));
    let (name, mime, bytes) = match kind {
        "check-sheet" => (format!("{stem}_check-sheet.pdf"), "application/pdf", written(&pages, &about)?),
        _ => (format!("{stem}_check-sheet-page-1.svg"), "image/svg+xml", svg::svg(first).into_bytes()),
    };
    Ok(Paperwork { name, mime, bytes })
}

fn find<'a>(result: &'a JobResult, piece: &str) -> Result<&'a PieceResult, PaperError> {
    let found = result.sheets().find(|p| p.id == piece).or_else(|| result.sheets().find(|p| p.mark == piece));
    let found = found.ok_or_else(|| PaperError::NoPiece(piece.into()))?;
    if found.made { Ok(found) } else { Err(PaperError::NotMade(found.mark.clone())) }
}
