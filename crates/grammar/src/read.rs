//! A typed line → its verb and what it says, as it is stored; or what is wrong with it, where, and what could
//! stand there.

use serde_json::{Map, Value};

use super::parse::{Expected, Reading};
use super::scan::Scan;
use super::signs::plain_label;
use super::words::first_words;
use super::{Bench, Context, Kind, Part, Ready, Verb, typed};
use ground::quantity::Fault;

/// The longest line that is read.
pub const LONGEST: usize = 200_000;

/// A line of a bench → its verb and what it says, ready to be stored.
pub fn read(bench: &Bench, text: &str, context: &Context) -> Result<Value, Fault> {
    let chars = text.chars().count();
    if chars > LONGEST {
        return Err(Fault::new(
            format!("the line is longer than {LONGEST} characters"),
            "split it",
            (LONGEST, chars),
        ));
    }
    if text.trim().is_empty() {
        return Err(Fault::new("the line is empty", nearest(bench, ""), (0, chars)));
    }
    match (bench.heard)(text) {
        // What is wrong with it is told of the whole: its words stand in other places.
        Some(spelled) => spoken(bench, &spelled, context).map_err(|f| Fault { start: 0, end: chars, ..f }),
        None => spoken(bench, text, context),
    }
}

/// A line that is written as its sentence.
fn spoken(bench: &Bench, text: &str, context: &Context) -> Result<Value, Fault> {
    let mut best: Option<(usize, Fault)> = None;
    let lead = text.len() - text.trim_start().len();
    let head = text.trim_start().split([' ', ',', ':', '\t']).next().unwrap_or_default().to_lowercase();
    let known = bench.verbs.iter().any(|r| r.begins.contains(&head));
    for ready in bench.verbs.iter().filter(|r| !known || r.begins.contains(&head)) {
        let (made, reading) = try_verb(ready, text, context);
        match made {
            Some(value) => return Ok(value),
            // A line that did not get past its verb's own words is another verb's.
            None if reading.far <= lead => {}
            None => {
                let fault = fault(&reading, text, ready);
                if best.as_ref().is_none_or(|b| reading.far > b.0) {
                    best = Some((reading.far, fault));
                }
            }
        }
    }
    let first = Scan { text, at: 0 }.peek_word().to_lowercase();
    Err(best.map(|b| b.1).unwrap_or_else(|| {
        let start = lead;
        let shown = if first.is_empty() { text.trim().chars().take(12).collect() } else { first.clone() };
        Fault::new(
            format!("no line starts with '{shown}'"),
            nearest(bench, &first),
            (start, start + shown.chars().count()),
        )
    }))
}

pub(super) fn try_verb<'a>(
    ready: &'a Ready,
    text: &'a str,
    context: &'a Context,
) -> (Option<Value>, Reading<'a>) {
    let mut r = Reading::new(text, &ready.reserved, context);
    let begun = r.seq(ready.verb.sentence, "");
    if !begun {
        return (None, r);
    }
    r.scan.sign(".");
    if !r.scan.done() {
        let at = r.scan.at;
        if r.far < at {
            r.far = at;
            r.expected.clear();
        }
        return (None, r);
    }
    if let Some((at, label)) = r.missing() {
        r.far = at.max(r.far);
        r.expected.insert(0, Expected::Value { label, kind: Kind::Text, needed: true });
        return (None, r);
    }
    let mut value = r.value();
    value["verb"] = ready.verb.tag.into();
    (Some(value), r)
}

fn fault(r: &Reading, text: &str, ready: &Ready) -> Fault {
    let chars = |b: usize| text[..b.min(text.len())].chars().count();
    let rest = text[r.far.min(text.len())..].trim();
    let word: String = rest.split([' ', ',']).next().unwrap_or_default().chars().take(30).collect();
    let from = chars(r.far);
    let first = Scan { text, at: 0 }.peek_word();
    let such = match example_of(ready.verb, first) {
        "" => None,
        example => Some(format!("write it such as: {example}")),
    };
    let wanted: Vec<String> = r.expected.iter().filter_map(Expected::said).take(8).collect();
    let wanted = (!wanted.is_empty()).then(|| format!("here may stand {}", wanted.join(", ")));
    let mend: Vec<String> = [wanted, such].into_iter().flatten().collect();
    let mend = if mend.is_empty() { "take it out".into() } else { mend.join("; ") };
    let wants = |needed: bool| {
        move |e: &Expected| match e {
            Expected::Value { label, needed: n, .. } if *n || !needed => Some(plain_label(label)),
            _ => None,
        }
    };
    let no_cut = |e: &Expected| matches!(e, Expected::Value { kind: Kind::Cut, needed: true, .. });
    if r.expected.iter().any(no_cut) {
        return Fault::new(
            "there is no cut yet",
            "make a hole or another cut first, and name it here",
            (from, from + word.chars().count()),
        );
    }
    let label = r.expected.iter().find_map(wants(true)).or_else(|| r.expected.iter().find_map(wants(false)));
    match (word.is_empty(), label) {
        (true, Some(label)) => {
            let are = if label.ends_with('s') && !label.ends_with("ss") { "are" } else { "is" };
            Fault::new(format!("the {label} {are} missing"), mend, (from, from))
        }
        (true, None) => Fault::new("the line goes on", mend, (from, from)),
        (false, _) => {
            let to = from + word.chars().count();
            Fault::new(format!("'{word}' is not understood here"), mend, (from, to))
        }
    }
}

impl Expected {
    /// How it is called in a message.
    pub fn said(&self) -> Option<String> {
        match self {
            Expected::Words(w) => {
                let short = typed(w);
                (!short.is_empty()).then(|| format!("'{short}'"))
            }
            Expected::Value { label, .. } => Some(format!("the {}", plain_label(label))),
        }
    }
}

/// What parts say that stand alone, such as one item of a list; nothing where they do not read.
pub(super) fn parts_alone(parts: &'static [Part], text: &str) -> Value {
    let (reserved, context) = (super::words_of(parts), Context::default());
    let mut r = Reading::new(text, &reserved, &context);
    if r.seq(parts, "") { r.value() } else { Value::Object(Map::new()) }
}

/// An example that begins with a word, or the verb's plainest.
fn example_of(verb: &'static Verb, word: &str) -> &'static str {
    let own = verb.examples.iter().find(|e| Scan { text: e, at: 0 }.peek_word().eq_ignore_ascii_case(word));
    own.or(verb.examples.first()).copied().unwrap_or_default()
}

/// What to do about a word that begins no line: the verb that was probably meant, with one example.
pub(super) fn nearest(bench: &Bench, typed: &str) -> String {
    let verbs: Vec<(&'static str, &'static str)> = bench
        .verbs
        .iter()
        .flat_map(|r| first_words(r.verb.sentence).into_iter().map(|w| (w, example_of(r.verb, w))))
        .collect();
    let near = |verb: &str| {
        let begins = typed.len() > 1 && (verb.starts_with(typed) || typed.starts_with(verb));
        if begins { 0 } else { steps(typed, verb) }
    };
    let best =
        verbs.iter().map(|(verb, example)| (near(&verb.to_lowercase()), verb, example)).min_by_key(|b| b.0);
    match best.filter(|(far, verb, _)| *far <= 1 + verb.len() / 4) {
        Some((_, _, example)) => format!("did you mean: {example}"),
        None => {
            let mut seen = Vec::new();
            for (verb, _) in verbs {
                if !seen.contains(&verb) {
                    seen.push(verb);
                }
            }
            format!("begin with one of {}", seen.join(", "))
        }
    }
}

/// How many letters must be changed, put in or taken out (Levenshtein, 1966).
fn steps(a: &str, b: &str) -> usize {
    let b: Vec<char> = b.chars().collect();
    let mut row: Vec<usize> = (0..=b.len()).collect();
    for (i, x) in a.chars().enumerate() {
        let mut corner = std::mem::replace(&mut row[0], i + 1);
        for (j, y) in b.iter().enumerate() {
            let change = corner + usize::from(x != *y);
            corner = row[j + 1];
            row[j + 1] = change.min(row[j] + 1).min(corner + 1);
        }
    }
    row[b.len()]
}
