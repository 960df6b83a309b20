//! Findings: each rule at both sides of its limit, with the mend that puts it right; and lines that fail
//! alone.

use crate::common::*;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::evaluate::evaluate;
use steelk_core::evaluate::evaluate_piece;
use steelk_core::grammar::Context;
use steelk_core::job::*;
use steelk_core::result::{Finding, PieceResult, Severity};
use steelk_core::shop::{BendMethod, BendRule, gauge, limits, material, materials};

fn din_rule() -> BendRule {
    school(BendMethod::Din6935)
}

fn found<'a>(p: &'a PieceResult, check: &str) -> Option<&'a Finding> {
    p.findings.iter().find(|f| f.check == check)
}

/// Every finding that offers a mend is gone once the mend is made.
#[rstest]
#[case("radius_small", "3", "1", &["strip 60 up 90 60 wide 40"])]
#[case("leg_crowded", "3", "5", &["strip 60 up 90 9 down 90 60 wide 40"])]
#[case("flange_short", "4", "5", &["strip 60 up 90 20 wide 40"])]
#[case("hole_near_bend", "3", "3", &["strip 60 up 90 60 wide 40", "hole 6 at 50 from west"])]
#[case("hole_near_bend", "3", "3", &["strip 60 up 90 60 wide 40", "hole 6 at 50 from east"])]
#[case("sharp_corners", "3", "3", &["plate 200 x 100"])]
fn mends_mend(#[case] check: &str, #[case] t: &str, #[case] r: &str, #[case] lines: &[&str]) {
    let p = piece(t, r, lines);
    let out = made(din_rule(), &p);
    let f = found(&out, check).unwrap_or_else(|| panic!("{check} not among {:?}", out.findings));
    assert!(!f.rule.is_empty() && !f.source.is_empty());
    let after = made(din_rule(), &mended(&p, f));
    assert!(found(&after, check).is_none(), "{:?}", found(&after, check));
}

#[rstest]
#[case("hole_small", &["plate 200 x 100", "hole 2.9"], &["plate 200 x 100", "hole 3"])]
#[case("edge_thin", &["plate 200 x 100", "hole 10 at 9.4 from west"], &["plate 200 x 100", "hole 10 at 9.6 \
    from west"])]
#[case("web_thin", &["plate 200 x 100", "hole 10", "repeat punch-1 2 at 12.9"], &["plate 200 x 100",
    "hole 10", "repeat punch-1 2 at 13.1"])]
#[case("hole_open", &["plate 200 x 100", "hole 10, 3 from west, 40 from south"],
    &["plate 200 x 100", "hole 10, 13 from west, 40 from south"])]
#[case("cut_misses", &["plate 200 x 100", "hole 10 at -20 from west"], &["plate 200 x 100", "hole 10 at 20 \
    from west"])]
#[case("part_falls", &["plate 200 x 100", "rectangle 5 x 120"], &["plate 200 x 100", "rectangle 5 x 80"])]
#[case("cut_across_bend", &["strip 60 up 90 60 wide 40", "slot 40 x 10"], &["strip 60 up 90 60 wide 40",
    "hole 10 at 20 from west"])]
#[case("formed_through_itself", &["strip 60 up 90 40 up 90 40 up 90 80 wide 40"], &["strip 60 up 90 40 up 90 \
    40 up 90 30 wide 40"])]
fn limits_are_told_apart(#[case] check: &str, #[case] wrong: &[&str], #[case] right: &[&str]) {
    assert!(found(&din("3", "3", wrong), check).is_some());
    assert!(found(&din("3", "3", right), check).is_none());
}

/// What has a mouth is told by that, a plain drilled hole as any round one, and a notch by nothing.
#[test]
fn a_hole_over_the_edge_is_told_once() {
    let told = |line: &str| {
        let out = din("5", "5", &["plate 100 x 60", line]);
        ["hole_open", "bore_edge"].map(|check| found(&out, check).is_some())
    };
    assert_eq!(told("countersunk hole for M8, 2 from east, 20 from south"), [false, true]);
    assert_eq!(told("tapped hole M8, 2 from east, 20 from south"), [true, false]);
    assert_eq!(told("notch west round 10 x 12 at 20"), [false, false]);
}

#[test]
fn stock_weight_and_zinc() {
    let mut j = job(din_rule());
    j.stock = vec![StockSheet { length: "2500".into(), width: "1250".into() }];
    let mut p = piece("10", "16", &["plate 1250 x 2500"]);
    p.material = "dx51".into();
    let fits = evaluate_piece(&j, &p);
    assert!(found(&fits, "larger_than_stock").is_none());
    assert!(found(&fits, "heavy").is_some_and(|f| f.severity == Severity::Note));
    assert!(found(&fits, "zinc").is_some());
    p.lines = lines(&["plate 1250.1 x 2500"]);
    assert!(
        found(&evaluate_piece(&j, &p), "larger_than_stock").is_some_and(|f| f.severity == Severity::Stop)
    );
}

#[test]
fn a_failing_line_says_why_and_the_rest_stands() {
    let mut p = piece(
        "3",
        "3",
        &["plate 200 x 100", "hole 10 at 20 from west", "hole 10 at 50 from west", "round 5"],
    );
    if let Operation::Punch(punch) = &mut p.lines[1].say {
        punch.shape = Shape::Round { diameter: "90deg".into() };
    }
    let out = evaluate_piece(&job(din_rule()), &p);
    assert!(out.made);
    assert_eq!(out.flat.holes.len(), 1);
    let f = &out.faults[0];
    assert_eq!((f.line.as_str(), f.path.as_str()), ("punch-1", "/say/shape/diameter"));
    assert!(f.fault.message.contains("an angle stands where a length belongs"));
}

#[rstest]
#[case(&["hole 10"], "nothing stands here yet")]
#[case(&["plate 200 x 100", "plate 10 x 10"], "starts once")]
#[case(&["plate 200 x 100", "round 60"], "needs")]
#[case(&["plate 200 x 100", "round 5 south-up"], "no straight corner called 'south-up'")]
#[case(&["plate 200 x 100", "hole 10 at 5 from west on leg-9"], "no panel is called 'leg-9'")]
#[case(&["plate 200 x 100", "slot 8 x 9"], "no longer than it is wide")]
#[case(&["plate 200 x 100", "hole 10", "repeat punch-1 1000000 at 1"], "outside 1 to")]
#[case(&["plate 200 x 100", "hole 10", "repeat punch-1 900 at 1", "repeat repeat-1 900 at 1"],
    "is the most for one piece")]
#[case(&["plate 200 x 100", "rectangle 300 x 200"], "leave nothing")]
#[case(&["strip 5 up 181 40 wide 20"], "not an angle that can be bent")]
fn faults_name_what_to_mend(#[case] texts: &[&str], #[case] message: &str) {
    let out = evaluate_piece(&job(din_rule()), &piece("3", "3", texts));
    let all: Vec<_> = out.faults.iter().map(|f| f.fault.message.clone()).collect();
    assert!(all.iter().any(|m| m.contains(message)), "{all:?}");
    assert!(out.faults.iter().all(|f| !f.fault.mend.is_empty()));
}

/// Manufacturers' Standard Gauge and the Brown & Sharpe series, as handbooks print them.
#[rstest]
#[case("s235", 16, 0.0598)]
#[case("s235", 11, 0.1196)]
#[case("s235", 20, 0.0359)]
#[case("1.4301", 16, 0.0625)]
#[case("1.4301", 11, 0.125)]
#[case("5052-h32", 26, 0.0159)]
#[case("5052-h32", 16, 0.0508)]
#[case("dx51", 16, 0.0635)]
fn gauges(#[case] id: &str, #[case] n: u32, #[case] inches: f64) {
    let mm = gauge::thickness(material(id).unwrap().gauge.unwrap(), n).unwrap();
    assert!((mm / 25.4 - inches).abs() < 5e-5, "{mm}");
    let mut p = piece(&format!("{n} ga"), "", &["plate 100 x 100"]);
    p.material = id.into();
    let out = made(din_rule(), &p);
    assert_eq!(out.thickness, mm);
    assert!(out.figure("thickness").unwrap().working.rule.contains("gauge"));
}

#[test]
fn the_shelf_is_sound() {
    assert!(materials().len() >= 15);
    for m in materials() {
        assert!((400.0..9000.0).contains(&m.density) && !m.source.is_empty(), "{}", m.id);
        for t in [0.5, 3.0, 12.0] {
            assert!(limits::smallest_radius(m, t).is_none_or(|l| l.value > 0.0));
        }
    }
    assert!(gauge::thickness(gauge::Series::Manufacturers, 99).is_none());
}

/// A steel plate of a square metre a millimetre thick weighs 7.85 kg (EN 1991-1-1).
#[test]
fn masses() {
    let p = din("1", "1", &["plate 1000 x 1000"]);
    assert!((p.value("mass") - 7.85).abs() < 1e-9);
    let mut brass = piece("2", "2", &["plate 100 x 100", "hole 50"]);
    brass.material = "brass".into();
    let expected = (1e-2 - std::f64::consts::PI * 0.025f64.powi(2)) * 2e-3 * 8500.0;
    assert!((made(din_rule(), &brass).value("mass") - expected).abs() < 1e-9);
}

#[test]
fn names_survive_an_inserted_line() {
    let base = ["plate 300 x 100", "hole 8 at 20 from west", "repeat punch-1 4 at 30"];
    let before = din("3", "3", &base);
    let mut p = piece("3", "3", &base);
    p.lines
        .insert(1, Line::new("punch-9", lines(&["plate 9 x 9", "hole 30 at 40 from east"])[1].say.clone()));
    let after = made(din_rule(), &p);
    let names = |r: &PieceResult| r.features.iter().map(|f| f.name.clone()).collect::<Vec<_>>();
    assert!(names(&before).iter().all(|n| names(&after).contains(n)));
    assert!(names(&before).contains(&"repeat-1.punch-1#4".to_string()));
    p.lines[1].off = true;
    assert_eq!(names(&made(din_rule(), &p)), names(&before));
}

#[test]
fn rows_grids_and_mirrors_stand_where_they_are_told() {
    let p = din(
        "3",
        "3",
        &[
            "plate 300 x 100",
            "hole 8 at 20 from west, 20 from south",
            "repeat punch-1 5 last 40",
            "mirror punch-1 repeat-1 north",
        ],
    );
    let xs: Vec<f64> = p.flat.holes.iter().map(|h| h.contour.centroid().x).collect();
    let expected: Vec<f64> = (0..5).map(|i| -130.0 + f64::from(i) * 60.0).collect();
    assert_eq!(p.flat.holes.len(), 10);
    for (i, x) in expected.iter().enumerate() {
        assert!((xs[i] - x).abs() < 1e-9 && (xs[i + 5] - x).abs() < 1e-9);
        assert!(
            (p.flat.holes[i].contour.centroid().y + p.flat.holes[i + 5].contour.centroid().y).abs() < 1e-9
        );
    }
    // To fill: first clear of the west by 10, last leaves at least 10.
    let p = din(
        "3",
        "3",
        &["plate 300 x 100", "hole 8 at 10 clear of west", "repeat punch-1 fill at 13 margin 10"],
    );
    assert_eq!(p.flat.holes.len(), 21);
    let last = p.flat.holes.iter().map(|h| h.contour.bounds().max.x).fold(f64::MIN, f64::max);
    assert!((150.0 - last >= 10.0 - 1e-9) && (150.0 - last < 23.0));
}

#[test]
fn full_round_ends_and_named_corners() {
    use std::f64::consts::PI;
    let mut p = piece("3", "3", &["plate 200 x 40"]);
    let round = Round {
        treatment: Treatment::FullEnd,
        corners: vec!["west".into(), "east".into()],
        ..Round::default()
    };
    p.lines.push(Line::new("round-1", Operation::Round(round)));
    assert!((made(din_rule(), &p).value("area") - (160.0 * 40.0 + PI * 400.0)).abs() < 1e-6);
    let one = din("3", "3", &["plate 200 x 40", "chamfer 10 north-east"]);
    assert!((one.value("area") - (8000.0 - 50.0)).abs() < 1e-9);
    let names: Vec<_> = one.corners.iter().map(|c| c.name.as_str()).collect();
    assert!(names.contains(&"south-west") && !names.contains(&"south-east#2"), "{names:?}");
}

/// Anything a file may hold is answered within bounds: no panic, no NaN, no endless work.
fn any_value() -> impl Strategy<Value = String> {
    prop_oneof![
        Just(String::new()),
        Just("NaN".to_string()),
        Just("-1".to_string()),
        Just("1e308".to_string()),
        Just("0".to_string()),
        Just("90deg".to_string()),
        Just("1000000".to_string()),
        "[0-9]{1,4}(\\.[0-9])?(mm|in|deg)?",
        "\\PC{0,12}",
    ]
}

fn any_line() -> impl Strategy<Value = Operation> {
    let v = any_value;
    let from = || {
        prop_oneof![
            Just(From::Centre),
            Just(From::West),
            Just(From::East),
            Just(From::South),
            Just(From::North)
        ]
    };
    let offset = move || {
        (from(), any_value()).prop_map(|(from, distance)| Offset {
            from,
            distance,
            to: To::Side,
            ..Offset::default()
        })
    };
    let spacing = || {
        (0..3, any_value(), any_value()).prop_map(|(k, a, b)| match k {
            0 => Spacing::Pitch { count: a, pitch: b },
            1 => Spacing::Last { count: a, distance: b },
            _ => Spacing::Fill { pitch: a, margin: b },
        })
    };
    let element = (0..3, any_value(), any_value(), "[a-d]").prop_map(|(k, a, b, id)| match k {
        0 => Element::Leg(Leg { id, length: a }),
        1 => Element::Bend(Bend { id, angle: a, radius: b, ..Bend::default() }),
        _ => Element::Arc(ProfileArc { id, radius: a, angle: b, direction: Direction::Down }),
    });
    prop_oneof![
        (v(), v()).prop_map(|(width, height)| Operation::StartPlate(StartPlate { width, height })),
        (v(), prop::collection::vec(element, 0..6)).prop_map(|(width, profile)| Operation::StartStrip(
            StartStrip { width, profile, ..StartStrip::default() }
        )),
        (v(), v(), offset(), offset(), v()).prop_map(|(a, b, x, y, turn)| Operation::Punch(Punch {
            shape: Shape::Slot { length: a, width: b, measure: SlotMeasure::Overall },
            place: Place { on: "flat".into(), x, y, turn, ..Place::default() }
        })),
        (v(), v()).prop_map(|(sides, across)| Operation::Punch(Punch {
            shape: Shape::Polygon { sides, across },
            place: Place { on: "flat".into(), ..Place::default() }
        })),
        (v(), v()).prop_map(|(size, corner)| Operation::Round(Round {
            size,
            corners: vec![corner],
            ..Round::default()
        })),
        (spacing(), spacing()).prop_map(|(s, a)| Operation::Repeat(Repeat {
            of: vec!["l2".into()],
            spacing: s,
            across: Some(a),
            ..Repeat::default()
        })),
        Just(Operation::Mirror(Mirror {
            of: vec!["l2".into(), "l3".into()],
            about: "flat".into(),
            ..Mirror::default()
        })),
    ]
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    #[test]
    fn hostile_recipes_end_in_words(t in any_value(), r in any_value(),
        says in prop::collection::vec(any_line(), 0..8)) {
        let mut p = piece("3", &r, &[]);
        p.thickness = if says.len() % 3 == 0 { t } else { "3".into() };
        p.lines = says.into_iter().enumerate().map(|(i, say)| Line::new(format!("l{i}"), say)).collect();
        let mut j = job(k_factor("0.4"));
        j.pieces = vec![p];
        let result = evaluate(&j);
        let out = &result.pieces[0];
        for f in &out.figures {
            prop_assert!(f.value.is_finite(), "{}", f.key);
        }
        prop_assert!(out.made || !out.faults.is_empty() || out.features.is_empty());
        prop_assert!(out.mesh().points.iter().all(|p| p.is_finite()));
    }

    /// Plates with sound recipes: what is left and what was cut add up to the blank.
    #[test]
    fn areas_add_up(w in 100.0..500.0f64, h in 100.0..500.0f64, d in 4.0..20.0f64, n in 1..6usize) {
        let p = din("3", "3", &[&format!("plate {w:.2} x {h:.2}"), &format!("hole {d:.2} at 15 from west, 15 \
            from south"), &format!("repeat punch-1 {n} at {:.2} north", d + 1.0)]);
        let told = |v: f64| format!("{v:.2}").parse::<f64>().unwrap();
        let blank = told(w) * told(h);
        let hole = std::f64::consts::PI * format!("{d:.2}").parse::<f64>().unwrap().powi(2) / 4.0;
        let inside = p.flat.holes.len();
        prop_assume!(inside == n);
        prop_assert!((p.value("area") + hole * n as f64 - blank).abs() < 1e-6);
        prop_assert_eq!(p.value("pierces") as usize, n + 1);
    }
}

/// Short text says the same as the sentences, and points at what it does not understand.
#[test]
fn short_text_reads_or_points() {
    let known = ["punch-1".to_string()];
    let say = |text: &str| serde_json::to_value(read_line(text, &Context::knowing(&known)).unwrap()).unwrap();
    assert_eq!(
        say("plate 8 x 5 1/2"),
        serde_json::json!({ "verb": "start_plate", "width": "8", "height": "5 1/2" })
    );
    let strip = say("strip 40 up 90 r4 60 down 45 20 wide 50 inside");
    assert_eq!(
        (
            strip["profile"].as_array().unwrap().len(),
            strip["measure"].as_str(),
            strip["profile"][1]["radius"].as_str()
        ),
        (5, Some("inside"), Some("4"))
    );
    let hole = say("hole 9 at 15 from east, 2*t clear of north on start-1.a");
    assert_eq!(
        hole["place"],
        serde_json::json!({ "on": "start-1.a", "x": { "from": "east", "distance": "15", "to": "centre" },
            "y": { "from": "north", "distance": "2*t", "to": "side" } })
    );
    assert_eq!(say("repeat 5 at 30 north")["of"], serde_json::json!(["punch-1"]));
    for (text, at) in [
        ("plate 40", (8, 8)),
        ("weld 5", (0, 4)),
        ("hole 9 at 15 from up", (18, 20)),
        ("plate 4 x 5 z", (12, 13)),
        ("strip 40", (8, 8)),
    ] {
        let f = read_line(text, &Context::default()).unwrap_err();
        assert_eq!((f.start, f.end), at, "{text}: {}", f.message);
    }
    assert!(read_line("repeat 5 at 30", &Context::default()).unwrap_err().message.contains("no cut yet"));
}

proptest! {
    #[test]
    fn any_short_text_is_read_or_refused(text in concat!(
        "(plate|strip|hole|slot|round|repeat|mirror|punch|fold|hem|tray|channel|shell|cone|bend|joggle|tab|",
        "notch|fill|rib|louvre|ring|corners)? ",
        "?((north|up|down|open|closed|gap|relief|pitch|at|lip|r3|[0-9]{1,3}) ){0,8}[a-z0-9 ,./x×]{0,20}")) {
        let _ = steelk_core::verbs::read_line(&text, &Context::knowing(&["punch-1".to_string()]));
    }
}
