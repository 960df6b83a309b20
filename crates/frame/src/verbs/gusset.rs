//! `gusset`: a triangular plate in the corner between two members.

use super::cap::THICK;
use grammar::*;

pub static VERB: Verb = Verb {
    tag: "gusset",
    stem: "gusset",
    about: "A triangular plate in the corner between two members.",
    role: Role::Other,
    starts: &[Start {
        key: 'g',
        name: "gusset",
        mm: "gusset at $node, legs 100, 6 thick",
        inch: "gusset at $node, legs 4, 1/4 thick",
    }],
    offers: &[],
    sentence: &[
        verb("Gusset|gusset"),
        printed("at"),
        name("/at", "node", Kind::Node),
        Clause::new(&[
            printed("between|between|toward"),
            names_or("/between", "between", Kind::MemberOrNode, "two members"),
        ])
        .close()
        .part(),
        must(&[
            word("legs|legs|leg"),
            length("/leg", "leg"),
            Clause::new(&[word("×|x|by"), length_or("/leg_2", "second leg", "the same")]).close().part(),
        ]),
        THICK,
        clause(&[word("nose"), length_or("/nose", "nose", "none")]),
        clause(&[word("snipe"), length_or("/snipe", "snipe", "none")]),
        clause(&[pick(
            "/place",
            "place",
            &[
                ("middle", "in the middle|in the middle|middle"),
                ("near", "flush on the near side|near side|near"),
                ("far", "flush on the far side|far side|far"),
                ("both", "one on each side|one on each side|both"),
            ],
        )]),
    ],
    examples: &["gusset at B between A and C, legs 100, 6 thick, nose 10, snipe 12"],
};

word! {
    pub enum GussetPlace {
        /// In the middle plane of the two members.
        #[default]
        Middle,
        /// Flush with the side that the plate's face points to.
        Near,
        Far,
        /// One plate on each side.
        Both,
    }
}

spoken! {
    /// A triangular plate in the corner between two members.
    pub struct GussetSaid {
        pub at: String,
        /// The two members whose inner faces it stands on.
        pub between: Vec<String>,
        pub leg: String,
        /// Along the second member; empty for the same.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub leg_2: String,
        pub thickness: String,
        /// Width left at the tips, so that the weld can go round.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub nose: String,
        /// Cut off at the root to clear weld and radius.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub snipe: String,
        pub place: GussetPlace,
    }
}
