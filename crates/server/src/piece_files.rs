//! The papers and files of a piece of sheet.

use glam::DVec2;
use steelk_core::drawing::dimensioned::Head;
use steelk_core::drawing::{
    Anchor, Drawing, Item, Paper, bend_sheet, dimensioned, flat_drawing, formed_drawing, hole_sheet,
    template_for,
};
use steelk_core::job::Job;
use steelk_core::result::PieceResult;
use steelk_core::sheet::mesh::Solid;
use steelk_core::sheet::{full_mesh, has_patterns, plain_mesh, unseen};
use steelk_formats::{csv, dxf, holes, mesh, name, step, svg};

use crate::paperwork::{MOST_TRIANGLES, Of, PaperError, Paperwork, printer, stacked, written};

pub fn of_piece(job: &Job, p: &PieceResult, kind: &str, of: Of) -> Result<Paperwork, PaperError> {
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
        "drawing" | "drawing-svg" | "drawing-dxf" => {
            let pages = drawing_of(p, of.paper, &of.head(job, &p.id));
            match kind {
                "drawing-dxf" => {
                    (format!("{stem}_drawing.dxf"), "image/vnd.dxf", dxf::sheets(&pages, of.saved_at))
                }
                "drawing" => {
                    (format!("{stem}_drawing.pdf"), "application/pdf", written(&pages, &about("drawing"))?)
                }
                _ => {
                    let all = stacked(pages).ok_or_else(|| PaperError::NotMade(p.mark.clone()))?;
                    (format!("{stem}_drawing.svg"), "image/svg+xml", svg::svg(&all).into_bytes())
                }
            }
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
        "step" => (format!("{stem}.step"), "model/step", step::piece(p, of.saved_at)?),
        "stl" => (format!("{stem}.stl"), "model/stl", stl(&solid()?)),
        "stl-plain" => (format!("{stem}_without-patterns.stl"), "model/stl", stl(&plain())),
        "glb-plain" => (format!("{stem}_without-patterns.glb"), "model/gltf-binary", glb(&plain())),
        _ => (format!("{stem}.glb"), "model/gltf-binary", glb(&solid()?)),
    };
    Ok(Paperwork { name, mime, bytes })
}

/// The dimensioned drawing of a piece.
fn drawing_of(p: &PieceResult, paper: Paper, head: &Head) -> Vec<Drawing> {
    let plain = has_patterns(p).then(|| plain_mesh(p));
    let mesh = plain.as_ref().map_or_else(|| p.mesh(), |m| &m.0);
    let left = plain.as_ref().map(|m| format!("{} holes of patterns are not drawn in these views", m.1));
    let unseen = left.into_iter().chain(Some(unseen(p)).filter(|s| !s.is_empty())).collect();
    dimensioned::piece_drawing(&dimensioned::Piece { result: p, mesh, unseen }, paper, head)
}

/// A picture of a formed piece; holes of patterns and pressed shapes are left out of pictures, and the
/// picture says so.
fn formed(p: &PieceResult, width: f64, height: f64) -> Drawing {
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
