//! Group codes of a DXF file: a number that says what follows, and a value, each on a line.

/// A number with its point, never in powers of ten.
pub fn real(v: f64) -> String {
    let text = format!("{}", if v == 0.0 { 0.0 } else { v });
    if text.contains('.') { text } else { format!("{text}.0") }
}

/// Only what every reader knows: other letters by their number, no codes of the format's own.
pub fn text(t: &str) -> String {
    let mut out = String::new();
    for c in t.chars() {
        match c {
            '^' => out.push_str("^ "),
            ' '..='~' => out.push(c),
            c if c.is_control() => out.push(' '),
            c if (c as u32) < 0x10000 => out.push_str(&format!("\\U+{:04X}", c as u32)),
            _ => out.push('?'),
        }
    }
    out
}

pub fn add(to: &mut String, code: i32, value: &str) {
    to.push_str(&format!("{code:>3}\r\n{value}\r\n"));
}

pub fn numbers(to: &mut String, pairs: &[(i32, f64)]) {
    pairs.iter().for_each(|(code, v)| add(to, *code, &real(*v)));
}

pub fn whole(to: &mut String, pairs: &[(i32, i64)]) {
    pairs.iter().for_each(|(code, v)| add(to, *code, &v.to_string()));
}

pub fn texts(to: &mut String, pairs: &[(i32, &str)]) {
    pairs.iter().for_each(|(code, v)| add(to, *code, v));
}

pub fn hex(h: u32) -> String {
    format!("{h:X}")
}
