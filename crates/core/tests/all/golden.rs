//! What the sample job and a job with one of every verb come to, kept as numbers: a rebuild that changes
//! nothing changes none of them by more than 1e-9. `GOLDEN=write cargo test -p steelk-core golden` takes them
//! anew, where a change was meant.

use serde_json::{Map, Value, json};
use steelk_core::evaluate::cut_list;
use steelk_core::evaluate::evaluate;
use steelk_core::frame::FrameResult;
use steelk_core::job::Job;
use steelk_core::result::{FigureResult, Finding, LineFault, PieceResult};

fn figures(of: &[FigureResult]) -> Value {
    Value::Object(of.iter().map(|f| (f.key.clone(), json!([f.value, f.text]))).collect())
}

fn findings(of: &[Finding], faults: &[LineFault]) -> Value {
    let found = of.iter().map(|f| format!("{} {} {}", f.check, f.amount, f.names.join(" ")));
    found.chain(faults.iter().map(|f| format!("fault {} {}", f.line, f.path))).collect()
}

/// A flat by its outline, its bends, and sums over its holes.
fn piece(p: &PieceResult) -> Value {
    let outer: Vec<[f64; 3]> = p.flat.outer.vertices.iter().map(|v| [v.p.x, v.p.y, v.bulge]).collect();
    let bends: Vec<Value> = p
        .flat
        .bends
        .iter()
        .map(|b| json!([b.name, b.from, b.to, b.angle, b.radius, b.allowance, b.k, b.up]))
        .collect();
    let sum = |of: &dyn Fn(&steelk_core::geom::Contour) -> f64| {
        p.flat.holes.iter().map(|h| of(&h.contour)).sum::<f64>()
    };
    let holes =
        [p.flat.holes.len() as f64, sum(&|c| c.area()), sum(&|c| c.centroid().x), sum(&|c| c.centroid().y)];
    let brake: Vec<Value> = p
        .plan
        .steps
        .iter()
        .map(|s| json!([p.flat.bends[s.bend].name, s.stop.away, s.measure, s.strikes.len()]))
        .collect();
    let zones: Vec<Value> = p
        .zones
        .iter()
        .map(|z| json!([z.name, z.region.iter().map(|q| q.to_array()).collect::<Vec<_>>()]))
        .collect();
    json!({ "figures": figures(&p.figures), "findings": findings(&p.findings, &p.faults), "outer": outer,
        "bends": bends, "holes": holes,
        "bores": p.flat.bores.iter().map(|b| json!([b.name, b.at, b.text])).collect::<Vec<_>>(),
        "pressed": p.flat.pressed.iter().map(|m| json!([m.name, m.at, m.turn])).collect::<Vec<_>>(),
            "brake": brake, "zones": zones,
        "names": p.features.iter().take(60).map(|f| f.name.clone()).collect::<Vec<_>>() })
}

fn frame(f: &FrameResult) -> Value {
    let members: Vec<Value> =
        f.facts.iter().map(|m| json!([m.mass, m.volume, m.centre.to_array()])).collect();
    let nodes: Vec<Value> = f.nodes.iter().map(|n| json!([n.name, n.at.to_array()])).collect();
    json!({ "figures": figures(&f.figures), "findings": findings(&f.findings, &f.faults), "members": members,
        "nodes": nodes,
        "plates": f.plates.iter().map(|p| piece(&p.piece)).collect::<Vec<_>>() })
}

fn taken(job: &Job) -> Value {
    let r = evaluate(job);
    let all = r
        .pieces
        .iter()
        .map(|p| (p.id.clone(), piece(p)))
        .chain(r.frames.iter().map(|f| (f.id.clone(), frame(f))));
    let list = serde_json::to_value(cut_list(job, &r)).unwrap();
    json!({ "of": all.collect::<Map<String, Value>>(), "list": list, "faults": findings(&[], &r.faults) })
}

/// Where two values differ: numbers by more than 1e-9 of their size, anything else at all.
fn differ(at: &str, was: &Value, is: &Value, out: &mut Vec<String>) {
    match (was, is) {
        (Value::Number(a), Value::Number(b)) => {
            let (a, b) = (a.as_f64().unwrap(), b.as_f64().unwrap());
            if (a - b).abs() > 1e-9 * a.abs().max(1.0) {
                out.push(format!("{at}: {a} is {b}"));
            }
        }
        (Value::Array(a), Value::Array(b)) if a.len() == b.len() => {
            a.iter().zip(b).enumerate().for_each(|(i, (a, b))| differ(&format!("{at}/{i}"), a, b, out));
        }
        (Value::Object(a), Value::Object(b)) => {
            for key in a.keys().chain(b.keys().filter(|k| !a.contains_key(*k))) {
                differ(
                    &format!("{at}/{key}"),
                    a.get(key).unwrap_or(&Value::Null),
                    b.get(key).unwrap_or(&Value::Null),
                    out,
                );
            }
        }
        (a, b) if a == b => {}
        (a, b) => out.push(format!("{at}: {a:.200} is {b:.200}")),
    }
}

fn held(name: &str, job: &str) {
    let job: Job = serde_json::from_str(job).unwrap();
    let is = taken(&job);
    let path = format!("{}/tests/golden/{name}.json", env!("CARGO_MANIFEST_DIR"));
    if std::env::var("GOLDEN").is_ok_and(|v| v == "write") {
        std::fs::write(&path, serde_json::to_string(&is).unwrap()).unwrap();
    }
    let was: Value = serde_json::from_str(&std::fs::read_to_string(&path).unwrap()).unwrap();
    let mut out = Vec::new();
    differ("", &was, &is, &mut out);
    assert!(out.is_empty(), "{} values differ:\n{}", out.len(), out[..out.len().min(30)].join("\n"));
}

#[test]
fn the_sample_job_comes_to_what_it_came_to() {
    held("sample", include_str!("../../../../demo/orchard-line.steelk.json"));
}

#[test]
fn every_verb_comes_to_what_it_came_to() {
    let job = include_str!("../golden/verbs-job.json");
    held("verbs", job);
    // Every verb of pieces is there and can be carried out: a fault would hide what it makes.
    let job: Job = serde_json::from_str(job).unwrap();
    let made = evaluate(&job);
    for (p, told) in made.pieces.iter().zip(&job.pieces) {
        assert!(p.made && p.faults.is_empty(), "{}: {:?}", told.name, p.faults);
    }
    let verbs: std::collections::BTreeSet<String> = job
        .pieces
        .iter()
        .flat_map(|p| &p.lines)
        .map(|l| serde_json::to_value(&l.say).unwrap()["verb"].as_str().unwrap().to_string())
        .collect();
    assert_eq!(verbs.len(), steelk_core::verbs::PIECE.verbs.len(), "{verbs:?}");
}
