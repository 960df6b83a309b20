//! A verb as others are told of it: what a screen, a manual or another program needs to ask for a line.

use serde::Serialize;
use serde_json::Value;

use super::{Bench, Case, Context, Ids, Kind, Part, Role, Slot, Verb, When, WordKind, read, read_out};

#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct VerbView {
    /// Its name in the job file.
    pub tag: &'static str,
    /// What its lines are numbered from; empty where the line's own name gives it.
    pub stem: &'static str,
    pub about: &'static str,
    pub role: Role,
    pub starts: Vec<StartView>,
    pub sentence: Vec<PartView>,
    /// How it is typed: what it needs, with labels in braces.
    pub pattern: String,
    /// What may follow, in any order, parted by commas.
    pub clauses: Vec<String>,
    pub examples: &'static [&'static str],
}

/// A line that the palette offers, with what it says at first. `$edge`, `$cut` and the like stand for what is
/// there.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct StartView {
    pub key: String,
    pub name: &'static str,
    #[cfg_attr(feature = "utoipa", schema(value_type = Object))]
    pub mm: Value,
    #[cfg_attr(feature = "utoipa", schema(value_type = Object))]
    pub inch: Value,
}

/// A line offered where geometry is clicked.
#[derive(Clone, Debug)]
pub struct OfferView {
    pub on: &'static str,
    pub words: &'static str,
    pub stem: &'static str,
    pub mm: Value,
    pub inch: Value,
}

#[derive(Clone, Debug, Serialize)]
#[serde(tag = "part", rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "utoipa", schema(no_recursion))]
pub enum PartView {
    Word {
        text: &'static str,
        /// Begins the line.
        verb: bool,
        /// Stands close to what is before it, to what comes after it.
        sign: bool,
        opening: bool,
    },
    Slot {
        path: &'static str,
        label: &'static str,
        kind: Kind,
        sign: &'static str,
        /// Stands behind it.
        after: &'static str,
        /// May be left empty.
        optional: bool,
        /// What it is then.
        empty: &'static str,
    },
    Names {
        path: &'static str,
        label: &'static str,
        kind: Kind,
        /// What none of them means.
        empty: &'static str,
        blank: bool,
    },
    Pick {
        path: &'static str,
        label: &'static str,
        options: Vec<OptionView>,
        /// Another field that an option tells as well: its value is both, parted by `|`; empty for none.
        beside: &'static str,
        usual: &'static str,
        /// Stored as no and yes.
        flag: bool,
        /// Where it is taken out, what stands beside it in its group goes too.
        leads: bool,
        /// Begins the line.
        begins: bool,
        /// Another word may be written.
        free: bool,
    },
    Union {
        path: &'static str,
        tag: &'static str,
        label: &'static str,
        cases: Vec<CaseView>,
        begins: bool,
        /// May be absent.
        optional: bool,
        /// What it is called where it is absent.
        empty: &'static str,
    },
    Clause {
        parts: Vec<PartView>,
        shown: WhenView,
        /// Without a comma before it.
        close: bool,
    },
    List {
        path: &'static str,
        label: &'static str,
        item: Vec<PartView>,
        lead: &'static str,
        least: usize,
        adds: Vec<AddView>,
        ids: Option<IdsView>,
        /// Legs with bends between: what is taken out takes its neighbour too.
        chain: bool,
    },
    Within {
        path: &'static str,
        parts: Vec<PartView>,
    },
}

#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct OptionView {
    pub value: &'static str,
    pub words: &'static str,
    /// Only a folded panel has it.
    pub folded: bool,
}

#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "utoipa", schema(no_recursion))]
pub struct CaseView {
    pub tag: &'static str,
    pub words: &'static str,
    pub parts: Vec<PartView>,
    /// What it says when it is just chosen.
    #[cfg_attr(feature = "utoipa", schema(value_type = Object))]
    pub mm: Value,
    #[cfg_attr(feature = "utoipa", schema(value_type = Object))]
    pub inch: Value,
}

#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct AddView {
    pub name: &'static str,
    #[cfg_attr(feature = "utoipa", schema(value_type = Vec<Object>))]
    pub mm: Value,
    #[cfg_attr(feature = "utoipa", schema(value_type = Vec<Object>))]
    pub inch: Value,
}

#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct IdsView {
    /// Items of this kind go by the first list, all others by the second; empty where all go by the second.
    pub lettered: &'static str,
    /// Usual ids in their order: an item gets the first that no other has.
    pub letters: Vec<String>,
    pub usual: Vec<String>,
}

/// More items than a list of a line has in practice; those behind get an id by hand.
const IDS_TOLD: usize = 300;

#[derive(Clone, Debug, Serialize)]
#[serde(tag = "when", rename_all = "snake_case")]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub enum WhenView {
    Always,
    Is { path: &'static str, of: &'static [&'static str] },
    IsNot { path: &'static str, of: &'static [&'static str] },
    Told { path: &'static str },
    NotTold { path: &'static str },
    AtLeast { path: &'static str, count: usize },
    Never,
}

/// The verbs of a bench.
pub fn describe(bench: &Bench) -> Vec<VerbView> {
    bench.verbs.iter().map(|r| verb(bench, r.verb)).collect()
}

/// All that is offered where geometry is clicked.
pub fn offers(bench: &Bench) -> Vec<OfferView> {
    let of = |v: &'static Verb| {
        v.offers.iter().map(move |o| OfferView {
            on: o.on,
            words: o.words,
            stem: v.stem,
            mm: said(bench, o.mm),
            inch: said(bench, o.inch),
        })
    };
    bench.verbs.iter().flat_map(|r| of(r.verb)).collect()
}

/// What a text of this bench says; `$` names stand for what will be put there.
fn said(bench: &Bench, text: &str) -> Value {
    let told = text.strip_suffix(" $place");
    let context = Context { last_cut: "$cut".into(), ..Context::default() };
    let mut value = read(bench, told.unwrap_or(text), &context).unwrap_or(Value::Null);
    if told.is_some() && value.is_object() {
        value["place"] = "$place".into();
    }
    value
}

fn verb(bench: &Bench, v: &'static Verb) -> VerbView {
    let start = |s: &'static super::Start| StartView {
        key: s.key.to_string(),
        name: s.name,
        mm: said(bench, s.mm),
        inch: said(bench, s.inch),
    };
    let (pattern, clauses) = super::pattern(v);
    VerbView {
        pattern,
        clauses,
        tag: v.tag,
        stem: v.stem,
        about: v.about,
        role: v.role,
        starts: v.starts.iter().map(start).collect(),
        sentence: views(v.sentence),
        examples: v.examples,
    }
}

fn views(parts: &'static [Part]) -> Vec<PartView> {
    let silent = |p: &&Part| {
        matches!(p, Part::Clause(c) if c.typed_only)
            || matches!(p, Part::Word(w) if w.kind == WordKind::Heard)
    };
    parts.iter().filter(|p| !silent(p)).map(view).collect()
}

fn view(part: &'static Part) -> PartView {
    match part {
        Part::Word(w) => PartView::Word {
            text: read_out(w.words),
            verb: w.kind == WordKind::Verb,
            sign: w.kind == WordKind::Sign,
            opening: w.kind == WordKind::Opening,
        },
        Part::Slot(s) => match s.shown {
            When::Always => slot(s),
            shown => PartView::Clause { parts: vec![slot(s)], shown: when(shown), close: true },
        },
        Part::Names(n) => PartView::Names {
            path: n.path,
            label: n.label,
            kind: n.kind,
            empty: read_out(n.empty.unwrap_or_default()),
            blank: n.blank,
        },
        Part::Pick(p) => PartView::Pick {
            path: p.path,
            label: p.label,
            options: p
                .options
                .iter()
                .map(|o| OptionView { value: o.0, words: read_out(o.1), folded: p.folded.contains(&o.0) })
                .collect(),
            beside: p.beside,
            usual: p.usual,
            flag: p.flag,
            leads: p.leads,
            begins: p.begins,
            free: !p.other.is_empty(),
        },
        Part::Union(u) => PartView::Union {
            path: u.path,
            tag: u.tag,
            label: u.label,
            cases: u.cases.iter().map(|c| case(u.tag, c)).collect(),
            begins: u.begins,
            optional: u.optional,
            empty: u.empty,
        },
        Part::Clause(c) => PartView::Clause { parts: views(c.parts), shown: when(c.shown), close: c.close },
        Part::List(l) => PartView::List {
            path: l.path,
            label: l.label,
            item: views(l.item),
            lead: read_out(l.lead),
            least: l.least,
            adds: l
                .adds
                .iter()
                .map(|a| AddView {
                    name: a.0,
                    mm: items(l.item, l.ids, a.1),
                    inch: items(l.item, l.ids, a.2),
                })
                .collect(),
            ids: (l.ids != Ids::None).then(|| {
                let told = |first: bool| (0..IDS_TOLD).map(|n| l.ids.candidate(first, n)).collect();
                match l.ids {
                    Ids::Profile(lettered) => IdsView { lettered, letters: told(true), usual: told(false) },
                    _ => IdsView { lettered: "", letters: Vec::new(), usual: told(false) },
                }
            }),
            chain: l.chain,
        },
        Part::Within(path, parts) => PartView::Within { path, parts: views(parts) },
    }
}

fn slot(s: &Slot) -> PartView {
    PartView::Slot {
        path: s.path,
        label: s.label,
        kind: s.kind,
        sign: s.sign,
        after: s.ways.map_or(
            if s.kind == Kind::Angle && s.empty.is_none_or(str::is_empty) { "°" } else { "" },
            |w| w.0,
        ),
        optional: s.empty.is_some() || !s.usual.is_empty(),
        empty: s.empty.map(read_out).filter(|e| !e.is_empty()).unwrap_or(s.usual),
    }
}

fn when(w: When) -> WhenView {
    match w {
        When::Always => WhenView::Always,
        When::Is(path, of) => WhenView::Is { path, of },
        When::IsNot(path, of) => WhenView::IsNot { path, of },
        When::Told(path) => WhenView::Told { path },
        When::NotTold(path) => WhenView::NotTold { path },
        When::AtLeast(path, count) => WhenView::AtLeast { path, count },
        When::Never => WhenView::Never,
    }
}

fn case(tag: &'static str, c: &'static Case) -> CaseView {
    let usual = |text: &str| {
        let mut value = super::read::parts_alone(c.parts, text);
        value[tag] = c.tag.into();
        value
    };
    CaseView {
        tag: c.tag,
        words: read_out(c.words),
        parts: views(c.parts),
        mm: usual(c.usual[0]),
        inch: usual(c.usual[1]),
    }
}

/// Items of a list, parted by `;`.
fn items(item: &'static [Part], ids: Ids, text: &str) -> Value {
    let mut out: Vec<Value> = Vec::new();
    for one in text.split(';') {
        let mut value = super::read::parts_alone(item, one);
        if ids != Ids::None {
            value["id"] = "".into();
        }
        out.push(value);
    }
    out.into()
}
