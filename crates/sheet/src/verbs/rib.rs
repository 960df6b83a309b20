//! `rib`: a stiffening rib pressed into a bend from the outside, or a bead along a panel. The blank keeps its
//! size.

use super::bending::{Direction, UP_DOWN};
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "rib",
    stem: "rib",
    about: "A stiffening rib pressed into a bend from the outside, or a bead along a panel.",
    role: Role::Cut,
    starts: &[Start {
        key: 'i',
        name: "rib",
        mm: "rib $bend 15 deep, 9 wide, at 30, 50 long",
        inch: "rib $bend 5/8 deep, 3/8 wide, at 1, 2 long",
    }],
    offers: &[
        Offer {
            on: "bend",
            words: "Press a stiffening rib into it",
            mm: "rib $this 15 deep, 9 wide, at 30",
            inch: "rib $this 5/8 deep, 3/8 wide, at 1",
        },
        Offer {
            on: "zone",
            words: "Press a bead along it",
            mm: "rib $this 3 deep, 9 wide, at 30, 50 long",
            inch: "rib $this 1/8 deep, 3/8 wide, at 1, 2 long",
        },
    ],
    sentence: &[
        verb("Press a rib on|rib|rib on"),
        name("/on", "bend or panel", Kind::Zone),
        quiet("/shape", "shape of the rib", &[("round", "round"), ("flat", "flat-topped|flat")]),
        must(&[length("/depth", "depth"), word("deep")]),
        also(&[word("deep|depth"), length("/depth", "depth")]),
        must(&[length("/width", "width"), word("wide")]),
        also(&[word("wide"), length("/width", "width")]),
        must(&[
            word("at"),
            length("/offset", "offset"),
            quiet(
                "/from",
                "end of the bend",
                &[
                    ("left", "from its left end or its fold|from left"),
                    ("right", "from its right end|from right"),
                    ("west", "from its west end|from west"),
                    ("east", "from its east end|from east"),
                    ("south", "from its south end|from south"),
                    ("north", "from its north end|from north"),
                ],
            ),
        ]),
        clause(&[length_or("/length", "length", "as the bend needs"), word("long")]),
        also(&[word("long"), length("/length", "length")]),
        clause(&[pick("/direction", "side", UP_DOWN)]),
        clause(&[word("draft"), angle_or("/draft", "draft", "none")]),
        clause(&[
            word("corners inside|inner"),
            radius_or("/inner_radius", "inner corner radius", "as thick"),
        ]),
        clause(&[word("outside|outer"), radius_or("/outer_radius", "outer corner radius", "as thick")]),
    ],
    examples: &[
        "rib fold-1.north.bend, 15 deep, 8 wide, at 30 from west",
        "rib panel flat, 3 deep, 16 wide, at 90, 200 long, down",
    ],
};

word! {
    /// The end of its bend that a rib is told from. Left and right are seen from the panel that the bend
    /// folds away from; the others are the flat's, whichever way the bend is made.
    pub enum RibEnd {
        #[default]
        Left,
        Right,
        West,
        East,
        South,
        North,
    }
}

impl RibEnd {
    pub fn is_left(&self) -> bool {
        *self == RibEnd::Left
    }
}

word! {
    pub enum RibShape {
        #[default]
        Round,
        Flat,
    }
}

spoken! {
    /// A stiffening rib pressed into a bend from the outside, or a bead along a panel. The blank keeps its
    /// size.
    pub struct Rib {
        /// Name of a bend; or of a panel, for a bead along it.
        pub on: String,
        pub shape: RibShape,
        /// How deep it is pressed; for a rib, from the virtual sharp along each leg.
        pub depth: String,
        pub width: String,
        /// For a rib: from an end of the bend to its middle. For a bead: from the south or fold side.
        pub offset: String,
        /// For a rib: which end.
        #[serde(skip_serializing_if = "RibEnd::is_left")]
        pub from: RibEnd,
        /// For a bead: its length, in the middle of the panel.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub length: String,
        /// For a bead: the side it stands out on. A rib stands into its bend.
        pub direction: Direction,
        /// Slope of its sides off square; empty means none.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub draft: String,
        /// Radii of its inner and outer corners; empty means the thickness.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub inner_radius: String,
        #[serde(skip_serializing_if = "String::is_empty")]
        pub outer_radius: String,
    }
}
