//! REST under `/api`, described by `/api/openapi.json`.

mod bars;
mod bend;
mod body;
mod clicked;
pub mod description;
mod evaluate;
mod jobs;
mod order;
pub use jobs::file_new;
pub use kept::digest;
mod drawings;
mod figures;
mod kept;
mod labels;
mod papers;
mod shelf;
mod starts;
mod text;
mod thumbs;
mod ties;
mod trace;
mod verbs;

use std::sync::Arc;

use actix_web::body::{BodySize, MessageBody};
use actix_web::web::{Bytes, Data};
use actix_web::{HttpRequest, HttpResponse, web};
use serde::Serialize;
use serde::de::DeserializeOwned;
use serde_json::Value;
use serde_json::json;
use steelk_core::halt;
use steelk_core::job::Job;
use steelk_core::result::JobResult;
use steelk_formats::jobfile;
use steelk_store::{Store, StoreError};
use tokio::sync::{OwnedSemaphorePermit, Semaphore};
use utoipa::OpenApi;

use crate::cache::Cache;
use crate::desk::{Desk, Weight};
use crate::line::Line;
use crate::pictures::Pictures;
use crate::problem;
use crate::weight;
use body::Body;
use problem::Problem;

/// Bodies of requests that are held at once, kB. A job takes some fifteen times its text while it is read.
const BODIES: usize = 24 * 1024;
/// Answers that are on their way at once, kB.
const ANSWERS: usize = 192 * 1024;
/// An answer up to this size needs no leave.
const SMALL_ANSWER: usize = 256 * 1024;
/// A job whose text is larger than this is large work from its reading on.
const LARGE_TEXT: usize = 512 * 1024;

/// What every request shares.
#[derive(Clone)]
pub struct State {
    pub store: Arc<Store>,
    pub cache: Arc<Cache>,
    pub desk: Arc<Desk>,
    pub bodies: Arc<Semaphore>,
    pub answers: Arc<Semaphore>,
    pub pictures: Arc<Pictures>,
}

impl State {
    pub fn new(store: Store) -> State {
        State {
            store: Arc::new(store),
            cache: Arc::default(),
            desk: Arc::default(),
            bodies: Arc::new(Semaphore::new(BODIES)),
            answers: Arc::new(Semaphore::new(ANSWERS)),
            pictures: Arc::default(),
        }
    }

    /// Asks the store, off the request threads. Reads never wait for writes.
    async fn ask<T: Send + 'static>(
        &self,
        f: impl FnOnce(&Store) -> Result<T, StoreError> + Send + 'static,
    ) -> Result<T, Problem> {
        let store = self.store.clone();
        let done = tokio::task::spawn_blocking(move || f(&store)).await;
        Ok(done.map_err(Problem::ours)??)
    }

    /// Reads a job and works on it, in the lane that its weight asks for. A newer request of the same client
    /// ends this one.
    async fn with_job<J: HasJob, T: Send + 'static>(
        &self,
        asked: Asked,
        read: impl FnOnce(&State) -> Result<J, Problem> + Send + 'static,
        then: impl FnOnce(&State, J) -> Result<T, Problem> + Send + 'static,
    ) -> Result<T, Problem> {
        enum Step<J, T, F> {
            Done(T),
            More(J, F),
        }
        let stop = self.desk.stop_of(&asked.client);
        let _asker = self.desk.asker(&stop, asked.line.is_some());
        let state = self.clone();
        let first = self.desk.run(asked.weight, stop.clone(), asked.line.as_ref(), move || {
            let read = read(&state)?;
            match weight::of_job(read.job(), read.picture(), &state.cache) {
                Weight::Large if asked.weight == Weight::Small => Ok(Step::More(read, then)),
                _ => then(&state, read).map(Step::Done),
            }
        });
        match first.await? {
            Step::Done(done) => Ok(done),
            Step::More(read, then) => {
                let state = self.clone();
                self.desk.run(Weight::Large, stop, asked.line.as_ref(), move || then(&state, read)).await
            }
        }
    }

    /// Works on something that is no job, in the lane that the size of its text asks for.
    async fn work<T: Send + 'static>(
        &self,
        asked: Asked,
        f: impl FnOnce() -> Result<T, Problem> + Send + 'static,
    ) -> Result<T, Problem> {
        let stop = self.desk.stop_of(&asked.client);
        let _asker = self.desk.asker(&stop, asked.line.is_some());
        self.desk.run(asked.weight, stop, asked.line.as_ref(), f).await
    }

    /// An answer on its way, within what all answers may hold.
    async fn send(
        &self,
        mut with: actix_web::HttpResponseBuilder,
        bytes: Vec<u8>,
    ) -> Result<HttpResponse, Problem> {
        let leave = if bytes.len() > SMALL_ANSWER {
            let n = u32::try_from(bytes.len() / 1024).unwrap_or(u32::MAX).min(ANSWERS as u32);
            let wait = tokio::time::timeout(
                std::time::Duration::from_secs(10),
                self.answers.clone().acquire_many_owned(n),
            );
            let leave = wait.await.ok().and_then(Result::ok);
            Some(leave.ok_or_else(|| Problem::busy("The server is sending other large answers", 5))?)
        } else {
            None
        };
        Ok(with.body(Sent { bytes: Some(bytes.into()), _leave: leave }))
    }
}

/// Who asks, and how heavy it looks before it is read.
struct Asked {
    client: String,
    weight: Weight,
    /// The connection that it hangs on; none for what is done even when who asked is gone.
    line: Option<Line>,
}

impl Asked {
    /// Work over a text of so many bytes. The newest of a page that tells its name is the one that counts.
    fn of(request: &HttpRequest, text: usize) -> Asked {
        let client = request.headers().get("x-steelk-page").and_then(|v| v.to_str().ok()).unwrap_or_default();
        let client = if client.len() <= 64 { client.to_string() } else { String::new() };
        let weight = if text > LARGE_TEXT { Weight::Large } else { Weight::Small };
        Asked { client, weight, line: request.conn_data::<Line>().cloned() }
    }

    /// A save: it goes on when the page that sent it is gone.
    fn to_keep(request: &HttpRequest, text: usize) -> Asked {
        Asked { client: String::new(), line: None, ..Asked::of(request, text) }
    }

    /// Beside other work of the same page.
    fn beside(self) -> Asked {
        Asked { client: String::new(), ..self }
    }
}

/// Something read that has a job to be weighed.
trait HasJob: Send + 'static {
    fn job(&self) -> &Job;

    /// Id of the piece whose picture is wanted too.
    fn picture(&self) -> &str {
        ""
    }
}

/// An answer about a job that is sent along, saved or not, beside other work of the same page. `job` takes it
/// out of what was sent.
async fn about_job<B: DeserializeOwned + Send + 'static>(
    (state, request, body): (Data<State>, HttpRequest, Body),
    job: fn(&mut B) -> Value,
    of: fn(&Job, &JobResult, &B) -> Result<Vec<u8>, Problem>,
) -> Result<HttpResponse, Problem> {
    let asked = Asked::of(&request, body.bytes.len()).beside();
    let read = move |_: &State| {
        let mut told = body.json::<B>()?;
        let job: Job = jobfile::from_value(job(&mut told))?;
        Ok((job, told))
    };
    let work = move |state: &State, (job, told): (Job, B)| of(&job, &state.cache.job(&job), &told);
    let bytes = state.with_job(asked, read, work).await?;
    state.send(json_answer(), bytes).await
}

impl HasJob for Job {
    fn job(&self) -> &Job {
        self
    }
}

impl<X: Send + 'static> HasJob for (Job, X) {
    fn job(&self) -> &Job {
        &self.0
    }
}

/// Bytes that are written as long as somebody waits for them.
struct Wanted(Vec<u8>);

/// A part longer than a number or a word.
const LONG_PART: usize = 256;

impl std::io::Write for Wanted {
    fn write(&mut self, part: &[u8]) -> std::io::Result<usize> {
        if part.len() > LONG_PART {
            halt::point()
        } else {
            halt::often()
        }
        self.0.extend_from_slice(part);
        Ok(part.len())
    }

    fn flush(&mut self) -> std::io::Result<()> {
        Ok(())
    }
}

/// JSON text, written where the work is done.
fn json<T: Serialize>(of: &T) -> Result<Vec<u8>, Problem> {
    let mut out = Wanted(Vec::with_capacity(1 << 10));
    serde_json::to_writer(&mut out, of).map_err(Problem::ours)?;
    Ok(out.0)
}

fn json_answer() -> actix_web::HttpResponseBuilder {
    let mut answer = HttpResponse::Ok();
    answer.content_type("application/json");
    answer
}

/// A body with the leave to hold it.
struct Sent {
    bytes: Option<Bytes>,
    _leave: Option<OwnedSemaphorePermit>,
}

impl MessageBody for Sent {
    type Error = std::convert::Infallible;

    fn size(&self) -> BodySize {
        BodySize::Sized(self.bytes.as_ref().map_or(0, |b| b.len() as u64))
    }

    fn poll_next(
        mut self: std::pin::Pin<&mut Self>,
        _: &mut std::task::Context<'_>,
    ) -> std::task::Poll<Option<Result<Bytes, Self::Error>>> {
        std::task::Poll::Ready(self.bytes.take().filter(|b| !b.is_empty()).map(Ok))
    }
}

#[derive(OpenApi)]
#[openapi(
    info(
        title = "Steelk",
        description = "Sheet and frame pieces from recipes: flat patterns, cut files and cut lists. Lengths \
            mm, angles rad, masses kg unless a field says text.",
        license(name = "MIT OR Apache-2.0")
    ),
    // Named by parts that may hold one another: not found by following them.
    components(schemas(
        steelk_core::grammar::OptionView,
        steelk_core::grammar::CaseView,
        steelk_core::grammar::AddView,
        steelk_core::grammar::IdsView,
        steelk_core::grammar::WhenView,
    )),
    paths(
        shelf::health,
        shelf::book,
        evaluate::evaluate,
        evaluate::canonical,
        evaluate::rename_uses,
        verbs::verbs,
        verbs::lines,
        verbs::go_on,
        thumbs::thumbs,
        labels::labels,
        starts::begin,
        starts::begin_picture,
        text::text,
        text::read_text,
        bars::bars,
        bend::bend,
        clicked::clicked,
        ties::ties,
        ties::covered,
        figures::uses,
        figures::compared,
        order::order,
        bars::skeleton,
        shelf::sections,
        kept::keep,
        kept::kept,
        drawings::preview,
        drawings::take,
        drawings::revised,
        trace::trace,
        jobs::list,
        jobs::create,
        jobs::read,
        jobs::head,
        jobs::save,
        jobs::archive,
        jobs::restore,
        jobs::copy,
        jobs::revisions,
        jobs::revision,
        jobs::picture,
        papers::paper,
    )
)]
struct Api;

pub fn routes(config: &mut web::ServiceConfig) {
    let query = web::QueryConfig::default().error_handler(|e, _| {
        Problem::new(400, format!("The query cannot be read: {e}"), "see /api/openapi.json").into()
    });
    let path = web::PathConfig::default().error_handler(|e, _| {
        Problem::new(404, format!("The path cannot be read: {e}"), "see /api/openapi.json").into()
    });
    config.service(
        web::scope("/api")
            .app_data(query)
            .app_data(path)
            .route(
                "/openapi.json",
                web::get().to(async || {
                    HttpResponse::Ok().content_type("application/json").body(description::openapi())
                }),
            )
            .route("/health", web::get().to(shelf::health))
            .route("/book", web::get().to(shelf::book))
            .route("/evaluate", web::post().to(evaluate::evaluate))
            .route("/canonical", web::post().to(evaluate::canonical))
            .route("/rename", web::post().to(evaluate::rename_uses))
            .route("/verbs", web::get().to(verbs::verbs))
            .route("/lines", web::post().to(verbs::lines))
            .route("/complete", web::post().to(verbs::go_on))
            .route("/thumbs", web::post().to(thumbs::thumbs))
            .route("/labels", web::post().to(labels::labels))
            .route("/begin", web::post().to(starts::begin))
            .route("/begin/{tag}/picture", web::get().to(starts::begin_picture))
            .route("/text", web::post().to(text::text))
            .route("/text/read", web::post().to(text::read_text))
            .route("/bars", web::post().to(bars::bars))
            .route("/bend", web::post().to(bend::bend))
            .route("/clicked", web::post().to(clicked::clicked))
            .route("/ties", web::post().to(ties::ties))
            .route("/coverage", web::post().to(ties::covered))
            .route("/uses", web::post().to(figures::uses))
            .route("/variants", web::post().to(figures::compared))
            .route("/order", web::post().to(order::order))
            .route("/skeleton", web::post().to(bars::skeleton))
            .route("/sections", web::get().to(shelf::sections))
            .route("/files", web::post().to(kept::keep))
            .route("/files/{digest}", web::get().to(kept::kept))
            .route("/drawings", web::post().to(drawings::preview))
            .route("/drawings/take", web::post().to(drawings::take))
            .route("/drawings/revised", web::post().to(drawings::revised))
            .route("/trace", web::post().to(trace::trace))
            .route("/jobs", web::get().to(jobs::list))
            .route("/jobs", web::post().to(jobs::create))
            .route("/jobs/{id}", web::get().to(jobs::read))
            .route("/jobs/{id}", web::put().to(jobs::save))
            .route("/jobs/{id}/head", web::get().to(jobs::head))
            .route("/jobs/{id}/archive", web::post().to(jobs::archive))
            .route("/jobs/{id}/restore", web::post().to(jobs::restore))
            .route("/jobs/{id}/copy", web::post().to(jobs::copy))
            .route("/jobs/{id}/revisions", web::get().to(jobs::revisions))
            .route("/jobs/{id}/revisions/{revision}", web::get().to(jobs::revision))
            .route("/jobs/{id}/picture.svg", web::get().to(jobs::picture))
            .route("/jobs/{id}/papers/{kind}", web::get().to(papers::paper))
            .default_service(web::to(async || {
                problem::problem(
                    404,
                    "There is no such address, or it takes no such request",
                    "see /api/openapi.json",
                )
            })),
    );
}
