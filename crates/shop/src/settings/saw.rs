//! The saw, as told and as read.

use ground::geom::COINCIDENT;
use ground::quantity::{Display, InchStyle, LengthUnit, parts_of};
use ground::reader::{Range, Reader};
use ground::said;

said! {
    /// The saw, for lists and bar plans. Empty values take the usual ones.
    pub struct Saw {
        /// Step that its angles are set in, 0.5° where empty.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub angle_step: String,
        /// Step that lengths are told in; empty for none but the fraction of an inch that the job prints.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub length_step: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub kerf: String,
        /// Taken off each end of a new bar.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub trim: String,
        /// Furthest off square that it swings, 60° where empty.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub most: String,
        /// Shorter offcuts are scrap.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub offcut: String,
    }
}

/// mm and rad.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct SawFacts {
    pub angle_step: f64,
    pub length_step: f64,
    pub kerf: f64,
    pub trim: f64,
    pub most: f64,
    pub offcut: f64,
}

/// A small gap, which a fraction would round away.
pub fn small(d: &Display, mm: f64) -> String {
    Display { inches: InchStyle::Decimal, ..*d }.length_unit(mm)
}

impl SawFacts {
    /// Common practice where nothing is told; lengths as the job prints them.
    pub fn usual(display: &Display) -> Self {
        // None unless it is set, but that a job in fractions of an inch prints no finer ones.
        let length_step = match (display.length, parts_of(display.inches)) {
            (LengthUnit::In, Some(parts)) => 25.4 / parts as f64,
            _ => 0.0,
        };
        SawFacts {
            angle_step: 0.5f64.to_radians(),
            length_step,
            kerf: 2.5,
            trim: 10.0,
            most: 60f64.to_radians(),
            offcut: 500.0,
        }
    }

    pub fn read(reader: &mut Reader, told: Option<&Saw>) -> Self {
        let mut out = SawFacts::usual(&reader.display);
        if let Some(saw) = told {
            let mut length = |path: &str, text: &str, range: Range, into: &mut f64| {
                if !text.trim().is_empty()
                    && let Some(v) = reader.length(path, text, range)
                {
                    *into = v;
                }
            };
            length("/saw/length_step", &saw.length_step, Range::AboveZero, &mut out.length_step);
            length("/saw/kerf", &saw.kerf, Range::ZeroUp, &mut out.kerf);
            length("/saw/trim", &saw.trim, Range::ZeroUp, &mut out.trim);
            length("/saw/offcut", &saw.offcut, Range::ZeroUp, &mut out.offcut);
            for (path, text, into) in [
                ("/saw/angle_step", &saw.angle_step, &mut out.angle_step),
                ("/saw/most", &saw.most, &mut out.most),
            ] {
                if text.trim().is_empty() {
                    continue;
                }
                match reader.angle(path, text) {
                    Some(v) if v > COINCIDENT && v < 1.55 => *into = v,
                    Some(_) => reader.refuse(
                        path,
                        text,
                        "this is not an angle that a saw is set in",
                        "write degrees above 0 and below 89",
                    ),
                    None => {}
                }
            }
        }
        out
    }

    /// How lengths are told so that the saw's step can be read: in finer fractions than the job's, or
    /// decimals, where those are too coarse.
    pub fn told(&self, display: &Display) -> Display {
        let steps = |n: u64| self.length_step * n as f64 / 25.4;
        let shows = |style: InchStyle| {
            parts_of(style).is_none_or(|n| (steps(n) - steps(n).round()).abs() < COINCIDENT)
        };
        let from = parts_of(display.inches).unwrap_or(0);
        let styles =
            [InchStyle::Sixteenths, InchStyle::ThirtySeconds, InchStyle::SixtyFourths, InchStyle::Decimal];
        let inches = match display.inches {
            InchStyle::Decimal => InchStyle::Decimal,
            _ => styles
                .into_iter()
                .find(|s| parts_of(*s).is_none_or(|n| n >= from) && shows(*s))
                .unwrap_or_default(),
        };
        Display { inches, ..*display }
    }

    /// Said beside a list; empty where lengths are told as they are.
    pub fn steps_said(&self, display: &Display) -> String {
        if self.length_step > 0.0 {
            format!("lengths to the next {}", self.told(display).length_unit(self.length_step))
        } else {
            String::new()
        }
    }

    /// To the next step.
    pub fn angle(&self, rad: f64) -> f64 {
        (rad / self.angle_step).round() * self.angle_step
    }

    pub fn length(&self, mm: f64) -> f64 {
        if self.length_step > 0.0 { (mm / self.length_step).round() * self.length_step } else { mm }
    }
}
