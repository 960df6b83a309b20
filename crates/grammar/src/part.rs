//! What a sentence is made of. Paths are JSON pointers into the line as it is stored, below the part they
//! stand in.

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

/// Words that are read out. Several ways are parted by `|`: the first is read out, the second (or first) is
/// typed, all are understood.
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
    /// A length, or a gauge such as `16 ga`.
    Thickness,
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
    /// A named figure of the job.
    Figure,
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
    /// A side, a corner, a bend or a cut of the flat: what a size runs between.
    Spot,
    /// A curved side of the outline, or what a line above cuts.
    Round,
    /// Lines that make cuts.
    Cut,
    Line,
    Node,
    /// The name of a node that the line makes.
    NewNode,
    Member,
    /// Members, or the nodes that they go to.
    MemberOrNode,
    /// The bare name of a plate between two openings: `south`, `face-2`.
    PlateSide,
    /// A leg of the strip in this line.
    Leg,
    /// A side of the contour in this line.
    Side,
    /// A corner of it: a side for its end, or `start`.
    SideEnd,
    /// What a drawing's figure is of: a letter of the drawing, a side, or a name of the model.
    Thing,
    /// The mark of a piece or frame.
    Mark,
    /// A letter of the drawing: no figures in it.
    Letter,
    /// The size of a screw: `M8`, `#8`, `1/4`.
    Screw,
    /// The designation of a thread: `M8`, `M8x1`, `#8-32`.
    Thread,
}

impl Kind {
    pub fn is_value(self) -> bool {
        matches!(self, Kind::Length | Kind::Angle | Kind::Count | Kind::Thickness | Kind::Number)
    }

    /// Whether a word may stand bare in a list of these names, where only some may: sides are called as ways
    /// of the compass are, or by their number.
    pub fn takes(self, word: &str) -> Option<bool> {
        let ways = ["south", "east", "north", "west"];
        (self == Kind::PlateSide).then(|| ways.contains(&word) || word.starts_with("face-"))
    }

    /// Names of geometry, told from the line they belong to.
    pub fn is_geometry(self) -> bool {
        matches!(
            self,
            Kind::Edge | Kind::Panel | Kind::Bend | Kind::Zone | Kind::Surface | Kind::About | Kind::Round
        )
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
    pub said: &'static [(&'static str, &'static str)],
    /// When a screen shows it; in a text it stands where it is told.
    pub shown: When,
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
    /// The fewest there may be where some are typed.
    pub least: usize,
}

/// One word of several.
#[derive(Clone, Copy, Debug)]
pub struct Pick {
    pub path: &'static str,
    pub label: &'static str,
    /// As stored, and the words: read out `|` typed `|` also understood.
    pub options: &'static [(&'static str, &'static str)],
    /// Another field that is told by the same words: an option is then both values, parted by `|`.
    pub beside: &'static str,
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
    /// What stands beside it in its group means nothing without it: a bend rule's K without the rule.
    pub leads: bool,
    /// Begins the line.
    pub begins: bool,
    /// What is typed for a value that is none of the options, and is told elsewhere in the line; any word may
    /// be written on a screen.
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
    /// May be absent, and is in its clause only where it is told.
    pub optional: bool,
    /// What it is called where it is absent.
    pub empty: &'static str,
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

/// Parts that come together, in any order with other clauses beside it; left out of what is typed where all
/// is usual.
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
    /// Where nothing is written there.
    NotTold(&'static str),
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
    /// A comma ends an item: what belongs to it stands close behind it.
    pub close: bool,
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

/// Gives the items of a list their usual ids, one after another.
pub struct Namer {
    ids: Ids,
    taken: HashSet<String>,
    /// Where letters and numbers have come to.
    next: [usize; 2],
}

impl Ids {
    pub fn namer(self) -> Namer {
        Namer { ids: self, taken: HashSet::new(), next: [0; 2] }
    }
}

impl Namer {
    /// The usual id of the item that stands next.
    pub fn usual(&mut self, item: &Value) -> String {
        let first = matches!(self.ids, Ids::Profile(kind) if told(item, "/kind") == kind);
        let at = usize::from(first);
        loop {
            let id = self.ids.candidate(first, self.next[at]);
            if !self.taken.contains(&id) {
                return id;
            }
            self.next[at] += 1;
        }
    }

    /// The item is called this.
    pub fn take(&mut self, id: &str) {
        self.taken.insert(id.to_string());
    }
}

impl Ids {
    /// The usual id of the nth item: of the first kind, or of all others.
    pub(super) fn candidate(self, first: bool, n: usize) -> String {
        match self {
            Ids::None => format!("item-{n}"),
            Ids::Words(words, more) => {
                words.get(n).map_or_else(|| format!("{more}{}", n + 1), |w| (*w).to_string())
            }
            Ids::Profile(_) if first => {
                let c = char::from(b'a' + (n % 26) as u8);
                if n < 26 { c.to_string() } else { format!("{c}{}", n / 26) }
            }
            Ids::Profile(_) => (n + 1).to_string(),
        }
    }
}

/// Of several ways to say the same, parted by `|`, the one that is read out.
pub fn read_out(words: &str) -> &str {
    words.split('|').next().unwrap_or_default()
}

/// The one that is typed.
pub fn typed(words: &str) -> &str {
    let mut ways = words.split('|');
    let first = ways.next().unwrap_or_default();
    ways.next().unwrap_or(first)
}

/// The text at a path, a yes or no in words; empty where nothing is told.
pub fn told<'a>(value: &'a Value, path: &str) -> &'a str {
    match value.pointer(path) {
        Some(Value::String(text)) => text,
        Some(Value::Bool(true)) => "true",
        Some(Value::Bool(false)) => "false",
        _ => "",
    }
}
