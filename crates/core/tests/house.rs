//! How the house is to stand: no rooms that know of one another in a ring, no files and no lines that are too
//! long, no choice that takes fields nobody knows.

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};

/// A file has one subject and fits in the head.
const LONGEST_FILE: usize = 450;

/// Letters of a line.
const LONGEST_LINE: usize = 110;

/// Files that may write a verb down: its own, its registration, and what it is made with.
const MOST_FILES_OF_A_VERB: usize = 4;

/// Verbs whose names are no everyday words of the code.
const RARE_VERBS: [&str; 14] = [
    "joggle",
    "hem",
    "louvre",
    "keyhole",
    "gusset",
    "ring_clamp",
    "bend_line",
    "rim_gussets",
    "rim_angles",
    "start_rolled",
    "start_cone",
    "notch_end",
    "round_end",
    "bore_plate",
];

fn files(folder: &Path, kinds: &[&str], out: &mut Vec<PathBuf>) {
    for entry in std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()) {
        let name = entry.file_name().unwrap_or_default().to_string_lossy().to_string();
        if entry.is_dir() && !["node_modules", "dist", "test-results"].contains(&name.as_str()) {
            files(&entry, kinds, out);
        } else if kinds.iter().any(|k| name.ends_with(k)) && name != "schema.d.ts" {
            out.push(entry);
        }
    }
}

/// All that is written by hand, tests too: its path from the project's root, and its text.
fn written() -> Vec<(String, String)> {
    let root = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../..");
    let mut all = Vec::new();
    for (folder, kinds) in
        [("crates", &[".rs", ".sql"][..]), ("web/src", &[".ts", ".tsx", ".css"]), ("e2e", &[".ts", ".mjs"])]
    {
        files(&root.join(folder), kinds, &mut all);
    }
    let of = |p: PathBuf| {
        let text = std::fs::read_to_string(&p).unwrap();
        (p.strip_prefix(&root).unwrap().to_string_lossy().replace('\\', "/"), text)
    };
    let mut out: Vec<(String, String)> = all.into_iter().map(of).collect();
    out.sort();
    out
}

/// The crates, from the ground up.
const CRATES: [&str; 13] = [
    "ground", "grammar", "shop", "layout", "trace", "sheet", "frame", "brief", "drawing", "core", "formats",
    "store", "server",
];

/// Every source of a crate: its path from `src`, and its text.
fn sources_of(name: &str) -> Vec<(String, String)> {
    let root = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("..").join(name).join("src");
    let mut all = Vec::new();
    files(&root, &[".rs"], &mut all);
    let of = |p: PathBuf| {
        (
            p.strip_prefix(&root).unwrap().to_string_lossy().replace('\\', "/"),
            std::fs::read_to_string(&p).unwrap(),
        )
    };
    let mut out: Vec<(String, String)> = all.into_iter().map(of).collect();
    out.sort();
    out
}

/// Every source: its path with its crate before it, and its text.
fn sources() -> Vec<(String, String)> {
    let named = |c: &'static str| sources_of(c).into_iter().map(move |(p, t)| (format!("{c}/{p}"), t));
    let mut out: Vec<(String, String)> = CRATES.into_iter().flat_map(named).collect();
    out.sort();
    out
}

fn room(path: &str) -> &str {
    path.split('/').next().unwrap().trim_end_matches(".rs")
}

/// Rooms that a room names.
fn named(of: &str) -> BTreeMap<String, BTreeSet<String>> {
    let all = sources_of(of);
    let rooms: BTreeSet<&str> = all.iter().map(|s| room(&s.0)).collect();
    let mut out: BTreeMap<String, BTreeSet<String>> = BTreeMap::new();
    for (path, text) in &all {
        for line in text.lines().filter(|l| !l.trim_start().starts_with("//")) {
            for (at, _) in line.match_indices("crate::") {
                let name: String =
                    line[at + 7..].chars().take_while(|c| c.is_alphanumeric() || *c == '_').collect();
                if rooms.contains(name.as_str()) && name != room(path) {
                    out.entry(room(path).into()).or_default().insert(name);
                }
            }
        }
    }
    out
}

#[test]
fn no_rooms_stand_in_a_ring() {
    let mut all = BTreeMap::new();
    for of in CRATES {
        for (room, to) in named(of) {
            let to: BTreeSet<String> = to.into_iter().map(|t| format!("{of}/{t}")).collect();
            all.insert(format!("{of}/{room}"), to);
        }
    }
    let named = all;
    let reached = |from: &str| {
        let (mut seen, mut left) = (BTreeSet::new(), vec![from.to_string()]);
        while let Some(next) = left.pop() {
            for other in named.get(&next).into_iter().flatten() {
                if seen.insert(other.clone()) {
                    left.push(other.clone());
                }
            }
        }
        seen
    };
    let ring: Vec<&str> = named.keys().map(String::as_str).filter(|r| reached(r).contains(*r)).collect();
    assert!(named.len() > 5, "{named:?}");
    assert!(ring.is_empty(), "{ring:?} know of rooms that know of them: {named:?}");
}

#[test]
fn files_are_not_too_long() {
    let all = sources();
    let long: Vec<&str> =
        all.iter().filter(|s| s.1.lines().count() > LONGEST_FILE).map(|s| s.0.as_str()).collect();
    assert!(long.is_empty(), "over {LONGEST_FILE} lines, split them: {long:?}");
}

#[test]
fn lines_are_not_too_long() {
    let all = written();
    assert!(all.iter().any(|f| f.0.ends_with(".css")) && all.iter().any(|f| f.0.starts_with("e2e/tests/")));
    let long: Vec<String> = all
        .iter()
        .flat_map(|(path, text)| text.lines().enumerate().map(move |(n, l)| (path, n + 1, l)))
        .filter(|(_, _, line)| line.chars().count() > LONGEST_LINE)
        .map(|(path, n, _)| format!("{path}:{n}"))
        .collect();
    assert!(long.is_empty(), "more than {LONGEST_LINE} letters, wrap them: {long:?}");
}

/// A new saying is one file: its name is written where it is told, where it is registered, and where it is
/// made.
#[test]
fn a_verb_is_written_in_few_files() {
    let all = written();
    let by_hand = |path: &str| {
        let of = path.split('/').nth(2) == Some("src") || path.starts_with("web/src/");
        of && !path.ends_with("/tests.rs") && !path.contains(".test.")
    };
    for verb in RARE_VERBS {
        let camel: String = verb.split('_').map(|w| w[..1].to_uppercase() + &w[1..]).collect();
        let words = |text: &str| {
            let code = text.split("#[cfg(test)]").next().unwrap_or_default();
            let mut all = code.split(|c: char| !c.is_alphanumeric() && c != '_');
            all.any(|w| w == verb || w == camel)
        };
        let found: Vec<&str> =
            all.iter().filter(|f| by_hand(&f.0) && words(&f.1)).map(|f| f.0.as_str()).collect();
        assert!(!found.is_empty(), "{verb} is no verb");
        assert!(found.len() <= MOST_FILES_OF_A_VERB, "{verb}: {found:?}");
    }
}

/// serde takes unknown fields beside a case without braces in silence.
#[test]
fn choices_know_all_of_their_fields() {
    let mut seen = 0;
    for (path, text) in sources() {
        for body in text.split("choice! {").skip(1).filter_map(|s| s.split("\n}\n").next()) {
            seen += 1;
            let bare = |l: &&str| {
                let case = l.trim().trim_end_matches(',');
                l.starts_with("        ")
                    && !l.starts_with("         ")
                    && case.chars().all(char::is_alphanumeric)
            };
            let found: Vec<&str> = body.lines().filter(bare).collect();
            assert!(found.is_empty(), "{path}: {found:?}");
        }
    }
    assert!(seen > 10, "{seen}");
}

/// The schema knows a type by its name alone: what lines are told as has a name of its own.
#[test]
fn types_of_lines_have_names_of_their_own() {
    let mut known: BTreeMap<String, String> = BTreeMap::new();
    for (path, text) in sources() {
        let named = |l: &str| {
            let told = l.strip_prefix("    pub enum ").or_else(|| l.strip_prefix("    pub struct "))?;
            told.split(|c: char| !c.is_alphanumeric()).next().map(String::from)
        };
        for name in text.lines().filter_map(named) {
            if let Some(other) = known.insert(name.clone(), path.clone()) {
                panic!("{name} is the name of a type of {other} and of {path}");
            }
        }
    }
    assert!(known.len() > 100, "{}", known.len());
}
