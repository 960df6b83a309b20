//! How a verb is typed, in one line: what it needs, and the clauses that may follow.

use super::signs::plain_label;
use super::{Part, Verb, WordKind, typed};

/// What a line of the verb must have, and each clause that it may have.
pub fn pattern(verb: &'static Verb) -> (String, Vec<String>) {
    let mut out = (String::new(), Vec::new());
    walk(verb.sentence, &mut out.0, &mut Some(&mut out.1));
    out
}

fn add(text: &str, out: &mut String) {
    if text.is_empty() {
        return;
    }
    if !out.is_empty() && !out.ends_with(['(', '⌀', 'R', '[']) {
        out.push(' ');
    }
    out.push_str(text);
}

fn alone(parts: &'static [Part]) -> String {
    let mut text = String::new();
    walk(parts, &mut text, &mut None);
    text
}

/// Ways to say one thing, the first few of many.
fn either(ways: &[String]) -> String {
    let shown: Vec<&str> = ways.iter().map(|w| w.trim()).filter(|w| !w.is_empty()).take(9).collect();
    let more = if ways.len() > 9 { "|…" } else { "" };
    if shown.len() == 1 && more.is_empty() {
        shown[0].to_string()
    } else {
        format!("{}{more}", shown.join("|"))
    }
}

fn walk(parts: &'static [Part], out: &mut String, clauses: &mut Option<&mut Vec<String>>) {
    for part in parts {
        match part {
            Part::Word(w) => match w.kind {
                WordKind::Aloud | WordKind::Heard => {}
                WordKind::Sign => out.push_str(w.words),
                _ => add(typed(w.words), out),
            },
            Part::Slot(s) => {
                let optional = s.empty.is_some() || !s.usual.is_empty();
                let ways = s.ways.map_or(String::new(), |(plus, minus)| format!(" {plus}|{minus}"));
                let text = format!("{}{{{}}}{ways}", s.sign, plain_label(s.label));
                add(
                    &if optional && s.ways.is_none() && clauses.is_some() {
                        format!("[{text}]")
                    } else {
                        text
                    },
                    out,
                );
            }
            Part::Names(n) => {
                let text = format!("{{{}}}", n.label);
                add(&if n.empty.is_some() && clauses.is_some() { format!("[{text}]") } else { text }, out);
            }
            Part::Pick(p) => {
                let quiet = p.quiet && clauses.is_some();
                let ways: Vec<String> = p
                    .options
                    .iter()
                    .filter(|o| !(quiet && o.0 == p.usual))
                    .map(|o| typed(o.1).to_string())
                    .collect();
                let text = either(&ways);
                add(&if quiet { format!("[{text}]") } else { text }, out);
            }
            Part::Union(u) => {
                let cases: Vec<String> = u
                    .cases
                    .iter()
                    .skip(usize::from(u.quiet))
                    .map(|c| format!("{} {}", typed(c.words), alone(c.parts)).trim().to_string())
                    .collect();
                let text = cases.join(" | ");
                add(&if cases.len() > 1 { format!("({text})") } else { text }, out);
            }
            Part::Clause(c) if c.typed_only => {}
            Part::Clause(c) => {
                let text = alone(c.parts);
                match clauses {
                    Some(list) if !c.needed => list.push(text),
                    _ if c.needed && clauses.is_some() => {
                        if !c.close && !out.is_empty() && out.contains(' ') {
                            out.push(',');
                        }
                        add(&text, out);
                    }
                    _ => add(&format!("[{text}]"), out),
                }
            }
            Part::List(l) => {
                let item = alone(l.item);
                let lead = typed(l.lead);
                let text = format!("{lead}{}{item}{} …", if lead.is_empty() { "" } else { " " }, l.between);
                match clauses {
                    Some(list) if !l.lead.is_empty() => list.push(text),
                    _ => add(&text, out),
                }
            }
            Part::Within(_, inner) => walk(inner, out, clauses),
        }
    }
}
