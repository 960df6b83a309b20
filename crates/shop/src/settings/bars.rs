//! Sheets and bars on the rack, or to be bought.

use ground::reader::{Range, Reader};
use ground::said;

said! {
    /// A sheet size that flat patterns must fit.
    pub struct StockSheet {
        pub length: String,
        pub width: String,
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

/// Bars of one length: for one section, or for every one.
#[derive(Clone, Debug, PartialEq)]
pub struct Bars {
    /// In small letters; empty for every section.
    pub section: String,
    /// mm.
    pub length: f64,
    /// None for as many as needed.
    pub count: Option<usize>,
    pub offcut: bool,
}

/// Lengths of bars that are read.
const MOST_BARS: usize = 200;

/// Sheets by length and width, mm.
pub fn sheets(reader: &mut Reader, told: &[StockSheet]) -> Vec<[f64; 2]> {
    let mut out = Vec::new();
    for (i, s) in told.iter().enumerate() {
        let length = reader.length(&format!("/stock/{i}/length"), &s.length, Range::AboveZero);
        let width = reader.length(&format!("/stock/{i}/width"), &s.width, Range::AboveZero);
        if let (Some(l), Some(w)) = (length, width) {
            out.push([l.max(w), l.min(w)]);
        }
    }
    out
}

pub fn bars(reader: &mut Reader, told: &[StockBar]) -> Vec<Bars> {
    let mut out = Vec::new();
    for (i, b) in told.iter().enumerate().take(MOST_BARS) {
        let length = reader.length(&format!("/bars/{i}/length"), &b.length, Range::AboveZero);
        let count = if b.count.trim().is_empty() {
            Some(None)
        } else {
            reader.count(&format!("/bars/{i}/count"), &b.count, 0, 100_000).map(Some)
        };
        if let (Some(length), Some(count)) = (length, count) {
            // An offcut without a number is one.
            let count = if b.offcut { Some(count.unwrap_or(1)) } else { count };
            out.push(Bars { section: b.section.trim().to_lowercase(), length, count, offcut: b.offcut });
        }
    }
    out
}
