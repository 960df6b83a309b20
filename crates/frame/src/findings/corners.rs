//! Plates that meet edge to edge round a hopper: how they stand to one another, and what the grinder needs.

use std::f64::consts::PI;

use ground::geom::{COINCIDENT, ROUNDING};
use ground::reference::{self, Reference};

use super::finding;
use crate::FrameResult;
use crate::build::plates::Corner;
use sheet::result::{Finding, Severity};

/// One line a hopper: the angle in each of its corners, and the groove that square edges leave outside.
pub fn corners(r: &FrameResult, out: &mut Vec<Finding>) {
    let mut lines: Vec<(&str, Vec<(&str, Corner)>)> = Vec::new();
    for p in &r.plates {
        for place in &p.places {
            let Reference { line, part, copy: None } = Reference::parse(&place.name) else { continue };
            let Some(corner) = place.corner else { continue };
            match lines.iter_mut().find(|l| l.0 == line) {
                Some(known) => known.1.push((part, corner)),
                None => lines.push((line, vec![(part, corner)])),
            }
        }
    }
    for (line, mut corners) in lines {
        // One after the other, from the one that none leads to.
        for k in 0..corners.len() {
            let led_to = |part: &str| corners[k..].iter().any(|c| c.1.next == part);
            let next = match k.checked_sub(1) {
                Some(before) => corners[k..].iter().position(|c| c.0 == corners[before].1.next),
                None => corners.iter().position(|c| !led_to(c.0)),
            };
            corners.swap(k, k + next.unwrap_or(0));
        }
        let angles = || corners.iter().map(|c| c.1.angle);
        let (least, most) = (angles().fold(f64::INFINITY, f64::min), angles().fold(0.0, f64::max));
        let Some(first) = corners.first().map(|c| c.1) else { continue };
        let d = &r.display;
        let said = |angle: f64, open: f64| {
            let [inside, groove] = [angle, PI - angle].map(|a| d.angle(a));
            match (first.is_lapped, open > COINCIDENT) {
                (false, false) => format!("{inside} inside, a groove of {groove} outside"),
                (false, true) => {
                    let gap = d.length_unit(open);
                    format!("{inside} inside, {gap} apart, a groove of {groove} outside")
                }
                (true, false) => format!("{inside} inside, edge on face"),
                (true, true) => format!("{inside} inside, open by {} at most", d.length_unit(open)),
            }
        };
        let told = if most - least < ROUNDING {
            format!("in every corner {}", said(least, first.open))
        } else {
            let each = corners.iter().map(|(part, c)| format!("{part}–{} {}", c.next, said(c.angle, c.open)));
            each.collect::<Vec<_>>().join("; ")
        };
        let how = if first.is_lapped { "run over one another's edges" } else { "meet at their inner edges" };
        let message = format!("plates of {line} {how}: {told}");
        out.push(Finding {
            rule: "180° less the angle between their normals; square edges leave the rest open".into(),
            source: "geometry".into(),
            names: corners.iter().map(|(part, _)| reference::part(line, part)).collect(),
            line: Some(line.into()),
            ..finding("corners", Severity::Note, message)
        });
    }
}
