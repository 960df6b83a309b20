//! Findings of members alone: their cuts, holes and bends, and members that lie in one another or end beside
//! one another.

use ground::geom::{COINCIDENT, ROUNDING};
use std::collections::HashSet;

use shop::settings::SawFacts;

use super::finding;
use crate::FrameResult;
use crate::bores::Walls;
use crate::ends::Cut;
use crate::joints::Role;
use crate::mends::Mends;
use crate::pressed::pressed_width;
use sheet::Bore;
use sheet::bore_rules::{Into, faults};
use sheet::result::{Finding, Severity};

/// Holes that a cut end opens, and holes that run into one another. Copies are as their originals.
pub fn holes(r: &FrameResult, out: &mut Vec<Finding>) {
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
            if over > COINCIDENT && !m.closed {
                let message =
                    format!("the hole at {} on {} is open at the cut end", d.length_unit(h.along), m.name);
                out.push(told("hole_off_end", message, over, "a hole keeps metal all round"));
            }
        }
        bored(r, i, out);
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

/// What is drilled into a wall and does not belong there. Holes of one line are one.
fn bored(r: &FrameResult, member: usize, out: &mut Vec<Finding>) {
    let (d, m) = (r.display, &r.members[member]);
    let walls = Walls::new(&r.profiles[m.profile]);
    let mut told: Vec<&Bore> = Vec::new();
    for h in &m.holes {
        let Some(bore) = h.bore.as_deref().filter(|b| !told.contains(b)) else { continue };
        let Some(t) = walls.wall(h.out, h.at.dot(h.out.perp())) else { continue };
        told.push(bore);
        let called = format!("the {} at {} on {}", bore.name(), d.length_unit(h.along), m.name);
        let wall = Into { said: "a wall", t, material: &m.material };
        let own = faults(bore, &called, &wall, &d).into_iter();
        out.extend(own.map(|f| f.on(vec![m.name.clone()], Some(m.line.as_str()), None)));
    }
}

/// Ends pressed flat: how wide they come out, and what that rests on.
pub fn pressed(r: &FrameResult, out: &mut Vec<Finding>) {
    let mut told = HashSet::new();
    for m in &r.members {
        let p = &r.profiles[m.profile];
        let Some((end, flat)) = m.pressed.iter().flatten().next().zip(pressed_width(p)) else { continue };
        if !told.insert((end.line.clone(), m.profile)) {
            continue;
        }
        let [wide, thick] = [flat.x, flat.y].map(|v| r.display.length_unit(v));
        out.push(Finding {
            rule: "the wall keeps its thickness, its middle the length round, the bar its length".into(),
            names: vec![m.name.clone()],
            line: Some(end.line.clone()),
            ..finding(
                "pressed_flat",
                Severity::Note,
                format!(
                    "{} pressed flat comes out {wide} wide and {thick} thick; what stands beside it, and \
                     holes in it, are reckoned as of the round tube",
                    p.section.designation
                ),
            )
        });
    }
}

/// By how much two holes in one wall overlap. Round ends, straight between.
fn overlap(a: &crate::Hole, b: &crate::Hole) -> Option<f64> {
    let facing = a.out.dot(b.out);
    if !(facing > 0.999 || (facing < -0.999 && (a.through || b.through))) {
        return None;
    }
    let across = a.out.perp();
    let half = |h: &crate::Hole| (h.length - h.diameter).max(0.0) / 2.0;
    let along = ((a.along - b.along).abs() - half(a) - half(b)).max(0.0);
    let by = (a.diameter + b.diameter) / 2.0 - along.hypot((a.at - b.at).dot(across));
    (by > COINCIDENT).then_some(by)
}

pub fn members(saw: &SawFacts, r: &FrameResult, out: &mut Vec<Finding>) {
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
            for p in planes.iter().filter(|p| p.angle > saw.most + ROUNDING) {
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
pub fn duplicates(mends: &Mends, r: &FrameResult, out: &mut Vec<Finding>) {
    for (a, b, by) in crate::duplicates::duplicates(r) {
        let (a, b) = (&r.members[a], &r.members[b]);
        out.push(Finding {
            amount: r.display.length_unit(by),
            rule: "each place is taken once".into(),
            names: vec![a.name.clone(), b.name.clone()],
            line: Some(b.line.clone()),
            // The line may make others too.
            mend: if r.members.iter().filter(|m| m.line == b.line).count() == 1 {
                mends.off(&b.line)
            } else {
                None
            },
            ..finding(
                "double",
                Severity::Stop,
                format!("{} lies in {}: it would be cut and counted twice", b.name, a.name),
            )
        });
    }
}

/// Ends that stand so near another member that they were surely meant to meet it.
pub fn loose_ends(r: &FrameResult, out: &mut Vec<Finding>) {
    let jointed: HashSet<usize> = r
        .joints
        .iter()
        .filter(|j| j.members_at_node.iter().any(|a| a.1 != Role::Free))
        .map(|j| j.node)
        .collect();
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
