//! Small builders for jobs in tests.
#![allow(dead_code)]

use steelk_core::job::*;
use steelk_core::result::PieceResult;
use steelk_core::sheet::{evaluate_piece, read_short};
use steelk_core::shopbook::{BendRule, School};

pub fn k_factor(k: &str) -> BendRule {
    BendRule { school: School::KFactor, k: k.into(), ..BendRule::default() }
}

pub fn school(school: School) -> BendRule {
    BendRule { school, ..BendRule::default() }
}

/// Lines from short text; ids are `start-1`, `punch-1`, … by verb.
pub fn lines(texts: &[&str]) -> Vec<Line> {
    let mut out: Vec<Line> = Vec::new();
    for text in texts {
        let known: Vec<String> = out.iter().filter(|l| matches!(l.say, Say::Punch(_) | Say::Repeat(_) | Say::Mirror(_))).map(|l| l.id.clone()).collect();
        let say = read_short(text, &known).unwrap_or_else(|f| panic!("{text}: {f}"));
        let verb = match &say {
            s if s.is_start() => "start",
            Say::Punch(_) => "punch",
            Say::Round(_) => "round",
            Say::Repeat(_) => "repeat",
            _ => "mirror",
        };
        let n = out.iter().filter(|l| l.id.starts_with(verb)).count() + 1;
        out.push(Line { id: format!("{verb}-{n}"), off: false, say });
    }
    out
}

pub fn piece(thickness: &str, radius: &str, texts: &[&str]) -> Piece {
    Piece {
        id: "p".into(),
        mark: "P-1".into(),
        name: "test piece".into(),
        quantity: "1".into(),
        material: "s235".into(),
        thickness: thickness.into(),
        radius: radius.into(),
        lines: lines(texts),
        ..Piece::default()
    }
}

pub fn job(rule: BendRule) -> Job {
    Job { format: FORMAT, title: "test".into(), bend_rule: rule, ..Job::default() }
}

pub fn made(rule: BendRule, piece: &Piece) -> PieceResult {
    let out = evaluate_piece(&job(rule), piece);
    assert!(out.made && out.faults.is_empty(), "{:?}", out.faults);
    out
}

/// A line from JSON, with an id.
pub fn line(id: &str, say: serde_json::Value) -> Line {
    Line { id: id.into(), off: false, say: serde_json::from_value(say.clone()).unwrap_or_else(|e| panic!("{say}: {e}")) }
}

/// A piece of told lines, ids by verb: `start-1`, `fold-1`, …
pub fn told(thickness: &str, radius: &str, says: &[serde_json::Value]) -> Piece {
    let mut out = piece(thickness, radius, &[]);
    for say in says {
        let verb = say["verb"].as_str().unwrap_or_default();
        let stem = if verb.starts_with("start") { "start" } else { verb };
        let n = out.lines.iter().filter(|l| l.id.starts_with(&format!("{stem}-"))).count() + 1;
        out.lines.push(line(&format!("{stem}-{n}"), say.clone()));
    }
    out
}

/// A piece in millimetres under DIN 6935.
pub fn din(thickness: &str, radius: &str, texts: &[&str]) -> PieceResult {
    made(school(School::Din6935), &piece(thickness, radius, texts))
}
