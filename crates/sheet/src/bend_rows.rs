//! The bend sheet's rows: each step in words and printed figures.

use crate::brake::{Plan, Step, cautions, strikes_said};
use crate::context::PieceContext;
use crate::flat::bend_allowance::{SchoolSays, every_school};
use crate::flat::bends::BendFact;
use crate::flat::stock::SheetStock;
use crate::result::{BendMark, BendRow, SchoolRow};
use ground::geom::ROUNDING;
use shop::brake::{CLOSED, FLATTENING, air_radius, force, shortest_flange, tolerance};

/// One row a bend, in the order they are made. Rolled arcs are not made at the brake and have none.
pub(crate) fn rows(
    m: &PieceContext,
    marks: &[BendMark],
    plan: &Plan,
    stuff: &SheetStock,
    kg: f64,
) -> Vec<BendRow> {
    plan.steps.iter().enumerate().map(|(i, s)| row(m, &marks[s.bend], s, i + 1, plan, stuff, kg)).collect()
}

fn row(
    m: &PieceContext,
    mark: &BendMark,
    step: &Step,
    order: usize,
    plan: &Plan,
    stuff: &SheetStock,
    kg: f64,
) -> BendRow {
    let d = &m.display;
    let b = &m.blank.bends[step.bend];
    let v = plan.brake.opening(m.t);
    let kn = force(m.material.upper_strength, m.t, v, mark.length);
    let closed = b.angle >= CLOSED;
    let (angle_off, length_off) = tolerance(m.t);
    let rise = step.front * (step.most.min(b.angle) / 2.0).sin();
    BendRow {
        order,
        name: b.name.clone(),
        label: b.label.clone(),
        line: b.line.clone(),
        up: b.up,
        angle: b.angle,
        angle_text: d.angle(b.angle),
        acute: if closed { d.angle(step.most) } else { String::new() },
        aim: aim(m, b, stuff),
        tolerance: format!("± {}, ± {}", d.angle(angle_off), d.length_unit(length_off)),
        radius: d.fine(b.radius),
        length: d.length(mark.length),
        die: d.brief(v),
        air_radius: d.fine(air_radius(m.material, v).value),
        force: format!("{kn:.0} kN"),
        force_per_metre: format!("{:.0} kN/m", kn / (mark.length / 1000.0).max(1e-9)),
        closing_force: if closed { format!("about {:.0} kN", FLATTENING * kn) } else { String::new() },
        strength: format!("Rm {:.0} MPa, the upper of {}", m.material.upper_strength, m.material.name),
        at_stop: at_stop(m, step.stop.zone),
        turned: step.turned.clone(),
        gauge: d.length(step.stop.away),
        gauge_note: gauge_note(m, step, plan),
        check: d.length(step.measure),
        shortest: d.length(shortest_flange(v, b.angle).value),
        punch: punch(m, step, plan),
        reason: step.reason.clone(),
        strikes: strikes_said(&step.strikes, &m.blank.zones),
        cautions: cautions(d, step.front, rise, mark.length, kg),
        schools: schools(m, b, stuff),
        allowance: d.fine(b.allowance.length),
        rule: b.allowance.rule.clone(),
    }
}

/// A zone as people call it: a bend that has only a number is told as one.
fn at_stop(m: &PieceContext, zone: usize) -> String {
    let bend = m.blank.bends.iter().find(|b| b.zone == zone);
    match bend {
        Some(b) if b.label.chars().all(|c| c.is_ascii_digit()) => format!("bend {}", b.label),
        _ => m.blank.zones[zone].name.clone(),
    }
}

/// The angle to aim at: with the springback that the shop has logged for this stuff, else as told.
fn aim(m: &PieceContext, b: &BendFact, stuff: &SheetStock) -> String {
    let d = &m.display;
    let rule = stuff.rule;
    match stuff.book.springback(&rule.test, m.material, m.t) {
        // Springback is in proportion to the angle bent, at one radius.
        Some((test, share)) => format!(
            "{} (opens {} after test {})",
            d.angle(b.angle * (1.0 + share)),
            d.angle(b.angle * share),
            test.id
        ),
        None => format!("{}, springback by the machine", d.angle(b.angle)),
    }
}

fn gauge_note(m: &PieceContext, step: &Step, plan: &Plan) -> String {
    let d = &m.display;
    if !step.found {
        format!(
            "the stop's face does not meet it, {} above the die: line up by a mark",
            d.length_unit(step.stop.above)
        )
    } else if !step.reached {
        format!(
            "further than the stop goes, {}: line up by a mark",
            d.length_unit(plan.brake.tools.stop_reach)
        )
    } else {
        String::new()
    }
}

/// The punch to make up, and what of the bend stays without it.
fn punch(m: &PieceContext, step: &Step, plan: &Plan) -> String {
    let Some(short) = &step.short else { return String::new() };
    let d = &m.display;
    let (low, high) = plan.reach(step);
    let off = |k: usize| {
        let beside = short.beside[k].as_ref()?;
        Some(format!("{} beside {beside}", d.length_unit(short.ends[k])))
    };
    let ends: Vec<String> = [0, 1].into_iter().filter_map(off).collect();
    format!(
        "punch {} long: without it stay {}",
        d.length_unit(high - low - short.ends[0] - short.ends[1]),
        ends.join(" and ")
    )
}

fn schools(m: &PieceContext, b: &BendFact, stuff: &SheetStock) -> Vec<SchoolRow> {
    let d = &m.display;
    let says = |s: SchoolSays| {
        let (allowance, deduction, k, note) = match &s.said {
            Ok(a) => (
                Some(a.length),
                Some(2.0 * b.ossb - a.length),
                Some(a.k),
                a.assumption.clone().unwrap_or_default(),
            ),
            Err(e) => (None, None, None, e.clone()),
        };
        let change = allowance.map(|a| a - b.allowance.length);
        SchoolRow {
            school: s.school,
            name: s.school.said().into(),
            used: s.said.as_ref().is_ok_and(|a| {
                a.rule == b.allowance.rule && (a.length - b.allowance.length).abs() < ROUNDING
            }),
            allowance: allowance.map(|v| d.fine(v)).unwrap_or_default(),
            deduction: deduction.map(|v| d.fine(v)).unwrap_or_default(),
            k: k.map(|v| format!("{v:.3}")).unwrap_or_default(),
            change: change
                .map(|c| {
                    if c.abs() < 5e-5 {
                        "0".into()
                    } else {
                        format!("{}{}", if c > 0.0 { "+" } else { "−" }, d.fine(c.abs()))
                    }
                })
                .unwrap_or_default(),
            note,
        }
    };
    every_school(stuff, b.angle, b.radius).into_iter().map(says).collect()
}
