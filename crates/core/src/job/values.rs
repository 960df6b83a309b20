//! Which fields hold values, that figures may stand in.

use std::collections::HashSet;
use std::sync::LazyLock;

use brief::verbs::BRIEF;
use frame::verbs::FRAME;
use grammar::{Bench, value_fields};
use serde_json::Value;
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

/// Every text of a document with its JSON pointer, and whether it may be a value: the pointer, the field's
/// name, the text.
pub fn texts(doc: &Value, at: &str, see: &mut impl FnMut(&str, &str, &str, bool)) {
    let name = at.rsplit('/').next().unwrap_or_default();
    walk(doc, ("", name), &mut at.to_string(), see);
}

/// `field` is the verb that it is said by, and its name.
fn walk(value: &Value, field: (&str, &str), at: &mut String, see: &mut impl FnMut(&str, &str, &str, bool)) {
    let mut within = |step: &str, field: (&str, &str), value: &Value| {
        let length = at.len();
        at.push('/');
        at.push_str(&step.replace('~', "~0").replace('/', "~1"));
        walk(value, field, at, see);
        at.truncate(length);
    };
    match value {
        Value::Array(list) => list.iter().enumerate().for_each(|(k, v)| within(&k.to_string(), field, v)),
        Value::Object(map) => {
            let verb = map.get("verb").and_then(Value::as_str).unwrap_or(field.0);
            map.iter().for_each(|(k, v)| within(k, (verb, k), v));
        }
        Value::String(text) => see(at, field.1, text, holds_value(field.0, field.1)),
        _ => {}
    }
}

/// Those that are a value of a verb nevertheless.
static VALUES: LazyLock<HashSet<(&str, &str)>> = LazyLock::new(|| {
    let benches: [&'static Bench; 3] = [&PIECE, &FRAME, &BRIEF];
    let verbs = benches.into_iter().flat_map(|b| &b.verbs).map(|ready| ready.verb);
    let fields = verbs.flat_map(|v| value_fields(v.sentence).into_iter().map(|field| (v.tag, field)));
    fields.filter(|(_, field)| WORDS.contains(field)).collect()
});

/// Whether the text of a field of this name may be a value; `verb` is the one that it is said by.
fn holds_value(verb: &str, field: &str) -> bool {
    !WORDS.contains(&field) || VALUES.contains(&(verb, field))
}
