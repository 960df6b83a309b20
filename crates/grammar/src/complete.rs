//! What can come next while a line is typed.

use serde::Serialize;

use super::parse::Expected;
use super::read::try_verb;
use super::words::first_words;
use super::{Bench, Context, Kind, typed};

/// Something that can stand at the end of what is typed.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[serde(tag = "is", rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Offered {
    /// Words; `about` says what they begin, for the first word of a line.
    Words { text: String, about: &'static str },
    /// A value or a name of this kind.
    Slot { label: &'static str, kind: Kind },
}

/// What a line can go on with, and from which byte on: a word that is half typed is part of what is offered
/// for it.
pub fn complete(bench: &Bench, text: &str, context: &Context) -> (usize, Vec<Offered>) {
    let half = half_word(text);
    let before = &text[..half];
    let begun = text[half..].to_lowercase();
    let mut out: Vec<Offered> = Vec::new();
    if before.trim().is_empty() {
        for r in &bench.verbs {
            for first in first_words(r.verb.sentence) {
                let offered = Offered::Words { text: first.to_string(), about: r.verb.about };
                let known = out.iter().any(|o| matches!(o, Offered::Words { text, .. } if text == first));
                if first.to_lowercase().starts_with(&begun) && !known {
                    out.push(offered);
                }
            }
        }
        return (half, out);
    }
    for r in &bench.verbs {
        let (_, reading) = try_verb(r, before, context);
        // Only what is missing at the very end can come next.
        if reading.far < before.trim_end().len() {
            continue;
        }
        for e in &reading.expected {
            let offered = match e {
                Expected::Value { label, kind, .. } => Offered::Slot { label, kind: *kind },
                Expected::Words(w) => {
                    let short = typed(w);
                    if short.is_empty() || !short.to_lowercase().starts_with(&begun) {
                        continue;
                    }
                    Offered::Words { text: short.to_string(), about: "" }
                }
            };
            if !out.contains(&offered) {
                out.push(offered);
            }
        }
    }
    (half, out)
}

/// Where the word at the end begins that is still being typed.
fn half_word(text: &str) -> usize {
    let begins = |c: char| !(c.is_alphanumeric() || matches!(c, '_' | '-' | '.' | '#' | '/'));
    let at = text.char_indices().rev().find(|(_, c)| begins(*c)).map_or(0, |(i, c)| i + c.len_utf8());
    // A number is no word.
    if text[at..].starts_with(|c: char| c.is_ascii_digit()) { text.len() } else { at }
}
