//! The words of a typed line, each with where it stands.

use crate::quantity::Fault;

/// A word of the line with where it stands, in characters.
pub(crate) struct Word {
    pub text: String,
    pub at: (usize, usize),
}

pub(crate) struct Words {
    pub list: Vec<Word>,
    pub at: usize,
    end: usize,
    /// What can be typed, for messages.
    /// A line as it should be; empty until the verb is known.
    pub example: &'static str,
}

impl Words {
    pub fn new(text: &str) -> Self {
        let mut out = Words::plain(text, &['×']);
        out.list.retain(|w| !matches!(w.text.as_str(), "x" | "by" | "a" | "the" | "with" | "and"));
        out
    }

    /// Every word as it stands; `also` splits words besides spaces, commas and colons.
    pub fn plain(text: &str, also: &[char]) -> Self {
        let mut list: Vec<Word> = Vec::new();
        let mut word = String::new();
        let mut start = 0;
        let end = text.chars().count();
        for (i, c) in text.chars().chain([' ']).enumerate() {
            let splits = c.is_whitespace() || c == ',' || c == ':' || also.contains(&c);
            if !splits {
                if word.is_empty() {
                    start = i;
                }
                word.push(c);
                continue;
            }
            if !word.is_empty() {
                list.push(Word { text: std::mem::take(&mut word), at: (start, i) });
            }
        }
        // A mixed fraction is one value: `5 1/2`.
        let whole = |w: &Word| w.text.chars().all(|c| c.is_ascii_digit());
        let part = |w: &Word| w.text.split_once('/').is_some_and(|(a, b)| a.parse::<u32>().is_ok() && b.starts_with(|c: char| c.is_ascii_digit()));
        for i in (1..list.len()).rev() {
            if whole(&list[i - 1]) && part(&list[i]) && list[i - 1].at.1 + 1 == list[i].at.0 {
                let end = list.remove(i);
                list[i - 1].text += &format!(" {}", end.text);
                list[i - 1].at.1 = end.at.1;
            }
        }
        Words { list, at: 0, end, example: "" }
    }

    pub fn peek(&self) -> Option<&str> {
        self.list.get(self.at).map(|w| w.text.as_str())
    }

    pub fn next(&mut self) -> Option<String> {
        let w = self.list.get(self.at)?.text.clone();
        self.at += 1;
        Some(w)
    }

    pub fn take(&mut self, word: &str) -> bool {
        let hit = self.peek().is_some_and(|w| w.eq_ignore_ascii_case(word));
        self.at += usize::from(hit);
        hit
    }

    pub fn fault(&self, message: impl Into<String>, mend: impl Into<String>) -> Fault {
        let at = self.list.get(self.at).map_or((self.end, self.end), |w| w.at);
        Fault::new(message, mend, at)
    }

    /// The mend of a line that does not go on as it should.
    pub fn such_as(&self) -> String {
        if self.example.is_empty() { "write it as the line's help shows".into() } else { format!("write it such as: {}", self.example) }
    }

    /// A value: a word that starts with a digit, a sign, a bracket, or names a figure.
    pub fn value(&mut self, what: &str) -> Result<String, Fault> {
        match self.peek() {
            Some(_) => Ok(self.next().unwrap_or_default()),
            None => Err(self.fault(format!("{what} is missing"), self.such_as())),
        }
    }
}
