//! Transitions: what stands for round ends, sides that are not plane, and how its lines are bent.

use ground::quantity::counted;

use super::finding;
use crate::context::PieceContext;
use crate::result::{Finding, Severity};

pub fn check(m: &PieceContext, out: &mut Vec<Finding>) {
    let Some(fact) = &m.blank.transition else { return };
    let d = &m.display;
    for end in &fact.round {
        let which = if end.upper { "upper" } else { "lower" };
        let message = format!(
            "The round {which} end is made of {} flats: their corners stand {} outside of the circle, the \
             flats {} inside",
            end.flats,
            d.fine(end.outside),
            d.length_unit(end.inside)
        );
        let rule = "the flats are together as long as the circle, so that it can be rounded to its size";
        out.push(finding("transition_round", Severity::Note, message, rule, "geometry").on(
            Vec::new(),
            Some(&m.blank.line),
            None,
        ));
    }
    if fact.warp > 0.01 {
        let message = format!(
            "Its sides are not plane: the fourth corner stands {} off the plane of the other three; each is \
             made as two triangles, along the diagonal that stands out",
            d.length_unit(fact.warp)
        );
        let rule = "a sheet joins two edges that do not lie in one plane as two triangles only: creased more \
            often or rolled it would have to stretch";
        out.push(finding("transition_warped", Severity::Note, message, rule, "geometry").on(
            Vec::new(),
            Some(&m.blank.line),
            None,
        ));
    }
    let creases: Vec<f64> = m.blank.bends.iter().filter(|b| b.is_crease()).map(|b| b.angle).collect();
    if creases.is_empty() {
        return;
    }
    let (low, high) = creases.iter().fold((f64::INFINITY, 0.0f64), |(l, h), a| (l.min(*a), h.max(*a)));
    let (low, high) = (d.angle(low), d.angle(high));
    let by = if low == high { low } else { format!("{low} to {high}") };
    let message = format!(
        "{} of {by} without allowance: neither order nor tools are looked at",
        counted(creases.len(), "crease")
    );
    let rule = "along a line the middle of the sheet keeps its length";
    out.push(finding("creases", Severity::Note, message, rule, "geometry").on(
        Vec::new(),
        Some(&m.blank.line),
        None,
    ));
}
