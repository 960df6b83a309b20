//! REST under `/api`, described by `/api/openapi.json`.

mod bars;
mod evaluate;
mod jobs;
pub use jobs::file_new;
mod papers;
pub mod problem;
mod shelf;

use std::sync::{Arc, Mutex};

use actix_web::{HttpResponse, web};
use steelk_store::Store;
use utoipa::OpenApi;

use crate::cache::Cache;
use problem::Problem;

/// What every request shares.
#[derive(Clone)]
pub struct State {
    pub store: Arc<Mutex<Store>>,
    pub cache: Arc<Cache>,
}

/// Runs blocking work off the request threads.
async fn work<T: Send + 'static>(f: impl FnOnce() -> Result<T, Problem> + Send + 'static) -> Result<T, Problem> {
    web::block(f).await?
}

impl State {
    /// Uses the store; a panic elsewhere does not lock it for good.
    fn store<T>(&self, f: impl FnOnce(&mut Store) -> Result<T, steelk_store::StoreError>) -> Result<T, Problem> {
        let mut store = self.store.lock().unwrap_or_else(|e| e.into_inner());
        Ok(f(&mut store)?)
    }
}

#[derive(OpenApi)]
#[openapi(
    info(
        title = "Steelk",
        description = "Sheet and frame pieces from recipes: flat patterns, cut files and cut lists. Lengths mm, angles rad, masses kg unless a field says text.",
        license(name = "MIT OR Apache-2.0")
    ),
    paths(
        shelf::health,
        shelf::book,
        evaluate::evaluate,
        evaluate::short,
        evaluate::frame_short,
        bars::bars,
        bars::skeleton,
        shelf::sections,
        evaluate::import_dxf,
        jobs::list,
        jobs::create,
        jobs::read,
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
pub struct Api;

/// The OpenAPI document, as text.
pub fn openapi() -> String {
    Api::openapi().to_pretty_json().unwrap_or_default() + "\n"
}

/// The JSON Schema of the job file, taken from the same description.
pub fn job_schema() -> serde_json::Value {
    let all = serde_json::to_value(Api::openapi()).unwrap_or_default();
    let text = all["components"]["schemas"].to_string().replace("#/components/schemas/", "#/$defs/");
    let defs: serde_json::Value = serde_json::from_str(&text).unwrap_or_default();
    // Only what a job refers to, directly or not.
    let mut wanted = vec!["Job".to_string()];
    let mut kept = serde_json::Map::new();
    while let Some(name) = wanted.pop() {
        if kept.contains_key(&name) {
            continue;
        }
        let def = defs[&name].clone();
        let text = def.to_string();
        wanted.extend(text.split("#/$defs/").skip(1).filter_map(|t| t.split('"').next()).map(str::to_string));
        kept.insert(name, def);
    }
    let mut joined = Vec::new();
    kept.values_mut().for_each(|def| close(def, &mut joined));
    for name in joined {
        if let Some(def) = kept.get_mut(&name).and_then(serde_json::Value::as_object_mut) {
            def.remove("additionalProperties");
        }
    }
    serde_json::json!({
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Steelk job file",
        "$ref": "#/$defs/Job",
        "$defs": kept,
    })
}

/// Where schemas are joined by `allOf`, each alone would refuse the other's fields: the whole is closed instead of its parts.
fn close(schema: &mut serde_json::Value, joined: &mut Vec<String>) {
    use serde_json::Value;
    match schema {
        Value::Array(list) => list.iter_mut().for_each(|s| close(s, joined)),
        Value::Object(map) => {
            if let Some(Value::Array(parts)) = map.get("allOf") {
                let names = parts.iter().filter_map(|p| p.get("$ref")?.as_str()?.strip_prefix("#/$defs/"));
                joined.extend(names.map(str::to_string));
                map.insert("unevaluatedProperties".into(), Value::Bool(false));
            }
            map.values_mut().for_each(|s| close(s, joined));
        }
        _ => {}
    }
}

pub fn routes(config: &mut web::ServiceConfig) {
    let json = web::JsonConfig::default()
        .limit(steelk_formats::jobfile::MOST_BYTES)
        .error_handler(|e, _| Problem::new(400, format!("The request cannot be read: {e}"), "send JSON as /api/openapi.json describes it").into());
    let query = web::QueryConfig::default().error_handler(|e, _| Problem::new(400, format!("The query cannot be read: {e}"), "see /api/openapi.json").into());
    let path = web::PathConfig::default().error_handler(|e, _| Problem::new(404, format!("The path cannot be read: {e}"), "see /api/openapi.json").into());
    config.service(
        web::scope("/api")
            .app_data(json)
            .app_data(query)
            .app_data(path)
            .app_data(web::PayloadConfig::new(steelk_formats::dxf::MOST_BYTES))
            .route("/openapi.json", web::get().to(async || HttpResponse::Ok().content_type("application/json").body(openapi())))
            .route("/health", web::get().to(shelf::health))
            .route("/book", web::get().to(shelf::book))
            .route("/evaluate", web::post().to(evaluate::evaluate))
            .route("/short", web::post().to(evaluate::short))
            .route("/frame-short", web::post().to(evaluate::frame_short))
            .route("/bars", web::post().to(bars::bars))
            .route("/skeleton", web::post().to(bars::skeleton))
            .route("/sections", web::get().to(shelf::sections))
            .route("/dxf", web::post().to(evaluate::import_dxf))
            .route("/jobs", web::get().to(jobs::list))
            .route("/jobs", web::post().to(jobs::create))
            .route("/jobs/{id}", web::get().to(jobs::read))
            .route("/jobs/{id}", web::put().to(jobs::save))
            .route("/jobs/{id}/archive", web::post().to(jobs::archive))
            .route("/jobs/{id}/restore", web::post().to(jobs::restore))
            .route("/jobs/{id}/copy", web::post().to(jobs::copy))
            .route("/jobs/{id}/revisions", web::get().to(jobs::revisions))
            .route("/jobs/{id}/revisions/{revision}", web::get().to(jobs::revision))
            .route("/jobs/{id}/picture.svg", web::get().to(jobs::picture))
            .route("/jobs/{id}/papers/{kind}", web::get().to(papers::paper))
            .default_service(web::to(async || problem::problem(404, "There is no such address", "see /api/openapi.json"))),
    );
}
