//! Findings of a frame.

use std::collections::{HashMap, HashSet};

use glam::DVec2;

use super::ends::Cut;
use super::model::{Stretch, across};
use super::{FrameResult, Role};
use crate::choices::WeldKind;
use sheet::result::{Finding, Severity};
use shop::settings::SawFacts;

fn finding(check: &'static str, severity: Severity, message: String) -> Finding {
    Finding {
        check,
        severity,
        message,
        amount: String::new(),
        rule: String::new(),
        source: "common practice".into(),
        names: Vec::new(),
        line: None,
        at: None,
        mend: None,
    }
}

pub fn check(saw: &SawFacts, r: &mut FrameResult, refused: &[(String, usize, f64)]) {
    let mut out = Vec::new();
    let d = r.display;
    for (line, member, by) in refused {
        out.push(Finding {
            amount: d.length_unit(*by),
            rule: "a trim never lengthens unless it is told to".into(),
            names: vec![r.members[*member].name.clone()],
            line: Some(line.clone()),
            ..finding(
                "trim_would_lengthen",
                Severity::Warn,
                format!("this trim would make {} longer; it was left as it is", r.members[*member].name),
            )
        });
    }
    members(saw, r, &mut out);
    holes(r, &mut out);
    doubles(r, &mut out);
    clashes(r, &mut out);
    joints(r, &mut out);
    curved_walls(r, &mut out);
    loose_ends(r, &mut out);
    welds(r, &mut out);
    uprights(r, &mut out);
    cautions(r, &mut out);
    for p in r.plates.iter() {
        for f in p.piece.findings.iter().filter(|f| f.severity != Severity::Note) {
            out.push(Finding {
                names: vec![p.name.clone()],
                line: Some(p.line.clone()),
                at: None,
                mend: None,
                message: format!("{}: {}", p.name, in_frame_words(f)),
                ..f.clone()
            });
        }
    }
    once(r, &mut out);
    out.sort_by_key(|f| f.severity);
    r.findings = out;
}

/// A plate of a frame has no lines of its own that could be named: its cuts are holes.
fn in_frame_words(f: &Finding) -> String {
    let mut cuts: Vec<&String> = f.names.iter().filter(|n| n.starts_with("punch-")).collect();
    // `punch-12` before `punch-1`.
    cuts.sort_by_key(|n| std::cmp::Reverse(n.len()));
    cuts.into_iter().fold(f.message.clone(), |text, name| text.replace(name.as_str(), "a hole"))
}

/// What is found of a member in the same measure on its copies is told of the first.
fn once(r: &FrameResult, out: &mut Vec<Finding>) {
    let roots: HashMap<&str, usize> = r.members.iter().map(|m| (m.name.as_str(), m.root)).collect();
    let mut seen = HashSet::new();
    out.retain(|f| {
        let of: Vec<usize> = f.names.iter().filter_map(|n| roots.get(n.as_str()).copied()).collect();
        of.is_empty() || seen.insert((f.check, f.line.clone(), of, f.amount.clone()))
    });
}

/// Holes that a cut end opens, and holes that run into one another. Copies are as their originals.
fn holes(r: &FrameResult, out: &mut Vec<Finding>) {
    let d = r.display;
    for (i, m) in r.members.iter().enumerate().filter(|(i, m)| m.root == *i) {
        let drilled = || m.holes.iter().filter(|h| h.notch.is_none());
        let told = |check, message, amount: f64, rule: &str| Finding {
            amount: d.length_unit(amount),
            rule: rule.into(),
            names: vec![r.members[i].name.clone()],
            line: Some(m.line.clone()),
            ..finding(check, Severity::Warn, message)
        };
        for h in drilled() {
            let over = (m.station(0, h.at) - (h.along - h.length / 2.0))
                .max(h.along + h.length / 2.0 - m.length + m.station(1, h.at));
            if over > 1e-6 && !m.closed {
                let message =
                    format!("the hole at {} on {} is open at the cut end", d.length_unit(h.along), m.name);
                out.push(told("hole_off_end", message, over, "a hole keeps metal all round"));
            }
        }
        for (k, h) in drilled().enumerate() {
            let into = drilled().skip(k + 1).find_map(|g| Some((g, overlap(h, g)?)));
            if let Some((g, by)) = into {
                let message = format!(
                    "holes at {} and {} on {} run into one another; what they share is taken off twice",
                    d.length(h.along),
                    d.length_unit(g.along),
                    m.name
                );
                out.push(told("holes_meet", message, by, "holes keep metal between them"));
            }
        }
    }
}

/// By how much two holes in one wall overlap. Round ends, straight between.
fn overlap(a: &super::Hole, b: &super::Hole) -> Option<f64> {
    let facing = a.out.dot(b.out);
    if !(facing > 0.999 || (facing < -0.999 && (a.through || b.through))) {
        return None;
    }
    let across = a.out.perp();
    let half = |h: &super::Hole| (h.length - h.diameter).max(0.0) / 2.0;
    let along = ((a.along - b.along).abs() - half(a) - half(b)).max(0.0);
    let by = (a.diameter + b.diameter) / 2.0 - along.hypot((a.at - b.at).dot(across));
    (by > 1e-6).then_some(by)
}

fn members(saw: &SawFacts, r: &FrameResult, out: &mut Vec<Finding>) {
    let mut told_saw = HashSet::new();
    for (m, f) in r.members.iter().zip(&r.facts) {
        if f.lengths.short <= 0.0 && !m.closed {
            out.push(Finding {
                amount: r.display.length_unit(f.lengths.short),
                rule: "both ends leave material between them".into(),
                names: vec![m.name.clone()],
                line: Some(m.line.clone()),
                ..finding(
                    "ends_cross",
                    Severity::Stop,
                    format!("the cuts at both ends of {} run into one another", m.name),
                )
            });
        }
        for c in &f.cuts {
            let planes: &[_] = match c {
                Cut::Plane(p) => std::slice::from_ref(p),
                Cut::Planes(p) => p,
                _ => &[],
            };
            for p in planes.iter().filter(|p| p.angle > saw.most + 1e-9) {
                if told_saw.insert((m.line.clone(), (p.angle * 1e4) as i64)) {
                    out.push(Finding {
                        amount: r.display.angle(p.angle),
                        rule: format!("the saw swings to {}", r.display.angle(saw.most)),
                        names: vec![m.name.clone()],
                        line: Some(m.line.clone()),
                        ..finding(
                            "saw_swing",
                            Severity::Warn,
                            format!(
                                "{} is cut {} off square, further than the saw swings",
                                m.name,
                                r.display.angle(p.angle)
                            ),
                        )
                    });
                }
            }
        }
        if let Some(Stretch::Bend { radius, .. }) = m.way.iter().find(|s| matches!(s, Stretch::Bend { .. })) {
            let depth = r.profiles[m.profile].section.shape.size().max_element();
            if *radius < 2.0 * depth {
                out.push(Finding {
                    amount: r.display.length_unit(2.0 * depth - radius),
                    rule: "centreline radius at least twice the depth".into(),
                    names: vec![m.name.clone()],
                    line: Some(m.line.clone()),
                    ..finding(
                        "tight_bend",
                        Severity::Warn,
                        format!("{} is bent tighter than twice its depth: the wall may fold", m.name),
                    )
                });
            }
        }
    }
    for p in &r.profiles {
        let Some(m) =
            r.members.iter().find(|m| r.profiles[m.profile].section.designation == p.section.designation)
        else {
            continue;
        };
        if let Some(told) = p.section.mass {
            let worked = p.properties.area * m.material.density * 1e-6;
            // Another metal than steel is not what the table weighs.
            if (worked / told - 1.0).abs() > 0.015 && (m.material.density - 7850.0).abs() < 60.0 {
                out.push(Finding {
                    amount: format!("{:.1} %", (worked / told - 1.0) * 100.0),
                    rule: "worked out and published mass within 1.5 %".into(),
                    source: p.section.source.clone(),
                    names: vec![m.name.clone()],
                    ..finding(
                        "section_mass",
                        Severity::Note,
                        format!(
                            "{} works out at {worked:.2} kg/m, published is {told:.2} kg/m",
                            p.section.designation
                        ),
                    )
                });
            }
        }
    }
}

/// Members that lie in one another; those of copies as their originals.
fn doubles(r: &FrameResult, out: &mut Vec<Finding>) {
    for (a, b, by) in super::doubles::doubles(r) {
        let (a, b) = (&r.members[a], &r.members[b]);
        out.push(Finding {
            amount: r.display.length_unit(by),
            rule: "each place is taken once".into(),
            names: vec![a.name.clone(), b.name.clone()],
            line: Some(b.line.clone()),
            ..finding(
                "double",
                Severity::Stop,
                format!("{} lies in {}: it would be cut and counted twice", b.name, a.name),
            )
        });
    }
}

/// Members that run into one another where no joint brings them together.
fn clashes(r: &FrameResult, out: &mut Vec<Finding>) {
    let found = super::clashes::clashes(r);
    // The search ends there; what it did not come to is not said to be clear.
    let more = if found.len() >= super::clashes::MOST {
        format!(" (the first {}; there may be more)", found.len())
    } else {
        String::new()
    };
    for c in found {
        let (a, b) = (&r.members[c.a], &r.members[c.b]);
        // Told where a rule would find it: along the first.
        let along = if a.is_straight() {
            format!(
                ", {} from the start of {}",
                r.display.length_unit((c.at - a.end(0).o).dot(a.end(0).d)),
                a.name
            )
        } else {
            String::new()
        };
        out.push(Finding {
            rule: "two members cannot take one place".into(),
            source: "geometry".into(),
            names: vec![a.name.clone(), b.name.clone()],
            line: Some(b.line.clone()),
            ..finding(
                "clash",
                Severity::Stop,
                format!(
                    "{} and {} run into one another{along}: give them a node in common, or move one{more}",
                    a.name, b.name
                ),
            )
        });
    }
}

fn joints(r: &FrameResult, out: &mut Vec<Finding>) {
    for j in &r.joints {
        for &(a, b) in &j.clashes {
            let (a, b) = (&r.members[a], &r.members[b]);
            // Two that pass one another side by side do not clash.
            let (pa, pb) = (&r.profiles[a.profile], &r.profiles[b.profile]);
            let n = a.end(0).d.cross(b.end(0).d).normalize_or_zero();
            let apart = (b.end(0).o - a.end(0).o).dot(n).abs();
            let reach = pa.reach(a.end(0).turned(n).0) + pb.reach(b.end(0).turned(n).0);
            if apart >= reach - 1e-6 {
                continue;
            }
            out.push(Finding {
                amount: r.display.length_unit(reach - apart),
                rule: "two members cannot both pass one place".into(),
                names: vec![a.name.clone(), b.name.clone()],
                line: Some(b.line.clone()),
                ..finding(
                    "run_through",
                    Severity::Stop,
                    format!(
                        "{} and {} run through one another at {}; tell one of them in two legs",
                        a.name, b.name, r.nodes[j.node].name
                    ),
                )
            });
        }
    }
    // Copies are as their originals.
    for j in r.joints.iter().filter(|j| r.nodes[j.node].root == j.node) {
        for (a, b, deep) in super::room::shared(r, j) {
            let (a, b) = (&r.members[a], &r.members[b]);
            out.push(Finding {
                amount: r.display.length_unit(deep),
                rule: "two members cannot both take one place".into(),
                names: vec![a.name.clone(), b.name.clone()],
                line: Some(a.line.clone()),
                ..finding(
                    "shared_place",
                    Severity::Warn,
                    format!(
                        "{} and {} share a place at {}, {} deep: let another run through there, mitre \
                         them, or trim one",
                        a.name,
                        b.name,
                        r.nodes[j.node].name,
                        r.display.length_unit(deep)
                    ),
                )
            });
        }
    }
    for w in &r.welds {
        if w.kind == WeldKind::Fillet && w.size < w.least - 1e-9 {
            out.push(Finding {
                amount: r.display.length_unit(w.least - w.size),
                rule: "smallest fillet leg by the thicker part".into(),
                source: "AWS D1.1, minimum fillet weld sizes".into(),
                names: w.between.iter().filter(|n| !n.is_empty()).cloned().collect(),
                ..finding(
                    "weld_small",
                    Severity::Warn,
                    format!(
                        "the {} fillet at {} is smaller than {}",
                        r.display.length_unit(w.size),
                        w.at,
                        r.display.length_unit(w.least)
                    ),
                )
            });
        }
    }
}

/// Ends cut to a bent bar are cut to its tangent: how far the bend leaves that over the width of the foot.
fn curved_walls(r: &FrameResult, out: &mut Vec<Finding>) {
    let mut seen = HashSet::new();
    for j in &r.joints {
        let at = r.nodes[j.node].at;
        for &(a, b) in &j.meets {
            let (bar, wall) = (&r.members[a], &r.members[b]);
            // Along the axis of the bend it comes upon the flat side of a box: nothing curves there.
            let end = usize::from(bar.to == j.node && bar.from != j.node);
            let flat_side = |axis: glam::DVec3| {
                !r.profiles[wall.profile].section.shape.is_round() && bar.end(end).d.dot(axis).abs() > 0.99
            };
            let bend = wall.way.iter().find_map(|w| match w {
                Stretch::Bend { centre, axis, radius, .. }
                    if !flat_side(*axis)
                        && (across(at - *centre, *axis).length() - radius).abs() < radius * 0.1 =>
                {
                    Some(*radius)
                }
                _ => None,
            });
            let passes = wall.from != j.node && wall.to != j.node;
            let (Some(radius), true) = (bend, passes) else { continue };
            let foot = r.profiles[bar.profile].section.shape.size().max_element() / 2.0;
            let off = foot * foot / (2.0 * radius);
            if off > 0.3 && seen.insert((bar.root, wall.root)) {
                out.push(Finding {
                    amount: r.display.length_unit(off),
                    rule: "half the foot squared over twice the radius".into(),
                    source: "geometry of the circle".into(),
                    names: vec![bar.name.clone(), wall.name.clone()],
                    line: Some(bar.line.clone()),
                    ..finding(
                        "curved_wall",
                        Severity::Note,
                        format!(
                            "{} is cut to the tangent of {}: at the edge of its foot the bend leaves {} to \
                             dress",
                            bar.name,
                            wall.name,
                            r.display.length_unit(off)
                        ),
                    )
                });
            }
        }
    }
}

/// Ends that stand so near another member that they were surely meant to meet it.
fn loose_ends(r: &FrameResult, out: &mut Vec<Finding>) {
    let jointed: HashSet<usize> =
        r.joints.iter().filter(|j| j.arrivals.iter().any(|a| a.1 != Role::Free)).map(|j| j.node).collect();
    // Only small frames are searched pair by pair.
    if r.members.len() > 400 {
        return;
    }
    for m in r.members.iter().filter(|m| m.is_straight()) {
        for node in [m.from, m.to] {
            if jointed.contains(&node) {
                continue;
            }
            let at = r.nodes[node].at;
            let near = r.members.iter().filter(|o| o.name != m.name && o.is_straight()).find_map(|o| {
                let bar = o.end(0);
                let along = (at - bar.o).dot(bar.d);
                let away = (at - bar.o - bar.d * along).length();
                let reach = r.profiles[o.profile].section.shape.size().max_element() / 2.0;
                (along > 0.0
                    && along < o.length
                    && away < reach * 1.05
                    && away > 1e-3
                    && o.from != node
                    && o.to != node)
                    .then_some((o, away))
            });
            if let Some((o, away)) = near {
                out.push(Finding {
                    amount: r.display.length_unit(away),
                    rule: "an end meets another member at a node on its line".into(),
                    names: vec![m.name.clone(), o.name.clone()],
                    line: Some(m.line.clone()),
                    ..finding(
                        "loose_end",
                        Severity::Warn,
                        format!(
                            "{} ends {} beside the line of {}: they are not joined",
                            m.name,
                            r.display.length_unit(away),
                            o.name
                        ),
                    )
                });
            }
        }
    }
}

/// A fillet with a leg larger than the wall that it lies on burns through it.
fn welds(r: &FrameResult, out: &mut Vec<Finding>) {
    let d = &r.display;
    for w in r.welds.iter().filter(|w| w.kind == crate::choices::WeldKind::Fillet && w.size > w.wall + 1e-6) {
        let names: Vec<String> = w.between.iter().filter(|n| !n.is_empty()).cloned().collect();
        out.push(Finding {
            amount: format!("{} over", d.length_unit(w.size - w.wall)),
            rule: "the leg of a fillet is no larger than the thinner part".into(),
            names: names.clone(),
            ..finding(
                "weld_large",
                Severity::Warn,
                format!(
                    "the fillet of {} has a leg of {} on a part {} thick",
                    names.join(" and "),
                    d.fine(w.size),
                    d.length_unit(w.wall)
                ),
            )
        });
    }
}

/// An upright that is wider than the base that it stands on overhangs it: nothing to weld to there.
fn uprights(r: &FrameResult, out: &mut Vec<Finding>) {
    let d = &r.display;
    for up in r.plates.iter().filter(|p| p.name.ends_with(".upright")) {
        let Some(base) = r.plates.iter().find(|p| p.line == up.line && p.name.ends_with(".base")) else {
            continue;
        };
        let (Some(u), Some(b)) = (up.places.first(), base.places.first()) else { continue };
        // Flats lie as they are cut: along the foot is the side of the upright that lies in its base.
        let (flat, plate) = (up.piece.flat.outer.bounds().size(), base.piece.flat.outer.bounds().size());
        let (along, foot) =
            if u.x.dot(b.z).abs() < u.y.dot(b.z).abs() { (u.x, flat.x) } else { (u.y, flat.y) };
        let room =
            if along.dot(b.x).abs() > along.dot(b.y).abs() { plate } else { DVec2::new(plate.y, plate.x) };
        let over = (foot - room.x).max(up.piece.thickness - room.y);
        if over > 1e-6 {
            out.push(Finding {
                amount: format!("{} over", d.length_unit(over)),
                rule: "an upright stands on its base with its whole foot".into(),
                names: vec![up.name.clone(), base.name.clone()],
                line: Some(up.line.clone()),
                ..finding(
                    "upright_overhangs",
                    Severity::Warn,
                    format!(
                        "{} is {} long and {} thick; its base is {} × {}",
                        up.name,
                        d.fine(foot),
                        d.fine(up.piece.thickness),
                        d.fine(room.x),
                        d.length_unit(room.y)
                    ),
                )
            });
        }
    }
}

fn cautions(r: &FrameResult, out: &mut Vec<Finding>) {
    for p in r.plates.iter().filter(|p| p.lifting) {
        out.push(Finding {
            rule: "geometry and weight only, never a load rating".into(),
            source: "local codes and licensed practice".into(),
            names: vec![p.name.clone()],
            line: Some(p.line.clone()),
            ..finding("lifting", Severity::Note, "a qualified person must design, check and mark every lifting or anchor point; Steelk gives no rating".into())
        });
    }
    let mass = r.mass();
    if mass > 25.0 {
        let c = r.centre();
        out.push(Finding {
            amount: r.display.mass(mass),
            rule: "above 25 kg".into(),
            ..finding(
                "heavy",
                Severity::Note,
                format!(
                    "the frame weighs {}: lifting gear or several people; it balances {} above the floor's \
                     zero",
                    r.display.mass(mass),
                    r.display.length_unit(c.z)
                ),
            )
        });
    }
    if let Some(m) = r.members.iter().find(|m| !m.material.is_welded()) {
        out.push(Finding {
            rule: "metals are welded; wood and plastic are glued, screwed or bolted".into(),
            names: vec![m.name.clone()],
            line: Some(m.line.clone()),
            ..finding(
                "not_welded",
                Severity::Note,
                format!(
                    "{} is not welded: joints of it have no weld in the list, fasten them otherwise",
                    m.material.name
                ),
            )
        });
    }
    if r.members.iter().any(|m| m.material.family.contains("galvanised")) {
        out.push(Finding {
            rule: "zinc fume".into(),
            ..finding("fume", Severity::Note, "welding galvanised material gives off zinc fume: grind the zinc off, extract, protect breathing".into())
        });
    }
    if !r.members.is_empty() {
        out.push(Finding {
            rule: "geometry, not strength".into(),
            source: "local codes and licensed practice".into(),
            ..finding(
                "structure",
                Severity::Note,
                "no strength is checked: frames that carry people or loads need a qualified engineer and \
                 the local code"
                    .into(),
            )
        });
    }
}
