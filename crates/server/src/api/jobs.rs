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

use super::problem::Problem;
use super::{State, work};
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
    Ticket { id: row.id, title: row.title, number: row.number, revision: row.revision, saved_at: row.saved_at, archived: row.archived, summary }
}

#[derive(Serialize, ToSchema)]
pub struct Rack {
    pub jobs: Vec<Ticket>,
    pub total: usize,
}

#[utoipa::path(get, path = "/api/jobs", params(("offset" = Option<usize>, Query,), ("limit" = Option<usize>, Query,), ("archived" = Option<bool>, Query,)), responses((status = 200, body = Rack)))]
pub async fn list(state: Data<State>, page: Query<Page>) -> Result<Json<Rack>, Problem> {
    work(move || {
        let (rows, total) = state.store(|s| s.jobs(page.archived, page.offset, page.limit()))?;
        Ok(Json(Rack { jobs: rows.into_iter().map(ticket).collect(), total }))
    })
    .await
}

/// A job with the revision it is.
#[derive(Serialize, ToSchema)]
pub struct Opened {
    pub id: String,
    pub revision: i64,
    pub archived: bool,
    pub job: Job,
}

fn new_id() -> Result<String, Problem> {
    let mut bytes = [0u8; 8];
    getrandom::fill(&mut bytes).map_err(|e| Problem::new(500, format!("No random number could be had: {e}"), "try again"))?;
    Ok(bytes.iter().map(|b| format!("{b:02x}")).collect())
}

/// Files a new job; the way every job comes onto the rack.
pub fn file_new(state: &State, job: Job, note: &str) -> Result<Opened, Problem> {
    let id = new_id()?;
    let (document, summary) = documents(state, &job)?;
    let save = Save { title: &job.title, number: &job.number, note, document: &document, summary: &summary };
    let revision = state.store(|s| s.create(&id, &save))?;
    Ok(Opened { id, revision, archived: false, job })
}

fn documents(state: &State, job: &Job) -> Result<(String, String), Problem> {
    let text = |e: serde_json::Error| Problem::new(500, format!("The job cannot be written: {e}"), "try again");
    let document = serde_json::to_string(job).map_err(text)?;
    let summary = serde_json::to_string(&summarise(&state.cache.job(job), &job.display)).map_err(text)?;
    Ok((document, summary))
}

#[utoipa::path(post, path = "/api/jobs", request_body = Job, responses((status = 201, body = Opened), (status = 422, body = Problem)))]
pub async fn create(state: Data<State>, body: Json<Value>) -> Result<HttpResponse, Problem> {
    let opened = work(move || file_new(&state, jobfile::from_value(body.into_inner())?, "new")).await?;
    Ok(HttpResponse::Created().insert_header((header::ETAG, format!("\"{}\"", opened.revision))).json(opened))
}

fn open(state: &State, id: &str) -> Result<Opened, Problem> {
    let (row, document) = state.store(|s| s.job(id))?;
    Ok(Opened { id: row.id, revision: row.revision, archived: row.archived, job: jobfile::read(document.as_bytes())? })
}

#[utoipa::path(get, path = "/api/jobs/{id}", params(("id" = String, Path,)), responses((status = 200, body = Opened), (status = 404, body = Problem)))]
pub async fn read(state: Data<State>, id: Path<String>) -> Result<HttpResponse, Problem> {
    let opened = work(move || open(&state, &id)).await?;
    Ok(HttpResponse::Ok().insert_header((header::ETAG, format!("\"{}\"", opened.revision))).json(opened))
}

#[derive(Deserialize, ToSchema)]
pub struct SaveBody {
    #[schema(value_type = Job)]
    pub job: Value,
    #[serde(default)]
    pub note: String,
}

#[derive(Serialize, ToSchema)]
pub struct Saved {
    pub revision: i64,
}

fn based_on(headers: &HeaderMap) -> Result<i64, Problem> {
    let text = headers.get(header::IF_MATCH).and_then(|v| v.to_str().ok()).unwrap_or_default();
    let number = text.trim().trim_start_matches("W/").trim_matches('"').parse();
    number.map_err(|_| Problem::new(428, "The save does not say which revision it is based on", "send the revision as If-Match"))
}

/// Saves on top of the revision in `If-Match`; 409 with the newer one when somebody saved in between.
#[utoipa::path(put, path = "/api/jobs/{id}", params(("id" = String, Path,), ("If-Match" = String, Header,)), request_body = SaveBody, responses((status = 200, body = Saved), (status = 409, body = Problem)))]
pub async fn save(state: Data<State>, id: Path<String>, request: HttpRequest, body: Json<SaveBody>) -> Result<HttpResponse, Problem> {
    let based_on = based_on(request.headers())?;
    let revision = work(move || {
        let SaveBody { job, note } = body.into_inner();
        let job = jobfile::from_value(job)?;
        let (document, summary) = documents(&state, &job)?;
        let save = Save {
            title: &job.title,
            number: &job.number,
            note: note.get(..note.floor_char_boundary(500)).unwrap_or_default(),
            document: &document,
            summary: &summary,
        };
        state.store(|s| s.save(&id, based_on, &save))
    })
    .await?;
    Ok(HttpResponse::Ok().insert_header((header::ETAG, format!("\"{revision}\""))).json(Saved { revision }))
}

async fn set_archived(state: Data<State>, id: String, archived: bool) -> Result<HttpResponse, Problem> {
    work(move || state.store(|s| s.archive(&id, archived))).await?;
    Ok(HttpResponse::NoContent().finish())
}

#[utoipa::path(post, path = "/api/jobs/{id}/archive", params(("id" = String, Path,)), responses((status = 204)))]
pub async fn archive(state: Data<State>, id: Path<String>) -> Result<HttpResponse, Problem> {
    set_archived(state, id.into_inner(), true).await
}

#[utoipa::path(post, path = "/api/jobs/{id}/restore", params(("id" = String, Path,)), responses((status = 204)))]
pub async fn restore(state: Data<State>, id: Path<String>) -> Result<HttpResponse, Problem> {
    set_archived(state, id.into_inner(), false).await
}

#[utoipa::path(post, path = "/api/jobs/{id}/copy", params(("id" = String, Path,)), responses((status = 201, body = Opened)))]
pub async fn copy(state: Data<State>, id: Path<String>) -> Result<HttpResponse, Problem> {
    let opened = work(move || {
        let from = open(&state, &id)?;
        let job = Job { title: format!("{} (copy)", from.job.title), ..from.job };
        file_new(&state, job, &format!("copied from {} revision {}", from.id, from.revision))
    })
    .await?;
    Ok(HttpResponse::Created().json(opened))
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

#[utoipa::path(get, path = "/api/jobs/{id}/revisions", params(("id" = String, Path,), ("offset" = Option<usize>, Query,), ("limit" = Option<usize>, Query,)), responses((status = 200, body = Revisions)))]
pub async fn revisions(state: Data<State>, id: Path<String>, page: Query<Page>) -> Result<Json<Revisions>, Problem> {
    work(move || {
        // One more than asked: the last row is compared with the one before it.
        let (rows, total) = state.store(|s| s.revisions(&id, page.offset, page.limit() + 1))?;
        let summaries: Vec<Summary> = rows.iter().map(|r| serde_json::from_str(&r.summary).unwrap_or_default()).collect();
        let revisions = rows.iter().take(page.limit()).enumerate().map(|(i, r)| Revision {
            revision: r.revision,
            saved_at: r.saved_at,
            note: r.note.clone(),
            changes: summaries.get(i + 1).map_or(Vec::new(), |before| changes(before, &summaries[i])),
            summary: summaries[i].clone(),
        });
        Ok(Json(Revisions { revisions: revisions.collect(), total }))
    })
    .await
}

#[utoipa::path(get, path = "/api/jobs/{id}/revisions/{revision}", params(("id" = String, Path,), ("revision" = i64, Path,)), responses((status = 200, body = Opened), (status = 404, body = Problem)))]
pub async fn revision(state: Data<State>, path: Path<(String, i64)>) -> Result<Json<Opened>, Problem> {
    let (id, revision) = path.into_inner();
    work(move || {
        let (row, _) = state.store(|s| s.job(&id))?;
        let document = state.store(|s| s.revision(&id, revision))?;
        Ok(Json(Opened { id, revision, archived: row.archived, job: jobfile::read(document.as_bytes())? }))
    })
    .await
}

#[utoipa::path(get, path = "/api/jobs/{id}/picture.svg", params(("id" = String, Path,)), responses((status = 200, content_type = "image/svg+xml")))]
pub async fn picture(state: Data<State>, id: Path<String>) -> Result<HttpResponse, Problem> {
    let svg = work(move || {
        let opened = open(&state, &id)?;
        Ok(crate::files::ticket(&state.cache.job(&opened.job)))
    })
    .await?;
    Ok(HttpResponse::Ok().content_type("image/svg+xml").body(svg))
}
