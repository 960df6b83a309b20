//! What a drawing says, checked off against the model: figures by hand, of flats, folded pieces and frames.

use crate::common::brief::*;
use crate::common::*;
use steelk_core::brief::Verdict;
use steelk_core::drawing::{CheckHead, Drawing, Item, check_sheet};
use steelk_core::evaluate::{coverage, evaluate};
use steelk_core::grammar::Context;
use steelk_core::job::text::{print_brief, read_brief};
use steelk_core::job::*;
use steelk_core::quantity::{Display, LengthUnit};
use steelk_core::verbs::read_figure;

fn base_plate() -> Piece {
    piece(
        "10",
        "",
        &[
            "plate 260 x 140",
            "hole ⌀14, 30 from west, 25 from south",
            "repeat punch-1, 2 at 200 east",
            "mirror punch-1 and repeat-1, north",
            "hole ⌀40, 130 from west, 70 from south",
        ],
    )
}

const BASE: [&str; 9] = [
    "overall length 260",
    "overall width 140 ±0.2",
    "thickness 10",
    "4 × ⌀14",
    "hole B ⌀40 ±0.1",
    "hole B from left 130",
    "from B to south 70",
    "from punch-1 to left 30",
    "mass 2.71 kg",
];

#[test]
fn a_plate_is_tied_all_at_once_and_every_figure_is_met() {
    let open = with(base_plate(), brief("P-1", &BASE));
    let untied = checks(&open);
    assert!(untied.iter().filter(|c| c.verdict == Verdict::Untied).count() >= 5, "{:?}", said(&untied));
    let done = tied(&open);
    let all = checks(&done);
    assert!(all.iter().all(|c| c.verdict == Verdict::Met), "{:#?}", said(&all));
    // Plate less cylinders: (260·140 − 4·49π − 400π)·10·7.85e-6.
    let kg = (260.0 * 140.0 - (4.0 * 49.0 + 400.0) * std::f64::consts::PI) * 10.0 * 7.85e-6;
    let mass = all.iter().find(|c| c.line == "f-9").unwrap();
    assert!((mass.value.unwrap() - kg).abs() < 1e-9, "{kg} {mass:?}");
    assert!(proposed(&done).is_empty());
    let tally = evaluate(&done).briefs[0].tally;
    assert_eq!((tally.all, tally.met, tally.off), (11, 11, 0));
}

#[test]
fn an_edit_that_breaks_a_figure_says_by_how_much_and_which_way() {
    let mut job = tied(&with(base_plate(), brief("P-1", &BASE)));
    let punch = |p: &mut Piece, text: &str| p.lines[1].say = lines(&[text])[0].say.clone();
    punch(&mut job.pieces[0], "hole ⌀13, 30.6 from west, 25 from south");
    let of =
        |line: &str, what: &str| checks(&job).into_iter().find(|c| c.line == line && c.what == what).unwrap();
    // ISO 2768-m allows ±0.2 from 6 to 30, ±0.3 from 30 to 120.
    let hole = of("f-4", "diameter");
    assert_eq!(
        (hole.verdict, hole.said.as_str()),
        (Verdict::Off, "1 mm too small, 0.8 mm beyond what is allowed",)
    );
    let from = of("f-8", "");
    assert!(from.verdict == Verdict::Off && from.said.starts_with("0.6 mm too far"), "{from:?}");
    // A width of 140 ±0.2 still stands.
    assert_eq!(of("f-2", "").verdict, Verdict::Met);
    // A hole that is gone is lost, and says which.
    job.pieces[0].lines.retain(|l| l.id != "punch-2");
    let lost = checks(&job).into_iter().find(|c| c.line == "f-6").unwrap();
    assert!(lost.verdict == Verdict::Lost && lost.said.contains("punch-2"), "{lost:?}");
    // A piece that cannot be made takes none of its figures with it in silence.
    job.pieces[0].lines.clear();
    assert!(checks(&job).iter().all(|c| c.verdict == Verdict::Lost && c.said.contains("cannot be made")));
    job.pieces.clear();
    assert!(checks(&job).iter().all(|c| c.said.contains("no piece or frame with the mark 'P-1'")));
}

#[test]
fn what_may_be_several_things_is_not_guessed() {
    // The four holes lie alike from four sides: 30 may be any of four distances.
    let job = with(base_plate(), brief("P-1", &["from to 30", "overall length 199", "hole ⌀14"]));
    let p = proposed(&job);
    assert!(p.iter().all(|p| p.patch.is_empty()), "{p:?}");
    assert!(p[0].said.contains("or 1 more: point at it"), "{}", p[0].said);
    assert_eq!(p[1].said, "nothing of the model measures so");
    assert_eq!(p[2].said, "nothing of the model measures so", "four holes are not one");
}

/// A base of 100 with walls of 40 and 30, told outside, 2 thick, R3.
fn channel() -> Piece {
    piece(
        "2",
        "3",
        &[
            "plate 100 x 60",
            "fold west up 90°, 40",
            "fold east up 90°, 30",
            "hole ⌀9 on panel, 20 from the outside of west, 30 from south",
        ],
    )
}

#[test]
fn on_a_folded_piece_figures_are_those_of_the_formed_piece() {
    let b = brief(
        "P-1",
        &[
            "overall length 100, is along east",
            "overall height 40, is upwards",
            "from fold-1.west to fold-2.east 100",
            "gap fold-1.west to fold-2.east 96",
            "from punch-1 to fold-1.west 20",
            "gap punch-1 to fold-1.west 13.5",
            "from punch-1 to left 20",
            "angle of start-1.panel to fold-1.west 90",
            "angle 90, 2 off",
            "radius R3, typical",
            "count of bends up 2",
            "parallel fold-1.west and fold-2.east",
            "square fold-1.west and start-1.panel",
            "upright fold-2.east",
            "level panel",
        ],
    );
    let mut job = with(channel(), b);
    let all = checks(&job);
    assert!(all.iter().all(|c| c.verdict == Verdict::Met), "{:#?}", said(&all));
    for (c, value) in all.iter().zip([100.0, 40.0, 100.0, 96.0, 20.0, 13.5, 20.0]) {
        assert!((c.value.unwrap() - value).abs() < 1e-9, "{}: {:?}", c.line, c.value);
    }
    // One wall bent to 87° only: it leans by three, and is told so where it should stand.
    job.pieces[0].lines[1] = lines(&["plate 100 x 60", "fold west up 87°, 40"])[1].clone();
    let all = checks(&job);
    let of = |k: usize| all[k].clone();
    assert_eq!(of(12).said, "3° out, 2.994° beyond what is allowed");
    assert!((of(7).value.unwrap().to_degrees() - 93.0).abs() < 1e-6, "{:?}", of(7));
    assert_eq!(of(2).verdict, Verdict::Lost);
    assert!(of(2).said.contains("stand at 3.00° to one another"), "{}", of(2).said);
    assert!(of(9).said.starts_with("1 too few"), "{}", of(9).said);
    assert_eq!((of(14).verdict, of(15).verdict), (Verdict::Met, Verdict::Met));
}

#[test]
fn distances_between_holes_are_told_between_middles_edges_or_one_way() {
    let p = piece(
        "3",
        "",
        &[
            "plate 200 x 100",
            "hole ⌀10, 40 from west, 30 from south",
            "hole ⌀20, 70 from west, 70 from south",
        ],
    );
    let b = brief(
        "P-1",
        &[
            "from punch-1 to punch-2 50",
            "gap punch-1 to punch-2 35",
            "over punch-1 to punch-2 65",
            "from punch-1 to punch-2 30, along east",
            "gap punch-1 to punch-2 25, along north",
            "in line punch-1, punch-2",
            "equal punch-1 and punch-2, within 1",
            "from punch-1 to punch-1 1",
            "from punch-1 to top 1",
        ],
    );
    let all = checks(&with(p, b));
    for (c, value) in all.iter().zip([50.0, 35.0, 65.0, 30.0, 25.0, 0.0, 10.0]) {
        assert!((c.value.unwrap() - value).abs() < 1e-9, "{}: {:?}", c.line, c.value);
    }
    assert_eq!(all[6].said, "10 mm out, 9 mm beyond what is allowed");
    assert_eq!(all[7].said, "both ends are hole punch-1");
    assert!(all[8].said.contains("runs into top side at 90.0°"), "{}", all[8].said);
}

#[test]
fn tolerances_are_its_own_uneven_within_limits_or_the_class_of_the_title_block() {
    let lines = [
        "overall length 200.4 ±0.3",
        "overall length 199.9 +0.2 -0.05",
        "overall length 210, within 199 to 200.5",
        "overall length 200.4",
        "overall length 201.1",
    ];
    let mut b = brief("P-1", &lines.map(|l| format!("{l}, is along east")).each_ref().map(String::as_str));
    let plate = piece("3", "", &["plate 200 x 100"]);
    let verdicts =
        |b: &Brief| checks(&with(plate.clone(), b.clone())).iter().map(|c| c.verdict).collect::<Vec<_>>();
    use Verdict::{Met, Off};
    assert_eq!(verdicts(&b), [Off, Met, Met, Met, Off], "ISO 2768-m: ±0.5");
    b.class = steelk_core::shop::tolerances::ToleranceClass::Iso2768F;
    assert_eq!(verdicts(&b)[3..], [Off, Off], "ISO 2768-f: ±0.2");
    b.class = steelk_core::shop::tolerances::ToleranceClass::Iso13920A;
    assert_eq!(verdicts(&b)[3..], [Met, Off], "ISO 13920-A: ±1");
}

#[test]
fn a_drawing_in_inches_is_read_in_inches() {
    let mut plate = piece("1/4", "", &["plate 11 x 6", "hole ⌀0.4375, 1/2 from west, 1 from south"]);
    plate.display = Some(Display { length: LengthUnit::In, ..Display::default() });
    let mut b = brief(
        "P-1",
        &["overall length 11in ±1/32", "hole A ⌀.4375", "A from left 0.5", "thickness 1/4", "mass 4.67 lb"],
    );
    b.display = plate.display;
    let job = tied(&with(plate, b));
    let all = checks(&job);
    assert!(all.iter().all(|c| c.verdict == Verdict::Met), "{:#?}", said(&all));
    // 11 × 6 × 1/4 less the hole, 7850 kg/m³.
    let lb = (66.0 - 0.4375f64.powi(2) * std::f64::consts::PI / 4.0) * 0.25 * 25.4f64.powi(3) * 7.85e-6
        / 0.453_592_37;
    assert!((lb - 4.67).abs() < 0.005, "{lb}");
}

#[test]
fn figures_of_a_frame_are_those_of_its_bars() {
    let text = "frame F-1 \"Leg\", 1 off, of CHS 48.3x3, material s235\n  node A 0 0 0\n  \
                node B 300 0 400\n  node C 600 0 0\n  leg: brace A B CHS 48.3x3\n";
    let (frame, faults) = text::read_frame(text);
    let frame = frame.unwrap_or_else(|| panic!("{faults:?}"));
    let b = brief(
        "F-1",
        &[
            "from A to C 600",
            "from A to B 300, along east",
            "length of leg-1 500",
            "count of members 1",
            "overall length 338.64, is along east",
            "overall width 48.3, is along north",
            "overall height 428.98, is upwards",
        ],
    );
    let job = Job { frames: vec![frame], briefs: vec![b], ..job(school(Default::default())) };
    let r = evaluate(&job);
    assert!(r.frames[0].made && r.frames[0].faults.is_empty(), "{:?}", r.frames[0].faults);
    let all = &r.briefs[0].checks;
    let names: Vec<&str> = r.frames[0].members.iter().map(|m| m.name.as_str()).collect();
    // A round bar of 500 with square ends, 3 : 4: it reaches 500·0.6 + 48.3·0.8 across, 500·0.8 + 48.3·0.6
    // up.
    for (k, value) in [(0, 600.0), (1, 300.0), (4, 300.0 + 48.3 * 0.8), (5, 48.3), (6, 400.0 + 48.3 * 0.6)] {
        assert!((all[k].value.unwrap_or(f64::NAN) - value).abs() < 1e-6, "{k} {names:?}: {:?}", all[k]);
    }
}

#[test]
fn a_brief_is_a_text_like_all_else_of_a_job() {
    let job = tied(&with(base_plate(), brief("P-1", &BASE)));
    let printed = text::print_job(&job);
    assert!(printed.contains("brief D-1 \"\", of P-1"), "{printed}");
    assert!(printed.contains("hole ⌀14, 4 off, is punch-1"), "{printed}");
    let (again, faults) = text::read_job(&printed);
    assert!(faults.is_empty(), "{faults:?}");
    assert_eq!(again.briefs[0].lines.len(), job.briefs[0].lines.len());
    for (a, b) in again.briefs[0].lines.iter().zip(&job.briefs[0].lines) {
        assert_eq!(a.say, b.say);
    }
}

#[test]
fn drawings_own_writing_is_spelled_out_once_and_no_more() {
    let wild =
        ["hole from from x 3", "4 x 4 x 9", "1 +2 -3 +4 -5 +6 -7", "R5 from from to 9", "x from x x x"];
    for text in wild.into_iter().map(str::to_string).chain(["9 x ".repeat(5000), "hole from ".repeat(9000)]) {
        if let Err(f) = read_figure(&text, &Context::default()) {
            assert!(!f.mend.is_empty() && f.end <= text.chars().count(), "{f:?}");
        }
    }
}

#[test]
fn a_wrong_figure_is_told_at_its_field_and_the_others_go_on() {
    let mut b =
        brief("P-1", &["overall length 260, is along east", "hole A ⌀14", "hole A ⌀40", "thickness 10"]);
    if let DrawingFigure::Overall(o) = &mut b.lines[0].say {
        o.value = "90°".into();
    }
    let r = evaluate(&with(base_plate(), b));
    let told: Vec<(&str, &str)> =
        r.briefs[0].faults.iter().map(|f| (f.line.as_str(), f.path.as_str())).collect();
    assert_eq!(told, [("f-1", "/say/value"), ("f-3", "/say/label")]);
    assert_eq!(r.briefs[0].checks.last().unwrap().verdict, Verdict::Met);
}

#[test]
fn what_the_drawing_does_not_speak_of_is_found_by_changing_it() {
    let half =
        ["overall length 260, is along east", "thickness 10", "4 × ⌀14, is punch-1", "count of pieces 1"];
    let job = with(base_plate(), brief("P-1", &half));
    let c = coverage(&job, &evaluate(&job), "brief-1").unwrap();
    let mut open: Vec<String> = c.unchecked.iter().map(|u| format!("{} {}", u.line, u.value)).collect();
    open.sort();
    // The width, the places of the holes, their pitch, and all of the hole in the middle.
    assert_eq!(
        open,
        [
            "punch-1 25",
            "punch-1 30",
            "punch-2 130",
            "punch-2 40",
            "punch-2 70",
            "repeat-1 200",
            "start-1 140"
        ]
    );
    assert!(c.unchecked.iter().any(|u| u.said.contains("plate 260 x 140")), "{:?}", c.unchecked);
    // Two holes along and four in all follow the count of the repeat; nothing stands for itself.
    assert!(c.unmoved.is_empty() && c.unknown.is_empty(), "{c:?}");
    let all = [
        BASE.as_slice(),
        &["from punch-1 to south 25", "from punch-1 to repeat-1 200, along east", "count of pieces 1"],
    ]
    .concat();
    let job = tied(&with(base_plate(), brief("P-1", &all)));
    assert!(checks(&job).iter().all(|c| c.verdict == Verdict::Met), "{:#?}", said(&checks(&job)));
    let c = coverage(&job, &evaluate(&job), "brief-1").unwrap();
    assert!(c.unchecked.is_empty(), "{:?}", c.unchecked);
    // What is told of a piece that nothing of it decides: the angle of a plate's own corner.
    let b = brief("P-1", &["angle of start-1.north to start-1.west 90", "thickness 10"]);
    let job = with(base_plate(), b);
    let c = coverage(&job, &evaluate(&job), "brief-1").unwrap();
    assert_eq!(c.unmoved, ["f-1"]);
}

#[test]
fn in_a_frame_and_in_inches_as_well() {
    let text = "frame F-1 \"Leg\", 1 off, of CHS 48.3x3, material s235, in inches\n  node A 0 0 0\n  \
                node B 12 0 16\n  leg: brace A B CHS 48.3x3\n";
    let frame = text::read_frame(text).0.unwrap();
    let mut b = brief("F-1", &["from A to B 12, along east", "count of pieces 1"]);
    b.display = frame.display;
    let job = Job { frames: vec![frame], briefs: vec![b], ..job(school(Default::default())) };
    let c = coverage(&job, &evaluate(&job), "brief-1").unwrap();
    let open: Vec<&str> = c.unchecked.iter().map(|u| u.value.as_str()).collect();
    assert!(open.contains(&"16") && !open.contains(&"12"), "{c:?}");
    assert!(coverage(&job, &evaluate(&job), "no").unwrap_err().contains("no brief"));
}

#[test]
fn an_untied_angle_is_proposed_by_what_its_own_sides_allow() {
    // ISO 2768-m: half a degree where the shorter side is 40, five minutes beyond 400.
    let of = |angle: &str| {
        let p = piece("2", "3", &["plate 100 x 60", &format!("fold west up {angle}, 40")]);
        proposed(&with(p, brief("P-1", &["angle 90"])))[0].clone()
    };
    assert_eq!(of("90.4°").patch.len(), 1, "{:?}", of("90.4°"));
    assert_eq!(of("90.6°").said, "nothing of the model measures so");
}

#[test]
fn the_inside_radius_of_a_bend_is_held_to_the_tolerance_of_a_length() {
    // ISO 2768-1, table 1: R5 ± 0.1; the half millimetre of table 2 is of outside edges.
    let verdict = |r: &str| {
        let p = piece("2", r, &["plate 100 x 60", "fold west up 90°, 40"]);
        checks(&with(p, brief("P-1", &["radius R5, typical"])))[0].verdict
    };
    assert_eq!((verdict("5.1"), verdict("5.2")), (Verdict::Met, Verdict::Off));
}

#[test]
fn where_there_is_too_much_to_try_nothing_is_guessed() {
    let p = piece(
        "1",
        "",
        &["plate 400 x 100", "hole ⌀2, 13 from west, 11 from south", "repeat punch-1, 100 at 3.7 east"],
    );
    // The hundredth hole is not among those that are tried: one candidate may not be the only one.
    let said = proposed(&with(p, brief("P-1", &["from to 13"])))[0].clone();
    assert!(said.patch.is_empty() && said.said.contains("too much to try"), "{said:?}");
}

#[test]
fn what_follows_nothing_is_told_of_its_own_brief_alone() {
    let mut other = brief("P-1", &["angle of start-1.north to start-1.west 90", "thickness 10"]);
    other.id = "brief-2".into();
    let mut job = with(base_plate(), brief(" p-1 ", &["overall length 260, is along east", "thickness 10"]));
    job.briefs.push(other);
    let of = |id: &str| coverage(&job, &evaluate(&job), id).unwrap();
    assert!(of("brief-1").unmoved.is_empty(), "{:?}", of("brief-1").unmoved);
    assert_eq!(of("brief-2").unmoved, ["f-1"]);
    // What the one says is checked for the other.
    assert_eq!(of("brief-1").unchecked, of("brief-2").unchecked);
}

/// Radii of the outline: rounded corners by the names of their corners, curved sides by their own; said once
/// for all where nothing is bent.
#[test]
fn radii_of_curved_edges_and_rounded_corners_are_tied_and_checked() {
    let plate = || piece("6", "6", &["plate 200 x 100", "round 12"]);
    let once = tied(&with(plate(), brief("P-1", &["radius R12"])));
    let said_once = serde_json::to_value(&once.briefs[0].lines[0].say).unwrap();
    assert_eq!(said_once["all"], true);
    assert_eq!(said(&checks(&once)), ["Met 12.0 mm 12.0 mm "]);
    let named = with(plate(), brief("P-1", &["radius of north-east R11 ±0.5"]));
    let check = &checks(&named)[0];
    assert_eq!((format!("{:?}", check.verdict).as_str(), check.measured.as_str()), ("Off", "12.0 mm"));
    assert_eq!(check.names, ["north-east"]);
    // One corner otherwise: the worst of all is what is told.
    let odd = piece("6", "6", &["plate 200 x 100", "round 12 at north-east", "round 20 at south-west"]);
    let worst = &checks(&with(odd, brief("P-1", &["radius R12, typical"])))[0];
    assert_eq!((worst.measured.as_str(), &*worst.names[0]), ("20.0 mm", "south-west"));
    // A D-plate's curve is a side of its own; beside bends a curve has to be named.
    let d = tied(&with(piece("6", "6", &["D-plate ⌀80, 60 across"]), brief("P-1", &["radius R40"])));
    assert_eq!(said(&checks(&d)), ["Met 40.0 mm 40.0 mm "]);
    let bent = piece("2", "3", &["plate 200 x 100", "fold north up 90°, 30", "round 9 at south-east"]);
    let both = tied(&with(bent, brief("P-1", &["radius R9", "radius R3"])));
    assert_eq!(said(&checks(&both)), ["Met 9.0 mm 9.0 mm ", "Met 3.0 mm 3.0 mm "]);
}

/// Figures stand under the view that is told above them, through text and back, and on the check sheet: no
/// view's name stands alone at the end of a sheet, and one that goes on says so.
#[test]
fn figures_are_grouped_by_the_views_above_them() {
    let lines = [
        "overall width 200",
        "view \"front\"",
        "overall height 100",
        "thickness 6",
        "section a-a",
        "mass 1 kg",
    ];
    let mut lines = brief("P-1", &lines);
    let long = brief("P-1", &["thickness 6"]).lines.remove(0);
    let more = |n: usize| BriefLine { id: format!("long-{n}"), ..long.clone() };
    let plain = with(piece("6", "6", &["plate 200 x 100"]), lines.clone());
    let views: Vec<String> = checks(&plain).into_iter().map(|c| c.view).collect();
    assert_eq!(views, ["", "front", "front", "section A-A"]);
    let (back, faults) = read_brief(&print_brief(&lines, true));
    assert_eq!((back.unwrap().lines, faults.len()), (lines.lines.clone(), 0));
    // Every length of the second view, so that each place of a sheet's end is met.
    for n in 0..60 {
        let r = evaluate(&with(piece("6", "6", &["plate 200 x 100"]), lines.clone()));
        let head = CheckHead { title: "D-1".into(), job: "J", class: "" };
        let sheets = check_sheet(&r.briefs[0], &head);
        let heads: Vec<Vec<(f64, String)>> = sheets.iter().map(bold_rows).collect();
        let told: Vec<&str> = heads.iter().flatten().map(|h| h.1.as_str()).collect();
        let begun: Vec<&&str> = told.iter().filter(|t| !t.ends_with(", continued")).collect();
        assert_eq!(begun, [&"front", &"section A-A"], "{n}");
        for (sheet, of) in sheets.iter().zip(&heads) {
            let last = figures_on(sheet);
            assert!(of.iter().all(|h| h.0 < last), "{n}: a view's name is the last on its sheet");
        }
        for (sheet, of) in heads.iter().enumerate().skip(1) {
            assert!(!of.is_empty(), "sheet {} of {n} says no view", sheet + 1);
        }
        lines.lines.push(more(n));
    }
}

/// Names of views on a sheet, with how far down they stand.
fn bold_rows(sheet: &Drawing) -> Vec<(f64, String)> {
    let row = |i: &Item| match i {
        Item::Text { at, text, bold: true, size, .. } if *size == 3.4 => Some((at.y, text.clone())),
        _ => None,
    };
    sheet.items.iter().filter_map(row).collect()
}

/// How far down the last figure stands.
fn figures_on(sheet: &Drawing) -> f64 {
    let row = |i: &Item| match i {
        Item::Text { at, bold: false, size, text, .. } if *size == 3.4 && text.ends_with("mm") => Some(at.y),
        Item::Text { at, bold: false, size, text, .. } if *size == 3.4 && text.contains("kg") => Some(at.y),
        _ => None,
    };
    sheet.items.iter().filter_map(row).fold(0.0, f64::max)
}

/// Legs of a strip are as long as they are told: from the outside of their bends.
#[test]
fn the_edges_of_legs_are_as_long_as_drawings_have_them() {
    let strip = piece("4", "5", &["strip 60 wide: 95, up 75°, 260, down 120°, 80"]);
    let lines =
        ["length of start-1.a.north 95", "length of start-1.b.south 260", "length of start-1.c.north 80"];
    let r = checks(&with(strip, brief("P-1", &lines)));
    assert_eq!(said(&r), ["Met 95.0 mm 95.0 mm ", "Met 260.0 mm 260.0 mm ", "Met 80.0 mm 80.0 mm "]);
}
