//! Printing: how the job wants its figures shown. Full precision stays inside; this is the only place that
//! rounds.

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

/// `v` with so many decimals; halves go away from zero, and nothing is printed as minus zero.
pub fn fixed(v: f64, places: usize) -> String {
    let scale = 10f64.powi(places as i32);
    // A value that is a half but for the last bits of its arithmetic is a half.
    let units = (v.abs() * scale * (1.0 + 1e-13) + 0.5).floor();
    if !units.is_finite() || units > 1e17 {
        return format!("{v:.places$}");
    }
    let digits = format!("{:0width$}", units as u64, width = places + 1);
    let (whole, rest) = digits.split_at(digits.len() - places);
    let sign = if v < 0.0 && units > 0.0 { "-" } else { "" };
    if places == 0 { format!("{sign}{whole}") } else { format!("{sign}{whole}.{rest}") }
}

/// `v` with at most `places` decimals and no trailing zeros.
pub fn trim_number(v: f64, places: usize) -> String {
    let text = fixed(v, places);
    if text.contains('.') { text.trim_end_matches('0').trim_end_matches('.').to_string() } else { text }
}

/// `v` with so many decimals, and up to `most` where a small value needs them for three figures; of those no
/// trailing zeros.
pub fn three_figures(v: f64, places: usize, most: usize) -> String {
    if v == 0.0 || !v.is_finite() {
        return fixed(v, places);
    }
    let wanted = (2 - v.abs().log10().floor() as i32).clamp(0, most as i32) as usize;
    let mut text = fixed(v, places.max(wanted));
    for _ in places..wanted {
        if text.ends_with('0') {
            text.pop();
        }
    }
    text
}

/// `1 piece`, `2 pieces`.
pub fn counted(n: usize, one: &str) -> String {
    format!("{n} {one}{}", if n == 1 { "" } else { "s" })
}

impl Display {
    /// A length from mm without its unit: 0.1 mm, or inches in the job's style; small ones with three
    /// figures.
    pub fn length(&self, mm: f64) -> String {
        self.length_number(mm).to_string()
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
        self.brief_number(mm).to_string()
    }

    /// A size that is made by: a fraction of an inch only where it is one, else four decimals.
    pub fn exact(&self, mm: f64) -> String {
        let parts = mm / 25.4 * 64.0;
        let is_fraction = (parts - parts.round()).abs() < 1e-6;
        match (self.length, self.inches) {
            (LengthUnit::In, style) if style != InchStyle::Decimal && is_fraction => self.thickness(mm),
            _ => self.fine(mm),
        }
    }

    /// A thickness without its unit, as exactly as it was told: a fraction only where it is one, never the
    /// nearest.
    pub fn thickness(&self, mm: f64) -> String {
        self.thickness_number(mm).to_string()
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
            LengthUnit::Mm => format!("{} m²", three_figures(mm2 / 1e6, 4, 9)),
            LengthUnit::In => format!("{} in²", three_figures(mm2 / 645.16, 2, 6)),
        }
    }

    /// A volume from mm³, with three figures at least.
    pub fn volume(&self, mm3: f64) -> String {
        match self.length {
            LengthUnit::Mm => format!("{} cm³", three_figures(mm3 / 1e3, 2, 6)),
            LengthUnit::In => format!("{} in³", three_figures(mm3 / 25.4f64.powi(3), 3, 7)),
        }
    }

    /// A mass from kg: three decimals below 10 kg, then two; small ones with three figures; pounds where the
    /// job is in inches.
    pub fn mass(&self, kg: f64) -> String {
        format!("{} {}", self.mass_number(kg), self.mass_unit())
    }

    pub fn value(&self, value: Value) -> String {
        match value.dim {
            Dim::Bare => trim_number(value.v, 4),
            Dim::Length(1) => format!("{} {}", self.fine(value.v), self.length.sign()),
            Dim::Length(n) => format!(
                "{} {}^{n}",
                trim_number(value.v / self.length.mm().powi(n.into()), 4),
                self.length.sign()
            ),
            Dim::Angle => format!("{}°", trim_number(value.v.to_degrees(), 3)),
        }
    }
}

/// Parts of an inch that a style prints; none for decimals.
pub fn parts_of(style: InchStyle) -> Option<u64> {
    match style {
        InchStyle::Decimal => None,
        InchStyle::Sixteenths => Some(16),
        InchStyle::ThirtySeconds => Some(32),
        InchStyle::SixtyFourths => Some(64),
    }
}
