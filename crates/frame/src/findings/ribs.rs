//! Rows of ribs: how many there are, how they stand, and what holds them.

use super::finding;
use crate::FrameResult;
use crate::build::ribs::RibRow;
use sheet::result::{Finding, Severity};

/// One line a row.
pub fn ribs(r: &FrameResult, rows: &[RibRow], out: &mut Vec<Finding>) {
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
            message += &format!("; {}: {} {} long", t.line, t.section, size(t.length));
            if let Some(tube) = &t.spacers {
                message += &format!(" with {} spacers of {tube}, {} long", n - 1, size(row.gap()));
            }
        }
        if !row.through.is_empty() {
            message += "; slide a rib";
            message += if row.through.iter().any(|t| t.spacers.is_some()) {
                " and its spacers onto the bars in turn, from one end"
            } else {
                " onto the bars in turn, from one end"
            };
        }
        out.push(Finding {
            rule: "what the line tells, worked out".into(),
            source: "geometry".into(),
            line: Some(row.line.clone()),
            ..finding("ribs", Severity::Note, message)
        });
    }
}
