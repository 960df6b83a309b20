//! Errors as RFC 9457 problem documents, each with the way to mend it.

use actix_web::http::StatusCode;
use actix_web::{HttpResponse, ResponseError};
use serde::Serialize;
use steelk_formats::dxf::DxfError;
use steelk_formats::jobfile::JobFileError;
use steelk_store::StoreError;
use utoipa::ToSchema;

use crate::files::PaperError;

/// A problem document.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Problem {
    pub title: String,
    pub status: u16,
    /// What to do about it.
    pub detail: String,
    /// JSON path of the field, where one is at fault.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub field: Option<String>,
    /// With 409: the revision that stands now.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub current: Option<i64>,
}

pub fn problem(status: u16, title: &str, detail: &str) -> HttpResponse {
    Problem { title: title.into(), status, detail: detail.into(), field: None, current: None }.error_response()
}

impl Problem {
    pub fn new(status: u16, title: impl Into<String>, detail: impl Into<String>) -> Self {
        Problem { title: title.into(), status, detail: detail.into(), field: None, current: None }
    }
}

impl std::fmt::Display for Problem {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "{}: {}", self.title, self.detail)
    }
}

impl ResponseError for Problem {
    fn status_code(&self) -> StatusCode {
        StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR)
    }

    fn error_response(&self) -> HttpResponse {
        HttpResponse::build(self.status_code()).content_type("application/problem+json").body(serde_json::to_string(self).unwrap_or_default())
    }
}

impl From<StoreError> for Problem {
    fn from(e: StoreError) -> Self {
        let said = e.to_string();
        match e {
            StoreError::NoJob(_) | StoreError::NoRevision(_) => Problem::new(404, said, "go back to the rack and pick a job"),
            StoreError::Stale { current, .. } => Problem { current: Some(current), ..Problem::new(409, said, "read the newer revision, then save again") },
            _ => Problem::new(500, said, "look at the server's log; nothing that was saved is lost"),
        }
    }
}

impl From<JobFileError> for Problem {
    fn from(e: JobFileError) -> Self {
        let field = if let JobFileError::Field { at, .. } = &e { Some(at.clone()) } else { None };
        Problem { field, ..Problem::new(422, e.to_string(), "mend the file, or export it again") }
    }
}

impl From<DxfError> for Problem {
    fn from(e: DxfError) -> Self {
        Problem::new(422, e.to_string(), "close the contour in the program it came from, and export it as DXF R2000 or later")
    }
}

impl From<PaperError> for Problem {
    fn from(e: PaperError) -> Self {
        let status = if matches!(e, PaperError::Kind(_) | PaperError::NoPiece(_) | PaperError::NoFrame(_) | PaperError::NoCope(_)) { 404 } else { 422 };
        Problem::new(status, e.to_string(), "see the piece at the bench")
    }
}

impl From<actix_web::error::BlockingError> for Problem {
    fn from(_: actix_web::error::BlockingError) -> Self {
        Problem::new(500, "The server failed at this request", "try again; what was saved is safe")
    }
}
