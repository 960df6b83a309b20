//! The papers and files of a frame.

use std::sync::Arc;

use steelk_core::drawing::{dimensioned, template_for};
use steelk_core::evaluate::list_of_frame;
use steelk_core::frame::{FrameList, FrameResult, Standing, standing, unrolled, wrap_template};
use steelk_core::job::Job;
use steelk_core::result::JobResult;
use steelk_core::sheet::mesh::Solid;
use steelk_formats::{dxf, mesh, name, skeleton, step, svg};

use crate::paperwork::{Of, PaperError, Paperwork, printer, stacked, written};

pub fn of_frame(job: &Job, result: &JobResult, kind: &str, of: Of) -> Result<Paperwork, PaperError> {
    let by = |r: &&Arc<FrameResult>| of.frame.is_empty() || r.id == of.frame || r.mark == of.frame;
    let r = result.frames.iter().find(by).ok_or_else(|| PaperError::NoFrame(of.frame.into()))?;
    let stem = name::safe(&format!("{} {}", r.mark, r.name));
    let write = |e: String| PaperError::Write(e);
    let wrap = || {
        wrap_template(result.shop.sheet(), r, of.piece)
            .filter(|p| p.made)
            .ok_or_else(|| PaperError::NoCope(of.piece.into()))
    };
    let own_list = || list_of_frame(job, result, &r.id).ok_or_else(|| PaperError::NoFrame(of.frame.into()));
    let (name, mime, bytes) = match kind {
        "frame-drawing" | "frame-drawing-svg" | "frame-drawing-dxf" => {
            let list = own_list()?;
            let pages = dimensioned::frame_drawing(r, &list, of.paper, &of.head(job, &r.id));
            match kind {
                "frame-drawing" => (
                    format!("{stem}_drawing.pdf"),
                    "application/pdf",
                    written(&pages, &of.about(job, &format!("{} {}, drawing", r.mark, r.name)))?,
                ),
                "frame-drawing-dxf" => {
                    (format!("{stem}_drawing.dxf"), "image/vnd.dxf", dxf::sheets(&pages, of.saved_at))
                }
                _ => {
                    let all = stacked(pages).ok_or_else(|| PaperError::NoFrame(of.frame.into()))?;
                    (format!("{stem}_drawing.svg"), "image/svg+xml", svg::svg(&all).into_bytes())
                }
            }
        }
        "bar-svg" => {
            let list = own_list()?;
            let row = list.bar(of.piece).ok_or_else(|| PaperError::NoPiece(of.piece.into()))?;
            (
                format!("{stem}_{}.svg", name::safe(of.piece)),
                "image/svg+xml",
                svg::svg(&dimensioned::bar_drawing(r, row, job.drawing_head().projection)).into_bytes(),
            )
        }
        "frame-step" => {
            let bytes = step::frame(r, &own_list()?, of.saved_at).map_err(PaperError::NoSolid)?;
            (format!("{stem}.step"), "model/step", bytes)
        }
        "bar-step" => {
            let list = own_list()?;
            let none = || PaperError::NoPiece(of.piece.into());
            let row = list.bar(of.piece).ok_or_else(none)?;
            let m = r.members.iter().find(|m| m.name == row.members[0]).ok_or_else(none)?;
            let bytes = step::member(r, m, &row.mark, of.saved_at).map_err(PaperError::NoSolid)?;
            (format!("{stem}_{}.step", name::safe(&row.mark)), "model/step", bytes)
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
            let list = own_list()?;
            let row = list.bar(of.piece).ok_or_else(|| PaperError::NoPiece(of.piece.into()))?;
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
            let list = own_list()?;
            let bodies: Vec<mesh::Body> =
                bodies.iter().zip(&solids).map(|(b, solid)| body(r, &list, b, solid)).collect();
            match kind {
                "frame-stl" => (format!("{stem}.stl"), "model/stl", mesh::stl(&bodies, &r.mark)),
                _ => (format!("{stem}.glb"), "model/gltf-binary", mesh::glb(&bodies, &r.mark)),
            }
        }
    };
    Ok(Paperwork { name, mime, bytes })
}

/// A body of a frame as files name it: its mark in the list, then its own name.
fn body<'a>(r: &FrameResult, list: &FrameList, b: &Standing, solid: &'a Solid) -> mesh::Body<'a> {
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
        places: b.places.iter().map(|p| (list.called(&p.name, b.is_plate), p.at)).collect(),
    }
}
