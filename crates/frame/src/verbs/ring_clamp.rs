//! `clamp`: a ring that clamps a round member: split, with two ears and a cross bolt.

use super::cap::THICK;
use super::hole::FROM_START;
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "ring_clamp",
    stem: "clamp",
    about: "A ring that clamps a round member: split, with two ears and a cross bolt.",
    role: Role::Other,
    starts: &[Start {
        key: 'o',
        name: "clamp ring",
        mm: "clamp on $member, 100 from its start, outside ⌀70, 30 wide, split 6, ears 30 long, 8 thick, bolt ⌀9",
        inch: "clamp on $member, 4 from its start, outside ⌀3, 1 1/4 wide, split 1/4, ears 1 1/4 long, 5/16 thick, bolt ⌀3/8",
    }],
    offers: &[],
    sentence: &[
        verb("Clamp ring|clamp"),
        printed("on|on|round"),
        name("/member", "member", Kind::Member),
        FROM_START,
        must(&[word("outside"), diameter("/outside", "outside")]),
        must(&[length("/width", "width"), word("wide")]),
        also(&[word("wide"), length("/width", "width")]),
        clause(&[word("clearance"), length_or("/clearance", "clearance", "none")]),
        must(&[word("split"), length("/split", "split")]),
        must(&[word("ears|ears|ear"), length("/ear", "ear"), printed("long")]),
        clause(&[word("ears|ears|ear"), length_or("/ear_width", "ear width", "as the ring"), word("wide")]),
        THICK,
        must(&[
            word("bolt hole|bolt"),
            diameter("/bolt", "bolt hole"),
            Clause::new(&[
                word("at"),
                length_or("/bolt_at", "bolt from the ring", "the middle"),
                aloud("from the ring"),
            ])
            .close()
            .part(),
        ]),
    ],
    examples: &[
        "clamp on post-1, 300 from its start, outside ⌀63.5, 30 wide, split 5, ears 28 long, 8 thick, bolt \
         ⌀9",
    ],
};

spoken! {
    /// A ring that clamps a round member: split, with two ears and a cross bolt.
    pub struct RingSaid {
        pub member: String,
        pub at: String,
        /// Outside diameter of the tube it is cut from.
        pub outside: String,
        pub width: String,
        /// Of the bore around the member.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub clearance: String,
        /// Of the split.
        pub split: String,
        /// How far the ears stand out of the ring.
        pub ear: String,
        /// Of the ears along the member; empty for as wide as the ring.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub ear_width: String,
        pub thickness: String,
        pub bolt: String,
        /// From the ring to the middle of the bolt; empty for the middle of the ear.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub bolt_at: String,
    }
}
