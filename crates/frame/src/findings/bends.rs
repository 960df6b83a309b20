//! Bent bars: bends that are tight for what is bent, and straights that are short for the bender.

use ground::finding::{Finding, Severity};
use shop::bend_book::BendBook;

use super::finding;
use crate::FrameResult;
use crate::bent::{self, bender, depth};
use crate::mends::Mends;
use crate::model::{CentrelineSegment, Member};

pub fn bends(book: &BendBook, mends: &Mends, r: &FrameResult, out: &mut Vec<Finding>) {
    for m in r.members.iter().filter(|m| !m.is_straight()) {
        ground::halt::point();
        one(book, mends, r, m, out);
    }
}

/// Depths nearer than this are one, mm.
const SAME: f64 = 0.011;

fn one(book: &BendBook, mends: &Mends, r: &FrameResult, m: &Member, out: &mut Vec<Finding>) {
    let p = &r.profiles[m.profile];
    let d = &r.display;
    let short_of = |s: &CentrelineSegment| match (s, depth(p, s)) {
        (CentrelineSegment::Bend { radius, .. }, Some((_, deep))) => Some((2.0 * deep - radius, deep)),
        _ => None,
    };
    let tightest = m.way.iter().filter_map(short_of).max_by(|a, b| a.0.total_cmp(&b.0));
    if let Some((short, deep)) = tightest.filter(|t| t.0 > 0.0) {
        out.push(Finding {
            amount: d.length_unit(short),
            rule: "centreline radius at least twice the depth".into(),
            names: vec![m.name.clone()],
            line: Some(m.line.clone()),
            mend: mends.resized(&m.line, "radius", d, 2.0 * deep, "bend it round"),
            ..finding(
                "tight_bend",
                Severity::Warn,
                format!("{} is bent tighter than twice its depth: the wall may fold", m.name),
            )
        });
    }
    let deep = m.way.iter().filter_map(|s| depth(p, s)).map(|(_, deep)| deep);
    if let Some(test) = book.tests.iter().find(|t| t.id == m.bending.by)
        && (test.material != m.material.id || deep.into_iter().any(|d| (d - test.t).abs() > SAME))
    {
        out.push(Finding {
            rule: format!("the test was made {} thick in {}", d.length_unit(test.t), test.material),
            names: vec![m.name.clone()],
            line: Some(m.line.clone()),
            ..finding(
                "test_bend_other",
                Severity::Note,
                format!("{} goes by a test bend in another material or depth", m.name),
            )
        });
    }
    if let Some(short) = bent::self_met(m, p) {
        out.push(Finding {
            amount: d.length_unit(short),
            rule: "legs of a bar stand its own depth apart".into(),
            source: "geometry".into(),
            names: vec![m.name.clone()],
            line: Some(m.line.clone()),
            ..finding("meets_itself", Severity::Stop, format!("{} runs into itself", m.name))
        });
    }
    let Some((clamp, told)) = m.bending.clamp.zip(bender(m, p)) else { return };
    let straights = told.steps.iter().map(|s| s.straight).chain([told.tail]);
    let short = straights.enumerate().filter(|(_, s)| *s < clamp - ground::geom::COINCIDENT);
    let ends = told.steps.len();
    let named: Vec<String> = short
        .map(|(i, s)| match i {
            0 => format!("before bend 1 ({})", d.length(s)),
            i if i == ends => format!("behind bend {i} ({})", d.length(s)),
            i => format!("between bends {i} and {} ({})", i + 1, d.length(s)),
        })
        .collect();
    if !named.is_empty() {
        out.push(Finding {
            rule: format!("the bender needs {} straight", d.length_unit(clamp)),
            names: vec![m.name.clone()],
            line: Some(m.line.clone()),
            ..finding(
                "bend_clamp",
                Severity::Warn,
                format!("{} is too short to be held {}", m.name, named.join(", ")),
            )
        });
    }
}
