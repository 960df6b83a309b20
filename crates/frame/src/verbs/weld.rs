//! `weld`: welds at nodes, where the usual fillet is not meant.

use grammar::*;

pub static VERB: Verb = Verb {
    tag: "weld",
    stem: "weld",
    about: "Welds at nodes, or everywhere, where the usual fillet is not meant.",
    role: Role::Other,
    starts: &[Start { key: 'w', name: "weld", mm: "weld fillet", inch: "weld fillet" }],
    offers: &[],
    sentence: &[
        verb("Weld|weld"),
        row_or("/at", "nodes", Kind::Node, "everywhere"),
        pick("/kind", "kind", &[("fillet", "fillet"), ("butt", "butt weld|butt")]),
        Slot::new("/size", "size", Kind::Length).empty("smallest by rule").part(),
    ],
    examples: &["weld A B fillet 4", "weld butt"],
};

word! {
    pub enum WeldKind {
        #[default]
        Fillet,
        Butt,
    }
}

impl WeldKind {
    pub fn said(self) -> &'static str {
        match self {
            WeldKind::Fillet => "fillet",
            WeldKind::Butt => "butt",
        }
    }
}

spoken! {
    /// Welds at these nodes, where the usual fillet is not meant.
    pub struct WeldSaid {
        /// Empty for all.
        pub at: Vec<String>,
        pub kind: WeldKind,
        /// Leg of a fillet; empty for the smallest that the rule allows.
        #[serde(skip_serializing_if = "String::is_empty")]
        pub size: String,
    }
}
