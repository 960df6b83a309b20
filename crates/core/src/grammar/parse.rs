//! A typed line → what it says, as it is stored. Clauses may stand in any order; what was expected at the furthest place that
//! could be read is what a fault tells, and what completion offers.

use std::collections::HashSet;

use serde_json::{Map, Value};

use super::scan::Scan;
use super::{Bench, Case, Clause, Context, Ids, Kind, List, Names, Part, Pick, Ready, Slot, Union, When, WordKind};
use crate::quantity::Fault;

/// The longest line that is read.
pub const LONGEST: usize = 4000;

/// What could have come next.
#[derive(Clone, Debug, PartialEq)]
pub enum Expected {
    Words(&'static str),
    Value { label: &'static str, kind: Kind },
}

/// A list that must name something and names nothing.
pub(super) const NOTHING: &str = "nothing";

/// How far a line could be read.
pub struct Reading<'a> {
    scan: Scan<'a>,
    reserved: &'a HashSet<String>,
    context: &'a Context,
    out: Vec<(String, Value)>,
    /// The furthest place where something was missing, and what.
    pub far: usize,
    pub expected: Vec<Expected>,
    /// Clauses that the line must have, and where they could have stood.
    needed: Vec<(usize, &'static Clause, String)>,
}

/// A line of a bench → its verb and what it says, ready to be stored.
pub fn read(bench: &Bench, text: &str, context: &Context) -> Result<Value, Fault> {
    let chars = text.chars().count();
    if chars > LONGEST {
        return Err(Fault::new(format!("the line is longer than {LONGEST} characters"), "split it", (LONGEST, chars)));
    }
    if text.trim().is_empty() {
        return Err(Fault::new("the line is empty", nearest(bench, ""), (0, chars)));
    }
    let mut best: Option<(usize, Fault)> = None;
    let lead = text.len() - text.trim_start().len();
    for ready in &bench.verbs {
        let (made, reading) = try_verb(ready, text, context);
        match made {
            Some(value) => return Ok(value),
            // A line that did not get past its verb's own words is another verb's.
            None if reading.far <= lead => {}
            None => {
                let fault = reading.fault(text, ready);
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
        Fault::new(format!("no line starts with '{shown}'"), nearest(bench, &first), (start, start + shown.chars().count()))
    }))
}

pub(super) fn try_verb<'a>(ready: &'a Ready, text: &'a str, context: &'a Context) -> (Option<Value>, Reading<'a>) {
    let mut r = Reading {
        scan: Scan { text, at: 0 },
        reserved: &ready.reserved,
        context,
        out: Vec::new(),
        far: 0,
        expected: Vec::new(),
        needed: Vec::new(),
    };
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
        r.expected.insert(0, Expected::Value { label, kind: Kind::Text });
        return (None, r);
    }
    let mut value = Value::Object(Map::new());
    value["verb"] = ready.verb.tag.into();
    for (path, v) in std::mem::take(&mut r.out) {
        put(&mut value, &path, v);
    }
    (Some(value), r)
}

/// Writes a value at a path whose parts are made as they are needed; numbers are places in lists.
pub fn put(at: &mut Value, path: &str, value: Value) {
    let mut here = at;
    for key in path.split('/').skip(1) {
        here = match key.parse::<usize>() {
            Ok(i) => {
                if !here.is_array() {
                    *here = Value::Array(Vec::new());
                }
                let Value::Array(list) = here else { return };
                while list.len() <= i {
                    list.push(Value::Null);
                }
                &mut list[i]
            }
            Err(_) => {
                if !here.is_object() {
                    *here = Value::Object(Map::new());
                }
                let Value::Object(map) = here else { return };
                map.entry(key.to_string()).or_insert(Value::Null)
            }
        };
    }
    *here = value;
}

impl Reading<'_> {
    fn expect(&mut self, what: Expected) {
        let mut at = self.scan;
        at.skip();
        if at.at > self.far {
            self.far = at.at;
            self.expected.clear();
        }
        if at.at == self.far && !self.expected.contains(&what) {
            self.expected.push(what);
        }
    }

    /// Parts one after another; what may be left out is tried both ways.
    fn seq(&mut self, parts: &'static [Part], pre: &str) -> bool {
        let Some((part, rest)) = parts.split_first() else { return true };
        if let Part::Clause(_) = part {
            let n = parts.iter().take_while(|p| matches!(p, Part::Clause(_))).count();
            self.clauses(&parts[..n], pre);
            return self.seq(&parts[n..], pre);
        }
        let mark = (self.scan, self.out.len());
        if self.one(part, pre) {
            if self.seq(rest, pre) {
                return true;
            }
            self.scan = mark.0;
            self.out.truncate(mark.1);
        }
        may_lack(part) && self.seq(rest, pre)
    }

    /// Clauses in any order, each once; the one that reads furthest is taken.
    fn clauses(&mut self, parts: &'static [Part], pre: &str) {
        let mut left: Vec<&'static Clause> = Vec::with_capacity(parts.len());
        left.extend(parts.iter().filter_map(|p| if let Part::Clause(c) = p { Some(c) } else { None }));
        loop {
            let before = (self.scan, self.out.len());
            while self.scan.sign(",") || self.scan.sign(";") || self.scan.words("and") {}
            let start = (self.scan, self.out.len());
            let mut best: Option<(usize, usize, Vec<(String, Value)>)> = None;
            for (k, clause) in left.iter().enumerate() {
                let read = self.seq(clause.parts, pre);
                let at = self.scan.at;
                let found = self.out.split_off(start.1);
                self.scan = start.0;
                if read && at > start.0.at && best.as_ref().is_none_or(|b| at > b.1) {
                    best = Some((k, at, found));
                }
            }
            let Some((k, at, found)) = best else {
                self.scan = before.0;
                break;
            };
            self.scan.at = at;
            self.out.extend(found);
            left.remove(k);
        }
        let at = self.scan.at;
        self.needed.extend(left.into_iter().filter(|c| c.needed).map(|c| (at, c, pre.to_string())));
    }

    /// A clause that the line must have and has not, told in no other way either.
    fn missing(&self) -> Option<(usize, &'static str)> {
        self.needed.iter().find_map(|(at, clause, pre)| {
            let (path, label) = first_slot(clause.parts)?;
            let told = |path: &str| self.out.iter().find(|(p, _)| p.strip_prefix(pre.as_str()) == Some(path));
            let text = |path: &str| told(path).and_then(|t| t.1.as_str()).unwrap_or_default();
            let meant = match clause.only {
                When::Is(path, of) => of.contains(&text(path)),
                When::IsNot(path, of) => !of.contains(&text(path)),
                _ => true,
            };
            (meant && told(path).is_none()).then_some((*at, label))
        })
    }

    fn one(&mut self, part: &'static Part, pre: &str) -> bool {
        match part {
            Part::Word(w) => {
                let hit = match w.kind {
                    WordKind::Sign | WordKind::Opening => self.scan.sign(w.words),
                    _ => self.scan.any_of(w.words),
                };
                if !hit && !matches!(w.kind, WordKind::Aloud | WordKind::Heard | WordKind::Sign) {
                    self.expect(Expected::Words(w.words));
                }
                hit
            }
            Part::Slot(s) => self.slot(s, pre),
            Part::Names(n) => self.names(n, pre),
            Part::Pick(p) => self.pick(p, pre),
            Part::Union(u) => self.union(u, pre),
            Part::List(l) => self.list(l, pre),
            Part::Within(path, parts) => self.seq(parts, &format!("{pre}{path}")),
            Part::Clause(_) => false,
        }
    }

    fn write(&mut self, pre: &str, path: &str, value: impl Into<Value>) {
        self.out.push((format!("{pre}{path}"), value.into()));
    }

    fn slot(&mut self, s: &'static Slot, pre: &str) -> bool {
        let expected = Expected::Value { label: s.label, kind: s.kind };
        let mut at = self.scan;
        let signed = s.sign.is_empty() || sign(&mut at, s.sign);
        if let Some(empty) = s.empty
            && !empty.starts_with(|c: char| c.is_ascii_digit())
            && at.any_of(empty)
        {
            self.scan = at;
            self.write(pre, s.path, "");
            return true;
        }
        if !signed {
            // What has an R has it: a bare number beside an angle is a length.
            if s.sign == "R" {
                self.expect(expected);
                return false;
            }
            at = self.scan;
        }
        let Some(text) = self.text(&mut at, s.kind) else {
            self.expect(expected);
            return false;
        };
        self.scan = at;
        let Some((plus, minus)) = s.ways else {
            self.write(pre, s.path, text);
            return true;
        };
        if self.scan.any_of(minus) {
            let plain = text.bytes().all(|b| b.is_ascii_digit() || b == b'.');
            self.write(pre, s.path, if plain { format!("-{text}") } else { format!("-({text})") });
            return true;
        }
        if !self.scan.any_of(plus) {
            self.expect(Expected::Words(plus));
            self.expect(Expected::Words(minus));
            return false;
        }
        self.write(pre, s.path, text);
        true
    }

    /// A text of this kind, as it is stored.
    fn text(&self, at: &mut Scan, kind: Kind) -> Option<String> {
        if let Some(quoted) = at.quoted() {
            return Some(quoted.into_owned());
        }
        if kind.is_value() {
            let first = at.peek_word();
            if !first.is_empty() && first.starts_with(char::is_alphabetic) && self.is_reserved(first) {
                return None;
            }
            let found = at.value()?;
            let bare = if kind == Kind::Angle { found.strip_suffix('°').map(str::trim_end) } else { None };
            return Some(bare.filter(|b| is_plain_number(b)).unwrap_or(found).to_string());
        }
        match kind {
            Kind::Section => self.section(at),
            Kind::Text => None,
            k if k.is_geometry() => at.name().map(|n| self.context.whole(n)),
            _ => at.name().map(str::to_string),
        }
    }

    fn is_reserved(&self, word: &str) -> bool {
        self.reserved.contains(word) || word.chars().any(char::is_uppercase) && self.reserved.contains(&word.to_lowercase())
    }

    /// Words up to a comma or a word of the sentence.
    fn section(&self, at: &mut Scan) -> Option<String> {
        let begin = {
            let mut s = *at;
            s.skip();
            s.at
        };
        let mut end = begin;
        loop {
            let mut s = Scan { text: at.text, at: end };
            s.skip();
            let rest = s.rest();
            let n = rest.find([' ', ',']).unwrap_or(rest.len());
            let word = rest[..n].trim_end_matches('.');
            if word.is_empty() || self.is_reserved(word) {
                break;
            }
            end = s.at + word.len();
        }
        let found = at.text[begin..end].trim();
        // A word without a size is more likely one that is not understood; an own section of that name stands in quotes.
        found.contains(|c: char| c.is_ascii_digit()).then(|| {
            at.at = end;
            found.to_string()
        })
    }

    fn names(&mut self, n: &'static Names, pre: &str) -> bool {
        let mut found: Vec<Value> = Vec::new();
        if self.scan.any_of(n.empty.unwrap_or(NOTHING)) {
            self.write(pre, n.path, found);
            return true;
        }
        loop {
            let mut at = self.scan;
            let mut joined = found.is_empty() || n.blank;
            if !found.is_empty() {
                loop {
                    if at.words("and") {
                        joined = true;
                    } else if !n.blank && at.sign(",") {
                        joined = false;
                    } else {
                        break;
                    }
                }
            }
            let mut next = at;
            // Behind a comma alone a text in quotes may be a value.
            let quoted = if joined { next.quoted() } else { None };
            let name = match quoted {
                Some(q) => Some(q.into_owned()),
                None => next.name().filter(|w| !self.is_reserved(w)).map(|w| {
                    if n.kind.is_geometry() { self.context.whole(w) } else { w.to_string() }
                }),
            };
            let Some(name) = name else { break };
            found.push(name.into());
            self.scan = next;
            if n.exactly == Some(found.len()) {
                break;
            }
        }
        self.expect(Expected::Value { label: n.label, kind: n.kind });
        if found.is_empty() && n.kind == Kind::Cut && !self.context.last_cut.is_empty() {
            found.push(self.context.last_cut.clone().into());
        }
        if found.is_empty() && n.empty.is_none() || n.exactly.is_some_and(|e| e != found.len()) {
            return false;
        }
        self.write(pre, n.path, found);
        true
    }

    fn pick(&mut self, p: &'static Pick, pre: &str) -> bool {
        let start = self.scan;
        let mut best: Option<(usize, &'static str)> = None;
        for (value, words) in p.options {
            let mut at = start;
            if at.any_of(words) && best.is_none_or(|b| at.at > b.0) {
                best = Some((at.at, value));
            }
        }
        for (_, words) in p.options.iter().filter(|o| !o.1.is_empty()) {
            self.expect(Expected::Words(words));
        }
        let other = (!p.other.is_empty()).then(|| {
            let mut at = start;
            at.any_of(p.other).then_some((at.at, ""))
        });
        let Some((at, value)) = best.or(other.flatten()) else { return false };
        self.scan.at = at;
        match value {
            // The empty word is what is told by saying nothing.
            "" => {}
            v if p.flag => self.write(pre, p.path, v == "true"),
            v => self.write(pre, p.path, v),
        }
        true
    }

    fn union(&mut self, u: &'static Union, pre: &str) -> bool {
        let mark = (self.scan, self.out.len());
        let inner = format!("{pre}{}", u.path);
        let mut best: Option<(usize, &'static Case, Vec<(String, Value)>)> = None;
        for case in u.cases {
            // An empty way to say it: its values say it.
            let hit = self.scan.any_of(case.words) || case.words.split('|').any(str::is_empty);
            if !hit {
                self.expect(Expected::Words(case.words));
            } else if self.seq(case.parts, &inner) && best.as_ref().is_none_or(|b| self.scan.at > b.0) {
                best = Some((self.scan.at, case, self.out.split_off(mark.1)));
            }
            self.scan = mark.0;
            self.out.truncate(mark.1);
        }
        let Some((at, case, found)) = best else { return false };
        self.scan.at = at;
        self.write(&inner, &format!("/{}", u.tag), case.tag);
        self.out.extend(found);
        true
    }

    fn list(&mut self, l: &'static List, pre: &str) -> bool {
        let mut items: Vec<Value> = Vec::new();
        loop {
            let mark = (self.scan, self.out.len());
            if !items.is_empty() || !l.lead.is_empty() {
                while self.scan.sign(",") || self.scan.sign(";") {}
            }
            if !l.lead.is_empty() && !self.scan.any_of(l.lead) {
                self.expect(Expected::Words(l.lead));
                self.scan = mark.0;
                break;
            }
            // An own name: `web: 260`.
            let mut named = None;
            if l.ids != Ids::None {
                let mut at = self.scan;
                let id = at.quoted().map(|q| q.into_owned()).or_else(|| item_name(&mut at));
                if let Some(id) = id
                    && at.sign(":")
                {
                    named = Some(id);
                    self.scan = at;
                }
            }
            let start = self.scan.at;
            let read = self.seq(l.item, "");
            let found = self.out.split_off(mark.1);
            if !read || self.scan.at == start {
                self.scan = mark.0;
                break;
            }
            let mut item = Value::Object(Map::new());
            for (path, v) in found {
                put(&mut item, &path, v);
            }
            if l.ids != Ids::None {
                item["id"] = named.unwrap_or_else(|| l.ids.next(&items, &item)).into();
            }
            items.push(item);
        }
        if items.len() < l.least {
            return false;
        }
        if !items.is_empty() {
            self.write(pre, l.path, items);
        }
        true
    }

    fn fault(&self, text: &str, ready: &Ready) -> Fault {
        let chars = |b: usize| text[..b.min(text.len())].chars().count();
        let rest = text[self.far.min(text.len())..].trim();
        let word: String = rest.split([' ', ',']).next().unwrap_or_default().chars().take(30).collect();
        let from = chars(self.far);
        let such = ready.verb.examples.first().map_or(String::new(), |e| format!("write it such as: {e}"));
        let wanted: Vec<String> = self.expected.iter().filter_map(Expected::said).take(6).collect();
        let mend = if wanted.is_empty() { such } else { format!("here may stand {}; {such}", wanted.join(", ")) };
        let label = self.expected.iter().find_map(|e| if let Expected::Value { label, .. } = e { Some(*label) } else { None });
        match (word.is_empty(), label) {
            (true, Some(label)) => Fault::new(format!("the {label} is missing"), mend, (from, from)),
            (true, None) => Fault::new("the line goes on", mend, (from, from)),
            (false, _) => {
                let to = from + word.chars().count();
                Fault::new(format!("'{word}' is not understood here"), mend, (from, to))
            }
        }
    }
}

impl Expected {
    /// How it is called in a message.
    pub fn said(&self) -> Option<String> {
        match self {
            Expected::Words(w) => {
                let mut ways = w.split('|');
                let first = ways.next().unwrap_or_default();
                let short = ways.next().unwrap_or(first);
                (!short.is_empty()).then(|| format!("'{short}'"))
            }
            Expected::Value { label, .. } => Some(format!("the {label}")),
        }
    }
}

/// `R`, `⌀` or another sign right before a value.
fn sign(at: &mut Scan, sign: &str) -> bool {
    if sign == "R" {
        let mut next = *at;
        next.skip();
        let rest = next.rest();
        let follows = |c: char| c.is_ascii_digit() || matches!(c, ' ' | '.' | '(' | '"');
        if rest.starts_with(['R', 'r']) && rest[1..].starts_with(follows) {
            at.at = next.at + 1;
            return true;
        }
        return at.words("radius");
    }
    let ways: &[&str] = if sign == "⌀" { &["⌀", "ø", "Ø"] } else { &[sign] };
    ways.iter().any(|w| at.sign(w)) || (sign == "⌀" && (at.words("dia") || at.words("diameter")))
}

/// The name of an item: letters, digits, `-` and `_`, beginning with any of them.
fn item_name(at: &mut Scan) -> Option<String> {
    at.skip();
    let rest = at.rest();
    let n = rest.char_indices().find(|(_, c)| !(c.is_alphanumeric() || matches!(c, '-' | '_'))).map_or(rest.len(), |(i, _)| i);
    at.at += n;
    (n > 0).then(|| rest[..n].to_string())
}

/// Whether a line is whole without this part.
fn may_lack(part: &Part) -> bool {
    match part {
        Part::Word(w) => matches!(w.kind, WordKind::Aloud | WordKind::Heard | WordKind::Printed | WordKind::Sign),
        Part::Slot(s) => s.empty.is_some() || !s.usual.is_empty(),
        Part::Names(n) => n.empty.is_some(),
        Part::Pick(p) => p.quiet || p.lacks,
        Part::Union(u) => u.quiet,
        Part::List(l) => l.least == 0,
        Part::Within(..) | Part::Clause(_) => false,
    }
}

fn first_slot(parts: &'static [Part]) -> Option<(&'static str, &'static str)> {
    parts.iter().find_map(|p| match p {
        Part::Slot(s) => Some((s.path, s.label)),
        Part::Names(n) => Some((n.path, n.label)),
        Part::Union(u) => Some((u.path, u.label)),
        Part::List(l) => Some((l.path, l.label)),
        _ => None,
    })
}

pub(super) fn is_plain_number(text: &str) -> bool {
    let digits = |s: &str| s.bytes().all(|b| b.is_ascii_digit());
    match text.split_once('.') {
        Some((a, b)) => !a.is_empty() && !b.is_empty() && digits(a) && digits(b),
        None => !text.is_empty() && digits(text),
    }
}

/// What to do about a word that begins no line: the verb that was probably meant, with one example.
pub(super) fn nearest(bench: &Bench, typed: &str) -> String {
    let verbs: Vec<(String, &'static str)> = bench
        .verbs
        .iter()
        .flat_map(|r| r.verb.examples.iter().map(|e| (Scan { text: e, at: 0 }.peek_word().to_lowercase(), *e)))
        .collect();
    let near = |verb: &str| {
        let begins = typed.len() > 1 && (verb.starts_with(typed) || typed.starts_with(verb));
        if begins { 0 } else { steps(typed, verb) }
    };
    let best = verbs.iter().map(|(verb, example)| (near(verb), verb, example)).min_by_key(|b| b.0);
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

/// What parts say that stand alone, such as one item of a list; nothing where they do not read.
pub(super) fn parts_alone(parts: &'static [Part], text: &str) -> Value {
    let (reserved, context) = (super::part::words_of(parts), Context::default());
    let scan = Scan { text, at: 0 };
    let mut r =
        Reading { scan, reserved: &reserved, context: &context, out: Vec::new(), far: 0, expected: Vec::new(), needed: Vec::new() };
    let mut value = Value::Object(Map::new());
    if r.seq(parts, "") {
        for (path, v) in std::mem::take(&mut r.out) {
            put(&mut value, &path, v);
        }
    }
    value
}
