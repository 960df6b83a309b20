//! Typed or pasted lines → lines of a piece or frame that stand beside those it has: ids that are taken give
//! way, and what the new lines say of one another goes with them.

use std::collections::{BTreeMap, HashMap, HashSet};

use serde_json::Value;

use grammar::{Bench, Context, Numbers, TextFault, TextLine, context_of, numbered, read_lines_in};

/// Lines read from a text, to stand behind `above` in a piece or frame that has `lines`; `issued` are the
/// highest numbers ever given out.
pub fn take_in(
    bench: &Bench,
    text: &str,
    lines: &[(String, Value)],
    above: usize,
    issued: &BTreeMap<String, u32>,
) -> (Vec<TextLine>, Vec<TextFault>) {
    let of =
        |n: usize| context_of(bench, lines[..n.min(lines.len())].iter().map(|(id, say)| (id.as_str(), say)));
    let all = of(lines.len());
    let context = Context { last_cut: of(above).last_cut, ..all };
    let (mut read, faults) = read_lines_in(bench, text, context);
    let mut taken: HashSet<String> = lines.iter().map(|l| l.0.clone()).collect();
    let mut numbers = Numbers::of(taken.iter().map(String::as_str));
    issued.iter().for_each(|(stem, n)| numbers.issued(stem, u64::from(*n)));
    let mut renamed: Vec<(String, String)> = Vec::new();
    for line in &mut read {
        for (from, to) in &renamed {
            super::mentioned(&mut line.say, from, to);
        }
        let given =
            numbered(&line.id).is_some_and(|(stem, n)| issued.get(stem).is_some_and(|i| n <= u64::from(*i)));
        if taken.contains(&line.id) || given {
            let fresh = numbers.next(numbered(&line.id).map_or(line.id.as_str(), |n| n.0));
            renamed.push((std::mem::replace(&mut line.id, fresh.clone()), fresh));
        }
        numbers.note(&line.id);
        taken.insert(line.id.clone());
    }
    (read, faults)
}

/// The lines of a piece or frame as a text tells them, to stand in the place of `lines`: what says what it
/// said stays as it is stored, and no new line gets a number that was given out before.
pub fn put_over(
    bench: &Bench,
    mut told: Vec<(String, Value)>,
    lines: &[(String, Value)],
    issued: &BTreeMap<String, u32>,
) -> Vec<(String, Value)> {
    let standing: HashMap<&str, &Value> = lines.iter().map(|(id, say)| (id.as_str(), say)).collect();
    let mut numbers = Numbers::of(told.iter().map(|l| l.0.as_str()));
    issued.iter().for_each(|(stem, n)| numbers.issued(stem, u64::from(*n)));
    for i in 0..told.len() {
        let (id, say) = &mut told[i];
        if let Some(old) = standing.get(id.as_str()) {
            if (bench.normal)(old) == (bench.normal)(say) {
                *say = (*old).clone();
            }
            continue;
        }
        let given = numbered(id).filter(|(stem, n)| issued.get(*stem).is_some_and(|i| *n <= u64::from(*i)));
        let Some(fresh) = given.map(|(stem, _)| numbers.next(stem)) else { continue };
        let old = std::mem::replace(id, fresh.clone());
        numbers.note(&fresh);
        told.iter_mut().for_each(|(_, say)| super::mentioned(say, &old, &fresh));
    }
    told
}
