//! Names of lines: each its own, of letters that no path of a name needs.

use std::collections::HashSet;

use crate::reader::Reader;

/// The longest name of a line.
const MOST: usize = 60;

/// What may stand in a name: a `.` tells parts, a `#` copies, a `/` corners.
fn fits(c: char) -> bool {
    c.is_alphanumeric() || matches!(c, '-' | '_')
}

/// Whether a line's name is its own; told with the mend where it is not.
pub fn own_name(reader: &mut Reader, seen: &mut HashSet<String>, id: &str) -> bool {
    let letters = "letters, digits, - and _";
    let wrong = if id.is_empty() {
        Some(("the line has no name".to_string(), format!("give it one of {letters}, such as punch-1")))
    } else if id.chars().count() > MOST {
        Some((format!("the name of the line is longer than {MOST} letters"), "shorten it".to_string()))
    } else if let Some(c) = id.chars().find(|c| !fits(*c)) {
        let other: String = id.chars().map(|c| if fits(c) { c } else { '-' }).collect();
        Some((format!("'{c}' cannot stand in the name of a line"), format!("use {letters}: {other}")))
    } else if !seen.insert(id.to_string()) {
        Some((format!("two lines are called '{id}'"), "give this one another name".to_string()))
    } else {
        None
    };
    let Some((message, mend)) = wrong else { return true };
    reader.enter(id);
    reader.refuse("/id", id, message, mend);
    false
}
