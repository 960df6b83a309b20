//! What a line says → its sentence: short, as it is typed, with the usual left out; or whole, as it is read
//! out.

use serde_json::Value;

use super::parse::NOTHING;
use super::read::read;
use super::scan::{Scan, in_quotes, is_designation, is_letter, is_plain_name, is_screw};
use super::signs::{gauge, is_plain_number};
use super::{
    Bench, Context, Ids, Kind, List, Names, Part, Pick, Ready, Slot, Union, When, WordKind, read_out, told,
    typed,
};
use ground::quantity;

/// A printed line, and which of its characters are which field.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Printed {
    pub text: String,
    pub spans: Vec<Span>,
}

/// The field at a JSON pointer of the line, and the bytes of the text that say it.
#[derive(Clone, Debug, PartialEq)]
pub struct Span {
    pub path: String,
    pub from: usize,
    pub to: usize,
}

/// The short form: read again it says the same. None where the line is none of this bench.
pub fn print(bench: &Bench, say: &Value, context: &Context) -> Option<Printed> {
    let ready = bench.of_line(say)?;
    let plain = printed(ready, say, context, false, false);
    // A value that begins with a word could be taken for a word of the sentence: in quotes it cannot.
    let again = || read(bench, &plain.out.text, context).ok().and_then(|v| (bench.normal)(&v));
    if plain.doubtful && again() != (bench.normal)(say) {
        return Some(printed(ready, say, context, false, true).out);
    }
    Some(plain.out)
}

/// The whole sentence, with what is usual.
pub fn print_long(bench: &Bench, say: &Value, context: &Context) -> Option<Printed> {
    let ready = bench.of_line(say)?;
    Some(printed(ready, say, context, true, false).out)
}

fn printed<'a>(
    ready: &'a Ready,
    say: &Value,
    context: &'a Context,
    long: bool,
    careful: bool,
) -> Printer<'a> {
    let mut p =
        Printer { out: Printed::default(), ready, context, long, careful, close: true, doubtful: false };
    p.parts(ready.verb.sentence, say, "");
    p
}

struct Printer<'a> {
    out: Printed,
    ready: &'a Ready,
    context: &'a Context,
    long: bool,
    /// Every value that begins with a letter in quotes.
    careful: bool,
    /// What comes next stands close to what is before it.
    close: bool,
    /// A value begins with a word.
    doubtful: bool,
}

/// The first way to say it where it is read out, the second where it is typed.
fn way(words: &str, long: bool) -> &str {
    if long { read_out(words) } else { typed(words) }
}

impl Printer<'_> {
    fn add(&mut self, text: &str) {
        if text.is_empty() {
            return;
        }
        if !self.close && !text.starts_with(',') {
            self.out.text.push(' ');
        }
        self.close = false;
        self.out.text.push_str(text);
    }

    fn field(&mut self, path: String, text: &str) {
        if !self.close && !text.is_empty() {
            self.out.text.push(' ');
        }
        self.close = text.is_empty() && self.close;
        let from = self.out.text.len();
        self.out.text.push_str(text);
        self.out.spans.push(Span { path, from, to: self.out.text.len() });
    }

    fn parts(&mut self, parts: &'static [Part], at: &Value, pre: &str) {
        self.parts_in(parts, at, pre, false);
    }

    /// `within`: behind other parts of the same sentence.
    fn parts_in(&mut self, parts: &'static [Part], at: &Value, pre: &str, within: bool) {
        // A new node's name and the first of its steps are one breath.
        let mut named = false;
        for (i, part) in parts.iter().enumerate() {
            let fresh = named;
            let silent =
                matches!(part, Part::Clause(_)) || matches!(part, Part::Word(w) if w.kind == WordKind::Heard);
            if !silent {
                named = matches!(part, Part::Slot(s) if s.kind == Kind::NewNode);
            }
            match part {
                Part::Word(w) => match w.kind {
                    WordKind::Aloud if !self.long => {}
                    WordKind::Heard => {}
                    WordKind::Sign => {
                        self.out.text.push_str(w.words);
                        self.close = w.words == "°";
                    }
                    WordKind::Opening => {
                        self.add(w.words);
                        self.close = true;
                    }
                    _ => self.add(way(w.words, self.long)),
                },
                Part::Slot(s) => self.slot(s, at, pre),
                Part::Names(n) => self.names(n, at, pre),
                Part::Pick(p) => self.pick(p, at, pre),
                Part::Union(u) => self.union(u, at, pre),
                Part::List(l) => self.list(l, at, pre),
                Part::Within(path, inner) => {
                    self.parts_in(inner, sub(at, path), &format!("{pre}{path}"), i > 0)
                }
                Part::Clause(c) => {
                    let here = if self.long { holds(c.shown, at) } else { holds(c.only, at) };
                    let wanted = if self.long {
                        here || (matches!(c.only, When::Always) && told_by(c.parts, at))
                    } else {
                        here && (c.needed || told_by(c.parts, at))
                    };
                    if c.typed_only || !wanted {
                        continue;
                    }
                    // The first clause of a line follows its words without a comma where it is a part of the
                    // same breath.
                    let after = |w: &super::Word| matches!(w.kind, WordKind::Opening | WordKind::Verb);
                    let first = i == 0 && !within;
                    named = false;
                    let breath = c.close
                        || first
                        || fresh
                        || i > 0 && matches!(&parts[i - 1], Part::Word(w) if after(w));
                    if !breath
                        && !matches!(c.parts.first(), Some(Part::Word(w)) if w.kind == WordKind::Sign)
                        && !self.close
                    {
                        self.out.text.push(',');
                    }
                    self.parts(c.parts, at, pre);
                }
            }
        }
    }

    fn slot(&mut self, s: &Slot, at: &Value, pre: &str) {
        let text = told(at, s.path);
        let usual = is_usual(s, at);
        let needed = s.empty.is_none() && s.usual.is_empty();
        if !self.long && usual && !needed && s.ways.is_none() {
            return;
        }
        let path = format!("{pre}{}", s.path);
        if text.is_empty() && (s.empty.is_some() || !s.usual.is_empty()) && self.long {
            let shown = s.empty.filter(|e| !e.is_empty()).unwrap_or(s.usual);
            return self.field(path, &format!("{}{}", if s.empty.is_some() { "" } else { s.sign }, shown));
        }
        let mut text = text;
        let mut after = "";
        if let Some((plus, minus)) = s.ways {
            after = plus;
            if let Some(rest) = text.strip_prefix('-').filter(|r| is_plain_number(r)) {
                (text, after) = (rest, minus);
            }
        }
        let shown = self.value(s.kind, s.empty, text);
        // A letter right behind the R would be a part of its word.
        let apart =
            s.sign == "R" && !shown.starts_with(|c: char| c.is_ascii_digit() || matches!(c, '(' | '"' | '.'));
        let shown = format!("{}{}{shown}", s.sign, if apart { " " } else { "" });
        self.field(path, &shown);
        self.add(way(after, self.long));
    }

    /// A text so that it is read as the same.
    fn value(&mut self, kind: Kind, empty: Option<&str>, text: &str) -> String {
        let begins = text.starts_with(|c: char| c.is_alphabetic() || c == '_');
        let first = text.split(|c: char| !(c.is_alphanumeric() || c == '_')).next().unwrap_or_default();
        let reserved = begins && reserved_name(self.ready, first);
        if kind == Kind::Thickness && gauge(&mut Scan { text, at: 0 }).is_some_and(|g| g == text) {
            return text.to_string();
        }
        if kind.is_value() {
            self.doubtful |= begins;
            let whole =
                quantity::scan(text) == Some(text.len()) && !text.contains('×') && text == text.trim();
            let fits = whole
                && !reserved
                && !(begins && self.careful)
                && empty.is_none_or(|e| {
                    !e.split('|').any(|e| e == text && !e.starts_with(|c: char| c.is_ascii_digit()))
                });
            let turned =
                kind == Kind::Angle && text.strip_suffix('°').is_some_and(|b| is_plain_number(b.trim_end()));
            // `R360 1/4` is one number: a fraction of a degree stands apart.
            let fraction = text.trim_start_matches(|c: char| c.is_ascii_digit());
            let glued = kind == Kind::Angle && fraction.len() < text.len() && fraction.starts_with('/');
            return match (fits && !turned && !glued, kind == Kind::Angle && is_plain_number(text)) {
                (true, true) => format!("{text}°"),
                (true, false) => text.to_string(),
                _ => in_quotes(text),
            };
        }
        let words_ok =
            |t: &str| t.split(' ').all(|w| !w.is_empty() && !self.ready.reserved.contains(&w.to_lowercase()));
        match kind {
            Kind::Text => in_quotes(text),
            Kind::Material if is_designation(text) && !self.ready.reserved.contains(&text.to_lowercase()) => {
                text.to_string()
            }
            Kind::Section
                if words_ok(text)
                    && text.contains(|c: char| c.is_ascii_digit())
                    && !text.contains([',', '"'])
                    && !text.ends_with('.') =>
            {
                text.to_string()
            }
            Kind::Section => in_quotes(text),
            Kind::Screw | Kind::Thread
                if is_screw(text) && !self.ready.reserved.contains(&text.to_lowercase()) =>
            {
                text.to_string()
            }
            Kind::Screw | Kind::Thread => in_quotes(text),
            Kind::Letter if is_letter(text) && !self.ready.reserved.contains(&text.to_lowercase()) => {
                text.to_string()
            }
            Kind::Letter => in_quotes(text),
            k if k.is_geometry() => match self.context.brief(text).filter(|b| is_plain_name(b)) {
                Some(b) if !(reserved_name(self.ready, b) && self.careful) => b.to_string(),
                _ => in_quotes(text),
            },
            _ if is_plain_name(text) && !(self.careful && reserved_name(self.ready, text)) => {
                self.doubtful |= reserved_name(self.ready, text);
                text.to_string()
            }
            _ => in_quotes(text),
        }
    }

    fn names(&mut self, n: &Names, at: &Value, pre: &str) {
        let list: Vec<&str> = at
            .pointer(n.path)
            .and_then(Value::as_array)
            .into_iter()
            .flatten()
            .filter_map(Value::as_str)
            .collect();
        let path = format!("{pre}{}", n.path);
        if list.is_empty() {
            if let Some(empty) = n.empty {
                if self.long {
                    self.field(path, way(empty, true));
                }
            } else {
                self.field(path, NOTHING);
            }
            return;
        }
        let mut told: Vec<String> = Vec::with_capacity(list.len());
        for name in list {
            if n.kind.is_value() {
                told.push(self.value(n.kind, None, name));
                continue;
            }
            let short = if n.kind.is_geometry() { self.context.brief(name) } else { Some(name) };
            let free = |s: &str| n.kind.takes(s).unwrap_or_else(|| !reserved_name(self.ready, s));
            let plain = |s: &&str| n.kind != Kind::Text && is_plain_name(s) && free(s);
            told.push(short.filter(plain).map_or_else(|| in_quotes(name), str::to_string));
        }
        let quoted = told.iter().any(|t| t.starts_with('"'));
        let text = match told.split_last() {
            _ if !n.blank && quoted => told.join(" and "),
            Some((last, rest)) if !n.blank && !rest.is_empty() => format!("{} and {last}", rest.join(", ")),
            _ => told.join(" "),
        };
        self.field(path, &text);
    }

    fn pick(&mut self, p: &Pick, at: &Value, pre: &str) {
        let value = picked(p, at);
        if p.quiet && !self.long && value == p.usual {
            return;
        }
        let words = p.options.iter().find(|o| o.0 == value).map(|o| way(o.1, self.long));
        self.field(format!("{pre}{}", p.path), words.unwrap_or(p.other));
    }

    fn union(&mut self, u: &Union, at: &Value, pre: &str) {
        let inner = sub(at, u.path);
        let tag = told(inner, &format!("/{}", u.tag)).to_string();
        let Some(case) = u.cases.iter().find(|c| c.tag == tag).or(u.cases.first()) else { return };
        if u.quiet && !self.long && !union_told(u, at) {
            return;
        }
        let path = format!("{pre}{}", u.path);
        let words = way(case.words, self.long);
        if !words.is_empty() {
            self.field(format!("{path}/{}", u.tag), words);
        }
        self.parts(case.parts, inner, &path);
    }

    fn list(&mut self, l: &List, at: &Value, pre: &str) {
        let items = at.pointer(l.path).and_then(Value::as_array).map(Vec::as_slice).unwrap_or_default();
        let mut namer = l.ids.namer();
        for (i, item) in items.iter().enumerate() {
            if i > 0 && !l.between.is_empty() {
                self.out.text.push_str(l.between);
            }
            if i == 0 && !l.lead.is_empty() && !self.close {
                self.out.text.push(',');
            }
            self.add(way(l.lead, self.long));
            if l.ids != Ids::None {
                let id = told(item, "/id");
                let usual = namer.usual(item);
                namer.take(id);
                if id != usual {
                    let plain =
                        !id.is_empty() && id.chars().all(|c| c.is_alphanumeric() || matches!(c, '-' | '_'));
                    self.add(&if plain { id.to_string() } else { in_quotes(id) });
                    self.out.text.push(':');
                }
            }
            self.parts(l.item, item, &format!("{pre}{}/{i}", l.path));
        }
    }
}

/// Whether a slot holds what it holds when nothing is told.
fn is_usual(s: &Slot, at: &Value) -> bool {
    match at.pointer(s.path).and_then(Value::as_str) {
        None => true,
        Some(text) => text == s.usual || s.said.iter().any(|o| o.0 == text),
    }
}

fn reserved_name(ready: &Ready, name: &str) -> bool {
    // A name goes on over dashes: only the whole of it is a word.
    ready.reserved.contains(name)
        || (name.contains(char::is_uppercase) && ready.reserved.contains(&name.to_lowercase()))
}

fn sub<'a>(at: &'a Value, path: &str) -> &'a Value {
    if path.is_empty() { at } else { at.pointer(path).unwrap_or(&Value::Null) }
}

/// What is picked, as its option is called.
pub(super) fn picked(p: &Pick, at: &Value) -> String {
    if !p.beside.is_empty() {
        let usual = p.usual.split_once('|').unwrap_or((p.usual, ""));
        let or = |path: &str, usual: &str| {
            let text = told(at, path);
            if text.is_empty() { usual.to_string() } else { text.to_string() }
        };
        let both = format!("{}|{}", or(p.path, usual.0), or(p.beside, usual.1));
        // What is told beside a word that has no use for it says nothing.
        let first = or(p.path, usual.0);
        let known = |v: &str| p.options.iter().any(|o| o.0 == v);
        let plain = p.options.iter().find(|o| o.0.split('|').next() == Some(&first)).map(|o| o.0.to_string());
        return if known(&both) { both } else { plain.unwrap_or(both) };
    }
    match at.pointer(p.path) {
        Some(Value::String(s)) if !s.is_empty() => s.clone(),
        Some(Value::Bool(b)) => b.to_string(),
        _ => p.usual.to_string(),
    }
}

/// Whether parts say anything but the usual.
pub(super) fn told_by(parts: &'static [Part], at: &Value) -> bool {
    parts.iter().any(|part| match part {
        Part::Word(_) => false,
        Part::Slot(s) => !is_usual(s, at),
        Part::Names(n) => at.pointer(n.path).and_then(Value::as_array).is_some_and(|l| !l.is_empty()),
        Part::Pick(p) => picked(p, at) != p.usual,
        Part::Union(u) => union_told(u, at),
        Part::Clause(c) => !c.typed_only && told_by(c.parts, at),
        Part::List(l) => at.pointer(l.path).and_then(Value::as_array).is_some_and(|l| !l.is_empty()),
        Part::Within(path, inner) => told_by(inner, sub(at, path)),
    })
}

fn union_told(u: &Union, at: &Value) -> bool {
    let inner = sub(at, u.path);
    let tag = told(inner, &format!("/{}", u.tag));
    match u.cases.first() {
        Some(first) if u.quiet && (tag.is_empty() || tag == first.tag) => told_by(first.parts, inner),
        _ => !tag.is_empty(),
    }
}

pub(super) fn holds(when: When, at: &Value) -> bool {
    match when {
        When::Always => true,
        When::Never => false,
        When::Is(path, of) => of.contains(&told(at, path)),
        When::IsNot(path, of) => !of.contains(&told(at, path)),
        When::Told(path) => !told(at, path).is_empty(),
        When::NotTold(path) => told(at, path).is_empty(),
        When::AtLeast(path, n) => at.pointer(path).and_then(Value::as_array).is_some_and(|l| l.len() >= n),
    }
}
