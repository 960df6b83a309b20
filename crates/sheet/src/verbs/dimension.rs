//! `dimension`: a size on the flat between two things, kept with the piece.

use grammar::*;
use ground::reader::Reader;
use ground::word;

use crate::flat::kept::KeptSpec;
use crate::flat::spec::{Spec, Spoken};
use crate::flat::stock::SheetStock;

pub static VERB: Verb = Verb {
    tag: "dimension",
    stem: "dimension",
    about: "A size on the flat between two things: edges, corners, bends, holes. It is kept on the view, and \
        on the drawing in brackets, and follows the piece; it changes nothing.",
    role: Role::Other,
    starts: &[Start {
        key: 'o',
        name: "dimension",
        mm: "dimension $edge to $cut",
        inch: "dimension $edge to $cut",
    }],
    offers: &[],
    sentence: &[
        verb("Dimension|dimension"),
        name("/from", "what it is told from", Kind::Spot),
        word("to"),
        name("/to", "what it runs to", Kind::Spot),
        clause_when(
            When::Told("/way"),
            &[Pick::new(
                "/way",
                "direction",
                &[("straight", "straight across|straight"), ("east", "along east"), ("north", "along north")],
            )
            .quiet()
            .part()],
        ),
    ],
    examples: &["dimension start-1.west to punch-1", "dimension north-east to punch-1, along north"],
};

word! {
    /// Which way a dimension runs.
    pub enum Run {
        /// The shortest.
        #[default]
        Straight,
        East,
        North,
    }
}

impl Run {
    pub fn is_straight(&self) -> bool {
        *self == Run::Straight
    }
}

spoken! {
    /// A size on the flat that is kept with the piece.
    pub struct KeptDimension {
        /// An edge, a corner, a bend or a hole by its name.
        pub from: String,
        pub to: String,
        #[serde(skip_serializing_if = "Run::is_straight")]
        pub way: Run,
    }
}

impl Spoken for KeptDimension {
    fn read(&self, reader: &mut Reader, _: &SheetStock) -> Option<Spec> {
        let mut named = |path: &str, name: &str| {
            let name = name.trim().to_string();
            if name.is_empty() {
                reader.refuse_at(
                    path,
                    "nothing is picked",
                    "pick an edge, a corner, a bend or a hole, or click two of them on the flat",
                );
            }
            (!name.is_empty()).then_some(name)
        };
        let (from, to) = (named("/say/from", &self.from), named("/say/to", &self.to));
        let along = match self.way {
            Run::Straight => None,
            Run::East => Some(0),
            Run::North => Some(1),
        };
        Some(Spec::Kept(KeptSpec { from: from?, to: to?, along }))
    }
}
