//! Rows of ribs, the bars through them and the tubes between: by hand, over random rows, and what is refused.

use std::f64::consts::PI;

use approx::assert_relative_eq;
use glam::{DVec2, DVec3};
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::evaluate::{cut_list, evaluate, evaluate_frame};
use steelk_core::frame::*;
use steelk_core::job::*;

use crate::common::frame::*;

/// A job with profiles, told as text, and a frame of its own lines.
pub fn row_of(pieces: &[&str], lines: &[&str]) -> (Job, FrameResult) {
    let (mut job, frame) = told("40x40x3", JointHow::Butt, lines);
    for (k, text) in pieces.iter().enumerate() {
        let (piece, faults) = text::read_piece(text);
        assert!(faults.is_empty(), "{faults:?} in {text}");
        job.pieces.push(Piece { id: format!("p-{k}"), ..piece.unwrap() });
    }
    let r = evaluate_frame(&job, &frame);
    job.frames.push(frame);
    (job, r)
}

const BOARD: &str = "piece P-30 \"rib\", 0 off, 18 thick plywood\n  plate 480 x 420\n";

pub fn plates<'a>(r: &'a FrameResult, line: &str) -> Vec<(&'a Plate, &'a PlatePlace)> {
    let of = |p: &'a Plate| p.places.iter().map(move |q| (p, q));
    let mut out: Vec<_> = r.plates.iter().flat_map(of).collect();
    let number = |name: &str| name.split(['.', '#']).nth(1).and_then(|n| n.parse::<usize>().ok());
    out.retain(|(_, q)| q.name.split(['.', '#']).next() == Some(line));
    out.sort_by_key(|(_, q)| (q.name.contains('#'), number(&q.name)));
    out
}

/// From where to where a plate reaches along a way.
pub fn spread((p, q): &(&Plate, &PlatePlace), d: DVec3) -> [f64; 2] {
    let t = p.piece.thickness;
    let corner = |v: DVec2, h: f64| (q.o + q.x * v.x + q.y * v.y + q.z * h).dot(d);
    let all = p.piece.flat.outer.vertices.iter().flat_map(|v| [corner(v.p, 0.0), corner(v.p, t)]);
    all.fold([f64::INFINITY, f64::NEG_INFINITY], |[l, h], v| [l.min(v), h.max(v)])
}

/// 24 ribs of board over 1200 on three tubes with spacers on two of them.
#[test]
fn a_drying_bench_by_hand() {
    let (job, r) = row_of(
        &[BOARD],
        &[
            "ribs P-30, 24 off, over 1200",
            "through ribs-1: CHS 26.9x2.3, 60 from west, 70 from south, overhang 40, \
             clearance 1, spacers CHS 33.7x2.6",
            "through ribs-1: CHS 26.9x2.3, 60 from east, 70 from south, overhang 40, \
             clearance 1, spacers CHS 33.7x2.6",
            "through ribs-1: CHS 26.9x2.3, 60 from north, overhang 40, clearance 1",
        ],
    );
    clean(&r);
    let pitch = (1200.0 - 18.0) / 23.0;
    let ribs = plates(&r, "ribs-1");
    assert_eq!(ribs.len(), 24);
    for (k, rib) in ribs.iter().enumerate() {
        let [near, far] = spread(rib, DVec3::Y);
        assert_relative_eq!(near, pitch * k as f64, epsilon = 1e-9);
        assert_relative_eq!(far, pitch * k as f64 + 18.0, epsilon = 1e-9);
        let sides = [DVec3::X, DVec3::Z].map(|d| spread(rib, d));
        assert_relative_eq!(sides[0][1] - sides[0][0], 480.0, epsilon = 1e-9);
        assert_relative_eq!(sides[1][0], 0.0, epsilon = 1e-9);
        assert_eq!(rib.0.piece.flat.holes.len(), 3);
    }
    let hole = PI * 13.95f64.powi(2);
    let board = 24.0 * (480.0 * 420.0 - 3.0 * hole) * 18.0 * 650e-9;
    let bars = 3.0 * 1280.0 * PI * (13.45f64.powi(2) - 11.15f64.powi(2)) * 7850e-9;
    let ring = PI * (16.85f64.powi(2) - 14.25f64.powi(2));
    let spacers = 46.0 * (pitch - 18.0) * ring * 7850e-9;
    assert_relative_eq!(r.mass(), board + bars + spacers, max_relative = 1e-9);
    for name in ["through-1", "through-2", "through-3"] {
        assert_relative_eq!(of(&r, name).0.length, 1280.0, epsilon = 1e-9);
    }
    // Each spacer stands between its two ribs, round its bar.
    for (k, tube) in plates(&r, "through-1").iter().enumerate() {
        let [near, far] = spread(tube, DVec3::Y);
        assert_relative_eq!(near, pitch * k as f64 + 18.0, epsilon = 1e-9);
        assert_relative_eq!(far, pitch * (k + 1) as f64, epsilon = 1e-9);
        let across = spread(tube, DVec3::X);
        assert_relative_eq!(across[0] + across[1], 2.0 * 60.0, epsilon = 1e-9);
    }
    let list = cut_list(&job, &evaluate(&job));
    assert!(list.rows.is_empty(), "a piece told 0 off is in no list");
    let rows: Vec<(usize, &str)> =
        list.frames[0].plates.iter().map(|p| (p.quantity, p.stock.as_str())).collect();
    assert_eq!(rows, [(24, "plate 18"), (46, "tube 33.7 × 2.6")]);
    let note = r.findings.iter().find(|f| f.check == "ribs").unwrap();
    assert!(note.message.contains("24 ribs 18 thick every 51.4 mm, 33.4 mm between, 1200.0 mm over all"));
    assert!(note.message.contains("23 spacers of CHS 33.7x2.6, 33.4 mm long"));
}

/// Blanks in a grid: 5 by 2 on a sheet of 2500 × 1250, 7 by 3 turned on one of 3000 × 1500, which takes
/// less.
#[test]
fn blanks_of_ribs_are_laid_in_a_grid() {
    let said = |sheets: &[[&str; 2]], lines: &[&str]| {
        let (mut job, _) = row_of(&[BOARD], lines);
        let sheet =
            |[length, width]: &[&str; 2]| StockSheet { length: (*length).into(), width: (*width).into() };
        job.stock = sheets.iter().map(sheet).collect();
        let r = evaluate_frame(&job, &job.frames[0]);
        let note = r.findings.iter().find(|f| f.check == "rib_sheets").unwrap();
        note.message.clone()
    };
    let row = ["ribs P-30, 24 off, over 1200"];
    let start = "ribs-1: 24 blanks, 480.0 × 420.0 mm, 4.8384 m² in all";
    assert_eq!(said(&[], &row), start);
    let one = said(&[["2500", "1250"]], &row);
    let grid = format!("{start}; edge to edge in a grid");
    assert_eq!(one, format!("{grid} 10 to a sheet of 2500.0 × 1250.0 mm: 3 sheets"));
    let two = said(&[["2500", "1250"], ["3000", "1500"]], &row);
    assert_eq!(two, format!("{grid} 21 to a sheet of 3000.0 × 1500.0 mm: 2 sheets"));
    assert_eq!(said(&[["400", "400"]], &row), format!("{start}; no sheet of the stock holds one"));
    // Exactly as many as fit, and a mirrored row counts.
    let both = said(&[["960", "420"]], &["ribs P-30, 3 off, every 50", "mirror ribs-1 east 2000"]);
    assert!(
        both.contains("6 blanks") && both.ends_with("2 to a sheet of 960.0 × 420.0 mm: 3 sheets"),
        "{both}"
    );
}

/// What cannot be read as a count still stands in the list, with its fault.
#[test]
fn only_what_is_told_0_off_is_left_out() {
    let (job, _) = row_of(&[BOARD, &BOARD.replace("P-30", "P-31").replace("0 off", "2 off")], &[]);
    let mut odd = job.clone();
    odd.pieces[0].quantity = "some".into();
    let marks = |job: &Job| -> Vec<String> {
        cut_list(job, &evaluate(job)).rows.iter().map(|r| r.mark.clone()).collect()
    };
    assert_eq!(marks(&job), ["P-31"]);
    assert_eq!(marks(&odd), ["P-30", "P-31"]);
}

#[rstest]
#[case("to the north", [DVec3::X, DVec3::Z, DVec3::Y])]
#[case("to the east", [DVec3::Y, DVec3::Z, DVec3::X])]
#[case("one above the other", [DVec3::X, DVec3::Y, DVec3::Z])]
fn rows_run_three_ways(#[case] way: &str, #[case] axes: [DVec3; 3]) {
    let lines = [
        "node A 100 200 300".to_string(),
        format!("ribs P-30, 4 off, gap 30, {way}, on A"),
        "through ribs-1: FLAT 30x10, 100 from west, 50 from south, overhang 5, clearance 2".into(),
        "mirror ribs-1 and through-1 east 4000".into(),
    ];
    let (_, r) = row_of(&[BOARD], &lines.each_ref().map(String::as_str));
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let at = DVec3::new(100.0, 200.0, 300.0);
    let ribs = plates(&r, "ribs-1");
    assert_eq!(ribs.len(), 8, "and as many in the mirror");
    assert_eq!(r.plates.len(), 1, "all of them equal");
    for (k, rib) in ribs[..4].iter().enumerate() {
        let told = [[0.0, 480.0], [0.0, 420.0], [48.0 * k as f64, 48.0 * k as f64 + 18.0]];
        for (d, told) in axes.iter().zip(told) {
            let got = spread(rib, *d);
            assert_relative_eq!(got[0], at.dot(*d) + told[0], epsilon = 1e-9);
            assert_relative_eq!(got[1], at.dot(*d) + told[1], epsilon = 1e-9);
        }
        // The hole is the bar's rectangle and a millimetre all round, about its middle.
        let (p, q) = rib;
        let b = p.piece.flat.holes[0].contour.bounds();
        let size = [b.size().max_element(), b.size().min_element()];
        assert_relative_eq!(size[0], 32.0, epsilon = 1e-9);
        assert_relative_eq!(size[1], 12.0, epsilon = 1e-9);
        let middle = q.o + q.x * b.centre().x + q.y * b.centre().y;
        let bar = of(&r, "through-1").0.end(0);
        assert!((middle - bar.o).cross(bar.d).length() < 1e-9);
    }
    assert_relative_eq!(of(&r, "through-1").0.length, 3.0 * 48.0 + 18.0 + 10.0, epsilon = 1e-9);
    assert_relative_eq!(of(&r, "mirror-1.through-1").0.length, 172.0, epsilon = 1e-9);
}

/// From a small plate with a hole to a larger one: every rib is a piece of its own, in equal steps.
#[test]
fn one_profile_turns_into_another() {
    let small = "piece P-1 \"rib\", 0 off, 6 thick s235\n  plate 100 x 50\n  round 10\n  hole ⌀20\n";
    let large = "piece P-2 \"rib\", 0 off, 6 thick s235\n  plate 200 x 90\n  round 20\n  hole ⌀40\n";
    let pieces = [small, large].map(|t| t.replace("round, r", "round R").replace("hole d ", "hole ⌀"));
    let (_, r) =
        row_of(&pieces.each_ref().map(String::as_str), &["ribs P-1 to P-2, 5 off, every 80, to the east"]);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let ribs = plates(&r, "ribs-1");
    assert_eq!((ribs.len(), r.plates.len()), (5, 5));
    for (k, (p, _)) in ribs.iter().enumerate() {
        let s = k as f64 / 4.0;
        let mix = |a: f64, b: f64| a + (b - a) * s;
        let (w, h, round, d) = (mix(100.0, 200.0), mix(50.0, 90.0), mix(10.0, 20.0), mix(20.0, 40.0));
        let area = w * h - (4.0 - PI) * round * round - PI * d * d / 4.0;
        assert_relative_eq!(p.piece.value("area"), area, epsilon = 1e-6);
        // Its mark is cut into it, clear of its edge and of its hole; equal ribs need none.
        let [word] = p.piece.flat.guides.as_slice() else { panic!("{:?}", p.piece.flat.guides) };
        assert_eq!(word.text, format!("F/P{}", k + 1));
        let at = DVec2::from(word.from);
        let flat = &p.piece.flat;
        let near = flat.outer.segments().chain(flat.holes[0].contour.segments());
        let room = near.map(|s| s.nearest(at).distance(at)).fold(f64::INFINITY, f64::min);
        assert!(flat.outer.contains(at) && !flat.holes[0].contour.contains(at) && room > 0.4 * (w - d) / 2.0);
    }
    let (_, equal) = row_of(&pieces.each_ref().map(String::as_str), &["ribs P-1, 5 off, every 80"]);
    assert!(equal.plates.iter().all(|p| p.piece.flat.guides.is_empty()));
}

const BENT: &str = "piece P-9 \"rib\", 0 off, 2 thick s235\n  plate 100 x 80\n  fold north up 90°, 30\n";
const TAPPED: &str = "piece P-8 \"rib\", 0 off, 8 thick s235\n  plate 100 x 80\n  tapped hole M8\n";

#[rstest]
#[case(&["ribs P-77, 4 off, over 300"], "/profile")]
#[case(&["ribs P-9, 4 off, over 300"], "/profile")]
#[case(&["ribs P-8, 4 off, over 300"], "/profile")]
#[case(&["ribs P-30 to P-9, 4 off, over 300"], "/last")]
#[case(&["ribs P-30 to P-7, 4 off, over 300"], "/last")]
#[case(&["ribs P-30 to P-6, 4 off, over 300"], "/last")]
#[case(&["ribs P-30, 4 off, over 300, ends P-7"], "/end_profile")]
#[case(&["ribs P-30, 4 off, over 300, ends P-77"], "/end_profile")]
#[case(&["ribs P-30, 4 off, over 300, with P-7 each 2"], "/among/profile")]
#[case(&["ribs P-30, 4 off, over 300, with P-6 each 5"], "/nth")]
#[case(&["ribs P-30, 4 off, over 300, with P-6 each 1"], "/nth")]
#[case(&["ribs P-30, 0 off, over 300"], "/count")]
#[case(&["ribs P-30, 20 off, over 300"], "/spread/length")]
#[case(&["ribs P-30, 4 off, every 17"], "/spread/pitch")]
#[case(&["ribs P-30, 4 off, every 30, on Q"], "/at")]
#[case(&["through ribs-1: FLAT 30x10"], "/of")]
#[case(&["ribs P-30, 4 off, every 30", "through ribs-1: CHS 26.9x2.3, 10 from west"], "/x")]
#[case(&["ribs P-30, 4 off, every 30", "through ribs-1: CHS 26.9x2.3, 900 from west"], "/x")]
#[case(&["ribs P-30, 4 off, every 30", "through ribs-1: CHS 600x10"], "/y")]
#[case(&["ribs P-30, 4 off, every 30", "through ribs-1: CHS 26.9x2.3", "through ribs-1: FLAT 30x10"], "/y")]
#[case(&["ribs P-6, 4 off, every 30", "through ribs-1: CHS 26.9x2.3"], "/y")]
#[case(&["ribs P-30, 4 off, every 30", "through ribs-1: CHS 26.9x2.3, spacers CHS 26.9x2.3"], "/spacers")]
#[case(&["ribs P-30, 4 off, every 30", "through ribs-1: CHS 26.9x2.3, spacers 40x40x3"], "/spacers")]
#[case(&["ribs P-30, 4 off, gap 0", "through ribs-1: FLAT 30x10, spacers CHS 40x2"], "/spacers")]
fn what_is_no_row_is_refused_with_its_field(#[case] lines: &[&str], #[case] field: &str) {
    let other = "piece P-7 \"rib\", 0 off, 12 thick plywood\n  plate 480 x 420\n";
    let six = "piece P-6 \"rib\", 0 off, 18 thick plywood\n  plate 480 x 420\n  hole ⌀20\n";
    let mut all = vec!["node A 0 0 900", "stack on A: 10 x 10 x 10"];
    all.extend(lines);
    let (_, r) = row_of(&[BOARD, BENT, TAPPED, other, six], &all);
    let fault = r.faults.first().unwrap_or_else(|| panic!("{lines:?} was taken"));
    assert!(fault.path.ends_with(field), "{} {:?} for {lines:?}", fault.path, fault.fault);
    assert!(!fault.fault.mend.is_empty());
    assert!(!plates(&r, "stack-1").is_empty(), "the rest stands");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// Every row is made, or says why; ribs stand at equal steps, each with a hole for each bar on its line.
    #[test]
    fn rows_at_random(
        count in 1usize..60, t in 1.0..25.0f64, told in 1.0..120.0f64, how in 0usize..3, way in 0usize..3,
        bars in prop::collection::vec((0.0..300.0f64, 0.0..200.0f64, 5.0..40.0f64, 0.0..50.0f64), 0..5),
    ) {
        let piece = format!("piece P-1 \"rib\", 0 off, {t} thick s235\n  plate 300 x 200\n");
        let spread_said = match how {
            0 => format!("over {}", told * 20.0),
            1 => format!("every {told}"),
            _ => format!("gap {told}"),
        };
        let way_said = ["to the north", "to the east", "one above the other"][way];
        let mut lines = vec![format!("ribs P-1, {count} off, {spread_said}, {way_said}")];
        for (x, y, d, over) in &bars {
            lines.push(format!("through ribs-1: round {d}, {x} from west, {y} from south, overhang {over}"));
        }
        let (_, r) = row_of(&[&piece], &lines.iter().map(String::as_str).collect::<Vec<_>>());
        let pitch = match how {
            0 if count == 1 => t,
            0 => (told * 20.0 - t) / (count - 1) as f64,
            1 => told,
            _ => told + t,
        };
        let ribs = plates(&r, "ribs-1");
        if ribs.is_empty() {
            prop_assert!(pitch < t, "{:?}", r.faults);
            prop_assert!(r.faults.iter().any(|f| f.line == "ribs-1" && !f.fault.mend.is_empty()));
            return Ok(());
        }
        prop_assert_eq!(ribs.len(), count);
        let d = [DVec3::Y, DVec3::X, DVec3::Z][way];
        let refused: Vec<&str> = r.faults.iter().map(|f| f.line.as_str()).collect();
        for (k, rib) in ribs.iter().enumerate() {
            let [near, far] = spread(rib, d);
            prop_assert!((near - pitch * k as f64).abs() < 1e-6 && (far - near - t).abs() < 1e-6);
            prop_assert_eq!(rib.0.piece.flat.holes.len(), bars.len() - refused.len());
        }
        let mut stood: Vec<(f64, f64, f64)> = Vec::new();
        for (k, (x, y, dia, over)) in bars.iter().enumerate() {
            let line = format!("through-{}", k + 1);
            let inside = *x > dia / 2.0 && *x < 300.0 - dia / 2.0 && *y > dia / 2.0 && *y < 200.0 - dia / 2.0;
            let clear = stood.iter().all(|s| (s.0 - x).hypot(s.1 - y) > (s.2 + dia) / 2.0);
            if refused.contains(&line.as_str()) {
                prop_assert!(!inside || !clear, "{line} was refused: {:?}", r.faults);
                continue;
            }
            prop_assert!(inside, "{line} was taken");
            stood.push((*x, *y, *dia));
            let m = of(&r, &line).0;
            let whole = pitch * (count - 1) as f64 + t + 2.0 * over;
            prop_assert!((m.length - whole).abs() < 1e-6);
            for (p, q) in &ribs {
                let on = |c: DVec2| q.o + q.x * c.x + q.y * c.y;
                let near = p.piece.flat.holes.iter().any(|h| {
                    let c = on(h.contour.centroid());
                    (c - m.end(0).o).cross(m.end(0).d).length() < 1e-6
                });
                prop_assert!(near, "no hole of {} lies on {line}", q.name);
            }
        }
    }
}

/// A bar in three pieces, butted in the middle of the ribs next to a third and two thirds of it; no more
/// pieces than there are ribs to butt them in.
#[test]
fn a_bar_in_pieces() {
    let row = |line: &str| row_of(&[BOARD], &["ribs P-30, 7 off, every 100, to the east", line]);
    let (_, r) = row("through ribs-1: round 20, 60 from west, overhang 40, clearance 1, pieces 3");
    clean(&r);
    // 698 over all: a third at 192.7, the middles of ribs at 9, 109, 209, …
    let ends = [-40.0, 209.0, 409.0, 658.0];
    for (k, told) in ends.windows(2).enumerate() {
        let m = of(&r, &format!("through-1.{}", k + 1)).0;
        assert_relative_eq!(m.length, told[1] - told[0], epsilon = 1e-9);
        assert_relative_eq!(m.end(0).o.x, told[0], epsilon = 1e-9);
    }
    let bars = 698.0 * PI * 100.0 * 7850e-9;
    let boards = 7.0 * (480.0 * 420.0 - PI * 10.5f64.powi(2)) * 18.0 * 650e-9;
    assert_relative_eq!(r.mass(), bars + boards, max_relative = 1e-9);
    let note = r.findings.iter().find(|f| f.check == "ribs").unwrap();
    assert!(note.message.contains("ROUND 20 249.0 mm and 200.0 mm and 249.0 mm long"), "{}", note.message);
    // Eight pieces are butted in all seven ribs, nine in none.
    let (_, r) = row("through ribs-1: round 20, 60 from west, pieces 8");
    clean(&r);
    assert_eq!(r.members.len(), 8);
    let (_, r) = row("through ribs-1: round 20, 60 from west, pieces 9");
    assert_eq!(r.faults[0].path.rsplit('/').next(), Some("pieces"));
}

/// Feet bent from flat bar hang on the lower corners of the row, and follow it when it grows; those of ribs
/// that change stand by the last one.
#[rstest]
#[case("ribs P-30, 7 off, every 100, to the east", 618.0, 480.0)]
#[case("ribs P-30, 9 off, every 100, to the east", 818.0, 480.0)]
#[case("ribs P-30 to P-31, 9 off, every 100, to the east", 818.0, 300.0)]
fn feet_follow_their_row(#[case] ribs: &str, #[case] over: f64, #[case] last: f64) {
    let small = "piece P-31 \"small rib\", 0 off, 18 thick plywood\n  plate 300 x 420\n";
    let foot = |name: &str, corner: &str| {
        let node = format!("node {name} 0, 0, 0 from ribs-1.{corner}");
        let bar =
            format!("bent bar called \"foot\" from {name}, down, FLAT 40x8: 120, bend 90° R30 east, 80");
        [node, bar]
    };
    let feet =
        [foot("K", "start-west"), foot("L", "start-east"), foot("M", "end-west"), foot("N", "end-east")];
    let lines: Vec<&str> = std::iter::once(ribs).chain(feet.iter().flatten().map(String::as_str)).collect();
    let (_, r) = row_of(&[BOARD, small], &lines);
    clean(&r);
    let at = |k: usize| r.members[k].end(0).o;
    // A row to the east has its profile's east to the north.
    assert!((at(1) - at(0)).distance(DVec3::Y * 480.0) < 1e-9, "{}", at(1));
    assert!((at(2) - at(0)).distance(DVec3::X * over) < 1e-9, "{}", at(2));
    assert!((at(3) - at(2)).distance(DVec3::Y * last) < 1e-9, "{}", at(3));
    assert_eq!(r.groups.len(), 1, "four feet alike");
}

/// Nine ribs: the ends of one profile, every third of another, the rest of their own; each is a row.
#[test]
fn a_row_of_groups() {
    let end = "piece P-31 \"end\", 0 off, 18 thick plywood\n  plate 480 x 450\n";
    let third = "piece P-32 \"cross\", 0 off, 18 thick plywood\n  plate 480 x 300\n";
    let (job, r) =
        row_of(&[BOARD, end, third], &["ribs P-30, 9 off, every 100, ends P-31, with P-32 each 3"]);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let all = plates(&r, "ribs-1");
    let areas: Vec<f64> = all.iter().map(|(p, _)| (p.piece.value("area") / 480.0).round()).collect();
    // The ninth is an end before it is a third.
    assert_eq!(areas, [450.0, 420.0, 300.0, 420.0, 420.0, 300.0, 420.0, 420.0, 450.0]);
    for (k, rib) in all.iter().enumerate() {
        let [near, far] = spread(rib, DVec3::Y);
        assert_relative_eq!(near, 100.0 * k as f64, epsilon = 1e-9);
        assert_relative_eq!(far - near, 18.0, epsilon = 1e-9);
    }
    let mut counts: Vec<usize> = r.plates.iter().map(|p| p.places.len()).collect();
    counts.sort_unstable();
    assert_eq!(counts, [2, 2, 5]);
    // A figure that is called as marks begin is not looked for in them; its own uses follow.
    let figure = steelk_core::quantity::Figure::new("P", "100");
    let mut job = Job { figures: vec![figure], ..job };
    let FrameOperation::Ribs(said) = &mut job.frames[0].lines[0].say else { panic!("ribs") };
    said.spread = RibSpread::Pitch { pitch: "P".into() };
    let named = rename(&job, Renamed::Figure, "P", "step").unwrap();
    let FrameOperation::Ribs(said) = &named.frames[0].lines[0].say else { panic!("ribs") };
    assert_eq!([&said.profile, &said.end_profile].map(String::as_str), ["P-30", "P-31"]);
    assert_eq!(said.among, RibsAmong::Each { profile: "P-32".into(), nth: "3".into() });
    assert_eq!(said.spread, RibSpread::Pitch { pitch: "step".into() });
}
