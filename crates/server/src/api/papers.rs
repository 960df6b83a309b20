//! What can be taken away: files of the job as it was last saved.

use actix_web::http::header;
use actix_web::web::{Data, Path, Query};
use actix_web::{HttpRequest, HttpResponse};
use serde::Deserialize;
use steelk_core::drawing::Paper;
use steelk_formats::jobfile;

use super::problem::Problem;
use super::{Asked, State};
use crate::archive;
use crate::files::Of;

#[derive(Deserialize)]
pub struct Ask {
    #[serde(default)]
    piece: String,
    #[serde(default)]
    frame: String,
    #[serde(default)]
    paper: String,
    #[serde(default)]
    printer: String,
    /// The revision that the file is of; the newest where none is named.
    revision: Option<i64>,
    /// Shown in the page instead of saved.
    #[serde(default)]
    view: bool,
}

#[utoipa::path(get, path = "/api/jobs/{id}/papers/{kind}", params(
    ("id" = String, Path,),
    ("kind" = String, Path, description = "one of the kinds that GET /api/book lists"),
    ("piece" = Option<String>, Query, description = "id or mark of the piece or brief; number of a cope for \
        wrap, name of a member for bar-svg, bar-step and tube-dxf"),
    ("frame" = Option<String>, Query, description = "id or mark; the first where none is named"),
    ("paper" = Option<String>, Query, description = "its name in GET /api/book"),
    ("printer" = Option<String>, Query, description = "name of one of the job's printers: a template is \
        drawn so that it prints true there"),
    ("revision" = Option<i64>, Query, description = "the revision that the file is of; the newest where \
        none is named"),
    ("view" = Option<bool>, Query, description = "show instead of save"),
), responses((status = 200, description = "the file"), (status = 404, body = Problem), (status = 422,
    body = Problem)))]
pub async fn paper(
    state: Data<State>,
    path: Path<(String, String)>,
    ask: Query<Ask>,
    request: HttpRequest,
) -> Result<HttpResponse, Problem> {
    let (id, kind) = path.into_inner();
    let view = ask.view;
    let paper = if ask.paper.is_empty() {
        Paper::A4
    } else {
        Paper::named(&ask.paper).ok_or_else(|| {
            Problem::new(
                422,
                format!("No paper is called '{}'", ask.paper),
                format!("ask for {}", Paper::ALL.map(Paper::name).join(", ")),
            )
        })?
    };
    let revision = ask.revision;
    let (document, saved_at, revision) = state
        .ask(move |s| match revision {
            Some(r) => s.revision_at(&id, r).map(|(document, saved_at)| (document, saved_at, r)),
            None => s.job(&id).map(|(row, document)| (document, row.saved_at, row.revision)),
        })
        .await?;
    let file = state
        .with_job(
            Asked::of(&request, document.len()).beside(),
            move |_| Ok(jobfile::stored(document.as_bytes())?),
            move |state, job| {
                let mark = state.shop_mark(&job)?;
                Ok(archive::make(
                    &job,
                    &state.cache.job(&job),
                    &kind,
                    Of {
                        piece: &ask.piece,
                        frame: &ask.frame,
                        paper,
                        printer: &ask.printer,
                        saved_at,
                        revision,
                        mark: mark.as_ref(),
                    },
                )?)
            },
        )
        .await?;
    let how = if view { "inline" } else { "attachment" };
    let mut answer = HttpResponse::Ok();
    answer
        .content_type(file.mime)
        .insert_header((header::CONTENT_DISPOSITION, format!("{how}; filename=\"{}\"", file.name)));
    state.send(answer, file.bytes).await
}
