//! What a layer is for, by its name.

use steelk_core::job::LayerUse;

use crate::layers::{BEND_DOWN, BEND_UP, DRAWN};

/// Words in the names of layers that are not cut. Common practice; what is taken from them is told.
const MARKS: [&str; 15] = [
    "MARKS",
    "MARK",
    "ENGRAVE",
    "ETCH",
    "TEXT",
    "DIM",
    "DIMS",
    "DIMENSIONS",
    "CENTER",
    "CENTRE",
    "CONSTRUCTION",
    "BORDER",
    "TITLE",
    "NOTES",
    "DEFPOINTS",
];

/// By its name, whole words of it: ours, and those that drawing offices use.
pub fn usual_use(layer: &str) -> LayerUse {
    let upper = layer.to_uppercase();
    match &*upper {
        BEND_UP => return LayerUse::FoldUp,
        BEND_DOWN => return LayerUse::FoldDown,
        _ => {}
    }
    let words: Vec<&str> = upper.split(|c: char| !c.is_alphanumeric()).collect();
    let has = |all: &[&str]| words.iter().any(|w| all.contains(w));
    if has(&["BEND", "BENDS", "FOLD", "FOLDS", "BENDLINE", "BENDLINES"]) {
        if has(&["DOWN", "DN"]) { LayerUse::FoldDown } else { LayerUse::FoldUp }
    } else if has(&MARKS) || DRAWN.contains(&&*upper) {
        LayerUse::Out
    } else {
        LayerUse::Cut
    }
}
