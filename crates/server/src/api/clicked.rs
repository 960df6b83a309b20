//! What can be said of geometry that was clicked.

use actix_web::web::Data;
use actix_web::{HttpRequest, HttpResponse};
use serde::Deserialize;
use serde_json::Value;
use steelk_core::evaluate::{Clicked, Offers, offers};
use steelk_core::job::Job;
use steelk_formats::jobfile;
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;
use super::{Asked, State, json, json_answer};

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
    let asked = Asked::of(&request, body.bytes.len()).beside();
    let read = move |_: &State| {
        let told = body.json::<ClickedBody>()?;
        let job: Job = jobfile::from_value(told.job)?;
        Ok((job, (told.piece, told.clicked)))
    };
    let bytes = state
        .with_job(asked, read, |state, (job, (piece, clicked))| {
            let result = state.cache.job(&job);
            let found = result.pieces.iter().find(|p| p.id == piece);
            let none = || Problem::new(422, format!("The job has no piece '{piece}'"), "name one by its id");
            json(&offers(found.ok_or_else(none)?, &clicked))
        })
        .await?;
    state.send(json_answer(), bytes).await
}
