//! What a revision comes to: sizes and masses, filed with it so that any two can be compared at a glance.

use serde::{Deserialize, Serialize};
use steelk_core::quantity::Display;
use steelk_core::result::{JobResult, Severity};
use utoipa::ToSchema;

#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct PieceSummary {
    pub id: String,
    pub mark: String,
    pub quantity: usize,
    /// Printed.
    pub flat: String,
    pub mass: String,
}

#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Summary {
    pub pieces: Vec<PieceSummary>,
    /// Pieces in their quantities.
    pub count: usize,
    pub mass: String,
    pub stops: usize,
    pub warns: usize,
}

pub fn summarise(result: &JobResult, display: &Display) -> Summary {
    let made = result.pieces.iter().filter(|p| p.made);
    let pieces: Vec<PieceSummary> = made
        .map(|p| PieceSummary {
            id: p.id.clone(),
            mark: p.mark.clone(),
            quantity: p.quantity,
            flat: format!("{} × {}", p.display.length(p.value("flat_length")), p.display.length_unit(p.value("flat_width"))),
            mass: p.display.mass(p.value("mass")),
        })
        .collect();
    Summary {
        count: pieces.iter().map(|p| p.quantity).sum(),
        pieces,
        mass: display.mass(result.mass()),
        stops: result.pieces.iter().map(|p| p.stops()).sum(),
        warns: result.pieces.iter().flat_map(|p| &p.findings).filter(|f| f.severity == Severity::Warn).count(),
    }
}

/// What changed in size and mass from one revision to the next, in words.
pub fn changes(before: &Summary, after: &Summary) -> Vec<String> {
    let mut out = Vec::new();
    for p in &after.pieces {
        match before.pieces.iter().find(|q| q.id == p.id) {
            None => out.push(format!("{} new: {}, {}", p.mark, p.flat, p.mass)),
            Some(q) => {
                let mut parts = Vec::new();
                let mut step = |a: &str, b: &str| {
                    if a != b {
                        parts.push(format!("{a} → {b}"));
                    }
                };
                step(&q.flat, &p.flat);
                step(&q.mass, &p.mass);
                step(&format!("×{}", q.quantity), &format!("×{}", p.quantity));
                if !parts.is_empty() {
                    out.push(format!("{}: {}", p.mark, parts.join(", ")));
                }
            }
        }
    }
    out.extend(before.pieces.iter().filter(|q| after.pieces.iter().all(|p| p.id != q.id)).map(|q| format!("{} taken out", q.mark)));
    if before.mass != after.mass {
        out.push(format!("job {} → {}", before.mass, after.mass));
    }
    out
}
