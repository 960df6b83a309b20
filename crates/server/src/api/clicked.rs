//! What can be said of geometry that was clicked.

use actix_web::web::Data;
use actix_web::{HttpRequest, HttpResponse};
use serde::Deserialize;
use serde_json::Value;
use steelk_core::evaluate::{Clicked, Offers, offers};
use steelk_core::job::Job;
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;
use super::{State, about_job, json};

#[derive(Deserialize, ToSchema)]
pub struct ClickedBody {
    /// The job, saved or not.
    #[schema(value_type = Job)]
    pub job: Value,
    /// Id of the piece.
    pub piece: String,
    pub clicked: Clicked,
}

#[utoipa::path(post, path = "/api/clicked", request_body = ClickedBody, responses((status = 200,
    body = Offers), (status = 422, body = Problem)))]
pub async fn clicked(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    about_job::<ClickedBody>(
        (state, request, body),
        |told| told.job.take(),
        |_, result, told| {
            let found = result.pieces.iter().find(|p| p.id == told.piece);
            let message = || format!("The job has no piece '{}'", told.piece);
            let piece = found.ok_or_else(|| Problem::new(422, message(), "name one by its id"))?;
            json(&offers(piece, &told.clicked))
        },
    )
    .await
}
