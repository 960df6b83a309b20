//! Drafts: evaluated without being saved. DXF becomes recipe lines.

use actix_web::web::Data;
use actix_web::{HttpRequest, HttpResponse};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use steelk_core::evaluate::{CutList, cut_list};
use steelk_core::frame::FrameResult;
use steelk_core::job::{Job, Renamed, rename};
use steelk_core::quantity::{FigureValue, Printed};
use steelk_core::result::{Finding, JobResult, LineFault, PieceResult, Severity};
use steelk_formats::jobfile;
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
    /// False: without the cut list, for who shows none.
    #[serde(default = "yes")]
    pub list: bool,
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
    /// Findings worth knowing, cautions among them.
    pub notes: usize,
    /// To sort by: thickness and longest size in mm, mass of one in kg. Zero where it is not made.
    pub thickness: f64,
    pub longest: f64,
    pub mass: f64,
    /// The mass of one as the job prints it, without its unit.
    #[schema(value_type = String)]
    pub mass_said: Printed,
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
    pub cut_list: Option<CutList>,
}

#[utoipa::path(post, path = "/api/evaluate", request_body = EvaluateBody, responses((status = 200,
    body = Evaluated), (status = 422, body = Problem)))]
pub async fn evaluate(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    let asked = Asked::of(&request, body.bytes.len());
    let read = move |_: &State| {
        let EvaluateBody { job, piece, frame, brief, geometry, list } = body.json()?;
        Ok(Wanted { job: jobfile::from_value(job)?, piece, frame, brief, geometry, list })
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
    list: bool,
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
    let Wanted { job, piece, frame, brief, geometry, list } = w;
    let part = |told: [&str; 3], made: bool, stops: usize, findings: &[Finding], sizes: [f64; 3]| {
        let count = |of: Severity| findings.iter().filter(|f| f.severity == of).count();
        let [id, mark, name] = told.map(String::from);
        let [thickness, longest, mass] = if made { sizes } else { [0.0; 3] };
        PartState {
            id,
            mark,
            name,
            made,
            stops,
            warns: count(Severity::Warn),
            notes: count(Severity::Note),
            thickness,
            longest,
            mass,
            mass_said: if made { job.display.mass_number(mass) } else { Printed::words("") },
        }
    };
    let piece_state = |p: &PieceResult| {
        let mass = if p.made { p.mass_with_pads() } else { 0.0 };
        let longest = if p.made { p.value("flat_length").max(p.value("flat_width")) } else { 0.0 };
        let told = [p.id.as_str(), p.mark.as_str(), p.name.as_str()];
        part(told, p.made, p.stops(), &p.findings, [p.thickness, longest, mass])
    };
    let frame_state = |f: &FrameResult| {
        let longest = f.members.iter().map(|m| m.length).fold(0.0, f64::max);
        let told = [f.id.as_str(), f.mark.as_str(), f.name.as_str()];
        part(told, f.made, f.stops(), &f.findings, [0.0, longest, f.mass()])
    };
    Evaluated {
        piece_states: result.pieces.iter().map(|p| piece_state(p)).collect(),
        frame_states: result.frames.iter().map(|f| frame_state(f)).collect(),
        frame: result.frames.iter().find(|f| f.id == *frame).map(|f| frame_view(f)),
        piece: result.pieces.iter().find(|p| p.id == *piece).map(|p| piece_view(p, *geometry)),
        brief_states: brief_states(job, result),
        brief: brief_view(result, brief),
        cut_list: list.then(|| cut_list(job, result)),
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
