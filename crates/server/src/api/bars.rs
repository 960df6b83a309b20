//! Long work told as it goes: bars onto stock, one JSON value a line. A client that goes away stops it. And
//! skeletons read from CSV.

use std::pin::Pin;
use std::task::{Context, Poll};
use std::time::Instant;

use actix_web::http::header;
use actix_web::web::{Bytes, Data, Json, Query};
use actix_web::{HttpRequest, HttpResponse};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use steelk_core::evaluate::bar_plans;
use steelk_core::evaluate::cut_list;
use steelk_core::job::{FrameLine, Job};
use steelk_core::layout::BarPlan;
use steelk_core::layout::Effort;
use steelk_core::quantity::LengthUnit;
use steelk_core::result::LineFault;
use steelk_formats::{jobfile, skeleton as skeleton_file};
use tokio::sync::mpsc::{UnboundedReceiver, unbounded_channel};
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;
use super::{Asked, State};
use crate::desk::{LONGEST_SEARCH, Weight};

#[derive(Deserialize, ToSchema)]
pub struct BarsBody {
    #[schema(value_type = Job)]
    pub job: Value,
}

/// A line of the answer: how far it is; a first plan early on, and the best that was found at the end
/// (`progress` 1).
#[derive(Default, Serialize, ToSchema)]
pub struct BarsLine {
    /// 0 to 1.
    pub progress: f64,
    pub section: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub plans: Option<Vec<BarPlan>>,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub faults: Vec<LineFault>,
    /// Why no plan could be made.
    #[serde(skip_serializing_if = "String::is_empty")]
    pub trouble: String,
}

struct Lines<T>(UnboundedReceiver<T>);

/// Long work, told line by line as it goes. `work` is handed how to say a line and whether to go on: not when
/// the reader is gone, somebody ends it, or it has taken its time; then it takes what it has. Its last line
/// is the answer; `trouble` makes one of a failure.
pub(super) fn told_as_it_goes<T: Serialize + Send + 'static>(
    state: Data<State>,
    trouble: fn(String) -> T,
    work: impl FnOnce(&dyn Fn(T), &dyn Fn() -> bool) -> T + Send + 'static,
) -> HttpResponse {
    let (tell, told) = unbounded_channel();
    let stop = state.desk.stop_of("");
    actix_web::rt::spawn(async move {
        let (say, ended) = (tell.clone(), stop.clone());
        let work = move || {
            let begun = Instant::now();
            let on = || {
                !say.is_closed()
                    && !ended.load(std::sync::atomic::Ordering::Relaxed)
                    && begun.elapsed() < LONGEST_SEARCH
            };
            let line = |l: T| drop(say.send(l));
            Ok(work(&line, &on))
        };
        // The work ends by itself; its stop is asked between steps, so that the best so far still comes.
        let line = state.desk.run(Weight::Large, Default::default(), None, work).await;
        state.desk.done(&stop);
        let _ = tell.send(line.unwrap_or_else(|p| trouble(p.to_string())));
    });
    // Sent as it comes: compression would hold lines back.
    HttpResponse::Ok()
        .content_type("application/x-ndjson")
        .insert_header((header::CONTENT_ENCODING, "identity"))
        .streaming(Lines(told))
}

impl<T: Serialize> futures_core::Stream for Lines<T> {
    type Item = Result<Bytes, std::convert::Infallible>;

    fn poll_next(mut self: Pin<&mut Self>, cx: &mut Context<'_>) -> Poll<Option<Self::Item>> {
        self.0
            .poll_recv(cx)
            .map(|line| line.map(|l| Ok(Bytes::from(serde_json::to_string(&l).unwrap_or_default() + "\n"))))
    }
}

#[utoipa::path(post, path = "/api/bars", request_body = BarsBody, responses((status = 200, body = BarsLine,
    content_type = "application/x-ndjson"), (status = 422, body = Problem)))]
pub async fn bars(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    let asked = Asked::of(&request, body.bytes.len()).beside();
    let read = move |_: &State| Ok(jobfile::from_value(body.json::<BarsBody>()?.job)?);
    let (list, shop) = state
        .with_job(asked, read, |state, job| {
            let result = state.cache.job(&job);
            Ok((cut_list(&job, &result), result.shop))
        })
        .await?;
    let trouble = |trouble| BarsLine { progress: 1.0, trouble, ..BarsLine::default() };
    Ok(told_as_it_goes(state, trouble, move |say, on| {
        let of_bars = |f: &&LineFault| f.path.starts_with("/bars") || f.path.starts_with("/saw");
        let faults: Vec<LineFault> = shop.faults.iter().filter(of_bars).cloned().collect();
        // A first plan at once; whoever stops the search keeps it.
        let plans = bar_plans(&shop, &list, Effort::Quick, &mut |_, _| on());
        say(BarsLine { progress: 0.01, plans: Some(plans), faults: faults.clone(), ..BarsLine::default() });
        let plans = bar_plans(&shop, &list, Effort::Fair, &mut |_, _| on());
        let settled = plans.iter().all(|p| p.proven);
        let line = BarsLine {
            progress: if settled { 1.0 } else { 0.1 },
            plans: Some(plans),
            faults: faults.clone(),
            ..BarsLine::default()
        };
        if settled {
            return line;
        }
        say(line);
        let mut last = 0.1;
        let plans = bar_plans(&shop, &list, Effort::Full, &mut |section, progress| {
            // Told in whole hundredths.
            if progress - last >= 0.01 {
                last = progress;
                say(BarsLine { progress, section: section.into(), ..BarsLine::default() });
            }
            on()
        });
        BarsLine { progress: 1.0, plans: Some(plans), faults, ..BarsLine::default() }
    }))
}

/// Frame lines for the rows of a file.
#[derive(Serialize, ToSchema)]
pub struct SkeletonLines {
    pub lines: Vec<FrameLine>,
    /// `row 3: …`
    pub left_out: Vec<String>,
}

#[derive(Deserialize, ToSchema)]
pub struct SkeletonQuery {
    /// Unit of the frame that takes the lines in: lengths of a file in another carry theirs.
    pub unit: Option<LengthUnit>,
}

#[utoipa::path(post, path = "/api/skeleton", params(("unit" = Option<LengthUnit>, Query,)),
    request_body(content = Vec<u8>, content_type = "text/csv"), responses((status = 200,
        body = SkeletonLines), (status = 422, body = Problem)))]
pub async fn skeleton(
    state: Data<State>,
    query: Query<SkeletonQuery>,
    request: HttpRequest,
    body: Body,
) -> Result<Json<SkeletonLines>, Problem> {
    let asked = Asked::of(&request, body.bytes.len()).beside();
    let work = move || {
        let read = skeleton_file::read(&body.bytes, query.unit);
        if read.lines.is_empty() {
            return Err(Problem::new(
                422,
                match read.left_out.first() {
                    Some((row, why)) => format!("The file holds no node and no member: row {row}: {why}"),
                    None => "The file holds no node and no member".to_string(),
                },
                "write rows such as node,A,0,0,0 and member,rail,A B,SHS 60x60x3",
            ));
        }
        Ok(Json(SkeletonLines {
            lines: read.lines,
            left_out: read.left_out.into_iter().map(|(row, why)| format!("row {row}: {why}")).collect(),
        }))
    };
    state.work(asked, work).await
}
