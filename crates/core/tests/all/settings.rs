//! Heads and settings as a screen shows them: whatever can be chosen or added there can be kept, printed as
//! text
//! and read back as the same.

use serde_json::{Value, json};
use steelk_core::job::text::{new_job, print_job, read_job, settings};
use steelk_core::job::{FORMAT, Job};
use steelk_core::quantity::LengthUnit;

/// Every pick of a sentence: its path, its options, and whether it is stored as no and yes.
fn picks(parts: &Value, pre: &str, out: &mut Vec<(String, Vec<String>, bool, bool)>) {
    for part in parts.as_array().into_iter().flatten() {
        let at = |field: &str| format!("{pre}{}", part[field].as_str().unwrap_or_default());
        match part["part"].as_str().unwrap_or_default() {
            "clause" => picks(&part["parts"], pre, out),
            "within" => picks(&part["parts"], &at("path"), out),
            "pick" => {
                let options = part["options"].as_array().unwrap().iter();
                let values = options.map(|o| o["value"].as_str().unwrap().to_string()).collect();
                out.push((at("path"), values, part["flag"] == true, part["leads"] == true));
            }
            _ => {}
        }
    }
}

fn set(of: &mut Value, path: &str, value: Value) {
    let (parent, last) = path.rsplit_once('/').unwrap();
    if of.pointer(parent).is_none_or(Value::is_null) {
        set(of, parent, json!({}));
    }
    of.pointer_mut(parent).unwrap().as_object_mut().unwrap().insert(last.into(), value);
}

/// A job that has one of each setting, as they are when they are added.
fn one_of_each(inch: bool) -> Value {
    let mut job =
        json!({ "format": FORMAT, "title": "each", "display": { "length": if inch { "in" } else { "mm" } } });
    for s in settings().iter().filter(|s| !s.list.is_empty()) {
        let Some(start) = s.verb.starts.first() else { continue };
        let mut value = if inch { start.inch.clone() } else { start.mm.clone() };
        if matches!(s.list, "pieces" | "frames" | "briefs") {
            value["id"] = format!("{}-1", s.verb.tag).into();
        }
        job[s.list] = if matches!(s.list, "brake" | "drawings") { value } else { json!([value]) };
    }
    job["saw"] = json!({});
    job
}

fn kept(job: &Value, why: &str) -> Job {
    let job: Job = serde_json::from_value(job.clone()).unwrap_or_else(|e| panic!("{why}: {e}"));
    let text = print_job(&job);
    let (again, faults) = read_job(&text);
    assert!(faults.is_empty(), "{why}: {faults:?}\n{text}");
    assert_eq!(
        serde_json::to_value(&again).unwrap(),
        serde_json::to_value(&job).unwrap(),
        "{why}, as text:\n{text}"
    );
    job
}

#[test]
fn what_can_be_added_is_kept_and_read_back() {
    for inch in [false, true] {
        let job = kept(&one_of_each(inch), "one of each");
        assert_eq!((job.pieces.len(), job.frames.len(), job.test_bends.len()), (1, 1, 1));
        let faults = steelk_core::evaluate::evaluate(&job).faults;
        assert!(faults.is_empty(), "{faults:?}");
    }
}

#[test]
fn whatever_can_be_chosen_is_kept_and_read_back() {
    let mut tried = 0;
    for s in settings() {
        let mut found = Vec::new();
        picks(&serde_json::to_value(&s.verb.sentence).unwrap(), "", &mut found);
        // Where a piece stands in the job is no field of it.
        for (path, values, flag, leads) in found.into_iter().filter(|f| f.0 != "/archived") {
            assert!(values.len() > 1, "{} {path}", s.verb.tag);
            for value in values {
                let mut job = one_of_each(true);
                let at = match s.list {
                    "" => String::new(),
                    "brake" | "saw" | "drawings" => format!("/{}", s.list),
                    "measured" => {
                        set(&mut job, "/briefs/0/measured", json!([{ "line": "f", "value": "9" }]));
                        "/briefs/0/measured/0".into()
                    }
                    list => format!("/{list}/0"),
                };
                let why = format!("{} {path} = {value}", s.verb.tag);
                let pointer = format!("{at}{path}");
                match value.as_str() {
                    // The whole group goes with it, as on the screen.
                    "" => {
                        assert!(leads, "{why}: only what leads a group may be nothing");
                        let group = pointer.rsplit_once('/').unwrap().0.to_string();
                        set(&mut job, &group, Value::Null);
                    }
                    text if flag => set(&mut job, &pointer, (text == "true").into()),
                    text => set(&mut job, &pointer, text.into()),
                }
                kept(&job, &why);
                tried += 1;
            }
        }
    }
    assert!(tried > 40, "{tried}");
}

#[test]
fn a_new_job_is_empty_but_for_what_is_sold_everywhere() {
    for (unit, longest) in [(LengthUnit::Mm, "3000"), (LengthUnit::In, "120")] {
        let job = new_job(unit);
        assert!(job.pieces.is_empty() && job.frames.is_empty());
        assert_eq!((job.display.length, job.stock.len()), (unit, 2));
        assert_eq!(job.stock[1].length, longest);
        assert!(steelk_core::evaluate::evaluate(&job).faults.is_empty());
        kept(&serde_json::to_value(&job).unwrap(), "a new job");
    }
}

/// Light views leave out what a line makes a dozen times or more, and no figure, hole or file knows of it.
#[test]
fn light_views_leave_rows_out_and_change_no_figure() {
    use crate::common::{job, piece};
    use steelk_core::evaluate::evaluate_piece;
    use steelk_core::sheet::{full_mesh, is_hidden_in_views};
    let texts = [
        "plate 300 x 120",
        "hole ⌀6, 20 from west, 20 from south",
        "repeat punch-1, 20 x 12",
        "fill panel hole ⌀3, pitch 10, margin 40",
        "hole ⌀30, 60 from east, 30 from north",
    ];
    let told = piece("2", "2", &texts);
    let full = evaluate_piece(&job(Default::default()), &told);
    let light = evaluate_piece(&Job { light: true, ..job(Default::default()) }, &told);
    assert!(full.made && full.faults.is_empty() && light.faults.is_empty(), "{:?}", full.faults);
    let figures = |p: &steelk_core::result::PieceResult| {
        p.figures.iter().map(|f| (f.key.clone(), f.text.clone())).collect::<Vec<_>>()
    };
    assert_eq!(figures(&full), figures(&light));
    assert_eq!(full.flat.holes.len(), light.flat.holes.len());
    let seen = |p: &steelk_core::result::PieceResult| {
        p.flat.holes.iter().filter(|h| !is_hidden_in_views(h, &p.features)).count()
    };
    // The hole that is repeated and the large one stay; its nineteen others and the field go.
    assert_eq!((seen(&full), seen(&light)), (full.flat.holes.len(), 2));
    let solid =
        |p: &steelk_core::result::PieceResult| full_mesh(p).solid(&p.zones, 1.0, p.thickness).volume();
    assert!((solid(&full) - solid(&light)).abs() < 1e-9 * solid(&full));
}
