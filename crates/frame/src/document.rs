//! A welded frame as it is said and stored: its lines, and how its list is to look. Values are kept as typed.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use ground::quantity::Display;
use ground::said;

use crate::choices::JointHow;
use crate::verbs::FrameOperation;

/// One spoken line of a frame.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct FrameLine {
    /// The stem of every name this line makes; never changes once given.
    pub id: String,
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub off: bool,
    /// A remark that stays with the line.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
    /// The name of a group that begins with this line and goes on to the next that begins one.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub group: String,
    pub say: FrameOperation,
}

impl FrameLine {
    pub fn new(id: impl Into<String>, say: FrameOperation) -> Self {
        FrameLine { id: id.into(), off: false, note: String::new(), group: String::new(), say }
    }
}

impl ground::lines::TellsLine for FrameLine {
    fn id(&self) -> &str {
        &self.id
    }

    fn is_off(&self) -> bool {
        self.off
    }
}

said! {
    /// How a row of the list is called, and its own cells.
    pub struct RowSaid {
        /// Any member or plate of the row.
        pub piece: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub mark: String,
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub name: String,
        /// In the order of the frame's own columns.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub cells: Vec<String>,
    }
}

said! {
    /// A welded frame.
    pub struct Frame {
        /// Never changes once given; marks may.
        pub id: String,
        pub mark: String,
        pub name: String,
        pub quantity: String,
        /// Id of a material of the shop book.
        pub material: String,
        /// The usual section.
        pub section: String,
        /// How two free ends close where no joint is told.
        #[serde(default)]
        pub joint: JointHow,
        /// Usual gap left for the weld.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub gap: String,
        /// The assembly that it goes into; lists are grouped by it.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub assembly: String,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub display: Option<Display>,
        #[serde(default)]
        pub lines: Vec<FrameLine>,
        /// The highest number given to an id of a line, by stem: none is given twice.
        #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
        pub issued: BTreeMap<String, u32>,
        /// Equal members that go by different names are rows of their own in the list.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        pub apart: bool,
        /// Headings of own columns of the list, such as part number.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub columns: Vec<String>,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub rows: Vec<RowSaid>,
    }
}
