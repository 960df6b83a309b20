//! Pieces, frames and jobs as text, and back.

use actix_web::web::{Data, Json};
use actix_web::{HttpRequest, HttpResponse};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use steelk_core::grammar::{Bench, TextFault};
use steelk_core::job::text::{
    print_brief, print_frame, print_job, print_piece, read_brief, read_frame, read_job, read_piece,
};
use steelk_core::job::{Brief, Frame, Job, Piece, put_over};
use steelk_core::verbs::{BRIEF, FRAME, PIECE};
use steelk_formats::jobfile;
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;
use super::{Asked, State, json, json_answer};

/// One of these.
#[derive(Deserialize, ToSchema)]
pub struct TextBody {
    #[schema(value_type = Option<Piece>)]
    #[serde(default)]
    pub piece: Option<Value>,
    #[schema(value_type = Option<Frame>)]
    #[serde(default)]
    pub frame: Option<Value>,
    #[schema(value_type = Option<Brief>)]
    #[serde(default)]
    pub brief: Option<Value>,
    #[schema(value_type = Option<Job>)]
    #[serde(default)]
    pub job: Option<Value>,
}

#[derive(Serialize, ToSchema)]
pub struct Text {
    pub text: String,
}

fn typed<T: serde::de::DeserializeOwned>(value: Value) -> Result<T, Problem> {
    serde_json::from_value(value)
        .map_err(|e| Problem::new(422, format!("It cannot be read: {e}"), "see /api/openapi.json"))
}

/// A piece, a frame, a brief or a job as a text that a person reads.
#[utoipa::path(post, path = "/api/text", request_body = TextBody, responses((status = 200, body = Text)))]
pub async fn text(body: Body) -> Result<Json<Text>, Problem> {
    let body: TextBody = body.json()?;
    let text = match (body.piece, body.frame, body.brief, body.job) {
        (Some(piece), ..) => print_piece(&typed(piece)?, false),
        (_, Some(frame), ..) => print_frame(&typed(frame)?, false),
        (_, _, Some(brief), _) => print_brief(&typed(brief)?, false),
        (.., Some(job)) => print_job(&jobfile::from_value(job)?),
        _ => {
            return Err(Problem::new(
                422,
                "Nothing was sent to be printed",
                "send a piece, a frame, a brief or a job",
            ));
        }
    };
    Ok(Json(Text { text }))
}

#[derive(Clone, Copy, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum TextOf {
    Piece,
    Frame,
    Brief,
    Job,
}

#[derive(Deserialize, ToSchema)]
pub struct TextReadBody {
    pub of: TextOf,
    pub text: String,
    /// The piece or frame as it stands: lines that still say the same stay as they are stored.
    #[schema(value_type = Option<Object>)]
    #[serde(default)]
    pub now: Option<Value>,
}

/// What was read, and what could not be. A piece or frame has no id and no issued numbers: those stay with
/// what it replaces.
#[derive(Serialize, ToSchema)]
pub struct TextRead {
    #[schema(value_type = Option<Piece>)]
    pub piece: Option<Value>,
    #[schema(value_type = Option<Frame>)]
    pub frame: Option<Value>,
    #[schema(value_type = Option<Brief>)]
    pub brief: Option<Value>,
    #[schema(value_type = Option<Job>)]
    pub job: Option<Value>,
    pub faults: Vec<TextFault>,
}

/// A text → the piece, frame, brief or job that it tells.
#[utoipa::path(post, path = "/api/text/read", request_body = TextReadBody, responses((status = 200,
    body = TextRead)))]
pub async fn read_text(
    state: Data<State>,
    request: HttpRequest,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let asked = Asked::of(&request, body.bytes.len()).beside();
    let work = move || {
        let body: TextReadBody = body.json()?;
        let mut out = TextRead { piece: None, frame: None, brief: None, job: None, faults: Vec::new() };
        match body.of {
            TextOf::Piece => {
                let (piece, faults) = read_piece(&body.text);
                out.faults = faults;
                out.piece = piece
                    .map(|p| kept(&PIECE, serde_json::to_value(p).unwrap_or_default(), body.now.as_ref()));
            }
            TextOf::Frame => {
                let (frame, faults) = read_frame(&body.text);
                out.faults = faults;
                out.frame = frame
                    .map(|f| kept(&FRAME, serde_json::to_value(f).unwrap_or_default(), body.now.as_ref()));
            }
            TextOf::Brief => {
                let (brief, faults) = read_brief(&body.text);
                out.faults = faults;
                out.brief = brief
                    .map(|b| kept(&BRIEF, serde_json::to_value(b).unwrap_or_default(), body.now.as_ref()));
            }
            TextOf::Job => {
                let (job, faults) = read_job(&body.text);
                out.faults = faults;
                out.job = Some(serde_json::to_value(job).unwrap_or_default());
            }
        }
        json(&out)
    };
    let bytes = state.work(asked, work).await?;
    state.send(json_answer(), bytes).await
}

/// What was read, in the place of what stands.
fn kept(bench: &Bench, mut read: Value, now: Option<&Value>) -> Value {
    let Some(now) = now else { return read };
    let pairs = |of: &Value| -> Vec<(String, Value)> {
        let one = |l: &Value| (l["id"].as_str().unwrap_or_default().to_string(), l["say"].clone());
        of["lines"].as_array().into_iter().flatten().map(one).collect()
    };
    let issued = serde_json::from_value(now["issued"].clone()).unwrap_or_default();
    let put = put_over(bench, pairs(&read), &pairs(now), &issued);
    for (line, (id, say)) in read["lines"].as_array_mut().into_iter().flatten().zip(put) {
        line["id"] = id.into();
        line["say"] = say;
    }
    read
}
