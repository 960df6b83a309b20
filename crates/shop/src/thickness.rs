//! The thickness of a sheet: a length, or a gauge.

use ground::quantity::boards;
use ground::reader::{Range, Reader};
use ground::working::Working;

use crate::{Material, gauge};

/// No sheet or plate is thicker than this, mm.
pub const THICKEST: f64 = 200.0;
pub const TOO_THICK: &str = "no sheet or plate here is thicker than 200 mm";

/// A length, or a gauge number with `ga` behind it, which means what the material is sold by.
pub fn thickness(
    reader: &mut Reader,
    path: &str,
    text: &str,
    material: Option<&Material>,
) -> Option<(f64, Option<Working>)> {
    if let Some(number) = gauge_number(text) {
        let Some(material) = material else {
            reader.refuse(
                path,
                text,
                "a gauge means another thickness in each material",
                "name the material, or write the thickness as a length",
            );
            return None;
        };
        let Some(series) = material.gauge else {
            reader.refuse(
                path,
                text,
                format!("{} is not sold by gauge", material.name),
                "write the thickness as a length",
            );
            return None;
        };
        return match number.parse::<u32>().ok().and_then(|n| Some((n, gauge::thickness(series, n)?))) {
            Some((n, mm)) => Some((mm, Some(gauge::working(series, n, mm)))),
            None => {
                reader.refuse(
                    path,
                    text,
                    format!("the {} has no such number", series.said()),
                    "write a number such as 16 ga, or a length",
                );
                None
            }
        };
    }
    let t = reader.length(path, text, Range::AboveZero)?;
    if t > THICKEST {
        reader.refuse(path, text, TOO_THICK, "check the unit");
        return None;
    }
    let board = boards::source(text).map(|source| Working {
        rule: "A board by the size that it is called by".into(),
        source: source.into(),
        formula: text.trim().into(),
        filled: reader.display.length_unit(t),
        terms: Vec::new(),
        assumption: Some("what is left of it when it is planed and dry; measure the board".into()),
    });
    Some((t, board))
}

/// The number of a gauge, as it was written.
pub fn gauge_number(text: &str) -> Option<String> {
    let text = text.trim().to_lowercase();
    text.strip_suffix("gauge").or_else(|| text.strip_suffix("ga")).map(|n| n.trim().to_string())
}
