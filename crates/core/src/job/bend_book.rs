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
        /// By how much the bend opens when it comes out of the tools: told, it is added to the angle to aim
        /// at.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub springback: String,
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
        #[serde(default, skip_serializing_if = "BrakeTools::is_usual")]
        pub tools: BrakeTools,
    }
}

said! {
    /// Its tools by a few figures each; empty for the usual ones.
    pub struct BrakeTools {
        /// From the tip of the punch to the beam, with its holder.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub punch_height: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub punch_thickness: String,
        /// Included angle of the punch.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub punch_angle: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub beam_thickness: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub die_height: String,
        /// Included angle of the V.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub die_angle: String,
        /// Width of the die beside its V, on either side.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub die_shoulder: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub bed_thickness: String,
        /// Height of the stop's face above the die.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub stop_height: String,
        /// The furthest that the stop stands from the middle of the V.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub stop_reach: String,
        /// What of a bend may stay without punch at either end.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub unsupported: String,
    }
}

impl BrakeTools {
    fn is_usual(&self) -> bool {
        *self == BrakeTools::default()
    }
}
