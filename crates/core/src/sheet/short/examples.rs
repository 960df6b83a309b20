//! What to show somebody whose line is not understood: the verb that was probably meant, with one example.

/// Example lines, a verb's own first.
pub struct Examples(pub &'static [&'static str]);

impl Examples {
    fn verbs(&self) -> Vec<&'static str> {
        let mut out: Vec<&str> = Vec::new();
        for verb in self.0.iter().filter_map(|e| e.split(' ').next()) {
            if !out.contains(&verb) {
                out.push(verb);
            }
        }
        out
    }

    /// The example of a verb.
    pub fn of(&self, verb: &str) -> Option<&'static str> {
        self.0.iter().copied().find(|e| e.split(' ').next() == Some(verb))
    }

    /// What to do about a word that begins no line.
    pub fn nearest(&self, typed: &str) -> String {
        let typed = typed.to_lowercase();
        let near = |verb: &str| {
            let begins = typed.len() > 1 && (verb.starts_with(&typed) || typed.starts_with(verb));
            if begins { 0 } else { steps(&typed, verb) }
        };
        let best = self.verbs().into_iter().map(|v| (near(v), v)).min();
        match best.filter(|(far, verb)| *far <= 1 + verb.len() / 4).and_then(|(_, verb)| self.of(verb)) {
            Some(example) => format!("did you mean: {example}"),
            None => format!("begin with one of {}", self.verbs().join(", ")),
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

#[cfg(test)]
mod tests {
    use super::*;

    const SOME: Examples = Examples(&["plate 260 x 140", "hole 9 at 15 from west", "hem north closed 12", "hole 9"]);

    #[test]
    fn a_word_that_was_nearly_right_is_answered_by_its_verb() {
        assert_eq!(SOME.nearest("hloe"), "did you mean: hole 9 at 15 from west");
        assert_eq!(SOME.nearest("plates"), "did you mean: plate 260 x 140");
        assert_eq!(SOME.nearest("HEMM"), "did you mean: hem north closed 12");
        assert_eq!(SOME.nearest("bulkhead"), "begin with one of plate, hole, hem");
        assert_eq!((steps("kitten", "sitting"), steps("", "abc"), steps("abc", "abc")), (3, 3, 0));
    }
}
