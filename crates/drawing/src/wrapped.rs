//! Texts in lines.

/// A text in lines of at most so many characters, broken at its gaps.
pub fn broken(text: &str, most: usize) -> Vec<String> {
    let mut out = vec![String::new()];
    for word in text.split(' ') {
        let line = out.last().map_or(0, |l| l.chars().count());
        if line > 0 && line + 1 + word.chars().count() > most {
            out.push(String::new());
        }
        if let Some(l) = out.last_mut() {
            if !l.is_empty() {
                l.push(' ');
            }
            l.push_str(word);
        }
    }
    out
}
