//! `mirror`: the same cuts on the other side of a midplane, an edge or a bend.

use super::place::flat;
use super::repeat::Axis;
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "mirror",
    stem: "mirror",
    about: "The same cuts on the other side of the middle of a panel, or of an edge or a bend.",
    role: Role::Cut,
    starts: &[Start { key: 'm', name: "mirror", mm: "mirror $cut, east", inch: "mirror $cut, east" }],
    offers: &[
        Offer {
            on: "hole",
            words: "Mirror {} west to east",
            mm: "mirror $this, east",
            inch: "mirror $this, east",
        },
        Offer {
            on: "hole",
            words: "Mirror {} south to north",
            mm: "mirror $this, north",
            inch: "mirror $this, north",
        },
    ],
    sentence: &[
        verb("Mirror|mirror"),
        names("/of", "cuts mirrored", Kind::Cut),
        sign(","),
        Pick::new(
            "/axis",
            "mirror direction",
            &[("east", "west to east|east"), ("north", "south to north|north")],
        )
        .lacks()
        .part(),
        Clause::new(&[
            word("about|about|across"),
            Slot::new("/about", "mirror about", Kind::About).usual("flat").part(),
        ])
        .part(),
    ],
    examples: &["mirror punch-1, north", "mirror punch-1 and repeat-1, east, about panel"],
};

spoken! {
    /// The same cuts on the other side of a midplane.
    pub struct Mirror {
        pub of: Vec<String>,
        /// The direction that is turned round: `east` swaps west and east. Not used about an edge or a bend.
        pub axis: Axis,
        /// The panel whose middle is the mirror, `flat`, or the name of a straight edge or a bend that is the
        /// mirror itself.
        #[serde(default = "flat")]
        pub about: String,
    }
}
