//! What a line comes to once it is read: numbers, choices and names, and what they make when their turn
//! comes. Nothing here or below sees what was typed.

use ground::geom::{Bounds, Contour};
use ground::quantity::Display;
use ground::reader::{Reader, Tell};
use ground::working::Working;

use super::blank::Blank;
use super::feature::Feature;
use super::folds::{Laid, Tree};
use super::kept::KeptSpec;
use super::place::PlaceSpec;
use super::pressed::Pressed;
use super::stock::SheetStock;

/// A kind of line that can be read.
pub trait Spoken {
    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec>;

    /// Pointer, within what it says, of the length that the tip of this panel of its own stands at.
    fn tip(&self, _panel: &str) -> Option<String> {
        None
    }
}

/// A line that was read, by when its turn comes.
pub enum Spec {
    /// The blank that all else stands on.
    Start(Box<dyn Begins>),
    /// Panels on its edges, and how they meet, before it is laid flat.
    Panels(Box<dyn Panels>),
    /// Bends across what is laid flat.
    Bends(Box<dyn Bends>),
    /// What is cut and pressed, in its turn.
    Cuts(Box<dyn Cuts>),
    /// Corners of the outline, last: a cut may make the corner that a hand would feel.
    Corners(Box<dyn Corners>),
    /// A size on the finished flat.
    Kept(KeptSpec),
}

impl Spec {
    pub fn start(&self) -> Option<&dyn Begins> {
        if let Spec::Start(s) = self { Some(&**s) } else { None }
    }

    pub fn cuts(&self) -> Option<&dyn Cuts> {
        if let Spec::Cuts(s) = self { Some(&**s) } else { None }
    }

    pub fn corners(&self) -> Option<&dyn Corners> {
        if let Spec::Corners(s) = self { Some(&**s) } else { None }
    }
}

/// Where a line stands in its recipe.
#[derive(Clone, Copy)]
pub struct At<'a> {
    pub index: usize,
    pub line: &'a str,
}

impl At<'_> {
    /// JSON pointer in the piece to a field of the line.
    pub fn pointer(&self, path: &str) -> String {
        format!("/lines/{}{path}", self.index)
    }
}

/// A line's turn: which line it is, the sheet, and where to say what cannot be.
pub struct Turn<'t> {
    pub tell: &'t mut Tell,
    pub at: At<'t>,
    pub stock: &'t SheetStock<'t>,
}

pub trait Begins {
    fn blank(&self, turn: &mut Turn) -> Option<Blank>;

    /// Holes that belong to the start.
    fn cuts(&self, _at: At, _field: Bounds) -> Vec<Feature> {
        Vec::new()
    }

    /// Values that were left open and found: JSON pointer within the line, and the value as it is written.
    fn found(&self, _display: &Display) -> Vec<(String, String)> {
        Vec::new()
    }

    /// How its outline was found: in a word or two, and at length.
    fn working(&self, _display: &Display, _line: &str) -> Option<(String, Working)> {
        None
    }

    /// Where too little is told for one: some of the outlines that fit.
    fn family(&self) -> &[Contour] {
        &[]
    }

    /// What the sides of those are called, by tag.
    fn sides(&self, _line: &str) -> Vec<String> {
        Vec::new()
    }

    /// Panels that belong to the start.
    fn panels(&self) -> Option<&dyn Panels> {
        None
    }
}

pub trait Panels {
    fn hang(&self, turn: &mut Turn, tree: &mut Tree) -> Option<()>;
}

pub trait Bends {
    fn bend(&self, turn: &mut Turn, laid: &mut Laid, tags: &[String]) -> Option<()>;
}

/// What a cut stands on.
pub struct Standing<'a> {
    pub blank: &'a Blank,
    /// What the lines above have cut and pressed.
    pub above: &'a [(String, Vec<Feature>)],
    /// Ids of lines that bend: named where a cut belongs, they are told apart from what is not there.
    pub bending: &'a [String],
}

impl Standing<'_> {
    /// Features that stand already.
    pub fn had(&self) -> usize {
        self.above.iter().map(|m| m.1.len()).sum()
    }
}

pub trait Cuts {
    fn cut(&self, turn: &mut Turn, standing: &Standing) -> Option<Vec<Feature>>;

    /// What is written beside the first of its cuts; none for copies of what is written elsewhere.
    fn mark(&self, _display: &Display, _pressed: Option<&Pressed>) -> Option<String> {
        None
    }

    /// Where a hand measures its one cut from.
    fn place(&self) -> Option<&PlaceSpec> {
        None
    }

    /// The field that it fills with a pattern.
    fn fills(&self) -> Option<&str> {
        None
    }
}

pub trait Corners {
    fn round(&self, turn: &mut Turn, outer: &Contour, blank: &Blank, tags: &[String]) -> Option<Contour>;
}
