//! A figure's working can be followed with a pocket calculator: the numbers shown give the result shown.

use crate::common::*;
use proptest::prelude::*;
use steelk_core::evaluate::evaluate;
use steelk_core::job::{Job, Measure, Operation};
use steelk_core::quantity::{FigureTable, LengthUnit, PieceNames, Scope};
use steelk_core::result::{FigureResult, PieceResult};
use steelk_core::shop::BendMethod;

fn demo() -> Job {
    serde_json::from_str(include_str!("../../../../demo/orchard-line.steelk.json")).unwrap()
}

/// The plain value of a sum as printed, with · × − and units as the working writes them.
fn calculated(text: &str) -> Option<f64> {
    let plain: String = text
        .replace("mm²", "")
        .replace("in²", "")
        .replace("kg/m³", "")
        .replace("m²", "")
        .replace(" m ", " ")
        .replace("kg", "")
        .replace('π', "pi")
        .trim()
        .into();
    let table = FigureTable::new(&[], LengthUnit::Mm);
    let names = PieceNames { table: &table, t: None, r: None };
    Scope { unit: LengthUnit::Mm, names: &names }.number(&plain).ok()
}

/// Every `sum = result` in the filled-in formula, the two sides worked out.
fn equations(f: &FigureResult) -> Vec<(String, f64, f64)> {
    let mut out = Vec::new();
    for part in f.working.filled.split(';') {
        let part = part.rsplit("D = ").next().unwrap_or(part);
        let sides: Vec<&str> = part.split(" = ").collect();
        for pair in sides.windows(2) {
            if let (Some(a), Some(b)) =
                (calculated(pair[0]), calculated(pair[1].split(" (in mm)").next().unwrap_or_default()))
            {
                out.push((part.to_string(), a, b));
            }
        }
    }
    out
}

fn follows(p: &PieceResult) -> usize {
    let mut followed = 0;
    for f in &p.figures {
        assert!(
            !f.working.rule.is_empty() && !f.working.source.is_empty() && !f.working.formula.is_empty(),
            "{}",
            f.key
        );
        for (text, sum, result) in equations(f) {
            // Each printed number is rounded at its last place: a few thousandths add up.
            let slack =
                2e-3 * (1.0 + text.matches(['+', '−', '·', '×']).count() as f64) + result.abs() * 2e-5;
            assert!((sum - result).abs() <= slack, "{} {}: {text} gives {sum}", p.mark, f.key);
            followed += 1;
        }
        for t in &f.working.terms {
            if let Some(key) = &t.figure {
                assert!(p.figure(key).is_some(), "{} leads to {key}, which is not there", f.key);
            }
        }
    }
    followed
}

#[test]
fn every_working_of_the_sample_adds_up() {
    let followed: usize = evaluate(&demo()).pieces.iter().map(|p| follows(p)).sum();
    assert!(followed >= 45, "only {followed} sums were found to follow");
}

#[test]
fn every_line_a_working_names_is_in_the_recipe() {
    let job = demo();
    for (piece, made) in job.pieces.iter().zip(evaluate(&job).pieces) {
        for t in made.figures.iter().flat_map(|f| &f.working.terms) {
            assert!(t.line.as_ref().is_none_or(|l| piece.lines.iter().any(|x| x.id == *l)), "{t:?}");
        }
    }
}

#[test]
fn an_untested_k_says_that_it_is_assumed() {
    let assumed = made(school(BendMethod::KFactor), &piece("2", "2", &["strip 40 up 90 60 wide 30"]));
    let w = &assumed.figure("start-1.1.allowance").unwrap().working;
    assert!(w.assumption.as_ref().is_some_and(|a| a.contains("common practice")));
    let given = made(k_factor("0.42"), &piece("2", "2", &["strip 40 up 90 60 wide 30"]));
    assert!(given.figure("start-1.1.allowance").unwrap().working.assumption.is_none());
    let oblique = made(school(BendMethod::Handbook90), &piece("2", "2", &["strip 40 up 60 60 wide 30"]));
    assert!(oblique.figure("start-1.1.allowance").unwrap().working.assumption.is_some());
}

#[test]
fn the_sum_of_angles_tells_how_far_from_parallel() {
    for (text, sum, off) in [
        ("strip 40 up 75 60 down 75 40 wide 30", "0°, parallel", 0.0),
        ("strip 40 up 75 60 down 60 40 wide 30", "15°, 15° off parallel", 15.0),
        ("strip 40 up 90 60 up 90 40 wide 30", "180°, parallel", 180.0),
        ("strip 40 down 100 60 wide 30", "-100°, 80° off parallel", -100.0),
    ] {
        let p = din("2", "2", &[text]);
        let f = p.figure("angle_sum").unwrap();
        assert_eq!(f.text, sum);
        if off == 0.0 {
            assert!(f.value.abs() < 1e-12);
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    #[test]
    fn workings_of_any_strip_add_up(
        t in 5..60u32, ratio in 2..40u32, legs in prop::collection::vec(300..2000u32, 2..6),
            angle in 10..170u32, face in 0..3usize, rule in 0..3usize,
    ) {
        let t = f64::from(t) / 10.0;
        let legs: Vec<String> = legs.iter().map(|l| format!("{}", f64::from(*l) / 10.0 + 30.0 * t)).collect();
        let mut p = piece(&format!("{t}"), &format!("{:.2}", t * f64::from(ratio) / 10.0),
            &[&format!("strip {} wide 40", legs.join(&format!(" up {angle} ")))]);
        if let Operation::StartStrip(s) = &mut p.lines[0].say {
            s.measure = [Measure::Outside, Measure::Inside, Measure::Middle][face];
        }
        let rule = [school(BendMethod::Din6935), school(BendMethod::Handbook90),
            k_factor("0.4")][rule].clone();
        prop_assert!(follows(&made(rule, &p)) > 5);
    }
}
