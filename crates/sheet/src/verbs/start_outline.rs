//! `outline`: a contour told point by point.

use super::shape::{Point, points};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "start_outline",
    stem: "start",
    about: "Starts a piece with a contour told point by point; sides may be curved.",
    role: Role::Start,
    starts: &[],
    offers: &[],
    sentence: &[verb("Start with a told outline|outline"), points("/points", "corner", 0)],
    examples: &["outline (0, 0) (100, 0) (100, 60) curved 0.4142 (0, 60)"],
};

spoken! {
    /// A contour told point by point.
    pub struct StartOutline {
        pub points: Vec<Point>,
    }
}
