//! `stack`: blocks and plates stacked on a point.

use grammar::*;

pub static VERB: Verb = Verb {
    tag: "stack",
    stem: "stack",
    about: "Blocks and plates stacked on a point: pads, shims.",
    role: Role::Other,
    starts: &[Start {
        key: 'k',
        name: "stack",
        mm: "stack on $node: 100 x 100 x 20",
        inch: "stack on $node: 4 x 4 x 3/4",
    }],
    offers: &[],
    sentence: &[
        verb("Stack|stack"),
        printed("on"),
        name("/at", "node", Kind::Node),
        sign(":"),
        Part::List(List {
            path: "/blocks",
            label: "block",
            item: &[
                Slot::new("/name", "block {n} name", Kind::Word).usual("block").part(),
                length("/length", "block {n} east"),
                word("×|x|by"),
                length("/width", "block {n} north"),
                word("×|x|by"),
                length("/height", "block {n} up"),
            ],
            lead: "",
            between: ",",
            ids: Ids::None,
            least: 1,
            adds: &[("block", "100 x 100 x 20", "4 x 4 x 3/4")],
            chain: false,
        }),
    ],
    examples: &["stack on B: 100 x 80 x 20, shim 60 x 60 x 5"],
};

spoken! {
    /// Blocks and plates stacked on a point.
    pub struct StackSaid {
        pub at: String,
        pub blocks: Vec<Block>,
    }
}

fn block() -> String {
    "block".into()
}

spoken! {
    pub struct Block {
        #[serde(default = "block")]
        pub name: String,
        /// East.
        pub length: String,
        /// North.
        pub width: String,
        pub height: String,
    }
}
