//! What a request brings along, read within bounds: of size, of time, and of what all requests together may
//! hold in memory.

use std::future::{Future, poll_fn};
use std::pin::Pin;
use std::sync::Arc;
use std::time::Duration;

use actix_web::dev::Payload;
use actix_web::error::PayloadError;
use actix_web::http::header;
use actix_web::web::{Bytes, BytesMut, Data};
use actix_web::{FromRequest, HttpRequest};
use futures_core::Stream;
use serde::de::DeserializeOwned;
use steelk_formats::{drawn, jobfile, strict};
use tokio::sync::OwnedSemaphorePermit;

use super::State;
use super::problem::Problem;

/// Between two parts of a body.
const STALL: Duration = Duration::from_secs(10);
/// From the first part to the last.
const WHOLE: Duration = Duration::from_secs(60);
/// How long a large body waits for others to be done.
const PATIENCE: Duration = Duration::from_secs(10);
/// Bodies up to this size need no leave.
const SMALL: usize = 64 * 1024;

/// Of a body that is too large, so much is heard and dropped.
const PASSED_OVER: usize = 64 * 1024 * 1024;

/// Around a job: the ids of what is to be drawn, a note.
const WRAPPING: usize = 4096;

/// The bytes of a request, with the leave to hold them.
pub struct Body {
    pub bytes: Bytes,
    _leave: Option<OwnedSemaphorePermit>,
}

impl Body {
    /// JSON as the description has it: no key twice, no field unknown.
    pub fn json<T: DeserializeOwned>(&self) -> Result<T, Problem> {
        let bad = |why: String| {
            Problem::new(
                400,
                format!("The request cannot be read: {why}"),
                "send JSON as /api/openapi.json describes it",
            )
        };
        serde_json::from_value(self.value()?).map_err(|e| bad(e.to_string()))
    }

    pub fn value(&self) -> Result<serde_json::Value, Problem> {
        strict::value(&self.bytes).map_err(|why| {
            Problem::new(
                400,
                format!("The request cannot be read: {why}"),
                "send JSON as /api/openapi.json describes it",
            )
        })
    }
}

fn most(request: &HttpRequest) -> usize {
    if request.path().ends_with("/files") { drawn::MOST_BYTES } else { jobfile::MOST_BYTES + WRAPPING }
}

impl FromRequest for Body {
    type Error = Problem;
    type Future = Pin<Box<dyn Future<Output = Result<Body, Problem>>>>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let most = most(request);
        let told = request
            .headers()
            .get(header::CONTENT_LENGTH)
            .and_then(|v| v.to_str().ok()?.parse::<usize>().ok());
        let state = request.app_data::<Data<State>>().cloned();
        let payload = payload.take();
        Box::pin(async move {
            let too_large = || {
                Problem::new(
                    413,
                    format!("The request is larger than {} MB", most / 1_000_000),
                    "send less at once",
                )
            };
            if told.is_some_and(|n| n > most) {
                // Heard to its end, as far as that is bearable: a client that is cut off while it sends never
                // reads why.
                tokio::time::timeout(WHOLE, passed_over(payload)).await.ok();
                return Err(too_large());
            }
            let state = state.ok_or_else(|| Problem::ours("no state at this address"))?;
            let held = told.unwrap_or(most);
            let leave = if held > SMALL { Some(leave(&state.bodies, held).await?) } else { None };
            let whole = tokio::time::timeout(WHOLE, gather(payload, most, held)).await;
            let bytes = whole.map_err(|_| slow())??.ok_or_else(too_large)?;
            Ok(Body { bytes, _leave: leave })
        })
    }
}

async fn leave(bodies: &Arc<tokio::sync::Semaphore>, bytes: usize) -> Result<OwnedSemaphorePermit, Problem> {
    // One that is larger than all together may hold has them to itself.
    let n = u32::try_from((bytes / 1024 + 1).min(super::BODIES)).unwrap_or(u32::MAX);
    match tokio::time::timeout(PATIENCE, bodies.clone().acquire_many_owned(n)).await {
        Ok(Ok(leave)) => Ok(leave),
        _ => Err(Problem::busy("The server is at work on other large requests", 5)),
    }
}

fn slow() -> Problem {
    Problem::new(408, "The request came too slowly and was given up", "send it again")
}

/// Takes a body in without keeping it.
async fn passed_over(mut payload: Payload) {
    let mut left = PASSED_OVER;
    while left > 0 {
        let next = tokio::time::timeout(STALL, poll_fn(|cx| Pin::new(&mut payload).poll_next(cx))).await;
        let Ok(Some(Ok(part))) = next else { return };
        left = left.saturating_sub(part.len());
    }
}

/// The whole of a payload; none when it is larger than it may be.
async fn gather(mut payload: Payload, most: usize, about: usize) -> Result<Option<Bytes>, Problem> {
    let mut all = BytesMut::with_capacity(about.min(SMALL));
    loop {
        let next = tokio::time::timeout(STALL, poll_fn(|cx| Pin::new(&mut payload).poll_next(cx))).await;
        match next.map_err(|_| slow())? {
            None => return Ok(Some(all.freeze())),
            Some(Ok(part)) if all.len() + part.len() <= most => all.extend_from_slice(&part),
            Some(Ok(_)) | Some(Err(PayloadError::Overflow)) => return Ok(None),
            Some(Err(e)) => {
                return Err(Problem::new(400, format!("The request broke off: {e}"), "send it again"));
            }
        }
    }
}
