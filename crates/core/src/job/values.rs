//! Which fields hold values, that figures may stand in.

use std::collections::HashSet;
use std::sync::LazyLock;

use brief::verbs::BRIEF;
use frame::verbs::FRAME;
use grammar::{Bench, value_fields};
use sheet::verbs::PIECE;

/// Fields that hold words, ids or names of other things, but where a verb tells a value in one so called.
const WORDS: [&str; 58] = [
    "about",
    "along",
    "around",
    "assembly",
    "bend_order",
    "between",
    "bottom",
    "cells",
    "columns",
    "corners",
    "customer",
    "edge",
    "edges",
    "end_profile",
    "first",
    "fit",
    "from",
    "group",
    "id",
    "is",
    "issued",
    "kind",
    "label",
    "last",
    "level_with",
    "line",
    "mark",
    "material",
    "meets",
    "member",
    "members",
    "name",
    "nodes",
    "note",
    "number",
    "of",
    "on",
    "one",
    "open",
    "other",
    "parallel_to",
    "path",
    "piece",
    "plumb_with",
    "profile",
    "screw",
    "section",
    "side",
    "sides",
    "stays",
    "test",
    "thread",
    "title",
    "to",
    "verb",
    "what",
    "who",
    "with",
];

/// Those that are a value of a verb nevertheless.
static VALUES: LazyLock<HashSet<(&str, &str)>> = LazyLock::new(|| {
    let benches: [&'static Bench; 3] = [&PIECE, &FRAME, &BRIEF];
    let verbs = benches.into_iter().flat_map(|b| &b.verbs).map(|ready| ready.verb);
    let fields = verbs.flat_map(|v| value_fields(v.sentence).into_iter().map(|field| (v.tag, field)));
    fields.filter(|(_, field)| WORDS.contains(field)).collect()
});

/// Whether the text of a field of this name may be a value; `verb` is the one that it is said by.
pub fn holds_value(verb: &str, field: &str) -> bool {
    !WORDS.contains(&field) || VALUES.contains(&(verb, field))
}
