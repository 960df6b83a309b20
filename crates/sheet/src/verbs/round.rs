//! `round`, `chamfer`, `full round`: takes the point off corners of the outline.

use grammar::*;

pub static VERB: Verb = Verb {
    tag: "round",
    stem: "round",
    about: "Takes the point off corners of the outline: a radius, a chamfer, or a half circle over a whole end.",
    role: Role::Other,
    starts: &[Start { key: 'r', name: "round", mm: "round 5", inch: "round 1/4" }],
    offers: &[
        Offer { on: "edge", words: "Round every sharp outer corner", mm: "round 5", inch: "round 1/4" },
        Offer {
            on: "end",
            words: "Round the whole {} end to a half circle",
            mm: "full round at $this",
            inch: "full round at $this",
        },
        Offer { on: "corner", words: "Round corner {}", mm: "round 5 at $this", inch: "round 1/4 at $this" },
        Offer {
            on: "corner",
            words: "Chamfer corner {}",
            mm: "chamfer 5 at $this",
            inch: "chamfer 1/4 at $this",
        },
        Offer { on: "corner", words: "Round every sharp outer corner", mm: "round 5", inch: "round 1/4" },
    ],
    sentence: &[
        Pick::new(
            "/treatment",
            "treatment",
            &[
                ("radius", "Round|round"),
                ("chamfer", "Chamfer|chamfer"),
                ("full_end", "Round a whole end|full round"),
            ],
        )
        .begins()
        .part(),
        Clause::new(&[Slot::new("/size", "size", Kind::Length).empty("").part()])
            .close()
            .shown(When::IsNot("/treatment", &["full_end"]))
            .part(),
        Clause::new(&[
            printed("at"),
            names_or(
                "/corners",
                "corners",
                Kind::Corner,
                "every sharp outer corner with room|all corners|all",
            ),
        ])
        .close()
        .part(),
    ],
    examples: &["round 5", "chamfer 5 at north-east and south-west", "full round at west"],
};

word! {
    pub enum Treatment {
        #[default]
        Radius,
        Chamfer,
        /// A half circle over the whole end.
        FullEnd,
    }
}

spoken! {
    /// Takes the point off corners of the outline.
    pub struct Round {
        pub treatment: Treatment,
        /// Radius, or chamfer length along each side; not used for a full round end.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub size: String,
        /// Corner names (`north-east`, …), or for a full end the edge (`west`). Empty means every sharp outer
        /// corner.
        #[serde(skip_serializing_if = "Vec::is_empty")]
        pub corners: Vec<String>,
    }
}
