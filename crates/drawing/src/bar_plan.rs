//! The cutting plan of bars as sheets of paper: each bar drawn with its pieces, the longest rest last.

use glam::DVec2;

use super::{Anchor, Drawing, Item, Pen};
use ground::geom::Contour;
use layout::{BarPlan, CutBar};

/// A4 lying.
const PAGE: DVec2 = DVec2::new(297.0, 210.0);
const MARGIN: f64 = 12.0;
const ROW: f64 = 19.0;
const HEAD: f64 = 26.0;

/// One or more pages a section.
pub fn bar_plan(plan: &BarPlan, unit: &str, title: &str) -> Vec<Drawing> {
    let rows_a_page = ((PAGE.y - HEAD - 2.0 * MARGIN) / ROW).floor().max(1.0) as usize;
    let longest = plan.bars.iter().map(|b| b.length_mm).fold(1.0, f64::max);
    let pages = plan.bars.chunks(rows_a_page);
    let all = pages.len();
    pages
        .enumerate()
        .map(|(n, bars)| {
            let mut items = head(plan, title, unit, n + 1, all);
            for (i, bar) in bars.iter().enumerate() {
                items.extend(row(bar, MARGIN + HEAD + ROW * i as f64, longest, unit));
            }
            Drawing { size: PAGE, title: format!("{} bars, page {} of {all}", plan.section, n + 1), items }
        })
        .collect()
}

fn head(plan: &BarPlan, title: &str, unit: &str, n: usize, all: usize) -> Vec<Item> {
    let at = |x: f64, y: f64| DVec2::new(x, y);
    let buy = if plan.to_buy.is_empty() {
        "nothing to buy".to_string()
    } else {
        format!("to buy: {}", plan.to_buy.join(", "))
    };
    vec![
        Item::text(
            at(MARGIN, MARGIN + 4.0),
            format!("{} · {}", plan.section, plan.material),
            5.0,
            Anchor::Start,
        )
        .bold(),
        Item::text(
            at(PAGE.x - MARGIN, MARGIN + 4.0),
            format!("{title} · page {n} of {all}"),
            3.4,
            Anchor::End,
        ),
        Item::text(
            at(MARGIN, MARGIN + 10.5),
            format!("{buy}; {}; {} of the length taken becomes pieces", plan.verdict, plan.used),
            3.4,
            Anchor::Start,
        ),
        Item::text(
            at(MARGIN, MARGIN + 15.5),
            format!(
                "Lengths in {unit} from long point to long point, angles off square. Support long bars; \
                 sharp edges."
            ),
            2.8,
            Anchor::Start,
        ),
    ]
}

fn row(bar: &CutBar, y: f64, longest: f64, unit: &str) -> Vec<Item> {
    let scale = (PAGE.x - 2.0 * MARGIN - 44.0) / longest;
    let left = MARGIN + 22.0;
    let (top, low) = (y + 4.0, y + 11.0);
    let x = |mm: f64| left + mm * scale;
    let kind = if bar.offcut { "offcut" } else { "bar" };
    let mut out = vec![
        Item::text(DVec2::new(MARGIN, y + 7.0), format!("{} ×", bar.times), 4.2, Anchor::Start).bold(),
        Item::text(DVec2::new(MARGIN, y + 11.0), format!("{kind} {}", bar.length), 2.6, Anchor::Start),
        Item::frame(DVec2::new(x(0.0), top), DVec2::new(x(bar.length_mm), low), Pen::Faint),
    ];
    for p in &bar.pieces {
        let corners = [
            DVec2::new(x(p.x[0]), top),
            DVec2::new(x(p.x[1]), top),
            DVec2::new(x(p.x[2]), low),
            DVec2::new(x(p.x[3]), low),
        ];
        out.push(Item::Shape { loops: vec![Contour::polygon(corners, 0)], pen: Pen::Cut, filled: true });
        let middle = (corners[0].x + corners[1].x + corners[2].x + corners[3].x) / 4.0;
        let wide = (p.x[1] - p.x[0]) * scale;
        if wide > 9.0 {
            out.push(Item::text(DVec2::new(middle, y + 8.6), p.mark.clone(), 2.6, Anchor::Middle));
        }
        if wide > 12.0 {
            let cuts = if p.cuts.iter().all(|c| c == "square") {
                String::new()
            } else {
                format!(" · {} | {}", p.cuts[0], p.cuts[1])
            };
            let text = if wide > 30.0 { format!("{}{cuts}", p.length) } else { p.length.clone() };
            out.push(Item::text(DVec2::new(middle, y + 14.6), text, 2.4, Anchor::Middle));
        }
    }
    let rest = format!("rest {} {unit}{}", bar.rest, if bar.kept { ", keep" } else { "" });
    out.push(Item::text(DVec2::new(x(bar.length_mm) + 1.5, y + 8.6), rest, 2.6, Anchor::Start));
    out
}
