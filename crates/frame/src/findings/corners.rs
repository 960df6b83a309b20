//! Plates that meet edge to edge round a hopper: how they stand to one another, and what the grinder needs.

use std::f64::consts::PI;

use ground::geom::{COINCIDENT, ROUNDING};
use ground::reference::{self, Reference};

use super::finding;
use crate::FrameResult;
use crate::build::plates::{Corner, Met};
use sheet::result::{Finding, Severity};

/// Plates with less than this between them, rad, are better one that is bent (common practice).
const NEARLY_PLANE: f64 = PI / 18.0;

/// One line a hopper: the angle in each of its corners, and the groove that square edges leave outside.
pub fn corners(r: &FrameResult, out: &mut Vec<Finding>) {
    let mut lines: Vec<(&str, Vec<(&str, Corner)>)> = Vec::new();
    for p in &r.plates {
        for place in &p.places {
            let Reference { line, part, copy: None } = Reference::parse(&place.name) else { continue };
            let Some(corner) = place.corner.clone() else { continue };
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
        let Some(first) = corners.first().map(|c| c.1.clone()) else { continue };
        let d = &r.display;
        let said = |&Corner { angle, open, how, .. }: &Corner| {
            let [inside, groove] = [angle, PI - angle].map(|a| d.angle(a));
            let bevel = d.angle((PI - angle) / 2.0);
            match (how, open > COINCIDENT) {
                (Met::Mitred, false) => format!("{inside} inside, each edge bevelled {bevel} off square"),
                (Met::Mitred, true) => {
                    let gap = d.length_unit(open);
                    format!("{inside} inside, {gap} apart, each edge bevelled {bevel} off square")
                }
                (Met::Edge, false) => format!("{inside} inside, a groove of {groove} outside"),
                (Met::Edge, true) => {
                    let gap = d.length_unit(open);
                    format!("{inside} inside, {gap} apart, a groove of {groove} outside")
                }
                (Met::Lapped, false) => format!("{inside} inside, edge on face"),
                (Met::Lapped, true) => format!("{inside} inside, open by {} at most", d.length_unit(open)),
            }
        };
        let alike = |c: &Corner| {
            let same = |a: f64, b: f64| (a - b).abs() < ROUNDING;
            same(c.angle, first.angle) && same(c.open, first.open) && c.how == first.how
        };
        let told = if corners.iter().all(|c| alike(&c.1)) {
            format!("in every corner {}", said(&first))
        } else {
            let each = corners.iter().map(|(part, c)| format!("{part}–{} {}", c.next, said(c)));
            each.collect::<Vec<_>>().join("; ")
        };
        let told = if corners.iter().any(|c| PI - c.1.angle < NEARLY_PLANE) {
            let least = d.angle(NEARLY_PLANE);
            format!("{told}; below {least} one plate, bent along that line, needs no weld (common practice)")
        } else {
            told
        };
        let ways = [
            (Met::Edge, "meet at their inner edges"),
            (Met::Lapped, "run over one another's edges"),
            (Met::Mitred, "meet over their whole thickness"),
        ];
        let said = ways.into_iter().filter(|w| corners.iter().any(|c| c.1.how == w.0)).map(|w| w.1);
        let how = said.collect::<Vec<_>>().join(" or ");
        let message = format!("plates of {line} {how}: {told}");
        out.push(Finding {
            rule: if corners.iter().all(|c| c.1.how == Met::Mitred) {
                "180° less the angle between their normals; each bevel is half of that angle".into()
            } else {
                "180° less the angle between their normals; square edges leave the rest open".into()
            },
            source: "geometry".into(),
            names: corners.iter().map(|(part, _)| reference::part(line, part)).collect(),
            line: Some(line.into()),
            ..finding("corners", Severity::Note, message)
        });
    }
}
