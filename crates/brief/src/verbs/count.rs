//! `count of bends up 2`: how many there are.

use grammar::*;
use ground::reader::Reader;

use super::{Look, Quantity, Reading, Spoken, Standing, Wanted};
use crate::model::{Thing, ThingKind};

pub static VERB: Verb = Verb {
    tag: "count",
    stem: "count",
    about: "How many bends, holes, members or plates there are, and how many of the whole are made.",
    role: Role::Other,
    starts: &[Start { key: 'n', name: "count", mm: "count of bends 2", inch: "count of bends 2" }],
    offers: &[],
    sentence: &[
        verb("Count of|count of|count|number of"),
        pick(
            "/what",
            "what is counted",
            &[
                ("bends", "bends"),
                ("bends_up", "bends up"),
                ("bends_down", "bends down"),
                ("holes", "holes"),
                ("members", "members"),
                ("plates", "plates"),
                ("pieces", "pieces to make|pieces"),
            ],
        ),
        count("/value", "count"),
    ],
    examples: &["count of bends up 2", "count of holes 12", "count of pieces 4"],
};

word! {
    pub enum Counted {
        #[default]
        Bends,
        BendsUp,
        BendsDown,
        Holes,
        Members,
        Plates,
        /// How many of the whole the job makes.
        Pieces,
    }
}

spoken! {
    /// How many there are.
    pub struct CountFigure {
        pub what: Counted,
        pub value: String,
    }
}

struct CountSpec {
    what: Counted,
    value: usize,
}

impl Spoken for CountFigure {
    fn read(&self, reader: &mut Reader) -> Option<Box<dyn Wanted>> {
        let value = reader.count("/say/value", &self.value, 0, 1_000_000)?;
        Some(Box::new(CountSpec { what: self.what, value }))
    }
}

impl Wanted for CountSpec {
    fn look(&self, at: &Standing) -> Vec<Look> {
        let of = |kind, fits: &dyn Fn(&Thing) -> bool| -> (usize, Vec<String>) {
            let names: Vec<String> =
                at.model.of_kind(kind).filter(|t| fits(t)).map(|t| t.name.clone()).collect();
            (names.len(), names)
        };
        let up = |t: &Thing| t.bent.is_some_and(|b| b.up);
        let (n, names) = match self.what {
            Counted::Bends => of(ThingKind::Bend, &|_| true),
            Counted::BendsUp => of(ThingKind::Bend, &up),
            Counted::BendsDown => of(ThingKind::Bend, &|t| !up(t)),
            Counted::Holes => of(ThingKind::Hole, &|_| true),
            Counted::Members => of(ThingKind::Member, &|_| true),
            Counted::Plates => (at.model.plates, Vec::new()),
            Counted::Pieces => (at.model.quantity, Vec::new()),
        };
        let value = self.value as f64;
        vec![Look {
            what: "",
            quantity: Quantity::Count,
            nominal: value,
            limits: Some((value, value)),
            by: String::new(),
            more: ["too many", "too few"],
            reading: Reading::Is(n as f64, names),
        }]
    }
}
