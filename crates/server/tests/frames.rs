//! Frames over HTTP: a draft with its bodies and list, bars told as they go, papers, skeletons.

mod common;

use common::*;
use serde_json::{Value, json};

fn demo() -> Value {
    serde_json::from_str(include_str!("../../../demo/orchard-line.steelk.json")).unwrap()
}

#[test]
fn a_frame_in_a_draft_its_bars_and_its_papers() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let (status, got) = s.post("/api/evaluate", &json!({ "job": demo(), "frame": "frame-1" }));
    assert_eq!(status, 200);
    assert!(got["piece"].is_null());
    let frame = &got["frame"];
    let places: usize =
        frame["bodies"].as_array().unwrap().iter().map(|b| b["places"].as_array().unwrap().len()).sum();
    let list = &got["cut_list"]["frames"][0];
    let listed: u64 = ["bars", "plates"]
        .iter()
        .flat_map(|k| list[k].as_array().unwrap())
        .map(|r| r["quantity"].as_u64().unwrap())
        .sum();
    assert_eq!(places as u64, listed, "every piece is drawn once and listed once");
    let mitred =
        frame["joints"].as_array().unwrap().iter().filter(|j| j["choices"][0]["how"] == "mitre").count();
    assert_eq!(mitred, 4);

    // The welds of the list are all there are; each section that members are of has its card.
    let weld = |w: &Value| {
        w["count"].as_f64().unwrap() * w["length"].as_str().unwrap().parse::<f64>().unwrap() / 1000.0
    };
    let told: f64 = list["weld_length"].as_str().unwrap().trim_end_matches(" m").parse().unwrap();
    assert!((list["welds"].as_array().unwrap().iter().map(weld).sum::<f64>() - told).abs() < 0.01);
    let cards: Vec<&str> =
        frame["sections"].as_array().unwrap().iter().map(|c| c["section"].as_str().unwrap()).collect();
    let used: Vec<&str> =
        list["sections"].as_array().unwrap().iter().map(|c| c["section"].as_str().unwrap()).collect();
    assert_eq!(cards, used);
    assert_eq!(
        frame["members"].as_array().unwrap().len() as u64,
        frame["sections"].as_array().unwrap().iter().map(|c| c["members"].as_u64().unwrap()).sum::<u64>()
    );

    // Bars: progress that rises, then the plans.
    let mut one = demo();
    one["frames"].as_array_mut().unwrap().truncate(1);
    let mut r = s.agent.post(s.url("/api/bars")).send_json(json!({ "job": one })).unwrap();
    assert_eq!(r.headers().get("content-type").unwrap(), "application/x-ndjson");
    let text = r.body_mut().read_to_string().unwrap();
    let lines: Vec<Value> = text.lines().map(|l| serde_json::from_str(l).unwrap()).collect();
    let progress: Vec<f64> = lines.iter().map(|l| l["progress"].as_f64().unwrap()).collect();
    assert!(progress.windows(2).all(|w| w[0] <= w[1]) && *progress.last().unwrap() == 1.0);
    let plans = lines.last().unwrap()["plans"].as_array().unwrap();
    assert_eq!(plans.len(), list["sections"].as_array().unwrap().len());
    assert!(plans.iter().all(|p| p["proven"] == true && p["left_out"].as_array().unwrap().is_empty()));

    let (status, made) = s.post("/api/jobs", &demo());
    assert_eq!(status, 201);
    let path = format!("/api/jobs/{}/papers", made["id"].as_str().unwrap());
    for (ask, begins) in [
        ("frame-drawing?frame=F-1", &b"%PDF"[..]),
        ("frame-drawing-svg?frame=F-1", b"<svg"),
        ("bars", b"%PDF"),
        ("bars-svg", b"<svg"),
        ("saw-list", "\u{feff}mark,name".as_bytes()),
        ("plate-list", "\u{feff}mark,name".as_bytes()),
        ("spreadsheet", b"PK"),
        ("skeleton?frame=frame-1", b"kind,name"),
        ("frame-glb?frame=F-1", b"glTF"),
        ("tube-dxf?frame=F-1&piece=brace-1", b"  0"),
        ("bar-svg?frame=F-1&piece=F-1/6", b"<svg"),
        ("dxf?piece=F-1/P1", b"  0"),
        ("template?piece=F-1/P1", b"%PDF"),
    ] {
        let (name, bytes) = s.bytes(&format!("{path}/{ask}"));
        assert!(
            bytes.starts_with(begins),
            "{ask}: {name} {:?}",
            String::from_utf8_lossy(&bytes[..bytes.len().min(80)])
        );
        assert!(!name.is_empty());
    }
    assert_eq!(s.get(&format!("{path}/frame-drawing?frame=F-9")).0, 404);
    assert_eq!(s.get(&format!("{path}/wrap?frame=F-1&piece=C7")).0, 404);
}

/// A saddle: its wrap on paper at full size, its skin for the laser with both ends curved.
#[test]
fn a_saddle_on_paper_and_for_the_laser() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let node = |id: &str, name: &str, x: &str, z: &str| {
        json!({ "id": id, "say": { "verb": "node",
        "name": name, "x": x, "y": "0", "z": z } })
    };
    let pipe = |id: &str, a: &str, b: &str, section: &str| {
        json!({ "id": id, "say": { "verb": "members",
        "name": "pipe", "path": [a, b], "section": section } })
    };
    let lines = json!([
        node("n1", "A", "-500", "0"),
        node("n2", "B", "500", "0"),
        node("n3", "C", "-500", "400"),
        node("n4", "D", "500", "400"),
        node("n5", "M", "0", "0"),
        node("n6", "N", "0", "400"),
        pipe("pipe-1", "A", "B", "88.9x4"),
        pipe("pipe-2", "C", "D", "88.9x4"),
        pipe("pipe-3", "M", "N", "60.3x4"),
    ]);
    let frame = json!({ "id": "f", "mark": "F-1", "name": "ladder", "quantity": "1", "material": "s235",
        "section": "60x60x3", "joint": "butt", "lines": lines });
    let (status, made) = s.post("/api/jobs", &json!({ "format": 1, "title": "saddle", "frames": [frame] }));
    assert_eq!(status, 201);
    let path = format!("/api/jobs/{}/papers", made["id"].as_str().unwrap());
    let (name, pdf) = s.bytes(&format!("{path}/wrap?frame=F-1&piece=C2&paper=A3"));
    assert!(name.contains("C2_wrap.pdf") && pdf.starts_with(b"%PDF"));
    let svg = String::from_utf8(s.bytes(&format!("{path}/wrap-svg?frame=F-1&piece=C1")).1).unwrap();
    assert!(svg.contains("100 mm across, 100 mm down") && svg.contains("wide notch on top"));
    let dxf = String::from_utf8(s.bytes(&format!("{path}/tube-dxf?frame=F-1&piece=pipe-3")).1).unwrap();
    assert_eq!(dxf.matches("LWPOLYLINE").count(), 1);
    // The tongues reach down to the middle of each pipe's side: between them the skin is as long as centre to
    // centre, less both shallow cuts.
    let body: Vec<&str> = dxf.split("LWPOLYLINE").nth(1).unwrap().lines().map(str::trim).collect();
    let xs: Vec<f64> = body
        .windows(2)
        .skip(1)
        .step_by(2)
        .filter(|w| w[0] == "10")
        .filter_map(|w| w[1].parse().ok())
        .collect();
    let long = xs.iter().copied().fold(f64::NEG_INFINITY, f64::max)
        - xs.iter().copied().fold(f64::INFINITY, f64::min);
    let shallow = (44.45f64.powi(2) - 30.15f64.powi(2)).sqrt();
    assert!((long - (400.0 - 2.0 * shallow)).abs() < 0.01, "{long}");
}

#[test]
fn lines_sections_and_skeletons_are_read_or_refused_in_words() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let (_, read) = s.post("/api/lines", &json!({ "bench": "frame", "text": "rail A B 60x60x3 top" }));
    let say = &read["lines"][0]["say"];
    assert_eq!((&say["verb"], &say["sits"]), (&json!("members"), &json!("top")));
    let (_, read) = s.post("/api/lines", &json!({ "bench": "frame", "text": "rail A" }));
    assert!(read["lines"] == json!([]) && !read["faults"][0]["fault"]["mend"].as_str().unwrap().is_empty());
    let (_, found) = s.get("/api/sections?q=ipe%20200");
    let row = &found["sections"][0];
    assert_eq!(row["designation"], "IPE 200");
    assert!((row["worked"].as_f64().unwrap() - row["published"].as_f64().unwrap()).abs() < 0.1);
    assert!(found["total"].as_u64().unwrap() > 2000);
    let mut r =
        s.agent.post(s.url("/api/skeleton")).content_type("text/csv").send("nothing\nof use").unwrap();
    assert_eq!(r.status().as_u16(), 422);
    assert!(r.body_mut().read_json::<Value>().unwrap()["detail"].as_str().unwrap().contains("node,A,0,0,0"));
    // A frame that makes no sense is told, and the rest of the job goes on.
    let mut job = demo();
    job["frames"][0]["lines"][10]["say"]["section"] = json!("SHS 3");
    let (status, got) = s.post("/api/evaluate", &json!({ "job": job, "frame": "frame-1" }));
    assert_eq!(status, 200);
    assert!(
        got["frame"]["faults"]
            .as_array()
            .unwrap()
            .iter()
            .any(|f| f["line"] == "post-1" && f["path"] == "/say/section")
    );
    assert!(got["frame_states"][0]["stops"].as_u64().unwrap() > 0);
}

/// A bent handrail: its bends are told in the list and on paper; it has no flat skin, and that is said in
/// words.
#[test]
fn a_bent_rail_in_list_and_papers() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let node = |n: &str, x: &str, z: &str| {
        json!({ "id": format!("n-{n}"), "say": { "verb": "node",
        "name": n, "x": x, "y": "0", "z": z } })
    };
    let rail = json!({ "id": "rail-1", "say": { "verb": "members", "name": "handrail", "path": ["A", "B",
        "C"], "section": "42.4x3", "radius": "120" } });
    let holes = json!({ "id": "h", "say": { "verb": "hole", "members": ["rail-1"], "face": "top",
        "diameter": "9", "at": "60", "count": "2", "pitch": "80" } });
    let lines = json!([node("A", "0", "0"), node("B", "0", "900"), node("C", "700", "900"), rail, holes]);
    let frame = json!({ "id": "f", "mark": "F-1", "name": "rail", "quantity": "1", "material": "s235",
        "section": "60x60x3", "lines": lines });
    let job = json!({ "format": 1, "title": "rail", "frames": [frame] });
    let (_, got) = s.post("/api/evaluate", &json!({ "job": job, "frame": "f" }));
    let row = &got["cut_list"]["frames"][0]["bars"][0];
    assert_eq!(row["bends"], "780.0 · R120.0 90° · 580.0");
    assert_eq!(row["drilled"], json!(["top: 2 × Ø9 at 60.0 · 140.0"]));
    let long: f64 = row["length"].as_str().unwrap().parse().unwrap();
    assert!((long - (780.0 + 580.0 + 120.0 * std::f64::consts::FRAC_PI_2)).abs() < 0.3);
    let (_, made) = s.post("/api/jobs", &job);
    let path = format!("/api/jobs/{}/papers", made["id"].as_str().unwrap());
    let svg = String::from_utf8(s.bytes(&format!("{path}/bar-svg?frame=F-1&piece=F-1/1")).1).unwrap();
    assert!(svg.contains("mark at") && svg.contains(">780.0<") && svg.contains("2 × Ø9"));
    let csv = String::from_utf8(s.bytes(&format!("{path}/saw-list")).1).unwrap();
    assert!(csv.lines().nth(1).unwrap().contains("780.0 · R120.0 90° · 580.0"));
    let (status, told) = s.get(&format!("{path}/tube-dxf?frame=F-1&piece=rail-1"));
    assert!(status == 422 && told["title"].as_str().unwrap().contains("is bent"), "{status} {told}");
    assert_eq!(s.get(&format!("{path}/tube-dxf?frame=F-1&piece=nobody")).0, 404);
    let skeleton = String::from_utf8(s.bytes(&format!("{path}/skeleton?frame=F-1")).1).unwrap();
    assert!(skeleton.lines().any(|l| l == "member,handrail,A B C,CHS 42.4x3,,,120,,"));
}
