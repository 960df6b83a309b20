//! A long search for an order of bends, told as it goes, one JSON value a line. A client that goes away stops
//! it.

use actix_web::web::Data;
use actix_web::{HttpRequest, HttpResponse};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use steelk_core::evaluate::evaluate_searching;
use steelk_core::job::Job;
use steelk_core::sheet::brake::{Effort, Search};
use steelk_formats::jobfile;
use utoipa::ToSchema;

use super::bars::told_as_it_goes;
use super::body::Body;
use super::problem::Problem;
use super::{Asked, State};

#[derive(Deserialize, ToSchema)]
pub struct OrderBody {
    #[schema(value_type = Job)]
    pub job: Value,
    /// Id of the piece.
    pub piece: String,
}

/// A line of the answer: how far the search is, and at its end (`progress` 1) the order.
#[derive(Default, Serialize, ToSchema)]
pub struct OrderLine {
    /// 0 to 1.
    pub progress: f64,
    /// Names of the bends in the best order that was found; set by hand it stays.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub order: Option<Vec<String>>,
    /// Bends of it that strike something.
    pub struck: usize,
    /// How the order stands, in a sentence.
    #[serde(skip_serializing_if = "String::is_empty")]
    pub said: String,
    /// Why there is none.
    #[serde(skip_serializing_if = "String::is_empty")]
    pub trouble: String,
}

#[utoipa::path(post, path = "/api/order", request_body = OrderBody, responses((status = 200,
    body = OrderLine, content_type = "application/x-ndjson"), (status = 422, body = Problem)))]
pub async fn order(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    let asked = Asked::of(&request, body.bytes.len()).beside();
    let read = move || {
        let told = body.json::<OrderBody>()?;
        let job: Job = jobfile::from_value(told.job)?;
        let none = || {
            Problem::new(
                422,
                format!("The job has no piece '{}'", told.piece),
                "name one of its pieces by its id",
            )
        };
        let piece = job.pieces.iter().position(|p| p.id == told.piece).ok_or_else(none)?;
        Ok((job, piece))
    };
    let (job, piece) = state.work(asked, read).await?;
    let trouble = |trouble| OrderLine { progress: 1.0, trouble, ..OrderLine::default() };
    Ok(told_as_it_goes(state, trouble, move |say, on| {
        say(OrderLine::default());
        let mut last = 0.0;
        let mut going = |progress: f64| {
            if progress - last >= 0.01 {
                last = progress;
                say(OrderLine { progress: progress.min(0.99), ..OrderLine::default() });
            }
            on()
        };
        let made = evaluate_searching(
            &job,
            &job.pieces[piece],
            &mut Search { effort: Effort::LONG, on: &mut going },
        );
        let struck = made.bend_rows.iter().filter(|r| !r.strikes.is_empty()).count();
        let order = Some(made.bend_rows.iter().map(|r| r.name.clone()).collect());
        OrderLine { progress: 1.0, order, struck, said: made.plan.said, ..OrderLine::default() }
    }))
}
