//! Nothing is stale: whatever a result depends on is changed under a running server, one thing at a time, and
//! its answer is that of the command line, which starts afresh.

mod common;

use common::*;
use serde_json::{Value, json};
use steelk_core::result::{FigureResult, Finding};

/// Bends by the table, by a test bend and by the job's rule; a brake; a frame of the shop's own section, of a
/// piece's flat and of a shelf section.
fn job() -> Value {
    let strip = |id: &str, mark: &str, rule: Value| {
        json!({ "id": id, "mark": mark, "name": "angle", "quantity": "2", "material": "s235",
            "thickness": "2", "radius": "2", "rolling": "unknown", "bend_rule": rule, "lines": [
            { "id": "start-1", "say": { "verb": "start_strip", "width": "30", "measure": "outside",
                "profile": [
                { "kind": "leg", "id": "a", "length": "40 + more" }, { "kind": "bend", "id": "1",
                    "angle": "90" }, { "kind": "leg", "id": "b", "length": "60" }] } }] })
    };
    let mut in_larch = strip("d", "P-4", Value::Null);
    in_larch["material"] = json!("larch");
    let section = json!({ "id": "sec", "mark": " Rail \"S\" ", "name": "section", "quantity": "1",
        "material": "s235", "thickness": "5", "lines": [
        { "id": "start-1", "say": { "verb": "start_plate", "width": "50", "height": "30" } },
        { "id": "punch-1", "say": { "verb": "punch", "shape": { "kind": "rectangle", "width": "30",
            "height": "10" }, "place": { "on": "flat", "x": { "from": "centre", "distance": "" },
                "y": { "from": "centre", "distance": "" } } } }] });
    let node = |n: &str, x: &str| {
        json!({ "id": format!("node-{n}"), "say": { "verb": "node", "name": n,
        "x": x, "y": "0", "z": "0" } })
    };
    let rail = |n: &str, from: &str, to: &str, section: &str| {
        json!({ "id": format!("rail-{n}"),
        "say": { "verb": "members", "name": "rail", "path": [from, to], "section": section } })
    };
    json!({ "format": 1, "title": "stale", "number": "J-9", "display": { "length": "mm", "inches": "1/64" },
        "bend_rule": { "school": "k_factor", "k": "0.4" },
        "figures": [{ "name": "more", "value": "1" }], "stock": [{ "length": "2500", "width": "1250" }],
        "bend_table": [{ "material": "s235", "thickness": "2", "radius": "2", "angle": "90",
            "kind": "deduction", "value": "3.5" }],
        "test_bends": [{ "id": "tb", "material": "s235", "thickness": "2", "radius": "2", "angle": "90",
            "strips": [{ "length": "100", "a": "53.2", "b": "50.2" }] }],
        "brake": { "force": "800", "length": "2000", "openings": ["12", "16"],
            "tools": { "punch_height": "200", "punch_angle": "30", "beam_thickness": "80",
                "die_height": "60", "bed_thickness": "120", "stop_reach": "600", "unsupported": "20" } },
        "saw": { "angle_step": "0.5", "length_step": "0.5", "kerf": "2.5", "trim": "10", "most": "60",
            "offcut": "400" },
        "materials": [{ "id": "larch", "name": "Larch", "density": "590", "strength": "80", "cost": "4",
            "radius": "2", "stuff": "wood", "bent": "not" }],
        "sections": [{ "name": "own", "points": [["0", "0"], ["40", "0"], ["40", "20"], ["0", "20"]] }],
        "pieces": [strip("a", "P-1", json!({ "school": "table" })), strip("b", "P-2",
            json!({ "school": "test_bend", "test": "tb" })), strip("c", "P-3", Value::Null), in_larch,
                section],
        "frames": [{ "id": "f", "mark": "F-1", "name": "frame", "quantity": "2", "material": "s235",
            "section": "60x60x3", "gap": "0", "joint": "mitre", "lines": [
            node("A", "0"), node("B", "1000"), node("C", "2000"), node("D", "3300"),
            rail("1", "A", "B", "RAIL \"s\""), rail("2", "B", "C", "OWN"), rail("3", "C", "D", "")] }] })
}

/// Pointers of all values that are written as numbers, and of words with another word for each.
fn changes(v: &Value, at: &str, out: &mut Vec<(String, Value)>) {
    match v {
        Value::Object(map) => map.iter().for_each(|(k, v)| changes(v, &format!("{at}/{k}"), out)),
        Value::Array(list) => {
            list.iter().enumerate().for_each(|(i, v)| changes(v, &format!("{at}/{i}"), out))
        }
        Value::String(s) => {
            if let Ok(n) = s.parse::<f64>() {
                out.push((at.into(), json!(format!("{}", n * 1.25 + 1.0))));
            }
            let other = match s.as_str() {
                "mm" => "in",
                "k_factor" | "table" | "test_bend" => "din6935",
                "deduction" => "allowance",
                "unknown" => "north",
                "outside" => "inside",
                "mitre" => "butt",
                "s235" => "1.4301",
                "wood" => "plastic",
                "not" => "hot",
                "40 + more" => "41 + more",
                "60x60x3" => "80x80x4",
                "OWN" => "own ",
                _ => return,
            };
            out.push((at.into(), json!(other)));
        }
        _ => {}
    }
}

#[test]
fn every_change_changes_the_answer_as_it_changes_it_afresh() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let job = job();
    let mut all = Vec::new();
    changes(&job, "", &mut all);
    all.retain(|c| !["/format", "/number", "/title"].contains(&c.0.as_str()));
    assert!(all.len() >= 60, "{}", all.len());
    let ids = ["a", "b", "c", "d", "sec"];
    // Figures of every piece and of the frame, and the whole list.
    let served = |job: &Value| -> Vec<Value> {
        let of = |piece: &str, frame: &str| {
            let (status, got) = s.post(
                "/api/evaluate",
                &json!({ "job": job, "piece": piece, "frame": frame, "geometry": false }),
            );
            assert_eq!(status, 200, "{got}");
            got
        };
        let figures = |v: &Value| json!({ "figures": v["figures"], "findings": v["findings"] });
        ids.iter().map(|id| figures(&of(id, "")["piece"])).chain([figures(&of("", "f")["frame"])]).collect()
    };
    let afresh = |job: &Value| -> Vec<Value> {
        let job: steelk_core::job::Job = serde_json::from_value(job.clone()).unwrap();
        let r = steelk_core::evaluate::evaluate(&job);
        let figures = |f: &Vec<FigureResult>, g: &Vec<Finding>| json!({ "figures": f, "findings": g });
        let pieces = ids.iter().map(|id| {
            r.pieces.iter().find(|p| p.id == *id).map(|p| figures(&p.figures, &p.findings)).unwrap()
        });
        // Through text, as an answer comes: the same digits are read the same way.
        pieces
            .chain(r.frames.iter().map(|f| figures(&f.figures, &f.findings)))
            .map(|v| serde_json::from_str(&v.to_string()).unwrap())
            .collect()
    };
    let before = served(&job);
    assert_eq!(before, afresh(&job));
    let mut moved = 0;
    for (at, to) in &all {
        let mut other = job.clone();
        *other.pointer_mut(at).unwrap() = to.clone();
        let (got, want) = (served(&other), afresh(&other));
        assert!(
            got == want,
            "{at} to {to}: the server answers {}",
            if got == before { "as before" } else { "otherwise" }
        );
        moved += usize::from(got != before);
    }
    // Most of them matter; what does not, such as a step of the saw, is not in these figures.
    assert!(moved * 2 > all.len(), "{moved} of {}", all.len());
    // And the list that the page shows is the one that the command line writes.
    let mut other = job.clone();
    other["bend_table"][0]["value"] = json!("4.5");
    let file = folder.path().join("job.json");
    std::fs::write(&file, other.to_string()).unwrap();
    let (_, text, _) = steelk(&["evaluate", "--json", file.to_str().unwrap()]);
    let told: Value = serde_json::from_str(&text).unwrap();
    assert_eq!(told["pieces"][0]["figures"], served(&other)[0]["figures"]);
}
