//! Long work told as it goes: bars onto stock, one JSON value a line. A client that goes away stops it. And skeletons read from CSV.

use std::pin::Pin;
use std::task::{Context, Poll};

use actix_web::HttpResponse;
use actix_web::http::header;
use actix_web::web::{Bytes, Data, Json};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use steelk_core::cutlist::cut_list;
use steelk_core::job::{FrameLine, Job};
use steelk_core::layout::{BarPlan, bar_plans};
use steelk_core::result::LineFault;
use steelk_formats::{jobfile, skeleton as skeleton_file};
use tokio::sync::mpsc::{UnboundedReceiver, unbounded_channel};
use utoipa::ToSchema;

use super::problem::Problem;
use super::{State, work};

#[derive(Deserialize, ToSchema)]
pub struct BarsBody {
    #[schema(value_type = Job)]
    pub job: Value,
}

/// A line of the answer: how far it is, or the plans at its end.
#[derive(Serialize, ToSchema)]
pub struct BarsLine {
    /// 0 to 1.
    pub progress: f64,
    pub section: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub plans: Option<Vec<BarPlan>>,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub faults: Vec<LineFault>,
}

struct Lines(UnboundedReceiver<BarsLine>);

impl futures_core::Stream for Lines {
    type Item = Result<Bytes, std::convert::Infallible>;

    fn poll_next(mut self: Pin<&mut Self>, cx: &mut Context<'_>) -> Poll<Option<Self::Item>> {
        self.0.poll_recv(cx).map(|line| line.map(|l| Ok(Bytes::from(serde_json::to_string(&l).unwrap_or_default() + "\n"))))
    }
}

#[utoipa::path(post, path = "/api/bars", request_body = BarsBody, responses((status = 200, body = BarsLine, content_type = "application/x-ndjson"), (status = 422, body = Problem)))]
pub async fn bars(state: Data<State>, body: Json<BarsBody>) -> Result<HttpResponse, Problem> {
    let job = body.into_inner().job;
    let (job, list) = work(move || {
        let job = jobfile::from_value(job)?;
        let list = cut_list(&job, &state.cache.job(&job));
        Ok((job, list))
    })
    .await?;
    let (tell, told) = unbounded_channel();
    std::thread::spawn(move || {
        let mut last = -1.0;
        let (plans, faults) = bar_plans(&job, &list, &mut |section, progress| {
            // Told in whole hundredths; a reader that is gone ends the work.
            if progress - last >= 0.01 {
                last = progress;
                let _ = tell.send(BarsLine { progress, section: section.into(), plans: None, faults: Vec::new() });
            }
            !tell.is_closed()
        });
        let _ = tell.send(BarsLine { progress: 1.0, section: String::new(), plans: Some(plans), faults });
    });
    // Sent as it comes: compression would hold lines back.
    Ok(HttpResponse::Ok().content_type("application/x-ndjson").insert_header((header::CONTENT_ENCODING, "identity")).streaming(Lines(told)))
}

/// Frame lines for the rows of a file.
#[derive(Serialize, ToSchema)]
pub struct SkeletonLines {
    pub lines: Vec<FrameLine>,
    /// `row 3: …`
    pub left_out: Vec<String>,
}

#[utoipa::path(post, path = "/api/skeleton", request_body(content = Vec<u8>, content_type = "text/csv"), responses((status = 200, body = SkeletonLines), (status = 422, body = Problem)))]
pub async fn skeleton(body: Bytes) -> Result<Json<SkeletonLines>, Problem> {
    work(move || {
        let read = skeleton_file::read(&body);
        if read.lines.is_empty() {
            return Err(Problem::new(
                422,
                "The file holds no node and no member".to_string(),
                "write rows such as node,A,0,0,0 and member,rail,A B,SHS 60x60x3",
            ));
        }
        Ok(Json(SkeletonLines { lines: read.lines, left_out: read.left_out.into_iter().map(|(row, why)| format!("row {row}: {why}")).collect() }))
    })
    .await
}
