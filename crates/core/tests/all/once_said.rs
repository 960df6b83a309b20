//! Small things that were once said wrongly. Each case failed before its mend.

use crate::common::*;
use approx::assert_abs_diff_eq;
use rstest::rstest;
use serde_json::{Value, json};
use steelk_core::evaluate::evaluate_frame;
use steelk_core::evaluate::evaluate_piece;
use steelk_core::grammar::Context;
use steelk_core::job::{Frame, FrameLine};
use steelk_core::sheet::Pressed;
use steelk_core::shop::BendMethod;
use steelk_core::verbs::read_frame_line;
use steelk_core::verbs::read_line;

fn fold(edge: &str) -> Value {
    json!({ "verb": "fold", "edges": [edge], "angle": "3", "reach": { "to": "length", "length": "30" } })
}

/// A chain of 64 folds stands; the 65th is refused where it is told, and the rest goes on.
#[test]
fn a_chain_that_is_too_long_is_refused_in_words() {
    let then: Vec<Value> =
        (0..20).map(|k| json!({ "id": format!("n{k}"), "angle": "3", "length": "20" })).collect();
    let chain = |more: usize| {
        let mut says = vec![json!({ "verb": "start_plate", "width": "100", "height": "100" })];
        let mut edge = "start-1.north".to_string();
        for n in 1..=3 + more {
            let mut say = fold(&edge);
            let panel = if n == 1 { "north".to_string() } else { edge.replace('.', "-") };
            edge = format!("fold-{n}.{panel}.tip");
            // Three lines of 21 panels, then one at a time.
            if n <= 3 {
                say["then"] = json!(then);
                edge = format!("fold-{n}.{panel}.n19.tip");
            }
            says.push(say);
        }
        says.push(fold("start-1.east"));
        evaluate_piece(&job(school(BendMethod::Din6935)), &told("1", "1", &says))
    };
    let p = chain(1);
    assert!(p.faults.is_empty(), "{:?}", p.faults);
    assert_eq!(p.flat.bends.len(), 65);
    let p = chain(2);
    assert_eq!(p.faults.len(), 1, "{:?}", p.faults);
    assert!(
        p.faults[0].path == "/say/edges" && p.faults[0].fault.message.contains("more than 64 panels"),
        "{:?}",
        p.faults
    );
    assert_eq!(p.flat.bends.len(), 65, "the other fold is there, and the chain before it");
}

/// The mend of a hole too near its bend moves it away from the bend, however its place is told.
#[rstest]
#[case("start-1.east", "fold", "6", "left", "60")]
#[case("start-1.east", "tip", "31", "right", "60")]
#[case("start-1.north", "fold", "6", "centre", "")]
#[case("start-1.west", "outside", "9", "centre", "10")]
fn the_mend_of_a_hole_too_near_moves_it_off_the_bend(
    #[case] on: &str,
    #[case] from: &str,
    #[case] y: &str,
    #[case] x_from: &str,
    #[case] x: &str,
) {
    let punch = json!({ "verb": "punch", "shape": { "kind": "round", "diameter": "8" },
        "place": { "on": on, "x": { "from": x_from, "distance": x }, "y": { "from": from,
            "distance": y } } });
    let piece = told(
        "2",
        "2",
        &[
            json!({ "verb": "start_tray", "width": "200", "depth": "150", "height": "40",
                "relief": "round" }),
            punch,
        ],
    );
    let p = made(school(BendMethod::Din6935), &piece);
    let near =
        p.findings.iter().find(|f| f.check == "hole_near_bend").unwrap_or_else(|| panic!("{:?}", p.findings));
    let after = made(school(BendMethod::Din6935), &mended(&piece, near));
    assert!(after.findings.iter().all(|f| f.check != "hole_near_bend"), "{:?}", after.findings);
    // Square to the bend, and no further than is wanted.
    let b = p.flat.bends.iter().find(|b| near.names.contains(&b.name)).unwrap();
    let along = (glam::DVec2::from(b.to) - glam::DVec2::from(b.from)).normalize();
    let centre = |r: &steelk_core::result::PieceResult| {
        r.flat.holes.iter().find(|h| r.hole_name(h) == "punch-1").unwrap().contour.bounds().centre()
    };
    let moved = centre(&after) - centre(&p);
    assert_abs_diff_eq!(moved.dot(along), 0.0, epsilon = 1e-9);
    assert!(moved.length() > 0.5 && moved.length() < 6.0, "{moved}");
}

/// A louvre mirrored west to east lies along its own length still, and opens to the same side.
#[test]
fn a_mirrored_louvre_keeps_its_length_and_its_side() {
    let says = [
        json!({ "verb": "start_plate", "width": "400", "height": "200" }),
        json!({ "verb": "press", "shape": { "kind": "louvre", "length": "60", "width": "12", "height": "5" },
            "direction": "up",
            "place": { "on": "flat", "turn": "20", "x": { "from": "west", "distance": "80" },
                "y": { "from": "south", "distance": "60" } } }),
        json!({ "verb": "mirror", "of": ["press-1"], "axis": "east", "about": "flat" }),
        json!({ "verb": "mirror", "of": ["press-1"], "axis": "north", "about": "flat" }),
    ];
    let p = made(school(BendMethod::Din6935), &told("1", "1", &says));
    let turn = |k: usize| p.flat.pressed[k].turn.to_degrees().rem_euclid(360.0);
    assert_abs_diff_eq!(turn(0), 20.0, epsilon = 1e-9);
    // Own y was 110°: seen from the other side 70°, so x lies at −20°.
    assert_abs_diff_eq!(turn(1), 340.0, epsilon = 1e-9);
    // Turned over from south to north it opens to the south: y at −110°, x at 160°.
    assert_abs_diff_eq!(turn(2), 160.0, epsilon = 1e-9);
    for m in &p.flat.pressed {
        let size = m.footprint.moved(-m.turn, glam::DVec2::ZERO).bounds().size();
        assert_abs_diff_eq!(size.x, 60.0, epsilon = 1e-9);
    }
}

/// A rib mirrored onto the opposite bend belongs to that one, and is not told to run into it.
#[test]
fn a_mirrored_rib_belongs_to_the_bend_that_it_lies_on() {
    let fold = |edge: &str| {
        json!({ "verb": "fold", "edges": [edge], "angle": "90",
        "reach": { "to": "length", "length": "60" } })
    };
    let says = [
        json!({ "verb": "start_plate", "width": "300", "height": "200" }),
        fold("start-1.west"),
        fold("start-1.east"),
        json!({ "verb": "rib", "on": "fold-1.west.bend", "depth": "12", "width": "8", "offset": "60",
            "from": "south" }),
        json!({ "verb": "mirror", "of": ["rib-1"], "axis": "east", "about": "flat" }),
    ];
    let p = made(school(BendMethod::Din6935), &told("2", "2", &says));
    let bends: Vec<&str> = p
        .flat
        .pressed
        .iter()
        .filter_map(|m| if let Pressed::Rib { bend, .. } = &m.pressed { Some(bend.as_str()) } else { None })
        .collect();
    assert_eq!(bends, ["fold-1.west.bend", "fold-2.east.bend"]);
    let about: Vec<&str> =
        p.findings.iter().filter(|f| f.message.contains("rib")).map(|f| f.message.as_str()).collect();
    assert!(about.is_empty(), "{about:?}");
}

/// A line that is not understood is answered by one example, not by all of them.
#[rstest]
#[case("hloe 9", "hole ⌀9, 15 from west, 20 from south")]
#[case("strp 40 up 90 60", "strip 60 wide: 90, up 75°, 260, down 75°, 90")]
#[case("plate 100 50 30", "plate 260 x 140")]
#[case("slot 20", "slot 20 x 9 centre to centre, 30 from east, turned 45°")]
fn a_line_that_is_not_understood_gets_one_example(#[case] typed: &str, #[case] example: &str) {
    let fault = read_line(typed, &Context::default()).unwrap_err();
    assert!(fault.mend.ends_with(example), "{}", fault.mend);
}

#[test]
fn lines_of_frames_too() {
    let mend = |text: &str| read_frame_line(text, &Context::default()).unwrap_err().mend;
    assert_eq!(
        mend("gusst A B C"),
        "did you mean: gusset at B between A and C, legs 100, 6 thick, nose 10, snipe 12"
    );
    assert!(mend("node").contains("such as: node A 0, 0, 0"), "{}", mend("node"));
    assert!(mend("zeppelin A").starts_with("begin with one of node, rail"), "{}", mend("zeppelin A"));
}

/// A name that a path could not tell, two lines of one name, no name: told with the mend, and no neighbour is
/// called otherwise.
#[rstest]
#[case("a.b", "'.' cannot stand in the name of a line", "a-b")]
#[case("a#2", "'#' cannot stand in the name of a line", "a-2")]
#[case("", "the line has no name", "punch-1")]
#[case("eye", "two lines are called 'eye'", "another name")]
fn names_of_lines_are_their_own(#[case] id: &str, #[case] says: &str, #[case] mend: &str) {
    let hole = |id: &str, x: &str| {
        let place =
            json!({ "on": "flat", "x": { "from": "west", "distance": x }, "y": { "from": "centre" } });
        line(id, json!({ "verb": "punch", "shape": { "kind": "round", "diameter": "6" }, "place": place }))
    };
    let mut p = piece("2", "2", &["plate 100 x 50"]);
    p.lines.extend([hole("eye", "10"), hole(id, "30"), hole("far", "50")]);
    let out = evaluate_piece(&job(school(BendMethod::Din6935)), &p);
    assert_eq!(out.features.iter().map(|f| f.name.as_str()).collect::<Vec<_>>(), ["eye", "far"]);
    let [f] = &out.faults[..] else { panic!("{:?}", out.faults) };
    assert_eq!((f.path.as_str(), f.line.as_str()), ("/id", id));
    assert!(f.fault.message.contains(says) && f.fault.mend.contains(mend), "{:?}", f.fault);
    // A frame tells it in the same words.
    let node = |id: &str, name: &str| {
        let say = json!({ "verb": "node", "name": name, "x": "0", "y": "0", "z": "0" });
        FrameLine::new(id, serde_json::from_value(say).unwrap())
    };
    let frame = Frame {
        section: "60x60x3".into(),
        material: "s235".into(),
        quantity: "1".into(),
        lines: vec![node("eye", "A"), node(id, "B"), node("far", "C")],
        ..Frame::default()
    };
    let told = evaluate_frame(&job(school(BendMethod::Din6935)), &frame);
    assert!(
        told.faults.iter().any(|f| f.path == "/id" && f.fault.message.contains(says)),
        "{:?}",
        told.faults
    );
}

/// A letter adds one kind of line: no two of a bench that can be added at one time share one.
#[test]
fn every_key_of_a_bench_is_given_once() {
    use steelk_core::grammar::Role;
    for (bench, verbs) in [
        ("piece", &steelk_core::sheet::verbs::PIECE.verbs),
        ("frame", &steelk_core::frame::verbs::FRAME.verbs),
        ("brief", &steelk_core::brief::verbs::BRIEF.verbs),
    ] {
        for starting in [true, false] {
            let mut seen = std::collections::HashMap::new();
            let of = verbs.iter().filter(|r| (r.verb.role == Role::Start) == starting);
            for start in of.flat_map(|r| r.verb.starts) {
                let had = seen.insert(start.key, start.name);
                assert_eq!(had, None, "{bench}: {} and {}", had.unwrap_or_default(), start.name);
            }
        }
    }
}

/// `countersunk hole for M8, 2 at 60 east` was read as a hole of a size called M8 with a cone of 60°.
#[rstest]
#[case("bore cap-1: countersunk hole for M8, 2 at 60 east", "countersunk_for")]
#[case("bore cap-1: counterbored hole for M8, 2 at 60 north", "counterbored_for")]
#[case("bore cap-1: countersunk hole ⌀M8, head ⌀2 at 60°", "countersunk")]
fn a_hole_for_a_screw_is_no_hole_of_that_size(#[case] text: &str, #[case] kind: &str) {
    let say = read_frame_line(text, &Context::default()).unwrap_or_else(|f| panic!("{}", f.message));
    let told = serde_json::to_value(say).unwrap();
    assert_eq!(told["hole"]["kind"], kind);
    let count = if kind == "countersunk" { Value::Null } else { "2".into() };
    assert_eq!(told["count"], count);
}
