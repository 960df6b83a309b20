//! The list of a job over HTTP: small pictures sent once, what a job begins with, archives of what is chosen.

mod common;

use common::*;
use serde_json::{Value, json};

fn demo_job(s: &Server) -> (String, Value) {
    let jobs = s.get("/api/jobs").1;
    let id = jobs["jobs"][0]["id"].as_str().unwrap().to_string();
    let job = s.get(&format!("/api/jobs/{id}")).1["job"].clone();
    (id, job)
}

/// Corners of a path, each with its loop.
fn corners(path: &str) -> Vec<Vec<[f64; 2]>> {
    path.split('M')
        .filter(|l| !l.is_empty())
        .map(|l| {
            l.trim_end_matches('z')
                .split('L')
                .map(|p| {
                    let (x, y) = p.split_once(' ').unwrap();
                    [x.parse().unwrap(), y.parse().unwrap()]
                })
                .collect()
        })
        .collect()
}

/// Every piece and frame has a picture that fills its box and keeps its proportions; one that the page has is
/// not sent again; one that changed is.
#[test]
fn small_pictures_are_true_and_sent_once() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("demo", &folder.path().join("s.db"));
    let (_, job) = demo_job(&s);
    let asked = |job: &Value, known: Value| {
        let (status, got) = s.post("/api/thumbs", &json!({ "job": job, "pieces": known, "frames": {} }));
        assert_eq!(status, 200, "{got}");
        got
    };
    let first = asked(&job, json!({}));
    let pieces = first["pieces"].as_array().unwrap();
    assert_eq!(pieces.len(), job["pieces"].as_array().unwrap().len());
    assert_eq!(first["frames"].as_array().unwrap().len(), job["frames"].as_array().unwrap().len());
    for t in pieces.iter().chain(first["frames"].as_array().unwrap()) {
        let all: Vec<[f64; 2]> = corners(t["path"].as_str().unwrap()).concat();
        let range = |k: usize| {
            let of = || all.iter().map(|p| p[k]);
            (of().fold(f64::INFINITY, f64::min), of().fold(f64::NEG_INFINITY, f64::max))
        };
        let [(x0, x1), (y0, y1)] = [range(0), range(1)];
        assert!(x0 >= 11.0 && x1 <= 469.0 && y0 >= 11.0 && y1 <= 349.0, "{t}");
        assert!((x1 - x0 - 456.0).abs() < 2.0 || (y1 - y0 - 336.0).abs() < 2.0, "{t}");
    }
    // The motor plate, 8 by 5 1/2 inches: its outline as wide, its bore, slots and holes in it.
    let motor = pieces.iter().find(|t| t["id"] == "motor").unwrap();
    let loops = corners(motor["path"].as_str().unwrap());
    let wide = |l: &Vec<[f64; 2]>| {
        let of = |k: usize| {
            let v = || l.iter().map(|p| p[k]);
            v().fold(f64::NEG_INFINITY, f64::max) - v().fold(f64::INFINITY, f64::min)
        };
        [of(0), of(1)]
    };
    let [w, h] = wide(&loops[0]);
    assert!((w / h - 8.0 / 5.5).abs() < 0.02, "{w} {h}");
    assert!(loops.len() > 4);
    let known: Value = pieces
        .iter()
        .map(|t| (t["id"].as_str().unwrap().to_string(), t["key"].clone()))
        .collect::<serde_json::Map<_, _>>()
        .into();
    let again = asked(&job, known.clone());
    assert!(again["pieces"].as_array().unwrap().iter().all(|t| t["path"].is_null()));
    let mut changed = job.clone();
    let at = changed["pieces"].as_array().unwrap().iter().position(|p| p["id"] == "base").unwrap();
    changed["pieces"][at]["lines"][0]["say"]["width"] = "400".into();
    let after = asked(&changed, known);
    let sent: Vec<&str> = after["pieces"]
        .as_array()
        .unwrap()
        .iter()
        .filter(|t| !t["path"].is_null())
        .map(|t| t["id"].as_str().unwrap())
        .collect();
    assert_eq!(sent, ["base"]);
}

/// Beginnings: what `/api/verbs` offers is what `/api/begin` makes of the same sizes; faults name their
/// letter;
/// each has a picture.
#[test]
fn a_beginning_is_offered_made_and_pictured() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let offered = s.get("/api/verbs").1["beginnings"].clone();
    for bench in ["piece", "frame"] {
        for b in offered[bench].as_array().unwrap() {
            for (unit, key) in [("mm", "mm"), ("in", "inch")] {
                let sizes: serde_json::Map<String, Value> = b["sizes"]
                    .as_array()
                    .unwrap()
                    .iter()
                    .map(|x| (x["letter"].as_str().unwrap().to_string(), x[key].clone()))
                    .collect();
                let (status, made) =
                    s.post("/api/begin", &json!({ "tag": b["tag"], "sizes": sizes, "unit": unit }));
                assert_eq!((status, &made["parts"]), (200, &b[key]), "{}", b["tag"]);
            }
            let tag = b["tag"].as_str().unwrap();
            let (_, svg) = s.bytes(&format!("/api/begin/{tag}/picture"));
            let svg = String::from_utf8(svg).unwrap();
            assert!(svg.starts_with("<svg") && svg.contains(">A</text>"), "{tag}");
        }
    }
    // Numbers that were given out are not given again.
    let asked =
        |sizes: Value| json!({ "tag": "angle", "sizes": sizes, "issued": { "punch": 4, "start": 1 } });
    let full = json!({ "A": "60", "B": "80", "C": "50", "D": "9" });
    let lines = s.post("/api/begin", &asked(full)).1["parts"][0]["lines"].clone();
    let ids: Vec<&str> = lines.as_array().unwrap().iter().map(|l| l["id"].as_str().unwrap()).collect();
    assert_eq!(ids, ["start-2", "punch-5", "punch-6"]);
    assert_eq!(lines[1]["say"]["place"]["on"], "start-2.a");
    let (status, short) = s.post("/api/begin", &asked(json!({ "A": "60", "B": "80", "C": "50", "D": "" })));
    assert_eq!((status, &short["fault"]["letter"]), (200, &json!("D")));
    assert_eq!(s.post("/api/begin", &json!({ "tag": "igloo", "sizes": {} })).0, 422);
    assert_eq!(s.get("/api/begin/igloo/picture").0, 404);
}

fn names_in(zip: &[u8]) -> Vec<String> {
    let read = |at: usize| u16::from_le_bytes([zip[at], zip[at + 1]]) as usize;
    (0..zip.len().saturating_sub(46))
        .filter(|&i| zip[i..].starts_with(b"PK\x01\x02"))
        .map(|i| String::from_utf8_lossy(&zip[i + 46..i + 46 + read(i + 28)]).into_owned())
        .collect()
}

/// An archive holds just what was chosen: pieces with their pads, sheets of bends only where there are some.
#[test]
fn what_is_chosen_is_in_the_archive_and_nothing_else() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("demo", &folder.path().join("s.db"));
    let (id, job) = demo_job(&s);
    let (name, zip) = s.bytes(&format!("/api/jobs/{id}/papers/dxf-zip?piece=motor,P-114"));
    assert!(name.contains("J-014_dxf.zip"), "{name}");
    let mut names = names_in(&zip);
    names.sort();
    assert_eq!(names.len(), 4, "{names:?}");
    for mark in ["P-103_", "P-114_", "P-114-B1_", "P-114-B2_"] {
        assert!(names.iter().any(|n| n.starts_with(mark)), "{mark}: {names:?}");
    }
    let (_, zip) = s.bytes(&format!("/api/jobs/{id}/papers/papers-zip?piece=motor,stand"));
    let names = names_in(&zip);
    // Both have a template and holes; only the strip is bent.
    assert_eq!(names.len(), 5, "{names:?}");
    let (_, all) = s.bytes(&format!("/api/jobs/{id}/papers/dxf-zip"));
    assert!(names_in(&all).len() > job["pieces"].as_array().unwrap().len());
    assert_eq!(s.get(&format!("/api/jobs/{id}/papers/dxf-zip?piece=motor,nobody")).0, 404);
}
