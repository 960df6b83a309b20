//! The brake: force and length of the machine, dies and angles that do not suit, and an order of bends in
//! which something is struck.

use super::{finding, spot};
use crate::BendFact;
use crate::brake::Plan;
use crate::context::PieceContext;
use crate::result::{Finding, Mend, Patch, PieceResult, Severity};
use ground::geom::{COINCIDENT, ROUNDING};
use ground::quantity::counted;
use shop::brake::{CLOSED, FLATTENING, HEM_FIRST, air_radius, force, suited};
use shop::limits::v_opening;

pub fn check(m: &PieceContext, result: &PieceResult, out: &mut Vec<Finding>) {
    if m.material.bent != shop::Bent::Cold {
        return;
    }
    let plan = &result.plan;
    unknown(m, plan, out);
    let Some(first) = plan.steps.first() else { return };
    machine(m, result, out);
    die(m, plan, &m.blank.bends[first.bend], out);
    angles(m, plan, out);
    strikes(m, result, out);
    radius(m, plan, out);
}

/// Names in the order that mean nothing.
fn unknown(m: &PieceContext, plan: &Plan, out: &mut Vec<Finding>) {
    let Some(name) = plan.unknown.first() else { return };
    let bend = m.blank.bends.iter().find(|b| b.name == *name);
    let told = m.piece.bend_order.iter().filter(|n| *n == name).count();
    let what = match bend {
        Some(b) if b.rolled => "is rolled, not bent at the brake",
        Some(b) if b.is_crease() => "is creased, not bent at the brake",
        Some(_) if told > 1 => "stands there twice",
        _ => "is no bend of this piece",
    };
    let more = plan.unknown.len() - 1;
    let more =
        if more > 0 { format!(" (and {} like it)", counted(more, "more name")) } else { String::new() };
    let mut kept: Vec<&String> = Vec::new();
    for n in &m.piece.bend_order {
        if !kept.contains(&n) && m.blank.bends.iter().any(|b| b.name == **n && b.is_struck()) {
            kept.push(n);
        }
    }
    let mend = Mend {
        label: "take it out of the order".into(),
        patch: vec![Patch::add("/bend_order".into(), serde_json::json!(kept))],
    };
    let message = format!("The order of bends names '{name}', which {what}{more}: it was left out");
    let rule = "an order names bends of its piece, each once";
    out.push(
        finding("order_unknown", Severity::Warn, message, rule, "the order set by hand")
            .on(vec![name.clone()], None, None)
            .with(Some(mend)),
    );
}

/// Force and length of the machine.
fn machine(m: &PieceContext, result: &PieceResult, out: &mut Vec<Finding>) {
    let d = &m.display;
    let plan = &result.plan;
    let brake = &plan.brake;
    let v = brake.opening(m.t);
    let whose = if brake.assumed {
        "a usual brake of 1000 kN and 3 m (none is told)"
    } else {
        "the brake of this job"
    };
    for s in &plan.steps {
        let b = &m.blank.bends[s.bend];
        let mark = &result.flat.bends[s.bend];
        // The force is of the metal; the machine must reach from its first to its last.
        let closed = b.angle >= CLOSED;
        let kn =
            force(m.material.upper_strength, m.t, v, mark.length) * if closed { FLATTENING } else { 1.0 };
        let reach = glam::DVec2::from(mark.from).distance(mark.to.into());
        if kn > brake.force {
            let how =
                if closed { "to press flat".to_string() } else { format!("over a V of {}", d.brief(v)) };
            let message =
                format!("Bend {} takes {kn:.0} kN {how}; the brake gives {:.0} kN", b.label, brake.force);
            let rule = format!(
                "F = (1 + 4 t/V)·Rm·L·t²/V{}, Rm {:.0} MPa: the upper of {}",
                if closed { format!(", {FLATTENING} times that to flatten") } else { String::new() },
                m.material.upper_strength,
                m.material.name
            );
            out.push(
                finding("force_over", Severity::Warn, message, &rule, "common practice")
                    .by(format!("{:.0} kN over", kn - brake.force))
                    .on(vec![b.name.clone()], Some(&b.line), spot(b)),
            );
        }
        if reach > brake.length + COINCIDENT {
            let message = format!(
                "Bend {} is {} long; the brake bends {}",
                b.label,
                d.length(reach),
                d.length_unit(brake.length)
            );
            out.push(
                finding("bend_long", Severity::Warn, message, "the bend is no longer than the brake", whose)
                    .by(format!("{} over", d.length_unit(reach - brake.length)))
                    .on(vec![b.name.clone()], Some(&b.line), spot(b)),
            );
        }
    }
}

/// A V that does not suit the thickness.
fn die(m: &PieceContext, plan: &Plan, b: &BendFact, out: &mut Vec<Finding>) {
    let d = &m.display;
    let v = plan.brake.opening(m.t);
    let (least, most) = suited(m.t);
    if (least - ROUNDING..=most + ROUNDING).contains(&v) {
        return;
    }
    let effect = if v > most {
        "the bend comes out round and its flanges must be long"
    } else {
        "it marks the sheet and takes great force"
    };
    let message = format!(
        "No V on the rack suits {}: the nearest is {}, wanted is about {}. {effect}",
        d.length_unit(m.t),
        d.brief(v),
        d.length_unit(v_opening(m.t).value)
    );
    out.push(
        finding(
            "die_unsuited",
            Severity::Warn,
            message,
            "a V of 5 to 12 t, never below 6 mm",
            "common practice",
        )
        .on(vec![b.name.clone()], Some(&b.line), spot(b)),
    );
}

/// Bends that punch and die cannot follow.
fn angles(m: &PieceContext, plan: &Plan, out: &mut Vec<Finding>) {
    let d = &m.display;
    let short = |s: &&crate::brake::Step| {
        let angle = m.blank.bends[s.bend].angle;
        s.most < (if angle >= CLOSED { HEM_FIRST } else { angle }) - COINCIDENT
    };
    let Some(s) = plan.steps.iter().find(short) else { return };
    let b = &m.blank.bends[s.bend];
    let tools = &plan.brake.tools;
    let message = format!(
        "Bend {} turns {}; a punch of {} and this V bend to {}",
        b.label,
        d.angle(b.angle),
        d.angle(tools.punch_angle),
        d.angle(s.most)
    );
    let rule = "a bend stays 180° less the angle of punch and V, and off the floor of the V";
    out.push(finding("tool_angle", Severity::Warn, message, rule, "geometry").on(
        vec![b.name.clone()],
        Some(&b.line),
        spot(b),
    ));
}

fn strikes(m: &PieceContext, result: &PieceResult, out: &mut Vec<Finding>) {
    let plan = &result.plan;
    if !plan.unseen.is_empty() {
        let message = format!("At the brake: {}", plan.unseen);
        out.push(finding(
            "strikes_unseen",
            Severity::Note,
            message,
            "what is not looked at is said",
            "the limits of the search",
        ));
    }
    let tools = &plan.brake.tools;
    let n = |v: f64| m.display.length_unit(v);
    let rule = format!(
        "nothing formed earlier stands in the way of the tools: punch {} high and {} thick, beam {} thick, \
         die {} high, bed {} thick",
        n(tools.punch_height),
        n(tools.punch_thickness),
        n(tools.beam_thickness),
        n(tools.die_height(plan.brake.opening(m.t))),
        n(tools.bed_thickness)
    );
    for (s, row) in plan.steps.iter().zip(&result.bend_rows) {
        let b = &m.blank.bends[s.bend];
        if row.strikes.is_empty() {
            continue;
        }
        let message = format!("While {} is made, {}; {}", b.label, row.strikes.join("; "), plan.said);
        let names = s.strikes.iter().map(|s| s.panel.clone()).chain([b.name.clone()]).collect();
        let source = if plan.brake.assumed {
            "usual tools, common practice (none are told)"
        } else {
            "the tools of this job"
        };
        out.push(finding("sequence_strikes", Severity::Warn, message, &rule, source).on(
            names,
            Some(&b.line),
            spot(b),
        ));
    }
}

/// Air bending makes its own radius: told once, for the bend that is furthest off.
fn radius(m: &PieceContext, plan: &Plan, out: &mut Vec<Finding>) {
    let d = &m.display;
    let v = plan.brake.opening(m.t);
    let air = air_radius(m.material, v);
    let off = |r: f64| (air.value - r).abs();
    let told = plan
        .steps
        .iter()
        .map(|s| &m.blank.bends[s.bend])
        .filter(|b| b.angle < 2.7 && off(b.radius) > 0.35 * b.radius.max(m.t));
    if let Some(b) = told.max_by(|a, b| off(a.radius).total_cmp(&off(b.radius))) {
        let message = format!(
            "Air bending over a V of {} gives an inside radius near {}, not {}",
            d.brief(v),
            d.fine(air.value),
            d.fine(b.radius)
        );
        out.push(finding("air_radius", Severity::Note, message, &air.rule, air.source).on(
            vec![b.name.clone()],
            Some(&b.line),
            spot(b),
        ));
    }
}
