//! A shop's settings: as a job tells them, and as they are read, once. What cannot be read is told and left
//! out.

mod bars;
mod bends;
mod brake;
mod materials;
mod saw;
mod sections;

use serde::Serialize;

use ground::finding::LineFault;
use ground::quantity::{Display, Figure, FigureTable};
use ground::reader::Reader;

use crate::bend_book::BendBook;
use crate::brake::BrakeOf;
use crate::section::Section;
use crate::{BendRule, Shelf};

pub use bars::{Bars, StockBar, StockSheet};
pub use bends::{TableKind, TableRow, TestBend, TestStrip};
pub use brake::{Brake, BrakeTools};
pub use materials::OwnMaterial;
pub use saw::{Saw, SawFacts, small};
pub use sections::{LARGEST, OwnSection, own_section};

/// What a job tells of its shop that a piece of sheet may ask for.
#[derive(Clone, Copy, Serialize)]
pub struct SheetSettings<'a> {
    pub display: Display,
    pub light: bool,
    pub figures: &'a [Figure],
    pub bend_rule: &'a BendRule,
    pub stock: &'a [StockSheet],
    pub bend_table: &'a [TableRow],
    pub test_bends: &'a [TestBend],
    pub brake: Option<&'a Brake>,
    pub materials: &'a [OwnMaterial],
}

/// What a job tells of its shop that a frame may ask for: its plates are sheet.
#[derive(Clone, Copy, Serialize)]
pub struct FrameSettings<'a> {
    pub sheet: SheetSettings<'a>,
    pub saw: Option<&'a Saw>,
    pub sections: &'a [OwnSection],
}

impl SheetSettings<'_> {
    /// Their text: a piece's result depends on nothing else of the job.
    pub fn key(&self) -> String {
        serde_json::to_string(self).unwrap_or_default()
    }
}

impl FrameSettings<'_> {
    /// Their text: a frame's result depends on nothing else of the job but the pieces that it names.
    pub fn key(&self) -> String {
        serde_json::to_string(self).unwrap_or_default()
    }
}

/// All that a job tells of its shop.
#[derive(Clone, Copy)]
pub struct Settings<'a> {
    pub frame: FrameSettings<'a>,
    pub bars: &'a [StockBar],
}

/// The shop as a piece of sheet sees it; lengths in mm.
#[derive(Clone, Debug)]
pub struct SheetShop {
    pub display: Display,
    /// Whether views leave fields and rows of holes out.
    pub light: bool,
    pub figures: FigureTable,
    pub materials: Shelf,
    pub bend_rule: BendRule,
    pub bends: BendBook,
    pub brake: BrakeOf,
    /// Length and width of the sheets on the rack.
    pub stock: Vec<[f64; 2]>,
}

/// The shop as a frame sees it.
#[derive(Clone, Debug)]
pub struct FrameShop {
    pub sheet: SheetShop,
    pub saw: SawFacts,
    pub sections: Vec<Named>,
}

/// A section of the shop's own; none where it could not be read.
#[derive(Clone, Debug)]
pub struct Named {
    pub name: String,
    pub section: Option<Section>,
}

/// A job's settings, read.
#[derive(Clone, Debug)]
pub struct Shop {
    pub frame: FrameShop,
    pub bars: Vec<Bars>,
    pub faults: Vec<LineFault>,
}

impl Shop {
    pub fn of(told: &Settings) -> Self {
        let of_sheet = &told.frame.sheet;
        let figures = FigureTable::new(of_sheet.figures, of_sheet.display.length);
        let mut reader = Reader::new(&figures, of_sheet.display);
        let stock = bars::sheets(&mut reader, of_sheet.stock);
        let materials = materials::read(&mut reader, of_sheet.materials);
        let bends = bends::read(&mut reader, of_sheet.bend_table, of_sheet.test_bends, &materials);
        let brake = brake::read(&mut reader, of_sheet.brake);
        let saw = SawFacts::read(&mut reader, told.frame.saw);
        let sections = sections::read(&mut reader, told.frame.sections);
        let bars = bars::bars(&mut reader, told.bars);
        let faults = reader.tell.settled(|_, _| None);
        let sheet = SheetShop {
            display: of_sheet.display,
            light: of_sheet.light,
            materials,
            bend_rule: of_sheet.bend_rule.clone(),
            bends,
            brake,
            stock,
            figures,
        };
        Shop { frame: FrameShop { sheet, saw, sections }, bars, faults }
    }

    /// As a piece of sheet sees it.
    pub fn sheet(&self) -> &SheetShop {
        &self.frame.sheet
    }
}
