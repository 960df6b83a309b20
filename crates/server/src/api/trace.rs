//! Outlines out of pictures.

use std::sync::Arc;

use actix_web::web::Data;
use actix_web::{HttpRequest, HttpResponse};
use serde::Deserialize;
use serde_json::Value;
use steelk_core::job::Job;
use steelk_core::trace::Gray;
use steelk_core::traced::{TracedResult, traced};
use steelk_formats::jobfile;
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;
use super::{Asked, State, json, json_answer};

#[derive(Deserialize, ToSchema)]
pub struct TraceBody {
    /// The job, saved or not.
    #[schema(value_type = Job)]
    pub job: Value,
    /// Id of the piece that is traced.
    pub piece: String,
}

/// What a tracing comes to: figures found in the picture, the outline that they say, and how far it lies from
/// the picture.
#[utoipa::path(post, path = "/api/trace", request_body = TraceBody, responses((status = 200,
    body = TracedResult), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub async fn trace(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    let asked = Asked::of(&request, body.bytes.len()).beside();
    let held = state.clone();
    let work = move || {
        let mut told: TraceBody = body.json()?;
        let job: Job = jobfile::from_value(told.job.take())?;
        let piece = job.pieces.iter().find(|p| p.id == told.piece);
        let message = || format!("The job has no piece '{}'", told.piece);
        let piece = piece.ok_or_else(|| Problem::new(422, message(), "name one by its id"))?;
        let tracing = piece.tracing.as_ref().ok_or_else(|| {
            Problem::new(422, "The piece is not traced from a picture", "give it a picture first")
        })?;
        let picture = held.picture(&tracing.picture)?;
        json(&traced(&job, piece, &picture))
    };
    let bytes = state.work(asked, work).await?;
    state.send(json_answer(), bytes).await
}

impl State {
    fn picture(&self, digest: &str) -> Result<Arc<Gray>, Problem> {
        if let Some(known) = self.pictures.get(digest) {
            return Ok(known);
        }
        let (_, bytes) = self.held(digest)?;
        let read = steelk_core::trace::read(&bytes);
        let picture = read.map_err(|e| Problem::new(422, e.to_string(), "bring a PNG or a JPEG"))?;
        let picture = Arc::new(picture);
        self.pictures.keep(digest, picture.clone());
        Ok(picture)
    }
}
