//! Errors as RFC 9457 problem documents, each with the way to mend it. What is our own failure is logged with
//! its cause.

use actix_web::http::{StatusCode, header};
use actix_web::{HttpResponse, ResponseError};
use serde::Serialize;
use steelk_formats::drawn::DrawingError;
use steelk_formats::jobfile::JobFileError;
use steelk_store::StoreError;
use utoipa::ToSchema;

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
    /// With 503: seconds after which it may be asked again.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub retry_after: Option<u32>,
}

pub fn problem(status: u16, title: &str, detail: &str) -> HttpResponse {
    Problem::new(status, title, detail).error_response()
}

impl Problem {
    pub fn new(status: u16, title: impl Into<String>, detail: impl Into<String>) -> Self {
        Problem {
            title: title.into(),
            status,
            detail: detail.into(),
            field: None,
            current: None,
            retry_after: None,
        }
    }

    /// Nothing was done; it may be asked again after so many seconds.
    pub fn busy(title: impl Into<String>, seconds: u32) -> Self {
        Problem {
            retry_after: Some(seconds),
            ..Problem::new(503, title, format!("try again in {seconds} s; nothing was changed"))
        }
    }

    /// A failure of our own: its cause goes to the log.
    pub fn ours(cause: impl std::fmt::Display) -> Self {
        tracing::error!("a request failed: {cause}");
        Problem::new(
            500,
            "The server failed at this request",
            "its log says why; try again, and tell whoever keeps the server",
        )
    }

    /// The client asked for something newer, or is gone.
    pub fn replaced() -> Self {
        Problem::new(409, "A newer draft of this page took its place", "the newer answer follows")
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
        let mut answer = HttpResponse::build(self.status_code());
        if let Some(seconds) = self.retry_after {
            answer.insert_header((header::RETRY_AFTER, seconds));
        }
        answer.content_type("application/problem+json").body(serde_json::to_string(self).unwrap_or_default())
    }
}

impl From<StoreError> for Problem {
    fn from(e: StoreError) -> Self {
        let said = e.to_string();
        match e {
            StoreError::NoJob(_) | StoreError::NoRevision(_) => {
                Problem::new(404, said, "go back to the rack and pick a job")
            }
            StoreError::Stale { current, .. } => Problem {
                current: Some(current),
                ..Problem::new(409, said, "read the newer revision, then save again")
            },
            StoreError::Busy => Problem::busy(said, 2),
            // Nothing that was acknowledged is in doubt, but nothing more is taken until somebody looks.
            StoreError::Full | StoreError::Damaged(_) | StoreError::Gone(_) => {
                tracing::error!("the data base takes no save: {said}");
                let mend = match e {
                    StoreError::Full => "make room on the disk; saves go on by themselves then",
                    StoreError::Damaged(_) => "stop the server and restore a backup",
                    _ => "stop the server, put the file back or restore a backup, and start again",
                };
                Problem { retry_after: Some(15), ..Problem::new(503, capital(&said), mend) }
            }
            _ => Problem::ours(said),
        }
    }
}

fn capital(text: &str) -> String {
    let mut c = text.chars();
    c.next().map_or_else(String::new, |f| f.to_uppercase().chain(c).collect())
}

impl From<JobFileError> for Problem {
    fn from(e: JobFileError) -> Self {
        let field = if let JobFileError::Field { at, .. } = &e { Some(at.clone()) } else { None };
        let status = if matches!(e, JobFileError::TooLarge(_)) { 413 } else { 422 };
        Problem { field, ..Problem::new(status, e.to_string(), "mend the file, or export it again") }
    }
}

impl From<DrawingError> for Problem {
    fn from(e: DrawingError) -> Self {
        let status = if matches!(e, DrawingError::TooLarge) { 413 } else { 422 };
        Problem::new(status, e.to_string(), e.mend())
    }
}
