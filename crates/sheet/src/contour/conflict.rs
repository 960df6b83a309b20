//! Which of the things told of an outline contradict: those without which all others can be kept.

use super::solve::{Answer, search};
use super::told::{Cause, Told};
use super::unknowns::System;

/// Something told that could give way, and what it would come to.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Conflict {
    pub cause: Cause,
    /// What the figure would have to be, mm or rad; none where it is no figure, or more than one would do.
    pub instead: Option<f64>,
}

/// Beginnings that are tried for each.
const BEGINNINGS: usize = 6;
/// Things told that are looked at: of an outline with more, those that come first.
const MOST_CAUSES: usize = 240;

pub fn conflict(told: &Told) -> Vec<Conflict> {
    let mut out = Vec::new();
    for cause in told.causes().into_iter().take(MOST_CAUSES) {
        ground::halt::often();
        let system = System::new(told, Some(cause));
        let answer = search(&system, BEGINNINGS);
        let instead = match (&answer, cause) {
            (Answer::Found(found), Cause::Figure(side, figure)) => Some(found.sides[side].figure(figure)),
            _ => None,
        };
        if matches!(answer, Answer::Found(_) | Answer::Several(_) | Answer::Free(..)) {
            out.push(Conflict { cause, instead });
        }
    }
    out
}
