//! Several lines as a text: each with its own name where it is not the usual one, switched off or not, with a
//! remark; groups of them under a name, `== Rim`.

use std::collections::HashMap;

use serde_json::Value;

use super::scan::{Scan, in_quotes, is_plain_name};
use super::{Bench, Context, Role, print, read};
use ground::quantity::Fault;

/// A line with its name and what it says, as it is stored.
#[derive(Clone, Debug, PartialEq)]
pub struct TextLine {
    pub id: String,
    pub off: bool,
    pub note: String,
    /// The group that begins with it.
    pub group: String,
    pub say: Value,
}

/// A fault of a text: its line from 1, and the characters of that line.
#[derive(Clone, Debug, PartialEq, serde::Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct TextFault {
    pub line: usize,
    pub fault: Fault,
}

/// The most lines that are read from one text.
pub const MOST_READ: usize = 5000;

/// The highest number of each stem among ids.
#[derive(Clone, Debug, Default)]
pub struct Numbers(HashMap<String, u64>);

impl Numbers {
    pub fn of<'a>(ids: impl Iterator<Item = &'a str>) -> Self {
        let mut out = Numbers::default();
        ids.for_each(|id| out.note(id));
        out
    }

    /// An id that is in use.
    pub fn note(&mut self, id: &str) {
        if let Some((stem, n)) = numbered(id) {
            self.issued(stem, n);
        }
    }

    /// A number that was given out.
    pub fn issued(&mut self, stem: &str, n: u64) {
        let highest = self.0.entry(stem.to_string()).or_default();
        *highest = (*highest).max(n.min(1_000_000_000));
    }

    /// The id that the next line of this stem gets.
    pub fn next(&self, stem: &str) -> String {
        format!("{stem}-{}", self.0.get(stem).copied().unwrap_or_default() + 1)
    }
}

/// What an id is numbered from, and its number: `punch` and 3 of `punch-3`.
pub fn numbered(id: &str) -> Option<(&str, u64)> {
    let (stem, n) = id.rsplit_once('-')?;
    let digits = !n.is_empty() && n.bytes().all(|b| b.is_ascii_digit());
    Some((stem, if digits { n.parse().unwrap_or(u64::MAX) } else { return None }))
}

/// What a line's ids are numbered from.
fn stem(bench: &Bench, say: &Value) -> String {
    let verb = bench.of_line(say).map(|r| r.verb);
    let own = |f: &str| say.get(f).and_then(Value::as_str).filter(|s| !s.is_empty()).map(str::to_string);
    match verb {
        Some(v) if !v.stem.is_empty() => v.stem.to_string(),
        Some(_) => own("name").filter(|n| is_plain_name(n)).unwrap_or_else(|| "member".into()),
        None => "line".into(),
    }
}

/// What the lines may speak of.
pub fn context_of<'a>(bench: &Bench, lines: impl Iterator<Item = (&'a str, &'a Value)>) -> Context {
    let mut out = Context::default();
    for (id, say) in lines {
        out.ids.insert(id.to_string());
        learn(&mut out, bench, id, say);
    }
    out
}

/// What a line adds to what those below it may speak of.
fn learn(context: &mut Context, bench: &Bench, id: &str, say: &Value) {
    match bench.of_line(say).map(|r| r.verb.role) {
        Some(Role::Start) if context.start.is_empty() => context.start = id.to_string(),
        Some(Role::Cut) => context.last_cut = id.to_string(),
        Some(Role::Node) => context.nodes.extend(say.get("name").and_then(Value::as_str).map(str::to_string)),
        _ => {}
    }
}

/// What the name of a group stands behind.
const GROUP: &str = "==";

/// The lines as they are typed, one below the other, and the context they were printed in. A line of no verb
/// of the bench is left out.
pub fn print_lines(bench: &Bench, lines: &[TextLine], indent: &str) -> String {
    let context = context_of(bench, lines.iter().map(|l| (l.id.as_str(), &l.say)));
    let mut out = String::new();
    let mut numbers = Numbers::default();
    for line in lines {
        let usual = numbers.next(&stem(bench, &line.say));
        numbers.note(&line.id);
        let Some(printed) = print(bench, &line.say, &context) else { continue };
        let group = line.group.split_whitespace().collect::<Vec<_>>().join(" ");
        if !group.is_empty() {
            out.push_str(&format!("{indent}{GROUP} {group}\n"));
        }
        out.push_str(indent);
        if line.off {
            out.push_str("off ");
        }
        if line.id != usual {
            let plain = is_plain_name(&line.id) && !line.id.contains(['.', '#', '/', '$']);
            out.push_str(&if plain { line.id.clone() } else { in_quotes(&line.id) });
            out.push_str(": ");
        }
        out.push_str(&printed.text);
        for (k, note) in line.note.lines().enumerate() {
            // Its own remark stands behind it; what goes on stands below.
            out.push_str(&if k == 0 { format!(" -- {note}") } else { format!("\n{indent}  -- {note}") });
        }
        out.push('\n');
    }
    out
}

/// A text → its lines; those that do not read are told and left out.
pub fn read_lines(bench: &Bench, text: &str) -> (Vec<TextLine>, Vec<TextFault>) {
    read_lines_in(bench, text, Context::default())
}

/// The same beside lines that are there already.
pub fn read_lines_in(bench: &Bench, text: &str, beside: Context) -> (Vec<TextLine>, Vec<TextFault>) {
    let mut faults = Vec::new();
    let mut heads: Vec<Head> = Vec::new();
    let mut too_many = None;
    // A group that waits for its first line.
    let mut group: Option<(usize, &str)> = None;
    let mut bare: Vec<TextFault> = Vec::new();
    let none = |(at, name): (usize, &str)| {
        let message = format!("no line stands under '{name}'");
        let mend = "write its lines below it, or take the name out";
        TextFault { line: at, fault: Fault::new(message, mend, (0, name.chars().count())) }
    };
    for (i, raw) in text.lines().enumerate() {
        if let Some(name) = raw.trim().strip_prefix(GROUP) {
            bare.extend(group.replace((i + 1, name.trim())).map(none));
            continue;
        }
        let (body, note) = remark(raw);
        if body.trim().is_empty() {
            if let (Some(note), Some(last)) = (note, heads.last_mut()) {
                last.note.push('\n');
                last.note.push_str(note);
            }
            continue;
        }
        let named = group.take().map_or(String::new(), |g| g.1.to_string());
        heads.push(Head { group: named, ..head(i + 1, body, note.unwrap_or_default()) });
        if heads.len() > MOST_READ {
            let n = raw.chars().count();
            let message =
                format!("only {MOST_READ} lines are read from one text; this one and the rest are left out");
            too_many = heads
                .pop()
                .map(|h| TextFault { line: h.line, fault: Fault::new(message, "split it", (0, n)) });
            break;
        }
    }
    bare.extend(group.map(none));
    // Names first: a line may speak of one below it, and a name that is told shifts no other.
    let mut context = beside.clone();
    context.ids.extend(heads.iter().filter_map(|h| h.id.clone()));
    let mut out: Vec<TextLine> = Vec::new();
    for pass in [true, false] {
        out.clear();
        faults.clear();
        let mut numbers = Numbers::default();
        // A group whose first line does not read begins with the next that does.
        let mut open = String::new();
        for h in &heads {
            if !h.group.is_empty() {
                open.clone_from(&h.group);
            }
            match read(bench, h.body, &context) {
                Err(fault) => {
                    let moved = Fault { start: fault.start + h.from, end: fault.end + h.from, ..fault };
                    faults.push(TextFault { line: h.line, fault: moved });
                }
                Ok(say) => {
                    let id = h.id.clone().unwrap_or_else(|| numbers.next(&stem(bench, &say)));
                    numbers.note(&id);
                    learn(&mut context, bench, &id, &say);
                    let (note, group) = (h.note.clone(), std::mem::take(&mut open));
                    out.push(TextLine { id, off: h.off, note, group, say });
                }
            }
        }
        if pass {
            context.ids.extend(out.iter().map(|l| l.id.clone()));
            context.last_cut.clone_from(&beside.last_cut);
        }
    }
    faults.extend(bare.into_iter().chain(too_many));
    (out, faults)
}

struct Head<'a> {
    line: usize,
    off: bool,
    id: Option<String>,
    body: &'a str,
    /// Characters of the line before the body.
    from: usize,
    note: String,
    group: String,
}

/// `off`, a name before a colon, and the line.
fn head<'a>(line: usize, body: &'a str, note: &str) -> Head<'a> {
    let mut scan = Scan { text: body, at: 0 };
    let off = scan.words("off");
    let mut named = scan;
    let id = named.quoted().map(|q| q.into_owned()).or_else(|| named.name().map(str::to_string));
    let id = id.filter(|_| named.sign(":"));
    if id.is_some() {
        scan = named;
    }
    scan.skip();
    Head {
        line,
        off,
        id,
        body: &body[scan.at..],
        from: body[..scan.at].chars().count(),
        note: note.trim().to_string(),
        group: String::new(),
    }
}

/// What stands before ` -- `, and the remark behind it; not within quotes.
fn remark(line: &str) -> (&str, Option<&str>) {
    let mut quoted = false;
    let bytes = line.as_bytes();
    let mut i = 0;
    while i < bytes.len() {
        match bytes[i] {
            // An inch mark stands behind a digit and opens no quotes.
            b'"' if quoted
                || i == 0
                || matches!(bytes[i - 1], b' ' | b',' | b'(' | b'R')
                || !bytes[i - 1].is_ascii_digit() =>
            {
                quoted = !quoted;
            }
            b'\\' if quoted => i += 1,
            b'-' if !quoted && line[i..].starts_with("--") && (i == 0 || bytes[i - 1] == b' ') => {
                return (&line[..i], Some(line[i + 2..].trim()));
            }
            _ => {}
        }
        i += 1;
    }
    (line, None)
}
