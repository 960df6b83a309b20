//! What the figures of a brief that are not tied could be of, and what of the model they do not speak of.

use actix_web::web::Data;
use actix_web::{HttpRequest, HttpResponse};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use steelk_core::brief::Proposal;
use steelk_core::evaluate::{Coverage, coverage, proposals};
use steelk_core::job::Job;
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;
use super::{State, about_job, json};

#[derive(Deserialize, ToSchema)]
pub struct TiesBody {
    /// The job, saved or not.
    #[schema(value_type = Job)]
    pub job: Value,
    /// Id of the brief.
    pub brief: String,
}

#[derive(Serialize, ToSchema)]
pub struct Ties {
    /// For each figure that is not tied: the change that ties it, or why none is clear.
    pub proposals: Vec<Proposal>,
}

#[utoipa::path(post, path = "/api/ties", request_body = TiesBody, responses((status = 200, body = Ties),
    (status = 422, body = Problem)))]
pub async fn ties(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    about_job::<TiesBody>(
        (state, request, body),
        |told| told.job.take(),
        |job, result, told| json(&Ties { proposals: proposals(job, result, &told.brief).map_err(none)? }),
    )
    .await
}

/// Each value of the piece or frame is changed a little: those that no figure follows, and the figures that
/// follow none.
#[utoipa::path(post, path = "/api/coverage", request_body = TiesBody, responses((status = 200,
    body = Coverage), (status = 422, body = Problem)))]
pub async fn covered(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    about_job::<TiesBody>(
        (state, request, body),
        |told| told.job.take(),
        |job, result, told| json::<Coverage>(&coverage(job, result, &told.brief).map_err(none)?),
    )
    .await
}

fn none(why: String) -> Problem {
    Problem::new(422, why, "name the piece or frame that the brief is of")
}
