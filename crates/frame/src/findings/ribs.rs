//! Rows of ribs: how many there are, how they stand, and what holds them.

use glam::DVec2;
use ground::geom::COINCIDENT;

use super::finding;
use crate::FrameResult;
use crate::build::ribs::RibRow;
use sheet::result::{Finding, Severity};

/// How many rectangles of this size a sheet holds, edge to edge in rows, whichever way they lie.
fn in_grid([a, b]: [f64; 2], [length, width]: [f64; 2]) -> usize {
    let fit = |along: f64, across: f64| {
        let many = |room: f64, size: f64| (room / size + COINCIDENT).floor() as usize;
        many(length, along) * many(width, across)
    };
    fit(a, b).max(fit(b, a))
}

/// What sheet a row takes: the area of its blanks, and how many sheets of the job's stock when they lie in a
/// grid. Of ribs that differ, each lies in the place of the largest.
fn sheets(r: &FrameResult, row: &RibRow, stock: &[[f64; 2]]) -> Option<String> {
    let d = &r.display;
    let of: Vec<_> = r.plates.iter().filter(|p| p.line == row.line).collect();
    let count: usize = of.iter().map(|p| p.places.len()).sum();
    let sizes = of.iter().map(|p| (p.piece.blank().size, p.places.len()));
    let area: f64 = sizes.clone().map(|(s, n)| s.x * s.y * n as f64).sum();
    let largest =
        sizes.map(|s| s.0).fold(DVec2::ZERO, |a, s| a.max(DVec2::new(s.max_element(), s.min_element())));
    let size = [largest.x, largest.y];
    let said = format!("{} × {}", d.length(size[0]), d.length_unit(size[1]));
    let most = if of.len() > 1 { "up to " } else { "" };
    let start = format!("{}: {count} blanks, {most}{said}, {} in all", row.line, d.area(area));
    let laid = stock.iter().map(|s| (s, in_grid(size, *s))).filter(|s| s.1 > 0);
    let sheet = |(s, n): (&[f64; 2], usize)| (count.div_ceil(n), s[0] * s[1], *s, n);
    let best = laid
        .map(sheet)
        .min_by(|a, b| (a.0 as f64 * a.1).total_cmp(&(b.0 as f64 * b.1)).then(a.1.total_cmp(&b.1)));
    match best {
        _ if count == 0 => None,
        None if stock.is_empty() => Some(start),
        None => Some(format!("{start}; no sheet of the stock holds one")),
        Some((sheets, _, [length, width], n)) => Some(format!(
            "{start}; edge to edge in a grid {n} to a sheet of {} × {}: {sheets} {}",
            d.length(length),
            d.length_unit(width),
            if sheets == 1 { "sheet" } else { "sheets" },
        )),
    }
}

/// Two lines a row.
pub fn ribs(r: &FrameResult, rows: &[RibRow], stock: &[[f64; 2]], out: &mut Vec<Finding>) {
    let d = &r.display;
    for row in rows {
        let (n, size) = (row.ribs.len(), |v: f64| d.length_unit(v));
        let mut message = format!(
            "{}: {n} ribs {} thick every {}, {} between, {} over all",
            row.line,
            d.thickness(row.thickness),
            size(row.pitch),
            size(row.gap()),
            size(row.over()),
        );
        for t in &row.through {
            let lengths: Vec<String> = t.lengths.iter().map(|l| size(*l)).collect();
            message += &format!("; {}: {} {} long", t.line, t.section, lengths.join(" and "));
            if let Some(tube) = &t.spacers {
                message += &format!(" with {} spacers of {tube}, {} long", n - 1, size(row.gap()));
            }
        }
        for rail in &row.rails {
            let how = match rail.slot {
                None => "half-lapped into each".into(),
                Some(slot) if slot < COINCIDENT => "whole, each slotted for all of it".into(),
                Some(slot) => format!("let into each, slotted by {} itself", d.length_unit(slot)),
            };
            message += &format!(
                "; {}: {} × {}, {} long, {how}",
                rail.line,
                d.length(rail.depth),
                d.thickness(rail.thickness),
                size(rail.length)
            );
        }
        if !row.through.is_empty() {
            message += "; slide a rib";
            message += if row.through.iter().any(|t| t.spacers.is_some()) {
                " and its spacers onto the bars in turn, from one end"
            } else {
                " onto the bars in turn, from one end"
            };
        }
        if !row.rails.is_empty() {
            message += if row.through.is_empty() { "; stand the ribs at their pitch" } else { "" };
            message += ", then press the rails into their slots";
        }
        out.push(Finding {
            rule: "what the line tells, worked out".into(),
            source: "geometry".into(),
            line: Some(row.line.clone()),
            ..finding("ribs", Severity::Note, message)
        });
        let Some(message) = sheets(r, row, stock) else { continue };
        out.push(Finding {
            rule: "smallest rectangles round them, no cut between; a true nest takes less".into(),
            source: "stock of this job".into(),
            line: Some(row.line.clone()),
            ..finding("rib_sheets", Severity::Note, message)
        });
    }
}
