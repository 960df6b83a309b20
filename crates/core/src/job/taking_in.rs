//! Typed or pasted lines → lines of a piece or frame that stand beside those it has: ids that are taken give
//! way, and what the new lines say of one another goes with them.

use std::collections::BTreeMap;

use serde_json::Value;

use crate::grammar::{Bench, Context, TextFault, Told, context_of, next_id, read_lines_in};

/// Lines read from a text, to stand behind `above` in a piece or frame that has `lines`; `issued` are the
/// highest numbers ever given out.
pub fn take_in(
    bench: &Bench,
    text: &str,
    lines: &[(String, Value)],
    above: usize,
    issued: &BTreeMap<String, u32>,
) -> (Vec<Told>, Vec<TextFault>) {
    let of =
        |n: usize| context_of(bench, lines[..n.min(lines.len())].iter().map(|(id, say)| (id.as_str(), say)));
    let all = of(lines.len());
    let context = Context { last_cut: of(above).last_cut, ..all };
    let (mut read, faults) = read_lines_in(bench, text, context);
    let mut ids: Vec<String> = lines.iter().map(|l| l.0.clone()).collect();
    ids.extend(issued.iter().map(|(stem, n)| format!("{stem}-{n}")));
    let mut renamed: Vec<(String, String)> = Vec::new();
    for line in &mut read {
        let told = std::mem::take(&mut line.id);
        let stem = told
            .rsplit_once('-')
            .filter(|(_, n)| n.bytes().all(|b| b.is_ascii_digit()))
            .map_or(told.as_str(), |s| s.0);
        let taken = ids.contains(&told);
        let mut id = told.clone();
        if taken {
            id = next_id(stem, ids.iter().map(String::as_str));
        }
        for (from, to) in &renamed {
            super::mentioned(&mut line.say, from, to);
        }
        if id != told {
            renamed.push((told, id.clone()));
        }
        ids.push(id.clone());
        line.id = id;
    }
    (read, faults)
}
