//! What a figure may depart by: its own tolerance, or the drawing's general one.

use grammar::*;
use ground::reader::{Range, Reader};

use super::{Look, Quantity, Reading, Standing};

choice! {
    /// A tolerance told beside a figure.
    pub enum Tolerance by "kind" {
        /// The same up and down.
        Even { by: String },
        Uneven { plus: String, minus: String },
        /// The least and the greatest that is allowed.
        Limits { low: String, high: String },
    }
}

macro_rules! tolerance {
    ($slot:ident) => {
        aside(&[union_or(
            "/tolerance",
            "kind",
            "tolerance",
            "by its class",
            &[
                case("even", "±|±|+-|+/-", &[$slot("/by", "tolerance")], ["0.5", "1/32"]),
                case(
                    "uneven",
                    "plus",
                    &[$slot("/plus", "upper tolerance"), word("minus"), $slot("/minus", "lower tolerance")],
                    ["0.5 minus 0.5", "1/32 minus 1/32"],
                ),
                case(
                    "limits",
                    "within",
                    &[$slot("/low", "least"), word("to"), $slot("/high", "greatest")],
                    ["0 to 1", "0 to 1"],
                ),
            ],
        )])
    };
}

/// Behind a length.
pub const TOLERANCE: Part = tolerance!(length);

/// Behind an angle.
pub const ANGLE_TOLERANCE: Part = tolerance!(angle);

/// A tolerance in numbers.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Allowed {
    /// By the drawing's class.
    General,
    Plus(f64, f64),
    Within(f64, f64),
}

impl Allowed {
    /// The least and the greatest, where the drawing's own class allows `general`.
    pub fn limits(self, nominal: f64, general: Option<f64>) -> Limits {
        match self {
            Allowed::General => general.map(|by| (nominal - by, nominal + by)),
            Allowed::Plus(plus, minus) => Some((nominal - minus, nominal + plus)),
            Allowed::Within(low, high) => Some((low, high)),
        }
    }

    /// By what, in words.
    pub fn said(self, class: &str) -> String {
        if self == Allowed::General { class.into() } else { "its own tolerance".into() }
    }
}

/// The numbers of a tolerance, which `one` reads.
fn read_with(
    told: Option<&Tolerance>,
    reader: &mut Reader,
    one: &dyn Fn(&mut Reader, &str, &str) -> Option<f64>,
) -> Option<Allowed> {
    let at = |field: &str| format!("/say/tolerance/{field}");
    Some(match told {
        None => Allowed::General,
        Some(Tolerance::Even { by }) => {
            let by = one(reader, &at("by"), by)?;
            Allowed::Plus(by, by)
        }
        Some(Tolerance::Uneven { plus, minus }) => {
            let (plus, minus) = (one(reader, &at("plus"), plus), one(reader, &at("minus"), minus));
            Allowed::Plus(plus?, minus?)
        }
        Some(Tolerance::Limits { low, high }) => {
            let (a, b) = (one(reader, &at("low"), low), one(reader, &at("high"), high));
            let (a, b) = (a?, b?);
            if a > b {
                reader.refuse(&at("low"), low, "the least is more than the greatest", "turn the two round");
                return None;
            }
            Allowed::Within(a, b)
        }
    })
}

/// The least and the greatest that is allowed; none where nothing says.
pub type Limits = Option<(f64, f64)>;

/// What is measured is told as met within the rounding of numbers, mm, rad and kg.
pub const ROUNDED: f64 = 1e-6;

/// Whether a measure is what is allowed.
pub fn is_within(limits: Limits, v: f64) -> bool {
    limits.is_some_and(|(low, high)| v >= low - ROUNDED && v <= high + ROUNDED)
}

/// A length of the drawing, read, with what it may depart by.
pub struct ToldLength {
    pub value: f64,
    allowed: Allowed,
}

impl ToldLength {
    pub fn read(
        reader: &mut Reader,
        value: &str,
        range: Range,
        tolerance: Option<&Tolerance>,
    ) -> Option<ToldLength> {
        let value = reader.length("/say/value", value, range);
        let of = |r: &mut Reader, path: &str, text: &str| r.length(path, text, Range::ZeroUp);
        let allowed = read_with(tolerance, reader, &of);
        Some(ToldLength { value: value?, allowed: allowed? })
    }

    pub fn limits(&self, at: &Standing) -> Limits {
        self.allowed.limits(self.value, at.class.length(self.value))
    }

    pub fn allows(&self, at: &Standing, mm: f64) -> bool {
        is_within(self.limits(at), mm)
    }

    /// The row of it; `more` are the words for too much and too little.
    pub fn look(&self, at: &Standing, more: [&'static str; 2], reading: Reading) -> Look {
        Look {
            what: "",
            quantity: Quantity::Length,
            nominal: self.value,
            limits: self.limits(at),
            by: self.allowed.said(at.class.said()),
            more,
            reading,
        }
    }
}

/// Of an angle.
pub fn read_angle(told: Option<&Tolerance>, reader: &mut Reader) -> Option<Allowed> {
    read_with(told, reader, &|r, path, text| r.angle(path, text))
}
