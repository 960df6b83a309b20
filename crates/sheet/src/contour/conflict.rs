//! Which of the things told of an outline contradict: those without which all others can be kept.

use super::solve::{Answer, MOST_WORK, search, work};
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

/// All that could give way; `whole` where everything that was told was looked at.
pub struct Conflicts {
    pub found: Vec<Conflict>,
    pub whole: bool,
}

/// Of a large outline as much is looked at as three searches take.
pub fn conflict(told: &Told) -> Conflicts {
    let causes = told.causes();
    let (mut found, mut spent) = (Vec::new(), 0);
    for (k, cause) in causes.iter().copied().enumerate() {
        ground::halt::often();
        let system = System::new(told, Some(cause));
        spent += work(&system) * if system.is_plain() { 1 } else { BEGINNINGS };
        if spent > 3 * MOST_WORK && k > 0 {
            return Conflicts { found, whole: false };
        }
        let answer = search(&system, BEGINNINGS);
        let instead = match (&answer, cause) {
            (Answer::Found(found), Cause::Figure(side, figure)) => Some(found.sides[side].figure(figure)),
            _ => None,
        };
        if matches!(answer, Answer::Found(_) | Answer::Several(_) | Answer::Free(..)) {
            found.push(Conflict { cause, instead });
        }
    }
    Conflicts { found, whole: true }
}
