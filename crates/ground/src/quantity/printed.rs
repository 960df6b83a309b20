//! A number as a list prints it, with its value: who shows it shows the text, who computes takes the value.

use std::fmt;
use std::ops::Deref;

use serde::{Serialize, Serializer};

use super::display::{Display, InchStyle, LengthUnit, parts_of, three_figures, trim_number};

/// How a printed number is written.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Shown {
    Decimals(usize),
    /// Parts of an inch to this denominator.
    Fraction(u64),
    Degrees,
}

/// A printed text, and the number that it is where it is one.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Printed {
    text: String,
    number: Option<(f64, Shown)>,
}

impl Printed {
    /// Words, or a number with more around it: `cope C1`, `30° × 12°`, `16 ga`.
    pub fn words(text: impl Into<String>) -> Self {
        Printed { text: text.into(), number: None }
    }

    pub fn count(n: usize) -> Self {
        Printed { text: n.to_string(), number: Some((n as f64, Shown::Decimals(0))) }
    }

    /// Digits with a point at most, as this module prints them.
    fn decimals(text: String) -> Self {
        let places = text.split_once('.').map_or(0, |(_, d)| d.len());
        let number = text.parse().ok().filter(|v: &f64| v.is_finite()).map(|v| (v, Shown::Decimals(places)));
        Printed { text, number }
    }

    /// The nearest part of an inch.
    fn fraction(inches: f64, parts: u64) -> Self {
        let total = (inches.abs() * parts as f64).round() as u64;
        let minus = inches < 0.0 && total > 0;
        let (whole, rest) = (total / parts, total % parts);
        let shift = rest.trailing_zeros().min(parts.trailing_zeros());
        let (top, bottom) = (rest >> shift, parts >> shift);
        let text = match (whole, rest) {
            (_, 0) => whole.to_string(),
            (0, _) => format!("{top}/{bottom}"),
            _ => format!("{whole} {top}/{bottom}"),
        };
        let value = total as f64 / parts as f64;
        let shown = if rest == 0 { Shown::Decimals(0) } else { Shown::Fraction(bottom) };
        let (text, value) = if minus { (format!("-{text}"), -value) } else { (text, value) };
        Printed { text, number: Some((value, shown)) }
    }

    /// Degrees with at most so many decimals.
    pub fn degrees(rad: f64, places: usize) -> Self {
        let text = trim_number(rad.to_degrees(), places);
        let number = text.parse().ok().map(|v| (v, Shown::Degrees));
        Printed { text: format!("{text}°"), number }
    }

    /// The number that the text is, and how it is written; none for words.
    pub fn number(&self) -> Option<(f64, Shown)> {
        self.number
    }

    /// The number that the text is, nothing for words.
    pub fn value(&self) -> f64 {
        self.number.map_or(0.0, |n| n.0)
    }

    pub fn as_str(&self) -> &str {
        &self.text
    }
}

impl Deref for Printed {
    type Target = str;

    fn deref(&self) -> &str {
        &self.text
    }
}

impl fmt::Display for Printed {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&self.text)
    }
}

impl PartialEq<str> for Printed {
    fn eq(&self, other: &str) -> bool {
        self.text == other
    }
}

impl PartialEq<&str> for Printed {
    fn eq(&self, other: &&str) -> bool {
        self.text == *other
    }
}

impl PartialEq<String> for Printed {
    fn eq(&self, other: &String) -> bool {
        self.text == *other
    }
}

impl Serialize for Printed {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        to.serialize_str(&self.text)
    }
}

/// The sum of numbers as they are printed: whoever adds the rows up gets the total.
pub fn summed<'a>(printed: impl Iterator<Item = &'a Printed>) -> Printed {
    // As many decimals as the lightest row has: a sum of rounded numbers is none of their noise.
    Printed::decimals(trim_number(printed.map(Printed::value).sum(), 6))
}

impl Display {
    /// A place that a drill goes to: to 0.01 mm, or to a thousandth of an inch.
    pub fn place_number(&self, mm: f64) -> Printed {
        let places = if self.length == LengthUnit::Mm { 2 } else { 3 };
        Printed::decimals(trim_number(mm / self.length.mm(), places))
    }

    /// A length from mm without its unit: 0.1 mm, or inches in the job's style; small ones with three
    /// figures.
    pub fn length_number(&self, mm: f64) -> Printed {
        match (self.length, parts_of(self.inches)) {
            (LengthUnit::Mm, _) => Printed::decimals(three_figures(mm, 1, 4)),
            (LengthUnit::In, None) => Printed::decimals(three_figures(mm / 25.4, 3, 5)),
            (LengthUnit::In, Some(parts)) => Printed::fraction(mm / 25.4, parts),
        }
    }

    /// A thickness without its unit, as exactly as it was told: a fraction only where it is one, never the
    /// nearest.
    pub fn thickness_number(&self, mm: f64) -> Printed {
        let parts = mm / 25.4 * 64.0;
        match (self.length, self.inches) {
            (LengthUnit::Mm, _) => Printed::decimals(trim_number(mm, 5)),
            (LengthUnit::In, InchStyle::Decimal) => Printed::decimals(trim_number(mm / 25.4, 5)),
            (LengthUnit::In, _) if (parts - parts.round()).abs() < 1e-6 => Printed::fraction(mm / 25.4, 64),
            (LengthUnit::In, _) => Printed::decimals(trim_number(mm / 25.4, 5)),
        }
    }

    /// A size as it is spoken: no trailing zeros in mm, the job's fractions in inches.
    pub fn brief_number(&self, mm: f64) -> Printed {
        match self.length {
            LengthUnit::Mm => Printed::decimals(trim_number(mm, 3)),
            LengthUnit::In => self.length_number(mm),
        }
    }

    /// A mass from kg without its unit: three decimals below 10, then two; small ones with three figures.
    pub fn mass_number(&self, kg: f64) -> Printed {
        let v = kg / self.mass_kg();
        Printed::decimals(three_figures(v, if v.abs() < 10.0 { 3 } else { 2 }, 9))
    }

    /// What one of the unit that masses are printed in weighs, kg.
    pub fn mass_kg(&self) -> f64 {
        match self.length {
            LengthUnit::Mm => 1.0,
            LengthUnit::In => 0.453_592_37,
        }
    }

    /// The unit that masses are printed in.
    pub fn mass_unit(&self) -> &'static str {
        match self.length {
            LengthUnit::Mm => "kg",
            LengthUnit::In => "lb",
        }
    }
}
