//! The bars of a job: every row of its cut lists, by section and material, onto the bars that it has.

use ground::geom::COINCIDENT;
use ground::quantity::Display;
use layout::bars::{Bar, Effort, Part, Plan, Stock, Task, plan};
use layout::{BarPlan, CutBar, CutPiece};
use shop::Shop;
use shop::settings::{Bars, SawFacts};

use super::CutList;

/// Common lengths where the job names none: 6 m, 7.5 m and 12 m, or 20 and 24 ft (common practice).
fn usual(display: &Display) -> Vec<Stock> {
    let lengths: &[f64] =
        if display.length.mm() == 1.0 { &[6000.0, 7500.0, 12000.0] } else { &[6096.0, 7315.2] };
    lengths.iter().map(|&length| Stock { length, count: None, offcut: false }).collect()
}

fn stock(b: &Bars) -> Stock {
    Stock { length: b.length, count: b.count, offcut: b.offcut }
}

/// Plans every section of the job. `go_on` hears which section and how far it all is (0 to 1), and may stop
/// it.
pub fn bar_plans(
    shop: &Shop,
    list: &CutList,
    effort: Effort,
    go_on: &mut dyn FnMut(&str, f64) -> bool,
) -> Vec<BarPlan> {
    let (saw, display) = (&shop.frame.saw, &shop.sheet().display);
    let rows: Vec<_> = list.frames.iter().flat_map(|f| &f.bars).collect();
    let mut kinds: Vec<(&str, &str)> = Vec::new();
    for r in &rows {
        if !kinds.contains(&(&r.section, &r.material)) {
            kinds.push((&r.section, &r.material));
        }
    }
    let of = |k: usize| {
        rows.iter().filter(|r| (r.section.as_str(), r.material.as_str()) == kinds[k]).collect::<Vec<_>>()
    };
    // What is soon done first: one long search does not keep the others waiting.
    let mut turn: Vec<usize> = (0..kinds.len()).collect();
    turn.sort_by_key(|&k| of(k).iter().map(|r| r.quantity).sum::<usize>());
    let mut out = Vec::new();
    for (n, &k) in turn.iter().enumerate() {
        let (section, material) = kinds[k];
        let of = of(k);
        let told =
            |of: &str| shop.bars.iter().filter(move |b| b.section == of).map(stock).collect::<Vec<_>>();
        let mut own = told(&section.to_lowercase());
        own.extend(told(""));
        if own.iter().all(|s| s.offcut) {
            own.extend(usual(display));
        }
        let task = Task {
            parts: of.iter().map(|r| r.part.clone()).collect(),
            demand: of.iter().map(|r| r.quantity).collect(),
            stock: own,
            kerf: saw.kerf,
            trim: saw.trim,
        };
        let plan = plan(&task, effort, &mut |f| go_on(section, (n as f64 + f) / kinds.len() as f64));
        out.push((k, shown(&task, plan, &of, section, material, display, saw)));
    }
    out.sort_by_key(|o| o.0);
    out.into_iter().map(|o| o.1).collect()
}

fn shown(
    task: &Task,
    plan: Plan,
    rows: &[&&frame::BarRow],
    section: &str,
    material: &str,
    display: &Display,
    saw: &SawFacts,
) -> BarPlan {
    let mut bars: Vec<CutBar> = plan.bars.iter().map(|b| cut_bar(task, b, rows, display, saw)).collect();
    bars.sort_by(|a, b| a.rest_mm.total_cmp(&b.rest_mm));
    let taken: f64 =
        bars.iter().map(|b| (b.length_mm - if b.kept { b.rest_mm } else { 0.0 }) * b.times as f64).sum();
    let made: f64 = plan
        .bars
        .iter()
        .map(|b| b.pieces.iter().map(|l| task.parts[l.part].length).sum::<f64>() * b.times as f64)
        .sum();
    let mut buy: Vec<(f64, usize)> = Vec::new();
    for b in plan.bars.iter().filter(|b| !task.stock[b.stock].offcut) {
        let length = task.stock[b.stock].length;
        match buy.iter_mut().find(|x| x.0 == length) {
            Some(x) => x.1 += b.times,
            None => buy.push((length, b.times)),
        }
    }
    buy.sort_by(|a, b| a.0.total_cmp(&b.0));
    let verdict = if plan.is_best() {
        "no plan buys less".to_string()
    } else {
        let more = display.length_unit(plan.bought - plan.bound);
        format!(
            "at most {more} more than the least there could be{}",
            if plan.stopped { "; stopped early" } else { "" }
        )
    };
    let left = plan.left_out.iter().zip(rows).filter(|(n, _)| **n > 0);
    BarPlan {
        section: section.into(),
        material: material.into(),
        to_buy: buy.iter().map(|(l, n)| format!("{n} × {}", display.length_unit(*l))).collect(),
        proven: plan.is_best(),
        verdict,
        used: if taken > 0.0 { format!("{:.0} %", made / taken * 100.0) } else { String::new() },
        left_out: left.map(|(n, r)| format!("{n} × {}", r.mark)).collect(),
        bars,
    }
}

fn cut_bar(task: &Task, b: &Bar, rows: &[&&frame::BarRow], display: &Display, saw: &SawFacts) -> CutBar {
    let s = &task.stock[b.stock];
    let mut at = if s.offcut { 0.0 } else { task.trim };
    let mut pieces = Vec::new();
    for (i, l) in b.pieces.iter().enumerate() {
        let part: &Part = &task.parts[l.part];
        at += match i {
            0 => l.start.abs() / 2.0,
            _ => crate::layout::bars::between(b.pieces[i - 1].end, l.start, part.depth, task.kerf),
        };
        let end = at + part.length;
        let r = rows[l.part];
        let turned = (l.start - part.start).abs() > COINCIDENT && (l.start - part.end).abs() < COINCIDENT;
        let cuts = if turned { [1, 0] } else { [0, 1] };
        pieces.push(CutPiece {
            mark: r.mark.clone(),
            name: r.name.clone(),
            length: r.length.to_string(),
            cuts: cuts.map(|k| r.cuts[k].text.to_string()),
            x: [at - l.start / 2.0, end + l.end / 2.0, end - l.end / 2.0, at + l.start / 2.0],
        });
        at = end;
    }
    CutBar {
        length: display.length(s.length),
        length_mm: s.length,
        offcut: s.offcut,
        times: b.times,
        pieces,
        rest: display.length(b.rest),
        rest_mm: b.rest,
        kept: b.rest >= saw.offcut,
    }
}
