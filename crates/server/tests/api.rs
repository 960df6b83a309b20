//! The server over HTTP: jobs, conflicts, papers, guards, hostile bodies.

mod common;

use common::*;
use serde_json::{Value, json};
use std::time::{Duration, Instant};

fn figure(piece: &Value, key: &str) -> f64 {
    piece["figures"].as_array().unwrap().iter().find(|f| f["key"] == key).unwrap()["value"].as_f64().unwrap()
}

/// A folded piece over HTTP: zones with their edges, bends in order with sections and schools, a light
/// pattern left out, the bend sheet.
#[test]
fn a_folded_piece_in_a_draft_and_on_paper() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let fill = |light: bool| {
        json!({ "id": "fill-1", "say": { "verb": "fill", "on": "start-1.panel",
        "shape": { "kind": "square", "side": "5" }, "pitch": "10", "margin": "15", "light": light } })
    };
    let job = |light: bool| {
        json!({ "format": 1, "title": "tray", "pieces": [{ "id": "a", "mark": "P-1", "name": "tray",
            "quantity": "1", "material": "s235", "thickness": "2", "radius": "3", "lines": [
            { "id": "start-1", "say": { "verb": "start_tray", "width": "200", "depth": "120",
                "height": "40" } }, fill(light) ] }] })
    };
    let ask =
        |light: bool| s.post("/api/evaluate", &json!({ "job": job(light), "piece": "a" })).1["piece"].clone();
    let (drawn, light) = (ask(false), ask(true));
    let holes = points(&drawn["flat"]["holes"]["at"]).len();
    assert!(holes > 50 && points(&light["flat"]["holes"]["at"]).is_empty());
    assert_eq!(light["flat"]["left_out"].as_u64(), Some(holes as u64));
    assert_eq!(figure(&drawn, "mass"), figure(&light, "mass"));
    assert_eq!(figure(&drawn, "pierces"), holes as f64 + 1.0);
    let rows = drawn["bend_rows"].as_array().unwrap();
    assert_eq!(rows.len(), 4);
    let of = |bend: &str| s.post("/api/bend", &json!({ "job": job(true), "piece": "a", "bend": bend }));
    let pictures: Vec<Value> = rows.iter().map(|r| of(r["name"].as_str().unwrap()).1).collect();
    for p in &pictures {
        let [section, tools] = ["section", "at_the_tools"].map(|k| p[k].as_str().unwrap());
        assert!(section.starts_with("<svg") && tools.starts_with("<svg") && section != tools);
    }
    assert_ne!(pictures[0]["at_the_tools"], pictures[3]["at_the_tools"]);
    let (status, none) = of("fold-9.north.bend");
    assert!(status == 422 && none["title"].as_str().unwrap().contains("fold-9.north.bend"), "{none}");
    assert!(
        rows.iter()
            .enumerate()
            .all(|(i, r)| r["order"] == json!(i + 1) && r["schools"].as_array().unwrap().len() == 5)
    );
    let edges: Vec<String> = drawn["zones"]
        .as_array()
        .unwrap()
        .iter()
        .flat_map(|z| z["edges"].as_array().unwrap().clone())
        .map(|e| e.as_str().unwrap().to_string())
        .collect();
    assert!(
        edges.contains(&"start-1.north.tip".to_string()) && !edges.contains(&"start-1.north".to_string()),
        "{edges:?}"
    );

    let (status, made) = s.post("/api/jobs", &job(true));
    assert_eq!(status, 201);
    let path = format!("/api/jobs/{}/papers", made["id"].as_str().unwrap());
    let (name, pdf) = s.bytes(&format!("{path}/bend-sheet?piece=P-1"));
    assert!(name.contains("_bend-sheet.pdf") && pdf.starts_with(b"%PDF"));
    // A drawing on the paper that is asked for; the look at it is its first sheet.
    for (paper, wide) in [("A3", 420.0), ("Tabloid", 431.8)] {
        let (name, pdf) = s.bytes(&format!("{path}/drawing?piece=P-1&paper={paper}"));
        assert!(name.contains("_drawing.pdf") && pdf.starts_with(b"%PDF"), "{name}");
        let look =
            String::from_utf8(s.bytes(&format!("{path}/drawing-svg?piece=P-1&paper={paper}")).1).unwrap();
        assert!(look.contains(&format!(r#"width="{wide}mm""#)) && look.contains(">sheet<"), "{paper}");
    }
    // Labels of a view: apart, none outside; what no screen has is refused or does no harm.
    let label = json!({ "at": [50, 50], "wide": 40, "high": 14 });
    let ask = json!({ "view": [300, 200], "labels": [label, label, label],
        "boxes": [[-1e300, -5, 1e300, 60]], "lines": [[-1e300, 80, 1e300, 81], [0, 0, 0, 0]] });
    let (_, places) = s.post("/api/labels", &ask);
    let middles: Vec<f64> = (0..3).map(|k| 50.0 + places[k]["off"][1].as_f64().unwrap()).collect();
    assert!(middles.iter().all(|y| *y > 60.0 + 7.0), "{places}");
    let (_, places) = s.post("/api/labels", &json!({ "view": [-1, 1e300], "labels": [label] }));
    assert_eq!(places, json!([null]));
    let many: Vec<&Value> = vec![&label; 5001];
    let (status, refused) = s.post("/api/labels", &json!({ "view": [300, 200], "labels": many }));
    assert!(status == 422 && refused["title"].as_str().unwrap().contains("5001 labels"), "{refused}");
    let drawn = String::from_utf8(s.bytes(&format!("{path}/drawing-dxf?piece=P-1")).1).unwrap();
    assert!(["EDGES", "HIDDEN", "THIN", "TEXT"].iter().all(|l| drawn.contains(&format!("\r\n{l}\r\n"))));
    let dxf = String::from_utf8(s.bytes(&format!("{path}/dxf?piece=P-1")).1).unwrap();
    assert_eq!(dxf.matches("LWPOLYLINE").count(), holes + 1, "files hold what views leave out");
    let (status, plain) = s.post(
        "/api/jobs",
        &json!({ "format": 1, "title": "plate", "pieces": [{ "id": "a", "mark": "P-1", "name": "plate",
            "quantity": "1", "material": "s235", "thickness": "2",
        "lines": [{ "id": "start-1", "say": { "verb": "start_plate", "width": "100",
            "height": "50" } }] }] }),
    );
    assert_eq!(status, 201);
    let (status, refused) =
        s.get(&format!("/api/jobs/{}/papers/bend-sheet?piece=P-1", plain["id"].as_str().unwrap()));
    assert!(status == 422 || status == 404, "{status}");
    assert!(refused["title"].as_str().unwrap().contains("no bends"), "{refused}");
    // Typed lines, over the same API as the bench: ids that are taken give way, and what the new lines say of
    // one another goes with them.
    let standing = json!([{ "id": "start-1", "say": { "verb": "start_plate" } }, { "id": "punch-1",
        "say": { "verb": "punch" } }]);
    let text = "fold north up 90 40, then up 90 12\nhole 9\nmirror punch-1, east\nhole 9, 30 frm west";
    let (_, read) = s.post(
        "/api/lines",
        &json!({ "bench": "piece", "text": text, "lines": standing, "above": 2, "issued": { "punch": 4 } }),
    );
    assert_eq!(read["lines"][0]["say"]["then"][0]["id"], "lip");
    let ids: Vec<&str> =
        read["lines"].as_array().unwrap().iter().map(|l| l["id"].as_str().unwrap()).collect();
    assert_eq!(ids, ["fold-1", "punch-5", "mirror-1"]);
    assert_eq!(read["lines"][2]["say"]["of"], json!(["punch-5"]));
    assert_eq!(
        (read["faults"][0]["line"].as_u64(), read["faults"][0]["fault"]["start"].as_u64()),
        (Some(4), Some(11))
    );
    let (_, next) =
        s.post("/api/complete", &json!({ "bench": "piece", "text": "hole 9, 20 fr", "lines": standing }));
    assert_eq!((next["from"].as_u64(), &next["offers"][0]["text"]), (Some(11), &json!("from")));
    let (_, verbs) = s.get("/api/verbs");
    assert_eq!(
        (verbs["piece"].as_array().unwrap().len(), verbs["frame"].as_array().unwrap().len()),
        (30, 34)
    );
    // A piece as a text and back: what says the same stays as it is stored.
    let piece = json!({ "id": "a", "mark": "P-1", "name": "x", "quantity": "1", "material": "s235",
        "thickness": "2",
        "lines": [{ "id": "start-1", "say": { "verb": "start_plate", "width": "10", "height": "20" } }] });
    let (_, printed) = s.post("/api/text", &json!({ "piece": piece }));
    assert_eq!(printed["text"], "piece P-1 \"x\", 2 thick s235\n  plate 10 x 20\n");
    let (_, read) =
        s.post("/api/text/read", &json!({ "of": "piece", "text": printed["text"], "now": piece }));
    assert_eq!(read["piece"]["lines"], piece["lines"]);
    // A number that was given out before is not given again, and what speaks of the new line goes with it.
    let mut retired = piece.clone();
    retired["issued"] = json!({ "punch": 3 });
    let text = format!("{}  hole 9\n  mirror punch-1, east\n", printed["text"].as_str().unwrap());
    let (_, read) = s.post("/api/text/read", &json!({ "of": "piece", "text": text, "now": retired }));
    assert_eq!(
        (&read["piece"]["lines"][1]["id"], &read["piece"]["lines"][2]["say"]["of"]),
        (&json!("punch-4"), &json!(["punch-4"]))
    );
    assert_eq!(s.post("/api/text", &json!({})).0, 422);
}

#[test]
fn a_job_from_draft_to_papers() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let (status, got) = s.post("/api/evaluate", &json!({ "job": strip_job("40"), "piece": "a" }));
    assert_eq!(status, 200);
    assert!((figure(&got["piece"], "flat_length") - 96.163).abs() < 5e-4);
    assert_eq!(got["cut_list"]["rows"][0]["flat_length"], "96.2");
    let (_, bare) = s.post("/api/evaluate", &json!({ "job": strip_job("40"), "piece": "a", "list": false }));
    assert!(bare["cut_list"].is_null() && bare["piece"] == got["piece"], "no list, the same piece");
    assert_eq!(s.get("/api/jobs").1["total"], 0, "a draft is not saved");

    let (status, made) = s.post("/api/jobs", &strip_job("40"));
    assert_eq!((status, made["revision"].as_i64()), (201, Some(1)));
    let path = format!("/api/jobs/{}", made["id"].as_str().unwrap());
    let (status, saved) = s.put(&path, 1, &json!({ "job": strip_job("42"), "note": "longer" })).unwrap();
    assert_eq!((status, saved["revision"].as_i64()), (200, Some(2)));

    // Somebody else saves on what they read before.
    let (status, refused) = s.put(&path, 1, &json!({ "job": strip_job("50") })).unwrap();
    assert_eq!((status, refused["current"].as_i64()), (409, Some(2)));
    assert_eq!(s.get(&path).1["job"]["pieces"][0]["lines"][0]["say"]["profile"][0]["length"], "42");
    assert_eq!(
        s.get(&format!("{path}/revisions/1"))
            .1
            .pointer("/job/pieces/0/lines/0/say/profile/0/length")
            .unwrap(),
        "40"
    );

    let revisions = s.get(&format!("{path}/revisions")).1;
    assert_eq!(revisions["total"], 2);
    let changes = revisions["revisions"][0]["changes"].to_string();
    assert!(changes.contains("P-1: 96.2 × 30.0 mm → 98.2 × 30.0 mm"), "{changes}");
    assert_eq!(revisions["revisions"][0]["note"], "longer");

    let (name, dxf) = s.bytes(&format!("{path}/papers/dxf?piece=P-1"));
    assert!(name.contains("P-1_S235-steel_2mm_x2.dxf") && dxf.len() > 2000);
    let (name, pdf) = s.bytes(&format!("{path}/papers/template?piece=a&paper=Letter"));
    assert!(name.contains("_template.pdf") && pdf.starts_with(b"%PDF"));
    for kind in ["flat-svg", "formed-svg", "template-svg", "stl", "glb"] {
        assert!(s.bytes(&format!("{path}/papers/{kind}?piece=a")).1.len() > 500, "{kind}");
    }
    let list = String::from_utf8(s.bytes(&format!("{path}/papers/cutlist")).1).unwrap();
    let lines: Vec<&str> = list.lines().collect();
    assert!(
        lines[1].starts_with("P-1,angle,2,")
            && lines.contains(&"job,J-1")
            && lines.iter().any(|l| l.starts_with("revision,")),
        "{list}"
    );
    assert!(lines.iter().any(|l| l.strip_prefix("date,20").is_some_and(|d| d.len() == 8)), "{list}");
    assert_eq!(s.get(&format!("{path}/papers/dxf?piece=nobody")).0, 404);
    assert_eq!(s.get(&format!("{path}/papers/fax?piece=a")).0, 404);
    assert_eq!(s.get(&format!("{path}/papers/template?piece=a&paper=B7")).0, 422);

    // DXF in again makes a recipe of the same flat, its bend line with it.
    let mut r = s.agent.post(s.url("/api/files")).send(&dxf[..]).unwrap();
    let kept: Value = r.body_mut().read_json().unwrap();
    assert_eq!(kept["kind"], "dxf");
    let again = s.agent.post(s.url("/api/files")).send(&dxf[..]).unwrap().body_mut().read_json::<Value>();
    assert_eq!(again.unwrap()["digest"], kept["digest"]);
    assert_eq!(s.bytes(&format!("/api/files/{}", kept["digest"].as_str().unwrap())).1, dxf);
    let (_, seen) = s.post("/api/drawings", &json!({ "file": kept["digest"] }));
    assert_eq!((seen["unit"].as_str(), seen["parts"].as_array().unwrap().len()), (Some("millimetres"), 1));
    let ask = json!({ "file": kept["digest"], "name": "angle.dxf", "parts": [1], "length": "mm" });
    let (_, taken) = s.post("/api/drawings/take", &ask);
    let lines = taken["parts"][0]["lines"].as_array().unwrap();
    let verbs: Vec<&str> = lines.iter().map(|l| l["say"]["verb"].as_str().unwrap()).collect();
    assert_eq!(verbs, ["start_outline", "bend_line"], "{taken}");
    assert_eq!(s.post("/api/drawings", &json!({ "file": "0".repeat(64) })).0, 404);

    assert_eq!(s.post(&format!("{path}/archive"), &Value::Null).0, 204);
    assert_eq!(
        (s.get("/api/jobs").1["total"].as_u64(), s.get("/api/jobs?archived=true").1["total"].as_u64()),
        (Some(0), Some(1))
    );
    assert_eq!(s.post(&format!("{path}/restore"), &Value::Null).0, 204);
    let (status, copy) = s.post(&format!("{path}/copy"), &Value::Null);
    assert_eq!((status, copy["job"]["title"].as_str()), (201, Some("test line (copy)")));
    assert_eq!(s.get("/api/jobs?limit=1&offset=1").1["jobs"].as_array().unwrap().len(), 1);
}

#[test]
fn problems_name_the_field_and_the_mend() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("demo", &folder.path().join("s.db"));
    let summary = s.get("/api/jobs").1["jobs"][0]["summary"].clone();
    assert_eq!(summary["stops"], 0, "the sample can be made");
    // The ticket counts frames as it counts pieces, and what is found on them.
    let list = |of: &str| {
        summary[of].as_array().unwrap().iter().map(|p| p["quantity"].as_u64().unwrap()).sum::<u64>()
    };
    assert!(list("frames") > 0);
    assert_eq!(summary["count"], list("pieces") + list("frames"));
    let mut job = strip_job("40");
    job["pieces"][0]["lines"][0]["say"]["profile"][1]["angel"] = json!("90");
    let (status, p) = s.post("/api/evaluate", &json!({ "job": job }));
    assert_eq!(status, 422);
    assert!(p["field"].as_str().unwrap().starts_with("pieces[0].lines[0].say"), "{p}");
    let (status, p) = s.post("/api/evaluate", &json!({ "job": { "format": 99, "title": "" } }));
    assert!(status == 422 && p["title"].as_str().unwrap().contains("newer Steelk"));
    for (path, status) in [("/api/jobs/none", 404), ("/api/nowhere", 404), ("/api/jobs?limit=x", 400)] {
        let (got, p) = s.get(path);
        assert_eq!(got, status, "{path}");
        assert!(p["detail"].is_string());
    }
    let r = s.agent.put(s.url("/api/jobs/none")).send_json(json!({ "job": strip_job("1") })).unwrap();
    assert_eq!(r.status().as_u16(), 428);
    let big = vec![b'1'; 9 * 1024 * 1024];
    let r = s.agent.post(s.url("/api/evaluate")).header("content-type", "application/json").send(&big[..]);
    assert!(r.map_or(true, |r| r.status().as_u16() >= 400));
    assert_eq!(s.get("/api/health").0, 200);
}

#[test]
fn only_its_own_pages_may_speak_to_it() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let ask = |name: &str, value: &str| {
        s.agent.get(s.url("/api/jobs")).header(name, value).call().unwrap().status().as_u16()
    };
    assert_eq!(ask("Host", "elsewhere.example"), 421);
    assert_eq!(ask("Origin", "http://elsewhere.example"), 403);
    assert_eq!(ask("Origin", &format!("http://127.0.0.1:{}", s.port)), 200);
    let r = s.agent.get(s.url("/")).call().unwrap();
    let policy = r.headers().get("content-security-policy").unwrap().to_str().unwrap();
    assert!(policy.contains("default-src 'none'") && policy.contains("frame-ancestors 'none'"));
}

/// Each hostile recipe is answered in words, soon, and the server stays up.
#[test]
fn hostile_recipes_are_answered_at_once() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let plate = |more: Value| {
        let mut lines = vec![
            json!({ "id": "start-1", "say": { "verb": "start_plate", "width": "900", "height": "900" } }),
            json!({ "id": "punch-1", "say": { "verb": "punch", "shape": { "kind": "round", "diameter": "2" },
                "place": { "x": { "from": "west", "distance": "3" }, "y": { "from": "south",
                    "distance": "3" } } } }),
        ];
        lines.extend(more.as_array().unwrap().clone());
        json!({ "job": { "format": 1, "title": "x", "pieces": [{ "id": "a", "mark": "a", "name": "",
            "quantity": "1", "material": "s235", "thickness": "1", "lines": lines }] }, "piece": "a" })
    };
    let repeat = |count: &str, pitch: &str| {
        json!({ "id": "repeat-1", "say": { "verb": "repeat",
        "of": ["punch-1"], "axis": "east", "spacing": { "by": "pitch", "count": count, "pitch": pitch } } })
    };
    let outline = |n: usize| {
        json!({ "id": "punch-2", "say": { "verb": "punch", "shape": { "kind": "outline",
        "points": (0..n).map(|i| json!({ "x": format!("{i}"), "y": format!("{}",
            i % 2) })).collect::<Vec<_>>() }, "place": { "x": { "from": "centre", "distance": "" },
                "y": { "from": "centre", "distance": "" } } } })
    };
    let deep = "(".repeat(390);
    let cases = [
        plate(json!([repeat("1000000", "1")])),
        plate(json!([repeat("200000", "0.001")])),
        plate(json!([repeat("1999", "0.9")])),
        plate(json!([repeat("NaN", "inf")])),
        plate(json!([repeat(&deep, "1e308*1e308")])),
        plate(json!([outline(20_001)])),
        plate(json!([outline(3_000)])),
        plate(json!(vec![
            json!({ "id": "punch-1", "say": { "verb": "mirror", "of": [], "axis": "east" } });
            501
        ])),
    ];
    for (i, body) in cases.iter().enumerate() {
        let begun = Instant::now();
        let (status, got) = s.post("/api/evaluate", body);
        let took = begun.elapsed();
        assert_eq!(status, 200, "case {i}");
        let said = got["piece"]["faults"].as_array().unwrap().len()
            + got["piece"]["findings"].as_array().unwrap().len();
        assert!(said > 0, "case {i} says nothing");
        // Unoptimised test builds are given more than the second that a release needs.
        assert!(took < Duration::from_secs(8), "case {i} took {took:?}");
    }
    assert_eq!(s.get("/api/health").0, 200);
}

/// The shipped descriptions are those of this server.
#[test]
fn shipped_descriptions_are_current() {
    let printed = |what: &str| {
        std::process::Command::new(env!("CARGO_BIN_EXE_steelk")).arg(what).output().unwrap().stdout
    };
    let root = concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/");
    for (what, file) in [("openapi", "openapi.json"), ("schema", "job.schema.json")] {
        assert!(
            std::fs::read(format!("{root}{file}")).unwrap() == printed(what),
            "docs/{file} is old: run `make api`"
        );
    }
}

/// A long search for an order of bends: progress that rises, then the order, with every bend in it once; and
/// what it says when there is nothing to search.
#[test]
fn an_order_is_searched_for_with_progress() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    // A section that closes on itself, and a zigzag behind it: too many sets of bends to look at while
    // somebody types.
    let spiral = [
        (80, 90, "up"),
        (60, 90, "up"),
        (80, 90, "up"),
        (57, 90, "down"),
        (40, 90, "down"),
        (40, 90, "up"),
        (40, 90, "up"),
    ];
    let zigzag = (0..11).map(|k| (30, 45, if k % 2 == 0 { "up" } else { "down" }));
    let mut profile = Vec::new();
    for (k, (leg, angle, way)) in spiral.into_iter().chain(zigzag).enumerate() {
        profile.push(json!({ "kind": "leg", "id": format!("l{k}"), "length": leg.to_string() }));
        profile.push(
            json!({ "kind": "bend", "id": k.to_string(), "angle": angle.to_string(), "direction": way }),
        );
    }
    profile.push(json!({ "kind": "leg", "id": "end", "length": "30" }));
    let piece = json!({ "id": "p", "mark": "P-1", "name": "coil", "quantity": "1", "material": "s235",
        "thickness": "2", "radius": "2",
        "lines": [{ "id": "start-1", "say": { "verb": "start_strip", "width": "300",
            "profile": profile } }] });
    let job = json!({ "format": 1, "title": "t", "bend_rule": { "school": "din6935" },
        "display": { "length": "mm", "inches": "1/64" }, "pieces": [piece] });
    let (_, got) = s.post("/api/evaluate", &json!({ "job": job, "piece": "p" }));
    assert_eq!(got["piece"]["order_open"], true, "{}", got["piece"]["order_said"]);
    let mut r = s.agent.post(s.url("/api/order")).send_json(json!({ "job": job, "piece": "p" })).unwrap();
    let text = r.body_mut().read_to_string().unwrap();
    let lines: Vec<serde_json::Value> = text.lines().map(|l| serde_json::from_str(l).unwrap()).collect();
    let progress: Vec<f64> = lines.iter().map(|l| l["progress"].as_f64().unwrap()).collect();
    assert!(
        progress.len() > 1
            && progress[0] == 0.0
            && progress.windows(2).all(|w| w[0] <= w[1])
            && *progress.last().unwrap() == 1.0,
        "{progress:?}"
    );
    let last = lines.last().unwrap();
    let mut order: Vec<String> =
        last["order"].as_array().unwrap().iter().map(|n| n.as_str().unwrap().into()).collect();
    let before = got["piece"]["bend_rows"]
        .as_array()
        .unwrap()
        .iter()
        .filter(|r| !r["strikes"].as_array().unwrap().is_empty())
        .count();
    assert!(last["struck"].as_u64().unwrap() as usize <= before, "{last}");
    order.sort();
    order.dedup();
    assert_eq!(order.len(), 18);
    // Nothing of that name: said with the mend.
    let (status, got) = s.post("/api/order", &json!({ "job": job, "piece": "q" }));
    assert!(status == 422 && got.to_string().contains("no piece 'q'"), "{got}");
}

/// A brief over HTTP: checked beside its piece, tied, and what it does not speak of; a click on the flat; the
/// kinds of papers.
#[test]
fn a_brief_is_checked_tied_and_searched_for_what_it_forgets() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let typed = json!({ "bench": "brief", "text": "overall length 200\n2 × ⌀9\nthickness 4\noveral 3" });
    let (_, read) = s.post("/api/lines", &typed);
    assert_eq!((read["lines"].as_array().unwrap().len(), read["faults"][0]["line"].as_u64()), (3, Some(4)));
    let mut job = json!({ "format": 1, "title": "plate",
        "pieces": [{ "id": "a", "mark": "P-1", "name": "plate", "quantity": "1", "material": "s235",
            "thickness": "3", "lines": [
            { "id": "start-1", "say": { "verb": "start_plate", "width": "200", "height": "100" } },
            { "id": "punch-1", "say": { "verb": "punch", "shape": { "kind": "round", "diameter": "9" },
                "place": { "x": { "from": "west", "distance": "30" } } } },
            { "id": "punch-2", "say": { "verb": "punch", "shape": { "kind": "round", "diameter": "9" },
                "place": { "x": { "from": "east", "distance": "30" } } } }] }],
        "briefs": [{ "id": "b", "mark": "D-1", "name": "", "of": "p-1", "lines": read["lines"] }] });
    let ask = |job: &Value| s.post("/api/evaluate", &json!({ "job": job, "brief": "b" })).1;
    let open = ask(&job);
    assert_eq!(open["brief"]["tally"]["untied"], 3, "{}", open["brief"]);
    // The plate is 3 thick and the drawing says 4: told at every station.
    let broken = &open["brief_states"][0]["broken"][0];
    assert_eq!(
        (broken["figure"].as_str(), broken["said"].as_str().unwrap().contains("too thin")),
        (Some("thickness 4"), true)
    );
    let ties = s.post("/api/ties", &json!({ "job": job, "brief": "b" })).1;
    for p in ties["proposals"].as_array().unwrap() {
        for step in p["patch"].as_array().unwrap() {
            let (at, field) = step["path"].as_str().unwrap().rsplit_once('/').unwrap();
            job["briefs"][0].pointer_mut(at).unwrap()[field] = step["value"].clone();
        }
    }
    let tally = &ask(&job)["brief"]["tally"];
    assert_eq!(
        (tally["met"].as_u64(), tally["off"].as_u64(), tally["untied"].as_u64()),
        (Some(3), Some(1), Some(0))
    );
    let open = s.post("/api/coverage", &json!({ "job": job, "brief": "b" })).1;
    let values: Vec<&str> =
        open["unchecked"].as_array().unwrap().iter().map(|u| u["value"].as_str().unwrap()).collect();
    assert!(values.contains(&"100") && values.contains(&"30") && !values.contains(&"200"), "{values:?}");
    assert_eq!(s.post("/api/ties", &json!({ "job": job, "brief": "x" })).0, 422);
    let at = json!({ "job": job, "piece": "a",
        "clicked": { "what": "panel", "name": "start-1.panel", "at": [-49.8, 10.0] } });
    let click = s.post("/api/clicked", &at).1;
    assert_eq!(click["said"], "start-1.panel · 50 from west, 60 from south");
    let made = s.post("/api/jobs", &job).1;
    let sheet = |kind: &str, brief: &str| {
        let at = format!("/api/jobs/{}/papers/{kind}?piece={brief}", made["id"].as_str().unwrap());
        String::from_utf8_lossy(&s.bytes(&at).1).to_string()
    };
    let svg = sheet("check-sheet-svg", "D-1");
    for words in ["overall length 200", "check sheet 1 of 1", "ISO 2768-m", "measured by", "±0.5 mm"] {
        assert!(svg.contains(words), "{words}: {svg}");
    }
    assert!(sheet("check-sheet", "b").starts_with("%PDF"));
    assert!(sheet("check-sheet", "D-9").contains("no brief 'D-9'"));
    let kinds = s.get("/api/book").1["papers"].as_array().unwrap().clone();
    for kind in kinds.iter().filter(|k| k["of"] == "piece" && k["needs"] == "nothing") {
        assert!(kind["words"].as_str().is_some_and(|w| !w.is_empty()), "{kind}");
    }
}
