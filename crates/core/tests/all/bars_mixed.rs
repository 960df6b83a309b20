//! Bars of several lengths against every arrangement, and plans on paper against their numbers.

use proptest::prelude::*;
use steelk_core::drawing::{Drawing, Item, Pen, bar_plan};
use steelk_core::layout::bars::*;
use steelk_core::layout::{BarPlan, CutBar, CutPiece};

/// The least new stock by trying every way to put each piece on a bar begun or on any that can be had.
/// Offcuts are free, bars as long as told; `None` where some piece fits nothing.
fn least(pieces: &[f64], kerf: f64, stock: &[(f64, bool, usize)]) -> Option<f64> {
    struct Walk<'a> {
        pieces: &'a [f64],
        kerf: f64,
        stock: &'a [(f64, bool, usize)],
        left: Vec<usize>,
        /// Of each bar begun: what is free on it.
        free: Vec<f64>,
        best: Option<f64>,
    }
    impl Walk<'_> {
        fn go(&mut self, at: usize, bought: f64) {
            if self.best.is_some_and(|b| bought >= b) {
                return;
            }
            let Some(&length) = self.pieces.get(at) else {
                self.best = Some(bought);
                return;
            };
            for b in 0..self.free.len() {
                // Behind another piece, with a cut between.
                if length + self.kerf <= self.free[b] + 1e-9 {
                    self.free[b] -= length + self.kerf;
                    self.go(at + 1, bought);
                    self.free[b] += length + self.kerf;
                }
            }
            for k in 0..self.stock.len() {
                let (room, is_offcut, _) = self.stock[k];
                if self.left[k] > 0 && length <= room + 1e-9 {
                    self.left[k] -= 1;
                    self.free.push(room - length);
                    self.go(at + 1, bought + if is_offcut { 0.0 } else { room });
                    self.free.pop();
                    self.left[k] += 1;
                }
            }
        }
    }
    let left = stock.iter().map(|s| s.2).collect();
    let mut w = Walk { pieces, kerf, stock, left, free: Vec::new(), best: None };
    w.go(0, 0.0);
    w.best
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 60, ..ProptestConfig::default() })]

    /// New bars of two lengths and a few offcuts: what is bought is the least there is.
    #[test]
    fn several_lengths_and_offcuts_against_every_arrangement(
        pieces in prop::collection::vec(300u32..2900, 1..7),
        long in 40u32..70, short in 30u32..39,
        offcuts in prop::collection::vec(400u32..2500, 0..3), kerf in 0u32..4,
    ) {
        let lengths: Vec<f64> = pieces.iter().map(|l| f64::from(*l)).collect();
        let kerf = f64::from(kerf);
        let news = [f64::from(long) * 100.0, f64::from(short) * 100.0];
        let mut stock: Vec<Stock> =
            news.iter().map(|l| Stock { length: *l, count: None, offcut: false }).collect();
        stock.extend(offcuts.iter().map(|l| Stock { length: f64::from(*l), count: Some(1), offcut: true }));
        let part = |l: &f64| Part { length: *l, start: 0.0, end: 0.0, depth: 40.0, turns: true };
        let task = Task { parts: lengths.iter().map(part).collect(), demand: vec![1; lengths.len()],
            stock: stock.clone(), kerf, trim: 0.0 };
        let p = plan(&task, Effort::Full, &mut |_| true);
        let every: Vec<(f64, bool, usize)> =
            stock.iter().map(|s| (s.length, s.offcut, s.count.unwrap_or(lengths.len()))).collect();
        let wanted = least(&lengths, kerf, &every).expect("every piece fits a new bar");
        prop_assert!(p.left_out.iter().all(|n| *n == 0));
        prop_assert!((p.bought - wanted).abs() < 1e-6, "{} bought, {} is least", p.bought, wanted);
        prop_assert!(p.bound <= wanted + 1e-6);
    }

    /// On paper every bar is drawn once, as long as it is beside the longest, its pieces where they lie.
    #[test]
    fn a_plan_is_drawn_to_scale(
        bars in prop::collection::vec((1500.0f64..12_000.0, 1usize..30,
            prop::collection::vec((0.05f64..0.3, -0.02f64..0.02), 1..4)), 1..40),
    ) {
        let bars: Vec<CutBar> = bars.iter().enumerate().map(|(i, (length, times, cuts))| {
            let mut x = 0.0;
            let pieces = cuts.iter().enumerate().map(|(k, (share, slant))| {
                let (from, to, lean) = (x, x + share * length, slant * length);
                x = to;
                CutPiece { mark: format!("M{i}-{k}"), name: String::new(),
                    length: format!("{:.1}", to - from),
                    cuts: ["square".into(), "30°".into()], x: [from, to + lean, to, from] }
            }).collect();
            CutBar { length: format!("{length:.0}"), length_mm: *length, offcut: i % 3 == 0, times: *times,
                pieces, rest: format!("{:.0}", length - x), rest_mm: length - x, kept: i % 2 == 0 }
        }).collect();
        let plan = BarPlan { section: "SHS 50x50x3".into(), material: "s235".into(), bars: bars.clone(),
            to_buy: vec!["2 × 6000 mm".into()], verdict: "the best there is".into(), proven: true,
            used: "91 %".into(), left_out: Vec::new() };
        let pages = bar_plan(&plan, "mm", "job");
        let longest = bars.iter().map(|b| b.length_mm).fold(0.0, f64::max);
        let drawn: Vec<[glam::DVec2; 2]> = pages.iter().flat_map(frames).collect();
        prop_assert_eq!(drawn.len(), bars.len());
        let full = drawn.iter().map(|f| f[1].x - f[0].x).fold(0.0, f64::max);
        for (f, bar) in drawn.iter().zip(&bars) {
            prop_assert!(((f[1].x - f[0].x) / full - bar.length_mm / longest).abs() < 1e-9);
        }
        let shapes: Vec<[f64; 4]> = pages.iter().flat_map(shapes).collect();
        let told: Vec<(f64, &CutPiece)> =
            bars.iter().zip(&drawn).flat_map(|(b, f)| b.pieces.iter().map(|p| (f[0].x, p))).collect();
        prop_assert_eq!(shapes.len(), told.len());
        for (at, (left, piece)) in shapes.iter().zip(&told) {
            for (x, mm) in at.iter().zip(piece.x) {
                prop_assert!((x - left - mm * full / longest).abs() < 1e-6, "{x} for {mm} of {}", piece.mark);
            }
        }
        for page in &pages {
            for f in frames(page) {
                prop_assert!(f[0].cmpge(glam::DVec2::ZERO).all() && f[1].cmple(page.size).all());
            }
        }
        // How often each is cut, and what is left of it, are told beside it.
        let words: Vec<String> = pages.iter().flat_map(|p| &p.items).filter_map(|i| match i {
            Item::Text { text, .. } => Some(text.clone()),
            _ => None,
        }).collect();
        for bar in &bars {
            let rest = format!("rest {} mm{}", bar.rest, if bar.kept { ", keep" } else { "" });
            let times = format!("{} ×", bar.times);
            prop_assert!(words.contains(&rest) && words.contains(&times), "{rest}, {times}");
        }
    }
}

/// Outlines of whole bars.
fn frames(page: &Drawing) -> Vec<[glam::DVec2; 2]> {
    let of = |i: &Item| match i {
        Item::Shape { loops, pen: Pen::Faint, filled: false } => {
            let b = loops[0].bounds();
            Some([b.min, b.max])
        }
        _ => None,
    };
    page.items.iter().filter_map(of).collect()
}

/// Pieces on them: x of their four corners.
fn shapes(page: &Drawing) -> Vec<[f64; 4]> {
    let of = |i: &Item| match i {
        Item::Shape { loops, filled: true, .. } => {
            loops[0].vertices.iter().map(|v| v.p.x).collect::<Vec<_>>().try_into().ok()
        }
        _ => None,
    };
    page.items.iter().filter_map(of).collect()
}
