//! Drafts: evaluated without being saved. Short text and DXF become recipe lines.

use actix_web::web::{Bytes, Data, Json, Query};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use steelk_core::cutlist::{CutList, cut_list};
use steelk_core::frame::read_frame_short;
use steelk_core::job::{FrameSay, Job, Line, Say};
use steelk_core::quantity::{Display, Fault, FigureValue, LengthUnit};
use steelk_core::result::{LineFault, Severity};
use steelk_core::sheet;
use steelk_formats::{dxf, jobfile};
use utoipa::ToSchema;

use super::problem::Problem;
use super::{State, work};
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
}

#[derive(Serialize, ToSchema)]
pub struct Brief {
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
    pub briefs: Vec<Brief>,
    pub frame_briefs: Vec<Brief>,
    pub frame: Option<FrameView>,
    pub piece: Option<PieceView>,
    pub cut_list: CutList,
}

#[utoipa::path(post, path = "/api/evaluate", request_body = EvaluateBody, responses((status = 200, body = Evaluated), (status = 422, body = Problem)))]
pub async fn evaluate(state: Data<State>, body: Json<EvaluateBody>) -> Result<Json<Evaluated>, Problem> {
    let EvaluateBody { job, piece, frame } = body.into_inner();
    work(move || {
        let job = jobfile::from_value(job)?;
        let result = state.cache.job(&job);
        let briefs = result
            .pieces
            .iter()
            .map(|p| Brief {
                id: p.id.clone(),
                mark: p.mark.clone(),
                name: p.name.clone(),
                made: p.made,
                stops: p.stops(),
                warns: p.findings.iter().filter(|f| f.severity == Severity::Warn).count(),
            })
            .collect();
        let frame_briefs = result
            .frames
            .iter()
            .map(|f| Brief {
                id: f.id.clone(),
                mark: f.mark.clone(),
                name: f.name.clone(),
                made: f.made,
                stops: f.stops(),
                warns: f.findings.iter().filter(|f| f.severity == Severity::Warn).count(),
            })
            .collect();
        let frame = result.frames.iter().find(|f| f.id == frame).map(|f| frame_view(f));
        let piece = result.pieces.iter().find(|p| p.id == piece).map(|p| piece_view(p));
        let cut_list = cut_list(&job, &result);
        Ok(Json(Evaluated { figures: result.figures, faults: result.faults, briefs, frame_briefs, frame, piece, cut_list }))
    })
    .await
}

#[derive(Deserialize, ToSchema)]
pub struct ShortBody {
    pub text: String,
    /// Ids of the cuts that the recipe has.
    #[serde(default)]
    pub known: Vec<String>,
}

/// Either what the line says, or what is wrong with it.
#[derive(Serialize, ToSchema)]
pub struct ShortRead {
    pub say: Option<Say>,
    pub fault: Option<Fault>,
}

#[utoipa::path(post, path = "/api/short", request_body = ShortBody, responses((status = 200, body = ShortRead)))]
pub async fn short(body: Json<ShortBody>) -> Json<ShortRead> {
    Json(match sheet::read_short(&body.text, &body.known) {
        Ok(say) => ShortRead { say: Some(say), fault: None },
        Err(fault) => ShortRead { say: None, fault: Some(fault) },
    })
}

#[derive(Deserialize, ToSchema)]
pub struct FrameShortBody {
    pub text: String,
    /// Names of the nodes that the frame has.
    #[serde(default)]
    pub nodes: Vec<String>,
}

/// Either what the line of a frame says, or what is wrong with it.
#[derive(Serialize, ToSchema)]
pub struct FrameShortRead {
    pub say: Option<FrameSay>,
    pub fault: Option<Fault>,
}

#[utoipa::path(post, path = "/api/frame-short", request_body = FrameShortBody, responses((status = 200, body = FrameShortRead)))]
pub async fn frame_short(body: Json<FrameShortBody>) -> Json<FrameShortRead> {
    Json(match read_frame_short(&body.text, &body.nodes) {
        Ok(say) => FrameShortRead { say: Some(say), fault: None },
        Err(fault) => FrameShortRead { say: None, fault: Some(fault) },
    })
}

#[derive(Deserialize, ToSchema)]
pub struct DxfQuery {
    /// Unit of the recipe that is made, and of a file that names none.
    #[serde(default)]
    pub unit: LengthUnit,
}

/// Recipe lines for the contours of a DXF.
#[derive(Serialize, ToSchema)]
pub struct DxfLines {
    pub lines: Vec<Line>,
    /// False when the header names no unit and the query's was taken.
    pub unit_known: bool,
    /// Bend lines in the file, which a recipe of contours cannot carry.
    pub bends_left_out: usize,
}

#[utoipa::path(post, path = "/api/dxf", params(("unit" = Option<LengthUnit>, Query,)), request_body(content = Vec<u8>, content_type = "image/vnd.dxf"), responses((status = 200, body = DxfLines), (status = 422, body = Problem)))]
pub async fn import_dxf(query: Query<DxfQuery>, body: Bytes) -> Result<Json<DxfLines>, Problem> {
    let unit = query.unit;
    work(move || {
        let content = dxf::read(&body, unit)?;
        if content.contours.len() > 5_000 {
            return Err(Problem::new(
                422,
                format!("The file holds {} contours; a recipe takes 5,000", content.contours.len()),
                "leave repeated holes out and repeat them in the recipe",
            ));
        }
        let display = Display { length: unit, ..Display::default() };
        Ok(Json(DxfLines { lines: sheet::lines_from(&content.contours, &display), unit_known: content.unit.is_some(), bends_left_out: content.bends.len() }))
    })
    .await
}
