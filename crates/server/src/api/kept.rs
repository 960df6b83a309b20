//! Files that are kept beside the jobs: drawings that pieces came from, photographs, scans. Each under the
//! digest of what it holds.

use actix_web::http::header;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpRequest, HttpResponse};
use serde::Serialize;
use sha2::{Digest, Sha256};
use steelk_core::drawing::Picture;
use steelk_core::job::Job;
use steelk_core::trace;
use steelk_formats::drawn;
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;
use super::{Asked, State};

/// A file that is kept.
#[derive(Serialize, ToSchema)]
pub struct Kept {
    /// SHA-256 of what it holds, in hexadecimal: its name from now on.
    pub digest: String,
    /// `dxf`, `svg`, `png`, `jpeg` or `pdf`, by what it holds.
    pub kind: String,
    pub bytes: usize,
}

/// What a file is, by its first bytes.
fn kind(bytes: &[u8]) -> Option<&'static str> {
    let text = !bytes.iter().take(1024).any(|b| *b == 0);
    match bytes {
        [0x89, b'P', b'N', b'G', ..] => Some("png"),
        [0xff, 0xd8, 0xff, ..] => Some("jpeg"),
        [b'%', b'P', b'D', b'F', b'-', ..] => Some("pdf"),
        _ if drawn::is_svg(bytes) => Some("svg"),
        // A DXF begins with the code of its first group.
        _ if text && bytes.trim_ascii_start().first().is_some_and(u8::is_ascii_digit) => Some("dxf"),
        _ => None,
    }
}

pub fn digest(bytes: &[u8]) -> String {
    Sha256::digest(bytes).iter().map(|b| format!("{b:02x}")).collect()
}

/// Keeps a file. The same file again is the same digest, and is kept once.
#[utoipa::path(post, path = "/api/files", request_body(content = Vec<u8>,
    content_type = "application/octet-stream"), responses((status = 200, body = Kept), (status = 422,
        body = Problem)))]
pub async fn keep(state: Data<State>, request: HttpRequest, body: Body) -> Result<Json<Kept>, Problem> {
    let asked = Asked::to_keep(&request, body.bytes.len());
    let store = state.store.clone();
    let work = move || {
        let bytes = &body.bytes;
        let kind = kind(bytes).ok_or_else(|| {
            Problem::new(
                422,
                "The file is none that is read here",
                "bring a text DXF, an SVG, a PNG, a JPEG or a PDF",
            )
        })?;
        let digest = digest(bytes);
        store.keep_file(&digest, kind, bytes)?;
        Ok(Json(Kept { digest, kind: kind.into(), bytes: bytes.len() }))
    };
    state.work(asked, work).await
}

impl State {
    /// A kept file.
    pub(super) fn held(&self, digest: &str) -> Result<(String, Vec<u8>), Problem> {
        self.store.file(digest)?.ok_or_else(|| {
            Problem::new(
                404,
                "This server does not keep that file",
                "bring it in again: a job that came as a file brings its drawings by name only",
            )
        })
    }
}

/// Larger marks would make every drawing as heavy.
const MOST_OF_A_MARK: usize = 1 << 20;

impl State {
    /// The mark of the shop, for its drawings; none where it is not kept here or no picture can be
    /// made of it.
    pub(super) fn shop_mark(&self, job: &Job) -> Result<Option<Picture>, Problem> {
        let Some(mark) = job.drawings.as_ref().and_then(|d| d.mark.as_ref()) else { return Ok(None) };
        let Some((kind, bytes)) = self.store.file(&mark.file)? else { return Ok(None) };
        let mime = match kind.as_str() {
            "png" => "image/png",
            "jpeg" => "image/jpeg",
            _ => return Ok(None),
        };
        let drawn = bytes.len() <= MOST_OF_A_MARK && trace::read(&bytes).is_ok();
        Ok(drawn.then(|| Picture { mime, bytes: bytes.into() }))
    }
}

/// A kept file, as it was brought.
#[utoipa::path(get, path = "/api/files/{digest}", params(("digest" = String, Path,)), responses((status = 200,
    content_type = "application/octet-stream"), (status = 404, body = Problem)))]
pub async fn kept(state: Data<State>, digest: Path<String>) -> Result<HttpResponse, Problem> {
    let held = state.clone();
    let found = tokio::task::spawn_blocking(move || held.held(&digest)).await;
    let (kind, bytes) = found.map_err(Problem::ours)??;
    let (of, shown) = match kind.as_str() {
        "png" => ("image/png", "inline"),
        "jpeg" => ("image/jpeg", "inline"),
        "pdf" => ("application/pdf", "inline"),
        // Never shown as a page of ours.
        _ => ("application/octet-stream", "attachment"),
    };
    let mut answer = HttpResponse::Ok();
    answer.content_type(of).insert_header((header::CONTENT_DISPOSITION, shown));
    // Its name is what it holds: it never changes.
    answer.insert_header((header::CACHE_CONTROL, "private, max-age=31536000, immutable"));
    state.send(answer, bytes).await
}
