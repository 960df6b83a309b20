//! The bars of a job: every row of its cut lists, by section and material, onto the bars that it has.

use serde::Serialize;

use super::CutList;
use crate::frame::SawFacts;
use crate::job::Job;
use crate::layout::bars::{Bar, Effort, Part, Plan, Stock, Task, plan};
use crate::quantity::{Display, FigureTable};
use crate::sheet::reader::{Range, Reader};
use crate::sheet::result::LineFault;

/// A piece where it lies on its bar.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct CutPiece {
    pub mark: String,
    pub name: String,
    /// Long point to long point, printed.
    pub length: String,
    pub cuts: [String; 2],
    /// Along the bar, mm: upper start, upper end, lower end, lower start.
    pub x: [f64; 4],
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct CutBar {
    pub length: String,
    pub length_mm: f64,
    pub offcut: bool,
    pub times: usize,
    pub pieces: Vec<CutPiece>,
    /// What is left over.
    pub rest: String,
    pub rest_mm: f64,
    /// Long enough to be kept.
    pub kept: bool,
}

/// One section of one material.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct BarPlan {
    pub section: String,
    pub material: String,
    pub bars: Vec<CutBar>,
    /// New bars: `4 × 6000.0 mm`.
    pub to_buy: Vec<String>,
    /// What is known of it: the best there is, or by how much it might not be.
    pub verdict: String,
    pub proven: bool,
    /// Share of the length taken that becomes pieces.
    pub used: String,
    /// Pieces that fit no bar: `2 × F-1/3`.
    pub left_out: Vec<String>,
}

fn stock_of(job: &Job) -> (Vec<(String, Stock)>, Vec<LineFault>) {
    let table = FigureTable::new(&job.figures, job.display.length);
    let mut reader = Reader::new(&table, job.display);
    let mut out = Vec::new();
    for (i, b) in job.bars.iter().enumerate().take(200) {
        let length = reader.length(&format!("/bars/{i}/length"), &b.length, Range::AboveZero);
        let count = if b.count.trim().is_empty() {
            Some(None)
        } else {
            reader.count(&format!("/bars/{i}/count"), &b.count, 0, 100_000).map(Some)
        };
        if let (Some(length), Some(count)) = (length, count) {
            // An offcut without a number is one.
            let count = if b.offcut { Some(count.unwrap_or(1)) } else { count };
            out.push((b.section.trim().to_lowercase(), Stock { length, count, offcut: b.offcut }));
        }
    }
    (out, reader.faults)
}

/// Common lengths where the job names none: 6 m, 7.5 m and 12 m, or 20 and 24 ft (common practice).
fn usual(display: &Display) -> Vec<Stock> {
    let lengths: &[f64] =
        if display.length.mm() == 1.0 { &[6000.0, 7500.0, 12000.0] } else { &[6096.0, 7315.2] };
    lengths.iter().map(|&length| Stock { length, count: None, offcut: false }).collect()
}

/// Plans every section of the job. `go_on` hears which section and how far it all is (0 to 1), and may stop
/// it.
pub fn bar_plans(
    job: &Job,
    list: &CutList,
    effort: Effort,
    go_on: &mut dyn FnMut(&str, f64) -> bool,
) -> (Vec<BarPlan>, Vec<LineFault>) {
    let (saw, mut faults) = SawFacts::of(job, &FigureTable::new(&job.figures, job.display.length));
    let (stock, more) = stock_of(job);
    faults.extend(more);
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
        let mut own: Vec<Stock> =
            stock.iter().filter(|s| s.0 == section.to_lowercase()).map(|s| s.1.clone()).collect();
        own.extend(stock.iter().filter(|s| s.0.is_empty()).map(|s| s.1.clone()));
        if own.iter().all(|s| s.offcut) {
            own.extend(usual(&job.display));
        }
        let task = Task {
            parts: of.iter().map(|r| r.part.clone()).collect(),
            demand: of.iter().map(|r| r.quantity).collect(),
            stock: own,
            kerf: saw.kerf,
            trim: saw.trim,
        };
        let plan = plan(&task, effort, &mut |f| go_on(section, (n as f64 + f) / kinds.len() as f64));
        out.push((k, shown(&task, plan, &of, section, material, &job.display, &saw)));
    }
    out.sort_by_key(|o| o.0);
    (out.into_iter().map(|o| o.1).collect(), faults)
}

fn shown(
    task: &Task,
    plan: Plan,
    rows: &[&&crate::frame::BarRow],
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

fn cut_bar(
    task: &Task,
    b: &Bar,
    rows: &[&&crate::frame::BarRow],
    display: &Display,
    saw: &SawFacts,
) -> CutBar {
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
        let turned = (l.start - part.start).abs() > 1e-6 && (l.start - part.end).abs() < 1e-6;
        let cuts = if turned { [1, 0] } else { [0, 1] };
        pieces.push(CutPiece {
            mark: r.mark.clone(),
            name: r.name.clone(),
            length: r.length.clone(),
            cuts: cuts.map(|k| r.cuts[k].text.clone()),
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
