//! How a line is said: each verb is a sentence as data (words, slots, clauses, lists), from which the typed
//! line, its parser, the sentence on the screen, completion, help and the manual are made. Nothing here knows
//! of a verb.

mod build;
mod complete;
mod describe;
mod help;
mod lines;
mod missing;
mod parse;
mod part;
mod print;
mod read;
mod scan;
mod signs;
mod values;
mod verbs;
mod words;

use std::collections::HashSet;

use serde_json::Value;

pub use build::*;
pub use complete::{Offered, complete};
pub use describe::{
    AddView, CaseView, IdsView, OfferView, OptionView, PartView, StartView, VerbView, WhenView, describe,
    offers,
};
pub use ground::{choice, said, spoken, word};
pub use help::pattern;
pub use lines::{
    MOST_READ, Numbers, TextFault, TextLine, context_of, numbered, print_lines, read_lines, read_lines_in,
};
pub use part::*;
pub use print::{Printed, Span, print, print_long};
pub use read::read;
pub use scan::Scan;
pub use values::value_fields;
pub use verbs::into_type;
pub use words::words_of;

/// A kind of line, as it is told: the whole of what is known of it outside of what it makes.
#[derive(Debug)]
pub struct Verb {
    /// Its name in the job file.
    pub tag: &'static str,
    /// What its lines are numbered from: `fold` for `fold-1`. Empty where the line's own name gives it.
    pub stem: &'static str,
    /// What it is, in a line or two.
    pub about: &'static str,
    pub role: Role,
    /// Under which names and keys the palette offers it.
    pub starts: &'static [Start],
    /// What it is offered for where geometry is clicked.
    pub offers: &'static [Offer],
    pub sentence: &'static [Part],
    /// Lines that run, the plainest first.
    pub examples: &'static [&'static str],
}

/// What a line is among the others.
#[derive(Clone, Copy, Debug, PartialEq, Eq, serde::Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Role {
    /// The first line of a piece.
    Start,
    /// Bends, or says how bends meet.
    Bend,
    /// Makes features that can be repeated and mirrored.
    Cut,
    /// Names a point of a frame.
    Node,
    /// Makes bars of a frame.
    Member,
    /// Makes plates round two openings, which flanges and stiffeners may be told of.
    Openings,
    /// Anything else.
    Other,
}

/// A line in a palette: its key, its name, and what it says before anybody has changed it, in either unit. In
/// the text `$edge`, `$edges`, `$bend`, `$cut`, `$node`, `$member`, `$openings` and the like stand for what
/// the piece or frame has of it.
#[derive(Debug)]
pub struct Start {
    pub key: char,
    pub name: &'static str,
    pub mm: &'static str,
    pub inch: &'static str,
}

/// A line offered for geometry that was clicked. `{}` in the words is its name, `$this` in the line; `$x`,
/// `$y` where it was clicked.
#[derive(Debug)]
pub struct Offer {
    /// `panel`, `plate`, `bend`, `shell`, `hole`, `edge`, `arc`, `end`, `corner`.
    pub on: &'static str,
    pub words: &'static str,
    pub mm: &'static str,
    pub inch: &'static str,
}

/// The verbs of a bench, made ready for reading.
pub struct Bench {
    pub verbs: Vec<Ready>,
    /// A line as it is stored, with what is usual written out or left out as the job file does; None where it
    /// is no line.
    pub normal: fn(&Value) -> Option<Value>,
    /// Other ways to write a line, spelled out as its sentence; none where it is no such writing.
    pub heard: fn(&str) -> Option<String>,
}

/// A verb with the words that no bare name in a list may be.
pub struct Ready {
    pub verb: &'static Verb,
    pub reserved: HashSet<String>,
    /// The words that its lines begin with.
    pub begins: HashSet<String>,
}

impl Bench {
    pub fn of(verbs: impl IntoIterator<Item = &'static Verb>, normal: fn(&Value) -> Option<Value>) -> Self {
        let ready = |verb: &'static Verb| Ready {
            verb,
            reserved: words::words_of(verb.sentence),
            begins: words::begins(verb.sentence),
        };
        let mut verbs: Vec<Ready> = verbs.into_iter().map(ready).collect();
        // Verbs that begin with the same word are told apart by the words of all of them.
        let begins: Vec<HashSet<String>> = verbs.iter().map(|r| r.begins.clone()).collect();
        let own: Vec<HashSet<String>> = verbs.iter().map(|r| r.reserved.clone()).collect();
        for (i, ready) in verbs.iter_mut().enumerate() {
            for (k, words) in own.iter().enumerate() {
                if k != i && !begins[i].is_disjoint(&begins[k]) {
                    ready.reserved.extend(words.iter().cloned());
                }
            }
        }
        Bench { verbs, normal, heard: |_| None }
    }

    /// Lines may be written in these other ways too.
    pub fn hearing(self, heard: fn(&str) -> Option<String>) -> Self {
        Bench { heard, ..self }
    }

    pub fn ready(&self, tag: &str) -> Option<&Ready> {
        self.verbs.iter().find(|r| r.verb.tag == tag)
    }

    /// The verb of a line as it is stored.
    pub fn of_line(&self, say: &Value) -> Option<&Ready> {
        self.ready(say.get("verb")?.as_str()?)
    }
}

/// What a line may speak of.
#[derive(Clone, Debug, Default)]
pub struct Context {
    /// Id of the line that the piece starts with: `north` is its north edge.
    pub start: String,
    /// Ids of all lines.
    pub ids: HashSet<String>,
    /// Names of nodes, where they are known.
    pub nodes: HashSet<String>,
    /// Id of the last cut above: what `repeat` means when it names none.
    pub last_cut: String,
}

impl Context {
    /// Where cuts with these ids stand above.
    pub fn knowing(cuts: &[String]) -> Self {
        Context {
            ids: cuts.iter().cloned().collect(),
            last_cut: cuts.last().cloned().unwrap_or_default(),
            ..Context::default()
        }
    }

    /// The whole name of geometry that was told by a short one.
    pub fn whole(&self, name: &str) -> String {
        let first = name.split(['.', '#', '/']).next().unwrap_or_default();
        let numbered = first
            .rsplit_once('-')
            .is_some_and(|(_, n)| !n.is_empty() && n.bytes().all(|b| b.is_ascii_digit()));
        if name == "flat"
            || name.starts_with('$')
            || numbered
            || first == self.start
            || self.ids.contains(first)
        {
            return name.to_string();
        }
        format!("{}.{name}", if self.start.is_empty() { "start-1" } else { &self.start })
    }

    /// The shortest name that means the same.
    pub fn brief<'a>(&self, name: &'a str) -> Option<&'a str> {
        let start = if self.start.is_empty() { "start-1" } else { &self.start };
        let short = name.strip_prefix(start).and_then(|n| n.strip_prefix('.'));
        short.filter(|s| self.whole(s) == name).or_else(|| (self.whole(name) == name).then_some(name))
    }
}
