//! Figures and marks that were once wrong without a word: each by hand, in the case that hid it.

use crate::common::*;
use approx::assert_abs_diff_eq;
use rstest::rstest;
use serde_json::{Value, json};
use steelk_core::evaluate::cut_list;
use steelk_core::evaluate::evaluate;
use steelk_core::evaluate::evaluate_piece;
use steelk_core::grammar::Context;
use steelk_core::job::{FORMAT, Hand, Job, OwnMaterial};
use steelk_core::quantity::{Display, InchStyle, LengthUnit, counted, fixed};
use steelk_core::result::{PieceResult, Severity};
use steelk_core::shop::{BendMethod, Bent, Stuff};

fn outline(points: &[(f64, f64)]) -> Value {
    let points: Vec<Value> =
        points.iter().map(|p| json!({ "x": format!("{}", p.0), "y": format!("{}", p.1) })).collect();
    json!({ "verb": "start_outline", "points": points })
}

fn bend_line(edge: &str, distance: &str, stays: &str) -> Value {
    json!({ "verb": "bend_line", "edge": edge, "distance": distance, "angle": "90", "stays": stays })
}

fn din_told(says: &[Value]) -> PieceResult {
    made(school(BendMethod::Din6935), &told("2", "2", says))
}

/// On a sheet that narrows, a bend line ends at the sheet, not at the width of the blank; length and force
/// are of the metal.
#[test]
fn a_bend_line_ends_where_the_metal_does() {
    let p = din_told(&[
        outline(&[(-100.0, -40.0), (100.0, -20.0), (100.0, 20.0), (-100.0, 40.0)]),
        bend_line("start-1.side-4", "60", "far"),
    ]);
    let b = &p.flat.bends[0];
    let half = 30.0 - 0.1 * b.from[0];
    assert!(half < 36.0, "{b:?}");
    assert_abs_diff_eq!(b.from[0], b.to[0], epsilon = 1e-9);
    assert_abs_diff_eq!(b.from[1].abs(), half, epsilon = 1e-9);
    assert_abs_diff_eq!(b.to[1].abs(), half, epsilon = 1e-9);
    assert_abs_diff_eq!(b.length, 2.0 * half, epsilon = 1e-9);
    assert_eq!(p.bend_rows[0].length, p.display.length(2.0 * half));
}

/// A cut across a bend leaves two parts, and the brake bends those.
#[test]
fn a_cut_across_a_bend_leaves_its_parts() {
    let whole = din("3", "3", &["strip 60 up 90 60 wide 40"]);
    let cut = din("3", "3", &["strip 60 up 90 60 wide 40", "slot 40 x 10"]);
    let (w, c) = (&whole.flat.bends[0], &cut.flat.bends[0]);
    assert_eq!((w.parts.len(), c.parts.len()), (1, 2));
    assert_abs_diff_eq!(w.length, 40.0, epsilon = 1e-9);
    assert_abs_diff_eq!(c.length, 30.0, epsilon = 1e-9);
    for (part, y) in c.parts.iter().zip([[-20.0, -5.0], [5.0, 20.0]]) {
        assert_abs_diff_eq!(part[0][1], y[0], epsilon = 1e-9);
        assert_abs_diff_eq!(part[1][1], y[1], epsilon = 1e-9);
    }
    let kn = |p: &PieceResult| p.bend_rows[0].force_per_metre.clone();
    assert_eq!(kn(&whole), kn(&cut), "the force of a metre is the same");
    let total = |p: &PieceResult| p.bend_rows[0].force.trim_end_matches(" kN").parse::<f64>().unwrap();
    // Printed in whole kN.
    assert!((total(&cut) - 0.75 * total(&whole)).abs() < 0.9, "{} {}", total(&cut), total(&whole));
}

/// A rolled shell is told by where it begins and ends.
#[test]
fn a_roll_has_two_tangents() {
    let p =
        din_told(&[json!({ "verb": "start_rolled", "length": "300", "diameter": "200", "angle": "180" })]);
    let b = &p.flat.bends[0];
    assert!(b.rolled && b.tangents.len() == 2);
    let x: Vec<f64> = b.tangents.iter().map(|t| t[0][0]).collect();
    assert_abs_diff_eq!((x[1] - x[0]).abs(), 99.0 * std::f64::consts::PI, epsilon = 1e-6);
}

/// What is pressed off the sheet, or over its edge, is left out and stops the piece, however it came there; a
/// touch of the edge does not.
#[rstest]
#[case(&["plate 200 x 100", "louvre 60 x 12 high 5 at -40 from west"], 0)]
#[case(&["plate 200 x 100", "louvre 60 x 12 high 5 at 20 from west"], 0)]
#[case(&["plate 200 x 100", "louvre 60 x 12 high 5 at 30 from west"], 1)]
#[case(&["plate 200 x 100", "louvre 60 x 12 high 5 at 50 from west", "repeat press-1 3 at 80"], 2)]
#[case(&["plate 200 x 100", "dimple 12 deep 2 at 50 from west", "rectangle 30 x 100 at 15 from west"], 1)]
#[case(&["strip 60 up 90 60 wide 40", "rib start-1.1 depth 15 wide 8 at 2"], 0)]
#[case(&["strip 60 up 90 60 wide 40", "rib start-1.1 depth 15 wide 8 at 10"], 1)]
fn pressed_shapes_need_sheet_under_them(#[case] lines: &[&str], #[case] marked: usize) {
    let p = din("2", "2", lines);
    assert_eq!(p.flat.pressed.len(), marked);
    let asked = p.features.iter().filter(|f| !f.name.starts_with("punch")).count();
    let told = p.findings.iter().filter(|f| f.check == "cut_misses").collect::<Vec<_>>();
    assert_eq!(told.len(), asked - marked);
    assert!(told.iter().all(|f| f.severity == Severity::Stop && f.message.contains("left out")), "{told:?}");
}

/// A rib told by the compass stays where it is whichever side of its bend lies still; told across the bend's
/// way it is asked about.
#[test]
fn a_rib_is_told_from_the_end_that_is_named() {
    let rib = |from: &str| {
        json!({ "verb": "rib", "on": "bend_line-1.bend", "depth": "15", "width": "8",
        "offset": "20", "from": from })
    };
    let at = |stays: &str, from: &str| {
        let p = evaluate_piece(
            &job(school(BendMethod::Din6935)),
            &told(
                "2",
                "2",
                &[
                    json!({ "verb": "start_plate", "width": "200", "height": "100" }),
                    bend_line("start-1.west", "60", stays),
                    rib(from),
                ],
            ),
        );
        assert!(p.faults.is_empty(), "{:?}", p.faults);
        p.flat.pressed[0].at[1]
    };
    for stays in ["far", "near"] {
        assert_abs_diff_eq!(at(stays, "south"), -30.0, epsilon = 1e-9);
        assert_abs_diff_eq!(at(stays, "north"), 30.0, epsilon = 1e-9);
    }
    // Left and right turn with the bend.
    assert_abs_diff_eq!(at("far", "left"), -at("near", "left"), epsilon = 1e-9);
    assert_abs_diff_eq!(at("far", "right"), -at("far", "left"), epsilon = 1e-9);
    let p = evaluate_piece(
        &job(school(BendMethod::Din6935)),
        &told(
            "2",
            "2",
            &[
                json!({ "verb": "start_plate", "width": "200", "height": "100" }),
                bend_line("start-1.west", "60", "far"),
                rib("west"),
            ],
        ),
    );
    assert!(
        p.faults[0].path == "/say/from" && p.faults[0].fault.mend.contains("south or north"),
        "{:?}",
        p.faults
    );
}

/// The same in a typed line, and what is no end is asked about; a cone's size is told in words of its own.
#[test]
fn ends_of_ribs_are_typed_and_cones_stand() {
    let y = |end: &str| {
        din(
            "2",
            "2",
            &["strip 60 up 90 60 wide 40", &format!("rib start-1.1 depth 15 wide 8 at 10 from {end}")],
        )
        .flat
        .pressed[0]
            .at[1]
    };
    assert_abs_diff_eq!(y("north"), 10.0, epsilon = 1e-9);
    assert_abs_diff_eq!(y("south"), -10.0, epsilon = 1e-9);
    let f =
        steelk_core::verbs::read_line("rib start-1.1 depth 15 wide 8 at 10 from above", &Context::default())
            .unwrap_err();
    assert!(f.mend.contains("'from west', 'from east', 'from south', 'from north'"), "{f}");
    let p = din("2", "2", &["cone 400 to 200 high 300"]);
    let f = p.figures.iter().find(|f| f.key == "formed_size").unwrap();
    assert!(f.working.terms.iter().any(|t| t.meaning == "along its axis"), "{:?}", f.working.terms);
}

/// Halves go away from zero, small figures keep three figures, and nothing is minus zero.
#[test]
fn printed_figures() {
    let inch = |inches| Display { length: LengthUnit::In, inches };
    let (mm, decimal) = (Display::default(), inch(InchStyle::Decimal));
    assert_eq!(decimal.length(0.5625 * 25.4), "0.563");
    assert_eq!(
        (
            fixed(2.5, 0).as_str(),
            fixed(-2.5, 0).as_str(),
            fixed(1.005, 2).as_str(),
            fixed(-0.004, 2).as_str()
        ),
        ("3", "-3", "1.01", "0.00")
    );
    for (v, text) in [
        (0.05, "0.05"),
        (0.0254, "0.0254"),
        (5.0, "5.0"),
        (9.525, "9.53"),
        (96.163, "96.2"),
        (1312.78, "1312.8"),
        (0.0, "0.0"),
        (-1e-9, "0.0"),
    ] {
        assert_eq!(mm.length(v), text, "{v}");
    }
    for (kg, text) in [
        (0.000028, "0.000028 kg"),
        (0.02834, "0.0283 kg"),
        (0.5, "0.500 kg"),
        (6.4664, "6.466 kg"),
        (189.994, "189.99 kg"),
        (-0.0, "0.000 kg"),
    ] {
        assert_eq!(mm.mass(kg), text);
    }
    assert_eq!(decimal.thickness(1.4), "0.05512");
    assert_eq!(
        (
            inch(InchStyle::Sixteenths).thickness(25.4 / 16.0),
            inch(InchStyle::Sixteenths).thickness(25.4 * 5.0 / 64.0)
        ),
        ("1/16".into(), "5/64".into())
    );
    assert_eq!(inch(InchStyle::Sixteenths).thickness(0.0598 * 25.4), "0.0598");
    assert_eq!((counted(1, "piece"), counted(0, "piece")), ("1 piece".into(), "0 pieces".into()));
}

/// A gauge prints as a gauge with its decimal, never as the fraction that happens to be near.
#[test]
fn a_gauge_is_printed_as_it_was_told() {
    let mut p = told("16 ga", "2", &[json!({ "verb": "start_plate", "width": "8in", "height": "4in" })]);
    p.display = Some(Display { length: LengthUnit::In, inches: InchStyle::Sixteenths });
    let out = made(school(BendMethod::Din6935), &p);
    assert!(
        out.thickness_text.starts_with("16 ga (0.05") && !out.thickness_said().contains('/'),
        "{} {}",
        out.thickness_text,
        out.thickness_said()
    );
}

fn place(on: &str, x: (&str, &str, &str), y: (&str, &str, &str)) -> Value {
    let offset = |(from, distance, edge): (&str, &str, &str)| {
        json!({ "from": from, "distance": distance,
        "edge": edge })
    };
    json!({ "on": on, "x": offset(x), "y": offset(y) })
}

fn hole(place: Value) -> Value {
    json!({ "verb": "punch", "shape": { "kind": "round", "diameter": "6" }, "place": place })
}

/// On a tray told outside 200 × 120 × 40, a place from the outer faces lies where a rule finds it on the
/// formed piece, on the base and on a side; from the panel's own edges it is further in by the setback.
#[test]
fn places_are_told_from_the_outer_faces() {
    let tray = json!({ "verb": "start_tray", "width": "200", "depth": "120", "height": "40" });
    let at = |place: Value| {
        let p = made(school(BendMethod::Din6935), &told("2", "3", &[tray.clone(), hole(place)]));
        let (c, _) = p.flat.holes.last().unwrap().contour.as_circle().unwrap();
        let z = steelk_core::sheet::zones::zone_of(&p.zones, c).unwrap();
        steelk_core::sheet::zones::formed(
            &p.zones[z],
            &steelk_core::sheet::zones::frames(&p.zones, 1.0, 2.0)[z],
            1.0,
            2.0,
            c,
            0.0,
        )
    };
    // The base lies with its middle at zero: its outer faces at ±100 and ±60.
    let on_base = at(place("start-1.panel", ("west", "15", "outside"), ("north", "20", "outside")));
    assert_abs_diff_eq!(on_base.x, -100.0 + 15.0, epsilon = 1e-9);
    assert_abs_diff_eq!(on_base.y, 60.0 - 20.0, epsilon = 1e-9);
    let from_panel = at(place("start-1.panel", ("west", "15", "panel"), ("north", "20", "panel")));
    assert_abs_diff_eq!(from_panel.x, -100.0 + 5.0 + 15.0, epsilon = 1e-9);
    // On the north side: left, seen with its fold at the bottom and from outside, is the east end of the
    // tray.
    let on_side = at(place("start-1.north", ("left", "30", "outside"), ("fold", "25", "outside")));
    assert_abs_diff_eq!(on_side.x.abs(), 100.0 - 30.0, epsilon = 1e-9);
    assert_abs_diff_eq!(on_side.z, 25.0, epsilon = 1e-9);
    let other = at(place("start-1.north", ("right", "30", "outside"), ("outside", "25", "panel")));
    assert_abs_diff_eq!(other.x, -on_side.x, epsilon = 1e-9);
    assert_abs_diff_eq!(other.z, 25.0, epsilon = 1e-9);
    // By the compass on the side: the same faces.
    let compass = at(place("start-1.north", ("east", "30", "outside"), ("south", "25", "outside")));
    assert_abs_diff_eq!(compass.x, 70.0, epsilon = 1e-9);
    assert_abs_diff_eq!(compass.z, 25.0, epsilon = 1e-9);
    // The whole flat has no outer faces.
    let p = evaluate_piece(
        &job(school(BendMethod::Din6935)),
        &told("2", "3", &[tray, hole(place("flat", ("west", "15", "outside"), ("north", "20", "panel")))]),
    );
    assert!(
        p.faults[0].path == "/say/place/x/edge" && p.faults[0].fault.mend.contains("panel"),
        "{:?}",
        p.faults
    );
}

/// A told outline is placed by its middle, wherever its points were counted from.
#[test]
fn an_outline_is_placed_by_its_middle() {
    let l = |dx: f64, dy: f64| {
        let points: Vec<Value> =
            [(0.0, 0.0), (30.0, 0.0), (30.0, 10.0), (10.0, 10.0), (10.0, 20.0), (0.0, 20.0)]
                .iter()
                .map(|p| json!({ "x": format!("{}", p.0 + dx), "y": format!("{}", p.1 + dy) }))
                .collect();
        let shape = json!({ "kind": "outline", "points": points });
        let p = din_told(&[
            json!({ "verb": "start_plate", "width": "200", "height": "100" }),
            json!({ "verb": "punch", "shape": shape, "place": place("flat", ("west", "50", "panel"),
                ("south", "40", "panel")) }),
        ]);
        p.flat.holes[0].contour.bounds()
    };
    for (dx, dy) in [(0.0, 0.0), (500.0, -70.0)] {
        let b = l(dx, dy);
        assert_abs_diff_eq!(b.centre().x, -100.0 + 50.0, epsilon = 1e-9);
        assert_abs_diff_eq!(b.centre().y, -50.0 + 40.0, epsilon = 1e-9);
    }
}

/// A corner that a cut makes with a side is rounded by its name, in either order; a rectangle has a corner
/// radius of its own.
#[test]
fn corners_of_cuts_are_rounded() {
    let open = ["plate 200 x 100", "rectangle 40 x 30 at 20 from east"];
    let sharp = din("2", "2", &open);
    for name in ["punch-1/east", "east/punch-1"] {
        let round = json!({ "verb": "round", "corners": [name], "size": "5" });
        let mut p = piece("2", "2", &open);
        p.lines.push(line("round-1", round));
        let out = evaluate_piece(&job(school(BendMethod::Din6935)), &p);
        assert!(out.faults.is_empty(), "{name}: {:?}", out.faults);
        assert_abs_diff_eq!(
            sharp.value("area") - out.value("area"),
            25.0 * (1.0 - std::f64::consts::FRAC_PI_4),
            epsilon = 1e-9
        );
    }
    let p = din(
        "2",
        "2",
        &["plate 200 x 100", "rectangle 40 x 30 corner R4", "square 12 corner R6 at 30 from west"],
    );
    let gone = 40.0 * 30.0 - 16.0 * (4.0 - std::f64::consts::PI) + std::f64::consts::PI * 36.0;
    assert_abs_diff_eq!(p.value("area"), 20_000.0 - gone, epsilon = 1e-9);
    assert!(p.flat.marks.iter().any(|m| m.text == "40 × 30 R4"), "{:?}", p.flat.marks);
    let mut over = piece("2", "2", &["plate 200 x 100"]);
    over.lines.push(line(
        "punch-1",
        json!({ "verb": "punch", "shape": { "kind": "square", "side": "12",
        "corner": "6.1" }, "place": place("flat", ("centre", "", "panel"), ("centre", "", "panel")) }),
    ));
    assert_eq!(evaluate_piece(&job(school(BendMethod::Din6935)), &over).faults[0].path, "/say/shape/corner");
}

/// The open area says of what: the flat, and the field that the pattern takes.
#[test]
fn open_area_says_of_what() {
    let p = din("1", "1", &["plate 200 x 120", "fill square 5 pitch 8 margin 20"]);
    let f = p.figures.iter().find(|f| f.key == "fill-1.open").unwrap();
    let n = p.flat.holes.len() as f64;
    assert!(
        f.text.contains(&format!("{} % of the flat", fixed(100.0 * n * 25.0 / 24_000.0, 1))),
        "{}",
        f.text
    );
    assert!(f.text.contains(&format!("{} % of its field", fixed(100.0 * 25.0 / 64.0, 1))), "{}", f.text);
}

/// A thick bar with small radii: its bent solid of even thickness is heavier than its flat, and both are
/// told; a thin one tells one.
#[test]
fn the_bent_solid_of_a_thick_bar_weighs_more() {
    let p = made(k_factor("0.33"), &piece("10", "5", &["strip 60 up 90 60 up 90 60 wide 40"]));
    let (flat, bent) = (p.value("mass"), p.value("bent_mass"));
    // Legs less their setbacks, and two quarter rings of the full section.
    let (r, t): (f64, f64) = (5.0, 10.0);
    let straight = 2.0 * (60.0 - r - t) + (60.0 - 2.0 * (r + t));
    let ring = std::f64::consts::FRAC_PI_4 * ((r + t).powi(2) - r * r);
    assert_abs_diff_eq!(bent, (straight * t + 2.0 * ring) * 40.0 * 7850e-9, epsilon = 1e-9);
    assert!(bent / flat > 1.02, "{bent} {flat}");
    let thin = made(k_factor("0.45"), &piece("1", "1", &["strip 60 up 90 60 wide 40"]));
    assert!(thin.figures.iter().all(|f| f.key != "bent_mass"));
}

/// Figures that could never be used, or twice over, are refused by name.
#[test]
fn figures_with_taken_names_are_refused() {
    use steelk_core::quantity::{Figure, FigureTable};
    let figures: Vec<Figure> = [("t", "9"), ("r", "3"), ("bolt", "9"), ("bolt", "11"), ("two words", "4")]
        .iter()
        .map(|(n, v)| Figure::new(*n, *v))
        .collect();
    let table = FigureTable::new(&figures, LengthUnit::Mm);
    let faults: Vec<Option<String>> =
        table.all(|v| v.v.to_string()).into_iter().map(|f| f.fault.map(|f| f.message)).collect();
    assert!(
        faults[0].as_ref().unwrap().contains("'t' already means")
            && faults[1].is_some()
            && faults[2].is_none()
    );
    assert!(
        faults[3].as_ref().unwrap().contains("two figures are called 'bolt'")
            && faults[4].as_ref().unwrap().contains("cannot be the name")
    );
}

/// What cannot be read is named, with what could stand there.
#[rstest]
#[case("80 mn", "'mn' is not a unit", "mm, cm, m, in, ft")]
#[case("3/4 inn", "'inn' is not a unit", "in")]
#[case("3,2", "is this 3.2?", "write 3.2")]
#[case("80 80", "'80' does not belong here", "+ - * /")]
fn values_that_cannot_be_read(#[case] text: &str, #[case] message: &str, #[case] mend: &str) {
    let f = steelk_core::quantity::parse(text).unwrap_err();
    assert!(f.message.contains(message) && f.mend.contains(mend), "{} | {}", f.message, f.mend);
}

/// Two single marks are an inch, alone and behind feet.
#[test]
fn two_single_marks_are_inches() {
    for (text, mm) in [("12''", 304.8), ("5'-3 1/4''", 1606.55), ("1/2''", 12.7), ("5'", 1524.0)] {
        let mut p = piece("2", "2", &["plate 2000 x 1000"]);
        p.lines.push(line(
            "punch-1",
            json!({ "verb": "punch", "shape": { "kind": "rectangle", "width": text,
            "height": "10" }, "place": place("flat", ("centre", "", "panel"), ("centre", "", "panel")) }),
        ));
        let out = evaluate_piece(&job(school(BendMethod::Din6935)), &p);
        assert!(out.faults.is_empty(), "{text}: {:?}", out.faults);
        assert_abs_diff_eq!(out.flat.holes[0].contour.bounds().size().x, mm, epsilon = 1e-9);
    }
}

/// What a message offers is there: materials by id, a panel, a cut; a fold is not called missing, and a gap
/// below nothing is asked about.
#[test]
fn messages_offer_what_is_there() {
    let fault = |p: &steelk_core::job::Piece| {
        evaluate_piece(&job(school(BendMethod::Din6935)), p).faults[0].fault.clone()
    };
    let mut p = piece("2", "2", &["plate 200 x 100"]);
    p.material = "unobtainium".into();
    assert!(fault(&p).mend.contains("s235 (") && fault(&p).mend.contains("dc01 ("));
    let mut p = piece("2", "2", &["plate 200 x 100", "fold north up 90 40"]);
    p.lines.push(line("mirror-1", json!({ "verb": "mirror", "of": ["fold-1"], "axis": "north" })));
    assert!(fault(&p).message.contains("'fold-1' bends"), "{:?}", fault(&p));
    let mut p = piece("2", "2", &["plate 200 x 100", "hole 9 at 20 from west"]);
    p.lines.push(line(
        "repeat-1",
        json!({ "verb": "repeat", "of": ["punch-1"], "axis": "east",
        "spacing": { "by": "gap", "count": "3", "gap": "-2" } }),
    ));
    assert!(
        fault(&p).message.contains("overlap by 2") && fault(&p).message.ends_with('?'),
        "{:?}",
        fault(&p)
    );
    let mut p = piece("2", "2", &["cone 400 to 200 high 300"]);
    p.lines.push(line(
        "fill-1",
        json!({ "verb": "fill", "on": "start-1", "shape": { "kind": "square",
        "side": "5" }, "pitch": "8", "margin": "20" }),
    ));
    assert!(fault(&p).mend.starts_with("pick flat"), "{:?}", fault(&p));
}

fn runs_into(p: &PieceResult) -> Option<&steelk_core::result::Finding> {
    p.findings.iter().find(|f| f.check == "formed_through_itself")
}

/// A closed profile told leg by leg: its seam may be narrower than its sheet is thick, for nothing touches
/// there; two tenths in it stops.
#[rstest]
#[case("49", false)]
#[case("49.9", false)]
#[case("50.5", true)]
fn a_closed_profile_with_a_seam(#[case] last: &str, #[case] stops: bool) {
    // A box of 100 × 80 outside, its last leg coming back to the side of the first one's end.
    let p = made(
        k_factor("0.42"),
        &piece("2", "2", &[&format!("strip 50 up 90 80 up 90 100 up 90 80 up 90 {last} wide 40")]),
    );
    assert_eq!(
        runs_into(&p).is_some(),
        stops,
        "{:?}",
        p.findings.iter().map(|f| &f.message).collect::<Vec<_>>()
    );
}

/// The same profile by folds: lips that lie in one another stop it, whichever way it was told; lips that pass
/// at their thickness do not.
#[test]
fn lips_that_overlap_stop_a_piece_however_it_was_told() {
    let folded = |lip: &str| {
        made(
            school(BendMethod::Din6935),
            &piece(
                "2",
                "2",
                &[
                    "plate 100 x 200",
                    "fold east west up 90 80",
                    &format!("fold fold-1.east.tip up 90 {lip}"),
                    &format!("fold fold-1.west.tip up 90 {lip}"),
                ],
            ),
        )
    };
    let told = |lip: &str| {
        made(
            school(BendMethod::Din6935),
            &piece("2", "2", &[&format!("strip {lip} up 90 80 up 90 110 up 90 80 up 90 {lip} wide 200")]),
        )
    };
    assert!(
        runs_into(&folded("85"))
            .is_some_and(|f| f.severity == Severity::Stop && f.message.contains("runs into"))
    );
    assert!(runs_into(&told("85")).is_some());
    for p in [folded("40"), told("40")] {
        assert!(runs_into(&p).is_none(), "{:?}", runs_into(&p));
    }
}

/// What a slot takes away is not there to be run into: a narrow tongue passes through a wide slot.
#[test]
fn a_tongue_through_its_slot_is_clear() {
    let hook = |slot: bool| {
        let mut lines = vec![
            "plate 100 x 60",
            "fold west up 90 40",
            "fold fold-1.west.tip up 90 60",
            "fold fold-2.fold-1-west-tip.tip up 90 70",
        ];
        if slot {
            lines.push("rectangle 40 x 64 on start-1.panel");
        }
        din("2", "2", &lines)
    };
    assert!(runs_into(&hook(false)).is_some());
    assert!(runs_into(&hook(true)).is_none(), "{:?}", runs_into(&hook(true)));
}

/// What a bend leaves beside it in part of its length: a stub that the die cannot hold, or an edge inside the
/// bend. A flange cut off at 45° at its end is none, and a flange that is short all along is told as short,
/// once.
#[test]
fn stubs_beside_a_bend_are_found() {
    let sheet = |x: f64, slant: f64| {
        din_told(&[
            outline(&[
                (-100.0, -50.0),
                (60.0, -50.0),
                (60.0, 10.0),
                (x + slant, 10.0),
                (x, 50.0),
                (-100.0, 50.0),
            ]),
            bend_line("start-1.side-2", "40", "far"),
        ])
    };
    let found = |p: &PieceResult, check: &str| {
        p.findings
            .iter()
            .filter(|f| f.check == check)
            .map(|f| (f.message.clone(), f.amount.clone()))
            .collect::<Vec<_>>()
    };
    let plain = sheet(59.0, 0.0);
    assert!(plain.faults.is_empty() && found(&plain, "bend_stub").is_empty(), "{:?}", plain.findings);
    let b = &plain.flat.bends[0];
    let tangent = b.from[0] + b.allowance / 2.0;
    // R2 in 2 mm: die 12, shortest flange 8.4 outside, 4.4 of it beyond the tangent line.
    let stub = found(&sheet(tangent + 3.0, 0.0), "bend_stub");
    assert_eq!(stub.len(), 1, "{stub:?}");
    assert!(
        stub[0].0.contains("only 3 stands beyond it") || stub[0].0.contains("only 3.0 stands beyond it"),
        "{stub:?}"
    );
    assert!(stub[0].0.contains("40.0 mm") && stub[0].1 == "1.4 mm short", "{stub:?}");
    assert!(found(&sheet(tangent + 4.5, 0.0), "bend_stub").is_empty());
    let inside = found(&sheet(tangent - 0.2 * b.allowance, 0.0), "bend_stub");
    assert!(inside.len() == 1 && inside[0].0.contains("ends inside bend"), "{inside:?}");
    // An edge that slants gently is one too; a flange cut off at 45° is not.
    assert_eq!(found(&sheet(tangent + 1.0, 2.0), "bend_stub").len(), 1);
    let mitred = din_told(&[
        outline(&[(-100.0, -50.0), (20.0, -50.0), (60.0, -10.0), (60.0, 10.0), (20.0, 50.0), (-100.0, 50.0)]),
        bend_line("start-1.side-3", "40", "far"),
    ]);
    assert!(
        mitred.faults.is_empty() && found(&mitred, "bend_stub").is_empty(),
        "{:?}",
        found(&mitred, "bend_stub")
    );
    // Short all along: a flange, told by its own finding.
    let short = din_told(&[
        outline(&[(-100.0, -50.0), (60.0, -50.0), (60.0, 50.0), (-100.0, 50.0)]),
        bend_line("start-1.side-2", "6", "far"),
    ]);
    assert!(
        found(&short, "bend_stub").is_empty() && !found(&short, "flange_short").is_empty(),
        "{:?}",
        short.findings
    );
}

/// A flange on the wide edge of a tapering panel: its bend begins inside, where the panel is narrower than
/// the edge was told. It is said, with by how much; bent from the edge it keeps its width, and so it does on
/// a panel that does not taper, or on the narrow edge.
#[test]
fn a_flange_on_a_tapering_panel_says_its_width() {
    // 36 at the top, 20 at the bottom, 50 high: each side leans 8 in 50.
    let panel = |top: f64, bottom: f64| {
        outline(&[(-bottom / 2.0, 0.0), (bottom / 2.0, 0.0), (top / 2.0, 50.0), (-top / 2.0, 50.0)])
    };
    let fold = |at: &str| {
        json!({ "verb": "fold", "edges": ["start-1.side-3"], "angle": "90", "bend_at": at,
        "reach": { "to": "length", "length": "20" } })
    };
    let found = |p: &PieceResult| {
        p.findings
            .iter()
            .filter(|f| f.check == "edge_narrowed")
            .map(|f| f.message.clone())
            .collect::<Vec<_>>()
    };
    let p = din_told(&[panel(36.0, 20.0), fold("outer_face")]);
    // R2 in 2 mm: the bend begins 4 inside; 36 less 4 · 16/50.
    let said = found(&p);
    assert!(said.len() == 1 && said[0].contains("is 34.72 wide for an edge of 36"), "{said:?}");
    let kept = din_told(&[panel(36.0, 20.0), fold("from_edge")]);
    assert!(found(&kept).is_empty());
    assert_abs_diff_eq!(kept.flat.bends[0].length, 36.0, epsilon = 1e-9);
    assert!(found(&din_told(&[panel(36.0, 36.0), fold("outer_face")])).is_empty());
    assert!(found(&din_told(&[panel(20.0, 36.0), fold("outer_face")])).is_empty());
    // The mend does what it says.
    let mend = p.findings.iter().find(|f| f.check == "edge_narrowed").unwrap().mend.clone().unwrap();
    assert_eq!(
        (mend.patch[0].path.as_str(), mend.patch[0].value.as_str()),
        ("/lines/1/say/bend_at", Some("from_edge"))
    );
}

/// A list is enough to cut and finish by: hand and finish stand in it, and its total is the sum of its rows
/// as they are printed.
#[test]
fn lists_tell_hand_and_finish_and_add_up() {
    let mut job = Job { format: FORMAT, ..Job::default() };
    for k in 0..7 {
        let mut p = told(
            "2",
            "2",
            &[json!({ "verb": "start_plate", "width": format!("{}", 41 + k), "height": "37" })],
        );
        (p.id, p.mark, p.quantity) = (format!("p{k}"), format!("P-{k}"), "3".into());
        (p.hand, p.finish) = (
            if k == 0 { Hand::Left } else { Hand::None },
            if k == 1 { " galvanised ".into() } else { String::new() },
        );
        if k == 2 {
            p.assembly = " F-1 ".into();
        }
        job.pieces.push(p);
    }
    let list = cut_list(&job, &evaluate(&job));
    assert_eq!((list.rows[1].assembly.as_str(), list.rows[2].assembly.as_str()), ("", "F-1"));
    assert_eq!(
        (list.rows[0].hand.as_str(), list.rows[1].finish.as_str(), list.rows[2].hand.as_str()),
        ("left", "galvanised", "")
    );
    let sum: f64 = list.rows.iter().map(|r| (r.total_mass.parse::<f64>().unwrap() * 1000.0).round()).sum();
    assert_eq!((list.total_mass.parse::<f64>().unwrap() * 1000.0).round(), sum, "{}", list.total_mass);
    job.pieces[0].finish = "x".repeat(500);
    job.pieces[1].assembly = "x".repeat(501);
    let refused = evaluate(&job).faults;
    for (path, said) in [("/pieces/0/finish", "500 characters"), ("/pieces/1/assembly", "501 characters")] {
        assert!(refused.iter().any(|f| f.path == path && f.fault.message.contains(said)), "{refused:?}");
    }
}

/// Findings follow the material: film is folded by hand at any radius, acrylic hot, boards are scored, oak
/// not at all; what is drilled has other rules than what is punched, and wood is not welded.
#[test]
fn findings_follow_the_material() {
    let of = |material: &str, t: &str, r: &str, lines: &[&str]| {
        let p = steelk_core::job::Piece { material: material.into(), ..piece(t, r, lines) };
        let found = evaluate_piece(&Job { format: FORMAT, ..Job::default() }, &p);
        assert!(found.faults.is_empty(), "{material}: {:?}", found.faults);
        found
    };
    let checks = |p: &PieceResult| p.findings.iter().map(|f| f.check).collect::<Vec<_>>();
    let bent = ["strip 30 up 90 30 wide 40"];
    let has = |p: &PieceResult, check: &str| checks(p).contains(&check);
    let film = of("polyester", "0.5", "0.1", &bent);
    assert!(
        has(&film, "bent_by_hand")
            && !has(&film, "radius_small")
            && !has(&film, "material_not_bent")
            && !has(&film, "force_over"),
        "{:?}",
        checks(&film)
    );
    let acrylic = of("acrylic", "3", "3", &bent);
    // Twice its thickness, hot.
    assert!(
        has(&acrylic, "bent_hot") && has(&acrylic, "radius_small") && !has(&acrylic, "material_not_bent"),
        "{:?}",
        checks(&acrylic)
    );
    assert!(!has(&of("acrylic", "3", "6", &bent), "radius_small"));
    for board in ["plywood", "hardboard"] {
        let b = of(board, "4", "1", &bent);
        assert!(has(&b, "bent_scored") && !has(&b, "material_not_bent"), "{board}: {:?}", checks(&b));
    }
    for wood in ["oak", "beech"] {
        assert!(has(&of(wood, "20", "5", &["strip 100 up 90 100 wide 40"]), "material_not_bent"), "{wood}");
    }
    // A hole of 5 in 20: too small to punch, drilled every day; 8 from the edge it is right in wood and in
    // steel too near.
    let drilled = ["plate 200 x 100", "hole 5 at 11 from west"];
    let (steel, oak) = (of("s235", "20", "20", &drilled), of("oak", "20", "20", &drilled));
    assert!(has(&steel, "hole_small") && has(&steel, "edge_thin"), "{:?}", checks(&steel));
    assert!(!has(&oak, "hole_small") && !has(&oak, "edge_thin"), "{:?}", checks(&oak));
    // 5 of metal left beside a hole of 30 are enough for sheet of 3, and too little for wood.
    let wide = ["plate 200 x 100", "hole 30 at 20 from west"];
    assert!(!has(&of("s235", "3", "3", &wide), "edge_thin") && has(&of("oak", "3", "3", &wide), "edge_thin"));
}

/// A job may define a material: its mass, forces, findings and price follow it, in pieces and in frames; what
/// cannot be is refused by field.
#[test]
fn a_job_has_materials_of_its_own() {
    let own = |id: &str, density: &str| OwnMaterial {
        id: id.into(),
        name: "Larch".into(),
        density: density.into(),
        stuff: Stuff::Wood,
        bent: Bent::Not,
        cost: "4.5".into(),
        ..OwnMaterial::default()
    };
    let plate = steelk_core::job::Piece {
        material: "larch".into(),
        ..piece("20", "20", &["plate 500 x 200", "hole 5 at 11 from west"])
    };
    let mut job =
        Job { format: FORMAT, materials: vec![own("larch", "590")], pieces: vec![plate], ..Job::default() };
    let done = evaluate(&job);
    assert!(
        done.faults.is_empty() && done.pieces[0].faults.is_empty(),
        "{:?} {:?}",
        done.faults,
        done.pieces[0].faults
    );
    let p = &done.pieces[0];
    assert_abs_diff_eq!(
        p.value("mass"),
        (500.0 * 200.0 - std::f64::consts::PI * 6.25) * 20.0 * 590e-9,
        epsilon = 1e-9
    );
    assert_abs_diff_eq!(p.value("material_cost"), 500.0 * 200.0 * 20.0 * 590e-9 * 4.5, epsilon = 1e-9);
    assert!(!p.findings.iter().any(|f| f.check == "hole_small" || f.check == "edge_thin"), "drilled wood");
    assert_eq!(p.material, "Larch");
    // A metal that is bent at a brake has its own smallest radius and force.
    job.materials = vec![OwnMaterial {
        id: "hard".into(),
        density: "8000".into(),
        strength: "900".into(),
        radius: "4".into(),
        ..OwnMaterial::default()
    }];
    job.pieces = vec![steelk_core::job::Piece {
        material: "hard".into(),
        ..piece("3", "6", &["strip 60 up 90 60 wide 2000"])
    }];
    let p = &evaluate(&job).pieces[0];
    assert!(
        p.findings.iter().any(|f| f.check == "radius_small" && f.message.contains("12")),
        "{:?}",
        p.findings
    );
    assert!(p.findings.iter().any(|f| f.check == "force_over"), "{:?}", p.findings);
    // Refused, each by its field.
    for (what, m) in [
        ("/materials/0/id", own("s235", "590")),
        ("/materials/0/id", own("two words", "590")),
        ("/materials/0/density", own("larch", "")),
        ("/materials/0/density", own("larch", "heavy")),
        ("/materials/0/density", own("larch", "90000")),
        (
            "/materials/0/strength",
            OwnMaterial { id: "x".into(), density: "7850".into(), ..OwnMaterial::default() },
        ),
    ] {
        job.materials = vec![m];
        let faults = evaluate(&job).faults;
        assert!(
            faults.len() == 1 && faults[0].path == what && !faults[0].fault.mend.is_empty(),
            "{what}: {faults:?}"
        );
    }
    let lost = &evaluate(&job).pieces[0].faults;
    assert!(
        lost[0].fault.message.contains("neither the shop book nor this job has a material 'hard'"),
        "{lost:?}"
    );
}

/// A bend was named on papers by the name of its line (`start-1.1`): it is bend 1, as the table of bends
/// says.
#[test]
fn findings_name_bends_as_people_do() {
    let tight = piece("6", "1", &["strip 60 up 90 60 wide 40"]);
    let p = evaluate_piece(&Job { format: FORMAT, ..Job::default() }, &tight);
    let told: Vec<&str> =
        p.findings.iter().map(|f| f.message.as_str()).filter(|m| m.contains("bend ")).collect();
    assert!(told.iter().any(|m| m.contains("bend 1")), "{:?}", p.findings);
    assert!(told.iter().all(|m| !m.contains("start-1")), "{told:?}");
}
