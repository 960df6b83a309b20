//! The web application, inside the binary.

use actix_web::{HttpRequest, HttpResponse, http::header};
use rust_embed::Embed;

#[derive(Embed)]
#[folder = "../../web/dist"]
#[allow_missing = true]
struct Web;

/// A file of the web application; any other path is the application itself, which does its own routing.
pub async fn serve(request: HttpRequest) -> HttpResponse {
    let path = request.path().trim_start_matches('/');
    let (path, file) = match Web::get(path) {
        Some(f) if !path.is_empty() => (path, Some(f)),
        _ if path.starts_with("assets/") => (path, None),
        _ => ("index.html", Web::get("index.html")),
    };
    let Some(file) = file else {
        return HttpResponse::NotFound().content_type("text/plain; charset=utf-8").body("There is nothing here. The web application is built with `make web`.");
    };
    let mime = mime_guess::from_path(path).first_or_octet_stream();
    // Names under assets/ carry a hash of their content.
    let keep = if path.starts_with("assets/") { "public, max-age=31536000, immutable" } else { "no-cache" };
    HttpResponse::Ok().content_type(mime.as_ref()).insert_header((header::CACHE_CONTROL, keep)).body(file.data.into_owned())
}
