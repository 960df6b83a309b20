//! Drawings and pictures over the wire: kept, seen, taken, revised, traced; and what is refused.

use serde_json::{Value, json};

mod common;
use common::*;

fn line(a: [f64; 2], b: [f64; 2]) -> String {
    format!("0\nLINE\n8\nCUT\n10\n{}\n20\n{}\n11\n{}\n21\n{}\n", a[0], a[1], b[0], b[1])
}

/// A plate of 100 × 60 with round holes: x, y, radius.
fn plate(wide: f64, holes: &[[f64; 3]]) -> Vec<u8> {
    let rim = [[0.0, 0.0], [wide, 0.0], [wide, 60.0], [0.0, 60.0]];
    let sides: String = (0..4).map(|k| line(rim[k], rim[(k + 1) % 4])).collect();
    let round = |[x, y, r]: &[f64; 3]| format!("0\nCIRCLE\n8\nCUT\n10\n{x}\n20\n{y}\n40\n{r}\n");
    let holes: String = holes.iter().map(round).collect();
    let head = "0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n";
    format!("{head}0\nSECTION\n2\nENTITIES\n{sides}{holes}0\nENDSEC\n0\nEOF\n").into_bytes()
}

fn keep(s: &Server, bytes: &[u8]) -> Value {
    s.agent.post(s.url("/api/files")).send(bytes).unwrap().body_mut().read_json().unwrap()
}

fn ids(piece: &Value) -> Vec<&str> {
    piece["lines"].as_array().unwrap().iter().map(|l| l["id"].as_str().unwrap()).collect()
}

/// What moved, grew, went and came; the line that a hand changed stays, and so does what a hand added.
#[test]
fn a_revised_drawing_moves_the_lines_that_it_made() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let first = keep(&s, &plate(100.0, &[[20.0, 20.0, 5.0], [50.0, 30.0, 4.0], [80.0, 20.0, 3.0]]));
    let ask = json!({ "file": first["digest"], "name": "a.dxf", "parts": [1] });
    let (status, taken) = s.post("/api/drawings/take", &ask);
    assert_eq!(status, 200, "{taken}");
    let display = json!({ "length": "mm", "inches": "1/64" });
    let mut piece = json!({ "id": "p", "mark": "P-1", "name": "a", "quantity": "1", "material": "s235",
        "thickness": "3", "lines": taken["parts"][0]["lines"], "origin": taken["parts"][0]["origin"] });
    // Holes lie from the largest to the smallest: 5, 4, 3. A hand widens the second and adds a third line.
    assert_eq!(ids(&piece), ["start-1", "punch-1", "punch-2", "punch-3"]);
    piece["lines"][2]["say"]["shape"]["diameter"] = json!("9");
    let place = piece["lines"][1]["say"]["place"].clone();
    let own = json!({ "id": "punch-9", "say": { "verb": "punch", "place": place,
        "shape": { "kind": "round", "diameter": "2" } } });
    piece["lines"].as_array_mut().unwrap().push(own);
    let next = keep(&s, &plate(110.0, &[[25.0, 20.0, 5.0], [50.0, 31.0, 4.0], [60.0, 50.0, 6.0]]));
    let body = json!({ "piece": piece, "display": display, "file": next["digest"],
        "name": "b.dxf", "part": 1 });
    let (status, got) = s.post("/api/drawings/revised", &body);
    assert_eq!(status, 200, "{got}");
    let said: Vec<&str> =
        got["moves"].as_array().unwrap().iter().map(|m| m["said"].as_str().unwrap()).collect();
    for wanted in [
        "the outline: 100.0 × 60.0 → 110.0 × 60.0",
        "hole ⌀10.0 moved 5.0 east",
        "hole ⌀8.0 moved 1.0 north: its line was changed by hand and stays as it is",
        "hole ⌀6.0 is gone",
        "hole ⌀12.0 is new",
    ] {
        assert!(said.contains(&wanted), "{wanted}: {said:?}");
    }
    let after = &got["piece"];
    // The new one behind the drawing's own, with a number that nothing had; what a hand added stays.
    assert_eq!(ids(after), ["start-1", "punch-1", "punch-2", "punch-10", "punch-9"]);
    assert_eq!(after["lines"][2]["say"]["shape"]["diameter"], "9");
    assert_eq!(after["lines"][1]["say"]["place"]["x"]["distance"], "25");
    assert_eq!(after["origin"]["name"], "b.dxf");
    // The same drawing again moves nothing.
    let again = json!({ "piece": after, "display": display, "file": next["digest"],
        "name": "b.dxf", "part": 1 });
    let (_, same) = s.post("/api/drawings/revised", &again);
    assert_eq!((same["moves"].as_array().unwrap().len(), same["same"].as_u64()), (0, Some(3)), "{same}");
}

/// Units that are not told are asked for, parts that are not there are refused, files that are not kept are.
#[test]
fn what_cannot_be_taken_is_refused_with_its_mend() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let bare = String::from_utf8(plate(100.0, &[])).unwrap().replace("$INSUNITS\n70\n4", "$INSUNITS\n70\n0");
    let kept = keep(&s, bare.as_bytes());
    let (_, seen) = s.post("/api/drawings", &json!({ "file": kept["digest"] }));
    assert_eq!((seen["unit"].as_str(), seen["units"].as_array().unwrap().len()), (None, 4), "{seen}");
    let take = |more: Value| {
        let mut ask = json!({ "file": kept["digest"], "name": "a.dxf", "parts": [1] });
        more.as_object().unwrap().iter().for_each(|(k, v)| ask[k] = v.clone());
        s.post("/api/drawings/take", &ask)
    };
    let (status, asked) = take(json!({}));
    assert_eq!((status, asked["field"].as_str()), (422, Some("options.assume")));
    let inches = json!({ "options": { "assume": "in", "closes": 0.05, "arcs": true } });
    let (status, taken) = take(inches.clone());
    assert_eq!((status, taken["length"].as_str()), (200, Some("in")), "{taken}");
    let mut second = inches;
    second["parts"] = json!([2]);
    assert_eq!(take(second).0, 422);
    let (status, said) =
        s.post("/api/drawings", &json!({ "file": kept["digest"], "options": { "closes": "x" } }));
    assert!(status == 400 && said["title"].as_str().unwrap().contains("cannot be read"), "{said}");
    for odd in [&b"\x00\x01\x02\x03 of no kind"[..], b"", b"hello"] {
        assert_eq!(s.agent.post(s.url("/api/files")).send(odd).unwrap().status(), 422);
    }
    assert_eq!(s.get("/api/files/0000").0, 404);
    let piece = json!({ "id": "p", "mark": "P-1", "name": "", "quantity": "1", "material": "s235",
        "thickness": "3", "lines": [] });
    let display = json!({ "length": "mm", "inches": "1/64" });
    let body = json!({ "piece": piece, "display": display, "file": kept["digest"], "name": "a", "part": 1 });
    let (status, said) = s.post("/api/drawings/revised", &body);
    assert!(
        status == 422 && said["title"].as_str().unwrap().contains("did not come from a drawing"),
        "{said}"
    );
}

/// The sample's photograph comes to the part that it was made from; a piece without a picture, a picture that
/// is none, and one that this server does not keep are told.
#[test]
fn the_sample_photograph_is_traced() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let photograph = include_bytes!("../../../demo/pump-gasket.jpg");
    let sample: Value = serde_json::from_str(include_str!("../../../demo/orchard-line.steelk.json")).unwrap();
    let gasket = sample["pieces"].as_array().unwrap().iter().find(|p| p["id"] == "gasket").unwrap();
    let job = |piece: &Value| json!({ "format": 1, "title": "t", "pieces": [piece] });
    let trace = |piece: &Value| s.post("/api/trace", &json!({ "job": job(piece), "piece": piece["id"] }));
    let (status, said) = trace(gasket);
    assert!(status == 404 && said["title"].as_str().unwrap().contains("does not keep"), "{said}");
    let kept = keep(&s, photograph);
    assert_eq!(kept["digest"], gasket["tracing"]["picture"]);
    let (status, got) = trace(gasket);
    assert_eq!((status, got["trouble"].as_str()), (200, Some("")), "{got}");
    // As demo/photograph.py has it: a bore of 36, a rim of R30, ears of R12 with holes of 11.
    let figures: Vec<f64> = { got["elements"].as_array().unwrap().iter() }
        .map(|e| e["said"].as_str().unwrap())
        .map(|t| t.trim_start_matches(['R', '⌀']).split(' ').next().unwrap().parse().unwrap())
        .collect();
    for (k, wanted) in [(0, 12.0), (2, 30.0), (4, 12.0), (5, 36.0), (6, 11.0), (7, 11.0)] {
        // A third of a pixel of the radius, in mm.
        assert!((figures[k] - wanted).abs() < 2.0 * 0.3 / 12.0, "{k}: {} {wanted}", figures[k]);
    }
    // The recipe that ships says the same.
    assert_eq!(got["lines"], gasket["lines"]);
    let mut bare = gasket.clone();
    bare.as_object_mut().unwrap().remove("tracing");
    assert_eq!(trace(&bare).0, 422);
    let drawing = keep(&s, &plate(50.0, &[]));
    let mut odd = gasket.clone();
    odd["tracing"]["picture"] = drawing["digest"].clone();
    let (status, said) = trace(&odd);
    assert!(status == 422 && said["detail"].as_str().unwrap().contains("PNG or a JPEG"), "{said}");
    assert_eq!(s.post("/api/trace", &json!({ "job": job(gasket), "piece": "nobody" })).0, 422);
}

/// A file that is larger than what all bodies may hold together is waited for, not refused; one beyond
/// the bound
/// is told so; the drawing in it is read.
#[test]
fn a_large_file_has_the_room_to_itself() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let drawn = String::from_utf8(plate(80.0, &[[20.0, 20.0, 5.0]])).unwrap();
    // Remarks of the format before it.
    let remarks = format!("999\n{}\n", "x".repeat(1021)).repeat(28 * 1024 * 1024 / 1026);
    let mut answer = s.agent.post(s.url("/api/files")).send((remarks + &drawn).as_bytes()).unwrap();
    let kept: Value = answer.body_mut().read_json().unwrap();
    assert_eq!((answer.status().as_u16(), kept["kind"].as_str()), (200, Some("dxf")), "{kept}");
    let (status, seen) = s.post("/api/drawings", &json!({ "file": kept["digest"] }));
    assert_eq!((status, seen["parts"][0]["cuts"].as_u64()), (200, Some(1)), "{seen}");
    let mut refused = s.agent.post(s.url("/api/files")).send(&vec![b' '; 50_000_000][..]).unwrap();
    let said: Value = refused.body_mut().read_json().unwrap();
    assert_eq!(refused.status(), 413);
    assert!(said["title"].as_str().unwrap().contains("larger than 33 MB"), "{said}");
}

/// A picture of four grey pixels (ISO/IEC 15948).
const PIXELS: &[u8] = &[
    137, 80, 78, 71, 13, 10, 26, 10, 0, 0, 0, 13, 73, 72, 68, 82, 0, 0, 0, 2, 0, 0, 0, 2, 8, 0, 0, 0, 0, 87,
    221, 82, 248, 0, 0, 0, 14, 73, 68, 65, 84, 120, 156, 99, 104, 80, 96, 16, 248, 0, 0, 4, 22, 1, 161, 140,
    76, 245, 210, 0, 0, 0, 0, 73, 69, 78, 68, 174, 66, 96, 130,
];

/// The shop's mark stands on its drawings; one that is not kept here, is no picture or is too heavy is told
/// by its name, and the drawing is made all the same.
#[test]
fn the_mark_of_the_shop_stands_on_its_drawings_or_is_named_there() {
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let broken = keep(&s, b"\x89PNG\r\n\x1a\nnothing");
    let heavy = keep(&s, &[PIXELS, &vec![0u8; 2 << 20]].concat());
    let mark = keep(&s, PIXELS);
    let drawing = |file: &str, number: &str, kind: &str| -> Vec<u8> {
        let job = json!({ "format": 1, "title": "x", "number": number,
            "drawings": { "shop": "Overbeck Yard", "mark": { "file": file, "name": "mark.png" } },
            "pieces": [{ "id": "p", "mark": "P-1", "name": "lid", "quantity": "1", "material": "s235",
                "thickness": "3", "finish": " galvanised ", "assembly": "F-7", "lines": [{ "id": "start-1",
                    "say": { "verb": "start_plate", "width": "90", "height": "60" } }] }] });
        let (status, made) = s.post("/api/jobs", &job);
        assert_eq!(status, 201, "{made}");
        let url = s.url(&format!("/api/jobs/{}/papers/{kind}?piece=p", made["id"].as_str().unwrap()));
        s.agent.get(url).call().unwrap().body_mut().read_to_vec().unwrap()
    };
    let svg = |file: &str, number: &str| String::from_utf8(drawing(file, number, "drawing-svg")).unwrap();
    let with = svg(mark["digest"].as_str().unwrap(), "J-1");
    assert!(with.contains("href=\"data:image/png;base64,iVBORw0KGgo") && with.contains("Overbeck Yard"));
    assert!(!with.contains("not at hand"));
    assert!(with.contains("Finish: galvanised") && with.contains("Goes into F-7"));
    let pdf = drawing(mark["digest"].as_str().unwrap(), "J-2", "drawing");
    let has = |bytes: &[u8], what: &[u8]| bytes.windows(what.len()).any(|w| w == what);
    assert!(has(&pdf, b"/Subtype/Image") || has(&pdf, b"/Subtype /Image"), "the PDF has no picture");
    let lost =
        ["0".repeat(64), broken["digest"].as_str().unwrap().into(), heavy["digest"].as_str().unwrap().into()];
    for (k, file) in lost.iter().enumerate() {
        let without = svg(file, &format!("J-1{k}"));
        assert!(without.contains("mark not at hand: mark.png") && !without.contains("<image"), "{file}");
    }
}
