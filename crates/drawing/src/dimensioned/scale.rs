//! Scales of drawings, and how they are said.

use ground::quantity::{LengthUnit, trim_number};

/// In mm jobs by ISO 5455, in inches by halves, as rules for drawing have them (common practice).
fn series(unit: LengthUnit) -> impl Iterator<Item = f64> {
    let decades = [100.0, 10.0, 1.0, 0.1, 0.01, 0.001];
    let metric = decades.into_iter().flat_map(|d| [d, d / 2.0, d / 5.0]);
    let halves = (-6..14).map(|k| 0.5f64.powi(k));
    let inches = unit == LengthUnit::In;
    metric.filter(move |_| !inches).chain(halves.filter(move |_| inches))
}

/// The largest scale of the series that is not above `most`.
pub fn largest(unit: LengthUnit, most: f64) -> f64 {
    series(unit).find(|s| *s <= most * (1.0 + 1e-9)).unwrap_or(most)
}

/// `1:5`, `2:1`.
pub fn said(scale: f64) -> String {
    if scale >= 1.0 {
        format!("{}:1", trim_number(scale, 2))
    } else {
        format!("1:{}", trim_number(1.0 / scale, 2))
    }
}
