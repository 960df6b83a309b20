//! A piece as it is said and stored. Values are kept as typed.

use std::collections::BTreeMap;

use ground::quantity::Display;
use ground::{said, word};
use serde::{Deserialize, Serialize};
use shop::BendRule;

use crate::origin::Origin;
use crate::tracing::Tracing;
use crate::verbs::Operation;

word! {
    /// The rolling direction in the flat.
    pub enum Rolling {
        /// Bends count as across it.
        #[default]
        Unknown,
        /// West to east.
        East,
        /// South to north.
        North,
    }
}

word! {
    /// Which of a pair of mirrored pieces it is.
    pub enum Hand {
        #[default]
        None,
        Left,
        Right,
    }
}

impl Hand {
    pub fn is_none(&self) -> bool {
        *self == Hand::None
    }

    pub fn said(self) -> &'static str {
        match self {
            Hand::None => "",
            Hand::Left => "left",
            Hand::Right => "right",
        }
    }
}

impl Rolling {
    pub fn is_unknown(&self) -> bool {
        *self == Rolling::Unknown
    }
}

said! {
    /// A piece of sheet.
    pub struct Piece {
        /// Never changes once given; marks may.
        pub id: String,
        pub mark: String,
        pub name: String,
        pub quantity: String,
        /// Id of a material of the shop book.
        pub material: String,
        /// A length or a gauge (`16 ga`).
        pub thickness: String,
        /// Usual inside bend radius; empty means the smallest the material allows.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub radius: String,
        /// Where this piece departs from the job's unit.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub display: Option<Display>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub bend_rule: Option<BendRule>,
        /// Which way the sheet was rolled, lying as its flat does; smallest radii are larger for bends along
        /// it.
        #[serde(default, skip_serializing_if = "Rolling::is_unknown")]
        pub rolling: Rolling,
        /// Which of a pair it is; the list says so.
        #[serde(default, skip_serializing_if = "Hand::is_none")]
        pub hand: Hand,
        /// What is done to its surface, such as `galvanised`; the list says so.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub finish: String,
        /// The assembly that it goes into: the mark of a frame, or any name; lists are grouped by it.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        pub assembly: String,
        /// Names of bends in the order they are made, as far as a hand has set it; the rest follows as
        /// proposed.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        pub bend_order: Vec<String>,
        /// The drawing that it was brought in from. A text does not tell it.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub origin: Option<Origin>,
        /// The picture that it was traced from. A text does not tell it.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pub tracing: Option<Tracing>,
        #[serde(default)]
        pub lines: Vec<Line>,
        /// The highest number given to an id of a line, by stem: none is given twice.
        #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
        pub issued: BTreeMap<String, u32>,
    }
}

/// One spoken line of a recipe.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct Line {
    /// The stem of every name this line makes; never changes once given.
    pub id: String,
    /// Switched off: kept, but not carried out.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub off: bool,
    /// A remark that stays with the line.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
    /// The name of a group that begins with this line and goes on to the next that begins one.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub group: String,
    pub say: Operation,
}

impl Line {
    pub fn new(id: impl Into<String>, say: Operation) -> Self {
        Line { id: id.into(), off: false, note: String::new(), group: String::new(), say }
    }
}

impl ground::lines::TellsLine for Line {
    fn id(&self) -> &str {
        &self.id
    }

    fn is_off(&self) -> bool {
        self.off
    }
}
