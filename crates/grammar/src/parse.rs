//! Reads the parts of a sentence along a typed line. Clauses may stand in any order; what was expected at the
//! furthest place that could be read is kept: a fault tells it, completion offers it.

use std::collections::HashSet;

use serde_json::{Map, Value};

use super::missing::may_lack;
use super::scan::{Scan, is_letter};
use super::signs::{gauge, is_plain_number, item_name, put, sign, way};
use super::{Case, Clause, Context, Ids, Kind, List, Names, Part, Pick, Slot, Union, WordKind};

/// What could have come next.
#[derive(Clone, Debug, PartialEq)]
pub enum Expected {
    Words(&'static str),
    Value { label: &'static str, kind: Kind, needed: bool },
}

/// A list that must name something and names nothing.
pub(super) const NOTHING: &str = "nothing";

/// What is stored at which path.
type Writes = Vec<(String, Value)>;

/// How far a line could be read.
pub struct Reading<'a> {
    pub scan: Scan<'a>,
    reserved: &'a HashSet<String>,
    context: &'a Context,
    pub out: Writes,
    /// The furthest place where something was missing, and what.
    pub far: usize,
    pub expected: Vec<Expected>,
    /// Within an item that a comma ends.
    tight: bool,
    /// Clauses that the line must have, and where they could have stood.
    pub(super) needed: Vec<(usize, &'static Clause, String)>,
}

impl<'a> Reading<'a> {
    pub fn new(text: &'a str, reserved: &'a HashSet<String>, context: &'a Context) -> Self {
        let scan = Scan { text, at: 0 };
        Reading {
            scan,
            reserved,
            context,
            out: Vec::new(),
            far: 0,
            expected: Vec::new(),
            tight: false,
            needed: Vec::new(),
        }
    }

    /// What was read, as it is stored.
    pub fn value(&mut self) -> Value {
        let mut value = Value::Object(Map::new());
        for (path, v) in std::mem::take(&mut self.out) {
            put(&mut value, &path, v);
        }
        value
    }

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
    pub fn seq(&mut self, parts: &'static [Part], pre: &str) -> bool {
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
            // Between items that a comma parts, a clause stands close behind its item.
            while !self.tight && (self.scan.sign(",") || self.scan.sign(";") || self.scan.words("and")) {}
            let start = (self.scan, self.out.len());
            let mut best: Option<(usize, usize, Writes)> = None;
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
        let expected =
            Expected::Value { label: s.label, kind: s.kind, needed: s.empty.is_none() && s.usual.is_empty() };
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
        let Some((plus, minus)) = s.ways else {
            let Some(text) = self.text(&mut at, s.kind) else {
                self.expect(expected);
                return false;
            };
            self.scan = at;
            self.write(pre, s.path, text);
            return true;
        };
        // `900 east`, and `east 900` as well.
        let first = way(&mut at, plus, minus);
        let Some(text) = self.text(&mut at, s.kind) else {
            self.expect(expected);
            return false;
        };
        let Some(forward) = first.or_else(|| way(&mut at, plus, minus)) else {
            self.expect(Expected::Words(plus));
            self.expect(Expected::Words(minus));
            return false;
        };
        self.scan = at;
        let plain = text.bytes().all(|b| b.is_ascii_digit() || b == b'.');
        let signed = if forward {
            text
        } else if plain {
            format!("-{text}")
        } else {
            format!("-({text})")
        };
        self.write(pre, s.path, signed);
        true
    }

    /// A text of this kind, as it is stored.
    fn text(&self, at: &mut Scan, kind: Kind) -> Option<String> {
        if let Some(quoted) = at.quoted() {
            return Some(quoted.into_owned());
        }
        if kind == Kind::Thickness
            && let Some(gauge) = gauge(at)
        {
            return Some(gauge);
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
            Kind::Material => at.designation().filter(|m| !self.is_reserved(m)).map(str::to_string),
            Kind::Screw | Kind::Thread => at.screw().filter(|s| !self.is_reserved(s)).map(str::to_string),
            Kind::Letter => at.name().filter(|n| is_letter(n) && !self.is_reserved(n)).map(str::to_string),
            Kind::Text => None,
            k if k.is_geometry() => at.name().map(|n| self.context.whole(n)),
            _ => at.name().map(str::to_string),
        }
    }

    fn is_reserved(&self, word: &str) -> bool {
        self.reserved.contains(word)
            || word.chars().any(char::is_uppercase) && self.reserved.contains(&word.to_lowercase())
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
            let n = rest.find([' ', ',', ':']).unwrap_or(rest.len());
            let word = rest[..n].trim_end_matches('.');
            if word.is_empty() || self.is_reserved(word) {
                break;
            }
            end = s.at + word.len();
        }
        let found = at.text[begin..end].trim();
        // A word without a size is more likely one that is not understood; an own section of that name stands
        // in quotes.
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
                    if at.words("and") || (n.blank && at.words("to")) {
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
                None if n.kind.is_value() => self.text(&mut next, n.kind),
                None if n.kind == Kind::Text => None,
                None => next
                    .name()
                    .filter(|w| n.kind.takes(w).unwrap_or_else(|| !self.is_reserved(w)))
                    .map(|w| if n.kind.is_geometry() { self.context.whole(w) } else { w.to_string() }),
            };
            let Some(name) = name else { break };
            // `SHS 60x60x3` behind nodes that are known is a section.
            let mut size = next;
            size.skip();
            let sized = size.rest().starts_with(|c: char| c.is_ascii_digit());
            if n.kind == Kind::Node
                && sized
                && !self.context.nodes.is_empty()
                && !self.context.nodes.contains(&name)
            {
                break;
            }
            found.push(name.into());
            self.scan = next;
        }
        self.expect(Expected::Value { label: n.label, kind: n.kind, needed: found.len() < n.least });
        if found.is_empty() && n.kind == Kind::Cut && !self.context.last_cut.is_empty() {
            found.push(self.context.last_cut.clone().into());
        }
        if found.len() < n.least {
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
        if best.is_none() {
            for (_, words) in p.options.iter().filter(|o| !o.1.is_empty()) {
                self.expect(Expected::Words(words));
            }
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
            v if !p.beside.is_empty() => {
                let (first, second) = v.split_once('|').unwrap_or((v, ""));
                self.write(pre, p.path, first);
                self.write(pre, p.beside, second);
            }
            v => self.write(pre, p.path, v),
        }
        true
    }

    fn union(&mut self, u: &'static Union, pre: &str) -> bool {
        let mark = (self.scan, self.out.len());
        let inner = format!("{pre}{}", u.path);
        // More of its own words, then more of the line: `countersunk hole for M8` is no hole of a size `M8`.
        let mut best: Option<((usize, usize), &'static Case, Writes)> = None;
        for case in u.cases {
            // An empty way to say it: its values say it.
            let hit = self.scan.any_of(case.words) || case.words.split('|').any(str::is_empty);
            let words = self.scan.at;
            if !hit {
                self.expect(Expected::Words(case.words));
            } else if self.seq(case.parts, &inner)
                && best.as_ref().is_none_or(|b| (words, self.scan.at) > b.0)
            {
                best = Some(((words, self.scan.at), case, self.out.split_off(mark.1)));
            }
            self.scan = mark.0;
            self.out.truncate(mark.1);
        }
        let Some(((_, at), case, found)) = best else { return false };
        self.scan.at = at;
        self.write(&inner, &format!("/{}", u.tag), case.tag);
        self.out.extend(found);
        true
    }

    fn list(&mut self, l: &'static List, pre: &str) -> bool {
        let mut items: Vec<Value> = Vec::new();
        let mut namer = l.ids.namer();
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
            let around = std::mem::replace(&mut self.tight, l.close);
            let read = self.seq(l.item, "");
            self.tight = around;
            let found = self.out.split_off(mark.1);
            if !read || self.scan.at == start {
                self.scan = mark.0;
                break;
            }
            let mut item = Value::Object(Map::new());
            found.into_iter().for_each(|(path, v)| put(&mut item, &path, v));
            if l.ids != Ids::None {
                let id = named.unwrap_or_else(|| namer.usual(&item));
                namer.take(&id);
                item["id"] = id.into();
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
}
