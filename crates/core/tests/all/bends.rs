//! Developed lengths against the standard's and handbook's own arithmetic, and against themselves told from
//! each face.

use crate::common::*;
use approx::assert_abs_diff_eq;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::job::{Element, Measure, Operation};
use steelk_core::shop::bend::{AllowanceRule, allowance, din_k, setback};
use steelk_core::shop::{BendMethod, BendRule, material};

/// DIN 6935: t 2, r 2, 90°: k = 0.65, v = −3.837.
#[test]
fn din_6935_angle_of_40_and_60() {
    let p = din("2", "2", &["strip 40 up 90 60 wide 30"]);
    assert_abs_diff_eq!(p.value("flat_length"), 96.163, epsilon = 5e-4);
    assert_eq!(p.figure("flat_length").unwrap().text, "96.2 mm");
}

/// K 0.42, t 1.5, r 1.5, a hat of 25/40/60/40/25 outside: 190 − 4 × 2.654.
#[test]
fn k_factor_hat() {
    let p = made(
        k_factor("0.42"),
        &piece("1.5", "1.5", &["strip 25 up 90 40 down 90 60 down 90 40 up 90 25 wide 50"]),
    );
    assert_abs_diff_eq!(p.value("flat_length"), 179.383, epsilon = 5e-4);
    assert_abs_diff_eq!(p.value("angle_sum"), 0.0, epsilon = 1e-12);
}

/// Machinery's Handbook, 90° bends: L = 1.57 r + 0.64 t for soft steel, 0.55 t for soft copper, 0.71 t for
/// hard stock.
#[rstest]
#[case("s235", 0.64)]
#[case("copper", 0.55)]
#[case("1.4301", 0.71)]
fn handbook_rule(#[case] id: &str, #[case] factor: f64) {
    let a = allowance(AllowanceRule::Handbook90, material(id).unwrap(), 90f64.to_radians(), 3.0, 2.0);
    assert_abs_diff_eq!(a.length, 1.57 * 3.0 + factor * 2.0, epsilon = 1e-12);
}

/// DIN 6935: the compensation v for opening angles, written out from the standard's three cases.
#[rstest]
#[case(60.0)]
#[case(90.0)]
#[case(120.0)]
#[case(164.0)]
#[case(170.0)]
fn din_compensation(#[case] opening: f64) {
    let (r, t): (f64, f64) = (4.0, 2.5);
    let alpha = (180.0 - opening).to_radians();
    let k = 0.65 + 0.5 * (r / t).log10();
    let v = if opening > 165.0 {
        0.0
    } else if opening > 90.0 {
        alpha * (r + k * t / 2.0) - 2.0 * (r + t) * (alpha / 2.0).tan()
    } else {
        alpha * (r + k * t / 2.0) - 2.0 * (r + t)
    };
    let a = allowance(AllowanceRule::Din6935, material("s235").unwrap(), alpha, r, t);
    assert_abs_diff_eq!(a.length - 2.0 * setback(r + t, alpha), v, epsilon = 1e-9);
    assert_abs_diff_eq!(din_k(6.0 * t, t), 1.0);
}

/// One formed strip told three ways has one flat size, in every school.
fn told_from(measure: Measure, rule: &BendRule, legs: &[f64], angles: &[f64], t: f64, r: f64) -> f64 {
    let face = match measure {
        Measure::Outside => r + t,
        Measure::Inside => r,
        Measure::Middle => r + t / 2.0,
    };
    let s = |i: Option<usize>| i.and_then(|i| angles.get(i)).map_or(0.0, |a| setback(face, a.to_radians()));
    let mut text = String::from("strip");
    for (i, straight) in legs.iter().enumerate() {
        text += &format!(" {:.9}", straight + s(i.checked_sub(1)) + s(Some(i)));
        if let Some(a) = angles.get(i) {
            text += &format!(" {} {a}", if i % 2 == 0 { "up" } else { "down" });
        }
    }
    let mut p = piece(&format!("{t}"), &format!("{r}"), &[&format!("{text} wide 30")]);
    if let Operation::StartStrip(s) = &mut p.lines[0].say {
        s.measure = measure;
    }
    made(rule.clone(), &p).value("flat_length")
}

proptest! {
    #[test]
    fn faces_agree(t in 0.5..6.0f64, ratio in 0.2..4.0f64, legs in prop::collection::vec(5.0..200.0f64,
        2..6), angle in 5.0..175.0f64, other in 5.0..175.0f64) {
        let (t, r) = ((t * 1000.0).round() / 1000.0, (ratio * t * 1000.0).round() / 1000.0);
        let angles: Vec<f64> = (0..legs.len() - 1).map(|i| (if i % 2 == 0 { angle } else {
            other } * 100.0).round() / 100.0).collect();
        for rule in [school(BendMethod::Din6935), school(BendMethod::Handbook90), k_factor("0.38")] {
            let outside = told_from(Measure::Outside, &rule, &legs, &angles, t, r);
            for m in [Measure::Inside, Measure::Middle] {
                let other = told_from(m, &rule, &legs, &angles, t, r);
                prop_assert!((outside - other).abs() < 1e-6, "{rule:?} {m:?}: {outside} {other}");
            }
        }
    }

    /// The zones in a row are the flat: panels as straight, bends as their allowance.
    #[test]
    fn zones_fill_the_flat(legs in prop::collection::vec(40.0..200.0f64, 2..6), angle in 10.0..120.0f64) {
        let legs_said: Vec<String> = legs.iter().map(|l| format!("{l:.3}")).collect();
        let text = legs_said.join(&format!(" up {angle:.2} "));
        let p = din("2", "3", &[&format!("strip {text} wide 40")]);
        let sum: f64 = p.zones.iter().map(|z| (z.max - z.min).element_product()).sum();
        prop_assert!((sum - p.value("area")).abs() < 1e-6);
        let allowances: f64 = p.flat.bends.iter().map(|b| b.allowance).sum();
        let straight: f64 = p.zones.iter().filter(|z| z.bend().is_none()).map(|z| z.max.x - z.min.x).sum();
        prop_assert!((allowances + straight - p.value("flat_length")).abs() < 1e-9);
    }
}

/// Each bend may leave the piece's radius and the job's school.
#[test]
fn one_bend_of_its_own() {
    let mut p = piece("2", "2", &["strip 40 up 90 r6 60 wide 30"]);
    if let Operation::StartStrip(s) = &mut p.lines[0].say
        && let Element::Bend(b) = &mut s.profile[1]
    {
        b.bend_rule = Some(k_factor("0.4"));
    }
    let out = made(school(BendMethod::Din6935), &p);
    let ba = std::f64::consts::FRAC_PI_2 * (6.0 + 0.4 * 2.0);
    assert_abs_diff_eq!(out.value("flat_length"), 100.0 - (16.0 - ba), epsilon = 1e-9);
}

/// A drum of one arc: the neutral line of a rolled sheet is its middle.
#[test]
fn rolled_arc_keeps_its_middle() {
    let mut p = piece("2", "2", &["strip 100 wide 500"]);
    if let Operation::StartStrip(s) = &mut p.lines[0].say {
        s.profile = vec![
            serde_json::from_str(r#"{"kind":"arc","id":"shell","radius":"200","angle":"360"}"#).unwrap(),
        ];
    }
    let out = made(school(BendMethod::Din6935), &p);
    assert_abs_diff_eq!(out.value("flat_length"), std::f64::consts::TAU * 199.0, epsilon = 1e-9);
    assert_abs_diff_eq!(out.value("formed_x"), 400.0, epsilon = 1e-6);
    assert_abs_diff_eq!(out.value("formed_z"), 400.0, epsilon = 1e-6);
}
