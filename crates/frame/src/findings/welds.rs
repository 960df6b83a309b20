//! Findings of welds, and of plates that are welded to plates.

use glam::DVec2;
use ground::geom::{COINCIDENT, ROUNDING};
use ground::reference;

use super::finding;
use crate::FrameResult;
use crate::choices::WeldKind;
use crate::mends::Mends;
use sheet::result::{Finding, Severity};

/// A fillet that is told smaller than the rule allows.
pub fn small(mends: &Mends, r: &FrameResult, out: &mut Vec<Finding>) {
    for w in &r.welds {
        if w.kind == WeldKind::Fillet && w.size < w.least - ROUNDING {
            out.push(Finding {
                amount: r.display.length_unit(w.least - w.size),
                rule: "smallest fillet leg by the thicker part".into(),
                source: "AWS D1.1, minimum fillet weld sizes".into(),
                names: w.between.iter().filter(|n| !n.is_empty()).cloned().collect(),
                mend: mends.leg(&w.at, &r.display, w.least),
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

/// A fillet with a leg larger than the wall that it lies on burns through it.
pub fn welds(mends: &Mends, r: &FrameResult, out: &mut Vec<Finding>) {
    let d = &r.display;
    for w in r.welds.iter().filter(|w| w.kind == WeldKind::Fillet && w.size > w.wall + COINCIDENT) {
        let names: Vec<String> = w.between.iter().filter(|n| !n.is_empty()).cloned().collect();
        out.push(Finding {
            amount: format!("{} over", d.length_unit(w.size - w.wall)),
            rule: "the leg of a fillet is no larger than the thinner part".into(),
            names: names.clone(),
            mend: if w.wall >= w.least { mends.leg(&w.at, d, w.wall) } else { None },
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
pub fn uprights(r: &FrameResult, out: &mut Vec<Finding>) {
    let d = &r.display;
    for up in r.plates.iter().filter(|p| reference::last(&p.name) == "upright") {
        let Some(base) = r.plates.iter().find(|p| p.line == up.line && reference::last(&p.name) == "base")
        else {
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
        if over > COINCIDENT {
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
