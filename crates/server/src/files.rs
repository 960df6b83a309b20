//! The files that can be taken away, for the web and the command line alike.

use std::sync::Arc;

use glam::DVec2;
use steelk_core::evaluate::{CutList, cut_list};

use crate::kinds::{self, Subject};
use crate::problem::Problem;
use steelk_core::drawing::{
    Anchor, CheckHead, Drawing, Item, Paper, Printed, bar_detail, bar_plan, bend_sheet, check_sheet,
    flat_drawing, formed_drawing, frame_sheet, hole_sheet, template_for,
};
use steelk_core::evaluate::bar_plans;
use steelk_core::frame::{FrameList, FrameResult, NoSkin, Standing, standing, unrolled, wrap_template};
use steelk_core::job::Job;
use steelk_core::layout::Effort;
use steelk_core::quantity::FigureTable;
use steelk_core::result::{JobResult, PieceResult};
use steelk_core::sheet::mesh::Solid;
use steelk_core::sheet::{full_mesh, has_patterns, plain_mesh, unseen};
use steelk_formats::{csv, dxf, holes, jobfile, mesh, name, pdf, skeleton, svg, xlsx};

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
const MOST_TRIANGLES: usize = 2_000_000;

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
}

impl Of<'_> {
    /// What a paper of the job says of itself.
    fn about(&self, job: &Job, title: &str) -> pdf::About {
        let revision =
            if self.revision > 0 { format!(", revision {}", self.revision) } else { String::new() };
        let subject = format!("{}{revision}", format!("{} {}", job.number, job.title).trim());
        pdf::About { title: title.into(), subject, saved_at: self.saved_at }
    }
}

fn written(pages: &[Drawing], about: &pdf::About) -> Result<Vec<u8>, PaperError> {
    pdf::pdf(pages, about).map_err(|e| PaperError::Write(e.to_string()))
}

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

/// The printer that is asked for, with its true scale.
fn printer(job: &Job, of: Of) -> Result<Option<Printed>, PaperError> {
    let figures = FigureTable::new(&job.figures, job.display.length);
    job.printer(of.printer, &figures).map_err(PaperError::Printer)
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

fn of_frame(job: &Job, result: &JobResult, kind: &str, of: Of) -> Result<Paperwork, PaperError> {
    let by = |r: &&Arc<FrameResult>| of.frame.is_empty() || r.id == of.frame || r.mark == of.frame;
    let r = result.frames.iter().find(by).ok_or_else(|| PaperError::NoFrame(of.frame.into()))?;
    let stem = name::safe(&format!("{} {}", r.mark, r.name));
    let write = |e: String| PaperError::Write(e);
    let on = |pages: Vec<Drawing>| pages.into_iter().map(|d| d.on(of.paper)).collect::<Vec<_>>();
    let sheet = || {
        let list = cut_list(job, result);
        list.frames
            .iter()
            .find(|l| l.frame == r.id)
            .map(|l| on(frame_sheet(r, l, &list.length_unit)))
            .unwrap_or_default()
    };
    let wrap = || {
        wrap_template(result.shop.sheet(), r, of.piece)
            .filter(|p| p.made)
            .ok_or_else(|| PaperError::NoCope(of.piece.into()))
    };
    let (name, mime, bytes) = match kind {
        "frame-sheet" => (
            format!("{stem}_sheet.pdf"),
            "application/pdf",
            written(&sheet(), &of.about(job, &format!("{} {}, frame sheet", r.mark, r.name)))?,
        ),
        "frame-sheet-svg" => {
            let pages = sheet();
            let first = pages.first().ok_or_else(|| PaperError::NoFrame(of.frame.into()))?;
            (format!("{stem}_sheet-page-1.svg"), "image/svg+xml", svg::svg(first).into_bytes())
        }
        "bar-svg" => {
            let list = cut_list(job, result);
            let rows = list.frames.iter().filter(|l| l.frame == r.id).flat_map(|l| &l.bars);
            let row =
                rows.into_iter().find(|b| b.mark == of.piece || b.members.iter().any(|m| m == of.piece));
            let row = row.ok_or_else(|| PaperError::NoPiece(of.piece.into()))?;
            (
                format!("{stem}_{}.svg", name::safe(of.piece)),
                "image/svg+xml",
                svg::svg(&bar_detail(row, &list.length_unit)).into_bytes(),
            )
        }
        "skeleton" => {
            let said = job
                .frames
                .iter()
                .find(|f| f.id == r.id)
                .ok_or_else(|| PaperError::NoFrame(of.frame.into()))?;
            (
                format!("{stem}_skeleton.csv"),
                "text/csv; charset=utf-8",
                skeleton::write(said, r).map_err(|e| write(e.to_string()))?,
            )
        }
        "wrap" => {
            let pages = template_for(&wrap()?, of.paper, printer(job, of)?.as_ref())
                .ok_or(PaperError::TooManyPages)?;
            let about = of.about(job, &format!("{} {}, wrap", r.mark, of.piece));
            (format!("{stem}_{}_wrap.pdf", name::safe(of.piece)), "application/pdf", written(&pages, &about)?)
        }
        "wrap-svg" => {
            let pages = template_for(&wrap()?, of.paper, printer(job, of)?.as_ref())
                .ok_or(PaperError::TooManyPages)?;
            (
                format!("{stem}_{}_wrap-page-1.svg", name::safe(of.piece)),
                "image/svg+xml",
                svg::svg(&pages[0]).into_bytes(),
            )
        }
        "tube-dxf" => {
            let list = cut_list(job, result);
            let rows = || list.frames.iter().filter(|l| l.frame == r.id).flat_map(|l| &l.bars);
            let row = rows()
                .find(|b| b.mark == of.piece)
                .or_else(|| rows().find(|b| b.members.iter().any(|m| m == of.piece)));
            let row = row.ok_or_else(|| PaperError::NoPiece(of.piece.into()))?;
            let skin = unrolled(result.shop.sheet(), r, &row.members[0], &row.mark, row.quantity)?;
            if !skin.made {
                return Err(PaperError::NotMade(row.mark.clone()));
            }
            (format!("{}.dxf", name::file_stem(&skin)), "image/vnd.dxf", dxf::write(&skin, of.saved_at))
        }
        kind => {
            let bodies = standing(r, true);
            let solids: Vec<Solid> = bodies
                .iter()
                .map(|b| Solid { points: b.body.points.clone(), triangles: b.body.triangles.clone() })
                .collect();
            let list = cut_list(job, result);
            let list = list.frames.iter().find(|l| l.frame == r.id);
            let bodies: Vec<mesh::Body> =
                bodies.iter().zip(&solids).map(|(b, solid)| body(r, list, b, solid)).collect();
            match kind {
                "frame-stl" => (format!("{stem}.stl"), "model/stl", mesh::stl(&bodies, &r.mark)),
                _ => (format!("{stem}.glb"), "model/gltf-binary", mesh::glb(&bodies, &r.mark)),
            }
        }
    };
    Ok(Paperwork { name, mime, bytes })
}

/// A body of a frame as files name it: its mark in the list, then its own name.
fn body<'a>(r: &FrameResult, list: Option<&FrameList>, b: &Standing, solid: &'a Solid) -> mesh::Body<'a> {
    let mark = |name: &str| -> Option<&str> {
        let list = list?;
        let bar = || {
            list.bars.iter().find(|row| row.members.iter().any(|m| m == name)).map(|row| row.mark.as_str())
        };
        let plate = || {
            list.plates.iter().find(|row| row.members.iter().any(|m| m == name)).map(|row| row.mark.as_str())
        };
        if b.is_plate { plate() } else { bar() }
    };
    let called = |name: &str| mark(name).map_or(name.to_string(), |m| format!("{m} {name}"));
    let first = b.places.first().map_or("", |p| p.name.as_str());
    let material = match r.members.iter().find(|m| m.name == first).filter(|_| !b.is_plate) {
        Some(m) => m.material.name.clone(),
        None => r
            .plates
            .iter()
            .find(|p| p.places.iter().any(|q| q.name == first))
            .map_or(String::new(), |p| p.piece.material.clone()),
    };
    mesh::Body {
        solid,
        material,
        unseen: String::new(),
        places: b.places.iter().map(|p| (called(&p.name), p.at)).collect(),
    }
}

fn of_piece(job: &Job, p: &PieceResult, kind: &str, of: Of) -> Result<Paperwork, PaperError> {
    let stem = name::file_stem(p);
    let about = |what: &str| of.about(job, &format!("{} {}, {what}", p.mark, p.name));
    let solid = || {
        let triangles = steelk_core::sheet::mesh_size(p);
        if triangles > MOST_TRIANGLES {
            return Err(PaperError::TooFine(p.mark.clone(), triangles));
        }
        Ok(full_mesh(p).solid(&p.zones, 1.0, p.thickness))
    };
    let plain = || plain_mesh(p).0.solid(&p.zones, 1.0, p.thickness);
    let stl = |solid: &Solid| mesh::stl(&[mesh::single(solid, &p.mark, &p.material, &unseen(p))], &p.mark);
    let glb = |solid: &Solid| mesh::glb(&[mesh::single(solid, &p.mark, &p.material, &unseen(p))], &p.mark);
    let (name, mime, bytes) = match kind {
        "dxf" => (format!("{stem}.dxf"), "image/vnd.dxf", dxf::write(p, of.saved_at)),
        "flat-svg" => {
            (format!("{stem}_flat.svg"), "image/svg+xml", svg::svg(&flat_drawing(p, 1.0, true)).into_bytes())
        }
        "formed-svg" => {
            (format!("{stem}_formed.svg"), "image/svg+xml", svg::svg(&formed(p, 240.0, 160.0)).into_bytes())
        }
        "template" => {
            let pages =
                template_for(p, of.paper, printer(job, of)?.as_ref()).ok_or(PaperError::TooManyPages)?;
            (format!("{stem}_template.pdf"), "application/pdf", written(&pages, &about("template"))?)
        }
        "template-svg" => {
            let pages =
                template_for(p, of.paper, printer(job, of)?.as_ref()).ok_or(PaperError::TooManyPages)?;
            (format!("{stem}_template-page-1.svg"), "image/svg+xml", svg::svg(&pages[0]).into_bytes())
        }
        "bend-sheet" | "bend-sheet-svg" => {
            let pages: Vec<Drawing> = bend_sheet(p).into_iter().map(|d| d.on(of.paper)).collect();
            let first = pages.first().ok_or_else(|| PaperError::NoBends(p.mark.clone()))?;
            match kind {
                "bend-sheet" => (
                    format!("{stem}_bend-sheet.pdf"),
                    "application/pdf",
                    written(&pages, &about("bend sheet"))?,
                ),
                _ => (format!("{stem}_bend-sheet-page-1.svg"), "image/svg+xml", svg::svg(first).into_bytes()),
            }
        }
        "hole-sheet" | "hole-sheet-svg" => {
            let pages: Vec<Drawing> = hole_sheet(p).into_iter().map(|d| d.on(of.paper)).collect();
            let first = pages.first().ok_or_else(|| PaperError::NoHoles(p.mark.clone()))?;
            match kind {
                "hole-sheet" => {
                    (format!("{stem}_holes.pdf"), "application/pdf", written(&pages, &about("holes"))?)
                }
                _ => (format!("{stem}_holes-page-1.svg"), "image/svg+xml", svg::svg(first).into_bytes()),
            }
        }
        "holes" => {
            let table = holes::hole_rows(p);
            if table.rows.is_empty() {
                return Err(PaperError::NoHoles(p.mark.clone()));
            }
            let bytes = csv::table(&table).map_err(|e| PaperError::Write(e.to_string()))?;
            (format!("{stem}_holes.csv"), "text/csv; charset=utf-8", bytes)
        }
        "stl" => (format!("{stem}.stl"), "model/stl", stl(&solid()?)),
        "stl-plain" => (format!("{stem}_without-patterns.stl"), "model/stl", stl(&plain())),
        "glb-plain" => (format!("{stem}_without-patterns.glb"), "model/gltf-binary", glb(&plain())),
        _ => (format!("{stem}.glb"), "model/gltf-binary", glb(&solid()?)),
    };
    Ok(Paperwork { name, mime, bytes })
}

/// A picture of a formed piece; holes of patterns and pressed shapes are left out of pictures, and the
/// picture says so.
pub fn formed(p: &PieceResult, width: f64, height: f64) -> Drawing {
    let (mut drawing, left_out) = match has_patterns(p).then(|| plain_mesh(p)) {
        Some((mesh, n)) => {
            (formed_drawing(p, &mesh, width, height), format!("{n} holes of patterns are not drawn"))
        }
        None => (formed_drawing(p, p.mesh(), width, height), String::new()),
    };
    for (k, said) in [left_out, unseen(p)].into_iter().filter(|s| !s.is_empty()).enumerate() {
        drawing.items.push(Item::text(
            DVec2::new(2.0, height - 2.0 - 4.0 * k as f64),
            said,
            3.0,
            Anchor::Start,
        ));
    }
    drawing
}
