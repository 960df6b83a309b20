//! Small builders for jobs in tests.
#![allow(dead_code)]

pub mod brief;
pub mod frame;

use steelk_core::evaluate::evaluate_piece;
use steelk_core::grammar::Context;
use steelk_core::job::*;
use steelk_core::result::PieceResult;
use steelk_core::shop::{BendMethod, BendRule};

pub fn k_factor(k: &str) -> BendRule {
    BendRule { school: BendMethod::KFactor, k: k.into(), ..BendRule::default() }
}

pub fn school(school: BendMethod) -> BendRule {
    BendRule { school, ..BendRule::default() }
}

/// Lines from short text; ids are `start-1`, `punch-1`, … by verb.
pub fn lines(texts: &[&str]) -> Vec<Line> {
    let mut out: Vec<Line> = Vec::new();
    for text in texts {
        let known: Vec<String> = out.iter().filter(|l| l.say.is_cut()).map(|l| l.id.clone()).collect();
        let say = read_line(text, &Context::knowing(&known)).unwrap_or_else(|f| panic!("{text}: {f}"));
        let told = serde_json::to_value(&say).unwrap();
        let verb = if say.is_start() { "start" } else { told["verb"].as_str().unwrap() };
        let n = out.iter().filter(|l| l.id.starts_with(&format!("{verb}-"))).count() + 1;
        out.push(Line::new(format!("{verb}-{n}"), say));
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
    Line::new(id, serde_json::from_value(say.clone()).unwrap_or_else(|e| panic!("{say}: {e}")))
}

/// The piece with a finding's mend carried out, as the web does it.
pub fn mended(piece: &Piece, f: &steelk_core::result::Finding) -> Piece {
    patched(piece, f.mend.as_ref().expect("a mend"))
}

/// A mend carried out, as the web does.
pub fn patched<T: serde::Serialize + serde::de::DeserializeOwned>(
    of: &T,
    mend: &steelk_core::result::Mend,
) -> T {
    let mut value = serde_json::to_value(of).unwrap();
    for step in &mend.patch {
        let (parent, key) = step.path.rsplit_once('/').unwrap();
        match value.pointer_mut(parent).unwrap_or_else(|| panic!("{}", step.path)) {
            serde_json::Value::Array(list) if key == "-" => list.push(step.value.clone()),
            serde_json::Value::Array(list) => list[key.parse::<usize>().unwrap()] = step.value.clone(),
            serde_json::Value::Object(map) => drop(map.insert(key.into(), step.value.clone())),
            other => panic!("{other}"),
        }
    }
    serde_json::from_value(value).unwrap()
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
    made(school(BendMethod::Din6935), &piece(thickness, radius, texts))
}
