//! Whatever stands in the fields of a frame, it is worked out or refused at that field, and the rest goes on.

use proptest::prelude::*;
use serde_json::{Value, json};
use steelk_core::frame::*;
use steelk_core::job::*;

/// A frame in which every verb speaks and every optional field says something.
fn all_verbs() -> Value {
    let line = |id: &str, say: Value| json!({ "id": id, "off": false, "say": say });
    let node = |name: &str, from: &str, x: &str, y: &str, z: &str| json!({ "verb": "node", "name": name, "from": from, "x": x, "y": y, "z": z });
    let members = |name: &str, path: &[&str], more: Value| {
        let mut out =
            json!({ "verb": "members", "name": name, "path": path, "section": "60x60x3", "turn": "0", "sits": "middle", "closed": false, "arc": false });
        out.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        out
    };
    json!({
        "id": "f", "mark": "F", "name": "all", "quantity": "2", "material": "s235", "section": "60x60x3", "joint": "mitre", "gap": "0.5",
        "columns": ["part number"], "rows": [{ "piece": "rail-1", "mark": "R-1", "name": "rail", "cells": ["7"] }],
        "lines": [
            line("n-a", node("A", "", "0", "0", "0")),
            line("n-b", node("B", "A", "1200", "0", "0")),
            line("n-c", node("C", "B", "0", "800", "0")),
            line("n-d", node("D", "A", "0", "800", "0")),
            line("n-e", node("E", "A", "0", "0", "900")),
            line("n-f", node("F", "B", "0", "0", "900")),
            line("n-g", node("G", "E", "600", "0", "250")),
            line("n-m", json!({ "verb": "between", "name": "M", "from": "A", "to": "B", "by": "share", "at": "1/2" })),
            line("rail-1", members("rail", &["A", "B", "C", "D"], json!({ "closed": true }))),
            line("post-1", members("post", &["A", "E"], json!({ "section": "80x80x4", "turn": "10 deg", "sits": "top_left" }))),
            line("post-2", members("post", &["B", "F"], json!({ "material": "1.4301" }))),
            line("bow-1", members("bow", &["E", "G", "F"], json!({ "arc": true, "section": "48.3x3" }))),
            line("pipe-1", members("pipe", &["D", "C", "F"], json!({ "radius": "150", "section": "33.7x2.6" }))),
            line("n-h", node("H", "C", "0", "0", "700")),
            line("post-3", members("post", &["C", "H"], json!({ "section": "48.3x3" }))),
            line("brace-1", members("brace", &["M", "E"], json!({ "section": "L 60x40x5" }))),
            line("joint-1", json!({ "verb": "joint", "at": ["B"], "how": "butt", "first": ["post-2"], "gap": "2" })),
            line("trim-1", json!({ "verb": "trim", "member": "post-1", "tip": "end", "by": { "by": "plane", "way": "up", "at": "850" }, "gap": "1", "lengthen": false })),
            line("trim-2", json!({ "verb": "trim", "member": "brace-1", "tip": "end", "by": { "by": "nodes", "nodes": ["E", "F", "C"] } })),
            line("trim-3", json!({ "verb": "trim", "member": "post-2", "tip": "end", "by": { "by": "member", "member": "rail-1.1" }, "lengthen": true })),
            line("hole-1", json!({ "verb": "hole", "members": ["post-1"], "face": "left", "diameter": "11", "slot": "20", "at": "100", "off": "5", "through": true, "count": "3", "pitch": "60" })),
            line("notch-1", json!({ "verb": "notch_end", "members": ["brace-1"], "tip": "start", "face": "top", "width": "6", "length": "40", "through": false })),
            line("base-1", json!({ "verb": "base", "at": ["A"], "width": "140", "length": "120", "thickness": "8", "hole": "11", "edge": "20" })),
            line("cap-1", json!({ "verb": "cap", "at": ["D"], "thickness": "3", "inset": "1" })),
            line("gusset-1", json!({ "verb": "gusset", "at": "B", "between": ["rail-1.1", "post-2"], "leg": "90", "leg_2": "120", "thickness": "6", "nose": "10", "snipe": "12", "place": "both" })),
            line("fit-1", json!({ "verb": "fit", "around": ["A", "B", "C", "D"], "thickness": "5", "clearance": "2", "off": "10", "over": false })),
            line("lug-1", json!({ "verb": "lug", "member": "rail-1.1", "face": "top", "at": "300", "base_length": "100", "base_width": "60", "base": "10", "thickness": "12", "radius": "30", "eye": "26", "height": "60" })),
            line("ring-1", json!({ "verb": "ring_clamp", "member": "post-3", "at": "300", "outside": "60", "width": "30", "clearance": "0.5", "split": "5", "ear": "28", "thickness": "8", "bolt": "9" })),
            line("stack-1", json!({ "verb": "stack", "at": "C", "blocks": [{ "name": "block", "length": "100", "width": "80", "height": "20" }] })),
            line("weld-1", json!({ "verb": "weld", "at": ["A"], "kind": "fillet", "size": "4" })),
            line("assembly-1", json!({ "verb": "assembly", "mark": "F-A", "name": "side", "of": ["post-1", "base-1"] })),
            line("mirror-1", json!({ "verb": "mirror_frame", "of": ["post-1", "hole-1", "base-1"], "across": "east", "at": "-300" })),
            line("repeat-1", json!({ "verb": "repeat_frame", "of": ["stack-1"], "count": "3", "x": "0", "y": "200", "z": "0" })),
        ]
    })
}

/// Pointers of every leaf under a value.
fn leaves(value: &Value, at: &str, out: &mut Vec<String>) {
    match value {
        Value::Object(map) => map.iter().for_each(|(k, v)| leaves(v, &format!("{at}/{k}"), out)),
        Value::Array(list) => list.iter().enumerate().for_each(|(i, v)| leaves(v, &format!("{at}/{i}"), out)),
        _ => out.push(at.to_string()),
    }
}

fn job() -> Job {
    Job { format: FORMAT, ..Job::default() }
}

/// Works the frame out with all that is made of it, and looks at every fault.
fn survives(told: &Value) -> Result<(), TestCaseError> {
    let Ok(frame) = serde_json::from_value::<Frame>(told.clone()) else { return Ok(()) };
    let job = job();
    let r = evaluate_frame(&job, &frame);
    prop_assert!(r.mass().is_finite() && r.weld_mass().is_finite() && r.centre().is_finite());
    for f in &r.faults {
        prop_assert!(!f.fault.message.is_empty() && !f.fault.mend.is_empty(), "{f:?}");
        // The path is that of a field of the line, or of the frame: it can be shown beside what was typed.
        let of = if f.line.is_empty() { Some(told) } else { told["lines"].as_array().unwrap().iter().find(|l| l["id"] == f.line.as_str()) };
        let Some(of) = of else { return Err(TestCaseError::fail(format!("no line '{}': {f:?}", f.line))) };
        let parent = f.path.rsplit_once('/').map_or("", |p| p.0);
        prop_assert!(of.pointer(parent).is_some(), "{f:?}");
    }
    for f in &r.facts {
        prop_assert!(f.lengths.long.is_finite() && f.mass >= 0.0 && f.centre.is_finite());
    }
    let list = frame_list(&frame, &r, &job.display, &SawFacts::usual(&job.display));
    prop_assert_eq!(list.bars.iter().map(|b| b.quantity).sum::<usize>(), r.members.len() * r.quantity);
    prop_assert!(section_cards(&r).len() <= r.profiles.len());
    prop_assert!(whole(&r, false).points.iter().all(|p| p.is_finite()));
    Ok(())
}

/// As it stands, nothing is refused and every line makes what it says.
#[test]
fn every_verb_speaks() {
    let told = all_verbs();
    let frame: Frame = serde_json::from_value(told.clone()).unwrap();
    assert_eq!(serde_json::to_value(&frame).unwrap()["lines"].as_array().unwrap().len(), told["lines"].as_array().unwrap().len());
    let r = evaluate_frame(&job(), &frame);
    assert!(r.faults.is_empty(), "{:#?}", r.faults);
    for plate in ["base-1", "cap-1", "gusset-1", "fit-1", "lug-1.upright", "ring-1", "stack-1"] {
        assert!(r.plates.iter().any(|p| p.name.starts_with(plate)), "{plate}: {:?}", r.plates.iter().map(|p| &p.name).collect::<Vec<_>>());
    }
    assert!(r.members.iter().any(|m| !m.holes.is_empty() && m.name == "mirror-1.post-1"));
    survives(&told).unwrap();
}

/// A plate that no sheet can be is refused at its line; the frame is weighed without it. Once it came out as no number.
#[test]
fn a_plate_that_cannot_be_made() {
    let mut told = all_verbs();
    let whole = evaluate_frame(&job(), &serde_json::from_value(told.clone()).unwrap());
    let at = told["lines"].as_array().unwrap().iter().position(|l| l["id"] == "gusset-1").unwrap();
    told["lines"][at]["say"]["thickness"] = json!("470");
    let r = evaluate_frame(&job(), &serde_json::from_value(told).unwrap());
    assert!(!r.faults.is_empty());
    assert!(r.faults.iter().all(|f| f.line == "gusset-1" && f.path == "/say/thickness" && f.fault.message.contains("gusset-1")), "{:?}", r.faults);
    assert!(r.plates.iter().all(|p| p.line != "gusset-1"));
    let gussets: f64 = whole.plates.iter().filter(|p| p.line == "gusset-1").map(|p| p.piece.value("mass") * p.places.len() as f64).sum();
    assert!((whole.mass() - gussets - r.mass()).abs() < 1e-9 && gussets > 0.1, "{} {} {gussets}", whole.mass(), r.mass());
}

/// Each line left out in turn: what hangs on it is refused in words, all else stands.
#[test]
fn any_line_may_be_missing() {
    let told = all_verbs();
    let n = told["lines"].as_array().unwrap().len();
    for i in 0..n {
        let mut less = told.clone();
        less["lines"].as_array_mut().unwrap().remove(i);
        survives(&less).unwrap();
        let mut off = told.clone();
        off["lines"][i]["off"] = json!(true);
        survives(&off).unwrap();
        // Said last instead of first, what it names or makes comes too late for some.
        let mut late = told.clone();
        let lines = late["lines"].as_array_mut().unwrap();
        let line = lines.remove(i);
        lines.push(line);
        survives(&late).unwrap();
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// Any fields with any values.
    #[test]
    fn any_value_in_any_field(changes in prop::collection::vec((any::<prop::sample::Index>(), hostile()), 1..5)) {
        let mut told = all_verbs();
        let mut paths = Vec::new();
        leaves(&told, "", &mut paths);
        paths.retain(|p| !p.ends_with("/id") && !p.ends_with("/verb"));
        let mut changed = Vec::new();
        for (which, value) in changes {
            let path = &paths[which.index(paths.len())];
            changed.push(format!("{path} = {value}"));
            *told.pointer_mut(path).unwrap() = value;
        }
        survives(&told).map_err(|e| TestCaseError::fail(format!("{}: {e}", changed.join(", "))))?;
    }
}

fn hostile() -> impl Strategy<Value = Value> {
    let texts = prop::sample::select(vec![
        "",
        " ",
        "0",
        "-1",
        "1e-9",
        "1e9",
        "1e308",
        "-1e308",
        "1e999",
        "NaN",
        "inf",
        "1/0",
        "0/0",
        "2*",
        "((((",
        "5 mm",
        "3 in",
        "90 deg",
        "1'-6 1/2\"",
        "x",
        "ß",
        "A",
        "B",
        "E",
        "rail-1",
        "rail-1.2",
        "post-1",
        "mirror-1.post-1",
        "IPE 100",
        "60x60x40",
        "ROUND 5",
        "L 60x40x5",
        "0.0001",
        "99999",
        "200000",
        "\u{0}",
        "🔩",
        "s235",
    ]);
    prop_oneof![
        8 => texts.prop_map(|t| json!(t)),
        3 => (-5000i32..5000).prop_map(|n| json!(n.to_string())),
        1 => any::<bool>().prop_map(|b| json!(b)),
        1 => prop::collection::vec(prop::sample::select(vec!["A", "B", "C", "D", "rail-1.1", "post-1", "nowhere"]), 0..4).prop_map(|v| json!(v)),
        1 => "\\PC{0,30}".prop_map(|t| json!(t)),
    ]
}
