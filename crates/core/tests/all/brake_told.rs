//! What the bench once said wrongly of the press brake. Each case failed before its mend.

use crate::common::*;
use approx::assert_abs_diff_eq;
use rstest::rstest;
use serde_json::{Value, json};
use steelk_core::evaluate::evaluate;
use steelk_core::evaluate::evaluate_piece;
use steelk_core::job::{Job, Piece};
use steelk_core::result::{PieceResult, Severity};
use steelk_core::shop::BendMethod;
use steelk_core::shop::brake::{FLATTENING, force, shortest_flange};

fn with(more: Value) -> Job {
    let mut value = serde_json::to_value(job(school(BendMethod::Din6935))).unwrap();
    more.as_object().unwrap().iter().for_each(|(k, v)| value[k] = v.clone());
    serde_json::from_value(value).unwrap()
}

fn tray(w: &str, d: &str, h: &str) -> Piece {
    told("2", "2", &[json!({ "verb": "start_tray", "width": w, "depth": d, "height": h, "relief": "round" })])
}

fn strikes(p: &PieceResult) -> String {
    p.bend_rows.iter().flat_map(|r| r.strikes.clone()).collect::<Vec<_>>().join("; ")
}

fn finding<'a>(p: &'a PieceResult, check: &str) -> Option<&'a steelk_core::result::Finding> {
    p.findings.iter().find(|f| f.check == check)
}

/// The side walls of a deep tray stand in the beam, which runs past both ends of the bend: turned by 45° a
/// wall h high is met at h·√2 − half the beam above the tip, and the punch is 160 high.
#[test]
fn walls_of_a_deep_tray_stand_in_the_beam() {
    let p = made(school(BendMethod::Din6935), &tray("1000", "1000", "300"));
    assert!(strikes(&p).contains("beam"), "{}", strikes(&p));
    assert!(p.plan.said.starts_with("no order is free of strikes"), "{}", p.plan.said);
    assert!(strikes(&made(school(BendMethod::Din6935), &tray("1000", "1000", "80"))).is_empty());
    // A punch that is high enough bends it.
    let job =
        with(json!({ "brake": { "force": "1000", "length": "3000", "tools": { "punch_height": "480" } } }));
    let p = evaluate_piece(&job, &tray("1000", "1000", "300"));
    assert!(strikes(&p).is_empty(), "{}", strikes(&p));
}

/// Walls that hang 150 down beside a bend the other way: the die is 60 high and the bed runs past it.
#[test]
fn walls_that_hang_down_strike_the_bed() {
    let says = [
        json!({ "verb": "start_plate", "width": "400", "height": "300" }),
        json!({ "verb": "fold", "edges": ["start-1.north", "start-1.south"], "angle": "90",
            "direction": "down", "reach": { "to": "length", "length": "150" } }),
        json!({ "verb": "fold", "edges": ["start-1.east"], "angle": "90", "reach": { "to": "length",
            "length": "40" } }),
    ];
    let mut piece = told("2", "2", &says);
    piece.bend_order =
        ["fold-1.north.bend", "fold-1.south.bend", "fold-2.east.bend"].map(String::from).to_vec();
    let p = made(school(BendMethod::Din6935), &piece);
    assert!(p.bend_rows[2].strikes.iter().any(|s| s.contains("bed")), "{:?}", p.bend_rows[2].strikes);
    // The other way round nothing hangs yet.
    piece.bend_order.clear();
    assert!(strikes(&made(school(BendMethod::Din6935), &piece)).is_empty());
}

/// A flange of 40 with a hem on its tip measures 40, however the hem is made: its arc is the outermost point.
#[rstest]
#[case("closed")]
#[case("open")]
#[case("teardrop")]
fn a_hemmed_flange_measures_what_a_hand_finds(#[case] kind: &str) {
    let mut hem = json!({ "kind": kind, "length": "10" });
    match kind {
        "open" => hem["gap"] = "3".into(),
        "teardrop" => hem["radius"] = "2".into(),
        _ => {}
    }
    let says = [
        json!({ "verb": "start_plate", "width": "120", "height": "200" }),
        json!({ "verb": "fold", "edges": ["start-1.north"], "angle": "90", "reach": { "to": "length",
            "length": "40" } }),
        json!({ "verb": "hem", "edges": ["fold-1.north.tip"], "hem": hem }),
    ];
    let p = made(school(BendMethod::Din6935), &told("1.5", "1.5", &says));
    let (row, step) = p
        .bend_rows
        .iter()
        .zip(&p.plan.steps)
        .find(|(r, _)| r.name == "fold-1.north.bend" || r.label.ends_with("north"))
        .unwrap();
    assert_abs_diff_eq!(step.measure, 40.0, epsilon = 1e-6);
    assert_eq!(row.check, "40.0");
}

/// A lip bent 120° back makes the flange end at its arc, not at the lip's edge.
#[test]
fn an_arc_over_ninety_degrees_is_the_outermost_point() {
    let mut piece = piece("2", "2", &["strip 20 up 120 80 up 90 300 wide 100"]);
    piece.bend_order = vec!["start-1.1".into(), "start-1.2".into()];
    let p = made(school(BendMethod::Din6935), &piece);
    let step = &p.plan.steps[1];
    // Told outside, to the outermost tangent of the lip's arc.
    assert_abs_diff_eq!(step.measure, 80.0, epsilon = 1e-6);
    assert_abs_diff_eq!(step.stop.away, 80.0 - 4.0 + p.flat.bends[1].allowance / 2.0, epsilon = 1e-6);
}

/// A rolled end that goes to the stop: the arc's outermost point, solved for. R20 in 2 mm, a leg of 50 before
/// it.
#[test]
fn a_rolled_arc_is_the_outermost_point() {
    let says = [json!({ "verb": "start_strip", "width": "100", "profile": [
        { "kind": "leg", "id": "a", "length": "400" }, { "kind": "bend", "id": "1", "angle": "90",
            "direction": "down" },
        { "kind": "leg", "id": "b", "length": "50" }, { "kind": "arc", "id": "roll", "radius": "20",
            "angle": "120", "direction": "down" },
        { "kind": "leg", "id": "c", "length": "10" }] })];
    let p = made(school(BendMethod::Din6935), &told("2", "2", &says));
    let step = &p.plan.steps[0];
    // The leg as told, then the arc, whose radius is told outside as the legs are.
    assert_eq!(p.plan.rolled, Some(true));
    assert!(p.plan.said.contains("what is rolled, before the bends"), "{}", p.plan.said);
    assert_abs_diff_eq!(step.measure, 50.0 + 20.0, epsilon = 1e-6);
}

#[test]
fn the_shortest_flange_is_that_of_the_die_and_of_the_angle() {
    assert_abs_diff_eq!(shortest_flange(40.0, 90f64.to_radians()).value, 28.0, epsilon = 1e-9);
    // At 120° swept the leg stands at 60°: 0.7·V·cos 45°/cos 60°.
    assert_abs_diff_eq!(shortest_flange(12.0, 120f64.to_radians()).value, 8.4 * 2f64.sqrt(), epsilon = 1e-9);
    let job = with(json!({ "brake": { "force": "1000", "length": "3000", "openings": ["40"] } }));
    let p = evaluate_piece(&job, &piece("1", "1", &["strip 20 up 90 60 wide 100"]));
    assert_eq!(p.bend_rows[0].shortest, "28.0");
    assert!(finding(&p, "flange_short").unwrap().message.contains("28"), "{:?}", p.findings);
    let die = finding(&p, "die_unsuited").unwrap();
    assert!(die.message.contains("40") && die.severity == Severity::Warn, "{}", die.message);
    let p = din("2", "2", &["strip 60 up 90 60 wide 100"]);
    assert!(finding(&p, "die_unsuited").is_none());
    // 11 mm pass at 90° and not at 135°.
    assert!(finding(&din("2", "2", &["strip 11 up 90 60 wide 100"]), "flange_short").is_none());
    assert!(finding(&din("2", "2", &["strip 11 up 135 60 wide 100"]), "flange_short").is_some());
}

/// A sigma section: three greedy tries found no order for it.
#[test]
fn a_sigma_section_has_an_order() {
    let p = din(
        "2",
        "2",
        &["strip 20 up 90 60 up 90 50 down 45 40 up 45 60 up 45 40 down 45 50 up 90 60 up 90 20 wide 300"],
    );
    assert!(strikes(&p).is_empty(), "{}\n{}", p.plan.said, strikes(&p));
    assert_eq!(p.plan.said, "nothing is struck in this order");
}

/// A closed box of a section cannot be bent shut round a straight punch: that is proven, and told as proven.
#[test]
fn what_has_no_order_is_proven_to_have_none() {
    let p = din("2", "2", &["strip 80 up 90 60 up 90 80 up 90 57 wide 300"]);
    assert!(p.plan.said.contains("every order was looked at"), "{}", p.plan.said);
    let f = finding(&p, "sequence_strikes").unwrap();
    assert!(f.message.contains("no order is free of strikes"), "{}", f.message);
}

/// Many bends: an order all the same, and no claim that was not proven.
#[test]
fn sixty_bends_are_looked_at_and_more_than_the_most_say_so() {
    let zigzag = |n: usize| {
        let leg = |k: usize| json!({ "kind": "leg", "id": format!("l{k}"), "length": "40" });
        let bend = |k: usize| {
            json!({ "kind": "bend", "id": format!("{k}"), "angle": "45",
            "direction": if k.is_multiple_of(2) { "up" } else { "down" } })
        };
        let profile: Vec<Value> = (0..n).flat_map(|k| [leg(k), bend(k)]).chain([leg(n)]).collect();
        made(
            school(BendMethod::Din6935),
            &told("1", "1", &[json!({ "verb": "start_strip", "width": "200", "profile": profile })]),
        )
    };
    let p = zigzag(60);
    assert_eq!(p.bend_rows.len(), 60);
    assert!(p.plan.unseen.is_empty() && !p.plan.said.is_empty(), "{} {}", p.plan.said, p.plan.unseen);
    // Three chains of fifty folds are more than are looked at.
    let mut says = vec![json!({ "verb": "start_plate", "width": "200", "height": "200" })];
    for side in ["north", "east", "west"] {
        let mut edge = format!("start-1.{side}");
        for _ in 0..50 {
            let n = says.len();
            says.push(json!({ "verb": "fold", "edges": [edge], "angle": "2", "reach": { "to": "length",
                "length": "40" } }));
            let panel = edge
                .split_once('.')
                .filter(|(of, _)| *of == "start-1")
                .map_or_else(|| edge.replace('.', "-"), |(_, side)| side.to_string());
            edge = format!("fold-{n}.{panel}.tip");
        }
    }
    let p = made(school(BendMethod::Din6935), &told("1", "1", &says));
    assert_eq!(p.bend_rows.len(), 150);
    assert!(finding(&p, "strikes_unseen").unwrap().message.contains("150 bends"), "{:?}", p.plan.unseen);
}

/// A lid over the bend: the punch cannot come down through it, though no line of a coarse grid on it meets
/// the punch.
#[test]
fn a_lid_over_the_bend_is_seen() {
    let says = [
        json!({ "verb": "start_plate", "width": "200", "height": "120" }),
        json!({ "verb": "fold", "edges": ["start-1.west"], "angle": "90", "reach": { "to": "length",
            "length": "60" } }),
        json!({ "verb": "fold", "edges": ["fold-1.west.tip"], "angle": "90", "reach": { "to": "length",
            "length": "330" } }),
        json!({ "verb": "fold", "edges": ["start-1.east"], "angle": "90", "reach": { "to": "length",
            "length": "30" } }),
    ];
    let mut piece = told("2", "2", &says);
    let p = made(school(BendMethod::Din6935), &piece);
    piece.bend_order = p.flat.bends.iter().map(|b| b.name.clone()).collect();
    piece.bend_order.sort();
    let p = made(school(BendMethod::Din6935), &piece);
    assert!(p.plan.unknown.is_empty());
    assert!(p.bend_rows[2].strikes.iter().any(|s| s.contains("punch")), "{:?}", p.bend_rows[2].strikes);
}

#[test]
fn names_of_the_order_that_mean_nothing_are_told_and_mended() {
    let mut piece = tray("200", "150", "40");
    piece.bend_order = vec!["start-1.east.bend".into(), "start-1.gone".into(), "start-1.east.bend".into()];
    let p = made(school(BendMethod::Din6935), &piece);
    let f = finding(&p, "order_unknown").unwrap();
    assert!(
        f.message.contains("start-1.gone") && f.message.contains("no bend of this piece"),
        "{}",
        f.message
    );
    let mended = mended(&piece, f);
    assert_eq!(mended.bend_order, ["start-1.east.bend"]);
    assert!(finding(&made(school(BendMethod::Din6935), &mended), "order_unknown").is_none());
}

fn row(more: Value) -> Value {
    let mut row =
        json!({ "material": "s235", "thickness": "2", "radius": "2", "angle": "90", "value": "3.8" });
    more.as_object().unwrap().iter().for_each(|(k, v)| row[k] = v.clone());
    row
}

/// Rows that cannot be: each is refused at its field, with what it was taken for.
#[rstest]
#[case(json!({ "value": "0" }), "value", "taken for a deduction of 0.0 mm")]
#[case(json!({ "value": "-5" }), "value", "taken for a deduction of -5.0 mm")]
#[case(json!({ "value": "0.15" }), "value", "K = ")]
#[case(json!({ "kind": "allowance", "value": "25" }), "value", "taken for an allowance of 25.0 mm")]
#[case(json!({ "material": "unobtainium" }), "material", "unobtainium")]
#[case(json!({ "material": "", "thickness": "14 ga" }), "thickness", "another thickness in each material")]
fn rows_that_no_bend_has_are_refused(#[case] wrong: Value, #[case] field: &str, #[case] said: &str) {
    let job = with(json!({ "bend_table": [row(json!({})), row(wrong)] }));
    let faults = evaluate(&job).faults;
    let fault = faults
        .iter()
        .find(|f| f.path == format!("/bend_table/1/{field}"))
        .unwrap_or_else(|| panic!("{faults:?}"));
    assert!(fault.fault.message.contains(said), "{}", fault.fault.message);
}

/// Two rows for one bend: neither is used, and the piece says so instead of taking the first.
#[test]
fn contradicting_rows_are_of_no_use() {
    let table = json!([row(json!({})), row(json!({ "value": "3.6" }))]);
    let mut job = with(json!({ "bend_table": table, "bend_rule": { "school": "table" } }));
    assert_eq!(evaluate(&job).faults[0].path, "/bend_table/1/value");
    let strip = piece("2", "2", &["strip 40 up 90 60 wide 30"]);
    let p = evaluate_piece(&job, &strip);
    assert!(!p.made && p.faults[0].fault.message.contains("rows 1 and 2"), "{:?}", p.faults);
    // The same value twice is no contradiction.
    job.bend_table[1].value = "3.8".into();
    assert!(evaluate_piece(&job, &strip).made);
}

#[test]
fn rows_and_tests_take_a_gauge() {
    // 14 ga steel: 3.125 lb/ft² / 41.82 = 0.0747 in.
    let job = with(
        json!({ "bend_table": [row(json!({ "thickness": "14 ga" }))], "bend_rule": { "school": "table" } }),
    );
    assert!(evaluate(&job).faults.is_empty(), "{:?}", evaluate(&job).faults);
    let p = evaluate_piece(&job, &piece("14 ga", "2", &["strip 40 up 90 60 wide 30"]));
    assert!(p.made, "{:?}", p.faults);
    assert_abs_diff_eq!(p.value("flat_length"), 100.0 - 3.8, epsilon = 1e-9);
}

#[test]
fn a_test_bend_at_another_radius_says_so() {
    let tests = json!([{ "id": "t-1", "material": "s235", "thickness": "2", "radius": "2", "angle": "90",
        "springback": "1.5",
        "strips": [{ "length": "100", "a": "52", "b": "51.8" }, { "length": "100", "a": "52",
            "b": "51.8" }] }]);
    let job = with(json!({ "test_bends": tests, "bend_rule": { "school": "test_bend" } }));
    let note = |r: &str| {
        let p = evaluate_piece(&job, &piece("2", r, &["strip 40 up 90 60 wide 30"]));
        let row = &p.bend_rows[0];
        assert_eq!(row.aim, "91.5° (opens 1.5° after test t-1)");
        row.schools.iter().find(|s| s.school == BendMethod::TestBend).unwrap().note.clone()
    };
    assert_eq!(note("2"), "");
    assert!(note("2.99").contains("R2 and 90°"), "{}", note("2.99"));
    let p = evaluate_piece(&job, &piece("3", "2", &["strip 40 up 90 60 wide 30"]));
    assert!(!p.made);
    assert_eq!(
        din("2", "2", &["strip 40 up 60 60 wide 30"]).bend_rows[0].aim,
        "60°, springback by the machine"
    );
}

/// One rule for K in every school: beyond −0.2 to 0.8 a stop, beyond 0 to 0.5 a warning.
#[rstest]
#[case("0.44", None)]
#[case("0.6", Some(("k_odd", Severity::Warn)))]
#[case("-0.1", Some(("k_odd", Severity::Warn)))]
fn a_k_that_is_odd_is_told(#[case] k: &str, #[case] told: Option<(&str, Severity)>) {
    let p = evaluate_piece(&job(k_factor(k)), &piece("2", "2", &["strip 40 up 90 60 wide 30"]));
    let found = p.findings.iter().find(|f| f.check.starts_with("k_")).map(|f| (f.check, f.severity));
    assert_eq!(found, told);
}

#[test]
fn a_k_that_cannot_be_is_refused_and_stops() {
    let strip = piece("2", "2", &["strip 40 up 90 60 wide 30"]);
    let p = evaluate_piece(&job(k_factor("7")), &strip);
    assert!(!p.made && p.faults[0].fault.message.contains("cannot be"));
    // Rows that can be give a K that can be, between them too.
    let table =
        json!([row(json!({ "radius": "0", "value": "3.0" })), row(json!({ "radius": "2", "value": "4.6" }))]);
    let p = evaluate_piece(&with(json!({ "bend_table": table, "bend_rule": { "school": "table" } })), &strip);
    assert!(p.made && finding(&p, "k_impossible").is_none(), "{:?}", p.findings);
    // A foil of 0.05 by a row of 0.06, which counts as the same: K 0.75 there is 0.9 here.
    let table =
        json!([row(json!({ "thickness": "0.06", "radius": "0.5", "kind": "allowance", "value": "0.8561" }))]);
    let job = with(json!({ "bend_table": table, "bend_rule": { "school": "table" } }));
    assert!(evaluate(&job).faults.is_empty(), "{:?}", evaluate(&job).faults);
    let p = evaluate_piece(&job, &piece("0.05", "0.5", &["strip 40 up 90 60 wide 30"]));
    let f = finding(&p, "k_impossible").unwrap_or_else(|| panic!("{:?} {:?}", p.findings, p.faults));
    assert!(f.severity == Severity::Stop && f.message.contains("K = 0.9"), "{}", f.message);
}

/// Below r/t of 10^−1.3 DIN 6935 would make k negative: it is held at 0, and the working says so and adds up.
#[test]
fn din_says_where_it_holds_k() {
    let p = din("2", "0.08", &["strip 40 up 90 60 wide 30"]);
    let figure = p.figures.iter().find(|f| f.key.ends_with("allowance")).unwrap();
    let w = &figure.working;
    assert!(w.filled.contains("held there (0.65 + 0.5·log10(0.08/2) = -0.049)"), "{}", w.filled);
    assert!(w.assumption.as_deref().unwrap_or_default().contains("held at 0"), "{:?}", w.assumption);
    assert!(
        din("2", "2", &["strip 40 up 90 60 wide 30"])
            .figures
            .iter()
            .all(|f| !f.working.filled.contains("held"))
    );
}

/// The handbook counts cold-rolled steel with the hard ones: 0.71 t (Machinery's Handbook).
#[test]
fn cold_rolled_steel_is_of_the_hard_class() {
    let mut p = piece("2", "2", &["strip 40 up 90 60 wide 30"]);
    p.material = "dc01".into();
    let p = made(school(BendMethod::Handbook90), &p);
    assert_abs_diff_eq!(p.flat.bends[0].allowance, 1.57 * 2.0 + 0.71 * 2.0, epsilon = 1e-9);
}

/// Flattening takes several times the air bend, and the machine's limit is held against the upper strength
/// (S235: 510 MPa).
#[test]
fn forces_are_those_the_machine_must_give() {
    let says = [
        json!({ "verb": "start_plate", "width": "800", "height": "200" }),
        json!({ "verb": "hem", "edges": ["start-1.north"], "hem": { "kind": "closed", "length": "12" } }),
    ];
    let air = force(510.0, 1.5, 10.0, 800.0);
    let p = made(school(BendMethod::Din6935), &told("1.5", "1.5", &says));
    let row = &p.bend_rows[0];
    assert_eq!(row.force, format!("{air:.0} kN"));
    assert_eq!(row.closing_force, format!("about {:.0} kN", FLATTENING * air));
    assert!(row.strength.contains("510") && row.acute == "150°", "{} {}", row.strength, row.acute);
    // Between the two the air bend passes and the flattening does not.
    let limit = format!("{}", (1.5 * air).round());
    let job = with(json!({ "brake": { "force": limit, "length": "3000" } }));
    let p = evaluate_piece(&job, &told("1.5", "1.5", &says));
    let f = finding(&p, "force_over").unwrap();
    assert!(
        f.message.contains("to press flat") && f.rule.contains("510 MPa: the upper of S235"),
        "{} {}",
        f.message,
        f.rule
    );
}

/// What stays without punch is told in mm, and 15 % of a long bend is too much.
#[test]
fn what_stays_without_punch_is_told_in_mm() {
    let with_lips = |lip: &str| {
        let start = json!({ "verb": "start_tray", "width": "1000", "depth": "1000", "height": "80",
            "lip": lip, "lips_in": true, "relief": "round" });
        made(school(BendMethod::Din6935), &told("2", "2", &[start]))
    };
    // Lips of 15 leave as much at each end; lips of 140 stood within 15 % of 1,000.
    let p = with_lips("15");
    assert!(strikes(&p).is_empty(), "{}", strikes(&p));
    let short = p.bend_rows.iter().find(|r| !r.punch.is_empty()).unwrap();
    assert!(
        short.punch.contains("without it stay 1") && short.punch.contains("beside start-1."),
        "{}",
        short.punch
    );
    assert!(!strikes(&with_lips("140")).is_empty());
}

/// A punch of 85° does not fold acute, and a hem needs one that does.
#[test]
fn angles_that_the_tools_cannot_follow_are_told() {
    let job = with(json!({ "brake": { "force": "1000", "length": "3000", "tools": { "punch_angle": "85",
            "die_angle": "85" } } }));
    let p = evaluate_piece(&job, &piece("2", "2", &["strip 60 up 120 60 wide 100"]));
    assert!(finding(&p, "tool_angle").unwrap().message.contains("95°"), "{:?}", p.findings);
    let p = evaluate_piece(&job, &piece("2", "2", &["strip 60 up 90 60 wide 100"]));
    assert!(finding(&p, "tool_angle").is_none());
}

/// A figure of the brake that cannot be is refused where it stands; the rest is used.
#[rstest]
#[case("punch_height", "0")]
#[case("punch_angle", "5")]
#[case("die_angle", "200")]
#[case("unsupported", "-3")]
#[case("stop_reach", "far")]
fn figures_of_the_tools_are_read_with_care(#[case] field: &str, #[case] text: &str) {
    let job = with(json!({ "brake": { "force": "50", "length": "800", "tools": { field: text } } }));
    let faults = evaluate(&job).faults;
    assert_eq!(faults.iter().map(|f| f.path.as_str()).collect::<Vec<_>>(), [format!("/brake/tools/{field}")]);
}

/// The stop: which end lies there, and what it cannot do.
#[test]
fn the_stop_says_what_lies_at_it() {
    let p = made(school(BendMethod::Din6935), &tray("900", "1500", "40"));
    let names: Vec<&str> = p.bend_rows.iter().map(|r| r.at_stop.as_str()).collect();
    assert!(p.bend_rows.iter().all(|r| r.name.starts_with(&r.at_stop)), "{names:?}");
    // 700 to either end: further than 600.
    let p = din("2", "2", &["strip 700 up 90 800 wide 60"]);
    assert!(
        p.bend_rows[0].gauge_note.contains("further than the stop goes"),
        "{}",
        p.bend_rows[0].gauge_note
    );
    assert!(p.bend_rows[0].cautions.iter().any(|c| c.contains("whips up")));
}
