//! The features of earlier lines again: which they are, and how many there may be.

use super::feature::{Feature, MOST_CORNERS, MOST_FEATURES};
use super::spec::{Standing, Turn};

/// The features that the lines `of` made, or a fault naming the one that made none.
pub fn targets(turn: &mut Turn, of: &[String], standing: &Standing) -> Option<Vec<Feature>> {
    let tell = &mut *turn.tell;
    if of.is_empty() {
        tell.refuse_at("/say/of", "nothing is picked", "pick at least one cut above this line");
        return None;
    }
    let mut out = Vec::new();
    for (i, id) in of.iter().enumerate() {
        match standing.above.iter().find(|m| m.0 == *id) {
            Some((_, features)) => out.extend(features.iter().cloned()),
            None if standing.bending.contains(id) => {
                tell.refuse_at(
                    &format!("/say/of/{i}"),
                    format!("'{id}' bends; only what is cut or pressed can be copied"),
                    "name both edges in the line that folds, or tell the second fold in a line of its own",
                );
                return None;
            }
            None => {
                let cutting = standing.above.iter().filter(|m| !m.1.is_empty());
                let known: Vec<&str> = cutting.map(|m| m.0.as_str()).take(12).collect();
                let mend = if known.is_empty() {
                    "cut or press something above this line first".to_string()
                } else {
                    format!("pick from {}", known.join(", "))
                };
                tell.refuse_at(&format!("/say/of/{i}"), format!("no cut above is called '{id}'"), mend);
                return None;
            }
        }
    }
    Some(out)
}

/// Whether so many more of these features are not too many.
pub fn within_limits(
    turn: &mut Turn,
    path: &str,
    features: &[Feature],
    times: usize,
    standing: &Standing,
) -> bool {
    let corners: usize = features.iter().map(|f| f.contour.vertices.len()).sum();
    let count = features.len().saturating_mul(times).saturating_add(standing.had());
    if count <= MOST_FEATURES && corners.saturating_mul(times) <= MOST_CORNERS {
        return true;
    }
    turn.tell.refuse_at(
        path,
        format!("this makes {count} cuts; {MOST_FEATURES} is the most for one piece"),
        "repeat fewer, or split the piece",
    );
    false
}
