//! Findings where members meet, or should.

use ground::geom::COINCIDENT;
use std::collections::HashSet;

use super::finding;
use crate::FrameResult;
use crate::model::{CentrelineSegment, across};
use sheet::result::{Finding, Severity};

/// Members that run into one another where no joint brings them together.
pub fn clashes(r: &FrameResult, out: &mut Vec<Finding>) {
    let found = crate::clashes::clashes(r);
    // The search ends there; what it did not come to is not said to be clear.
    let more = if found.len() >= crate::clashes::MOST {
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

pub fn joints(r: &FrameResult, out: &mut Vec<Finding>) {
    for j in &r.joints {
        for &(a, b) in &j.clashes {
            let (a, b) = (&r.members[a], &r.members[b]);
            // Two that pass one another side by side do not clash.
            let (pa, pb) = (&r.profiles[a.profile], &r.profiles[b.profile]);
            let n = a.end(0).d.cross(b.end(0).d).normalize_or_zero();
            let apart = (b.end(0).o - a.end(0).o).dot(n).abs();
            let reach = pa.reach(a.end(0).turned(n).0) + pb.reach(b.end(0).turned(n).0);
            if apart >= reach - COINCIDENT {
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
        for (a, b, deep) in crate::interference::shared(r, j) {
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
}

/// Ends cut to a bent bar are cut to its tangent: how far the bend leaves that over the width of the foot.
pub fn curved_walls(r: &FrameResult, out: &mut Vec<Finding>) {
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
                CentrelineSegment::Bend { centre, axis, radius, .. }
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
