//! Small things of a typed line: signs before values, direction words, names of items, and where a value is
//! stored.

use serde_json::{Map, Value};

use super::scan::Scan;

/// Writes a value at a path whose parts are made as they are needed; numbers are places in lists.
pub fn put(at: &mut Value, path: &str, value: Value) {
    let mut here = at;
    for key in path.split('/').skip(1) {
        here = match key.parse::<usize>() {
            Ok(i) => {
                if !here.is_array() {
                    *here = Value::Array(Vec::new());
                }
                let Value::Array(list) = here else { return };
                while list.len() <= i {
                    list.push(Value::Null);
                }
                &mut list[i]
            }
            Err(_) => {
                if !here.is_object() {
                    *here = Value::Object(Map::new());
                }
                let Value::Object(map) = here else { return };
                map.entry(key.to_string()).or_insert(Value::Null)
            }
        };
    }
    *here = value;
}

/// A direction word: whether it is the one that runs forward.
pub fn way(at: &mut Scan, plus: &str, minus: &str) -> Option<bool> {
    if at.any_of(plus) { Some(true) } else { at.any_of(minus).then_some(false) }
}

/// `16 ga`, as it stands.
pub fn gauge(at: &mut Scan) -> Option<String> {
    let mut next = *at;
    next.skip();
    let from = next.at;
    next.at += next.rest().bytes().take_while(u8::is_ascii_digit).count();
    let found = next.at > from && (next.words("ga") || next.words("gauge"));
    found.then(|| {
        at.at = next.at;
        at.text[from..next.at].to_string()
    })
}

/// `R`, `⌀` or another sign right before a value.
pub fn sign(at: &mut Scan, sign: &str) -> bool {
    if sign == "R" {
        let mut next = *at;
        next.skip();
        let rest = next.rest();
        let follows = |c: char| c.is_ascii_digit() || matches!(c, ' ' | '.' | '(' | '"');
        if rest.starts_with(['R', 'r']) && rest[1..].starts_with(follows) {
            at.at = next.at + 1;
            return true;
        }
        return at.words("radius");
    }
    let ways: &[&str] = if sign == "⌀" { &["⌀", "ø", "Ø"] } else { &[sign] };
    ways.iter().any(|w| at.sign(w)) || (sign == "⌀" && (at.words("dia") || at.words("diameter")))
}

/// The name of an item: letters, digits, `-` and `_`, beginning with any of them.
pub fn item_name(at: &mut Scan) -> Option<String> {
    at.skip();
    let rest = at.rest();
    let n = rest
        .char_indices()
        .find(|(_, c)| !(c.is_alphanumeric() || matches!(c, '-' | '_')))
        .map_or(rest.len(), |(i, _)| i);
    at.at += n;
    (n > 0).then(|| rest[..n].to_string())
}

pub fn is_plain_number(text: &str) -> bool {
    let digits = |s: &str| s.bytes().all(|b| b.is_ascii_digit());
    match text.split_once('.') {
        Some((a, b)) => !a.is_empty() && !b.is_empty() && digits(a) && digits(b),
        None => !text.is_empty() && digits(text),
    }
}

/// A label without the place of an item: `length of {id}` is a length.
pub fn plain_label(label: &str) -> String {
    match (label.find(" of "), label.find('{')) {
        (Some(of), Some(item)) if of < item => label[..of].to_string(),
        _ => label.replace(" {n}", "").replace(" {id}", ""),
    }
}
