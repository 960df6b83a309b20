//! What the shop knows of its bends, and its brake.

use serde::{Deserialize, Serialize};

word! {
    pub enum TableKind {
        #[default]
        Deduction,
        Allowance,
    }
}

said! {
    /// A row of the shop's bend table.
    pub struct TableRow {
        /// Id of a material; empty means any.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub material: String,
        pub thickness: String,
        /// Inside radius.
        pub radius: String,
        /// Angle swept.
        pub angle: String,
        #[serde(default)]
        pub kind: TableKind,
        pub value: String,
        /// The die it was made over, in words.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub die: String,
    }
}

said! {
    /// A strip of known length, bent once, its legs measured outside.
    pub struct TestStrip {
        pub length: String,
        pub a: String,
        pub b: String,
    }
}

said! {
    /// A test bend, repeated or not.
    pub struct TestBend {
        pub id: String,
        pub material: String,
        pub thickness: String,
        pub radius: String,
        pub angle: String,
        pub strips: Vec<TestStrip>,
        /// Die, date, who.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub note: String,
    }
}

said! {
    /// The shop's press brake.
    pub struct Brake {
        /// Greatest force, kN.
        pub force: String,
        /// Greatest length of bend.
        pub length: String,
        /// V openings of the dies on the rack.
        #[serde(default)]
        pub openings: Vec<String>,
    }
}
