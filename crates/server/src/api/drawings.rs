//! Drawings from elsewhere: seen before anything is taken, taken as pieces, and compared with their
//! revisions.

use actix_web::web::Data;
use actix_web::{HttpRequest, HttpResponse};
use serde::{Deserialize, Serialize};
use steelk_core::geom::Contour;
use steelk_core::job::{DrawingOptions, Line, Origin, Piece};
use steelk_core::quantity::{Display, LengthUnit, counted};
use steelk_core::sheet::lines_from;
use steelk_formats::drawing;
use steelk_formats::drawn::Content;
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;
use super::{Asked, State, json, json_answer};
use crate::drawing_view::{DrawingView, view};
use crate::revised::{Revised, revise};

/// Cuts that one recipe takes.
const MOST_CUTS: usize = 5_000;

#[derive(Deserialize, ToSchema)]
pub struct DrawingBody {
    /// Digest of the kept file.
    pub file: String,
    #[serde(default)]
    pub options: DrawingOptions,
}

/// A drawing as it would be taken, with every repair marked. Nothing is taken.
#[utoipa::path(post, path = "/api/drawings", request_body = DrawingBody, responses((status = 200,
    body = DrawingView), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub async fn preview(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    let held = state.clone();
    let work = move || {
        let body: DrawingBody = body.json()?;
        let (_, bytes) = held.held(&body.file)?;
        let content = drawing(&bytes, &body.options)?;
        json(&view(&content, body.options))
    };
    let bytes = state.work(Asked::of(&request, usize::MAX), work).await?;
    state.send(json_answer(), bytes).await
}

#[derive(Deserialize, ToSchema)]
pub struct TakeBody {
    pub file: String,
    /// Name of the file as it was brought.
    pub name: String,
    #[serde(default)]
    pub options: DrawingOptions,
    /// Which parts, from 1.
    pub parts: Vec<u32>,
    /// Unit of the lines; the drawing's own where it is not told.
    #[serde(default)]
    pub length: Option<LengthUnit>,
}

/// A part of a drawing as a recipe.
#[derive(Serialize, ToSchema)]
pub struct TakenPart {
    pub lines: Vec<Line>,
    pub origin: Origin,
}

#[derive(Serialize, ToSchema)]
pub struct TakenDrawing {
    pub parts: Vec<TakenPart>,
    /// Unit of the lines.
    pub length: LengthUnit,
    /// What is in the drawing and not in the recipes, a sentence each.
    pub left_out: Vec<String>,
}

/// The chosen parts of a drawing as recipes.
#[utoipa::path(post, path = "/api/drawings/take", request_body = TakeBody, responses((status = 200,
    body = TakenDrawing), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub async fn take(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    let held = state.clone();
    let work = move || {
        let body: TakeBody = body.json()?;
        let (_, bytes) = held.held(&body.file)?;
        let content = drawing(&bytes, &body.options)?;
        json(&taken(&content, &body)?)
    };
    let bytes = state.work(Asked::of(&request, usize::MAX), work).await?;
    state.send(json_answer(), bytes).await
}

fn taken(content: &Content, body: &TakeBody) -> Result<TakenDrawing, Problem> {
    if content.guess.is_some() {
        let mend = "tell the unit of its numbers: options.assume";
        let asked = Problem::new(422, "The file names no unit, and none was told", mend);
        return Err(Problem { field: Some("options.assume".into()), ..asked });
    }
    let length = body.length.unwrap_or_else(|| content.working_unit(body.options.assume));
    let display = Display { length, ..Display::default() };
    let mut out = TakenDrawing { parts: Vec::new(), length, left_out: content.left_out.clone() };
    for n in &body.parts {
        let part = (*n as usize).checked_sub(1).and_then(|k| content.parts.get(k)).ok_or_else(|| {
            Problem::new(
                422,
                format!("The drawing has no part {n}: it has {}", counted(content.parts.len(), "part")),
                content.nothing().unwrap_or_else(|| "look at it again before it is taken".into()),
            )
        })?;
        if part.cuts.len() > MOST_CUTS {
            return Err(Problem::new(
                422,
                format!("The part holds {} cuts; a recipe takes 5,000", part.cuts.len()),
                "leave repeated holes out and repeat them in the recipe",
            ));
        }
        let (outer, cuts, folds) = content.part(part);
        let (lines, astray) = lines_from(outer, &cuts, &folds, &display);
        if astray > 0 {
            let said = counted(astray, "bend line");
            out.left_out.push(format!("{said} that no straight side is parallel to: tell it in the recipe"));
        }
        let (file, name) = (body.file.clone(), body.name.clone());
        let origin = Origin { file, name, part: *n, options: body.options.clone() };
        out.parts.push(TakenPart { lines, origin });
    }
    Ok(out)
}

#[derive(Deserialize, ToSchema)]
pub struct RevisedBody {
    /// The piece as it stands, with the drawing that it came from.
    pub piece: Piece,
    /// Unit that its lines are typed in.
    pub display: Display,
    /// Digest of the revised drawing, and its name.
    pub file: String,
    pub name: String,
    #[serde(default)]
    pub options: DrawingOptions,
    /// Which part of it, from 1.
    pub part: u32,
}

/// What moved between the drawing that a piece came from and a revised one, and the piece that follows it.
#[utoipa::path(post, path = "/api/drawings/revised", request_body = RevisedBody, responses((status = 200,
    body = Revised), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub async fn revised(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    let held = state.clone();
    let work = move || {
        let body: RevisedBody = body.json()?;
        let origin = body.piece.origin.clone().ok_or_else(|| {
            Problem::new(422, "The piece did not come from a drawing", "bring the drawing in as a piece")
        })?;
        let before = drawing(&held.held(&origin.file)?.1, &origin.options)?;
        let after = drawing(&held.held(&body.file)?.1, &body.options)?;
        let of = |c: &Content, n: u32| -> Result<Vec<Contour>, Problem> {
            let missing = || {
                let why = c.nothing().unwrap_or_else(|| format!("it has {}", counted(c.parts.len(), "part")));
                Problem::new(422, format!("The drawing has no part {n}"), why)
            };
            let part = (n as usize).checked_sub(1).and_then(|k| c.parts.get(k)).ok_or_else(missing)?;
            let (outer, cuts, _) = c.part(part);
            let low = -outer.bounds().min;
            Ok(std::iter::once(outer).chain(cuts).map(|k| k.moved(0.0, low)).collect())
        };
        let (old, new) = (of(&before, origin.part)?, of(&after, body.part)?);
        let to = Origin { file: body.file, name: body.name, part: body.part, options: body.options };
        json(&revise(body.piece, &body.display, (&old, &new), to))
    };
    let bytes = state.work(Asked::of(&request, usize::MAX), work).await?;
    state.send(json_answer(), bytes).await
}
