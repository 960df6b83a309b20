//! What a piece or a frame may begin with: its sizes, its picture, the lines that the sizes make.

use std::collections::{BTreeMap, HashMap};
use std::sync::LazyLock;

use actix_web::HttpResponse;
use actix_web::http::header;
use actix_web::web::{Json, Path};
use serde::{Deserialize, Serialize};
use steelk_core::quantity::LengthUnit;
use steelk_core::starts::{Beginning, Begun, SizeFault, beginning, beginnings, picture};
use steelk_formats::svg;
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;
use super::verbs::NewLine;

/// The ways to begin on a bench.
#[derive(Serialize, ToSchema)]
pub struct Beginnings {
    pub piece: Vec<BeginningView>,
    pub frame: Vec<BeginningView>,
}

/// One way to begin: a few sizes, lettered in its picture (`/api/begin/{tag}/picture`).
#[derive(Serialize, ToSchema)]
pub struct BeginningView {
    pub tag: &'static str,
    pub name: &'static str,
    pub about: &'static str,
    /// On an empty bench.
    pub key: char,
    pub sizes: Vec<SizeView>,
    /// What the usual sizes make.
    pub mm: Vec<BegunPart>,
    pub inch: Vec<BegunPart>,
}

#[derive(Serialize, ToSchema)]
pub struct SizeView {
    pub letter: char,
    pub name: &'static str,
    pub mm: &'static str,
    pub inch: &'static str,
}

/// The lines of what goes onto the bench, or of what stands beside it under a name of its own.
#[derive(Serialize, ToSchema)]
pub struct BegunPart {
    #[serde(skip_serializing_if = "str::is_empty")]
    pub name: &'static str,
    pub lines: Vec<NewLine>,
}

fn part(b: Begun) -> BegunPart {
    let line = |l: steelk_core::grammar::TextLine| NewLine {
        id: l.id,
        off: l.off,
        note: l.note,
        group: l.group,
        say: l.say,
    };
    BegunPart { name: b.name, lines: b.lines.into_iter().map(line).collect() }
}

fn view(b: &'static Beginning) -> BeginningView {
    let usual = |unit| {
        b.lines(b.usual(unit), unit).map(|all| all.into_iter().map(part).collect()).unwrap_or_default()
    };
    BeginningView {
        tag: b.tag,
        name: b.name,
        about: b.about,
        key: b.key,
        sizes: b
            .sizes
            .iter()
            .map(|s| SizeView { letter: s.letter, name: s.name, mm: s.mm, inch: s.inch })
            .collect(),
        mm: usual(LengthUnit::Mm),
        inch: usual(LengthUnit::In),
    }
}

/// Every one of them.
pub fn all() -> Beginnings {
    let of = |frame| beginnings().filter(|b| b.is_frame() == frame).map(view).collect();
    Beginnings { piece: of(false), frame: of(true) }
}

#[derive(Deserialize, ToSchema)]
pub struct BeginBody {
    pub tag: String,
    /// By their letters, as typed.
    pub sizes: BTreeMap<char, String>,
    /// What bare numbers are in.
    #[serde(default)]
    pub unit: LengthUnit,
    /// The highest numbers ever given to ids of the piece or frame, by stem.
    #[serde(default)]
    pub issued: BTreeMap<String, u32>,
}

/// The lines that the sizes make, or what is wrong with one of them.
#[derive(Serialize, ToSchema)]
pub struct BeginAnswer {
    pub parts: Vec<BegunPart>,
    pub fault: Option<SizeFault>,
}

fn named(tag: &str) -> Result<&'static Beginning, Problem> {
    beginning(tag).ok_or_else(|| {
        Problem::new(422, format!("Nothing begins with a '{tag}'"), "name one of those in /api/verbs")
    })
}

/// Sizes → lines.
#[utoipa::path(post, path = "/api/begin", request_body = BeginBody, responses((status = 200,
    body = BeginAnswer), (status = 422, body = Problem)))]
pub async fn begin(body: Body) -> Result<Json<BeginAnswer>, Problem> {
    let body: BeginBody = body.json()?;
    Ok(Json(match named(&body.tag)?.lines_beside(body.sizes, body.unit, &body.issued) {
        Ok(parts) => BeginAnswer { parts: parts.into_iter().map(part).collect(), fault: None },
        Err(fault) => BeginAnswer { parts: Vec::new(), fault: Some(fault) },
    }))
}

/// The picture of a beginning, its sizes lettered.
#[utoipa::path(get, path = "/api/begin/{tag}/picture",
    params(("tag" = String, Path, description = "As `/api/verbs` names it")),
    responses((status = 200, body = String, content_type = "image/svg+xml"), (status = 404, body = Problem)))]
pub async fn begin_picture(tag: Path<String>) -> Result<HttpResponse, Problem> {
    static DRAWN: LazyLock<HashMap<&str, String>> =
        LazyLock::new(|| beginnings().map(|b| (b.tag, svg::svg(&picture(b)))).collect());
    // Some take a while to be made, once.
    let drawn = actix_web::web::block(|| &*DRAWN).await.map_err(Problem::ours)?;
    let svg = drawn.get(tag.as_str()).ok_or_else(|| {
        Problem::new(404, format!("Nothing begins with a '{tag}'"), "name one of those in /api/verbs")
    })?;
    Ok(HttpResponse::Ok()
        .content_type("image/svg+xml")
        .insert_header((header::CACHE_CONTROL, "private, max-age=3600"))
        .body(svg.as_str()))
}
