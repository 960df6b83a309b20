//! A drawing's figures as a sheet to be filled in at the bench: what each may be, what the model has, and
//! columns for what was measured: filled with what is known already, else empty.

use brief::{BriefResult, Check, MeasuredValue, Specimen, Verdict};
use glam::DVec2;

use super::{Anchor, Drawing, Item, Pen};

/// A4 lying.
const PAGE: DVec2 = DVec2::new(297.0, 210.0);
const MARGIN: f64 = 12.0;
const HEAD: f64 = 30.0;
const ROW: f64 = 7.0;
/// Below the table: by whom, when and with what.
const FOOT: f64 = 14.0;

/// Right edges of the columns: figure, drawing, allowed, model, and three to be filled in.
const COLUMNS: [f64; 7] = [112.0, 140.0, 174.0, 202.0, 228.0, 254.0, 285.0];
const HEADINGS: [&str; 7] = ["figure", "drawing", "allowed", "model", "first", "last", "in tolerance"];

/// What stands over the sheet.
pub struct CheckHead<'a> {
    /// The drawing, and what it shows.
    pub title: String,
    /// The job, and its revision.
    pub job: &'a str,
    pub class: &'a str,
}

/// A row of the sheet.
#[derive(Clone, Copy)]
enum Row<'a> {
    /// The view that the figures below it stand on; whether it began on an earlier sheet.
    View(&'a str, bool),
    Figure(&'a Check),
}

/// The rows of each sheet, so many on one; no view's name stands alone at its end.
fn sheets(checks: &[Check], rows: usize) -> Vec<Vec<Row<'_>>> {
    let mut out: Vec<Vec<Row>> = Vec::new();
    let mut view = "";
    for c in checks {
        let begins = c.view != view;
        let need = if begins { 2 } else { 1 };
        if out.last().is_none_or(|page| page.len() + need > rows) {
            let goes_on = !begins && !view.is_empty();
            out.push(if goes_on { vec![Row::View(view, true)] } else { Vec::new() });
        }
        if let Some(page) = out.last_mut() {
            if begins {
                page.push(Row::View(&c.view, false));
            }
            page.push(Row::Figure(c));
        }
        view = &c.view;
    }
    out
}

/// The sheets of a brief; none where it has no figures.
pub fn check_sheet(r: &BriefResult, head: &CheckHead) -> Vec<Drawing> {
    let rows = ((PAGE.y - HEAD - FOOT - 2.0 * MARGIN) / ROW).floor() as usize;
    let sheets = sheets(&r.checks, rows);
    let all = sheets.len();
    sheets.iter().enumerate().map(|(n, rows)| page(rows, head, n + 1, all)).collect()
}

fn page(rows: &[Row], head: &CheckHead, n: usize, all: usize) -> Drawing {
    let checks = || rows.iter().filter_map(|r| if let Row::Figure(c) = r { Some(*c) } else { None });
    let text = |x: f64, y: f64, t: &str, size: f64| Item::text(DVec2::new(x, y), t, size, Anchor::Start);
    let top = MARGIN + HEAD;
    let mut items = vec![
        text(MARGIN, MARGIN + 6.0, &head.title, 6.0).bold(),
        Item::text(
            DVec2::new(PAGE.x - MARGIN, MARGIN + 6.0),
            format!("check sheet {n} of {all}"),
            4.0,
            Anchor::End,
        ),
        text(
            MARGIN,
            MARGIN + 13.0,
            &format!("{} · {}, where a figure has no tolerance of its own", head.job, head.class),
            3.4,
        ),
    ];
    let low = top + ROW * rows.len() as f64;
    for (k, heading) in HEADINGS.iter().enumerate() {
        let left = if k == 0 { MARGIN } else { COLUMNS[k - 1] };
        items.push(text(left + 1.5, top - 2.0, heading, 3.0));
        if k >= 4 {
            items.push(Item::frame(DVec2::new(left, top - ROW), DVec2::new(COLUMNS[k], low), Pen::Faint));
        }
    }
    items.push(Item::line(DVec2::new(MARGIN, top), DVec2::new(PAGE.x - MARGIN, top), Pen::Cut));
    for (i, row) in rows.iter().enumerate() {
        let y = top + ROW * (i + 1) as f64;
        let line = Item::line(DVec2::new(MARGIN, y), DVec2::new(PAGE.x - MARGIN, y), Pen::Faint);
        let c = match row {
            Row::Figure(c) => c,
            Row::View(name, again) => {
                let again = if *again { ", continued" } else { "" };
                items.push(text(MARGIN + 1.5, y - 2.2, &format!("{name}{again}"), 3.4).bold());
                items.push(line);
                continue;
            }
        };
        let figure = [c.figure.as_str(), c.what.as_str()].join(" ");
        let model = match c.verdict {
            Verdict::Untied | Verdict::Lost => c.stands,
            Verdict::Met | Verdict::Off => c.measured.as_str(),
        };
        let taken = |of: Specimen| c.taken.iter().rev().find(|t| t.piece == of);
        let (first, last) = (taken(Specimen::First), taken(Specimen::Last));
        let within = match (c.taken.is_empty(), [first, last].into_iter().flatten().all(|t| t.within)) {
            (true, _) => "",
            (_, true) => "yes",
            (_, false) => "NO",
        };
        let cells = [figure.trim(), &c.nominal, &c.allowed, model, value(first), value(last), within];
        for (k, cell) in cells.into_iter().enumerate() {
            let left = if k == 0 { MARGIN } else { COLUMNS[k - 1] };
            let most = ((COLUMNS[k] - left) / 1.7) as usize;
            let item = Item::fitted(DVec2::new(left + 1.5, y - 2.2), cell, 3.4, most, Anchor::Start);
            let bad = (c.verdict == Verdict::Off && k == 3) || (within == "NO" && k == 6);
            items.push(if bad { item.bold() } else { item });
        }
        items.push(line);
    }
    let foot = PAGE.y - MARGIN - 2.0;
    // Where all was measured by one hand on one day the sheet says so.
    let one = |of: fn(&MeasuredValue) -> &str| {
        let mut all = checks().flat_map(|c| &c.taken).map(of);
        let first = all.next().unwrap_or_default();
        if all.all(|next| next == first) { first } else { "several, see the brief" }
    };
    items.push(text(36.0, foot, one(|t| &t.who), 3.4));
    items.push(text(119.0, foot, one(|t| &t.on), 3.4));
    items.push(text(MARGIN, foot, "measured by", 3.4));
    items.push(text(110.0, foot, "on", 3.4));
    items.push(text(165.0, foot, "with", 3.4));
    for (from, to) in [(34.0, 104.0), (117.0, 158.0), (175.0, PAGE.x - MARGIN)] {
        items.push(Item::line(DVec2::new(from, foot + 1.0), DVec2::new(to, foot + 1.0), Pen::Faint));
    }
    Drawing { size: PAGE, title: format!("{}, check sheet {n} of {all}", head.title), items }
}

fn value(of: Option<&MeasuredValue>) -> &str {
    of.map_or("", |t| t.value.as_str())
}
