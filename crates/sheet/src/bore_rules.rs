//! What is wrong with a drilled hole by itself, in a sheet or in a wall so thick: cones and bores that go
//! through it, drills that come out behind, threads that hold too little.

use ground::finding::{Finding, Severity, finding};
use ground::geom::{COINCIDENT, ROUNDING};
use ground::quantity::Display;
use shop::Material;
use shop::limits::{self, Limit};

use crate::{Bore, BoreKind};

/// The metal that a hole is drilled into.
pub struct Into<'a> {
    /// `sheet`, `a wall`.
    pub said: &'a str,
    pub t: f64,
    pub material: &'a Material,
}

/// Its faults; `called` is what the hole is called in a sentence.
pub fn faults(bore: &Bore, called: &str, of: &Into, d: &Display) -> Vec<Finding> {
    let t = of.t;
    let metal = format!("{} {} thick", of.said, d.length_unit(t));
    let mut out = Vec::new();
    let mut tell = |check, severity, message: String, limit: &Limit, by: f64, how: &str| {
        let f = finding(check, severity, message, &limit.rule, limit.source);
        // What just touches is wrong by nothing that could be measured.
        out.push(if by < COINCIDENT { f } else { f.by(format!("{} {how}", d.length_unit(by))) });
    };
    let geometry = |rule: &str| Limit { value: t, rule: rule.into(), source: "geometry" };
    if let Some(mouth) = &bore.mouth {
        let deep = mouth.depth(bore.diameter);
        let cone = bore.kind == BoreKind::Countersunk;
        let (what, rule) = if cone {
            ("The cone", "a countersink is no deeper than the metal")
        } else {
            ("The bore", "a counterbore leaves a floor")
        };
        // A cone may end in the far face, a floor may not.
        if deep > t + if cone { ROUNDING } else { -ROUNDING } {
            let deep_said = d.fine(deep);
            let message =
                format!("{what} of {called} is {deep_said} deep in {metal}: it comes out of the far face");
            tell("mouth_deep", Severity::Stop, message, &geometry(rule), deep - t, "too deep");
        }
    }
    if let (Some(depth), Some(reach)) = (bore.depth, bore.reach()) {
        let rule = geometry("a blind hole ends inside the metal");
        if depth > t - ROUNDING {
            let message = format!("{called} is drilled {} deep in {metal}: it goes through", d.fine(depth));
            tell("drill_through", Severity::Stop, message, &rule, depth - t, "too deep");
        } else if reach > t - ROUNDING {
            let message = format!(
                "The point of the drill comes out behind {called}: it reaches {} in {metal}",
                d.fine(reach)
            );
            tell("drill_point", Severity::Warn, message, &rule, reach - t, "too deep");
        }
    }
    let BoreKind::Tapped { thread, depth } = bore.kind else { return out };
    let held = depth.unwrap_or(t).min(t);
    let wanted = limits::thread_engagement(of.material, thread.major);
    if held < wanted.value - ROUNDING {
        let message = format!(
            "The thread {} of {called} holds over {}, {} wanted",
            thread.size,
            d.fine(held),
            d.length_unit(wanted.value)
        );
        tell("thread_short", Severity::Warn, message, &wanted, wanted.value - held, "short");
    }
    if let (Some(depth), Some(drilled)) = (depth, bore.depth)
        && drilled - depth < thread.run_out() - ROUNDING
    {
        let wanted = Limit {
            value: thread.run_out(),
            rule: "a blind hole is drilled three pitches deeper than its thread".into(),
            source: "common practice",
        };
        let message = format!(
            "{called} is drilled {} deeper than its thread, {} wanted for the tap to run out",
            d.fine(drilled - depth),
            d.length_unit(wanted.value)
        );
        tell("tap_run_out", Severity::Warn, message, &wanted, wanted.value - (drilled - depth), "short");
    }
    out
}
