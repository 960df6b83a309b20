//! What was measured on pieces that were made, beside what the drawing allows.

use ground::quantity::Display;
use ground::reader::{Range, Reader};
use serde::Serialize;

use crate::check::{Check, signed, written_fine};
use crate::document::{Brief, Measured, Specimen};
use crate::verbs::{Quantity, is_within};

/// A measured value beside its figure.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct MeasuredValue {
    /// Its place in the brief's list.
    pub index: usize,
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

/// Reads what was measured into the rows that it is of. What cannot be read, or is of no row, is told.
pub fn take_in(brief: &Brief, reader: &mut Reader, checks: &mut [Check], kinds: &[Quantity], d: &Display) {
    reader.enter("");
    if brief.measured.len() > MOST {
        let message = format!("the brief has {} measured values; {MOST} is the most", brief.measured.len());
        reader.refuse_at("/measured", message, "make a brief for each lot");
        return;
    }
    for (index, told) in brief.measured.iter().enumerate() {
        ground::halt::often();
        let row = checks.iter().position(|c| c.line == told.line && c.what == told.what);
        let Some(row) = row else {
            // A line that is switched off keeps what was measured of it.
            if !brief.lines.iter().any(|l| l.id == told.line) {
                let message = format!("the brief has no figure '{}' any more", told.line);
                reader.refuse(&format!("/measured/{index}/line"), &told.line, message, "take the value out");
            }
            continue;
        };
        let Some(value) = read(reader, &format!("/measured/{index}/value"), told, kinds[row], d) else {
            continue;
        };
        let check = &mut checks[row];
        // Without a nominal nothing can be said of it; its figure's own fault stands elsewhere.
        let (Some(nominal), limits) = (check.asked, check.least.zip(check.greatest)) else { continue };
        check.taken.push(MeasuredValue {
            index,
            piece: told.piece,
            value: written_fine(d, kinds[row], value),
            off: signed(d, kinds[row], value - nominal),
            within: limits.is_some() && is_within(limits, value),
            who: told.who.clone(),
            on: told.on.clone(),
        });
    }
}

fn read(reader: &mut Reader, at: &str, told: &Measured, kind: Quantity, d: &Display) -> Option<f64> {
    match kind {
        Quantity::Length => reader.length(at, &told.value, Range::Any),
        Quantity::Angle => reader.angle(at, &told.value),
        Quantity::Count => reader.count(at, &told.value, 0, 1_000_000).map(|n| n as f64),
        Quantity::Mass => reader.number(at, &told.value).map(|v| v * d.mass_kg()),
    }
}
