//! Small builders for briefs in tests.

use super::*;
use steelk_core::brief::{Check, Proposal};
use steelk_core::evaluate::{evaluate, proposals};
use steelk_core::verbs::read_figure;

/// A brief of these lines, typed as on a drawing.
pub fn brief(of: &str, lines: &[&str]) -> Brief {
    let line = |(i, text): (usize, &&str)| BriefLine {
        pin: None,
        id: format!("f-{}", i + 1),
        off: false,
        note: String::new(),
        group: String::new(),
        say: read_figure(text, &Context::default()).unwrap_or_else(|f| panic!("{text}: {f}")),
    };
    Brief {
        id: "brief-1".into(),
        mark: "D-1".into(),
        of: of.into(),
        lines: lines.iter().enumerate().map(line).collect(),
        ..Brief::default()
    }
}

pub fn with(piece: Piece, b: Brief) -> Job {
    Job { pieces: vec![piece], briefs: vec![b], ..job(school(Default::default())) }
}

pub fn checks(job: &Job) -> Vec<Check> {
    let r = evaluate(job);
    assert!(r.briefs[0].faults.is_empty(), "{:?}", r.briefs[0].faults);
    r.briefs[0].checks.clone()
}

pub fn proposed(job: &Job) -> Vec<Proposal> {
    proposals(job, &evaluate(job), "brief-1").unwrap()
}

/// The job with all that is clear tied, as the page does it.
pub fn tied(job: &Job) -> Job {
    let patch = proposed(job).into_iter().flat_map(|p| p.patch).collect();
    let mut out = job.clone();
    out.briefs[0] = patched(&job.briefs[0], &steelk_core::result::Mend { label: String::new(), patch });
    out
}

pub fn said(checks: &[Check]) -> Vec<String> {
    checks.iter().map(|c| format!("{:?} {} {} {}", c.verdict, c.nominal, c.measured, c.said)).collect()
}
