//! The pictures of one bend: a section through it, and how it lies between its tools. They are asked for one
//! by one, by who looks at them: drawn for every bend at every key they were most of an answer.

use actix_web::web::Data;
use actix_web::{HttpRequest, HttpResponse};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use steelk_core::drawing::{at_the_tools, section};
use steelk_core::job::Job;
use steelk_core::result::PieceResult;
use steelk_formats::svg::svg;
use utoipa::ToSchema;

use super::body::Body;
use super::problem::Problem;
use super::{State, about_job, json};

#[derive(Deserialize, ToSchema)]
pub struct BendBody {
    /// The job, saved or not.
    #[schema(value_type = Job)]
    pub job: Value,
    /// Id of the piece.
    pub piece: String,
    /// Name of the bend.
    pub bend: String,
}

#[derive(Serialize, ToSchema)]
pub struct BendPictures {
    /// A section through the bend, SVG.
    pub section: String,
    /// The bend between its tools, SVG; empty for one that is rolled.
    pub at_the_tools: String,
}

/// Size of the pictures, mm.
const SECTION: glam::DVec2 = glam::DVec2::new(124.0, 70.0);
const AT_THE_TOOLS: glam::DVec2 = glam::DVec2::new(90.0, 60.0);

fn pictures(p: &PieceResult, name: &str) -> Option<BendPictures> {
    let bend = p.flat.bends.iter().find(|b| b.name == name)?;
    let step = p.bend_rows.iter().position(|r| r.name == name);
    Some(BendPictures {
        section: svg(&section(p, bend, SECTION)),
        at_the_tools: step.map_or_else(String::new, |k| svg(&at_the_tools(p, k, AT_THE_TOOLS))),
    })
}

#[utoipa::path(post, path = "/api/bend", request_body = BendBody, responses((status = 200,
    body = BendPictures), (status = 422, body = Problem)))]
pub async fn bend(state: Data<State>, request: HttpRequest, body: Body) -> Result<HttpResponse, Problem> {
    about_job::<BendBody>(
        (state, request, body),
        |told| told.job.take(),
        |_, result, told| {
            let BendBody { piece, bend, .. } = told;
            let found = result.pieces.iter().find(|p| p.id == *piece).and_then(|p| pictures(p, bend));
            let none = || {
                let message = format!("The piece '{piece}' of this job has no bend '{bend}'");
                Problem::new(422, message, "name a bend of its bend sheet")
            };
            json(&found.ok_or_else(none)?)
        },
    )
    .await
}
