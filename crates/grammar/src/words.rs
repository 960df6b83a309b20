//! The words of a sentence: what a bare name in it may not be.

use std::collections::HashSet;

use super::{Part, WordKind, typed};

/// Every word of a sentence: a bare name in a row is none of them.
pub fn words_of(parts: &'static [Part]) -> HashSet<String> {
    let mut out = HashSet::from(["and".to_string()]);
    collect(parts, &mut out);
    out
}

/// The ways in which a line of this sentence begins.
fn beginnings(parts: &'static [Part]) -> Vec<&'static str> {
    match parts.first() {
        Some(Part::Word(w)) => vec![w.words],
        Some(Part::Pick(p)) => p.options.iter().map(|o| o.1).chain([p.other]).collect(),
        Some(Part::Union(u)) => u.cases.iter().map(|c| c.words).collect(),
        _ => Vec::new(),
    }
}

/// The words that a line of this sentence begins with.
pub fn begins(parts: &'static [Part]) -> HashSet<String> {
    let mut out = HashSet::new();
    beginnings(parts).into_iter().for_each(|words| add(words, &mut out));
    out
}

/// The words that are typed first, in their order.
pub fn first_words(parts: &'static [Part]) -> Vec<&'static str> {
    let first = |words| typed(words).split(' ').next().unwrap_or_default();
    beginnings(parts).into_iter().map(first).filter(|w| !w.is_empty()).collect()
}

fn add(words: &str, out: &mut HashSet<String>) {
    for way in words.split('|') {
        if let Some(first) = way.split(' ').find(|w| !w.is_empty()) {
            out.insert(first.to_lowercase());
        }
    }
}

fn collect(parts: &'static [Part], out: &mut HashSet<String>) {
    for part in parts {
        match part {
            Part::Word(w) if w.kind == WordKind::Verb => {}
            Part::Word(w) => add(w.words, out),
            Part::Slot(s) => {
                add(s.empty.unwrap_or_default(), out);
                if let Some((plus, minus)) = s.ways {
                    add(plus, out);
                    add(minus, out);
                }
            }
            Part::Names(n) => {
                add(n.empty.unwrap_or("nothing"), out);
                add(if n.blank { "to" } else { "and" }, out);
            }
            Part::Pick(p) if p.begins => {}
            Part::Pick(p) => p.options.iter().for_each(|o| add(o.1, out)),
            Part::Union(u) => {
                for c in u.cases {
                    if !u.begins {
                        add(c.words, out);
                    }
                    collect(c.parts, out);
                }
            }
            Part::Clause(c) => collect(c.parts, out),
            Part::List(l) => {
                add(l.lead, out);
                collect(l.item, out);
            }
            Part::Within(_, parts) => collect(parts, out),
        }
    }
}
