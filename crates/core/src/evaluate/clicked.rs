//! Geometry of a flat that was clicked: where on it, as a line tells it, and the lines that make sense there.

use std::sync::LazyLock;

use ground::quantity::{Display, LengthUnit};
use ground::reference::part;
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use sheet::edges_on;
use sheet::result::PieceResult;
use sheet::verbs::PIECE;
use sheet::zones::Zone;

use grammar::OfferView;

/// What was clicked.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Deserialize, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Target {
    Panel,
    Bend,
    Hole,
    Edge,
    Corner,
}

#[derive(Clone, Debug, Deserialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Clicked {
    pub what: Target,
    /// Its name.
    pub name: String,
    /// The line that made it; empty for none.
    #[serde(default)]
    pub line: String,
    /// Where on the flat, mm.
    pub at: [f64; 2],
}

/// What can be said of it.
#[derive(Clone, Debug, Default, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Offers {
    /// What was clicked and where, as a line tells it.
    pub said: String,
    pub lines: Vec<OfferedLine>,
}

#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct OfferedLine {
    pub words: String,
    #[cfg_attr(feature = "utoipa", schema(value_type = Object))]
    pub say: Value,
    /// What its id is numbered from.
    pub stem: String,
}

/// A hand points to half a millimetre or a sixteenth of an inch.
const POINTED_MM: f64 = 0.5;
const POINTED_INCH: f64 = 1.0 / 16.0;

/// A click beside an edge is still one on its panel, mm.
const BESIDE: f64 = 5.0;

/// A distance that a hand pointed out, as it is typed.
fn pointed(mm: f64, d: &Display) -> String {
    let step = match d.length {
        LengthUnit::Mm => POINTED_MM,
        LengthUnit::In => POINTED_INCH * LengthUnit::In.mm(),
    };
    d.typed((mm / step).round() * step)
}

/// The side of a leg: `start-1.north` where leg b was clicked is `start-1.b.north`.
fn edge_of_leg(p: &PieceResult, clicked: &Clicked) -> String {
    let side = clicked.name.rsplit('.').next().unwrap_or_default();
    let near =
        |z: &Zone| (0..2).all(|k| clicked.at[k] >= z.min[k] - BESIDE && clicked.at[k] <= z.max[k] + BESIDE);
    let is_start = p.zones.first().is_some_and(|z| clicked.name.starts_with(&format!("{}.", z.line)));
    let is_on = |z: &&Zone| near(z) && edges_on(p, z).contains(&part(&z.name, side));
    let leg = p.zones.iter().find(is_on).filter(|_| is_start && p.zones.len() > 1);
    leg.map_or_else(|| clicked.name.clone(), |z| part(&z.name, side))
}

/// A click, as verbs are offered for it.
struct Hit {
    /// Kinds of geometry that it is one of.
    on: Vec<&'static str>,
    /// Stands for `$this`, and for it where the end of a shell is meant.
    this: String,
    short: String,
    place: Value,
    /// The same in words.
    said: String,
}

fn hit(p: &PieceResult, c: &Clicked) -> Hit {
    let d = &p.display;
    let short = c.name.rsplit('.').next().unwrap_or_default().to_string();
    let zone = p.zones.iter().position(|z| z.name == c.name);
    let mut out =
        Hit { on: Vec::new(), this: c.name.clone(), short, place: Value::Null, said: c.name.clone() };
    match c.what {
        Target::Panel => {
            out.on = vec!["panel", "zone"];
            let on = zone.filter(|_| p.zones.len() > 1);
            // On a folded piece from the outer faces, as a drawing and a rule have it.
            let outer = on.and_then(|k| p.outside.get(k).copied().flatten());
            let flat = zone.map_or(p.flat.outer.bounds().min, |k| p.zones[k].min).to_array();
            let low = outer.map_or(flat, |o| [o[0], o[1]]);
            let [x, y] = [0, 1].map(|k| pointed(c.at[k] - low[k], d));
            let told = |from: &str, distance: &str| match outer {
                Some(_) => json!({ "from": from, "distance": distance, "edge": "outside" }),
                None => json!({ "from": from, "distance": distance }),
            };
            let name = on.map_or("flat", |k| p.zones[k].name.as_str());
            out.place = json!({ "on": name, "x": told("west", &x), "y": told("south", &y) });
            out.said = format!("{} · {x} from west, {y} from south", c.name);
        }
        Target::Bend => {
            let carries = zone.is_some_and(|k| p.carries.get(k).copied().unwrap_or_default());
            out.on = vec!["bend", if carries { "shell" } else { "fold" }];
            let low = p.flat.outer.bounds().min;
            let middle = zone.map_or(c.at[0], |k| (p.zones[k].min.x + p.zones[k].max.x) / 2.0);
            out.place = json!({ "on": "flat",
                "x": { "from": "west", "distance": pointed(middle - low.x, d) },
                "y": { "from": "south", "distance": pointed(c.at[1] - low.y, d) } });
        }
        Target::Hole => {
            out.on = vec!["hole"];
            out.this = c.line.clone();
            out.short = c.line.clone();
        }
        Target::Edge => {
            let outer = &p.flat.outer;
            let named = |i: &usize| p.tags.get(outer.vertices[*i].tag as usize) == Some(&c.name);
            let curved = (0..outer.vertices.len()).filter(named).any(|i| !outer.segment(i).is_line());
            // What is curved folds no panel.
            out.on = vec![if curved { "arc" } else { "edge" }];
            if ["west", "east", "south", "north"].contains(&out.short.as_str()) {
                out.on.push("end");
            }
            out.this = edge_of_leg(p, c);
        }
        Target::Corner => out.on = vec!["corner"],
    }
    out
}

/// A line as it is offered, with what was clicked in its place.
fn filled(value: &Value, this: &str, place: &Value) -> Value {
    match value {
        Value::String(s) if s == "$this" => this.into(),
        Value::String(s) if s == "$place" => place.clone(),
        Value::Array(of) => of.iter().map(|v| filled(v, this, place)).collect(),
        Value::Object(of) => of.iter().map(|(k, v)| (k.clone(), filled(v, this, place))).collect(),
        other => other.clone(),
    }
}

/// The lines that make sense where a click went, filled in.
pub fn offers(p: &PieceResult, clicked: &Clicked) -> Offers {
    static ALL: LazyLock<Vec<OfferView>> = LazyLock::new(|| grammar::offers(&PIECE));
    let hit = hit(p, clicked);
    let line = |o: &OfferView| {
        let this = if o.on == "end" { &hit.short } else { &hit.this };
        let named = if matches!(o.on, "bend" | "end") { &hit.short } else { &hit.this };
        let say = filled(if p.display.length == LengthUnit::In { &o.inch } else { &o.mm }, this, &hit.place);
        let name = say.get("name").or_else(|| say.get("verb")).and_then(Value::as_str).unwrap_or_default();
        let stem = if o.stem.is_empty() { name.to_string() } else { o.stem.to_string() };
        OfferedLine { words: o.words.replace("{}", &sheet::said_in(p, named)), say, stem }
    };
    Offers { lines: ALL.iter().filter(|o| hit.on.contains(&o.on)).map(line).collect(), said: hit.said }
}
