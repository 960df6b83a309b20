//! Values of figures as they are written.

use ground::quantity::{Display, LengthUnit, parts_of, trim_number};

use crate::verbs::{Quantity, ROUNDED};

/// As it is printed, with its unit.
pub fn written(d: &Display, quantity: Quantity, v: f64) -> String {
    match quantity {
        Quantity::Length => d.length_unit(v),
        Quantity::Angle => format!("{}°", trim_number(v.to_degrees(), 2)),
        Quantity::Count => trim_number(v, 0),
        Quantity::Mass => d.mass(v),
    }
}

/// Whether it is told in inches as a fraction, without a rest.
fn is_fraction(d: &Display, v: f64) -> bool {
    let parts = parts_of(d.inches).map(|n| v / d.length.mm() * n as f64);
    d.length == LengthUnit::In && parts.is_some_and(|p| (p - p.round()).abs() < ROUNDED)
}

/// A difference small enough to be written as nothing is written finer.
pub fn written_fine(d: &Display, quantity: Quantity, v: f64) -> String {
    match quantity {
        Quantity::Length if is_fraction(d, v) => d.length_unit(v),
        Quantity::Length => format!("{} {}", d.fine(v), d.length.sign()),
        Quantity::Angle => format!("{}°", trim_number(v.to_degrees(), 3)),
        _ => written(d, quantity, v),
    }
}

/// A departure with its sign; nothing where there is none to speak of.
pub fn signed(d: &Display, quantity: Quantity, off: f64) -> String {
    let sign = if off < 0.0 { "−" } else { "+" };
    if off.abs() < ROUNDED { "±0".into() } else { format!("{sign}{}", written_fine(d, quantity, off.abs())) }
}
