//! Short text for what is put on members: `gusset B A C leg 100 thick 6`, `clamp post-1 at 300 outside 63.5 wide 30 …`.

use super::short::names;
use crate::job::*;
use crate::quantity::Fault;
use crate::sheet::short::Words;

pub const VERBS: [&str; 13] = ["gusset", "foot", "base", "cap", "plate", "lug", "hole", "holes", "notch", "clamp", "stack", "weld", "assembly"];

/// The rest of a line that begins with one of [`VERBS`].
pub fn read(verb: &str, w: &mut Words, nodes: &[String]) -> Result<FrameSay, Fault> {
    match verb {
        "gusset" => gusset(w),
        "foot" | "base" => {
            let at = names(w, nodes, "a node")?;
            let (width, length) = size(w)?;
            let [thickness, hole, edge] = told(w, ["thick", "hole", "edge"])?;
            Ok(FrameSay::Base(BaseSaid { at, width, length, thickness, hole, edge }))
        }
        "cap" => {
            let at = names(w, nodes, "a node")?;
            let [thickness, inset] = told(w, ["thick", "inset"])?;
            Ok(FrameSay::Cap(CapSaid { at, thickness, inset }))
        }
        "plate" => {
            let around = names(w, nodes, "the nodes round it")?;
            let over = w.take("over");
            let [thickness, clearance, off] = told(w, ["thick", "clearance", "off"])?;
            let over = over || w.take("over");
            Ok(FrameSay::Fit(FitSaid { around, thickness, clearance, off, over }))
        }
        "lug" => lug(w),
        "notch" => notch(w),
        "clamp" => {
            let member = w.value("the member")?;
            let [at, outside, width, clearance, split, ear, thickness, bolt] =
                told(w, ["at", "outside", "wide", "clearance", "split", "ear", "thick", "bolt"])?;
            Ok(FrameSay::RingClamp(RingSaid { member, at, outside, width, clearance, split, ear, thickness, bolt, ..RingSaid::default() }))
        }
        "stack" => stack(w),
        "weld" => weld(w, nodes),
        "assembly" => {
            let (mark, name) = (w.value("its mark")?, w.value("its name")?);
            let of: Vec<String> = std::iter::from_fn(|| w.next()).collect();
            Ok(FrameSay::Assembly(AssemblySaid { mark, name, of }))
        }
        _ => holes(w),
    }
}

/// `100x80x20` or `pad 100x80x20`, one after another.
fn stack(w: &mut Words) -> Result<FrameSay, Fault> {
    w.take("on");
    let at = w.value("the node")?;
    let mut blocks = Vec::new();
    while w.peek().is_some() {
        let sized = |t: &str| t.split(['x', '×']).filter(|s| !s.is_empty()).count() == 3 && t.starts_with(|c: char| c.is_ascii_digit());
        let name = if w.peek().is_some_and(sized) { "block".to_string() } else { w.value("a block")? };
        let size = w.value("its sizes")?;
        let [length, width, height] = &size.split(['x', '×']).map(str::to_string).collect::<Vec<_>>()[..] else {
            w.at -= 1;
            return Err(w.fault(format!("'{size}' is not east × north × up"), "write the sizes of a block as 100x80x20"));
        };
        blocks.push(Block { name, length: length.clone(), width: width.clone(), height: height.clone() });
    }
    if blocks.is_empty() {
        return Err(w.fault("a block is missing", "write its sizes as 100x80x20"));
    }
    Ok(FrameSay::Stack(StackSaid { at, blocks }))
}

/// `weld fillet 4`, `weld B C butt`.
fn weld(w: &mut Words, nodes: &[String]) -> Result<FrameSay, Fault> {
    let anywhere = matches!(w.peek(), Some("fillet" | "butt"));
    let at = if anywhere { Vec::new() } else { names(w, nodes, "the kind, or a node,")? };
    let kind = if w.take("butt") {
        WeldKind::Butt
    } else {
        w.take("fillet");
        WeldKind::Fillet
    };
    Ok(FrameSay::Weld(WeldSaid { at, kind, size: w.next().unwrap_or_default() }))
}

fn lug(w: &mut Words) -> Result<FrameSay, Fault> {
    let member = w.value("the member")?;
    let before = face(w);
    let [at, thickness, radius, eye, height, base] = told(w, ["at", "thick", "radius", "eye", "height", "base"])?;
    let face = before.or_else(|| face(w)).unwrap_or_default();
    let weld = match (w.take("weld"), w.take("sides"), w.take("ends")) {
        (true, true, _) => LugWeld::Sides,
        (true, _, true) => LugWeld::Ends,
        (true, ..) => return Err(w.fault("which sides are welded is missing", "write weld sides or weld ends; all round needs no word")),
        _ => LugWeld::AllRound,
    };
    let side = |of: &str| if base.is_empty() { String::new() } else { of.to_string() };
    Ok(FrameSay::Lug(LugSaid { member, face, at, base_length: side("120"), base_width: side("80"), base, thickness, radius, eye, height, weld }))
}

fn size(w: &mut Words) -> Result<(String, String), Fault> {
    let first = w.value("the width")?;
    if let Some((a, b)) = first.split_once(['x', '×']).filter(|(a, b)| !a.is_empty() && !b.is_empty()) {
        return Ok((a.into(), b.into()));
    }
    let _ = w.take("x") || w.take("×");
    Ok((first, w.value("the length")?))
}

/// Values behind their words, in any order; the first of them must be told.
fn told<const N: usize>(w: &mut Words, which: [&str; N]) -> Result<[String; N], Fault> {
    let mut out = [const { String::new() }; N];
    while let Some(k) = w.peek().and_then(|word| which.iter().position(|x| *x == word)) {
        w.at += 1;
        out[k] = w.value(&format!("the value of '{}'", which[k]))?;
    }
    if out[0].is_empty() {
        return Err(w.fault(format!("'{}' is missing", which[0]), format!("write {} and its value", which[0])));
    }
    Ok(out)
}

fn gusset(w: &mut Words) -> Result<FrameSay, Fault> {
    w.take("at");
    let at = w.value("the node")?;
    let _ = w.take("toward") || w.take("between");
    let between = vec![w.value("the first member or node")?, w.value("the second member or node")?];
    let [leg, thickness, nose, snipe] = told(w, ["leg", "thick", "nose", "snipe"])?;
    let place = match w.peek() {
        Some("both") => GussetPlace::Both,
        Some("near") => GussetPlace::Near,
        Some("far") => GussetPlace::Far,
        _ => GussetPlace::Middle,
    };
    w.at += usize::from(place != GussetPlace::Middle);
    Ok(FrameSay::Gusset(GussetSaid { at, between, leg, leg_2: String::new(), thickness, nose, snipe, place }))
}

fn face(w: &mut Words) -> Option<Face> {
    let face = match w.peek()? {
        "top" => Face::Top,
        "bottom" => Face::Bottom,
        "left" => Face::Left,
        "right" => Face::Right,
        _ => return None,
    };
    w.at += 1;
    Some(face)
}

/// `notch rail-1 end 6 x 80 top through`
fn notch(w: &mut Words) -> Result<FrameSay, Fault> {
    let member = w.value("the member")?;
    let tip = if w.take("start") { Tip::Start } else { Tip::End };
    w.take("end");
    let (width, length) = size(w)?;
    let face = face(w).unwrap_or_default();
    Ok(FrameSay::NotchEnd(NotchEnd { members: vec![member], tip, face, width, length, through: w.take("through") }))
}

fn holes(w: &mut Words) -> Result<FrameSay, Fault> {
    let member = w.value("the member")?;
    let diameter = w.value("the diameter")?;
    let mut out = HoleSaid { members: vec![member], diameter, ..HoleSaid::default() };
    while let Some(word) = w.peek().map(str::to_string) {
        if let Some(f) = face(w) {
            out.face = f;
            continue;
        }
        w.at += 1;
        match word.as_str() {
            "at" => out.at = w.value("the distance")?,
            "off" => out.off = w.value("the distance off the middle")?,
            "slot" => out.slot = w.value("the slot's length")?,
            "pitch" => out.pitch = w.value("the pitch")?,
            "through" => out.through = true,
            _ => out.count = word,
        }
    }
    Ok(FrameSay::Hole(out))
}
