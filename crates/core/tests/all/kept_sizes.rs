//! Sizes that a hand keeps on the flat, against sums of what the lines tell.

use proptest::prelude::*;
use steelk_core::drawing::{Drawing, Item, Paper, dimensioned::Projection, flat_drawing};
use steelk_core::quantity::{Display, InchStyle, LengthUnit};
use steelk_core::result::PieceResult;
use steelk_core::shop::BendMethod;

use crate::common::{din, job, made, piece, school};
use crate::drawn_sizes::drawn;
use crate::labels::apart;
use steelk_core::evaluate::evaluate_piece;

/// The size that a line keeps, as it is printed, wherever it stands.
fn told(p: &PieceResult, line: &str) -> Vec<String> {
    let along = p.flat.dimensions.iter().filter(|d| d.line == line).map(|d| d.text.clone());
    along.chain(p.flat.kept.iter().filter(|s| s.line == line).map(|s| s.text.clone())).collect()
}

/// A piece with faults in it.
fn of(texts: &[&str]) -> PieceResult {
    evaluate_piece(&job(school(BendMethod::Din6935)), &piece("2", "3", texts))
}

fn faults(p: &PieceResult) -> Vec<String> {
    p.faults.iter().map(|f| format!("{}{} {}", f.line, f.path, f.fault.message)).collect()
}

#[test]
fn it_runs_between_what_is_named_on_the_flat_as_it_is_cut() {
    // 240 × 160 about its middle; the hole 40 from west and 30 from south; a second one 100, 40 further.
    let p = din(
        "2",
        "3",
        &[
            "plate 240 x 160",
            "dimension west to punch-1",
            "dimension punch-1 to punch-2",
            "dimension punch-1 to punch-2, along north",
            "dimension north-east to punch-2, along east",
            "dimension start-1.south to start-1.north",
            "dimension south-west to south-east",
            "dimension start-1.north to mirror-1.punch-1",
            "dimension punch-2 to south-east, straight",
            "hole 10 at 40 from west, 30 from south",
            "hole 10 at 140 from west, 70 from south",
            "mirror punch-1, north",
            "round 12 at south-east",
        ],
    );
    assert_eq!(faults(&p), [""; 0]);
    for (line, size) in [
        ("dimension-1", "40.0"),
        // √(100² + 40²)
        ("dimension-2", "107.7"),
        ("dimension-3", "40.0"),
        ("dimension-4", "100.0"),
        ("dimension-5", "160.0"),
        // The rounded corner is told by the sharp one.
        ("dimension-6", "240.0"),
        ("dimension-7", "30.0"),
        // √(100² + 70²)
        ("dimension-8", "122.1"),
    ] {
        assert_eq!(told(&p, line), [size], "{line}");
    }
    // The whole is told once, and is the hand's.
    assert_eq!(p.flat.dimensions.iter().filter(|d| d.text == "240.0").count(), 1);
    assert_eq!(p.flat.dimensions.iter().filter(|d| d.text == "160.0").count(), 1);
}

#[test]
fn between_leaning_edges_bends_and_inches() {
    // A right triangle of 300 and 400: from its square corner to the long side 300·400/500.
    let triangle = ["outline (0, 0) (300, 0) (0, 400)", "dimension side-1/side-3 to start-1.side-2"];
    let p = din("2", "3", &triangle);
    assert_eq!((told(&p, "dimension-1"), p.flat.kept.len()), (vec!["240.0".to_string()], 1));
    let lean = of(&[triangle[0], "dimension start-1.side-1 to start-1.side-2"]);
    // atan(400/300)
    assert!(faults(&lean)[0].contains("stand at 53.13° to one another"), "{:?}", faults(&lean));
    // A channel of 40, 100, 40 outside, 2 thick, R3, by DIN 6935: k = 0.65 + lg(3/2)/2 = 0.7380, a bend takes
    // π/2·(3 + 1·0.7380) = 5.8717; from middle to middle 100 − 2·5 + 5.8717, from the end 40 − 5 + 5.8717/2.
    let channel = "strip 40 up 90 100 up 90 40 wide 200";
    let u = din("2", "3", &[channel, "dimension start-1.1 to start-1.2", "dimension west to start-1.1"]);
    assert_eq!(
        (told(&u, "dimension-1"), told(&u, "dimension-2")),
        (vec!["95.9".into()], vec!["37.9".into()])
    );
    let mut inches = piece(
        "1/8",
        "1/8",
        &[
            "plate 12 x 8",
            "hole 1/2 at 2 1/4 from west, 1 from south",
            "dimension start-1.west to punch-1",
            "dimension punch-1 to north-east",
        ],
    );
    let display = Display { length: LengthUnit::In, inches: InchStyle::SixtyFourths };
    inches.display = Some(display);
    let i = made(school(BendMethod::Din6935), &inches);
    assert_eq!(i.display.length, LengthUnit::In);
    assert_eq!(told(&i, "dimension-1"), ["2 1/4"]);
    // √(9.75² + 7²) = 12.0026, to the sixty-fourth
    assert_eq!(told(&i, "dimension-2"), ["12"]);
}

#[test]
fn what_cannot_be_told_is_refused_with_its_field_and_the_rest_stands() {
    let p = of(&[
        "plate 240 x 160",
        "hole 10 at 40 from west, 30 from south",
        "hole 10 at -400 from west, 30 from south",
        "dimension start-1.west to punch-9",
        "dimension start-1.panel to punch-1",
        "dimension punch-1 to punch-1",
        "dimension start-1.west to start-1.north",
        "dimension start-1.west to punch-1, along north",
        "dimension punch-2 to punch-1",
        "dimension start-1.west to punch-1",
    ]);
    let all = faults(&p);
    for (at, said) in [
        ("dimension-1/say/to", "no edge, corner, bend or hole is called 'punch-9'"),
        ("dimension-2/say/from", "is a panel"),
        ("dimension-3/say/to", "nothing between"),
        ("dimension-4/say/to", "stand at 90.00° to one another"),
        ("dimension-5/say/way", "leans by 90.00° out of that way"),
        ("dimension-6/say/from", "meets no sheet"),
    ] {
        assert!(all.iter().any(|f| f.starts_with(at) && f.contains(said)), "{at} {said}: {all:?}");
    }
    assert_eq!(told(&p, "dimension-7"), ["40.0"]);
    assert!(p.made);
}

fn texts(items: &[Item]) -> Vec<&str> {
    items
        .iter()
        .filter_map(|i| if let Item::Text { text, .. } = i { Some(text.as_str()) } else { None })
        .collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    /// Between two holes anywhere it is what Pythagoras says; it stands once on the drawing, in brackets, and
    /// no text lies on another.
    #[test]
    fn anywhere_it_is_the_distance_and_stands_clear(
        a in (10.0..290.0f64, 10.0..190.0f64), b in (10.0..290.0f64, 10.0..190.0f64), way in 0..3usize,
    ) {
        prop_assume!((a.0 - b.0).abs() > 9.0 && (a.1 - b.1).abs() > 9.0);
        let hole = |p: (f64, f64)| format!("hole 4 at {:.2} from west, {:.2} from south", p.0, p.1);
        let kept = format!("dimension punch-1 to punch-2{}", ["", ", along east", ", along north"][way]);
        let p = din("2", "3", &["plate 300 x 200", &hole(a), &hole(b), &kept]);
        let round = |v: f64| (v * 100.0).round() / 100.0;
        let (x, y) = (round(a.0) - round(b.0), round(a.1) - round(b.1));
        let size = [x.hypot(y), x.abs(), y.abs()][way];
        let found = told(&p, "dimension-1");
        prop_assert_eq!(found.len(), 1);
        prop_assert!((found[0].parse::<f64>().unwrap() - size).abs() < 0.0501, "{found:?} {size}");
        let pages = drawn(&p, Paper::A4, Projection::First);
        let bracketed = format!("({})", found[0]);
        let on = |d: &Drawing| texts(&d.items).iter().filter(|t| **t == bracketed).count();
        let times: usize = pages.iter().map(on).sum();
        prop_assert_eq!(times, 1);
        for page in &pages {
            apart(page);
        }
        let flat = flat_drawing(&p, 0.5, true);
        prop_assert!(texts(&flat.items).contains(&found[0].as_str()));
    }
}
