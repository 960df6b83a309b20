//! `view front`: what of the drawing the figures below it stand on.

use grammar::*;
use ground::reader::Reader;

use super::{Spoken, Wanted};

pub static VERB: Verb = Verb {
    tag: "view",
    stem: "view",
    about: "A view, section or sheet of the drawing: the figures below it stand there.",
    role: Role::Other,
    starts: &[Start { key: 'v', name: "view", mm: "view \"front\"", inch: "view \"front\"" }],
    offers: &[],
    sentence: &[verb("View|view"), text("/name", "name of the view")],
    examples: &["view \"front\"", "view \"section A-A\""],
};

spoken! {
    /// A view of the drawing.
    pub struct ViewHeading {
        pub name: String,
    }
}

impl Spoken for ViewHeading {
    /// Nothing of it is measured.
    fn read(&self, reader: &mut Reader) -> Option<Box<dyn Wanted>> {
        if self.name.trim().is_empty() {
            let mend = "write what stands below it on the drawing, such as front or section A-A";
            reader.refuse_at("/say/name", "the view has no name", mend);
        }
        None
    }

    fn heading(&self) -> Option<&str> {
        Some(self.name.trim())
    }
}
