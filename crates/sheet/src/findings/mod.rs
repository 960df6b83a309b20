//! Checks: what is likely to go wrong with a piece, pinned where it applies, with the rule that says so and a
//! mend where there is one.

mod at_the_brake;
mod bends;
mod bent_bar;
mod bores;
mod formed;
mod holes;
mod outline;
pub(crate) mod pads;
mod pressed;
mod stubs;
mod transition;

use crate::BendFact;
use crate::context::PieceContext;
use crate::result::PieceResult;
use ground::finding::Finding;
pub(crate) use ground::finding::finding;

/// Every finding on a piece, the gravest first.
pub(crate) fn findings(m: &PieceContext, result: &PieceResult) -> Vec<Finding> {
    let mut out = Vec::new();
    let v = result.plan.brake.opening(m.t);
    bends::check(m, v, &mut out);
    stubs::check(m, v, &mut out);
    at_the_brake::check(m, result, &mut out);
    formed::check(m, &mut out);
    pressed::check(m, &mut out);
    pads::check(m, &result.flat.pressed, &mut out);
    holes::check(m, result, &mut out);
    bores::check(m, result, &mut out);
    outline::check(m, result, &mut out);
    bent_bar::check(m, &mut out);
    transition::check(m, &mut out);
    out.sort_by_key(|f| f.severity);
    out
}

/// Keeps the first few of a kind, and says how many more there are.
fn told(mut found: Vec<Finding>, most: usize, out: &mut Vec<Finding>) {
    let more = found.len().saturating_sub(most);
    found.truncate(most);
    if let Some(last) = found.last_mut().filter(|_| more > 0) {
        last.message += &format!(" (and {more} more like it)");
    }
    out.append(&mut found);
}

/// Where a finding on a bend is pinned.
fn spot(b: &BendFact) -> Option<[f64; 2]> {
    Some(b.middle().to_array())
}
