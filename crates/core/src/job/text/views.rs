//! Settings as a screen asks for them: their sentences, what is usual where nothing is told, and what they
//! say when they are added.

use std::f64::consts::PI;

use grammar::{VerbView, describe};
use ground::quantity::{Display, InchStyle, LengthUnit, trim_number};
use serde::Serialize;
use serde::de::DeserializeOwned;
use serde_json::Value;
use shop::brake::usual_tools;
use shop::settings::SawFacts;

use super::settings::{BENCH, SETTINGS};
use crate::job::Job;

/// A setting of the job, or the head of a piece or frame.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct SettingView {
    /// The field of the job that it is, or is one of; empty for the job itself.
    pub list: &'static str,
    #[serde(flatten)]
    pub verb: VerbView,
    pub usual: Vec<UsualView>,
}

/// What a value is where nothing is told, in a job of mm and in one of inches.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct UsualView {
    pub path: String,
    pub mm: String,
    pub inch: String,
}

/// Every setting, in the order of a job's text.
pub fn settings() -> Vec<SettingView> {
    SETTINGS.iter().zip(describe(&BENCH)).map(|(s, verb)| view(s.list, verb)).collect()
}

fn view(list: &'static str, mut verb: VerbView) -> SettingView {
    for value in verb.starts.iter_mut().flat_map(|s| [&mut s.mm, &mut s.inch]) {
        let Some(map) = value.as_object_mut() else { continue };
        map.remove("verb");
        if matches!(list, "pieces" | "frames") {
            map.insert("quantity".into(), "1".into());
        }
        if matches!(list, "pieces" | "frames" | "briefs") {
            map.insert("lines".into(), Value::Array(Vec::new()));
        }
    }
    let usual = match list {
        "brake" => usual_tools()
            .into_iter()
            .map(|f| UsualView { path: format!("/tools/{}", f.field), mm: f.mm, inch: f.inch })
            .collect(),
        "saw" => saw(),
        _ => Vec::new(),
    };
    SettingView { list, verb, usual }
}

fn saw() -> Vec<UsualView> {
    let display = |length, inches| SawFacts::usual(&Display { length, inches });
    let (mm, inch) =
        (display(LengthUnit::Mm, InchStyle::Decimal), display(LengthUnit::In, InchStyle::SixtyFourths));
    let row = |path: &str, of: fn(&SawFacts) -> f64| UsualView {
        path: path.into(),
        mm: trim_number(of(&mm), 1),
        inch: trim_number(of(&inch) / LengthUnit::In.mm(), 2),
    };
    let angle = |path: &str, v: f64| {
        let text = format!("{}°", trim_number(v * 180.0 / PI, 1));
        UsualView { path: path.into(), mm: text.clone(), inch: text }
    };
    vec![
        row("/kerf", |s| s.kerf),
        row("/trim", |s| s.trim),
        row("/offcut", |s| s.offcut),
        angle("/angle_step", mm.angle_step),
        angle("/most", mm.most),
        UsualView { path: "/length_step".into(), mm: "none".into(), inch: "as printed".into() },
    ]
}

/// What a new piece, frame or brief says of itself before it has lines; the default where it cannot be read.
pub fn new_doc<T: DeserializeOwned + Default>(tag: &str, unit: LengthUnit) -> T {
    let views = settings();
    let start = views.iter().find(|v| v.verb.tag == tag).and_then(|v| v.verb.starts.first());
    let mut said = start.map_or(Value::Null, |s| match unit {
        LengthUnit::Mm => s.mm.clone(),
        LengthUnit::In => s.inch.clone(),
    });
    if let Some(map) = said.as_object_mut() {
        map.insert("id".into(), format!("{tag}-1").into());
    }
    serde_json::from_value(said).unwrap_or_default()
}

/// A job with nothing in it yet, and the sheets that are sold everywhere.
pub fn new_job(unit: LengthUnit) -> Job {
    let head = SETTINGS.iter().filter(|s| s.list.is_empty()).flat_map(|s| s.verb.starts);
    let (head, sheets) = match unit {
        LengthUnit::Mm => (head.map(|s| s.mm).next(), ["2500 × 1250", "3000 × 1500"]),
        LengthUnit::In => (head.map(|s| s.inch).next(), ["96 × 48", "120 × 60"]),
    };
    let sheets: String = sheets.iter().map(|s| format!("\nsheet {s}")).collect();
    super::read_job(&(head.unwrap_or_default().to_string() + &sheets)).0
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_usual_is_what_is_reckoned_with() {
        let usual: Vec<UsualView> = settings().into_iter().flat_map(|s| s.usual).collect();
        let of = |path: &str| usual.iter().find(|u| u.path == path).map(|u| (u.mm.as_str(), u.inch.as_str()));
        assert_eq!(of("/kerf"), Some(("2.5", "0.1")));
        assert_eq!(of("/most"), Some(("60°", "60°")));
        assert!(of("/tools/punch_angle").is_some());
    }
}
