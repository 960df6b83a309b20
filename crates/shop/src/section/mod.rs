//! Sections of bars: the catalogue read from `data/sections`, sections by size, and their properties.

mod properties;
mod shape;

use std::collections::HashMap;
use std::sync::OnceLock;

pub use properties::{Properties, second_moments};
pub use shape::{Shape, cold_formed, hot_finished, two_walls};

/// A family of the catalogue and where it comes from.
#[derive(Clone, Debug, PartialEq)]
pub struct Series {
    pub id: String,
    pub name: String,
    pub source: String,
    pub inch: bool,
}

/// A section that members can be cut from.
#[derive(Clone, Debug, PartialEq)]
pub struct Section {
    pub designation: String,
    pub shape: Shape,
    /// Place in [`series`]; none for a section by size or of one's own.
    pub series: Option<usize>,
    pub source: String,
    /// kg/m as published.
    pub mass: Option<f64>,
    /// mm² as published (AISC: with the design wall).
    pub area: Option<f64>,
    /// mm⁴ as published, against bending up and down and sideways (AISC: with the design wall).
    pub inertia: Option<[f64; 2]>,
    /// Wall that the published area is worked out with, mm.
    pub design_wall: Option<f64>,
}

struct Shelf {
    series: Vec<Series>,
    sections: Vec<Section>,
    index: HashMap<String, usize>,
}

const FILES: [(&str, &str); 18] = [
    ("en-10219-box", include_str!("../../data/sections/en-10219-box.csv")),
    ("en-10219-round", include_str!("../../data/sections/en-10219-round.csv")),
    ("en-10210-box", include_str!("../../data/sections/en-10210-box.csv")),
    ("en-10210-round", include_str!("../../data/sections/en-10210-round.csv")),
    ("en-10255-pipe", include_str!("../../data/sections/en-10255-pipe.csv")),
    ("en-10365-i", include_str!("../../data/sections/en-10365-i.csv")),
    ("en-10365-upe", include_str!("../../data/sections/en-10365-upe.csv")),
    ("en-10365-upn", include_str!("../../data/sections/en-10365-upn.csv")),
    ("en-10056-l", include_str!("../../data/sections/en-10056-l.csv")),
    ("flat", include_str!("../../data/sections/flat.csv")),
    ("round", include_str!("../../data/sections/round.csv")),
    ("square", include_str!("../../data/sections/square.csv")),
    ("aisc-hss", include_str!("../../data/sections/aisc-hss.csv")),
    ("aisc-hss-round", include_str!("../../data/sections/aisc-hss-round.csv")),
    ("aisc-pipe", include_str!("../../data/sections/aisc-pipe.csv")),
    ("aisc-w", include_str!("../../data/sections/aisc-w.csv")),
    ("aisc-c", include_str!("../../data/sections/aisc-c.csv")),
    ("aisc-l", include_str!("../../data/sections/aisc-l.csv")),
];

/// kg/m of one lb/ft.
const LB_FT: f64 = 0.453_592_37 / 0.3048;

fn shelf() -> &'static Shelf {
    static SHELF: OnceLock<Shelf> = OnceLock::new();
    SHELF.get_or_init(|| {
        let mut shelf = Shelf { series: Vec::new(), sections: Vec::new(), index: HashMap::new() };
        for line in include_str!("../../data/sections/series.csv").lines().skip(1) {
            let f: Vec<&str> = line.splitn(6, ',').collect();
            let [file, id, name, kind, unit, source] = f[..] else { continue };
            let Some((_, table)) = FILES.iter().find(|(n, _)| *n == file) else { continue };
            let at = shelf.series.len();
            shelf.series.push(Series {
                id: id.into(),
                name: name.into(),
                source: source.into(),
                inch: unit == "in",
            });
            for section in read(table, kind, &shelf.series[at], at) {
                shelf.index.entry(key(&section.designation)).or_insert(shelf.sections.len());
                shelf.sections.push(section);
            }
        }
        shelf
    })
}

fn read(table: &str, kind: &str, series: &Series, at: usize) -> Vec<Section> {
    let mut lines = table.lines();
    let head: Vec<&str> = lines.next().unwrap_or_default().split(',').collect();
    let unit = if series.inch { 25.4 } else { 1.0 };
    let mut out = Vec::new();
    for line in lines {
        let fields: Vec<&str> = line.split(',').collect();
        let field = |name: &str| {
            head.iter().position(|h| *h == name).and_then(|i| fields.get(i)?.parse::<f64>().ok())
        };
        let size = |name: &str| field(name).unwrap_or(0.0) * unit;
        let shape = match kind {
            "box" => {
                let (h, b, t) = (size("h"), size("b"), size("t"));
                match series.id.as_str() {
                    "en10219-box" => cold_formed(h, b, t),
                    "en10210-box" => hot_finished(h, b, t),
                    _ => two_walls(h, b, t),
                }
            }
            "tube" => Shape::Tube { d: size("d"), t: size("t") },
            "i" => Shape::I { h: size("h"), b: size("b"), tw: size("tw"), tf: size("tf"), r: size("r") },
            "u" => Shape::Channel {
                h: size("h"),
                b: size("b"),
                tw: size("tw"),
                tf: size("tf"),
                root: size("r"),
                toe: 0.0,
                slope: 0.0,
            },
            "u_taper" => Shape::Channel {
                h: size("h"),
                b: size("b"),
                tw: size("tw"),
                tf: size("tf"),
                root: size("r1"),
                toe: size("r2"),
                slope: field("slope").unwrap_or(0.0),
            },
            "l" => {
                Shape::Angle { h: size("h"), b: size("b"), t: size("t"), root: size("r1"), toe: size("r2") }
            }
            "flat" => Shape::Flat { h: size("b"), b: size("t") },
            "round" => Shape::Round { d: size("d") },
            _ => Shape::Flat { h: size("a"), b: size("a") },
        };
        out.push(Section {
            designation: fields[0].into(),
            shape,
            series: Some(at),
            source: series.source.clone(),
            mass: field("mass").map(|m| if series.inch { m * LB_FT } else { m }),
            area: field("area").map(|a| a * unit * unit),
            inertia: field("ix").zip(field("iy")).map(|i| [i.0, i.1].map(|v| v * unit.powi(4))),
            design_wall: field("t_design").map(|t| t * unit),
        });
    }
    out
}

/// Every family, in the order of the shelf.
pub fn series() -> &'static [Series] {
    &shelf().series
}

/// Every section of the catalogue.
pub fn sections() -> &'static [Section] {
    &shelf().sections
}

/// How designations are compared: capitals, `x` for ×, no spaces save one inside mixed fractions.
fn key(text: &str) -> String {
    let text = text.trim().to_uppercase().replace(['×', '*'], "X");
    let mut out = String::new();
    let mut last = ' ';
    for c in text.chars() {
        // A space counts only between two digits: 1 1/2.
        if c.is_whitespace() {
            if last != ' ' {
                last = ' ';
            }
            continue;
        }
        if last == ' ' && c.is_ascii_digit() && out.ends_with(|d: char| d.is_ascii_digit()) {
            out.push(' ');
        }
        out.push(c);
        last = c;
    }
    out
}

/// The section of the catalogue with this designation, however it is spaced.
pub fn section(designation: &str) -> Option<&'static Section> {
    let key = key(designation);
    let found = |prefix: &str| shelf().index.get(&format!("{prefix}{key}"));
    // Without a prefix a metric size is tried before an American one.
    let bare = bare_prefix(&key);
    let found =
        found("").or_else(|| found(bare)).or_else(|| (!bare.is_empty()).then(|| found("HSS")).flatten());
    found.map(|&i| &shelf().sections[i])
}

/// `60x60x3` is a square hollow section, `100x60x4` a rectangular one, `48.3x3` a round one.
fn bare_prefix(key: &str) -> &'static str {
    if !key.starts_with(|c: char| c.is_ascii_digit()) {
        return "";
    }
    let parts: Vec<&str> = key.split('X').collect();
    match parts[..] {
        [a, b, _] if a == b => "SHS",
        [_, _, _] => "RHS",
        [_, _] => "CHS",
        _ => "",
    }
}

/// What can stand before sizes, for messages.
pub const KINDS: &str =
    "SHS, RHS, CHS, FLAT, ROUND, SQUARE, L, or a designation of the catalogue such as IPE 200";

/// A section by what is typed: of the catalogue, or by size (`RHS 90x35x2`, `FLAT 45x6`). `length` reads one
/// size in the job's unit.
pub fn by_text(text: &str, length: impl Fn(&str) -> Option<f64>) -> Result<Section, String> {
    if let Some(found) = section(text) {
        return Ok(found.clone());
    }
    let whole = key(text);
    if whole.is_empty() {
        return Err("no section is named".into());
    }
    let prefix = bare_prefix(&whole);
    let whole = format!("{prefix}{whole}");
    let split = whole.find(|c: char| c.is_ascii_digit() || c == '.').unwrap_or(whole.len());
    let (kind, sizes) = whole.split_at(split);
    let (sizes, hot) = match sizes.strip_suffix("HF") {
        Some(rest) => (rest, true),
        None => (sizes, false),
    };
    let told = sizes.to_string();
    let sizes: Option<Vec<f64>> = sizes.split('X').map(|s| length(&s.to_lowercase())).collect();
    let unknown = || format!("the shop book has no section '{}'", text.trim());
    let sizes = sizes.ok_or_else(unknown)?;
    let walled = |h: f64, b: f64, t: f64| if hot { hot_finished(h, b, t) } else { cold_formed(h, b, t) };
    let shape = match (kind, &sizes[..]) {
        ("SHS", &[a, t]) => walled(a, a, t),
        ("SHS" | "RHS" | "TUBE", &[h, b, t]) => walled(h, b, t),
        ("HSS", &[h, b, t]) => two_walls(h, b, t),
        ("CHS" | "PIPE" | "TUBE" | "HSS", &[d, t]) => Shape::Tube { d, t },
        ("FLAT", &[h, b]) => Shape::Flat { h, b },
        ("ROUND", &[d]) => Shape::Round { d },
        ("SQUARE", &[a]) | ("SQ", &[a]) => Shape::Flat { h: a, b: a },
        ("L", &[h, b, t]) => Shape::Angle { h, b, t, root: t, toe: t / 2.0 },
        _ => return Err(unknown()),
    };
    if sizes.iter().any(|s| *s <= 0.0 || *s > 3000.0) {
        return Err(format!("a size of '{}' is not above zero and up to 3 m", text.trim()));
    }
    match shape.fault() {
        Some(why) => Err(format!("'{}' cannot be: {why}", text.trim())),
        None => Ok(Section {
            designation: format!("{kind} {}{}", told.to_lowercase(), if hot { " HF" } else { "" }),
            shape,
            series: None,
            source: "by size; not in the catalogue".into(),
            mass: None,
            area: None,
            inertia: None,
            design_wall: None,
        }),
    }
}

/// Catalogue designations that begin with `text`, then those that hold each of its words; at most `most`.
pub fn search(text: &str, most: usize) -> Vec<&'static Section> {
    let whole = key(text);
    let words: Vec<String> = text.split_whitespace().map(key).collect();
    let (first, rest): (Vec<_>, Vec<_>) = shelf()
        .sections
        .iter()
        .filter(|s| {
            let name = key(&s.designation);
            words.iter().all(|w| name.contains(w.as_str()))
        })
        .partition(|s| key(&s.designation).starts_with(&whole));
    first.into_iter().chain(rest).take(most).collect()
}

impl Section {
    /// kg/m from the true shape.
    pub fn worked_mass(&self, density: f64) -> f64 {
        self.shape.properties().area * density * 1e-6
    }
}
