//! `corners`: how neighbouring folds meet at the corners of the panel between them.

use grammar::*;
use ground::reader::{Range, Reader};
use shop::limits;

use crate::choices::{Close, CornerRelief};
use crate::flat::folds::{Closing, CornerTreatment, Tree};
use crate::flat::spec::{Panels, Spec, Spoken, Turn};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "corner",
    stem: "corner",
    about: "Closes the corners between neighbouring folds: edge to edge, lapped or open, with a gap and a \
        relief.",
    role: Role::Bend,
    starts: &[Start {
        key: 'c',
        name: "corners",
        mm: "corners edge, round relief",
        inch: "corners edge, round relief",
    }],
    offers: &[],
    sentence: &[
        verb("Close the corners|corners"),
        names_or("/at", "corners", Kind::Corner, "all"),
        aloud("between folds"),
        Pick::new("/close", "how corners close", CLOSE).lacks().part(),
        clause(&[word("with a gap of|gap"), length_or("/gap", "gap", "usual")]),
        RELIEF,
    ],
    examples: &["corners edge, gap 0.5, round relief", "corners north-east open, square relief 6"],
};

pub const CLOSE: &[(&str, &str)] = &[
    ("edge", "edge to edge|edge"),
    ("lap_before", "the first over the second|first over second|before"),
    ("lap_after", "the second over the first|second over first|after"),
    ("open", "open"),
];

pub const RELIEF: Part = clause(&[
    pick(
        "/relief",
        "corner relief",
        &[
            ("none", "no relief"),
            ("round", "with a round relief|round relief|relief round"),
            ("square", "with a square relief|square relief|relief square"),
            ("slot", "with a slot relief|slot relief|relief slot"),
        ],
    ),
    Clause::new(&[length_or("/relief_size", "relief size", "usual")])
        .close()
        .shown(When::Is("/relief", &["round", "square", "slot"]))
        .part(),
]);

spoken! {
    /// How neighbouring folds meet at corners of the panel between them.
    pub struct Corner {
        /// Names of corners: `north-east`, or the two edges with a stroke between; empty means every corner
        /// between two folds.
        #[serde(skip_serializing_if = "Vec::is_empty")]
        pub at: Vec<String>,
        pub close: Close,
        /// Empty means the usual.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub gap: String,
        pub relief: CornerRelief,
        /// Side, diameter or slot width; empty means what the rules want.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub relief_size: String,
    }
}

/// Corners and how the folds meet there, read. No corner named means all.
pub struct CornerSpec {
    pub at: Vec<String>,
    pub how: Closing,
}

impl Spoken for Corner {
    fn read(&self, reader: &mut Reader, stock: &SheetStock) -> Option<Spec> {
        let how = read_closing(reader, stock, self.close, &self.gap, self.relief, &self.relief_size)?;
        Some(Spec::Panels(Box::new(CornerSpec { at: self.at.clone(), how })))
    }
}

/// How folds meet, told by fields of these names.
pub fn read_closing(
    reader: &mut Reader,
    stock: &SheetStock,
    close: Close,
    gap: &str,
    relief: CornerRelief,
    relief_size: &str,
) -> Option<Closing> {
    let gap = reader.length_or("/say/gap", gap, Range::ZeroUp, limits::corner_gap(stock.t).value);
    let size = reader.length_or("/say/relief_size", relief_size, Range::AboveZero, 0.0);
    Some(Closing { close, gap: gap?, relief, relief_size: size? })
}

impl Panels for CornerSpec {
    fn hang(&self, turn: &mut Turn, tree: &mut Tree) -> Option<()> {
        let (line, index) = (turn.at.line.to_string(), turn.at.index);
        tree.closings.push(CornerTreatment { line, index, at: self.at.clone(), how: self.how });
        Some(())
    }
}
