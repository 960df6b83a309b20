//! Whatever stands in the fields of a frame, it is worked out or refused at that field, and the rest goes on.

use proptest::prelude::*;
use serde_json::{Value, json};
use steelk_core::evaluate::evaluate_frame;
use steelk_core::frame::*;
use steelk_core::job::*;

use crate::common::frame::told;

/// A frame in which every verb speaks and every optional field says something.
fn all_verbs() -> Value {
    serde_json::from_str(include_str!("all-verbs.json")).unwrap()
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
        let of = if f.line.is_empty() {
            Some(told)
        } else {
            told["lines"].as_array().unwrap().iter().find(|l| l["id"] == f.line.as_str())
        };
        let Some(of) = of else { return Err(TestCaseError::fail(format!("no line '{}': {f:?}", f.line))) };
        let parent = f.path.rsplit_once('/').map_or("", |p| p.0);
        prop_assert!(of.pointer(parent).is_some(), "{f:?}");
    }
    for f in &r.facts {
        prop_assert!(f.lengths.long.is_finite() && f.mass >= 0.0 && f.centre.is_finite());
    }
    let list = frame_list(&frame, &r, &job.display, &SawFacts::usual(&job.display));
    prop_assert_eq!(list.bars.iter().map(|b| b.quantity).sum::<usize>(), r.members.len() * r.quantity);
    // Nothing counted twice, nothing left out: the rows add up to the frames.
    let kg = |text: &str| text.split(' ').next().and_then(|t| t.parse::<f64>().ok()).unwrap_or(f64::NAN);
    let rows: f64 = list
        .bars
        .iter()
        .map(|b| kg(&b.total_mass))
        .chain(list.plates.iter().map(|p| kg(&p.total_mass)))
        .sum();
    let all = r.mass() * r.quantity as f64;
    prop_assert!(
        (rows - all).abs() < 0.01 * all + 0.01 && (kg(&list.mass) - all).abs() < 0.01 * all + 0.01,
        "{rows} {} {all}",
        list.mass
    );
    prop_assert!(section_cards(&r).len() <= r.profiles.len());
    prop_assert!(whole(&r, false).points.iter().all(|p| p.is_finite()));
    Ok(())
}

/// As it stands, nothing is refused and every line makes what it says.
#[test]
fn every_verb_speaks() {
    let told = all_verbs();
    let frame: Frame = serde_json::from_value(told.clone()).unwrap();
    assert_eq!(
        serde_json::to_value(&frame).unwrap()["lines"].as_array().unwrap().len(),
        told["lines"].as_array().unwrap().len()
    );
    let r = evaluate_frame(&job(), &frame);
    assert!(r.faults.is_empty(), "{:#?}", r.faults);
    for plate in ["base-1", "cap-1", "gusset-1", "fit-1", "lug-1.upright", "ring-1", "stack-1"] {
        assert!(
            r.plates.iter().any(|p| p.name.starts_with(plate)),
            "{plate}: {:?}",
            r.plates.iter().map(|p| &p.name).collect::<Vec<_>>()
        );
    }
    assert!(r.members.iter().any(|m| !m.holes.is_empty() && m.name == "mirror-1.post-1"));
    survives(&told).unwrap();
}

/// A plate that no sheet can be is refused at its line; the frame is weighed without it. Once it came out as
/// no number.
#[test]
fn a_plate_that_cannot_be_made() {
    let mut told = all_verbs();
    let whole = evaluate_frame(&job(), &serde_json::from_value(told.clone()).unwrap());
    let at = told["lines"].as_array().unwrap().iter().position(|l| l["id"] == "gusset-1").unwrap();
    told["lines"][at]["say"]["thickness"] = json!("470");
    let r = evaluate_frame(&job(), &serde_json::from_value(told).unwrap());
    assert!(!r.faults.is_empty());
    assert!(
        r.faults.iter().all(|f| f.line == "gusset-1"
            && f.path == "/say/thickness"
            && f.fault.message.contains("gusset-1")),
        "{:?}",
        r.faults
    );
    assert!(r.plates.iter().all(|p| p.line != "gusset-1"));
    let gussets: f64 = whole
        .plates
        .iter()
        .filter(|p| p.line == "gusset-1")
        .map(|p| p.piece.value("mass") * p.places.len() as f64)
        .sum();
    assert!(
        (whole.mass() - gussets - r.mass()).abs() < 1e-9 && gussets > 0.1,
        "{} {} {gussets}",
        whole.mass(),
        r.mass()
    );
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

/// Hoppers, bent bars and what is worked on them, mirrored.
fn worked() -> Value {
    let lines = [
        "hopper 250 x 220 to 600 x 500, 400 high, 5 thick, rising to 450 north, mitred, gap 1",
        "stiffen hopper-1 at 120, of L 40x40x4, leg down",
        "stiffen hopper-1 at 220, 40 wide, 5 thick, 2 every 60",
        "lug on hopper-1.north, 120 from its start, 150 up its side, 10 thick, R28, eye ⌀22 at 40",
        "node A 900 0 0",
        "node B 1700 0 0",
        "hopper 200 x 200 to 400 x 300, 300 high, 4 thick, on B, but south-east north or south over gap 1",
        "rim hopper-2 top, 45 wide, mitred 2, holes ⌀9, every 90, counter-flange 5",
        "node E 900 1500 0",
        "transition polygon 6 sides, 300 across to rectangle 200 x 150, 250 high, 3 thick, turned 20°, \
         tilted 5° north, open face-4, mitred, gap 1, on E, but face-2 over north",
        "rim transition-1 top, 30 wide, welded on 5, mitred 1, holes 8, 2 a side, counter-flange 4, as \
        strips",
        "stiffen transition-1 at 60, 30 wide, 4 thick",
        "lug on transition-1.south, 80 from its start, 90 up its side, 8 thick, R20, eye ⌀16 at 30",
        "rim hopper-1 bottom on south and north, 60 wide, inward, mitred 2",
        "gussets under rim-1, 25 x 50, 4 thick, nose 5",
        "node D 900 -150 0",
        "bent bar from D, FLAT 30x6: 80, twist 90° over 90, 60, bend 90° R40 up, 80, \
         spiral 200° R30 to R60, 50",
        "round off bent-1 at both ends, R12",
        "node C 900 600 0",
        "tube A C, CHS 33.7x2.6",
        "flatten tube-1 at the end, 50 flat, over 40",
        "mirror across north at -400",
    ];
    let (_, frame) = told("40x40x3", JointHow::Butt, &lines);
    serde_json::to_value(frame).unwrap()
}

/// These fields with these values.
fn changed(mut told: Value, changes: Vec<(prop::sample::Index, Value)>) -> Result<(), TestCaseError> {
    let mut paths = Vec::new();
    leaves(&told, "", &mut paths);
    paths.retain(|p| !p.ends_with("/id") && !p.ends_with("/verb"));
    let mut changed = Vec::new();
    for (which, value) in changes {
        let path = &paths[which.index(paths.len())];
        changed.push(format!("{path} = {value}"));
        *told.pointer_mut(path).unwrap() = value;
    }
    survives(&told).map_err(|e| TestCaseError::fail(format!("{}: {e}", changed.join(", "))))
}

#[test]
fn worked_lines_speak() {
    let r = evaluate_frame(&job(), &serde_json::from_value(worked()).unwrap());
    assert!(r.faults.is_empty(), "{:#?}", r.faults);
    survives(&worked()).unwrap();
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(250))]

    /// Any fields of those with any values.
    #[test]
    fn any_value_in_any_worked_field(
        changes in prop::collection::vec((any::<prop::sample::Index>(), hostile()), 1..5),
    ) {
        changed(worked(), changes)?;
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// Any fields with any values.
    #[test]
    fn any_value_in_any_field(changes in prop::collection::vec((any::<prop::sample::Index>(), hostile()),
        1..5)) {
        changed(all_verbs(), changes)?;
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
        1 => prop::collection::vec(prop::sample::select(vec!["A", "B", "C", "D", "rail-1.1", "post-1",
            "nowhere"]), 0..4).prop_map(|v| json!(v)),
        1 => "\\PC{0,30}".prop_map(|t| json!(t)),
    ]
}
