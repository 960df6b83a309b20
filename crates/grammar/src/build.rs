//! Short ways to write a sentence down.

use super::{Case, Clause, Kind, Names, Part, Pick, Slot, Union, When, Word, WordKind};

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
        Slot {
            path,
            label,
            kind,
            sign: "",
            usual: "",
            empty: None,
            ways: None,
            said: &[],
            shown: When::Always,
        }
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

    pub const fn shown(self, shown: When) -> Self {
        Slot { shown, ..self }
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
    Part::Names(Names { path, label, kind, empty: None, blank: false, least: 1 })
}

/// Names that may be left out; what that means.
pub const fn names_or(path: &'static str, label: &'static str, kind: Kind, empty: &'static str) -> Part {
    Part::Names(Names { path, label, kind, empty: Some(empty), blank: false, least: 0 })
}

/// Names with blanks between them.
pub const fn row(path: &'static str, label: &'static str, kind: Kind) -> Part {
    Part::Names(Names { path, label, kind, empty: None, blank: true, least: 1 })
}

/// Names with blanks between them that may be left out; what that means.
pub const fn row_or(path: &'static str, label: &'static str, kind: Kind, empty: &'static str) -> Part {
    Part::Names(Names { path, label, kind, empty: Some(empty), blank: true, least: 0 })
}

/// Two names at least, with blanks between them.
pub const fn chain(path: &'static str, label: &'static str, kind: Kind) -> Part {
    Part::Names(Names { path, label, kind, empty: None, blank: true, least: 2 })
}

type Options = &'static [(&'static str, &'static str)];

impl Pick {
    /// The first option is the usual one.
    pub const fn new(path: &'static str, label: &'static str, options: Options) -> Self {
        Pick {
            path,
            label,
            options,
            beside: "",
            usual: options[0].0,
            quiet: false,
            lacks: false,
            flag: false,
            folded: &[],
            leads: false,
            begins: false,
            other: "",
        }
    }

    pub const fn usual(self, usual: &'static str) -> Self {
        Pick { usual, ..self }
    }

    /// Tells another field as well.
    pub const fn beside(self, beside: &'static str) -> Self {
        Pick { beside, ..self }
    }

    pub const fn lacks(self) -> Self {
        Pick { lacks: true, ..self }
    }

    /// Its group goes with it.
    pub const fn leads(self) -> Self {
        Pick { leads: true, ..self }
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

pub const fn case(
    tag: &'static str,
    words: &'static str,
    parts: &'static [Part],
    usual: [&'static str; 2],
) -> Case {
    Case { tag, words, parts, usual }
}

pub const fn union(
    path: &'static str,
    tag: &'static str,
    label: &'static str,
    cases: &'static [Case],
) -> Part {
    Part::Union(Union { path, tag, label, cases, quiet: false, begins: false, optional: false, empty: "" })
}

/// The words of the cases begin the line.
pub const fn beginning(
    path: &'static str,
    tag: &'static str,
    label: &'static str,
    cases: &'static [Case],
) -> Part {
    Part::Union(Union { path, tag, label, cases, quiet: false, begins: true, optional: false, empty: "" })
}

/// May be absent; what that is called.
pub const fn union_or(
    path: &'static str,
    tag: &'static str,
    label: &'static str,
    empty: &'static str,
    cases: &'static [Case],
) -> Part {
    Part::Union(Union { path, tag, label, cases, quiet: false, begins: false, optional: true, empty })
}

/// Typed where it is not the first case.
pub const fn quiet_union(
    path: &'static str,
    tag: &'static str,
    label: &'static str,
    cases: &'static [Case],
) -> Part {
    Part::Union(Union { path, tag, label, cases, quiet: true, begins: false, optional: false, empty: "" })
}

impl Clause {
    pub const fn new(parts: &'static [Part]) -> Self {
        Clause {
            parts,
            shown: When::Always,
            needed: false,
            only: When::Always,
            typed_only: false,
            close: false,
        }
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
