//! Printing: how the job wants its figures shown. Full precision stays inside; this is the only place that rounds.

use serde::{Deserialize, Serialize};

use super::eval::{Dim, Value};

/// The unit of bare numbers and of printed lengths.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum LengthUnit {
    #[default]
    Mm,
    In,
}

impl LengthUnit {
    /// Millimetres in one unit.
    pub fn mm(self) -> f64 {
        match self {
            LengthUnit::Mm => 1.0,
            LengthUnit::In => 25.4,
        }
    }

    pub fn sign(self) -> &'static str {
        match self {
            LengthUnit::Mm => "mm",
            LengthUnit::In => "in",
        }
    }
}

/// How inches are printed.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum InchStyle {
    /// Three decimals.
    #[default]
    #[serde(rename = "decimal")]
    Decimal,
    #[serde(rename = "1/16")]
    Sixteenths,
    #[serde(rename = "1/32")]
    ThirtySeconds,
    #[serde(rename = "1/64")]
    SixtyFourths,
}

/// Prints lengths, areas, angles and masses for one job or piece.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Display {
    #[serde(default)]
    pub length: LengthUnit,
    #[serde(default)]
    pub inches: InchStyle,
}

/// `v` with at most `places` decimals and no trailing zeros.
pub fn trim_number(v: f64, places: usize) -> String {
    let text = format!("{v:.places$}");
    let text = if text.contains('.') { text.trim_end_matches('0').trim_end_matches('.').to_string() } else { text };
    if text == "-0" { "0".into() } else { text }
}

impl Display {
    /// A length from mm without its unit: 0.1 mm, or inches in the job's style.
    pub fn length(&self, mm: f64) -> String {
        let parts = match (self.length, self.inches) {
            (LengthUnit::Mm, _) => return no_minus_zero(format!("{mm:.1}")),
            (LengthUnit::In, InchStyle::Decimal) => return no_minus_zero(format!("{:.3}", mm / 25.4)),
            (_, InchStyle::Sixteenths) => 16,
            (_, InchStyle::ThirtySeconds) => 32,
            (_, InchStyle::SixtyFourths) => 64,
        };
        fraction(mm / 25.4, parts)
    }

    /// As `length`, with the unit behind it.
    pub fn length_unit(&self, mm: f64) -> String {
        match self.length {
            LengthUnit::Mm => format!("{} mm", self.length(mm)),
            LengthUnit::In => format!("{}\"", self.length(mm)),
        }
    }

    /// A length as a working shows it: three decimals of a mm, four of an inch, no trailing zeros.
    pub fn fine(&self, mm: f64) -> String {
        match self.length {
            LengthUnit::Mm => trim_number(mm, 3),
            LengthUnit::In => trim_number(mm / 25.4, 4),
        }
    }

    /// A size as it is spoken: no trailing zeros in mm, the job's fractions in inches.
    pub fn brief(&self, mm: f64) -> String {
        match self.length {
            LengthUnit::Mm => self.fine(mm),
            LengthUnit::In => self.length(mm),
        }
    }

    /// The text that, typed into a field, gives this length to 0.001 mm.
    pub fn typed(&self, mm: f64) -> String {
        match self.length {
            LengthUnit::Mm => trim_number(mm, 3),
            LengthUnit::In => trim_number(mm / 25.4, 5),
        }
    }

    /// Degrees, 0.1°.
    pub fn angle(&self, rad: f64) -> String {
        format!("{}°", trim_number(rad.to_degrees(), 1))
    }

    /// An area from mm²: m² or ft², three decimals.
    pub fn area(&self, mm2: f64) -> String {
        match self.length {
            LengthUnit::Mm => format!("{:.4} m²", mm2 / 1e6),
            LengthUnit::In => format!("{:.2} in²", mm2 / 645.16),
        }
    }

    /// A mass from kg: three decimals below 10 kg, then two; pounds where the job is in inches.
    pub fn mass(&self, kg: f64) -> String {
        let (v, unit) = match self.length {
            LengthUnit::Mm => (kg, "kg"),
            LengthUnit::In => (kg / 0.453_592_37, "lb"),
        };
        if v.abs() < 10.0 { format!("{v:.3} {unit}") } else { format!("{v:.2} {unit}") }
    }

    pub fn value(&self, value: Value) -> String {
        match value.dim {
            Dim::Bare => trim_number(value.v, 4),
            Dim::Length(1) => format!("{} {}", self.fine(value.v), self.length.sign()),
            Dim::Length(n) => format!("{} {}^{n}", trim_number(value.v / self.length.mm().powi(n.into()), 4), self.length.sign()),
            Dim::Angle => format!("{}°", trim_number(value.v.to_degrees(), 3)),
        }
    }
}

fn no_minus_zero(text: String) -> String {
    match text.strip_prefix('-') {
        Some(rest) if rest.chars().all(|c| c == '0' || c == '.') => rest.to_string(),
        _ => text,
    }
}

fn fraction(inches: f64, parts: u64) -> String {
    let total = (inches.abs() * parts as f64).round() as u64;
    let sign = if inches < 0.0 && total > 0 { "-" } else { "" };
    let (whole, rest) = (total / parts, total % parts);
    if rest == 0 {
        return format!("{sign}{whole}");
    }
    let shift = rest.trailing_zeros().min(parts.trailing_zeros());
    let (top, bottom) = (rest >> shift, parts >> shift);
    if whole == 0 { format!("{sign}{top}/{bottom}") } else { format!("{sign}{whole} {top}/{bottom}") }
}
