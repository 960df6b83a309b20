//! What a sentence is made of. Paths are JSON pointers into the line as it is stored, below the part they stand in.

use std::collections::HashSet;

use serde_json::Value;

#[derive(Clone, Copy, Debug)]
pub enum Part {
    Word(Word),
    Slot(Slot),
    Names(Names),
    Pick(Pick),
    Union(Union),
    Clause(Clause),
    List(List),
    /// Parts whose paths lie below another.
    Within(&'static str, &'static [Part]),
}

/// Words that are read out. Several ways are parted by `|`: the first is read out, the second (or first) is typed, all are understood.
#[derive(Clone, Copy, Debug)]
pub struct Word {
    pub words: &'static str,
    pub kind: WordKind,
}

#[derive(Clone, Copy, Debug, PartialEq)]
pub enum WordKind {
    /// Begins the line.
    Verb,
    /// Printed, and needed.
    Needed,
    /// Printed, and understood without.
    Printed,
    /// Read out only; understood when typed.
    Aloud,
    /// Understood when typed, and never printed.
    Heard,
    /// A sign that stands close to what is before it, such as a comma.
    Sign,
    /// A sign that stands close to what comes after it.
    Opening,
}

/// What a value is, so that a screen knows how to ask for it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, serde::Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum Kind {
    Length,
    Angle,
    Count,
    /// A number without a unit, or a share such as `1/2`.
    Number,
    /// Words that are only printed.
    Text,
    /// A bare word, such as a block's name.
    Word,
    /// A section's designation; it ends at a comma.
    Section,
    Material,
    Test,
    Edge,
    Corner,
    Panel,
    Bend,
    /// A panel or a bend.
    Zone,
    /// The flat, or a panel that can carry something.
    Surface,
    /// The flat, a panel, an edge or a bend.
    About,
    /// Lines that make cuts.
    Cut,
    Line,
    Node,
    /// The name of a node that the line makes.
    NewNode,
    Member,
    /// Members, or the nodes that they go to.
    MemberOrNode,
    /// A leg of the strip in this line.
    Leg,
}

impl Kind {
    pub fn is_value(self) -> bool {
        matches!(self, Kind::Length | Kind::Angle | Kind::Count | Kind::Number)
    }

    /// Names of geometry, told from the line they belong to.
    pub fn is_geometry(self) -> bool {
        matches!(self, Kind::Edge | Kind::Panel | Kind::Bend | Kind::Zone | Kind::Surface | Kind::About)
    }
}

/// One value.
#[derive(Clone, Copy, Debug)]
pub struct Slot {
    pub path: &'static str,
    pub label: &'static str,
    pub kind: Kind,
    /// `⌀` or `R` before the value.
    pub sign: &'static str,
    /// What it is when nothing is written; the value is left out of what is typed then.
    pub usual: &'static str,
    /// What an empty value is called; None where a value is needed.
    pub empty: Option<&'static str>,
    /// A direction whose negative has a word of its own: `east` and `west` behind the value.
    pub ways: Option<(&'static str, &'static str)>,
    /// These are said elsewhere in the line, and left out here.
    pub said: Options,
}

/// Names in a row.
#[derive(Clone, Copy, Debug)]
pub struct Names {
    pub path: &'static str,
    pub label: &'static str,
    pub kind: Kind,
    /// What none of them means; None where one is needed.
    pub empty: Option<&'static str>,
    /// Between one and the next: a blank, or commas and `and`.
    pub blank: bool,
    /// How many there must be, where that is known.
    pub exactly: Option<usize>,
}

/// One word of several.
#[derive(Clone, Copy, Debug)]
pub struct Pick {
    pub path: &'static str,
    pub label: &'static str,
    /// As stored, and the words: read out `|` typed `|` also understood.
    pub options: &'static [(&'static str, &'static str)],
    /// As stored where nothing is told.
    pub usual: &'static str,
    /// Left out of what is typed where it is the usual.
    pub quiet: bool,
    /// Typed, and understood without: the usual is meant then.
    pub lacks: bool,
    /// Stored as no and yes.
    pub flag: bool,
    /// Options that only a folded panel has.
    pub folded: &'static [&'static str],
    /// Begins the line.
    pub begins: bool,
    /// What is typed for a value that is none of the options, and is told elsewhere in the line; any word may be written on a screen.
    pub other: &'static str,
}

/// A choice that brings values of its own.
#[derive(Clone, Copy, Debug)]
pub struct Union {
    /// Where it lies; empty for the line or item itself.
    pub path: &'static str,
    /// The field that tells which it is.
    pub tag: &'static str,
    pub label: &'static str,
    pub cases: &'static [Case],
    /// Left out of what is typed where it is the first and all it has is usual.
    pub quiet: bool,
    /// Its words begin the line.
    pub begins: bool,
}

#[derive(Clone, Copy, Debug)]
pub struct Case {
    pub tag: &'static str,
    /// Read out `|` typed `|` also understood. Empty where its values say it.
    pub words: &'static str,
    pub parts: &'static [Part],
    /// What it says when it is just chosen, in mm and in inches, without its words.
    pub usual: [&'static str; 2],
}

/// Parts that come together, in any order with other clauses beside it; left out of what is typed where all is usual.
#[derive(Clone, Copy, Debug)]
pub struct Clause {
    pub parts: &'static [Part],
    /// When a screen shows it, beside when it says something unusual.
    pub shown: When,
    pub needed: bool,
    /// When it is how the line is typed, where there are two ways to say the same.
    pub only: When,
    /// Another way to type what a clause says; never printed.
    pub typed_only: bool,
    /// Stands behind what is before it without a comma.
    pub close: bool,
}

#[derive(Clone, Copy, Debug)]
pub enum When {
    Always,
    /// Where the text at the path is one of these.
    Is(&'static str, &'static [&'static str]),
    IsNot(&'static str, &'static [&'static str]),
    /// Where something is written there.
    Told(&'static str),
    /// Where the list there has at least so many.
    AtLeast(&'static str, usize),
    Never,
}

/// Items in a row.
#[derive(Clone, Copy, Debug)]
pub struct List {
    pub path: &'static str,
    pub label: &'static str,
    pub item: &'static [Part],
    /// What stands before each item.
    pub lead: &'static str,
    /// Between one and the next.
    pub between: &'static str,
    pub ids: Ids,
    /// The fewest there may be.
    pub least: usize,
    /// What can be added behind an item, and what it says then, in mm and in inches.
    pub adds: &'static [(&'static str, &'static str, &'static str)],
    /// Links of a chain: an item goes together with the one between it and the next.
    pub chain: bool,
}

/// How the items of a list are called.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Ids {
    None,
    /// These, then `fold4`, `fold5`.
    Words(&'static [&'static str], &'static str),
    /// Letters for items of the first kind, numbers for all others.
    Profile(&'static str),
}

impl Ids {
    /// The usual id of an item behind others.
    pub fn next(self, before: &[Value], item: &Value) -> String {
        let taken = |id: &str| before.iter().any(|b| b.get("id").and_then(Value::as_str) == Some(id));
        let letter = |n: usize| {
            let c = char::from(b'a' + (n % 26) as u8);
            if n < 26 { c.to_string() } else { format!("{c}{}", n / 26) }
        };
        let candidate = |n: usize| match self {
            Ids::None => String::new(),
            Ids::Words(words, more) => words.get(n).map_or_else(|| format!("{more}{}", n + 1), |w| (*w).to_string()),
            Ids::Profile(kind) if item.get("kind").and_then(Value::as_str) == Some(kind) => letter(n),
            Ids::Profile(_) => (n + 1).to_string(),
        };
        (0..=before.len()).map(candidate).find(|c| !taken(c)).unwrap_or_default()
    }
}

/// The word that begins the line, read out and typed.
pub const fn verb(words: &'static str) -> Part {
    Part::Word(Word { words, kind: WordKind::Verb })
}

pub const fn word(words: &'static str) -> Part {
    Part::Word(Word { words, kind: WordKind::Needed })
}

pub const fn printed(words: &'static str) -> Part {
    Part::Word(Word { words, kind: WordKind::Printed })
}

pub const fn aloud(words: &'static str) -> Part {
    Part::Word(Word { words, kind: WordKind::Aloud })
}

pub const fn heard(words: &'static str) -> Part {
    Part::Word(Word { words, kind: WordKind::Heard })
}

pub const fn sign(words: &'static str) -> Part {
    Part::Word(Word { words, kind: WordKind::Sign })
}

pub const fn opening(words: &'static str) -> Part {
    Part::Word(Word { words, kind: WordKind::Opening })
}

impl Slot {
    pub const fn new(path: &'static str, label: &'static str, kind: Kind) -> Self {
        Slot { path, label, kind, sign: "", usual: "", empty: None, ways: None, said: &[] }
    }

    pub const fn sign(self, sign: &'static str) -> Self {
        Slot { sign, ..self }
    }

    /// May be empty, and is called this then.
    pub const fn empty(self, empty: &'static str) -> Self {
        Slot { empty: Some(empty), ..self }
    }

    /// What it is where nothing is told.
    pub const fn usual(self, usual: &'static str) -> Self {
        Slot { usual, ..self }
    }

    pub const fn ways(self, plus: &'static str, minus: &'static str) -> Self {
        Slot { usual: "0", ways: Some((plus, minus)), ..self }
    }

    /// Left out where it is one of these.
    pub const fn unless(self, said: Options) -> Self {
        Slot { said, ..self }
    }

    pub const fn part(self) -> Part {
        Part::Slot(self)
    }
}

pub const fn length(path: &'static str, label: &'static str) -> Part {
    Slot::new(path, label, Kind::Length).part()
}

/// A length that may be left out.
pub const fn length_or(path: &'static str, label: &'static str, empty: &'static str) -> Part {
    Slot::new(path, label, Kind::Length).empty(empty).part()
}

pub const fn diameter(path: &'static str, label: &'static str) -> Part {
    Slot::new(path, label, Kind::Length).sign("⌀").part()
}

pub const fn diameter_or(path: &'static str, label: &'static str, empty: &'static str) -> Part {
    Slot::new(path, label, Kind::Length).sign("⌀").empty(empty).part()
}

pub const fn radius(path: &'static str, label: &'static str) -> Part {
    Slot::new(path, label, Kind::Length).sign("R").part()
}

pub const fn radius_or(path: &'static str, label: &'static str, empty: &'static str) -> Part {
    Slot::new(path, label, Kind::Length).sign("R").empty(empty).part()
}

pub const fn angle(path: &'static str, label: &'static str) -> Part {
    Slot::new(path, label, Kind::Angle).part()
}

pub const fn angle_or(path: &'static str, label: &'static str, empty: &'static str) -> Part {
    Slot::new(path, label, Kind::Angle).empty(empty).part()
}

pub const fn count(path: &'static str, label: &'static str) -> Part {
    Slot::new(path, label, Kind::Count).part()
}

pub const fn name(path: &'static str, label: &'static str, kind: Kind) -> Part {
    Slot::new(path, label, kind).part()
}

pub const fn text(path: &'static str, label: &'static str) -> Part {
    Slot::new(path, label, Kind::Text).part()
}

pub const fn names(path: &'static str, label: &'static str, kind: Kind) -> Part {
    Part::Names(Names { path, label, kind, empty: None, blank: false, exactly: None })
}

/// Names that may be left out; what that means.
pub const fn names_or(path: &'static str, label: &'static str, kind: Kind, empty: &'static str) -> Part {
    Part::Names(Names { path, label, kind, empty: Some(empty), blank: false, exactly: None })
}

/// Names with blanks between them.
pub const fn row(path: &'static str, label: &'static str, kind: Kind) -> Part {
    Part::Names(Names { path, label, kind, empty: None, blank: true, exactly: None })
}

pub const fn both(path: &'static str, label: &'static str, kind: Kind) -> Part {
    Part::Names(Names { path, label, kind, empty: None, blank: false, exactly: Some(2) })
}

type Options = &'static [(&'static str, &'static str)];

impl Pick {
    /// The first option is the usual one.
    pub const fn new(path: &'static str, label: &'static str, options: Options) -> Self {
        Pick { path, label, options, usual: options[0].0, quiet: false, lacks: false, flag: false, folded: &[], begins: false, other: "" }
    }

    pub const fn usual(self, usual: &'static str) -> Self {
        Pick { usual, ..self }
    }

    pub const fn lacks(self) -> Self {
        Pick { lacks: true, ..self }
    }

    pub const fn begins(self) -> Self {
        Pick { begins: true, ..self }
    }

    pub const fn other(self, other: &'static str) -> Self {
        Pick { other, ..self }
    }

    pub const fn folded(self, folded: &'static [&'static str]) -> Self {
        Pick { folded, ..self }
    }

    pub const fn quiet(self) -> Self {
        Pick { quiet: true, ..self }
    }

    pub const fn part(self) -> Part {
        Part::Pick(self)
    }
}

/// Always typed.
pub const fn pick(path: &'static str, label: &'static str, options: Options) -> Part {
    Pick::new(path, label, options).part()
}

/// Typed where it is not the first.
pub const fn quiet(path: &'static str, label: &'static str, options: Options) -> Part {
    Pick::new(path, label, options).quiet().part()
}

/// A no and a yes as two words; typed where it is yes.
pub const fn flag(path: &'static str, label: &'static str, options: Options) -> Part {
    Part::Pick(Pick { flag: true, quiet: true, ..Pick::new(path, label, options) })
}

pub const fn case(tag: &'static str, words: &'static str, parts: &'static [Part], usual: [&'static str; 2]) -> Case {
    Case { tag, words, parts, usual }
}

pub const fn union(path: &'static str, tag: &'static str, label: &'static str, cases: &'static [Case]) -> Part {
    Part::Union(Union { path, tag, label, cases, quiet: false, begins: false })
}

/// The words of the cases begin the line.
pub const fn beginning(path: &'static str, tag: &'static str, label: &'static str, cases: &'static [Case]) -> Part {
    Part::Union(Union { path, tag, label, cases, quiet: false, begins: true })
}

/// Typed where it is not the first case.
pub const fn quiet_union(path: &'static str, tag: &'static str, label: &'static str, cases: &'static [Case]) -> Part {
    Part::Union(Union { path, tag, label, cases, quiet: true, begins: false })
}

impl Clause {
    pub const fn new(parts: &'static [Part]) -> Self {
        Clause { parts, shown: When::Always, needed: false, only: When::Always, typed_only: false, close: false }
    }

    pub const fn shown(self, shown: When) -> Self {
        Clause { shown, ..self }
    }

    pub const fn only(self, only: When) -> Self {
        Clause { only, ..self }
    }

    pub const fn needed(self) -> Self {
        Clause { needed: true, ..self }
    }

    pub const fn close(self) -> Self {
        Clause { close: true, ..self }
    }

    pub const fn part(self) -> Part {
        Part::Clause(self)
    }
}

pub const fn clause(parts: &'static [Part]) -> Part {
    Clause::new(parts).part()
}

/// Without a comma before it.
pub const fn aside(parts: &'static [Part]) -> Part {
    Clause::new(parts).close().part()
}

pub const fn clause_when(shown: When, parts: &'static [Part]) -> Part {
    Clause::new(parts).shown(shown).part()
}

/// A clause that every line has.
pub const fn must(parts: &'static [Part]) -> Part {
    Clause::new(parts).needed().part()
}

/// Another way to type what is said by a clause beside it.
pub const fn also(parts: &'static [Part]) -> Part {
    Part::Clause(Clause { typed_only: true, ..Clause::new(parts).shown(When::Never) })
}

/// `×` between sizes.
pub const fn times() -> Part {
    printed("×|x|by")
}

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
                add("and", out);
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

/// The text at a path, empty where nothing is told.
pub fn told<'a>(value: &'a Value, path: &str) -> &'a str {
    value.pointer(path).and_then(Value::as_str).unwrap_or_default()
}
