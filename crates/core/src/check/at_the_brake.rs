//! The brake: force and length of the machine, and an order of bends in which something is struck.

use super::finding;
use crate::result::{BendMark, Finding, Severity};
use crate::sheet::Making;
use crate::sheet::brake::Step;
use crate::shopbook::brake::{BrakeOf, air_radius, force};

pub fn check(m: &Making, marks: &[BendMark], steps: &[Step], brake: &BrakeOf, out: &mut Vec<Finding>) {
    if m.material.bent != crate::shopbook::Bent::Cold {
        return;
    }
    let d = &m.display;
    let v = brake.opening(m.t);
    let middle = |b: &crate::sheet::BendFact| Some(((b.ends[0] + b.ends[1]) / 2.0).to_array());
    let whose = if brake.assumed { "a usual brake of 1000 kN and 3 m (none is told)" } else { "the brake of this job" };
    for s in steps {
        let b = &m.blank.bends[s.bend];
        let mark = &marks[s.bend];
        // The force is of the metal; the machine must reach from its first to its last.
        let kn = force(m.material.strength, m.t, v, mark.length);
        let reach = glam::DVec2::from(mark.from).distance(mark.to.into());
        if kn > brake.force {
            let message = format!("Bend {} takes {kn:.0} kN over a V of {}; the brake gives {:.0} kN", b.label, d.brief(v), brake.force);
            out.push(
                finding("force_over", Severity::Warn, message, "F = (1 + 4 t/V)·Rm·L·t²/V", "common practice")
                    .by(format!("{:.0} kN over", kn - brake.force))
                    .on(vec![b.name.clone()], Some(&b.line), middle(b)),
            );
        }
        if reach > brake.length + 1e-6 {
            let message = format!("Bend {} is {} long; the brake bends {}", b.label, d.length(reach), d.length_unit(brake.length));
            out.push(
                finding("bend_long", Severity::Warn, message, "the bend is no longer than the brake", whose)
                    .by(format!("{} over", d.length_unit(reach - brake.length)))
                    .on(vec![b.name.clone()], Some(&b.line), middle(b)),
            );
        }
        if let Some(strike) = s.strikes.first() {
            let message = format!("Bent in this order, {} while {} is made", strike.said(), b.label);
            let more = "a straight punch 160 high with its holder and 24 thick, a V die 60 high";
            out.push(
                finding(
                    "sequence_strikes",
                    Severity::Warn,
                    message,
                    &format!("nothing formed earlier stands in the way of the tools: {more}"),
                    "common practice",
                )
                .on(vec![strike.panel.clone(), b.name.clone()], Some(&b.line), middle(b)),
            );
        }
    }
    // Air bending makes its own radius: told once, for the bend that is furthest off.
    let air = air_radius(m.material, v);
    let off = |r: f64| (air.value - r).abs();
    let told = steps.iter().map(|s| &m.blank.bends[s.bend]).filter(|b| b.angle < 2.7 && off(b.radius) > 0.35 * b.radius.max(m.t));
    if let Some(b) = told.max_by(|a, b| off(a.radius).total_cmp(&off(b.radius))) {
        let message = format!("Air bending over a V of {} gives an inside radius near {}, not {}", d.brief(v), d.fine(air.value), d.fine(b.radius));
        out.push(finding("air_radius", Severity::Note, message, &air.rule, air.source).on(vec![b.name.clone()], Some(&b.line), middle(b)));
    }
}
