//! The manual of what can be said, from the verbs' own description.

use std::fmt::Write;

use steelk_core::grammar::{Bench, describe};
use steelk_core::starts::{Size, beginnings};
use steelk_core::verbs::{BRIEF, FRAME, PIECE};

const HEAD: &str = "# What can be said

Every line of a piece, a frame or a brief is a sentence: read whole on the screen, typed short. This \
page is printed from the same description
(`steelk verbs`). In braces stands a value or a name, in brackets what may be left out, between strokes one \
of several; clauses may follow in
any order, parted by commas. What is usual is left out.

- A value is a number in the unit of the piece (degrees where an angle stands), a figure's name, or a sum: \
`40`, `1 1/2in`, `5'-3 1/4\"`, `2*t + bolt`.
  `15 in` is 15 inches. What could be taken for a word stands in quotes: `\"wide\"`.
- Names of geometry are paths: `fold-1.north.tip`; what the start made needs no `start-1.`: `north`.
- `lip: fold north up 90°, 15` gives the line a name; `off` before it switches it off; `-- because` behind \
it is a remark.
";

/// The page.
pub fn verbs() -> String {
    let mut out = HEAD.to_string();
    beginnings_in(&mut out);
    for (title, bench) in [("Pieces", &*PIECE), ("Frames", &*FRAME), ("Briefs", &*BRIEF)] {
        let _ = write!(out, "\n## {title}\n");
        part(&mut out, bench);
    }
    out
}

/// What an empty bench offers.
fn beginnings_in(out: &mut String) {
    let _ = write!(
        out,
        "\n## What to begin with\n\nAn empty piece or frame is begun from a picture: a few sizes, which make \
         ordinary lines. Behind each size what it is at first, in mm and in inches.\n"
    );
    for (title, frame) in [("piece", false), ("frame", true)] {
        let _ = write!(out, "\n| {title} | key | sizes |\n|---|---|---|\n");
        for b in beginnings().filter(|b| b.is_frame() == frame) {
            let size = |s: &Size| format!("{} {} {} ({})", s.letter, s.name, s.mm, s.inch);
            let sizes: Vec<String> = b.sizes.iter().map(size).collect();
            let key = b.key.to_uppercase();
            let _ = writeln!(out, "| {}: {} | **{key}** | {} |", b.name, lowered(b.about), sizes.join("; "));
        }
    }
}

fn lowered(text: &str) -> String {
    text.trim_end_matches('.')
        .chars()
        .enumerate()
        .map(|(i, c)| if i == 0 { c.to_ascii_lowercase() } else { c })
        .collect()
}

fn part(out: &mut String, bench: &Bench) {
    for v in describe(bench) {
        let keys: Vec<String> =
            v.starts.iter().map(|s| format!("{} **{}**", s.name, s.key.to_uppercase())).collect();
        let keys = if keys.is_empty() { String::new() } else { format!(" Keys: {}.", keys.join(", ")) };
        let _ = write!(out, "\n### {}\n\n{}{keys}\n\n    {}\n", v.tag.replace('_', " "), v.about, v.pattern);
        for c in &v.clauses {
            let _ = writeln!(out, "      , {c}");
        }
        let _ = writeln!(out, "\nFor example:\n");
        for e in v.examples {
            let _ = writeln!(out, "    {e}");
        }
    }
}
