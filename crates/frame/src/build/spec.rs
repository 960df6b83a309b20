//! What a line of a frame comes to once it is read: numbers, choices, sections and names, and what they make
//! when their turn comes. Nothing here or below sees what was typed.

use std::cell::RefCell;
use std::collections::HashMap;
use std::sync::Arc;

use ground::geom::Contour;
use ground::reader::{Reader, Tell};
use sheet::result::PieceResult;
use shop::settings::{LARGEST, own_section};
use shop::{FrameShop, Material, Section, section};

use crate::build::overrides::FrameOverrides;
use crate::build::plates::Cutting;
use crate::build::rims::Rim;
use crate::build::skeleton::{Skeleton, ToldTrim};

/// A kind of line that can be read.
pub trait Spoken {
    fn read(&self, reader: &mut Reader, usual: &Usual) -> Option<Spec>;
}

/// A line that was read.
pub enum Spec {
    /// Nodes, members and what is done to them, in its turn.
    Shapes(Box<dyn Shapes>),
    /// What is known of what stands already and is carried out later: joints, welds, assemblies.
    Tells(Box<dyn Tells>),
    /// Plates, cut when the members are finished.
    Plates(Box<dyn Plates>),
}

/// A line's turn: which line it is, the lines above it that make something, and where to say what cannot be.
pub struct Turn<'t> {
    pub tell: &'t mut Tell,
    pub line: &'t str,
    pub above: &'t [String],
    /// Flanges that are told of plates round openings: above this line, or anywhere when plates are cut.
    pub rims: &'t [Rim],
}

pub trait Shapes {
    fn make(&self, turn: &mut Turn, skeleton: &mut Skeleton) -> Option<()>;
}

pub trait Tells {
    fn tell(&self, turn: &mut Turn, skeleton: &Skeleton, told: &mut FrameOverrides) -> Option<()>;
}

pub trait Plates {
    /// What stands before the plates are cut, in the line's turn.
    fn set(&self, _turn: &mut Turn, _skeleton: &mut Skeleton) -> Option<()> {
        Some(())
    }

    /// What the members give up for the plates, in the line's turn.
    fn room(&self, _turn: &mut Turn, _skeleton: &Skeleton) -> Option<Vec<ToldTrim>> {
        Some(Vec::new())
    }

    fn cut(&self, turn: &mut Turn, skeleton: &Skeleton) -> Option<Vec<Cutting>>;
}

/// The piece of the job with a mark, for a section that is its flat.
pub type PieceOf<'a> = &'a dyn Fn(&str) -> Option<Arc<PieceResult>>;

/// A section as a line names it.
#[derive(Clone)]
pub struct SectionSpec {
    /// What it was called.
    pub called: String,
    pub section: Arc<Section>,
}

/// What the lines of a frame may name besides one another, and what is meant where they name nothing.
pub struct Usual<'a> {
    /// The frame's own section and material, as told.
    section: &'a str,
    material: &'a str,
    pub shop: &'a FrameShop,
    pub piece_of: PieceOf<'a>,
    /// Sections read already; none for those that could not be.
    sections: RefCell<HashMap<String, Option<SectionSpec>>>,
}

impl<'a> Usual<'a> {
    pub fn of(section: &'a str, material: &'a str, shop: &'a FrameShop, piece_of: PieceOf<'a>) -> Self {
        Usual { section, material, shop, piece_of, sections: RefCell::default() }
    }

    /// A section by name or size, the frame's where none is told; its reason is told once.
    pub fn section(&self, reader: &mut Reader, path: &str, told: &str) -> Option<SectionSpec> {
        let text = if told.trim().is_empty() { self.section } else { told };
        let mend = || format!("write {}", section::KINDS);
        if let Some(found) = self.sections.borrow().get(text) {
            if found.is_none() {
                reader.refuse(path, text, format!("the section '{}' cannot be read", text.trim()), mend());
            }
            return found.clone();
        }
        let found = match self.read_section(reader, text.trim()) {
            Ok(section) => Some(SectionSpec { called: text.to_string(), section: Arc::new(section) }),
            Err(message) => {
                reader.refuse(path, text, message, mend());
                None
            }
        };
        self.sections.borrow_mut().insert(text.to_string(), found.clone());
        found
    }

    /// The shop's own sections come first, then the flats of the job's pieces, then the book.
    fn read_section(&self, reader: &Reader, text: &str) -> Result<Section, String> {
        let called = |name: &str| !text.is_empty() && name.eq_ignore_ascii_case(text);
        if let Some(own) = self.shop.sections.iter().find(|s| called(&s.name)) {
            return own.section.clone().ok_or_else(|| {
                format!("the shop's own section '{}' is not right yet: see the job's settings", own.name)
            });
        }
        if let Some(piece) = (self.piece_of)(text) {
            return flat_as_section(&piece);
        }
        let scope = reader.scope();
        section::by_text(text, |t| scope.length(t).ok())
    }

    /// A material by its id, the frame's where none is told.
    pub fn material(&self, reader: &mut Reader, path: &str, told: &str) -> Option<Arc<Material>> {
        let id = if told.is_empty() { self.material } else { told };
        let shelf = &self.shop.sheet.materials;
        let found = shelf.material(id);
        if found.is_none() {
            reader.refuse(
                path,
                id,
                format!("neither the shop book nor this job has a material '{id}'"),
                shelf.said(),
            );
        }
        found
    }
}

/// The flat of a piece on the bench as a section, east across and north up.
fn flat_as_section(r: &PieceResult) -> Result<Section, String> {
    if !r.made || r.flat.outer.bounds().size().max_element() > LARGEST {
        return Err(format!(
            "the flat of {} is no section: it cannot be made yet, or is larger than 3 m",
            r.mark
        ));
    }
    let middle = r.flat.outer.bounds().centre();
    let moved = |c: &Contour| c.moved(0.0, -middle).outward();
    let holes = r.flat.holes.iter().map(|h| moved(&h.contour)).collect();
    Ok(own_section(&r.mark, moved(&r.flat.outer), holes, "the flat of a piece of this job"))
}
