//! Walks along a typed line: words, values, names and texts in quotes.

use std::borrow::Cow;

use ground::quantity;

#[derive(Clone, Copy, Debug)]
pub struct Scan<'a> {
    pub text: &'a str,
    /// In bytes.
    pub at: usize,
}

/// What may stand inside a name.
fn in_name(c: char) -> bool {
    c.is_alphanumeric() || matches!(c, '_' | '-' | '.' | '#' | '/' | '$')
}

fn begins_name(c: char) -> bool {
    c.is_alphabetic() || matches!(c, '_' | '$')
}

impl<'a> Scan<'a> {
    pub fn rest(&self) -> &'a str {
        &self.text[self.at..]
    }

    pub fn skip(&mut self) {
        let rest = self.rest();
        self.at += rest.len() - rest.trim_start().len();
    }

    pub fn done(&mut self) -> bool {
        self.skip();
        self.at == self.text.len()
    }

    /// A sign such as a comma.
    pub fn sign(&mut self, sign: &str) -> bool {
        let mut at = *self;
        at.skip();
        if !at.rest().starts_with(sign) {
            return false;
        }
        self.at = at.at + sign.len();
        true
    }

    /// Words as they stand, in any case and with any blanks between.
    pub fn words(&mut self, words: &str) -> bool {
        let mut at = *self;
        for word in words.split(' ') {
            at.skip();
            let rest = at.rest();
            let Some(head) = rest.get(..word.len()) else { return false };
            let foreign = || !head.is_ascii() && head.to_lowercase() == word.to_lowercase();
            if !head.eq_ignore_ascii_case(word) && !foreign() {
                return false;
            }
            let mut after = rest[word.len()..].chars();
            let next = after.next();
            let letters = word.ends_with(char::is_alphanumeric);
            // `x` may stand right before a size; a word that goes on is another word.
            let sizes = word == "x" && next.is_some_and(|c| c.is_ascii_digit() || c == '(');
            let joined = next.is_some_and(|c| c.is_alphanumeric() || c == '_')
                || (next.is_some_and(|c| matches!(c, '-' | '.' | '#' | '/'))
                    && after.next().is_some_and(char::is_alphanumeric));
            if letters && joined && !sizes {
                return false;
            }
            at.at += word.len();
        }
        self.at = at.at;
        true
    }

    /// One of several ways to say the same, parted by `|`: the longest that fits.
    pub fn any_of(&mut self, ways: &str) -> bool {
        let mut best: Option<usize> = None;
        for way in ways.split('|').filter(|w| !w.is_empty()) {
            let mut at = *self;
            if at.words(way) && best.is_none_or(|b| at.at > b) {
                best = Some(at.at);
            }
        }
        if let Some(at) = best {
            self.at = at;
        }
        best.is_some()
    }

    /// A text in quotes; a quote inside it is written `\"`.
    pub fn quoted(&mut self) -> Option<Cow<'a, str>> {
        let mut at = *self;
        at.skip();
        let rest = at.rest().strip_prefix('"')?;
        let mut out = Cow::Borrowed("");
        let mut chars = rest.char_indices();
        while let Some((i, c)) = chars.next() {
            match c {
                '"' => {
                    if let Cow::Borrowed(_) = out {
                        out = Cow::Borrowed(&rest[..i]);
                    }
                    self.at = at.at + 1 + i + 1;
                    return Some(out);
                }
                '\\' => {
                    if let Cow::Borrowed(_) = out {
                        out = Cow::Owned(rest[..i].to_string());
                    }
                    let (_, next) = chars.next()?;
                    out.to_mut().push(if next == 'n' { '\n' } else { next });
                }
                c => {
                    if let Cow::Owned(o) = &mut out {
                        o.push(c);
                    }
                }
            }
        }
        None
    }

    /// A value as a shop writes it, as far as it goes.
    pub fn value(&mut self) -> Option<&'a str> {
        let mut at = *self;
        at.skip();
        let n = quantity::scan(at.rest())?;
        let (found, behind) = at.rest().split_at(n);
        // `360 "wide"`: a mark that stands apart and has something right behind it opens a quoted text.
        let opens = |c: char| !c.is_whitespace() && !",):;+-*/".contains(c);
        let apart = found.strip_suffix('"').filter(|f| f.ends_with(char::is_whitespace));
        let found = apart.filter(|_| behind.starts_with(opens)).map_or(found, str::trim_end);
        self.at = at.at + found.len();
        Some(found)
    }

    /// The word that stands next.
    pub fn peek_word(&self) -> &'a str {
        let mut at = *self;
        at.skip();
        let rest = at.rest();
        let n = rest
            .char_indices()
            .find(|(_, c)| !(c.is_alphanumeric() || *c == '_'))
            .map_or(rest.len(), |(i, _)| i);
        &rest[..n]
    }

    /// A designation such as `1.4301` or `6061-t6`.
    pub fn designation(&mut self) -> Option<&'a str> {
        let mut at = *self;
        at.skip();
        let rest = at.rest();
        let fits = |c: char| c.is_alphanumeric() || matches!(c, '.' | '-' | '_' | '+');
        let n = rest.char_indices().find(|(_, c)| !fits(*c)).map_or(rest.len(), |(i, _)| i);
        let found = rest[..n].trim_end_matches('.');
        (!found.is_empty()).then(|| {
            self.at = at.at + found.len();
            found
        })
    }

    /// The size of a screw or thread: `M8x1`, `#8-32`, `1/4`.
    pub fn screw(&mut self) -> Option<&'a str> {
        let mut at = *self;
        at.skip();
        let rest = at.rest();
        let fits = |c: char| c.is_alphanumeric() || matches!(c, '#' | '/' | '-' | '.' | '×');
        let n = rest.char_indices().find(|(_, c)| !fits(*c)).map_or(rest.len(), |(i, _)| i);
        let found = rest[..n].trim_end_matches(['.', '-', '/', '#']);
        found.contains(|c: char| c.is_ascii_digit()).then(|| {
            self.at = at.at + found.len();
            found
        })
    }

    /// A name of a line, of geometry, of a node.
    pub fn name(&mut self) -> Option<&'a str> {
        let mut at = *self;
        at.skip();
        let rest = at.rest();
        if !rest.starts_with(begins_name) {
            return None;
        }
        let n = rest.char_indices().find(|(_, c)| !in_name(*c)).map_or(rest.len(), |(i, _)| i);
        let found = rest[..n].trim_end_matches(['.', '-', '/', '#']);
        self.at = at.at + found.len();
        Some(found)
    }
}

/// Whether a material's designation can stand as it is.
pub fn is_designation(text: &str) -> bool {
    let mut scan = Scan { text, at: 0 };
    scan.designation() == Some(text)
}

/// Whether a letter of a drawing can stand as it is.
pub fn is_letter(text: &str) -> bool {
    !text.is_empty() && text.chars().all(char::is_alphabetic)
}

/// Whether a screw's size can stand as it is.
pub fn is_screw(text: &str) -> bool {
    let mut scan = Scan { text, at: 0 };
    scan.screw() == Some(text)
}

/// Whether a name can stand as it is.
pub fn is_plain_name(name: &str) -> bool {
    let mut scan = Scan { text: name, at: 0 };
    scan.name() == Some(name)
}

/// A text in quotes.
pub fn in_quotes(text: &str) -> String {
    let mut out = String::with_capacity(text.len() + 2);
    out.push('"');
    for c in text.chars() {
        match c {
            '"' | '\\' => {
                out.push('\\');
                out.push(c);
            }
            '\n' => out.push_str("\\n"),
            c => out.push(c),
        }
    }
    out.push('"');
    out
}
