//! What can be said: the verbs, typed lines, and what a line can go on with.

use std::collections::BTreeMap;

use actix_web::HttpResponse;
use actix_web::web::Json;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use steelk_core::grammar::{Bench, Kind, Offered, TextFault, VerbView, complete, context_of, describe};
use steelk_core::job::text::{SettingView, new_job, settings};
use steelk_core::job::{Job, take_in};
use steelk_core::quantity::LengthUnit;
use steelk_core::shop::threads::{SizeRow, screw_sizes, thread_sizes};
use steelk_core::verbs::{BRIEF, FRAME, PIECE};
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;

/// Where a line is said.
#[derive(Clone, Copy, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum BenchName {
    Piece,
    Frame,
    Brief,
}

impl BenchName {
    fn bench(self) -> &'static Bench {
        match self {
            BenchName::Piece => &PIECE,
            BenchName::Frame => &FRAME,
            BenchName::Brief => &BRIEF,
        }
    }
}

/// Every verb with its sentence, its usual values, its keys and its examples.
#[derive(Serialize, ToSchema)]
pub struct Verbs {
    pub piece: Vec<VerbView>,
    pub frame: Vec<VerbView>,
    pub brief: Vec<VerbView>,
    /// Settings of the job, and the heads of pieces and frames.
    pub settings: Vec<SettingView>,
    pub new_job: NewJobs,
    /// What a piece or a frame may begin with.
    pub beginnings: super::starts::Beginnings,
}

/// A job with nothing in it yet.
#[derive(Serialize, ToSchema)]
pub struct NewJobs {
    pub mm: Job,
    pub inch: Job,
}

#[utoipa::path(get, path = "/api/verbs", responses((status = 200, body = Verbs)))]
pub async fn verbs() -> HttpResponse {
    static TEXT: std::sync::LazyLock<String> = std::sync::LazyLock::new(|| {
        let new_job = NewJobs { mm: new_job(LengthUnit::Mm), inch: new_job(LengthUnit::In) };
        let verbs = Verbs {
            piece: describe(&PIECE),
            frame: describe(&FRAME),
            brief: describe(&BRIEF),
            settings: settings(),
            new_job,
            beginnings: super::starts::all(),
        };
        serde_json::to_string(&verbs).unwrap_or_default()
    });
    HttpResponse::Ok().content_type("application/json").body(TEXT.as_str())
}

/// A line that stands already: what it says is looked at for names only.
#[derive(Deserialize, ToSchema)]
pub struct Standing {
    pub id: String,
    #[schema(value_type = Object)]
    pub say: Value,
}

#[derive(Deserialize, ToSchema)]
pub struct LinesBody {
    pub bench: BenchName,
    /// One line or several.
    pub text: String,
    /// The lines of the piece or frame.
    #[serde(default)]
    pub lines: Vec<Standing>,
    /// How many of them stand above the new ones.
    #[serde(default)]
    pub above: usize,
    /// The highest numbers ever given to ids, by stem.
    #[serde(default)]
    pub issued: BTreeMap<String, u32>,
}

#[derive(Serialize, ToSchema)]
pub struct NewLine {
    pub id: String,
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    pub off: bool,
    #[serde(skip_serializing_if = "String::is_empty")]
    pub note: String,
    #[serde(skip_serializing_if = "String::is_empty")]
    pub group: String,
    #[schema(value_type = Object)]
    pub say: Value,
}

/// The lines that could be read, and what is wrong with the others.
#[derive(Serialize, ToSchema)]
pub struct LinesRead {
    pub lines: Vec<NewLine>,
    pub faults: Vec<TextFault>,
}

/// Typed or pasted lines, read beside those that stand.
#[utoipa::path(post, path = "/api/lines", request_body = LinesBody, responses((status = 200,
    body = LinesRead)))]
pub async fn lines(body: Body) -> Result<Json<LinesRead>, Problem> {
    let body: LinesBody = body.json()?;
    let standing: Vec<(String, Value)> = body.lines.into_iter().map(|l| (l.id, l.say)).collect();
    let (read, faults) = take_in(body.bench.bench(), &body.text, &standing, body.above, &body.issued);
    let lines = read
        .into_iter()
        .map(|l| NewLine { id: l.id, off: l.off, note: l.note, group: l.group, say: l.say })
        .collect();
    Ok(Json(LinesRead { lines, faults }))
}

#[derive(Deserialize, ToSchema)]
pub struct CompleteBody {
    pub bench: BenchName,
    /// The line up to where it is being typed.
    pub text: String,
    #[serde(default)]
    pub lines: Vec<Standing>,
}

/// What can come next, and from which character on it takes the place of what is half typed.
#[derive(Serialize, ToSchema)]
pub struct Completed {
    pub from: usize,
    pub offers: Vec<Offered>,
}

/// What a line can go on with.
#[utoipa::path(post, path = "/api/complete", request_body = CompleteBody, responses((status = 200,
    body = Completed)))]
pub async fn go_on(body: Body) -> Result<Json<Completed>, Problem> {
    let body: CompleteBody = body.json()?;
    let bench = body.bench.bench();
    let context = context_of(bench, body.lines.iter().map(|l| (l.id.as_str(), &l.say)));
    let (from, mut offers) = complete(bench, &body.text, &context);
    let begun = body.text[from..].to_lowercase();
    let sizes = offers.iter().find_map(|o| match o {
        Offered::Slot { kind: Kind::Thread, .. } => Some(thread_sizes()),
        Offered::Slot { kind: Kind::Screw, .. } => Some(screw_sizes()),
        _ => None,
    });
    let fits =
        |s: &&SizeRow| if begun.is_empty() { s.usual } else { s.size.to_lowercase().starts_with(&begun) };
    let sized = sizes.unwrap_or_default().iter().filter(fits);
    offers.extend(sized.map(|s| Offered::Words { text: s.size.into(), about: &s.said }));
    Ok(Json(Completed { from: body.text[..from].chars().count(), offers }))
}
