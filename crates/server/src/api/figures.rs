//! The named figures of a job: what depends on each, and its variants side by side.

use actix_web::web::Data;
use actix_web::{HttpRequest, HttpResponse};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use steelk_core::evaluate::{FigureUses, VariantRow, figure_uses, variants};
use steelk_core::job::Job;
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;
use super::{State, about_job, json};

#[derive(Deserialize, ToSchema)]
pub struct FiguresBody {
    /// The job, saved or not.
    #[schema(value_type = Job)]
    pub job: Value,
}

#[derive(Serialize, ToSchema)]
pub struct Uses {
    /// In the order of the job's figures.
    pub figures: Vec<FigureUses>,
}

#[derive(Serialize, ToSchema)]
pub struct Compared {
    /// The job as it stands, then its variants.
    pub rows: Vec<VariantRow>,
}

#[utoipa::path(post, path = "/api/uses", request_body = FiguresBody, responses((status = 200, body = Uses),
    (status = 422, body = Problem)))]
pub async fn uses(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    about_job::<FiguresBody>(
        (state, request, body),
        |told| told.job.take(),
        |job, result, _| json(&Uses { figures: figure_uses(job, result) }),
    )
    .await
}

#[utoipa::path(post, path = "/api/variants", request_body = FiguresBody, responses((status = 200,
    body = Compared), (status = 422, body = Problem)))]
pub async fn compared(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    about_job::<FiguresBody>(
        (state, request, body),
        |told| told.job.take(),
        |job, _, _| json(&Compared { rows: variants(job) }),
    )
    .await
}
