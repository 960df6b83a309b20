//! The web application, inside the binary.

use actix_web::http::{Method, header};
use actix_web::{HttpRequest, HttpResponse};
use rust_embed::Embed;

use crate::problem::problem;

#[derive(Embed)]
#[folder = "../../web/dist"]
#[allow_missing = true]
struct Web;

/// A file of the web application; any other path is the application itself, which does its own routing.
pub async fn serve(request: HttpRequest) -> HttpResponse {
    if !matches!(*request.method(), Method::GET | Method::HEAD) {
        let mut answer = problem(
            405,
            "Nothing can be sent to this address",
            "see /api/openapi.json for what can be asked",
        );
        answer.headers_mut().insert(header::ALLOW, header::HeaderValue::from_static("GET, HEAD"));
        return answer;
    }
    let path = request.path().trim_start_matches('/');
    let (path, file) = match Web::get(path) {
        Some(f) if !path.is_empty() => (path, Some(f)),
        _ if path.starts_with("assets/") => (path, None),
        _ => ("index.html", Web::get("index.html")),
    };
    let Some(file) = file else {
        return problem(
            404,
            "There is nothing here",
            "open / for the rack; the web application is built with `make web`",
        );
    };
    let mime = mime_guess::from_path(path).first_or_octet_stream();
    // Names under assets/ carry a hash of their content.
    let keep = if path.starts_with("assets/") { "public, max-age=31536000, immutable" } else { "no-cache" };
    HttpResponse::Ok()
        .content_type(mime.as_ref())
        .insert_header((header::CACHE_CONTROL, keep))
        .body(file.data.into_owned())
}
