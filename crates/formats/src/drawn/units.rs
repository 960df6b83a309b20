//! Units of length that drawings name, and what a drawing without one is likely to be in.

use steelk_core::geom::{Bounds, Segment};
use steelk_core::job::Assume;
use steelk_core::quantity::{LengthUnit, trim_number};

use super::strokes::Run;

/// A unit of length.
#[derive(Debug, PartialEq)]
pub struct Unit {
    /// Its number in a DXF's head ($INSUNITS); 0 where it has none.
    pub number: i64,
    pub name: &'static str,
    pub mm: f64,
    pub sign: &'static str,
}

const fn unit(number: i64, name: &'static str, mm: f64, sign: &'static str) -> Unit {
    Unit { number, name, mm, sign }
}

pub static UNITS: [Unit; 18] = [
    unit(1, "inches", 25.4, "in"),
    unit(2, "feet", 304.8, "ft"),
    unit(4, "millimetres", 1.0, "mm"),
    unit(5, "centimetres", 10.0, "cm"),
    unit(6, "metres", 1000.0, "m"),
    unit(7, "kilometres", 1e6, "km"),
    unit(8, "microinches", 25.4e-6, "µin"),
    unit(9, "thousandths of an inch", 0.0254, "mil"),
    unit(10, "yards", 914.4, "yd"),
    unit(11, "ångströms", 1e-7, "Å"),
    unit(12, "nanometres", 1e-6, "nm"),
    unit(13, "micrometres", 1e-3, "µm"),
    unit(14, "decimetres", 100.0, "dm"),
    unit(15, "decametres", 1e4, "dam"),
    unit(21, "US survey feet", 1_200_000.0 / 3937.0, "ft"),
    // Of SVG (CSS Values and Units, absolute lengths).
    unit(0, "points", 25.4 / 72.0, "pt"),
    unit(0, "picas", 25.4 / 6.0, "pc"),
    unit(0, "quarter millimetres", 0.25, "Q"),
];

impl Unit {
    pub fn signed(sign: &str) -> Option<&'static Unit> {
        UNITS.iter().find(|u| u.sign == sign)
    }

    /// The unit to work in: inches for a file in inches, feet or yards.
    pub fn working(&self) -> LengthUnit {
        if matches!(self.number, 1 | 2 | 8 | 9 | 10 | 21) { LengthUnit::In } else { LengthUnit::Mm }
    }
}

/// What a drawing without a unit is likely to be in.
#[derive(Clone, Debug, PartialEq)]
pub struct Guess {
    pub unit: Assume,
    pub because: String,
}

/// Shares of `values` that are whole multiples of `step`.
fn whole(values: &[f64], step: f64) -> f64 {
    let even = values.iter().filter(|v| ((*v / step) - (*v / step).round()).abs() * step < 2e-5);
    even.count() as f64 / values.len().max(1) as f64
}

/// From the sizes that stand in it (diameters, straight sides, overall): those of an inch drawing are small
/// numbers in sixteenths or thousandths, those of a metric one mostly whole. `runs` in the file's own
/// numbers.
/// Common practice, and no more than a question.
pub fn guess(runs: &[Run], leaning: Option<Assume>) -> Guess {
    let all = runs.iter().fold(Bounds::EMPTY, |b, r| b.join(&r.bounds()));
    let (wide, high) = if runs.is_empty() { (0.0, 0.0) } else { all.size().into() };
    let sizes = format!("{} × {}", trim_number(wide, 3), trim_number(high, 3));
    let told = |s: &Segment| s.arc().map_or_else(|| s.length(), |a| 2.0 * a.radius);
    let all = runs.iter().filter(|r| !r.curve).flat_map(|r| &r.segments).map(told);
    let values: Vec<f64> = all.filter(|v| *v > 1e-3).take(5_000).collect();
    let (half, sixteenth) = (whole(&values, 0.5), whole(&values, 1.0 / 16.0));
    let size = wide.max(high);
    let (unit, because) = match leaning {
        Some(Assume::Px) => (Assume::Px, "it tells its size in pixels, or in nothing".to_string()),
        _ if size > 60.0 => (Assume::Mm, format!("{sizes} would be a large part in inches")),
        _ if size < 12.0 && half < 0.9 => {
            (Assume::In, format!("{sizes} would be a small part in millimetres"))
        }
        Some(unit) => {
            let system = if unit == Assume::In { "inch" } else { "metric" };
            (unit, format!("its head says that it was drawn in the {system} system"))
        }
        None if sixteenth > half + 0.2 => {
            (Assume::In, "most of its sizes are sixteenths of a unit, not halves".to_string())
        }
        None => {
            let share = trim_number(half * 100.0, 0);
            (Assume::Mm, format!("{share} % of its sizes are halves of a unit or whole"))
        }
    };
    Guess { unit, because }
}
