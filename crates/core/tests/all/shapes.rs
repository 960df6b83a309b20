//! Every shape has its area, every place its distance, every gauge its thickness; drawings show what was
//! made.

use std::f64::consts::PI;

use crate::common::*;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::drawing::{Item, Paper, Pen, flat_drawing, formed_drawing, template};
use steelk_core::evaluate::cut_list;
use steelk_core::evaluate::evaluate;
use steelk_core::evaluate::evaluate_piece;
use steelk_core::job::*;
use steelk_core::quantity::{Display, InchStyle, LengthUnit};
use steelk_core::result::Margin;
use steelk_core::sheet::zones::{formed, frames};
use steelk_core::shop::{BendMethod, gauge, material};

#[rstest]
#[case("hole 20", PI * 100.0)]
#[case("square 20", 400.0)]
#[case("rectangle 30 x 12", 360.0)]
#[case("slot 40 x 10", 300.0 + PI * 25.0)]
#[case("slot 40 x 10 centres", 400.0 + PI * 25.0)]
#[case("triangle 30 x 20", 300.0)]
#[case("polygon 6 x 17", 6.0 / 4.0 * 17.0 * 17.0 * 0.577_350_269_189_625_8)]
#[case("polygon 4 x 17", 289.0)]
#[case("polygon 3 x 12", 3.0 / 4.0 * 144.0 * 1.732_050_807_568_877_2)]
fn shapes_have_their_area(#[case] text: &str, #[case] area: f64) {
    for turn in ["", " turned 37", " turned -90", " turned 0.4rad"] {
        let p = din("3", "3", &["plate 200 x 150", &format!("{text}{turn}")]);
        assert!(
            (30_000.0 - p.value("area") - area).abs() < 1e-6,
            "{text}{turn}: {}",
            30_000.0 - p.value("area")
        );
        assert_eq!(p.flat.holes.len(), 1);
    }
}

/// Across flats is across flats: a hexagon told 17 lies 17 high when a flat lies south.
#[test]
fn polygons_are_told_across_flats() {
    let p = din("3", "3", &["plate 200 x 150", "polygon 6 x 17"]);
    let s = p.flat.holes[0].contour.bounds().size();
    assert!((s.y - 17.0).abs() < 1e-9 && (s.x - 17.0 / (PI / 6.0).cos()).abs() < 1e-9, "{s}");
}

#[rstest]
#[case(From::West, To::Centre, -100.0 + 25.0)]
#[case(From::West, To::Side, -100.0 + 25.0 + 15.0)]
#[case(From::East, To::Centre, 100.0 - 25.0)]
#[case(From::East, To::Side, 100.0 - 25.0 - 15.0)]
#[case(From::Centre, To::Centre, 25.0)]
fn places_are_told_from_edges(#[case] from: From, #[case] to: To, #[case] x: f64) {
    let mut p = piece("3", "3", &["plate 200 x 150", "rectangle 30 x 10"]);
    let north = match from {
        From::West => From::South,
        From::East => From::North,
        f => f,
    };
    if let Operation::Punch(punch) = &mut p.lines[1].say {
        punch.place.x = Offset { from, distance: "25".into(), to, ..Offset::default() };
        punch.place.y = Offset { from: north, distance: "25".into(), to, ..Offset::default() };
    }
    let c = made(school(BendMethod::Din6935), &p).flat.holes[0].contour.bounds().centre();
    let half = |v: f64| if to == To::Side { v } else { 0.0 };
    let y = match north {
        From::South => -75.0 + 25.0 + half(5.0),
        From::North => 75.0 - 25.0 - half(5.0),
        _ => 25.0,
    };
    assert!((c.x - x).abs() < 1e-9 && (c.y - y).abs() < 1e-9, "{c}");
}

/// On a leg, distances run from its tangent lines; the wrong pair of edges is refused.
#[test]
fn places_on_a_leg() {
    let p = din("2", "2", &["strip 60 up 90 80 wide 40", "hole 6 at 18 from west on start-1.b"]);
    let leg = p.zones.iter().find(|z| z.name == "start-1.b").unwrap();
    assert!((p.flat.holes[0].contour.centroid().x - leg.min.x - 18.0).abs() < 1e-9);
    let mut wrong = piece("2", "2", &["plate 60 x 40", "hole 6 at 5 from west"]);
    if let Operation::Punch(punch) = &mut wrong.lines[1].say {
        punch.place.x.from = From::North;
    }
    let out = evaluate_piece(&job(school(BendMethod::Din6935)), &wrong);
    assert_eq!(out.faults[0].path, "/say/place/x/from");
}

/// Manufacturers' Standard, Brown & Sharpe and United States Standard (stainless) gauges as handbooks
/// tabulate them, inches.
#[rstest]
#[case("s235", &[(3, 0.2391), (7, 0.1793), (10, 0.1345), (12, 0.1046), (14, 0.0747), (18, 0.0478), (22,
    0.0299), (24, 0.0239), (26, 0.0179), (28, 0.0149)])]
#[case("5052-h32", &[(6, 0.1620), (10, 0.1019), (12, 0.0808), (14, 0.0641), (18, 0.0403), (20, 0.0320), (22,
    0.0253), (24, 0.0201)])]
#[case("1.4301", &[(8, 0.1719), (10, 0.1406), (12, 0.1094), (14, 0.0781), (18, 0.0500), (20, 0.0375), (22,
    0.0313), (26, 0.0188)])]
fn gauge_tables(#[case] id: &str, #[case] rows: &[(u32, f64)]) {
    let series = material(id).unwrap().gauge.unwrap();
    for (n, inches) in rows {
        let mm = gauge::thickness(series, *n).unwrap();
        assert!((mm / 25.4 - inches).abs() < 7e-5, "{id} {n} ga: {}", mm / 25.4);
    }
    let table = gauge::table(series);
    assert!(table.windows(2).all(|w| w[0].1 > w[1].1), "thinner as the number rises");
}

#[test]
fn a_gauge_without_its_series_is_refused() {
    for (m, t, said) in [
        ("plywood", "16 ga", "not sold by gauge"),
        ("s235", "99 ga", "no such number"),
        ("s235", "x ga", "no such number"),
        ("nickel", "2", "this job has a material 'nickel'"),
        ("s235", "250", "thicker than"),
    ] {
        let mut p = piece(t, "", &["plate 100 x 100"]);
        p.material = m.into();
        let out = evaluate_piece(&job(school(BendMethod::Din6935)), &p);
        assert!(!out.made && out.faults[0].fault.message.contains(said), "{:?}", out.faults);
    }
}

#[test]
fn job_figures_move_every_piece_that_names_them() {
    let mut j = job(school(BendMethod::Din6935));
    let mut second = piece("3", "3", &["plate 2*pitch x 100"]);
    second.id = "q".into();
    j.pieces = vec![piece("3", "3", &["plate 200 x 100", "hole bolt at pitch from west"]), second];
    let f = |name: &str, value: &str| steelk_core::quantity::Figure::new(name, value);
    j.figures = vec![f("pitch", "40"), f("bolt", "pitch/4")];
    let at = |j: &Job| {
        let r = evaluate(j);
        (r.pieces[0].flat.holes[0].contour.centroid().x, r.pieces[1].value("flat_length"))
    };
    assert_eq!(at(&j), (-60.0, 80.0));
    j.figures[0].value = "2in".into();
    let (x, length) = at(&j);
    assert!((x + 49.2).abs() < 1e-9 && (length - 101.6).abs() < 1e-9);
    j.figures[0].value = "bolt".into();
    let r = evaluate(&j);
    assert!(r.figures.iter().all(|f| f.fault.is_some()) && !r.pieces[1].made && r.pieces[0].made);
}

#[test]
fn cut_lists_count_quantities_in_the_jobs_unit() {
    let mut j = job(school(BendMethod::Din6935));
    let mut p = piece("10", "16", &["plate 1000 x 100"]);
    p.quantity = "3".into();
    j.pieces = vec![p];
    let list = cut_list(&j, &evaluate(&j));
    assert_eq!(
        (list.rows[0].unit_mass.as_str(), list.rows[0].total_mass.as_str(), list.pieces),
        ("7.850", "23.55", 3)
    );
    j.display = Display { length: LengthUnit::In, inches: InchStyle::SixtyFourths };
    j.pieces[0].lines = lines(&["plate 10 x 5 1/2"]);
    j.pieces[0].thickness = "1/4".into();
    let list = cut_list(&j, &evaluate(&j));
    let r = &list.rows[0];
    assert_eq!(
        (r.thickness.as_str(), r.flat_length.as_str(), r.flat_width.as_str(), list.mass_unit.as_str()),
        ("1/4", "10", "5 1/2", "lb")
    );
    // 13.75 in³ of steel at 0.2836 lb/in³.
    assert_eq!(r.unit_mass, "3.899");
    j.pieces[0].lines.clear();
    assert!(cut_list(&j, &evaluate(&j)).rows.is_empty(), "what cannot be made is not listed");
}

/// At every share of the fold the neutral line has the length of the flat.
#[test]
fn the_neutral_line_keeps_its_length() {
    let p = made(k_factor("0.4"), &piece("2", "3", &["strip 40 up 90 60 down 120 50 wide 20"]));
    for fold in [0.05, 0.3, 0.7, 1.0] {
        let at = frames(&p.zones, fold, 2.0);
        let mut length = 0.0;
        for (i, z) in p.zones.iter().enumerate() {
            let z_neutral = z.bend().map_or(0.8, |b| if b.up { 2.0 - b.k * 2.0 } else { b.k * 2.0 });
            let point = |f: f64| {
                formed(
                    z,
                    &at[i],
                    fold,
                    2.0,
                    glam::DVec2::new(z.min.x + (z.max.x - z.min.x) * f, 0.0),
                    z_neutral,
                )
            };
            length += (0..400)
                .map(|k| point(f64::from(k) / 400.0).distance(point(f64::from(k + 1) / 400.0)))
                .sum::<f64>();
        }
        assert!((length - p.value("flat_length")).abs() < 1e-3, "{fold}: {length}");
    }
}

fn count(items: &[Item], what: impl Fn(&Item) -> bool + Copy) -> usize {
    items
        .iter()
        .map(|i| if let Item::Window { items, .. } = i { count(items, what) } else { usize::from(what(i)) })
        .sum()
}

#[test]
fn drawings_show_every_contour_bend_and_dimension() {
    let p = din(
        "3",
        "3",
        &[
            "strip 60 up 90 80 down 45 50 wide 40",
            "hole 9 at 20 from west",
            "hole 9 at 20 from east, 10 from south",
            "round 4",
        ],
    );
    let flat = flat_drawing(&p, 1.0, true);
    let is_pen = |pen: Pen| move |i: &Item| matches!(i, Item::Line { pen: q, .. } if *q == pen);
    assert_eq!((count(&flat.items, is_pen(Pen::BendUp)), count(&flat.items, is_pen(Pen::BendDown))), (1, 1));
    let loops = flat
        .items
        .iter()
        .find_map(|i| if let Item::Shape { loops, .. } = i { Some(loops.len()) } else { None });
    assert_eq!(loops, Some(3));
    let texts: Vec<&str> = flat
        .items
        .iter()
        .filter_map(|i| if let Item::Text { text, .. } = i { Some(text.as_str()) } else { None })
        .collect();
    for d in &p.flat.dimensions {
        assert!(texts.contains(&d.text.as_str()));
    }
    assert!(
        texts.iter().any(|t| t.contains("up 90° R3"))
            && texts.iter().any(|t| t.contains("down 45° R3"))
            && texts.contains(&"⌀9")
    );
    let facets = count(&formed_drawing(&p, p.mesh(), 100.0, 80.0).items, |i| matches!(i, Item::Facet { .. }));
    assert!(facets > 20);
    for page in template(&p, Paper::A4).unwrap() {
        assert_eq!(
            count(&page.items, is_pen(Pen::BendUp)),
            1,
            "each page draws the whole and shows its window of it"
        );
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    /// Dimensions say their distance, and those in one row do not run over one another.
    #[test]
    fn dimensions_do_not_overlap(spots in prop::collection::vec((5.0..290.0f64, 5.0..95.0f64, any::<bool>(),
        any::<bool>()), 1..6)) {
        let mut texts = vec!["strip 100 up 90 120 up 90 100 wide 100".to_string()];
        for (x, y, east, north) in spots {
            texts.push(format!("hole 4 at {x:.1} from {}, {y:.1} from {}",
                if east { "east" } else { "west" }, if north { "north" } else { "south" }));
        }
        let p = din("2", "3", &texts.iter().map(String::as_str).collect::<Vec<_>>());
        let span = |d: &steelk_core::result::Dimension| {
            let k = usize::from(matches!(d.side, Margin::West | Margin::East));
            (d.from[k].min(d.to[k]), d.from[k].max(d.to[k]))
        };
        for (i, a) in p.flat.dimensions.iter().enumerate() {
            let (low, high) = span(a);
            prop_assert_eq!(&a.text, &format!("{:.1}", high - low));
            for b in &p.flat.dimensions[i + 1..] {
                let (l, h) = span(b);
                prop_assert!(a.side != b.side || a.level != b.level || high <= l + 1e-6 || h <= low + 1e-6,
                    "{a:?} {b:?}");
            }
        }
    }

    /// What is said goes through its file unchanged, and the same job gives the same result.
    #[test]
    fn jobs_go_round_and_evaluate_alike(w in 20..400u32, h in 20..400u32, d in 1..40u32,
        off in any::<bool>()) {
        let mut j = job(school(BendMethod::Din6935));
        let mut p = piece("2", "2", &[&format!("plate {w} x {h}"), &format!("hole {d}"), "round 2"]);
        p.lines[1].off = off;
        j.pieces = vec![p];
        let back: Job = serde_json::from_str(&serde_json::to_string(&j).unwrap()).unwrap();
        prop_assert_eq!(&back, &j);
        let (a, b) = (evaluate(&j), evaluate(&back));
        prop_assert_eq!(&a.pieces[0].figures, &b.pieces[0].figures);
        prop_assert_eq!(&a.pieces[0].flat, &b.pieces[0].flat);
        prop_assert_eq!(&a.pieces[0].mesh(), &b.pieces[0].mesh());
    }
}
