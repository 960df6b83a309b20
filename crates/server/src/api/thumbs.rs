//! The small pictures of a job's list.

use std::collections::HashMap;

use actix_web::web::Data;
use actix_web::{HttpRequest, HttpResponse};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use steelk_core::job::Job;
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;
use super::{State, about_job, json};
use crate::thumbs::{Thumb, of_frame, of_piece};

#[derive(Deserialize, ToSchema)]
pub struct ThumbsBody {
    /// The job, saved or not.
    #[schema(value_type = Job)]
    pub job: Value,
    /// Keys of the pictures that the page has, by id.
    #[serde(default)]
    pub pieces: HashMap<String, String>,
    #[serde(default)]
    pub frames: HashMap<String, String>,
}

#[derive(Serialize, ToSchema)]
pub struct Thumbs {
    pub pieces: Vec<Thumb>,
    pub frames: Vec<Thumb>,
}

#[utoipa::path(post, path = "/api/thumbs", request_body = ThumbsBody, responses((status = 200, body = Thumbs),
    (status = 422, body = Problem)))]
pub async fn thumbs(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    about_job::<ThumbsBody>(
        (state, request, body),
        |told| told.job.take(),
        |_, result, told| {
            json(&Thumbs {
                pieces: result.pieces.iter().map(|p| of_piece(p).unless(told.pieces.get(&p.id))).collect(),
                frames: result.frames.iter().map(|f| of_frame(f).unless(told.frames.get(&f.id))).collect(),
            })
        },
    )
    .await
}
