//! The rack: jobs, their revisions, copies and the archive.

use actix_web::http::header::{self, HeaderMap};
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpRequest, HttpResponse};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use steelk_core::job::Job;
use steelk_formats::jobfile;
use steelk_store::{JobRow, Save};
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;
use super::{Asked, State, json, json_answer};
use crate::summary::{Summary, changes, summarise};

#[derive(Deserialize, ToSchema)]
pub struct Page {
    #[serde(default)]
    pub offset: usize,
    #[serde(default = "fifty")]
    pub limit: usize,
    #[serde(default)]
    pub archived: bool,
}

fn fifty() -> usize {
    50
}

impl Page {
    fn limit(&self) -> usize {
        self.limit.clamp(1, 200)
    }
}

/// A ticket on the rack.
#[derive(Serialize, ToSchema)]
pub struct Ticket {
    pub id: String,
    pub title: String,
    pub number: String,
    pub revision: i64,
    /// Seconds since 1970.
    pub saved_at: i64,
    pub archived: bool,
    pub summary: Summary,
}

fn ticket(row: JobRow) -> Ticket {
    let summary = serde_json::from_str(&row.summary).unwrap_or_default();
    Ticket {
        id: row.id,
        title: row.title,
        number: row.number,
        revision: row.revision,
        saved_at: row.saved_at,
        archived: row.archived,
        summary,
    }
}

#[derive(Serialize, ToSchema)]
pub struct Rack {
    pub jobs: Vec<Ticket>,
    pub total: usize,
    /// Why nothing can be saved; empty while all is well.
    pub trouble: String,
}

#[utoipa::path(get, path = "/api/jobs", params(("offset" = Option<usize>, Query,), ("limit" = Option<usize>,
    Query,), ("archived" = Option<bool>, Query,)), responses((status = 200, body = Rack)))]
pub async fn list(state: Data<State>, page: Query<Page>) -> Result<Json<Rack>, Problem> {
    let (rows, total) = state.ask(move |s| s.jobs(page.archived, page.offset, page.limit())).await?;
    Ok(Json(Rack {
        jobs: rows.into_iter().map(ticket).collect(),
        total,
        trouble: state.store.damage().unwrap_or_default().to_string(),
    }))
}

/// A job with the revision it is.
#[derive(Serialize, ToSchema)]
pub struct Opened {
    pub id: String,
    pub revision: i64,
    pub archived: bool,
    /// What the newest save was called by who sent it.
    pub token: String,
    pub job: Job,
}

fn new_id() -> Result<String, Problem> {
    let mut bytes = [0u8; 8];
    getrandom::fill(&mut bytes).map_err(Problem::ours)?;
    Ok(bytes.iter().map(|b| format!("{b:02x}")).collect())
}

/// Characters of a title or number that the rack keeps; the job keeps all.
const ON_THE_RACK: usize = 200;

fn clipped(text: &str, most: usize) -> &str {
    text.get(..text.floor_char_boundary(most)).unwrap_or_default()
}

/// What is filed of a job: its document, and what the rack shows of it.
struct Filed {
    document: String,
    summary: String,
    picture: String,
    title: String,
    number: String,
}

impl Filed {
    fn of(state: &State, job: &Job) -> Result<Filed, Problem> {
        let document = serde_json::to_string(job).map_err(Problem::ours)?;
        if document.len() > jobfile::MOST_BYTES {
            // As Steelk writes it, every field is there: what is taken in can be opened again.
            return Err(Problem::new(
                413,
                format!(
                    "The job takes {:.1} MB as it is kept; {} MB is the most",
                    document.len() as f64 / 1e6,
                    jobfile::MOST_BYTES / 1_000_000
                ),
                "split it into several jobs",
            ));
        }
        let result = state.cache.job(job);
        Ok(Filed {
            document,
            summary: serde_json::to_string(&summarise(&result, &job.display)).map_err(Problem::ours)?,
            picture: crate::ticket::ticket(&result),
            title: clipped(&job.title, ON_THE_RACK).into(),
            number: clipped(&job.number, ON_THE_RACK).into(),
        })
    }

    fn save<'a>(&'a self, note: &'a str, token: &'a str, after: &'a [String]) -> Save<'a> {
        Save {
            title: &self.title,
            number: &self.number,
            note: clipped(note, 500),
            document: &self.document,
            summary: &self.summary,
            picture: &self.picture,
            token: clipped(token, 64),
            after: &after[..after.len().min(16)],
        }
    }
}

/// Files a new job; the way every job comes onto the rack.
pub fn file_new(state: &State, job: Job, note: &str) -> Result<Opened, Problem> {
    let id = new_id()?;
    let filed = Filed::of(state, &job)?;
    let revision = state.store.create(&id, &filed.save(note, "", &[]))?;
    Ok(Opened { id, revision, archived: false, token: String::new(), job })
}

#[utoipa::path(post, path = "/api/jobs", request_body = Job, responses((status = 201, body = Opened),
    (status = 413, body = Problem), (status = 422, body = Problem)))]
pub async fn create(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    let asked = Asked::to_keep(&request, body.bytes.len());
    let opened = state
        .with_job(
            asked,
            move |_| Ok(jobfile::from_value(body.value()?)?),
            |state, job| file_new(state, job, "new"),
        )
        .await?;
    Ok(HttpResponse::Created().insert_header((header::ETAG, format!("\"{}\"", opened.revision))).json(opened))
}

fn opened(row: JobRow, token: String, document: &str) -> Result<Opened, Problem> {
    Ok(Opened {
        id: row.id,
        revision: row.revision,
        archived: row.archived,
        token,
        job: jobfile::stored(document.as_bytes())?,
    })
}

#[utoipa::path(get, path = "/api/jobs/{id}", params(("id" = String, Path,)), responses((status = 200,
    body = Opened), (status = 404, body = Problem)))]
pub async fn read(
    state: Data<State>,
    id: Path<String>,
    request: HttpRequest,
) -> Result<HttpResponse, Problem> {
    let ((row, document), token) = state
        .ask(move |s| {
            let token = s.head(&id)?.token;
            Ok((s.job(&id)?, token))
        })
        .await?;
    let etag = format!("\"{}\"", row.revision);
    let asked = Asked::of(&request, document.len()).beside();
    let bytes = state.work(asked, move || json(&opened(row, token, &document)?)).await?;
    let mut answer = json_answer();
    answer.insert_header((header::ETAG, etag));
    state.send(answer, bytes).await
}

/// Where a job stands now.
#[derive(Serialize, ToSchema)]
pub struct HeadView {
    pub revision: i64,
    /// What the newest save was called by who sent it.
    pub token: String,
    pub archived: bool,
}

/// Where a job stands, without the job: asked when the answer to a save never came.
#[utoipa::path(get, path = "/api/jobs/{id}/head", params(("id" = String, Path,)), responses((status = 200,
    body = HeadView), (status = 404, body = Problem)))]
pub async fn head(state: Data<State>, id: Path<String>) -> Result<Json<HeadView>, Problem> {
    let h = state.ask(move |s| s.head(&id)).await?;
    Ok(Json(HeadView { revision: h.revision, token: h.token, archived: h.archived }))
}

#[derive(Deserialize, ToSchema)]
pub struct SaveBody {
    #[schema(value_type = Job)]
    pub job: Value,
    #[serde(default)]
    pub note: String,
    /// The saver's own name of this save, up to 64 characters: sent twice, it is filed once.
    #[serde(default)]
    pub token: String,
    /// Tokens of earlier saves of the same saver whose answers never came, at most 16: this one may stand on
    /// any of them too.
    #[serde(default)]
    pub after: Vec<String>,
}

#[derive(Serialize, ToSchema)]
pub struct Saved {
    pub revision: i64,
    /// The job is in the archive: the save went there.
    pub archived: bool,
}

fn based_on(headers: &HeaderMap) -> Result<i64, Problem> {
    let text = headers.get(header::IF_MATCH).and_then(|v| v.to_str().ok()).unwrap_or_default();
    let number = text.trim().trim_start_matches("W/").trim_matches('"').parse();
    number.map_err(|_| {
        Problem::new(
            428,
            "The save does not say which revision it is based on",
            "send the revision as If-Match",
        )
    })
}

/// Saves on top of the revision in `If-Match`; 409 with the newer one when somebody saved in between.
#[utoipa::path(put, path = "/api/jobs/{id}", params(("id" = String, Path,), ("If-Match" = String, Header,)),
    request_body = SaveBody, responses((status = 200, body = Saved), (status = 409, body = Problem),
        (status = 413, body = Problem), (status = 422, body = Problem), (status = 503, body = Problem)))]
pub async fn save(
    state: Data<State>,
    id: Path<String>,
    request: HttpRequest,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let based_on = based_on(request.headers())?;
    let asked = Asked::to_keep(&request, body.bytes.len());
    let read = move |_: &State| {
        let SaveBody { job, note, token, after } = body.json()?;
        Ok((jobfile::from_value(job)?, (note, token, after)))
    };
    let done = move |state: &State, (job, (note, token, after)): (Job, (String, String, Vec<String>))| {
        let filed = Filed::of(state, &job)?;
        Ok(state.store.save(&id, based_on, &filed.save(&note, &token, &after))?)
    };
    let head = state.with_job(asked, read, done).await?;
    let saved = Saved { revision: head.revision, archived: head.archived };
    Ok(HttpResponse::Ok().insert_header((header::ETAG, format!("\"{}\"", head.revision))).json(saved))
}

async fn set_archived(state: Data<State>, id: String, archived: bool) -> Result<HttpResponse, Problem> {
    state.ask(move |s| s.archive(&id, archived)).await?;
    Ok(HttpResponse::NoContent().finish())
}

#[utoipa::path(post, path = "/api/jobs/{id}/archive", params(("id" = String, Path,)),
    responses((status = 204)))]
pub async fn archive(state: Data<State>, id: Path<String>) -> Result<HttpResponse, Problem> {
    set_archived(state, id.into_inner(), true).await
}

#[utoipa::path(post, path = "/api/jobs/{id}/restore", params(("id" = String, Path,)),
    responses((status = 204)))]
pub async fn restore(state: Data<State>, id: Path<String>) -> Result<HttpResponse, Problem> {
    set_archived(state, id.into_inner(), false).await
}

#[utoipa::path(post, path = "/api/jobs/{id}/copy", params(("id" = String, Path,)), responses((status = 201,
    body = Opened)))]
pub async fn copy(
    state: Data<State>,
    id: Path<String>,
    request: HttpRequest,
) -> Result<HttpResponse, Problem> {
    let (row, document) = state.ask(move |s| s.job(&id)).await?;
    let asked = Asked::to_keep(&request, document.len());
    let read = move |_: &State| Ok((jobfile::stored(document.as_bytes())?, row));
    let filed = |state: &State, (job, row): (Job, JobRow)| {
        let job = Job { title: format!("{} (copy)", job.title), ..job };
        file_new(state, job, &format!("copied from {} revision {}", row.id, row.revision))
    };
    Ok(HttpResponse::Created().json(state.with_job(asked, read, filed).await?))
}

/// A saved state and what it changed in size and mass.
#[derive(Serialize, ToSchema)]
pub struct Revision {
    pub revision: i64,
    pub saved_at: i64,
    pub note: String,
    pub changes: Vec<String>,
    pub summary: Summary,
}

#[derive(Serialize, ToSchema)]
pub struct Revisions {
    pub revisions: Vec<Revision>,
    pub total: usize,
}

#[utoipa::path(get, path = "/api/jobs/{id}/revisions", params(("id" = String, Path,),
    ("offset" = Option<usize>, Query,), ("limit" = Option<usize>, Query,)), responses((status = 200,
        body = Revisions)))]
pub async fn revisions(
    state: Data<State>,
    id: Path<String>,
    page: Query<Page>,
) -> Result<Json<Revisions>, Problem> {
    let (offset, limit) = (page.offset, page.limit());
    // One more than asked: the last row is compared with the one before it.
    let (rows, total) = state.ask(move |s| s.revisions(&id, offset, limit + 1)).await?;
    let summaries: Vec<Summary> =
        rows.iter().map(|r| serde_json::from_str(&r.summary).unwrap_or_default()).collect();
    let revisions = rows.iter().take(limit).enumerate().map(|(i, r)| Revision {
        revision: r.revision,
        saved_at: r.saved_at,
        note: r.note.clone(),
        changes: summaries.get(i + 1).map_or(Vec::new(), |before| changes(before, &summaries[i])),
        summary: summaries[i].clone(),
    });
    Ok(Json(Revisions { revisions: revisions.collect(), total }))
}

#[utoipa::path(get, path = "/api/jobs/{id}/revisions/{revision}", params(("id" = String, Path,),
    ("revision" = i64, Path,)), responses((status = 200, body = Opened), (status = 404, body = Problem)))]
pub async fn revision(
    state: Data<State>,
    path: Path<(String, i64)>,
    request: HttpRequest,
) -> Result<HttpResponse, Problem> {
    let (id, revision) = path.into_inner();
    let (row, document) = state
        .ask(move |s| {
            let (row, _) = s.job(&id)?;
            Ok((JobRow { revision, ..row }, s.revision(&id, revision)?))
        })
        .await?;
    let asked = Asked::of(&request, document.len()).beside();
    let bytes = state.work(asked, move || json(&opened(row, String::new(), &document)?)).await?;
    state.send(json_answer(), bytes).await
}

/// The ticket's picture: a few kB, filed with every save; for jobs from before, made once.
#[utoipa::path(get, path = "/api/jobs/{id}/picture.svg", params(("id" = String, Path,)),
    responses((status = 200, content_type = "image/svg+xml"), (status = 304, description = "the picture that \
        the client has is the newest")))]
pub async fn picture(
    state: Data<State>,
    id: Path<String>,
    request: HttpRequest,
) -> Result<HttpResponse, Problem> {
    let of = id.clone();
    let (head, kept) = state
        .ask(move |s| {
            let head = s.head(&of)?;
            let kept = s.picture(&of, head.revision)?;
            Ok((head, kept))
        })
        .await?;
    let etag = format!("\"{}-{}\"", head.revision, crate::ticket::TICKET_LOOK);
    let had = request.headers().get(header::IF_NONE_MATCH).and_then(|v| v.to_str().ok()).unwrap_or_default();
    let answer = |mut r: actix_web::HttpResponseBuilder| {
        r.insert_header((header::ETAG, etag.clone()))
            .insert_header((header::CACHE_CONTROL, "private, no-cache"));
        r
    };
    if had.split(',').any(|t| t.trim().trim_start_matches("W/") == etag) {
        return Ok(answer(HttpResponse::NotModified()).finish());
    }
    let svg = match kept {
        Some(svg) => svg,
        None => {
            let of = id.into_inner();
            let (_, document) = state
                .ask({
                    let of = of.clone();
                    move |s| s.job(&of)
                })
                .await?;
            let read = move |_: &State| Ok(jobfile::stored(document.as_bytes())?);
            let draw = move |state: &State, job: Job| {
                let svg = crate::ticket::ticket(&state.cache.job(&job));
                // Kept if it can be; it can be made again.
                if let Err(e) = state.store.keep_picture(&of, head.revision, &svg) {
                    tracing::warn!("the picture of {of} could not be kept: {e}");
                }
                Ok(svg)
            };
            state.with_job(Asked::of(&request, 0).beside(), read, draw).await?
        }
    };
    Ok(answer(HttpResponse::Ok()).content_type("image/svg+xml").body(svg))
}
