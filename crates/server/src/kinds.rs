//! The kinds of papers and files that can be taken away: the one list that the page, the command line, the
//! description and the refusals are made from.

use serde::Serialize;
use utoipa::ToSchema;

/// What a paper is of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Subject {
    Piece,
    Frame,
    /// Named by its id or its drawing's number.
    Brief,
    Job,
}

/// Where the page puts it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Shelf {
    /// What is taken away most.
    First,
    More,
    /// Looked at in the page.
    Look,
    /// On a page of its own.
    Elsewhere,
}

/// What there must be for it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Needs {
    Nothing,
    Bends,
    Holes,
    Patterns,
    /// Variants of the job's figures.
    Variants,
    /// One for each cope of a frame.
    Cope,
    /// One for each bar of a frame.
    Bar,
    /// One for each bar whose skin can be unrolled.
    Skin,
    /// Plates of a frame.
    Plates,
}

#[derive(Clone, Copy, Debug, Serialize, ToSchema)]
pub struct PaperKind {
    pub kind: &'static str,
    pub of: Subject,
    pub words: &'static str,
    pub shelf: Shelf,
    pub needs: Needs,
}

const fn kind(kind: &'static str, of: Subject, words: &'static str, shelf: Shelf, needs: Needs) -> PaperKind {
    PaperKind { kind, of, words, shelf, needs }
}

use Needs::{Bar, Bends, Cope, Holes, Nothing, Patterns, Plates, Skin, Variants};
use Shelf::{Elsewhere, First, Look, More};
use Subject::{Brief, Frame, Job, Piece};

pub const KINDS: &[PaperKind] = &[
    kind("dxf", Piece, "DXF for the cutter", First, Nothing),
    kind("drawing", Piece, "Drawing (PDF)", First, Nothing),
    kind("template", Piece, "1:1 template (PDF)", First, Nothing),
    kind("bend-sheet", Piece, "Bend sheet (PDF)", First, Bends),
    kind("hole-sheet", Piece, "Hole sheet (PDF)", First, Holes),
    kind("holes", Piece, "Holes (CSV)", More, Holes),
    kind("drawing-dxf", Piece, "Drawing (DXF)", More, Nothing),
    kind("flat-svg", Piece, "Flat SVG", More, Nothing),
    kind("formed-svg", Piece, "Formed SVG", More, Nothing),
    kind("step", Piece, "STEP", More, Nothing),
    kind("stl", Piece, "STL", More, Nothing),
    kind("glb", Piece, "GLB", More, Nothing),
    kind("stl-plain", Piece, "STL without patterns", More, Patterns),
    kind("glb-plain", Piece, "GLB without patterns", More, Patterns),
    kind("drawing-svg", Piece, "Drawing", Look, Nothing),
    kind("flat-svg", Piece, "Flat pattern", Look, Nothing),
    kind("formed-svg", Piece, "Formed", Look, Nothing),
    kind("template-svg", Piece, "Template, first page", Look, Nothing),
    kind("bend-sheet-svg", Piece, "Bend sheet", Look, Bends),
    kind("hole-sheet-svg", Piece, "Hole sheet", Look, Holes),
    kind("frame-drawing", Frame, "Drawing (PDF)", First, Nothing),
    kind("plates-zip", Frame, "DXF of its plates (zip)", First, Plates),
    kind("skeleton", Frame, "Skeleton (CSV)", More, Nothing),
    kind("frame-drawing-dxf", Frame, "Drawing (DXF)", More, Nothing),
    kind("frame-step", Frame, "STEP", More, Nothing),
    kind("bar-step", Frame, "{} STEP", More, Bar),
    kind("frame-stl", Frame, "STL", More, Nothing),
    kind("frame-glb", Frame, "GLB", More, Nothing),
    kind("bar-svg", Frame, "{} SVG", More, Bar),
    kind("wrap", Frame, "{} wrap 1:1 (PDF)", More, Cope),
    kind("tube-dxf", Frame, "{} skin for the tube laser (DXF)", More, Skin),
    kind("frame-drawing-svg", Frame, "Drawing", Look, Nothing),
    kind("wrap-svg", Frame, "Cope {}", Look, Cope),
    kind("check-sheet", Brief, "Check sheet (PDF)", First, Nothing),
    kind("check-sheet-svg", Brief, "Check sheet, first page", Look, Nothing),
    kind("cutlist", Job, "Cut list (CSV)", Elsewhere, Nothing),
    kind("saw-list", Job, "Saw list (CSV)", First, Nothing),
    kind("spreadsheet", Job, "Spreadsheet", First, Nothing),
    kind("bars", Job, "Bars (PDF)", First, Nothing),
    kind("variants", Job, "All variants (zip)", Elsewhere, Variants),
    kind("dxf-zip", Job, "DXF of the chosen pieces (zip)", Elsewhere, Nothing),
    kind("papers-zip", Job, "Papers of the chosen pieces (zip)", Elsewhere, Nothing),
    kind("plate-list", Job, "Plates (CSV)", More, Nothing),
    kind("bars-svg", Job, "Bars, first page", Look, Nothing),
    kind("job", Job, "Job file", Elsewhere, Nothing),
];

/// What a kind is of; none where no kind is called so.
pub fn subject(kind: &str) -> Option<Subject> {
    KINDS.iter().find(|k| k.kind == kind).map(|k| k.of)
}

/// Every kind in a sentence.
pub fn all_said() -> String {
    let of = |subject: Subject| {
        let mut out: Vec<&str> = Vec::new();
        for k in KINDS.iter().filter(|k| k.of == subject) {
            if !out.contains(&k.kind) {
                out.push(k.kind);
            }
        }
        out.join(", ")
    };
    format!(
        "{} (of a piece), {} (of a frame), {} (of a brief), {} (of the job)",
        of(Piece),
        of(Frame),
        of(Brief),
        of(Job)
    )
}
