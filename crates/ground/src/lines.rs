//! Lines as a piece or a frame tells them: each with a name of its own, of letters that no path of a name
//! needs; their faults in their order.

use std::collections::{HashMap, HashSet};

use serde::Serialize;

use crate::finding::LineFault;
use crate::quantity::Fault;
use crate::reader::{Reader, Tell};

/// A line that is told.
pub trait TellsLine: Serialize {
    fn id(&self) -> &str;

    /// Kept, but not carried out.
    fn is_off(&self) -> bool;
}

/// The longest name of a line.
const MOST: usize = 60;

/// What may stand in a name: a `.` tells parts, a `#` copies, a `/` corners.
fn fits(c: char) -> bool {
    c.is_alphanumeric() || matches!(c, '-' | '_')
}

/// Lines that are carried out, each with its place among all. One whose name is not its own is told, and left
/// out.
pub fn carried_out<'l, L: TellsLine>(reader: &mut Reader, lines: &'l [L]) -> Vec<(usize, &'l L)> {
    let mut seen = HashSet::new();
    let told = lines.iter().enumerate().filter(|(_, l)| !l.is_off());
    told.filter(|(_, l)| own_name(reader, &mut seen, l.id())).collect()
}

/// What is wrong with a line's name; `taken` tells whether another line has it.
pub fn wrong_name(id: &str, taken: impl FnOnce() -> bool) -> Option<Fault> {
    let letters = "letters, digits, - and _";
    let (message, mend) = if id.is_empty() {
        ("the line has no name".to_string(), format!("give it one of {letters}, such as punch-1"))
    } else if id.chars().count() > MOST {
        (format!("the name of the line is longer than {MOST} letters"), "shorten it".to_string())
    } else if let Some(c) = id.chars().find(|c| !fits(*c)) {
        let other: String = id.chars().map(|c| if fits(c) { c } else { '-' }).collect();
        (format!("'{c}' cannot stand in the name of a line"), format!("use {letters}: {other}"))
    } else if taken() {
        (format!("two lines are called '{id}'"), "give this one another name".to_string())
    } else {
        return None;
    };
    Some(Fault::new(message, mend, (0, id.chars().count())))
}

/// Whether a line's name is its own; told with the mend where it is not.
fn own_name(reader: &mut Reader, seen: &mut HashSet<String>, id: &str) -> bool {
    let Some(fault) = wrong_name(id, || !seen.insert(id.to_string())) else { return true };
    reader.enter(id);
    reader.fault("/id", fault);
    false
}

/// Faults in the order of the lines, those of the whole itself first.
pub fn settled<L: TellsLine>(tell: Tell, whole: &impl Serialize, lines: &[L]) -> Vec<LineFault> {
    let place: HashMap<&str, usize> = lines.iter().enumerate().rev().map(|(i, l)| (l.id(), i + 1)).collect();
    let line_of = |id: &str| place.get(id).and_then(|i| lines.get(i - 1));
    let mut faults = tell.settled(|id, path| match line_of(id) {
        Some(line) => text_at(line, path),
        None => text_at(whole, path),
    });
    faults.sort_by_key(|f| place.get(f.line.as_str()).copied().unwrap_or(0));
    faults
}

/// The text at a JSON pointer of what is told; none where no text stands.
fn text_at(told: &impl Serialize, pointer: &str) -> Option<String> {
    serde_json::to_value(told).ok()?.pointer(pointer)?.as_str().map(str::to_string)
}
