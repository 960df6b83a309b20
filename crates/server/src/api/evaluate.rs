//! Drafts: evaluated without being saved. DXF becomes recipe lines.

use std::collections::BTreeMap;

use actix_web::web::{Data, Json, Query};
use actix_web::{HttpRequest, HttpResponse};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use steelk_core::evaluate::{CutList, cut_list};
use steelk_core::job::{Job, Line, Renamed, rename};
use steelk_core::quantity::{Display, FigureValue, LengthUnit};
use steelk_core::result::{Finding, JobResult, LineFault, Severity};
use steelk_core::sheet;
use steelk_formats::{dxf, jobfile};
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;
use super::{Asked, HasJob, State, json, json_answer};
use crate::brief_view::{BriefState, BriefView, brief_states, brief_view};
use crate::frame_view::{FrameView, frame_view};
use crate::view::{PieceView, piece_view};

#[derive(Deserialize, ToSchema)]
pub struct EvaluateBody {
    /// The job, saved or not.
    #[schema(value_type = Job)]
    pub job: Value,
    /// Id of the piece to return with its geometry.
    #[serde(default)]
    pub piece: String,
    /// Id of the frame to return with its geometry.
    #[serde(default)]
    pub frame: String,
    /// Id of the brief to return with all its figures.
    #[serde(default)]
    pub brief: String,
    /// False: figures first. A piece with many holes then comes without its geometry (`drawn` is false), to
    /// be asked for after.
    #[serde(default = "yes")]
    pub geometry: bool,
}

fn yes() -> bool {
    true
}

/// How a piece or frame stands.
#[derive(Serialize, ToSchema)]
pub struct PartState {
    pub id: String,
    pub mark: String,
    pub name: String,
    pub made: bool,
    pub stops: usize,
    pub warns: usize,
}

#[derive(Serialize, ToSchema)]
pub struct Evaluated {
    pub figures: Vec<FigureValue>,
    /// Faults of the job's own settings.
    pub faults: Vec<LineFault>,
    pub piece_states: Vec<PartState>,
    pub frame_states: Vec<PartState>,
    pub brief_states: Vec<BriefState>,
    pub brief: Option<BriefView>,
    pub frame: Option<FrameView>,
    pub piece: Option<PieceView>,
    pub cut_list: CutList,
}

#[utoipa::path(post, path = "/api/evaluate", request_body = EvaluateBody, responses((status = 200,
    body = Evaluated), (status = 422, body = Problem)))]
pub async fn evaluate(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    let asked = Asked::of(&request, body.bytes.len());
    let read = move |_: &State| {
        let EvaluateBody { job, piece, frame, brief, geometry } = body.json()?;
        Ok(Wanted { job: jobfile::from_value(job)?, piece, frame, brief, geometry })
    };
    let bytes = state
        .with_job(asked, read, |state, w: Wanted| json(&evaluated(&state.cache.job(&w.job), &w)))
        .await?;
    state.send(json_answer(), bytes).await
}

/// A draft with what is to be shown of it.
struct Wanted {
    job: Job,
    piece: String,
    frame: String,
    brief: String,
    geometry: bool,
}

impl HasJob for Wanted {
    fn job(&self) -> &Job {
        &self.job
    }

    fn picture(&self) -> &str {
        if self.geometry { &self.piece } else { "" }
    }
}

fn evaluated(result: &JobResult, w: &Wanted) -> Evaluated {
    let Wanted { job, piece, frame, brief, geometry } = w;
    let state =
        |id: &str, mark: &str, name: &str, made: bool, stops: usize, findings: &[Finding]| PartState {
            id: id.into(),
            mark: mark.into(),
            name: name.into(),
            made,
            stops,
            warns: findings.iter().filter(|f| f.severity == Severity::Warn).count(),
        };
    Evaluated {
        piece_states: result
            .pieces
            .iter()
            .map(|p| state(&p.id, &p.mark, &p.name, p.made, p.stops(), &p.findings))
            .collect(),
        frame_states: result
            .frames
            .iter()
            .map(|f| state(&f.id, &f.mark, &f.name, f.made, f.stops(), &f.findings))
            .collect(),
        frame: result.frames.iter().find(|f| f.id == *frame).map(|f| frame_view(f)),
        piece: result.pieces.iter().find(|p| p.id == *piece).map(|p| piece_view(p, *geometry)),
        brief_states: brief_states(job, result),
        brief: brief_view(result, brief),
        cut_list: cut_list(job, result),
        figures: result.figures.clone(),
        faults: result.faults.clone(),
    }
}

/// A job as it is kept: every field that a file may leave out is there. For comparing jobs.
#[utoipa::path(post, path = "/api/canonical", request_body = Job, responses((status = 200, body = Job),
    (status = 422, body = Problem)))]
pub async fn canonical(
    state: Data<State>,
    request: HttpRequest,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let asked = Asked::of(&request, body.bytes.len()).beside();
    let bytes = state.work(asked, move || json(&jobfile::from_value(body.value()?)?)).await?;
    state.send(json_answer(), bytes).await
}

#[derive(Deserialize, ToSchema)]
pub struct RenameBody {
    #[schema(value_type = Job)]
    pub job: Value,
    pub from: String,
    pub to: String,
    /// The piece or frame whose line is renamed; empty for a figure of the job.
    #[serde(default)]
    pub line_of: String,
}

/// A figure or a line by another name, with all its uses.
#[utoipa::path(post, path = "/api/rename", request_body = RenameBody, responses((status = 200, body = Job),
    (status = 422, body = Problem)))]
pub async fn rename_uses(
    state: Data<State>,
    request: HttpRequest,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let asked = Asked::of(&request, body.bytes.len()).beside();
    let work = move || {
        let RenameBody { job, from, to, line_of } = body.json()?;
        let what = if line_of.is_empty() { Renamed::Figure } else { Renamed::Line { of: &line_of } };
        let renamed = rename(&jobfile::from_value(job)?, what, &from, &to);
        json(&renamed.map_err(|f| Problem::new(422, f.message, f.mend))?)
    };
    let bytes = state.work(asked, work).await?;
    state.send(json_answer(), bytes).await
}

#[derive(Deserialize, ToSchema)]
pub struct DxfQuery {
    /// Unit of the recipe that is made; the file's own, inches or millimetres, where none is given.
    pub unit: Option<LengthUnit>,
    /// Unit of a file that names none: without it such a file is refused, and the refusal names this field.
    pub assume: Option<LengthUnit>,
}

/// Recipe lines for the contours of a DXF.
#[derive(Serialize, ToSchema)]
pub struct DxfLines {
    pub lines: Vec<Line>,
    /// Unit of the lines.
    pub length: LengthUnit,
    /// The unit that the file's head names; none where it was assumed.
    pub unit: Option<String>,
    /// Contours taken from each layer.
    pub layers: BTreeMap<String, usize>,
    /// What was put right in the drawing, a sentence each.
    pub mended: Vec<String>,
    /// What the recipe does not have of it, a sentence each.
    pub left_out: Vec<String>,
}

#[utoipa::path(post, path = "/api/dxf", params(("unit" = Option<LengthUnit>, Query,),
    ("assume" = Option<LengthUnit>, Query,)), request_body(content = Vec<u8>,
        content_type = "image/vnd.dxf"), responses((status = 200, body = DxfLines), (status = 422,
            body = Problem)))]
pub async fn import_dxf(
    state: Data<State>,
    query: Query<DxfQuery>,
    request: HttpRequest,
    body: Body,
) -> Result<Json<DxfLines>, Problem> {
    let query = query.into_inner();
    let asked = Asked::of(&request, body.bytes.len()).beside();
    let work = move || {
        let content = dxf::read(&body.bytes, query.assume)?;
        if content.contours.len() > 5_000 {
            return Err(Problem::new(
                422,
                format!("The file holds {} contours; a recipe takes 5,000", content.contours.len()),
                "leave repeated holes out and repeat them in the recipe",
            ));
        }
        let length = query.unit.unwrap_or_else(|| content.working_unit(query.assume));
        let display = Display { length, ..Display::default() };
        let dxf::Content { unit, contours, layers, mended, left_out, .. } = content;
        Ok(Json(DxfLines {
            lines: sheet::lines_from(&contours, &display),
            length,
            unit: unit.map(str::to_string),
            layers,
            mended,
            left_out,
        }))
    };
    state.work(asked, work).await
}
