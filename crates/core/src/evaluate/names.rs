//! Marks and names by which a shop tells pieces apart: each has one, and no two the same.

use std::collections::HashMap;

use crate::job::Job;
use ground::quantity::Fault;
use sheet::result::LineFault;

/// Characters of a mark, and of a name or title.
const MOST_MARK: usize = 40;
const MOST_NAME: usize = 160;

/// Pieces and frames without a mark, with the mark or id of another, or with names that no list can show.
pub(crate) fn unclear_names(job: &Job) -> Vec<LineFault> {
    let mut out = Vec::new();
    let mut tell = |path: String, message: String, mend: &str| {
        out.push(LineFault { line: String::new(), path, fault: Fault::new(message, mend, (0, 0)) })
    };
    let told = job.pieces.iter().enumerate().flat_map(|(i, p)| {
        let at = format!("/pieces/{i}");
        [
            (format!("{at}/finish"), "finish", &p.mark, &p.finish),
            (format!("{at}/assembly"), "assembly", &p.mark, &p.assembly),
        ]
    });
    let of_frames = job.frames.iter().enumerate();
    let told = told
        .chain(of_frames.map(|(i, f)| (format!("/frames/{i}/assembly"), "assembly", &f.mark, &f.assembly)));
    for (path, what, mark, text) in told {
        let n = text.chars().count();
        if n > MOST_NAME {
            tell(
                path,
                format!("the {what} of '{mark}' is {n} characters long; {MOST_NAME} is the most"),
                "shorten it",
            );
        }
    }
    let pieces =
        job.pieces.iter().enumerate().map(|(i, p)| (format!("/pieces/{i}"), &p.id, &p.mark, &p.name));
    let frames =
        job.frames.iter().enumerate().map(|(i, f)| (format!("/frames/{i}"), &f.id, &f.mark, &f.name));
    let mut marks: HashMap<String, String> = HashMap::new();
    let mut ids: HashMap<(bool, &str), String> = HashMap::new();
    for (at, id, mark, name) in pieces.chain(frames) {
        let called: String = [mark.trim(), name.trim()]
            .into_iter()
            .filter(|t| !t.is_empty())
            .collect::<Vec<_>>()
            .join(" ")
            .chars()
            .take(60)
            .collect();
        let called = if called.is_empty() { id.clone() } else { called };
        for (field, text, most) in [("mark", mark, MOST_MARK), ("name", name, MOST_NAME)] {
            let n = text.chars().count();
            if n > most {
                tell(
                    format!("{at}/{field}"),
                    format!("the {field} of '{called}…' is {n} characters long; {most} is the most"),
                    "shorten it",
                );
            }
        }
        if mark.trim().is_empty() {
            tell(
                format!("{at}/mark"),
                format!("'{called}' has no mark"),
                "give it one, such as P-101, so that lists and papers can name it",
            );
        } else if let Some(other) = marks.insert(mark.trim().to_lowercase(), called.clone()) {
            tell(
                format!("{at}/mark"),
                format!("'{}' is the mark of two: '{other}' and '{called}'", mark.trim()),
                "give one of them another mark",
            );
        }
        if let Some(other) = ids.insert((at.starts_with("/p"), id.as_str()), called.clone()) {
            tell(
                format!("{at}/id"),
                format!("'{other}' and '{called}' have the same id '{id}'"),
                "copy one of them as a new piece and take the old one out",
            );
        }
    }
    for (field, text) in [("title", &job.title), ("number", &job.number), ("customer", &job.customer)] {
        let n = text.chars().count();
        if n > MOST_NAME {
            tell(
                format!("/{field}"),
                format!("the {field} is {n} characters long; {MOST_NAME} is the most"),
                "shorten it",
            );
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::job::Piece;

    #[test]
    fn marks_that_are_missing_shared_or_endless_are_told_with_both_names() {
        let piece = |id: &str, mark: &str, name: &str| Piece {
            id: id.into(),
            mark: mark.into(),
            name: name.into(),
            ..Piece::default()
        };
        let told = |pieces: Vec<Piece>| -> Vec<String> {
            let job = Job { pieces, ..Job::default() };
            unclear_names(&job).into_iter().map(|f| format!("{} {}", f.path, f.fault.message)).collect()
        };
        assert!(told(vec![piece("a", "P-1", "lid"), piece("b", "P-2", "")]).is_empty());
        let twice = told(vec![piece("a", "P-1", "lid"), piece("b", " p-1", "tray")]);
        assert!(
            twice.len() == 1 && twice[0].contains("P-1 lid") && twice[0].contains("p-1 tray"),
            "{twice:?}"
        );
        assert!(told(vec![piece("a", "P-1", ""), piece("a", "P-2", "")])[0].contains("the same id 'a'"));
        assert!(told(vec![piece("a", " ", "lid")])[0].contains("has no mark"));
        let long = told(vec![piece("a", "P-1", &"x".repeat(300_000))]);
        assert!(long.len() == 1 && long[0].len() < 200, "{}", long[0].len());
    }
}
