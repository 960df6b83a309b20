//! `outline`: a contour told point by point.

use grammar::*;
use ground::geom::Contour;
use ground::reader::Reader;

use super::shape::contour;
use super::shape::{Point, points};
use crate::flat::blank::{Blank, outline_of};
use crate::flat::spec::{Begins, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;

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

/// An outline, as it was told or as it comes from elsewhere.
pub struct OutlineSpec {
    pub outer: Contour,
}

impl Spoken for StartOutline {
    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let outer = contour(reader, "/say/points", &self.points)?;
        Some(Spec::Start(Box::new(OutlineSpec { outer })))
    }
}

impl Begins for OutlineSpec {
    fn blank(&self, turn: &mut Turn) -> Option<Blank> {
        Some(outline_of(turn.at.line, &self.outer))
    }
}
