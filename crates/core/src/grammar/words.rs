//! The words of a sentence: what a bare name in it may not be.

use std::collections::HashSet;

use super::{Part, WordKind};

/// Every word of a sentence: a bare name in a row is none of them.
pub fn words_of(parts: &'static [Part]) -> HashSet<String> {
    let mut out = HashSet::from(["and".to_string()]);
    collect(parts, &mut out);
    out
}

/// The words that a line of this sentence begins with.
pub fn begins(parts: &'static [Part]) -> HashSet<String> {
    let mut out = HashSet::new();
    match parts.first() {
        Some(Part::Word(w)) => add(w.words, &mut out),
        Some(Part::Pick(p)) => {
            p.options.iter().for_each(|o| add(o.1, &mut out));
            add(p.other, &mut out);
        }
        Some(Part::Union(u)) => u.cases.iter().for_each(|c| add(c.words, &mut out)),
        _ => {}
    }
    out
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
