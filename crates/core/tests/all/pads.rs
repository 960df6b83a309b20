//! Pads laid on a face: what they weigh by closed forms, where they stand in the picture, how many the list
//! asks for, and what is told of those that cannot lie so.

use std::collections::BTreeSet;
use std::f64::consts::PI;

use crate::common::*;
use approx::{assert_abs_diff_eq, assert_relative_eq};
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::evaluate::{cut_list, evaluate, evaluate_piece};
use steelk_core::job::{Job, Piece};
use steelk_core::result::{PieceResult, Severity};
use steelk_core::sheet::raised::relief;
use steelk_core::shop::material;

fn density(id: &str) -> f64 {
    material(id).unwrap().density * 1e-9
}

fn told(p: &PieceResult) -> Vec<(&str, Severity)> {
    p.findings.iter().filter(|f| f.check.starts_with("pad")).map(|f| (f.check, f.severity)).collect()
}

/// Heights of a pad's corners over the lower face, and its corners in the flat.
fn stands(p: &PieceResult, shape: u32) -> (Vec<f64>, Vec<[f64; 2]>) {
    let out = relief(p, p.mesh());
    let of = |(t, s): (&[u32; 3], &u32)| (*s == shape).then_some(*t);
    let corners: BTreeSet<u32> = out.triangles.iter().zip(&out.shapes).filter_map(of).flatten().collect();
    let points: Vec<_> = corners.into_iter().map(|k| out.points[k as usize]).collect();
    (points.iter().map(|s| s.z).collect(), points.iter().map(|s| s.at.to_array()).collect())
}

fn range(of: impl Iterator<Item = f64> + Clone) -> (f64, f64) {
    (of.clone().fold(f64::INFINITY, f64::min), of.fold(f64::NEG_INFINITY, f64::max))
}

/// A bench hook: a stop on the front at one end, a cleat on the back at the other, both of oak.
#[test]
fn a_bench_hook_is_three_pieces_of_which_two_are_equal() {
    let hook = Piece {
        quantity: "4".into(),
        ..piece(
            "10",
            "10",
            &[
                "plate 300 x 200",
                "pad rectangle 30 x 200, 18 thick of oak, 0 clear of east, 0 clear of south",
                "pad rectangle 200 x 30, 18 thick of oak, back, 15 from west, 100 from south, turned 90°",
            ],
        )
    };
    let job = Job { pieces: vec![hook], ..Job::default() };
    let result = evaluate(&job);
    let p = &result.pieces[0];
    assert_eq!((p.faults.len(), told(p)), (0, vec![]));
    let (own, pad) = (300.0 * 200.0 * 10.0 * density("s235"), 30.0 * 200.0 * 18.0 * density("oak"));
    assert_relative_eq!(p.value("mass"), own, max_relative = 1e-12);
    assert_relative_eq!(p.value("mass_with_pads"), own + 2.0 * pad, max_relative = 1e-12);
    assert_relative_eq!(result.mass(), 4.0 * (own + 2.0 * pad), max_relative = 1e-12);
    let list = cut_list(&job, &result);
    let rows: Vec<_> =
        list.rows.iter().map(|r| (&*r.mark, &*r.of, r.quantity, r.thickness.to_string())).collect();
    assert_eq!(
        rows,
        [("P-1", "", 4, "10".into()), ("P-1/B1", "p", 4, "18".into()), ("P-1/B2", "p", 4, "18".into())]
    );
    assert_eq!((list.pieces, list.rows[1].material.as_str()), (12, "Oak"));
    // The front one stands on the upper face, the back one hangs from the lower.
    let (z, at) = stands(p, 0);
    assert_eq!(range(z.iter().copied()), (10.0, 28.0));
    assert_eq!(range(at.iter().map(|a| a[0])), (120.0, 150.0));
    let (z, at) = stands(p, 1);
    assert_eq!(range(z.iter().copied()), (-18.0, 0.0));
    let (west, east) = range(at.iter().map(|a| a[0]));
    assert_abs_diff_eq!(west, -150.0, epsilon = 1e-9);
    assert_abs_diff_eq!(east, -120.0, epsilon = 1e-9);
}

/// Copies and mirrors of a pad are more of the same; another thickness, material or size is another piece.
#[test]
fn equal_pads_are_one_row_wherever_they_lie() {
    let p = din(
        "6",
        "6",
        &[
            "plate 400 x 200",
            "pad disc ⌀40, 8 thick, 40 from west, 40 from south",
            "mirror pad-1",
            "pad disc ⌀40, 8 thick, on the back, 40 from west, 40 from north",
            "pad disc ⌀40, 8 thick of 5754-h111, 200 from west, 40 from north",
            "pad disc ⌀40, 6 thick, 200 from west, 40 from south",
        ],
    );
    assert_eq!((p.faults.len(), told(&p)), (0, vec![]));
    let of: Vec<_> = p.pads.iter().map(|q| (q.names.len(), q.piece.quantity, q.piece.thickness)).collect();
    assert_eq!(of, [(3, 3, 8.0), (1, 1, 8.0), (1, 1, 6.0)]);
    let disc = PI * 400.0;
    let laid = disc * (3.0 * 8.0 * density("s235") + 8.0 * density("5754-h111") + 6.0 * density("s235"));
    assert_relative_eq!(p.value("mass_with_pads") - p.value("mass"), laid, max_relative = 1e-9);
}

/// In inches, by gauge, on a folded panel: it folds with the panel.
#[test]
fn a_pad_on_a_folded_panel_of_a_piece_in_inches() {
    let folded = piece(
        "1/8in",
        "1/8in",
        &[
            "plate 8in x 6in",
            "fold north up 90°, 3in",
            "pad rectangle 2in x 1in, 16 ga thick, on the back on fold-1.north, 1.5in from its fold",
        ],
    );
    let p = made(k_factor("0.44"), &folded);
    assert_eq!((&p.faults, told(&p)), (&vec![], vec![]));
    // 16 gauge of the manufacturers' series: 2.5 lb/ft² over 41.82 lb/ft² an inch.
    assert_relative_eq!(p.pads[0].piece.thickness, 2.5 / 41.82 * 25.4, max_relative = 1e-9);
    let out = relief(&p, p.mesh());
    let zone = p.zones.iter().position(|z| z.name == "fold-1.north").unwrap();
    assert!(out.points.iter().all(|s| s.zone == zone));
}

#[rstest]
#[case::over_a_bend(
    "pad rectangle 60 x 30, 5 thick on flat, 100 from west, 125 from south",
    "pad_bent",
    Severity::Stop
)]
#[case::over_the_edge(
    "pad rectangle 60 x 40, 5 thick on panel, 0 from west, 60 from south",
    "pad_hangs",
    Severity::Note
)]
#[case::over_a_hole(
    "pad rectangle 60 x 40, 5 thick on panel, 60 from west, 40 from south",
    "pad_covers",
    Severity::Warn
)]
#[case::into_another(
    "pad disc ⌀40, 5 thick on panel, 190 from west, 60 from south",
    "pads_meet",
    Severity::Stop
)]
fn what_cannot_lie_so_is_told(#[case] line: &str, #[case] check: &str, #[case] severity: Severity) {
    let p = din(
        "3",
        "3",
        &[
            "plate 240 x 120",
            "fold north up 90°, 60",
            "hole ⌀9 on panel, 60 from west, 40 from south",
            "pad disc ⌀30, 5 thick on panel, 210 from west, 60 from south",
            line,
        ],
    );
    assert_eq!((p.faults.len(), told(&p)), (0, vec![(check, severity)]), "{:?}", p.findings);
    let f = p.findings.iter().find(|f| f.check == check).unwrap();
    assert!(f.names.iter().any(|n| n == "pad-2"), "{:?}", f.names);
}

#[test]
fn a_pad_on_no_sheet_is_left_out_and_one_over_a_hole_of_the_other_face_is_not() {
    let of = |line: &str| {
        din(
            "12",
            "12",
            &["plate 100 x 80", "blind hole ⌀8, 5 deep, from the back, 50 from west, 40 from south", line],
        )
    };
    let off = of("pad square 20, 5 thick, 200 from west, 40 from south");
    assert_eq!(off.pads.len(), 0);
    assert!(off.findings.iter().any(|f| f.check == "cut_misses" && f.message.contains("lies on no sheet")));
    assert!(told(&of("pad square 20, 5 thick, 50 from west, 40 from south")).is_empty());
    let back = of("pad square 20, 5 thick, on the back, 50 from west, 40 from south");
    assert_eq!(told(&back), [("pad_covers", Severity::Warn)]);
    assert_eq!(back.pads.len(), 1);
}

/// A plank of softwood with a hardwood block, by what both are called: the figure says what that rests on.
#[test]
fn boards_by_their_names() {
    let plank = Piece {
        material: "spruce".into(),
        ..piece(
            "board(2)",
            "",
            &["plate 24in x board(6)", "pad rectangle 100 x board(4), quarters(8) thick of oak"],
        )
    };
    let p = made(k_factor("0.4"), &plank);
    assert_eq!(p.figure("flat_width").unwrap().text, "139.7 mm");
    let thick = p.figure("thickness").unwrap();
    assert_eq!((thick.text.as_str(), thick.working.formula.as_str()), ("38.1 mm", "board(2)"));
    assert!(thick.working.source.contains("PS 20"), "{}", thick.working.source);
    let block = 100.0 * 88.9 * 44.45 * density("oak");
    assert_relative_eq!(p.pads[0].piece.value("mass"), block, max_relative = 1e-9);
}

#[test]
fn an_unknown_material_is_refused_with_the_ones_there_are() {
    let p = evaluate_piece(
        &job(k_factor("0.4")),
        &piece("6", "6", &["plate 100 x 80", "pad square 20, 5 thick of cheese"]),
    );
    let f = &p.faults[0];
    assert_eq!((f.line.as_str(), f.path.as_str()), ("pad-1", "/say/material"));
    assert!(f.fault.mend.contains("oak (Oak)"));
    assert!(p.made && p.pads.is_empty());
}

prop_compose! {
    /// A line, and the volume of its prism.
    fn random_pad()(
        w in 500..6000u32, h in 500..6000u32, t in 100..3000u32,
        x in -2000..22000i32, y in -2000..18000i32, turn in 0..3600u32, back in any::<bool>(),
    ) -> (String, f64) {
        let [w, h, t] = [w, h, t].map(|v| f64::from(v) / 100.0);
        let [x, y] = [x, y].map(|v| f64::from(v) / 100.0);
        let side = if back { "on the back, " } else { "" };
        let place = format!("{side}{x} from west, {y} from south, turned {}°", f64::from(turn) / 10.0);
        (format!("pad rectangle {w} x {h}, {t} thick, {place}"), w * h * t)
    }
}

proptest! {
    /// Wherever pads lie, each lies in the list once, and the sum of all is the volume of their prisms.
    #[test]
    fn pads_at_random_are_all_counted(pads in prop::collection::vec(random_pad(), 1..8)) {
        let lines = std::iter::once("plate 200 x 160".to_string()).chain(pads.iter().map(|p| p.0.clone()));
        let lines: Vec<String> = lines.collect();
        let lines: Vec<&str> = lines.iter().map(String::as_str).collect();
        let p = din("5", "5", &lines);
        prop_assert!(p.faults.is_empty(), "{:?}", p.faults);
        let left = p.findings.iter().filter(|f| f.message.contains("lies on no sheet")).count();
        let laid: usize = p.pads.iter().map(|q| q.names.len()).sum();
        // The finding tells the first few of those left out.
        prop_assert!(laid + left == pads.len() || left >= 5);
        let names: BTreeSet<&String> = p.pads.iter().flat_map(|q| &q.names).collect();
        let of = |n: &&String| pads[n["pad-".len()..].parse::<usize>().unwrap() - 1].1;
        let volume: f64 = names.iter().map(of).sum();
        let mass = p.pads.iter().map(|q| q.piece.value("mass") * q.names.len() as f64).sum::<f64>();
        prop_assert!((mass - volume * density("s235")).abs() < 1e-9 * (1.0 + mass));
        prop_assert!(laid == 0 || (p.value("mass_with_pads") - p.value("mass") - mass).abs() < 1e-9);
    }
}
