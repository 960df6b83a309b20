//! The press brake and its tools, as told.

use ground::reader::{Range, Reader};
use ground::said;

use crate::brake::{BrakeOf, Tools};

said! {
    /// The shop's press brake.
    pub struct Brake {
        /// Greatest force, kN.
        pub force: String,
        /// Greatest length of bend.
        pub length: String,
        /// V openings of the dies on the rack.
        #[serde(default)]
        pub openings: Vec<String>,
        #[serde(default, skip_serializing_if = "BrakeTools::is_usual")]
        pub tools: BrakeTools,
    }
}

said! {
    /// Its tools by a few figures each; empty for the usual ones.
    pub struct BrakeTools {
        /// From the tip of the punch to the beam, with its holder.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub punch_height: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub punch_thickness: String,
        /// Included angle of the punch.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub punch_angle: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub beam_thickness: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub die_height: String,
        /// Included angle of the V.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub die_angle: String,
        /// Width of the die beside its V, on either side.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub die_shoulder: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub bed_thickness: String,
        /// Height of the stop's face above the die.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub stop_height: String,
        /// The furthest that the stop stands from the middle of the V.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub stop_reach: String,
        /// What of a bend may stay without punch at either end.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub unsupported: String,
    }
}

impl BrakeTools {
    fn is_usual(&self) -> bool {
        *self == BrakeTools::default()
    }
}

/// The job's press brake; usual figures where none is told.
pub fn read(reader: &mut Reader, told: Option<&Brake>) -> BrakeOf {
    let Some(told) = told else { return BrakeOf::default() };
    let mut out = BrakeOf { assumed: false, ..BrakeOf::default() };
    match reader.number("/brake/force", &told.force) {
        Some(f) if f > 0.0 => out.force = f,
        Some(_) => reader.refuse(
            "/brake/force",
            &told.force,
            "a force is above zero",
            "write the greatest force in kN",
        ),
        None => {}
    }
    if let Some(l) = reader.length("/brake/length", &told.length, Range::AboveZero) {
        out.length = l;
    }
    if told.openings.len() > MOST_OPENINGS {
        reader.refuse(
            "/brake/openings",
            "",
            format!("{} openings are told; {MOST_OPENINGS} are read", told.openings.len()),
            "take some out",
        );
    }
    let openings = told.openings.iter().enumerate().take(MOST_OPENINGS);
    let openings: Vec<f64> = openings
        .filter_map(|(i, v)| reader.length(&format!("/brake/openings/{i}"), v, Range::AboveZero))
        .collect();
    if !openings.is_empty() {
        out.openings = openings;
        out.openings.sort_by(f64::total_cmp);
    }
    let said = &told.tools;
    let usual = Tools::default();
    let mut length = |field: &str, text: &str, range: Range| {
        if text.trim().is_empty() {
            None
        } else {
            reader.length(&format!("/brake/tools/{field}"), text, range)
        }
    };
    let above = Range::AboveZero;
    let mut tools = Tools {
        punch_height: length("punch_height", &said.punch_height, above).unwrap_or(usual.punch_height),
        punch_thickness: length("punch_thickness", &said.punch_thickness, above)
            .unwrap_or(usual.punch_thickness),
        beam_thickness: length("beam_thickness", &said.beam_thickness, above).unwrap_or(usual.beam_thickness),
        die_height: length("die_height", &said.die_height, above),
        die_shoulder: length("die_shoulder", &said.die_shoulder, above).unwrap_or(usual.die_shoulder),
        bed_thickness: length("bed_thickness", &said.bed_thickness, above).unwrap_or(usual.bed_thickness),
        stop_height: length("stop_height", &said.stop_height, above).unwrap_or(usual.stop_height),
        stop_reach: length("stop_reach", &said.stop_reach, above).unwrap_or(usual.stop_reach),
        unsupported: length("unsupported", &said.unsupported, Range::ZeroUp),
        ..usual
    };
    for (field, text, angle) in [
        ("punch_angle", &said.punch_angle, &mut tools.punch_angle),
        ("die_angle", &said.die_angle, &mut tools.die_angle),
    ] {
        if text.trim().is_empty() {
            continue;
        }
        let at = format!("/brake/tools/{field}");
        match reader.angle(&at, text) {
            Some(a) if (10f64.to_radians()..=170f64.to_radians()).contains(&a) => *angle = a,
            Some(_) => reader.refuse(
                &at,
                text,
                "a punch or V has an angle between 10° and 170°",
                "write the angle that its flanks enclose, such as 30 or 85",
            ),
            None => {}
        }
    }
    out.tools = tools;
    out
}

const MOST_OPENINGS: usize = 100;
