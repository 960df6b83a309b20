//! The saw, the bars on the rack, and sections of the shop's own.

use serde::{Deserialize, Serialize};

said! {
    /// The saw, for lists and bar plans. Empty values take the usual ones.
    pub struct Saw {
        /// Step that its angles are set in, 0.5° where empty.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub angle_step: String,
        /// Step that lengths are told in; empty for none but the fraction of an inch that the job prints.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub length_step: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub kerf: String,
        /// Taken off each end of a new bar.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub trim: String,
        /// Furthest off square that it swings, 60° where empty.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub most: String,
        /// Shorter offcuts are scrap.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub offcut: String,
    }
}

said! {
    /// Bars that can be had: new ones, or offcuts on the rack.
    pub struct StockBar {
        /// Empty for every section.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub section: String,
        pub length: String,
        /// How many there are; empty for as many as needed.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub count: String,
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub offcut: bool,
    }
}

said! {
    /// A section of the shop's own: an outline told by its corners.
    pub struct OwnSection {
        pub name: String,
        /// Across and up, in turn, counter-clockwise.
        pub points: Vec<[String; 2]>,
        /// Inner outline of a hollow section.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub bore: Vec<[String; 2]>,
    }
}
