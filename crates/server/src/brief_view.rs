//! Briefs as the page has them: each with its tally and what is broken, the one that is looked at whole.

use std::sync::Arc;

use serde::Serialize;
use steelk_core::brief::{BriefResult, Check, Tally};
use steelk_core::evaluate::{BriefSubject, brief_subject};
use steelk_core::job::{Brief, Job};
use steelk_core::result::{JobResult, LineFault};
use utoipa::ToSchema;

/// A figure of the drawing that the model does not keep.
#[derive(Serialize, ToSchema)]
pub struct Broken {
    pub line: String,
    /// The figure as it is typed.
    pub figure: String,
    /// By how much and which way, or why it cannot be measured.
    pub said: String,
}

/// How a brief stands.
#[derive(Serialize, ToSchema)]
pub struct BriefState {
    pub id: String,
    pub mark: String,
    /// Id of the piece that it is of; empty where it is of none.
    pub piece: String,
    /// Id of the frame that it is of; empty where it is of none.
    pub frame: String,
    pub tally: Tally,
    /// The first of what is off or lost.
    pub broken: Vec<Broken>,
    pub faults: usize,
}

/// Something that a figure can be tied to.
#[derive(Serialize, ToSchema)]
pub struct ThingView {
    pub name: String,
    pub said: String,
}

/// A brief, checked.
#[derive(Serialize, ToSchema)]
pub struct BriefView {
    pub id: String,
    pub checks: Vec<Check>,
    pub tally: Tally,
    pub faults: Vec<LineFault>,
    /// What of the model can be named.
    pub things: Vec<ThingView>,
}

/// So many broken figures of a brief are told where others are looked at.
const MOST_BROKEN: usize = 12;

fn broken(r: &BriefResult) -> Vec<Broken> {
    let one = |c: &Check| {
        let figure = [c.figure.as_str(), c.what.as_str()].join(" ").trim().to_string();
        Broken { line: c.line.clone(), figure, said: c.said.clone() }
    };
    r.broken().take(MOST_BROKEN).map(one).collect()
}

/// Every brief of the job.
pub fn brief_states(job: &Job, result: &JobResult) -> Vec<BriefState> {
    let one = |(b, r): (&Brief, &Arc<BriefResult>)| {
        let (piece, frame) = match brief_subject(b, &result.pieces, &result.frames) {
            Some(BriefSubject::Piece(p)) => (p.id.clone(), String::new()),
            Some(BriefSubject::Frame(f)) => (String::new(), f.id.clone()),
            None => Default::default(),
        };
        let (id, mark) = (b.id.clone(), b.mark.clone());
        BriefState { id, mark, piece, frame, tally: r.tally, broken: broken(r), faults: r.faults.len() }
    };
    job.briefs.iter().zip(&result.briefs).map(one).collect()
}

/// The brief with this id.
pub fn brief_view(result: &JobResult, id: &str) -> Option<BriefView> {
    let r = result.briefs.iter().find(|b| b.id == id)?;
    let thing = |(name, said): &(String, String)| ThingView { name: name.clone(), said: said.clone() };
    Some(BriefView {
        id: r.id.clone(),
        checks: r.checks.clone(),
        tally: r.tally,
        faults: r.faults.clone(),
        things: r.things.iter().map(thing).collect(),
    })
}
