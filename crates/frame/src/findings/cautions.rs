//! What can hurt someone, and what is not checked.

use super::finding;
use crate::FrameResult;
use sheet::result::{Finding, Severity};

pub fn cautions(r: &FrameResult, out: &mut Vec<Finding>) {
    for p in r.plates.iter().filter(|p| p.lifting) {
        out.push(Finding {
            rule: "geometry and weight only, never a load rating".into(),
            source: "local codes and licensed practice".into(),
            names: vec![p.name.clone()],
            line: Some(p.line.clone()),
            ..finding(
                "lifting",
                Severity::Note,
                "a qualified person must design, check and mark every lifting or anchor point; Steelk \
                 gives no rating"
                    .into(),
            )
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
            ..finding(
                "fume",
                Severity::Note,
                "welding galvanised material gives off zinc fume: grind the zinc off, extract, protect \
                 breathing"
                    .into(),
            )
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
