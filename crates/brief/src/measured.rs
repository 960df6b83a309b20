//! What was measured on pieces that were made, beside what the drawing allows.

use ground::quantity::Display;
use ground::reader::{Range, Reader};
use serde::Serialize;

use crate::document::{Brief, Measured, Specimen};
use crate::verbs::{Limits, Quantity, is_within};
use crate::written::{signed, written_fine};

/// A measured value beside its figure.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct MeasuredValue {
    pub piece: Specimen,
    /// As it is printed, with its unit.
    pub value: String,
    /// By how much it departs from what the drawing says, with its sign.
    pub off: String,
    /// Whether that is allowed; not where nothing says what is.
    pub within: bool,
    pub who: String,
    pub on: String,
}

/// The most values that one brief keeps.
const MOST: usize = 10_000;

/// A row of the check that something may have been measured of.
pub struct Row {
    pub line: String,
    pub what: String,
    pub quantity: Quantity,
    pub nominal: f64,
    pub limits: Limits,
}

/// What was measured, each value with the place of the row that it is of. What cannot be read, or is of no
/// figure, is told.
pub fn measured(
    brief: &Brief,
    reader: &mut Reader,
    rows: &[Row],
    d: &Display,
) -> Vec<(usize, MeasuredValue)> {
    let mut out = Vec::new();
    reader.enter("");
    if brief.measured.len() > MOST {
        let message = format!("the brief has {} measured values; {MOST} is the most", brief.measured.len());
        reader.refuse_at("/measured", message, "make a brief for each lot");
        return out;
    }
    for (index, told) in brief.measured.iter().enumerate() {
        ground::halt::often();
        let Some(at) = rows.iter().position(|r| r.line == told.line && r.what == told.what) else {
            // A line that is switched off keeps what was measured of it.
            if !brief.lines.iter().any(|l| l.id == told.line) {
                let message = format!("the brief has no figure '{}' any more", told.line);
                reader.refuse(&format!("/measured/{index}/line"), &told.line, message, "take the value out");
            }
            continue;
        };
        let row = &rows[at];
        let read = read(reader, &format!("/measured/{index}/value"), told, row.quantity, d);
        out.extend(read.map(|value| {
            let off = signed(d, row.quantity, value - row.nominal);
            let within = row.limits.is_some() && is_within(row.limits, value);
            let value = written_fine(d, row.quantity, value);
            let (piece, who, on) = (told.piece, told.who.clone(), told.on.clone());
            (at, MeasuredValue { piece, value, off, within, who, on })
        }));
    }
    out
}

fn read(reader: &mut Reader, at: &str, told: &Measured, kind: Quantity, d: &Display) -> Option<f64> {
    match kind {
        Quantity::Length => reader.length(at, &told.value, Range::Any),
        Quantity::Angle => reader.angle(at, &told.value),
        Quantity::Count => reader.count(at, &told.value, 0, 1_000_000).map(|n| n as f64),
        Quantity::Mass => reader.number(at, &told.value).map(|v| v * d.mass_kg()),
    }
}
