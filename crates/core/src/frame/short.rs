//! Short text for a line of a frame, as typed at the bench: `rail A B C D closed 60x60x3`.

use super::short_parts as parts;
use crate::job::*;
use crate::quantity::Fault;
use crate::sheet::short::{Examples, Words};

const EXAMPLES: Examples = Examples(&[
    "node A 0 0 0",
    "node B from A up 1200",
    "node M between A B at 1/2",
    "node P on rail-1 at 1/3",
    "rail A B C closed 60x60x3 turn 45 top",
    "brace A D 40x40x3",
    "pipe A B C bent 150",
    "rail A B C arc",
    "mitre B C",
    "butt B first post-1",
    "mirror east 0",
    "repeat 3 north 500",
    "trim brace-1 end up 0",
    "gusset B A C leg 100 thick 6 nose 10 snipe 12",
    "foot A 120 x 120 thick 8 hole 11",
    "cap B thick 3",
    "plate A B C D thick 6 over",
    "lug rail-1 at 500 thick 12 radius 30 eye 26 height 60 weld sides",
    "holes rail-1 9 at 50 top 5 pitch 100 through",
    "notch brace-1 end 6 x 80 top through",
    "clamp post-1 at 300 outside 63.5 wide 30 split 5 ear 28 thick 8 bolt 9",
    "stack B 100x80x20 60x60x5",
    "weld A B fillet 4",
    "assembly F-1A side post-1 rail-2",
]);

/// What a shop calls bars; any of these begins a line of members.
const CALLS: [&str; 18] = [
    "rail", "post", "brace", "leg", "beam", "chord", "strut", "member", "bar", "tube", "pipe", "arm", "stud", "sill", "diagonal", "vertical", "stringer",
    "hoop",
];

/// One line of short text → what it says. `nodes` are the names of nodes told so far.
pub fn read_short(text: &str, nodes: &[String]) -> Result<FrameSay, Fault> {
    if text.chars().count() > 400 {
        return Err(Fault::new("the line is longer than 400 characters", "split it", (400, text.chars().count())));
    }
    let mut w = Words::plain(text, &[]);
    let Some(verb) = w.next() else {
        return Err(Fault::new("the line is empty", EXAMPLES.nearest(""), (0, 0)));
    };
    let verb = verb.to_lowercase();
    w.example = EXAMPLES.of(if CALLS.contains(&verb.as_str()) { "rail" } else { &verb }).unwrap_or_default();
    let say = match verb.as_str() {
        "node" => node(&mut w)?,
        "mitre" | "butt" => joint(&mut w, nodes, if verb == "mitre" { JointHow::Mitre } else { JointHow::Butt })?,
        "mirror" => {
            w.take("about");
            w.take("at");
            let across = way(&mut w)?.0;
            FrameSay::MirrorFrame(MirrorFrame { of: Vec::new(), across, at: w.next().unwrap_or_else(|| "0".into()) })
        }
        "repeat" => {
            let count = w.value("the count")?;
            let step = steps(&mut w)?;
            FrameSay::RepeatFrame(RepeatFrame { of: Vec::new(), count, x: step.0, y: step.1, z: step.2 })
        }
        "trim" => trim(&mut w)?,
        call if CALLS.contains(&call) => members(&mut w, call, nodes)?,
        other if parts::VERBS.contains(&other) => parts::read(other, &mut w, nodes)?,
        _ => return Err(Fault::new(format!("no line of a frame starts with '{verb}'"), EXAMPLES.nearest(&verb), w.list[0].at)),
    };
    match w.peek() {
        None => Ok(say),
        Some(rest) => Err(w.fault(format!("'{rest}' is not understood here"), w.such_as())),
    }
}

/// A direction word, and its sign.
fn way(w: &mut Words) -> Result<(Way, bool), Fault> {
    let found = match w.peek().unwrap_or_default().to_lowercase().as_str() {
        "east" | "x" => (Way::East, true),
        "west" => (Way::East, false),
        "north" | "y" => (Way::North, true),
        "south" => (Way::North, false),
        "up" | "z" => (Way::Up, true),
        "down" => (Way::Up, false),
        _ => return Err(w.fault("a direction is missing", "write east, west, north, south, up or down")),
    };
    w.at += 1;
    Ok(found)
}

/// `up 1200`, `east 500 north 200`, or three values.
fn steps(w: &mut Words) -> Result<(String, String, String), Fault> {
    let mut out = [String::new(), String::new(), String::new()];
    if way(w).is_ok() {
        w.at -= 1;
        while let Ok((which, positive)) = way(w) {
            let v = w.value("a length")?;
            // A bare value takes the sign as it is; `2*t` or `5'-3"` only as a whole.
            let bare = v.chars().all(|c| c.is_ascii_alphanumeric() || matches!(c, '.' | '"'));
            out[which as usize] = match (positive, bare) {
                (true, _) => v,
                (false, true) => format!("-{v}"),
                (false, false) => format!("-({v})"),
            };
        }
    } else {
        for v in &mut out {
            *v = w.value("a coordinate (east, north, up)")?;
        }
    }
    let [x, y, z] = out.map(|v| if v.is_empty() { "0".into() } else { v });
    Ok((x, y, z))
}

/// `at 1/3`, `at 250`; half way where nothing is said.
fn along(w: &mut Words) -> (AlongBy, String) {
    w.take("at");
    let at = w.next().unwrap_or_else(|| "1/2".into());
    (if at.contains('/') && !at.contains("in") { AlongBy::Share } else { AlongBy::Length }, at)
}

fn node(w: &mut Words) -> Result<FrameSay, Fault> {
    let name = w.value("the node's name")?;
    if w.take("between") {
        let (from, to) = (w.value("the first node")?, w.value("the second node")?);
        let (by, at) = along(w);
        return Ok(FrameSay::Between(Between { name, from, to, by, at }));
    }
    if w.take("on") {
        let member = w.value("the member")?;
        let (by, at) = along(w);
        return Ok(FrameSay::On(On { name, member, by, at }));
    }
    let from = if w.take("from") { w.value("the node it starts from")? } else { String::new() };
    w.take("at");
    let (x, y, z) = steps(w)?;
    Ok(FrameSay::Node(NodeSaid { name, from, x, y, z }))
}

/// Node names that follow, as many as there are.
pub(super) fn names(w: &mut Words, nodes: &[String], what: &str) -> Result<Vec<String>, Fault> {
    w.take("at");
    let mut out = Vec::new();
    loop {
        if matches!(w.peek(), Some("from" | "to" | "and")) {
            w.at += 1;
            continue;
        }
        match w.peek() {
            Some(n) if nodes.iter().any(|k| k == n) => {
                out.push(n.to_string());
                w.at += 1;
            }
            _ => break,
        }
    }
    if out.is_empty() {
        return Err(w.fault(format!("{what} is missing"), "name a node that is told further up"));
    }
    Ok(out)
}

fn members(w: &mut Words, call: &str, nodes: &[String]) -> Result<FrameSay, Fault> {
    let path = names(w, nodes, "the node it runs from")?;
    let mut out = Members { name: call.into(), path, ..Members::default() };
    let mut section: Vec<String> = Vec::new();
    while let Some(word) = w.peek().map(str::to_lowercase) {
        w.at += 1;
        match word.as_str() {
            "closed" | "ring" => {
                out.closed = true;
                out.arc |= word == "ring";
            }
            "arc" | "curved" => out.arc = true,
            "turn" | "turned" => out.turn = w.value("the angle")?,
            "flat" if !section.is_empty() || w.peek().is_none_or(|n| !n.starts_with(|c: char| c.is_ascii_digit())) => {
                w.take("wise");
                out.turn = "90".into();
            }
            "long" => {
                w.take("side");
                if w.take("flat") {
                    out.turn = "90".into();
                } else {
                    w.take("up");
                }
            }
            "bent" | "radius" => out.radius = w.value("the radius")?,
            "by" | "its" => {}
            "middle" => out.sits = Sits::Middle,
            "centroid" => out.sits = Sits::Centroid,
            "top" => out.sits = Sits::Top,
            "bottom" => out.sits = Sits::Bottom,
            "left" => out.sits = Sits::Left,
            "right" => out.sits = Sits::Right,
            id if crate::shopbook::material(id).is_some() => out.material = id.into(),
            _ => section.push(w.list[w.at - 1].text.clone()),
        }
    }
    out.section = section.join(" ");
    if out.path.len() < 2 {
        return Err(w.fault("a member runs between two nodes at least", "name two nodes"));
    }
    Ok(FrameSay::Members(out))
}

fn joint(w: &mut Words, nodes: &[String], how: JointHow) -> Result<FrameSay, Fault> {
    let at = names(w, nodes, "the node")?;
    let mut first = Vec::new();
    let mut gap = String::new();
    while let Some(word) = w.next() {
        match word.as_str() {
            "first" | "through" | "of" => {}
            "gap" => gap = w.value("the gap")?,
            _ => first.push(word),
        }
    }
    Ok(FrameSay::Joint(JointSaid { at, how, first, gap }))
}

fn trim(w: &mut Words) -> Result<FrameSay, Fault> {
    let member = w.value("the member")?;
    let tip = if w.take("start") {
        Tip::Start
    } else {
        w.take("end");
        Tip::End
    };
    w.take("at");
    w.take("by");
    let by = match way(w) {
        Ok((way, _)) => TrimBy::Plane { way, at: w.value("where the plane stands")? },
        Err(_) => TrimBy::Member { member: w.value("a direction, or the member it ends at")? },
    };
    let gap = if w.take("gap") { w.value("the gap")? } else { String::new() };
    let lengthen = w.take("lengthen");
    Ok(FrameSay::Trim(TrimSaid { member, tip, by, gap, lengthen }))
}
