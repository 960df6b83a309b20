//! A job, a piece or a frame as a text that a person reads, compares and keeps: printed from the same
//! sentences that the screen shows, and read back as the same. Numbers of ids that are not in use any more
//! are not told.

mod heads;
mod settings;
mod views;

use serde_json::{Map, Value, json};

pub use self::views::{SettingView, UsualView, new_doc, new_job, settings};

use self::settings::{BENCH, SETTINGS};
use super::{Brief, FORMAT, Frame, Job, Piece};
use std::collections::HashSet;

use brief::verbs::BRIEF;
use frame::verbs::FRAME;
use grammar::{
    Bench, Context, Numbers, Part, Scan, TextFault, TextLine, print, print_lines, read, read_lines,
};
use ground::quantity::Fault;
use sheet::verbs::PIECE;

const INDENT: &str = "  ";

/// Lines told under the head of a piece or frame.
fn told(lines: &Value) -> Vec<TextLine> {
    let text = |l: &Value, f: &str| l.get(f).and_then(Value::as_str).unwrap_or_default().to_string();
    let one = |l: &Value| TextLine {
        id: text(l, "id"),
        off: l.get("off").and_then(Value::as_bool).unwrap_or_default(),
        note: text(l, "note"),
        group: text(l, "group"),
        say: l.get("say").cloned().unwrap_or_default(),
    };
    lines.as_array().into_iter().flatten().map(one).collect()
}

/// A line of a setting.
fn setting(tag: &str, value: &Value) -> String {
    let mut say = value.clone();
    say["verb"] = tag.into();
    print(&BENCH, &say, &Context::default()).map(|p| p.text).unwrap_or_default()
}

fn of_piece(value: &Value) -> String {
    format!("{}\n{}", setting("piece", value), print_lines(&PIECE, &told(&value["lines"]), INDENT))
}

fn of_frame(value: &Value) -> String {
    let mut out = setting("frame", value) + "\n";
    for heading in value["columns"].as_array().into_iter().flatten() {
        out += &format!("{INDENT}{}\n", setting("column", &json!({ "heading": heading })));
    }
    for row in value["rows"].as_array().into_iter().flatten() {
        out += &format!("{INDENT}{}\n", setting("row", row));
    }
    out + &print_lines(&FRAME, &told(&value["lines"]), INDENT)
}

fn of_brief(value: &Value) -> String {
    let mut out =
        format!("{}\n{}", setting("brief", value), print_lines(&BRIEF, &told(&value["lines"]), INDENT));
    for measured in value["measured"].as_array().into_iter().flatten() {
        out += &format!("{INDENT}{}\n", setting("measured", measured));
    }
    out
}

/// A piece as a text; its id is told where it is asked for.
pub fn print_piece(piece: &Piece, id: bool) -> String {
    let mut value = serde_json::to_value(piece).unwrap_or_default();
    if !id {
        value["id"] = "".into();
    }
    of_piece(&value)
}

/// A frame as a text.
pub fn print_frame(frame: &Frame, id: bool) -> String {
    let mut value = serde_json::to_value(frame).unwrap_or_default();
    if !id {
        value["id"] = "".into();
    }
    of_frame(&value)
}

/// A brief as a text.
pub fn print_brief(brief: &Brief, id: bool) -> String {
    let mut value = serde_json::to_value(brief).unwrap_or_default();
    if !id {
        value["id"] = "".into();
    }
    of_brief(&value)
}

/// A whole job as a text.
pub fn print_job(job: &Job) -> String {
    let value = serde_json::to_value(job).unwrap_or_default();
    let mut out = setting("job", &value) + "\n";
    for s in &SETTINGS {
        let of = &value[s.list];
        match s.list {
            "" | "pieces" | "frames" | "briefs" | "columns" | "rows" | "measured" => {}
            "brake" | "saw" | "drawings" if of.is_object() => {
                out += &format!("{}\n", setting(s.verb.tag, of))
            }
            _ => of
                .as_array()
                .into_iter()
                .flatten()
                .for_each(|v| out += &format!("{}\n", setting(s.verb.tag, v))),
        }
    }
    for piece in value["pieces"].as_array().into_iter().flatten() {
        out += &format!("\n{}", of_piece(piece));
    }
    for frame in value["frames"].as_array().into_iter().flatten() {
        out += &format!("\n{}", of_frame(frame));
    }
    for brief in value["briefs"].as_array().into_iter().flatten() {
        out += &format!("\n{}", of_brief(brief));
    }
    for (list, of) in [("pieces", of_piece as fn(&Value) -> String), ("frames", of_frame)] {
        for doc in value["archive"][list].as_array().into_iter().flatten() {
            let mut doc = doc.clone();
            doc["archived"] = true.into();
            out += &format!("\n{}", of(&doc));
        }
    }
    out
}

/// The lines below a head.
struct Block {
    list: &'static str,
    value: Value,
    text: String,
    /// Lines of the text before the first of the block's own.
    before: usize,
}

impl Block {
    /// The piece or frame with its lines.
    fn done(mut self, out: &mut Map<String, Value>, faults: &mut Vec<TextFault>) {
        let bench: &Bench = match self.list {
            "pieces" => &PIECE,
            "frames" => &FRAME,
            _ => &BRIEF,
        };
        let (lines, wrong) = read_lines(bench, &self.text);
        faults.extend(wrong.into_iter().map(|f| TextFault { line: f.line + self.before, ..f }));
        let stored = |l: TextLine| {
            let mut line = json!({ "id": l.id, "say": l.say });
            if l.off {
                line["off"] = true.into();
            }
            if !l.note.is_empty() {
                line["note"] = l.note.into();
            }
            if !l.group.is_empty() {
                line["group"] = l.group.into();
            }
            line
        };
        self.value["lines"] = lines.into_iter().map(stored).collect();
        let archived = self.value.as_object_mut().and_then(|v| v.remove("archived"));
        if archived == Some(true.into()) {
            let archive = out.entry("archive").or_insert_with(|| json!({}));
            if let Some(archive) = archive.as_object_mut() {
                push(archive, self.list, self.value);
            }
        } else {
            push(out, self.list, self.value);
        }
    }
}

fn push(map: &mut Map<String, Value>, list: &str, value: Value) {
    if let Some(list) = map.entry(list).or_insert_with(|| json!([])).as_array_mut() {
        list.push(value);
    }
}

/// The setting that a line begins with, by the words of its sentence.
fn begins(line: &str) -> Option<&'static settings::Setting> {
    SETTINGS.iter().find(|s| {
        let Some(Part::Word(begins)) = s.verb.sentence.first() else { return false };
        let mut scan = Scan { text: line, at: 0 };
        // `saw: hole 9` is a line that is called so.
        scan.any_of(begins.words) && !scan.sign(":")
    })
}

/// A text → what it holds as stored: the job's own fields, and its pieces and frames.
fn read_blocks(text: &str) -> (Map<String, Value>, Vec<TextFault>) {
    let mut out = Map::new();
    let mut faults = Vec::new();
    let mut block: Option<Block> = None;
    for (i, line) in text.lines().enumerate() {
        let at = i + 1;
        // Within a piece or frame only what is no verb of it is a setting: `section` is, `bend` is not.
        let Some(found) = begins(line) else {
            match &mut block {
                Some(b) => {
                    b.text.push_str(line);
                    b.text.push('\n');
                }
                None if line.trim().is_empty() || line.trim_start().starts_with("--") => {}
                None => faults.push(lost(at, line)),
            }
            continue;
        };
        let mut value = match read(&BENCH, line, &Context::default()) {
            Ok(v) => v,
            Err(fault) => {
                faults.push(TextFault { line: at, fault });
                continue;
            }
        };
        if let Some(map) = value.as_object_mut() {
            map.remove("verb");
        }
        match (found.list, &mut block) {
            ("columns", Some(b)) if b.list == "frames" => {
                if let Some(map) = b.value.as_object_mut() {
                    push(map, "columns", value["heading"].clone());
                }
                b.text.push('\n');
            }
            ("rows", Some(b)) if b.list == "frames" => {
                if let Some(map) = b.value.as_object_mut() {
                    push(map, "rows", value);
                }
                b.text.push('\n');
            }
            ("measured", Some(b)) if b.list == "briefs" => {
                if let Some(map) = b.value.as_object_mut() {
                    push(map, "measured", value);
                }
                b.text.push('\n');
            }
            ("pieces" | "frames" | "briefs", _) => {
                if let Some(b) = block.take() {
                    b.done(&mut out, &mut faults);
                }
                if found.list != "briefs" && value["quantity"].as_str().is_none() {
                    value["quantity"] = "1".into();
                }
                block = Some(Block { list: found.list, value, text: String::new(), before: at });
            }
            ("columns" | "rows" | "measured", _) => faults.push(lost(at, line)),
            ("", _) => {
                if let Value::Object(map) = value {
                    out.extend(map);
                }
            }
            ("brake" | "saw" | "drawings", _) => {
                out.insert(found.list.into(), value);
            }
            (list, _) => push(&mut out, list, value),
        }
        // What stands between is no line of the block: its place is kept.
        if let Some(b) = block
            .as_mut()
            .filter(|b| b.before != at && !matches!(found.list, "columns" | "rows" | "measured"))
        {
            b.text.push('\n');
        }
    }
    if let Some(b) = block {
        b.done(&mut out, &mut faults);
    }
    faults.sort_by_key(|f| f.line);
    (out, faults)
}

fn lost(line: usize, text: &str) -> TextFault {
    let n = text.chars().count();
    TextFault {
        line,
        fault: Fault::new(
            "this line belongs to no piece or frame",
            "put it below a line such as: piece P-1 \"Plate\", 2 thick s235",
            (0, n),
        ),
    }
}

/// Pieces and frames without an id, or with one that is taken, get their own.
fn name_all(map: &mut Map<String, Value>) {
    let mut taken: HashSet<String> = HashSet::new();
    let mut numbers = Numbers::default();
    let mut name = |map: &mut Map<String, Value>, list: &str, stem: &str| {
        for item in map.get_mut(list).and_then(Value::as_array_mut).into_iter().flatten() {
            let id = item.get("id").and_then(Value::as_str).unwrap_or_default().to_string();
            let id = if id.is_empty() || taken.contains(&id) { numbers.next(stem) } else { id };
            numbers.note(&id);
            item["id"] = id.clone().into();
            taken.insert(id);
        }
    };
    for (list, stem) in [("pieces", "piece"), ("frames", "frame"), ("briefs", "brief")] {
        name(map, list, stem);
    }
    if let Some(archive) = map.get_mut("archive").and_then(Value::as_object_mut) {
        name(archive, "pieces", "piece");
        name(archive, "frames", "frame");
    }
}

/// A text → a job; lines that do not read are told and left out.
pub fn read_job(text: &str) -> (Job, Vec<TextFault>) {
    let (mut map, mut faults) = read_blocks(text);
    name_all(&mut map);
    map.insert("format".into(), FORMAT.into());
    map.entry("title").or_insert_with(|| "".into());
    match serde_json::from_value(Value::Object(map)) {
        Ok(job) => (job, faults),
        Err(e) => {
            faults.push(whole(text, &e.to_string()));
            (Job { format: FORMAT, ..Job::default() }, faults)
        }
    }
}

fn whole(text: &str, why: &str) -> TextFault {
    let n = text.lines().next().unwrap_or_default().chars().count();
    TextFault { line: 1, fault: Fault::new(why, "compare it with a job that is printed as text", (0, n)) }
}

/// The text of a piece or frame → the piece or frame as it is stored, without id and issued numbers; None
/// where it has no head.
fn read_one<T: serde::de::DeserializeOwned>(
    text: &str,
    list: &str,
    head: &str,
) -> (Option<T>, Vec<TextFault>) {
    let (map, mut faults) = read_blocks(text);
    let found = map.get(list).and_then(Value::as_array).map(Vec::as_slice).unwrap_or_default();
    if let [_, _, ..] = found {
        let line = text
            .lines()
            .enumerate()
            .filter(|(_, l)| begins(l).is_some_and(|s| s.list == list))
            .nth(1)
            .map_or(1, |(i, _)| i + 1);
        faults.push(TextFault {
            line,
            fault: Fault::new("this is the text of one", "bring a whole job in as a file", (0, 1)),
        });
    }
    let Some(first) = found.first() else {
        if faults.is_empty() {
            faults.push(TextFault {
                line: 1,
                fault: Fault::new(
                    format!("the {head} has no head"),
                    format!("begin with: {head} P-1 \"Name\", …"),
                    (0, 1),
                ),
            });
        }
        return (None, faults);
    };
    let mut value = first.clone();
    value["id"] = "".into();
    match serde_json::from_value(value) {
        Ok(v) => (Some(v), faults),
        Err(e) => {
            faults.push(whole(text, &e.to_string()));
            (None, faults)
        }
    }
}

/// The text of one piece.
pub fn read_piece(text: &str) -> (Option<Piece>, Vec<TextFault>) {
    read_one(text, "pieces", "piece")
}

/// The text of one brief.
pub fn read_brief(text: &str) -> (Option<Brief>, Vec<TextFault>) {
    read_one(text, "briefs", "brief")
}

/// The text of one frame.
pub fn read_frame(text: &str) -> (Option<Frame>, Vec<TextFault>) {
    read_one(text, "frames", "frame")
}
