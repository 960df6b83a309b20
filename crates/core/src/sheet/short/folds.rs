//! Short text of starts, folds and pressed shapes: `tray 300 200 60`, `fold north up 90 40`, `louvre 60 x 12 high 5 on north`.

use serde::Deserialize;
use serde::de::IntoDeserializer;

use super::{Words, cut};
use crate::job::*;
use crate::quantity::Fault;

type Read = Result<Say, Fault>;

/// A line of this kind, when the verb is one; `None` otherwise.
pub(super) fn read(verb: &str, w: &mut Words, known: &[String]) -> Option<Read> {
    Some(match verb {
        "channel" => channel(w),
        "tray" => tray(w),
        "shell" => shell(w),
        "cone" => cone(w),
        "fold" => fold(w),
        "corners" => corners(w),
        "bend" => bend(w),
        "hem" => hem(w),
        "joggle" => joggle(w),
        "tab" => tab(w),
        "notch" => notch(w),
        "keyhole" => cut(w, |w| Ok(Shape::Keyhole { entry: w.value("the entry")?, slot: w.value("the slot")?, length: w.value("the length")? })),
        "dhole" => cut(w, |w| Ok(Shape::D { diameter: w.value("the diameter")?, across: w.value("the size across the flat")? })),
        "fill" => fill(w),
        "rib" => rib(w),
        "louvre" | "dimple" | "collar" => press(verb, w),
        "ring" => ring(w, known),
        _ => return None,
    })
}

/// `start-1.north` for north; longer names as they are.
fn edge(word: &str) -> String {
    if word.contains('.') { word.to_string() } else { format!("start-1.{word}") }
}

fn one_edge(w: &mut Words) -> Result<String, Fault> {
    w.value("the edge").map(|e| edge(&e))
}

/// Words up to one of the stops; `all` means none named.
fn edges(w: &mut Words, stops: &[&str]) -> Vec<String> {
    let mut out = Vec::new();
    while let Some(word) = w.peek().filter(|p| !stops.contains(p)) {
        if word != "all" {
            out.push(edge(word));
        }
        w.at += 1;
    }
    out
}

fn direction(w: &mut Words) -> Direction {
    if w.take("down") {
        return Direction::Down;
    }
    w.take("up");
    Direction::Up
}

/// `r3` when it stands next.
fn radius(w: &mut Words) -> String {
    let found = w.peek().and_then(|r| r.strip_prefix(['r', 'R'])).filter(|r| r.starts_with(|c: char| c.is_ascii_digit())).map(str::to_string);
    w.at += usize::from(found.is_some());
    found.unwrap_or_default()
}

/// Reads `word value` pairs until none fits.
fn pairs(w: &mut Words, mut set: impl FnMut(&str, &mut Words) -> Result<bool, Fault>) -> Result<(), Fault> {
    while let Some(word) = w.peek().map(str::to_lowercase) {
        let before = w.at;
        w.at += 1;
        if !set(&word, w)? {
            w.at = before;
            break;
        }
    }
    Ok(())
}

fn channel(w: &mut Words) -> Read {
    let mut out = StartChannel { length: w.value("the length")?, ..StartChannel::default() };
    pairs(w, |word, w| {
        match word {
            "web" => out.web = w.value("the web")?,
            "side" | "sides" => out.side = w.value("the side")?,
            "lip" | "lips" => out.lip = w.value("the lip")?,
            "out" => out.lips_out = true,
            "inside" => out.measure = Measure::Inside,
            "outside" => out.measure = Measure::Outside,
            _ => return Ok(false),
        }
        Ok(true)
    })?;
    Ok(Say::StartChannel(out))
}

fn tray(w: &mut Words) -> Read {
    let mut out = StartTray { width: w.value("the width")?, depth: w.value("the depth")?, height: w.value("the height")?, ..StartTray::default() };
    pairs(w, |word, w| {
        match word {
            "inside" => out.measure = TrayMeasure::Inside,
            "outside" => out.measure = TrayMeasure::Outside,
            "less" => out.clearance = w.value("the clearance")?,
            "lip" | "lips" => out.lip = w.value("the lip")?,
            "in" => out.lips_in = true,
            "gap" => out.gap = w.value("the gap")?,
            "relief" => (out.relief, out.relief_size) = relief(w),
            _ => return Ok(false),
        }
        Ok(true)
    })?;
    Ok(Say::StartTray(out))
}

fn relief(w: &mut Words) -> (CornerRelief, String) {
    let kind = match w.next().unwrap_or_default().as_str() {
        "square" => CornerRelief::Square,
        "slot" => CornerRelief::Slot,
        "none" => CornerRelief::None,
        _ => CornerRelief::Round,
    };
    let size = w.peek().filter(|s| s.starts_with(|c: char| c.is_ascii_digit())).map(str::to_string);
    w.at += usize::from(size.is_some());
    (kind, size.unwrap_or_default())
}

fn shell(w: &mut Words) -> Read {
    let mut out = StartRolled { length: w.value("the length")?, ..StartRolled::default() };
    pairs(w, |word, w| {
        match word {
            "radius" => out.radius = w.value("the radius")?,
            "diameter" => out.diameter = w.value("the diameter")?,
            "angle" => out.angle = w.value("the angle")?,
            "arc" => out.arc = w.value("the arc length")?,
            "gap" | "lap" => {
                out.seam = if word == "lap" { Seam::Lap } else { Seam::Gap };
                out.seam_size = w.value("the seam")?;
            }
            _ => return Ok(false),
        }
        Ok(true)
    })?;
    Ok(Say::StartRolled(out))
}

fn cone(w: &mut Words) -> Read {
    let wide = w.value("the wide diameter")?;
    w.take("to");
    let narrow = w.value("the narrow diameter")?;
    w.take("high");
    Ok(Say::StartCone(StartCone { wide, narrow, height: w.value("the height")?, ..StartCone::default() }))
}

fn fold(w: &mut Words) -> Read {
    let mut out = Fold { edges: edges(w, &["up", "down"]), direction: direction(w), angle: w.value("the angle")?, ..Fold::default() };
    let (mut length, mut measure) = (w.value("the length")?, FoldMeasure::Outside);
    pairs(w, |word, w| {
        match word {
            "outside" => measure = FoldMeasure::Outside,
            "inside" => measure = FoldMeasure::Inside,
            "tangent" => measure = FoldMeasure::Tangent,
            "outer" => out.bend_at = BendAt::OuterFace,
            "inner" => out.bend_at = BendAt::InnerFace,
            "from" => out.bend_at = BendAt::FromEdge,
            "sharp" => out.bend_at = BendAt::Sharp,
            "inset" => out.span = Span::Inset { left: w.value("the left inset")?, right: w.value("the right inset")? },
            "wide" => out.span = Span::Centred { width: w.value("the width")? },
            "lip" => {
                let id = if out.then.is_empty() { "lip".to_string() } else { format!("lip{}", out.then.len() + 1) };
                let length = w.value("the lip")?;
                let direction = if w.take("down") { Direction::Down } else { Direction::Up };
                out.then.push(Further { id, angle: "90".into(), direction, length, radius: String::new() });
            }
            r if r.starts_with('r') && r[1..].starts_with(|c: char| c.is_ascii_digit()) => out.radius = r[1..].to_string(),
            _ => return Ok(false),
        }
        Ok(true)
    })?;
    out.reach = Reach::Length { length: std::mem::take(&mut length), measure };
    Ok(Say::Fold(out))
}

fn corners(w: &mut Words) -> Read {
    let mut out = Corner::default();
    pairs(w, |word, w| {
        match word {
            "edge" => out.close = Close::Edge,
            "open" => out.close = Close::Open,
            "before" => out.close = Close::LapBefore,
            "after" => out.close = Close::LapAfter,
            "gap" => out.gap = w.value("the gap")?,
            "relief" => (out.relief, out.relief_size) = relief(w),
            _ => return Ok(false),
        }
        Ok(true)
    })?;
    Ok(Say::Corner(out))
}

fn bend(w: &mut Words) -> Read {
    let distance = w.value("the distance")?;
    w.take("from");
    let edge = one_edge(w)?;
    let direction = direction(w);
    let mut out = BendLine { edge, distance, direction, angle: w.value("the angle")?, ..BendLine::default() };
    out.radius = radius(w);
    Ok(Say::BendLine(out))
}

fn hem(w: &mut Words) -> Read {
    const KINDS: [&str; 4] = ["closed", "open", "teardrop", "rolled"];
    let edges = edges(w, &KINDS);
    let hem = match w.next().unwrap_or_default().as_str() {
        "closed" => HemKind::Closed { length: w.value("the length")? },
        "open" => {
            let length = w.value("the length")?;
            w.take("gap");
            HemKind::Open { length, gap: w.value("the gap")? }
        }
        "teardrop" => HemKind::Teardrop { length: w.value("the length")?, radius: radius(w) },
        "rolled" => HemKind::Rolled { radius: radius(w), angle: w.value("the angle")? },
        _ => return Err(w.fault("the kind of hem is missing", "hem north closed 12")),
    };
    Ok(Say::Hem(Hem { edges, hem, ..Hem::default() }))
}

fn joggle(w: &mut Words) -> Read {
    let edges = edges(w, &["up", "down"]);
    let direction = direction(w);
    let height = w.value("the height")?;
    w.take("over");
    let run = w.value("the run")?;
    w.take("then");
    Ok(Say::Joggle(Joggle { edges, direction, height, run, length: w.value("the length")?, ..Joggle::default() }))
}

fn place(w: &mut Words) -> Result<String, Fault> {
    if w.take("at") { w.value("the place") } else { Ok(String::new()) }
}

fn tab(w: &mut Words) -> Read {
    Ok(Say::Tab(Tab { edge: one_edge(w)?, width: w.value("the width")?, length: w.value("the length")?, place: place(w)? }))
}

fn notch(w: &mut Words) -> Read {
    let edge = one_edge(w)?;
    let kind = w.peek().unwrap_or_default().to_string();
    w.at += usize::from(matches!(kind.as_str(), "square" | "vee" | "round"));
    let (width, depth) = (w.value("the width")?, w.value("the depth")?);
    let shape = match kind.as_str() {
        "vee" => NotchShape::Vee { width, depth },
        "round" => NotchShape::Round { width, depth },
        _ => NotchShape::Square { width, depth },
    };
    Ok(Say::Notch(Notch { edge, shape, place: place(w)? }))
}

fn fill(w: &mut Words) -> Read {
    let on = match w.peek() {
        Some("hole" | "square" | "slot") | None => "flat".to_string(),
        Some(_) => w.next().unwrap_or_default(),
    };
    let shape = match w.next().unwrap_or_default().as_str() {
        "hole" => Shape::Round { diameter: w.value("the diameter")? },
        "square" => Shape::Square { side: w.value("the side")?, corner: String::new() },
        "slot" => Shape::Slot { length: w.value("the length")?, width: w.value("the width")?, measure: SlotMeasure::Overall },
        _ => return Err(w.fault("the shape is missing", "fill square 6 pitch 12 margin 20")),
    };
    let mut out = Fill { shape, on: if on.contains('.') || on == "flat" { on } else { format!("start-1.{on}") }, margin: "0".into(), ..Fill::default() };
    pairs(w, |word, w| {
        match word {
            "pitch" => out.pitch = w.value("the pitch")?,
            "margin" => out.margin = w.value("the margin")?,
            "staggered" => out.pattern = Pattern::Staggered,
            "light" => out.light = true,
            _ => return Ok(false),
        }
        Ok(true)
    })?;
    Ok(Say::Fill(out))
}

fn rib(w: &mut Words) -> Read {
    let mut out = Rib { on: w.value("the bend")?, ..Rib::default() };
    pairs(w, |word, w| {
        match word {
            "deep" | "depth" => out.depth = w.value("the depth")?,
            "wide" => out.width = w.value("the width")?,
            "at" => out.offset = w.value("the offset")?,
            "long" => out.length = w.value("the length")?,
            "flat" => out.shape = RibShape::Flat,
            "from" => {
                let end: Result<RibEnd, serde::de::value::Error> = RibEnd::deserialize(w.peek().unwrap_or_default().into_deserializer());
                out.from = end.map_err(|_| w.fault("from which end of the bend?", "write left, right, west, east, south or north"))?;
                w.at += 1;
            }
            _ => return Ok(false),
        }
        Ok(true)
    })?;
    Ok(Say::Rib(out))
}

fn press(verb: &str, w: &mut Words) -> Read {
    let first = w.value("the size")?;
    let (mut second, mut third) = (String::new(), String::new());
    if verb == "louvre" {
        second = w.value("the width")?;
    }
    let word = if verb == "dimple" { "deep" } else { "high" };
    w.take(word);
    if verb == "louvre" {
        third = w.value("the height")?;
    } else {
        second = w.value("the height")?;
    }
    let shape = match verb {
        "louvre" => PressShape::Louvre { length: first, width: second, height: third },
        "dimple" => PressShape::Dimple { diameter: first, depth: second },
        _ => PressShape::Collar { diameter: first, height: second },
    };
    let direction = direction(w);
    // The place reads as a cut's does.
    match cut(w, |_| Ok(Shape::default()))? {
        Say::Punch(p) => Ok(Say::Press(Press { shape, place: p.place, direction })),
        _ => Err(w.fault("the place is missing", w.such_as())),
    }
}

fn ring(w: &mut Words, known: &[String]) -> Read {
    let of = super::names(w, known)?;
    let count = w.value("the count")?;
    match cut(w, |_| Ok(Shape::default()))? {
        Say::Punch(p) => Ok(Say::Ring(Ring { of, count, centre: p.place, ..Ring::default() })),
        _ => Err(w.fault("the middle is missing", w.such_as())),
    }
}
