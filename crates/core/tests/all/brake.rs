//! Test bends, the bend table, the brake and the order of bends.

use crate::common::*;
use approx::assert_abs_diff_eq;
use proptest::prelude::*;
use serde_json::{Value, json};
use std::f64::consts::FRAC_PI_2;
use steelk_core::evaluate::evaluate;
use steelk_core::evaluate::evaluate_piece;
use steelk_core::job::Job;
use steelk_core::result::PieceResult;
use steelk_core::shop::brake::force;
use steelk_core::shop::{BendMethod, material};

fn with_book(rule: BendMethod, more: Value) -> Job {
    let mut value = serde_json::to_value(job(school(rule))).unwrap();
    for (k, v) in more.as_object().unwrap() {
        value[k] = v.clone();
    }
    serde_json::from_value(value).unwrap()
}

fn tests_of(strips: &[(f64, f64, f64)]) -> Value {
    let strips: Vec<Value> = strips
        .iter()
        .map(|s| json!({ "length": s.0.to_string(), "a": s.1.to_string(), "b": s.2.to_string() }))
        .collect();
    json!([{ "id": "t-1", "material": "s235", "thickness": "2", "radius": "2", "angle": "90",
        "strips": strips }])
}

/// A strip of 100 comes out at 53.2 + 50.4: BD 3.6, BA 2·4 − 3.6 = 4.4, K (4.4/(π/2) − 2)/2.
#[test]
fn a_test_bend_becomes_the_rule() {
    let book = tests_of(&[(100.0, 53.2, 50.4), (100.0, 53.4, 50.4), (100.0, 53.0, 50.4)]);
    let job = with_book(BendMethod::TestBend, json!({ "test_bends": book }));
    let p = evaluate_piece(&job, &piece("2", "2", &["strip 40 up 90 60 wide 30"]));
    assert!(p.faults.is_empty(), "{:?}", p.faults);
    assert_abs_diff_eq!(p.value("flat_length"), 100.0 - 3.6, epsilon = 1e-9);
    let k = (4.4 / FRAC_PI_2 - 2.0) / 2.0;
    assert_abs_diff_eq!(p.flat.bends[0].k, k, epsilon = 1e-12);
    // Three repeats 0.2 apart: standard deviation 0.2, told as K.
    let rule = &p.bend_rows[0].rule;
    assert!(
        rule.contains(&format!("± {:.4}", 0.2 / (FRAC_PI_2 * 2.0))) && rule.contains("3 strips"),
        "{rule}"
    );
    // Another thickness: nothing is logged, and the mend says so.
    let p = evaluate_piece(&job, &piece("3", "2", &["strip 40 up 90 60 wide 30"]));
    assert!(!p.made && p.faults[0].fault.message.contains("no test bend is logged"));
    // Legs that no bend has are refused where they stand.
    let wrong = with_book(BendMethod::Din6935, json!({ "test_bends": tests_of(&[(100.0, 40.0, 40.0)]) }));
    assert_eq!(evaluate(&wrong).faults[0].path, "/test_bends/0/strips");
}

#[test]
fn the_table_is_interpolated_inside_and_refuses_outside() {
    let row = |r: &str, angle: &str, value: &str| {
        json!({ "material": "s235", "thickness": "2", "radius": r,
        "angle": angle, "value": value })
    };
    let table =
        json!([row("2", "90", "3.8"), row("4", "90", "4.6"), row("2", "45", "1.1"), row("4", "45", "1.3")]);
    let job = with_book(BendMethod::Table, json!({ "bend_table": table }));
    let flat = |r: &str, angle: &str| {
        let p = evaluate_piece(&job, &piece("2", r, &[&format!("strip 40 up {angle} 60 wide 30")]));
        if p.made { p.value("flat_length") } else { f64::NAN }
    };
    assert_abs_diff_eq!(flat("2", "90"), 100.0 - 3.8, epsilon = 1e-9);
    // Halfway in radius: the mean of the two allowances, 2·OSSB − BD each.
    let ba = (2.0 * 4.0 - 3.8 + 2.0 * 6.0 - 4.6) / 2.0;
    assert_abs_diff_eq!(flat("3", "90"), 100.0 - (2.0 * 5.0 - ba), epsilon = 1e-9);
    for (r, angle) in [("5", "90"), ("2", "30"), ("2", "100")] {
        assert!(flat(r, angle).is_nan(), "R{r} at {angle}");
    }
}

/// Every school side by side: the one in use changes nothing, the others tell by how much.
#[test]
fn schools_compared_on_one_bend() {
    let p = din("2", "2", &["strip 40 up 90 60 wide 30"]);
    let row = &p.bend_rows[0];
    let says = |s: BendMethod| row.schools.iter().find(|r| r.school == s).unwrap();
    assert!(says(BendMethod::Din6935).used && says(BendMethod::Din6935).change == "0");
    assert!(!says(BendMethod::Handbook90).used);
    // Handbook 1.57·2 + 0.64·2 = 4.42 against DIN's 4.163: +0.257.
    assert_eq!(says(BendMethod::Handbook90).allowance, "4.42");
    assert_eq!(says(BendMethod::Handbook90).change, "+0.257");
    assert!(says(BendMethod::Table).allowance.is_empty() && says(BendMethod::Table).note.contains("no row"));
}

/// F = (1 + 4·2/12)·360·1000·2²/12 N, by hand.
#[test]
fn the_force_of_an_air_bend() {
    let strength = material("s235").unwrap().strength;
    assert_abs_diff_eq!(
        force(strength, 2.0, 12.0, 1000.0),
        (1.0 + 8.0 / 12.0) * strength * 1000.0 * 4.0 / 12.0 / 1000.0,
        epsilon = 1e-9
    );
    let brake = json!({ "brake": { "force": "50", "length": "800", "openings": ["12", "16"] } });
    let job = with_book(BendMethod::Din6935, brake);
    let p = evaluate_piece(&job, &piece("2", "2", &["strip 40 up 90 60 wide 1000"]));
    let checks: Vec<&str> = p.findings.iter().map(|f| f.check).collect();
    assert!(checks.contains(&"force_over") && checks.contains(&"bend_long"), "{checks:?}");
    assert_eq!(p.bend_rows[0].die, "12");
}

/// Along the rolling the smallest radius is a step larger from 4 mm up (EN 10025-2: 5 mm S235 6 across, 8
/// along).
#[test]
fn the_rolling_direction_counts() {
    let warned = |t: &str, r: &str, rolling: &str| {
        let mut piece = piece(t, r, &["strip 80 up 90 90 wide 60"]);
        piece.rolling = serde_json::from_value(json!(rolling)).unwrap();
        evaluate_piece(&job(school(BendMethod::Din6935)), &piece)
            .findings
            .iter()
            .any(|f| f.check == "radius_small")
    };
    // The bend line of a strip runs south to north.
    assert!(
        !warned("5", "6", "unknown")
            && !warned("5", "6", "east")
            && warned("5", "6", "north")
            && !warned("5", "8", "north")
    );
    assert!(!warned("3", "3", "north"));
}

fn lipped(order: &[&str]) -> PieceResult {
    let mut piece = told(
        "2",
        "2",
        &[json!({ "verb": "start_channel", "length": "300", "web": "130", "side": "60", "lip": "15" })],
    );
    piece.bend_order = order.iter().map(|s| format!("start-1.{s}")).collect();
    made(school(BendMethod::Din6935), &piece)
}

/// A lipped channel is bent from the outside in; walls first would bring the web up into the beam while a lip
/// is made.
#[test]
fn the_order_of_a_lipped_channel() {
    let p = lipped(&[]);
    let order: Vec<&str> = p.bend_rows.iter().map(|r| r.label.as_str()).collect();
    assert!(order[..2].iter().all(|l| l.contains("lip")), "{order:?}");
    assert!(p.bend_rows.iter().all(|r| r.strikes.is_empty()));
    assert!(p.findings.iter().all(|f| f.check != "sequence_strikes"));
    let p = lipped(&["west-bend", "east-bend"]);
    assert_eq!(p.bend_rows[0].label, "west-bend");
    assert_eq!(p.bend_rows[0].reason, "set by hand");
    assert!(
        p.findings.iter().any(|f| f.check == "sequence_strikes"),
        "{:?}",
        p.bend_rows.iter().map(|r| &r.strikes).collect::<Vec<_>>()
    );
}

/// Two walls that lean in over one another cross: the piece stands in its own way, at the brake and when
/// formed. Shorter ones do not.
#[test]
fn leaning_walls_cross() {
    let with = |length: &str| {
        let fold = |edge: &str| {
            json!({ "verb": "fold", "edges": [edge], "angle": "130",
            "reach": { "to": "length", "length": length } })
        };
        let says = [
            json!({ "verb": "start_plate", "width": "120", "height": "80" }),
            fold("start-1.west"),
            fold("start-1.east"),
        ];
        made(school(BendMethod::Din6935), &told("2", "3", &says))
    };
    let crossed = with("120");
    assert!(crossed.findings.iter().any(|f| f.check == "formed_through_itself"));
    assert!(
        crossed.bend_rows[1].strikes.iter().any(|s| s.contains("piece itself")),
        "{:?}",
        crossed.bend_rows[1].strikes
    );
    let clear = with("60");
    assert!(clear.findings.iter().all(|f| f.check != "formed_through_itself"));
    assert!(clear.bend_rows.iter().all(|r| r.strikes.iter().all(|s| !s.contains("itself"))));
}

/// The stop stands straight + BA/2 from the middle of the bend, and the wall measures its height after
/// bending.
#[test]
fn back_gauge_and_check_dimension() {
    let p = made(
        school(BendMethod::Din6935),
        &told("2", "3", &[json!({ "verb": "start_tray", "width": "200", "depth": "150", "height": "40" })]),
    );
    let ba = p.flat.bends[0].allowance;
    for r in &p.bend_rows {
        assert_eq!(r.gauge, format!("{:.1}", 40.0 - 5.0 + ba / 2.0));
        assert_eq!(r.check, "40.0");
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    /// A log of test bends made with a known K gives that K back; every bend stands once in the order.
    #[test]
    fn a_known_k_comes_back(k in 0.25..0.5f64, r in 0.5..6.0f64, t in 0.5..4.0f64, a in 20.0..60.0f64,
        b in 20.0..60.0f64, n in 1usize..5) {
        let (r, t) = ((r * 100.0).round() / 100.0, (t * 100.0).round() / 100.0);
        let bd = 2.0 * (r + t) - FRAC_PI_2 * (r + k * t);
        let strips: Vec<Value> = (0..n).map(|_| json!({ "length": format!("{:.9}", a + b - bd),
            "a": format!("{a:.9}"), "b": format!("{b:.9}") })).collect();
        let book = json!([{ "id": "t", "material": "s235", "thickness": t.to_string(),
            "radius": r.to_string(), "angle": "90", "strips": strips }]);
        let job = with_book(BendMethod::TestBend, json!({ "test_bends": book }));
        let p = evaluate_piece(&job, &piece(&t.to_string(), &r.to_string(), &["strip 80 up 90 90 down 60 70 \
            up 45 80 wide 30"]));
        prop_assert!(p.made, "{:?}", p.faults);
        for bend in &p.flat.bends {
            prop_assert!((bend.k - k).abs() < 1e-6);
        }
        let mut names: Vec<&String> = p.bend_rows.iter().map(|r| &r.name).collect();
        names.sort();
        names.dedup();
        prop_assert_eq!(names.len(), p.flat.bends.len());
    }
}
