//! Contours told side by side: what is found of them against closed forms, and what is said where too little
//! or too much is told.

use std::f64::consts::PI;

use approx::{assert_abs_diff_eq, assert_relative_eq};
use rstest::rstest;
use steelk_core::evaluate::evaluate_piece;

use crate::common::*;

/// The faults of a contour field, message, mend.
fn refused(line: &str) -> Vec<(String, String, String)> {
    let out = evaluate_piece(&job(Default::default()), &piece("6", "6", &[line]));
    assert!(!out.made, "{line} was made");
    out.faults.into_iter().map(|f| (f.path, f.fault.message, f.fault.mend)).collect()
}

/// Area and edge by what everybody knows of the shape.
#[rstest]
// A rectangle whose third side ends plumb with the start, and a trapezium.
#[case("contour 120 east, 60 north, line west plumb with start, close", 7200.0, 360.0)]
#[case("contour 120 east, 60 north, 80 west, close", 6000.0, 260.0 + 5200f64.sqrt())]
// A slot: the second radius and the second straight follow.
#[case("contour 120 east, arc left R30 180°, line west, arc left 180°",
    7200.0 + PI * 900.0, 240.0 + 60.0 * PI)]
// A whole end rounded.
#[case("contour 80 east, arc left 180°, 80 west, 50 south sharp", 4000.0 + PI * 312.5, 210.0 + 25.0 * PI)]
// A quarter disc about the start.
#[case("contour 50 east, arc left R50 90° setting out north, close", PI * 625.0, 100.0 + 25.0 * PI)]
// Three quarters of a disc: an arc beyond half a turn.
#[case("contour 50 east, arc left R50 270° setting out north, close", PI * 1875.0, 100.0 + 75.0 * PI)]
// A square with rounded corners, told by its quarter turns and by equal sides.
#[case(
    "contour 60 east, arc left R20, line north, arc left R20, line west, arc left R20, line south, \
     arc left R20,      where equal a, c, e and g",
    10_000.0 - (4.0 - PI) * 400.0, 240.0 + 40.0 * PI)]
// Fillets and snips behind sides.
#[case("contour 100 east rounded R10, 60 north snipped 5, 100 west, close",
    6000.0 - (1.0 - PI / 4.0) * 100.0 - 12.5, 320.0 - 20.0 + 5.0 * PI - 10.0 + 50f64.sqrt())]
// A triangle by its three sides (Heron), and one whose last side meets the line of the first.
#[case("contour 100, 80, 70", 125f64.sqrt() * (25f64 * 45.0 * 55.0).sqrt(), 250.0)]
#[case("contour line east, 40 at 120°, line at 210°", 800.0 * 3f64.sqrt(), 120.0 + 40.0 * 3f64.sqrt())]
// A rhombus of 60° by equal sides, and a hexagon by symmetry and equal sides.
#[case("contour 40 east, line at 60°, line west, line, where equal a, b and c", 800.0 * 3f64.sqrt(), 160.0)]
#[case("contour 30 east, line turned left 60°, line turned left 60°, line turned left 60°, line, line, \
    where equal a, b, c and f, where parallel b and e, where parallel c and f",
    1350.0 * 3f64.sqrt(), 180.0)]
// A lug: two straight flanks tangent to its eye, told by the base, the height of the eye and its radius.
#[case("contour 60 east, line, arc left R20, line, where symmetric about a, where distance a and c 50",
    {
        // The kite of base corner, eye and touching point, twice, and the sector between.
        let (reach, r) = (30f64.hypot(50.0), 20.0);
        let flank = (reach * reach - r * r).sqrt();
        let wrap = 2.0 * PI - 2.0 * (r / reach).acos() - 2.0 * 30f64.atan2(50.0);
        1500.0 + flank * r + wrap / 2.0 * r * r
    },
    {
        let (reach, r) = (30f64.hypot(50.0), 20.0);
        let wrap = 2.0 * PI - 2.0 * (r / reach).acos() - 2.0 * 30f64.atan2(50.0);
        60.0 + 2.0 * (reach * reach - r * r).sqrt() + wrap * r
    })]
// A link: two eyes of different radius, told by their distance.
#[case("contour line, arc left R30, line, arc left R15, where distance b and d 100",
    {
        let lean = (15f64 / 100.0).asin();
        let flank = 100.0 * lean.cos();
        (30.0 + 15.0) * flank + 900.0 * (PI / 2.0 + lean) + 225.0 * (PI / 2.0 - lean)
    },
    {
        let lean = (15f64 / 100.0).asin();
        200.0 * lean.cos() + 60.0 * (PI / 2.0 + lean) + 30.0 * (PI / 2.0 - lean)
    })]
fn areas_and_edges_are_those_of_their_closed_forms(
    #[case] line: &str,
    #[case] area: f64,
    #[case] round: f64,
) {
    let p = din("6", "6", &[line]);
    assert_relative_eq!(p.value("area"), area, max_relative = 1e-9);
    assert_relative_eq!(p.flat.outer.perimeter(), round, max_relative = 1e-9);
}

/// What was left open is shown where it would be typed, in the piece's unit; conventions are told.
#[test]
fn what_was_found_is_told() {
    let p = din("6", "6", &["contour 120 east, arc left R30 180°, line west, arc left 180°"]);
    let told: Vec<(&str, &str)> = p.found.iter().map(|f| (f.path.as_str(), f.text.as_str())).collect();
    assert_eq!(told, [("/say/sides/2/length", "120.0"), ("/say/sides/3/radius", "30.0")]);
    let sides = p.figures.iter().find(|f| f.key == "sides").unwrap();
    assert_eq!(sides.working.terms.len(), 4);
    assert_eq!(sides.working.assumption, None);

    let mut inches = piece("1/4", "", &["contour 5in, 4in, 3in"]);
    inches.display = serde_json::from_value(serde_json::json!({ "length": "in", "inches": "decimal" })).ok();
    let p = made(Default::default(), &inches);
    assert_relative_eq!(p.flat.outer.area(), 6.0 * 645.16, max_relative = 1e-12);
    let said = p.figures.iter().find(|f| f.key == "sides").unwrap().working.assumption.clone().unwrap();
    assert!(said.contains("goes east") && said.contains("to the left"), "{said}");
    assert!(
        p.flat.outer.vertices.iter().all(|v| v.p.y > -1e-9),
        "the triangle lies to the left of its first side"
    );
}

/// Sides have names that lines below can speak of, and corners between them; a cut corner keeps them.
#[test]
fn sides_can_be_spoken_of() {
    let p = din(
        "3",
        "3",
        &[
            "contour 100 east rounded R10, 60 north, line west plumb with start, close",
            "fold b up 90°, 20",
            "hole ⌀9, 20 from west, 15 from south",
        ],
    );
    let names: Vec<&str> = p.flat.outer.vertices.iter().map(|v| p.tags[v.tag as usize].as_str()).collect();
    assert!(names.contains(&"start-1.a") && names.contains(&"start-1.d"), "{names:?}");
    assert_eq!(p.flat.bends.len(), 1);
    assert!(names.contains(&"start-1.corner-a"), "{names:?}");

    let p =
        din("3", "3", &["contour 100 east, 60 north, line west plumb with start, close", "round 12 at a/b"]);
    assert_relative_eq!(p.value("area"), 6000.0 - (1.0 - PI / 4.0) * 144.0, max_relative = 1e-12);
}

/// A hole on the middle of an arc of the outline, of a rounded corner, of another hole; not where its place
/// is told twice.
#[test]
fn a_hole_lies_on_the_middle_of_an_arc() {
    let eye =
        "contour line 60 east, line, arc left R20, line, where symmetric about a, where distance a and c 50";
    let p = din("6", "6", &[eye, "hole ⌀16, about c", "slot 30 x 4, about punch-1, turned 30°"]);
    assert_eq!(p.flat.holes.len(), 1, "the slot lies over the hole");
    let p = din("6", "6", &[eye, "hole ⌀16, about c"]);
    let middle = p.flat.holes[0].contour.as_circle().unwrap().0;
    assert_abs_diff_eq!(middle.x, 30.0, epsilon = 1e-9);
    assert_abs_diff_eq!(middle.y, 50.0, epsilon = 1e-9);
    let p = din(
        "6",
        "6",
        &[
            "contour line 100 east rounded R10, line 60 north, line 100 west, close",
            "hole ⌀6, about corner-a",
        ],
    );
    let middle = p.flat.holes[0].contour.as_circle().unwrap().0;
    assert_abs_diff_eq!(middle.x, 90.0, epsilon = 1e-9);
    assert_abs_diff_eq!(middle.y, 10.0, epsilon = 1e-9);
    for (line, said) in
        [("hole ⌀6, about a", "neither a curved side"), ("hole ⌀6, about c, 20 from west", "told twice")]
    {
        let out = evaluate_piece(&job(Default::default()), &piece("6", "6", &[eye, line]));
        assert_eq!(out.faults.len(), 1, "{:?}", out.faults);
        assert_eq!(out.faults[0].path, "/say/place/about");
        assert!(out.faults[0].fault.message.contains(said), "{:?}", out.faults);
    }
}

/// Where too little, too much, or what cannot be is told: the field, and what is said there.
#[rstest]
#[case(
    "contour 120 east, 60 north, line west, close",
    "2/length",
    "one figure is missing, such as the length of c"
)]
#[case("contour 80 east, line at 100°, line, close", "1/length", "3 figures are missing")]
#[case(
    "contour 120 east, 60 north, 118 west, line south",
    "0/length",
    "the length of a (120 mm) and the length of c (118 mm) contradict one another"
)]
#[case(
    "contour 120 east, arc left R30 180°, line west, arc left R40 180°",
    "1/radius",
    "the radius of b (30 mm) and the radius of d (40 mm) contradict one another"
)]
#[case(
    "contour 100, 80, 10",
    "0/length",
    "the length of a (100 mm), the length of b (80 mm) and the length of c (10 mm) contradict one another"
)]
#[case("contour 80 east, arc left R50 60°, close, where equal a and c", "1/angle", "contradict")]
#[case(
    "contour 120 east, 60 north, 130 west, 40 south, 200 east, close",
    "4/kind",
    "crosses or touches itself"
)]
#[case("contour 100 east, 60 north, 70 west, 60 south, line east", "4/length", "backwards")]
#[case(
    "contour 80 east, line at 100° until it meets q, close",
    "1/meets",
    "no side of the contour is called 'q'"
)]
#[case("contour 80 east, 50 north, a: line west, close", "2/id", "no name for a side")]
#[case("contour close, 80 east, 50 north", "0/kind", "only the last side")]
#[case("contour 80 east, arc left R20 400°, close", "1/angle", "cannot turn through this")]
#[case("contour 80 east", "", "encloses nothing")]
#[case("contour 80 east rounded R90, 60 north, 80 west, close", "0/corner", "its corners need")]
#[case(
    "contour 80 east rounded R5, arc left R20 180°, line west, arc left 180°",
    "0/corner",
    "no corner between"
)]
fn what_stands_in_the_way_is_told(#[case] line: &str, #[case] field: &str, #[case] message: &str) {
    let all = refused(line);
    assert_eq!(all.len(), 1, "{all:?}");
    let at = format!("/say/sides/{field}");
    assert_eq!(all[0].0, at.trim_end_matches('/'), "{all:?}");
    assert!(all[0].1.contains(message), "{all:?}");
    assert!(!all[0].2.is_empty());
}

/// Where figures are missing, the outlines that still fit are shown: all of them keep what is told.
#[test]
fn the_family_that_is_left_keeps_what_is_told() {
    let line = "contour 120 east, 60 north, line west, close";
    let out = evaluate_piece(&job(Default::default()), &piece("6", "6", &[line]));
    assert!(out.family.outlines.len() >= 3, "{}", out.family.outlines.len());
    for one in &out.family.outlines {
        let at: Vec<_> = one.vertices.iter().map(|v| v.p).collect();
        assert_abs_diff_eq!(at[1].x, 120.0, epsilon = 1e-6);
        assert_abs_diff_eq!(at[2].y, 60.0, epsilon = 1e-6);
        assert_abs_diff_eq!(at[3].y, 60.0, epsilon = 1e-6);
    }
    let lengths: Vec<f64> = out.family.outlines.iter().map(|c| c.segment(2).length()).collect();
    assert!(
        lengths.iter().all(|l| lengths.iter().filter(|m| (*l - **m).abs() < 1.0).count() == 1),
        "{lengths:?}"
    );
}

/// Two outlines fit: which is meant is asked for with both figures, and either is taken.
#[test]
fn of_two_outlines_one_is_asked_for() {
    let line = "contour 80 east, arc left R50 sharp, line south sharp, where end of b 30 north of start";
    let all = refused(line);
    assert!(all[0].1.contains("it closes in 2 ways: the angle of b may be"), "{all:?}");
}
