//! The bend school of a job, piece or bend, with its K read.

use super::reader::Reader;
use crate::job::Job;
use crate::job::Piece;
use crate::shopbook::bend::{Method, USUAL_K};
use crate::shopbook::{BendRule, School};

/// The rule a piece bends by: its own, or the job's.
pub fn rule_of<'a>(job: &'a Job, piece: &'a Piece) -> &'a BendRule {
    piece.bend_rule.as_ref().unwrap_or(&job.bend_rule)
}

pub fn method_of(reader: &mut Reader, path: &str, rule: &BendRule) -> Option<Method> {
    match rule.school {
        School::Din6935 => Some(Method::Din6935),
        School::Handbook90 => Some(Method::Handbook90),
        School::KFactor if rule.k.trim().is_empty() => Some(Method::KFactor(USUAL_K, false)),
        School::KFactor => {
            let k = reader.number(path, &rule.k)?;
            if k > 0.0 && k <= 0.5 {
                return Some(Method::KFactor(k, true));
            }
            reader.refuse(
                path,
                &rule.k,
                format!("a K-factor of {k} cannot be: the neutral line lies between the inside face and the middle"),
                "write a K above 0, at most 0.5",
            );
            None
        }
    }
}

/// Curves of r/t ≥ 5 are rolled, whatever the school.
pub fn rolled_or(method: Method, r: f64, t: f64) -> Method {
    if r / t >= 5.0 { Method::Rolled } else { method }
}
