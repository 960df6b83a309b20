//! Bends at the press brake: die, force and back-gauge of each, what every school says of it, and the order they are made in.

mod sequence;
mod strike;

use super::Making;
use super::bends::BendFact;
use super::method::{SchoolSays, every_school};
use super::reader::{Range, Reader};
use super::strip::Stuff;
use crate::job::Job;
use crate::quantity::FigureTable;
use crate::result::{BendMark, BendRow, LineFault, SchoolRow};
use crate::shopbook::brake::{BrakeOf, air_radius, force};
use crate::shopbook::limits::shortest_flange;
pub use sequence::{Step, sequence};
pub use strike::Strike;

/// The job's press brake; usual figures where none is told.
pub fn read(job: &Job, table: &FigureTable) -> (BrakeOf, Vec<LineFault>) {
    let mut reader = Reader::new(table, job.display);
    let Some(told) = &job.brake else { return (BrakeOf::default(), Vec::new()) };
    let mut out = BrakeOf { assumed: false, ..BrakeOf::default() };
    match reader.number("/brake/force", &told.force) {
        Some(f) if f > 0.0 => out.force = f,
        Some(_) => reader.refuse("/brake/force", &told.force, "a force is above zero", "write the greatest force in kN"),
        None => {}
    }
    if let Some(l) = reader.length("/brake/length", &told.length, Range::AboveZero) {
        out.length = l;
    }
    let openings: Vec<f64> =
        told.openings.iter().enumerate().take(100).filter_map(|(i, v)| reader.length(&format!("/brake/openings/{i}"), v, Range::AboveZero)).collect();
    if !openings.is_empty() {
        out.openings = openings;
        out.openings.sort_by(f64::total_cmp);
    }
    (out, reader.faults)
}

/// One row a bend, in the order they are made. Rolled arcs are not made at the brake and have none.
pub(crate) fn rows(m: &Making, marks: &[BendMark], steps: &[Step], brake: &BrakeOf, stuff: &Stuff) -> Vec<BendRow> {
    let row = |(i, s): (usize, &Step)| row(m, &m.blank.bends[s.bend], marks[s.bend].length, s, i + 1, brake, stuff);
    steps.iter().enumerate().map(row).collect()
}

/// `length`: of the metal that is bent.
fn row(m: &Making, b: &BendFact, length: f64, step: &Step, order: usize, brake: &BrakeOf, stuff: &Stuff) -> BendRow {
    let d = &m.display;
    let v = brake.opening(m.t);
    let air = air_radius(m.material, v);
    let kn = force(m.material.strength, m.t, v, length);
    let gauge = step.gauge;
    let says = |s: SchoolSays| {
        let (allowance, deduction, k, note) = match &s.said {
            Ok(a) => (Some(a.length), Some(2.0 * b.ossb - a.length), Some(a.k), a.assumption.clone().unwrap_or_default()),
            Err(e) => (None, None, None, e.clone()),
        };
        let change = allowance.map(|a| a - b.allowance.length);
        SchoolRow {
            school: s.school,
            name: s.school.said().into(),
            used: s.said.as_ref().is_ok_and(|a| a.rule == b.allowance.rule && (a.length - b.allowance.length).abs() < 1e-9),
            allowance: allowance.map(|v| d.fine(v)).unwrap_or_default(),
            deduction: deduction.map(|v| d.fine(v)).unwrap_or_default(),
            k: k.map(|v| format!("{v:.3}")).unwrap_or_default(),
            change: change
                .map(|c| if c.abs() < 5e-5 { "0".into() } else { format!("{}{}", if c > 0.0 { "+" } else { "−" }, d.fine(c.abs())) })
                .unwrap_or_default(),
            note,
        }
    };
    let rule = super::method::rule_of(m.job, m.piece);
    let k = rule.k.trim().parse::<f64>().ok().filter(|k| *k > 0.0 && *k <= 0.5);
    let schools = every_school(stuff, k, &rule.test, b.angle, b.radius).into_iter().map(says).collect();
    BendRow {
        order,
        name: b.name.clone(),
        label: b.label.clone(),
        line: b.line.clone(),
        up: b.up,
        angle: b.angle,
        angle_text: d.angle(b.angle),
        radius: d.fine(b.radius),
        length: d.length(length),
        die: d.brief(v),
        air_radius: d.fine(air.value),
        force: format!("{kn:.0} kN"),
        force_per_metre: format!("{:.0} kN/m", kn / (length / 1000.0).max(1e-9)),
        gauge: d.length(gauge),
        check: d.length(gauge - b.allowance.length / 2.0 + b.ossb),
        shortest: d.length(shortest_flange(m.t).value),
        reason: match step.punch {
            Some(most) => format!("{}; punch at most {} long", step.reason, d.length_unit(most)),
            None => step.reason.clone(),
        },
        strikes: step.strikes.iter().map(|s| s.said()).collect(),
        schools,
        allowance: d.fine(b.allowance.length),
        rule: b.allowance.rule.clone(),
    }
}
